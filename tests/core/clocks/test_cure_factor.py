"""What a shop learns of a rubber's times: brackets, a simulated shop, one odd reading, and the clocks that follow."""

from math import exp, inf
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.clocks.cure_clocks import CLOCK_KINDS, DEADLINES, cure_clocks
from ufrin.core.clocks.cure_factor import HAS_SET, LEARNT_FROM, TIN, Bracket, CureFactor, Reading, bracket, learn_factor

TIMES = {"pot-life": 30.0, "press": 5.0, "handling": 120.0, "demould": 240.0, "cast-in": 600.0, "full-cure": 1440.0}


def shop(true: float, pours: int, seed: int) -> list[Bracket]:
    """Pours of a rubber whose real time is known, each with a cup that is pressed three times."""
    random, found = Random(seed), []
    for _ in range(pours):
        sets_at = true * exp(random.gauss(0, 0.1))
        shares = sorted(random.uniform(0.3, 1.6) for _ in range(3))
        found.append(bracket([Reading(answer="set" if at >= sets_at else "sticky", share=at) for at in shares]))
    return found


@pytest.mark.parametrize("true", [0.7, 0.82, 1.0, 1.3])
def test_it_converges_on_a_simulated_shop(true: float) -> None:
    errors = {
        pours: [learn_factor(shop(true, pours, seed)).factor / true - 1 for seed in range(12)] for pours in (2, 30)
    }
    assert max(map(abs, errors[30])) < 0.12
    assert sum(map(abs, errors[30])) / 12 < 0.06
    spread = {pours: sum(error**2 for error in found) for pours, found in errors.items()}
    assert spread[30] < spread[2] / 2
    inside = [learn_factor(shop(true, 30, seed)).band for seed in range(12)]
    assert sum(low <= true <= high for low, high in inside) >= 7  # four of five, as the band is drawn


def test_few_pours_keep_near_the_tin_and_none_is_the_tin() -> None:
    one = learn_factor([Bracket(low=0.5, high=0.55)])
    many = learn_factor([Bracket(low=0.5, high=0.55)] * 12)
    assert many.factor < one.factor < 1
    assert many.factor == pytest.approx(0.525, rel=0.03)
    assert learn_factor([]) == TIN
    assert learn_factor([Bracket()]).pours == 0
    assert TIN.factor == 1


@pytest.mark.parametrize(
    "odd",
    [
        Bracket(low=2.0, high=2.2),
        Bracket(low=0.3, high=0.35),
        Bracket(high=1e-4),  # somebody tapped "set" on a cup that was just mixed
        Bracket(low=50.0),
    ],
)
def test_one_odd_reading_is_not_chased(odd: Bracket) -> None:
    usual = [Bracket(low=0.95, high=1.05)] * 6
    assert learn_factor([odd, *usual]).factor == pytest.approx(learn_factor(usual).factor, rel=0.03)


def test_a_late_look_tells_little_and_a_tight_one_much() -> None:
    # everybody looks the next morning: it had set, of course
    assert learn_factor([Bracket(high=3.0)] * 20).factor == pytest.approx(1, abs=0.02)
    assert learn_factor([Bracket(high=0.8)] * 20).factor < 0.8


def test_later_answers_count_before_earlier_ones_that_they_contradict() -> None:
    assert bracket([Reading(answer="set", share=0.6), Reading(answer="sticky", share=0.7)]) == Bracket(low=0.7)
    assert bracket([Reading(answer="liquid", share=0.2), Reading(answer="demoulded", share=1.1)]) == Bracket(
        low=0.2, high=1.1
    )
    assert bracket([Reading(answer="too-soft", share=1.2)]) == Bracket(low=1.2, high=inf)


answers = st.lists(
    st.builds(
        Reading, answer=st.sampled_from(["liquid", "sticky", "set", "demoulded", "too-soft"]), share=st.floats(0.05, 4)
    ),
    max_size=5,
)


@given(answers, st.floats(-0.5, 0.5), st.floats(0.02, 0.3))
def test_a_pours_own_factor_lies_in_its_bracket(readings: list[Reading], log_mean: float, log_sd: float) -> None:
    found, factor = bracket(readings), CureFactor(log_mean=log_mean, log_sd=log_sd, pours=3)
    assert found.low < found.high
    assert found.low <= factor.of_pour(found) <= found.high
    if readings:
        last = readings[-1]
        own = factor.of_pour(found)
        assert own <= last.share if last.answer in HAS_SET else own >= last.share


@given(st.floats(-0.5, 0.5), st.floats(0, 2000), st.floats(5, 40))
def test_what_was_learnt_moves_waits_both_ways_and_deadlines_only_forward(
    log_mean: float, elapsed_s: float, temp_c: float
) -> None:
    factor = CureFactor(log_mean=log_mean, log_sd=0.05, pours=5)
    tin = {clock.kind: clock for clock in cure_clocks(TIMES, elapsed_s, [(0, temp_c)])}
    learnt = {clock.kind: clock for clock in cure_clocks(TIMES, elapsed_s, [(0, temp_c)], factor=factor)}
    assert tuple(tin) == tuple(learnt) == CLOCK_KINDS
    for kind, clock in learnt.items():
        times = min(1.0, factor.factor) if kind in DEADLINES else factor.factor
        assert clock.end_s == pytest.approx(times * tin[kind].end_s)
        assert clock.early_s <= clock.end_s + 1e-6
        assert clock.end_s <= clock.late_s + 1e-6
        assert clock.is_over == (clock.left_s <= 0)
        assert clock.left_s == pytest.approx(clock.end_s - elapsed_s)


def test_the_band_is_that_of_the_two_ends_of_q10() -> None:
    (clock,) = cure_clocks({"demould": 240, "press": None}, 0, [(0, 33)])
    assert (clock.end_s, clock.late_s, clock.early_s) == pytest.approx((7200, 14400 / 1.8, 14400 / 2.5))
    (cold,) = cure_clocks({"demould": 240}, 0, [(0, 13)])
    assert (cold.early_s, cold.late_s) == pytest.approx((14400 * 1.8, 14400 * 2.5))


def test_a_cup_that_is_set_ends_the_clock_and_one_that_is_sticky_puts_it_off() -> None:
    at_s = 0.6 * 240 * 60
    (early,) = cure_clocks({"demould": 240}, at_s, [(0, 23)], found=Bracket(high=0.6))
    assert early.is_over
    (late,) = cure_clocks({"demould": 240}, 1.2 * 240 * 60, [(0, 23)], found=Bracket(low=1.2))
    assert not late.is_over
    assert 1.2 < late.end_s / 60 / 240 < 1.6


def test_the_newest_pours_teach_and_the_old_ones_are_forgotten() -> None:
    quick, slow = [Bracket(low=0.68, high=0.72)] * LEARNT_FROM, [Bracket(low=1.4, high=1.5)] * 200
    newest_first = learn_factor([*quick, *slow])
    assert newest_first.pours == LEARNT_FROM
    assert newest_first.factor == pytest.approx(0.70, abs=0.02)
    assert learn_factor([*slow, *quick]).factor > 1.3
