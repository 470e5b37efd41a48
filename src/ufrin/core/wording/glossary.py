"""The glossary: the terms of the trade, each explained in a sentence for somebody who has never cast anything."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from ufrin.core.data_files import read_data
from ufrin.language import Text, in_use, language, using


@dataclass(frozen=True, slots=True, kw_only=True)
class Word:
    """A term: its anchor on the list, its meaning, and its spellings that pages link, with commas between."""

    term: str
    anchor: str
    text: str
    spelt: str


def _read() -> tuple[Word, ...]:
    table = read_data("wording", "words")["words"]
    return tuple(
        Word(term=Text(term), anchor=re.sub(r"[^a-zA-Z0-9]+", "-", term), text=row["text"], spelt=row.get("match", ""))
        for term, row in table.items()
    )


WORDS: tuple[Word, ...] = _read()


def listed_words() -> list[Word]:
    """Return the words in the order of the alphabet of the language in use.

    Returns
    -------
    list of Word
        All of them.
    """
    return sorted(WORDS, key=lambda word: str(word.term).casefold())


@cache
def _spellings(code: str) -> tuple[Mapping[str, Word], re.Pattern[str]]:
    with using(language(code)):
        spelt = {one.casefold(): word for word in WORDS for one in str(word.spelt).split(", ") if one}
    longest_first = "|".join(re.escape(one) for one in sorted(spelt, key=len, reverse=True))
    return spelt, re.compile(rf"\b(?:{longest_first})\b", re.IGNORECASE)


def cut_at_terms(text: str) -> list[tuple[str, Word | None]]:
    """Cut a text at the terms of the glossary; each term is found once.

    Parameters
    ----------
    text : str
        As it will be shown.

    Returns
    -------
    list of (piece, Word or None)
        The pieces together are the text.

    Examples
    --------
    >>> [piece for piece, word in cut_at_terms("Vibrate it within the pot life.") if word]
    ['Vibrate', 'pot life']
    """
    pieces: list[tuple[str, Word | None]] = []
    seen: set[str] = set()
    at = 0
    spelt, any_spelling = _spellings(in_use().code)
    for found in any_spelling.finditer(text):
        word = spelt[found[0].casefold()]
        if word.term in seen:
            continue
        seen.add(word.term)
        pieces += [(text[at : found.start()], None), (found[0], word)]
        at = found.end()
    pieces.append((text[at:], None))
    return [(piece, word) for piece, word in pieces if piece]
