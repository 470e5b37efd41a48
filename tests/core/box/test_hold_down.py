"""Holding down, the bed, and what old rubber may take up."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.box.bed import PLASTER_G_PER_ML, WATER_PER_PLASTER, plaster_for
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.filler import filler_room_ml
from ufrin.core.box.hold_down import GLUE_G_PER_CM2, SCREW_G, TAPE_G_PER_CM2, hold_down
from ufrin.core.box.mould_box import box
from ufrin.core.master.master_form import Master

BLOCK = Master(length_mm=100, width_mm=50, height_mm=40, volume_ml=200, mass_g=50)


@given(st.floats(0.1, 5000))
def test_plaster_and_water_make_up_the_bed(volume: float) -> None:
    plaster, water = plaster_for(volume)
    assert plaster / PLASTER_G_PER_ML + water == pytest.approx(volume)
    assert water / plaster == pytest.approx(WATER_PER_PLASTER)


def test_each_way_holds_a_third_more_than_the_lift() -> None:
    held = hold_down(BLOCK, 1.2)
    assert held is not None
    assert held.lift_g == pytest.approx(1.2 * 200 - 50)
    for holds in (held.tape_cm2 * TAPE_G_PER_CM2, held.glue_cm2 * GLUE_G_PER_CM2):
        assert holds == pytest.approx(held.lift_g * 4 / 3)
    assert held.screws * SCREW_G >= held.lift_g * 4 / 3
    # a plain block floats where what is left above weighs less than it
    assert held.seat_mm == pytest.approx(40 * (1 - 50 / (1.2 * 200)), abs=0.02)


def test_what_sinks_or_is_not_known_needs_nothing() -> None:
    assert hold_down(Master(length_mm=100, width_mm=50, height_mm=40, volume_ml=200, mass_g=500), 1.2) is None
    assert hold_down(Master(length_mm=100, width_mm=50, height_mm=40, volume_ml=200), 1.2) is None
    assert hold_down(Master(length_mm=100, width_mm=50, height_mm=40, volume_ml=None, mass_g=5), 1.2) is None


@given(st.floats(5, 30), st.floats(0, 60), st.floats(0, 400))
def test_filler_takes_up_its_own_volume_and_never_the_masters_clearance(
    side: float, over: float, filler: float
) -> None:
    plan = BoxPlan(masters=(BLOCK,), shape="round", side_mm=side, over_mm=over, filler_ml=filler)
    made, plain = box(plan), box(BoxPlan(masters=(BLOCK,), shape="round", side_mm=side, over_mm=over))
    assert made.net_ml == pytest.approx(plain.net_ml - filler)
    assert made.gross_ml == pytest.approx(made.net_ml + made.displaced_ml + made.bed_ml)
    room = filler_room_ml(plan, made.layout, made.fill_mm, made.gross_ml)
    # all that is outside the rounded block at the side clearance
    near = (100 * 50 + 2 * side * (100 + 50) + 3.14159 * side**2) * made.fill_mm / 1000
    assert room == pytest.approx(made.gross_ml - near, rel=0.01)
    told = "filler-too-much" in [finding.code for finding in made.findings]
    assert told == (filler > room * (1 + 1e-9))
