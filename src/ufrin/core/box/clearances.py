"""Clearances: the rubber beside and over the masters of a box, how near a given wall comes, and what is too thin."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ufrin.core.box.box_plan import CLOSE_ENOUGH, BoxPlan
from ufrin.core.box.inside import Inside
from ufrin.core.box.layouts import Layout
from ufrin.core.mesh.triangles import Floats
from ufrin.core.shelf.containers import Pot
from ufrin.core.wording.findings import Amount, Finding
from ufrin.language import Text

THIN_COVER_MM, THIN_SIDE_MM = 6.0, 5.0  # common practice: half of what is usual


@dataclass(frozen=True, slots=True, kw_only=True)
class Clearances:
    """The clearances of a box whose walls are given.

    Parameters
    ----------
    tightest : (clearance, height) or None
        The least clearance and its height above the board, in mm; None for a box that is built to measure.
    raise_to_clear_mm : float or None
        The bed that lifts the masters clear in a tapered pot: 0 where they are clear, None where no bed does.
    """

    tightest: tuple[float, float] | None
    raise_to_clear_mm: float | None


def clearances(plan: BoxPlan, layout: Layout, inside: Inside) -> Clearances:
    """Return the clearances of a box.

    Parameters
    ----------
    plan : BoxPlan
        As wanted.
    layout : Layout
        Where the masters stand.
    inside : Inside
        Of the box.

    Returns
    -------
    Clearances
        Where the walls come nearest, and the bed that helps.
    """
    return Clearances(
        tightest=tightest_clearance(plan, layout, inside), raise_to_clear_mm=_raise_to_clear_mm(plan, layout)
    )


def tightest_clearance(plan: BoxPlan, layout: Layout, inside: Inside) -> tuple[float, float] | None:
    """Return the least clearance and its height above the board, where the wall is not built to measure.

    Parameters
    ----------
    plan : BoxPlan
        As wanted.
    layout : Layout
        Where the masters stand.
    inside : Inside
        Of the box.

    Returns
    -------
    (float, float) or None
        In mm; None for a box that is built to measure.
    """
    if inside.pot:
        return inside.pot.tightest(plan.foot_mm, _reach_mm(plan, layout))
    if not plan.container:
        return None
    if inside.diameter_mm is not None:
        return (inside.diameter_mm - layout.circle_mm) / 2, plan.foot_mm
    return min((inside.length_mm or 0) - layout.length_mm, (inside.width_mm or 0) - layout.width_mm) / 2, plan.foot_mm


def _reach_mm(plan: BoxPlan, layout: Layout) -> Floats:
    reach = np.array([[0.0, layout.circle_mm / 2], [plan.height_mm, layout.circle_mm / 2]])
    if len(plan.masters) == 1 and plan.masters[0].count == 1 and plan.masters[0].form:
        reach = plan.masters[0].reach_mm()
    if not plan.sunk_mm:
        return reach
    # what is sunk in the bed has no rubber beside it
    at_bed = [plan.sunk_mm, float(np.interp(plan.sunk_mm, reach[:, 0], reach[:, 1]))]
    return np.vstack([at_bed, reach[reach[:, 0] > plan.sunk_mm]])


def _raise_to_clear_mm(plan: BoxPlan, layout: Layout) -> float | None:
    if plan.the_pot is None:
        return 0.0
    reach = _reach_mm(plan, layout)
    if plan.the_pot.tightest(plan.foot_mm, reach)[0] * CLOSE_ENOUGH >= plan.side_mm - 1e-9:
        return 0.0
    foot_mm = plan.the_pot.clear_foot_mm(plan.side_mm, reach)
    if foot_mm is None:
        return None
    bed_mm = max(0.0, foot_mm - plan.under_mm + plan.sunk_mm)
    # in a pot that narrows upwards the foot may have to stand lower than the rubber under it lets it
    clearance_mm = plan.the_pot.tightest(bed_mm + plan.under_mm - plan.sunk_mm, reach)[0]
    return bed_mm if clearance_mm * CLOSE_ENOUGH >= plan.side_mm - 1e-9 else None


def clearance_findings(plan: BoxPlan, layout: Layout, found: Clearances) -> Iterator[Finding]:
    """Yield what is wrong with the room beside and over the masters.

    Parameters
    ----------
    plan : BoxPlan
        As wanted.
    layout : Layout
        Where the masters stand.
    found : Clearances
        Of the box.

    Yields
    ------
    Finding
        In no order.
    """
    if found.tightest is not None:
        clearance_mm, at_mm = found.tightest
        if clearance_mm * CLOSE_ENOUGH < plan.side_mm and plan.side_mm - clearance_mm > 1e-9:
            yield _too_tight(plan, clearance_mm, at_mm, found.raise_to_clear_mm, _reach_mm(plan, layout))
    if plan.over_mm < THIN_COVER_MM:
        yield Finding(code="thin-cover", facts={"over": Amount(plan.over_mm, "length")}, field="over_mm")
    if plan.side_mm < THIN_SIDE_MM:
        yield Finding(code="thin-side", facts={"side": Amount(plan.side_mm, "length")}, field="side_mm")


def _too_tight(plan: BoxPlan, clearance_mm: float, at_mm: float, raise_mm: float | None, reach_mm: Floats) -> Finding:
    facts: dict[str, Amount | str] = {
        "clearance": Amount(clearance_mm, "length") if clearance_mm >= 0 else Text("no room"),
        "side": Amount(plan.side_mm, "length"),
        "height": Amount(at_mm, "length"),
    }
    if plan.side_mm - clearance_mm <= plan.size_pm_mm:
        return Finding(code="tight-hardly", facts=facts, field="side_mm")
    cure: str = Text("Take a wider one, or less side clearance.")
    if plan.the_pot is not None:
        cure = _bed_in_pot(plan, plan.the_pot, raise_mm, reach_mm)
    return Finding(code="too-tight", facts={**facts, "cure": cure}, field="bed_mm" if raise_mm else "side_mm")


def _bed_in_pot(plan: BoxPlan, pot: Pot, raise_mm: float | None, reach_mm: Floats) -> str:
    # which of the two limits of a tapered pot a bed would meet: its width, or its height
    above_mm = plan.under_mm - plan.sunk_mm + plan.height_mm + plan.over_mm
    if raise_mm:
        over_rim_mm = raise_mm + above_mm - pot.height_mm
        if over_rim_mm <= plan.size_pm_mm:
            return Text(
                "A bed of [{raise_mm:.1f} length] lifts the master clear; or take a wider pot.", raise_mm=raise_mm
            )
        return Text(
            "A bed of [{raise_mm:.1f} length] would lift the master clear, but the fill line "
            "would then stand [{over_rim_mm:.1f} length] over the rim: take a higher or a wider "
            "pot.",
            raise_mm=raise_mm,
            over_rim_mm=over_rim_mm,
        )
    highest_bed_mm = pot.height_mm - above_mm
    if highest_bed_mm < 0:
        return Text(
            "No bed helps: even without one the pot is [{highest_bed_mm:.1f} length] too low. Take a larger one.",
            highest_bed_mm=-highest_bed_mm,
        )
    best_mm = pot.tightest(highest_bed_mm + plan.under_mm - plan.sunk_mm, reach_mm)[0]
    return Text(
        "No bed helps: lifted as high as the rim allows, the master is still [{side_mm:.1f} "
        "length] short of the side clearance. Take a wider pot.",
        side_mm=plan.side_mm - best_mm,
    )
