"""Weigh-up: the bench's steps from the record alone.

B follows A, what is wrong is mended or set aside, and the clock runs by real time.
"""

from collections.abc import Sequence
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from records import FULL, PLAN, A, B, Hand, at

from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.pot_life import pot_life
from ufrin.core.weighing.record_entries import EntryKind
from ufrin.core.weighing.record_rules import done_at, lines
from ufrin.core.weighing.weigh_plan import in_order, total_of
from ufrin.errors import Refused


def kinds(hand: Hand, weights: Sequence[float | None]) -> list[str]:
    seen = []
    hand.write("tare")
    for net_g in weights:
        step = hand.state.step
        seen.append(step.ingredient.key if step.ingredient else step.kind)
        hand.weigh(net_g)
    return [*seen, hand.state.step.kind]


def test_in_the_order_that_starts_the_clock_latest_and_colours_what_has_its_b() -> None:
    assert kinds(Hand(FULL), [None] * 4) == ["A", "thinner", "B", "pigment", "mix"]


def test_through_two_batches_to_the_end() -> None:
    hand = Hand(FULL)
    for left in (3.0, 5.0):
        hand.batch(None, None, None, None)
        hand.write("mixed")
        hand.write("poured")
        hand.write("leftover", left)
    assert hand.state.step.kind == "finish"
    done = hand.write("finish")
    assert done.is_finished
    assert done.used_g == pytest.approx(FULL.total_g - 8)
    assert sum(total_of(FULL.batches).values()) == pytest.approx(FULL.total_g)
    with pytest.raises(Refused, match="finished"):
        hand.write("tare")


def test_need_excess_and_demould_time_count_poured_cups_alone() -> None:
    hand = Hand(FULL)
    hand.batch(None, None, None, None)
    assert (hand.state.needed_g, hand.state.over_pct) == (0.0, None)
    assert hand.state.clocks.end_of_s(hand.state.attempt, "demould") is None
    hand.write("mixed")
    one = hand.write("poured")
    assert one.needed_g == pytest.approx(FULL.need_g / 2)
    assert one.over_pct == pytest.approx(100 * (FULL.total_g / FULL.need_g - 1))
    cup = one.attempts[0]
    assert cup.contact is not None
    assert one.clocks.end_of_s(cup, "demould") == pytest.approx(cup.contact.wall_s + 60 * FULL.demould_min)


@given(st.floats(50, 400), st.floats(0.5, 30))
def test_thinner_is_told_per_100_of_what_is_really_in_the_cup(a_g: float, thinner_g: float) -> None:
    hand = Hand(FULL)
    state = hand.batch(a_g, thinner_g)
    assert state.a_g == pytest.approx(a_g)
    assert state.thinner_parts == pytest.approx(100 * thinner_g / a_g)
    b_g = state.step.target_g
    state = hand.weigh(b_g)
    assert state.thinner_parts == pytest.approx(100 * thinner_g / (a_g + b_g))


@given(st.floats(20, 900))
def test_b_follows_the_a_that_was_really_poured(poured_g: float) -> None:
    state = Hand().batch(poured_g)
    assert state.step.target_g == pytest.approx(poured_g * 0.1)
    assert state.step.low_g <= state.step.target_g <= state.step.high_g


@given(st.floats(50, 400), st.floats(1, 80))
def test_whatever_was_poured_mending_ends_with_the_ratio(a_g: float, b_g: float) -> None:
    hand = Hand()
    hand.batch(a_g, b_g)
    for _ in range(2):
        if hand.state.step.ingredient is None:
            break
        assert hand.state.step.is_mend
        hand.weigh()
    assert hand.state.step.kind == "mix"
    assert abs(hand.state.ratio_error_pct(hand.state.attempt) or 0) <= PLAN.tolerance_pct + 1e-6
    assert all(
        hand.state.attempt.poured_g[key] >= poured - 1e-9 for key, poured in (("A", a_g), ("B", b_g))
    )  # nothing is taken out


def test_too_much_b_asks_for_the_a_that_mends_it_exactly() -> None:
    state = Hand().batch(200.0, 26.0)  # published: 60 g of A
    assert (state.step.kind, state.step.ingredient, state.step.is_mend) == ("hold", A, True)
    assert state.step.target_g == pytest.approx(60.0)
    assert state.after_ml() == pytest.approx(286 / 1.13)


