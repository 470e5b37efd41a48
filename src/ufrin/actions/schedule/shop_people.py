"""People and equipment: who works here and when, what is shared out, days off, what is lent out, and other work."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime

from ufrin.actions.schedule.working_time import read_hours, say_hours
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import schedule, workshop_settings
from ufrin.store.connection import Database
from ufrin.store.schedule import EQUIPMENT_KINDS, DaysOff, Equipment, OtherWork, Person, ShopHours
from ufrin.store.workshop_settings import Workshop

MOST_PEOPLE, MOST_EQUIPMENT, MOST_OTHER = 30, 60, 100
LONGEST_OFF_DAYS = 400
LONGEST_OTHER_MIN = 1440.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ShopPeople:
    """Who and what the plan shares out."""

    workshop: Workshop
    hours: ShopHours
    people: tuple[Person, ...]
    days_off: tuple[DaysOff, ...]
    equipment: tuple[Equipment, ...]
    other_work: tuple[OtherWork, ...]


def look(database: Database) -> ShopPeople:
    """Show who and what there is."""
    with database.reading() as connection:
        return ShopPeople(
            workshop=workshop_settings.load(connection),
            hours=schedule.hours(connection),
            people=tuple(schedule.people(connection)),
            days_off=tuple(schedule.days_off(connection)),
            equipment=tuple(schedule.equipment(connection)),
            other_work=tuple(schedule.other_work(connection)),
        )


def change_hours(database: Database, *, hours: str, days: Sequence[int], hour_cost: float) -> None:
    """Change when the shop works, and what an hour of a pair of hands costs.

    Raises Refused for what is no hours, no days, or no price.
    """
    read = read_hours(hours)
    if not days or not set(days) <= set(range(1, 8)):
        raise Refused("days", Text("On which days does the shop work? Choose at least one."))
    if not 0 <= hour_cost < 1e6:
        raise Refused("hour_cost", Text("What an hour costs is 0 or more."))
    with database.transaction() as connection:
        schedule.save_hours(connection, hours=say_hours(read), days=sorted(set(days)), hour_cost=hour_cost)


def save_person(database: Database, number: int | None, *, name: str, hours: str, days: Sequence[int]) -> None:
    """Enter somebody who works here, or change their hours; without hours or days of their own, the shop's count.

    Raises Refused without a name, or for what is no hours.
    """
    plain = one_line(name)[:60]
    if not plain:
        raise Refused("name", Text("What is this person called?"))
    own = say_hours(read_hours(hours)) if hours.strip() else ""
    with database.transaction() as connection:
        if number is None and len(schedule.people(connection)) >= MOST_PEOPLE:
            raise Refused(
                "name", Text("The plan shares work out among at most {most_people} people.", most_people=MOST_PEOPLE)
            )
        schedule.save_person(connection, number, name=plain, hours=own, days=sorted(set(days)))


def add_days_off(database: Database, *, person_id: int | None, first: str, last: str) -> None:
    """Enter days off of one person, or of everybody.

    Raises Refused for what is no days, or too many.
    """
    try:
        first_day = date.fromisoformat(first.strip())
        last_day = date.fromisoformat(last.strip()) if last.strip() else first_day
    except ValueError as error:
        raise Refused("first_day", Text("Type a day such as 2026-12-24.")) from error
    if last_day < first_day:
        raise Refused("last_day", Text("The last day off is before the first. Change one of them."))
    if (last_day - first_day).days > LONGEST_OFF_DAYS:
        raise Refused("last_day", Text("That is more than a year off. Check the dates."))
    with database.transaction() as connection:
        if last_day < workshop_settings.load(connection).today:
            raise Refused("first_day", Text("Those days are over. Choose days that are still to come."))
        schedule.add_days_off(connection, person_id=person_id, first_day=first_day, last_day=last_day)


def add_equipment(database: Database, *, name: str, kind: str, number: int, price: float) -> None:
    """Enter something that is shared out among steps.

    Raises Refused without a name, for an unknown kind, or a number or price that can't be.
    """
    plain = one_line(name)[:60]
    if not plain:
        raise Refused("equipment_name", Text("What is it called?"))
    if kind not in EQUIPMENT_KINDS:
        raise Refused("kind", Text("That is not one of the kinds. Choose again."))
    if not 1 <= number <= 100:  # noqa: PLR2004 - as the database keeps it
        raise Refused("number", Text("How many of them are there? Between 1 and 100."))
    if not 0 <= price < 1e9:  # noqa: PLR2004 - as the database keeps it
        raise Refused("price", Text("A price is 0 or more."))
    with database.transaction() as connection:
        if len(schedule.equipment(connection)) >= MOST_EQUIPMENT:
            raise Refused(
                "equipment_name",
                Text("The plan shares out at most {most_equipment} kinds of equipment.", most_equipment=MOST_EQUIPMENT),
            )
        schedule.add_equipment(connection, name=plain, kind=kind, number=number, price=price)


def lend(database: Database, number: int, *, from_at: str, until_at: str) -> None:
    """Enter that one of a kind of equipment is lent out for a time, by the workshop's own clock.

    Raises Refused for what is no times, or in the wrong order.
    """
    with database.transaction() as connection:
        zone = workshop_settings.load(connection).zone
        try:
            begin, end = (
                datetime.fromisoformat(typed.strip()).replace(tzinfo=zone).astimezone(UTC)
                for typed in (from_at, until_at)
            )
        except (ValueError, OverflowError) as error:
            raise Refused("from_at", Text("Type a day and a time such as 2026-12-04 15:00.")) from error
        if end <= begin:
            raise Refused("until_at", Text("It comes back before it is lent out. Change one of the times."))
        schedule.lend(connection, number, from_at=begin, until_at=end)


def add_other_work(
    database: Database, *, name: str, attended_min: float, person_id: int | None, equipment_id: int | None, by: str
) -> None:
    """Enter other work that takes somebody's time.

    Raises Refused without a name, for a time that can't be, or a wish in the past.
    """
    plain = one_line(name)[:120]
    if not plain:
        raise Refused("work_name", Text("What is to be done?"))
    if not 0 < attended_min <= LONGEST_OTHER_MIN:
        raise Refused("attended_min", Text("How long does it take? More than 0, and at most 24 h."))
    with database.transaction() as connection:
        zone = workshop_settings.load(connection).zone
        wish_s = None
        if by.strip():
            try:
                wish_s = datetime.fromisoformat(by.strip()).replace(tzinfo=zone).timestamp()
            except (ValueError, OverflowError) as error:
                raise Refused("finish_by", Text("Type a day and a time such as 2026-12-04 15:00.")) from error
            if wish_s < datetime.now(UTC).timestamp():
                raise Refused("finish_by", Text("That time is past. Choose one that is still to come."))
        if len(schedule.other_work(connection)) >= MOST_OTHER:
            raise Refused(
                "work_name",
                Text("The plan holds at most {most_other} pieces of other work. Tick some off.", most_other=MOST_OTHER),
            )
        values = {
            "name": plain,
            "attended_min": attended_min,
            "person_id": person_id,
            "equipment_id": equipment_id,
            "finish_by_s": wish_s,
        }
        schedule.add_other_work(connection, values)


def forget(database: Database, what: str, number: int) -> None:
    """Forget a person, days off, equipment, or that some is lent out.

    Raises Refused for the last person: without anybody, nothing can be planned.
    """
    with database.transaction() as connection:
        if what == "person" and len(schedule.people(connection)) <= 1:
            raise Refused("name", Text("Somebody must do the work. Enter another person before this one goes."))
        if what not in {"person", "days_off", "equipment", "lent"}:
            raise Refused("", Text("That is not one of the choices. Choose again."))
        schedule.forget(connection, what, number)  # type: ignore[arg-type] # one of the four, by the line above


def new_addresses(database: Database) -> None:
    """Give every calendar a new address; the old ones stop."""
    with database.transaction() as connection:
        schedule.new_secrets(connection)
