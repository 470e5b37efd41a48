"""Shared sheets as they are kept: who may read a job's sheet without an account, and until when."""

from dataclasses import dataclass
from datetime import datetime

from psycopg.rows import class_row

from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("shared_sheets")


@dataclass(frozen=True, slots=True, kw_only=True)
class SharedSheet:
    """For whom a sheet was shared, by whom, and until when."""

    id: int
    for_whom: str
    made_by: str
    ends_at: datetime


def share(connection: Connection, secret_hash: bytes, job_id: int, *, for_whom: str, made_by: str, days: int) -> None:
    """Keep that somebody may read a job's sheet."""
    values = {"secret_hash": secret_hash, "job_id": job_id, "for_whom": for_whom, "made_by": made_by, "days": days}
    connection.execute(_SQL["share"], values)


def of_job(connection: Connection, job_id: int) -> list[SharedSheet]:
    """Read who may read a job's sheet."""
    with connection.cursor(row_factory=class_row(SharedSheet)) as cursor:
        return cursor.execute(_SQL["of_job"], {"job_id": job_id}).fetchall()


def job_of(connection: Connection, secret_hash: bytes) -> int:
    """Return the job whose sheet an address shows.

    Raises Missing when it shows none, or none any more.
    """
    found = connection.execute(_SQL["job_of"], {"secret_hash": secret_hash}).fetchone()
    if found is None:
        raise Missing(Text("this sheet: the address is not known, or its time is over"))
    return int(found["job_id"])


def end(connection: Connection, number: int, job_id: int) -> None:
    """End a share."""
    if connection.execute(_SQL["end"], {"id": number, "job_id": job_id}).fetchone() is None:
        raise Missing(Text("this share"))
