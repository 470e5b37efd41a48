"""Meshes by hand: areas, sections, rays and cells of shapes whose figures anyone can work out."""

from dataclasses import replace
from math import pi

import numpy as np
import pytest
import shapely
from shapes import CUBE, ball, cup, inside_out, moved, torus

from ufrin.core.master.stand_ins import block, cone, turned
from ufrin.core.mesh.cell_rings import polygon_rings, rings_of
from ufrin.core.mesh.cells import cell_numbers, cells_of, cells_of_mesh, refined_cells
from ufrin.core.mesh.line_work import contours, outline, reduced, shadow
from ufrin.core.mesh.measured_record import MeshFigures, size_in_words
from ufrin.core.mesh.mesh_bodies import (
    cavities,
    homes_of,
    meet,
    near_another,
    overlaps,
    winding_number,
    without_walls_inside,
)
from ufrin.core.mesh.mesh_filling import blocks, fill_mesh
from ufrin.core.mesh.mesh_volume import measure
from ufrin.core.mesh.rays import Stretches, columns, grid, stretches
from ufrin.core.mesh.sections import as_multi, reach, section, volume_below_ml
from ufrin.core.mesh.triangles import Mesh, edges, face_sums, joined, merged, normals, snapped, wound_one_way
from ufrin.errors import Refused

BRICK = block(60, 40, 20)  # its middle over the origin, its foot at 0


# --- triangles


def test_a_brick_by_its_faces() -> None:
    assert BRICK.area_mm2 == pytest.approx(2 * (60 * 40 + 60 * 20 + 40 * 20))
    assert BRICK.volume_mm3 == pytest.approx(48_000)
    assert list(BRICK.extents_mm) == [60, 40, 20]
    assert BRICK.bounds_mm.tolist() == [[-30, -20, 0], [30, 20, 20]]
    volumes, areas = face_sums(BRICK)
    assert len(volumes) == len(areas) == len(BRICK.faces)
    assert areas.sum() == pytest.approx(BRICK.area_mm2)
    # every normal looks away from the middle, and is as long as its triangle is twice large
    outward = BRICK.vertices_mm[BRICK.faces].mean(axis=1) - np.array([0, 0, 10])
    assert (np.einsum("ij,ij->i", normals(BRICK), outward) > 0).all()
    assert np.allclose(np.linalg.norm(normals(BRICK), axis=1), 2 * areas)


def test_turning_and_mirroring_keep_the_outside_out() -> None:
    turn = np.array([[0.0, -1, 0], [1, 0, 0], [0, 0, 1]])
    turned_brick = BRICK.moved(turn, np.array([5.0, 0, 0]))
    assert turned_brick.bounds_mm.tolist() == [[-15, -30, 0], [25, 30, 20]]
    mirrored = BRICK.moved(np.diag([-1.0, 1, 1]))
    assert mirrored.volume_mm3 == pytest.approx(48_000)
    assert BRICK.moved(2 * np.eye(3)).volume_mm3 == pytest.approx(8 * 48_000)


def test_a_part_has_only_the_corners_that_it_needs() -> None:
    both = joined([BRICK, moved(BRICK, 100, 0, 0)])
    assert (len(both.vertices_mm), len(both.faces)) == (2 * len(BRICK.vertices_mm), 2 * len(BRICK.faces))
    one = both.part(np.arange(len(both.faces)) >= len(BRICK.faces))
    assert len(one.vertices_mm) == len(BRICK.vertices_mm)
    assert one.bounds_mm.tolist() == [[70, -20, 0], [130, 20, 20]]
    with pytest.raises(Refused, match="no triangles in it"):
        both.part(np.zeros(len(both.faces), dtype=bool))


