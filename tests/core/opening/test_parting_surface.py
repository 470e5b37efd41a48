"""Parting surfaces against shapes whose seam is known; keys, halves as solids, and stretch."""

from dataclasses import replace
from math import pi

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from manifold3d import Manifold
from shapely import affinity
from shapely.geometry import Point, Polygon
from shapes import ball, cup, drum_share, egg, mushroom, torus, turned_about
from thoroughness import examples

from ufrin.core.master.attitudes import turn_up
from ufrin.core.master.stand_ins import block, turned
from ufrin.core.mesh.cell_rings import rings_of
from ufrin.core.mesh.line_work import shadow
from ufrin.core.mesh.manifolds import manifold
from ufrin.core.mesh.triangles import Mesh, edges
from ufrin.core.opening.half_solids import GATE_MM, bore_through, both_halves, parting_plate
from ufrin.core.opening.keys import ALIKE_MM, Key, check_keys, flange, key_size_mm, other_ways, place_keys
from ufrin.core.opening.parting_surface import PartingSurface, box_round, parting_surface
from ufrin.core.opening.slit import Slit, slit_side
from ufrin.core.opening.split_line import seam_mm
from ufrin.core.opening.stretch import allowed_stretch, stretch
from ufrin.errors import Refused


def parted(mesh: Mesh, **given_: float) -> PartingSurface:
    said = {"side_mm": 10.0, "under_mm": 10.0, "over_mm": 10.0, "slack_mm": 0.0, "cells": 96, **given_}
    return parting_surface(mesh, box_round(mesh, said.pop("side_mm")), **said)


def test_a_ball_parts_level_at_its_equator() -> None:
    made = parted(ball(50))
    assert made.flatness_mm < 0.3
    assert made.locked_ml == 0
    assert len(made.seams) == 1
    assert np.abs(made.seams[0].points_mm[:, 2]).max() < 0.3
    assert seam_mm(made.seams) == pytest.approx(50 * pi, rel=0.005)
    assert made.upper_ml == pytest.approx(made.lower_ml, rel=0.005)
    assert made.overhang_ml == pytest.approx((pi * 25**2 * 25 - 2 / 3 * pi * 25**3) / 1000, rel=0.01)


def test_a_ring_lying_flat_has_two_seams_and_nothing_locked() -> None:
    made = parted(torus(30, 10))
    assert made.locked_ml == 0
    assert made.flatness_mm < 0.3
    assert sorted(seam_mm((seam,)) for seam in made.seams) == pytest.approx([40 * pi, 80 * pi], rel=0.01)


def test_a_ring_pulled_across_its_axis_locks_its_hole() -> None:
    made = parted(torus(30, 10).moved(turn_up((1, 0, 0))), cells=160)
    # within each plane across the axis the hole is the gap between two chords
    x = np.linspace(-40, 40, 4001)
    depth = np.linspace(-10, 10, 801)[:, None]
    outer, inner = 30 + np.sqrt(100 - depth**2), 30 - np.sqrt(100 - depth**2)
    gap = np.where(np.abs(x) < inner, 2 * np.sqrt(np.maximum(inner**2 - x**2, 0)), 0)
    assert np.all(outer >= inner)
    assert made.locked_ml == pytest.approx(
        float(np.trapezoid(np.trapezoid(gap, x, axis=1), depth[:, 0])) / 1000, rel=0.02
    )


def test_a_mushroom_overhangs_by_its_brim() -> None:
    made = parted(mushroom(8, 20, 20, 10))
    assert made.locked_ml == 0
    assert made.overhang_ml == pytest.approx(pi * (20**2 - 8**2) * 20 * drum_share() / 1000, rel=0.01)


def test_an_upright_wall_may_part_at_any_height_and_does_so_level() -> None:
    made = parted(block(40, 30, 20))
    assert made.flatness_mm < 1e-6
    height = float(made.height_mm[made.inside][0])
    assert 0 <= height <= 20
    assert made.box_ml == pytest.approx(60 * 50 * 40 / 1000)
    assert made.lower_ml == pytest.approx((60 * 50 * (height + 10) - 40 * 30 * height) / 1000, rel=1e-3)


