"""The list of jobs for scripts: the newest first, a page at a time, those that were put away among them."""

from ufrin.actions.job.board import BoardRow, brought_up_to_date, rows
from ufrin.store import board_rows
from ufrin.store.connection import Database


def job_list(database: Database, *, search: str, limit: int, before: int | None) -> list[BoardRow]:
    """List jobs, the newest first; ``before`` is the id of the last one of the page before."""
    with database.reading() as connection:
        found = board_rows.newest(connection, search=search.replace("\0", "").strip(), limit=limit, before=before)
    shown = brought_up_to_date(database, found)
    with database.reading() as connection:
        return rows(connection, shown)
