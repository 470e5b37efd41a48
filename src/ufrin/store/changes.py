"""Who did what: kept by the database itself with every change, and with every line of a record."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from psycopg.rows import class_row

from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("changes")
How = Literal["entered", "changed", "deleted"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """A change: when, by whom, of which table and which row of it."""

    id: int
    at: datetime
    doer: str
    thing: str
    number: str
    how: How


def newest(connection: Connection, *, limit: int, before: int | None = None, doer: str = "") -> list[Change]:
    """Read the newest changes."""
    with connection.cursor(row_factory=class_row(Change)) as cursor:
        return cursor.execute(_SQL["newest"], {"limit": limit, "before": before, "doer": doer}).fetchall()


def doers(connection: Connection) -> list[str]:
    """Read the names of everybody who did something."""
    return [row["doer"] for row in connection.execute(_SQL["doers"]).fetchall()]


def names_of_jobs(connection: Connection, job_ids: Collection[int]) -> dict[int, str]:
    """Read what some jobs are called."""
    rows = connection.execute(_SQL["names_of_jobs"], {"ids": list(job_ids)}).fetchall() if job_ids else []
    return {row["id"]: row["name"] for row in rows}


def doers_of_pour(connection: Connection, pour_id: int) -> dict[int, str]:
    """Read who entered the lines of a pour's record, by their numbers."""
    rows = connection.execute(_SQL["doers_of_pour"], {"pour_id": pour_id}).fetchall()
    return {row["number"]: row["doer"] for row in rows}
