"""The work of the shop: the steps of all jobs, casts, moulds and orders, with the people and things that do them."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time, timedelta
from hashlib import sha256
from math import ceil

from ufrin.actions.bench import sequence
from ufrin.actions.bench.running import Running, what_runs
from ufrin.actions.job.open_job import OpenJob, opened_at
from ufrin.actions.moulds import orders
from ufrin.actions.moulds.orders import HANDS_MIN, MOULD_DAYS, OrderAtWork
from ufrin.actions.schedule.people_and_things import ThingKinds, plan_thing, things_by_kind, worker
from ufrin.actions.schedule.working_time import MIDNIGHT, read_hours
from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.sequence import SequenceStep
from ufrin.core.inputs.usual import USUAL
from ufrin.core.job.job_schedule import ScheduledJob, ThingKind, job_steps, thing_kind
from ufrin.core.job.sign_off import open_stops
from ufrin.core.moulds.retirement import Care
from ufrin.core.schedule.plan_findings import gathering_findings
from ufrin.core.schedule.steps import After, Step, Thing, Work
from ufrin.core.wording.findings import Finding
from ufrin.language import Text
from ufrin.store import schedule, workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.schedule import DaysOff, Equipment, Person, Placed, ShopHours
from ufrin.store.workshop_settings import Workshop

MOST_JOBS = 60
MOST_SHOTS = 30  # of one order that are planned ahead
LAST_DAY = date(2190, 1, 1)  # that a promise is reckoned with
A_DAY_S = 86_400
_USUAL = USUAL["sequence"]
CARE_WORDS: Mapping[Care, str] = {
    "release": Text("Release the mould"),
    "clean": Text("Clean the mould"),
    "rest": Text("Let the mould rest"),
}
OFTEN_S = 300  # what a clock says is taken in steps of five minutes, so that not every breath makes a new plan
KIND_WORDS: Mapping[str, str] = {
    "oven": Text("an oven"),
    "chamber": Text("a vacuum chamber"),
    "pot": Text("a pressure pot"),
    "table": Text("a vibrating table"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class StepPlace:
    """Where a step is at home: its job or order, what ticks it off, and whether somebody put it at its time."""

    group: str
    href_job: int | None = None
    tick: str = ""
    other_work: int | None = None
    order: int | None = None
    mould: int | None = None
    is_placed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class DoneStep:
    """A step that was ticked off today, which can be taken back; when, in seconds since 1970."""

    key: str
    group: str
    label: str
    at_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ShopWork:
    """All that is planned together, from ``start_s`` on, in seconds since 1970."""

    work: Work
    start_s: int
    places: Mapping[str, StepPlace]
    workshop: Workshop
    hours: ShopHours
    people: tuple[Person, ...]
    equipment: tuple[Equipment, ...]
    days_off: tuple[DaysOff, ...]
    findings: tuple[Finding, ...]
    done: tuple[DoneStep, ...]
    fingerprint: str


@dataclass(slots=True)
class _Gathered:
    steps: list[Step] = field(default_factory=list)
    places: dict[str, StepPlace] = field(default_factory=dict)
    things: list[Thing] = field(default_factory=list)
    missing: set[ThingKind] = field(default_factory=set)
    shots_later: dict[str, int] = field(default_factory=dict)
    past: list[Step] = field(default_factory=list)
    stopped: list[tuple[str, str]] = field(default_factory=list)
    done: list[DoneStep] = field(default_factory=list)

    def add(self, steps: Iterable[Step], place: StepPlace, ticks: Collection[str] = ()) -> None:
        for step in steps:
            own = step.key.rpartition(":")[2]
            self.steps.append(step)
            self.places[step.key] = replace(place, tick=own if own in ticks else "")


def gather(database: Database, now: Moment) -> ShopWork:
    """Gather all that is at work.

    Raises Refused where its steps can't be planned together.
    """
    start_s = 60 * int(now.wall_s // 60)
    running = [one for one in what_runs(database, now).running if one.pour.plan.cast_kind]
    at_work = orders.at_work(database)
    with database.reading() as connection:
        workshop, hours = workshop_settings.load(connection), schedule.hours(connection)
        people, equipment = tuple(schedule.people(connection)), tuple(schedule.equipment(connection))
        days_off, placed = schedule.days_off(connection), schedule.placed(connection)
        found = _Gathered(things=[plan_thing(one, start_s) for one in equipment])
        last_of_job = _jobs(connection, found, things_by_kind(equipment), now, start_s)
        _other_work(connection, found, start_s)
        midnight = datetime.combine(datetime.fromtimestamp(start_s, workshop.zone).date(), time(0), workshop.zone)
        for number, name, at_s in schedule.other_work_done(connection, since_s=midnight.timestamp()):
            found.done.append(DoneStep(key=f"other:{number}:do", group=Text("Other work"), label=name, at_s=at_s))
    # a mould is free once its cast is out
    last_of_job |= _casts(found, running, now, start_s)
    _orders(found, at_work, last_of_job, _ShopNow(workshop=workshop, hours=hours, start_s=start_s))
    _put_at_their_times(found, placed, start_s)
    workers = tuple(worker(one, hours, days_off, workshop, start_s) for one in people)
    return ShopWork(
        work=Work(steps=tuple(found.steps), people=workers, things=tuple(found.things)),
        start_s=start_s,
        places=found.places,
        workshop=workshop,
        hours=hours,
        people=people,
        equipment=equipment,
        days_off=tuple(days_off),
        findings=gathering_findings(
            [KIND_WORDS[kind] for kind in sorted(found.missing)], found.shots_later, found.past, found.stopped
        ),
        done=tuple(sorted((one for one in found.done if one.at_s >= midnight.timestamp()), key=lambda one: -one.at_s)),
        fingerprint=_fingerprint(found.steps, (hours, people, equipment, days_off), workshop.time_zone, start_s),
    )


def _fingerprint(steps: Sequence[Step], shop: object, zone: str, start_s: int) -> str:
    # a plan stays true while nothing but the time goes on
    told = []
    for one in steps:
        begins_s = None if one.begins_s is None else one.begins_s + start_s
        wish_s = None if one.finish_by_s is None else one.finish_by_s + start_s
        when: object = (begins_s, one.attended_s, one.alone_s)
        if one.is_under_way and begins_s is not None:
            when = (begins_s + one.takes_s) // OFTEN_S
        told.append((one.key, one.is_under_way, when, one.after, one.uses, wish_s, one.person))
    return sha256(repr((told, shop, zone)).encode()).hexdigest()


@dataclass(frozen=True, slots=True, kw_only=True)
class _ShopNow:
    workshop: Workshop
    hours: ShopHours
    start_s: int

    def opens_s(self, day: date) -> int:
        return self._since_s(day, read_hours(self.hours.hours)[0][0])

    def closes_s(self, day: date) -> int:
        closing = read_hours(self.hours.hours)[-1][1]
        return self._since_s(min(day, LAST_DAY) + timedelta(days=closing == MIDNIGHT), closing)

    def _since_s(self, day: date, at: time) -> int:
        moment = datetime.combine(min(day, LAST_DAY), at, self.workshop.zone)
        return 60 * int((moment.timestamp() - self.start_s) // 60)


# --- steps


def steps_of_job(
    opened: OpenJob, in_order: Sequence[SequenceStep], key: str, *, wish_s: float | None, shop: tuple[ThingKinds, int]
) -> tuple[Step, ...]:
    """Return the steps of an open job that are not done, under a key; ``shop`` is its things and the plan's start."""
    air = opened.plan.checks.air if opened.plan.checks else ""
    return job_steps(ScheduledJob(key=key, name=opened.job.name, steps=in_order, air=air, wish_s=wish_s), *shop)


