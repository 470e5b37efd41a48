"""The layout of a box: the one that takes the least rubber, or leaves the most room in a container."""

from math import hypot, pi

import pytest

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.layout_choice import chosen_layout
from ufrin.core.master.master_form import Master
from ufrin.core.shelf.containers import Container, Pot
from ufrin.errors import Refused

FLAT = Master(length_mm=80, width_mm=20, height_mm=15, volume_ml=20, count=4)
ONE = Master(length_mm=80, width_mm=20, height_mm=15, volume_ml=20)


def test_of_all_grids_the_least_rubber_is_taken() -> None:
    plan = BoxPlan(masters=(FLAT,), side_mm=12, gap_mm=10)
    layout, inside = chosen_layout(plan, 27.0)
    # by hand, outside of one: 80 x 20. 1 x 4: 374 x 44; 2 x 2: 194 x 74; 4 x 1: 104 x 134, the least of the three
    assert (layout.rows, layout.columns) == (4, 1)
    assert (inside.length_mm, inside.width_mm) == pytest.approx((104, 134))


def test_rows_and_columns_that_are_asked_for_are_kept_and_must_hold_all() -> None:
    layout, _ = chosen_layout(BoxPlan(masters=(FLAT,), rows=2, columns=2), 27.0)
    assert (layout.rows, layout.columns) == (2, 2)
    with pytest.raises(Refused, match="4"):
        chosen_layout(BoxPlan(masters=(FLAT,), rows=1, columns=2), 27.0)


def test_a_container_is_turned_so_that_it_leaves_the_most_room() -> None:
    tub = Container(name="Tub", length_mm=50, width_mm=110, height_mm=90)
    plan = BoxPlan(masters=(ONE,), shape="container", container=tub)
    _, inside = chosen_layout(plan, 27.0)
    assert (inside.length_mm, inside.width_mm) == (110, 50)


def test_each_shape_has_its_inside() -> None:
    across = hypot(80, 20)
    _, round_one = chosen_layout(BoxPlan(masters=(ONE,), shape="round", side_mm=12), 27.0)
    assert round_one.diameter_mm == pytest.approx(across + 24)
    pot = Pot(bottom_mm=120, top_mm=130, height_mm=60)
    assert chosen_layout(BoxPlan(masters=(ONE,), shape="tapered", pot=pot), 27.0)[1].pot == pot
    drum = Container(name="Drum", shape="round", bottom_mm=130, height_mm=60)
    assert chosen_layout(BoxPlan(masters=(ONE,), shape="container", container=drum), 27.0)[1].diameter_mm == 130
    _, strip = chosen_layout(BoxPlan(masters=(ONE,), shape="contour", side_mm=12), 27.0)
    assert strip.outline is not None
    # a rectangle widened all round: its own area, a strip along each side, and a quarter circle at each corner
    assert strip.outline.area == pytest.approx(80 * 20 + 2 * (80 + 20) * 12 + pi * 12**2, rel=2e-3)


def test_one_strip_goes_round_masters_that_stand_side_by_side() -> None:
    two = Master(length_mm=30, width_mm=30, height_mm=15, volume_ml=10, count=2)
    _, near = chosen_layout(BoxPlan(masters=(two,), shape="contour", side_mm=12, gap_mm=10), 27.0)
    assert near.outline is not None
    assert near.outline.area < (70 + 24) * (30 + 24)  # less than the rectangle round the same two