def test_corners_that_are_given_twice_are_one() -> None:
    loose = Mesh(
        vertices_mm=BRICK.vertices_mm[BRICK.faces].reshape(-1, 3),
        faces=np.arange(3 * len(BRICK.faces), dtype=np.int32).reshape(-1, 3),
    )
    assert not edges(loose).is_closed
    tied = merged(loose)
    assert len(tied.vertices_mm) == 8
    assert edges(tied).is_closed
    assert tied.volume_mm3 == pytest.approx(48_000)
    apart = Mesh(
        vertices_mm=loose.vertices_mm + np.random.default_rng(1).uniform(-1e-4, 1e-4, loose.vertices_mm.shape),
        faces=loose.faces,
    )
    assert not edges(merged(apart)).is_closed
    assert edges(snapped(apart, 0.01)).is_closed
    assert snapped(apart, 0.01).volume_mm3 == pytest.approx(48_000, rel=1e-3)


def test_winding_is_made_one_way_or_given_up() -> None:
    faces = BRICK.faces.copy()
    faces[::2] = faces[::2, ::-1]
    mended = wound_one_way(Mesh(vertices_mm=BRICK.vertices_mm, faces=faces))
    assert mended is not None
    assert abs(mended.volume_mm3) == pytest.approx(48_000)


# --- sections


@pytest.mark.parametrize("height", [0.001, 5.0, 10.0, 19.999])
def test_a_brick_is_cut_level(height: float) -> None:
    assert section(BRICK, height).area == pytest.approx(2400)
    assert volume_below_ml(BRICK, height) == pytest.approx(2.4 * height)


def test_above_and_below_there_is_nothing_to_cut() -> None:
    assert section(BRICK, -1).is_empty
    assert section(BRICK, 21).is_empty
    assert volume_below_ml(BRICK, -1) == 0
    assert volume_below_ml(BRICK, 0) == 0
    assert volume_below_ml(BRICK, 99) == volume_below_ml(BRICK, 20) == pytest.approx(48)


def test_a_cone_and_a_ring_are_cut_as_geometry_says() -> None:
    bell = cone(60, 20, 40)
    for height in (10.0, 25.0):
        across = 60 - height
        assert section(bell, height).area == pytest.approx(pi * across**2 / 4, rel=2e-3)
        whole = pi * height / 12 * (60**2 + 60 * across + across**2)
        assert volume_below_ml(bell, height) == pytest.approx(whole / 1000, rel=2e-3)
    ring = moved(torus(30, 10), 0, 0, 10)
    cut = section(ring, 10)
    assert len(cut.geoms[0].interiors) == 1
    assert cut.area == pytest.approx(pi * (40**2 - 20**2), rel=5e-3)
    assert volume_below_ml(ring, 10) == pytest.approx(ring.volume_mm3 / 2000, rel=1e-6)


def test_only_areas_are_kept() -> None:
    mixed = shapely.GeometryCollection(
        [shapely.box(0, 0, 1, 1), shapely.LineString([(0, 0), (9, 9)]), shapely.Point(3, 3)]
    )
    assert as_multi(mixed).area == 1
    assert as_multi(shapely.Point(0, 0)).is_empty


def test_how_far_a_shape_reaches_at_each_height() -> None:
    heights, radii = reach(cone(60, 20, 40), (0.0, 0.0))
    assert radii[heights < 1].max() == pytest.approx(30, abs=0.05)
    assert radii[heights > 39].max() == pytest.approx(10, abs=0.05)
    shifted = reach(BRICK, (30.0, 0.0))[1]
    assert shifted.max() == pytest.approx(np.hypot(60, 20))


# --- rays and cells


@pytest.mark.parametrize("axis", [0, 1, 2])
def test_rays_through_a_brick_are_as_long_as_it_is(axis: int) -> None:
    low, cell, shape = grid(BRICK, 30)
    assert cell == pytest.approx(60 / 30, rel=0.1)
    cast = columns(BRICK, axis=axis, low_mm=low, cell_mm=cell, shape=shape)
    assert cast.balanced().all()
    assert set(cast.winding()) == {0, 1}
    along = stretches(cast)
    assert along.lost == 0
    assert np.allclose(along.high_mm - along.low_mm, BRICK.extents_mm[axis])
    # as many rays as there are cells across it
    across = np.delete(BRICK.extents_mm, axis) / cell
    assert len(along.ray) == pytest.approx(across[0] * across[1], rel=0.12)


