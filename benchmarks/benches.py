"""Benchmarks of the bench: twenty scales followed by twenty pages at ten readings a second.

Pages are loaded over a hundred thousand pours as well.
"""

import asyncio
import json
import statistics
import time
from dataclasses import asdict
from pathlib import Path
from typing import Any

import psycopg
from extent import at_most

from ufrin.actions import SCALES
from ufrin.actions.bench import pours
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.core.shelf.scales import Scale
from ufrin.devices import clock
from ufrin.store.connection import Database

BENCHES, READINGS_PER_S, FOR_S, LIMIT_MS = at_most(20, 2), 10.0, at_most(12.0, 1.5), 150.0
POURS = at_most(100_000, 200)
TICKS_PER_S = 100.0


class Wire:
    """A scale on a socket whose weight is the number of the reading, so that each can be told when it arrives."""

    def __init__(self) -> None:
        self.sent: dict[int, float] = {}
        self.port = 0

    async def serve(self, over: asyncio.Event) -> None:
        """Send readings to whoever connects."""

        async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
            due = time.perf_counter()
            while not over.is_set():
                number = len(self.sent) + 1
                self.sent[number] = time.perf_counter()
                writer.write(f"stable {number} g\r\n".encode())
                await writer.drain()
                due += 1 / READINGS_PER_S
                await asyncio.sleep(max(0.0, due - time.perf_counter()))
            writer.close()

        server = await asyncio.start_server(talk, "127.0.0.1", 0)
        self.port = server.sockets[0].getsockname()[1]


async def follow(port: int, address: str, arrived: dict[int, float], over: asyncio.Event) -> None:
    """Follow a bench's stream as a browser does, and note when each reading comes."""
    reader, writer = await asyncio.open_connection("127.0.0.1", port)
    writer.write(f"GET {address} HTTP/1.1\r\nHost: 127.0.0.1\r\nAccept: text/event-stream\r\n\r\n".encode())
    while not over.is_set():
        line = await reader.readline()
        if not line:
            break
        if line.startswith(b"data: {"):
            weight = json.loads(line[6:])["g"]
            if weight is not None:
                arrived.setdefault(round(weight), time.perf_counter())
    writer.close()


def busy_s(process: int) -> float:
    """Give the time that a process has computed."""
    fields = Path(f"/proc/{process}/stat").read_text().rsplit(")", 1)[1].split()
    return (int(fields[11]) + int(fields[12])) / TICKS_PER_S


def _job_of_its_own(database: Database) -> int:
    # one pour of a job is weighed at a time
    inputs = stations.open_job(database, 9, "rubber").job.inputs
    job = stations.start_job(database, "At the bench")
    stations.fill_in(database, job, {station: asdict(held) for station, held in inputs.items()})
    return job


async def _benches(conninfo: str, port: int, process: int) -> tuple[list[float], int, int, float]:
    over = asyncio.Event()
    wires = [Wire() for _ in range(BENCHES)]
    for wire in wires:
        await wire.serve(over)
    database = Database(conninfo)
    database.open()
    addresses = []
    for index, wire in enumerate(wires):
        scale = things.add(
            database,
            SCALES,
            Scale(name=f"Bench {index + 1}", address=f"socket://127.0.0.1:{wire.port}", step_g=1.0, most_g=1e6),
        )
        number = pours.start(database, _job_of_its_own(database), who="", temp_c=None, what="the box", now=clock.now())
        addresses.append(f"/pours/{number}/stream?scale={scale}")
    database.close()
    arrived: list[dict[int, float]] = [{} for _ in wires]
    following = [
        asyncio.create_task(follow(port, address, come, over)) for address, come in zip(addresses, arrived, strict=True)
    ]
    await asyncio.sleep(3)  # connected, and the first half line dropped
    first = [len(wire.sent) + 1 for wire in wires]
    began, computed = time.perf_counter(), busy_s(process)
    await asyncio.sleep(FOR_S)
    cores = (busy_s(process) - computed) / (time.perf_counter() - began)
    last = [len(wire.sent) for wire in wires]
    await asyncio.sleep(1)
    over.set()
    await asyncio.wait(following, timeout=3)
    taken, lost = [], 0
    for wire, come, start, end in zip(wires, arrived, first, last, strict=True):
        for number in range(start, end + 1):
            if number in come:
                taken.append((come[number] - wire.sent[number]) * 1000)
            else:
                lost += 1
    return taken, lost, sum(last) - sum(first) + BENCHES, cores


def benches(conninfo: str, port: int, process: int, tell: Any) -> None:
    """Follow twenty scales at once."""
    taken, lost, sent, cores = asyncio.run(_benches(conninfo, port, process))
    median, slow = statistics.median(taken), sorted(taken)[int(len(taken) * 0.99)]
    tell(
        "20 benches: scale to page, median / 150 ms",
        median / LIMIT_MS,
        "< 1",
        f"median {median:.0f} ms, 99 % within {slow:.0f} ms",
    )
    tell("20 benches: readings lost / sent", lost / sent, "0", f"{lost} of {sent}")
    tell("20 benches: cores that the server takes", cores, "< 1", f"{BENCHES * READINGS_PER_S:.0f} readings/s")


def fill_with_pours(conninfo: str) -> None:
    """Put a hundred thousand finished pours with their records on top of the demo data."""
    with psycopg.connect(conninfo) as connection:
        connection.execute(
            "insert into pours (job_id, rubber_id, who, plan, started_at, finished_at, demoulded_at, needed_g, used_g)"
            " select job_id, rubber_id, who, plan, started_at - n * interval '1 minute', finished_at - n * interval "
            "'1 minute', demoulded_at, needed_g,"
            " needed_g * (1 + (n %% 37) / 200.0) from (select * from pours order by id limit 1) as one, "
            "generate_series(1, %s) as n",
            [POURS],
        )
        connection.execute(
            "insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, ingredient, net_g)"
            " select p.id, n, n::text, p.started_at, n, 'demo', 'weigh', 'A', 100 from pours p, "
            "generate_series(1, 6) as n where p.id > 12"
        )
        connection.execute(
            "insert into lot_moves (lot_id, grams, kind, why, pour_id, number)"
            " select 1, 0, 'poured', 'poured', id, 1 from pours where id > 12"
        )
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("vacuum analyze")