def test_a_cup_upside_down_parts_at_its_ceiling() -> None:
    # anywhere lower the surface would run through the master's bottom
    made = parted(cup(), cells=128)
    assert made.height_mm[made.inside].min() == pytest.approx(36, abs=0.01)
    assert made.upper_ml == pytest.approx((60 * 60 * 14 - pi * 20**2 * 4 * drum_share()) / 1000, rel=0.01)


@examples(15)
@given(
    st.tuples(st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1)),
    st.sampled_from([egg(), cup(), torus(), mushroom()]),
    st.floats(0, 1),
)
def test_both_halves_and_the_master_make_the_box(up: tuple[float, float, float], mesh: Mesh, slack: float) -> None:
    assume(sum(x**2 for x in up) > 0.01)
    made = parted(mesh.moved(turn_up(up)), cells=48, slack_mm=slack)
    assert made.upper_ml + made.lower_ml + made.master_ml == pytest.approx(made.box_ml, rel=1e-9)
    assert made.master_ml == pytest.approx(mesh.volume_mm3 / 1000)
    # by cells alone, without the exact volume, the sum comes within a twentieth of a percent of the box
    by_cells = float((made.area_mm2 * (made.top_mm - made.floor_mm)).sum()) / 1000
    assert by_cells == pytest.approx(made.box_ml, rel=5e-4)
    # between the envelopes wherever there is master, as far as the slack lets it
    has = ~np.isnan(made.lower_mm)
    assert (made.height_mm[has] >= made.lower_mm[has] - slack - 1e-6).all()
    assert (made.height_mm[has] <= made.upper_mm[has] + slack + 1e-6).all()
    assert made.film_ml <= slack * made.area_mm2.sum() / 1000 + 1e-9


@given(st.integers(0, 3), st.booleans())
def test_turned_and_mirrored_masters_part_alike(quarters: int, mirrored: bool) -> None:
    mesh = egg().moved(turn_up((0.3, 0.5, 1)))
    plain, other = parted(mesh, cells=64), parted(turned_about(mesh, quarters=quarters, mirrored=mirrored), cells=64)
    assert other.upper_ml == pytest.approx(plain.upper_ml, rel=0.01)
    assert seam_mm(other.seams) == pytest.approx(seam_mm(plain.seams), rel=0.01)
    assert other.flatness_mm == pytest.approx(plain.flatness_mm, abs=1.5)


def test_the_seam_lies_on_the_master() -> None:
    mesh = egg().moved(turn_up((0.2, 0.4, 1)))
    made = parted(mesh, cells=96)
    outline = shadow(mesh)
    for x, y, z in made.seams[0].points_mm[::25]:
        assert (
            outline.exterior.distance(Point(x, y)) < 1e-3
            if outline.geom_type == "Polygon"
            else outline.boundary.distance(Point(x, y)) < 1e-3
        )
        inward = np.array([x, y]) + (np.array(outline.centroid.coords[0]) - [x, y]) * 1e-3
        probe = manifold(mesh) ^ Manifold.cube((0.2, 0.2, 400), True).translate((float(inward[0]), float(inward[1]), 0))
        low, high = probe.bounding_box()[2], probe.bounding_box()[5]
        assert low - 1.5 <= z <= high + 1.5


def test_slack_calms_a_seam_for_a_thin_film() -> None:
    rough = ball(50, 24).moved(turn_up((0.3, 0.2, 1)))
    stiff, slack = parted(rough, slack_mm=0.0), parted(rough, slack_mm=1.0)
    assert slack.flatness_mm < stiff.flatness_mm
    assert stiff.film_ml == 0 <= slack.film_ml


