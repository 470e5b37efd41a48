"""Backup files: a dump in PostgreSQL's custom format with a manifest that tells its version, and counts and checksums.

A backup is a zip with two members, neither packed again: ``book.dump`` and ``manifest.json``. A restored record book is
compared with the manifest, row by row through a checksum of each table, before it counts.
"""

import hashlib
import os
import subprocess
import tempfile
import zipfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path
from typing import IO, Any, Literal

import psycopg
from psycopg import sql
from psycopg.conninfo import conninfo_to_dict, make_conninfo
from pydantic import BaseModel, ConfigDict, ValidationError

from ufrin import __version__
from ufrin.errors import UfrinError
from ufrin.store import schema
from ufrin.store.cluster import program

DUMP, MANIFEST = "book.dump", "manifest.json"
BLOCK_BYTES = 1 << 20
LONGEST_MANIFEST = 1 << 20
# what a machine knows for itself, and what would let somebody in who has the file
NOT_KEPT = (
    "sessions",
    "one_time_codes",
    "failed_tries",
    "incoming_parcels",
    "procrastinate_*",
    "yoyo_lock",
    "_yoyo_log",
)
# tables in which a new record book has rows already
FROM_THE_START = frozenset({"workshop", "shop_hours", "people", "schedule_search", "input_keys"})
_TABLES = """
    select c.relname as name from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p')
    order by c.relname
"""
# a checksum that does not depend on the order of the rows, nor on how a session shows times, numbers and bytes
_SUM = """
    select count(*) as rows, coalesce(sum(('x' || substr(md5(t::text), 1, 15))::bit(60)::bigint), 0)::text as checksum
    from {} t
"""
_IS_ANOTHERS = """
    select to_regclass('public._yoyo_migration') is null
        and exists (select from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'p')) as value
"""
_PLAINLY = "-c timezone=UTC -c datestyle=ISO -c extra_float_digits=1 -c bytea_output=hex -c intervalstyle=postgres"


class NoBackup(UfrinError):
    """A backup can't be made, read or restored.

    Parameters
    ----------
    why : str
        What is in the way and what to do.
    """

    status = 422
    title = "That backup can't be used"

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return self.why


class _Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class TableSum(_Strict):
    """How many rows a table has, and their checksum."""

    rows: int
    checksum: str


class Manifest(_Strict):
    """What a backup holds: of which version, and each table with its rows and checksum."""

    format: Literal["ufrin-backup"]
    format_version: Literal[1]
    made_at: datetime
    ufrin: str
    postgresql: str
    schema_step: str
    dump_bytes: int
    dump_sha256: str
    tables: Mapping[str, TableSum]

    @property
    def rows(self) -> int:
        """All rows of all tables."""
        return sum(one.rows for one in self.tables.values())


def name_at(now: datetime, more: str = "") -> str:
    """Return the name of a backup that is made at a time."""
    return f"ufrin-{now:%Y-%m-%d-%H%M%S}{more}.zip"