def test_a_body_inside_a_body_turned_over_is_a_hollow_for_rays() -> None:
    hollow = joined([BRICK, inside_out(moved(block(20, 20, 10), 0, 0, 5))])
    low, cell, shape = grid(hollow, 40)
    along = stretches(columns(hollow, axis=2, low_mm=low, cell_mm=cell, shape=shape))
    lengths = np.round(along.high_mm - along.low_mm, 6)
    assert set(lengths) == {20.0, 5.0}
    assert (~along.is_first).sum() == (lengths == 5).sum() / 2


def test_cells_of_a_brick() -> None:
    made = cells_of_mesh(BRICK, 30)
    assert made.thin_mm is None
    assert made.solid.sum() * made.cell_mm**3 == pytest.approx(48_000, rel=0.1)
    index = np.argwhere(made.solid)
    middles = made.middle_mm(index)
    low, high = BRICK.bounds_mm
    assert (middles > low).all()
    assert (middles < high).all()
    assert (made.index_of(middles) == index).all()
    # a cell of room on every side
    for axis in range(3):
        assert not made.solid.take([0, -1], axis=axis).any()
    assert made.plan == made.solid.shape[1:]


def test_stretches_become_cells() -> None:
    found = Stretches(
        ray=np.array([0, 0, 1]), low_mm=np.array([0.0, 10.2, 3.0]), high_mm=np.array([4.0, 10.6, 9.0]), lost=0
    )
    begin, end, missed = cells_of(found, 0.0, 2.0)
    # middles lie at 1, 3, 5 ...: 0 to 4 has two, 3 to 9 has three; 10.2 to 10.6 has none and takes its own cell
    assert begin.tolist() == [0, 5, 1]
    assert end.tolist() == [2, 6, 4]
    assert missed.tolist() == [False, True, False]
    shape = (3, 4, 5)
    for axis, ray, along, place in ((2, 7, 2, (2, 1, 2)), (0, 7, 3, (1, 3, 2)), (1, 7, 4, (1, 2, 4))):
        # rays run over the two other axes, the later one fastest
        one = Stretches(ray=np.array([ray]), low_mm=np.zeros(1), high_mm=np.ones(1), lost=0)
        number = cell_numbers(one, np.array([along]), axis, shape)
        assert tuple(int(part) for part in np.unravel_index(int(number[0]), shape)) == place


def test_walls_thinner_than_a_cell_are_closed_and_refined() -> None:
    dome = turned([(0, 60), (30, 60), (31, 60)])
    assert cells_of_mesh(dome, 40).thin_mm is None
    thin = cup(60, 58, 60, 59)  # walls of 1 mm
    coarse = cells_of_mesh(thin, 30)
    assert coarse.thin_mm == pytest.approx(1.0, rel=0.2)
    fine, used = refined_cells(thin, 30)
    assert used >= 70  # 60 mm in cells of about three quarters of the wall
    assert fine.cell_mm < 1
    assert fine.thin_mm is None
    same, cells = refined_cells(BRICK, 30)
    assert (cells, same.solid.shape) == (30, cells_of_mesh(BRICK, 30).solid.shape)
    still, most = refined_cells(thin, 30, most=40)
    assert most == 40
    assert still.thin_mm is not None


# --- bodies


