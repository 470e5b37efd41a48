"""Free time of people and things: taken from, asked for, and given back; against a look at every second."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.schedule.free_time import PersonTime, ThingTime
from ufrin.core.schedule.steps import Thing, Worker

MORNING, AFTERNOON = (10, 20), (25, 40)


def person() -> PersonTime:
    return PersonTime(Worker(key="1", windows=(MORNING, AFTERNOON)))


@pytest.mark.parametrize(
    ("from_s", "takes_s", "wanted"),
    [(0, 5, 10), (12, 8, 12), (13, 8, 25), (0, 15, 25), (0, 16, None), (30, 10, 30), (31, 10, None), (20, 1, 25)],
)
def test_a_person_works_in_one_piece_within_their_hours(from_s: int, takes_s: int, wanted: int | None) -> None:
    assert person().next_s(from_s, takes_s) == wanted


def test_what_is_taken_is_gone_until_it_is_given_back() -> None:
    one = person()
    one.take(12, 18)
    assert one.next_s(10, 2) == 10  # just before it
    assert one.next_s(10, 3) == 25
    assert one.next_s(11, 2) == 18  # just after it
    one.give_back(12, 18)
    assert one.next_s(10, 3) == 10
    one.take(15, 15)  # nothing is taken by no time
    one.give_back(15, 15)
    assert one.next_s(14, 3) == 14


spans = st.tuples(st.integers(0, 60), st.integers(1, 15)).map(lambda one: (one[0], one[0] + one[1]))


@given(st.lists(spans, max_size=4), st.integers(0, 50), st.integers(1, 12))
def test_a_persons_next_time_is_the_first_that_is_free(taken: list[tuple[int, int]], from_s: int, takes_s: int) -> None:
    one = person()
    for begin, end in taken:
        one.take(begin, end)
    busy = {second for begin, end in taken for second in range(begin, end)}
    at_work = {second for begin, end in (MORNING, AFTERNOON) for second in range(begin, end)}
    free = [at for at in range(from_s, 60) if all(second in at_work - busy for second in range(at, at + takes_s))]
    # a piece of time lies in one window: here the windows do not touch
    assert one.next_s(from_s, takes_s) == (free[0] if free else None)


@given(st.lists(spans, max_size=5), st.integers(0, 50), st.integers(1, 12), st.integers(1, 3))
def test_so_many_of_a_thing_are_free_all_through(
    taken: list[tuple[int, int]], from_s: int, takes_s: int, number: int
) -> None:
    pots = ThingTime(Thing(key="pot", count=3, away=((5, 9),)))
    for begin, end in taken:
        pots.take(begin, end, 1)
    all_taken = [*taken, (5, 9)]

    def is_free(at: int) -> bool:
        return all(
            sum(begin <= second < end for begin, end in all_taken) + number <= 3 for second in range(at, at + takes_s)
        )

    at = pots.next_s(from_s, takes_s, number)
    assert is_free(at)
    assert not any(is_free(earlier) for earlier in range(from_s, at))


def test_several_are_taken_and_given_back_at_once() -> None:
    ovens = ThingTime(Thing(key="oven", count=3))
    ovens.take(0, 10, 2)
    assert ovens.next_s(0, 5, 1) == 0
    assert ovens.next_s(0, 5, 2) == 10
    ovens.give_back(0, 10, 2)
    assert ovens.next_s(0, 5, 3) == 0
    ovens.take(4, 4, 3)
    assert ovens.next_s(0, 9, 3) == 0
