"""Air: trapped cells against greyscale reconstruction, pockets against formulas.

What the planner proposes is held against the simulation.
"""

from math import pi

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from manifold3d import Manifold
from shapes import ball, cup, drum_share, dumbbell, egg, inside_out, moved, mushroom, torus, tube, turned_about, u_tube
from thoroughness import examples

from ufrin.core.master.attitudes import turn_up
from ufrin.core.master.stand_ins import block
from ufrin.core.mesh.cells import cells_of_mesh, refined_cells
from ufrin.core.mesh.compiled_loops import trapped_cells
from ufrin.core.mesh.manifolds import from_manifold
from ufrin.core.mesh.triangles import Mesh, joined
from ufrin.core.opening.casting_attitudes import casting_attitudes
from ufrin.core.opening.gates_and_vents import plan_cast, way_out
from ufrin.core.opening.tilt import best_tilt
from ufrin.core.opening.trapped_air import LEAST_ML, Air, Cavity, air_round_master
from ufrin.errors import Refused

CUP_ML = pi * 15**2 * 36 * drum_share() / 1000


def by_reconstruction(fluid: np.ndarray, outlets: np.ndarray) -> np.ndarray:
    from skimage.morphology import reconstruction

    """Return the highest level at which each cell is joined to an outlet.

    It is scikit-image's greyscale reconstruction by dilation.
    """
    height = np.where(fluid, np.arange(1, len(fluid) + 1)[:, None, None], 0)
    cross = np.zeros((3, 3, 3), dtype=bool)
    cross[1, 1, :] = cross[1, :, 1] = cross[:, 1, 1] = True
    level = reconstruction(np.where(outlets & fluid, height, 0), height, footprint=cross)
    return np.asarray(fluid & (level < height))


@given(
    st.integers(0, 2**31),
    st.floats(0.35, 0.85),
    st.floats(0, 0.05),
    st.tuples(st.integers(1, 9), st.integers(1, 12), st.integers(1, 12)),
)
def test_trapped_cells_are_those_of_greyscale_reconstruction(
    seed: int, share: float, holes: float, shape: tuple[int, int, int]
) -> None:
    random = np.random.default_rng(seed)
    fluid = random.random(shape) < share
    outlets = (random.random(shape) < holes) & fluid
    outlets[-1] |= fluid[-1]
    assert np.array_equal(trapped_cells(fluid, outlets), by_reconstruction(fluid, outlets))


def test_so_are_those_of_many_patches_in_many_layers() -> None:
    # more patches than the sweep has numbers for at once
    fluid = np.random.default_rng(4).random((200, 24, 24)) < 0.5
    outlets = np.zeros_like(fluid)
    outlets[-1] = fluid[-1]
    assert np.array_equal(trapped_cells(fluid, outlets), by_reconstruction(fluid, outlets))


def rubber(mesh: Mesh, cells: int = 96) -> Air:
    solid, _ = refined_cells(mesh, cells)
    return air_round_master(solid, board_mm=float(mesh.bounds_mm[0, 2]))


@pytest.mark.parametrize("cells", [48, 97, 128])
def test_a_cup_upside_down_keeps_all_that_is_in_it(cells: int) -> None:
    air = rubber(cup(), cells)
    assert len(air.pockets) == 1
    pocket = air.pockets[0]
    assert abs(pocket.ml - CUP_ML) <= pocket.plus_minus_ml
    assert pocket.ml == pytest.approx(CUP_ML, rel=0.005)
    assert pocket.peak_mm[2] == pytest.approx(36, abs=1e-6)
    assert pocket.depth_mm == pytest.approx(36, abs=40 / cells)
    assert air.closed_ml == pytest.approx(pocket.ml)  # it stands on the board: nothing gets in or out
    assert rubber(cup().moved(np.diag([1.0, -1.0, -1.0])), cells).trapped_ml == 0


def test_lifted_off_the_board_it_keeps_what_is_above_its_rim() -> None:
    mesh = cup()
    solid, _ = refined_cells(mesh, 96)
    air = air_round_master(solid, board_mm=-5.0)
    assert air.trapped_ml == pytest.approx(CUP_ML, rel=0.02)
    assert air.closed_ml == 0


def test_a_cup_with_a_hole_in_its_bottom_keeps_nothing() -> None:
    drilled = from_manifold(
        Manifold.cylinder(40, 20, 20, 96)
        - Manifold.cylinder(37, 15, 15, 96).translate((0, 0, -1))
        - Manifold.cylinder(60, 3, 3, 48)
    )
    assert rubber(drilled).trapped_ml == 0


