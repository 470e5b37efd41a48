"""Volumes of the plain shapes of boxes, cups and masters: elementary solid geometry, sizes in mm, volumes in ml."""

from math import pi, sqrt

from ufrin.errors import Refused
from ufrin.language import Text


def check_sizes(**sizes_mm: float) -> None:
    """Refuse sizes that are not positive."""
    for name, size in sizes_mm.items():
        if not size > 0:
            raise Refused(name, Text("A size must be more than nothing."))


def block_ml(length_mm: float, width_mm: float, height_mm: float) -> float:
    """Return the volume of a rectangular block.

    Parameters
    ----------
    length_mm, width_mm, height_mm : float
        Its edges.

    Returns
    -------
    float
        V = l w h, in ml.

    Raises
    ------
    Refused
        For a size that is not positive.
    """
    check_sizes(length_mm=length_mm, width_mm=width_mm, height_mm=height_mm)
    return length_mm * width_mm * height_mm / 1000


def block_side_cm2(length_mm: float, width_mm: float, height_mm: float) -> float:
    """Return the surface of a rectangular block that stands on a board: its top and four sides.

    Parameters
    ----------
    length_mm, width_mm, height_mm : float
        Its edges.

    Returns
    -------
    float
        A = l w + 2 h (l + w), in cm2.

    Examples
    --------
    >>> block_side_cm2(100, 50, 20)
    110.0
    """
    check_sizes(length_mm=length_mm, width_mm=width_mm, height_mm=height_mm)
    return (length_mm * width_mm + 2 * height_mm * (length_mm + width_mm)) / 100


def drum_ml(diameter_mm: float, height_mm: float) -> float:
    """Return the volume of an upright drum, V = pi d^2 h / 4.

    Parameters
    ----------
    diameter_mm, height_mm : float
        Its size.

    Returns
    -------
    float
        In ml.

    Raises
    ------
    Refused
        For a size that is not positive.
    """
    check_sizes(diameter_mm=diameter_mm, height_mm=height_mm)
    return pi * diameter_mm**2 * height_mm / 4000


def frustum_ml(bottom_diameter_mm: float, top_diameter_mm: float, height_mm: float) -> float:
    """Return the volume of a tapered pot or cup, V = pi h (d0^2 + d0 d1 + d1^2) / 12.

    Parameters
    ----------
    bottom_diameter_mm, top_diameter_mm : float
        Inside diameters; either may be 0 (a cone).
    height_mm : float
        Between the two.

    Returns
    -------
    float
        In ml.

    Raises
    ------
    Refused
        For a height that is not positive or a negative diameter.
    """
    check_sizes(height_mm=height_mm)
    if not (bottom_diameter_mm >= 0 and top_diameter_mm >= 0):
        raise Refused("bottom_diameter_mm", Text("A diameter can't be less than nothing."))
    return pi * height_mm * (bottom_diameter_mm**2 + bottom_diameter_mm * top_diameter_mm + top_diameter_mm**2) / 12_000


def cup_level_mm(bottom_diameter_mm: float, top_diameter_mm: float, cup_height_mm: float, volume_ml: float) -> float:
    """Return the height to which a volume fills a straight or tapered cup, by inverting the frustum's formula.

    Parameters
    ----------
    bottom_diameter_mm, top_diameter_mm, cup_height_mm : float
        The cup's inside.
    volume_ml : float
        What is poured in.

    Returns
    -------
    float
        Above the bottom, in mm; beyond the cup's height when it would run over.

    Raises
    ------
    Refused
        For a size that is not positive, or a cup that closes before it holds that much.
    """
    check_sizes(bottom_diameter_mm=bottom_diameter_mm, top_diameter_mm=top_diameter_mm, cup_height_mm=cup_height_mm)
    radius, slope = bottom_diameter_mm / 2, (top_diameter_mm - bottom_diameter_mm) / 2 / cup_height_mm
    volume_mm3 = volume_ml * 1000
    if abs(slope) < 1e-9:
        return volume_mm3 / (pi * radius**2)
    cube = radius**3 + 3 * slope * volume_mm3 / pi
    if cube < 0:
        raise Refused("volume_ml", Text("The cup closes before it holds that much."))
    return float((cube ** (1 / 3) - radius) / slope)


def diagonal_mm(length_mm: float, width_mm: float) -> float:
    """Return the smallest circle's diameter round a rectangle.

    Parameters
    ----------
    length_mm, width_mm : float
        Its sides.

    Returns
    -------
    float
        In mm.
    """
    return sqrt(length_mm**2 + width_mm**2)
