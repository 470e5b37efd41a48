"""What every request passes through; and the database going away and coming back."""

import json
import logging
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient
from running import ROOT
from waiting import PATIENCE_S

from ufrin import logs
from ufrin.actions.job import board
from ufrin.settings import Settings
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.web.app import create_app


@pytest.mark.parametrize("address", ["/", "/settings", "/nope", "/static/ufrin.css", "/api/openapi.json", "/healthz"])
def test_headers(client: TestClient, address: str) -> None:
    headers = client.get(address).headers
    assert headers["Content-Security-Policy"].startswith("default-src 'none'; script-src 'self'; style-src 'self'")
    assert "unsafe" not in headers["Content-Security-Policy"]
    assert headers["X-Content-Type-Options"] == "nosniff"
    assert len(headers["X-Reference"]) == 8
    assert headers["Cache-Control"] == ("no-cache" if address.startswith("/static/") else "no-store")


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"Origin": "http://elsewhere.example"}, 403),
        ({"Origin": "null"}, 403),
        ({"Sec-Fetch-Site": "cross-site"}, 403),
        ({"Sec-Fetch-Site": "same-site"}, 403),
        ({"Origin": "http://127.0.0.1", "Sec-Fetch-Site": "same-origin"}, 200),
        ({}, 200),
        ({"Host": "elsewhere.example"}, 400),
    ],
)
def test_changes_from_elsewhere_are_refused(
    client: TestClient, database: Database, headers: dict[str, str], status: int
) -> None:
    assert client.post("/jobs", data={"name": "Ammonite"}, headers=headers).status_code == status
    assert board.board(database).total == (status == 200)


def test_too_much_is_refused_with_a_sentence(client: TestClient, database: Database) -> None:
    said = client.post("/jobs", data={"name": "x" * 2_000_000}, headers={"HX-Request": "true"})
    assert (said.status_code, said.headers["HX-Retarget"]) == (413, "#notice")
    assert "1024 kB" in said.text
    page = client.post("/jobs", data={"name": "x" * 2_000_000})
    assert (page.status_code, 'href="/plan"' in page.text) == (413, True)  # the way back is there
    endless = client.post(
        "/api/v1/mix", content=(b"x" * 65_536 for _ in range(64)), headers={"Content-Type": "application/json"}
    )
    assert endless.status_code == 413
    assert "1024 kB" in endless.json()["detail"]


def test_a_failure_shows_a_reference_that_is_in_the_log(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    def trip(*_: object, **__: object) -> None:
        raise ZeroDivisionError("on purpose")

    before = logging.root.handlers[:]
    file = logs.write_to(tmp_path)
    monkeypatch.setattr(board, "board", trip)
    answer = client.get("/")
    written = [json.loads(line) for line in file.read_text().splitlines()]
    for handler in logging.root.handlers:
        handler.close()
    logging.root.handlers = before
    assert answer.status_code == 500
    (failed,) = [row for row in written if row["event"] == "failed"]
    assert failed["reference"] in answer.text
    assert "on purpose" in failed["exception"]
    assert "on purpose" not in answer.text


def test_the_database_goes_away_and_comes_back(client: TestClient, database: Database, cluster: Cluster) -> None:
    assert client.get("/healthz").status_code == 200
    cluster.stop()
    try:
        for _ in range(2):
            page = client.get("/")
            assert page.status_code == 503
            assert "What you typed is still in the page" in page.text
        assert client.get("/healthz").json() == {"server": "up", "database": "away"}
        part = client.post("/jobs/1/box", data={"side_mm": "14"}, headers={"HX-Request": "true"})
        assert (part.status_code, part.headers["HX-Retarget"]) == (503, "#notice")
        assert client.post("/api/v1/box", json={}).status_code == 422  # sums need no record book
    finally:
        cluster.start()
    assert client.get("/").status_code == 200


def test_several_processes_turn_one_log_over_and_lose_no_line(tmp_path: Path) -> None:
    code = (
        "import sys; from pathlib import Path; from ufrin import logs; import structlog\n"
        "logs.MOST_BYTES, logs.KEPT = 20_000, 99\n"
        "logs.write_to(Path(sys.argv[1]))\n"
        "for number in range(400): structlog.get_logger().info('a line', by=sys.argv[2], number=number)"
    )
    told = os.environ | {"PYTHONPATH": str(ROOT / "src")}
    writing = [
        subprocess.Popen([sys.executable, "-c", code, str(tmp_path), name], env=told) for name in ("one", "other")
    ]
    assert [process.wait(PATIENCE_S) for process in writing] == [0, 0]
    files = list(tmp_path.glob("ufrin.jsonl*"))
    assert len(files) > 3
    lines = [json.loads(line) for file in files for line in file.read_text().splitlines()]
    assert {(line["by"], line["number"]) for line in lines} == {
        (name, number) for name in ("one", "other") for number in range(400)
    }
    assert len(lines) == 800


def test_without_a_database_nobody_is_taken_for_somebody() -> None:
    app = create_app(Database("dbname=nothing host=/nowhere", wait_s=0.2), Settings(sign_in=True))
    with TestClient(app, base_url="http://127.0.0.1", follow_redirects=False) as away:
        assert away.get("/").headers["location"] == "/sign-in"
        away.cookies.set("ufrin_session", "some token")
        for path in ("/", "/jobs/1/box", "/api/v1/jobs"):
            answer = away.get(path)
            assert (answer.status_code, "database does not answer" in answer.text) == (503, True)
        signing = away.post("/sign-in", data={"name": "Wren", "password": "x"})
        assert signing.status_code == 503
        assert away.get("/static/ufrin.css").status_code == 200


def test_secret_parts_of_addresses_stay_out_of_the_log(client: TestClient, tmp_path: Path) -> None:
    before = logging.root.handlers[:]
    file = logs.write_to(tmp_path)
    for path in (
        "/password/verysecret",
        "/calendar/verysecret.ics",
        "/shared/verysecret",
        "/devices/joined/verysecret",
    ):
        client.get(path)
    lines = [json.loads(line) for line in file.read_text().splitlines()]
    written = [line for line in lines if not line["event"].startswith("HTTP Request")]  # of the browser, not of ours
    for handler in logging.root.handlers:
        handler.close()
    logging.root.handlers = before
    assert [line["path"] for line in written] == ["/password/…", "/calendar/…", "/shared/…", "/devices/joined/…"]
    assert "verysecret" not in str(written)


def test_no_address_is_hidden_behind_another() -> None:
    app = create_app(Database(""), Settings(sign_in=False))
    routes = [
        route
        for included in app.router.routes
        for route in getattr(getattr(included, "original_router", None), "routes", ())
        if isinstance(route, APIRoute)
    ]
    assert len(routes) > 50
    for route in routes:
        sample = re.sub(r"\{[^}]*\}", "1", route.path)
        first = next(one for one in routes if one.methods & route.methods and one.path_regex.match(sample))
        assert first is route, f"{route.path} is answered by {first.path}"
