"""Benchmarks of casting: the station worked out again and again, and a log of ten thousand shots."""

import http.client
import re
import statistics
import time
from typing import Any
from urllib.parse import urlencode

import psycopg
from extent import at_most

SHOTS, LOADS = at_most(10_000, 40), at_most(120, 3)
MANY = """
    with made as (
        insert into shots (
            job_id, who, kind, resin, mixed_g, left_over_g, was_short, missing_g, release, air, attitude, note, reason,
            token
        )
        select 6, 'Wren', 'solid', 'Quayside 70', 252, n %% 20, false, 0, '', '', '', '', '', 'bench-' || n
        from generate_series(1, %s) as n returning id
    )
    insert into shot_pieces (shot_id, cavity, is_good, flaws)
    select id, cavity, true, '{}' from made, generate_series(1, 4) as cavity
"""
STATION, LOG = "/jobs/8/casts", "/jobs/6/casts/log"


def fill_with_shots(conninfo: str) -> None:
    """Log ten thousand shots of four pieces."""
    with psycopg.connect(conninfo) as connection:
        connection.execute(MANY, [SHOTS])
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("vacuum analyze")


def take_shots_away(conninfo: str) -> None:
    """Leave the log of the demo empty."""
    with psycopg.connect(conninfo) as connection:
        connection.execute("delete from lot_moves where shot_id is not null")
        connection.execute("delete from shots")
        connection.execute("delete from cavity_counts")


def _load(port: int, path: str, form: dict[str, str] | None = None) -> tuple[float, str, str]:
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
    headers = {"Content-Type": "application/x-www-form-urlencoded", "HX-Request": "true"} if form else {}
    began = time.perf_counter()
    connection.request("POST" if form else "GET", path, urlencode(form or {}), headers)
    answer = connection.getresponse()
    body = answer.read().decode()
    return (time.perf_counter() - began) * 1000, body, answer.headers["Server-Timing"] or ""


def recomputed(port: int, tell: Any) -> None:
    """Change a cast in layers of a mesh again and again, as htmx does."""
    version = int(re.findall(r'name="version"[^>]* value="(\d+)"', _load(port, STATION)[1])[0])
    taken = []
    for turn in range(LOADS):
        form = {"version": str(version), "units": "metric", "layers": f"{20 + turn % 20}, 40, 30"}
        _, body, timing = _load(port, STATION, form)
        version = int(re.findall(r'name="version"[^>]* value="(\d+)"', body)[0])
        taken.append(float(timing.split("dur=")[1]))
    median = statistics.median(taken)
    tell("Casts changed by htmx, server time / 30 ms", median / 30, "< 1", f"median {median:.1f} ms")


def log_of_shots(empty: int, full: int, tell: Any) -> None:
    """Load the log and the station beside an empty log, turn by turn."""
    for path in (LOG, "/jobs/6/casts"):
        taken: dict[int, list[float]] = {empty: [], full: []}
        for _ in range(LOADS):
            for port, times in taken.items():
                times.append(_load(port, path)[0])
        none_ms, full_ms = (statistics.median(taken[port]) for port in (empty, full))
        more = f"{full_ms:.1f} ms against {none_ms:.1f} ms"
        tell(f"{path} with 10,000 shots / with none", full_ms / none_ms, "<= 2", more)
