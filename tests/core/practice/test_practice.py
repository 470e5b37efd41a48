"""A practice from its first line to its review, worked through by a maker who notices, and by one who does not."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from practising import TIDELINE, Maker, set_up
from thoroughness import examples

from ufrin.core.practice.levels import LEVELS, MISHAPS, SPEED, Mishap, MishapKind
from ufrin.core.practice.practice_lines import Act, moment, poured_by
from ufrin.core.practice.practice_replay import practice_table
from ufrin.core.practice.practice_review import PastPractice, progress, review

TOO_MUCH, WRONG_A, CALLED, DRIFT = (
    Mishap(kind="too-much", part="B"),
    Mishap(kind="wrong-part", part="A"),
    Mishap(kind="pot-life", part="B"),
    Mishap(kind="drift", part="A"),
)


def until(maker: Maker, kind: str) -> None:
    while maker.table.step.kind != kind:
        maker.step()


@examples(15)
@given(a=st.floats(1, 10), b=st.floats(1, 10), level=st.sampled_from(list(LEVELS)))
def test_where_nothing_is_planted_the_record_is_the_truth(a: float, b: float, level: str) -> None:
    maker = Maker(set_up((), level=level, rubber=replace(TIDELINE, weight_a=a, weight_b=b)))  # type: ignore[arg-type]
    found = review(maker.work())
    assert found.is_well
    for part in found.parts:
        assert part.recorded_g == pytest.approx(part.truly_g, abs=0.11)
    assert found.ratio_error_pct == pytest.approx(0, abs=TIDELINE.tolerance_pct)
    assert found.mishaps == ()


@pytest.mark.parametrize("mishap", [TOO_MUCH, replace(TOO_MUCH, part="A"), WRONG_A, CALLED, DRIFT])
def test_whoever_notices_pours_a_good_cup(mishap: Mishap) -> None:
    found = review(Maker(set_up([mishap]), notices=MISHAPS).work())
    (met,) = found.met
    assert met.kind == mishap.kind
    assert met.is_mastered
    assert met.took_s is not None
    assert found.is_well
    assert found.false_alarms == 0


@pytest.mark.parametrize("mishap", [WRONG_A, replace(WRONG_A, part="B"), DRIFT])
def test_whoever_does_not_notice_pours_a_bad_one(mishap: Mishap) -> None:
    found = review(Maker(set_up([mishap])).work())
    (met,) = found.met
    assert not met.is_mastered
    assert met.noticed_s is None
    assert not found.is_well
    assert not found.is_close


def test_too_much_is_always_over_the_band_and_is_mended_where_it_is_taken_as_it_is_shown() -> None:
    maker = Maker(set_up([TOO_MUCH]))
    found = review(maker.work())
    grams = {one.part: one for one in found.parts}
    assert grams["B"].truly_g > 1.08 * grams["B"].planned_g
    assert grams["A"].truly_g > 1.08 * grams["A"].planned_g  # more A brought the ratio right
    assert found.is_well


def test_a_weight_typed_as_it_should_be_hides_that_too_much_ran_in() -> None:
    maker = Maker(set_up([TOO_MUCH]))
    until(maker, "weigh")
    maker.step()
    until(maker, "weigh")
    target_g = maker.table.step.target_g
    maker.pour(target_g)
    assert maker.table.courses["too-much"].began_s is not None
    maker.enter("weigh", ingredient="B", net_g=target_g)
    found = review(maker.work())
    assert not found.mishaps[0].is_mastered
    assert found.ratio_error_pct is not None
    assert found.ratio_error_pct > 8
    assert not found.is_well


def test_a_cup_with_something_of_the_wrong_tin_is_set_aside_and_another_is_good() -> None:
    maker = Maker(set_up([WRONG_A]))
    until(maker, "weigh")
    maker.pour(20.0)
    assert maker.table.tin == "B"
    maker.enter("wrong", ingredient="B", net_g=20.0)
    assert maker.table.cup is None
    assert maker.table.tin == ""
    found = review(maker.work())
    assert found.mishaps[0].is_mastered
    assert found.is_well
    assert poured_by(maker.table.cups[0].streams, maker.now_s).keys() == {"B"}


def test_whoever_calls_the_wrong_tin_too_late_must_set_the_cup_aside_all_the_same() -> None:
    maker = Maker(set_up([WRONG_A]))
    until(maker, "weigh")
    maker.pour(20.0)
    maker.call("wrong-part")
    assert maker.table.tin == "A"
    found = review(maker.work())
    assert found.mishaps[0].noticed_s is not None
    assert not found.mishaps[0].is_mastered
    assert not found.is_well


def test_a_call_takes_most_of_the_pot_life_and_none_of_the_real_time() -> None:
    maker = Maker(set_up([CALLED]))
    until(maker, "mix")
    clock = maker.table.bench.clock(moment(maker.now_s))
    assert clock is not None
    assert clock.left_s == pytest.approx(60 * (3 + 1 + 4), abs=SPEED)  # to mix, for a second cup, and to pour
    assert maker.table.skipped_s > 600
    assert maker.table.real_s(maker.now_s) == pytest.approx(maker.real_s)


def test_whoever_dawdles_pours_too_late() -> None:
    maker = Maker(set_up([CALLED]))
    until(maker, "pour")
    maker.enter("poured", after_s=600.0)
    found = review(maker.table)
    assert not found.mishaps[0].is_mastered
    assert found.left_s is not None
    assert found.left_s < 0
    assert not found.is_well


def test_a_batch_that_could_still_be_poured_is_given_up_for_nothing() -> None:
    for waits_s, is_right in ((1.0, False), (60.0, True)):  # after a minute there is too little left to mix
        maker = Maker(set_up([CALLED]))
        until(maker, "mix")
        maker.enter("discard", text="late", after_s=waits_s)
        assert maker.table.is_over
        found = review(maker.table)
        assert found.mishaps[0].noticed_s is not None
        assert found.mishaps[0].is_mastered == is_right
        assert found.is_well == is_right


def test_a_cup_set_aside_for_a_wrong_tin_does_not_give_the_batch_up() -> None:
    maker = Maker(set_up([CALLED, replace(WRONG_A, part="B")]))
    until(maker, "mix")
    maker.enter("wrong", ingredient="A", net_g=18.0)
    assert not maker.table.is_over
    found = review(maker.work())
    assert found.is_well


def test_throwing_away_what_could_be_mended_is_not_right() -> None:
    maker = Maker(set_up([TOO_MUCH]))
    until(maker, "weigh")
    maker.step()
    until(maker, "weigh")
    maker.pour(maker.table.step.target_g)
    maker.enter("discard", text="too much")
    found = review(maker.work())
    assert found.mishaps[0].noticed_s is not None
    assert not found.mishaps[0].is_mastered


def test_at_the_last_level_the_batch_is_given_up_and_that_ends_it_well() -> None:
    maker = Maker(set_up([CALLED], level="third"), notices=MISHAPS)
    found = review(maker.work())
    assert maker.table.poured is None
    assert found.is_well
    assert found.parts == ()


@pytest.mark.parametrize("level", list(LEVELS))
def test_a_scale_that_drifts_creeps_while_nothing_runs_and_another_one_shows_the_truth(level: str) -> None:
    maker = Maker(set_up([DRIFT], level=level))  # type: ignore[arg-type]
    until(maker, "weigh")
    maker.act("tip", "far")
    maker.act("stop", after_s=2.0)
    first, then = (maker.table.shown_g(maker.table.at_s(maker.real_s + s)) for s in (10.0, 20.0))
    assert then - first == pytest.approx(10 * LEVELS[level].drift_g_per_s, abs=0.11)  # type: ignore[index]
    maker.call("drift")
    net_g = maker.table.bench.attempt.net_g(maker.table.shown_g(maker.now_s), "x")
    assert net_g == pytest.approx(maker.table.truly_g(maker.now_s)["A"], abs=0.06)


def test_what_was_weighed_while_the_scale_drifted_is_corrected() -> None:
    maker = Maker(set_up([DRIFT]))
    until(maker, "weigh")
    maker.step()
    recorded_g = maker.table.bench.a_g
    truly_g = maker.table.truly_g(maker.now_s)["A"]
    assert recorded_g - truly_g > 1
    until(maker, "weigh")  # part B is in the hand already
    maker.call("drift")
    assert maker.table.bench.a_g == pytest.approx(truly_g, abs=0.01)
    assert maker.table.bench.step.kind == "weigh"
    assert review(maker.work()).is_well


def test_more_than_one_false_alarm_is_guessing() -> None:
    for alarms, is_well in ((1, True), (2, False)):
        maker = Maker(set_up([TOO_MUCH]), notices=MISHAPS)
        for _ in range(alarms):
            maker.call("drift")
        assert maker.table.answer == "none"
        found = review(maker.work())
        assert found.false_alarms == alarms
        assert found.is_well == is_well


def test_own_mistakes_may_be_called_as_well() -> None:
    maker = Maker(set_up([DRIFT]))
    until(maker, "weigh")
    maker.act("tip", "far")
    maker.act("stop", after_s=15.0)
    maker.call("too-much")
    assert maker.table.answer == "too-much"
    assert maker.table.false_alarms == 0


def test_nothing_runs_beside_a_cup_or_out_of_a_tin_that_is_not_asked_for() -> None:
    maker = Maker(set_up(()))
    maker.act("tip", "far")
    assert not maker.table.is_tipped
    until(maker, "hold")
    maker.act("tip", "far")
    assert not maker.table.is_tipped
    assert maker.table.load_g(maker.now_s) == pytest.approx(38.0)


def test_time_goes_on_and_never_back() -> None:
    table = practice_table(set_up(()), [Act(at_s=50.0, kind="cup")])
    assert table.at_s(1.0) == 50.0
    assert table.at_s(20.0) == 20 * SPEED


def test_progress_counts_each_level_and_each_kind() -> None:
    good = review(Maker(set_up([DRIFT]), notices=MISHAPS).work())
    bad = review(Maker(set_up([DRIFT])).work())
    past = [
        PastPractice(level="first", review=good),
        PastPractice(level="first", review=bad),
        PastPractice(level="first", review=good),
    ]
    found = progress(past, tuple(LEVELS))
    first, second, _ = found.levels
    assert (first.practised, first.well, first.is_mastered) == (3, 2, True)
    assert (second.practised, second.is_mastered) == (0, False)
    assert found.next_level == "second"
    by_kind: dict[MishapKind, tuple[int, int]] = {one.kind: (one.met, one.mastered) for one in found.mishaps}
    assert by_kind["drift"] == (3, 2)
    assert by_kind["too-much"] == (0, 0)
    assert progress(past[:1], tuple(LEVELS)).next_level == "first"
    took = next(one.took_s for one in found.mishaps if one.kind == "drift")
    assert took == pytest.approx(good.met[0].took_s)
