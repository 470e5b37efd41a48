"""What the bench says of coats and of the parts of a cast: how long there is, and what a part is weighed for."""

from dataclasses import replace

import pytest
from materials_to_cast import CAVITY, PICKS, PLAIN
from records import PLAN, A, B, Hand, at

from ufrin.core.casting.cast_bench import cast_weigh_plan
from ufrin.core.casting.cast_plan import plan_cast
from ufrin.core.weighing.coats import recoat_window
from ufrin.web.contexts.cast_words import cast_sentence
from ufrin.web.contexts.coats import coat_clock
from ufrin.web.frame.wording_in_units import UnitFormatter

SKIN = replace(PLAN, how="brushed", batches=((A, B), (A, B)), pot_life_min=20.0, demould_min=240.0)


def test_how_long_a_coat_still_bonds_counts_down() -> None:
    hand = Hand(SKIN)
    hand.batch(None, None)
    hand.write("mixed")
    state = hand.write("poured")
    contact = state.attempt.contact
    assert contact is not None
    window = recoat_window(20.0, 240.0)
    assert window is not None
    assert window.until_min is not None
    runs = coat_clock(state, at(contact.steady_s + 600))
    assert runs is not None
    assert runs.left_s == pytest.approx(600)
    for minutes in (25.0, 40.0):
        tacky = coat_clock(state, at(contact.steady_s + 60 * minutes))
        assert tacky is not None
        assert tacky.left_s == pytest.approx(60 * (window.until_min - minutes))
    assert coat_clock(state, at(contact.steady_s + 60 * window.until_min + 1)) is None


def test_a_part_of_a_cast_is_weighed_for_what_is_in_the_cup() -> None:
    plan = cast_weigh_plan(plan_cast(PLAIN, CAVITY, PICKS), PLAIN, PICKS, shelf={}, step_g=0.1)
    hand, say = Hand(plan), UnitFormatter("metric")
    for key in ("lay-ready", "stir-a", "shake-b"):
        hand.write("step", what=key)
    hand.write("tare")
    first, second = hand.state.batch
    assert "A little over or under does no harm" in cast_sentence(hand.state, first, say)
    hand.write("hold", ingredient="B")
    state = hand.write("weigh", 44.0, ingredient="B", sure=True)
    assert cast_sentence(state, second, say).startswith("For the 44.0 g of B in the cup.")
