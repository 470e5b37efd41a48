"""What a run needs of each material: needs add up, and what is on the Shelf counts once."""

import pytest

from ufrin.core.moulds.run_needs import RunNeed, together


def test_what_is_missing_is_bought_and_no_more() -> None:
    assert RunNeed(name="A", needed_g=900.0, have_g=250.0).buy_g == 650.0
    assert RunNeed(name="A", needed_g=200.0, have_g=250.0).buy_g == 0.0


def test_the_same_thing_needed_twice_is_on_the_shelf_once() -> None:
    skin, foam = (
        RunNeed(name="Resin A", needed_g=300.0, have_g=500.0),
        RunNeed(name="Resin A", needed_g=400.0, have_g=500.0),
    )
    chalk = RunNeed(name="Chalk", needed_g=50.0, have_g=0.0)
    first, second = together([skin, chalk, foam])
    assert (first.name, first.needed_g, first.have_g) == ("Resin A", 700.0, 500.0)
    assert first.buy_g == pytest.approx(200.0)
    assert second == chalk
    assert together([]) == ()