def _jobs(
    connection: Connection, found: _Gathered, by_kind: Mapping[ThingKind, str], now: Moment, start_s: int
) -> dict[int, str]:
    last_of_job: dict[int, str] = {}
    for job_id in schedule.jobs_at_work(connection, limit=MOST_JOBS):
        opened = opened_at(connection, job_id, "checks")
        dated = sequence.dated(opened, now)
        in_order = [one.step for one in dated.steps]
        key, name, air = f"job:{job_id}", opened.job.name, opened.plan.checks.air if opened.plan.checks else ""
        found.done += [
            DoneStep(key=f"{key}:{one.key}", group=name, label=one.label, at_s=one.done_at_s)
            for one in in_order
            if one.can_tick and one.done_at_s is not None
        ]
        steps = steps_of_job(opened, in_order, key, wish_s=dated.wish_s, shop=(by_kind, start_s))
        if not steps:
            continue
        stops = open_stops(opened.plan.stops)
        if stops and not any(one.number for one in opened.pour_states(now)):
            found.stopped.append((name, stops[0].said(opened.workshop.units)))
            continue
        kinds = {thing_kind(one.key, air) for one in in_order if one.done_at_s is None}
        found.missing |= {kind for kind in kinds if kind is not None and kind not in by_kind}
        found.add(steps, StepPlace(group=name, href_job=job_id), [one.key for one in in_order if one.can_tick])
        last_of_job[job_id] = steps[-1].key
    return last_of_job


