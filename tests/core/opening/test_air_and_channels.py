"""Air round a master in its bed and in both halves, the slope of the clay, and the channels of a mould."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from math import atan, degrees, hypot, pi

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from manifold3d import Manifold
from shapes import CUBE, ball

from ufrin.core.master.master_form import stand_form
from ufrin.core.materials.kinds import POURS
from ufrin.core.mesh.manifolds import from_manifold
from ufrin.core.opening.form_analysis import air_under
from ufrin.core.opening.gates_and_vents import CastPlan, Riser
from ufrin.core.opening.parted_box import PartedBox, PlacedForm, air_of_halves, parted
from ufrin.core.opening.parting_surface import parting_surface
from ufrin.core.opening.pouring_channels import FIGURES, VISCOSITIES, channels, gate_width_mm
from ufrin.core.opening.pull_ranking import direction_words


def test_a_bed_that_reaches_over_an_overhang_keeps_its_air_away() -> None:
    # a mushroom: rubber that rises from the board is caught under its cap, 20 mm up; from a bed at the cap it is not
    form = stand_form(
        from_manifold(Manifold.cylinder(20, 6, 6, 64) + Manifold.cylinder(8, 20, 20, 64).translate((0, 0, 20))),
        (0, 0, 1),
    )
    from_board = air_under(form, 0.0).trapped_ml
    assert from_board == pytest.approx(0.0, abs=0.05)  # air leaves beside the cap
    hollow = stand_form(
        from_manifold(Manifold.cylinder(30, 20, 20, 64) - Manifold.cylinder(25, 15, 15, 64)), (0, 0, 1)
    )  # a cup, mouth down on the board
    open_below = air_under(hollow, -5.0).trapped_ml
    assert open_below == pytest.approx(pi * 15**2 * 25 / 1000, rel=0.05)
    # half of it sunk in a bed: only what lies over the bed can hold air
    assert air_under(hollow, 10.0).trapped_ml == pytest.approx(pi * 15**2 * 15 / 1000, rel=0.07)


def halves(form: object, side_mm: float = 12.0) -> PartedBox:
    length, width, _ = form.size_mm
    inside = shapely.box(-length / 2 - side_mm, -width / 2 - side_mm, length / 2 + side_mm, width / 2 + side_mm)
    place = PlacedForm(form=form, x_mm=0.0, y_mm=0.0, is_turned=False)
    return PartedBox(inside=inside, places=(place,), foot_mm=12.0, under_mm=12.0, over_mm=12.0, slack_mm=0.5)


def test_each_half_keeps_the_air_of_its_own_pockets() -> None:
    # a bore from below, 20 mm deep, and a flat top: rubber fills the top's side freely; turned over, the bore is a cup
    # that opens upwards and fills too
    drilled = stand_form(from_manifold(Manifold.cylinder(30, 20, 20, 64) - Manifold.cylinder(20, 8, 8, 64)), (0, 0, 1))
    first, second = air_of_halves(drilled, halves(drilled))
    assert first.trapped_ml == pytest.approx(0.0, abs=0.1)
    assert second.trapped_ml == pytest.approx(0.0, abs=0.1)
    # a groove round its middle holds air under its upper lip in the half that is poured over it
    grooved = stand_form(
        from_manifold(
            Manifold.cylinder(60, 20, 20, 96)
            - (Manifold.cylinder(20, 30, 30, 96) - Manifold.cylinder(20, 12, 12, 96)).translate((0, 0, 35))
        ),
        (0, 0, 1),
    )
    pair = air_of_halves(grooved, halves(grooved))
    bare = air_under(grooved, 0.0)
    assert sum(air.trapped_ml for air in pair) <= bare.trapped_ml + 0.1
    ring = stand_form(
        from_manifold(
            Manifold.cylinder(60, 20, 20, 96)
            - Manifold.cylinder(18, 14, 14, 96).translate((0, 0, 42.5)).trim_by_plane((0, 0, -1), -59)
        ),
        (0, 0, 1),
    )  # a hollow closed all round near the top
    first, second = air_of_halves(ring, halves(ring))
    assert first.trapped_ml + second.trapped_ml == pytest.approx(pi * 14**2 * 16.5 / 1000, rel=0.1)


@given(st.floats(-1.5, 1.5), st.floats(-1.5, 1.5))
def test_the_slope_of_the_clay_is_that_of_the_surface(across: float, along: float) -> None:
    flat = parting_surface(ball(20, 24), shapely.box(-20, -20, 20, 20), under_mm=5, over_mm=5, cells=24)
    x, y = np.indices(flat.height_mm.shape) * flat.cell_mm
    tilted = replace(flat, height_mm=x * across + y * along)
    assert tilted.steepest()[0] == pytest.approx(degrees(atan(hypot(across, along))), abs=1e-6)


def test_two_requests_at_once_get_their_own_master_parted() -> None:
    forms = [
        stand_form(from_manifold(Manifold.cube((20 + 2 * number, 20, 10 + number))), (0, 0, 1)) for number in range(8)
    ]
    wanted = [parted(form, halves(form)).master_ml for form in forms]
    with ThreadPoolExecutor(8) as together:
        for _ in range(4):
            fresh = [stand_form(form.mesh, (0, 0, 1)) for form in forms]
            found = list(together.map(lambda form: parted(form, halves(form)).master_ml, fresh))
            assert found == pytest.approx(wanted)


def test_a_channel_runs_from_the_cavity_to_the_outside_and_holds_its_volume() -> None:
    gate = Riser(at_mm=(0.0, 0.0, 40.0), way=(0.0, 0.0, 1.0), on_show=False)
    vent = Riser(at_mm=(10.0, 0.0, 40.0), way=(1.0, 0.0, 0.0), on_show=False)
    plan = CastPlan(gates=(gate,), vents=(vent,), air=air_under(stand_form(CUBE, (0, 0, 1))), bare_ml=0.0)
    block = (np.array([-32.0, -32.0, 0.0]), np.array([32.0, 32.0, 70.0]))
    one, other = channels(plan, np.eye(3), block, "polyurethane-resin")
    assert (one.length_mm, one.width_mm) == (30.0, 6.0)
    funnel_ml = pi * 15 * (18**2 + 18 * 6 + 6**2) / 12_000
    assert one.volume_ml == pytest.approx(pi * 9 * 15 / 1000 + funnel_ml)
    assert other.length_mm == pytest.approx(22.0)
    assert other.volume_ml == pytest.approx(22 * FIGURES["vent_mm"] * FIGURES["vent_depth_mm"] / 2000)
    # held upside down, the same way leads down through the foot
    turned = np.diag([1.0, -1.0, -1.0])
    down = replace(plan, gates=(replace(gate, at_mm=(0.0, 0.0, -40.0)),), vents=())
    assert channels(down, turned, block, "plaster")[0].length_mm == pytest.approx(40.0)


def test_thicker_materials_get_wider_gates_and_every_cast_has_a_viscosity() -> None:
    assert set(POURS) <= set(VISCOSITIES)
    by_thickness = sorted(POURS, key=lambda cast: VISCOSITIES[cast])
    widths = [gate_width_mm(cast) for cast in by_thickness]
    assert widths == sorted(widths)
    assert widths[0] < widths[-1]


@given(st.floats(0.02, 1.5), st.floats(0, 2 * pi))
def test_directions_that_lean_to_different_sides_have_different_names(off: float, turn: float) -> None:
    def name(angle: float) -> str:
        x, y, z = np.sin(off) * np.cos(angle), np.sin(off) * np.sin(angle), np.cos(off)
        return direction_words((float(x), float(y), float(z)))

    if np.degrees(off) >= 0.5:
        assert name(turn) != name(turn + pi)
