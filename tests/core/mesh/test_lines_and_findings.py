"""What a drawing shows of a mesh, what is reported of a faulty one, and rays and cells by hand."""

from math import hypot, sqrt

import numpy as np
import pytest
import shapely
from shapes import CUBE, cup, egg, figure_of_eight, inside_out, moved, torn, without

from ufrin.core.master.stand_ins import block, cone
from ufrin.core.mesh.cells import cells_of_mesh
from ufrin.core.mesh.files import UNITS_MM, in_mm, kind_of, read
from ufrin.core.mesh.line_work import LEAST_LINE, MOST_LINES, LineWork, ViewKey, contours, outline, shadow
from ufrin.core.mesh.manifolds import from_manifold, manifold
from ufrin.core.mesh.measured_record import MeshFigures
from ufrin.core.mesh.mesh_filling import fill_mesh
from ufrin.core.mesh.mesh_volume import MeasuredMesh, as_displaced, measure
from ufrin.core.mesh.plane_cut import cut_level
from ufrin.core.mesh.rays import Columns, columns, grid, stretches
from ufrin.core.mesh.sections import reach, section
from ufrin.core.mesh.triangles import Mesh, joined
from ufrin.core.mesh.written_files import write_3mf, write_stl
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused

PLATE = block(120, 100, 10)


def lengths(drawn: LineWork) -> float:
    return sum(float(shapely.LineString(line).length) for line in drawn.lines)


def round_all(drawn: LineWork) -> tuple[float, ...]:
    return tuple(shapely.MultiLineString([*drawn.lines]).bounds)


# --- what hides what


@pytest.mark.parametrize(
    ("view", "by", "around"),
    [
        ("plan", (10, 5, 12), (-10, -5, 30, 15)),
        ("front", (10, -80, 2), (-10, 2, 30, 8)),
        ("side", (100, 20, 2), (10, 2, 30, 8)),
    ],
)
def test_a_body_before_another_is_drawn_within_its_shadow(
    view: ViewKey, by: tuple[float, float, float], around: tuple[float, float, float, float]
) -> None:
    drawn = outline(joined([PLATE, moved(block(40, 20, 6), *by)]), view)
    assert round_all(drawn) == pytest.approx(around, abs=0.1)
    left, low, right, high = around
    assert lengths(drawn) == pytest.approx(2 * (right - left + high - low), rel=0.01)
    (ring,) = drawn.rings
    whole = {"plan": (-60, -50, 60, 50), "front": (-60, 0, 60, 10), "side": (-50, 0, 50, 10)}[view]
    assert shapely.Polygon(ring).bounds == pytest.approx(whole, abs=0.1)


@pytest.mark.parametrize(("view", "by"), [("plan", (10, 5, -40)), ("front", (10, 80, 2)), ("side", (-100, 20, 2))])
def test_a_body_behind_another_is_not_drawn(view: ViewKey, by: tuple[float, float, float]) -> None:
    hidden = outline(joined([PLATE, moved(block(40, 20, 5), *by)]), view)
    assert hidden.lines == ()
    assert len(hidden.rings) == 1
    # half of it stands out: the plate's whole edge is drawn before it, and nothing of what the plate hides
    beside = {"plan": (60, 5, -40), "front": (60, 80, 2), "side": (-100, 50, 2)}[view]
    half = outline(joined([PLATE, moved(block(40, 20, 5), *beside)]), view)
    assert lengths(half) == pytest.approx(100 if view == "plan" else 10, rel=0.01)
    edge = {"plan": 60, "front": 60, "side": 50}[view]
    assert round_all(half)[0] == pytest.approx(edge, abs=0.1)
    assert round_all(half)[2] == pytest.approx(edge, abs=0.1)


@pytest.mark.parametrize(("rise", "is_drawn"), [(40, True), (20, True), (8, False)])
def test_a_ridge_is_drawn_where_it_is_sharp(rise: float, is_drawn: bool) -> None:
    # a roof of 100 mm across: its two sides meet at twice the angle of its slope, and 42 degrees is the limit
    corners = [[-50, -30, 0], [50, -30, 0], [0, -30, rise], [-50, 30, 0], [50, 30, 0], [0, 30, rise]]
    faces = [[0, 1, 2], [3, 5, 4], [0, 3, 4], [0, 4, 1], [1, 4, 5], [1, 5, 2], [0, 2, 5], [0, 5, 3]]
    roof = Mesh(vertices_mm=np.array(corners, dtype=float), faces=np.array(faces, dtype=np.int32))
    assert roof.volume_mm3 == pytest.approx(100 * rise / 2 * 60)
    bend = 2 * np.degrees(np.arctan(rise / 50))
    assert bool(bend > 42) == is_drawn
    drawn = outline(roof, "plan")
    if is_drawn:
        (ridge,) = drawn.lines
        assert sorted(ridge) == [pytest.approx((0, -30), abs=0.1), pytest.approx((0, 30), abs=0.1)]
    else:
        assert drawn.lines == ()


