"""The worker: takes long work off the queue in the database, on this machine or another."""

import asyncio
import signal
import sys
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path
from typing import Literal

import structlog
from procrastinate import App, PsycopgConnector
from procrastinate.exceptions import ProcrastinateException

from ufrin.actions import Database
from ufrin.actions.job import board, long_work
from ufrin.actions.safekeeping import backups
from ufrin.actions.schedule import day_plan
from ufrin.bounded.child import stop_all
from ufrin.devices import clock
from ufrin.errors import UfrinError

log = structlog.get_logger()
QUEUE, BACKUPS = "meshes", "backups"
HEARTBEAT_S, GIVEN_UP_S, LOOK_S, AGAIN_S = 2.0, 8.0, 4.0, 2.0
GRACE_S, LEAVE_S = 4.0, 6.0
LOOKS_A_SWEEP = 15  # a minute


def queue(conninfo: str, database: Database, backup_folder: Path | None = None) -> App:
    """Put the tasks together; without a folder for backups, none are made."""
    app = App(
        connector=PsycopgConnector(conninfo=conninfo, min_size=1, max_size=4), worker_defaults={"listen_notify": True}
    )

    @app.task(name="work_on_mesh", queue=QUEUE)
    def work_on_mesh(mesh: str, what: Literal["measure", "attitudes", "directions"]) -> None:
        log.info("worked on a mesh", mesh=mesh, what=what, came_to=long_work.work_on(database, mesh, what))

    @app.task(name="work_out_row", queue=QUEUE)
    def work_out_row(job_id: int) -> None:
        board.work_out_row(database, job_id)
        log.info("worked out what the Board shows of a job", job=job_id)

    @app.task(name="search_plan", queue=QUEUE)
    def search_plan(fingerprint: str) -> None:
        log.info("searched for the best plan", came_to=day_plan.search(database, fingerprint, clock.now()))

    @app.task(name="back_up", queue=BACKUPS)
    def back_up() -> None:
        if backup_folder is not None:
            log.info("made a backup", came_to=backups.back_up(database, backup_folder, datetime.now(UTC)))

    return app


def run(conninfo: str, backup_folder: Path, *, with_server: bool = False) -> None:
    """Work until stopped; the current work is put back then, for another worker or the next start.

    Backups are made by the worker beside the server alone, so that they are where the server looks for them.
    """
    database = Database(conninfo, pool_size=3, statement_limit_s=120.0)
    database.open()
    loop = asyncio.new_event_loop()
    try:
        # not asyncio.run, which waits for every last task: one that listens to a database that is gone does not end
        loop.run_until_complete(
            _work(queue(conninfo, database, backup_folder if with_server else None), database, with_server)
        )
    finally:
        long_work.leave_all(database)
        database.close()


async def _work(app: App, database: Database, with_server: bool) -> None:
    stopped, loop = asyncio.Event(), asyncio.get_running_loop()
    for number in (signal.SIGINT, signal.SIGTERM):
        loop.add_signal_handler(number, stopped.set)
    if with_server:
        loop.add_reader(sys.stdin.fileno(), stopped.set)  # nobody writes there: it can only end
    while not stopped.is_set():
        working = asyncio.create_task(_until_it_breaks(app, database, with_server))
        waiting = asyncio.create_task(stopped.wait())
        await asyncio.wait({working, waiting}, return_when=asyncio.FIRST_COMPLETED)
        if stopped.is_set():
            stop_all()
        for task in (working, waiting):
            task.cancel()
        await asyncio.wait({working, waiting}, timeout=LEAVE_S)
        broke = working.exception() if working.done() and not working.cancelled() else None
        if not stopped.is_set():  # most likely the database went away: try again until it is back
            log.warning("the queue can't be reached", error=repr(broke))
            with suppress(TimeoutError):
                await asyncio.wait_for(stopped.wait(), AGAIN_S)
    log.info("worker stopped")


async def _until_it_breaks(app: App, database: Database, with_server: bool) -> None:
    async with app.open_async():
        picking_up = asyncio.create_task(_pick_up(app, database, with_server))
        try:
            await app.run_worker_async(
                queues=[QUEUE, BACKUPS] if with_server else [QUEUE],
                concurrency=1,
                fetch_job_polling_interval=2.0,
                update_heartbeat_interval=HEARTBEAT_S,
                stalled_worker_timeout=GIVEN_UP_S,
                install_signal_handlers=False,
                shutdown_graceful_timeout=GRACE_S,
                delete_jobs="successful",
            )
        finally:
            picking_up.cancel()


async def _pick_up(app: App, database: Database, with_server: bool) -> None:
    # work whose worker died stays marked as being done: it is put back; the tries are counted where it is done.
    # At the start and every minute, what is waited for and what the queue knows are brought together
    looks = 0
    while True:
        try:
            for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=GIVEN_UP_S):
                log.warning("picked up after a worker died", job=job.id)
                await app.job_manager.retry_job(job)
            if looks % LOOKS_A_SWEEP == 0:
                number = await asyncio.to_thread(long_work.bring_together, database)
                if number:
                    log.warning("put back onto the queue", number=number)
                if with_server and await asyncio.to_thread(backups.ask_when_due, database):
                    log.info("tonight's backup is asked for")
        except (ProcrastinateException, UfrinError):  # another worker was quicker, or the database is away
            log.info("nothing picked up")
        looks += 1
        await asyncio.sleep(LOOK_S)
