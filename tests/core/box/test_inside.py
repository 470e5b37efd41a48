"""What the inside of a box holds, by closed formulas."""

from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon

from ufrin.core.box.inside import Inside
from ufrin.core.shelf.containers import Pot

size = st.floats(1, 500)


@given(size, size, size)
def test_blocks_drums_cones_and_outlines(a: float, b: float, height: float) -> None:
    assert Inside(length_mm=a, width_mm=b).holds_ml(height) == pytest.approx(a * b * height / 1000)
    assert Inside(diameter_mm=a).holds_ml(height) == pytest.approx(pi / 4 * a * a * height / 1000)
    # the truncated cone: pi/12 h (D2 + D d + d2)
    cone = Inside(pot=Pot(bottom_mm=a, top_mm=b, height_mm=height))
    assert cone.holds_ml(height) == pytest.approx(pi / 12 * height * (a * a + a * b + b * b) / 1000)
    triangle = Inside(outline=Polygon([(0, 0), (a, 0), (0, b)]))
    assert triangle.holds_ml(height) == pytest.approx(a * b / 2 * height / 1000)


def test_nothing_is_held_below_the_board() -> None:
    for inside in (
        Inside(length_mm=50, width_mm=40),
        Inside(diameter_mm=50),
        Inside(outline=Polygon([(0, 0), (9, 0), (0, 9)])),
    ):
        assert inside.holds_ml(0) == inside.holds_ml(-3) == 0.0