@given(st.floats(0.2, 0.8), st.floats(60, 300), st.floats(5, 90))
def test_a_blend_is_mended_in_its_own_shares(second: float, a_g: float, b_g: float) -> None:
    both = [
        replace(A, g=200 * (1 - second)),
        replace(A, key="A2", g=200 * second),
        replace(B, g=20 * (1 - second)),
        replace(B, key="B2", g=20 * second),
    ]
    hand = Hand(replace(PLAN, batches=(in_order(both),)))
    hand.batch(a_g * (1 - second), None, b_g * (1 - second), None)
    for _ in range(6):
        if hand.state.step.kind == "mix":
            break
        hand.weigh()
    grams = hand.state.attempt.poured_g
    assert hand.state.step.kind == "mix"
    assert grams["A2"] / (grams["A"] + grams["A2"]) == pytest.approx(second, rel=0.05)


def test_the_wrong_part_sets_the_cup_aside_and_the_batch_begins_again() -> None:
    hand = Hand()
    hand.batch(200.0)
    hand.write("hold")
    state = hand.write("wrong", 12.0, ingredient="A")
    assert (state.step.kind, state.attempt.outcome, state.lost_g) == ("cup", "wrong", 212.0)
    again = hand.batch(None, None)
    assert (again.attempt.batch, again.step.kind, len(again.attempts)) == (0, "mix", 2)
    assert again.attempts[0].outcome == "wrong"
    with pytest.raises(Refused, match="Which part was poured"):
        hand.write("wrong", 5.0, ingredient="Z")


def test_a_cup_is_thrown_away_with_a_reason() -> None:
    hand = Hand()
    hand.batch(200.0)
    with pytest.raises(Refused, match="Say why"):
        hand.write("discard")
    assert hand.write("discard", text="a moth in it").step.kind == "cup"


@pytest.mark.parametrize(
    ("kind", "more", "says"),
    [
        ("weigh", {"net_g": 100.0}, "not what comes next"),
        ("poured", {}, "not what comes next"),
        ("hold", {"ingredient": "B"}, "not the part that comes next"),
        ("temperature", {"temp_c": 200.0}, "no room to pour in"),
        ("note", {"text": "x" * 401}, "400 is the most"),
        ("note", {"text": " "}, "Say why"),
        ("correction", {"of_number": 1, "net_g": 3.0, "text": "slip"}, "Only what was weighed"),
        ("correction", {"of_number": 99, "net_g": 3.0, "text": "slip"}, "Only what was weighed"),
    ],
)
def test_a_line_that_cannot_come_next_is_refused(kind: EntryKind, more: dict[str, object], says: str) -> None:
    hand = Hand()
    hand.write("tare")
    with pytest.raises(Refused, match=says):
        hand.write(kind, **more)
    assert len(hand.entries) == 2


@pytest.mark.parametrize(
    ("net_g", "says"),
    [
        (0.0, "more than nothing"),
        (-3.0, "more than nothing"),
        (2e6, "more than nothing"),
        (2000.0, "far from"),
        (20.0, "far from"),
    ],
)
def test_a_weight_that_is_a_slip_is_asked_about(net_g: float, says: str) -> None:
    hand = Hand()
    hand.write("tare")
    hand.write("hold")
    with pytest.raises(Refused, match=says):
        hand.write("weigh", net_g)
    if "far" in says:
        assert hand.write("weigh", net_g, sure=True).attempt.poured_g == {"A": net_g}


def test_more_cannot_be_left_over_than_went_in() -> None:
    hand = Hand()
    hand.batch(200.0, 20.0)
    hand.write("mixed")
    hand.write("poured")
    with pytest.raises(Refused, match="can't be left"):
        hand.write("leftover", 400.0)


def test_corrections_stand_beside_what_was_written() -> None:
    hand = Hand()
    hand.batch(200.0, 20.0)
    number = next(entry.number for entry in hand.entries if entry.kind == "weigh" and entry.ingredient == "B")
    state = hand.write("correction", 26.0, of_number=number, text="read 20, was 26")
    assert state.entries[number - 1].net_g == 20.0
    assert state.attempt.poured_g["B"] == 26.0
    assert state.step.is_mend  # what was within is not any more
    told = lines(state)[number - 1]
    assert (told.right_g, told.target_g, told.error_g) == (26.0, 20.0, 6.0)


def test_a_taken_scale_counts_from_its_own_zero() -> None:
    hand = Hand()
    hand.write("tare", gross_g=18.2, scale="Bench scale")
    hand.write("hold")
    state = hand.write("weigh", 200.0, gross_g=218.2, scale="Bench scale")
    assert (state.attempt.zero_g, state.attempt.scale) == (218.2, "Bench scale")
    typed = hand.weigh(20.0)  # it may stand on the scale too, so the zero is not to be trusted
    assert (typed.attempt.zero_g, typed.attempt.scale) == (None, "")


