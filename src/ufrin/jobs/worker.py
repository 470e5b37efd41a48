"""The worker: takes long work off the queue in the database, on this machine or another."""

import asyncio
import signal
import sys
from typing import Literal

import structlog
from procrastinate import App, PsycopgConnector
from procrastinate.jobs import Job

from ufrin.actions import Database, meshes

log = structlog.get_logger()
QUEUE = "meshes"
HEARTBEAT_S, GIVEN_UP_S, LOOK_S = 2.0, 8.0, 4.0


def queue(conninfo: str, database: Database) -> App:
    """Put the tasks together.

    Parameters
    ----------
    conninfo : str
        Of the database whose queue it is.
    database : Database
        The same as a record book, open.

    Returns
    -------
    App
        With every task.
    """
    app = App(connector=PsycopgConnector(conninfo=conninfo, min_size=1, max_size=4), worker_defaults={"listen_notify": True})

    @app.task(name="work_on_mesh", queue=QUEUE)
    def work_on_mesh(mesh: str, what: Literal["measure", "attitudes"]) -> None:
        log.info("worked on a mesh", mesh=mesh, what=what, came_to=meshes.work_on(database, mesh, what))

    return app


def run(conninfo: str, *, with_server: bool = False) -> None:
    """Work until told to stop; what is being worked on is finished first.

    Parameters
    ----------
    conninfo : str
        Of the database.
    with_server : bool, optional
        Stop as well when standard input ends, as it does when the server that started this worker is gone.
    """
    database = Database(conninfo, pool_size=3, statement_limit_s=120.0)
    database.open()
    try:
        asyncio.run(_work(queue(conninfo, database), with_server))
    finally:
        database.close()


async def _work(app: App, with_server: bool) -> None:
    async with app.open_async():
        picking_up = asyncio.create_task(_pick_up(app))
        working = asyncio.create_task(
            app.run_worker_async(
                queues=[QUEUE], concurrency=1, fetch_job_polling_interval=2.0, update_heartbeat_interval=HEARTBEAT_S, stalled_worker_timeout=GIVEN_UP_S,
                install_signal_handlers=False, shutdown_graceful_timeout=20.0,
            )
        )  # fmt: skip
        loop = asyncio.get_running_loop()
        for number in (signal.SIGINT, signal.SIGTERM):
            loop.add_signal_handler(number, working.cancel)
        if with_server:
            loop.add_reader(sys.stdin.fileno(), working.cancel)  # nobody writes there: it can only end
        try:
            await working
        except asyncio.CancelledError:
            log.info("worker stopped")
        finally:
            picking_up.cancel()


async def _pick_up(app: App) -> None:
    # work whose worker died stays marked as being done: it is put back; how often is counted where it is done
    while True:
        for job in await app.job_manager.get_stalled_jobs(queue=QUEUE, seconds_since_heartbeat=GIVEN_UP_S):
            await _again(app, job)
        await asyncio.sleep(LOOK_S)


async def _again(app: App, job: Job) -> None:
    log.warning("picked up after a worker died", job=job.id)
    await app.job_manager.retry_job(job)
