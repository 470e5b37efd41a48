"""Bubbles: how fast one rises in a liquid, and the smallest that leaves it in time.

The module also tells how a bubble grows and shrinks with pressure.

Stokes (1851), for a bubble whose surface is immobile through impurities, is the slow bound; Hadamard and Rybczynski
(both 1911), for a clean, mobile surface, the fast one, half as fast again. Both hold for creeping flow of a single
bubble in a still liquid, far from walls. A rubber that thickens towards its pot life does worse. Boyle: pressure
times volume is constant; gas that dissolves is left out.
"""

from math import sqrt
from typing import Literal

from ufrin.core.degassing.air_pressure import HPA_PER_KPA, SEA_LEVEL_HPA
from ufrin.core.measures.constants import STANDARD_GRAVITY_M_PER_S2
from ufrin.errors import Refused
from ufrin.language import Text

ATMOSPHERE_KPA = SEA_LEVEL_HPA / HPA_PER_KPA
GAS_SG, GAS_MPA_S = 0.0012, 0.018  # air at room temperature, from memory
Surface = Literal["dirty", "clean"]


def rise_mm_per_min(diameter_mm: float, viscosity_mpa_s: float, sg: float, surface: Surface = "dirty") -> float:
    """Return the speed at which a bubble rises.

    Parameters
    ----------
    diameter_mm : float
        Of the bubble.
    viscosity_mpa_s, sg : float
        Of the liquid.
    surface : "dirty" or "clean", optional
        Stokes, the slow bound; or Hadamard and Rybczynski, the fast one.

    Returns
    -------
    float
        In mm per minute.

    Examples
    --------
    >>> round(rise_mm_per_min(1.0, 20_000, 1.08), 2)
    1.76
    """
    _check(viscosity_mpa_s=viscosity_mpa_s, sg=sg, diameter_mm=diameter_mm)
    # kg/m3, m/s2 and m2 over Pa s give m/s; mm and mPa s contribute 1e-6 / 1e-3, and 60 000 turns m/s into mm/min
    stokes = (
        (sg - GAS_SG)
        * 1000
        * STANDARD_GRAVITY_M_PER_S2
        * (diameter_mm * 1e-3) ** 2
        / (18 * viscosity_mpa_s * 1e-3)
        * 60_000
    )
    return stokes * (_mobility(viscosity_mpa_s) if surface == "clean" else 1.0)


def _mobility(viscosity_mpa_s: float) -> float:
    return 3 * (viscosity_mpa_s + GAS_MPA_S) / (2 * viscosity_mpa_s + 3 * GAS_MPA_S)


def smallest_mm(
    depth_mm: float, time_min: float, viscosity_mpa_s: float, sg: float, surface: Surface = "dirty"
) -> float:
    """Return the smallest bubble that rises out of a depth in a time.

    Parameters
    ----------
    depth_mm, time_min : float
        The distance to rise, and the time for which the liquid stays liquid.
    viscosity_mpa_s, sg : float
        Of the liquid.
    surface : "dirty" or "clean", optional
        As for ``rise_mm_per_min``.

    Returns
    -------
    float
        Its diameter in mm; smaller ones stay.
    """
    _check(depth_mm=depth_mm, time_min=time_min)
    return sqrt(depth_mm / time_min / rise_mm_per_min(1.0, viscosity_mpa_s, sg, surface))


def _check(**values: float) -> None:
    for name, value in values.items():
        if not value > 0 or value == float("inf"):
            raise Refused(
                name, Text("This must be more than 0. Enter what you measured, or the figure from the data sheet.")
            )
    if values.get("sg", 1.0) <= GAS_SG:
        raise Refused(
            "sg", Text("No liquid is lighter than air. The specific gravity is on the data sheet, mostly near 1.1.")
        )


def volume_ratio(from_kpa: float, to_kpa: float, *, depth_mm: float = 0.0, sg: float = 1.0) -> float:
    """Return how many times its volume a bubble takes when the pressure over the liquid changes.

    Parameters
    ----------
    from_kpa, to_kpa : float
        Absolute, over the liquid, before and after.
    depth_mm, sg : float, optional
        How deep the bubble lies, and in which liquid, whose own pressure counts too.

    Returns
    -------
    float
        Over 1 under vacuum, under 1 in a pressure pot.

    Examples
    --------
    >>> round(volume_ratio(ATMOSPHERE_KPA, 3.0), 1)
    33.8
    """
    _check(from_kpa=from_kpa, to_kpa=to_kpa)
    head_kpa = sg * STANDARD_GRAVITY_M_PER_S2 * depth_mm * 1e-3
    return (from_kpa + head_kpa) / (to_kpa + head_kpa)


def diameter_ratio(ratio: float) -> float:
    """Return how many times its diameter a bubble has when its volume changes.

    Parameters
    ----------
    ratio : float
        Of the volumes.

    Returns
    -------
    float
        Its cube root.
    """
    return float(ratio ** (1 / 3))


def pot_ratio(gauge_kpa: float, air_kpa: float = ATMOSPHERE_KPA) -> float:
    """Return what is left of a bubble's volume in a pressure pot.

    Parameters
    ----------
    gauge_kpa : float
        As its gauge shows, over the air.
    air_kpa : float, optional
        Of the air in the workshop.

    Returns
    -------
    float
        Between 0 and 1.

    Raises
    ------
    Refused
        For a pressure below the atmosphere's.
    """
    if not 0 <= gauge_kpa < float("inf"):
        raise Refused(
            "pressure_psi_gauge",
            Text("A pressure pot's gauge shows nothing or more. Type what it reads, such as 40 psi."),
        )
    return volume_ratio(air_kpa, air_kpa + gauge_kpa)


def absolute_kpa(gauge_kpa: float, air_kpa: float = ATMOSPHERE_KPA) -> float:
    """Turn what a vacuum gauge shows below the air into the absolute pressure that is left.

    Parameters
    ----------
    gauge_kpa : float
        Below the air.
    air_kpa : float, optional
        Of the air in the workshop.

    Returns
    -------
    float
        In kPa. Near full vacuum the reading depends strongly on the gauge and on the weather.

    Raises
    ------
    Refused
        When that is more than the pressure of the air.
    """
    left = air_kpa - gauge_kpa
    if not 0 < left < air_kpa:
        raise Refused(
            "vacuum_gauge_kpa",
            Text(
                "A vacuum gauge shows more than 0, and less than the [{air_kpa:.3f} pressure] that the air has here.",
                air_kpa=air_kpa,
            ),
        )
    return left
