"""Shells: hollow casts built up in coats, what a coat covers, and the foam that fills what the shell leaves."""

from dataclasses import dataclass
from fractions import Fraction
from math import ceil, pi

from ufrin.errors import Refused
from ufrin.language import Text

START_SHARE = 0.25  # of the cavity, where its surface is not known; common practice
MOST_COATS = 1000


def shell_mass_g(area_cm2: float, thickness_mm: float, sg: float) -> float:
    """Return what a thin shell weighs.

    Parameters
    ----------
    area_cm2, thickness_mm : float
        Of the surface that is coated, and of the shell.
    sg : float
        Of the mix.

    Returns
    -------
    float
        Area x thickness x SG (1 cm2 x 1 mm is 0.1 ml), in g: too much for a closed round cavity by about the thickness
        over the radius (common practice).

    Raises
    ------
    Refused
        For no surface or no thickness.

    Examples
    --------
    >>> round(shell_mass_g(340, 3, 1.05), 1)
    107.1
    """
    if not area_cm2 > 0:
        raise Refused("cavity_area_cm2", Text("How large is the surface that is coated?"))
    if not thickness_mm > 0:
        raise Refused("thickness_mm", Text("How thick is the shell to be? [3 length] to [5 length] is usual."))
    return area_cm2 * thickness_mm / 10 * sg


def hollow_ball_ml(outer_mm: float, wall_mm: float) -> float:
    """Return the volume of the wall of a hollow ball, exactly: pi/6 (D^3 - (D - 2t)^3).

    Parameters
    ----------
    outer_mm, wall_mm : float
        Outer diameter, and thickness of the wall.

    Returns
    -------
    float
        In ml.

    Raises
    ------
    Refused
        For a wall thicker than the ball.
    """
    if not 0 < wall_mm <= outer_mm / 2:
        raise Refused("thickness_mm", Text("A wall thicker than half the ball leaves nothing hollow. Cast it solid."))
    return pi / 6 * (outer_mm**3 - (outer_mm - 2 * wall_mm) ** 3) / 1000


def ball_area_cm2(outer_mm: float) -> float:
    """Return the surface of a ball.

    Parameters
    ----------
    outer_mm : float
        Its diameter.

    Returns
    -------
    float
        In cm2.
    """
    return pi * outer_mm**2 / 100


@dataclass(frozen=True, slots=True, kw_only=True)
class ShellCoats:
    """The fewest whole coats that reach a thickness, and what they reach in mm."""

    number: int
    reached_mm: float


def shell_coats(thickness_mm: float, coat_mm: float) -> ShellCoats:
    """Return the fewest whole coats that reach a thickness.

    Parameters
    ----------
    thickness_mm, coat_mm : float
        Wanted, and of one coat.

    Returns
    -------
    ShellCoats
        Exact in decimals, as they are typed: 2.1 in coats of 0.7 is 3, not 4 as binary fractions make it.

    Raises
    ------
    Refused
        For coats of nothing, or too many.

    Examples
    --------
    >>> shell_coats(2.1, 0.7)
    ShellCoats(number=3, reached_mm=2.1)
    """
    if not coat_mm > 0 or not thickness_mm > 0:
        raise Refused(
            "coat_mm", Text("A coat is more than nothing thick; [0.5 length] to [1.5 length] stays where it is rolled.")
        )
    coat = Fraction(str(coat_mm))
    number = ceil(Fraction(str(thickness_mm)) / coat)
    if number > MOST_COATS:
        raise Refused("coat_mm", Text("That would be {number} coats. Check the thickness of one coat.", number=number))
    return ShellCoats(number=number, reached_mm=float(number * coat))


def covered_cm2(mass_g: float, sg: float, coat_mm: float) -> float:
    """Return the surface that an amount covers.

    Parameters
    ----------
    mass_g, sg, coat_mm : float
        The amount, its SG, and the thickness of the coat.

    Returns
    -------
    float
        Mass / SG / thickness, in cm2.

    Raises
    ------
    Refused
        For a coat of no thickness.
    """
    if not coat_mm > 0:
        raise Refused("coat_mm", Text("A coat is more than nothing thick."))
    return mass_g / sg / coat_mm * 10


@dataclass(frozen=True, slots=True, kw_only=True)
class FoamBack:
    """The foam behind a shell: the room that the shell leaves, in ml, and the liquid mix that fills it, in g."""

    remaining_ml: float
    foam_mix_g: float


def foam_back(
    *, cavity_ml: float, shell_g: float, shell_sg: float, expansion: float, foam_liquid_sg: float
) -> FoamBack:
    """Return the foam that fills what a shell leaves.

    Parameters
    ----------
    cavity_ml : float
        Of the cavity.
    shell_g, shell_sg : float
        Of the shell that is in it.
    expansion : float
        How many times its volume the foam rises to, unhindered.
    foam_liquid_sg : float
        Of the mixed liquid, before it rises.

    Returns
    -------
    FoamBack
        Remaining room / expansion x SG of the liquid; nothing is packed in beyond it (common practice).

    Raises
    ------
    Refused
        For a shell larger than its cavity, and foam that does not rise.
    """
    if not expansion > 1:
        raise Refused(
            "expansion", Text("Foam must rise to more than its own volume. 9 to 10 times is usual for a rigid one.")
        )
    remaining_ml = cavity_ml - shell_g / shell_sg
    if not remaining_ml > 0:
        raise Refused(
            "shell_mass_g",
            Text(
                "The shell takes up the whole cavity, so no room is left for foam. Make it thinner, or cast it solid."
            ),
        )
    return FoamBack(remaining_ml=remaining_ml, foam_mix_g=remaining_ml / expansion * foam_liquid_sg)
