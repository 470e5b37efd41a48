"""Job sheets as they were printed: a revision for each set of figures."""

from dataclasses import dataclass
from datetime import datetime

from psycopg.rows import class_row

from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("sheets")


@dataclass(frozen=True, slots=True, kw_only=True)
class PrintedSheet:
    """A printed revision: its number, the key of its figures, and when it was last printed."""

    revision: int
    figures: str
    printed_at: datetime


def newest(connection: Connection, job_id: int) -> PrintedSheet | None:
    """Read the newest printed revision of a job's sheet."""
    with connection.cursor(row_factory=class_row(PrintedSheet)) as cursor:
        return cursor.execute(_SQL["newest"], {"job_id": job_id}).fetchone()


def add(connection: Connection, job_id: int, *, revision: int, figures: str) -> None:
    """Keep a new revision."""
    connection.execute(_SQL["add"], {"job_id": job_id, "revision": revision, "figures": figures})


def reprinted(connection: Connection, job_id: int, revision: int) -> None:
    """Note that a revision was printed again."""
    connection.execute(_SQL["reprinted"], {"job_id": job_id, "revision": revision})
