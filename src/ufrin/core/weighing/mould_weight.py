"""The weight of a mould that is rotated by hand: it tells how thick the shell is by now, and what is still to go."""

from dataclasses import dataclass, replace
from math import ceil

from ufrin.core.weighing.weigh_plan import Ingredient, WeighPlan
from ufrin.errors import Refused
from ufrin.language import Text

EXACT = 1e-9
FULL_TO = 0.02  # as well as a cavity is known (common practice)
ENOUGH = 0.03  # of the aim: so little is missing that no other coat is worth mixing (common practice)


@dataclass(frozen=True, slots=True, kw_only=True)
class Rotation:
    """Where a rotated cast stands.

    Parameters
    ----------
    in_mould_g : float
        What is in the mould.
    thickness_mm : float
        Of the shell so far, on average.
    to_go_g : float
        Still to put in; 0 when the aim is reached.
    coats_to_go : int
        Coats that this takes; 0 also where hardly anything is missing.
    aim_g : float
        Weight of the mould when it is done.
    """

    in_mould_g: float
    thickness_mm: float
    to_go_g: float
    coats_to_go: int
    aim_g: float


def rotation(
    *,
    mould_g: float,
    now_g: float,
    target_g: float,
    area_cm2: float,
    sg: float,
    coat_mm: float,
    most_g: float | None = None,
) -> Rotation:
    """Return where a rotated cast stands, from the weight of its mould.

    Parameters
    ----------
    mould_g, now_g : float
        The mould empty, and now.
    target_g : float
        Of the finished shell.
    area_cm2, sg : float
        Surface of the cavity, and SG of the mix.
    coat_mm : float
        Thickness of a coat that does not spill.
    most_g : float or None, optional
        What the cavities would hold cast solid.

    Returns
    -------
    Rotation
        The mean thickness is what is in the mould / SG / surface.

    Raises
    ------
    Refused
        For a mould that became lighter, or heavier than full, and an unknown surface.

    Examples
    --------
    >>> state = rotation(mould_g=7000, now_g=8000, target_g=2000, area_cm2=5000, sg=1.0, coat_mm=1.0)
    >>> state.thickness_mm, state.to_go_g, state.coats_to_go, state.aim_g
    (2.0, 1000, 2, 9000)
    """
    in_g = now_g - mould_g
    if in_g < 0:
        raise Refused(
            "now_g",
            Text("The mould weighs less than when it was empty. Weigh it again with everything that was on it."),
        )
    if most_g is not None and in_g > most_g * (1 + FULL_TO):
        raise Refused(
            "now_g",
            Text(
                "The mould gained [{in_g:.0f} mass], more than its cavity holds when it is full, [{most_g:.0f} mass]. "
                "Weigh it again, with nothing on it that was not there when it was empty.",
                in_g=in_g,
                most_g=most_g,
            ),
        )
    if not area_cm2 > 0 or not sg > 0 or not coat_mm > 0:
        raise Refused("area_cm2", Text("The surface of the cavity is needed to tell how thick the shell is by now."))
    to_go_g = max(0.0, target_g - in_g)
    coat_g = area_cm2 * coat_mm / 10 * sg
    return Rotation(
        in_mould_g=in_g,
        thickness_mm=in_g / sg / area_cm2 * 10,
        to_go_g=to_go_g,
        coats_to_go=ceil(to_go_g / coat_g - EXACT) if to_go_g > ENOUGH * target_g else 0,
        aim_g=mould_g + target_g,
    )


def coats_left(plan: WeighPlan, rotated: Rotation) -> tuple[tuple[Ingredient, ...], ...]:
    """Return the batches that are still to be mixed, by what the mould weighs.

    Parameters
    ----------
    plan : WeighPlan
        Of a cast that is rotated by hand.
    rotated : Rotation
        Where it stands.

    Returns
    -------
    tuple of batches
        Equal ones, in the proportions of the plan, with the share that the plan had for losses; none where the shell
        is thick enough.
    """
    if not rotated.coats_to_go:
        return ()
    planned = plan.batches[0]
    losses = plan.total_g / plan.need_g if plan.need_g > 0 else 1.0
    scale = rotated.to_go_g / rotated.coats_to_go * losses / sum(one.g for one in planned)
    return (tuple(replace(one, g=one.g * scale) for one in planned),) * rotated.coats_to_go
