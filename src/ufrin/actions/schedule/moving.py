"""Moving steps of the plan by hand: put at a time, freed again, ticked off at their real time, and jobs left off."""

from dataclasses import replace
from datetime import datetime

from ufrin.actions.bench import sequence
from ufrin.actions.moulds import cards
from ufrin.actions.schedule.day_plan import APART, AT_ONCE
from ufrin.actions.schedule.shop_work import ShopWork, gather
from ufrin.bounded.child import do_apart
from ufrin.core.clocks.moment import Moment
from ufrin.core.schedule.best_plan import best_plan
from ufrin.core.schedule.first_plan import first_plan
from ufrin.core.schedule.steps import Step, Work, Worker
from ufrin.errors import Refused
from ufrin.language import DateText, Text
from ufrin.store import schedule
from ufrin.store.connection import Database

FURTHEST_S = 80 * 86_400
LONGEST_NUMBER = 15  # digits
LAST_S = 7e9  # in the year 2191


def read_moment(shop: ShopWork, typed: str, field: str) -> float:
    """Read a day and a time by the workshop's own clock, or "@" and seconds since 1970 as a drag sends them.

    Returns seconds since 1970. Raises Refused for what is no time.
    """
    try:
        if typed.startswith("@"):
            at_s = float(int(typed[1:13]))
        else:
            at_s = datetime.fromisoformat(typed.strip()).replace(tzinfo=shop.workshop.zone).timestamp()
    except (ValueError, OverflowError) as error:
        raise Refused(field, Text("Type a day and a time such as 2026-12-04 15:00.")) from error
    if not 0 < at_s < LAST_S:
        raise Refused(field, Text("That is in a year that nobody plans for. Check the date."))
    return at_s


def read_number(typed: str) -> int | None:
    """Read a whole number as it is sent, such as that of a job; None where it is none."""
    plain = typed.strip()
    return int(plain) if plain.isascii() and plain.isdigit() and len(plain) <= LONGEST_NUMBER else None


