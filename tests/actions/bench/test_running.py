"""What runs and what is next: how long it has been due, and the longest due first."""

import pytest
from prepared import weigh_through

from ufrin.actions.bench import pours, shortfall
from ufrin.actions.bench.running import what_runs
from ufrin.actions.shelf import lots
from ufrin.devices import clock
from ufrin.store import lots as stored_lots
from ufrin.store.connection import Database

AMMONITE, TOKENS = 9, 12


def test_what_is_due_tells_since_when_and_the_longest_due_comes_first(filled: Database) -> None:
    recent, old = weigh_through(filled, TOKENS, ago_h=40), weigh_through(filled, AMMONITE, ago_h=60)
    now = clock.now()
    found = [one for one in what_runs(filled, now).next if one.pour.id in {recent, old}]
    assert [one.kind for one in found] == ["take out", "take out"]
    for one in found:
        ends_s = pours.look(filled, one.pour.id).state.clocks.end_s("demould")
        assert ends_s is not None
        assert one.since_s == pytest.approx(now.wall_s - ends_s, abs=2)
    every = what_runs(filled, now).next
    assert [one.since_s for one in every] == sorted((one.since_s for one in every), reverse=True)


def test_a_top_up_says_whether_the_tins_hold_it(filled: Database) -> None:
    number = weigh_through(filled, AMMONITE, until="leftover")
    top = shortfall.look(filled, number, clock.now(), volume_ml=40.0).top_up
    assert top is not None
    assert set(top.held) - {None} == {True}  # None where no tin of it is on the Shelf
    with filled.reading() as connection:
        tins = [tin for one in top.batch for tin in stored_lots.at_place(connection, one.shelf, one.role)]
    for tin in tins:  # counted again: next to nothing is left
        lots.change(filled, tin.id, version=tin.version, values={"left_g": 0.5})
    short = shortfall.look(filled, number, clock.now(), volume_ml=40.0).top_up
    assert short is not None
    assert set(short.held) - {None} == {False}
