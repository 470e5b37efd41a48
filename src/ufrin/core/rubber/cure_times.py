"""Cure times: what the temperature of the room does to pot life, demould time and cure."""

from math import exp, log

from ufrin.errors import Refused

Q10 = 2.0  # common practice: roughly half the time for each 10 degC more
TIN_TEMP_C = 23.0  # the reference temperature of data sheets
COLDEST_C, HOTTEST_C = 0.0, 50.0
GAS_J_PER_MOL_K, KELVIN = 8.314462618, 273.15


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
            "That is no room to pour in: [0 temperature] to [50 temperature] is what this is good for. "
            "Check the thermometer.",
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


def time_by_arrhenius(
    reference_min: float, temp_c: float, activation_energy_kj_per_mol: float, *, reference_temp_c: float = TIN_TEMP_C
) -> float:
    """Shift a time by Arrhenius's law: t = t_ref exp((Ea / R) (1/T - 1/T_ref)), in kelvin.

    Parameters
    ----------
    reference_min : float
        At the reference temperature, as the tin states.
    temp_c : float
        Of the room.
    activation_energy_kj_per_mol : float
        The rubber's own, from its maker or from trials.
    reference_temp_c : float
        Of the tin's figure.

    Returns
    -------
    float
        In min.
    """
    return reference_min * exp(
        activation_energy_kj_per_mol
        * 1000
        / GAS_J_PER_MOL_K
        * (1 / (temp_c + KELVIN) - 1 / (reference_temp_c + KELVIN))
    )


def activation_energy_kj_per_mol(q10: float, lower_temp_c: float) -> float:
    """Return the activation energy whose Arrhenius factor over the 10 K above a temperature is a given Q10.

    Parameters
    ----------
    q10, lower_temp_c : float
        The factor, and the lower temperature.

    Returns
    -------
    float
        In kJ/mol: Ea = R ln(Q10) / (1/T1 - 1/T2).
    """
    first = lower_temp_c + KELVIN
    return GAS_J_PER_MOL_K * log(q10) / (1 / first - 1 / (first + 10)) / 1000
