"""Kills: server, database, worker and all of them, again and again, lose nothing that was confirmed.

On every change one kill of each kind; for long a hundred, at moments drawn among them.
"""

import contextlib
import os
import random
import re
import signal
import threading
import time
import urllib.parse
import urllib.request
from pathlib import Path

import psycopg
from running import begin, free_port
from thoroughness import KILLS
from waiting import PATIENCE_S, wait_until

from ufrin.store.cluster import Cluster

ROUNDS = KILLS
# a server takes longest to come back, so it is killed less often than what it brings back itself
TARGETS = ("worker", "database", "server", "all", "worker", "database", "worker", "database", "worker", "database")


class Writer:
    """Writes of every kind one after the other: jobs, their boxes, cups, waxes; it keeps what was confirmed."""

    def __init__(self, address: str) -> None:
        self.address, self.names, self.sides = address, list[str](), dict[int, int]()
        self.cups, self.products = list[str](), list[str]()
        self.failed = 0
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=self._run)

    def __enter__(self) -> "Writer":
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._stopped.set()
        self._thread.join()

    @property
    def confirmed(self) -> int:
        return len(self.names) + len(self.sides) + len(self.cups) + len(self.products)

    def has_confirmed(self, number: int) -> bool:
        return self.confirmed >= number

    def _run(self) -> None:
        number = 0
        while not self._stopped.is_set():
            number += 1
            try:
                name = f"Written {number}"
                place = self._post("/jobs", name=name)
                self.names.append(name)
                job = int(re.findall(r"\d+", place)[0])
                self._post(f"/jobs/{job}/box", version="1", units="metric", side_mm=str(10 + number % 90))
                self.sides[job] = 10 + number % 90
                self._post("/shelf/cups/new", units="metric", name=name, bottom_mm="80", top_mm="90", height_mm="100")
                self.cups.append(name)
                self._post("/shelf/products/new", units="metric", name=name, kind="wax", by="brush", finish="kind")
                self.products.append(name)
            except OSError:
                self.failed += 1
                time.sleep(0.05)

    def _post(self, path: str, **form: str) -> str:
        request = urllib.request.Request(
            self.address + path, urllib.parse.urlencode(form).encode(), {"HX-Request": "true"}
        )
        with urllib.request.urlopen(request, timeout=10) as answer:
            return str(answer.headers.get("HX-Redirect") or "")


def health(address: str) -> str:
    try:
        with urllib.request.urlopen(f"{address}/healthz", timeout=5) as answer:
            return str(answer.read().decode())
    except OSError:
        return ""


def worker_of(var: Path) -> int | None:
    for entry in Path("/proc").iterdir():
        with contextlib.suppress(OSError):
            if (
                entry.name.isdigit()
                and b"ufrin\0worker" in (entry / "cmdline").read_bytes()
                and f"UFRIN_VAR={var}".encode() in (entry / "environ").read_bytes()
            ):
                return int(entry.name)
    return None


def database_of(var: Path) -> int:
    return int((var / "postgres" / "data" / "postmaster.pid").read_text().split()[0])


def is_filling(var: Path) -> bool:
    """Whether the demo's filling is under way, as it is kept with the settings."""
    try:
        with psycopg.connect(Cluster(var / "postgres").conninfo("ufrin_demo"), connect_timeout=2) as connection:
            row = connection.execute("select demo, (select count(*) from jobs) from workshop").fetchone()
    except psycopg.Error:
        return False
    return row is not None and row[0] == "begun" and row[1] > 2


def test_nothing_that_was_confirmed_is_lost(var: Path) -> None:
    port = free_port()
    process, address = begin(var, "start", port=port, UFRIN_WORKERS="1")
    wait_until(lambda: "at work" in health(address), "it did not start")
    moments = random.Random(ROUNDS)
    with Writer(address) as writer:
        for number in range(ROUNDS):
            target, before = TARGETS[number % len(TARGETS)], writer.confirmed
            wait_until(
                lambda before=before: writer.confirmed >= before + 4, f"nothing is written before round {number}"
            )  # type: ignore[misc]
            time.sleep(moments.random() * 0.5)
            if target in {"worker", "all"}:
                wait_until(lambda: worker_of(var) is not None, "no worker was started again")
                worker = worker_of(var)
                if worker is not None:
                    os.kill(worker, signal.SIGKILL)
            if target in {"database", "all"}:
                os.kill(database_of(var), signal.SIGKILL)
            if target in {"server", "all"}:
                process.send_signal(signal.SIGKILL)
                process.communicate(timeout=PATIENCE_S)
                process, _ = begin(var, "start", port=port, UFRIN_WORKERS="1")
            wait_until(lambda: '"database":"up"' in health(address), f"it did not come back after a kill of {target}")
        wait_until(lambda: '"at work"' in health(address), "no worker came back")
    conninfo = Cluster(var / "postgres").database("ufrin")
    with psycopg.connect(conninfo) as connection:
        names = {name for (name,) in connection.execute("select name from jobs").fetchall()}
        cups = {name for (name,) in connection.execute("select name from cups").fetchall()}
        products = {name for (name,) in connection.execute("select name from products").fetchall()}
        sides = dict(
            connection.execute(
                "select job_id, (inputs ->> 'side_mm')::float from stations where station = 'box'"
            ).fetchall()
        )
    assert set(writer.names) - names == set()
    assert set(writer.cups) - cups == set()
    assert set(writer.products) - products == set()
    assert min(len(writer.cups), len(writer.products)) > ROUNDS
    assert {job: side for job, side in writer.sides.items() if sides.get(job) != side} == {}
    assert writer.confirmed > 4 * ROUNDS
    process.send_signal(signal.SIGTERM)
    process.communicate(timeout=PATIENCE_S)
    wait_until(lambda: worker_of(var) is None, "a worker outlives the server")
    assert not (var / "postgres" / "data" / "postmaster.pid").exists()


def test_a_first_start_that_is_killed_while_it_fills_is_completed_by_the_next(empty_var: Path) -> None:
    process, address = begin(empty_var)
    wait_until(lambda: is_filling(empty_var), "it did not begin to fill")
    process.send_signal(signal.SIGKILL)
    process.communicate(timeout=PATIENCE_S)
    process, address = begin(empty_var)
    said = process.stdout.readline() if process.stdout else ""
    assert address in said, said
    wait_until(lambda: '"database":"up"' in health(address), "it does not answer")
    with urllib.request.urlopen(f"{address}/api/v1/jobs") as answer:
        assert answer.read().decode().count('"id"') == 12
    process.send_signal(signal.SIGTERM)
    process.communicate(timeout=PATIENCE_S)
    assert process.returncode == 0