def test_of_a_face_that_is_shown_only_what_looks_there_counts() -> None:
    made = parted(ball(50))
    assert seam_mm(made.seams, np.array([0.0, -1.0, 0.0])) == pytest.approx(
        50 * pi / 3, rel=0.02
    )  # within 60 degrees either side
    assert seam_mm(made.seams, np.array([0.0, 0.0, 1.0])) == 0


def test_a_master_that_reaches_through_the_walls_is_refused() -> None:
    with pytest.raises(Refused, match="reaches through the walls"):
        parting_surface(block(40, 30, 20), shapely.box(-10, -10, 10, 10), under_mm=5, over_mm=5)


# keys


BOXES = [
    shapely.box(-50, -30, 50, 30),
    shapely.box(-40, -40, 40, 40),
    Point(0, 0).buffer(45, quad_segs=48),
    shapely.box(-20, -60, 20, 60),
]


@examples(12)
@given(st.sampled_from(BOXES), st.floats(8, 14), st.floats(4, 9), st.integers(3, 6))
def test_placed_keys_go_together_one_way_only(inside: Polygon, master_mm: float, key_mm: float, number: int) -> None:
    free = flange(inside, Point(0, 0).buffer(master_mm))
    keys = place_keys(free, inside, key_mm, number)
    assert len(keys) >= 3
    assert other_ways(keys, inside) == ()
    # by turning: at no angle that the box allows do all domes find a socket
    for degrees in np.arange(1, 360) if inside is BOXES[2] else (90, 180, 270):
        if affinity.rotate(inside, degrees, origin=(0, 0)).symmetric_difference(inside).area > 0.02 * inside.area:
            continue
        a = np.radians(degrees)
        spots = [
            (key.x_mm * np.cos(a) - key.y_mm * np.sin(a), key.x_mm * np.sin(a) + key.y_mm * np.cos(a), key.diameter_mm)
            for key in keys
        ]
        finds = [
            any(
                np.hypot(x - other.x_mm, y - other.y_mm) < ALIKE_MM / 2 and abs(size - other.diameter_mm) < ALIKE_MM / 2
                for other in keys
            )
            for x, y, size in spots
        ]
        assert not all(finds)
    for key in keys:
        assert free.buffer(1e-6).covers(key.disc)


def test_keys_that_lie_alike_are_found_out() -> None:
    inside = BOXES[0]
    alike = tuple(Key(x_mm=x, y_mm=y, diameter_mm=6) for x in (-42, 42) for y in (-22, 22))
    assert 180.0 in other_ways(alike, inside)
    flat = parted(block(40, 20, 20), side_mm=20)
    codes = {finding.code for finding in check_keys(alike, inside, flange(inside, Point(0, 0).buffer(10)), flat)}
    assert codes == {"keys-alike"}
    assert other_ways((replace(alike[0], diameter_mm=9), *alike[1:]), inside) == ()


def test_keys_in_the_way_are_told() -> None:
    mesh = block(40, 20, 20)
    inside, flat = box_round(mesh, 15), parted(mesh, side_mm=15)
    free = flange(inside, shadow(mesh), ((30, 0),))
    put = tuple(Key(x_mm=x, y_mm=y, diameter_mm=6) for x, y in ((0, 0), (34.5, 0), (0, 18), (3, 18), (30, 0)))
    told = [(finding.code, finding.facts.get("key")) for finding in check_keys(put, inside, free, flat)]
    assert ("key-in-the-way", "1") in told
    assert ("key-at-edge", "2") in told
    assert ("key-in-the-way", "5") in told
    assert ("keys-touch", None) in told
    assert key_size_mm(inside, shadow(mesh)) == pytest.approx(7.5)


# halves as solids