def put(database: Database, key: str, *, typed: str, person: str, now: Moment) -> None:
    """Put a step at a time, where it stays; the rest gives way.

    Raises Refused where it can't be there: it has begun, the time is past, or what comes before it, the hours, the
    people or the things leave no way.
    """
    shop = gather(database, now)
    step = _movable(shop, key)
    begins_s = 60 * int(read_moment(shop, typed, "begins") // 60)
    if begins_s < shop.start_s:
        raise Refused("begins", Text("That time is past. Choose one that is still to come, or tick the step off."))
    if begins_s > shop.start_s + FURTHEST_S:
        raise Refused("begins", Text("That is more than 80 days ahead, further than the plan looks. Check the date."))
    people = {str(one.id) for one in shop.people}
    if person and person not in people:
        raise Refused("person", Text("That person does not work here any more. Choose another."))
    by = person if person and step.attended_s else step.person
    moved = replace(step, begins_s=begins_s - shop.start_s, person=by)
    steps = tuple(moved if one.key == key else one for one in shop.work.steps)
    _check_it_fits(shop, replace(shop.work, steps=steps), moved)
    with database.transaction() as connection:
        schedule.place(connection, key, begins_s=begins_s, person_id=int(person) if person else None)


def _movable(shop: ShopWork, key: str) -> Step:
    step = shop.work.by_key().get(key)
    if step is None:
        raise Refused("step", Text("That step is not on the plan any more. Look at the plan again."))
    if step.is_under_way:
        raise Refused("step", Text("“{called}” has begun already, so it stays where it is.", called=step.called))
    return step


def _check_it_fits(shop: ShopWork, work: Work, moved: Step) -> None:
    ready_s, last = _ready_s(work, moved)
    if moved.begins_s is not None and moved.begins_s < ready_s and last is not None:
        at = datetime.fromtimestamp(shop.start_s + ready_s, shop.workshop.zone)
        raise Refused(
            "begins",
            Text(
                "“{called}” can't begin then: “{called2}” comes before it, and is not done before "
                "{at}. Choose a later time.",
                called=moved.called,
                called2=last.called,
                at=DateText(at, "weekday", "%H:%M"),
            ),
        )
    able = [one for one in work.people if moved.person in {None, one.key}]
    if moved.attended_s and not any(_works(one, moved) for one in able):
        why = Text("Nobody works then for as long as “{called}” takes.", called=moved.called)
        if who := next((one.name for one in shop.people if str(one.id) == moved.person), ""):
            why = Text("{who} does not work then for as long as “{called}” takes.", who=who, called=moved.called)
        raise Refused("begins", Text("{why} Choose a time within working hours.", why=why))
    if first_plan(work) is None:  # that does not mean that there is none
        do_apart(best_plan, APART, None, work, AT_ONCE)


def _works(worker: Worker, step: Step) -> bool:
    begins_s = step.begins_s or 0
    return any(begin <= begins_s and begins_s + step.attended_s <= end for begin, end in worker.windows)


def _ready_s(work: Work, step: Step) -> tuple[int, Step | None]:
    # when what comes before a step is done if nothing is waited for, and which of it is last
    steps = work.by_key()
    found: dict[str, int] = {}

    def ends_s(key: str) -> int:
        if key not in found:
            one = steps[key]
            ready = max((ends_s(wait.key) + wait.at_least_s for wait in one.after), default=0)
            begins_s = one.begins_s if one.begins_s is not None else max(ready, one.earliest_s)
            found[key] = begins_s + one.takes_s
        return found[key]

    ready = {wait.key: ends_s(wait.key) + wait.at_least_s for wait in step.after}
    last = max(ready, key=lambda key: ready[key], default=None)
    return (0, None) if last is None else (ready[last], steps[last])


def free(database: Database, key: str) -> None:
    """Let a step go where it fits again."""
    with database.transaction() as connection:
        schedule.free(connection, [key])


def tick(database: Database, key: str, *, typed: str, now: Moment) -> None:
    """Tick a step off at its real time; without one, it is done now.

    Raises Refused where it is not ticked by hand, the time is to come, or the step is gone.
    """
    shop = gather(database, now)
    place = shop.places.get(key)
    if place is None:
        raise Refused("step", Text("That step is not on the plan any more. Look at the plan again."))
    at_s = read_moment(shop, typed, "at") if typed.strip() else now.wall_s
    if at_s > now.wall_s + 60:
        raise Refused("at", Text("That time is still to come. When was it done?"))
    if place.other_work is not None:
        with database.transaction() as connection:
            schedule.finish_other_work(connection, place.other_work, at_s=at_s)
    elif place.tick.startswith("care-") and place.mould is not None:
        cards.care(database, place.mould, place.tick.removeprefix("care-"))
    elif place.tick and place.href_job is not None:
        sequence.tick(database, place.href_job, place.tick, done=True, at_s=at_s)
    else:
        raise Refused("step", Text("That step follows from what is done at the bench or logged. Go on there."))
    free(database, key)


def take_tick_back(database: Database, key: str, now: Moment) -> None:
    """Take back that a step is done, where it was ticked off today.

    Raises Refused where it was not.
    """
    if key not in {one.key for one in gather(database, now).done}:
        raise Refused("step", Text("That step was not ticked off today. Look at the plan again."))
    kind, number, own = key.split(":", 2)
    if kind == "other":
        with database.transaction() as connection:
            schedule.reopen_other_work(connection, int(number))
    else:
        sequence.tick(database, int(number), own, done=False, at_s=now.wall_s)


def take_proposed(database: Database) -> None:
    """Let the plan that waits to be looked at count from now on."""
    with database.transaction() as connection:
        schedule.take_proposed(connection)


def leave_off(database: Database, job_id: int, *, off: bool) -> None:
    """Leave a job off the plan, or plan it again."""
    with database.transaction() as connection:
        schedule.leave_off(connection, job_id, off=off)
