"""Tins on the Shelf: a kit comes as both of its parts, and a tin that is counted again stays in step with its moves."""

import pytest

from ufrin import demo
from ufrin.actions import RUBBERS
from ufrin.actions.shelf import lots, things
from ufrin.store import lots as stored_lots
from ufrin.store.connection import Database


def moved_g(database: Database, lot: int) -> float:
    with database.reading() as connection:
        return sum(move.grams for move in stored_lots.moves(connection, [lot]))


def test_an_opened_kit_has_each_part_in_its_ratio(database: Database) -> None:
    rubber = things.add(database, RUBBERS, demo.RUBBERS[0])  # 100 to 10
    lots.add(database, RUBBERS, rubber, {"code": "KIT", "got_g": 1100.0, "left_g": 550.0, "price": 33.0})
    found = {one.lot.part: one.lot for one in lots.of_thing(database, RUBBERS, rubber)[0]}
    assert (found["A"].got_g, found["A"].left_g, found["A"].price) == pytest.approx((1000.0, 500.0, 30.0))
    assert (found["B"].got_g, found["B"].left_g, found["B"].price) == pytest.approx((100.0, 50.0, 3.0))


def test_a_tin_that_held_more_has_as_much_more_in_it_and_only_a_count_is_a_move(database: Database) -> None:
    rubber = things.add(database, RUBBERS, demo.RUBBERS[0])
    lots.add(database, RUBBERS, rubber, {"code": "A-1", "part": "A", "got_g": 1000.0})
    (tin,) = lots.of_thing(database, RUBBERS, rubber)[0]
    lots.change(database, tin.id, version=tin.version, values={"left_g": 400.0})
    assert moved_g(database, tin.id) == pytest.approx(600.0)
    (tin,) = lots.of_thing(database, RUBBERS, rubber)[0]
    # its label said less than was in it: 100 g more came, and 100 g more are left
    lots.change(database, tin.id, version=tin.version, values={"got_g": 1100.0, "left_g": 500.0})
    (tin,) = lots.of_thing(database, RUBBERS, rubber)[0]
    assert moved_g(database, tin.id) == pytest.approx(600.0)
    assert tin.lot.got_g - moved_g(database, tin.id) == pytest.approx(tin.lot.left_g)
