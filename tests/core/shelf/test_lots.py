"""Reasons of what was taken out of a tin, as they are kept and as they are read."""

import pytest

from ufrin.core.shelf.lots import reason_as_kept
from ufrin.language import english, language, using


@pytest.mark.parametrize(
    ("kept", "german"),
    [
        ("poured: Ammonite", "gegossen: Ammonite"),
        ("corrected: read wrongly", "berichtigt: read wrongly"),
        ("counted again", "neu gezählt"),
        ("in somebody's own words: {odd}", "in somebody's own words: {odd}"),
        ("poured: {odd} & co", "gegossen: {odd} & co"),
    ],
)
def test_a_reason_is_read_in_the_language_of_the_reader_and_stays_as_it_was(kept: str, german: str) -> None:
    read = reason_as_kept(kept)
    assert english(read) == kept
    with using(language("de")):
        assert str(read) == german
