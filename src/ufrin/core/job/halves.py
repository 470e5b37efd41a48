"""The halves of a mould in two parts: the rubber of each pour and the clay bed, which together fill the box."""

from dataclasses import dataclass

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import Box
from ufrin.core.opening.parting_surface import PartingSurface

JUDGED_SHARE = 0.5  # of the master, in each half, where there is no shape to part (common practice)


@dataclass(frozen=True, slots=True, kw_only=True)
class Halves:
    """The two halves of a mould.

    Parameters
    ----------
    first_ml, second_ml : float
        Rubber of the half poured first, over the clay bed, and of the second; together the net volume of the box.
    first_displaced_ml, second_displaced_ml : float
        Of the masters, in each.
    bed_ml : float
        The clay, which stands where the second half will be.
    is_judged : bool
        Whether the master has no shape that could be parted, so that it is split at half its height.
    """

    first_ml: float
    second_ml: float
    first_displaced_ml: float
    second_displaced_ml: float
    bed_ml: float
    is_judged: bool


def halves_of(box: Box, plan: BoxPlan, surface: PartingSurface | None) -> Halves:
    """Share the rubber of a box out between its two halves.

    Parameters
    ----------
    box : Box
        Worked out: its net volume has the measured displacement and the filler taken off already.
    plan : BoxPlan
        As wanted.
    surface : PartingSurface or None
        Between the halves; None where a master has no shape.

    Returns
    -------
    Halves
        Each half displaces its share of the masters as they were measured, and takes filler in proportion to its room.
    """
    masters_ml = sum(master.count * (master.volume_ml or 0.0) for master in plan.masters)
    if surface is None:
        middle_mm = plan.foot_mm + plan.height_mm / 2
        upper_share, master_share = (box.fill_mm - middle_mm) / box.fill_mm, 1 - JUDGED_SHARE
    else:
        upper_share = surface.upper_box_ml / surface.box_ml
        in_upper_ml = surface.upper_box_ml - surface.upper_ml
        master_share = in_upper_ml / surface.master_ml if surface.master_ml else JUDGED_SHARE
    first_displaced_ml = master_share * masters_ml
    # filler is laid in where there is room for it
    first_room_ml = max(0.0, upper_share * box.gross_ml - first_displaced_ml)
    second_room_ml = max(0.0, (1 - upper_share) * box.gross_ml - (masters_ml - first_displaced_ml))
    room_ml = first_room_ml + second_room_ml
    first_ml = box.net_ml * (first_room_ml / room_ml if room_ml else 0.5)
    return Halves(
        first_ml=first_ml,
        second_ml=box.net_ml - first_ml,
        first_displaced_ml=first_displaced_ml,
        second_displaced_ml=masters_ml - first_displaced_ml,
        bed_ml=second_room_ml,
        is_judged=surface is None,
    )
