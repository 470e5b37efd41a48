"""The bench true to its method: which steps each way of working asks for, and what may be said at each of them."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from records import FULL, PLAN, Hand, at

from ufrin.core.clocks.room_log import RoomReading
from ufrin.core.weighing.bench_state import bench_state
from ufrin.core.weighing.method import Method
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.core.weighing.record_rules import lines, without_tare_g
from ufrin.core.weighing.top_up import bonding, scrap_g, top_up_batch
from ufrin.core.weighing.weigh_plan import WeighPlan, press_left_min
from ufrin.core.weighing.witness import asks_witness, next_look_s
from ufrin.errors import Refused

POURED = replace(PLAN, method=Method(least_mix_min=2.0, most_mix_min=4.0, air="clear"), family="addition-silicone")
PUTTY = replace(
    PLAN,
    how="putty",
    method=Method(how="putty", least_mix_min=0.75, most_mix_min=1.25),
    pot_life_min=2.0,
    press_min=5.0,
    demould_min=10.0,
    cast_in_min=60.0,
    full_cure_min=60.0,
)


def work(hand: Hand, *, until: str = "done") -> list[str]:
    """Do whatever comes next, and say what it was."""
    seen = []
    kinds = {"cup": "tare", "mix": "mixed", "pour": "poured"}
    while (step := hand.state.step).kind not in {"done", "cure"} and until not in {step.kind, step.key}:
        seen.append(step.key or step.kind)
        if step.kind == "do":
            hand.write("step", what=step.key, sure=True)
        elif step.kind == "hold":
            hand.write("hold")
        elif step.kind == "weigh":
            hand.write("weigh", step.target_g, sure=True)
        elif step.kind == "leftover":
            hand.write("leftover", 2.0)
        else:
            hand.write(kinds.get(step.kind, step.kind), sure=True)
    return seen


def with_air(air: str, **more: float) -> WeighPlan:
    return replace(POURED, method=replace(POURED.method, air=air, **more))


WEIGHED = ["cup", "hold", "weigh", "hold", "weigh", "mix"]


@pytest.mark.parametrize(
    ("plan", "steps"),
    [
        (POURED, ["stir-a", "shake-b", *WEIGHED, "scrape", "second-cup", "rest", "pour", "leftover", "finish"]),
        (
            with_air("vacuum", degas_min=4.0),
            ["stir-a", "shake-b", *WEIGHED, "scrape", "second-cup", "degas-rise", "degas-hold", "pour", "leftover"],
        ),
        (
            with_air("vibrate", vibrate_min=30.0),
            ["stir-a", "shake-b", *WEIGHED, "scrape", "second-cup", "pour", "vibrate", "leftover", "finish"],
        ),
        (
            with_air("pressure"),
            ["stir-a", "shake-b", *WEIGHED, "scrape", "second-cup", "pour", "pressure-on", "leftover", "finish"],
        ),
        # a fast rubber leaves no time for a second cup
        (replace(POURED, pot_life_min=5.0), ["stir-a", "shake-b", *WEIGHED, "scrape", "pour", "leftover", "finish"]),
        (PUTTY, ["lids-apart", "cup", "hold", "weigh", "hold", "weigh", "bring-together", "mix", "pour", "press-flat"]),
        # a record of an earlier version goes on as it was begun
        (PLAN, [*WEIGHED, "pour", "leftover", "finish"]),
    ],
)
def test_each_way_of_working_has_its_own_steps(plan: WeighPlan, steps: list[str]) -> None:
    hand = Hand(plan)
    assert work(hand)[: len(steps)] == steps
    assert hand.state.is_finished
    assert hand.state.step.kind == ("cure" if plan.method else "done")


def test_of_two_batches_each_is_scraped_and_the_mould_is_vibrated_once() -> None:
    plan = replace(FULL, method=replace(POURED.method, air="vibrate", vibrate_min=10.0))
    steps = work(Hand(plan))
    assert steps.count("stir-a") == 1
    assert steps.count("scrape") == 2
    assert steps.count("vibrate") == 1
    assert steps.index("vibrate") > max(index for index, step in enumerate(steps) if step == "pour")


def test_a_putty_meets_when_its_lumps_are_brought_together() -> None:
    hand = Hand(PUTTY)
    work(hand, until="bring-together")
    assert hand.state.attempt.contact is None
    assert hand.state.clock(at(hand.seconds)) is None
    hand.write("step", what="bring-together")
    contact = hand.state.attempt.contact
    assert contact == hand.state.entries[-1].at
    # its own window counts, not the pot life: 5 min at 23 degC
    assert hand.state.clock(at(hand.seconds + 60)).left_s == pytest.approx(240)
    assert press_left_min(PUTTY, 23.0) == 4.25
    assert press_left_min(PUTTY, 43.0) == pytest.approx(5 / 4 - 0.75)
    assert press_left_min(POURED, 23.0) is None


def test_a_step_that_took_no_time_is_asked_about_once() -> None:
    hand = Hand(POURED)
    work(hand, until="mix")
    with pytest.raises(Refused, match="needs at least"):
        hand.write("mixed")  # ten seconds after the last weight
    hand.seconds += 55
    hand.write("mixed")  # more than half of the two minutes
    hand.write("step", what="scrape")
    with pytest.raises(Refused, match="needs at least"):
        hand.write("step", what="second-cup")
    hand.write("step", what="second-cup", text="left out")
    with pytest.raises(Refused, match="not the step"):
        hand.write("step", what="scrape", sure=True)


@given(st.floats(50, 400), st.floats(-0.01, 0.01))
def test_a_weight_with_the_cups_content_in_it_is_understood(a_g: float, off: float) -> None:
    hand = Hand()
    hand.write("tare")
    hand.weigh(a_g)
    hand.write("hold")
    b_g = hand.state.step.target_g * (1 + off)
    assert without_tare_g(hand.state, a_g + b_g) == pytest.approx(b_g)
    assert without_tare_g(hand.state, b_g) is None
    assert without_tare_g(hand.state, a_g + 1.2 * b_g) is None
    with pytest.raises(Refused, match="cup not tared") as asked:
        hand.write("weigh", a_g + b_g)
    assert asked.value.field == "untared"
    hand.write("weigh", b_g)
    assert hand.state.attempt.poured_g["B"] == b_g


def test_of_equal_parts_the_whole_cup_is_not_taken_for_the_part() -> None:
    # 100 of A and 100 of B: 200 is twice the target, and no typing error but the whole cup
    even = replace(PLAN, b_per_a=1.0, batches=((PLAN.batches[0][0], replace(PLAN.batches[0][1], g=200.0)),))
    hand = Hand(even)
    hand.write("tare")
    hand.weigh(200.0)
    hand.write("hold")
    with pytest.raises(Refused, match="cup not tared"):
        hand.write("weigh", 400.0)


def cured(plan: WeighPlan = POURED) -> Hand:
    hand = Hand(plan)
    work(hand)
    return hand


def test_the_witness_cup_moves_the_clock_and_what_was_tapped_by_mistake_is_taken_back() -> None:
    hand = cured()
    contact = hand.state.attempt.contact
    before = hand.state.clocks.end_s("demould")
    assert before == pytest.approx(contact.wall_s + 960 * 60)
    hand.seconds = 960 * 60 * 0.6
    assert asks_witness(hand.state, at(hand.seconds))
    hand.write("witness", what="set")
    assert hand.state.clocks.end_s("demould") <= hand.state.entries[-1].at.wall_s
    assert not asks_witness(hand.state, at(hand.seconds))
    number = hand.state.entries[-1].number
    hand.write("retract", of_number=number)
    assert hand.state.clocks.end_s("demould") == before
    assert number not in {entry.number for entry in hand.state.valid}
    assert len(lines(hand.state)) == len(hand.entries)  # the record keeps both lines
    hand.write("witness", what="sticky")
    late = hand.state.clocks.of_mould(at(hand.seconds))
    assert not any(clock.is_over for clock in late if clock.kind == "demould")
    with pytest.raises(Refused, match="not one of the answers"):
        hand.write("witness", what="wet")
    with pytest.raises(Refused, match="noted with a tap"):
        hand.write("retract", of_number=2)


def test_the_cup_is_pressed_from_half_of_the_time_on_and_then_now_and_again() -> None:
    hand = cured()
    contact_s = hand.state.attempt.contact.steady_s
    whole_s = 960 * 60
    assert next_look_s(hand.state, at(contact_s)) == pytest.approx(whole_s / 2)
    assert not asks_witness(hand.state, at(contact_s + whole_s * 0.49))
    assert asks_witness(hand.state, at(contact_s + whole_s * 0.5))
    hand.seconds = contact_s + whole_s * 0.5 - 10
    hand.write("witness", what="liquid")
    assert next_look_s(hand.state, at(hand.seconds)) == pytest.approx(0.15 * whole_s, rel=0.3)
    untimed = cured(replace(POURED, demould_min=None))
    assert asks_witness(untimed.state, at(untimed.seconds))


def test_a_mould_is_taken_out_once_and_only_when_the_pour_is_finished() -> None:
    hand = Hand(POURED)
    work(hand, until="leftover")
    with pytest.raises(Refused, match="Finish the pour first"):
        hand.write("demould", what="well")
    work(hand)
    hand.write("demould", what="too-soft")
    assert not hand.state.is_demoulded
    hand.write("demould", what="well")
    assert hand.state.is_demoulded
    assert hand.state.step.kind == "done"
    with pytest.raises(Refused, match="out of its box already"):
        hand.write("demould", what="well")
    hand.write("found", what="bubbles")
    empty = Hand(POURED)
    with pytest.raises(Refused, match="Nothing is poured"):
        empty.write("witness", what="set")


def test_a_look_before_the_pour_cannot_be() -> None:
    hand = cured()
    early = replace(at(0), wall_s=at(0).wall_s)
    entry = RecordEntry(number=hand.state.next_number, at=early, kind="witness", what="set")
    from ufrin.core.weighing.record_rules import check_entry

    with pytest.raises(Refused, match="before A met B"):
        check_entry(hand.state, entry)


@given(st.floats(1, 400))
def test_a_top_up_has_the_ratio_and_fills_what_is_missing(volume_ml: float) -> None:
    batch = top_up_batch(POURED, volume_ml)
    a, b = (sum(one.g for one in batch if one.role == role) for role in "AB")
    assert b / a == pytest.approx(POURED.b_per_a)
    filled_ml = (a + b) / POURED.sg
    assert volume_ml * 1.02 < filled_ml < volume_ml * 1.26


def test_what_ran_short_is_mixed_at_the_bench_and_counts_as_need() -> None:
    hand = cured()
    planned = hand.state.needed_g
    hand.write("short", volume_ml=40.0)
    assert not hand.state.is_finished
    assert hand.state.step.kind == "cup"
    steps = work(hand)
    assert steps == [*WEIGHED, "scrape", "second-cup", "rest", "pour", "leftover", "finish"]  # the tins are stirred
    assert hand.state.needed_g == pytest.approx(planned + 40 * POURED.sg)
    assert hand.state.is_finished
    assert hand.state.short_ml == 40
    last = hand.state.batches[-1]
    assert sum(one.g for one in last) == pytest.approx(sum(one.g for one in top_up_batch(POURED, 40.0)))
    # its own clock: the mould is demoulded with the batch that was poured last
    assert hand.state.clocks.end_s("demould") > 960 * 60 + hand.state.attempts[0].contact.wall_s
    for wrong in (0.0, -1.0, float("nan"), 1e7):
        with pytest.raises(Refused, match="How much is missing"):
            hand.write("short", volume_ml=wrong)


def test_a_batch_that_was_left_out_stays_out_when_it_ran_short() -> None:
    plan = replace(FULL, method=POURED.method)
    hand = Hand(plan)
    work(hand, until="leftover")
    hand.write("leftover", 0.0)
    hand.write("finish")
    hand.write("short", volume_ml=30.0)
    work(hand)
    assert len(hand.state.batches) == 2
    assert hand.state.needed_g == pytest.approx(plan.need_g / 2 + 30 * plan.sg)


def test_a_shortfall_is_taken_back_only_before_its_cup_is_at_work() -> None:
    hand = cured()
    hand.write("short", volume_ml=40.0)
    number = hand.state.entries[-1].number
    hand.write("retract", of_number=number)
    assert hand.state.is_finished
    hand.write("short", volume_ml=40.0)
    number = hand.state.entries[-1].number
    hand.write("tare")
    with pytest.raises(Refused, match="at work already"):
        hand.write("retract", of_number=number)


def test_fresh_rubber_bonds_by_itself_while_the_first_is_tacky() -> None:
    fresh = bonding("addition-silicone", elapsed_min=60, demould_min=240, tacky_share=0.5)
    assert (fresh.while_tacky, fresh.tacky_left_min) == (True, 60)
    late = bonding("addition-silicone", elapsed_min=121, demould_min=240, tacky_share=0.5)
    assert not late.while_tacky
    assert "alcohol" in late.do
    assert bonding("", elapsed_min=None, demould_min=None, tacky_share=0.5).tacky_left_min is None
    assert scrap_g(40, 1.1) == pytest.approx(44)


def test_the_room_of_a_thermometer_moves_the_clocks() -> None:
    hand = cured()
    contact = hand.state.attempt.contact
    warm = [RoomReading(at=at(contact.steady_s + 3600), temp_c=33.0, thermometer="Wall")]
    state = bench_state(hand.plan, hand.entries, warm)
    assert state.clocks.end_s("demould") == pytest.approx(contact.wall_s + 3600 + (960 * 60 - 3600) / 2)
    assert state.room_temp_c == 33
    assert state.clocks.last_room.thermometer == "Wall"
