"""The levels of practice: which mishaps are planted, and what is weighed."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from practising import TIDELINE

from ufrin.core.practice.levels import LEVELS, MISHAPS, LevelKey, planted
from ufrin.core.practice.practice_plan import left_after_call_min, practice_plan
from ufrin.core.weighing.method import FAST_POT_LIFE_MIN
from ufrin.errors import Refused

SEEDS = st.integers(0, 999_999)


@given(level=st.sampled_from(list(LEVELS)), seed=SEEDS)
def test_as_many_different_mishaps_as_the_level_says(level: LevelKey, seed: int) -> None:
    kinds = [mishap.kind for mishap in planted(LEVELS[level], seed)]
    assert len(set(kinds)) == len(kinds) == LEVELS[level].mishaps
    assert planted(LEVELS[level], seed) == planted(LEVELS[level], seed)


@given(seed=SEEDS, rare=st.sampled_from(MISHAPS))
def test_what_was_mastered_least_comes_first(seed: int, rare: str) -> None:
    mastered = {kind: 0 if kind == rare else 2 for kind in MISHAPS}
    assert [one.kind for one in planted(LEVELS["first"], seed, mastered)] == [rare]


def test_over_all_seeds_every_kind_and_every_part_is_met() -> None:
    met = {(one.kind, one.part) for seed in range(8) for one in planted(LEVELS["first"], seed)}
    assert {kind for kind, _ in met} == set(MISHAPS)
    assert {("too-much", "A"), ("too-much", "B"), ("wrong-part", "A"), ("wrong-part", "B")} <= met


@given(a=st.floats(1, 100), b=st.floats(1, 100))
def test_the_cup_has_two_hundred_grams_in_the_ratio_of_the_tin(a: float, b: float) -> None:
    plan = practice_plan(replace(TIDELINE, weight_a=a, weight_b=b))
    grams = {one.key: one.g for one in plan.batches[0]}
    assert sum(grams.values()) == pytest.approx(200.0)
    assert grams["B"] / grams["A"] == pytest.approx(b / a)


def test_a_putty_is_not_practised() -> None:
    with pytest.raises(Refused, match="kneaded"):
        practice_plan(replace(TIDELINE, form="putty"))


@given(pot_life_min=st.floats(FAST_POT_LIFE_MIN, 120), mix_min=st.floats(0.5, 5))
def test_whoever_is_called_away_finds_time_to_mix_and_pour_but_at_the_last_level(
    pot_life_min: float, mix_min: float
) -> None:
    plan = practice_plan(replace(TIDELINE, pot_life_min=pot_life_min, mix_least_min=mix_min))
    assert left_after_call_min(LEVELS["first"], plan) > mix_min + 1.0  # a second cup takes a minute
    assert left_after_call_min(LEVELS["third"], plan) < mix_min
