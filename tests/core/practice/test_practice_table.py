"""The table of a practice: what runs out of a tin, and a cup that something wrong got into."""

from dataclasses import replace

import pytest
from practising import Maker, set_up

from ufrin.core.practice.levels import MISHAPS, STEP_G
from ufrin.core.practice.practice_lines import TIPPED, Stream, poured_by
from ufrin.core.practice.practice_table import CUP_G, SHOWN_STEPS, Cup, PracticeTable
from ufrin.errors import Refused

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


def with_a_stream() -> PracticeTable:
    """A cup into which A runs from 10 s to 14 s, 5 g each second."""
    maker = Maker(set_up([]))
    while maker.table.step.kind != "weigh":
        maker.step()
    stream = Stream(tin="A", from_s=10.0, to_s=14.0, g_per_s=5.0)
    return replace(maker.table, cup=Cup(streams=(stream,)), touched_s=0.0)


def test_a_stream_runs_from_the_first_moment_to_before_the_last() -> None:
    (stream,) = (with_a_stream().cup or Cup()).streams
    assert [stream.runs_at(at_s) for at_s in (9.99, 10.0, 13.99, 14.0)] == [False, True, True, False]
    assert replace(stream, to_s=None).runs_at(1e6)


def test_a_reading_is_what_the_scale_can_show_and_only_at_rest() -> None:
    table, shown_g = with_a_stream(), CUP_G + 20.0
    with pytest.raises(Refused, match="come to rest"):
        table.read_g(14.0)
    assert table.read_g(20.0) == pytest.approx(shown_g)
    noise_g = SHOWN_STEPS * STEP_G
    assert table.can_show(shown_g + noise_g, 20.0)
    assert not table.can_show(shown_g + noise_g + 0.01 * STEP_G, 20.0)
    assert table.read_g(20.0, shown_g - noise_g) == pytest.approx(shown_g - noise_g)
    # what the scale can't have shown is not believed
    assert table.read_g(20.0, shown_g + 5.0) == pytest.approx(shown_g)


@pytest.mark.parametrize(
    ("kind", "what", "says"),
    [
        ("juggle", "", "not one of the steps"),
        ("tip", "upside down", "not one of the steps"),
        ("flag", "boredom", "not one of the steps"),
        ("cup", "", "on the scale already"),
    ],
)
def test_what_can_not_be_done_at_the_table_is_refused(kind: str, what: str, says: str) -> None:
    with pytest.raises(Refused, match=says):
        with_a_stream().check_act(kind, what)


def test_a_tin_is_tipped_over_a_cup_and_where_the_bench_weighs() -> None:
    table = with_a_stream()
    for how_far in TIPPED:
        table.check_act("tip", how_far)
    for mishap in MISHAPS:
        table.check_act("flag", mishap)
    with pytest.raises(Refused, match="no cup on the scale"):
        replace(table, cup=None).check_act("tip", "far")
    replace(table, cup=None).check_act("cup", "")
    first = Maker(set_up([])).table
    with pytest.raises(Refused, match="asks for first"):
        replace(first, cup=Cup()).check_act("tip", "far")
