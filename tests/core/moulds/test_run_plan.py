"""The run planner: shots, days and moulds by hand, the chance by simulation, and what would meet a date."""

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.moulds.life_outlook import life_model
from ufrin.core.moulds.life_prior import LifePrior
from ufrin.core.moulds.run_plan import RunWish, plan_run, weekday, what_would_do, working_day
from ufrin.errors import Refused

MODEL = life_model(LifePrior(median_casts=25, factors=()))
MONDAY = date(2026, 3, 2).toordinal()
WEEK = frozenset({1, 2, 3, 4, 5})
WISH = RunWish(pieces=60, start_day=MONDAY, cavities=2, cycle_min=60, hours_a_day=6)


def planned(wish: RunWish = WISH, made: tuple[tuple[float, ...], ...] = (), chance_pct: float = 80):  # noqa: ANN201
    return plan_run(wish, MODEL, made, chance_pct=chance_pct, seed=3)


def test_shots_and_days_by_hand() -> None:
    # 60 pieces by 2 are 30 shots, 6 a day: five working days, Monday to Friday
    plan = planned()
    assert (plan.rounds, plan.casting_days) == (30, 5)
    assert date.fromordinal(plan.ends_day) == date(2026, 3, 6)
    # one of ten is flawed: 67 pieces are cast, 34 shots, six days over a weekend
    flawed = planned(replace(WISH, flawed_pct=10))
    assert (flawed.wish.gross_pieces, flawed.rounds, flawed.casting_days) == (67, 34, 6)
    assert date.fromordinal(flawed.ends_day) == date(2026, 3, 9)
    assert planned(replace(WISH, moulds_at_once=3)).rounds == 10


@given(st.integers(700_000, 800_000), st.integers(1, 40), st.sets(st.integers(1, 7), min_size=1))
def test_working_days_are_counted_one_by_one(start: int, number: int, chosen: set[int]) -> None:
    assert weekday(start) == date.fromordinal(start).isoweekday()
    day, counted = start - 1, 0
    while counted < number:
        day += 1
        counted += date.fromordinal(day).isoweekday() in chosen
    assert working_day(start, number, frozenset(chosen)) == day


def test_enough_moulds_for_the_chance_that_the_shop_wants() -> None:
    sure, unsure = planned(chance_pct=95), planned(chance_pct=50)
    assert sure.moulds >= unsure.moulds >= 1
    assert sure.chance >= 0.95
    # one mould fewer would not do
    total = sum(MODEL.left([0.0, 0.0], 3, stream=number).draws for number in range(1, sure.moulds))
    assert (total >= 60).mean() < 0.95
    # a mould that is there takes the place of a new one; a worn one hardly
    assert planned(made=((0.0, 0.0),), chance_pct=95).moulds <= sure.moulds - 1
    assert planned(made=((60.0, 60.0),), chance_pct=95).moulds >= sure.moulds - 1
    # as many at least as are cast in side by side
    assert planned(replace(WISH, moulds_at_once=5)).moulds == 5
    assert planned(replace(WISH, pieces=2), made=((0.0, 0.0),)).moulds == 0


def test_worn_cavities_make_nothing_more_and_new_moulds_have_all_of_theirs() -> None:
    # two of a mould's six cavities are left: 60 pieces are 30 shots of it; beside it a new mould makes six a shot
    six = replace(WISH, cavities=6)
    alone = planned(six, made=((20.0, 20.0),))
    assert (alone.pieces_a_shot, alone.rounds) == (2, 30)
    assert planned(replace(six, moulds_at_once=2), made=((20.0, 20.0),)).pieces_a_shot == 2 + 6
    assert (planned(six).pieces_a_shot, planned(six).rounds) == (6, 10)
    # what the worn one leaves is soon made by a new one of six, and takes more new ones of two
    wide, narrow = (planned(replace(WISH, pieces=300, cavities=number), made=((20.0, 20.0),)) for number in (6, 2))
    assert wide.moulds < narrow.moulds


def test_a_date_that_is_not_met_is_told_with_what_would_do() -> None:
    late = planned(replace(WISH, due_day=date(2026, 3, 4).toordinal()))
    assert late.late_days == 2
    other = what_would_do(late, MODEL, (), chance_pct=80, seed=3)
    assert other is not None
    assert other.wish.moulds_at_once == 2  # 15 rounds in three days
    assert other.late_days == 0
    assert what_would_do(planned(), MODEL, (), chance_pct=80, seed=3) is None
    impossible = planned(replace(WISH, pieces=100_0, due_day=MONDAY, cycle_min=350, cavities=1))
    assert what_would_do(impossible, MODEL, (), chance_pct=80, seed=3) is None


def test_the_successor_is_poured_before_casting_stops() -> None:
    def by(made: list[float], chance_pct: float) -> int | None:
        wish = RunWish(pieces=900, start_day=MONDAY, cavities=2, cycle_min=60, hours_a_day=2, mould_days=2)
        return plan_run(wish, MODEL, [made], chance_pct=chance_pct, seed=5).first_new_day

    sure, likely = by([10.0, 10.0], 95), by([10.0, 10.0], 50)
    assert sure is not None
    assert likely is not None
    assert sure <= likely
    # 4 pieces a day: the day on which the last shot that is counted on is made, less two days
    rounds = int(MODEL.left([10.0, 10.0], 5).at_least(0.8) // 2)
    assert by([10.0, 10.0], 80) == max(MONDAY, working_day(MONDAY, max(1, (rounds + 1) // 2), WEEK) - 2)
    assert by([80.0, 80.0], 90) == MONDAY  # at once


@pytest.mark.parametrize(
    ("changed", "says"),
    [
        ({"pieces": 0}, "How many pieces"),
        ({"cavities": 0}, "between 1 and 1000"),
        ({"cycle_min": 0}, "more than 0"),
        ({"hours_a_day": 25}, "at most 24"),
        ({"days": frozenset()}, "at least one"),
        ({"flawed_pct": 95}, "less than 90"),
        ({"due_day": MONDAY - 1}, "before the first day"),
        ({"cycle_min": 600}, "longer than a day"),
        ({"pieces": 1_000_000, "cavities": 1}, "worn out"),
    ],
)
def test_what_cannot_be_planned_says_why(changed: dict[str, object], says: str) -> None:
    with pytest.raises(Refused, match=says):
        planned(replace(WISH, **changed))  # type: ignore[arg-type]
