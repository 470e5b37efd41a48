"""The command: serves Ufrin, with demo data or without, or works for a server, and brings the database along."""

import signal

ENDING = {signal.SIGINT, signal.SIGTERM}
# whoever ends it while the libraries load is heard once they have: some of them swallow what is raised meanwhile. Only
# where this is the program: a mask is inherited by every process that is started later, which then can't be ended
if __name__ == "__main__":
    signal.pthread_sigmask(signal.SIG_BLOCK, ENDING)

import argparse
import errno
import os
import socket
import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from types import FrameType

from ufrin import backup_commands, logs
from ufrin.bounded.child import set_limits
from ufrin.certificates import server_files
from ufrin.errors import UfrinError
from ufrin.helper_programs import HelperPrograms
from ufrin.network import is_https, is_loopback, names_served, shown_address
from ufrin.settings import THERMOMETER_BESIDE, Settings
from ufrin.store import schema
from ufrin.store.cluster import Cluster, existing
from ufrin.store.connection import Database


class CannotServe(UfrinError):
    """The server can't be started here.

    Parameters
    ----------
    why : str
        What is in the way and what to do.
    """

    title = "Ufrin can't be started"

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return self.why


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
    parser.add_argument("what", choices=("demo", "start", "schema", "worker", "server", "backup", "restore"))
    parser.add_argument("file", nargs="?", type=Path, help="of a backup")
    parser.add_argument("--port", type=int)
    parser.add_argument("--host", help="the address to serve on; 0.0.0.0 for every one of this machine")
    parser.add_argument("--with-server", action="store_true", help=argparse.SUPPRESS)
    arguments = parser.parse_args(words)
    try:
        signal.pthread_sigmask(signal.SIG_UNBLOCK, ENDING)
        given = {key: value for key, value in (("port", arguments.port), ("host", arguments.host)) if value is not None}
        settings = Settings(**given)
        if arguments.what == "demo":
            settings = settings.model_copy(update={"sign_in": False})
        if arguments.what in {"demo", "start"}:
            check_address(settings.host, settings.port)
            _check_reach(settings, is_demo=arguments.what == "demo")
        if arguments.what in {"backup", "restore"}:
            _keep_safe(settings, arguments.what, arguments.file)
        else:
            _run(settings, arguments.what, with_server=arguments.with_server)
    except KeyboardInterrupt:
        pass
    except (UfrinError, ValueError) as error:
        print(error, file=sys.stderr)
        return 1
    except OSError as error:
        print(what_is_wrong(error), file=sys.stderr)
        return 1
    return 0


def _keep_safe(settings: Settings, what: str, file: Path | None) -> None:
    logs.write_to(settings.var / "log")
    if what == "restore":
        backup_commands.check_named(file)
    with _database_of(settings, "ufrin") as (conninfo, _):
        if what == "restore" and file is not None:
            print(backup_commands.restore(conninfo, file))
        else:
            print(backup_commands.back_up(conninfo, file, settings.backups, datetime.now(UTC)))


