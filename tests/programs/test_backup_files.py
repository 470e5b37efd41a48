"""Backup files: what is restored is what was backed up, row by row; and what is no whole backup is refused."""

import json
import os
import stat
import zipfile
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import psycopg
import pytest
from snapshot import Snapshot, put_back

from ufrin.actions.job import stations
from ufrin.errors import InUse
from ufrin.store import backup_file, schema
from ufrin.store.backup_file import NoBackup
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.trial import trial_database

NOW = datetime(2026, 3, 1, 2, tzinfo=UTC)


@pytest.fixture(scope="module")
def book(cluster: Cluster, demo_kept: Snapshot) -> Iterator[Database]:
    """A record book of its own with the demo data and what a session's own way to show it would tell a lie about."""
    database = Database(trial_database(cluster, "backed_up"))
    database.open()
    with database.transaction() as connection:
        put_back(connection, demo_kept)
        connection.execute("update workshop set time_zone = 'Pacific/Auckland'")
        connection.execute("update rubbers set sg_mixed = 1.1000000000000003 where id = 1")
        connection.execute("insert into accounts (name, role, password_hash) values ('Wren', 'owner', 'x')")
        connection.execute("insert into sessions values ('a', 1, now(), now(), now() + interval '1 day', '')")
    yield database
    database.close()


@pytest.fixture(scope="module")
def backup(book: Database, tmp_path_factory: pytest.TempPathFactory) -> Path:
    file = tmp_path_factory.mktemp("backups") / "backup.zip"
    backup_file.write(book.conninfo, file, NOW)
    return file


@pytest.fixture
def empty(cluster: Cluster) -> Iterator[str]:
    conninfo = cluster.database("restored")
    yield conninfo
    with psycopg.connect(cluster.conninfo("postgres"), autocommit=True) as connection:
        connection.execute("drop database restored with (force)")


def rows_of(conninfo: str) -> dict[str, list[str]]:
    """Every row of every table as text, read without any of the code that makes and reads backups."""
    with psycopg.connect(conninfo, options="-c timezone=UTC -c extra_float_digits=3") as connection:
        names = connection.execute("select tablename from pg_tables where schemaname = 'public'").fetchall()
        return {
            name: sorted(row[0] for row in connection.execute(f'select t::text from "{name}" t').fetchall())  # noqa: S608
            for (name,) in names
        }


def test_what_is_restored_is_what_was_backed_up_row_by_row(backup: Path, book: Database, empty: str) -> None:
    before = rows_of(book.conninfo)
    manifest = backup_file.restore(empty, backup)
    after = rows_of(empty)
    for name in ("sessions", "one_time_codes", "failed_tries", "procrastinate_jobs", "procrastinate_workers"):
        assert after.pop(name, []) == []
        before.pop(name, None)
    for log in [name for name in before if "yoyo" in name and ("log" in name or "lock" in name)]:
        before.pop(log), after.pop(log, None)
    assert after == before
    assert sum(len(rows) for rows in after.values()) == manifest.rows
    assert len(after["pour_entries"]) > 50
    assert stat.S_IMODE(backup.stat().st_mode) == 0o600
    # it works on: numbers go on where they were, and what the database refuses it still refuses
    database = Database(empty)
    database.open()
    try:
        last = max(int(number) for number in _numbers(book))
        assert stations.start_job(database, "After") > last
        with pytest.raises(InUse, match="only added to"), database.transaction() as connection:
            connection.execute("update pour_entries set net_g = 1")
    finally:
        database.close()


def _numbers(database: Database) -> list[int]:
    with database.reading() as connection:
        return [row["id"] for row in connection.execute("select id from jobs").fetchall()]


