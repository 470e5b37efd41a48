"""The schedule as it is kept: hours, people, equipment, other work, steps put at a time, plans, and the search."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal, get_args

from psycopg.rows import class_row
from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from ufrin.core.inputs.usual import USUAL
from ufrin.core.schedule.day_plan import DayPlan
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("schedule")
_PLAN = TypeAdapter(DayPlan)
EquipmentKind = Literal["oven", "chamber", "pot", "table", "other"]
EQUIPMENT_KINDS: tuple[EquipmentKind, ...] = get_args(EquipmentKind)
PlanKind = Literal["taken", "proposed"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ShopHours:
    """When the shop works, what an hour of a pair of hands costs, and the secret of its calendar."""

    hours: str
    days: list[int]
    hour_cost: float
    secret: str
    version: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """Somebody who works here; without hours or days of their own, the shop's count."""

    id: int
    name: str
    hours: str
    days: list[int] | None
    secret: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DaysOff:
    """Days on which one person does not work, or nobody."""

    id: int
    person_id: int | None
    first_day: date
    last_day: date


@dataclass(frozen=True, slots=True, kw_only=True)
class Equipment:
    """Something that is shared out: how many there are, what one costs, and when one is lent out, with its number."""

    id: int
    name: str
    kind: EquipmentKind
    number: int
    price: float
    away: tuple[tuple[int, float, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherWork:
    """Other work that takes somebody's time."""

    id: int
    name: str
    attended_min: float
    person_id: int | None
    equipment_id: int | None
    finish_by_s: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """A step that was put at a time, in seconds since 1970, perhaps with who does it."""

    step: str
    begins_s: float
    person_id: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredPlan:
    """A plan as it was made, in seconds since 1970, and what it was made from."""

    kind: PlanKind
    made_s: float
    fingerprint: str
    plan: DayPlan


@dataclass(frozen=True, slots=True, kw_only=True)
class Search:
    """Where the search for the best plan stands."""

    state: Literal["waiting", "done", "refused"]
    fingerprint: str
    progress: Mapping[str, float] | None
    refused: str | None
    asked_s: float


def hours(connection: Connection) -> ShopHours:
    """Read when the shop works.

    Raises Missing when somebody emptied the database.
    """
    with connection.cursor(row_factory=class_row(ShopHours)) as cursor:
        found = cursor.execute(_SQL["hours"]).fetchone()
    if found is None:
        raise Missing(Text("the working hours"))
    return found


def save_hours(connection: Connection, *, hours: str, days: Sequence[int], hour_cost: float) -> None:
    """Keep new working hours."""
    connection.execute(_SQL["save_hours"], {"hours": hours, "days": list(days), "hour_cost": hour_cost})


def people(connection: Connection) -> list[Person]:
    """Read everybody who works here."""
    with connection.cursor(row_factory=class_row(Person)) as cursor:
        return cursor.execute(_SQL["people"]).fetchall()


def save_person(
    connection: Connection, number: int | None, *, name: str, hours: str, days: Sequence[int] | None
) -> None:
    """Keep somebody new, or what changed of somebody.

    Raises Missing where there is nobody of that number.
    """
    values = {"id": number, "name": name, "hours": hours, "days": list(days) if days else None}
    query = "add_person" if number is None else "change_person"
    if connection.execute(_SQL[query], values).fetchone() is None:
        raise Missing(Text("this person"))


def new_secrets(connection: Connection) -> None:
    """Give every calendar a new address."""
    connection.execute(_SQL["new_secrets"])


def by_secret(connection: Connection, secret: str) -> str | None:
    """Return whose calendar a secret opens; None for the whole shop.

    Raises Missing where it opens none.
    """
    found = connection.execute(_SQL["by_secret"], {"secret": secret}).fetchone()
    if found is None:
        raise Missing(Text("this calendar"))
    return None if found["name"] is None else str(found["name"])


def days_off(connection: Connection) -> list[DaysOff]:
    """Read the days off that are not over."""
    with connection.cursor(row_factory=class_row(DaysOff)) as cursor:
        return cursor.execute(_SQL["days_off"]).fetchall()


def add_days_off(connection: Connection, *, person_id: int | None, first_day: date, last_day: date) -> None:
    """Keep days off of one person, or of everybody."""
    values = {"person_id": person_id, "first_day": first_day, "last_day": last_day}
    connection.execute(_SQL["add_days_off"], values)


def equipment(connection: Connection) -> list[Equipment]:
    """Read what is shared out among steps."""
    return [
        Equipment(**(row | {"away": tuple((int(one), float(begin), float(end)) for one, begin, end in row["away"])}))
        for row in connection.execute(_SQL["equipment"]).fetchall()
    ]


def add_equipment(connection: Connection, *, name: str, kind: str, number: int, price: float) -> None:
    """Keep something that is shared out."""
    connection.execute(_SQL["add_equipment"], {"name": name, "kind": kind, "number": number, "price": price})


def lend(connection: Connection, number: int, *, from_at: object, until_at: object) -> None:
    """Keep that one of a kind of equipment is away."""
    connection.execute(_SQL["lend"], {"equipment_id": number, "from_at": from_at, "until_at": until_at})


def forget(connection: Connection, what: Literal["person", "days_off", "equipment", "lent"], number: int) -> None:
    """Forget a person, days off, equipment, or that some is lent out.

    Raises Missing where there is none.
    """
    query = "give_back" if what == "lent" else f"forget_{what}"
    if connection.execute(_SQL[query], {"id": number}).fetchone() is None:
        raise Missing(
            {"person": Text("this person"), "days_off": Text("these days off")}.get(what, Text("this equipment"))
        )


def other_work(connection: Connection) -> list[OtherWork]:
    """Read other work that is still to do."""
    with connection.cursor(row_factory=class_row(OtherWork)) as cursor:
        return cursor.execute(_SQL["other_work"]).fetchall()


def add_other_work(connection: Connection, values: Mapping[str, object]) -> None:
    """Keep other work."""
    connection.execute(_SQL["add_other_work"], dict(values))


def finish_other_work(connection: Connection, number: int, *, at_s: float) -> None:
    """Keep that other work is done.

    Raises Missing where there is none to do.
    """
    if connection.execute(_SQL["done_other_work"], {"id": number, "at_s": at_s}).fetchone() is None:
        raise Missing(Text("this work"))


def other_work_done(connection: Connection, *, since_s: float) -> list[tuple[int, str, float]]:
    """Read which other work was done since a time: number, name, and when."""
    rows = connection.execute(_SQL["other_work_done"], {"since_s": since_s}).fetchall()
    return [(row["id"], row["name"], row["at_s"]) for row in rows]


def reopen_other_work(connection: Connection, number: int) -> None:
    """Keep that other work is still to do after all.

    Raises Missing where none was done.
    """
    if connection.execute(_SQL["undone_other_work"], {"id": number}).fetchone() is None:
        raise Missing(Text("this work"))


def placed(connection: Connection) -> dict[str, Placed]:
    """Read the steps that were put at a time, by their keys."""
    with connection.cursor(row_factory=class_row(Placed)) as cursor:
        return {one.step: one for one in cursor.execute(_SQL["placed"])}


def place(connection: Connection, step: str, *, begins_s: float, person_id: int | None) -> None:
    """Put a step at a time."""
    connection.execute(_SQL["place"], {"step": step, "begins_s": begins_s, "person_id": person_id})


def free(connection: Connection, steps: Sequence[str]) -> None:
    """Let steps go where they fit again."""
    connection.execute(_SQL["free"], {"steps": list(steps)})


def jobs_at_work(connection: Connection, *, limit: int) -> list[int]:
    """Read which jobs are planned: those with a wish first."""
    return [row["id"] for row in connection.execute(_SQL["jobs_at_work"], {"limit": limit}).fetchall()]


def jobs_left_off(connection: Connection) -> list[tuple[int, str]]:
    """Read which jobs somebody left off the plan."""
    return [(row["id"], row["name"]) for row in connection.execute(_SQL["jobs_left_off"]).fetchall()]


def leave_off(connection: Connection, job_id: int, *, off: bool) -> None:
    """Leave a job off the plan, or plan it again.

    Raises Missing where there is none.
    """
    if connection.execute(_SQL["leave_off"], {"id": job_id, "off": off}).fetchone() is None:
        raise Missing(Text("this job"))


def plans(connection: Connection) -> dict[str, StoredPlan]:
    """Read the plan that counts and the one that waits to be looked at."""
    rows = connection.execute(_SQL["plans"]).fetchall()
    return {row["kind"]: StoredPlan(**(row | {"plan": _PLAN.validate_python(row["plan"])})) for row in rows}


def times_of_job(connection: Connection, job_id: int) -> dict[str, tuple[float, float]]:
    """Read when the plan that counts begins and ends each step of a job, by the step's key, in seconds since 1970."""
    rows = connection.execute(_SQL["times_of_job"], {"prefix": f"job:{job_id}:"}).fetchall()
    return {row["key"]: (row["begins_s"], row["ends_s"]) for row in rows}


def keep_plan(connection: Connection, kind: PlanKind, fingerprint: str, plan: DayPlan) -> None:
    """Keep a plan; one that counts settles what waited to be looked at."""
    connection.execute(
        _SQL["keep_plan"],
        {"kind": kind, "fingerprint": fingerprint, "plan": Jsonb(_PLAN.dump_python(plan, mode="json"))},
    )
    if kind == "taken":
        connection.execute(_SQL["drop_proposed"])


def take_proposed(connection: Connection) -> None:
    """Let the plan that waits to be looked at count from now on."""
    connection.execute(_SQL["take_proposed"])
    connection.execute(_SQL["drop_proposed"])


def search(connection: Connection) -> Search:
    """Read where the search for the best plan stands.

    Raises Missing when somebody emptied the database.
    """
    with connection.cursor(row_factory=class_row(Search)) as cursor:
        found = cursor.execute(_SQL["search"]).fetchone()
    if found is None:
        raise Missing(Text("the search"))
    return found


def ask(connection: Connection, fingerprint: str) -> None:
    """Ask a worker to search for the best plan, unless one does already."""
    if connection.execute(_SQL["ask"], {"fingerprint": fingerprint}).fetchone():
        connection.execute(_SQL["defer"], {"fingerprint": fingerprint})


def progress(connection: Connection, fingerprint: str, values: Mapping[str, float] | None) -> bool:
    """Keep how far the search is; False where another one is wanted by now."""
    told = {"fingerprint": fingerprint, "progress": Jsonb(values) if values else None}
    return connection.execute(_SQL["progress"], told).fetchone() is not None


def finish(connection: Connection, fingerprint: str, refused: str | None = None) -> None:
    """Keep that the search is over."""
    connection.execute(_SQL["finish"], {"fingerprint": fingerprint, "refused": refused})


def pour_times(connection: Connection) -> list[float]:
    """Read how long the newest pours took, as times of what was planned."""
    values = {"weigh_min": USUAL["sequence"]["weigh_min"]}
    return [float(row["times"]) for row in connection.execute(_SQL["pour_times"], values).fetchall()]
