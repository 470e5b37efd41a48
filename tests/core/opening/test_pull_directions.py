"""Directions: locked rubber against rays cast by another library, rankings against shapes whose best pull is known.

The adviser is held against what a practised hand would do.
"""

from dataclasses import replace

import numpy as np
import pytest
import trimesh
from hypothesis import given
from hypothesis import strategies as st
from manifold3d import Manifold
from shapes import ball, cup, dumbbell, egg, mushroom, torus
from thoroughness import examples
from trimesh.ray.ray_pyembree import RayMeshIntersector

from ufrin.core.master.attitudes import turn_up
from ufrin.core.master.stand_ins import block, turned
from ufrin.core.mesh.cells import cells_of_mesh
from ufrin.core.mesh.manifolds import from_manifold
from ufrin.core.mesh.rays import columns, grid, stretches
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.opening.feature_checklist import FeatureChecklist, places_of_air
from ufrin.core.opening.mould_features import MasterFeatures
from ufrin.core.opening.mould_styles import STYLES, advise
from ufrin.core.opening.pull_directions import both_ways, coarse, different, ranked, refined, scored, sphere
from ufrin.core.opening.pull_ranking import Ranking, direction_words, rankings
from ufrin.core.opening.undercuts import locked_cells, locked_ml


def locked_by_rays(mesh: Mesh, cells: int) -> float:
    """Embree's rays from the middle of every cell outside, both ways along the upright."""
    made = trimesh.Trimesh(mesh.vertices_mm, mesh.faces, process=False)
    rays = RayMeshIntersector(made, scale_to_box=False)
    low, high = mesh.bounds_mm
    cell = float((high - low).max()) / cells
    axes = [np.arange(a + cell * 0.4871, b, cell) for a, b in zip(low, high, strict=True)]
    points = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 3)
    outside = ~rays.contains_points(points)
    points = points[outside]
    up = rays.intersects_any(points, np.tile([0.0, 0.0, 1.0], (len(points), 1)))
    down = rays.intersects_any(points, np.tile([0.0, 0.0, -1.0], (len(points), 1)))
    return float((up & down).sum()) * cell**3 / 1000


@pytest.mark.parametrize(
    "mesh",
    [torus().moved(turn_up((1, 0.2, 0.1))), cup().moved(turn_up((1, 0, 0.3))), dumbbell().moved(turn_up((1, 0.1, 0)))],
)
def test_locked_rubber_is_what_rays_from_every_cell_find(mesh: Mesh) -> None:
    low, cell, shape = grid(mesh, 96)
    got = locked_ml(stretches(columns(mesh, axis=2, low_mm=low, cell_mm=cell, shape=shape)), cell)
    assert got == pytest.approx(locked_by_rays(mesh, 80), rel=0.02)
    solid = cells_of_mesh(mesh, 96)
    assert float(locked_cells(solid).sum()) * solid.cell_mm**3 / 1000 == pytest.approx(got, rel=0.03, abs=0.05)


@pytest.mark.parametrize("mesh", [ball(), egg(), block(40, 30, 20), torus(), mushroom()])
def test_it_is_exactly_nothing_where_nothing_is_locked(mesh: Mesh) -> None:
    assert scored(mesh, np.array([0.0, 0.0, 1.0])).locked_ml == 0
    along, against = both_ways(mesh, np.array([0.0, 0.0, 1.0]), 64)
    assert along.locked_ml == against.locked_ml == 0


def test_the_sphere_is_covered_evenly() -> None:
    ways = sphere(200)
    assert ways.shape == (200, 3)
    assert np.linalg.norm(ways, axis=1) == pytest.approx(np.ones(200))
    assert ways[:100] == pytest.approx(-ways[100:])
    probes = np.random.default_rng(2).normal(size=(2000, 3))
    probes /= np.linalg.norm(probes, axis=1)[:, None]
    assert np.degrees(np.arccos((probes @ ways.T).max(axis=1))).max() < 15
    assert {tuple(way) for way in np.eye(3)} <= {tuple(way) for way in ways.round(9)}


def test_a_cup_is_best_pulled_with_its_mouth_up() -> None:
    found = ranked(cup(), 80, 48)
    assert found[0].pull == pytest.approx((0, 0, -1))
    assert found[0].rank == pytest.approx((0, 0, 0), abs=1e-9)
    assert [one.rank for one in found] == sorted(one.rank for one in found)
    assert all(one.cells >= 256 for one in found[:4])


@examples(6)
@given(st.tuples(st.floats(-1, 1), st.floats(-1, 1), st.floats(0.2, 1)))
def test_a_turned_ring_is_pulled_along_its_turned_axis(up: tuple[float, float, float]) -> None:
    turn = turn_up(up)
    found = refined(torus().moved(turn), coarse(torus().moved(turn), 120, 40), 128)
    # rays tilted by less than asin(10 / 30) = 19 degrees pass through the hole or meet the ring once
    assert abs(float(np.dot(found[0].pull, turn @ np.array([0.0, 0.0, 1.0])))) > np.cos(np.radians(20))
    assert found[0].locked_ml < 0.01


