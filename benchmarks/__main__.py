"""Benchmarks: each a ratio taken in one run, with the aim beside it.

They are run by ``./run bench``; servers stand in processes of their own.
"""

import http.client
import json
import os
import re
import signal
import statistics
import subprocess
import sys
import threading
import time
from argparse import ArgumentParser
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from urllib.parse import urlencode

import benches
import casts
import clocks
import meshes
import moulds
import openings
import psycopg
import safekeeping
import schedules
import steady
from extent import at_most

from ufrin import demo
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.trial import trial_cluster, trial_database

LOADS, CLIENTS, LOADS_EACH = at_most(400, 4), 8, at_most(60, 2)
WARMED_BY, MANY_JOBS, PAGES_MORE, MOVES = at_most(20, 1), at_most(9_994, 24), at_most(1000, 10), at_most(24, 4)
DEMO = "demo_filled"
JOB_PAGE, BOX = "/jobs/9/rubber", "/jobs/9/box"


class Browser:
    """A client that keeps its connection, as a browser does."""

    def __init__(self, port: int) -> None:
        self.port, self.connection = port, http.client.HTTPConnection("127.0.0.1", port, timeout=30)

    def load(self, path: str, form: dict[str, str] | None = None) -> tuple[float, bytes, http.client.HTTPResponse]:
        """Ask for a page; give seconds, body and answer."""
        began = time.perf_counter()
        if form is None:
            self.connection.request("GET", path)
        else:
            headers = {"Content-Type": "application/x-www-form-urlencoded", "HX-Request": "true"}
            self.connection.request("POST", path, urlencode(form), headers)
        answer = self.connection.getresponse()
        body = answer.read()
        if answer.status != 200:
            raise RuntimeError(f"{path}: {answer.status}")
        return time.perf_counter() - began, body, answer


@cache
def _starter() -> subprocess.Popen[str]:
    # has everything loaded that a server needs, and is copied for each
    return subprocess.Popen(
        [sys.executable, str(Path(__file__).parent / "serve.py")],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        text=True,
    )


@contextmanager
def server(kind: str, argument: str) -> Iterator[tuple[int, int]]:
    """Run a server in a process of its own; give its port and process number."""
    starter = _starter()
    if starter.stdin is None or starter.stdout is None:
        raise RuntimeError("There is no way to ask for a server.")
    print(json.dumps([kind, argument]), file=starter.stdin, flush=True)
    port, process = map(int, starter.stdout.readline().split())
    try:
        for _ in range(400):
            try:
                http.client.HTTPConnection("127.0.0.1", port, timeout=5).request("GET", "/")
                break
            except OSError:
                time.sleep(0.05)
        yield port, process
    finally:
        os.kill(process, signal.SIGTERM)
        for _ in range(1000):  # it is its starter's child, so nobody here can wait for it
            if not Path(f"/proc/{process}").exists():
                break
            time.sleep(0.02)
        else:
            raise RuntimeError("A server did not stop.")


def median_ms(browsers: dict[str, tuple[Browser, str]], loads: int = LOADS) -> dict[str, float]:
    """Load pages turn by turn, so that whatever else the machine does falls on all alike."""
    taken: dict[str, list[float]] = {name: [] for name in browsers}
    for turn in range(min(loads, LOADS) + WARMED_BY):
        for name, (browser, path) in browsers.items():
            seconds = browser.load(path)[0]
            if turn >= WARMED_BY:
                taken[name].append(seconds * 1000)
    return {name: statistics.median(all_of) for name, all_of in taken.items()}


def per_second(port: int, path: str) -> float:
    """Load a page with several clients at once."""

    def one() -> None:
        browser = Browser(port)
        for _ in range(LOADS_EACH):
            browser.load(path)

    threads = [threading.Thread(target=one) for _ in range(CLIENTS)]
    began = time.perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return CLIENTS * LOADS_EACH / (time.perf_counter() - began)


def version_on(page: bytes) -> int:
    """Return which version of a station a page was made from, as its form sends it along."""
    found = re.search(rb'name="version"[^>]* value="(\d+)"', page)
    if found is None:
        raise RuntimeError("The page has no field for the version of its station.")
    return int(found[1])


def box_recompute_ms(port: int) -> float:
    """Change the side clearance again and again, as htmx does; give the server's own time, median."""
    browser, taken = Browser(port), []
    version = version_on(browser.load(BOX)[1])
    for turn in range(LOADS):
        _, body, answer = browser.load(
            BOX, {"version": str(version), "units": "metric", "side_mm": f"{12 + turn % 5} mm"}
        )
        version = version_on(body)
        taken.append(float((answer.headers["Server-Timing"] or "").split("dur=")[1]))
    return statistics.median(taken)