@pytest.mark.parametrize("wall_mm", [0.1, 0.5, 1.0])
def test_a_thin_dome_holds_its_air_at_any_cell(wall_mm: float) -> None:
    # a wall thinner than a cell leaks where cells are filled by their middles alone; here it must not, and finer
    # cells are taken by themselves
    outer, inner = tube(33, 60), tube(33 - wall_mm, 60 - wall_mm + 1).translate((0, 0, -1))
    inside_ml = pi * (33 - wall_mm) ** 2 * (60 - wall_mm) * drum_share() / 1000
    mesh = from_manifold(outer - inner)
    for cells in (40, 66, 67):
        air = air_round_master(cells_of_mesh(mesh, cells), board_mm=0.0)
        assert air.trapped_ml == pytest.approx(inside_ml, rel=0.08)  # half a cell all over its wall at most
    solid, took = refined_cells(mesh, 60)
    assert took > 60
    assert (solid.thin_mm is None) == (wall_mm > 66 / 320)
    assert air_round_master(solid, board_mm=0.0).trapped_ml == pytest.approx(inside_ml, rel=0.01)


@pytest.mark.parametrize(
    "mesh", [ball(), egg(), torus(), torus().moved(turn_up((1, 0, 0))), mushroom(), block(40, 30, 20)]
)
def test_round_things_and_mushrooms_keep_nothing(mesh: Mesh) -> None:
    assert rubber(mesh).trapped_ml == 0
    assert cells_of_mesh(mesh, 64).thin_mm is None


def test_a_closed_void_is_trapped_and_told() -> None:
    hollow = joined([block(40, 40, 40), inside_out(moved(block(20, 20, 20), 0, 0, 10))])
    air = rubber(hollow)
    assert air.trapped_ml == pytest.approx(8, rel=1e-3)
    assert air.closed_ml == pytest.approx(8, rel=1e-3)


@examples(20)
@given(st.integers(0, 3), st.booleans(), st.floats(0, 50), st.floats(0, 50))
def test_turned_and_mirrored_masters_keep_as_much(quarters: int, mirrored: bool, x: float, y: float) -> None:
    lopsided = joined([cup(), moved(cup(24, 16, 20, 15), 45, 12, 0)])
    plain, other = (
        rubber(lopsided, 64),
        rubber(moved(turned_about(lopsided, quarters=quarters, mirrored=mirrored), x, y, 3), 64),
    )
    assert [pocket.ml for pocket in other.pockets] == pytest.approx([pocket.ml for pocket in plain.pockets], rel=0.02)


def test_two_bodies_have_two_pockets_the_larger_first() -> None:
    air = rubber(joined([cup(), moved(cup(24, 16, 20, 15), 45, 12, 0)]))
    assert [pocket.ml for pocket in air.pockets] == pytest.approx(
        [CUP_ML, pi * 8**2 * 15 * drum_share() / 1000], rel=0.01
    )
    assert air.pockets[1].peak_mm[0] == pytest.approx(45, abs=1)


def cavity(mesh: Mesh, cells: int = 96) -> Cavity:
    return Cavity(solid=refined_cells(mesh, cells)[0])


def test_a_u_tube_with_one_outlet_keeps_the_air_of_its_other_leg() -> None:
    mould = cavity(u_tube())
    one, other = (5.0, 5.0, 50.0), (45.0, 5.0, 50.0)
    # above the bend's ceiling the second leg has no way out but down
    assert mould.air(mould.outlets([one])).trapped_ml == pytest.approx(10 * 10 * 40 / 1000, rel=0.02)
    assert mould.air(mould.outlets([one, other])).trapped_ml == 0
    assert len(mould.highest()) == 2  # tops are equal: both are the highest point
    assert mould.air(mould.outlets(mould.highest())).trapped_ml == 0


def test_a_cast_cup_upside_down_wants_its_vent_in_the_bottom() -> None:
    mould = cavity(cup())
    all_ml = cup().volume_mm3 / 1000
    assert mould.air(mould.outlets([(17.5, 0, 0.2)])).trapped_ml == pytest.approx(all_ml, rel=0.03)
    assert mould.air(mould.outlets([(17.5, 0, 0.2), (0, 0, 40)])).trapped_ml == 0


def test_a_second_body_that_no_gate_reaches_is_shut_off() -> None:
    mould = cavity(joined([block(20, 20, 20), moved(block(10, 10, 10), 40, 0, 0)]))
    air = mould.air(mould.outlets([(0, 0, 20)]))
    assert air.trapped_ml == pytest.approx(1, rel=0.01)
    assert air.closed_ml == pytest.approx(1, rel=0.01)


def test_a_gate_away_from_the_cavity_is_refused_and_the_nearest_point_offered() -> None:
    mould = cavity(block(20, 20, 20))
    with pytest.raises(
        Refused, match=r"100\.0, 0\.0, 10\.0 is not on the cavity\. The nearest point on it is 9\.\d, -?0\.\d"
    ):
        mould.outlets([(100.0, 0.0, 10.0)])


