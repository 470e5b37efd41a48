"""Volumes of a box: gross, less displaced, less the bed; each by hand."""

import pytest

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.box_volumes import MOST_ML, box_volumes
from ufrin.core.box.inside import Inside
from ufrin.core.master.master_form import Master
from ufrin.errors import Refused

CUBE = Master(length_mm=40, width_mm=40, height_mm=40, volume_ml=64, count=2)
INSIDE = Inside(length_mm=100, width_mm=60)  # 6 ml for each mm of height


def test_what_is_displaced_and_the_bed_come_off() -> None:
    found = box_volumes(BoxPlan(masters=(CUBE,), filler_ml=15), INSIDE, 52)
    assert (found.gross_ml, found.displaced_ml, found.bed_ml) == pytest.approx((312.0, 2 * 64 + 15, 0.0))
    assert found.net_ml == pytest.approx(312 - 143)
    # 10 mm of bed, into which a quarter of each cube is sunk: 60 ml less 2 x 16 ml of it
    sunk = box_volumes(BoxPlan(masters=(CUBE,), bed_mm=10, sunk_mm=10), INSIDE, 52)
    assert sunk.bed_ml == pytest.approx(60 - 32)
    assert sunk.net_ml == pytest.approx(312 - 128 - 28)


def test_a_master_that_nobody_measured_counts_as_nothing() -> None:
    unknown = Master(length_mm=40, width_mm=40, height_mm=40, volume_ml=None, count=2)
    assert box_volumes(BoxPlan(masters=(unknown,)), INSIDE, 52).net_ml == pytest.approx(312.0)


def test_the_lip_of_a_tray_is_part_of_the_master() -> None:
    found = box_volumes(BoxPlan(masters=(CUBE,), shape="tray", lip_mm=5), INSIDE, 57)
    assert found.displaced_ml == pytest.approx(2 * 64 + 2 * 40 * 40 * 5 / 1000)
    assert box_volumes(BoxPlan(masters=(CUBE,), lip_mm=5), INSIDE, 57).displaced_ml == pytest.approx(128.0)


def test_a_box_beyond_belief_is_refused() -> None:
    wide = Inside(length_mm=4000, width_mm=5000)
    assert box_volumes(BoxPlan(masters=(CUBE,)), wide, 500).gross_ml == MOST_ML
    with pytest.raises(Refused, match="10"):
        box_volumes(BoxPlan(masters=(CUBE,)), wide, 501)
