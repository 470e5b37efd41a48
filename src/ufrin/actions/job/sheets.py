"""Job sheets: printed with a revision that changes when the figures do."""

from ufrin.actions.job.open_job import opened_at
from ufrin.core.job.sheet_figures import sheet_key
from ufrin.store import jobs, sheets
from ufrin.store.connection import Database


def print_sheet(database: Database, job_id: int) -> int:
    """Note that a job's sheet is printed as it is now.

    Returns its revision: a new one where the figures differ from those printed last.
    """
    with database.transaction() as connection:
        jobs.lock_station(connection, job_id, "master")  # two that print at once count one after the other
        key, printed = sheet_key(opened_at(connection, job_id, "box").plan), sheets.newest(connection, job_id)
        if printed is not None and printed.figures == key:
            sheets.reprinted(connection, job_id, printed.revision)
            return printed.revision
        revision = printed.revision + 1 if printed else 1
        sheets.add(connection, job_id, revision=revision, figures=key)
        return revision
