"""Ufrin's own PostgreSQL cluster, reached through a Unix socket that only its user can open."""

import hashlib
import os
import pwd
import secrets
import shutil
import subprocess
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path
from typing import IO

import psycopg
from psycopg import sql
from psycopg.conninfo import make_conninfo

from ufrin.errors import UfrinError

DATABASE_USER = "postgres"  # the system's own, from Debian's package; the server refuses to run as root
LONGEST_SOCKET_PATH = 90  # a Unix socket's path is at most 107 bytes long, its own name included
DYING_S = 30.0  # for so long a server that was killed, or that recovers, may not answer


class NoCluster(UfrinError):
    """PostgreSQL could not be set up or started.

    Parameters
    ----------
    why : str
        What went wrong and what to do.
    """

    status = 503
    title = "The database could not be started"

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return self.why


class Cluster:
    """One PostgreSQL cluster in a folder.

    Parameters
    ----------
    folder : Path
        Where it is kept; made when it is missing.
    fast : bool, optional
        Without waiting for the disk, for tests whose data may be lost.
    """

    def __init__(self, folder: Path, *, fast: bool = False) -> None:
        self._as_root = os.geteuid() == 0
        self.folder = _reachable(folder.resolve(), self._as_root)
        self._data, self._fast = self.folder / "data", fast
        self._sockets = self.folder / "socket"
        if len(str(self._sockets)) > LONGEST_SOCKET_PATH:
            mark = hashlib.sha256(str(self.folder).encode()).hexdigest()[:12]
            self._sockets = Path(tempfile.gettempdir()) / f"ufrin-{mark}"

    def start(self) -> None:
        """Make the cluster if there is none, and start it if it does not run.

        Raises NoCluster, which says what went wrong.
        """
        for folder in (self.folder, self._sockets):
            self._make(folder)
        for left in self.folder.glob("data.*"):
            shutil.rmtree(left, ignore_errors=True)
        if not (self._data / "PG_VERSION").exists():
            # made beside its place and then moved there, so that an interrupted one is never taken for a complete one;
            # each in a folder of its own, because one that was interrupted may go on writing for a moment
            fresh = self.folder / f"data.{secrets.token_hex(4)}"
            self._run(
                "initdb", "-D", str(fresh), "-U", "ufrin", "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8", "--no-sync"
            )
            fresh.rename(self._data)
        if self._runs():
            return
        # trust is safe here: no network, and the socket's folder opens only for the user that runs Ufrin
        options = f"-k '{self._sockets}' -c listen_addresses='' -c max_connections=60"
        # its log is turned over every day, and a week of it kept
        options += " -c logging_collector=on -c log_directory=log -c log_filename=%a.log"
        options += " -c log_truncate_on_rotation=on -c log_rotation_age=1d -c log_rotation_size=0"
        options += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off" if self._fast else ""
        self._run(
            "pg_ctl",
            "-D",
            str(self._data),
            "-l",
            str(self.folder / "postgresql.log"),
            "-w",
            "-t",
            "30",
            "-o",
            options,
            "start",
        )

    def _runs(self) -> bool:
        # a server that was just killed is still listed as running until it is gone: only one that answers runs
        ends_s = time.monotonic() + DYING_S
        while self._run("pg_ctl", "-D", str(self._data), "status", may_fail=True) == 0:
            try:
                psycopg.connect(self.conninfo("postgres"), connect_timeout=5).close()
            except psycopg.OperationalError:
                if time.monotonic() > ends_s:
                    return False
                time.sleep(0.1)
            else:
                return True
        return False

    def stop(self) -> None:
        """Stop it cleanly; open transactions are rolled back."""
        self._run("pg_ctl", "-D", str(self._data), "-m", "fast", "-w", "stop", may_fail=True)

    def keep_up(self) -> None:
        """Start it again when it has ended, such as by a kill."""
        try:
            number = int((self._data / "postmaster.pid").read_text().split()[0])
            os.kill(number, 0)
        except (OSError, ValueError, IndexError):
            self.start()

    def leave(self) -> None:
        """Stop it unless someone else is still connected, such as a second server.

        Who comes last stops it, whoever started it.
        """
        others = (
            "select count(*) from pg_stat_activity where backend_type = 'client backend' and pid <> pg_backend_pid()"
        )
        try:
            with psycopg.connect(self.conninfo("postgres"), connect_timeout=5, autocommit=True) as connection:
                # on a busy machine the last connections of the server that leaves take a moment to end
                for _ in range(20):
                    row = connection.execute(others).fetchone()
                    if row is None or row[0] == 0:
                        break
                    time.sleep(0.1)
                else:
                    return
        except psycopg.OperationalError:
            pass  # still starting, or gone already
        self.stop()

    def databases(self) -> set[str]:
        """Name all its databases."""
        with psycopg.connect(self.conninfo("postgres"), autocommit=True) as connection:
            return {name for (name,) in connection.execute("select datname from pg_database").fetchall()}

    def database(self, name: str, *, like: str = "") -> str:
        """Give the address of one of its databases, made when it is missing: empty, or as a copy of another."""
        if name not in self.databases():
            made = sql.SQL("create database {}").format(sql.Identifier(name))
            if like:  # one that nobody is connected to
                made += sql.SQL(" template {}").format(sql.Identifier(like))
            with psycopg.connect(self.conninfo("postgres"), autocommit=True) as connection:
                connection.execute(made)
        return self.conninfo(name)

    def drop(self) -> None:
        """Stop it and delete all of it."""
        self.stop()
        shutil.rmtree(self.folder, ignore_errors=True)
        shutil.rmtree(self._sockets, ignore_errors=True)

    def conninfo(self, name: str) -> str:
        """Return the address of one of its databases."""
        return make_conninfo(host=str(self._sockets), user="ufrin", dbname=name)

    def _make(self, folder: Path) -> None:
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        if self._as_root:
            owner = pwd.getpwnam(DATABASE_USER)
            os.chown(folder, owner.pw_uid, owner.pw_gid)

    def _run(self, name: str, *words: str, may_fail: bool = False) -> int:
        command = [str(program(name)), *words]
        if self._as_root:
            command = ["runuser", "-u", DATABASE_USER, "--", *command]
        # the server keeps its standard output for life, so that goes nowhere and its messages are read from a file
        with tempfile.TemporaryFile() as output:
            done = _run(command, output)
            output.seek(0)
            text = output.read().decode(errors="replace").strip()
        if done.returncode and not may_fail:
            log = self.folder / "postgresql.log"
            tail = "\n".join(log.read_text(errors="replace").splitlines()[-5:]) if log.exists() else ""
            raise NoCluster(f"{_cause(text + tail)}{name} failed in {self.folder}:\n{text}\n{tail}".strip())
        return done.returncode


