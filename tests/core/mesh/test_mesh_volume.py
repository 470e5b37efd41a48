"""Meshes measured: closed formulas, the libraries' own answers, and the faults that files arrive with."""

import io
import struct
import zipfile
from math import pi

import numpy as np
import pytest
import trimesh
from hypothesis import assume, given
from hypothesis import strategies as st
from shapes import CUBE, cup, egg, figure_of_eight, inside_out, moved, shuffled_winding, torn, without
from thoroughness import examples

from ufrin.core.master.attitudes import stand, turn_up
from ufrin.core.master.stand_ins import ball, block, cone, ring, turned
from ufrin.core.mesh.files import FORMATS, in_mm, read
from ufrin.core.mesh.manifolds import manifold
from ufrin.core.mesh.mesh_bodies import winding_number
from ufrin.core.mesh.mesh_filling import blocks
from ufrin.core.mesh.mesh_volume import as_displaced, measure
from ufrin.core.mesh.rays import columns, grid
from ufrin.core.mesh.sections import section, volume_below_ml
from ufrin.core.mesh.triangles import Mesh, edges, from_triangles, joined, wound_one_way
from ufrin.core.mesh.written_files import write_3mf, write_stl
from ufrin.errors import Refused

direction = st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda up: sum(x * x for x in up) > 0.01)


def of(mesh: trimesh.Trimesh) -> Mesh:
    return Mesh(vertices_mm=np.asarray(mesh.vertices, dtype=float), faces=np.asarray(mesh.faces, dtype=np.int32))


@pytest.mark.parametrize(
    ("mesh", "ml"),
    [
        (CUBE, 6.0),
        (ball(40), 4 / 3 * pi * 8),
        (cone(30, 0, 50), pi * 225 * 50 / 3000),
        (ring(60, 10), 2 * pi**2 * 25 * 25 / 1000),
        (cup(), None),
        (of(trimesh.creation.icosphere(subdivisions=3, radius=20)), None),
        (of(trimesh.creation.annulus(10, 20, 30)), None),
        (of(trimesh.creation.capsule(30, 8)), None),
    ],
)
def test_volume_and_surface_against_formulas_and_another_library(mesh: Mesh, ml: float | None) -> None:
    theirs = trimesh.Trimesh(mesh.vertices_mm, mesh.faces)
    found = measure(mesh)
    assert found.volume_ml == pytest.approx(theirs.volume / 1000, rel=1e-6)
    assert found.area_cm2 == pytest.approx(theirs.area / 100, rel=1e-6)
    assert (found.method, found.watertight, found.bodies, found.findings) == ("exact", True, 1, ())
    if ml is not None:
        assert found.volume_ml == pytest.approx(ml, rel=1e-9)


@given(direction, st.floats(-180, 180), st.floats(0.2, 3))
def test_turning_a_master_changes_neither_its_volume_nor_its_surface(
    up: tuple[float, float, float], spin: float, scale: float
) -> None:
    one = egg()
    stood = stand(one, up, spin, scale)
    assert stood.volume_mm3 == pytest.approx(one.volume_mm3 * scale**3)
    assert stood.area_mm2 == pytest.approx(one.area_mm2 * scale**2)
    low, high = stood.bounds_mm
    assert low[2] == pytest.approx(0, abs=1e-9)
    assert low[:2] + high[:2] == pytest.approx([0, 0], abs=1e-9)
    assert turn_up(up, spin) @ (np.array(up) / np.linalg.norm(up)) == pytest.approx([0, 0, 1], abs=1e-9)


@examples(25)
@given(direction, st.floats(0.02, 0.98))
def test_a_cut_agrees_with_another_library_and_with_its_own_sections(
    up: tuple[float, float, float], share: float
) -> None:
    stood = stand(cup(sides=24), up)
    height = float(stood.extents_mm[2]) * share
    assume(np.abs(stood.vertices_mm[:, 2] - height).min() > 1e-4)
    theirs = manifold(stood)
    assert volume_below_ml(stood, height) == pytest.approx(
        theirs.trim_by_plane((0, 0, -1), -height).volume() / 1000, rel=1e-6, abs=1e-6
    )
    assert section(stood, height).area == pytest.approx(theirs.slice(height).area(), rel=1e-5)


