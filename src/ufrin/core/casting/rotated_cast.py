"""Casts rotated by hand: what the shell is to weigh, from a piece whose weight is known."""

from ufrin.errors import Refused
from ufrin.language import Text


def mass_by_known_piece(known_g: float, known_cm2: float, area_cm2: float) -> float:
    """Return what a shell weighs, from a piece whose weight is known.

    Parameters
    ----------
    known_g, known_cm2 : float
        Of the known piece: its weight and its surface.
    area_cm2 : float
        Of this one.

    Returns
    -------
    float
        By the ratio of the surfaces, for a shell of the same thickness and material.

    Raises
    ------
    Refused
        For a known piece of nothing.
    """
    if not known_g > 0 or not known_cm2 > 0 or not area_cm2 > 0:
        raise Refused("known_g", Text("The weight and the surface of the known piece must be more than nothing."))
    return known_g * area_cm2 / known_cm2
