"""A job as a page needs it: what is kept, what it points to, and all that follows from it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from threading import Condition

from cachetools import LRUCache, cached

from ufrin.actions.job import meshes
from ufrin.actions.job.meshes import MeshState
from ufrin.actions.shelf.picks import cast_picks, gather, waiting
from ufrin.actions.shop.shop_ways import shops
from ufrin.core.casting.additions import Addition
from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.resins import POURED_AS, Resin
from ufrin.core.clocks.moment import Moment
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.stations import Station
from ufrin.core.job.board_figures import BoardFigures, board_figures
from ufrin.core.job.casts_station import CastsAnswer, answer_casts
from ufrin.core.job.checks_station import ShopWays
from ufrin.core.job.finished_mould import finished_mould
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.job_state import PourState, Stage, curing_finding, pour_states, stage_of
from ufrin.core.job.master_station import answer_master, box_master
from ufrin.core.job.parts_that_meet import master_surface
from ufrin.core.job.pour_mix import is_same_mix
from ufrin.core.job.preparation import StepState, step_states
from ufrin.core.job.sheet_figures import sheet_key
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.job.sign_off import SignOff, Stop, open_stops, stop_of
from ufrin.core.job.weighed_pours import PourFigures, WeighedPour, pour_figures, weighed_pours
from ufrin.core.master.attitudes import Attitude
from ufrin.core.master.master_form import Master
from ufrin.core.pairing.contacts import Surface
from ufrin.core.pairing.releases import Product
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.scales import Scale
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.whole_kit import Waiting
from ufrin.errors import Refused
from ufrin.store import (
    board_rows,
    done_steps,
    faults,
    jobs,
    moulds,
    pours,
    safety_sheets,
    schedule,
    sheets,
    shots,
    workshop_settings,
)
from ufrin.store.connection import Connection
from ufrin.store.faults import Pairing, StoredFault
from ufrin.store.jobs import Job
from ufrin.store.pours import StoredPour
from ufrin.store.sheets import PrintedSheet
from ufrin.store.shelf import ADDITIONS, ADDITIVES, CONTAINERS, CUPS, PRODUCTS, RESINS, RUBBERS, SCALES, Stored
from ufrin.store.workshop_settings import Workshop

MOST_STATES = 1024
LIGHT_TRIANGLES = 100_000  # a job with a larger mesh is worked out by a worker, not while a list is waited for


@dataclass(frozen=True, slots=True, kw_only=True)
class OpenJob:
    """A job as a page needs it: what is kept, what it points to, and all that follows from it."""

    job: Job
    context: JobContext
    plan: Plan
    rubbers: tuple[Stored[Rubber], ...]
    containers: tuple[Stored[Container], ...]
    additives: tuple[Stored[Additive], ...]
    cups: tuple[Stored[Cup], ...]
    shelf: ShelfPicks
    other_jobs: tuple[tuple[int, str], ...]
    mesh: MeshState | None
    attitudes: tuple[Attitude, ...]
    workshop: Workshop
    casts: CastsAnswer | None = None
    open_cast: int | None = None
    last_shot_s: float = 0.0
    mould_id: int | None = None
    scales: tuple[Stored[Scale], ...] = ()
    resins: tuple[Stored[Resin], ...] = ()
    additions: tuple[Stored[Addition], ...] = ()
    products: tuple[Stored[Product], ...] = ()
    happened: tuple[StoredFault, ...] = ()
    records: tuple[tuple[int, BenchState], ...] = ()
    sheets: Mapping[tuple[str, int], str] = field(default_factory=dict)
    signed: tuple[SignOff, ...] = ()
    printed: PrintedSheet | None = None
    began_at: Mapping[int, datetime] = field(default_factory=dict)
    done_at_s: Mapping[str, float] = field(default_factory=dict)
    planned_s: Mapping[str, tuple[float, float]] = field(default_factory=dict)

    def step_states(self, now: Moment) -> tuple[StepState, ...]:
        """Return where each step of the preparation stands, for the mould at work."""
        if self.plan.checks is None:
            return ()
        at_work = self.pour_states(now)
        is_made = bool(at_work) and all(one.is_poured for one in at_work)
        own = set() if is_made else {one.number for one in at_work}
        since_s = max((at.timestamp() for number, at in self.began_at.items() if number not in own), default=0.0)
        return step_states(self.plan.checks.steps, self.done_at_s, since_s=since_s, now_s=now.wall_s)

    def cast_steps(self, now: Moment) -> tuple[StepState, ...]:
        """Return where each step before the next shot stands: what was done before the last one belongs to that one."""
        steps = self.casts.steps if self.casts else ()
        return step_states(steps, self.done_at_s, since_s=self.last_shot_s, now_s=now.wall_s)

    @property
    def cast_stops(self) -> tuple[Stop, ...]:
        """The stops before a shot is weighed."""
        return self.casts.stops(self.signed) if self.casts else ()

    @property
    def is_sheet_out_of_date(self) -> bool:
        """Whether a sheet was printed whose figures are no longer those of the plan."""
        return self.printed is not None and self.printed.figures != sheet_key(self.plan)

    @property
    def spare_pct(self) -> float:
        """The spare that counts where none was typed: as learnt when the rubber was chosen."""
        learnt = self.job.rubber.learnt_spare_pct
        return self.shelf.allowance.spare_pct if learnt is None else learnt

    @property
    def cast_defaults(self) -> Mapping[str, float]:
        """What counts at the Casts station for inputs that were not filled in."""
        return self.casts.defaults if self.casts else {}

    @property
    def cavities(self) -> int:
        """How many its mould has, as it was made."""
        return self.casts.cavity.count if self.casts and self.casts.cavity else 1

    @property
    def style(self) -> str:
        """The kind of mould that counts."""
        return self.plan.style

    @property
    def advice_was(self) -> str | None:
        """The kind of mould that was advised before, where another one is now and none was chosen."""
        kind, before = self.plan.kind, self.job.advised_style
        return before if kind and not kind.is_chosen and before not in {None, kind.style} else None

    def pour_states(self, now: Moment) -> tuple[PourState, ...]:
        """Return where the pours of the mould at work stand."""
        return pour_states([pour.half for pour in self.plan.pours], self.records, now)

    def pour_figures(self, now: Moment) -> tuple[PourFigures, ...]:
        """Return what is shown of each pour: as it was weighed, or as it is planned."""
        states = self.pour_states(now)
        return tuple(pour_figures(pour, one.state) for pour, one in zip(self.plan.pours, states, strict=True))

    def as_weighed(self, now: Moment) -> dict[str, PourFigures]:
        """Return the pours of a mould that is begun and not whole as they were weighed, by their half."""
        begun = {one.half for one in self.context.weighed}
        return {one.half: one for one in self.pour_figures(now) if one.half in begun}

    def stage(self, now: Moment) -> Stage:
        """Return what the job has come to."""
        away, stopped = self.job.put_away_at is not None, bool(open_stops(self.plan.stops))
        if self.job.is_mould_only:
            return "put away" if away else "mould ready"
        return stage_of(self.pour_states(now), is_stopped=stopped, is_put_away=away, now=now)

    def bench_stops(self, now: Moment) -> tuple[Stop, ...]:
        """Return the stops before the bench opens: those of the plan, and a first half that still cures."""
        curing = curing_finding(self.pour_states(now))
        signed = {one.about: one for one in self.signed}
        return (*self.plan.stops, *((stop_of("rubber", curing, signed),) if curing else ()))

    @property
    def rubber(self) -> Rubber | None:
        """The rubber that was chosen."""
        return self.shelf.rubber

    @property
    def figures(self) -> BoardFigures:
        """What a list shows of it."""
        return board_figures(self.plan, self.rubber.name if self.rubber else "")


def _others(
    connection: Connection, inputs: BoxInputs
) -> tuple[tuple[Master, ...], tuple[Surface, ...], tuple[str, ...]]:
    # the masters of other jobs that share the box, their surfaces, and the names of those that are not ready
    wanted = [(inputs.other_id, inputs.other_count), (inputs.third_id, inputs.third_count)]
    found, surfaces, not_ready = [], [], []
    for job in jobs.some(connection, [number for number, _ in wanted if number]):
        count = next(int(count or 1) for number, count in wanted if number == job.id)
        try:
            master = box_master(
                job.master, answer_master(job.master, meshes.form_of(connection, job.master)), count, job.name
            )
        except Refused:
            master = None
        if master is None:
            not_ready.append(job.name)
        else:
            found.append(master)
            surfaces.append(master_surface(job.name, job.master, job.id))
    return tuple(found), tuple(surfaces), tuple(not_ready)


def plan_of(job: Job, context: JobContext, picks: CastPicks | None = None) -> Plan:
    """Work out a job with all that it points to; the Checks reckon with what is cast, where nobody said otherwise."""
    checked = job.checks
    if checked.cast_material is None and picks is not None and picks.resin is not None:
        checked = replace(checked, cast_material=POURED_AS.get(picks.resin.kind, picks.resin.kind))
    return plan(job.master, job.box, job.rubber, context, job.opening, checked=checked)


def context_of(
    connection: Connection,
    job: Job,
    shelf: ShelfPicks,
    container: Stored[Container] | None,
    mesh: MeshState | None,
    *,
    shop: ShopWays,
    weighed: tuple[WeighedPour, ...] = (),
) -> JobContext:
    """Gather what a job points to outside its stations."""
    others, surfaces, not_ready = _others(connection, job.box)
    return JobContext(
        shelf=shelf,
        mesh=meshes.form_of(connection, job.master, mesh) if job.master.mesh else None,
        container=container.thing if container else None,
        others=others,
        other_surfaces=surfaces,
        not_ready=not_ready,
        shop=shop,
        weighed=weighed,
    )


def opened_at(connection: Connection, job_id: int, station: Station) -> OpenJob:
    """Open a job at one of its stations, on a connection that is borrowed already."""
    job, settings = jobs.load(connection, job_id, station), workshop_settings.load(connection)
    containers = tuple(CONTAINERS.all(connection)) if station == "box" or job.box.container_id else ()
    at_rubber = station == "rubber"
    rubbers = tuple(RUBBERS.all(connection)) if at_rubber else ()
    shelf = gather(connection, [job], settings, rubbers)[job.id]
    if at_rubber and job.rubber.amount == "kit":
        shelf = replace(shelf, waiting=_waiting(connection, job))
    container = next((kept for kept in containers if kept.id == job.box.container_id), None)
    mesh = meshes.state_of(connection, job.master)
    shop = shops(connection, [job], settings)[job.id]
    poured = pours.of_jobs(connection, [job_id])[job_id]
    records = records_of(poured)
    context = context_of(connection, job, shelf, container, mesh, shop=shop, weighed=weighed_pours(records))
    picks = cast_picks(connection, job.casts)
    worked_out = plan_of(job, context, picks)
    at_checks, at_casts = station == "checks", station == "casts"
    casts = None
    if at_casts or job.casts.resin_id:
        settled = job.casts.settled()
        finished = finished_mould(settled, picks.resin, job.checks, shop) if job.is_mould_only else None
        casts = answer_casts(
            job.casts,
            worked_out,
            picks,
            checked_as=job.checks.cast_material,
            finished=finished,
            only_family=moulds.only_family(connection, job_id),
        )
    return OpenJob(
        job=job,
        context=context,
        plan=worked_out,
        rubbers=rubbers,
        containers=containers,
        additives=tuple(ADDITIVES.all(connection)) if at_rubber else (),
        cups=tuple(CUPS.all(connection)) if at_rubber else (),
        shelf=shelf,
        other_jobs=tuple(jobs.names(connection, besides=job_id)) if station == "box" else (),
        mesh=mesh,
        attitudes=meshes.attitudes_of(connection, mesh) if mesh and station == "master" else (),
        workshop=settings,
        casts=casts,
        open_cast=pours.open_cast(connection, job_id) if at_casts else None,
        last_shot_s=shots.newest_s(connection, job_id) if at_casts else 0.0,
        mould_id=moulds.of_job(connection, job_id),
        scales=tuple(SCALES.all(connection)) if at_casts and job.casts.cast_kind == "rotated" else (),
        resins=tuple(RESINS.all(connection)) if at_casts else (),
        additions=tuple(ADDITIONS.all(connection)) if at_casts else (),
        products=tuple(PRODUCTS.all(connection)) if at_checks else (),
        happened=tuple(faults.of_pairs(connection, pairings(worked_out))) if at_checks else (),
        sheets=safety_sheets.names(connection) if at_checks else {},
        records=records,
        began_at={one.id: one.started_at for one in poured},
        done_at_s=done_steps.of_job(connection, job_id),
        planned_s=schedule.times_of_job(connection, job_id) if at_casts else {},
        signed=shop.signed,
        printed=sheets.newest(connection, job_id),
    )


def records_of(kept: Sequence[StoredPour]) -> tuple[tuple[int, BenchState], ...]:
    """Return the state of each pour, by its number."""
    return tuple((one.id, state_of(one)) for one in kept)


def _state_key(one: StoredPour) -> tuple[object, ...]:
    return one.id, one.started_at, len(one.entries), len(one.room), one.room[-1].at.wall_s if one.room else 0.0


@cached(LRUCache(MOST_STATES), key=_state_key, condition=Condition())
def state_of(one: StoredPour) -> BenchState:
    """Return the state of a pour."""
    return one.state


def pairings(worked_out: Plan) -> list[Pairing]:
    """Return a job's pairings as they are kept with a fault."""
    return (
        [pair.case for pair in worked_out.checks.pairs if pair.contact.pour and pair.contact.touches]
        if worked_out.checks
        else []
    )