@pytest.mark.parametrize(
    ("mesh", "ml", "method", "code"),
    [
        (inside_out(CUBE), 6.0, "exact", "mesh-flipped"),
        (shuffled_winding(egg()), egg().volume_mm3 / 1000, "exact", "mesh-flipped"),
        (joined([CUBE, moved(CUBE, 10, 5, 3)]), 12 - 20 * 15 * 7 / 1000, "union", "mesh-united"),
        (joined([CUBE, moved(block(10, 8, 4), 0, 0, 3)]), 6.0, "union", "mesh-united"),
        (joined([CUBE, inside_out(moved(block(10, 8, 4), 0, 0, 3))]), 6 - 0.32, "exact", "mesh-cavity"),
        (joined([CUBE, inside_out(moved(CUBE, 100, 0, 0))]), 12.0, "exact", "mesh-flipped"),
        (without(egg(), 50), egg().volume_mm3 / 1000, "voxel", "mesh-capped"),
        (without(CUBE, 2, 3), 6.0, "voxel", "mesh-capped"),
    ],
)
def test_faults_are_mended_and_named(mesh: Mesh, ml: float, method: str, code: str) -> None:
    found = measure(mesh)
    assert found.method == method
    assert code in [finding.code for finding in found.findings]
    assert found.volume_ml == pytest.approx(ml, rel=1e-5 if method != "voxel" else 0.01)
    assert edges(found.solid).is_closed
    assert found.solid.volume_mm3 / 1000 == pytest.approx(found.volume_ml, rel=1e-5)


def test_what_crosses_itself_is_filled_by_cells_within_its_stated_error() -> None:
    tube = figure_of_eight()
    # where it crosses, the two limbs share about the volume of two round bars that meet at right angles: 16
    # r^3 / 3 (Archimedes)
    once = tube.volume_mm3 / 1000 - 16 * 4**3 / 3 / 1000
    found = measure(tube)
    assert (found.method, [finding.code for finding in found.findings]) == ("voxel", ["mesh-crosses"])
    assert found.volume_ml == pytest.approx(once, rel=0.03)
    assert measure(torn()).method == "voxel"


@pytest.mark.parametrize(
    ("mesh", "says"),
    [
        (
            Mesh(
                vertices_mm=np.array([[0, 0, 0], [9, 0, 0], [9, 9, 0], [0, 9, 0]], dtype=float),
                faces=np.array([[0, 1, 2], [0, 2, 3]]),
            ),
            "no volume",
        )
    ],
)
def test_what_holds_no_volume_is_refused(mesh: Mesh, says: str) -> None:
    with pytest.raises(Refused, match=says):
        measure(mesh)


def test_a_strip_with_half_a_twist_has_no_outside() -> None:
    turns = np.linspace(0, 2 * np.pi, 60, endpoint=False)
    rim = [
        [(20 + s * np.cos(t / 2)) * np.cos(t), (20 + s * np.cos(t / 2)) * np.sin(t), s * np.sin(t / 2)]
        for t in turns
        for s in (-5, 5)
    ]
    faces = []
    for i in range(60):
        a, b = 2 * i, 2 * i + 1
        c, d = (2 * i + 2, 2 * i + 3) if i < 59 else (1, 0)
        faces += [[a, c, b], [b, c, d]]
    assert wound_one_way(Mesh(vertices_mm=np.array(rim), faces=np.array(faces, dtype=np.int32))) is None


