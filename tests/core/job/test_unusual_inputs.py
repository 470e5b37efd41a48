"""Figures far from usual are told, and only those: a note with the range that is usual for this master."""

import pytest

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.inputs.stations import INPUTS
from ufrin.core.inputs.usual_ranges import RANGES, usual_range
from ufrin.core.job.unusual_inputs import unusual

SIZE = (60.0, 40.0, 35.0)


@pytest.mark.parametrize(("station", "name"), [(station, name) for station, own in RANGES.items() for name in own])
def test_just_inside_and_just_outside_of_each_range(station: str, name: str) -> None:
    low, high = usual_range(RANGES[station][name], SIZE)  # type: ignore[index]
    made = INPUTS[station]  # type: ignore[index]
    for value, wanted in ((low, []), (high, []), (low * 0.99 - 1e-6, [name]), (high * 1.01, [name])):
        if value > 0:
            found = unusual(station, made(**{name: value}), SIZE)  # type: ignore[arg-type]
            assert [one.field for one in found] == wanted, value
            assert {one.level for one in found} <= {"note"}


def test_what_nobody_typed_and_a_zero_are_never_unusual() -> None:
    for station, made in INPUTS.items():
        assert unusual(station, made(), SIZE) == ()
    assert unusual("rubber", RubberInputs(spare_pct=0.0, thinner_parts=0.0), SIZE) == ()


def test_the_note_has_what_was_typed_and_what_is_usual() -> None:
    (one,) = unusual("box", BoxInputs(side_mm=900.0), SIZE)
    low, high = usual_range(RANGES["box"]["side_mm"], SIZE)
    assert (one.facts["typed"].value, one.facts["low"].value, one.facts["high"].value) == (900.0, low, high)
    # clearances grow with the master
    assert usual_range(RANGES["box"]["side_mm"], (600.0, 400.0, 350.0))[1] > high
