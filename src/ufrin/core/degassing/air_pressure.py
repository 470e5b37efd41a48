"""The pressure of the air where the workshop stands: what a vacuum takes away and what a pressure pot adds to."""

from ufrin.errors import Refused
from ufrin.language import Text

SEA_LEVEL_HPA = 1013.25
HPA_PER_KPA = 10.0
LOWEST_M, HIGHEST_M = -500.0, 5500.0
LEAST_HPA, MOST_HPA = 500.0, 1100.0


def standard_air_hpa(height_m: float) -> float:
    """Return the usual pressure of the air at a height.

    Parameters
    ----------
    height_m : float
        Above the sea.

    Returns
    -------
    float
        In hPa; the weather moves it by some 3 % either way.

    Raises
    ------
    Refused
        For a height at which nobody works.

    Notes
    -----
    p = 1013.25 hPa (1 - 0.0065 h / 288.15)^5.25588, the standard atmosphere below 11 km (ISO 2533:1975).

    Examples
    --------
    >>> round(standard_air_hpa(1500), 1)
    845.6
    """
    if not LOWEST_M <= height_m <= HIGHEST_M:
        raise Refused(
            "height_m", Text("Workshops stand between 500 m below and 5500 m above the sea. Check the height.")
        )
    return float(SEA_LEVEL_HPA * (1 - 0.0065 * height_m / 288.15) ** 5.25588)


def local_air_kpa(air_pressure_hpa: float | None, height_m: float | None) -> float:
    """Return the pressure of the air in a workshop.

    Parameters
    ----------
    air_pressure_hpa : float or None
        As a barometer in the workshop shows it; it takes precedence.
    height_m : float or None
        Above the sea.

    Returns
    -------
    float
        In kPa; that of the sea's level where neither is known.

    Raises
    ------
    Refused
        For a pressure that no barometer shows on the ground.
    """
    if air_pressure_hpa is None:
        return (SEA_LEVEL_HPA if height_m is None else standard_air_hpa(height_m)) / HPA_PER_KPA
    if not LEAST_HPA <= air_pressure_hpa <= MOST_HPA:
        raise Refused("air_pressure_hpa", Text("A barometer on the ground shows 500 to 1100 hPa. Read it again."))
    return air_pressure_hpa / HPA_PER_KPA