def _waiting(connection: Connection, job: Job) -> tuple[Waiting, ...]:
    # the needs of the newest jobs that could take what is left of this very mix: in one pour, with nothing poured yet
    others = board_rows.of_rubber(connection, job.rubber.rubber_id or 0, besides=job.id)
    stale = [other.id for other in others if not other.is_fresh]
    light = board_rows.light(connection, stale, triangles=LIGHT_TRIANGLES) if stale else []
    numbers = [other.id for other in others]
    mixes = {one.id: one.rubber.settled() for one in jobs.some(connection, numbers)}
    poured = pours.of_jobs(connection, numbers)
    needs = []
    for other in others:
        if poured[other.id] or not is_same_mix(job.rubber.settled(), mixes[other.id]):
            continue
        figures = worked_out_row(connection, other.id)[1] if other.id in light else other.figures
        if figures is not None and figures.total_g is not None and figures.takes_one_pour:
            needs.append((other.id, other.name, figures.total_g))
    return waiting(needs)


def worked_out_row(connection: Connection, job_id: int, station: Station = "master") -> tuple[OpenJob, BoardFigures]:
    """Open a job and keep what a list shows of it."""
    # read first: what changes while the job is worked out makes the row out of date, not wrong
    mark = board_rows.mark(connection, job_id)
    opened = opened_at(connection, job_id, station)
    board_rows.keep(connection, job_id, opened.figures, mark)
    return opened, opened.figures
