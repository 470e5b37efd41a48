"""What if: a wish, more hands, a second pot, longer hours, a faster rubber, with the time and money of each."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from ufrin.actions.bench import sequence
from ufrin.actions.job.open_job import OpenJob, context_of, opened_at, plan_of
from ufrin.actions.schedule.moving import read_moment, read_number
from ufrin.actions.schedule.people_and_things import person_windows, things_by_kind
from ufrin.actions.schedule.shop_work import ShopWork, gather, steps_of_job
from ufrin.actions.schedule.working_time import MIDNIGHT, read_hours, read_time, say_hours
from ufrin.actions.shelf.picks import gather as gather_picks
from ufrin.bounded.child import Bounds, do_apart
from ufrin.core.clocks.moment import Moment
from ufrin.core.schedule.best_plan import best_plan
from ufrin.core.schedule.effort import Effort
from ufrin.core.schedule.plan_findings import what_is_short
from ufrin.core.schedule.steps import SchedulePlan, Step, Window, Work, Worker
from ufrin.errors import Refused
from ufrin.language import Counted, DateText, Text
from ufrin.store import workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.schedule import Person
from ufrin.store.shelf import RUBBERS

EACH = Effort(most_s=3.0)
APART = Bounds(time_s=30.0)
HOUR_S = 3600
MORE_HANDS = "more"


@dataclass(frozen=True, slots=True, kw_only=True)
class WhatIf:
    """An answer.

    Parameters
    ----------
    asked : str
        What was asked, in words.
    ends_s, before_s : float
        When all ends then, and when it does now, in seconds since 1970.
    late_s, late_before_s : float
        By how much promises are missed in all, then and now.
    cost : float or None
        What it costs; negative where it saves, None where nobody knows.
    cost_of : str
        What the money is for.
    told : tuple of str
        What else is to be known, as sentences.
    """

    asked: str
    ends_s: float
    before_s: float
    late_s: float
    late_before_s: float
    cost: float | None = None
    cost_of: str = ""
    told: tuple[str, ...] = ()


def ask(database: Database, kind: str, typed: dict[str, str], now: Moment) -> WhatIf:
    """Answer a what-if.

    Raises Refused for what can't be asked, with the field that it is about.
    """
    shop = gather(database, now)
    if not shop.work.steps:
        raise Refused("", Text("Nothing is at work, so there is nothing to compare. Begin a job first."))
    ways: dict[str, Callable[[], WhatIf]] = {
        "wish": lambda: _wish(shop, typed),
        "hands": lambda: _hands(shop),
        "thing": lambda: _thing(shop, typed.get("equipment_id", "")),
        "hours": lambda: _hours(shop, typed.get("until", "")),
        "rubber": lambda: _rubber(database, shop, typed, now),
    }
    if kind not in ways:
        raise Refused("", Text("That is not one of the questions. Choose again."))
    return ways[kind]()


def solved(work: Work) -> SchedulePlan:
    """Plan some work with the effort of a question, in a process of its own."""
    return do_apart(best_plan, APART, None, work, EACH)


def _compared(shop: ShopWork, work: Work, asked: str) -> tuple[WhatIf, SchedulePlan, SchedulePlan]:
    # both are searched for with the same effort, so that neither has an advantage
    before, then = solved(shop.work), solved(work)
    answer = WhatIf(
        asked=asked,
        ends_s=float(shop.start_s + then.makespan_s),
        before_s=float(shop.start_s + before.makespan_s),
        late_s=float(then.late_s),
        late_before_s=float(before.late_s),
    )
    return answer, before, then


def _wish(shop: ShopWork, typed: dict[str, str]) -> WhatIf:
    own = _steps_of(shop, typed.get("job", ""))
    if not own:
        raise Refused("job", Text("Which job is wished for? Choose one that is on the plan."))
    at_s = read_moment(shop, typed.get("by", ""), "by")
    if at_s <= shop.start_s:
        raise Refused("by", Text("That time is past. Choose one that is still to come."))
    wished = replace(own[-1], finish_by_s=60 * int((at_s - shop.start_s) // 60))
    work = replace(shop.work, steps=tuple(wished if one.key == wished.key else one for one in shop.work.steps))
    at = datetime.fromtimestamp(at_s, shop.workshop.zone)
    answer, _, then = _compared(shop, work, Text("{job} by {at}", job=wished.job, at=DateText(at, "weekday", "%H:%M")))
    ends_s = then.by_key()[wished.key].ends_s
    late_s = ends_s - (wished.finish_by_s or 0)
    told: tuple[str, ...]
    if late_s > 0:
        told = (
            Text(
                "It can't be met: the wish is missed by {late_s}, because {work}.",
                late_s=_span(late_s),
                work=what_is_short(work, then, wished),
            ),
        )
    else:
        told = (Text("It can be met, with {late_s} to spare.", late_s=_span(-late_s)),)
    # the new wish counts among what is late then, so what becomes of the promises before is told apart
    others_s = sum(
        max(0, then.by_key()[one.key].ends_s - one.finish_by_s)
        for one in shop.work.steps
        if one.finish_by_s is not None and one.key != wished.key
    )
    if others_s > answer.late_before_s:
        told += (
            Text("Other promises would be missed by {others_s} more.", others_s=_span(others_s - answer.late_before_s)),
        )
    return replace(answer, cost=0.0, told=told)


def _hands(shop: ShopWork) -> WhatIf:
    more = Worker(key=MORE_HANDS, windows=shop_windows(shop))
    answer, _, then = _compared(
        shop, replace(shop.work, people=(*shop.work.people, more)), Text("One more pair of hands")
    )
    steps = shop.work.by_key()
    hands_s = sum(steps[one.key].attended_s for one in then.placed if one.person == MORE_HANDS)
    return replace(
        answer,
        cost=hands_s / HOUR_S * shop.hours.hour_cost if shop.hours.hour_cost else None,
        cost_of=Text("{span} of their time", span=_span(hands_s)),
    )


def _thing(shop: ShopWork, number: str) -> WhatIf:
    one = next((one for one in shop.equipment if str(one.id) == number), None)
    if one is None:
        raise Refused("equipment_id", Text("Which equipment? Choose one that is entered under People and equipment."))
    things = tuple(
        replace(thing, count=thing.count + 1) if thing.key == f"equipment:{one.id}" else thing
        for thing in shop.work.things
    )
    answer, _, _ = _compared(shop, replace(shop.work, things=things), Text("Another {name}", name=one.name))
    used = any(f"equipment:{one.id}" in step.uses for step in shop.work.steps)
    told = () if used else (Text("No step on the plan uses the {name}.", name=one.name),)
    return replace(
        answer, cost=one.price or None, cost_of=Text("the price of another: {name}", name=one.name), told=told
    )


def _hours(shop: ShopWork, until: str) -> WhatIf:
    closing = read_time(until, "until")
    stretches = read_hours(shop.hours.hours)
    begin, end = stretches[-1]
    if closing != MIDNIGHT and (end == MIDNIGHT or closing <= end):
        raise Refused("until", Text("The shop works until then already. Type a later time."))
    longer = replace(shop.hours, hours=say_hours((*stretches[:-1], (begin, closing))))
    people = {str(one.id): one for one in shop.people}
    usual = {one.key: one.windows for one in shop.work.people}
    workers = tuple(
        Worker(key=key, windows=person_windows(one, longer, shop.days_off, shop.workshop, shop.start_s))
        for key, one in people.items()
    )
    answer, _, then = _compared(
        shop, replace(shop.work, people=workers), Text("Hours until {closing:%H:%M}", closing=closing)
    )
    beyond_s = sum(
        _outside_s(usual[one.person], one.begins_s, one.hands_off_s) for one in then.placed if one.person in usual
    )
    return replace(
        answer,
        cost=beyond_s / HOUR_S * shop.hours.hour_cost if shop.hours.hour_cost else None,
        cost_of=Text("{span} of work after closing time", span=_span(beyond_s)),
    )


def _rubber(database: Database, shop: ShopWork, typed: dict[str, str], now: Moment) -> WhatIf:
    job, old = read_number(typed.get("job", "")), _steps_of(shop, typed.get("job", ""))
    if job is None or not old:
        raise Refused("job", Text("Which job is it for? Choose one that is on the plan."))
    with database.reading() as connection:
        opened = opened_at(connection, job, "checks")
        other = _with_rubber(connection, opened, read_number(typed.get("rubber_id", "")) or 0)
    if any(one.is_under_way for one in old) or any(one.is_poured for one in opened.pour_states(now)):
        raise Refused("job", Text("Its rubber is poured already. Choose a job that is not."))
    dated = sequence.dated(other, now)
    new = steps_of_job(
        other,
        [one.step for one in dated.steps],
        f"job:{job}",
        wish_s=dated.wish_s,
        shop=(things_by_kind(shop.equipment), shop.start_s),
    )
    if not new:
        raise Refused(
            "rubber_id", Text("What the job pours of that rubber is not known. Look at its Rubber station first.")
        )
    kept = [_after_the_new(one, new, old) for one in shop.work.steps if one not in old]
    name = other.shelf.rubber.name if other.shelf.rubber else ""
    work = replace(shop.work, steps=(*kept, *new))
    answer, _, _ = _compared(shop, work, f"{opened.job.name} in {name}")
    costs = [opened.plan.cost, other.plan.cost]
    told = tuple(
        Text(
            "Its pot life is {pot_life_min}; it may be taken out after {demould_min}.",
            pot_life_min=_span(60 * pour.pot_life_min),
            demould_min=_span(60 * pour.demould_min),
        )
        for pour in other.plan.pours[:1]
        if pour.pot_life_min and pour.demould_min
    )
    stops = [stop for stop in other.plan.stops if not stop.signed]
    if stops:
        told += (
            Counted(
                "It meets {n} stop at the stations: look there first.",
                "It meets {n} stops at the stations: look there first.",
                n=len(stops),
            ),
        )
    return replace(
        answer,
        cost=None if None in costs else (costs[1] or 0.0) - (costs[0] or 0.0),
        cost_of=Text("the rubber against the one that is planned"),
        told=told,
    )


def _with_rubber(connection: Connection, opened: OpenJob, rubber_id: int) -> OpenJob:
    if not RUBBERS.some(connection, {rubber_id}):
        raise Refused("rubber_id", Text("Which rubber? Choose one from the Shelf."))
    settings = workshop_settings.load(connection)
    job = replace(opened.job, inputs={**opened.job.inputs, "rubber": replace(opened.job.rubber, rubber_id=rubber_id)})
    shelf = gather_picks(connection, [job], settings, ())[job.id]
    context = context_of(connection, job, shelf, None, opened.mesh, shop=opened.context.shop)
    context = replace(context, container=opened.context.container)
    return replace(opened, job=job, context=context, plan=plan_of(job, context), shelf=shelf)


def _steps_of(shop: ShopWork, typed: str) -> list[Step]:
    return [one for one in shop.work.steps if one.key.startswith(f"job:{read_number(typed)}:")]


def _after_the_new(step: Step, new: Sequence[Step], old: Sequence[Step]) -> Step:
    # what came after a step of the job that is gone comes after the last of its new ones
    gone = {one.key for one in old} - {one.key for one in new}
    after = tuple(replace(one, key=new[-1].key) if one.key in gone else one for one in step.after)
    return replace(step, after=after)


def shop_windows(shop: ShopWork) -> tuple[Window, ...]:
    """Return the working hours of the shop as windows from the plan's start; days off of everybody are left out."""
    somebody = Person(id=0, name="", hours="", days=None, secret="")
    return person_windows(somebody, shop.hours, shop.days_off, shop.workshop, shop.start_s)


def _outside_s(own: tuple[Window, ...], begin_s: int, end_s: int) -> int:
    inside_s = sum(max(0, min(end, end_s) - max(begin, begin_s)) for begin, end in own)
    return end_s - begin_s - inside_s


def _span(seconds: float) -> str:
    hours, minutes = divmod(round(seconds / 60), 60)
    days, hours = divmod(hours, 24)
    parts = [f"{days} d" if days else "", f"{hours} h" if hours else "", f"{minutes} min" if minutes else ""]
    return " ".join(part for part in parts if part) or "0 min"
