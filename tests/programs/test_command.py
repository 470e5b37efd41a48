"""The command itself: it serves, says what is wrong, and leaves nothing running behind."""

import contextlib
import errno
import os
import re
import signal
import socket
import subprocess
import sys
import threading
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import psycopg
import pytest
from running import ROOT, Program, begin, end, free_port, simulated_scales, wait_for
from waiting import PATIENCE_S, wait_until

from ufrin.__main__ import CannotServe, check_address, what_is_wrong, with_free_scale_ports
from ufrin.actions.job import stations
from ufrin.settings import Settings
from ufrin.store import schema
from ufrin.store.backup_file import read_manifest
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.trial import trial_database


def runs(var: Path) -> bool:
    return (var / "postgres" / "data" / "postmaster.pid").exists()


def workers_gone(var: Path) -> bool:
    """Whether no worker of a server in this place is left."""
    told = [Path(f"/proc/{entry.name}") for entry in Path("/proc").iterdir() if entry.name.isdigit()]
    return not any(is_worker(process, var) for process in told)


def is_worker(process: Path, var: Path) -> bool:
    try:
        return (
            b"worker" in (process / "cmdline").read_bytes()
            and f"UFRIN_VAR={var}".encode() in (process / "environ").read_bytes()
        )
    except OSError:
        return False


def jobs_on(address: str) -> list[str]:
    page = urllib.request.urlopen(address).read().decode()
    return re.findall(r'class="name">([^<]+)<', page)


def test_it_keeps_its_data_and_stops_cleanly_even_after_a_kill(var: Path) -> None:
    process, address = begin(var, "start", UFRIN_WORKERS="1")
    wait_for(process, address)
    urllib.request.urlopen(f"{address}/jobs", b"name=Lamp+finial")
    seen = jobs_on(address)
    assert seen == ["Lamp finial"]
    end(process, signal.SIGKILL)
    assert runs(var)  # nobody could stop it
    wait_until(lambda: workers_gone(var), "a worker outlives the server")
    process, address = begin(var, "start")
    wait_for(process, address)
    assert jobs_on(address) == seen
    end(process, signal.SIGINT)
    assert process.returncode == 0
    assert not runs(var)


def test_the_last_of_two_servers_stops_the_database(var: Path) -> None:
    first, address = begin(var, "start")
    wait_for(first, address)
    second, other = begin(var, "start")
    wait_for(second, other)
    end(first, signal.SIGTERM)
    assert runs(var)
    assert jobs_on(other) == []
    end(second, signal.SIGTERM)
    assert not runs(var)


def test_one_that_was_interrupted_and_still_writes_is_in_nobodys_way(empty_var: Path) -> None:
    cluster, over = Cluster(empty_var / "postgres", fast=True), threading.Event()

    def goes_on_writing() -> None:
        left = empty_var / "postgres" / "data.new" / "base"
        while not over.wait(0.002):
            with contextlib.suppress(OSError):
                left.mkdir(parents=True, exist_ok=True)
                (left / "1").write_text("a page")

    with ThreadPoolExecutor(1) as beside:
        beside.submit(goes_on_writing)
        try:
            wait_until((empty_var / "postgres" / "data.new").exists, "nothing is written")
            cluster.start()
        finally:
            over.set()
    cluster.start()
    assert [one.name for one in (empty_var / "postgres").glob("data*")] == ["data"]


def test_stopped_in_the_middle_of_its_first_start(empty_var: Path) -> None:
    process, _ = begin(empty_var, "start")
    wait_until((empty_var / "postgres").exists, "it does not begin")
    end(process, signal.SIGINT)
    wait_until(lambda: not runs(empty_var), "the database outlives it")
    process, address = begin(empty_var, "start")
    wait_for(process, address)
    end(process, signal.SIGINT)
    assert not runs(empty_var)