def _leave(number: int, frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def what_is_wrong(error: OSError) -> str:
    """Return what the system refused, as a sentence.

    Parameters
    ----------
    error : OSError
        As it was raised.

    Returns
    -------
    str
        With what to do.
    """
    where = f" in {error.filename}" if error.filename else ""
    if error.errno == errno.ENOSPC:
        return f"The disk is full{where}, so nothing can be written. Make room on it, then start again."
    if error.errno in {errno.EACCES, errno.EPERM, errno.EROFS}:
        return (
            f"Ufrin may not write{where}: the folder is read-only, or belongs to someone else. Name a folder that it "
            "may write to in UFRIN_VAR, then start again."
        )
    if error.errno in {errno.ENOTDIR, errno.EEXIST}:
        return f"There is a file where Ufrin needs a folder{where}. Move it away, or name another folder in UFRIN_VAR."
    return f"The system refused something that Ufrin needs{where}: {error.strerror or error}."


def _run(settings: Settings, what: str, *, with_server: bool) -> None:
    log = logs.write_to(settings.var / "log")
    with _database_of(settings, "ufrin_demo" if what == "demo" else "ufrin") as (conninfo, keep_up):
        if what in {"start", "schema", "worker"} and not with_server:
            told = backup_commands.back_up_before_steps(conninfo, settings.backups, datetime.now(UTC))
            print(told, end="\n" if told else "", flush=True)
        applied = schema.bring_up_to_date(conninfo)
        if what == "schema":
            print(f"The schema is up to date ({applied} new steps).")
            return
        set_limits(at_once=settings.meshes_at_once, memory_mb=settings.mesh_memory_mb)
        # each command loads only what it needs: all of it takes seconds, and a server starts its helpers as well
        if what == "worker":
            from ufrin.jobs import worker  # noqa: PLC0415

            print("A worker waits for long work  (Ctrl-C stops it)", flush=True)
            worker.run(conninfo, settings.backups, with_server=with_server)
            return
        from ufrin.serving import serve, stop_with_parent  # noqa: PLC0415

        if what == "server":
            stop_with_parent()
            serve(conninfo, settings, lambda: None)
            return
        if what == "demo":
            settings = with_free_scale_ports(settings)
            _fill(conninfo, settings)
        if settings.sign_in:
            _welcome(conninfo, settings)
        environment = {
            "UFRIN_DATABASE_URL": conninfo,
            "UFRIN_VAR": str(settings.var),
            "UFRIN_HOST": settings.host,
            "UFRIN_SIGN_IN": str(settings.sign_in),
        }
        if is_https(settings):
            server_files(settings, names_served(settings), datetime.now(UTC))  # before several processes look for them
        helpers = HelperPrograms(_helpers(settings, scales=what == "demo"), environment, keep_up)
        print(f"Ufrin serves on {shown_address(settings)}  (Ctrl-C stops it; log in {log})", flush=True)
        with _shared_metrics(settings):
            helpers.start()
            try:
                serve(conninfo, settings, helpers.stop_soon)
            finally:
                helpers.stop()


@contextmanager
def _shared_metrics(settings: Settings) -> Iterator[None]:
    # several processes that serve add up what each has counted, in files of memory: on a disk that is full, writing to
    # a mapped file ends the process
    if settings.server_processes == 1:
        yield
        return
    memory = Path("/dev/shm")  # noqa: S108 - a folder of its own is made in it
    with tempfile.TemporaryDirectory(prefix="ufrin-metrics-", dir=memory if memory.is_dir() else None) as folder:
        os.environ["PROMETHEUS_MULTIPROC_DIR"] = folder
        yield


def _check_reach(settings: Settings, *, is_demo: bool) -> None:
    # what nobody signs in to is for this machine alone
    if settings.sign_in or is_loopback(settings.host):
        return
    raise CannotServe(
        "The demo asks nobody for a name, so it serves this machine alone. Leave its host at 127.0.0.1, or serve your "
        "own data:  ./run start --host 0.0.0.0"
        if is_demo
        else "Without signing in, Ufrin serves this machine alone. Leave UFRIN_SIGN_IN out, or UFRIN_HOST at 127.0.0.1."
    )


def _welcome(conninfo: str, settings: Settings) -> None:
    # while there is no owner, the terminal shows the code that makes one, and nobody else is let near
    from ufrin.actions.people import accounts  # noqa: PLC0415

    database = Database(conninfo)
    database.open()
    try:
        if not is_loopback(settings.host) and not accounts.has_owner(database):
            raise CannotServe(
                f"Nobody owns this workshop yet, so it can't be served on {settings.host}. Start it for this machine "
                f"alone first, and make the owner there:  ./run start --port {settings.port}"
            )
        code = accounts.owner_code(database)
    finally:
        database.close()
    if code:
        print(f"Nobody owns this workshop yet. Open Ufrin and type this code:  {code}", flush=True)


def _helpers(settings: Settings, *, scales: bool) -> list[list[str]]:
    # workers, more server processes, and the demo's simulated scales
    ports = ["--port", str(settings.scale_port), "--lever-port", str(settings.lever_port), "--thermometer"]
    return [
        *[["ufrin", "worker"]] * settings.workers,
        *[["ufrin", "server", "--port", str(settings.port)]] * (settings.server_processes - 1),
        *[["ufrin.devices", *ports]] * scales,
    ]


def with_free_scale_ports(settings: Settings) -> Settings:
    """Return the settings with ports for simulated scales that nobody has.

    Parameters
    ----------
    settings : Settings
        With the usual ones.

    Returns
    -------
    Settings
        The same where those are free.

    Raises
    ------
    CannotServe
        When none are found.
    """
    # another demo on this machine may have the usual ones
    for shift in range(0, 1000, 20):
        first = settings.scale_port + shift
        ports = [first, first + 1, first + THERMOMETER_BESIDE, settings.lever_port + shift]
        if all(_is_free(port) for port in ports):
            return settings.model_copy(update={"scale_port": ports[0], "lever_port": ports[-1]})
    raise CannotServe(
        f"No ports are free for the simulated scales from {settings.scale_port} on. Name others in UFRIN_SCALE_PORT "
        "and UFRIN_LEVER_PORT."
    )


def _is_free(port: int) -> bool:
    with socket.socket() as trial:
        trial.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            trial.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def _fill(conninfo: str, settings: Settings) -> None:
    from ufrin import demo  # noqa: PLC0415
    from ufrin.devices import clock  # noqa: PLC0415

    database = Database(conninfo)
    database.open()
    try:
        if demo.fill(database, scale_port=settings.scale_port):
            demo.pour_today(database, clock.now())
            demo.promise_this_week(database, clock.now())
        demo.point_scales_at(database, settings.scale_port)
    finally:
        database.close()


def check_address(host: str, port: int) -> None:
    """Check that the server can listen at an address.

    Parameters
    ----------
    host, port : str, int
        Where.

    Raises
    ------
    CannotServe
        When the host is unknown or elsewhere, or the port is taken or not allowed.
    """
    try:
        found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM, flags=socket.AI_PASSIVE)
    except (socket.gaierror, UnicodeError) as error:
        raise CannotServe(
            f"“{host}” is no host name or address that this machine knows. Set UFRIN_HOST to one of its own addresses; "
            "127.0.0.1 is the usual one."
        ) from error
    family, _, _, _, address = found[0]
    with socket.socket(family) as trial:
        trial.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            trial.bind(address)
        except OSError as error:
            if error.errno == errno.EADDRINUSE:
                why = (
                    f"Port {port} on {host} is taken by another program, perhaps by Ufrin itself. Stop that, or choose "
                    f"another: ./run demo --port {port + 1}"
                )
            elif error.errno == errno.EACCES:
                why = f"Port {port} may not be opened by this user. Choose one above 1024: ./run demo --port 8537"
            else:
                why = (
                    f"{host} is not an address of this machine. Set UFRIN_HOST to one of its own; 127.0.0.1 is the "
                    "usual one."
                )
            raise CannotServe(why) from error


@contextmanager
def _database_of(settings: Settings, name: str) -> Iterator[tuple[str, Callable[[], None] | None]]:
    # its address, and what starts it again when it has ended, where it is our own
    if settings.database_url:
        yield existing(settings.database_url), None
        return
    cluster = Cluster(settings.var / "postgres")
    try:
        cluster.start()
        yield cluster.database(name), cluster.keep_up
    finally:
        # whoever is impatient with Ctrl-C must not cut the database's own leave-taking short
        for number in ENDING:
            signal.signal(number, signal.SIG_IGN)
        cluster.leave()


if __name__ == "__main__":
    sys.exit(main())
