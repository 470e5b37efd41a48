"""Pours as they are kept: the plan of each, and the lines of its record, to which is only added."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from threading import Lock
from typing import Any

from cachetools import LRUCache
from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from ufrin.core.weighing.allowance import LEARNT_FROM, PastPour
from ufrin.core.weighing.pot_life_clock import Moment
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.core.weighing.weigh_plan import WeighPlan
from ufrin.errors import Missing
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("pours")
_PLAN = TypeAdapter(WeighPlan)
MOST_LISTED = 50
MOST_READ = 256


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredPour:
    """A pour with its number, its job, who weighs it, its plan and its record."""

    id: int
    job_id: int
    job_name: str
    rubber_id: int | None
    who: str
    plan: WeighPlan
    entries: tuple[RecordEntry, ...]
    started_at: datetime
    finished_at: datetime | None


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
        raise Missing("this pour")
    return _with_records(connection, [row])[0]


def of_job(connection: Connection, job_id: int) -> list[StoredPour]:
    """Read the pours of a job."""
    return _with_records(
        connection, connection.execute(_SQL["of_job"], {"job_id": job_id, "limit": MOST_LISTED}).fetchall()
    )


def of_jobs(connection: Connection, job_ids: Sequence[int], *, newest: int = 4) -> dict[int, list[StoredPour]]:
    """Read the newest pours of some jobs, by job, the newest first.

    A record is only added to, so one that was read to its last line is not read again.
    """
    rows = connection.execute(_SQL["of_jobs"], {"ids": list(job_ids), "limit": newest}).fetchall() if job_ids else []
    keys = {row["id"]: tuple(row.values()) for row in rows}
    with _lock:
        known = {number: _read[key] for number, key in keys.items() if key in _read}
    missing = [number for number in keys if number not in known]
    if missing:
        fresh = _with_records(connection, connection.execute(_SQL["some"], {"ids": missing}).fetchall())
        known |= {one.id: one for one in fresh}
        with _lock:
            _read.update({keys[one.id]: one for one in fresh})
    found: dict[int, list[StoredPour]] = {number: [] for number in job_ids}
    for number in keys:
        found[known[number].job_id].append(known[number])
    return found


def running(connection: Connection) -> list[StoredPour]:
    """Read the pours that are not finished."""
    return _with_records(connection, connection.execute(_SQL["running"], {"limit": MOST_LISTED}).fetchall())


def _with_records(connection: Connection, rows: Sequence[Mapping[str, Any]]) -> list[StoredPour]:
    records: dict[int, list[RecordEntry]] = {row["id"]: [] for row in rows}
    if records:
        for line in connection.execute(_SQL["entries"], {"ids": list(records)}).fetchall():
            records[line["pour_id"]].append(_entry(line))
    same = ("id", "job_id", "job_name", "rubber_id", "who", "started_at", "finished_at")
    return [
        StoredPour(
            plan=_PLAN.validate_python(row["plan"]),
            entries=tuple(records[row["id"]]),
            **{key: row[key] for key in same},
        )
        for row in rows
    ]


def _entry(line: Mapping[str, Any]) -> RecordEntry:
    at = Moment(wall_s=line["at"].timestamp(), steady_s=line["steady_s"], machine=line["machine"])
    same = ("number", "kind", "ingredient", "net_g", "gross_g", "scale", "temp_c", "of_number", "lot_id", "text")
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
        )
    }
    connection.execute(_SQL["enter"], {**values, **moment, "pour_id": number, "token": token})


def settle(connection: Connection, number: int, *, needed_g: float, used_g: float, wall_s: float) -> None:
    """Keep the result of a finished pour; the time when it was finished is kept once."""
    connection.execute(_SQL["settle"], {"id": number, "needed_g": needed_g, "used_g": used_g, "wall_s": wall_s})


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
