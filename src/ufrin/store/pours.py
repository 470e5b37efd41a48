"""Pours as they are kept: the plan of each, and the lines of its record, to which is only added."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from threading import Lock
from typing import Any

from cachetools import LRUCache
from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.room_log import RoomReading
from ufrin.core.weighing.allowance import LEARNT_FROM, PastPour
from ufrin.core.weighing.bench_state import BenchState, bench_state
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.core.weighing.weigh_plan import WeighPlan
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("pours")
_PLAN = TypeAdapter(WeighPlan)
MOST_LISTED = 50
MOST_CURING = 400
TAUGHT_BY = 40
MOST_READ = 1024


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredPour:
    """A pour with its number, its job, who weighs it, its plan, its record, and the temperatures of its room."""

    id: int
    job_id: int
    job_name: str
    rubber_id: int | None
    who: str
    plan: WeighPlan
    entries: tuple[RecordEntry, ...]
    started_at: datetime
    finished_at: datetime | None
    room: tuple[RoomReading, ...] = ()

    @property
    def state(self) -> BenchState:
        """Where it is."""
        return bench_state(self.plan, self.entries, self.room)


# pours that were read, by everything of them that can change
_read: LRUCache[tuple[Any, ...], StoredPour] = LRUCache(MOST_READ)
_lock = Lock()


@dataclass(frozen=True, slots=True, kw_only=True)
class Past:
    """A finished pour as the allowance learns from it."""

    id: int
    job_id: int
    finished_at: datetime
    pour: PastPour


def start(
    connection: Connection, *, job_id: int, rubber_id: int | None, who: str, plan: WeighPlan, wall_s: float
) -> int:
    """Keep a pour that begins."""
    row = connection.execute(
        _SQL["start"],
        {"job_id": job_id, "rubber_id": rubber_id, "who": who, "plan": Jsonb(asdict(plan)), "wall_s": wall_s},
    ).fetchone()
    return int(row["id"]) if row else 0


def look(connection: Connection, number: int, *, lock: bool = False) -> StoredPour:
    """Read a pour with its record.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["lock" if lock else "look"], {"id": number}).fetchone()
    if row is None:
        raise Missing(Text("this pour"))
    return _with_records(connection, [row])[0]


def of_job(connection: Connection, job_id: int) -> list[StoredPour]:
    """Read the pours of a job's moulds."""
    return _with_records(
        connection, connection.execute(_SQL["of_job"], {"job_id": job_id, "limit": MOST_LISTED}).fetchall()
    )


def open_cast(connection: Connection, job_id: int) -> int | None:
    """Return the number of the shot that is being weighed."""
    row = connection.execute(_SQL["open_cast"], {"job_id": job_id}).fetchone()
    return int(row["id"]) if row else None


def of_jobs(connection: Connection, job_ids: Sequence[int], *, newest: int = 4) -> dict[int, list[StoredPour]]:
    """Read the newest pours of some jobs, by job, the newest first.

    A record is only added to, so one that was read to its last line is not read again.
    """
    rows = connection.execute(_SQL["of_jobs"], {"ids": list(job_ids), "limit": newest}).fetchall() if job_ids else []
    found: dict[int, list[StoredPour]] = {number: [] for number in job_ids}
    for one in _kept_or_read(connection, rows):
        found[one.job_id].append(one)
    return found


def _kept_or_read(connection: Connection, rows: Sequence[Mapping[str, Any]]) -> list[StoredPour]:
    # by rows that tell how far each record and the room's log go
    keys = {row["id"]: tuple(row.values()) for row in rows}
    with _lock:
        known = {number: _read[key] for number, key in keys.items() if key in _read}
    missing = [number for number in keys if number not in known]
    if missing:
        fresh = _with_records(connection, connection.execute(_SQL["some"], {"ids": missing}).fetchall())
        known |= {one.id: one for one in fresh}
        with _lock:
            _read.update({keys[one.id]: one for one in fresh})
    return [known[number] for number in keys]


def running(connection: Connection) -> list[StoredPour]:
    """Read the pours that are not finished."""
    return _with_records(connection, connection.execute(_SQL["running"], {"limit": MOST_LISTED}).fetchall())


def curing(connection: Connection) -> list[StoredPour]:
    """Read the pours that are finished, and whose mould waits to be taken out or for its first cast, newest first."""
    return _kept_or_read(connection, connection.execute(_SQL["curing"], {"limit": MOST_CURING}).fetchall())


def teaching(connection: Connection, rubber_id: int) -> list[StoredPour]:
    """Read the newest pours of a rubber of which a witness cup or the demoulding tells something."""
    rows = connection.execute(_SQL["teaching"], {"rubber_id": rubber_id, "limit": TAUGHT_BY}).fetchall()
    return _with_records(connection, rows)


