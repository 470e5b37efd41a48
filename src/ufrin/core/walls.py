"""Walls: what the liquid rubber presses on them with."""

from dataclasses import dataclass

from ufrin.errors import Refused

GRAVITY_M_PER_S2 = 9.80665  # standard gravity, CGPM 1901


@dataclass(frozen=True, slots=True, kw_only=True)
class WallLoad:
    """The load on one wall.

    Parameters
    ----------
    base_kpa, mean_kpa : float
        Pressure at the foot, and over the wetted height.
    force_n, force_height_mm : float
        The whole push, and how far above the foot it acts.
    """

    base_kpa: float
    mean_kpa: float
    force_n: float
    force_height_mm: float


def wall_load(*, depth_mm: float, wall_length_mm: float, sg: float) -> WallLoad:
    """Work out the load of a liquid on an upright wall: p = rho g h, F = rho g w h^2 / 2, at h / 3.

    Parameters
    ----------
    depth_mm : float
        Of the liquid.
    wall_length_mm : float
        Wetted length.
    sg : float
        Of the liquid, g/ml.

    Returns
    -------
    WallLoad
        Pressure and force.

    Raises
    ------
    Refused
        For a negative depth or an SG that is not positive.
    """
    if not depth_mm >= 0:
        raise Refused("depth_mm", "A depth can't be less than nothing.")
    if not sg > 0:
        raise Refused("rubber_sg", "The specific gravity must be more than nothing.")
    base_kpa = sg * GRAVITY_M_PER_S2 * depth_mm / 1000
    force_n = base_kpa / 2 * depth_mm * wall_length_mm / 1000
    return WallLoad(base_kpa=base_kpa, mean_kpa=base_kpa / 2, force_n=force_n, force_height_mm=depth_mm / 3)


def lift_gf(*, displaced_ml: float, mass_g: float, sg: float) -> float:
    """Work out the upward pull on something wholly under a liquid that gets beneath it (Archimedes).

    Parameters
    ----------
    displaced_ml, mass_g : float
        Its volume in the liquid and its weight.
    sg : float
        Of the liquid, g/ml.

    Returns
    -------
    float
        In grams-force; negative when it sinks.
    """
    return sg * displaced_ml - mass_g
