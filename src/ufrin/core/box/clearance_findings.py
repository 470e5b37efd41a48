"""Clearances: what is wrong with the room round, over and under the masters of a box, and whether they stay down."""

from collections.abc import Iterator

import shapely

from ufrin.core.box.box_plan import CLOSE_ENOUGH, BoxPlan, lift_of_one_g
from ufrin.core.box.layouts import Layout, placed_outline
from ufrin.core.wording.findings import Amount, Finding

THIN_COVER_MM, THIN_SIDE_MM = 6.0, 5.0  # common practice: half of what is usual


def box_findings(
    plan: BoxPlan,
    layout: Layout,
    *,
    fill_mm: float,
    tightest: tuple[float, float] | None,
    raise_mm: float | None,
    net_ml: float,
) -> list[Finding]:
    """Look a box over.

    Parameters
    ----------
    plan : BoxPlan
        As wanted.
    layout : Layout
        As laid out.
    fill_mm : float
        The fill line above the board.
    tightest : (clearance, height) or None
        Where a wall that is not built to measure comes nearest.
    raise_mm : float or None
        The bed that would lift the masters clear in a tapered pot.
    net_ml : float
        The rubber it takes.

    Returns
    -------
    list of Finding
        In no order.
    """
    found = list(_room(plan, fill_mm, tightest, raise_mm))
    if plan.over_mm < THIN_COVER_MM:
        found.append(Finding(code="thin-cover", facts={"over": Amount(plan.over_mm, "length")}, field="over_mm"))
    if plan.side_mm < THIN_SIDE_MM:
        found.append(Finding(code="thin-side", facts={"side": Amount(plan.side_mm, "length")}, field="side_mm"))
    found += _afloat(plan)
    if plan.filler_ml:
        found += _filler(plan, layout, fill_mm, net_ml)
    return found


def _room(
    plan: BoxPlan, fill_mm: float, tightest: tuple[float, float] | None, raise_mm: float | None
) -> Iterator[Finding]:
    if tightest is not None:
        clearance_mm, at_mm = tightest
        if clearance_mm * CLOSE_ENOUGH < plan.side_mm and plan.side_mm - clearance_mm > 1e-9:
            facts: dict[str, Amount | str] = {
                "clearance": Amount(clearance_mm, "length") if clearance_mm >= 0 else "no room",
                "side": Amount(plan.side_mm, "length"),
                "height": Amount(at_mm, "length"),
            }
            cure = "Take a wider one, or less side clearance."
            if plan.the_pot is not None and raise_mm:
                cure = f"A bed of [{raise_mm:.1f} length] lifts the master clear; or take a wider pot."
            yield Finding(code="too-tight", facts={**facts, "cure": cure}, field="bed_mm" if raise_mm else "side_mm")
    wall_mm = plan.container.height_mm if plan.container else plan.pot.height_mm if plan.pot else None
    if wall_mm is None:
        return
    if fill_mm > wall_mm * CLOSE_ENOUGH:
        yield Finding(
            code="overflows",
            facts={"fill": Amount(fill_mm, "length"), "height": Amount(wall_mm, "length")},
            field="over_mm",
        )
    elif wall_mm - fill_mm < plan.freeboard_mm:
        yield Finding(code="low-freeboard", facts={"left": Amount(wall_mm - fill_mm, "length")}, field="freeboard_mm")


def _afloat(plan: BoxPlan) -> Iterator[Finding]:
    if any(master.volume_ml is None for master in plan.masters):
        yield Finding(code="no-displacement")
    elif plan.rubber_sg is not None:
        # one light master floats up even when its heavy neighbours would hold the sum down
        lifts = [lift_of_one_g(plan, master, plan.rubber_sg) for master in plan.masters if master.mass_g is not None]
        if lifts and max(lifts) > 0:
            yield Finding(code="floats", facts={"lift": Amount(max(lifts), "mass", 0)}, field="bed_mm")
        if len(lifts) < len(plan.masters):
            yield Finding(code="weight-unknown", field="bed_mm")


def filler_room_ml(plan: BoxPlan, layout: Layout, fill_mm: float, holds_ml: float) -> float:
    """Give the most scrap filler a box takes without coming nearer to a master than the side clearance.

    Parameters
    ----------
    plan : BoxPlan
        With its masters.
    layout : Layout
        Where they stand.
    fill_mm : float
        The fill line.
    holds_ml : float
        What the box holds, bed to fill line.

    Returns
    -------
    float
        In ml: the box less the upright prism round each master's outline at the side clearance. Filler over a
        master is never counted.
    """
    near = shapely.union_all(
        [placed_outline(plan.masters[place.kind], place).buffer(plan.side_mm, quad_segs=16) for place in layout.places]
    )
    return max(0.0, holds_ml - float(near.area) * (fill_mm - plan.bed_mm) / 1000)


def _filler(plan: BoxPlan, layout: Layout, fill_mm: float, net_ml: float) -> Iterator[Finding]:
    masters_ml = sum(
        master.count * ((master.volume_ml or 0) - master.below_ml(plan.sunk_mm)) for master in plan.masters
    )
    room_ml = filler_room_ml(plan, layout, fill_mm, net_ml + plan.filler_ml + masters_ml)
    if plan.filler_ml > room_ml * CLOSE_ENOUGH:
        facts = {"filler": Amount(plan.filler_ml, "volume"), "room": Amount(room_ml, "volume")}
        yield Finding(code="filler-too-much", facts=facts, field="filler_ml")