def write(conninfo: str, file: Path, now: datetime) -> Manifest:
    """Write a backup of a record book as it is at one moment, whatever is written meanwhile.

    The file appears under its name only when it is whole. Raises NoBackup.
    """
    beside = file.with_name(f".{file.name}.part")
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        with _plain_connection(conninfo) as connection, connection.transaction():
            connection.execute("set transaction isolation level repeatable read, read only")
            snapshot = _one(connection, "select pg_export_snapshot() as value")
            with zipfile.ZipFile(beside, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
                with archive.open(DUMP, "w", force_zip64=True) as into:
                    dump_bytes, dump_sha256 = _dump(conninfo, snapshot, into)
                manifest = Manifest(
                    format="ufrin-backup",
                    format_version=1,
                    made_at=now,
                    ufrin=__version__,
                    postgresql=_one(connection, "select current_setting('server_version') as value"),
                    schema_step=schema.step_of(conninfo),
                    dump_bytes=dump_bytes,
                    dump_sha256=dump_sha256,
                    tables=_sums(connection),
                )
                archive.writestr(MANIFEST, manifest.model_dump_json(indent=1))
        _settle(beside)
        beside.chmod(0o600)
        beside.replace(file)
    except psycopg.Error as error:
        raise NoBackup(f"The database could not be read, so no backup was made. PostgreSQL says: {error}") from error
    finally:
        beside.unlink(missing_ok=True)
    return manifest


def read_manifest(file: Path) -> Manifest:
    """Read what a backup holds, and check that its dump is whole.

    Raises NoBackup when it is no backup, was cut off or altered, or is of a newer version.
    """
    try:
        with zipfile.ZipFile(file) as archive:
            if sorted(archive.namelist()) != sorted([DUMP, MANIFEST]):
                raise NoBackup(f"{file} is a zip file, but no backup of Ufrin. Name a file that ./run backup made.")
            told = archive.getinfo(MANIFEST)
            if told.file_size > LONGEST_MANIFEST:
                raise NoBackup(f"{file} was altered: its manifest is too long. Take another backup.")
            manifest = Manifest.model_validate_json(archive.read(told))
            _check_dump(archive, manifest, file)
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError) as error:
        raise NoBackup(
            f"{file} is no backup of Ufrin, or was cut off when it was copied. Copy it again, or take another."
        ) from error
    except ValidationError as error:
        raise NoBackup(
            f"{file} has a manifest that this version of Ufrin can't read: it was altered, or made by a newer version. "
            "Take another backup, or the version that made it."
        ) from error
    if manifest.schema_step not in schema.steps():
        raise NoBackup(
            f"{file} was made by Ufrin {manifest.ufrin}, which is newer than this one ({__version__}). Bring this one "
            "up to date first."
        )
    return manifest


def _check_dump(archive: zipfile.ZipFile, manifest: Manifest, file: Path) -> None:
    digest, read = hashlib.sha256(), 0
    with archive.open(DUMP) as dump:
        while block := dump.read(BLOCK_BYTES):
            digest.update(block)
            read += len(block)
            if read > manifest.dump_bytes:
                break
    if (read, digest.hexdigest()) != (manifest.dump_bytes, manifest.dump_sha256):
        raise NoBackup(f"{file} was altered or damaged: its dump does not match its checksum. Take another backup.")


def restore(conninfo: str, file: Path) -> Manifest:
    """Restore a backup into an empty record book, compare every table with the manifest, and bring it up to date.

    Raises NoBackup when the file can't be used, when anything is kept there already, when somebody else is connected,
    or when what was restored differs; the record book is empty again then.
    """
    manifest = read_manifest(file)
    _check_empty(conninfo)
    try:
        _clear(conninfo)
        _fill(conninfo, file)
        with _plain_connection(conninfo) as connection:
            found = _sums(connection)
        differing = sorted(
            name for name in manifest.tables.keys() | found.keys() if manifest.tables.get(name) != found.get(name)
        )
        if differing:
            raise NoBackup(
                f"What was restored differs from the backup in {', '.join(differing)}, so it was taken out again. The "
                "file may be damaged: take another backup."
            )
    except BaseException:
        _clear(conninfo)
        raise
    schema.bring_up_to_date(conninfo)
    return manifest


def _check_empty(conninfo: str) -> None:
    try:
        with _plain_connection(conninfo) as connection:
            others = _one(
                connection,
                "select count(*)::text as value from pg_stat_activity where datname = current_database() "
                "and pid <> pg_backend_pid() and backend_type = 'client backend'",
            )
            if others != "0":
                raise NoBackup("Ufrin runs on this database. Stop it first, then restore.")
            if _one(connection, _IS_ANOTHERS) == "True":
                raise NoBackup(
                    "This database has tables that are not Ufrin's, so nothing was restored. Make a database for Ufrin "
                    "alone, and name that in UFRIN_DATABASE_URL."
                )
            full = [
                name
                for name, one in _sums(connection).items()
                if one.rows
                and name not in FROM_THE_START | {"_yoyo_migration"}
                and not name.startswith(("yoyo", "_yoyo"))
            ]
    except psycopg.OperationalError as error:
        raise NoBackup(f"The database can't be reached, so nothing was restored. PostgreSQL says: {error}") from error
    if full:
        raise NoBackup(
            f"This record book is not empty: there are {', '.join(full[:6])}. Nothing was changed. Restore into an "
            "empty one: name another folder in UFRIN_VAR."
        )


