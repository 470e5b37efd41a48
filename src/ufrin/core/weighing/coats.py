"""Coats: a skin brushed on in layers, the first thin for the detail, the others thickened for slopes."""

from dataclasses import dataclass

from ufrin.core.inputs.usual import USUAL
from ufrin.errors import Refused
from ufrin.language import Text

FIRST_COAT_MM = USUAL["skin"]["first_coat_mm"]
MOST_COATS = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class Coat:
    """One coat.

    Parameters
    ----------
    number : int
        From 1.
    volume_ml : float
        That it takes.
    is_thickened : bool
        All but the first.
    """

    number: int
    volume_ml: float
    is_thickened: bool


def coats(*, area_cm2: float, number: int, coat_mm: float, first_mm: float = FIRST_COAT_MM) -> tuple[Coat, ...]:
    """Plan the coats of a skin.

    Parameters
    ----------
    area_cm2 : float
        Of what is coated.
    number : int
        Of coats, the first included.
    coat_mm, first_mm : float
        Thickness of each coat after the first, and of the first.

    Returns
    -------
    tuple of Coat
        From the first.

    Raises
    ------
    Refused
        For no area, no coats, or too many.

    Examples
    --------
    >>> [coat.volume_ml for coat in coats(area_cm2=200, number=3, coat_mm=2)]
    [10.0, 40.0, 40.0]
    """
    if not 0 < area_cm2 <= 1e6:
        raise Refused(
            "coat_area_cm2",
            Text("How large is the surface that is brushed? Type it, or give the master a mesh or a size."),
        )
    if not 1 <= number <= MOST_COATS:
        raise Refused("coats", Text("A skin has 1 to {most_coats} coats; 3 or 4 are usual.", most_coats=MOST_COATS))
    if not 0 < coat_mm <= 50 or not 0 < first_mm <= 50:
        raise Refused(
            "coat_mm",
            Text("A coat is more than nothing thick; [1 length] to [3 length] stays on a slope when thickened."),
        )
    return tuple(
        Coat(
            number=index + 1, volume_ml=area_cm2 * 100 * (coat_mm if index else first_mm) / 1000, is_thickened=index > 0
        )
        for index in range(number)
    )


def skin_mm(number: int, coat_mm: float) -> float:
    """Return the thickness of a skin.

    Parameters
    ----------
    number : int
        Of coats, the first included.
    coat_mm : float
        Thickness of each coat after the first.

    Returns
    -------
    float
        Of all coats together.
    """
    return FIRST_COAT_MM + max(0, number - 1) * coat_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class RecoatWindow:
    """When the next coat goes on, in min after A met B of the one before: not before it holds, and while it bonds."""

    from_min: float
    until_min: float | None


def recoat_window(pot_life_min: float | None, demould_min: float | None) -> RecoatWindow | None:
    """Return the window in which the next coat goes on.

    Parameters
    ----------
    pot_life_min, demould_min : float or None
        At the room's temperature.

    Returns
    -------
    RecoatWindow or None
        From the end of the pot life, when the coat no longer runs, to a share of the time to demould, while it is
        still tacky (common practice); None where the tin states no pot life.
    """
    if pot_life_min is None:
        return None
    until_min = demould_min * USUAL["skin"]["tacky_share"] if demould_min is not None else None
    return RecoatWindow(from_min=pot_life_min, until_min=max(pot_life_min, until_min) if until_min else None)
