"""The usual figures: they count where nothing was filled in, and a zero that was typed stays a zero."""

from dataclasses import dataclass, fields

import pytest

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.stations import INPUTS, is_filled_in
from ufrin.core.inputs.usual import USUAL, defaults_of, settle


@dataclass(frozen=True, kw_only=True)
class Typed:
    side_mm: float | None = None
    rows: float | None = None
    sealed: bool | None = None


@dataclass(frozen=True, kw_only=True)
class Kept:
    side_mm: float = 12.0
    rows: int | None = None
    sealed: bool = False


def test_what_was_typed_counts_before_the_default_and_counts_are_whole() -> None:
    assert settle(Typed(), Kept) == Kept()
    made = settle(Typed(side_mm=0.0, rows=3.0, sealed=True), Kept)
    assert made == Kept(side_mm=0.0, rows=3, sealed=True)
    assert isinstance(made.rows, int)


def test_defaults_are_those_that_say_something() -> None:
    assert defaults_of(Kept) == {"side_mm": 12.0}

    @dataclass(frozen=True, kw_only=True)
    class Zero:
        spare_pct: float = 0.0
        name: str = ""
        known: float | None = None
        is_open: bool = False

    assert defaults_of(Zero) == {"spare_pct": 0.0}


@pytest.mark.parametrize("station", INPUTS)
def test_every_station_settles_and_nothing_typed_is_nothing_filled_in(station: str) -> None:
    empty = INPUTS[station]()  # type: ignore[index]
    assert not any(is_filled_in(getattr(empty, one.name)) for one in fields(empty))
    settled = empty.settled()
    for one in fields(settled):
        assert getattr(settled, one.name) == one.default


def test_the_figures_of_the_box_are_those_of_the_data_file() -> None:
    settled = BoxInputs().settled()
    for key in ("side_mm", "over_mm", "gap_mm", "freeboard_mm", "wall_thickness_mm"):
        assert getattr(settled, key) == USUAL["box"][key]
