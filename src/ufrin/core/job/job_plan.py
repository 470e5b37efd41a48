"""Plan: a whole job worked out from what was filled in at its stations."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ufrin.core.box.box_plan import BoxPlan, Shape
from ufrin.core.box.box_volumes import Box, box
from ufrin.core.box.cut_list import CutList, check_sheet, cut_list
from ufrin.core.box.hold_down import HoldDown, hold_down
from ufrin.core.box.wall_bow import PanelStock, WallBow, wall_bow
from ufrin.core.inputs.stations import (
    STATIONS,
    BoxInputs,
    CheckInputs,
    MasterInputs,
    OpeningInputs,
    RubberInputs,
    State,
    Station,
)
from ufrin.core.job.checks_station import Checks, JobSoFar, ShopWays, check
from ufrin.core.job.master_station import MasterAnswer, answer_master, box_master
from ufrin.core.job.opening_findings import findings_of
from ufrin.core.job.opening_station import Opening, OpeningContext, open_mould
from ufrin.core.job.rubber_station import Pour, PourTarget, pour
from ufrin.core.job.shelf_picks import ShelfPicks, sg_of
from ufrin.core.job.sign_off import Stop, open_stops, stops
from ufrin.core.job.terms import BOX, RUBBER, settled
from ufrin.core.master.master_form import Form, Master
from ufrin.core.materials.tables import BOARDS
from ufrin.core.opening.mould_styles import PARTED
from ufrin.core.pairing.contacts import Surface
from ufrin.core.rubber.tins import FAMILIES, Rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.lots import stock_findings
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused

NOTHING_SAID = OpeningInputs()
NOTHING_CHECKED = CheckInputs()


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """A whole job worked out. What could not be is None, and ``refusals`` says why, by station; ``stops`` are those of all stations together."""

    master: MasterAnswer
    masters: tuple[Master, ...]
    opening: Opening | None
    box_plan: BoxPlan | None
    box: Box | None
    net_pm_ml: float | None
    bow: WallBow | None
    hold_down: HoldDown | None
    pour: Pour | None
    checks: Checks | None
    stops: tuple[Stop, ...]
    refusals: Mapping[Station, tuple[Refused, ...]]
    findings: Mapping[Station, tuple[Finding, ...]]
    states: Mapping[Station, State]


@dataclass(frozen=True, slots=True, kw_only=True)
class JobContext:
    """What a job needs from outside its own stations.

    What the Rubber station points to on the Shelf, its mesh as it stands, the
    container chosen, the masters of other jobs that share its box with what their surfaces are, the names of those
    whose masters can't yet, how the shop does things, and whether all is wanted or amounts alone.
    """

    shelf: ShelfPicks = ShelfPicks()
    mesh: Form | None = None
    container: Container | None = None
    others: tuple[Master, ...] = ()
    other_surfaces: tuple[Surface, ...] = ()
    not_ready: tuple[str, ...] = ()
    shop: ShopWays = ShopWays()
    whole: bool = True


def with_halves(box_inputs: BoxInputs, opening: OpeningInputs) -> BoxInputs:
    """Give a mould in two halves rubber under the master too, unless the maker said how much.

    Parameters
    ----------
    box_inputs, opening : BoxInputs, OpeningInputs
        As filled in.

    Returns
    -------
    BoxInputs
        As much under it as over it.
    """
    if opening.style not in PARTED or box_inputs.under_mm is not None:
        return box_inputs
    return replace(box_inputs, under_mm=settled(box_inputs, BOX)["over_mm"])


def plan(
    master: MasterInputs,
    box_inputs: BoxInputs,
    rubber_inputs: RubberInputs,
    beside: JobContext,
    opening: OpeningInputs = NOTHING_SAID,
    *,
    checked: CheckInputs = NOTHING_CHECKED,
) -> Plan:
    """Work out a job from what was filled in; nothing that a maker typed makes it fail.

    Parameters
    ----------
    master, box_inputs, rubber_inputs : MasterInputs, BoxInputs, RubberInputs
        The stations.
    beside : JobContext
        What they point to.
    opening, checked : OpeningInputs, CheckInputs, optional
        The Opening and Checks stations.

    Returns
    -------
    Plan
        Answers, refusals, findings and states.
    """
    refusals: dict[Station, tuple[Refused, ...]] = {}
    box_inputs = with_halves(box_inputs, opening)
    rubber = beside.shelf.rubber
    measured = answer_master(master, beside.mesh)
    refusals["master"] = tuple(way.refused for way in measured.ways if way.refused) + (
        (measured.form_refused,) if measured.form_refused else ()
    )
    masters: tuple[Master, ...] = ()
    box_plan: BoxPlan | None = None
    the_box: Box | None = None
    made_pour: Pour | None = None
    bow: WallBow | None = None
    try:
        own = box_master(master, measured, _count(box_inputs))
        if own is not None:
            masters = (own, *beside.others)
            box_plan = plan_box(masters, box_inputs, sg_of(rubber) if rubber else None, beside.container)
            the_box = box(box_plan)
            bow = _bow(box_plan, the_box, box_inputs)
    except Refused as refused:
        refusals["box"] = (refused,)
    try:
        check_sheet(*_sheet_and_saw(box_inputs))
    except Refused as refused:  # the box stands all the same
        refusals["box"] = (*refusals.get("box", ()), refused)
    asked = _asked(
        measured, masters, box_plan, the_box, box_inputs=box_inputs, rubber_inputs=rubber_inputs, rubber=rubber
    )
    opens = open_mould(opening, asked if beside.whole else replace(asked, halves_only=True))
    if opens:
        refusals["opening"] = opens.refusals
    try:
        made_pour = pour(_around(the_box, measured, opens), rubber_inputs, beside.shelf)
    except Refused as refused:
        refusals["rubber"] = (refused,)
    said = JobSoFar(
        master=master,
        box=box_inputs,
        rubber=rubber_inputs,
        checks=checked,
        shelf=beside.shelf,
        others=beside.other_surfaces,
        box_plan=box_plan,
        fill_mm=the_box.fill_mm if the_box else None,
        opening=opens,
        pour=made_pour,
    )
    checks = check(said, beside.shop)
    findings: dict[Station, tuple[Finding, ...]] = {
        "master": measured.findings,
        "opening": findings_of(
            opens, opening, slants=bool(box_plan and box_plan.the_pot), bed_mm=box_plan.bed_mm if box_plan else 0.0
        )
        if opens
        else (),
        "box": worst_first(
            [*the_box.findings, *(bow.findings() if bow else ()), *_bonds(box_inputs, rubber), *_absent(beside)]
        )
        if the_box
        else (),
        "rubber": worst_first(_pour_findings(made_pour, rubber_inputs, beside.shelf)),
        "checks": checks.findings if checks else (),
    }
    made: dict[Station, bool] = {
        "master": measured.size_mm is not None,
        "opening": bool(masters),
        "box": the_box is not None,
        "rubber": made_pour is not None,
        "checks": checks is not None,
    }
    all_stops = stops(findings, refusals, beside.shop.signed)
    stopped = {stop.station for stop in open_stops(all_stops)}
    states = {
        station: _state(made[station], is_stopped=station in stopped, findings=findings[station])
        for station in STATIONS
    }
    pm = (
        measured.measured.plus_minus_ml * _count(box_inputs)
        if the_box and measured.measured and not beside.others
        else None
    )
    held = hold_down(masters[0], box_plan.rubber_sg, box_plan.sunk_mm) if box_plan and box_plan.rubber_sg else None
    return Plan(
        master=measured,
        masters=masters,
        opening=opens,
        box_plan=box_plan,
        box=the_box,
        net_pm_ml=pm,
        bow=bow,
        hold_down=held,
        pour=made_pour,
        checks=checks,
        stops=all_stops,
        refusals=refusals,
        findings=findings,
        states=states,
    )


def _state(made: bool, *, is_stopped: bool, findings: tuple[Finding, ...]) -> State:
    if is_stopped:
        return "stop"
    if not made:
        return "empty"
    # a stop that somebody took upon themselves stays a warning
    return "warning" if any(finding.level != "note" for finding in findings) else "ready"


def _count(inputs: BoxInputs) -> int:
    return int(inputs.count or 1)


def plan_box(
    masters: tuple[Master, ...], inputs: BoxInputs, rubber_sg: float | None, container: Container | None
) -> BoxPlan:
    """Turn the Box station's inputs into a box plan.

    Parameters
    ----------
    masters : tuple of Master
        The job's own first.
    inputs : BoxInputs
        As filled in.
    rubber_sg : float or None
        Of the rubber chosen.
    container : Container or None
        The one chosen; it counts only where the shape says so.

    Returns
    -------
    BoxPlan
        Ready to be worked out.

    Raises
    ------
    Refused
        When a container is asked for and none is chosen, or figures contradict each other.
    """
    said = settled(inputs, BOX)
    in_container = said["shape"] == "container"
    if in_container and container is None:
        raise Refused("container_id", "Choose which container. Those on the Shelf are listed here.")
    shape: Shape = "rectangle" if in_container else said["shape"]
    clearances = {
        key: said[key]
        for key in (
            "side_mm",
            "over_mm",
            "under_mm",
            "gap_mm",
            "bed_mm",
            "freeboard_mm",
            "wall_thickness_mm",
            "filler_ml",
        )
    }
    return BoxPlan(
        masters=masters,
        shape=shape,
        container=container if in_container else None,
        rows=int(said["rows"]) if said["rows"] else None,
        columns=int(said["columns"]) if said["columns"] else None,
        sunk_mm=said["sunk_mm"] if said["bed_mm"] else 0.0,
        lip_mm=said["lip_mm"] if shape == "tray" else 0.0,
        rubber_sg=rubber_sg,
        pack=True,
        pinwheel=said["joint"] == "pinwheel",
        **clearances,
    )


def _sheet(said: Mapping[str, Any]) -> PanelStock:
    board = BOARDS[said["wall_material"]]
    return PanelStock(
        thickness_mm=said["wall_thickness_mm"],
        youngs_modulus_gpa=board.youngs_modulus_gpa,
        poisson_ratio=board.poisson_ratio,
    )


def _bow(box_plan: BoxPlan, made: Box, inputs: BoxInputs) -> WallBow | None:
    # a bent strip stands by its curve, and a container was made to hold liquids
    if made.length_mm is None or box_plan.container or box_plan.rubber_sg is None:
        return None
    long_mm = max(made.length_mm, made.width_mm or 0)
    sheet = _sheet(settled(inputs, BOX))
    return wall_bow(
        length_mm=long_mm, depth_mm=made.fill_mm, sg=box_plan.rubber_sg, sheet=sheet, side_mm=box_plan.side_mm
    )


def cuts(made: Box, inputs: BoxInputs) -> CutList | None:
    """Make the cut list of a job's box.

    Parameters
    ----------
    made : Box
        Worked out.
    inputs : BoxInputs
        With the sheet that it is cut from.

    Returns
    -------
    CutList or None
        None for a container, whose walls are there already, and while sheet or saw can't be.
    """
    if not made.panels:
        return None
    sheet_mm, kerf_mm = _sheet_and_saw(inputs)
    try:
        check_sheet(sheet_mm, kerf_mm)
    except Refused:  # told beside its field
        return None
    around = made.inside_polygon().exterior.length
    return cut_list(
        made.panels,
        outside_mm=made.inside_mm,
        around_mm=around,
        thickness_mm=settled(inputs, BOX)["wall_thickness_mm"],
        sheet_mm=sheet_mm,
        kerf_mm=kerf_mm,
    )


def _sheet_and_saw(inputs: BoxInputs) -> tuple[tuple[float, float], float]:
    said = settled(inputs, BOX)
    return (said["sheet_length_mm"], said["sheet_width_mm"]), said["kerf_mm"]


def _absent(beside: JobContext) -> list[Finding]:
    return [Finding(code="other-not-ready", facts={"name": name}, field="other_id") for name in beside.not_ready]


def _bonds(inputs: BoxInputs, rubber: Rubber | None) -> tuple[Finding, ...]:
    if not inputs.filler_ml or rubber is None or inputs.filler_family in (None, "", rubber.family):
        return ()
    facts = {"filler": FAMILIES[inputs.filler_family].lower(), "rubber": FAMILIES[rubber.family].lower()}
    return (Finding(code="filler-will-not-bond", facts=facts, field="filler_family"),)


def _asked(
    measured: MasterAnswer,
    masters: tuple[Master, ...],
    box_plan: BoxPlan | None,
    the_box: Box | None,
    *,
    box_inputs: BoxInputs,
    rubber_inputs: RubberInputs,
    rubber: Rubber | None,
) -> OpeningContext:
    said = settled(box_inputs, BOX)
    return OpeningContext(
        form=measured.form,
        masters=masters,
        box=the_box,
        foot_mm=box_plan.foot_mm if box_plan else 0.0,
        side_mm=said["side_mm"],
        over_mm=said["over_mm"],
        elongation_pct=rubber.elongation_pct if rubber else None,
        shots=int(rubber_inputs.shots_wanted) if rubber_inputs.shots_wanted else None,
    )


def _around(the_box: Box | None, measured: MasterAnswer, opens: Opening | None) -> PourTarget:
    form, size = measured.form, measured.size_mm
    area = form.area_cm2 if form else None
    if area is None and size is not None:  # the outside, standing on its foot
        length, width, height = size
        area = (length * width + 2 * height * (length + width)) / 100
    halves = opens.halves_ml if opens else None
    displaced = measured.measured.volume_ml if measured.measured else None
    return PourTarget(box=the_box, size_mm=size, area_cm2=area, displaced_ml=displaced, halves_ml=halves)


def _pour_findings(made: Pour | None, inputs: RubberInputs, shelf: ShelfPicks) -> list[Finding]:
    rubber = shelf.rubber
    found = list(rubber.findings()) if rubber else []
    if rubber and shelf.retired:
        found.append(Finding(code="retired", facts={"name": rubber.name}, field="rubber_id"))
    by_volume = inputs.basis == "volume"
    if rubber and by_volume and not rubber.by_volume:
        found.append(Finding(code="no-volume-ratio", field="basis"))
    if made is None or rubber is None:
        return found
    # by volume the scale is not used, so its step is no matter
    found += [finding for finding in made.mix.findings if not (by_volume and finding.code == "scale-too-coarse")]
    said = settled(inputs, RUBBER)
    if by_volume and rubber.by_volume and (made.marks_error_pct is None or made.marks_error_pct > rubber.tolerance_pct):
        facts = {
            "mark": Amount(said["cup_mark_ml"], "volume"),
            "worst": Amount(made.marks_error_pct, "percent") if made.marks_error_pct is not None else "any amount",
            "tolerance": Amount(rubber.tolerance_pct, "percent"),
        }
        found.append(Finding(code="marks-too-coarse", facts=facts, field="cup_mark_ml"))
    if made.kits and made.kits.kits > 1 and rubber.kit_g:
        found.append(
            Finding(
                code="kit-short",
                facts={"kits": str(made.kits.kits), "kit": Amount(rubber.kit_g, "mass", 0)},
                field="rubber_id",
            )
        )
    if made.thinned:
        found += made.thinned.findings
    return (
        found
        + _time_findings(made)
        + _whole_kit_findings(made)
        + _goes_with_findings(shelf, rubber)
        + _stock_findings(made, shelf)
    )


def _time_findings(made: Pour) -> list[Finding]:
    if not made.pot_life_min:
        return []
    facts = {"batch": Amount(made.batch_min, "time"), "pot_life": Amount(made.pot_life_min, "time")}
    if made.how != "putty" and made.batch_min > made.pot_life_min:
        return [Finding(code="pot-life-over", facts=facts, field="mix_min")]
    if len(made.batches) > 1 and made.how == "poured" and len(made.batches) * made.batch_min > made.pot_life_min:
        return [Finding(code="pot-life-short", facts={"batches": str(len(made.batches)), **facts}, field="cup_ml")]
    return []


def _whole_kit_findings(made: Pour) -> list[Finding]:
    if made.whole_kit is None or made.whole_kit.over_g >= 0:
        return []
    return [
        Finding(
            code="whole-kit-short", facts={"short": Amount(-made.whole_kit.over_g, "mass", 0)}, field="kit_left_a_g"
        )
    ]


def _goes_with_findings(shelf: ShelfPicks, rubber: Rubber) -> list[Finding]:
    found = []
    for field, additive in (
        ("thinner_id", shelf.thinner),
        ("thickener_id", shelf.thickener),
        ("pigment_id", shelf.pigment),
    ):
        if additive and not additive.goes_with(rubber.family):
            facts = {
                "name": additive.name,
                "family": FAMILIES[additive.family].lower(),
                "rubber": FAMILIES[rubber.family].lower(),
            }
            found.append(Finding(code="additive-not-for-it", facts=facts, field=field))
    return found


def _stock_findings(made: Pour, shelf: ShelfPicks) -> list[Finding]:
    needed: dict[str, float] = {}
    for one in (one for batch in made.batches for one in batch):
        needed[one.key] = needed.get(one.key, 0.0) + one.g
    names = {one.key: one for one in made.batches[0]} | {one.key: one for batch in made.batches for one in batch}
    found: list[Finding] = []
    for key, grams in needed.items():
        stocked = shelf.stock.get(key)
        if stocked:
            part = names[key].role if names[key].role in {"A", "B"} else "all"
            found += stock_findings(names[key].name, stocked.lots, {part: grams})
    return found
