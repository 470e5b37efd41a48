"""Working time: hours as they are typed, and windows over nights, days off and nights on which the clock is set."""

from datetime import date, datetime, time
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.actions.schedule.working_time import checked_hours, read_hours, say_hours, windows
from ufrin.errors import Refused

H = 3600
BERLIN = ZoneInfo("Europe/Berlin")
ALL_DAYS = frozenset(range(1, 8))


@pytest.mark.parametrize(
    ("typed", "shown"),
    [
        ("8-12, 13-17", "08:00-12:00, 13:00-17:00"),
        ("13:00-17:00; 8:00 - 12:00", "08:00-12:00, 13:00-17:00"),
        ("9.30 to 15", "09:30-15:00"),
        ("18:00–24:00", "18:00-24:00"),
        ("0-24", "00:00-24:00"),
        ("8-12 and 13-17", "08:00-12:00, 13:00-17:00"),
    ],
)
def test_hours_are_read_as_they_are_typed(typed: str, shown: str) -> None:
    assert say_hours(read_hours(typed)) == shown
    assert read_hours(shown) == read_hours(typed)


@pytest.mark.parametrize(
    "typed", ["", "8", "8-", "25-26", "8:70-9", "17-8", "8-12, 11-13", "8-24, 23-24", "8-12," * 13]
)
def test_what_is_no_hours_is_refused(typed: str) -> None:
    with pytest.raises(Refused):
        read_hours(typed)


def test_windows_begin_at_the_start_and_touching_ones_are_one() -> None:
    start = datetime(2026, 3, 6, 10, 0)  # a Friday
    hours = checked_hours([("08:00", "12:00"), ("12:00", "14:00"), ("15:00", "17:00")])
    found = windows(start, hours, frozenset({1, 5}), most_days=3)
    assert found == ((0, 4 * H), (5 * H, 7 * H), (70 * H, 76 * H), (77 * H, 79 * H))
    off = windows(start, hours, frozenset({1, 5}), most_days=3, off=[(date(2026, 3, 6), date(2026, 3, 8))])
    assert off == ((70 * H, 76 * H), (77 * H, 79 * H))


@pytest.mark.parametrize(("day", "hours"), [(29, 23), (28, 24)])
def test_a_day_on_which_the_clock_is_set_forward_has_an_hour_less(day: int, hours: int) -> None:
    # the last Sunday of March, Directive 2000/84/EC
    start = datetime(2026, 3, day, 0, 0, tzinfo=BERLIN)
    ((begin, end), *_) = windows(start, ((time(0), time(0)),), ALL_DAYS, most_days=0)
    assert (begin, end) == (0, hours * H)


@given(st.datetimes(datetime(2026, 1, 1), datetime(2027, 12, 31)), st.sets(st.integers(1, 7), min_size=1))
def test_windows_are_in_order_apart_and_by_the_clock_on_the_wall(start: datetime, days: set[int]) -> None:
    zoned = start.replace(second=0, microsecond=0, tzinfo=BERLIN)
    found = windows(zoned, read_hours("8-12, 13-17"), frozenset(days), most_days=9)
    edges = [edge for window in found for edge in window]
    assert edges == sorted(set(edges))
    for begin, end in found:
        first, last = (datetime.fromtimestamp(zoned.timestamp() + edge, BERLIN) for edge in (begin, end))
        assert first.isoweekday() in days
        assert (begin == 0 or first.hour in {8, 13}, last.hour in {12, 17}) == (True, True)
