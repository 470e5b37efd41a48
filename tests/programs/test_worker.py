"""The worker itself: it does what waits, and work whose worker was killed is done by another."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from running import ROOT, Program
from waiting import PATIENCE_S, wait_until

from ufrin.actions.job import long_work, meshes, stations
from ufrin.bounded.child import Bounds
from ufrin.core.master.stand_ins import fitted
from ufrin.core.mesh.triangles import Mesh, joined
from ufrin.core.mesh.written_files import write_stl
from ufrin.errors import UfrinError
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database

# a worker whose limits for leaving run out at once, as they do on a machine that is busy enough
HURRIED = (
    "import runpy, sys; from ufrin.jobs import worker; worker.GRACE_S = worker.LEAVE_S = 0.01;"
    "sys.argv = ['ufrin', 'worker']; runpy.run_module('ufrin', run_name='__main__')"
)


def begin(conninfo: str, var: Path, *, is_hurried: bool = False) -> Program | subprocess.Popen[bytes]:
    told = os.environ | {"UFRIN_DATABASE_URL": conninfo, "UFRIN_VAR": str(var), "PYTHONPATH": str(ROOT / "src")}
    if is_hurried:
        return subprocess.Popen([sys.executable, "-c", HURRIED], env=told, stdout=subprocess.DEVNULL)
    return Program(["worker"], told)


def many_eggs() -> Mesh:
    """Some 450,000 triangles, so that the work takes a while."""
    egg = fitted(60, 44, 50, 60)
    return joined(
        [egg.moved([[1, 0, 0], [0, 1, 0], [0, 0, 1]], (70.0 * (n % 10), 60.0 * (n // 10), 0.0)) for n in range(50)]
    )


@pytest.fixture
def eggs(database: Database) -> tuple[int, str]:
    """A job whose mesh waits to be measured, and the mesh."""
    job = stations.start_job(database, "Fifty eggs")
    stations.give_mesh(database, job, "eggs.stl", write_stl(many_eggs()))
    kept = stations.open_job(database, job).mesh
    assert kept is not None
    return job, kept.kept.hash


def work_of(database: Database, mesh: str) -> dict[str, object]:
    with database.reading() as connection:
        row = connection.execute(
            "select state, progress > 0 as is_begun, tries, refused, (select count(*) from procrastinate_jobs j"
            " where j.args ->> 'mesh' = w.mesh and j.status in ('todo', 'doing')) as queued"
            " from mesh_work w where mesh = %s and what = 'measure'",
            [mesh],
        ).fetchone()
    assert row is not None
    return row


def test_orderly_stops_during_long_work_are_no_tries_and_blame_nobody(
    database: Database, conninfo: str, tmp_path: Path, eggs: tuple[int, str]
) -> None:
    for is_hurried in (False, True):
        worker = begin(conninfo, tmp_path, is_hurried=is_hurried)
        wait_until(lambda: bool(work_of(database, eggs[1])["is_begun"]))
        worker.terminate()
        assert worker.wait(PATIENCE_S) == 0
        left = work_of(database, eggs[1])
        assert (left["state"], left["tries"], left["queued"]) == ("waiting", 0, 1)
    last = begin(conninfo, tmp_path)
    try:
        wait_until(lambda: work_of(database, eggs[1])["state"] == "done")
    finally:
        last.terminate()
        assert last.wait(PATIENCE_S) == 0


def test_work_that_the_queue_has_lost_is_put_back_when_a_worker_starts(
    database: Database, conninfo: str, tmp_path: Path, eggs: tuple[int, str]
) -> None:
    with database.transaction() as connection:
        connection.execute("delete from procrastinate_jobs")
        connection.execute("update mesh_work set progress = 0.02")  # as a worker left it that lost its database
    assert work_of(database, eggs[1])["queued"] == 0
    worker = begin(conninfo, tmp_path)
    try:
        wait_until(lambda: work_of(database, eggs[1])["state"] == "done")
    finally:
        worker.terminate()
        assert worker.wait(PATIENCE_S) == 0
    assert long_work.bring_together(database) == 0


def test_a_database_that_restarts_during_long_work_costs_no_try(
    database: Database, cluster: Cluster, conninfo: str, tmp_path: Path, eggs: tuple[int, str]
) -> None:
    worker = begin(conninfo, tmp_path)
    try:
        for _ in range(2):
            wait_until(lambda: bool(work_of(database, eggs[1])["is_begun"]))
            cluster.stop()
            cluster.start()
            wait_until(lambda: answers(database))
        wait_until(lambda: work_of(database, eggs[1])["state"] == "done")
        assert work_of(database, eggs[1])["tries"] == 1
    finally:
        worker.terminate()
        assert worker.wait(PATIENCE_S) == 0


def answers(database: Database) -> bool:
    try:
        long_work.are_workers_at_work(database)
    except UfrinError:
        return False
    return True


@pytest.mark.parametrize(
    ("bounds", "says"),
    [(Bounds(time_s=0.3), "took longer than the 0 s"), (Bounds(memory_mb=40), "needed more memory than the 40 MB")],
)
def test_work_beyond_its_bounds_ends_with_a_sentence(
    database: Database, eggs: tuple[int, str], monkeypatch: pytest.MonkeyPatch, bounds: Bounds, says: str
) -> None:
    monkeypatch.setitem(long_work.WORK, "measure", bounds)  # type: ignore[arg-type]
    assert long_work.work_on(database, eggs[1], "measure") == "refused"
    left = work_of(database, eggs[1])
    assert left["state"] == "refused"
    assert says in str(left["refused"])
    assert says in str(stations.open_job(database, eggs[0]).mesh.kept.work["measure"].refused)  # type: ignore[union-attr]


def test_a_killed_workers_work_is_done_by_another(database: Database, conninfo: str, tmp_path: Path) -> None:
    data = write_stl(many_eggs())
    assert len(data) > meshes.LARGE_BYTES
    job = stations.start_job(database, "Fifty eggs")
    stations.give_mesh(database, job, "eggs.stl", data)

    def work() -> str:
        kept = stations.open_job(database, job).mesh
        return f"{kept.kept.work['measure'].state} {kept.kept.work['measure'].progress > 0}" if kept else ""

    first = begin(conninfo, tmp_path)
    try:
        wait_until(lambda: work() == "waiting True")
        first.send_signal(signal.SIGKILL)
        first.wait()
        assert work() == "waiting True"
    finally:
        first.kill()
    second = begin(conninfo, tmp_path)
    try:
        wait_until(lambda: work().startswith("done"))
    finally:
        second.terminate()
        assert second.wait(20) == 0
    opened = stations.open_job(database, job)
    assert opened.mesh is not None
    assert opened.mesh.figures is not None
    assert (opened.mesh.figures.bodies, opened.mesh.figures.triangles) == (50, len(many_eggs().faces))
    assert abs(opened.mesh.figures.volume_ml - 3000) < 0.1


def test_a_worker_outlives_a_database_that_stops_and_comes_back(
    database: Database, cluster: Cluster, conninfo: str, tmp_path: Path
) -> None:

    def at_work() -> bool:
        with database.reading() as connection:
            return connection.execute("select from procrastinate_workers").fetchone() is not None

    worker = begin(conninfo, tmp_path)
    try:
        wait_until(at_work)
        cluster.stop()
        time.sleep(2)
        cluster.start()
        job = stations.start_job(database, "Egg")
        stations.give_mesh(database, job, "egg.stl", write_stl(fitted(60, 44, 50, 60)))
        opened = stations.open_job(database, job)
        assert opened.mesh is not None
        long_work.ask_for(database, opened.mesh.kept.hash, "attitudes")

        def compared() -> bool:
            kept = stations.open_job(database, job).mesh
            return kept is not None and kept.kept.work["attitudes"].state == "done"

        wait_until(compared)
    finally:
        worker.terminate()
        assert worker.wait(20) == 0