HARD = {
    "dumbbell": dumbbell().moved(turn_up((1, 0, 0))),
    "mushroom, cap down": mushroom().moved(np.diag([1.0, -1.0, -1.0])),
    "U-tube": u_tube(),
    "three spikes": from_manifold(
        Manifold.cube((60, 20, 8))
        + tube(3, 30).translate((8, 10, 0))
        + tube(3, 22).translate((30, 10, 0))
        + tube(3, 26).translate((52, 10, 0))
    ),
    "leaning cup": cup().moved(turn_up((0.5, 0.2, 1))),
}


@pytest.mark.parametrize("name", HARD)
def test_the_vents_really_free_the_pockets(name: str) -> None:
    mould = cavity(HARD[name], 72)
    plan = plan_cast(mould, None)
    assert all(pocket.ml < 0.1 for pocket in plan.air.pockets)
    # simulated again, with other cells
    again = cavity(HARD[name], 110)
    air = again.air(again.outlets([riser.at_mm for riser in (*plan.gates, *plan.vents)]))
    assert all(pocket.ml < 0.25 for pocket in air.pockets)
    # and none of them is there for nothing
    for spare in range(len(plan.vents)):
        kept = [riser.at_mm for number, riser in enumerate(plan.vents) if number != spare]
        fewer = mould.air(
            mould.outlets([riser.at_mm for riser in (*plan.gates, *[])]) | (mould.outlets(kept) if kept else False)
        )
        assert any(pocket.ml >= 0.1 for pocket in fewer.pockets)


def test_three_spikes_take_two_vents_besides_the_gate() -> None:
    plan = plan_cast(cavity(HARD["three spikes"], 72), None)
    assert (len(plan.gates), len(plan.vents)) == (1, 2)


def test_holes_keep_off_the_show_face_where_they_can() -> None:
    mould = cavity(block(40, 30, 20), 48)
    for shown in ([0.0, -1.0, 0.0], [0.0, 0.0, 1.0]):
        plan = plan_cast(mould, np.array(shown))
        assert plan.gates[0].on_show == (shown[2] > 0)  # a block has no other top


def test_placed_by_hand_they_are_kept_and_checked() -> None:
    mould = cavity(HARD["three spikes"], 72)
    plan = plan_cast(mould, None, gates=[(8, 10, 30)], vents=[])
    assert plan.gates[0].by_hand
    assert not plan.vents
    assert sum(pocket.ml >= 0.1 for pocket in plan.left) == 2
    assert plan_cast(mould, None, gates=[(8, 10, 30)], vents=[(30, 10, 22), (52, 10, 26)]).left == ()
    with pytest.raises(Refused, match="not on the cavity") as caught:
        plan_cast(mould, None, gates=[(8, 10, 30)], vents=[(500, 0, 0)])
    assert caught.value.field == "vents"


def test_the_way_out_does_not_run_through_the_cast_again() -> None:
    roofed = from_manifold(
        Manifold.cube((40, 20, 5)) + Manifold.cube((5, 20, 40)) + Manifold.cube((30, 20, 5)).translate((0, 0, 35))
    )
    mould = cavity(roofed, 64)
    under = way_out(mould, np.array([15.0, 10.0, 5.0]))
    assert under is not None
    assert under[2] < 0.99
    assert way_out(mould, np.array([38.0, 10.0, 5.0])) == (0.0, 0.0, 1.0)


def test_a_tilt_frees_what_a_rising_ceiling_holds() -> None:
    # a tunnel along x, open at the left, whose ceiling climbs by 5 mm in 50 towards its shut end
    corners = [(x, y, z) for y in (10.0, 30.0) for x, z in ((-1.0, -1.0), (50.0, -1.0), (-1.0, 9.9), (50.0, 15.0))]
    tunnel = from_manifold(Manifold.cube((60, 40, 30)) - Manifold.hull_points(corners))
    level = rubber(tunnel)
    assert level.trapped_ml == pytest.approx(50 * 5 / 2 * 20 / 1000, rel=0.08)
    tilt = best_tilt(tunnel, 20)
    assert tilt is not None
    assert tilt.level_ml == pytest.approx(level.trapped_ml, rel=0.2)  # by coarser cells
    assert tilt.tilted_ml < LEAST_ML
    assert np.cos(np.radians(tilt.towards_deg)) > 0.5  # the shut end is held lowest
    small = best_tilt(tunnel, 3)
    assert small is not None
    assert LEAST_ML < small.tilted_ml < tilt.level_ml
    assert best_tilt(ball(), 20) is None
    assert best_tilt(cup(), 0) is None
    assert best_tilt(cup(), 20) is None


def test_the_best_way_to_hold_a_cup_is_mouth_down_or_up_and_needs_no_vent() -> None:
    held = casting_attitudes(cup(), None)
    assert (held[0].vents, held[0].left_ml < LEAST_ML) == (0, True)
    assert len(held) == 14
    assert [one.cost for one in held] == sorted((one.cost for one in held), key=lambda cost: round(cost, 2))
