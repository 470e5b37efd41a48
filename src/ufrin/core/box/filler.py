"""Scrap filler: old cut-up rubber laid into a box to save fresh rubber, and how much of it a box takes."""

from collections.abc import Iterator

import shapely

from ufrin.core.box.box_plan import CLOSE_ENOUGH, BoxPlan
from ufrin.core.box.layouts import Layout, placed_outline
from ufrin.core.wording.findings import Amount, Finding


def filler_room_ml(plan: BoxPlan, layout: Layout, fill_mm: float, holds_ml: float) -> float:
    """Return the most filler that a box takes without coming nearer to a master than the side clearance.

    Parameters
    ----------
    plan : BoxPlan
        With its masters.
    layout : Layout
        Where they stand.
    fill_mm : float
        The fill line above the board.
    holds_ml : float
        What the box holds, from the bed to the fill line.

    Returns
    -------
    float
        In ml: the box less the upright prism round each master's outline at the side clearance. Room over a
        master is never counted.
    """
    near = shapely.union_all(
        [placed_outline(plan.masters[place.kind], place).buffer(plan.side_mm, quad_segs=16) for place in layout.places]
    )
    return max(0.0, holds_ml - float(near.area) * (fill_mm - plan.bed_mm) / 1000)


def filler_findings(plan: BoxPlan, layout: Layout, fill_mm: float, net_ml: float) -> Iterator[Finding]:
    """Yield what is wrong with the filler of a box.

    Parameters
    ----------
    plan : BoxPlan
        As wanted.
    layout : Layout
        Where the masters stand.
    fill_mm : float
        The fill line above the board.
    net_ml : float
        Fresh rubber that the box takes.

    Yields
    ------
    Finding
        There is more of it than room.
    """
    if not plan.filler_ml:
        return
    masters_ml = sum(
        master.count * ((master.volume_ml or 0) - master.below_ml(plan.sunk_mm)) for master in plan.masters
    )
    room_ml = filler_room_ml(plan, layout, fill_mm, net_ml + plan.filler_ml + masters_ml)
    if plan.filler_ml > room_ml * CLOSE_ENOUGH:
        facts = {"filler": Amount(plan.filler_ml, "volume"), "room": Amount(room_ml, "volume")}
        yield Finding(code="filler-too-much", facts=facts, field="filler_ml")
