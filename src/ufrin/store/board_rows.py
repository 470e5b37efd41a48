"""Rows of the Board as they are kept: what a list shows of each job, and from what that was worked out."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from psycopg.types.json import Jsonb

from ufrin.core.job.board_figures import BoardFigures
from ufrin.store.connection import Connection
from ufrin.store.queries import holding, named_queries

_SQL = named_queries("board_rows")


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredRow:
    """A job in a list.

    ``figures`` is None before they were worked out; ``is_fresh`` tells whether anything they follow from has changed.
    """

    id: int
    name: str
    created_at: datetime
    put_away_at: datetime | None
    is_mould_only: bool
    figures: BoardFigures | None
    is_fresh: bool


def _row(row: Mapping[str, Any]) -> StoredRow:
    figures = BoardFigures.from_plain(row["figures"]) if row["figures"] else None
    same = {key: row[key] for key in ("id", "name", "created_at", "put_away_at", "is_mould_only")}
    return StoredRow(figures=figures, is_fresh=bool(row["is_fresh"]) and figures is not None, **same)


def page(
    connection: Connection, *, search: str, put_away: bool, limit: int, offset: int
) -> tuple[list[StoredRow], int]:
    """Read a page of jobs, newest first, and how many there are in all."""
    values = {"pattern": holding(search), "put_away": put_away, "limit": limit, "offset": offset}
    rows = connection.execute(_SQL["page"], values).fetchall()
    if rows or not offset:
        return [_row(row) for row in rows], int(rows[0]["total"]) if rows else 0
    total = connection.execute(_SQL["count"], values).fetchone()
    return [], int(total["jobs"]) if total else 0


def newest(connection: Connection, *, search: str, limit: int, before: int | None) -> list[StoredRow]:
    """Read jobs, the newest first, older than a given one; those that were put away among them."""
    values = {"pattern": holding(search), "limit": limit, "before": before}
    return [_row(row) for row in connection.execute(_SQL["newest"], values).fetchall()]


def of_rubber(connection: Connection, rubber_id: int, *, besides: int) -> list[StoredRow]:
    """Read the jobs on the Board that use a rubber."""
    values = {"rubber_id": rubber_id, "besides": besides}
    return [_row(row) for row in connection.execute(_SQL["of_rubber"], values).fetchall()]


def mark(connection: Connection, job_id: int) -> str:
    """Return what the figures of a job are worked out from, as it is now."""
    row = connection.execute(_SQL["mark"], {"job_id": job_id}).fetchone()
    return str(row["mark"]) if row else ""


def keep(connection: Connection, job_id: int, figures: BoardFigures, worked_out_from: str) -> None:
    """Keep what a list shows of a job; the mark was read before it was worked out."""
    connection.execute(_SQL["keep"], {"job_id": job_id, "figures": Jsonb(figures.to_plain()), "mark": worked_out_from})


def light(connection: Connection, job_ids: Iterable[int], *, triangles: int) -> list[int]:
    """Return those of some jobs whose mesh has no more than so many triangles."""
    values = {"ids": list(job_ids), "triangles": triangles}
    return [row["id"] for row in connection.execute(_SQL["light"], values).fetchall()]


def ask(connection: Connection, job_ids: Iterable[int]) -> None:
    """Ask a worker to work out the figures of some jobs."""
    connection.execute(_SQL["ask"], {"ids": list(job_ids)})