def test_texture_and_crowds_of_lines_are_left_out() -> None:
    def dotted(number: int, across: float) -> LineWork:
        at = np.linspace(-50, 50, number)
        little = [moved(block(across, across, 2), x, y, 12) for x in at for y in at[:number]]
        return outline(joined([block(120, 120, 10), *little]), "plan")

    # round a square of 1 mm it is 4 mm, and the least is a sixtieth of 120 mm
    assert 120 * LEAST_LINE == 2
    assert len(dotted(3, 1).lines) == 9
    assert dotted(3, 0.45).lines == ()
    assert len(dotted(18, 3).lines) == MOST_LINES


def test_a_hole_is_a_ring_of_the_shadow() -> None:
    frame = from_manifold(manifold(block(60, 40, 20)) - manifold(moved(block(30, 10, 40), 5, 0, -10)))
    drawn = outline(frame, "plan")
    assert sorted(shapely.Polygon(ring).area for ring in drawn.rings) == [
        pytest.approx(300, rel=0.01),
        pytest.approx(2400, rel=0.01),
    ]
    assert shadow(frame).area == pytest.approx(2100)
    assert shadow(frame, "front").area == pytest.approx(1200)
    assert drawn.lines == ()


def test_edges_that_throw_the_shadow() -> None:
    ends = contours(CUBE)
    # both rims of an upright wall, and nothing upright
    assert np.linalg.norm(ends[:, 0] - ends[:, 1], axis=1).sum() == pytest.approx(2 * 2 * (30 + 20))
    assert set(ends[:, :, 2].ravel()) == {0, 10}
    pointed = contours(cone(40, 0, 30))
    assert set(np.round(pointed[:, :, 2].ravel(), 6)) == {0}


# --- what is reported of a faulty mesh


def hollow_ml(found: MeasuredMesh, code: str) -> float:
    reported = facts(found, code)["hollow"]
    assert isinstance(reported, Amount)
    assert (reported.kind, reported.decimals) == ("volume", 1)
    return float(reported.value)


def facts(found: MeasuredMesh, code: str) -> dict[str, object]:
    (finding,) = [one for one in found.findings if one.code == code]
    return dict(finding.facts)


def test_what_is_reported_of_holes_that_were_closed() -> None:
    found = measure(without(CUBE, 2, 3))
    # two triangles that share an edge leave four open edges, two that do not leave six
    a, b = CUBE.faces[2], CUBE.faces[3]
    open_edges = 4 if len(set(a.tolist()) & set(b.tolist())) == 2 else 6
    assert facts(found, "mesh-capped") == {"edges": str(open_edges), "error": Amount(found.plus_minus_ml, "volume", 1)}
    assert (found.watertight, found.bodies, found.method) == (False, 1, "voxel")
    assert found.plus_minus_ml >= 0.005 * 6 * 0.98
    # flat caps make the brick whole again: its surface too
    assert found.area_cm2 == pytest.approx(22)
    assert found.volume_ml == pytest.approx(6)


@pytest.mark.parametrize("mesh", [without(egg(), 50), without(inside_out(egg()), 50)])
def test_a_hole_in_an_egg_is_closed_whichever_way_it_is_wound(mesh: Mesh) -> None:
    found = measure(mesh)
    assert facts(found, "mesh-capped")["edges"] == "3"
    assert found.solid.volume_mm3 / 1000 == pytest.approx(found.volume_ml)
    assert found.area_cm2 == pytest.approx(egg().area_mm2 / 100, rel=1e-3)
    away = abs(found.volume_ml - fill_mesh(mesh, 128, odd=True).volume_mm3 / 1000)
    assert found.plus_minus_ml == pytest.approx(max(away, 0.005 * fill_mesh(mesh, 128, odd=True).volume_mm3 / 1000))


