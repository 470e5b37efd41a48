"""Who did what, as the database has kept it."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.store import changes
from ufrin.store.changes import Change
from ufrin.store.connection import Database

A_PAGE = 60
# the tables whose key begins with the number of a job
OF_JOBS = frozenset(
    {"jobs", "stations", "done_steps", "sign_offs", "faults", "sheets", "retired_cavities", "shared_sheets", "trials"}
)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChangePage:
    """Some of the changes, the newest first, with what their jobs are called.

    ``before`` is the number from which the next page goes on.
    """

    listed: tuple[Change, ...]
    doers: tuple[str, ...]
    jobs: Mapping[int, str]
    before: int | None


def look(database: Database, *, before: int | None = None, doer: str = "") -> ChangePage:
    """List who did what, a page at a time, of one person where one is named."""
    with database.reading() as connection:
        found = changes.newest(connection, limit=A_PAGE + 1, before=before, doer=doer)
        doers = changes.doers(connection)
        listed = tuple(found[:A_PAGE])
        jobs = changes.names_of_jobs(connection, {int(one.number.split()[0]) for one in listed if one.thing in OF_JOBS})
    before = listed[-1].id if len(found) > A_PAGE else None
    return ChangePage(listed=listed, doers=tuple(doers), jobs=jobs, before=before)


def doers_of_pour(database: Database, pour_id: int) -> dict[int, str]:
    """Return who entered the lines of a pour's record, by their numbers."""
    with database.reading() as connection:
        return changes.doers_of_pour(connection, pour_id)