def test_winding_numbers_and_bodies_in_bodies() -> None:
    assert winding_number(BRICK, np.array([0.0, 0, 10])) == pytest.approx(1)
    assert winding_number(BRICK, np.array([0.0, 0, 30])) == pytest.approx(0, abs=1e-9)
    assert winding_number(inside_out(BRICK), np.array([0.0, 0, 10])) == pytest.approx(-1)
    assert not overlaps(BRICK)
    assert not overlaps(joined([BRICK, moved(BRICK, 70, 0, 0)]))
    assert overlaps(joined([BRICK, moved(BRICK, 30, 0, 0)]))
    assert not overlaps(joined([BRICK, moved(BRICK, 60, 0, 0)]))  # they touch
    two = np.repeat([0, 1], len(BRICK.faces))
    for shift, touches in (((60, 0, 0), True), ((60.1, 0, 0), False), ((0, 0, 20), True), ((0, 0, 20.1), False)):
        pair = joined([BRICK, moved(BRICK, *shift)])
        assert near_another(pair, two, 2).tolist() == [touches, touches]
        assert meet(pair, two, 2) is touches
    # a ball in the corner of a box's box is near it and touches nothing
    near = joined([ball(10, 24), moved(ball(10, 24), 9.5, 9.5, 0)])
    of_two = np.repeat([0, 1], len(near.faces) // 2)
    assert near_another(near, of_two, 2).all()
    assert not meet(near, of_two, 2)
    inner = inside_out(moved(block(10, 10, 5), 0, 0, 5))
    both = joined([BRICK, inner, moved(BRICK, 100, 0, 0)])
    body = np.repeat([0, 1, 2], len(BRICK.faces))
    sizes = np.array([48_000.0, -500.0, 48_000.0])
    assert homes_of(both, body, sizes) == {1: 0}
    assert cavities(both, body, sizes).tolist() == [False, True, False]
    outside = joined([BRICK, moved(inner, 0, 0, 100)])
    assert homes_of(outside, np.repeat([0, 1], len(BRICK.faces)), np.array([48_000.0, -500.0])) == {}
    crowd = joined([BRICK] * 202)
    with pytest.raises(Refused, match="201 of its bodies are inside out"):
        homes_of(crowd, np.repeat(np.arange(202), len(BRICK.faces)), np.array([48_000.0, *[-1.0] * 201]))


@pytest.mark.parametrize("axis", range(3))
def test_what_bodies_share_is_no_surface(axis: int) -> None:
    # two bricks of 60 x 40 x 20 mm side by side, behind each other or on each other
    shift = [(60, 0, 0), (0, 40, 0), (0, 0, 20)][axis]
    shared_mm2 = [40 * 20, 60 * 20, 60 * 40][axis]
    two = joined([BRICK, moved(BRICK, *shift)])
    outside_mm2 = 2 * BRICK.area_mm2 - 2 * shared_mm2
    for mesh in (two, merged(two)):  # as two bodies, and as one whose corners are shared
        found = measure(mesh)
        assert found.volume_ml == pytest.approx(96)
        assert found.area_cm2 == pytest.approx(outside_mm2 / 100)
        assert found.solid.area_mm2 == pytest.approx(outside_mm2)
    # a smaller brick in the middle of a face shares no more than its own foot
    knob = joined([BRICK, moved(block(10, 10, 10), 0, 0, 20)])
    assert measure(knob).area_cm2 == pytest.approx((BRICK.area_mm2 + 4 * 10 * 10) / 100)
    assert without_walls_inside(BRICK) is BRICK


def test_a_hole_in_a_brick_is_filled_within_its_error() -> None:
    open_brick = BRICK.part(np.arange(len(BRICK.faces)) != 3)
    filled = fill_mesh(open_brick, 48, odd=True)
    assert filled.volume_mm3 == pytest.approx(48_000, abs=filled.plus_minus_mm3)
    assert filled.plus_minus_mm3 >= 0.005 * filled.volume_mm3
    made = blocks(filled.cells, filled.low_mm, filled.cell_mm)
    assert edges(made).is_closed
    assert made.volume_mm3 == pytest.approx(filled.volume_mm3)


def test_cells_as_blocks() -> None:
    cells = np.zeros((2, 3, 1), dtype=bool)
    cells[0, :, 0] = True
    cells[1, 0, 0] = True
    made = blocks(cells, np.array([10.0, 20, 30]), 2.0)
    assert made.volume_mm3 == pytest.approx(4 * 8)
    # an L of four: 10 sides round it and 4 faces above and below
    assert made.area_mm2 == pytest.approx((10 + 8) * 4)
    assert made.bounds_mm.tolist() == [[10, 20, 30], [14, 26, 32]]


# --- line work


@pytest.mark.parametrize(("view", "size"), [("plan", (60, 40)), ("front", (60, 20)), ("side", (40, 20))])
def test_the_shadow_of_a_brick_in_each_view(view: str, size: tuple[float, float]) -> None:
    seen = shadow(BRICK, view)
    left, low, right, high = seen.bounds
    assert (right - left, high - low) == (pytest.approx(size[0]), pytest.approx(size[1]))
    assert seen.area == pytest.approx(size[0] * size[1])
    drawn = outline(BRICK, view)
    assert drawn.rings


def test_the_shadow_of_a_ring_has_its_hole() -> None:
    seen = shadow(moved(torus(30, 10), 0, 0, 10))
    assert seen.area == pytest.approx(pi * (40**2 - 20**2), rel=5e-3)
    assert len(contours(BRICK).reshape(-1, 3)) >= 12
    fewer = reduced(ball(50, 96), 400)
    assert len(fewer.faces) <= 400
    assert fewer.volume_mm3 == pytest.approx(ball(50, 96).volume_mm3, rel=0.05)
    assert reduced(BRICK) is BRICK


def test_cells_and_polygons_are_outlined() -> None:
    framed = polygon_rings(shapely.box(0, 0, 3, 2).difference(shapely.box(1, 0.5, 2, 1.5)))
    assert sorted(shapely.Polygon(ring).area for ring in framed) == [1, 6]
    assert polygon_rings(shapely.LineString([(0, 0), (1, 1)])) == ()
    mask = np.zeros((5, 4), dtype=bool)
    mask[1:4, 1:3] = True
    (ring,) = rings_of(mask, np.array([100.0, 200.0]), 10.0)
    assert shapely.Polygon(ring).bounds == (110, 210, 140, 230)


# --- the record of a mesh


def test_figures_in_another_unit() -> None:
    plain = {
        "format": "stl",
        "triangles": 12,
        "bodies": 1,
        "watertight": True,
        "method": "exact",
        "volume_ml": 2.0,
        "plus_minus_ml": 0.1,
        "area_cm2": 3.0,
        "low_mm": [0.0, 0.0, 0.0],
        "high_mm": [1.0, 2.0, 3.0],
        "says_unit": "",
        "findings": [
            {"code": "mesh-capped", "facts": {"error": {"value": 0.5, "kind": "volume", "decimals": 1}, "holes": "2"}}
        ],
    }
    kept = MeshFigures.from_plain(plain)
    assert kept.size_mm == (1, 2, 3)
    inches = kept.in_unit("in")
    assert inches.volume_ml == pytest.approx(2 * 25.4**3)
    assert inches.plus_minus_ml == pytest.approx(0.1 * 25.4**3)
    assert inches.area_cm2 == pytest.approx(3 * 25.4**2)
    assert inches.size_mm == pytest.approx((25.4, 50.8, 76.2))
    (finding,) = inches.findings
    assert finding.facts["error"].value == pytest.approx(0.5 * 25.4**3)
    assert finding.facts["holes"] == "2"
    assert kept.to_plain() == {**plain, "low_mm": (0, 0, 0), "high_mm": (1, 2, 3)}


@pytest.mark.parametrize(
    ("longest", "unit"), [(8, "mm"), (7.9, "in"), (1500, "mm"), (1501, "mm"), (0.31, "m"), (0.32, "in"), (0.05, "m")]
)
def test_the_unit_is_guessed_from_the_size(longest: float, unit: str) -> None:
    kept = MeshFigures(
        format="stl",
        triangles=1,
        bodies=1,
        watertight=True,
        method="exact",
        volume_ml=1,
        plus_minus_ml=0,
        area_cm2=1,
        low_mm=(0, 0, 0),
        high_mm=(longest, 0.01, 0.01),
        says_unit="",
        findings=(),
    )
    assert kept.unit == unit
    assert replace(kept, says_unit="cm").unit == "cm"


def test_sizes_in_words_at_their_limits() -> None:
    assert [size_in_words(mm) for mm in (8, 8.1, 65, 65.1, 10_000, 10_001)] == [
        "a pea",
        "a hazelnut",
        "an egg",
        "a fist",
        "a boat",
        "a house",
    ]


def test_a_cube_measured() -> None:
    found = measure(CUBE)
    assert (found.volume_ml, found.area_cm2) == (pytest.approx(6), pytest.approx(22))
    assert found.plus_minus_ml == pytest.approx(0, abs=1e-6)
