"""Benchmarks of people and safekeeping: what looking who asks costs, and to back up and restore a large record book."""

import http.client
import json
import statistics
import tempfile
import time
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

import psycopg
from extent import at_most

from ufrin.actions.people import tokens
from ufrin.actions.people.signing_in import SessionLimits, party_of
from ufrin.store import accounts, backup_file, sessions
from ufrin.store.connection import Database

Tell = Callable[[str, float, str, str], None]
JOBS, POURS, LINES_EACH, LOOKS = at_most(10_000, 20), at_most(100_000, 40), 8, at_most(2000, 20)
LIMITS = SessionLimits(idle_h=12, longest_h=24)


def signed_in(conninfo: str) -> str:
    """Enter somebody, and return the token of their session."""
    database, token = Database(conninfo), tokens.new_token()
    database.open()
    with database.transaction() as connection:
        account = accounts.add(connection, name="Wren", role="owner", hashed="x")
        sessions.begin(connection, tokens.hash_of(token), account, longest_h=24, program="benchmark")
    database.close()
    return token


def look_who_asks(conninfo: str, token: str, open_port: int, signed_port: int, tell: Tell) -> None:
    """Look who asks again and again; and load one plain page with and without signing in."""
    database = Database(conninfo)
    database.open()
    took = []
    for _ in range(LOOKS):
        began = time.perf_counter()
        party_of(database, session=token, device="", key="", limits=LIMITS)
        took.append(1000 * (time.perf_counter() - began))
    database.close()
    pages: dict[str, list[float]] = {"open": [], "signed in": []}
    lines = {
        "open": (http.client.HTTPConnection("127.0.0.1", open_port), {}),
        "signed in": (http.client.HTTPConnection("127.0.0.1", signed_port), {"Cookie": f"ufrin_session={token}"}),
    }
    for _ in range(at_most(400, 4)):
        for name, (line, headers) in lines.items():
            began = time.perf_counter()
            line.request("GET", "/words", headers=headers)
            answer = line.getresponse()
            answer.read()
            assert answer.status == 200
            pages[name].append(1000 * (time.perf_counter() - began))
    median_ms = statistics.median(took)
    tell(
        "Looking who asks / 1 ms",
        median_ms,
        "< 1",
        f"{median_ms:.2f} ms, 99 % within {sorted(took)[int(0.99 * LOOKS)]:.2f}",
    )
    alone, signed = statistics.median(pages["open"]), statistics.median(pages["signed in"])
    tell("What it adds to a plain page / 1 ms", signed - alone, "< 1", f"{signed:.2f} ms against {alone:.2f} ms")


def fill_large(conninfo: str, like: str) -> None:
    """Fill a record book with many jobs, and many pours with their records, each with the plan of one elsewhere."""
    with psycopg.connect(like) as connection:
        plan = json.dumps(connection.execute("select plan from pours order by id limit 1").fetchall()[0][0])
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("insert into jobs (name) select 'Job ' || n from generate_series(1, %s) n", [JOBS])
        connection.execute(
            "insert into stations (job_id, station, inputs) select id, station, '{}' from jobs, "
            "unnest(array['master', 'opening', 'box', 'rubber', 'checks', 'casts']) station"
        )
        connection.execute(
            "insert into pours (job_id, who, plan, started_at) select 1 + n %% %s, 'Wren', %s::jsonb, "
            "now() - n * interval '1 minute' from generate_series(1, %s) n",
            [JOBS, plan, POURS],
        )
        connection.execute(
            "insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, net_g) "
            "select id, n, 't' || n, now(), n, 'bench', case when n = 1 then 'start' else 'weigh' end, "
            "case when n = 1 then null else 100 + n / 7.0 end from pours, generate_series(1, %s) n",
            [LINES_EACH],
        )


def backup_and_restore(full: str, empty: str, tell: Tell) -> None:
    """Back a large record book up and restore it, compared table by table."""
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "large.zip"
        began = time.perf_counter()
        manifest = backup_file.write(full, file, datetime.now(UTC))
        wrote_s = time.perf_counter() - began
        began = time.perf_counter()
        backup_file.restore(empty, file)
        read_s = time.perf_counter() - began
        held = f"{manifest.rows} rows, {file.stat().st_size / 1e6:.0f} MB"
    tell("Backup of 10,000 jobs and 100,000 pours / 30 s", wrote_s / 30, "< 1", f"{wrote_s:.1f} s, {held}")
    tell("Its restore, compared / 60 s", read_s / 60, "< 1", f"{read_s:.1f} s")
