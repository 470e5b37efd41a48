"""The plan of a whole job, worked out from what was filled in at its stations."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from threading import Lock

from cachetools import LRUCache, cached

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.hold_down import HoldDown, hold_down
from ufrin.core.box.mould_box import Box, box
from ufrin.core.box.wall_bow import WallBow
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.inputs.stations import STATIONS, State, Station
from ufrin.core.job.box_station import bow_of, box_findings, check_cutting, plan_box
from ufrin.core.job.checks_station import Checks, JobSoFar, ShopWays, check
from ufrin.core.job.master_station import MasterAnswer, answer_master, box_master
from ufrin.core.job.opening_findings import findings_of
from ufrin.core.job.opening_station import Opening, OpeningContext, open_mould
from ufrin.core.job.rubber_findings import rubber_findings
from ufrin.core.job.rubber_station import Pour, PourTarget, pour
from ufrin.core.job.shelf_picks import ShelfPicks, sg_of
from ufrin.core.job.sign_off import Stop, open_stops, stops
from ufrin.core.master.master_form import Form, Master
from ufrin.core.opening.mould_styles import PARTED
from ufrin.core.pairing.contacts import Surface
from ufrin.core.shelf.containers import Container
from ufrin.core.wording.findings import Finding
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
    together.
    """

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
    whole : bool
        Whether all is wanted, or amounts alone.
    """

    shelf: ShelfPicks = field(default_factory=ShelfPicks)
    mesh: Form | None = None
    container: Container | None = None
    others: tuple[Master, ...] = ()
    other_surfaces: tuple[Surface, ...] = ()
    not_ready: tuple[str, ...] = ()
    shop: ShopWays = ShopWays()
    whole: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class _Boxed:
    """The Box station, as far as it could be worked out."""

    masters: tuple[Master, ...] = ()
    plan: BoxPlan | None = None
    box: Box | None = None
    bow: WallBow | None = None
    refusals: tuple[Refused, ...] = ()


def with_halves(box_inputs: BoxInputs, opening: OpeningInputs) -> BoxInputs:
    """Add rubber under the master of a mould in two halves, unless the maker filled in how much.

    Parameters
    ----------
    box_inputs, opening : BoxInputs, OpeningInputs
        As filled in.

    Returns
    -------
    BoxInputs
        As much under it as over it.
    """
    if box_inputs.under_mm is not None:
        return box_inputs
    under_mm = usual_under_mm(box_inputs, opening)
    return box_inputs if under_mm is None else replace(box_inputs, under_mm=under_mm)


def usual_under_mm(box_inputs: BoxInputs, opening: OpeningInputs) -> float | None:
    """Return the rubber under the master that counts while the maker filled in none.

    Parameters
    ----------
    box_inputs, opening : BoxInputs, OpeningInputs
        As filled in.

    Returns
    -------
    float or None
        As much as over it in a mould in two halves; None for other moulds, where the usual figure counts.
    """
    return box_inputs.settled().over_mm if opening.style in PARTED else None


@cached(LRUCache(MOST_PLANS), lock=Lock())
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
    box_inputs = with_halves(box_inputs, opening)
    measured = answer_master(master, context.mesh)
    boxed = _boxed(master, measured, box_inputs, context)
    opens = open_mould(opening, _opening_context(measured, boxed, box_inputs, rubber_inputs, context))
    made_pour, pour_refused = _poured(_pour_target(boxed.box, measured, opens), rubber_inputs, context.shelf)
    job = JobSoFar(
        master=master,
        box=box_inputs,
        rubber=rubber_inputs,
        checks=checked,
        shelf=context.shelf,
        others=context.other_surfaces,
        box_plan=boxed.plan,
        fill_mm=boxed.box.fill_mm if boxed.box else None,
        opening=opens,
        pour=made_pour,
    )
    checks = check(job, context.shop)
    refusals: Refusals = {
        "master": _master_refusals(measured),
        "box": boxed.refusals,
        "opening": opens.refusals if opens else (),
        "rubber": pour_refused,
    }
    findings: Findings = {
        "master": measured.findings,
        "opening": _opening_findings(opens, opening, boxed.plan),
        "box": box_findings(boxed.box, boxed.bow, box_inputs, context.shelf.rubber, context.not_ready),
        "rubber": rubber_findings(made_pour, rubber_inputs, context.shelf),
        "checks": checks.findings if checks else (),
    }
    all_stops = stops(findings, refusals, context.shop.signed)
    return Plan(
        master=measured,
        masters=boxed.masters,
        opening=opens,
        box_plan=boxed.plan,
        box=boxed.box,
        net_pm_ml=_net_pm_ml(measured, boxed, box_inputs, context),
        bow=boxed.bow,
        hold_down=_hold_down(boxed),
        pour=made_pour,
        checks=checks,
        stops=all_stops,
        refusals=refusals,
        findings=findings,
        states=_states(_stations_made(measured, boxed, made_pour, checks), all_stops, findings),
    )


def _master_refusals(measured: MasterAnswer) -> tuple[Refused, ...]:
    refused = tuple(way.refused for way in measured.ways if way.refused)
    return (*refused, measured.form_refused) if measured.form_refused else refused


def _boxed(master: MasterInputs, measured: MasterAnswer, inputs: BoxInputs, context: JobContext) -> _Boxed:
    rubber, made = context.shelf.rubber, _Boxed()
    try:
        own = box_master(master, measured, inputs.settled().count or 1)
        if own is not None:
            made = _Boxed(masters=(own, *context.others))
            plan_of_box = plan_box(made.masters, inputs, sg_of(rubber) if rubber else None, context.container)
            made = replace(made, plan=plan_of_box)
            made_box = box(plan_of_box)
            made = replace(made, box=made_box)
            made = replace(made, bow=bow_of(plan_of_box, made_box, inputs))
    except Refused as refused:
        made = replace(made, refusals=(refused,))
    try:
        check_cutting(inputs)
    except Refused as refused:  # the box is valid all the same
        made = replace(made, refusals=(*made.refusals, refused))
    return made


def _opening_context(
    measured: MasterAnswer, boxed: _Boxed, inputs: BoxInputs, rubber_inputs: RubberInputs, context: JobContext
) -> OpeningContext:
    settled, rubber = inputs.settled(), context.shelf.rubber
    return OpeningContext(
        form=measured.form,
        masters=boxed.masters,
        box=boxed.box,
        foot_mm=boxed.plan.foot_mm if boxed.plan else 0.0,
        side_mm=settled.side_mm,
        over_mm=settled.over_mm,
        elongation_pct=rubber.elongation_pct if rubber else None,
        shots=int(rubber_inputs.shots_wanted) if rubber_inputs.shots_wanted else None,
        halves_only=not context.whole,
    )


def _pour_target(made_box: Box | None, measured: MasterAnswer, opens: Opening | None) -> PourTarget:
    form, size = measured.form, measured.size_mm
    area = form.area_cm2 if form else None
    if area is None and size is not None:  # the outside, standing on its foot
        length, width, height = size
        area = (length * width + 2 * height * (length + width)) / 100
    return PourTarget(
        box=made_box,
        size_mm=size,
        area_cm2=area,
        displaced_ml=measured.measured.volume_ml if measured.measured else None,
        halves_ml=opens.halves_ml if opens else None,
    )


def _poured(target: PourTarget, inputs: RubberInputs, shelf: ShelfPicks) -> tuple[Pour | None, tuple[Refused, ...]]:
    try:
        return pour(target, inputs, shelf), ()
    except Refused as refused:
        return None, (refused,)


def _opening_findings(opens: Opening | None, inputs: OpeningInputs, box_plan: BoxPlan | None) -> tuple[Finding, ...]:
    if opens is None:
        return ()
    slants = bool(box_plan and box_plan.the_pot)
    return findings_of(opens, inputs, slants=slants, bed_mm=box_plan.bed_mm if box_plan else 0.0)


def _net_pm_ml(measured: MasterAnswer, boxed: _Boxed, inputs: BoxInputs, context: JobContext) -> float | None:
    # the error follows from the master's own; that of other jobs' masters is not known here
    if boxed.box is None or measured.measured is None or context.others:
        return None
    return measured.measured.plus_minus_ml * (inputs.settled().count or 1)


def _hold_down(boxed: _Boxed) -> HoldDown | None:
    if boxed.plan is None or not boxed.plan.rubber_sg:
        return None
    return hold_down(boxed.masters[0], boxed.plan.rubber_sg, boxed.plan.sunk_mm)


def _stations_made(
    measured: MasterAnswer, boxed: _Boxed, made_pour: Pour | None, checks: Checks | None
) -> dict[Station, bool]:
    return {
        "master": measured.size_mm is not None,
        "opening": bool(boxed.masters),
        "box": boxed.box is not None,
        "rubber": made_pour is not None,
        "checks": checks is not None,
    }


def _states(
    made: Mapping[Station, bool], all_stops: tuple[Stop, ...], findings: Mapping[Station, tuple[Finding, ...]]
) -> dict[Station, State]:
    stopped = {stop.station for stop in open_stops(all_stops)}
    return {one: _state(made[one], is_stopped=one in stopped, findings=findings[one]) for one in STATIONS}


def _state(made: bool, *, is_stopped: bool, findings: tuple[Finding, ...]) -> State:
    if is_stopped:
        return "stop"
    if not made:
        return "empty"
    # a stop that somebody signed off stays a warning
    return "warning" if any(finding.level != "note" for finding in findings) else "ready"
