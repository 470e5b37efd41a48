"""Long work on meshes: asked for, done by a worker within bounds, given up, put back; it always ends."""

import time
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager, suppress
from functools import partial
from threading import Lock
from typing import TypeVar

from ufrin.bounded.child import Bounds, BrokeOff, Closing, Stopped, do_apart
from ufrin.core.job.mesh_work import compare_attitudes, measure_file, rank_pulls
from ufrin.core.opening.pull_ranking import Ranking
from ufrin.errors import DatabaseAway, DatabaseBusy, DiskFull, Refused, UfrinError
from ufrin.language import Text
from ufrin.store import meshes
from ufrin.store.connection import Connection, Database
from ufrin.store.meshes import What

MOST_TRIES = 2
# what each kind of work may take
WORK: Mapping[What, Bounds] = {
    "measure": Bounds(time_s=600.0),
    "attitudes": Bounds(time_s=900.0),
    "directions": Bounds(time_s=1800.0),
}
BROKE_OFF = Text("The work broke off twice without an answer. Reduce the model to fewer triangles and upload it again.")
PATIENCE_S = 60.0
Save = Callable[[Connection], object]
Found = TypeVar("Found")

_being_done: set[tuple[str, What]] = set()
_lock = Lock()


def ask_for(database: Database, mesh: str, what: What) -> None:
    """Queue work on a mesh for a worker."""
    with database.transaction() as connection:
        if meshes.ask(connection, mesh, what):
            meshes.defer(connection, mesh, what)


def stop_work(database: Database, mesh: str, what: What) -> None:
    """Give up work on a mesh; it can be asked for again."""
    with database.transaction() as connection:
        meshes.stop(connection, mesh, what)


def work_on(database: Database, mesh: str, what: What) -> str:
    """Do the work that somebody waits for, as a worker does, in a process of its own.

    Returns what it came to: "done", "refused", "stopped", or "put back" where the worker is being stopped.
    """
    with _at_work(mesh, what) as is_ours:
        while is_ours:
            tries = _patiently(database, partial(meshes.begin, mesh=mesh, what=what))
            if tries is None:
                return "stopped"
            if tries > MOST_TRIES:
                _patiently(database, partial(meshes.finish, mesh=mesh, what=what, refused=BROKE_OFF))
                return "refused"
            try:
                save = {"measure": _measure, "attitudes": _compare, "directions": _rank}[what](database, mesh)
            except Stopped:
                return "stopped"
            except Closing:
                if _leave(mesh, what):
                    _patiently(database, partial(meshes.put_back, mesh=mesh, what=what))
                return "put back"
            except BrokeOff:
                continue
            except Refused as refused:
                _patiently(database, partial(meshes.finish, mesh=mesh, what=what, refused=str(refused)))
                return "refused"
            _patiently(database, save)
            return "done"
    return "being done"


def leave_all(database: Database) -> None:
    """Leave what this process is still at, as on a busy machine where stopping it takes too long: that was no try."""
    for mesh, what in tuple(_being_done):
        with suppress(UfrinError), database.transaction() as connection:
            if _leave(mesh, what):
                meshes.take_back_try(connection, mesh, what)


def _leave(mesh: str, what: What) -> bool:
    # whoever is first takes the try back, so that it is taken back once
    with _lock:
        is_left = (mesh, what) in _being_done
        _being_done.discard((mesh, what))
    return is_left


@contextmanager
def _at_work(mesh: str, what: What) -> Iterator[bool]:
    # the queue gives out work again whose worker it has lost sight of, such as over a restart of the database
    with _lock:
        is_ours = (mesh, what) not in _being_done
        _being_done.add((mesh, what))
    try:
        yield is_ours
    finally:
        if is_ours:
            with _lock:
                _being_done.discard((mesh, what))


def _patiently(database: Database, act: Callable[[Connection], Found]) -> Found:
    # what takes minutes to work out is not lost because the database is being restarted
    end = time.monotonic() + PATIENCE_S
    while True:
        try:
            with database.transaction() as connection:
                return act(connection)
        except (DatabaseAway, DatabaseBusy, DiskFull):
            if time.monotonic() > end:
                raise
            time.sleep(1)


def _reporter(database: Database, mesh: str, what: What) -> Callable[[object], bool]:
    # keeps the share that is done, and stops the work when nobody waits for it any more
    def report(value: object) -> bool:
        try:
            with database.reading() as connection:
                if isinstance(value, Ranking):
                    meshes.keep_directions(connection, mesh, value.to_plain(), is_whole=False)
                return meshes.progress(connection, mesh, what, value if isinstance(value, float) else None)
        except (DatabaseAway, DatabaseBusy, DiskFull):
            return True

    return report


def _measure(database: Database, mesh: str) -> Save:
    name, data = _patiently(database, partial(meshes.data, mesh=mesh))
    report = _reporter(database, mesh, "measure")
    figures, whole, drawn = do_apart(measure_file, WORK["measure"], report, data, name)
    return lambda connection: meshes.keep_measured(connection, mesh, figures.to_plain(), whole, drawn)


def _compare(database: Database, mesh: str) -> Save:
    whole = _patiently(database, partial(meshes.solid, mesh=mesh))
    drawn = _patiently(database, partial(meshes.solid, mesh=mesh, drawn=True))
    found = do_apart(compare_attitudes, WORK["attitudes"], _reporter(database, mesh, "attitudes"), whole, drawn)
    return lambda connection: meshes.keep_attitudes(connection, mesh, found)


def _rank(database: Database, mesh: str) -> Save:
    whole = _patiently(database, partial(meshes.solid, mesh=mesh))
    found = do_apart(rank_pulls, WORK["directions"], _reporter(database, mesh, "directions"), whole)
    return lambda connection: meshes.keep_directions(connection, mesh, found.to_plain(), is_whole=True)


def are_workers_at_work(database: Database) -> bool:
    """Return whether any worker has shown itself lately."""
    with database.reading() as connection:
        return meshes.are_workers_at_work(connection)


def bring_together(database: Database) -> int:
    """Put work that is waited for and that the queue does not know back onto the queue.

    Returns how much of it there was.
    """
    with database.transaction() as connection:
        return meshes.bring_together(connection)