def peak_kb(process: int) -> int:
    """Give the most memory a process has held."""
    text = Path(f"/proc/{process}/status").read_text()
    return int(re.search(r"VmHWM:\s+(\d+)", text)[1])  # type: ignore[index]


def tell(what: str, got: float, aim: str, more: str = "") -> None:
    """Print one line."""
    print(f"{what:<58} {got:7.2f}   aim {aim:<12} {more}", flush=True)


def with_demo(cluster: Cluster, name: str, jobs: int = 0) -> str:
    """Make a database with the demo data, and as many plain jobs on top; give its address.

    The demo is filled once, and copied.
    """
    if DEMO not in cluster.databases():
        database = Database(trial_database(cluster, DEMO))
        database.open()
        demo.fill(database)
        database.close()
    conninfo = cluster.database(name, like=DEMO)
    with psycopg.connect(conninfo) as connection:
        master = json.dumps({"length_mm": 92.0, "width_mm": 78.0, "height_mm": 31.0, "hung_reading_g": 121.3})
        connection.execute(
            "with made as (insert into jobs (name) select 'Job ' || n from generate_series(1, %(jobs)s) n returning id)"
            " insert into stations (job_id, station, inputs) select made.id, station, inputs from made,"
            " (values ('master', %(master)s::jsonb), ('opening', '{}'), ('box', '{}'), ('rubber', "
            "'{\"rubber_id\": 1}'), ('checks', '{}'), ('casts', '{}')) as s (station, inputs)",
            {"jobs": jobs, "master": master},
        )
    # a vacuum can't run inside a transaction
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("vacuum analyze")
    return conninfo


def moving_ms(port: int) -> list[float]:
    """Move the gate and the keys of the demo's two-part mould by turns, after it was opened once.

    The result is the time to each answer.
    """
    browser, page = Browser(port), "/jobs/6/opening"
    browser.load(page)
    taken = []
    for turn in range(MOVES):
        version = version_on(browser.load(page)[1])
        kind = "gate" if turn % 2 else "key"
        where = (
            {"across": f"{-20 + turn} mm", "up": "90 mm"}
            if kind == "gate"
            else {"across": f"{60 - turn / 2} mm", "deep": "48 mm"}
        )
        form = {"version": str(version), "units": "metric", "kind": kind, "number": "1", "act": "move", **where}
        taken.append(browser.load(page + "/place", form)[0] * 1000)
    return taken


def pages(cluster: Cluster) -> None:
    """Load pages, beside a bare page and beside ten thousand jobs."""
    few, many = with_demo(cluster, "few", 4), with_demo(cluster, "many", MANY_JOBS)
    with server("ufrin", few) as (port, process), server("ufrin", many) as (big, _):
        size = len(Browser(port).load(JOB_PAGE)[1])
        with server("bare", str(size)) as (bare, _):
            got = median_ms({"job": (Browser(port), JOB_PAGE), "bare": (Browser(bare), "/")})
            more = f"{got['job']:.2f} ms against {got['bare']:.2f} ms, {size} bytes each"
            tell("Job page / bare FastAPI + Jinja page of its size", got["job"] / got["bare"], "<= 3", more)
            ours, theirs = per_second(port, JOB_PAGE), per_second(bare, "/")
            tell(
                "8 clients: requests/s of the bare page / of the job page",
                theirs / ours,
                "<= 3",
                f"{theirs:.0f}/s against {ours:.0f}/s",
            )
        box_ms = box_recompute_ms(port)
        tell("Box changed by htmx, server time / 15 ms", box_ms / 15, "< 1", f"median {box_ms:.1f} ms")
        casts.recomputed(port, tell)
        got = median_ms({"few": (Browser(port), "/"), "many": (Browser(big), "/")})
        tell(
            "Board with 10,000 jobs / with 10",
            got["many"] / got["few"],
            "<= 2",
            f"{got['many']:.2f} ms against {got['few']:.2f} ms",
        )
        browser = Browser(port)
        before = peak_kb(process)
        for turn in range(PAGES_MORE):
            browser.load(("/", JOB_PAGE, BOX, "/jobs/9/master", "/shelf/rubbers")[turn % 5])
        tell(
            "Peak memory after 1,000 more page loads / before",
            peak_kb(process) / before,
            "< 1.05",
            f"{before // 1024} MB before",
        )
        moved = moving_ms(port)
        tell(
            "A vent or a key moved, answer / 300 ms",
            max(moved) / 300,
            "< 1",
            f"worst of {len(moved)}, median {statistics.median(moved):.0f} ms",
        )
        meshes.responsive(port, BOX, tell)
        steady.fifty_clients(port, tell)
        benches.benches(few, port, process, tell)


