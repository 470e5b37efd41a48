"""Backups of every night: when one is due, how many are kept, what the Board says, and what is watched from outside."""

import os
import subprocess
import sys
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from running import ROOT

from ufrin.actions.job import stations
from ufrin.actions.safekeeping import backups, disk_room
from ufrin.store.backups import Standing
from ufrin.store.connection import Database
from ufrin.web.contexts import safekeeping_words
from ufrin.web.contexts.safekeeping_words import ago, size

NIGHT = datetime(2026, 3, 3, 2, tzinfo=UTC)
KEPT = Standing(
    made_at=NIGHT - timedelta(days=1),
    tried_at=NIGHT - timedelta(days=1),
    refused="",
    newest_bytes=1000,
    backups_kept=2,
    backup_wish_days=2,
    is_demo=False,
    is_filled=True,
    now=NIGHT + timedelta(minutes=5),
)


@pytest.mark.parametrize(
    ("changed", "due"),
    [
        ({}, True),
        ({"made_at": NIGHT + timedelta(minutes=1), "tried_at": NIGHT + timedelta(minutes=1)}, False),
        ({"made_at": None, "tried_at": None}, True),
        ({"is_filled": False}, False),
        ({"is_demo": True}, False),
        # one that failed is tried again after an hour, not every minute
        ({"tried_at": NIGHT + timedelta(minutes=1), "refused": "disk full"}, False),
        (
            {"tried_at": NIGHT + timedelta(minutes=1), "now": NIGHT + timedelta(minutes=62), "refused": "disk full"},
            True,
        ),
        # a clock that was set back must not put backups off for as long as it was ahead
        ({"tried_at": NIGHT + timedelta(days=90)}, True),
    ],
)
def test_tonights_backup_is_made_once(changed: dict[str, object], due: bool) -> None:
    assert backups.is_due(replace(KEPT, **changed), NIGHT) is due  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("changed", "late"),
    [
        ({}, False),
        ({"made_at": NIGHT - timedelta(days=2)}, True),
        ({"made_at": None}, True),
        ({"made_at": None, "is_filled": False}, False),
        ({"made_at": None, "is_demo": True}, False),
        ({"made_at": None, "backup_wish_days": 0}, False),
    ],
)
def test_a_backup_that_is_older_than_wished_is_late(changed: dict[str, object], late: bool) -> None:
    assert replace(KEPT, **changed).is_too_old is late  # type: ignore[arg-type]


def test_so_many_are_kept_and_no_other_file_is_touched(database: Database, tmp_path: Path) -> None:
    stations.start_job(database, "Ammonite")
    other = tmp_path / "ufrin-of-somebody.zip"
    other.write_text("mine")
    backups.wish(database, kept=2, wish_days=1)
    for number in range(4):
        assert "rows" in backups.back_up(database, tmp_path, NIGHT + timedelta(seconds=number))
    assert sorted(file.name for file in tmp_path.iterdir()) == [
        "ufrin-2026-03-03-020002.zip",
        "ufrin-2026-03-03-020003.zip",
        "ufrin-of-somebody.zip",
    ]
    assert [one.file[-10:-4] for one in backups.look(database).listed] == ["020003", "020002"]
    assert backups.ask_when_due(database) is False


@pytest.mark.parametrize(("kept", "wish_days"), [(0, 1), (367, 1), (None, 1), (3, -1), (3, None), (3, 400)])
def test_what_can_not_be_wished_is_refused(client: TestClient, kept: object, wish_days: object) -> None:
    sent = {"kept": "" if kept is None else str(kept), "wish_days": "" if wish_days is None else str(wish_days)}
    answer = client.post("/safekeeping", data=sent)
    assert answer.status_code == 422
    assert f'value="{sent["kept"]}"' in answer.text


def test_a_folder_that_can_not_be_written_is_told_on_the_board(
    client: TestClient, database: Database, tmp_path: Path
) -> None:
    stations.start_job(database, "Ammonite")
    assert "There is no backup of this record book yet." in client.get("/").text
    (tmp_path / "file").write_text("in the way")
    assert backups.back_up(database, tmp_path / "file", NIGHT) == "failed"
    page = client.get("/").text
    assert "The last try failed" in page
    assert str(tmp_path / "file") in page
    backups.back_up(database, tmp_path, NIGHT)
    assert "backup" not in client.get("/").text
    with database.transaction() as connection:
        connection.execute("update backups set tried_at = tried_at - interval '3 days'")
    assert "The newest backup was made 3 days ago; you asked for one every 2 days." in client.get("/").text


