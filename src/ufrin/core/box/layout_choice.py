"""The choice of a layout and an inside for a box: the ones that take the least rubber."""

import shapely
from shapely.geometry import Polygon

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.clearances import tightest_clearance
from ufrin.core.box.inside import Inside
from ufrin.core.box.layouts import Layout, grids, placed_outline, with_true_circle
from ufrin.core.box.packing import packed
from ufrin.core.inputs.usual import USUAL
from ufrin.errors import Refused
from ufrin.language import Text

LEAST_BEND_MM = 0.001
LOOKED_AT, FEW = 4, 12  # layouts looked at closely, for gangs of up to so many


def chosen_layout(plan: BoxPlan, fill_mm: float) -> tuple[Layout, Inside]:
    """Choose the layout and the inside that take the least rubber; in a container, those that leave the most room.

    Parameters
    ----------
    plan : BoxPlan
        Masters, shape and clearances.
    fill_mm : float
        The fill line above the board.

    Returns
    -------
    Layout, Inside
        Where the masters stand, and the inside round them.

    Raises
    ------
    Refused
        For rows and columns that don't hold the masters.
    """
    several = plan.pack and len(plan.masters) > 1 and not plan.rows and not plan.columns
    layouts = packed(plan.masters, plan.gap_mm) if several else []
    layouts = _promising(plan, layouts or grids(plan.masters, plan.gap_mm, plan.rows, plan.columns))
    pairs = [(layout, inside) for layout in layouts for inside in _insides(plan, layout)]
    if plan.container:
        # the inside of a container is fixed: take the layout that leaves the most room all round
        return max(pairs, key=lambda pair: (_least_room_mm(plan, *pair), -pair[0].rows))
    if several:  # masters that are packed may be packed into a long strip too: a square-ish box is easier to pour
        return min(pairs, key=lambda pair: (pair[1].holds_ml(fill_mm) * _lengthy(pair[0]), pair[0].circle_mm))
    return min(pairs, key=lambda pair: (pair[1].holds_ml(fill_mm), pair[0].circle_mm, pair[0].rows))


def _lengthy(layout: Layout) -> float:
    long, short = max(layout.length_mm, layout.width_mm), min(layout.length_mm, layout.width_mm)
    return 1 + USUAL["packing"]["length_price"] * (long / max(short, 1e-9) - 1)


def _promising(plan: BoxPlan, layouts: list[Layout]) -> list[Layout]:
    # circles and strips round true outlines are slow to compute: only the layouts with the smallest rectangle or
    # circle are examined so closely
    plain = not any(master.form for master in plan.masters) and (len(plan.masters) == 1 or not plan.pack)
    if plan.kind in {"rectangle", "tray"} or len(layouts[0].places) == 1 or (plain and plan.kind != "contour"):
        return layouts
    side, strip = 2 * plan.side_mm, plan.kind == "contour"
    near = sorted(layouts, key=lambda one: (one.length_mm + side) * (one.width_mm + side) if strip else one.circle_mm)
    best = near[: LOOKED_AT if len(layouts[0].places) <= FEW else 1]
    return best if strip else [with_true_circle(plan.masters, one) for one in best]


def _least_room_mm(plan: BoxPlan, layout: Layout, inside: Inside) -> float:
    tightest = tightest_clearance(plan, layout, inside)
    return tightest[0] if tightest else 0.0


def _insides(plan: BoxPlan, layout: Layout) -> list[Inside]:
    side = 2 * plan.side_mm
    if plan.container and plan.container.shape == "rectangle":
        long, short = plan.container.length_mm or 0, plan.container.width_mm or 0
        return [Inside(length_mm=long, width_mm=short), Inside(length_mm=short, width_mm=long)]
    if plan.the_pot:
        return [Inside(pot=plan.the_pot)]
    if plan.container:
        return [Inside(diameter_mm=plan.container.bottom_mm)]
    if plan.kind == "round":
        return [Inside(diameter_mm=layout.circle_mm + side)]
    if plan.kind == "contour":
        return [Inside(outline=_contour(plan, layout))]
    return [Inside(length_mm=layout.length_mm + side, width_mm=layout.width_mm + side)]


def _contour(plan: BoxPlan, layout: Layout) -> Polygon:
    # a strip bends smoothly: the outline is widened by more than wanted and taken in again, which rounds what is
    # hollow and joins neighbours
    outlines = [placed_outline(plan.masters[place.kind], place) for place in layout.places]
    if len(outlines) > FEW:  # a strip round a crowd follows each outline as closely as a saw does
        outlines = list(shapely.simplify(outlines, 0.1))
    everything = shapely.union_all(outlines)
    # no strip follows a smaller bend, and the geometry library can't widen by less
    bend = max(plan.gap_mm, plan.side_mm, LEAST_BEND_MM)
    wide = shapely.buffer(shapely.buffer(everything, plan.side_mm + bend, quad_segs=16), -bend, quad_segs=16)
    if wide.geom_type != "Polygon":
        raise Refused(
            "gap_mm",
            Text(
                "The masters stand too far apart for one strip round them all. Set them closer, or "
                "take a rectangular box."
            ),
        )
    return Polygon(wide.exterior)
