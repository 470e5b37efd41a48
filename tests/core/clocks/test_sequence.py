"""Steps dated forward from now and back from a wish."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.clocks.sequence import SequenceStep, backward, forward


def test_what_is_done_keeps_its_time_what_runs_its_end_and_the_rest_follows() -> None:
    steps = [
        SequenceStep(key="a", label="prepare", takes_s=100, done_at_s=900),
        SequenceStep(key="b", label="cure", takes_s=0, began_s=950, ends_s=1500),
        SequenceStep(key="c", label="take out", takes_s=60),
        SequenceStep(key="d", label="rest", takes_s=40, is_wait=True),
    ]
    dated = forward(steps, 1000)
    assert [(one.state, one.begins_s, one.ends_s) for one in dated] == [
        ("done", 900, 900),
        ("running", 950, 1500),
        ("to come", 1500, 1560),
        ("to come", 1560, 1600),
    ]
    late, missed_s = backward(steps, 1000, 2000)
    assert [(one.begins_s, one.ends_s) for one in late[2:]] == [(1900, 1960), (1960, 2000)]
    assert (late[1].state, late[1].ends_s, missed_s) == ("running", 1500, 0)
    assert backward(steps, 1000, 1590) == (dated, 10)
    assert backward([], 1000, 900) == ((), 100)


steps_of_any_job = st.lists(
    st.builds(
        SequenceStep,
        key=st.sampled_from("abcdef"),
        label=st.just("x"),
        takes_s=st.floats(0, 1e5),
        done_at_s=st.none() | st.floats(0, 1e6),
        ends_s=st.none() | st.floats(1e6, 2e6),
    ),
    min_size=1,
    max_size=8,
)


@given(steps_of_any_job, st.floats(0, 3e6))
def test_back_from_a_wish_is_as_late_as_it_can_be_and_never_earlier_than_now(
    steps: list[SequenceStep], ahead_s: float
) -> None:
    now_s = 1e6
    early = forward(steps, now_s)
    late, missed_s = backward(steps, now_s, now_s + ahead_s)
    to_come = [one for one in late if one.state == "to come"]
    assert missed_s == max(0.0, max(one.ends_s for one in early) - (now_s + ahead_s))
    assert all(one.begins_s >= now_s - 1e-6 for one in to_come)
    for one, other in zip(to_come, to_come[1:], strict=False):
        assert one.ends_s <= other.begins_s + 1e-6
    if to_come and not missed_s and late[-1].state == "to come":
        assert to_come[-1].ends_s == pytest.approx(now_s + ahead_s)
    assert [one.step for one in late] == steps


def test_what_follows_a_clock_that_is_over_begins_now_and_not_then() -> None:
    steps = [
        SequenceStep(key="cure", label="cure", takes_s=0, began_s=100, ends_s=700),
        SequenceStep(key="out", label="take out", takes_s=60),
    ]
    cure, out = forward(steps, 1000)
    assert (cure.ends_s, out.begins_s, out.ends_s) == (700, 1000, 1060)
    late, missed_s = backward(steps, 1000, 5000)
    assert (late[1].begins_s, missed_s) == (4940, 0)


@given(steps_of_any_job, st.floats(0, 3e6))
def test_nothing_to_come_begins_before_now_or_waits_for_nothing(steps: list[SequenceStep], now_s: float) -> None:
    at_s = now_s
    for one in forward(steps, now_s):
        if one.state == "running":
            at_s = max(at_s, one.ends_s)
        if one.state == "to come":
            assert one.begins_s == at_s
            at_s = one.ends_s
