"""Benchmarks of meshes: measuring, cutting and comparing against a well-known library.

The memory that measuring takes is compared with the file.
"""

import io
import json
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Callable
from typing import Any

import numpy as np
import trimesh
from extent import at_most

from ufrin.core.box.box_comparison import AttitudeFigures, box_options
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.master.attitudes import attitudes, stand
from ufrin.core.master.master_form import Form, Master
from ufrin.core.mesh.files import read
from ufrin.core.mesh.line_work import reduced
from ufrin.core.mesh.mesh_volume import measure
from ufrin.core.mesh.sections import volume_below_ml
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.mesh.written_files import write_stl
from ufrin.core.opening.undercuts import under_a_master
from ufrin.core.shelf.containers import Container

ROWS, MEMORY_LIMIT = at_most(200, 20), 12
LARGE = at_most(8, 4)  # of pebbles: over a million triangles


def pebble(subdivisions: int) -> Mesh:
    """Make a lumpy closed body: 20 x 4^n triangles."""
    ball = trimesh.creation.icosphere(subdivisions=subdivisions, radius=40)
    x, y, z = np.asarray(ball.vertices).T / 40
    lumps = 1 + 0.15 * np.sin(5 * x) * np.cos(4 * y) + 0.1 * np.sin(6 * z + 2 * x)
    return Mesh(
        vertices_mm=np.asarray(ball.vertices) * lumps[:, None] * [1, 0.8, 0.6],
        faces=np.asarray(ball.faces, dtype=np.int32),
    )


def best_s(what: Callable[[], object], times: int = 3) -> float:
    """Time a call; the best of a few, since whatever else the machine does only adds."""
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        what()
        taken.append(time.perf_counter() - began)
    return min(taken)


def run(tell: Callable[[str, float, str, str], None]) -> None:
    """Run them."""
    large, middling = pebble(LARGE), reduced(pebble(at_most(6, 3)), 50_000)
    data = write_stl(large)

    def theirs() -> None:
        loaded: Any = trimesh.load(io.BytesIO(data), file_type="stl")
        assert loaded.volume > 0

    ours_s, theirs_s = best_s(lambda: measure(read(data, "x.stl").mesh)), best_s(theirs, 2)
    more = f"{ours_s:.2f} s against {theirs_s:.2f} s, {len(large.faces)} triangles"
    tell("STL measured, closed and bodies / trimesh load + volume", ours_s / theirs_s, "<= 0.5", more)
    solid = trimesh.Trimesh(large.vertices_mm, large.faces, process=False)
    cut_s = best_s(lambda: volume_below_ml(large, 5.0))
    slice_s = best_s(lambda: solid.slice_plane([0, 0, 5.0], [0, 0, -1]))
    tell("Cut at the fill line / trimesh's slice", cut_s / slice_s, "<= 1.5", f"{cut_s:.3f} s against {slice_s:.3f} s")
    tell(
        f"{ROWS} rows of the table of ways / 2 s",
        _table_s(middling) / 2,
        "< 1",
        f"{len(middling.faces)} triangles, attitudes included",
    )
    tell(
        "Peak memory of measuring / the file",
        _peak_bytes(data) / len(data),
        f"<= {MEMORY_LIMIT}",
        f"{len(data) // 1_000_000} MB",
    )


def _table_s(mesh: Mesh) -> float:
    drawn = reduced(mesh)
    shelf = {
        n: Container(
            name=f"{n}",
            shape=("rectangle", "round", "tapered")[n % 3],
            length_mm=90 + 4 * n,
            width_mm=80 + 3 * n,
            bottom_mm=80 + 4 * n,
            top_mm=95 + 4 * n,
            height_mm=60 + 4 * n,
        )
        for n in range(40)
    }

    def compare() -> None:
        volume_ml = mesh.volume_mm3 / 1000
        figures = []
        for way in attitudes(drawn):
            form = Form(stand(mesh, way.up), volume_ml=volume_ml)
            figures.append(AttitudeFigures(attitude=way, form=form, under=under_a_master(stand(drawn, way.up))))
        form = figures[0].form or Form(mesh)
        length, width, height = form.size_mm
        one = Master(length_mm=length, width_mm=width, height_mm=height, volume_ml=volume_ml, mass_g=100, form=form)
        found = box_options(BoxPlan(masters=(one,), rubber_sg=1.1), figures, shelf, 0.03)
        assert len(found) >= ROWS

    return best_s(compare)


def _peak_bytes(data: bytes) -> int:
    # in a process of its own, over what the program takes before it has a file
    code = (
        "import re,sys;from pathlib import Path;"
        "from ufrin.core.mesh.mesh_volume import measure;from ufrin.core.mesh.files import read;"
        "peak=lambda: int(re.search(r'VmHWM:\\s+(\\d+)',Path('/proc/self/status').read_text())[1])*1024;before=peak();"
        "data=sys.stdin.buffer.read();measure(read(data,'x.stl').mesh);print(peak()-before)"
    )
    done = subprocess.run([sys.executable, "-c", code], input=data, capture_output=True, check=True)
    return int(done.stdout)


def responsive(port: int, path: str, tell: Callable[[str, float, str, str], None]) -> None:
    """Load a page while a large mesh is being measured by the same server, and while nothing else is."""
    data, mark = write_stl(pebble(LARGE)), "mark"
    body = (
        f'--{mark}\r\nContent-Disposition: form-data; name="file"; filename="x.stl"\r\n\r\n'.encode()
        + data
        + f"\r\n--{mark}--\r\n".encode()
    )
    request = urllib.request.Request(
        f"http://127.0.0.1:{port}/api/v1/mesh/measure", body, {"Content-Type": f"multipart/form-data; boundary={mark}"}
    )
    volume: list[float] = []
    thread = threading.Thread(target=lambda: volume.append(json.load(urllib.request.urlopen(request))["volume_ml"]))
    alone = [
        best_s(lambda: urllib.request.urlopen(f"http://127.0.0.1:{port}{path}").read(), 1)
        for _ in range(at_most(30, 4))
    ]
    thread.start()
    meanwhile = []
    while thread.is_alive():
        meanwhile.append(best_s(lambda: urllib.request.urlopen(f"http://127.0.0.1:{port}{path}").read(), 1))
    thread.join()
    slowest, usual = max(meanwhile), sorted(alone)[len(alone) // 2]
    assert volume
    tell(
        "Slowest page while a mesh is measured / 1 s",
        slowest,
        "< 1",
        f"{slowest * 1000:.0f} ms; alone {usual * 1000:.0f} ms, {len(meanwhile)} pages",
    )