def many_clocks(cluster: Cluster) -> None:
    """Let two hundred clocks run."""
    running = with_demo(cluster, "running")
    clocks.fill_with_clocks(running)
    with server("ufrin", running) as (port, process):
        for what, path in (("The page of all 200 clocks", "/clocks?all=1"), ("Board with the first of them", "/")):
            size = len(Browser(port).load(path)[1])
            with server("bare", str(size)) as (bare, _):
                got = median_ms({"ours": (Browser(port), path), "bare": (Browser(bare), "/")}, 100)
                more = f"{got['ours']:.2f} ms against {got['bare']:.2f} ms, {size} bytes each"
                tell(f"{what} / bare page of its size", got["ours"] / got["bare"], "< 3", more)
        clocks.clocks(port, process, tell)


def many_pours(cluster: Cluster) -> None:
    """Keep a hundred thousand pours."""
    full = with_demo(cluster, "full")
    benches.fill_with_pours(full)
    casts.fill_with_shots(full)
    none = with_demo(cluster, "none")
    casts.take_shots_away(none)
    with server("ufrin", none) as (port, _), server("ufrin", full) as (big, _):
        for path in ("/shelf/rubbers", "/shelf/rubbers/1", "/shelf/lots", "/allowance", JOB_PAGE):
            got = median_ms({"none": (Browser(port), path), "full": (Browser(big), path)}, 150)
            tell(
                f"{path} with 100,000 pours / with 12",
                got["full"] / got["none"],
                "<= 2",
                f"{got['full']:.2f} ms against {got['none']:.2f} ms",
            )
        casts.log_of_shots(port, big, tell)


def large_meshes(cluster: Cluster) -> None:
    """Measure large meshes, and open their jobs."""
    steady.board_with_large_meshes(trial_database(cluster, "plain"), trial_database(cluster, "large"), tell)
    steady.large_3mf(tell)
    meshes.run(tell)
    openings.run(tell)


def many_moulds(cluster: Cluster) -> None:
    """Keep a thousand moulds."""
    moulds.fitted(tell)
    worn, few = with_demo(cluster, "worn"), with_demo(cluster, "some")
    shots = moulds.fill_with_moulds(worn)
    with server("ufrin", few) as (port, _), server("ufrin", worn) as (many, _):
        moulds.lists_and_cards(port, many, shots, tell)


def schedule_of_a_shop(_: Cluster) -> None:
    """Plan weeks of work."""
    schedules.weeks_of_twelve_jobs(tell)
    schedules.sixty_jobs(tell)


def people_and_safekeeping(cluster: Cluster) -> None:
    """Sign in, read pages as fifty, back up and restore."""
    shop, large = with_demo(cluster, "shop"), trial_database(cluster, "large_book")
    token = safekeeping.signed_in(shop)
    with server("ufrin", shop) as (port, _), server("signed", shop) as (signed, _):
        safekeeping.look_who_asks(shop, token, port, signed, tell)
        steady.fifty_clients(signed, tell, token)
    safekeeping.fill_large(large, shop)
    safekeeping.backup_and_restore(large, cluster.database("large_again"), tell)


PARTS = {
    "pages": pages,
    "clocks": many_clocks,
    "pours": many_pours,
    "moulds": many_moulds,
    "schedule": schedule_of_a_shop,
    "safekeeping": people_and_safekeeping,
    "meshes": large_meshes,
}


def main() -> None:
    """Run the parts that are named, or all of them."""
    parser = ArgumentParser(description=main.__doc__)
    parser.add_argument("parts", nargs="*", metavar="PART", help=f"one of {', '.join(PARTS)}")
    named = parser.parse_args().parts
    if unknown := set(named) - set(PARTS):
        parser.error(f"There is no part {', '.join(sorted(unknown))}: name some of {', '.join(PARTS)}.")
    with trial_cluster() as cluster:
        for name in named or PARTS:
            print(f"{name}:", flush=True)
            PARTS[name](cluster)


if __name__ == "__main__":
    main()
