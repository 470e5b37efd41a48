"""Learnt amounts on a simulated shop, and trials against the figures of published tables."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.casting.next_amount import PastShot, next_amount
from ufrin.core.casting.two_ways import compare_good, compare_grades, laid_out
from ufrin.errors import Refused


def test_fifteen_then_ten_which_was_enough_four_times() -> None:
    lefts = (0.9, 0.7, 0.8, 0.6)
    shots = [PastShot(mixed_g=15, left_g=5.5), *(PastShot(mixed_g=10, left_g=left) for left in lefts)]
    learnt = next_amount(shots, 80)
    assert learnt is not None
    assert [(one.g, one.times, one.enough) for one in learnt.tried] == [(15, 1, 1), (10, 4, 4)]
    # needs 9.1 9.2 9.3 9.4 9.5: for four shots of five 9.42 is enough
    assert learnt.g == pytest.approx(9.42)
    assert learnt.shots == 5


def test_no_amount_is_learnt_that_could_not_fill_the_cavity() -> None:
    # 400 g into two cavities of 393 ml at 1.1 g/ml: neither can have been full
    short = [PastShot(mixed_g=400, left_g=10, cavities=2, was_short=True)]
    alone, filling = next_amount(short, 80), next_amount(short, 80, least_g=393 * 1.1)
    assert alone is not None
    assert filling is not None
    assert (alone.g, filling.g) == (pytest.approx(214.5), pytest.approx(432.3))
    more = next_amount([PastShot(mixed_g=500, left_g=10)], 80, least_g=393 * 1.1)
    assert more is not None
    assert more.g == pytest.approx(490)


def test_amounts_are_learnt_for_a_cavity() -> None:
    learnt = next_amount([PastShot(mixed_g=41, left_g=1, cavities=4)], 80)
    assert learnt is not None
    assert learnt.g == pytest.approx(10)
    assert learnt.tried[0].g == pytest.approx(10.25)


@pytest.mark.parametrize("confidence", [60, 80, 95])
def test_it_is_enough_as_often_as_the_shop_chose(confidence: float) -> None:
    chance, enough = np.random.default_rng(7), []
    for _ in range(20):  # shops
        needs = chance.normal(50, 2, 2200)
        learnt = next_amount([PastShot(mixed_g=60, left_g=60 - need) for need in needs[:200]], confidence)
        assert learnt is not None
        enough.append(np.mean(needs[200:] <= learnt.g))
    assert np.mean(enough) == pytest.approx(confidence / 100, abs=0.02)


def test_shots_that_ran_short_raise_the_amount_and_are_not_taken_for_the_need() -> None:
    chance = np.random.default_rng(3)
    needs = chance.normal(50, 2, 200)
    mixed = chance.uniform(48, 54, 200)
    shots = [
        PastShot(mixed_g=has, was_short=True) if need > has else PastShot(mixed_g=has, left_g=has - need)
        for need, has in zip(needs, mixed, strict=True)
    ]
    learnt = next_amount(shots, 80)
    assert learnt is not None
    assert learnt.g == pytest.approx(np.quantile(needs, 0.8), abs=0.7)
    # as if what was short had been the need, it would be less than it takes
    naive = np.quantile([one.needed_g for one in shots], 0.8)
    assert naive < learnt.g


def test_one_odd_shot_does_not_set_the_amount() -> None:
    usual = [PastShot(mixed_g=12, left_g=2 + 0.01 * number) for number in range(30)]
    learnt = next_amount([*usual, PastShot(mixed_g=40, left_g=1)], 80)
    assert learnt is not None
    assert learnt.g < 10.1


def test_after_nothing_but_shortage_a_tenth_more_is_mixed() -> None:
    learnt = next_amount([PastShot(mixed_g=10, was_short=True)], 80)
    assert learnt is not None
    assert learnt.g == pytest.approx(11)
    known = next_amount([PastShot(mixed_g=10, was_short=True, missing_g=3)], 80)
    assert known is not None
    assert known.g == pytest.approx(13)
    assert next_amount([], 80) is None


@given(
    st.lists(st.tuples(st.floats(5, 50), st.floats(0, 0.9), st.booleans()), min_size=1, max_size=20), st.floats(50, 98)
)
def test_more_certainty_never_asks_for_less(shots: list[tuple[float, float, bool]], confidence: float) -> None:
    past = [PastShot(mixed_g=g, left_g=0 if short else share * g, was_short=short) for g, share, short in shots]
    less, more = next_amount(past, confidence), next_amount(past, confidence + 1)
    assert less is not None
    assert more is not None
    assert less.g <= more.g + 1e-9
    assert sum(one.times for one in more.tried) == len(past)


def test_the_tea_tasting_of_fisher_1935() -> None:
    # three of four cups told rightly: p = 0.486, two-sided (Fisher, The Design of Experiments, 1935)
    told = compare_good((3, 1), (1, 3))
    assert told.chance == pytest.approx(34 / 70)
    assert told.verdict == "no difference"


def test_twins_of_convicts_in_fisher_1925() -> None:
    # 10 of 13 against 2 of 17: one-sided 0.000465 (Statistical Methods for Research Workers)
    told = compare_good((10, 3), (2, 15))
    assert told.verdict == "first"
    assert told.chance == pytest.approx(0.000537, abs=1e-5)
    assert compare_good((2, 15), (10, 3)).verdict == "second"


def test_three_of_each_are_too_few_whatever_came_out() -> None:
    assert compare_good((3, 0), (0, 3)).verdict == "too few"
    assert compare_grades([4, 5, 6], [1, 2, 3]).verdict == "too few"
    with pytest.raises(Refused):
        compare_good((0, 0), (3, 0))


def test_grades_by_mann_and_whitney() -> None:
    # five against five with none mixed: 2 of the 252 orders are as extreme
    told = compare_grades([6, 7, 8, 9, 10], [1, 2, 3, 4, 5])
    assert told.verdict == "first"
    assert told.chance == pytest.approx(2 / 252)
    assert compare_grades([1, 2, 3, 4, 5], [6, 7, 8, 9, 10]).verdict == "second"
    assert compare_grades([3, 3, 3, 3, 3], [3, 3, 3, 3, 3]).verdict == "no difference"


@given(st.integers(2, 60), st.integers(0, 2**32))
def test_a_layout_gives_each_way_its_half_all_along(places: int, seed: int) -> None:
    ways = laid_out(places, seed)
    assert len(ways) == places
    for begin in range(0, places - 1, 2):
        assert {ways[begin], ways[begin + 1]} == {"first", "second"}
    assert ways == laid_out(places, seed)


def test_layouts_differ() -> None:
    assert len({laid_out(8, seed) for seed in range(40)}) > 8


def test_the_newest_shots_teach_and_the_old_ones_are_forgotten() -> None:
    old, new = [PastShot(mixed_g=100.0)] * 250, [PastShot(mixed_g=20.0, left_g=1.0)] * 200
    learnt = next_amount([*old, *new], 80)
    assert learnt is not None
    assert (learnt.g, learnt.shots) == (pytest.approx(19.0), 200)
    assert [(one.g, one.times) for one in learnt.tried] == [(20.0, 200)]
    before = next_amount([*new, *old], 80)
    assert before is not None
    assert before.g == pytest.approx(100.0)
