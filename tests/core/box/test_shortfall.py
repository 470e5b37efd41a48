"""What is missing below the fill line: by hand, against the box's own net volume, and by slicing it."""

from dataclasses import replace
from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapes import cup, egg

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import box
from ufrin.core.box.shortfall import missing_ml
from ufrin.core.master.master_form import Master, stand_form
from ufrin.core.mesh.sections import volume_below_ml
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.shelf.containers import Pot
from ufrin.errors import Refused

BLOCK = Master(length_mm=60, width_mm=40, height_mm=30, volume_ml=72)


def standing(mesh: Mesh) -> Master:
    form = stand_form(mesh, (0.0, 0.0, 1.0), volume_ml=volume_below_ml(mesh, 1e6))
    length, width, height = form.size_mm
    return Master(length_mm=length, width_mm=width, height_mm=height, volume_ml=form.volume_ml, form=form)


SHAPED = standing(egg())
PLANS = {
    "rectangle": BoxPlan(masters=(SHAPED,), side_mm=10, over_mm=12),
    "gang": BoxPlan(masters=(replace(SHAPED, count=4),), side_mm=10),
    "round": BoxPlan(masters=(SHAPED,), shape="round", side_mm=10),
    "contour": BoxPlan(masters=(SHAPED,), shape="contour", side_mm=10),
    "tapered": BoxPlan(masters=(SHAPED,), shape="tapered", pot=Pot(bottom_mm=120, top_mm=160, height_mm=200)),
    "bed": BoxPlan(masters=(SHAPED,), bed_mm=20, sunk_mm=12),
    "tray": BoxPlan(masters=(SHAPED,), shape="tray", lip_mm=6),
}


def test_over_the_master_it_is_the_section_and_beside_it_what_is_left_of_it() -> None:
    plan = BoxPlan(masters=(BLOCK,), side_mm=10, over_mm=12)
    made = box(plan)
    # 80 x 60 mm inside: 4.8 ml a millimetre over the block, 4.8 - 2.4 beside it
    assert missing_ml(plan, made, 5) == pytest.approx(5 * 4.8)
    assert missing_ml(plan, made, 20) == pytest.approx(12 * 4.8 + 8 * 2.4)
    # turned over, the level stays below what was the board, where the block stands
    assert missing_ml(plan, made, 10, is_turned=True) == pytest.approx(10 * 2.4)


def test_in_a_tapered_pot_by_the_frustum() -> None:
    pot = Pot(bottom_mm=100, top_mm=140, height_mm=100)
    plan = BoxPlan(masters=(BLOCK,), shape="tapered", pot=pot, over_mm=20)
    made = box(plan)
    top, low = 100 + 0.4 * made.fill_mm, 100 + 0.4 * (made.fill_mm - 15)
    assert missing_ml(plan, made, 15) == pytest.approx(pi * 15 / 12 * (top**2 + top * low + low**2) / 1000)


@pytest.mark.parametrize("name", PLANS)
def test_all_of_it_is_the_net_volume_of_the_box(name: str) -> None:
    plan = PLANS[name]
    made = box(plan)
    almost = missing_ml(plan, made, (made.fill_mm - plan.bed_mm) * (1 - 1e-9))
    assert almost == pytest.approx(made.net_ml, rel=1e-5)


@pytest.mark.parametrize("name", PLANS)
@given(share=st.floats(0.02, 0.9), rest=st.floats(0.02, 0.9))
def test_two_shortfalls_one_above_the_other_add_up(name: str, share: float, rest: float) -> None:
    plan = PLANS[name]
    made = box(plan)
    deep_mm = made.fill_mm - plan.bed_mm
    upper_mm = share * deep_mm
    lower_mm = (deep_mm - upper_mm) * rest
    both = missing_ml(plan, made, upper_mm + lower_mm)
    assert both > missing_ml(plan, made, upper_mm) > 0
    # what is missing from below, turned over, is what is there when the level is that high
    from_below = missing_ml(plan, made, deep_mm - upper_mm, is_turned=True)
    assert missing_ml(plan, made, upper_mm) + from_below == pytest.approx(made.net_ml, rel=1e-6)


@pytest.mark.parametrize("below_mm", [0.0, -1.0, 1e4, float("nan")])
def test_nothing_and_more_than_the_box_are_refused(below_mm: float) -> None:
    plan = PLANS["rectangle"]
    with pytest.raises(Refused, match="below the fill line"):
        missing_ml(plan, box(plan), below_mm)


def test_a_hollow_master_holds_rubber_where_it_is_open() -> None:
    one = standing(cup())
    plan = BoxPlan(masters=(one,), side_mm=10, over_mm=5)
    made = box(plan)
    inside = (one.length_mm + 20) * (one.width_mm + 20) / 1000
    whole = missing_ml(plan, made, 5.0)
    assert whole == pytest.approx(5 * inside)
    assert missing_ml(plan, made, 6.0) - whole < inside