def test_a_taken_port_is_told(empty_var: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = str(taken.getsockname()[1])
        told = os.environ | {"UFRIN_VAR": str(empty_var), "PYTHONPATH": str(ROOT / "src")}
        done = subprocess.run(
            [sys.executable, "-m", "ufrin", "demo", "--port", port],
            env=told,
            check=False,
            capture_output=True,
            text=True,
            timeout=PATIENCE_S,
        )
    assert done.returncode == 1
    assert f"Port {port} on 127.0.0.1 is taken" in done.stderr
    assert "--port" in done.stderr
    assert "Traceback" not in done.stderr


def told_by(var: Path, *words: str, **environment: str) -> str:
    """Return what a start that can't be says."""
    told = os.environ | {"UFRIN_VAR": str(var), "PYTHONPATH": str(ROOT / "src")} | environment
    program = Program(words, told)
    said = program.communicate(PATIENCE_S)[0]
    assert program.returncode == 1
    assert "Traceback" not in said
    return said


@pytest.mark.parametrize(
    ("host", "says"),
    [
        ("no-such-host.invalid", "no host name or address that this machine knows"),
        ("192.0.2.1", "is not an address of this machine"),
        ("two words", "no host name"),
    ],
)
def test_a_host_that_is_none_and_one_that_is_elsewhere_are_told(host: str, says: str) -> None:
    with pytest.raises(CannotServe, match=says):
        check_address(host, free_port())


def test_a_folder_that_cannot_be_written_is_told(tmp_path: Path) -> None:
    file = tmp_path / "a-file"
    file.touch()
    assert "file where Ufrin needs a folder" in told_by(file, "start", "--port", str(free_port()))


@pytest.mark.parametrize(("name", "words"), [("log", ("start", "--port", "15999")), ("backups", ("backup",))])
def test_a_file_in_the_place_of_a_folder_of_ours_is_told(empty_var: Path, name: str, words: tuple[str, ...]) -> None:
    (empty_var / name).touch()
    assert "file where Ufrin needs a folder" in told_by(empty_var, *words)


@pytest.mark.parametrize(
    ("number", "says"),
    [(errno.ENOSPC, "The disk is full in /var/x"), (errno.EROFS, "read-only"), (errno.EACCES, "may not write")],
)
def test_what_the_system_refuses_has_its_sentence(number: int, says: str) -> None:
    assert says in what_is_wrong(OSError(number, "refused", "/var/x"))


def is_free(port: int) -> bool:
    with socket.socket() as trial:
        try:
            trial.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def test_a_second_demo_finds_its_own_ports_for_scales() -> None:
    # below the ports that the system gives to connections, which another test may be given meanwhile
    first = next(port for port in range(20_000, 30_000, 40) if all(is_free(port + more) for more in (0, 1, 9)))
    settings = Settings(scale_port=first, lever_port=first + 9)
    assert with_free_scale_ports(settings) == settings
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", settings.scale_port + 1))
        taken.listen()
        other = with_free_scale_ports(settings)
        assert (other.scale_port, other.lever_port) != (settings.scale_port, settings.lever_port)
        assert other.lever_port - other.scale_port == 9
        with socket.socket() as trial:
            trial.bind(("127.0.0.1", other.scale_port))


def test_an_existing_database_is_used(empty_var: Path, cluster: Cluster) -> None:
    conninfo = trial_database(cluster, "existing")
    database = Database(conninfo)
    database.open()
    stations.start_job(database, "Kept elsewhere")
    database.close()
    process, address = begin(empty_var, "start", UFRIN_DATABASE_URL=conninfo)
    wait_for(process, address)
    assert jobs_on(address) == ["Kept elsewhere"]
    end(process, signal.SIGINT)
    assert not (empty_var / "postgres").exists()


def test_a_database_that_is_not_there_is_told(empty_var: Path) -> None:
    process, _ = begin(empty_var, UFRIN_DATABASE_URL="postgresql://nobody@127.0.0.1:1/nothing")
    said = process.communicate(timeout=PATIENCE_S)[0]
    assert process.returncode == 1
    assert "UFRIN_DATABASE_URL" in said
    assert "Traceback" not in said


def test_the_run_script_lists_itself_and_refuses_what_it_does_not_know() -> None:
    listed = subprocess.run([ROOT / "run"], check=False, capture_output=True, text=True)
    assert listed.returncode == 0
    for what in ("demo", "start", "backup", "restore", "schema", "scale", "test", "check", "mutants", "bench", "shots"):
        assert f"./run {what}" in listed.stdout
    unknown = subprocess.run([ROOT / "run", "dance"], check=False, capture_output=True, text=True)
    assert unknown.returncode == 2
    assert "dance" in unknown.stderr


def test_the_simulated_scales_run_by_themselves_and_show_their_lever() -> None:
    with simulated_scales() as lever:
        lever.do("load", 50)
        with socket.create_connection(("127.0.0.1", lever.port)) as wire:
            wire.settimeout(5)
            heard = b""
            while b"stable 50" not in heard and b"stable 49.9" not in heard:
                heard += wire.recv(200)
        for place in ("", "lever.js", "lever.css", "scales"):
            assert lever.get(place) == 200
        assert lever.get("lever.png") == 404


def test_others_are_served_only_once_there_is_an_owner(var: Path) -> None:
    port = str(free_port())
    assert "Nobody owns this workshop yet" in told_by(var, "start", "--host", "0.0.0.0", "--port", port)
    assert "serves this machine alone" in told_by(var, "demo", "--host", "0.0.0.0", "--port", port)
    alone = told_by(var, "start", "--host", "0.0.0.0", "--port", port, UFRIN_SIGN_IN="false")
    assert "Without signing in" in alone


def test_a_record_book_of_an_earlier_version_is_backed_up_before_it_is_changed(empty_var: Path) -> None:
    cluster = Cluster(empty_var / "postgres")
    cluster.start()
    conninfo = cluster.database("ufrin")
    schema.bring_up_to_date(conninfo, last="0013.schedule")
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("insert into jobs (name) values ('Kept from before')")
    told = os.environ | {"UFRIN_VAR": str(empty_var), "PYTHONPATH": str(ROOT / "src")}
    said = Program(["schema"], told).communicate(PATIENCE_S)[0]
    assert "of an earlier version, so it was backed up first" in said
    (file,) = (empty_var / "backups").iterdir()
    assert read_manifest(file).schema_step == "0013.schedule"
    assert read_manifest(file).tables["jobs"].rows == 1
    assert "backed up" not in Program(["schema"], told).communicate(PATIENCE_S)[0]
    # a folder that can't be written is told, and the record book is left as it is
    cluster.start()
    schema.take_down(conninfo, to="0013.schedule")
    assert "file where Ufrin needs a folder" in told_by(empty_var, "schema", UFRIN_BACKUP_FOLDER=str(file))
    cluster.start()
    assert schema.step_of(conninfo) == "0013.schedule"


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("restore",), "Name a backup"),
        (("restore", "/nowhere/at-all.zip"), "There is no file"),
        (("restore", str(ROOT / "README.md")), "no backup of Ufrin"),
    ],
)
def test_what_can_not_be_restored_is_told(empty_var: Path, words: tuple[str, ...], says: str) -> None:
    assert says in told_by(empty_var, *words)


def test_what_only_imports_it_leaves_signals_alone() -> None:
    said = "import signal, ufrin.__main__; print(sorted(signal.pthread_sigmask(signal.SIG_BLOCK, [])))"
    told = os.environ | {"PYTHONPATH": str(ROOT / "src")}
    assert (
        subprocess.run([sys.executable, "-c", said], check=True, env=told, capture_output=True, text=True).stdout
        == "[]\n"
    )
