"""Faults as they are kept: what went wrong in a job, what it turned out to be, and which pairings were in it."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("faults")


Pairing = tuple[str, str, str]  # what is poured, what it touches, and what lies between


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredFault:
    """A fault with its outcome, and the pairings of its job as it was then."""

    id: int
    job_id: int
    job_name: str
    symptom: str
    cause: str
    note: str
    pairs: tuple[Pairing, ...]
    at: datetime


def _kept(row: Mapping[str, Any]) -> StoredFault:
    pairs = tuple((pour, touches, between) for pour, touches, between in row["pairs"])
    return StoredFault(**{**row, "pairs": pairs})


def _columns(pairs: Iterable[Pairing]) -> dict[str, list[str]]:
    known = list(pairs)
    return {name: [pair[place] for pair in known] for place, name in enumerate(("pours", "touched", "betweens"))}


def add(connection: Connection, job_id: int, *, symptom: str, cause: str, note: str, pairs: Iterable[Pairing]) -> None:
    """Keep an outcome."""
    values = {"job_id": job_id, "symptom": symptom, "cause": cause, "note": note}
    connection.execute(_SQL["add"], {**values, **_columns(pairs)})


def of_job(connection: Connection, job_id: int) -> list[StoredFault]:
    """Read the faults of a job."""
    return [_kept(row) for row in connection.execute(_SQL["of_job"], {"job_id": job_id}).fetchall()]


def of_pairs(connection: Connection, pairs: Iterable[Pairing]) -> list[StoredFault]:
    """Read the faults of any job in which a pairing came up."""
    wanted = list(pairs)
    return [_kept(row) for row in connection.execute(_SQL["of_pairs"], _columns(wanted)).fetchall()] if wanted else []


def delete(connection: Connection, job_id: int, number: int) -> None:
    """Remove a note that was made by mistake."""
    connection.execute(_SQL["delete"], {"job_id": job_id, "id": number})
