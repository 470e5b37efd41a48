"""The command: serves Ufrin, with demo data or without, or works for a server, and brings the database along."""

import signal

ENDING = {signal.SIGINT, signal.SIGTERM}
# whoever ends it while the libraries load is heard once they have: some of them swallow what is raised meanwhile
signal.pthread_sigmask(signal.SIG_BLOCK, ENDING)

import argparse
import os
import socket
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from types import FrameType

import uvicorn
from fastapi import FastAPI

from ufrin import demo, logs
from ufrin.errors import UfrinError
from ufrin.jobs import worker
from ufrin.settings import Settings
from ufrin.store import schema
from ufrin.store.cluster import Cluster, existing
from ufrin.store.connection import Database
from ufrin.web.app import create_app, release_devices


class PortTaken(UfrinError):
    """Another program serves on the port.

    Parameters
    ----------
    host, port : str, int
        Where.
    """

    title = "The port is taken"

    def __init__(self, host: str, port: int) -> None:
        super().__init__(host, port)
        self.host, self.port = host, port

    def __str__(self) -> str:
        return (
            f"Port {self.port} on {self.host} is taken by another program, perhaps by Ufrin itself. Stop that, "
            f"or choose another: ./run demo --port {self.port + 1}"
        )


def main(words: list[str] | None = None) -> int:
    """Run the command.

    Parameters
    ----------
    words : list of str, optional
        Instead of the command line's.

    Returns
    -------
    int
        0, or 1 with the reason printed.
    """
    # a plain kill ends like Ctrl-C: server first, then the database; and a script that starts it in the
    # background may have had both ignored
    for number in ENDING:
        signal.signal(number, _leave)
    parser = argparse.ArgumentParser(prog="ufrin")
    parser.add_argument("what", choices=("demo", "start", "schema", "worker"))
    parser.add_argument("--port", type=int)
    parser.add_argument("--with-server", action="store_true", help=argparse.SUPPRESS)
    arguments = parser.parse_args(words)
    try:
        signal.pthread_sigmask(signal.SIG_UNBLOCK, ENDING)
        settings = Settings() if arguments.port is None else Settings(port=arguments.port)
        if arguments.what in {"demo", "start"}:
            _check_port(settings.host, settings.port)
        _run(settings, arguments.what, with_server=arguments.with_server)
    except KeyboardInterrupt:
        pass
    except (UfrinError, ValueError) as error:
        print(error, file=sys.stderr)
        return 1
    return 0


def _leave(number: int, frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _run(settings: Settings, what: str, *, with_server: bool) -> None:
    log = logs.write_to(settings.var / "log")
    with _conninfo(settings, "ufrin_demo" if what == "demo" else "ufrin") as conninfo:
        applied = schema.bring_up_to_date(conninfo)
        if what == "schema":
            print(f"The schema is up to date ({applied} new steps).")
            return
        if what == "worker":
            print("A worker waits for long work  (Ctrl-C stops it)", flush=True)
            worker.run(conninfo, with_server=with_server)
            return
        if what == "demo":
            _fill(conninfo, settings)
        database = Database(
            conninfo,
            pool_size=settings.pool_size,
            wait_s=settings.database_wait_s,
            statement_limit_s=settings.statement_limit_s,
        )
        app = create_app(database, settings)
        server = _Server(
            app,
            uvicorn.Config(
                app,
                host=settings.host,
                port=settings.port,
                log_config=None,
                access_log=False,
                timeout_graceful_shutdown=5,
            ),
        )
        print(f"Ufrin serves on http://{settings.host}:{settings.port}  (Ctrl-C stops it; log in {log})", flush=True)
        with _helper_programs(conninfo, settings, scales=what == "demo"):
            server.run()


class _Server(uvicorn.Server):
    # one that stops sends away the pages that follow a scale first, or it would wait for them

    def __init__(self, app: FastAPI, config: uvicorn.Config) -> None:
        super().__init__(config)
        self._app = app

    async def shutdown(self, sockets: list[socket.socket] | None = None) -> None:
        release_devices(self._app)
        await super().shutdown(sockets)


@contextmanager
def _helper_programs(conninfo: str, settings: Settings, *, scales: bool) -> Iterator[None]:
    # workers in processes of their own, so that the pages stay quick while a mesh is measured; the demo's
    # simulated scales likewise
    environment = os.environ | {"UFRIN_DATABASE_URL": conninfo, "UFRIN_VAR": str(settings.var)}
    programs = [["ufrin", "worker"]] * settings.workers
    programs += [
        ["ufrin.devices", "--port", str(settings.scale_port), "--lever-port", str(settings.lever_port)]
    ] * scales
    # each hears on its standard input that this process is gone, however it went
    started = [_start(program, environment) for program in programs]
    try:
        yield
    finally:
        for one in started:
            one.terminate()
        for one in started:
            try:
                one.wait(10)
            except subprocess.TimeoutExpired:
                one.kill()


def _start(program: list[str], environment: dict[str, str]) -> subprocess.Popen[bytes]:
    command = [sys.executable, "-m", *program, "--with-server"]
    return subprocess.Popen(command, env=environment, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL)  # noqa: S603


def _fill(conninfo: str, settings: Settings) -> None:
    database = Database(conninfo)
    database.open()
    try:
        demo.fill(database, scale_port=settings.scale_port)
    finally:
        database.close()


def _check_port(host: str, port: int) -> None:
    with socket.socket() as trial:
        trial.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            trial.bind((host, port))
        except OSError as error:
            raise PortTaken(host, port) from error


@contextmanager
def _conninfo(settings: Settings, name: str) -> Iterator[str]:
    if settings.database_url:
        yield existing(settings.database_url)
        return
    cluster = Cluster(settings.var / "postgres")
    try:
        cluster.start()
        yield cluster.database(name)
    finally:
        # whoever is impatient with Ctrl-C must not cut the database's own leave-taking short
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, signal.SIG_IGN)
        cluster.leave()


if __name__ == "__main__":
    sys.exit(main())
