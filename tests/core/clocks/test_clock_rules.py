"""Moments, the pot life in a changing room, room notes, and the learnt factor against scipy's own integration."""

from math import exp, inf, log, sqrt

import pytest
from records import at

from ufrin.core.clocks.cure_clocks import CureClock
from ufrin.core.clocks.cure_factor import TIN, Bracket, CureFactor, Reading, bracket, learn_factor
from ufrin.core.clocks.pot_life import pot_life
from ufrin.core.clocks.room_log import RoomReading, notes_since


def test_a_moment_counts_by_the_steady_clock_unless_the_machine_was_restarted() -> None:
    began = at(100)
    assert at(160, clock_moved_s=3600).since_s(began) == pytest.approx(60)
    assert at(5, machine="restarted", clock_moved_s=155).since_s(began) == pytest.approx(60)
    assert at(40).since_s(began) == 0
    assert at(160, clock_moved_s=-3600).clock_moved_s(began) == pytest.approx(-3600)
    assert at(160, machine="restarted", clock_moved_s=99).clock_moved_s(began) == 0


def test_a_clock_at_another_time_keeps_its_ends() -> None:
    clock = CureClock(kind="demould", elapsed_s=10, end_s=600, early_s=500, late_s=700)
    later = clock.after(550)
    assert later == CureClock(kind="demould", elapsed_s=550, end_s=600, early_s=500, late_s=700)
    assert (later.left_s, later.is_over, clock.after(600).is_over) == (50, False, True)


def test_a_pot_life_runs_twice_as_fast_ten_degrees_warmer() -> None:
    # 30 min at 23 °C; 10 min of it at 23, then 5 at 33, where each counts twice: 20 of 30 are used up
    run = pot_life(30, 900, [(-60, 23), (600, 33), (1200, 43)])
    assert run.used == pytest.approx(20 / 30)
    assert run.elapsed_s == 900
    assert run.whole_min == pytest.approx(15)
    assert run.left_s == pytest.approx(300)
    # what will be noted later says how warm it was from the start, where nothing else does
    assert pot_life(30, 300, [(600, 33)]).used == pytest.approx(10 / 30)
    assert pot_life(30, 300, []).used == pytest.approx(5 / 30)
    assert pot_life(30, 600, [(0, 23), (600, 33)]).whole_min == pytest.approx(15)
    # a minute after it began, not at once
    assert pot_life(30, 600, [(0, 33), (60, 23)]).used == pytest.approx((2 + 9) / 30)


def test_room_notes_are_put_in_order_and_the_last_before_the_start_counts_from_it() -> None:
    start = at(1000)

    def noted(second: float, temp_c: float) -> RoomReading:
        return RoomReading(at=at(second), temp_c=temp_c)

    readings = [noted(1600, 19.0), noted(400, 30.0), noted(1030, 26.0), noted(900, 21.0)]
    assert notes_since(start, readings) == ((0.0, 21.0), (0.5, 26.0), (10.0, 19.0))
    assert notes_since(start, [noted(1600, 19.0)]) == ((0.0, 23.0), (10.0, 19.0))


@pytest.mark.parametrize(
    "brackets",
    [
        [Bracket(low=0.7, high=0.9)],
        [Bracket(low=0.8), Bracket(high=1.1), Bracket(low=0.6, high=0.75)],
        [Bracket(low=1.2, high=1.4), Bracket(high=0.5), Bracket(low=1.1)],
    ],
)
def test_the_learnt_factor_is_the_posterior_by_another_integration(brackets: list[Bracket]) -> None:
    from scipy.integrate import quad
    from scipy.stats import norm

    def weight(mu: float) -> float:
        product = norm.pdf(mu, 0, 0.25)
        for one in brackets:
            low, high = (log(one.low) if one.low else -inf), (log(one.high) if one.high < inf else inf)
            inside = norm.cdf(high, mu, 0.1) - norm.cdf(low, mu, 0.1)
            product *= 0.95 * inside + 0.05 * (norm.cdf(high) - norm.cdf(low))
        return float(product)

    whole, first, second = (
        quad(lambda mu, power=power: mu**power * weight(mu), -1.6, 1.6, limit=400)[0] for power in (0, 1, 2)
    )
    learnt = learn_factor(brackets)
    assert learnt.log_mean == pytest.approx(first / whole, abs=1e-4)
    assert learnt.log_sd == pytest.approx(sqrt(second / whole - (first / whole) ** 2), rel=1e-3)
    assert learnt.pours == len(brackets)


def test_quantiles_of_a_pour_lie_in_its_bracket_by_the_normal_distribution() -> None:
    from scipy.stats import norm

    factor = CureFactor(log_mean=log(0.9), log_sd=0.2, pours=5)
    spread = sqrt(0.2**2 + 0.1**2)
    low, high = 0.8, 1.1
    at_share = 0.3
    begins, ends = (norm.cdf(log(one), log(0.9), spread) for one in (low, high))
    wanted = exp(norm.ppf(begins + at_share * (ends - begins), log(0.9), spread))
    assert factor.quantile(Bracket(low=low, high=high), at_share) == pytest.approx(wanted)
    assert factor.quantile(Bracket(low=low), 0.5) == pytest.approx(exp(norm.ppf((begins + 1) / 2, log(0.9), spread)))
    assert factor.quantile(Bracket(high=high), 0.5) == pytest.approx(exp(norm.ppf(ends / 2, log(0.9), spread)))
    assert factor.quantile(Bracket(low=0.5), 0.5) < factor.quantile(Bracket(low=0.85), 0.5)
    # far off anything to be expected: the nearest end counts
    assert factor.quantile(Bracket(low=40.0, high=41.0), 0.5) == 40.0
    assert factor.quantile(Bracket(low=0.01, high=0.011), 0.5) == pytest.approx(0.011, rel=1e-5)
    assert factor.quantile(Bracket(low=0.01, high=0.011), 0.5) < 0.011
    assert factor.quantile(Bracket(high=0.011), 0.5) < 0.011


def test_a_later_answer_counts_before_an_earlier_one_that_it_contradicts() -> None:
    sticky = Reading(answer="sticky", share=0.8)
    assert bracket([sticky, Reading(answer="set", share=0.8)]) == Bracket(high=0.8)
    assert bracket([Reading(answer="set", share=0.6), sticky]) == Bracket(low=0.8)
    assert bracket([sticky, Reading(answer="set", share=1.0), Reading(answer="set", share=0.9)]).high == 0.9
    assert TIN.of_pour(Bracket()) == pytest.approx(1)
