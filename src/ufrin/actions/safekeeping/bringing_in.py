"""Bringing in: a parcel looked at first, with what collides, and then put into this record book in one piece or not."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ufrin.actions.bench import photos
from ufrin.actions.job import meshes as job_meshes
from ufrin.actions.shop import safety_sheets
from ufrin.core.weighing.bench_state import bench_state
from ufrin.errors import Refused, UfrinError
from ufrin.language import Text
from ufrin.store import jobs, parcel_file, parcels, pours
from ufrin.store.connection import Connection, Database
from ufrin.store.parcel_file import Parcel
from ufrin.store.parcel_tables import NOT_COMPARED, OWN_RULES, SHELF, WITH_JOBS, WITH_SHELF, ParcelTable
from ufrin.store.parcels import Numbers, Row

LONGEST_NAME = 120
BESIDE = "(imported)"
_SHELF_THING: dict[str, ParcelTable] = {
    table: ParcelTable(name=table, of="id", refs={}, left_out=("version", "retired_at")) for table in SHELF
}
_JOB = ParcelTable(name="jobs", of="id", refs={})


@dataclass(frozen=True, slots=True, kw_only=True)
class Collision:
    """A thing on the Shelf that both have under one name, with what differs: field, as it comes, as it is here."""

    table: str
    name: str
    key: str
    differing: tuple[tuple[str, object, object], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class IncomingJob:
    """A job that comes, and the number of the same one here, where there is one."""

    number: int
    name: str
    begun_at: str
    here: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Incoming:
    """What a parcel would bring: its name, jobs, collisions, what is new on the Shelf, and how much else."""

    number: int
    name: str
    what: str
    made_at: str
    jobs: tuple[IncomingJob, ...]
    collisions: tuple[Collision, ...]
    new_things: tuple[tuple[str, str], ...]
    counts: Mapping[str, int]


def send(database: Database, name: str, data: bytes) -> int:
    """Keep a parcel until somebody says what to do with it.

    Raises Refused when it is none.
    """
    parcel_file.read(data)
    plain = "".join(sign for sign in name.rsplit("/", 1)[-1] if sign.isprintable())[:200]
    with database.transaction() as connection:
        return parcels.keep(connection, plain, data)


def look(database: Database, number: int) -> Incoming:
    """Show what a parcel would bring, and what collides."""
    with database.reading() as connection:
        parcel = parcel_file.read(parcels.waiting(connection, number)[1])
        try:
            return _incoming(connection, number, parcel)
        except (KeyError, TypeError, ValueError) as error:
            raise Refused(
                "file", Text("This export file lacks something that every one has. Export it again.")
            ) from error


def _incoming(connection: Connection, number: int, parcel: Parcel) -> Incoming:
    collisions, new = list[Collision](), list[tuple[str, str]]()
    for table in SHELF:
        for row in parcel.rows(table):
            here = parcels.named_alike(connection, table, str(row["name"]))
            if here is None:
                new.append((table, str(row["name"])))
            elif differing := _differing(row, here):
                key = f"{table}-{int(row['id'])}"
                collisions.append(Collision(table=table, name=str(row["name"]), key=key, differing=differing))
    found = tuple(
        IncomingJob(
            number=int(row["id"]),
            name=str(row["name"]),
            begun_at=str(row["created_at"])[:10],
            here=parcels.same_job(connection, str(row["name"]), str(row["created_at"])),
        )
        for row in parcel.rows("jobs")
    )
    counts = {
        "meshes": len(parcel.rows("meshes")),
        "pours": len(parcel.rows("pours")),
        "shots": len(parcel.rows("shots")),
        "moulds": len(parcel.rows("moulds")),
        "pictures": sum(name.startswith("files/pictures/") for name in parcel.files),
        "coupons": len(parcel.rows("coupons")),
        "sheets": len(parcel.rows("safety_sheets")),
        "tests": len(parcel.rows("own_rules")),
    }
    return Incoming(
        number=number,
        name=parcel.manifest.name,
        what=parcel.manifest.what,
        made_at=f"{parcel.manifest.made_at:%Y-%m-%d %H:%M}",
        jobs=found,
        collisions=tuple(collisions),
        new_things=tuple(new),
        counts=counts,
    )


def _differing(row: Row, here: Row) -> tuple[tuple[str, object, object], ...]:
    shared = [name for name in row if name in here and name not in NOT_COMPARED]
    return tuple((name, row[name], here[name]) for name in shared if name != "name" and row[name] != here[name])


def forget(database: Database, number: int) -> None:
    """Forget a parcel that is not wanted."""
    with database.transaction() as connection:
        parcels.forget(connection, number)


def bring_in(
    database: Database, number: int, *, both: frozenset[str], again: frozenset[int], by: str
) -> dict[int, str]:
    """Bring a parcel in, all of it or nothing, and return its jobs by their numbers here.

    Parameters
    ----------
    database : Database
        The record book that it comes into.
    number : int
        Of the parcel that waits.
    both : frozenset of str
        Keys of collisions where both things are kept; of all others the one here counts.
    again : frozenset of int
        Numbers of jobs in the parcel that are here already and are brought in once more.
    by : str
        Who brings it in, as it is kept with what was recorded elsewhere.

    Raises Refused when something in it can't be kept or read here.
    """
    with database.reading() as connection:
        parcel = parcel_file.read(parcels.waiting(connection, number)[1])
    try:
        _take_meshes(database, parcel)
        pictures = {
            name: photos.made_small(data)[0]
            for name, data in parcel.files.items()
            if name.startswith("files/pictures/")
        }
        with database.transaction() as connection:
            parcels.waiting(connection, number)
            made = _Unpacking(connection, parcel, pictures, by).unpack(both, again)
            parcels.forget(connection, number)
            parcels.all_differs(connection)
        return made
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        raise Refused(
            "file", Text("This export file holds something that can't be read, so nothing was imported.")
        ) from error


def _take_meshes(database: Database, parcel: Parcel) -> None:
    # measured here, as any file that somebody uploads: nobody's figures are taken on trust
    for row in parcel.rows("meshes"):
        data = parcel.files[row["data"]]
        if job_meshes.take_in(database, str(row["name"]), data) != row["hash"]:
            raise Refused(
                "file",
                Text(
                    "The mesh {name} of this export file is not the one that its job names.", name=str(row["name"])[:80]
                ),
            )


class _Unpacking:
    # one parcel on its way into the record book, inside one transaction

    def __init__(self, connection: Connection, parcel: Parcel, pictures: Mapping[str, bytes], by: str) -> None:
        self._connection, self._parcel, self._by = connection, parcel, by
        self._files = {**parcel.files, **pictures}
        self._numbers: Numbers = {}
        self._new: dict[str, set[int]] = {}

    def unpack(self, both: frozenset[str], again: frozenset[int]) -> dict[int, str]:
        for thing in SHELF:
            for row in self._parcel.rows(thing):
                self._put_thing(thing, row, keeps_both=f"{thing}-{row['id']}" in both)
        for table in WITH_SHELF[:4]:  # of things that are new here; where ours counts, so does what is known of it
            owner = table.refs[table.of]
            for row in self._parcel.rows(table.name):
                if row[table.of] in self._new.get(owner, ()):
                    self._put_with_thing(table, row)
        made = self._put_jobs(again)
        for table in WITH_JOBS:
            for row in self._parcel.rows(table.name):
                self._put(table, row)
        for row in self._parcel.rows(OWN_RULES.name):
            self._put(OWN_RULES, row)
        for job_id in made:
            self._check(job_id)
        return made

    def _put_thing(self, table: str, row: Row, *, keeps_both: bool) -> None:
        here = parcels.named_alike(self._connection, table, str(row["name"]))
        if here is not None and (not keeps_both or not _differing(row, here)):
            self._numbers.setdefault(table, {})[row["id"]] = here["id"]
            return
        named = row if here is None else {**row, "name": self._free_name(table, str(row["name"]))}
        self._put(_SHELF_THING[table], named)
        self._new.setdefault(table, set()).add(row["id"])

    def _put_with_thing(self, table: ParcelTable, row: Row) -> None:
        sheets = WITH_SHELF[4]
        held = [one for one in self._parcel.rows(sheets.name) if one["sheet_id"] == row["id"]]
        if table.name == "safety_sheets":
            if not held:
                return
            # sent as what it is, whatever the parcel calls it
            row = {**row, "media": safety_sheets.check(self._files[held[0]["data"]])}
        self._put(table, row)
        for one in held if table.name == "safety_sheets" else []:
            self._put(sheets, one)

    def _free_name(self, table: str, name: str) -> str:
        for number in range(1, 1000):
            more = BESIDE if number == 1 else f"{BESIDE[:-1]} {number})"
            found = f"{name[: LONGEST_NAME - len(more) - 1]} {more}"
            if parcels.named_alike(self._connection, table, found) is None:
                return found
        raise Refused("file", Text("There are too many things called {name} already.", name=name))

    def _put_jobs(self, again: frozenset[int]) -> dict[int, str]:
        made = {}
        for row in self._parcel.rows("jobs"):
            here = parcels.same_job(self._connection, str(row["name"]), str(row["created_at"]))
            if here is not None and row["id"] not in again:
                # others in the parcel may be boxed with it; what belongs to it stays behind
                self._numbers.setdefault(Text("jobs already here"), {})[row["id"]] = here
                continue
            number = self._put(_JOB, row)
            if number is not None:
                made[number] = str(row["name"])
        return made

    def _put(self, table: ParcelTable, row: Row) -> int | None:
        values, held = dict(row), {}
        for column in table.files:
            if values.get(column) is not None:
                held[column] = self._files[values.pop(column)]
        taken_back_at = values.pop("taken_back_at", None) if table.name == "shots" else None
        if "doer" in values:
            values["doer"] = Text(
                "{doer}, imported by {by}", doer=values["doer"] or "somebody", by=self._by or "somebody"
            )
        numbers = self._numbers
        if table.name in {"stations", "earlier_inputs"}:
            numbers = {**numbers, "jobs": {**numbers.get(Text("jobs already here"), {}), **numbers.get("jobs", {})}}
            if values["job_id"] not in self._numbers.get("jobs", {}):
                return None
        number = parcels.put(self._connection, table, values, numbers, held)
        if number is None:
            return None
        if table.has_id:
            self._numbers.setdefault(table.name, {})[row["id"]] = number
        if taken_back_at is not None:
            parcels.take_back_shot(self._connection, number, str(taken_back_at))
        return number

    def _check(self, job_id: int) -> None:
        # what every page of the job reads must be readable, or the job would only show errors
        try:
            jobs.load(self._connection, job_id)
            for pour in pours.of_job(self._connection, job_id):
                bench_state(pour.plan, pour.entries, pour.room)
        except (UfrinError, KeyError, TypeError, ValueError, AttributeError, IndexError, ZeroDivisionError) as error:
            raise Refused(
                "file", Text("A job in this export file can't be read here, so nothing was imported.")
            ) from error


def plain_values(differing: tuple[tuple[str, object, object], ...]) -> list[tuple[str, Any, Any]]:
    """Return what differs in words: a field's name with spaces, and nothing as a dash."""
    return [
        (name.replace("_", " "), "–" if theirs is None else theirs, "–" if ours is None else ours)
        for name, theirs, ours in differing
    ]