def _clear(conninfo: str) -> None:
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("drop schema if exists public cascade; create schema public")


def _fill(conninfo: str, file: Path) -> None:
    words = ["--exit-on-error", "--single-transaction", "--no-owner", "--no-privileges"]
    with (
        zipfile.ZipFile(file) as archive,
        archive.open(DUMP) as dump,
        _started("pg_restore", conninfo, [*words, "--dbname"], stdin=subprocess.PIPE) as process,
    ):
        assert process.stdin is not None  # noqa: S101 - a pipe was asked for
        try:
            _copy(dump, process.stdin)
        except BrokenPipeError:
            pass  # it has said why on its way out
        finally:
            process.stdin.close()


def _dump(conninfo: str, snapshot: str, into: IO[bytes]) -> tuple[int, str]:
    words = ["--format=custom", "--no-owner", "--no-privileges", f"--snapshot={snapshot}"]
    words += [f"--exclude-table-data=public.{name}" for name in NOT_KEPT]
    digest, written = hashlib.sha256(), 0
    with _started("pg_dump", conninfo, [*words, "--dbname"], stdout=subprocess.PIPE) as process:
        assert process.stdout is not None  # noqa: S101 - a pipe was asked for
        while block := process.stdout.read(BLOCK_BYTES):
            digest.update(block)
            written += len(block)
            into.write(block)
    return written, digest.hexdigest()


@contextmanager
def _started(name: str, conninfo: str, words: list[str], **pipes: int) -> Iterator[subprocess.Popen[bytes]]:
    # a password goes through the environment, since everybody can read the words of a command
    parts = conninfo_to_dict(conninfo)
    password = parts.pop("password", None)
    environment = os.environ | ({"PGPASSWORD": str(password)} if password else {})
    with tempfile.TemporaryFile() as said:
        # every word of the command is our own
        process = subprocess.Popen(  # noqa: S603
            [str(program(name)), *words, make_conninfo("", **parts)],
            stderr=said,
            env=environment,
            **pipes,  # type: ignore[call-overload]
        )
        try:
            yield process
        except BaseException:
            process.kill()
            process.wait()
            raise
        finally:
            if process.stdout:
                process.stdout.close()
        if process.wait() != 0:
            said.seek(0)
            raise NoBackup(f"{name} failed. It says: {said.read(2000).decode(errors='replace').strip()}")


def _copy(source: IO[bytes], into: IO[bytes]) -> None:
    while block := source.read(BLOCK_BYTES):
        into.write(block)


def _sums(connection: psycopg.Connection[Any]) -> dict[str, TableSum]:
    dropped = tuple(name.rstrip("*") for name in NOT_KEPT)
    names = [row[0] for row in connection.execute(_TABLES).fetchall()]
    found = {}
    for name in names:
        if not name.startswith(dropped):
            row = connection.execute(sql.SQL(_SUM).format(sql.Identifier(name))).fetchone()
            found[name] = TableSum(rows=row[0], checksum=row[1]) if row else TableSum(rows=0, checksum="0")
    return found


def _plain_connection(conninfo: str) -> psycopg.Connection[Any]:
    return psycopg.connect(make_conninfo(conninfo, options=_PLAINLY), autocommit=True)


def _one(connection: psycopg.Connection[Any], statement: str) -> str:
    row = connection.execute(statement).fetchone()
    return str(row[0]) if row else ""


def _settle(file: Path) -> None:
    # on the disk before it gets its name, so that a machine that loses power has a whole one or none
    with file.open("rb") as written:
        os.fsync(written.fileno())
