"""Jobs: started, opened, changed station by station, undone, renamed, put away."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ufrin.core.plan import Plan, plan
from ufrin.core.rubbers import Rubber
from ufrin.core.stations import Inputs, Station
from ufrin.errors import Refused, Stale
from ufrin.store import jobs, rubbers, workshop
from ufrin.store.connection import Connection, Database
from ufrin.store.jobs import Job
from ufrin.store.rubbers import KeptRubber
from ufrin.store.workshop import Workshop

JOBS_A_PAGE = 12
LONGEST_SEARCH = 120


@dataclass(frozen=True, slots=True, kw_only=True)
class OpenJob:
    """A job as a page needs it: what is kept, and all that follows from it."""

    job: Job
    plan: Plan
    shelf: tuple[KeptRubber, ...]
    workshop: Workshop

    @property
    def rubber(self) -> Rubber | None:
        """The rubber chosen."""
        return next((kept.rubber for kept in self.shelf if kept.id == self.job.rubber.rubber_id), None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Listed:
    """A job on the Board."""

    job: Job
    plan: Plan
    rubber: Rubber | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Board:
    """A page of the Board; ``pages`` is at least 1."""

    listed: tuple[Listed, ...]
    total: int
    page: int
    pages: int
    search: str
    put_away: bool
    workshop: Workshop


def _planned(job: Job, kept: KeptRubber | None) -> Plan:
    return plan(job.master, job.box, job.rubber, kept.rubber if kept else None, retired=bool(kept and kept.retired_at))


def board(database: Database, *, search: str = "", put_away: bool = False, page: int = 1) -> Board:
    """Show the jobs, newest first.

    Parameters
    ----------
    database : Database
        The record book.
    search : str, optional
        Part of a name.
    put_away : bool, optional
        Those off the Board instead of those on it.
    page : int, optional
        From 1.

    Returns
    -------
    Board
        Each job with its figures, worked out from what its Shelf says now.
    """
    search, page = search.replace("\0", "").strip()[:LONGEST_SEARCH], max(1, min(page, 100_000))
    with database.reading() as connection:
        found, total = jobs.page(connection, search=search, put_away=put_away, limit=JOBS_A_PAGE, offset=(page - 1) * JOBS_A_PAGE)
        kept = rubbers.some(connection, {job.rubber.rubber_id for job in found if job.rubber.rubber_id})
        settings = workshop.load(connection)
    listed = []
    for job in found:
        chosen = kept.get(job.rubber.rubber_id or 0)
        listed.append(Listed(job=job, plan=_planned(job, chosen), rubber=chosen.rubber if chosen else None))
    pages = max(1, -(-total // JOBS_A_PAGE))
    return Board(listed=tuple(listed), total=total, page=page, pages=pages, search=search, put_away=put_away, workshop=settings)


def start_job(database: Database, name: str) -> int:
    """Start a job.

    Parameters
    ----------
    database : Database
        The record book.
    name : str
        All that is asked for.

    Returns
    -------
    int
        The job's number.
    """
    with database.transaction() as connection:
        return jobs.start(connection, checked_name(name))


def checked_name(name: str) -> str:
    """Refuse a name that can't be one.

    Parameters
    ----------
    name : str
        As typed.

    Returns
    -------
    str
        Without idle spaces and control characters.

    Raises
    ------
    Refused
        When it is empty or too long.
    """
    plain = " ".join("".join(sign if sign.isprintable() else " " for sign in name).split())
    if not plain:
        raise Refused("name", "Give the job a name, such as the master's: you will look for it later.")
    if len(plain) > 120:
        raise Refused("name", f"That name has {len(plain)} characters; 120 is the most. Shorten it and keep the rest for the description.")
    return plain


def open_job(database: Database, job_id: int, station: Station = "master") -> OpenJob:
    """Open a job at one of its stations.

    Parameters
    ----------
    database : Database
        The record book.
    job_id : int
        Its number.
    station : Station, optional
        The one that is shown.

    Returns
    -------
    OpenJob
        Worked out.
    """
    with database.reading() as connection:
        return _open(connection, job_id, station)


def _open(connection: Connection, job_id: int, station: Station) -> OpenJob:
    job = jobs.load(connection, job_id, station)
    shelf = tuple(rubbers.shelf(connection))
    chosen = next((kept for kept in shelf if kept.id == job.rubber.rubber_id), None)
    return OpenJob(job=job, plan=_planned(job, chosen), shelf=shelf, workshop=workshop.load(connection))


def change_station(database: Database, job_id: int, station: Station, *, version: int, changes: Mapping[str, object]) -> OpenJob:
    """Save what was changed at a station.

    Parameters
    ----------
    database : Database
        The record book.
    job_id : int
        The job's number.
    station : Station
        Which.
    version : int
        Of what was read when the change was typed.
    changes : mapping of field to value
        Already read; what is not named stays as it is.

    Returns
    -------
    OpenJob
        Worked out afresh.

    Raises
    ------
    Stale
        When someone saved meanwhile and the two differ.
    """
    with database.transaction() as connection:
        before, kept_version = jobs.lock_station(connection, job_id, station)
        differing = {name: value for name, value in changes.items() if getattr(before, name) != value}
        if differing and version != kept_version:
            raise Stale({name: getattr(before, name) for name in differing}, differing, kept_version)
        if differing:
            after: Inputs = replace(before, **differing)  # type: ignore[arg-type]
            jobs.save_station(connection, job_id, station, after, before=before, version=kept_version)
        return _open(connection, job_id, station)


def undo(database: Database, job_id: int, station: Station) -> OpenJob:
    """Bring back what a station held before its last change.

    Parameters
    ----------
    database : Database
        The record book.
    job_id : int
        The job's number.
    station : Station
        Which.

    Returns
    -------
    OpenJob
        Worked out afresh; unchanged when nothing is left to undo.
    """
    with database.transaction() as connection:
        _, version = jobs.lock_station(connection, job_id, station)
        earlier = jobs.take_earlier(connection, job_id, station)
        if earlier is not None:
            jobs.save_station(connection, job_id, station, earlier, before=None, version=version)
        return _open(connection, job_id, station)


def rename_job(database: Database, job_id: int, name: str) -> None:
    """Give a job another name.

    Parameters
    ----------
    database : Database
        The record book.
    job_id : int
        Its number.
    name : str
        As typed.
    """
    with database.transaction() as connection:
        jobs.rename(connection, job_id, checked_name(name))


def put_job_away(database: Database, job_id: int, *, away: bool) -> None:
    """Take a job off the Board, or bring it back.

    Parameters
    ----------
    database : Database
        The record book.
    job_id : int
        Its number.
    away : bool
        Off, or back.
    """
    with database.transaction() as connection:
        jobs.put_away(connection, job_id, away=away)
