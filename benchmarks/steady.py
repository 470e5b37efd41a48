"""Benchmarks of what keeps it steady: a large 3MF in its child process, the Board with large meshes, fifty clients."""

import http.client
import io
import random
import resource
import statistics
import threading
import time
from collections.abc import Callable

import numpy as np
import psycopg
import trimesh
from extent import at_most
from meshes import pebble

from ufrin.actions.job import board, stations
from ufrin.bounded.child import Bounds, do_apart, take_work
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.mesh.written_files import write_3mf, write_stl
from ufrin.core.opening.file_calls import SentFile, measure_sent
from ufrin.store.connection import Database

Tell = Callable[[str, float, str, str], None]
CLIENTS, LASTS_S = at_most(50, 4), at_most(30.0, 1.0)
JOBS, BOARDS, LARGE = at_most(200, 4), at_most(60, 4), at_most(8, 4)
PLACES = ("/", "/jobs/1/master", "/jobs/1/box", "/jobs/2/rubber", "/jobs/3/opening", "/jobs/4/checks", "/shelf/rubbers")


def measured_with_peak(report: Callable[[object], None], data: bytes) -> tuple[int, float]:
    """Measure a file in a child; return its triangles, and the most memory the child had, in MB."""
    found = measure_sent(report, SentFile(data=data, name="x.3mf", unit="mm", cells=128))
    return found.triangles, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def large_3mf(tell: Tell) -> None:
    """Measure a 3MF of more than a million triangles in a child process."""
    ball = pebble(LARGE)
    shell = pebble(LARGE - 1)
    faces = [ball.faces, shell.faces + len(ball.vertices_mm)]
    both = Mesh(vertices_mm=np.concatenate([ball.vertices_mm, shell.vertices_mm + 200]), faces=np.concatenate(faces))
    data = write_3mf(both)
    take_work()
    do_apart(measured_with_peak, Bounds(), None, write_3mf(pebble(2)))
    began = time.perf_counter()
    triangles, peak_mb = do_apart(measured_with_peak, Bounds(), None, data)
    ours_s = time.perf_counter() - began
    began = time.perf_counter()
    trimesh.load(io.BytesIO(data), file_type="3mf", force="mesh")
    theirs_s = time.perf_counter() - began
    more = f"{triangles} triangles, {ours_s:.1f} s against {theirs_s:.1f} s"
    tell("3MF measured in a child / trimesh only loading it", ours_s / theirs_s, "<= 1", more)
    tell("The same / 5 s for a million triangles", ours_s / (5 * triangles / 1e6), "<= 1", more)
    tell("Peak memory of the child / 1 GB", peak_mb / 1000, "<= 1", f"{peak_mb:.0f} MB")


def board_with_large_meshes(plain: str, large: str, tell: Tell) -> None:
    """Load the Board with 200 jobs that all have large meshes, and with 200 that have none."""
    for conninfo, with_mesh in ((plain, False), (large, True)):
        database = Database(conninfo)
        database.open()
        size = {"length_mm": 92.0, "width_mm": 78.0, "height_mm": 31.0, "known_ml": 100.0}
        first = stations.start_job(database, "First")
        if with_mesh:
            with psycopg.connect(conninfo) as connection:  # as a worker would have measured it
                stations.give_mesh(database, first, "x.stl", write_stl(pebble(6)))
                connection.execute("update meshes set figures = jsonb_set(figures, '{triangles}', '1300000')")
        for number in range(JOBS):
            job = stations.start_job(database, f"Job {number}")
            if with_mesh:
                stations.give_mesh(database, job, "x.stl", write_stl(pebble(6)))
            else:
                stations.change_station(database, job, "master", version=1, changes=size)
        database.close()
    took: dict[str, list[float]] = {plain: [], large: []}
    opened = {conninfo: Database(conninfo) for conninfo in took}
    for database in opened.values():
        database.open()
    for _ in range(BOARDS):
        for conninfo, database in opened.items():
            began = time.perf_counter()
            board.board(database)
            took[conninfo].append(time.perf_counter() - began)
    for database in opened.values():
        database.close()
    without_ms, with_ms = (1000 * statistics.median(took[one]) for one in (plain, large))
    more = f"{with_ms:.2f} ms against {without_ms:.2f} ms"
    tell("Board of 200 jobs with large meshes / of 200 without", with_ms / without_ms, "<= 2", more)


def fifty_clients(port: int, tell: Tell, session: str = "") -> None:
    """Let fifty clients read pages for half a minute, once every page was opened before; signed in where told."""
    took: list[float] = []
    headers = {"Cookie": f"ufrin_session={session}"} if session else {}
    end = 0.0

    def read(seed: int) -> None:
        chosen, line = random.Random(seed), http.client.HTTPConnection("127.0.0.1", port)  # noqa: S311
        while time.monotonic() < end:
            began = time.perf_counter()
            line.request("GET", chosen.choice(PLACES), headers=headers)
            answer = line.getresponse()
            answer.read()
            assert answer.status == 200
            took.append(time.perf_counter() - began)

    line = http.client.HTTPConnection("127.0.0.1", port)
    for place in PLACES:
        line.request("GET", place, headers=headers)
        line.getresponse().read()
    end = time.monotonic() + LASTS_S
    clients = [threading.Thread(target=read, args=(seed,)) for seed in range(CLIENTS)]
    for client in clients:
        client.start()
    for client in clients:
        client.join()
    took.sort()
    p99_s = took[int(len(took) * 0.99)]
    more = f"{len(took) / LASTS_S:.0f} pages/s, median {1000 * took[len(took) // 2]:.0f} ms"
    tell(f"50 clients{', signed in,' if session else ''} for 30 s: 99 % within / 1 s", p99_s, "< 1", more)
