"""The plan of a whole job, worked out from what was filled in at its stations: one plan, which every page shows."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from threading import Condition

from cachetools import LRUCache, cached

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.hold_down import HoldDown
from ufrin.core.box.jacket import Jacket, jacket
from ufrin.core.box.mould_box import Box
from ufrin.core.box.wall_bow import WallBow
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs, SettledRubber
from ufrin.core.inputs.stations import Inputs, State, Station
from ufrin.core.job.box_findings import box_findings
from ufrin.core.job.box_station import inputs_for_style
from ufrin.core.job.boxed import Boxed, boxed, own_master
from ufrin.core.job.checks_station import Checks, JobSoFar, ShopWays, check
from ufrin.core.job.halves import Halves, halves_of
from ufrin.core.job.master_station import MasterAnswer, answer_master
from ufrin.core.job.mould_style import BOXLESS, MouldStyle, mould_style
from ufrin.core.job.opening_findings import findings_of
from ufrin.core.job.opening_station import Opening, OpeningContext, open_mould
from ufrin.core.job.pour_targets import WhatIsFilled, targets_of
from ufrin.core.job.rubber_choice import assumed_rubber
from ufrin.core.job.rubber_findings import rubber_findings
from ufrin.core.job.rubber_of_kinds import boxes_of_kinds, planned_ml, what_is_filled
from ufrin.core.job.rubber_station import Pour, RubberPlan, rubber_plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.job.shop_figures import as_mixed, settled_rubber, with_shop_scale
from ufrin.core.job.sign_off import Stop, stops
from ufrin.core.job.station_states import station_states
from ufrin.core.job.unusual_inputs import unusual
from ufrin.core.job.weighed_pours import WeighedPour, no_longer_fits
from ufrin.core.master.master_form import Form, Master
from ufrin.core.opening.open_hollows import finding_of, open_hollows
from ufrin.core.pairing.contacts import Surface
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.weighing.coats import skin_mm
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused

MOST_PLANS = 64
NO_OPENING_INPUTS = OpeningInputs()
NO_CHECK_INPUTS = CheckInputs()
Refusals = dict[Station, tuple[Refused, ...]]
Findings = dict[Station, tuple[Finding, ...]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """A whole job worked out.

    What could not be worked out is None, and ``refusals`` says why, by station; ``stops`` are those of all stations
    together. ``assumed`` stands for the rubber while none is chosen. ``box_inputs`` and ``rubber_settled`` are the
    figures that count, with what the kind of mould and the workshop decide in place.
    """

    master: MasterAnswer
    masters: tuple[Master, ...]
    kind: MouldStyle | None
    opening: Opening | None
    box_inputs: BoxInputs
    box_plan: BoxPlan | None
    box: Box | None
    halves: Halves | None
    jacket: Jacket | None
    net_pm_ml: float | None
    bow: WallBow | None
    hold_downs: tuple[HoldDown, ...]
    rubber_settled: SettledRubber
    rubber: RubberPlan | None
    mixed: Rubber | None
    assumed: Rubber | None
    checks: Checks | None
    stops: tuple[Stop, ...]
    refusals: Mapping[Station, tuple[Refused, ...]]
    findings: Mapping[Station, tuple[Finding, ...]]
    states: Mapping[Station, State]

    @property
    def pours(self) -> tuple[Pour, ...]:
        """Every pour of the job, in the order of the work; empty while there is none."""
        return self.rubber.pours if self.rubber else ()

    @property
    def pour(self) -> Pour | None:
        """The first pour."""
        return self.pours[0] if self.pours else None

    @property
    def rubber_ml(self) -> float | None:
        """The rubber that the mould takes, also before a rubber is chosen; None while that is not known."""
        return self.rubber.need_ml if self.rubber else self.box.net_ml if self.box else None

    @property
    def cost(self) -> float | None:
        """Of the rubber and what goes into it; None without a price."""
        return self.rubber.kits.cost if self.rubber else None

    @property
    def style(self) -> str:
        """The kind of mould that counts; empty while the master is not known."""
        return self.kind.style if self.kind else ""


@dataclass(frozen=True, slots=True, kw_only=True)
class JobContext:
    """What a job needs from outside its own stations.

    Parameters
    ----------
    shelf : ShelfPicks
        What the Rubber station points to on the Shelf.
    mesh : Form or None
        Its mesh as it stands.
    container : Container or None
        The one chosen at the Box station.
    others, other_surfaces : tuple of Master, tuple of Surface
        The masters of other jobs that share its box, and what their surfaces are.
    not_ready : tuple of str
        Names of the jobs whose masters can't share it yet.
    shop : ShopWays
        How the shop does things.
    weighed : tuple of WeighedPour
        What is in the cup or in the mould of a mould that is begun.
    """

    shelf: ShelfPicks = field(default_factory=ShelfPicks)
    mesh: Form | None = None
    container: Container | None = None
    others: tuple[Master, ...] = ()
    other_surfaces: tuple[Surface, ...] = ()
    not_ready: tuple[str, ...] = ()
    shop: ShopWays = ShopWays()
    weighed: tuple[WeighedPour, ...] = ()


@cached(LRUCache(MOST_PLANS), condition=Condition())
def plan(
    master: MasterInputs,
    box_inputs: BoxInputs,
    rubber_inputs: RubberInputs,
    context: JobContext,
    opening: OpeningInputs = NO_OPENING_INPUTS,
    *,
    checked: CheckInputs = NO_CHECK_INPUTS,
) -> Plan:
    """Work out a job from what was filled in; nothing that a maker typed makes it fail.

    The newest plans are kept by the value of all that they are worked out from, so that a page that is shown again,
    or at another station, is not worked out again.

    Parameters
    ----------
    master, box_inputs, rubber_inputs : MasterInputs, BoxInputs, RubberInputs
        The stations.
    context : JobContext
        What they point to.
    opening, checked : OpeningInputs, CheckInputs, optional
        The Opening and Checks stations.

    Returns
    -------
    Plan
        Answers, refusals, findings and states.
    """
    master, settled = with_shop_scale(master, context.shop), settled_rubber(rubber_inputs, context.shop, context.shelf)
    mixed, blend_refused = as_mixed(context.shelf, settled)
    # while no rubber is chosen, what must be known early is typical of the family that suits the cast
    assumed = None if mixed else assumed_rubber(checked.cast_material, context.shop.own_rules)
    taken = mixed or assumed
    measured = answer_master(master, context.mesh)
    own, master_refused = own_master(master, measured, box_inputs)
    typed: dict[Station, Inputs] = {"master": master, "opening": opening, "box": box_inputs, "rubber": rubber_inputs}
    typed_box, kind = box_inputs, None
    if own is None:
        in_box = boxed((), "", typed_box, rubber_sg=None, container=None)  # a sheet is checked without a master too
    else:
        boxes = boxes_of_kinds(
            (own, *context.others),
            typed_box,
            rubber_sg=taken.sg if taken else None,
            container=context.container,
            size_pm_mm=_size_pm_mm(master, measured),
        )
        kind = mould_style(
            opening,
            typed_box,
            own,
            measured.form,
            rubber=taken,
            shots=rubber_inputs.shots_wanted,
            planned_ml=planned_ml(boxes, own, measured, settled),
        )
        box_inputs, in_box = inputs_for_style(typed_box, kind.style), boxes[kind.style]
    opens = open_mould(opening, _opening_context(kind, measured, in_box, box_inputs, context)) if kind else None
    halves = None
    if in_box.box and in_box.plan and opens and opens.is_parted:
        halves = halves_of(in_box.box, in_box.plan, opens.parting_surface)
    filled = what_is_filled(kind.style if kind else "", own, in_box.box, halves, measured)
    poured, pour_refused = _poured(filled, settled, context.shelf, mixed, blend_refused)
    made_jacket, jacket_refused = _jacket(filled, settled, box_inputs)
    job = JobSoFar(
        master=master,
        box=box_inputs,
        opening=opening,
        rubber=rubber_inputs,
        checks=checked,
        shelf=context.shelf,
        mixed=mixed,
        others=context.other_surfaces,
        box_plan=in_box.plan,
        fill_mm=in_box.box.fill_mm if in_box.box else None,
        opens=opens,
        pour=poured.pours[0] if poured else None,
    )
    checks = check(job, context.shop)
    refusals: Refusals = {
        "master": _master_refusals(measured),
        "box": (*master_refused, *in_box.refusals, *jacket_refused),
        "opening": opens.refusals if opens else (),
        "rubber": pour_refused,
    }
    findings: Findings = {
        "master": worst_first([*measured.findings, *_hollow_findings(measured)]),
        "opening": worst_first(
            [*_opening_findings(opens, opening, halves, in_box.plan, typed_box), *_assumed_findings(assumed, opens)]
        ),
        "box": box_findings(in_box, halves, box_inputs, context.shelf.rubber, context.not_ready),
        "rubber": (
            *no_longer_fits(context.weighed, poured.pours if poured else (), kind.style if kind else ""),
            *rubber_findings(poured, settled, context.shelf, mixed, weighed=context.weighed),
        ),
        "checks": checks.findings if checks else (),
    }
    findings = _with_unusual(findings, typed, measured)
    all_stops = stops(findings, refusals, context.shop.signed)
    return Plan(
        master=measured,
        masters=in_box.masters,
        kind=kind,
        opening=opens,
        box_inputs=box_inputs,
        box_plan=in_box.plan,
        box=in_box.box,
        halves=halves,
        jacket=made_jacket,
        net_pm_ml=_net_pm_ml(measured, in_box, box_inputs, context),
        bow=in_box.bow,
        hold_downs=() if halves else in_box.hold_downs,
        rubber_settled=settled,
        rubber=poured,
        mixed=mixed,
        assumed=assumed,
        checks=checks,
        stops=all_stops,
        refusals=refusals,
        findings=findings,
        states=station_states(_stations_made(measured, kind, in_box, poured, checks), all_stops, findings),
    )


def _master_refusals(measured: MasterAnswer) -> tuple[Refused, ...]:
    refused = tuple(way.refused for way in measured.ways if way.refused)
    return (*refused, measured.form_refused) if measured.form_refused else refused


def _size_pm_mm(master: MasterInputs, measured: MasterAnswer) -> float:
    settled = master.settled()
    is_mesh = measured.form is not None and not measured.form.is_standin
    return settled.surface_pm_mm if is_mesh else settled.size_pm_mm


def _assumed_findings(assumed: Rubber | None, opens: Opening | None) -> list[Finding]:
    if assumed is None or opens is None:
        return []
    facts: dict[str, Amount | str] = {
        "family": assumed.name.lower(),
        "sg": Amount(assumed.sg, "density"),
        "elongation": Amount(assumed.elongation_pct or 0.0, "stretch", 0),
    }
    return [Finding(code="typical-figures", facts=facts, field="style")]


def _with_unusual(findings: Findings, typed: Mapping[Station, Inputs], measured: MasterAnswer) -> Findings:
    notes = {station: unusual(station, inputs, measured.size_mm) for station, inputs in typed.items()}
    return {station: worst_first([*found, *notes.get(station, ())]) for station, found in findings.items()}


def _hollow_findings(measured: MasterAnswer) -> list[Finding]:
    if measured.form is None or measured.form.is_standin:
        return []
    return [finding_of(hollow) for hollow in open_hollows(measured.form)]


def _opening_context(
    kind: MouldStyle, measured: MasterAnswer, in_box: Boxed, inputs: BoxInputs, context: JobContext
) -> OpeningContext:
    settled, plan_of_box = inputs.settled(), in_box.plan
    board_mm = 0.0
    if plan_of_box and plan_of_box.kind != "tray":  # a tray's lip fills what is under the master
        board_mm = plan_of_box.bed_mm - plan_of_box.foot_mm
    return OpeningContext(
        kind=kind,
        form=measured.form,
        masters=in_box.masters,
        box=in_box.box,
        foot_mm=plan_of_box.foot_mm if plan_of_box else 0.0,
        board_mm=board_mm,
        over_mm=settled.over_mm,
    )


def _poured(
    filled: WhatIsFilled,
    settled: SettledRubber,
    shelf: ShelfPicks,
    mixed: Rubber | None,
    blend_refused: tuple[Refused, ...],
) -> tuple[RubberPlan | None, tuple[Refused, ...]]:
    if mixed is None or blend_refused:
        return None, blend_refused
    try:
        return rubber_plan(targets_of(filled, settled), settled, shelf, mixed), ()
    except Refused as refused:
        return None, (refused,)


def _jacket(
    filled: WhatIsFilled, settled: SettledRubber, inputs: BoxInputs
) -> tuple[Jacket | None, tuple[Refused, ...]]:
    if filled.style != "skin" or filled.size_mm is None or not filled.coated_cm2:
        return None, ()
    try:
        made = jacket(
            size_mm=filled.size_mm,
            coated_cm2=filled.coated_cm2,
            skin_mm=skin_mm(settled.coats, settled.coat_mm),
            material=inputs.settled().jacket_material,
            thickness_mm=inputs.jacket_mm,
        )
    except Refused as refused:
        return None, (refused,)
    return made, ()


def _opening_findings(
    opens: Opening | None, inputs: OpeningInputs, halves: Halves | None, box_plan: BoxPlan | None, typed_box: BoxInputs
) -> tuple[Finding, ...]:
    if opens is None:
        return ()
    slants = bool(box_plan and box_plan.the_pot)
    return findings_of(opens, inputs, halves, slants=slants, bed_mm=typed_box.bed_mm or 0.0)


def _net_pm_ml(measured: MasterAnswer, in_box: Boxed, inputs: BoxInputs, context: JobContext) -> float | None:
    # the error follows from the master's own; that of other jobs' masters is not known here
    if in_box.box is None or measured.measured is None or context.others:
        return None
    return measured.measured.plus_minus_ml * (inputs.settled().count or 1)


def _stations_made(
    measured: MasterAnswer, kind: MouldStyle | None, in_box: Boxed, poured: RubberPlan | None, checks: Checks | None
) -> dict[Station, bool]:
    return {
        "master": measured.size_mm is not None,
        "opening": bool(in_box.masters),
        "box": in_box.box is not None or bool(kind and kind.style in BOXLESS),
        "rubber": poured is not None,
        "checks": checks is not None,
    }
