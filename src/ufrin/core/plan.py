"""Plan: a whole job worked out from what was filled in at its stations."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ufrin.core.box_plans import BoxPlan, Shape
from ufrin.core.boxes import Box, box
from ufrin.core.costs import KitUse, kit_use
from ufrin.core.figures import BOARDS
from ufrin.core.findings import Amount, Finding, worst_first
from ufrin.core.holding import HoldDown, hold_down
from ufrin.core.masters import MasterAnswer, answer_master, box_master
from ufrin.core.panels import CutList, check_sheet, cut_list
from ufrin.core.pots import Container
from ufrin.core.rubbers import FAMILIES, Rubber
from ufrin.core.scales import worst_ratio_error_pct
from ufrin.core.standing import Form, Master
from ufrin.core.stations import STATIONS, BoxInputs, MasterInputs, RubberInputs, State, Station
from ufrin.core.terms import BOX, RUBBER, settled
from ufrin.core.walls import Bow, Sheet, wall_bow
from ufrin.core.weighing import Mix, MixPlan, mix
from ufrin.errors import Refused


@dataclass(frozen=True, slots=True, kw_only=True)
class Pour:
    """The Rubber station worked out.

    ``too_much_g`` is what would be mixed for nothing with the displacement forgotten; ``short_g`` what would be missing with spare and
    loss on cups forgotten; ``marks_error_pct`` the worst ratio error of measuring by the cups' marks.
    """

    rubber: Rubber
    mix: Mix
    need_g: float
    kits: KitUse | None
    too_much_g: float
    short_g: float
    marks_error_pct: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """A whole job worked out. What could not be is None, and ``refusals`` says why, by station."""

    master: MasterAnswer
    masters: tuple[Master, ...]
    box_plan: BoxPlan | None
    box: Box | None
    net_pm_ml: float | None
    bow: Bow | None
    hold_down: HoldDown | None
    pour: Pour | None
    refusals: Mapping[Station, tuple[Refused, ...]]
    findings: Mapping[Station, tuple[Finding, ...]]
    states: Mapping[Station, State]


@dataclass(frozen=True, slots=True, kw_only=True)
class Beside:
    """What a job needs from outside its own stations.

    The rubber chosen and whether the Shelf has retired it, its mesh as it stands, the
    container chosen, the masters of other jobs that share its box, and the names of those whose masters can't yet.
    """

    rubber: Rubber | None = None
    retired: bool = False
    mesh: Form | None = None
    container: Container | None = None
    others: tuple[Master, ...] = ()
    not_ready: tuple[str, ...] = ()


def plan(master: MasterInputs, box_inputs: BoxInputs, rubber_inputs: RubberInputs, beside: Beside) -> Plan:
    """Work out a job from what was filled in; nothing that a maker typed makes it fail.

    Parameters
    ----------
    master, box_inputs, rubber_inputs : MasterInputs, BoxInputs, RubberInputs
        The stations.
    beside : Beside
        What they point to.

    Returns
    -------
    Plan
        Answers, refusals, findings and states.
    """
    refusals: dict[Station, tuple[Refused, ...]] = {}
    rubber = beside.rubber
    measured = answer_master(master, beside.mesh)
    refusals["master"] = tuple(way.refused for way in measured.ways if way.refused) + ((measured.form_refused,) if measured.form_refused else ())
    masters: tuple[Master, ...] = ()
    box_plan = the_box = pour = bow = None
    try:
        own = box_master(master, measured, _count(box_inputs))
        if own is not None:
            masters = (own, *beside.others)
            box_plan = plan_box(masters, box_inputs, _sg(rubber), beside.container)
            the_box = box(box_plan)
            bow = _bow(box_plan, the_box, box_inputs)
    except Refused as refused:
        refusals["box"] = (refused,)
    try:
        check_sheet(*_sheet_and_saw(box_inputs))
    except Refused as refused:  # the box stands all the same
        refusals["box"] = (*refusals.get("box", ()), refused)
    try:
        pour = _pour(the_box, rubber_inputs, rubber)
    except Refused as refused:
        refusals["rubber"] = (refused,)
    findings: dict[Station, tuple[Finding, ...]] = {
        "master": measured.findings,
        "box": worst_first([*the_box.findings, *(bow.findings() if bow else ()), *_bonds(box_inputs, rubber), *_absent(beside)]) if the_box else (),
        "rubber": worst_first(_pour_findings(pour, rubber_inputs, rubber, beside.retired)),
    }
    made: dict[Station, bool] = {"master": measured.size_mm is not None, "box": the_box is not None, "rubber": pour is not None}
    states = {station: _state(made[station], refusals.get(station, ()), findings[station]) for station in STATIONS}
    pm = measured.measured.plus_minus_ml * _count(box_inputs) if the_box and measured.measured and not beside.others else None
    held = hold_down(masters[0], box_plan.rubber_sg, box_plan.sunk_mm) if box_plan and box_plan.rubber_sg else None
    return Plan(
        master=measured, masters=masters, box_plan=box_plan, box=the_box, net_pm_ml=pm, bow=bow, hold_down=held, pour=pour,
        refusals=refusals, findings=findings, states=states,
    )  # fmt: skip


def _state(made: bool, refusals: tuple[Refused, ...], findings: tuple[Finding, ...]) -> State:
    levels = {finding.level for finding in findings}
    if refusals or "stop" in levels:
        return "stop"
    if not made:
        return "empty"
    return "warning" if "warn" in levels else "ready"


def _count(inputs: BoxInputs) -> int:
    return int(inputs.count or 1)


def plan_box(masters: tuple[Master, ...], inputs: BoxInputs, rubber_sg: float | None, container: Container | None) -> BoxPlan:
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
    clearances = {key: said[key] for key in ("side_mm", "over_mm", "under_mm", "gap_mm", "bed_mm", "freeboard_mm", "wall_thickness_mm", "filler_ml")}
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


def _sheet(said: Mapping[str, Any]) -> Sheet:
    board = BOARDS[said["wall_material"]]
    return Sheet(thickness_mm=said["wall_thickness_mm"], youngs_modulus_gpa=board.youngs_modulus_gpa, poisson_ratio=board.poisson_ratio)


def _bow(box_plan: BoxPlan, made: Box, inputs: BoxInputs) -> Bow | None:
    # a bent strip stands by its curve, and a container was made to hold liquids
    if made.length_mm is None or box_plan.container or box_plan.rubber_sg is None:
        return None
    long_mm = max(made.length_mm, made.width_mm or 0)
    sheet = _sheet(settled(inputs, BOX))
    return wall_bow(length_mm=long_mm, depth_mm=made.fill_mm, sg=box_plan.rubber_sg, sheet=sheet, side_mm=box_plan.side_mm)


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
        made.panels, outside_mm=made.inside_mm, around_mm=around, thickness_mm=settled(inputs, BOX)["wall_thickness_mm"],
        sheet_mm=sheet_mm, kerf_mm=kerf_mm,
    )  # fmt: skip


def _sheet_and_saw(inputs: BoxInputs) -> tuple[tuple[float, float], float]:
    said = settled(inputs, BOX)
    return (said["sheet_length_mm"], said["sheet_width_mm"]), said["kerf_mm"]


def _absent(beside: Beside) -> list[Finding]:
    return [Finding(code="other-not-ready", facts={"name": name}, field="other_id") for name in beside.not_ready]


def _bonds(inputs: BoxInputs, rubber: Rubber | None) -> tuple[Finding, ...]:
    if not inputs.filler_ml or rubber is None or inputs.filler_family in (None, "", rubber.family):
        return ()
    facts = {"filler": FAMILIES[inputs.filler_family].lower(), "rubber": FAMILIES[rubber.family].lower()}
    return (Finding(code="filler-will-not-bond", facts=facts, field="filler_family"),)


def _sg_parts(rubber: Rubber) -> dict[str, float] | None:
    return {"A": rubber.sg_a, "B": rubber.sg_b} if rubber.sg_a is not None and rubber.sg_b is not None else None


def _mix_plan(rubber: Rubber, said: Mapping[str, Any], net_ml: float) -> MixPlan:
    by_volume = said["basis"] == "volume" and rubber.by_volume
    ratio = (rubber.volume_a or 0, rubber.volume_b or 0) if by_volume else rubber.weight_ratio
    return MixPlan(
        ratio={"A": ratio[0], "B": ratio[1]},
        basis="volume" if by_volume else "weight",
        need_ml=net_ml,
        sg_parts=_sg_parts(rubber),
        sg_mixed=rubber.sg_mixed,
        spare_pct=said["spare_pct"],
        cling_g=said["cling_g"],
        pigment_pct=said["pigment_pct"],
        scale_step_g=said["scale_step_g"] or None,
        tolerance_pct=rubber.tolerance_pct,
        cup_ml=said["cup_ml"],
        rise_factor=said["rise_factor"],
    )


def _sg(rubber: Rubber | None) -> float | None:
    # what the box needs of the rubber is only its SG: a mix of nothing in particular tells it
    if rubber is None:
        return None
    return mix(
        MixPlan(ratio=dict(zip("AB", rubber.weight_ratio, strict=True)), need_g=1, sg_parts=_sg_parts(rubber), sg_mixed=rubber.sg_mixed)
    ).sg_mixed


def _pour(the_box: Box | None, inputs: RubberInputs, rubber: Rubber | None) -> Pour | None:
    if the_box is None or rubber is None:
        return None
    if not the_box.net_ml > 0:
        raise Refused("", "The box leaves no room for rubber. Look at its clearances first.")
    said = settled(inputs, RUBBER)
    mixed = mix(_mix_plan(rubber, said, the_box.net_ml))
    sg = mixed.sg_mixed or 0.0
    need_g = the_box.net_ml * sg
    rubber_g = sum(part.g for part in mixed.parts.values())
    return Pour(
        rubber=rubber,
        mix=mixed,
        need_g=need_g,
        kits=kit_use(rubber_g=rubber_g, kit_g=rubber.kit_g, kit_price=rubber.kit_price) if rubber.kit_g else None,
        too_much_g=(the_box.displaced_ml - the_box.filler_ml) * sg * (1 + said["spare_pct"] / 100),
        short_g=mixed.total_g - need_g,
        marks_error_pct=_marks_error_pct(mixed, said) if said["basis"] == "volume" else None,
    )


def _marks_error_pct(mixed: Mix, said: Mapping[str, Any]) -> float | None:
    # a cup is read to a quarter of a mark (common practice), so it errs like a scale that steps by half a mark
    volumes = {name: part.ml / len(mixed.batches) for name, part in mixed.parts.items() if part.ml is not None}
    return worst_ratio_error_pct(volumes, said["cup_mark_ml"] / 2) if len(volumes) == len(mixed.parts) else None


def _pour_findings(pour: Pour | None, inputs: RubberInputs, rubber: Rubber | None, retired: bool) -> list[Finding]:
    found = list(rubber.findings()) if rubber else []
    if rubber and retired:
        found.append(Finding(code="retired", facts={"name": rubber.name}, field="rubber_id"))
    by_volume = inputs.basis == "volume"
    if rubber and by_volume and not rubber.by_volume:
        found.append(Finding(code="no-volume-ratio", field="basis"))
    if pour is None:
        return found
    # by volume the scale is not used, so its step is no matter
    found += [finding for finding in pour.mix.findings if not (by_volume and finding.code == "scale-too-coarse")]
    said = settled(inputs, RUBBER)
    if by_volume and pour.rubber.by_volume and (pour.marks_error_pct is None or pour.marks_error_pct > pour.rubber.tolerance_pct):
        facts = {
            "mark": Amount(said["cup_mark_ml"], "volume"),
            "worst": Amount(pour.marks_error_pct, "percent") if pour.marks_error_pct is not None else "any amount",
            "tolerance": Amount(pour.rubber.tolerance_pct, "percent"),
        }
        found.append(Finding(code="marks-too-coarse", facts=facts, field="cup_mark_ml"))
    if len(pour.mix.batches) > 1 and pour.rubber.pot_life_min:
        facts = {"batches": str(len(pour.mix.batches)), "pot_life": Amount(pour.rubber.pot_life_min, "time")}
        found.append(Finding(code="pot-life-short", facts=facts, field="cup_ml"))
    if pour.kits and pour.kits.kits > 1 and pour.rubber.kit_g:
        found.append(Finding(code="kit-short", facts={"kits": str(pour.kits.kits), "kit": Amount(pour.rubber.kit_g, "mass", 0)}, field="rubber_id"))
    return found
