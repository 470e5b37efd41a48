"""The Master station: size and displacement that disagree by less than an error are settled, by more are a stop."""

import pytest

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.job_plan import JobContext, plan
from ufrin.core.job.master_station import answer_master

BLOCK = MasterInputs(length_mm=100, width_mm=100, height_mm=101)


def test_a_weight_whose_error_reaches_into_the_outside_is_cut_to_what_both_allow() -> None:
    # 900 g of hardwood at 0.55 to 0.90 g/ml (mean 0.725) displace 1000 to 1636 ml; a block of that size fills 1010
    wood = MasterInputs(length_mm=100, width_mm=100, height_mm=101, mass_g=900, material="hardwood", solid=True)
    answer = answer_master(wood, None)
    (raw,) = (one.measured for one in answer.ways)
    assert raw
    assert raw.volume_ml > 1010 > raw.volume_ml - raw.plus_minus_ml
    assert answer.measured
    low_ml = raw.volume_ml - raw.plus_minus_ml
    assert answer.measured.volume_ml == pytest.approx((low_ml + 1010) / 2)
    assert answer.measured.volume_ml + answer.measured.plus_minus_ml == pytest.approx(1010)
    (found,) = answer.findings
    assert (found.code, found.level) == ("cut-to-outside", "note")
    # and the box goes on with it
    made = plan(wood, BoxInputs(side_mm=10, over_mm=10), RubberInputs(), JobContext())
    assert made.box
    assert made.box.displaced_ml == pytest.approx(answer.measured.volume_ml)


def test_what_the_error_does_not_explain_is_a_stop() -> None:
    heavy = MasterInputs(length_mm=100, width_mm=100, height_mm=50, mass_g=900, material="hardwood", solid=True)
    assert [one.code for one in answer_master(heavy, None).findings] == ["more-than-outside"]
    assert answer_master(BLOCK, None).measured is None


def test_an_error_beyond_the_whole_volume_leaves_half_of_the_outside() -> None:
    # a jug read in marks of 80 ml, for a block of 1 ml
    rough = MasterInputs(
        length_mm=10, width_mm=10, height_mm=10, level_before_ml=100.0, level_after_ml=120.0, mark_ml=80.0
    )
    answer = answer_master(rough, None)
    assert answer.measured
    assert (answer.measured.volume_ml, answer.measured.plus_minus_ml) == (0.5, 0.5)