def _other_work(connection: Connection, found: _Gathered, start_s: int) -> None:
    for one in schedule.other_work(connection):
        step = Step(
            key=f"other:{one.id}:do",
            job=Text("Other work"),
            label=one.name,
            attended_s=60 * ceil(one.attended_min),
            uses=(f"equipment:{one.equipment_id}",) if one.equipment_id else (),
            finish_by_s=None if one.finish_by_s is None else 60 * int((one.finish_by_s - start_s) // 60),
            person=str(one.person_id) if one.person_id else None,
        )
        found.add([step], StepPlace(group=Text("Other work"), other_work=one.id), ["do"])


def _mould_thing(found: _Gathered, job_id: int, name: str, number: int = 1) -> str:
    key = f"mould:{job_id}"
    for place, one in enumerate(found.things):
        if one.key == key:
            found.things[place] = replace(one, count=max(one.count, number))
            return key
    found.things.append(Thing(key=key, count=number, label=Text("mould of {name}", name=name)))
    return key


def _casts(found: _Gathered, running: Sequence[Running], now: Moment, start_s: int) -> dict[int, str]:
    # what cures in a mould holds it, and is taken out by somebody
    last_of_job: dict[int, str] = {}
    for one in running:
        name, key = one.pour.job_name, f"cast:{one.pour.id}"
        mould = _mould_thing(found, one.pour.job_id, name)
        left_s = one.clock.left_s if one.clock else 60 * HANDS_MIN
        ends_s = 60 * ceil((now.wall_s + left_s - start_s) / 60)
        cures = Step(
            key=f"{key}:cure",
            job=name,
            label=Text("The cast cures") if one.clock else Text("A shot is weighed and poured"),
            alone_s=max(0, ends_s),
            uses=(mould,),
            begins_s=0,
            is_under_way=True,
        )
        out = Step(
            key=f"{key}:out",
            job=name,
            label=Text("Take the cast out"),
            attended_s=60 * ceil(_USUAL["take_out_min"]),
            after=(After(key=cures.key),),
            uses=(mould,),
        )
        found.add([cures, out], StepPlace(group=Text("Cast in {name}", name=name), href_job=one.pour.job_id))
        last_of_job[one.pour.job_id] = out.key
    return last_of_job


def _orders(found: _Gathered, at_work: Sequence[OrderAtWork], last_of_job: Mapping[int, str], shop: _ShopNow) -> None:
    for one in at_work:
        order, run = one.order, one.run
        if run is None:
            continue
        mould = _mould_thing(found, order.job_id, order.job_name, order.moulds_at_once)
        all_shots = run.rounds * order.moulds_at_once
        shots = min(all_shots, MOST_SHOTS)
        steps = _shots(one, (mould, last_of_job.get(order.job_id)), (shots, all_shots), shop)
        if shots < all_shots:
            found.shots_later[order.name] = all_shots - shots
        elif order.due_on:
            last = next(place for place, step in enumerate(steps) if step.key.endswith(f":shot-{shots}"))
            steps[last] = replace(steps[last], finish_by_s=shop.closes_s(order.due_on))
        if one.successor_day is not None:
            steps.append(_next_mould(one, shop))
        home = StepPlace(group=order.name, href_job=order.job_id, order=order.id, mould=order.mould_id)
        found.add(steps, home, [f"care-{due.care}" for due in one.dues])


def _shots(
    one: OrderAtWork, mould_ready: tuple[str, str | None], number_of: tuple[int, int], shop: _ShopNow
) -> list[Step]:
    # each after the one before in the same mould, and after what the mould is due for by then
    order, (mould, ready), (shots, all_shots) = one.order, mould_ready, number_of
    earliest_s = max(0, shop.opens_s(order.start_on))
    steps: list[Step] = []
    for number in range(1, shots + 1):
        earlier = number - order.moulds_at_once
        before = f"order:{order.id}:shot-{earlier}" if earlier >= 1 else ready
        for due in (due for due in one.dues if max(1, due.to_go + 1) == number):
            steps.append(_care(order.id, order.name, due.care, mould, before))
            before = steps[-1].key
        shot = shot_step(f"order:{order.id}", (number, all_shots), order.cycle_min, mould, before)
        steps.append(replace(shot, job=order.name, earliest_s=earliest_s))
    return steps


def shot_step(key: str, number_of: tuple[int, int], cycle_min: float, mould: str, before: str | None) -> Step:
    """Return a shot of an order: somebody's hands, then alone until the next one in the same mould."""
    number, all_shots = number_of
    hands_min = min(HANDS_MIN, cycle_min)
    return Step(
        key=f"{key}:shot-{number}",
        job="",
        label=Text("Shot {number} of {all_shots}", number=number, all_shots=all_shots),
        attended_s=60 * ceil(hands_min),
        alone_s=60 * ceil(cycle_min - hands_min),
        after=(After(key=before),) if before else (),
        uses=(mould,),
    )


def _care(order_id: int, name: str, care: Care, mould: str, before: str | None) -> Step:
    hands_min, alone_min = {
        "release": (_USUAL["care_release_min"], _USUAL["care_release_dry_min"]),
        "clean": (_USUAL["care_clean_min"], 0.0),
        "rest": (0.0, _USUAL["care_rest_min"]),
    }[care]
    return Step(
        key=f"order:{order_id}:care-{care}",
        job=name,
        label=CARE_WORDS[care],
        attended_s=60 * ceil(hands_min),
        alone_s=60 * ceil(alone_min),
        after=(After(key=before),) if before else (),
        uses=(mould,),
    )


def new_mould_step(key: str, name: str) -> Step:
    """Return the pouring of another mould for an order: somebody's hands, then alone until it may be cast in."""
    return Step(
        key=key,
        job=name,
        label=Text("Pour the next mould"),
        attended_s=60 * ceil(_USUAL["first_cast_min"] + _USUAL["take_out_min"]),
        alone_s=round(MOULD_DAYS * A_DAY_S),
    )


def _next_mould(one: OrderAtWork, shop: _ShopNow) -> Step:
    in_use_on = date.fromordinal((one.successor_day or 0) + ceil(MOULD_DAYS))
    step = new_mould_step(f"order:{one.order.id}:next-mould", one.order.name)
    return replace(step, finish_by_s=shop.closes_s(in_use_on))


def _put_at_their_times(found: _Gathered, placed: Mapping[str, Placed], start_s: int) -> None:
    for place, step in enumerate(found.steps):
        put = placed.get(step.key)
        if put is None or step.is_under_way:
            continue
        begins_s = 60 * int((put.begins_s - start_s) // 60)
        if begins_s < 0:
            found.past.append(step)
            continue
        person = str(put.person_id) if put.person_id and step.attended_s else step.person
        found.steps[place] = replace(step, begins_s=begins_s, person=person)
        found.places[step.key] = replace(found.places[step.key], is_placed=True)
