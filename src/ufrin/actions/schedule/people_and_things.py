"""The people of the shop and the things that are shared out among its steps, as the plan knows them."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime
from math import ceil

from ufrin.actions.schedule.working_time import read_hours, windows
from ufrin.core.job.job_schedule import ThingKind
from ufrin.core.schedule.steps import Thing, Window, Worker
from ufrin.store.schedule import DaysOff, Equipment, Person, ShopHours
from ufrin.store.workshop_settings import Workshop

ThingKinds = Mapping[ThingKind, str]
AHEAD_DAYS = 90


def person_windows(
    person: Person, hours: ShopHours, days_off: Sequence[DaysOff], workshop: Workshop, start_s: int
) -> tuple[Window, ...]:
    """Return when somebody works from a time on, by the workshop's own clock."""
    off: list[tuple[date, date]] = [
        (one.first_day, one.last_day) for one in days_off if one.person_id in {None, person.id}
    ]
    return windows(
        datetime.fromtimestamp(start_s, workshop.zone),
        read_hours(person.hours or hours.hours),
        frozenset(person.days or hours.days),
        most_days=AHEAD_DAYS,
        off=off,
    )


def things_by_kind(equipment: Sequence[Equipment]) -> dict[ThingKind, str]:
    """Return the key of the equipment of each kind that steps of jobs need."""
    return {one.kind: f"equipment:{one.id}" for one in equipment if one.kind != "other"}


def worker(person: Person, hours: ShopHours, days_off: Sequence[DaysOff], workshop: Workshop, start_s: int) -> Worker:
    """Return somebody as the plan knows them."""
    return Worker(key=str(person.id), windows=person_windows(person, hours, days_off, workshop, start_s))


def plan_thing(one: Equipment, start_s: int) -> Thing:
    """Return equipment as the plan knows it: how many there are, and when they are lent out."""
    away = tuple(
        (max(0, 60 * int((begin - start_s) // 60)), 60 * ceil((end - start_s) / 60)) for _, begin, end in one.away
    )
    return Thing(key=f"equipment:{one.id}", count=one.number, away=away, label=one.name)