@given(st.lists(st.tuples(*[st.integers(-3, 3)] * 3), min_size=3, max_size=40))
def test_shared_corners_are_exactly_the_different_ones(corners: list[tuple[int, int, int]]) -> None:
    loose = np.array(corners[: len(corners) // 3 * 3], dtype=np.float32)
    degenerate = all(len({tuple(c) for c in loose[i : i + 3]}) < 3 for i in range(0, len(loose), 3))
    if degenerate:
        with pytest.raises(Refused, match="no triangles in it"):
            from_triangles(loose)
        return
    mesh = from_triangles(loose)
    assert {tuple(row) for row in mesh.vertices_mm} == {tuple(row) for row in loose.astype(float)}
    assert len(mesh.vertices_mm) == len({tuple(row) for row in loose.tolist()})


@given(st.integers(20, 70), direction)
def test_rays_balance_and_their_volume_nears_the_exact_one(cells: int, up: tuple[float, float, float]) -> None:
    mesh = stand(joined([egg(), moved(block(10, 10, 10), 60, 0, 0)]), up)
    low, cell, shape = grid(mesh, cells)
    for axis in range(3):
        cast = columns(mesh, axis=axis, low_mm=low, cell_mm=cell, shape=shape)
        assert cast.balanced().all()
        assert set(cast.winding().tolist()) <= {0, 1}
        # a cell at most along the rim of the shadow
        assert cast.volume_mm3() == pytest.approx(mesh.volume_mm3, rel=8 / cells)
        assert np.array_equal(cast.filled(), cast.filled(odd=True))


def test_the_surface_of_cells_encloses_them() -> None:
    cells = np.random.default_rng(3).random((6, 7, 5)) > 0.6
    mesh = blocks(cells, np.array([1.0, 2, 3]), 0.5)
    assert mesh.volume_mm3 == pytest.approx(cells.sum() * 0.125)
    assert edges(mesh).is_closed


def test_a_point_is_wound_round_once_inside_and_not_outside() -> None:
    assert winding_number(egg(), np.array([1.0, 2, 20])) == pytest.approx(1)
    assert winding_number(egg(), np.array([100.0, 2, 20])) == pytest.approx(0, abs=1e-9)


def as_file(kind: str) -> bytes:
    made = trimesh.Trimesh(egg().vertices_mm, egg().faces, process=False).export(file_type=kind)
    return made.encode() if isinstance(made, str) else made


@pytest.mark.parametrize("kind", [*FORMATS, "stl_ascii"])
def test_every_format_is_read(kind: str) -> None:
    got = read(as_file(kind), "x." + kind)
    assert got.format == kind.removesuffix("_ascii")
    assert got.triangles == len(egg().faces)
    assert measure(got.mesh).volume_ml == pytest.approx(60, rel=1e-4)


def test_what_is_written_is_read_back_the_same() -> None:
    for data in (write_stl(egg()), write_3mf(egg())):
        assert measure(read(data).mesh).volume_ml == pytest.approx(60, rel=1e-5)
    with zipfile.ZipFile(io.BytesIO(write_3mf(egg()))) as packed:
        model = next(name for name in packed.namelist() if name.endswith(".model"))
        assert b'unit="millimeter"' in packed.read(model)


def stl(corners: np.ndarray, says: int | None = None) -> bytes:
    rows = np.zeros(len(corners) // 3, np.dtype([("n", "<f4", 3), ("c", "<f4", (3, 3)), ("a", "<u2")]))
    rows["c"] = corners.reshape(-1, 3, 3)
    return b" " * 80 + struct.pack("<I", len(rows) if says is None else says) + rows.tobytes()


CORNERS = CUBE.vertices_mm[CUBE.faces].reshape(-1, 3)
NAN = CORNERS.copy()
NAN[4, 1] = np.nan


@pytest.mark.parametrize(
    ("data", "name", "says"),
    [
        (b"", "x.stl", "empty"),
        (b"\0" * 400, "x.stl", "empty"),
        (b"Dear all,\nplease find enclosed", "letter.txt", "none of the mesh files"),
        (stl(CORNERS, 4_000_000_000), "x.stl", "room for 12"),
        (stl(CORNERS)[:300], "x.stl", "cut short"),
        (b"solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0", "x.stl", "cut short"),
        (stl(NAN), "x.stl", "no numbers"),
        (stl(np.zeros((30, 3))), "x.stl", "no triangles"),
        (stl(np.zeros((0, 3))), "x.stl", "no triangles"),
        (b"PK\x03\x04" + b"x" * 90, "x.3mf", "damaged"),
        (as_file("glb")[:900], "x.glb", "cut short"),
        (
            as_file("glb").replace(b'"byteLength"', b'"uri":"/etc/passwd","byteLength"', 1),
            "x.glb",
            "cut short|points to|damaged",
        ),
        (b"mtllib ../../../etc/passwd\nv 0 0 0\nv 1 0 0\nf 1 2 9\n", "x.obj", "damaged|no triangles|not in the file"),
        (as_file("ply")[:2000], "x.ply", "damaged"),
        (b"OFF\n3 1 0\n0 0 0\n1 0 0\n", "x.off", "damaged"),
    ],
)
def test_bad_files_are_refused_with_a_sentence_that_helps(data: bytes, name: str, says: str) -> None:
    with pytest.raises(Refused, match=says) as refused:
        measure(read(data, name).mesh)
    assert str(refused.value).endswith(".")


def test_a_packed_file_that_would_burst_is_refused() -> None:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("../../3D/3dmodel.model", b"<model>" + b" " * 450_000_000)
    with pytest.raises(Refused, match="unpack to"):
        read(file.getvalue(), "x.3mf")


CUBE_CORNERS = b"v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\n"
CUBE_FACES = b"f 1 4 3 2\nf 5 6 7 8\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n"
RELATIVE = CUBE_CORNERS + b"".join(
    b"f %s\n" % b" ".join(b"%d" % (int(corner) - 9) for corner in row.split()[1:]) for row in CUBE_FACES.splitlines()
)


@pytest.mark.parametrize(
    ("data", "volume"),
    [
        (CUBE_CORNERS + CUBE_FACES, 1),
        ((CUBE_CORNERS + CUBE_FACES).replace(b" ", b"\t").replace(b"\n", b"\r\n"), 1),
        (CUBE_CORNERS + CUBE_FACES.replace(b"4 3 2", b"4 \\\n 3 2"), 1),
        (
            CUBE_CORNERS + b"vn 0 0 1\nvt 0 0\n" + CUBE_FACES.replace(b"f 1 4 3 2", b"f 1//1 4//1 3//1\nf 1/1 3/1 2/1"),
            1,
        ),
        (CUBE_CORNERS.replace(b"\nv", b" 0.1 0.2 0.3\nv").strip() + b" 0.1 0.2 0.3\n" + CUBE_FACES, 1),
        (RELATIVE, 1),
        # a second cube, which counts back from its own corners: twice as large, away from the first
        (RELATIVE + RELATIVE.replace(b"v 1", b"v 7").replace(b"v 0", b"v 5"), 3),
    ],
)
def test_obj_files_are_read_however_they_are_written(data: bytes, volume: float) -> None:
    assert read(data, "x.obj").mesh.volume_mm3 == pytest.approx(volume)


def test_a_million_bodies_and_absurd_sizes_are_refused() -> None:
    tetrahedron = np.array([[0, 1, 2], [0, 3, 1], [0, 2, 3], [1, 3, 2]])
    corners = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1]], dtype=np.float32)[tetrahedron].reshape(-1, 3)
    many = (corners[None] + np.arange(100_000, dtype=np.float32)[:, None, None] * 3).reshape(-1, 3)
    with pytest.raises(Refused, match="100000 separate bodies"):
        measure(from_triangles(many))
    for unit, says in (("m", "over 10 m"), ("ell", "mm, cm, m or in")):
        with pytest.raises(Refused, match=says):
            in_mm(CUBE, unit)


@pytest.mark.parametrize(
    ("pairs", "says"),
    [
        ([(0, 9)], "two pairs"),
        ([(0, 9), (5, 9), (3, 9)], "go up"),
        ([(0, 9), (5, 0), (9, 9)], "come to a point"),
        ([(0, 0), (9, 0)], "come to a point"),
    ],
)
def test_a_profile_that_cannot_be_turned(pairs: list[tuple[float, float]], says: str) -> None:
    with pytest.raises(Refused, match=says):
        turned(pairs)


def test_a_closed_hollow_displaces_its_outside() -> None:
    inner = inside_out(moved(block(10, 8, 4), 0, 0, 3))
    hollow = measure(joined([CUBE, inner]))
    seen = as_displaced(hollow)
    assert seen.volume_ml == pytest.approx(hollow.volume_ml + 0.32)
    assert seen.solid.volume_mm3 / 1000 == pytest.approx(seen.volume_ml)
    assert [finding.code for finding in seen.findings] == ["mesh-hollow-counted"]
    assert as_displaced(measure(CUBE)).findings == measure(CUBE).findings
