"""Typed values: read by the kind of their term, and refused with the field's name."""

import pytest

from ufrin.core.exchange.typed_values import LONGEST_REFERENCE, read_typed
from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.errors import Refused

CHOICE = Term(label="Kind", kind="choice", choices={"": "any", "wax": "Wax", "soap": "Soap"})


def test_quantities_are_read_in_the_units_of_whoever_typed_them() -> None:
    side = positive_quantity("Side", "length")
    assert read_typed("side_mm", side, "1.5 cm") == pytest.approx(15.0)
    assert read_typed("side_mm", side, "2", "us") == pytest.approx(50.8)
    with pytest.raises(Refused) as refused:
        read_typed("side_mm", side, "9 kg")
    assert refused.value.field == "side_mm"
    assert read_typed("spare_pct", quantity("Spare", "percent"), "0") == 0.0


def test_a_choice_is_one_of_those_there_are() -> None:
    assert read_typed("kind", CHOICE, "wax") == "wax"
    with pytest.raises(Refused, match="Choose again"):
        read_typed("kind", CHOICE, "tar")
    with pytest.raises(Refused, match="“tar” is not one of: wax, soap"):
        read_typed("kind", CHOICE, "tar", lists_choices=True)


@pytest.mark.parametrize("text", ["-1", "1.5", "٣", "", "9" * (LONGEST_REFERENCE + 1), "1; drop table jobs"])
def test_a_reference_is_a_number_and_nothing_else(text: str) -> None:
    tin = Term(label="Tin", kind="reference")
    assert read_typed("rubber_id", tin, "9" * LONGEST_REFERENCE) == int("9" * LONGEST_REFERENCE)
    with pytest.raises(Refused) as refused:
        read_typed("rubber_id", tin, text)
    assert refused.value.field == "rubber_id"


def test_a_text_is_one_line_and_not_too_long() -> None:
    name = Term(label="Name", kind="text", longest=10)
    assert read_typed("name", name, "  Lamp\n finial ".replace(" finial ", "")) == "Lamp"
    assert read_typed("name", name, "a" * 10) == "a" * 10
    with pytest.raises(Refused, match="11 characters; 10 is the most"):
        read_typed("name", name, "a" * 11)


def test_a_profile_and_a_direction_are_kept_as_they_are_read() -> None:
    profile = read_typed("profile", Term(label="Profile", kind="profile", longest=400), "0 40; 10 40")
    inches = read_typed("profile", Term(label="Profile", kind="profile", longest=400), "0 1; 1 1", "us")
    assert profile == "0 40; 10 40"
    assert "25.4" in str(inches)
    direction = Term(label="Up", kind="direction")
    assert read_typed("up", direction, " 0, 0, 1 ") == read_typed("up", direction, "0,0,1")
    with pytest.raises(Refused):
        read_typed("up", direction, "0,0,0")