def test_a_search_wanders_to_a_better_direction_beside_the_ones_it_tried() -> None:
    # a slot that opens along a slanted line only: between the directions of a coarse search
    slanted = from_manifold(Manifold.cube((40, 40, 20), True) - Manifold.cube((3, 60, 30), True)).moved(
        turn_up((0.31, 0.17, 0.9))
    )
    rough = coarse(slanted, 60, 40)
    found = refined(slanted, rough, 128)
    plain = refined(slanted, rough, 128, wander=False)
    assert found[0].locked_ml <= plain[0].locked_ml
    assert found[0].locked_ml < 0.5 * plain[0].locked_ml or plain[0].locked_ml < 0.02


def test_rankings_come_coarse_first_and_survive_being_kept() -> None:
    vase = turned([(0, 30), (10, 44), (30, 20), (50, 34)])
    stages = list(rankings(vase))
    assert [stage.is_whole for stage in stages] == [False, False, True]
    assert [len(stage.scored) for stage in stages][:2] == [72, 200]
    best = stages[-1].ranked(None)[0]
    assert best.scored.locked_ml == 0
    assert abs(best.scored.pull[2]) < 0.05
    assert best.balance == pytest.approx(0.5, abs=0.02)
    known = Ranking.from_plain(stages[-1].to_plain(), 2.0)
    assert known.is_whole
    assert len(known.scored) == len(stages[-1].scored)
    assert known.ranked(None)[0].seam_mm == pytest.approx(2 * best.seam_mm)
    assert known.scored[-1].locked_ml == pytest.approx(8 * stages[-1].scored[-1].locked_ml)
    # with the front on show, it is not parted along the sides, which would cross it
    shown = np.array([0.0, -1.0, 0.0])
    chosen = stages[-1].ranked(shown)[0]
    assert abs(chosen.scored.pull[1]) > 0.8
    assert chosen.shown_mm(shown) < 0.35 * chosen.seam_mm


def test_directions_that_differ_and_words_for_them() -> None:
    kept = different(coarse(egg(), 60, 32), 5)
    assert all(np.dot(a.pull, b.pull) < np.cos(np.radians(12)) for i, a in enumerate(kept) for b in kept[:i])
    assert direction_words((0.0, 0.0, 1.0)) == "its z upwards"
    assert direction_words((0.6, -0.8, 0.0)) == "37° off its y downwards, towards its x"


# the adviser: common practice, without a source


TILE = MasterFeatures(
    flat_back=True,
    stretch=0.0,
    allowed=1.0,
    locked_share=0.0,
    best_locked_share=0.0,
    hole_through=False,
    thin_part=False,
    height_to_width=0.15,
    size_mm=(120, 120, 16),
    volume_ml=130,
    coated_cm2=370,
    skin_mm=5.0,
)


@pytest.mark.parametrize(
    ("features", "style"),
    [
        (TILE, "open"),
        (replace(TILE, count=6, shots=40), "tray"),
        (replace(TILE, size_mm=(40, 40, 120), height_to_width=3, stretch=1.5, volume_ml=100, coated_cm2=150), "slit"),
        (
            replace(
                TILE, flat_back=False, size_mm=(60, 60, 60), height_to_width=1, stretch=6, volume_ml=110, coated_cm2=113
            ),
            "two-part",
        ),
        (
            replace(
                TILE,
                flat_back=False,
                size_mm=(400, 300, 500),
                height_to_width=1.6,
                stretch=1.2,
                volume_ml=20000,
                coated_cm2=6000,
            ),
            "skin",
        ),
    ],
)
def test_the_adviser_says_what_a_practised_hand_would(features: MasterFeatures, style: str) -> None:
    advice = advise(features)
    assert advice[0].style == style
    assert {one.style for one in advice} == set(STYLES)
    assert [one.score for one in advice] == sorted((one.score for one in advice), reverse=True)
    assert all(one.reasons or one.against for one in advice)
    assert all(one.rubber_ml > 0 for one in advice)


def test_a_checklist_tells_where_air_will_stay() -> None:
    assert (
        places_of_air(
            FeatureChecklist(
                flat_back=True, chin=False, hook=False, hole_through=False, thin_part=False, tall_part=False
            )
        )
        == ()
    )
    all_of_it = FeatureChecklist(
        flat_back=False, chin=True, hook=True, hole_through=True, thin_part=True, tall_part=True
    )
    assert len(places_of_air(all_of_it)) == 5
    assert all_of_it.stretch > 1
    assert all_of_it.locked_share > 0