def test_a_backup_is_of_one_moment_whatever_is_written_meanwhile(
    database: Database, tmp_path: Path, empty: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    dump = backup_file._dump

    def written_before(*words: object) -> object:
        stations.start_job(database, "While it was dumped")
        return dump(*words)  # type: ignore[arg-type]

    monkeypatch.setattr(backup_file, "_dump", written_before)
    number = len(_numbers(database))
    manifest = backup_file.write(database.conninfo, tmp_path / "b.zip", NOW)
    assert (len(_numbers(database)), manifest.tables["jobs"].rows) == (number + 1, number)
    backup_file.restore(empty, tmp_path / "b.zip")


def test_a_second_time_and_into_a_full_one_is_refused_and_changes_nothing(
    backup: Path, cluster: Cluster, empty: str
) -> None:
    with pytest.raises(NoBackup, match="not match its checksum"):
        (backup.with_name("bad.zip")).write_bytes(altered(backup, "one byte of the dump"))
        backup_file.restore(empty, backup.with_name("bad.zip"))
    backup_file.restore(empty, backup)  # a bad one has left nothing in the way of a good one
    kept = rows_of(empty)
    with pytest.raises(NoBackup, match="not empty"):
        backup_file.restore(empty, backup)
    assert rows_of(empty) == kept


def test_a_new_record_book_that_nobody_used_counts_as_empty_and_one_in_use_does_not(
    backup: Path, cluster: Cluster
) -> None:
    fresh = trial_database(cluster, "never_used")
    with psycopg.connect(fresh), pytest.raises(NoBackup, match="Stop it first"):
        backup_file.restore(fresh, backup)
    assert backup_file.restore(fresh, backup).rows > 500


def test_a_backup_of_an_earlier_version_is_brought_up_to_date(cluster: Cluster, tmp_path: Path, empty: str) -> None:
    earlier = cluster.database("earlier_backup")
    schema.bring_up_to_date(earlier, last="0012.moulds")
    with psycopg.connect(earlier, autocommit=True) as connection:
        connection.execute("insert into jobs (name) values ('Ammonite')")
    assert backup_file.write(earlier, tmp_path / "e.zip", NOW).schema_step == "0012.moulds"
    backup_file.restore(empty, tmp_path / "e.zip")
    assert schema.step_of(empty) == schema.steps()[-1]
    with psycopg.connect(empty) as connection:
        assert connection.execute("select name from jobs").fetchall() == [("Ammonite",)]


def test_a_database_with_tables_of_somebody_else_is_left_alone(backup: Path, empty: str) -> None:
    with psycopg.connect(empty, autocommit=True) as connection:
        connection.execute("create table theirs (id integer)")  # empty, and not ours to drop
    with pytest.raises(NoBackup, match="not Ufrin's"):
        backup_file.restore(empty, backup)
    assert rows_of(empty) == {"theirs": []}


def altered(backup: Path, how: str) -> bytes:
    whole = backup.read_bytes()
    with zipfile.ZipFile(backup) as archive:
        members = {name: archive.read(name) for name in archive.namelist()}
    manifest = json.loads(members["manifest.json"])
    dump = bytearray(members["book.dump"])
    if how == "cut off":
        return whole[: len(whole) // 2]
    if how == "empty":
        return b""
    if how == "one byte of the dump":
        dump[len(dump) // 2] ^= 1
    if how == "newer":
        manifest["schema_step"] = "0999.later"
    if how == "newer manifest":
        manifest["format_version"] = 2
    if how == "a row too many told":
        manifest["tables"]["jobs"]["rows"] += 1
    if how == "another checksum told":
        manifest["tables"]["pour_entries"]["checksum"] = "12"
    members |= {"manifest.json": json.dumps(manifest).encode(), "book.dump": bytes(dump)}
    if how == "another member":
        members["../../evil"] = b"x"
    if how == "no manifest":
        members.pop("manifest.json")
    if how == "a bomb for a manifest":
        members["manifest.json"] = b" " * 50_000_000
    made = backup.with_name("altered.zip")
    with zipfile.ZipFile(made, "w") as archive:
        for name, data in members.items():
            archive.writestr(name, data, zipfile.ZIP_DEFLATED if "bomb" in how else zipfile.ZIP_STORED, 1)
    return made.read_bytes()


@pytest.mark.parametrize(
    ("how", "says"),
    [
        ("cut off", "cut off"),
        ("empty", "no backup"),
        ("one byte of the dump", "does not match its checksum"),
        ("newer", "newer than this one"),
        ("newer manifest", "newer version"),
        ("a row too many told", "differs from the backup in jobs"),
        ("another checksum told", "differs from the backup in pour_entries"),
        ("another member", "no backup of Ufrin"),
        ("no manifest", "no backup of Ufrin"),
        ("a bomb for a manifest", "too long"),
    ],
)
def test_what_is_no_whole_backup_is_refused_and_leaves_nothing(backup: Path, empty: str, how: str, says: str) -> None:
    file = backup.with_name("other.zip")
    file.write_bytes(altered(backup, how))
    with pytest.raises(NoBackup, match=says):
        backup_file.restore(empty, file)
    assert rows_of(empty) == {}


def test_a_backup_that_can_not_be_written_leaves_no_file(book: Database, tmp_path: Path) -> None:
    with pytest.raises(OSError, match="No space left"):
        backup_file.write(book.conninfo, _full(tmp_path), NOW)
    assert list(tmp_path.iterdir()) == []
    with pytest.raises(NoBackup, match="can't be read|could not be read|No backup|no backup"):
        backup_file.write("dbname=nothing host=/nowhere", tmp_path / "b.zip", NOW)
    assert list(tmp_path.iterdir()) == []


def _full(folder: Path) -> Path:
    # its part file is the device that is always full
    os.symlink("/dev/full", folder / ".b.zip.part")
    return folder / "b.zip"
