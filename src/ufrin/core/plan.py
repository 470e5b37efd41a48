"""Plan: a whole job worked out from what was filled in at its stations."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ufrin.core.boxes import Box, BoxPlan, Master, Outline, box
from ufrin.core.costs import KitUse, kit_use
from ufrin.core.findings import Amount, Finding, worst_first
from ufrin.core.masters import MasterAnswer, answer_master
from ufrin.core.rubbers import Rubber
from ufrin.core.scales import worst_ratio_error_pct
from ufrin.core.stations import STATIONS, BoxInputs, MasterInputs, RubberInputs, State, Station
from ufrin.core.terms import BOX, RUBBER, settled
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
    box: Box | None
    net_pm_ml: float | None
    pour: Pour | None
    refusals: Mapping[Station, tuple[Refused, ...]]
    findings: Mapping[Station, tuple[Finding, ...]]
    states: Mapping[Station, State]


def plan(master: MasterInputs, box_inputs: BoxInputs, rubber_inputs: RubberInputs, rubber: Rubber | None, *, retired: bool = False) -> Plan:
    """Work out a job from what was filled in; nothing that a maker typed makes it fail.

    Parameters
    ----------
    master, box_inputs, rubber_inputs : MasterInputs, BoxInputs, RubberInputs
        The stations.
    rubber : Rubber or None
        The one chosen.
    retired : bool, optional
        Whether the Shelf has retired it.

    Returns
    -------
    Plan
        Answers, refusals, findings and states.
    """
    refusals: dict[Station, tuple[Refused, ...]] = {}
    measured = answer_master(master)
    refusals["master"] = tuple(way.refused for way in measured.ways if way.refused)
    the_box = pour = None
    try:
        the_box = _box(master, measured, box_inputs, rubber)
    except Refused as refused:
        refusals["box"] = (refused,)
    try:
        pour = _pour(the_box, rubber_inputs, rubber)
    except Refused as refused:
        refusals["rubber"] = (refused,)
    findings: dict[Station, tuple[Finding, ...]] = {
        "master": measured.findings,
        "box": the_box.findings if the_box else (),
        "rubber": worst_first(_pour_findings(pour, rubber_inputs, rubber, retired)),
    }
    made: dict[Station, bool] = {"master": measured.outside_ml is not None, "box": the_box is not None, "rubber": pour is not None}
    states = {station: _state(made[station], refusals.get(station, ()), findings[station]) for station in STATIONS}
    pm = measured.measured.plus_minus_ml * _count(box_inputs) if the_box and measured.measured else None
    return Plan(master=measured, box=the_box, net_pm_ml=pm, pour=pour, refusals=refusals, findings=findings, states=states)


def _state(made: bool, refusals: tuple[Refused, ...], findings: tuple[Finding, ...]) -> State:
    levels = {finding.level for finding in findings}
    if refusals or "stop" in levels:
        return "stop"
    if not made:
        return "empty"
    return "warning" if "warn" in levels else "ready"


def _count(inputs: BoxInputs) -> int:
    return int(inputs.count or 1)


def _box(master: MasterInputs, measured: MasterAnswer, inputs: BoxInputs, rubber: Rubber | None) -> Box | None:
    if measured.outside_ml is None:
        return None
    if any(finding.level == "stop" for finding in measured.findings):
        raise Refused("", "The figures of the master contradict each other. Settle that on the Master station first.")
    said = settled(inputs, BOX)
    outline: Outline = "round" if master.outline == "round" else "rectangle"
    one = Master(
        length_mm=master.length_mm or 0,
        width_mm=(master.length_mm if outline == "round" else master.width_mm) or 0,
        height_mm=master.height_mm or 0,
        volume_ml=measured.measured.volume_ml if measured.measured else None,
        mass_g=master.mass_g,
        count=_count(inputs),
        outline=outline,
    )
    clearances = {key: said[key] for key in ("side_mm", "over_mm", "under_mm", "gap_mm", "bed_mm", "freeboard_mm", "wall_thickness_mm")}
    return box(
        BoxPlan(
            masters=(one,),
            shape="round" if said["shape"] == "round" else "rectangle",
            rows=int(said["rows"]) if said["rows"] else None,
            columns=int(said["columns"]) if said["columns"] else None,
            sunk_mm=said["sunk_mm"] if said["bed_mm"] else 0.0,
            rubber_sg=_sg(rubber),
            **clearances,
        )
    )


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
        too_much_g=the_box.displaced_ml * sg * (1 + said["spare_pct"] / 100),
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
