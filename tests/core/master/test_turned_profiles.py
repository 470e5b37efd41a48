"""Profiles and directions as people type them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.master.turned_profiles import (
    direction_vector,
    parse_direction,
    parse_profile,
    profile_points,
    show_profile,
)
from ufrin.errors import Refused

sizes = st.floats(0, 900).map(lambda size: round(size, 1))


@given(st.lists(st.tuples(sizes, sizes), min_size=1, max_size=30), st.sampled_from(["metric", "us"]))
def test_a_profile_that_was_shown_and_sent_back_is_the_same(pairs: list[tuple[float, float]], units: str) -> None:
    kept = parse_profile(", ".join(f"{height} {diameter}" for height, diameter in pairs), "metric")
    assert profile_points(kept) == [pytest.approx(pair) for pair in pairs]
    again = parse_profile(show_profile(kept, units), units)
    # a field shows inches to four places
    assert profile_points(again) == [pytest.approx(pair, abs=0.02) for pair in pairs]


@pytest.mark.parametrize(
    ("typed", "kept"),
    [
        ("0 46; 12 30", "0 46; 12 30"),
        ("0 46\n12 30\n", "0 46; 12 30"),
        ("0 46, 12 30,", "0 46; 12 30"),
        ("0 4.6 cm, 1.2cm 3cm", "0 46; 12 30"),
        ("0:46; 12:30", "0 46; 12 30"),
        ('0 2", 1" 1"', "0 50.8; 25.4 25.4"),
        ("", ""),
        (" ; ,\n", ""),
    ],
)
def test_profiles_are_read_however_they_are_parted(typed: str, kept: str) -> None:
    assert parse_profile(typed, "metric") == kept


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("0 46, twelve", "Pair 2, “twelve”"),
        ("46", "Pair 1"),
        ("1 2 3", "Pair 1"),
        ("0 -4", "Pair 1"),
        ("0 46 kg", "Pair 1"),
        ("0 99999", "more than"),
        (", ".join(["1 2"] * 41), "41 pairs"),
        ("<script> 4", "Pair 1"),
    ],
)
def test_a_pair_that_cannot_be_read_is_named(typed: str, says: str) -> None:
    with pytest.raises(Refused, match=says) as refused:
        parse_profile(typed, "metric")
    assert refused.value.field == "profile"


@given(st.tuples(*[st.integers(-999, 999).map(lambda whole: whole / 100)] * 3).filter(any))
def test_a_direction_that_was_typed_is_kept(direction: tuple[float, float, float]) -> None:
    for parted in (", ", " ", ";"):
        assert direction_vector(parse_direction(parted.join(f"{number:.2f}" for number in direction))) == pytest.approx(
            direction
        )


@pytest.mark.parametrize("typed", ["", "up", "0, 0", "0, 0, 0", "0 0 1 1", "nan 0 1", "1e5 0 0", "0, 0, inf"])
def test_what_is_no_direction(typed: str) -> None:
    with pytest.raises(Refused, match="direction"):
        parse_direction(typed)
