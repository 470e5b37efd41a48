"""The shortfall of a pour: the rubber that is missing when the level stays below the fill line."""

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.inside import Inside
from ufrin.core.box.layout_choice import chosen_layout
from ufrin.core.box.mould_box import Box
from ufrin.errors import Refused
from ufrin.language import Text


def missing_ml(plan: BoxPlan, box: Box, below_mm: float, *, is_turned: bool = False) -> float:
    """Return the rubber between the level that was reached and the fill line.

    Parameters
    ----------
    plan : BoxPlan
        Masters, shape and clearances.
    box : Box
        As it was worked out from them.
    below_mm : float
        How far the level stays below the fill line.
    is_turned : bool, optional
        Of a second half: the box is turned over, and filled to what was its board.

    Returns
    -------
    float
        In ml, by the box's own section less the masters that stand there, cut exactly at both heights. Filler lies
        deeper, and is not counted.

    Raises
    ------
    Refused
        For nothing, or more than the box is deep.
    """
    deep_mm = box.fill_mm - plan.bed_mm
    if not 0 < below_mm < deep_mm:
        raise Refused(
            "below_mm",
            Text(
                "The rubber stands [{deep_mm:.1f} length] deep when the box is full. How far below "
                "the fill line is it?",
                deep_mm=deep_mm,
            ),
        )
    _, inside = chosen_layout(plan, box.fill_mm)
    low_mm, high_mm = (plan.bed_mm, plan.bed_mm + below_mm) if is_turned else (box.fill_mm - below_mm, box.fill_mm)
    return rubber_below_ml(plan, inside, high_mm) - rubber_below_ml(plan, inside, low_mm)


def rubber_below_ml(plan: BoxPlan, inside: Inside, height_mm: float) -> float:
    """Return the rubber that a box holds up to a height, filler aside.

    Parameters
    ----------
    plan : BoxPlan
        Masters, shape and clearances.
    inside : Inside
        Of the box.
    height_mm : float
        Above the board, not below the top of the bed.

    Returns
    -------
    float
        In ml.
    """
    lip_mm = min(plan.lip_mm, max(0.0, height_mm - plan.bed_mm)) if plan.kind == "tray" else 0.0
    taken_ml = 0.0
    for master in plan.masters:
        in_bed_ml = master.below_ml(plan.sunk_mm)
        below_ml = max(0.0, master.below_ml(height_mm - plan.foot_mm) - in_bed_ml)
        taken_ml += master.count * (below_ml + float(master.plan_outline().area) * lip_mm / 1000)
    return inside.holds_ml(height_mm) - inside.holds_ml(plan.bed_mm) - taken_ml
