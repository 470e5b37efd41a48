"""The rubber of each kind of mould, by hand."""

import pytest
from records import MASTER, worked_out

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.rubber_of_kinds import boxes_of_kinds, planned_ml, what_is_filled


def of(typed: BoxInputs, poured: RubberInputs | None = None) -> dict[str, float]:
    plan = worked_out(MASTER, typed)
    boxes = boxes_of_kinds(plan.masters, typed, rubber_sg=1.08, container=None, size_pm_mm=0.5)
    return planned_ml(boxes, plan.masters[0], plan.master, (poured or RubberInputs()).settled())


def test_each_kind_takes_what_its_own_box_or_coats_take() -> None:
    displaced_ml = worked_out().masters[0].volume_ml or 0.0
    found = of(BoxInputs(side_mm=10.0, over_mm=15.0))
    # a master of 60 x 40 x 35 mm: rubber over it, and for two halves as much under it
    assert found["open"] == found["slit"] == pytest.approx(80 * 60 * 50 / 1000 - displaced_ml)
    assert found["two-part"] == found["squeeze"] == pytest.approx(80 * 60 * 65 / 1000 - displaced_ml)
    # a squeeze mould has a flange and thin halves of its own, where nobody typed any
    assert of(BoxInputs())["squeeze"] == pytest.approx(100 * 80 * 51 / 1000 - displaced_ml)
    # a skin: its sides and its top, 0.5 mm and two coats of 2 mm
    coated_cm2 = (60 * 40 + 2 * (60 + 40) * 35) / 100
    skin = of(BoxInputs(), RubberInputs(coats=3.0, coat_mm=2.0))["skin"]
    assert skin == pytest.approx(coated_cm2 * 0.45)


def test_a_kind_that_cannot_be_made_is_left_out() -> None:
    assert "skin" not in of(BoxInputs(), RubberInputs(coats=99.0))
    assert what_is_filled("open", None, None, None, worked_out().master).size_mm is None
