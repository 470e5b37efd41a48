"""Volumes of the plain shapes of boxes, cups and masters: elementary solid geometry, sizes in mm, volumes in ml."""

from math import pi, sqrt, tan

from ufrin.errors import Refused


def _checked(**sizes_mm: float) -> None:
    for name, size in sizes_mm.items():
        if not size > 0:
            raise Refused(name, "A size must be more than nothing.")


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
    _checked(length_mm=length_mm, width_mm=width_mm, height_mm=height_mm)
    return length_mm * width_mm * height_mm / 1000


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
    _checked(diameter_mm=diameter_mm, height_mm=height_mm)
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
    _checked(height_mm=height_mm)
    if not (bottom_diameter_mm >= 0 and top_diameter_mm >= 0):
        raise Refused("bottom_diameter_mm", "A diameter can't be less than nothing.")
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
    _checked(bottom_diameter_mm=bottom_diameter_mm, top_diameter_mm=top_diameter_mm, cup_height_mm=cup_height_mm)
    radius, slope = bottom_diameter_mm / 2, (top_diameter_mm - bottom_diameter_mm) / 2 / cup_height_mm
    volume_mm3 = volume_ml * 1000
    if abs(slope) < 1e-9:
        return volume_mm3 / (pi * radius**2)
    cube = radius**3 + 3 * slope * volume_mm3 / pi
    if cube < 0:
        raise Refused("volume_ml", "The cup closes before it holds that much.")
    return float((cube ** (1 / 3) - radius) / slope)


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
    _checked(sphere_diameter_mm=sphere_diameter_mm, cap_height_mm=cap_height_mm)
    if cap_height_mm > sphere_diameter_mm:
        raise Refused("cap_height_mm", "A cap can't be higher than the ball it is cut from.")
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
    _checked(base_diameter_mm=base_diameter_mm, cap_height_mm=cap_height_mm)
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
    _checked(centreline_diameter_mm=centreline_diameter_mm, tube_diameter_mm=tube_diameter_mm)
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
        raise Refused("sides", "A prism has three sides or more.")
    _checked(side_length_mm=side_length_mm, height_mm=height_mm)
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
        raise Refused("sides", "Only an even number of sides has opposite flats.")
    _checked(across_flats_mm=across_flats_mm)
    return across_flats_mm * tan(pi / sides)


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