def test_it_is_asked_for_once_however_often(client: TestClient, database: Database) -> None:
    for _ in range(3):
        assert client.post("/safekeeping/backup").status_code == 200
    with database.reading() as connection:
        row = connection.execute("select count(*) from procrastinate_jobs where task_name = 'back_up'").fetchone()
    assert row == {"count": 1}


def test_a_disk_that_is_nearly_full_is_told_before_it_bites(
    client: TestClient, database: Database, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    room = disk_room.disk_room(tmp_path / "not" / "there" / "yet", backup_bytes=0)
    assert room is not None
    assert 0 < room.free_bytes <= room.whole_bytes
    full = disk_room.DiskRoom(free_bytes=1_400_000_000, whole_bytes=250_000_000_000, wanted_bytes=2_000_000_000)
    monkeypatch.setattr(safekeeping_words, "disk_room", lambda *_, **__: full)
    assert "The disk is nearly full: 1.4 GB of 250 GB are free." in client.get("/").text
    monkeypatch.undo()
    # four backups must fit, however large one is: told on the Board, to monitors and to whoever asks for health alike
    stations.start_job(database, "Ammonite")
    with database.transaction() as connection:
        connection.execute("insert into backups (file, bytes) values ('huge.zip', 1000000000000000)")
    here = TestClient(client.app, base_url="http://127.0.0.1", client=("127.0.0.1", 5000))
    assert "The disk is nearly full" in client.get("/").text
    assert "ufrin_disk_nearly_full 1.0" in here.get("/metrics").text
    assert here.get("/healthz").json()["disk"] == "nearly full"
    wanted = disk_room.disk_room(tmp_path, backup_bytes=10**15)
    assert wanted is not None
    assert wanted.is_nearly_full


def test_metrics_are_for_this_machine_and_count_by_route(client: TestClient, filled: Database) -> None:
    here = TestClient(client.app, base_url="http://127.0.0.1", client=("127.0.0.1", 5000))
    here.get("/jobs/1/box")
    here.get("/jobs/2/box")
    told = here.get("/metrics")
    assert told.headers["content-type"].startswith("text/plain")
    assert 'ufrin_requests_total{method="GET",route="/jobs/{job_id}/{station}",status="200"}' in told.text
    assert 'route="/jobs/{job_id}/{station}"} ' in told.text
    assert "ufrin_database_up 1.0" in told.text
    assert "/jobs/1" not in told.text


def test_what_several_processes_have_counted_is_added_up(tmp_path: Path) -> None:
    code = (
        "import sys; from ufrin.web.frame import metrics\n"
        "for _ in range(int(sys.argv[1])): metrics.count({'method': 'GET'}, 200, 0.1)\n"
        "print(metrics.text({'ufrin_now': ('Just now.', 5.0)}).decode())"
    )
    told = os.environ | {"PYTHONPATH": str(ROOT / "src"), "PROMETHEUS_MULTIPROC_DIR": str(tmp_path)}
    said = ""
    for times in ("3", "4"):
        done = subprocess.run([sys.executable, "-c", code, times], env=told, check=True, capture_output=True, text=True)
        said = done.stdout
    assert 'ufrin_requests_total{method="GET",route="other",status="200"} 7.0' in said
    assert 'ufrin_request_seconds_count{route="other"} 7.0' in said
    assert "\nufrin_now 5.0" in said
    assert said.count("\nufrin_now ") == 1  # what is so just now is not added up


@pytest.mark.parametrize(
    ("number", "words"), [(0, "0 bytes"), (999, "999 bytes"), (1500, "1.5 kB"), (250e9, "250 GB"), (3.2e12, "3.2 TB")]
)
def test_sizes(number: float, words: str) -> None:
    assert size(number) == words


@pytest.mark.parametrize(
    ("minutes", "words"),
    [
        (0, "just now"),
        (1, "just now"),
        (2, "2 minutes ago"),
        (59, "59 minutes ago"),
        (60, "1 hour ago"),
        (1440, "a day ago"),
        (1500, "a day and 1 h ago"),
        (20_000, "13 days ago"),
        (4320, "3 days ago"),
    ],
)
def test_ages(minutes: int, words: str) -> None:
    assert ago(timedelta(minutes=minutes)) == words
