"""The Board: the jobs, newest first, as they are kept with what a list shows of each."""

import time
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ufrin.actions.job.open_job import LIGHT_TRIANGLES, records_of, worked_out_row
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.board_figures import BoardFigures
from ufrin.core.job.job_state import Stage, pour_states, stage_of
from ufrin.core.weighing.bench_state import BenchState
from ufrin.errors import Missing
from ufrin.store import board_rows, marks, pours, workshop_settings
from ufrin.store.board_rows import StoredRow
from ufrin.store.connection import Connection, Database
from ufrin.store.marks import KeptAnswers
from ufrin.store.workshop_settings import Workshop

JOBS_A_PAGE = 12
LONGEST_SEARCH = 120


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardRow:
    """A job on the Board; ``figures`` is None before they were worked out."""

    job: StoredRow
    records: tuple[tuple[int, BenchState], ...] = ()

    @property
    def figures(self) -> BoardFigures | None:
        """What is shown of it."""
        return self.job.figures

    def stage(self, now: Moment) -> Stage:
        """Return what the job has come to."""
        figures = self.job.figures
        states = pour_states(figures.halves if figures else (), self.records, now)
        if self.job.is_mould_only:
            return "put away" if self.job.put_away_at is not None else "mould ready"
        is_stopped = figures is not None and figures.is_stopped
        return stage_of(states, is_stopped=is_stopped, is_put_away=self.job.put_away_at is not None, now=now)


@dataclass(frozen=True, slots=True, kw_only=True)
class Board:
    """A page of the Board; ``pages`` is at least 1."""

    listed: tuple[BoardRow, ...]
    total: int
    page: int
    pages: int
    search: str
    put_away: bool
    workshop: Workshop

    @property
    def is_being_worked_out(self) -> bool:
        """Whether a worker still works out what is shown of some of these jobs."""
        return any(not row.job.is_fresh for row in self.listed)


def rows(connection: Connection, found: Sequence[StoredRow]) -> list[BoardRow]:
    """Put jobs into a list with what was poured of each."""
    poured = pours.of_jobs(connection, [one.id for one in found])
    return [BoardRow(job=one, records=records_of(poured[one.id])) for one in found]


def brought_up_to_date(database: Database, found: Sequence[StoredRow]) -> list[StoredRow]:
    """Work out what is shown of jobs where something that it follows from has changed.

    Jobs with a large mesh keep showing what was true before, until a worker has worked them out.
    """
    stale = [one.id for one in found if not one.is_fresh]
    if not stale:
        return list(found)
    with database.reading() as connection:
        light = board_rows.light(connection, stale, triangles=LIGHT_TRIANGLES)
    heavy = [number for number in stale if number not in light]
    if heavy:
        with database.transaction() as connection:
            board_rows.ask(connection, heavy)
    fresh = {number: work_out_row(database, number) for number in light}
    return [replace(one, figures=fresh[one.id], is_fresh=True) if one.id in fresh else one for one in found]


def work_out_row(database: Database, job_id: int) -> BoardFigures | None:
    """Work out what a list shows of a job, and keep it.

    Returns None when the job is not there any more.
    """
    try:
        with database.transaction() as connection:
            return worked_out_row(connection, job_id)[1]
    except Missing:
        return None


_known: KeptAnswers[tuple[str, bool, int], Board] = KeptAnswers()


def board(database: Database, *, search: str = "", put_away: bool = False, page: int = 1) -> Board:
    """Show the jobs, newest first."""
    search, page = search.replace("\0", "").strip()[:LONGEST_SEARCH], max(1, min(page, 100_000))
    asked, read_at_s = (search, put_away, page), time.monotonic()
    with database.reading() as connection:
        mark = marks.read(connection).lists
        if known := _known.get(database, asked, mark):
            return known
        found, total = board_rows.page(
            connection, search=search, put_away=put_away, limit=JOBS_A_PAGE, offset=(page - 1) * JOBS_A_PAGE
        )
        settings = workshop_settings.load(connection)
        listed = rows(connection, found)
    is_fresh = all(one.is_fresh for one in found)
    if not is_fresh:
        shown = brought_up_to_date(database, found)
        listed = [replace(row, job=one) for row, one in zip(listed, shown, strict=True)]
    pages = max(1, -(-total // JOBS_A_PAGE))
    answer = Board(
        listed=tuple(listed), total=total, page=page, pages=pages, search=search, put_away=put_away, workshop=settings
    )
    if is_fresh:
        _known.keep(database, asked, mark, answer, read_at_s=read_at_s)
    return answer
