"""The record of a pour in words: what each of its lines says."""

from collections.abc import Mapping

from ufrin.core.weighing.record_entries import EntryKind, RecordEntry
from ufrin.core.weighing.record_rules import DEMOULDED, FOUND, MISHAPS, WITNESS_ANSWERS

KIND_WORDS: Mapping[EntryKind, str] = {
    "start": "begun",
    "tare": "cup tared",
    "hold": "in hand",
    "down": "put down again",
    "weigh": "weighed",
    "wrong": "wrong part, set aside",
    "discard": "thrown away",
    "mixed": "mixed",
    "poured": "poured",
    "leftover": "left over",
    "mould": "mould weighed",
    "temperature": "room",
    "correction": "corrected",
    "note": "note",
    "finish": "finished",
    "step": "done",
    "witness": "witness cup",
    "short": "ran short",
    "mishap": "mishap",
    "demould": "demoulding",
    "found": "found",
    "photo": "picture",
    "retract": "taken back",
}
STEP_WORDS: Mapping[str, str] = {
    "lay-ready": "everything laid ready",
    "melt": "melted",
    "soak": "soaked",
    "take-off": "a part taken off and coloured",
    "turn": "mould turned until it no longer ran",
    "stir-a": "part A stirred",
    "shake-b": "part B shaken",
    "lids-apart": "lumps and lids kept apart",
    "bring-together": "lumps brought together",
    "scrape": "scraped in",
    "second-cup": "stirred in a second cup",
    "rest": "rested",
    "degas-rise": "degassed until it fell",
    "degas-hold": "vacuum held after the fall",
    "vibrate": "vibrated",
    "pressure-on": "under pressure",
    "press-flat": "back pressed flat",
}
_WHAT: Mapping[EntryKind, Mapping[str, str]] = {
    "step": STEP_WORDS,
    "witness": WITNESS_ANSWERS,
    "mishap": MISHAPS,
    "demould": DEMOULDED,
    "found": FOUND,
}


def entry_words(entry: RecordEntry) -> str:
    """Return what a line of the record says, without its figures."""
    what = _WHAT.get(entry.kind, {}).get(entry.what, entry.what)
    return f"{KIND_WORDS[entry.kind]}: {what}" if what else KIND_WORDS[entry.kind]
