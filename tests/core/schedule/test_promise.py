"""Promises: how long steps take is learnt from the shop, and the band holds what the draws come to."""

from math import exp, log, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.schedule.best_plan import best_plan
from ufrin.core.schedule.effort import Effort
from ufrin.core.schedule.promise import USUAL_SPREAD, USUAL_WEIGHT, LearntTimes, learn_times, promise
from ufrin.core.schedule.steps import After, Step, Work, Worker

HOUR = 3600
WORK = Work(
    steps=(
        Step(key="a", job="x", attended_s=HOUR, alone_s=HOUR),
        Step(key="b", job="x", attended_s=HOUR, after=(After(key="a"),)),
    ),
    people=(Worker(key="1", windows=((0, 9 * HOUR), (24 * HOUR, 33 * HOUR))),),
)


def test_before_the_shop_has_shown_anything_the_usual_counts() -> None:
    assert learn_times([]) == LearntTimes(median=1.0, spread=USUAL_SPREAD, pours=0)


def test_what_the_shop_shows_outweighs_the_usual_bit_by_bit() -> None:
    # by hand: n equal pours of 1.5 against four that went as planned
    for number in (1, 4, 40):
        learnt = learn_times([1.5] * number)
        mean = number * log(1.5) / (number + USUAL_WEIGHT)
        assert learnt.median == pytest.approx(exp(mean))
        squares = number * (log(1.5) - mean) ** 2 + USUAL_WEIGHT * (USUAL_SPREAD**2 + mean**2)
        assert learnt.spread == pytest.approx(sqrt(squares / (number + USUAL_WEIGHT)))
        assert learnt.pours == number
    assert learn_times([1.5] * 400).median == pytest.approx(1.5, rel=0.01)


@given(st.lists(st.floats(0.001, 1000), max_size=30))
def test_what_cannot_be_is_left_out(ratios: list[float]) -> None:
    learnt = learn_times(ratios)
    assert 0.3 <= learnt.median <= 4
    assert learnt.pours == sum(0.3 <= one <= 4 for one in ratios)


def test_steps_that_take_just_as_long_as_planned_have_no_band() -> None:
    plan = best_plan(lambda _: None, WORK, Effort(most_s=2.0))
    found = promise(WORK, "b", plan, LearntTimes(median=1.0, spread=1e-9, pours=9))
    assert (found.ends_s, found.early_s, found.late_s, found.in_time) == (3 * HOUR, 3 * HOUR, 3 * HOUR, 1.0)


def test_the_band_of_two_steps_is_that_of_the_sum_of_two_times() -> None:
    plan = best_plan(lambda _: None, WORK, Effort(most_s=2.0))
    found = promise(WORK, "b", plan, LearntTimes(median=1.2, spread=0.05, pours=9))
    # the second begins when the first and its hour alone are over: 1.2 + 1 + 1.2 h, spread 0.06 h each
    sigma_h = sqrt(2) * 1.2 * 0.05
    assert found.early_s / HOUR == pytest.approx(3.4 - 1.2816 * sigma_h, abs=0.04)
    assert found.late_s / HOUR == pytest.approx(3.4 + 1.2816 * sigma_h, abs=0.04)
    assert found.in_time == 0.0


def test_a_step_that_closing_time_pushes_out_is_promised_for_the_next_day() -> None:
    late = Work(
        steps=(
            Step(key="a", job="x", attended_s=8 * HOUR),
            Step(key="b", job="x", attended_s=HOUR, after=(After(key="a"),)),
        ),
        people=WORK.people,
    )
    plan = best_plan(lambda _: None, late, Effort(most_s=2.0))
    found = promise(late, "b", plan, LearntTimes(median=1.0, spread=0.05, pours=9))
    assert found.ends_s == 9 * HOUR
    assert found.late_s > 24 * HOUR
    assert 0.3 < found.in_time < 0.7
