"""Cure times: what the temperature of the room does to pot life, demould time and cure."""

from ufrin.errors import Refused
from ufrin.language import Text

Q10 = 2.0  # common practice: roughly half the time for each 10 degC more
TIN_TEMP_C = 23.0  # the reference temperature of data sheets
COLDEST_C, HOTTEST_C = 0.0, 50.0


def check_room(temp_c: float) -> None:
    """Refuse a temperature that no workshop has.

    Parameters
    ----------
    temp_c : float
        Of the room.

    Raises
    ------
    Refused
        Below 0 or above 50 degC.
    """
    if not COLDEST_C <= temp_c <= HOTTEST_C:
        raise Refused(
            "room_temp_c",
            Text(
                "That is no room to pour in: [0 temperature] to [50 temperature] is what this is good "
                "for. Check the thermometer."
            ),
        )


def time_at(reference_min: float, temp_c: float, *, reference_temp_c: float = TIN_TEMP_C, q10: float = Q10) -> float:
    """Shift a time for the temperature: t = t_ref Q10^(-(T - T_ref) / 10).

    Parameters
    ----------
    reference_min : float
        At the reference temperature, as the tin states.
    temp_c, reference_temp_c : float
        Of the room, and of the tin's figure.
    q10 : float, optional
        How many times faster for 10 degC more (common practice; for pot life and cure alike).

    Returns
    -------
    float
        In min.

    Examples
    --------
    >>> time_at(45, 33)
    22.5
    """
    return float(reference_min * q10 ** (-(temp_c - reference_temp_c) / 10))
