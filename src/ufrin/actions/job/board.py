"""The Board: the jobs, newest first, each worked out."""

from collections.abc import Sequence
from dataclasses import dataclass

from ufrin.actions.job import meshes
from ufrin.actions.job.open_job import context_of, plan_of, records_of
from ufrin.actions.shelf.picks import gather
from ufrin.actions.shop.shop_ways import shops
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.job_state import Stage, pour_states, stage_of
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.bench_state import BenchState
from ufrin.store import jobs, pours, workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.jobs import Job
from ufrin.store.shelf import CONTAINERS
from ufrin.store.workshop_settings import Workshop

JOBS_A_PAGE = 12
LONGEST_SEARCH = 120


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardRow:
    """A job on the Board."""

    job: Job
    plan: Plan
    rubber: Rubber | None
    records: tuple[tuple[int, BenchState], ...] = ()

    def stage(self, now_s: float) -> Stage:
        """Return what the job has come to."""
        states = pour_states([pour.half for pour in self.plan.pours], self.records, now_s)
        return stage_of(self.plan, states, is_put_away=self.job.put_away_at is not None, now_s=now_s)


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


def rows(connection: Connection, found: Sequence[Job], settings: Workshop) -> list[BoardRow]:
    """Work out a page of jobs, as far as their amounts."""
    containers = CONTAINERS.some(connection, {job.box.container_id for job in found if job.box.container_id})
    shelves, ways = gather(connection, found, settings), shops(connection, found, settings)
    poured = pours.of_jobs(connection, [job.id for job in found])
    listed = []
    for job in found:
        container = containers.get(job.box.container_id or 0)
        mesh = meshes.state_of(connection, job.master)
        context = context_of(connection, job, shelves[job.id], container, mesh, shop=ways[job.id], whole=False)
        worked_out, records = plan_of(job, context), records_of(poured[job.id])
        listed.append(BoardRow(job=job, plan=worked_out, rubber=context.shelf.rubber, records=records))
    return listed


def board(database: Database, *, search: str = "", put_away: bool = False, page: int = 1) -> Board:
    """Show the jobs, newest first."""
    search, page = search.replace("\0", "").strip()[:LONGEST_SEARCH], max(1, min(page, 100_000))
    with database.reading() as connection:
        found, total = jobs.page(
            connection, search=search, put_away=put_away, limit=JOBS_A_PAGE, offset=(page - 1) * JOBS_A_PAGE
        )
        settings = workshop_settings.load(connection)
        listed = rows(connection, found, settings)
    pages = max(1, -(-total // JOBS_A_PAGE))
    return Board(
        listed=tuple(listed), total=total, page=page, pages=pages, search=search, put_away=put_away, workshop=settings
    )
