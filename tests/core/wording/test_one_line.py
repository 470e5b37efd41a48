"""Text that a person typed, on one line."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.wording.one_line import one_line


@pytest.mark.parametrize(
    ("typed", "kept"),
    [
        ("  Ammonite \x00 cast ", "Ammonite cast"),
        ("a\tb\r\nc", "a b c"),
        ("Würfel, 3 mm", "Würfel, 3 mm"),
        ("\u202egnp.exe", "gnp.exe"),  # a sign that turns the direction of reading
        ("", ""),
    ],
)
def test_signs_that_do_not_print_become_blanks(typed: str, kept: str) -> None:
    assert one_line(typed) == kept


@given(st.text(max_size=60))
def test_it_is_printable_and_stays_as_it_is(typed: str) -> None:
    kept = one_line(typed)
    assert kept.isprintable()
    assert one_line(kept) == kept
    assert kept.replace(" ", "") == "".join(sign for sign in typed if sign.isprintable() and not sign.isspace())
