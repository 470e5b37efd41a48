"""The scale of a practice against the truth of its table."""

import pytest
from practising import Maker, set_up

from ufrin.core.practice.levels import Mishap
from ufrin.devices.practice_scale import PracticeScale


def test_it_moves_while_something_runs_and_comes_to_rest_at_the_truth() -> None:
    maker = Maker(set_up([Mishap(kind="too-much", part="A")]))
    while maker.table.step.kind != "weigh":
        maker.step()
    maker.real_s += 2.0
    scale, table = PracticeScale(1), maker.table
    readings = [scale.read(table, maker.real_s + 0.2 * n) for n in range(20)]
    assert readings[-1].is_settled
    assert readings[-1].line is not None
    assert readings[-1].line.g == pytest.approx(38.0, abs=0.11)
    maker.real_s += 4.0
    maker.act("tip", "far", after_s=0.0)
    table = maker.table
    running = [scale.read(table, maker.real_s + 0.2 * n) for n in range(1, 16)]
    assert not any(one.is_settled for one in running)
    grams = [one.line.g for one in running if one.line]
    assert grams == sorted(grams)
    assert grams[-1] - grams[0] > 20
    maker.act("stop", after_s=3.0)
    table = maker.table
    after = [scale.read(table, maker.real_s + 0.2 * n) for n in range(1, 25)]
    assert not after[2].is_settled  # a lump slides after it
    assert after[-1].is_settled
    assert after[-1].line is not None
    assert after[-1].line.g == pytest.approx(table.load_g(table.at_s(maker.real_s + 4.8)), abs=0.21)
    assert [one.count for one in after] == list(range(after[0].count, after[0].count + 24))


def test_a_scale_that_drifts_is_at_rest_and_creeps() -> None:
    maker = Maker(set_up([Mishap(kind="drift", part="A")]))
    while maker.table.step.kind != "weigh":
        maker.step()
    maker.act("tip", "far")
    maker.act("stop", after_s=2.0)
    scale, table = PracticeScale(1), maker.table
    readings = [scale.read(table, maker.real_s + 0.2 * n) for n in range(101)]
    assert all(one.is_settled for one in readings[30:])
    first, last = readings[50].line, readings[100].line
    assert first is not None
    assert last is not None
    assert last.g - first.g == pytest.approx(5.0, abs=0.3)  # half a gram each second, for ten
