"""Faults as they are kept: what went wrong in a job, what it turned out to be, and which pairings were in it."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from psycopg.rows import class_row

from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("faults")


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredFault:
    """A fault with its outcome; ``pairs`` as "poured|touched|between"."""

    id: int
    job_id: int
    job_name: str
    symptom: str
    cause: str
    note: str
    pairs: list[str]
    at: datetime


def add(connection: Connection, job_id: int, *, symptom: str, cause: str, note: str, pairs: Iterable[str]) -> None:
    """Keep an outcome."""
    connection.execute(
        _SQL["add"], {"job_id": job_id, "symptom": symptom, "cause": cause, "note": note, "pairs": list(pairs)}
    )


def of_job(connection: Connection, job_id: int) -> list[StoredFault]:
    """Read the faults of a job."""
    with connection.cursor(row_factory=class_row(StoredFault)) as cursor:
        return cursor.execute(_SQL["of_job"], {"job_id": job_id}).fetchall()


def of_pairs(connection: Connection, pairs: Iterable[str]) -> list[StoredFault]:
    """Read the faults of any job in which a pairing came up."""
    wanted = list(pairs)
    with connection.cursor(row_factory=class_row(StoredFault)) as cursor:
        return cursor.execute(_SQL["of_pairs"], {"pairs": wanted}).fetchall() if wanted else []


def delete(connection: Connection, job_id: int, number: int) -> None:
    """Remove a note that was made by mistake."""
    connection.execute(_SQL["delete"], {"job_id": job_id, "id": number})