@pytest.mark.parametrize("mesh", [egg(), torus()])
def test_the_halves_are_closed_and_hold_the_rubber(mesh: Mesh) -> None:
    inside, made = box_round(mesh, 14), parted(mesh, side_mm=14, cells=128)
    plain = both_halves(made, inside, mesh, (), ())
    for half, ml in ((plain.upper, made.upper_ml), (plain.lower, made.lower_ml)):
        assert edges(half).is_closed
        assert half.volume_mm3 / 1000 == pytest.approx(ml, rel=0.01)
    keys = place_keys(flange(inside, made.seen), inside, 6)
    keyed = both_halves(
        made,
        inside,
        mesh,
        keys,
        [bore_through(np.array([0.0, 0.0, mesh.bounds_mm[1, 2]]), np.array([0.0, 0.0, 1.0]), GATE_MM)],
    )
    domes = sum(2 / 3 * pi * (key.diameter_mm / 2) ** 3 for key in keys)
    assert (keyed.lower.volume_mm3 - plain.lower.volume_mm3) == pytest.approx(domes, rel=0.05)
    # the halves go together: nothing of one lies in the other
    assert (manifold(keyed.lower) ^ manifold(keyed.upper)).volume() < 1.0
    assert edges(keyed.side_by_side).is_closed
    assert np.ptp([keyed.lower.bounds_mm[0, 2], keyed.side_by_side.bounds_mm[0, 2]]) < 1e-6
    plate = parting_plate(made, inside)
    assert edges(plate).is_closed
    assert plate.volume_mm3 == pytest.approx((inside.area - made.seen.area) * 1.6, rel=0.03)


def test_an_empty_half_is_refused() -> None:
    mesh = block(40, 30, 20)
    flat = parted(mesh, under_mm=0.0)
    with pytest.raises(Refused, match="empty"):
        both_halves(
            replace(flat, height_mm=np.full_like(flat.height_mm, -0.5), floor_mm=0.0), box_round(mesh, 10), mesh, (), ()
        )


# stretch and slit


EGG = stretch(egg())


def test_a_dumbbell_stretches_by_what_its_shapes_say() -> None:
    dumbbell = turned([(0, 40), (10, 40), (12, 20), (40, 20), (42, 44), (60, 44)])
    made = stretch(dumbbell)
    assert made.needed == pytest.approx(44 / 20 - 1, rel=1e-3)
    assert 12 < made.neck_mm < 40 < made.head_mm
    # with a stretch of 1.2 or more nothing needs to be cut; below that the slit goes past the neck; the foot
    # alone needs 10 %
    assert made.slit_mm(1.25) == 0
    assert made.slit_mm(1.0) == pytest.approx(41, abs=1.5)
    assert stretch(turned([(0, 40), (30, 20), (60, 10)])).needed == pytest.approx(0, abs=1e-9)


@given(st.floats(0.05, 2.0), st.floats(0.01, 2.0))
def test_more_stretch_never_needs_a_longer_slit(allowed: float, more: float) -> None:
    made = EGG
    assert made.slit_mm(allowed + more) <= made.slit_mm(allowed) <= float(egg().extents_mm[2])


def test_a_slit_runs_away_from_the_show_face_and_waves() -> None:
    assert slit_side(np.array([0.0, -1.0, 0.0])) == "back"
    assert slit_side(np.array([0.9, 0.1, 0.0])) == "left"
    assert slit_side(np.array([0.0, 0.0, 1.0])) == slit_side(None) == "back"
    wave = Slit(side="back", length_mm=40).wave(3)
    assert (wave[0], wave[-1][1]) == ((0.0, 0.0), 40.0)
    assert max(x for x, _ in wave) == pytest.approx(3, rel=0.1) == -min(x for x, _ in wave)
    assert allowed_stretch(400) == pytest.approx(1.2)
    assert allowed_stretch(None) is None


def test_flat_cells_are_outlined() -> None:
    mask = np.zeros((8, 6), dtype=bool)
    mask[2:6, 1:5] = True
    mask[3:5, 2:4] = False
    rings = rings_of(mask, np.array([10.0, 20.0]), 2.0)
    assert len(rings) == 2
    areas = sorted(Polygon(ring).area for ring in rings)
    assert areas == pytest.approx([16, 64], rel=0.2)
    assert rings_of(np.zeros((3, 3), dtype=bool), np.zeros(2), 1.0) == ()
