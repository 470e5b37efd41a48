"""The hardness of a job: a target becomes a dose or a share of a second rubber that comes to it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.hardness_station import HardnessAnswer, answer_hardness
from ufrin.core.job.job_plan import JobContext, plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.blends import blend_mpa
from ufrin.core.rubber.tins import Rubber

FIRM = Rubber(name="Saltmarsh 25", weight_a=10, weight_b=1, sg_mixed=1.1, hardness=25, hardness_scale="A")
SOFT = Rubber(name="Estuary 5", weight_a=10, weight_b=1, sg_mixed=1.1, hardness=5, hardness_scale="A")
THINNER = Additive(name="Slack water", kind="thinner")


def answer(inputs: RubberInputs, **picks: Rubber | Additive) -> HardnessAnswer:
    return answer_hardness(None, BoxInputs(), None, inputs, ShelfPicks(**picks))


@given(st.floats(8, 24))
def test_the_dose_for_a_target_comes_to_it(shore: float) -> None:
    found = answer(RubberInputs(target_shore=shore), rubber=FIRM, thinner=THINNER)
    if found.refused is not None:  # softer than any dose that somebody has figures for
        assert found.shown is not None
        return
    assert found.solved is not None
    assert found.solved.shore("A") == pytest.approx(shore, abs=0.01)
    assert found.shown == found.solved
    again = answer(RubberInputs(thinner_parts=found.solved_parts), rubber=FIRM, thinner=THINNER)
    assert again.now is not None
    assert again.now.modulus_mpa == pytest.approx(found.solved.modulus_mpa)


@given(st.floats(6, 24))
def test_the_share_of_a_softer_rubber_comes_to_the_target_too(shore: float) -> None:
    found = answer(RubberInputs(target_shore=shore), rubber=FIRM, blend=SOFT)
    assert found.share_pct is not None
    assert found.target is not None
    assert FIRM.reading is not None
    assert SOFT.reading is not None
    assert blend_mpa(FIRM.reading, SOFT.reading, found.share_pct / 100) == pytest.approx(found.target.modulus_mpa)


def test_what_is_out_of_reach_is_refused_and_the_rest_stays() -> None:
    found = answer(RubberInputs(target_shore=60.0), rubber=FIRM, blend=SOFT)
    assert found.refused is not None
    assert found.share_pct is None
    assert found.base is not None
    assert found.now is not None
    nothing = answer(RubberInputs(target_shore=20.0))
    assert (nothing.curve, nothing.shown, nothing.effects) == (None, None, None)


def test_the_thinnest_rubber_and_the_largest_side_count_for_what_suits_the_mould() -> None:
    master, box = MasterInputs(length_mm=300, width_mm=300, height_mm=40), BoxInputs(side_mm=4, over_mm=20)
    made = plan(master, box, RubberInputs(), JobContext(), OpeningInputs(style="open"))
    plain = answer_hardness(None, BoxInputs(), None, RubberInputs(), ShelfPicks())
    found = answer_hardness(made.master.size_mm, box, made.box, RubberInputs(), ShelfPicks())
    assert any("[4.0 length]" in reason for reason in found.wanted.reasons)
    assert found.wanted.hardness.shore > plain.wanted.hardness.shore