def test_what_is_reported_of_a_torn_body() -> None:
    found = measure(torn(), cells=48)
    filled = fill_mesh(torn(), 48, odd=True)
    reported = facts(found, "mesh-open")
    assert reported["error"] == Amount(filled.plus_minus_mm3 / 1000, "volume", 1)
    assert int(str(reported["edges"])) > 100
    assert (found.watertight, found.method) == (False, "voxel")
    assert found.volume_ml == filled.volume_mm3 / 1000
    assert found.plus_minus_ml == filled.plus_minus_mm3 / 1000
    assert found.area_cm2 == pytest.approx(found.solid.area_mm2 / 100)


def test_what_is_reported_of_bodies_that_overlap() -> None:
    found = measure(joined([CUBE, moved(CUBE, 10, 5, 3)]))
    assert facts(found, "mesh-united") == {"bodies": "2"}
    # two surfaces of 22 cm2, less the six faces of the 20 x 15 x 7 mm that they share
    assert found.area_cm2 == pytest.approx(2 * 22 - 2 * (20 * 15 + 20 * 7 + 15 * 7) / 100)
    assert (found.watertight, found.bodies, found.plus_minus_ml) == (True, 2, 0)


def test_a_hollow_in_one_of_the_bodies_that_overlap_stays_one() -> None:
    hollow = inside_out(moved(block(6, 6, 2), -10, -5, 1))
    found = measure(joined([CUBE, moved(CUBE, 10, 5, 3), hollow]))
    assert found.volume_ml == pytest.approx(12 - 20 * 15 * 7 / 1000 - 6 * 6 * 2 / 1000)
    assert facts(found, "mesh-united") == {"bodies": "3"}
    assert hollow_ml(found, "mesh-cavity") == pytest.approx(0.072)


def test_what_is_reported_of_a_body_that_crosses_itself() -> None:
    found = measure(figure_of_eight(), cells=64)
    filled = fill_mesh(figure_of_eight(), 64, odd=False)
    assert facts(found, "mesh-crosses") == {"error": Amount(filled.plus_minus_mm3 / 1000, "volume", 1)}
    assert (found.watertight, found.bodies) == (True, 1)
    assert found.plus_minus_ml == pytest.approx(filled.plus_minus_mm3 / 1000)


def test_hollows_are_reported_with_their_volume() -> None:
    hollow = measure(joined([CUBE, inside_out(moved(block(10, 8, 4), 0, 0, 3))]))
    assert hollow_ml(hollow, "mesh-cavity") == pytest.approx(0.32)
    assert hollow.bodies == 2
    assert hollow.area_cm2 == pytest.approx(22 + 2 * (80 + 40 + 32) / 100)
    seen = as_displaced(hollow)
    assert hollow_ml(seen, "mesh-hollow-counted") == pytest.approx(0.32)
    assert seen.area_cm2 == pytest.approx(22)


