"""The glossary: the terms of the trade, each explained in a sentence for somebody who has never cast anything."""

import re
from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.data_files import read_data


@dataclass(frozen=True, slots=True, kw_only=True)
class Word:
    """A term: its anchor on the list, its meaning, and its spellings that pages link."""

    term: str
    anchor: str
    text: str
    spelt: tuple[str, ...]


def _read() -> tuple[Word, ...]:
    table = read_data("wording", "words")["words"]
    found = [
        Word(term=term, anchor=re.sub(r"[^a-zA-Z0-9]+", "-", term), text=row["text"], spelt=tuple(row.get("match", ())))
        for term, row in table.items()
    ]
    return tuple(sorted(found, key=lambda word: word.term.casefold()))


WORDS: tuple[Word, ...] = _read()
SPELT: Mapping[str, Word] = {spelling.casefold(): word for word in WORDS for spelling in word.spelt}
_ANY = re.compile(
    r"\b(?:" + "|".join(re.escape(one) for one in sorted(SPELT, key=len, reverse=True)) + r")\b", re.IGNORECASE
)


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
    for found in _ANY.finditer(text):
        word = SPELT[found[0].casefold()]
        if word.term in seen:
            continue
        seen.add(word.term)
        pieces += [(text[at : found.start()], None), (found[0], word)]
        at = found.end()
    pieces.append((text[at:], None))
    return [(piece, word) for piece, word in pieces if piece]
