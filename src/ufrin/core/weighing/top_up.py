"""A top-up: the batch that is mixed when the rubber ran short, and how it bonds to what was poured."""

from dataclasses import dataclass, replace

from ufrin.core.data_files import read_data
from ufrin.core.inputs.usual import USUAL
from ufrin.core.weighing.weigh_plan import Ingredient, WeighPlan
from ufrin.errors import Refused
from ufrin.language import Text

LEAST_LOSS, MOST_LOSS = 1.03, 1.25  # of what is missing: what stays on cup and stick of a small batch (common practice)
MOST_SHORT_ML = 1e6
_BONDING = read_data("weighing", "bonding")


def check_short(volume_ml: float | None) -> None:
    """Refuse an amount that can't be missing.

    Parameters
    ----------
    volume_ml : float or None
        As typed.

    Raises
    ------
    Refused
        For nothing, less than nothing, or more than a cubic metre.
    """
    if volume_ml is None or not 0 < volume_ml <= MOST_SHORT_ML:
        raise Refused(
            "volume_ml", Text("How much is missing? Type the millilitres, or how far below the fill line it is.")
        )


def top_up_batch(plan: WeighPlan, volume_ml: float) -> tuple[Ingredient, ...]:
    """Return the batch that makes up for what is missing.

    Parameters
    ----------
    plan : WeighPlan
        Of the pour that ran short.
    volume_ml : float
        Missing.

    Returns
    -------
    tuple of Ingredient
        In the proportions of the last batch of the plan, with the share that the plan had for losses.
    """
    check_short(volume_ml)
    last = plan.batches[-1]
    loss = min(MOST_LOSS, max(LEAST_LOSS, plan.total_g / plan.need_g)) if plan.need_g > 0 else LEAST_LOSS
    scale = volume_ml * plan.sg * loss / sum(one.g for one in last)
    return tuple(replace(one, g=one.g * scale) for one in last)


@dataclass(frozen=True, slots=True, kw_only=True)
class Bonding:
    """How fresh rubber bonds to rubber that was poured before.

    Parameters
    ----------
    while_tacky : bool
        Whether it is still so fresh that it bonds by itself.
    tacky_left_min : float or None
        How long it stays so; None where nobody knows, negative when it is past.
    do : str
        What to do with the surface first.
    """

    while_tacky: bool
    tacky_left_min: float | None
    do: str


def bonding(
    family: str,
    *,
    elapsed_min: float | None = None,
    demould_min: float | None = None,
    tacky_share: float = USUAL["skin"]["tacky_share"],
) -> Bonding:
    """Return how a top-up bonds.

    Parameters
    ----------
    family : str
        Of the rubber.
    elapsed_min, demould_min : float or None, optional
        Since A met B in what was poured, and its time to demould in this room.
    tacky_share : float, optional
        Of the time to demould for which a surface stays tacky.

    Returns
    -------
    Bonding
        By family, as is common practice.
    """
    known = _BONDING[family] if family in _BONDING else _BONDING["unknown"]
    left_min = None
    if elapsed_min is not None and demould_min is not None:
        left_min = demould_min * tacky_share - elapsed_min
    fresh = left_min is not None and left_min > 0
    return Bonding(while_tacky=fresh, tacky_left_min=left_min, do=str(known["fresh" if fresh else "set"]))


def scrap_g(volume_ml: float, sg: float) -> float:
    """Return the cured scrap of the same family that raises the level as much as is missing.

    Parameters
    ----------
    volume_ml : float
        Missing.
    sg : float
        Of the rubber.

    Returns
    -------
    float
        In g: pushed wholly under, it displaces its own volume.
    """
    return volume_ml * sg