def test_thousands_of_bodies_are_refused_and_a_few_are_not() -> None:
    few = measure(joined([moved(block(1, 1, 1), 2 * i, 0, 0) for i in range(40)]))
    assert few.bodies == 40
    assert few.volume_ml == pytest.approx(0.04)
    with pytest.raises(Refused, match="2001 separate bodies; 2000 is the most"):
        measure(joined([moved(block(1, 1, 1), 2 * (i % 50), 2 * (i // 50), 0) for i in range(2001)]))


def test_corners_that_the_file_rounded_are_tied_and_those_further_apart_are_not() -> None:
    corners = CUBE.vertices_mm[CUBE.faces].reshape(-1, 3)
    faces = np.arange(len(corners), dtype=np.int32).reshape(-1, 3)
    jitter = np.random.default_rng(5).uniform(-1, 1, corners.shape)
    near = measure(Mesh(vertices_mm=corners + 2e-6 * jitter, faces=faces))
    assert (near.method, near.watertight, near.bodies) == ("exact", True, 1)
    far = measure(Mesh(vertices_mm=corners + 2e-3 * jitter, faces=faces), cells=32)
    assert not far.watertight


def test_the_record_of_a_measured_mesh_has_its_figures() -> None:
    found = measure(without(CUBE, 2, 3))
    kept = MeshFigures.from_plain(
        {
            "format": "stl",
            "triangles": 10,
            "bodies": found.bodies,
            "watertight": found.watertight,
            "method": found.method,
            "volume_ml": found.volume_ml,
            "plus_minus_ml": found.plus_minus_ml,
            "area_cm2": found.area_cm2,
            "low_mm": found.solid.bounds_mm[0].tolist(),
            "high_mm": found.solid.bounds_mm[1].tolist(),
            "says_unit": "mm",
            "findings": [],
        }
    )
    again = MeshFigures.from_plain(kept.to_plain())
    assert again == kept
    assert again.in_unit("mm").volume_ml == found.volume_ml


# --- rays and cells


def test_a_grid_covers_its_mesh_with_a_margin() -> None:
    low, cell, shape = grid(CUBE, 30)
    assert cell == 1
    assert shape == (32, 22, 12)
    assert (low < CUBE.bounds_mm[0]).all()
    assert (low + np.array(shape) * cell > CUBE.bounds_mm[1]).all()
    # a little off the middle, and differently along each axis
    margins = CUBE.bounds_mm[0] - low
    assert margins == pytest.approx([1, 1, 1], abs=0.03)
    assert len(set(np.round(margins, 6))) == 3


def test_rays_that_meet_nothing_have_no_stretches() -> None:
    low, cell, shape = grid(CUBE, 10)
    beyond = columns(moved(CUBE, 500, 0, 0), axis=2, low_mm=low, cell_mm=cell, shape=shape)
    none = stretches(beyond)
    assert (len(none.ray), len(none.low_mm), len(none.high_mm), none.lost) == (0, 0, 0, 0)
    assert none.is_first.tolist() == none.is_last.tolist() == []
    assert beyond.balanced().all()


def cast(ray: list[int], height: list[float], step: list[int]) -> Columns:
    return Columns(
        axis=2,
        cell_mm=1.0,
        low_mm=np.zeros(3),
        shape=(2, 2, 10),
        ray=np.array(ray, dtype=np.int32),
        height_mm=np.array(height),
        step=np.array(step, dtype=np.int8),
    )


def test_crossings_become_stretches() -> None:
    # ray 0 passes two bodies that touch at 4, ray 1 one in another, ray 2 is never left, ray 3 two apart and a film
    crossed = cast(
        [0, 0, 0, 0, 1, 1, 1, 1, 2, 3, 3, 3, 3, 3, 3],
        [1, 4, 4, 6, 2, 3, 5, 7, 2, 1, 2, 5, 8, 9, 9],
        [1, -1, 1, -1, 1, 1, -1, -1, 1, 1, -1, 1, -1, 1, -1],
    )
    assert crossed.balanced().tolist() == [True, True, False, True]
    found = stretches(crossed)
    assert found.lost == 1
    assert found.ray.tolist() == [0, 1, 3, 3]
    assert found.low_mm.tolist() == [1, 2, 1, 5]
    assert found.high_mm.tolist() == [6, 7, 2, 8]
    assert found.is_first.tolist() == [True, True, True, False]
    assert found.is_last.tolist() == [True, True, False, True]
    kept = crossed.kept(crossed.balanced())
    assert kept.volume_mm3() == pytest.approx(5 + 5 + 1 + 3)
    assert kept.winding().tolist() == [1, 0, 1, 0, 1, 2, 1, 0, 1, 0, 1, 0, 1, 0]
    full = kept.filled()
    assert full.shape == (2, 2, 10)
    assert full[0, 0].nonzero()[0].tolist() == [1, 2, 3, 4, 5]
    assert full[0, 1].nonzero()[0].tolist() == [2, 3, 4, 5, 6]
    assert not full[1, 0].any()
    assert full[1, 1].nonzero()[0].tolist() == [1, 5, 6, 7]
    # counted by turns, what lies in another body is a hollow
    assert kept.filled(odd=True)[0, 1].nonzero()[0].tolist() == [2, 5, 6]


def test_rays_sideways_are_as_long_as_the_walls() -> None:
    made = cells_of_mesh(cup(60, 40, 50, 40), 60)
    across, along = made.sideways
    for found in (across, along):
        high = found.high_mm - found.low_mm
        # through the middle of the wall's ring, a ray passes a wall of 10 mm twice; above the hollow, 60 mm of solid
        assert high.max() == pytest.approx(60, rel=0.01)
        assert high.min() > 9.9
        assert found.lost == 0
    assert (made.upright.high_mm - made.upright.low_mm).max() == pytest.approx(50)
    assert (made.upright.high_mm - made.upright.low_mm).min() == pytest.approx(10)
    # cells of the hollow are empty, those of the walls and the floor above it are not
    for point, is_solid in (((0, 0, 20), False), ((25, 0, 20), True), ((0, 25, 20), True), ((0, 0, 45), True)):
        z, x, y = made.index_of(np.array(point, dtype=float))
        assert made.solid[z, x, y] == is_solid


def test_rays_along_both_sides_of_a_brick() -> None:
    across, along = cells_of_mesh(CUBE, 30).sideways
    assert (across.high_mm - across.low_mm).tolist() == pytest.approx([30.0] * (20 * 10))
    assert (along.high_mm - along.low_mm).tolist() == pytest.approx([20.0] * (30 * 10))


@pytest.mark.parametrize("axis", [0, 1, 2])
def test_sheets_thinner_than_a_cell_have_no_gap(axis: int) -> None:
    size, apart = [60.0, 60.0, 60.0], [0.0, 0.0, 0.0]
    size[axis], apart[axis] = 0.6, 31.0  # cells of 2 mm: one of the sheets misses the middles
    made = cells_of_mesh(joined([block(*size), moved(block(*size), *apart)]), 30)
    assert made.thin_mm == pytest.approx(0.6)
    # both are one cell thick, wherever one looks through them
    through = made.solid.sum(axis=(1, 2, 0)[axis])
    assert set(through.ravel().tolist()) == {0, 2}
    assert (through == 2).sum() == pytest.approx(30 * 30, rel=0.08)


def test_a_tiny_film_is_no_thin_wall() -> None:
    # a hair of 0.2 mm on a brick of 60 mm: too few rays meet it for a wall
    hair = moved(block(0.2, 0.2, 10), 0, 0, 20)
    assert cells_of_mesh(joined([block(60, 40, 20), hair]), 60).thin_mm is None


def test_cells_vote_on_what_is_inside() -> None:
    filled = fill_mesh(CUBE, 60, odd=True)
    assert filled.volume_mm3 == pytest.approx(6000, rel=0.02)
    assert filled.cell_mm == 0.5
    coarser = fill_mesh(CUBE, 45, odd=True)
    assert filled.plus_minus_mm3 == pytest.approx(
        abs(coarser.volume_mm3 - filled.volume_mm3) + 0.005 * filled.volume_mm3
    )
    # a body in a body is a hollow by turns and none by winding
    nested = joined([CUBE, moved(block(10, 8, 4), 0, 0, 3)])
    assert fill_mesh(nested, 60, odd=True).volume_mm3 == pytest.approx(6000 - 320, rel=0.02)
    assert fill_mesh(nested, 60, odd=False).volume_mm3 == pytest.approx(6000, rel=0.02)


# --- sections


def test_a_section_keeps_its_hole_and_its_islands() -> None:
    pot = cup(40, 30, 40, 36, sides=96)
    low, high = section(pot, 10), section(pot, 38)
    assert len(low.geoms[0].interiors) == 1
    assert len(high.geoms[0].interiors) == 0
    assert low.area == pytest.approx(high.area * (1 - (30 / 40) ** 2))
    island = joined([pot, moved(block(4, 4, 20), 0, 0, 0)])
    apart = section(island, 10)
    assert len(apart.geoms) == 2
    assert apart.area == pytest.approx(low.area + 16)


def test_reach_keeps_the_furthest_of_each_height() -> None:
    heights, radii = reach(joined([block(20, 20, 10), block(6, 6, 10)]), (0, 0))
    assert set(radii) == {hypot(10, 10)}
    assert set(heights) == {0, 10}
    # on a tall one each step of 1 mm has its own furthest corner, and a nearer one in the same step is left out
    tall = reach(
        joined([block(20, 20, 400), moved(block(6, 6, 0.5), 0, 0, 100), moved(block(8, 8, 0.4), 0, 0, 100)]), (0, 0)
    )
    assert sorted(set(tall[0])) == [0, 100, 100.4, 400]
    assert min(tall[1]) == pytest.approx(hypot(4, 4))
    flat = reach(moved(block(10, 10, 5), 3, 4, 0), (3, 4))[1]
    assert flat.max() == pytest.approx(5 * sqrt(2))


@pytest.mark.parametrize(
    ("height", "says"), [(-1, "0.0 length\\] and \\[10.0 length"), (0, "At"), (10, "At"), (11, "At \\[11.0")]
)
def test_a_plane_that_misses_the_solid(height: float, says: str) -> None:
    with pytest.raises(Refused, match=says) as refused:
        cut_level(CUBE, height)
    assert refused.value.field == "cut_mm"


def test_both_parts_of_a_cut() -> None:
    below, above = cut_level(CUBE, 4)
    assert below.volume_mm3 == pytest.approx(30 * 20 * 4)
    assert above.volume_mm3 == pytest.approx(30 * 20 * 6)
    assert below.bounds_mm[1, 2] == above.bounds_mm[0, 2] == 4
    with pytest.raises(Refused, match="surface is not that of one solid"):
        cut_level(without(CUBE, 0), 4)


# --- files


def test_the_format_is_known_from_the_content_before_the_name() -> None:
    plain = write_stl(CUBE)
    assert kind_of(plain, "x.obj") == "stl"
    assert kind_of(write_3mf(CUBE), "x.stl") == "3mf"
    assert kind_of(b"  ply\nformat ascii 1.0\n", "x.stl") == "ply"
    assert [kind_of(head + b"\n3 1 0\n") for head in (b"OFF", b"STOFF", b"COFF", b"NOFF", b"STCNOFF")] == ["off"] * 5
    assert kind_of(b"solid brick\n facet normal 0 0 1\n", "x.txt") == "stl"
    assert kind_of(b"# corners\nv -1.5 0 0\n") == "obj"
    assert kind_of(b"# corners come later\n", "X.OBJ") == "obj"
    for name in ("", "x.dxf"):
        with pytest.raises(Refused, match="none of the mesh files"):
            kind_of(b"OFFER of the week\n", name)


def test_a_binary_file_of_triangles_has_its_head_and_fifty_bytes_for_each() -> None:
    data = write_stl(CUBE)
    assert len(data) == 80 + 4 + 50 * 12
    assert int.from_bytes(data[80:84], "little") == 12
    got = read(data + b"more behind it", "x.stl")
    assert (got.triangles, got.says_unit, len(got.mesh.vertices_mm)) == (12, "", 8)
    assert got.mesh.bounds_mm.tolist() == CUBE.bounds_mm.tolist()
    assert read(write_3mf(CUBE)).says_unit == "mm"
    with pytest.raises(Refused, match="says it has 12 triangles and there is room for 11"):
        read(data[:-1], "x.stl")
    with pytest.raises(Refused, match="ends before its first triangle"):
        read(data[:83], "x.stl")


def test_corners_that_count_back_and_name_their_textures() -> None:
    plain = b"v 0 0 0\nv 9 0 0\nv 0 9 0\nv 0 0 9\nvt 0 0\nvn 0 0 1\n"
    faces = b"f 1/1/1 3/1/1 2/1/1\nf -4/-1/-1 -3/-1/-1 -1/-1/-1\nf -4//-1 -1//-1 -2//-1\nf 2 3 -1\n"
    got = read(plain + faces, "x.obj")
    assert got.triangles == 4
    assert got.mesh.volume_mm3 == pytest.approx(9**3 / 6)


def test_a_mesh_of_the_largest_and_smallest_size() -> None:
    for longest, unit in ((10_000.0, "mm"), (10.0, "m"), (0.01, "mm")):
        sized = in_mm(block(longest, longest / 2, longest / 4), unit)
        assert sized.extents_mm.max() == pytest.approx(longest * UNITS_MM[unit])
    with pytest.raises(Refused, match="In cm it would be over 10 m long"):
        in_mm(block(1000.1, 1, 1), "cm")
    with pytest.raises(Refused, match="In mm it would be a hundredth of a millimetre long"):
        in_mm(block(0.0099, 0.001, 0.001), "mm")


def test_faces_of_very_many_corners_are_refused() -> None:
    def polygon(corners: int) -> bytes:
        turns = np.linspace(0, 2 * np.pi, corners, endpoint=False)
        rows = b"".join(b"v %.6f %.6f 0\n" % (9 * np.cos(turn), 9 * np.sin(turn)) for turn in turns)
        return rows + b"f " + b" ".join(b"%d" % (i + 1) for i in range(corners)) + b"\n"

    assert read(polygon(1000), "x.obj").triangles == 998
    with pytest.raises(Refused, match="more than 1000 corners"):
        read(polygon(1001), "x.obj")


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"OFF\n9000 1 0\n0 0 0\n", "more corners or faces than there is room for"),
        (b"OFF\n3 9000 0\n0 0 0\n", "more corners or faces than there is room for"),
        (b"ply\nformat ascii 1.0\nelement vertex 3\nelement face 90000\nend_header\n", "more corners or faces"),
        (b"ply\nformat ascii 1.0\nelement vertex 90000\nelement face 3\nend_header\n", "more corners or faces"),
        (b"v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2\n", "no triangles in it|damaged"),
    ],
)
def test_counts_that_do_not_fit_the_file(data: bytes, says: str) -> None:
    with pytest.raises(Refused, match=says):
        read(data)