def existing(conninfo: str) -> str:
    """Check that a PostgreSQL that is not ours can be reached.

    Raises NoCluster when it can't, or is no address at all.
    """
    try:
        psycopg.connect(conninfo, connect_timeout=5).close()
    except psycopg.Error as error:
        raise NoCluster(
            f"The database named in UFRIN_DATABASE_URL can't be reached. Check the address and that it runs.\n{error}"
        ) from error
    return conninfo


def program(name: str) -> Path:
    """Return the newest of PostgreSQL's programs of a name.

    Raises NoCluster when there is none.
    """
    versions = sorted(
        Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=lambda path: float(path.parts[-3]), reverse=True
    )
    on_path = shutil.which(name)
    if not versions and not on_path:
        raise NoCluster(
            "PostgreSQL is not installed. Install Debian's package postgresql, or name a running one in "
            "UFRIN_DATABASE_URL."
        )
    return versions[0] if versions else Path(on_path or "")


_CAUSES = {
    "No space left on device": "The disk is full, so the database can't be started. Make room on it, then start again.",
    "Read-only file system": "The database's folder is read-only. Name another in UFRIN_VAR, then start again.",
    "Permission denied": "The database may not write to its folder. Name another in UFRIN_VAR, then start again.",
}


def _cause(text: str) -> str:
    return next((f"{sentence}\n" for words, sentence in _CAUSES.items() if words in text), "")


def _reachable(folder: Path, as_root: bool) -> Path:
    # the folder itself, or a place of the database user's own when that user can't get there (a checkout under /root)
    if not as_root:
        return folder
    try:
        pwd.getpwnam(DATABASE_USER)
    except KeyError as error:
        raise NoCluster(
            "PostgreSQL is not installed: the user postgres is missing. Install Debian's package postgresql."
        ) from error
    above = next(parent for parent in folder.parents if parent.exists())
    looked = _run(["runuser", "-u", DATABASE_USER, "--", "test", "-x", str(above)])
    if looked.returncode == 0:
        return folder
    return Path("/var/lib/postgresql") / f"ufrin-{hashlib.sha256(str(folder).encode()).hexdigest()[:12]}"


def _run(command: Sequence[str], output: int | IO[bytes] | None = None) -> subprocess.CompletedProcess[bytes]:
    # every word of the command is our own, and the program is one of the system's
    return subprocess.run(command, stdin=subprocess.DEVNULL, stdout=output, stderr=output, cwd="/", check=False)  # noqa: S603