def test_the_clock_runs_from_first_contact() -> None:
    hand = Hand()
    assert hand.batch(200.0).clock(at(100)) is None
    hand.write("hold")
    contact = hand.seconds
    clock = hand.state.clock(at(contact + 600))
    assert clock is not None
    assert (clock.elapsed_s, clock.left_s, clock.phase) == (600, pytest.approx(35 * 60), "calm")
    phases = [hand.state.clock(at(contact + minutes * 60)).phase for minutes in (20, 28, 39, 46)]
    assert phases == ["calm", "soon", "now", "over"]


def test_what_is_put_down_before_it_is_poured_stops_the_clock() -> None:
    hand = Hand()
    hand.batch(200.0)
    hand.write("hold")
    state = hand.write("down")
    assert (state.step.kind, state.clock(at(hand.seconds))) == ("hold", None)
    hand.weigh(26.0)
    hand.write("hold")  # A again, to mend it
    assert hand.write("down").clock(at(hand.seconds)) is not None  # B is in the cup: that does not stop


def test_a_clock_that_is_set_does_not_move_the_pot_life() -> None:
    hand = Hand()
    hand.batch(200.0)
    hand.write("hold")
    contact = hand.state.attempt.contact
    assert contact is not None
    moved = at(hand.seconds + 600, clock_moved_s=-7200.0)
    assert hand.state.clock(moved).elapsed_s == 600
    assert moved.clock_moved_s(contact) == pytest.approx(-7200)
    rebooted = Moment(wall_s=contact.wall_s + 900, steady_s=3.0, machine="started anew")
    assert hand.state.clock(rebooted).elapsed_s == 900
    assert rebooted.clock_moved_s(contact) == 0
    backwards = Moment(wall_s=contact.wall_s - 50, steady_s=3.0, machine="started anew")
    assert hand.state.clock(backwards).elapsed_s == 0


def test_each_stretch_uses_the_pot_life_up_at_its_temperature() -> None:
    hand = Hand()
    hand.batch(200.0)
    hand.write("hold")
    contact = hand.seconds
    hand.seconds = contact + 15 * 60 - 10
    hand.write("temperature", temp_c=33.0)  # twice as fast from here on
    clock = hand.state.clock(at(contact + 25 * 60))
    assert clock is not None
    assert clock.used == pytest.approx(15 / 45 + 10 / 22.5)
    assert clock.left_s == pytest.approx((1 - clock.used) * 22.5 * 60)


@given(
    st.lists(st.tuples(st.floats(0, 3000), st.floats(5, 40)), min_size=1, max_size=5),
    st.floats(0, 3000),
    st.floats(0, 600),
)
def test_a_pot_life_is_only_ever_used_up(temps: list[tuple[float, float]], elapsed: float, more: float) -> None:
    temps = sorted(temps)
    assert pot_life(30, elapsed + more, temps).used >= pot_life(30, elapsed, temps).used - 1e-9


def test_a_correction_leaves_what_was_asked_for_as_it_was() -> None:
    hand = Hand()
    hand.batch(205.0, None)  # B follows the A that was noted: 20.5
    asked = dict(hand.state.targets_g)
    hand.write("correction", 200.0, of_number=4, text="read the wrong line")
    assert hand.state.targets_g == asked
    assert hand.state.a_g == 200.0
    # what is asked for from now on goes by the corrected weight
    assert hand.state.ratio_error_pct(hand.state.attempt) == pytest.approx(2.5)
    hand.write("correction", 205.0, of_number=4, text="it was right after all")
    assert hand.state.targets_g == asked
    assert hand.state.ratio_error_pct(hand.state.attempt) == pytest.approx(0)


@given(st.floats(0, 4000), st.floats(0, 1e6))
def test_what_a_device_kept_is_dated_when_it_was_done_and_never_out_of_order(since_s: float, late_s: float) -> None:
    hand = Hand(FULL)
    hand.write("tare")
    last = hand.state.entries[-1].at
    came = replace(last, wall_s=last.wall_s + since_s, steady_s=last.steady_s + since_s)
    done = done_at(hand.state, came, late_s)
    assert came.since_s(done) == pytest.approx(min(late_s, since_s), abs=1e-3)
    assert done.wall_s >= last.wall_s - 1e-3
    assert done.clock_moved_s(last) == pytest.approx(0, abs=1e-3)
    # a clock on the wall that was set back meanwhile changes nothing
    moved = replace(came, wall_s=came.wall_s - 7200)
    assert moved.since_s(done_at(hand.state, moved, late_s)) == pytest.approx(min(late_s, since_s), abs=1e-3)
