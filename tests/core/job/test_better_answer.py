"""What would make a job's amounts better, against the amounts worked out with the thing made better."""

import re
from dataclasses import replace

import pytest

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.better_answer import Improvement, improvements
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.rubber.tins import Rubber

RUBBER = Rubber(name="Saltmarsh 25", weight_a=100, weight_b=10, sg_mixed=1.13, pot_life_min=45, hardness=25)
BY_LEVEL = MasterInputs(length_mm=92, width_mm=78, height_mm=31, level_before_ml=500, level_after_ml=595, mark_ml=25)


def planned(master: MasterInputs = BY_LEVEL, rubber: RubberInputs | None = None, tin: Rubber = RUBBER) -> Plan:
    return plan(
        master,
        BoxInputs(),
        rubber or RubberInputs(rubber_id=1),
        JobContext(shelf=ShelfPicks(rubber=tin)),
        OpeningInputs(style="open", flat_back=True),
    )


def told(
    master: MasterInputs = BY_LEVEL, rubber: RubberInputs | None = None, *, tin: Rubber = RUBBER, room_c: float = 23.0
) -> dict[str, Improvement]:
    inputs = rubber or RubberInputs(rubber_id=1)
    return {one.key: one for one in improvements(planned(master, inputs, tin), master, inputs, room_c=room_c)}


def amounts(one: Improvement) -> list[float]:
    return [float(found) for found in re.findall(r"\[([\d.]+) ", one.sentence)]


def test_a_coarse_jug_is_named_with_the_rubber_that_hangs_on_it_and_a_better_way() -> None:
    one = told()["displacement"]
    off_ml, off_g, better_ml = amounts(one)
    assert off_g == pytest.approx(off_ml * 1.13, rel=0.01)
    # the same job with a displacement that is so much larger takes so much less rubber
    more = replace(BY_LEVEL, level_after_ml=595 + off_ml)
    first, second = planned().rubber, planned(more).rubber
    assert first is not None
    assert second is not None
    assert first.need_g - second.need_g == pytest.approx(off_g, rel=0.02)
    assert better_ml < off_ml / 2
    assert "Hung in water" in one.sentence


def test_of_several_masters_in_a_box_all_are_counted() -> None:
    inputs = RubberInputs(rubber_id=1)
    four = plan(
        BY_LEVEL,
        BoxInputs(count=4),
        inputs,
        JobContext(shelf=ShelfPicks(rubber=RUBBER)),
        OpeningInputs(style="open", flat_back=True),
    )
    found = {one.key: one for one in improvements(four, BY_LEVEL, inputs, room_c=23.0)}
    alone = told()["displacement"]
    assert amounts(found["displacement"]) == pytest.approx([4 * one for one in amounts(alone)], rel=0.01)


def test_a_fine_measurement_needs_no_other() -> None:
    fine = MasterInputs(length_mm=92, width_mm=78, height_mm=31, hung_reading_g=95.0, scale_step_g=0.1)
    assert "displacement" not in told(fine)


def test_a_room_that_was_typed_is_not_asked_for_and_one_that_was_not_is_by_how_the_pot_life_shrinks() -> None:
    one = told()["room"]
    assert amounts(one)[2:] == [pytest.approx(45 / 2**0.5, rel=0.01), 45.0]
    assert one.share_pct == pytest.approx(100 * (1 - 2**-0.5))
    assert "room" not in told(rubber=RubberInputs(rubber_id=1, room_temp_c=23.0))
    assert "room" not in told(room_c=21.0)
    assert "room" not in told(tin=replace(RUBBER, pot_life_min=None))


def test_the_usual_spare_is_named_until_it_was_learnt_or_typed() -> None:
    made = planned().rubber
    assert made is not None
    assert amounts(told()["spare"])[0] == pytest.approx(0.1 * made.need_g, abs=0.1)
    assert "spare" not in told(rubber=RubberInputs(rubber_id=1, spare_pct=5.0))
    for pours, says in ((0, "6 more pours"), (5, "1 more pour it"), (6, "")):
        learnt = plan(
            BY_LEVEL,
            BoxInputs(),
            RubberInputs(rubber_id=1),
            JobContext(shelf=ShelfPicks(rubber=RUBBER, past_over_pct=(6.0,) * pours)),
            OpeningInputs(style="open", flat_back=True),
        )
        assert learnt.rubber is not None
        # so many pours weigh more than what is usual
        assert (learnt.rubber.allowance.weight > 0.5) == (says == "")
        found = improvements(learnt, BY_LEVEL, RubberInputs(rubber_id=1), room_c=23.0)
        sentence = next((one.sentence for one in found if one.key == "spare"), "")
        assert says in sentence
        assert bool(sentence) == bool(says)


def test_what_leaves_most_open_comes_first_and_three_are_enough() -> None:
    coarse = replace(BY_LEVEL, mark_ml=100)
    inputs = RubberInputs(rubber_id=1)
    found = improvements(planned(coarse), coarse, inputs, room_c=23.0)
    assert len(found) == 3
    shares = [one.share_pct for one in found]
    assert shares == sorted(shares, reverse=True)
    assert {one.key for one in found} == {"room", "displacement", "spare"}


def test_nothing_is_said_before_there_is_a_pour() -> None:
    assert told(MasterInputs()) == {}
