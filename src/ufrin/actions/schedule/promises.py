"""Promises: by when a new order could be ready beside all that is at work."""

from dataclasses import dataclass, replace
from math import ceil

from ufrin.actions.bench import sequence
from ufrin.actions.job.open_job import opened_at
from ufrin.actions.moulds import orders
from ufrin.actions.moulds.cards import MouldCard, card_of
from ufrin.actions.schedule.moving import read_number
from ufrin.actions.schedule.people_and_things import things_by_kind
from ufrin.actions.schedule.shop_work import ShopWork, gather, new_mould_step, shot_step, steps_of_job
from ufrin.actions.schedule.what_if import solved
from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.sequence import SequenceStep
from ufrin.core.moulds.run_plan import RunWish, plan_run
from ufrin.core.schedule.promise import LearntTimes, learn_times, promise
from ufrin.core.schedule.steps import SchedulePlan, Step, Thing, Work
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import jobs, moulds, schedule
from ufrin.store.connection import Connection, Database

MOST_PIECES = 5000
MOST_SHOTS = 60
NEW = "new"


@dataclass(frozen=True, slots=True, kw_only=True)
class PromiseAnswer:
    """By when an order could be ready, in seconds since 1970, without moving anything that is planned."""

    asked: str
    ends_s: float
    early_s: float
    late_s: float
    in_time: float
    learnt: LearntTimes


def choices(database: Database) -> tuple[list[tuple[int, str]], list[tuple[int, str]]]:
    """Return the jobs that a new mould can be like, and the moulds that can be cast in, by number and name."""
    with database.reading() as connection:
        return jobs.names(connection, besides=0), moulds.names(connection, besides=0)


def ask(database: Database, typed: dict[str, str], now: Moment) -> PromiseAnswer:
    """Say by when a new order could be ready: another mould like that of a job, or casts in a mould.

    Raises Refused for what can't be asked.
    """
    shop = gather(database, now)
    with database.reading() as connection:
        learnt = learn_times(schedule.pour_times(connection))
        if typed.get("of") == "mould":
            asked, steps, used = _another_mould(connection, shop, typed.get("job", ""), now)
        else:
            asked, steps, used = _casts(connection, typed)
    known = {one.key for one in shop.work.things}
    things = (*shop.work.things, *(one for one in used if one.key not in known))
    # wished for at once, it is ready as early as it can be in the time that everything else leaves
    at_once = (*steps[:-1], replace(steps[-1], finish_by_s=0))
    before = solved(shop.work)
    plan = solved(replace(shop.work, steps=(*_set(shop.work, before), *at_once), things=things))
    found = promise(replace(shop.work, steps=(*shop.work.steps, *steps), things=things), steps[-1].key, plan, learnt)
    return PromiseAnswer(
        asked=asked,
        ends_s=float(shop.start_s + found.ends_s),
        early_s=float(shop.start_s + found.early_s),
        late_s=float(shop.start_s + found.late_s),
        in_time=found.in_time,
        learnt=learnt,
    )


def _set(work: Work, plan: SchedulePlan) -> tuple[Step, ...]:
    # every step where it is planned, so that no promise that is made is touched
    placed = plan.by_key()
    return tuple(
        one
        if one.is_under_way
        else replace(one, begins_s=placed[one.key].begins_s, person=placed[one.key].person or one.person)
        for one in work.steps
    )


def _another_mould(
    connection: Connection, shop: ShopWork, job: str, now: Moment
) -> tuple[str, tuple[Step, ...], tuple[Thing, ...]]:
    number = read_number(job)
    if number is None:
        raise Refused("job", Text("Like which job? Choose one."))
    opened = opened_at(connection, number, "checks")
    dated = sequence.dated(replace(opened, records=(), done_at_s={}), now)
    fresh = [_afresh(one.step) for one in dated.steps]
    steps = steps_of_job(opened, fresh, f"job:{NEW}", wish_s=None, shop=(things_by_kind(shop.equipment), shop.start_s))
    if not steps:
        raise Refused(
            "job", Text("What that job pours is not known yet. Choose one whose Rubber station is filled in.")
        )
    return Text("Another mould like {name}", name=opened.job.name), steps, ()


def _afresh(step: SequenceStep) -> SequenceStep:
    return replace(step, done_at_s=None, began_s=None, ends_s=None)


def _casts(connection: Connection, typed: dict[str, str]) -> tuple[str, tuple[Step, ...], tuple[Thing, ...]]:
    mould, pieces = read_number(typed.get("mould", "")), read_number(typed.get("pieces", ""))
    if mould is None:
        raise Refused("mould", Text("In which mould? Choose one."))
    if pieces is None or not 1 <= pieces <= MOST_PIECES:
        raise Refused("pieces", Text("How many pieces? Between 1 and {most_pieces}.", most_pieces=MOST_PIECES))
    card = card_of(connection, mould)
    if not card.is_usable:
        raise Refused("mould", Text("That mould can't be cast in any more. Choose another."))
    wish = replace(orders.usual_wish(card), pieces=pieces)
    runs = _shots_of_moulds(card, wish)
    shots = sum(runs)
    if shots > MOST_SHOTS:
        raise Refused(
            "pieces",
            Text(
                "That takes {shots} shots, and at most {most_shots} are planned ahead. Plan a run on its card.",
                shots=shots,
                most_shots=MOST_SHOTS,
            ),
        )
    key, name = f"order:{NEW}", card.opened.job.name
    things = [Thing(key=f"mould:{card.mould.job_id}", label=Text("mould of {name}", name=name))]
    steps: list[Step] = []
    number = 0
    for place, number_of_shots in enumerate(runs):
        before = None
        if place:  # it is poured when there is time, and cast in once it is whole
            things.append(Thing(key=f"{things[0].key}:{NEW}-{place}", label=things[0].label))
            steps.append(new_mould_step(f"{key}:new-mould-{place}", name))
            before = steps[-1].key
        for _ in range(number_of_shots):
            number += 1
            shot = shot_step(key, (number, shots), wish.cycle_min, things[-1].key, before)
            steps.append(replace(shot, job=name))
            before = shot.key
    asked = Text("{pieces} of {name}", pieces=pieces, name=name)
    if len(runs) > 1:
        asked = Text(
            "{pieces} of {name}. The mould that is there will not make them all; new ones to pour: {moulds}",
            pieces=pieces,
            name=name,
            moulds=len(runs) - 1,
        )
    return asked, tuple(steps), tuple(things)


def _shots_of_moulds(card: MouldCard, wish: RunWish) -> list[int]:
    # the mould that is there makes what its cavities still do, as sure as the shop wants to be; new ones make the rest
    made, chance_pct = orders.made_by(card), card.workshop.confidence_pct
    # how long a shot takes is for the plan to find room for: here it is no matter, even where it is longer than a day
    at_once = replace(wish, cycle_min=1.0)
    run = plan_run(at_once, card.life.model, made, chance_pct=chance_pct, seed=card.mould.id)
    in_use = len(made[0])
    there = int(card.life.left.at_least(chance_pct / 100) // in_use) if run.moulds else run.rounds
    here = min(run.rounds, there)
    left = max(0, wish.gross_pieces - here * in_use)
    each = ceil(left / max(1, run.moulds) / wish.cavities)
    return [here, *(each for _ in range(run.moulds) if left)]
