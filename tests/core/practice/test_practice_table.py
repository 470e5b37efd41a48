"""The table of a practice: what runs out of a tin, and a cup that something wrong got into."""

import pytest

from ufrin.core.practice.practice_lines import Stream, poured_by
from ufrin.core.practice.practice_table import Cup

RUNS = Stream(tin="A", from_s=10.0, to_s=None, g_per_s=5.0)
STOPPED = Stream(tin="A", from_s=2.0, to_s=4.0, g_per_s=5.0)
WRONG = Stream(tin="B", from_s=0.0, to_s=1.0, g_per_s=3.0, is_wrong=True)


def test_what_has_run_into_a_cup_adds_up_by_its_tin() -> None:
    assert poured_by((STOPPED, WRONG, RUNS), 20.0) == {"A": pytest.approx(10.0 + 50.0), "B": pytest.approx(3.0)}
    assert poured_by((STOPPED, RUNS), 3.0)["A"] == pytest.approx(5.0)


def test_a_cup_is_spoilt_by_the_wrong_tin_alone() -> None:
    assert not Cup(streams=(STOPPED, RUNS)).is_spoilt
    assert Cup(streams=(STOPPED, WRONG)).is_spoilt
    assert not Cup().is_spoilt
