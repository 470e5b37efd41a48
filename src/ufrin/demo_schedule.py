"""The demo's plan: who works in the museum's workshop, its equipment, and what was promised for this week."""

from datetime import datetime, timedelta

from ufrin.actions import Database
from ufrin.actions.bench import sequence
from ufrin.actions.schedule import shop_people
from ufrin.core.clocks.moment import Moment

# the museum closes at five, and the workshop with it
HOURS = "08:00-12:00, 12:30-17:00"
PEOPLE = (("Wren", ""), ("Tamsin", "09:00-15:00"))
EQUIPMENT = (
    ("Drying oven", "oven", 1, 640.0),
    ("Vacuum chamber", "chamber", 1, 310.0),
    ("Pressure pot", "pot", 1, 480.0),
    ("Vibrating table", "table", 1, 220.0),
)
# job, days from today, hour
PROMISED = ((12, 1, 15), (5, 2, 15), (3, 3, 15))
OTHER = (
    ("Pack the handling crate for the school visit", 45.0, 3, 16),
    ("Show the trustees round the workshop", 60.0, 2, 11),
)


def people_before(database: Database) -> None:
    """Enter the people and the equipment of the workshop.

    Parameters
    ----------
    database : Database
        The record book.
    """
    shop_people.change_hours(database, hours=HOURS, days=range(1, 6), hour_cost=18.0)
    first = shop_people.look(database).people[0].id
    for place, (name, hours) in enumerate(PEOPLE):
        shop_people.save_person(database, None if place else first, name=name, hours=hours, days=())
    for name, kind, number, price in EQUIPMENT:
        shop_people.add_equipment(database, name=name, kind=kind, number=number, price=price)


def promise_this_week(database: Database, now: Moment) -> None:
    """Enter what is promised for the days to come.

    Parameters
    ----------
    database : Database
        With the demo's jobs.
    now : Moment
        When the demo is filled.
    """
    zone = shop_people.look(database).workshop.zone
    today = datetime.fromtimestamp(now.wall_s, zone).replace(minute=0, second=0, microsecond=0)
    for job_id, days, hour in PROMISED:
        sequence.wish(database, job_id, f"{_workday(today, days).replace(hour=hour):%Y-%m-%dT%H:%M}", now)
    for name, minutes, days, hour in OTHER:
        by = f"{_workday(today, days).replace(hour=hour):%Y-%m-%dT%H:%M}"
        shop_people.add_other_work(database, name=name, attended_min=minutes, person_id=None, equipment_id=None, by=by)


def _workday(today: datetime, ahead: int) -> datetime:
    day = today
    while ahead:
        day += timedelta(days=1)
        ahead -= day.isoweekday() <= 5  # noqa: PLR2004 - Friday
    return day
