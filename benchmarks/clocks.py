"""Benchmarks of the clocks: a Board on which two hundred of them run, beside twenty open benches."""

import asyncio
import re
import time
from typing import Any
from urllib.parse import urlencode

import psycopg
from benches import busy_s
from extent import at_most

from ufrin import demo
from ufrin.devices import clock
from ufrin.store.connection import Database

CLOCKS, BENCHES, BOARDS, FOR_S = at_most(200, 6), at_most(20, 2), at_most(10, 1), at_most(12.0, 1.5)
ASKED_EVERY_S = 4.0  # five times as often as an open Board asks
CURING = 15  # of the demo, a pour that was begun some hours ago


def fill_with_clocks(conninfo: str) -> None:
    """Let two hundred pours cure beside those of the demo, in a room whose thermometer was noted all along."""
    database = Database(conninfo)
    database.open()
    demo.pour_today(database, clock.now())
    database.close()
    with psycopg.connect(conninfo) as connection:
        connection.execute(
            "insert into pours (job_id, rubber_id, who, plan, started_at, finished_at, needed_g, used_g) "
            "select job_id, rubber_id, who, plan, started_at, finished_at, needed_g, used_g from pours, "
            "generate_series(1, %s) where id = %s",
            [CLOCKS, CURING],
        )
        columns = "number, token, at, steady_s, machine, kind, ingredient, net_g, text, what"
        connection.execute(
            f"insert into pour_entries (pour_id, {columns}) select p.id, {columns} "  # noqa: S608 - our own names
            "from pour_entries e, (select id from pours where id > %s) as p where e.pour_id = %s",
            [CURING, CURING],
        )
        connection.execute(
            "insert into room_temps (at, steady_s, machine, temp_c, thermometer) select now() - n * interval '10 "
            "minutes', 0, 'demo', 20 + n % 7, 'Wall' from generate_series(1, 60) as n"
        )
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("vacuum analyze")


async def _ask(port: int, path: str, form: dict[str, str] | None = None) -> str:
    reader, writer = await asyncio.open_connection("127.0.0.1", port)
    body = urlencode(form or {}).encode()
    head = (
        f"{'POST' if form else 'GET'} {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\nHX-Request: true\r\n"
    )
    kind = f"Content-Type: application/x-www-form-urlencoded\r\nContent-Length: {len(body)}\r\n" if form else ""
    writer.write(f"{head}{kind}\r\n".encode() + body)
    answer = await reader.read()
    writer.close()
    return answer.decode()


async def _follow(port: int, number: int, heard: list[float], over: asyncio.Event) -> None:
    reader, writer = await asyncio.open_connection("127.0.0.1", port)
    writer.write(f"GET /pours/{number}/stream HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n".encode())
    while not over.is_set() and (line := await reader.readline()):
        if line.startswith(b"event: changed"):
            heard.append(time.perf_counter())
    writer.close()


async def _board(port: int, over: asyncio.Event) -> None:
    while not over.is_set():
        await _ask(port, "/clocks")
        await asyncio.sleep(ASKED_EVERY_S)


def left_s(page: str) -> float:
    """Return what the first running clock on a page has left."""
    return float(re.findall(r'data-alarm="Take it out" data-counts="([\d.]+)"', page)[0])


async def _clocks(port: int, process: int) -> tuple[float, float, float]:
    over, heard = asyncio.Event(), [list[float]() for _ in range(BENCHES)]
    numbers = [CURING + 1 + index for index in range(BENCHES)]
    open_pages = [
        asyncio.create_task(_follow(port, number, one, over)) for number, one in zip(numbers, heard, strict=True)
    ] + [asyncio.create_task(_board(port, over)) for _ in range(BOARDS)]
    await asyncio.sleep(2)
    cure = f"/pours/{CURING + CLOCKS}"
    began, computed, before = time.perf_counter(), busy_s(process), left_s(await _ask(port, cure))
    asked_at = time.perf_counter()
    late = []
    for number, one in zip(numbers, heard, strict=True):
        step = re.findall(r'data-step="(\d+)"', await _ask(port, f"/pours/{number}"))[0]
        form = {"kind": "witness", "number": step, "token": "b", "units": "metric", "what": "sticky"}
        tapped = time.perf_counter()
        await _ask(port, f"/pours/{number}/enter", form)
        while not one and time.perf_counter() - tapped < 5:
            await asyncio.sleep(0.01)
        late.append((one[0] if one else tapped + 5) - tapped)
    await asyncio.sleep(max(0.0, FOR_S - (time.perf_counter() - began)))
    # no clock may run faster or slower than the time that passes
    passed = time.perf_counter() - asked_at
    off = abs(before - left_s(await _ask(port, cure)) - passed)
    cores = (busy_s(process) - computed) / (time.perf_counter() - began)
    over.set()
    await asyncio.wait(open_pages, timeout=3)
    return cores, max(late), off


def clocks(port: int, process: int, tell: Any) -> None:
    """Let clocks run on open Boards and benches."""
    cores, late_s, off_s = asyncio.run(_clocks(port, process))
    tell(f"{BENCHES} benches, {CLOCKS} clocks, {BOARDS} Boards: cores that the server takes", cores, "< 1")
    tell("From a tap on the witness cup to the other pages, slowest / 1 s", late_s, "< 1", f"{late_s * 1000:.0f} ms")
    tell("How far a clock is off after some seconds / 1 s", off_s, "< 1", f"{off_s * 1000:.0f} ms")
