"""Volumes of plain solids that no box, cup or stand-in has."""

from math import pi, tan

from ufrin.core.measures.plain_volumes import block_ml, check_sizes
from ufrin.errors import Refused
from ufrin.language import Text


def cap_ml(sphere_diameter_mm: float, cap_height_mm: float) -> float:
    """Return the volume of a cap cut from a ball, V = pi h^2 (3R - h) / 3.

    Parameters
    ----------
    sphere_diameter_mm, cap_height_mm : float
        The ball, and how much of its height the cap keeps.

    Returns
    -------
    float
        In ml.

    Raises
    ------
    Refused
        For a size that is not positive, or a cap higher than its ball.
    """
    check_sizes(sphere_diameter_mm=sphere_diameter_mm, cap_height_mm=cap_height_mm)
    if cap_height_mm > sphere_diameter_mm:
        raise Refused("cap_height_mm", Text("A cap can't be higher than the ball it is cut from."))
    return pi * cap_height_mm**2 * (1.5 * sphere_diameter_mm - cap_height_mm) / 3000


def dome_ml(base_diameter_mm: float, cap_height_mm: float) -> float:
    """Return the volume of a dome from its base, V = pi h (3 a^2 + h^2) / 6.

    Parameters
    ----------
    base_diameter_mm, cap_height_mm : float
        Its foot and its height.

    Returns
    -------
    float
        In ml.

    Raises
    ------
    Refused
        For a size that is not positive.
    """
    check_sizes(base_diameter_mm=base_diameter_mm, cap_height_mm=cap_height_mm)
    return pi * cap_height_mm * (0.75 * base_diameter_mm**2 + cap_height_mm**2) / 6000


def ring_ml(centreline_diameter_mm: float, tube_diameter_mm: float) -> float:
    """Return the volume of a ring, V = 2 pi^2 R r^2.

    Parameters
    ----------
    centreline_diameter_mm, tube_diameter_mm : float
        Outer diameter less the tube's, and the tube's.

    Returns
    -------
    float
        In ml.

    Raises
    ------
    Refused
        For a size that is not positive.
    """
    check_sizes(centreline_diameter_mm=centreline_diameter_mm, tube_diameter_mm=tube_diameter_mm)
    return pi**2 * centreline_diameter_mm * tube_diameter_mm**2 / 4000


def ellipsoid_ml(length_mm: float, width_mm: float, height_mm: float) -> float:
    """Return the volume of an egg with three axes, V = pi l w h / 6.

    Parameters
    ----------
    length_mm, width_mm, height_mm : float
        Its full axes.

    Returns
    -------
    float
        In ml.

    Raises
    ------
    Refused
        For a size that is not positive.
    """
    return block_ml(length_mm, width_mm, height_mm) * pi / 6


def polygon_prism_ml(sides: int, side_length_mm: float, height_mm: float) -> float:
    """Return the volume of an upright regular prism, V = n s^2 h / (4 tan(pi/n)).

    Parameters
    ----------
    sides : int
        Three or more.
    side_length_mm, height_mm : float
        Its size.

    Returns
    -------
    float
        In ml.

    Raises
    ------
    Refused
        For fewer than three sides or a size that is not positive.
    """
    if sides < 3:
        raise Refused("sides", Text("A prism has three sides or more."))
    check_sizes(side_length_mm=side_length_mm, height_mm=height_mm)
    return sides * side_length_mm**2 * height_mm / (4 * tan(pi / sides)) / 1000


def flats_to_side_mm(sides: int, across_flats_mm: float) -> float:
    """Return the side of a regular polygon from the distance across its flats, s = f tan(pi/n).

    It holds for an even number of sides.

    Parameters
    ----------
    sides : int
        Four, six, eight ...
    across_flats_mm : float
        Between opposite sides.

    Returns
    -------
    float
        One side, in mm.

    Raises
    ------
    Refused
        For an odd number of sides or a size that is not positive.
    """
    if sides < 4 or sides % 2:
        raise Refused("sides", Text("Only an even number of sides has opposite flats."))
    check_sizes(across_flats_mm=across_flats_mm)
    return across_flats_mm * tan(pi / sides)
