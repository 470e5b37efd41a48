"""Equivalent age against numerical integration, the published temperature rows, and its own laws."""

import json
from datetime import UTC, datetime
from pathlib import Path
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.clocks.cure_clocks import cure_clocks
from ufrin.core.clocks.equivalent_age import age_min, done_min
from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.pot_life import pot_life
from ufrin.core.clocks.room_log import RoomReading, notes_since
from ufrin.errors import Refused

PUBLISHED = [
    row
    for row in map(json.loads, (Path(__file__).parents[2] / "data" / "published.jsonl").read_text().splitlines())
    if row["case"] == "time_at_temperature_q10"
]
notes_of_a_room = st.lists(st.tuples(st.floats(0, 600), st.floats(0, 45)), min_size=1, max_size=6).map(
    lambda notes: sorted(notes, key=lambda note: note[0])
)


def by_summing(elapsed_min: float, notes: list[tuple[float, float]], q10: float) -> float:
    """Integrate in a hundred thousand slices, each at the temperature that was noted last before its middle."""
    slices = 100_000
    at = (np.arange(slices) + 0.5) * elapsed_min / slices
    begins = np.array([0.0, *(begin for begin, _ in notes[1:])])
    temps = np.array([temp for _, temp in notes])
    temp_c = temps[np.searchsorted(begins, at, side="right") - 1]
    return float(np.sum(q10 ** ((temp_c - 23) / 10)) * elapsed_min / slices)


@given(notes_of_a_room, st.floats(1, 900), st.floats(1.2, 3))
def test_it_is_the_integral_of_the_rate(notes: list[tuple[float, float]], elapsed_min: float, q10: float) -> None:
    assert age_min(elapsed_min, notes, q10=q10) == pytest.approx(by_summing(elapsed_min, notes, q10), rel=2e-3)


@given(notes_of_a_room, st.floats(0.5, 5000), st.floats(1.2, 3))
def test_the_end_is_when_the_age_reaches_the_tins_time(
    notes: list[tuple[float, float]], tin_min: float, q10: float
) -> None:
    assert age_min(done_min(tin_min, notes, q10=q10), notes, q10=q10) == pytest.approx(tin_min)


@pytest.mark.parametrize("row", PUBLISHED, ids=lambda row: f"{row['given']['temp_c']} degC")
def test_a_room_that_does_not_change_gives_the_published_time(row: dict[str, dict[str, float]]) -> None:
    given_row, tin_c = row["given"], row["given"]["reference_temp_c"]
    ends = done_min(given_row["reference_time_min"], [(0, given_row["temp_c"])], ref_c=tin_c, q10=given_row["q10"])
    assert ends == pytest.approx(row["expect"]["time_min"], rel=1e-6)


def test_the_example_of_the_interface_by_hand() -> None:
    # 120 min at 19 degC age it by 120 x 2^-0.4 = 90.95; the 149.05 that are missing take 149.05 / 2^0.3 at 26 degC
    assert done_min(240, [(0, 19), (120, 26)]) == pytest.approx(120 + (240 - 120 * 2**-0.4) / 2**0.3)
    assert done_min(240, [(50, 19), (120, 26)]) == done_min(240, [(0, 19), (120, 26)])
    assert done_min(60, []) == 60
    with pytest.raises(Refused, match="order"):
        done_min(240, [(10, 19), (5, 26)])
    with pytest.raises(Refused, match="longer than anyone waits"):
        done_min(1e7, [(0, -60)], q10=10)


def test_a_pot_life_is_used_up_by_the_same_integral() -> None:
    read = pot_life(45, 1800, [(-60.0, 23.0), (600.0, 33.0), (2400.0, 13.0)])
    # ten minutes at the tin's temperature, twenty at half the pot life; what is noted later does not count yet
    assert read.used == pytest.approx((10 + 2 * 20) / 45)
    assert read.left_s == pytest.approx((1 - read.used) * 22.5 * 60)
    assert read.phase == "over"


def moment(seconds: float, *, wall_shift_s: float = 0.0, machine: str = "this") -> Moment:
    return Moment(wall_s=1e9 + seconds + wall_shift_s, steady_s=seconds, machine=machine)


def test_the_last_note_before_first_contact_counts_from_it() -> None:
    readings = [
        RoomReading(at=moment(700), temp_c=26.0),
        RoomReading(at=moment(-900), temp_c=15.0),
        RoomReading(at=moment(-1800), temp_c=12.0),
        RoomReading(at=moment(-60), temp_c=19.0, thermometer="Wall"),
    ]
    assert notes_since(moment(0), readings) == ((0.0, 19.0), (700 / 60, 26.0))
    assert notes_since(moment(0), []) == ((0.0, 23.0),)


def test_clocks_do_not_feel_that_the_clock_on_the_wall_was_set_or_the_hour_put_forward() -> None:
    start = moment(0)
    an_hour_ahead = moment(600, wall_shift_s=3600)
    readings = [RoomReading(at=moment(300, wall_shift_s=3600), temp_c=33.0)]
    assert notes_since(start, readings) == ((0.0, 23.0), (5.0, 33.0))
    clock = cure_clocks({"demould": 60}, an_hour_ahead.since_s(start), notes_since(start, readings))[0]
    assert clock.left_s == pytest.approx((60 - 5 - 2 * 5) / 2 * 60)
    # a cure through the night in which the clocks go back: 9 hours on the dial are 10 in the mould
    harbour = ZoneInfo("Europe/Amsterdam")
    evening = datetime(2026, 10, 24, 22, 0, tzinfo=harbour)
    morning = datetime(2026, 10, 25, 7, 0, tzinfo=harbour)
    begun, ended = (at.astimezone(UTC).timestamp() for at in (evening, morning))
    elapsed = Moment(wall_s=ended, steady_s=0, machine="b").since_s(Moment(wall_s=begun, steady_s=0, machine="a"))
    assert elapsed == 10 * 3600