def _with_records(connection: Connection, rows: Sequence[Mapping[str, Any]]) -> list[StoredPour]:
    records: dict[int, list[RecordEntry]] = {row["id"]: [] for row in rows}
    if records:
        for line in connection.execute(_SQL["entries"], {"ids": list(records)}).fetchall():
            records[line["pour_id"]].append(_entry(line))
    room = _rooms(connection, rows)
    same = ("id", "job_id", "job_name", "rubber_id", "who", "started_at", "finished_at")
    return [
        StoredPour(
            plan=_PLAN.validate_python(row["plan"]),
            entries=tuple(records[row["id"]]),
            room=room.get(row["id"], ()),
            **{key: row[key] for key in same},
        )
        for row in rows
    ]


def _rooms(connection: Connection, rows: Sequence[Mapping[str, Any]]) -> dict[int, tuple[RoomReading, ...]]:
    # what thermometers read while each was under way
    found: dict[int, list[RoomReading]] = {}
    if rows:
        ids = [row["id"] for row in rows]
        for line in connection.execute(_SQL["room"], {"ids": ids}).fetchall():
            at = Moment(wall_s=line["at"].timestamp(), steady_s=line["steady_s"], machine=line["machine"])
            reading = RoomReading(at=at, temp_c=line["temp_c"], thermometer=line["thermometer"])
            found.setdefault(line["pour_id"], []).append(reading)
    return {number: tuple(readings) for number, readings in found.items()}


def _entry(line: Mapping[str, Any]) -> RecordEntry:
    at = Moment(wall_s=line["at"].timestamp(), steady_s=line["steady_s"], machine=line["machine"])
    same = (
        *("number", "kind", "ingredient", "net_g", "gross_g", "scale", "temp_c", "of_number", "lot_id", "text"),
        *("what", "volume_ml"),
    )
    return RecordEntry(at=at, **{key: line[key] for key in same})


def has_token(connection: Connection, number: int, token: str) -> bool:
    """Return whether a line that is sent again is on record already."""
    return connection.execute(_SQL["has_token"], {"pour_id": number, "token": token}).fetchone() is not None


def enter(connection: Connection, number: int, entry: RecordEntry, token: str) -> None:
    """Add a line to a record."""
    moment = {"wall_s": entry.at.wall_s, "steady_s": entry.at.steady_s, "machine": entry.at.machine}
    values = {
        key: getattr(entry, key)
        for key in (
            "number",
            "kind",
            "ingredient",
            "net_g",
            "gross_g",
            "scale",
            "temp_c",
            "of_number",
            "lot_id",
            "text",
            "what",
            "volume_ml",
        )
    }
    connection.execute(_SQL["enter"], {**values, **moment, "pour_id": number, "token": token})


def settle(connection: Connection, number: int, *, needed_g: float, used_g: float, wall_s: float) -> None:
    """Keep the result of a finished pour; the time when it was finished is kept once."""
    connection.execute(_SQL["settle"], {"id": number, "needed_g": needed_g, "used_g": used_g, "wall_s": wall_s})


def reopen(connection: Connection, number: int) -> None:
    """Keep that a finished pour goes on, because it ran short."""
    connection.execute(_SQL["reopen"], {"id": number})


def keep_demoulded(connection: Connection, number: int, *, wall_s: float | None) -> None:
    """Keep when a pour was taken out of its box; None where that was taken back."""
    connection.execute(_SQL["demoulded"], {"id": number, "wall_s": wall_s})


def keep_photo(connection: Connection, number: int, entry: int, data: bytes, size_px: tuple[int, int]) -> None:
    """Keep the picture that a line of the record names."""
    values = {"pour_id": number, "number": entry, "data": data, "width_px": size_px[0], "height_px": size_px[1]}
    connection.execute(_SQL["keep_photo"], values)


def photo(connection: Connection, number: int, entry: int) -> bytes:
    """Read a picture.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["photo"], {"pour_id": number, "number": entry}).fetchone()
    if row is None:
        raise Missing(Text("this picture"))
    return bytes(row["data"])


def past(connection: Connection) -> list[Past]:
    """Read the pours that the allowance learns from."""
    rows = connection.execute(_SQL["past"], {"limit": LEARNT_FROM}).fetchall()
    return [
        Past(
            id=row["id"],
            job_id=row["job_id"],
            finished_at=row["finished_at"],
            pour=PastPour(needed_g=row["needed_g"], used_g=row["used_g"]),
        )
        for row in rows
    ]


def past_over_pct(connection: Connection) -> tuple[float, ...]:
    """Read how much more than needed the newest pours used."""
    row = connection.execute(_SQL["past_over_pct"], {"limit": LEARNT_FROM}).fetchone()
    return tuple(row["over_pct"]) if row else ()
