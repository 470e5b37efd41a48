"""The record of a pour in words: what each of its lines says."""

from collections.abc import Mapping

from ufrin.core.weighing.record_entries import EntryKind, RecordEntry
from ufrin.core.weighing.record_rules import DEMOULDED, FOUND, MISHAPS, WITNESS_ANSWERS
from ufrin.language import Text

KIND_WORDS: Mapping[EntryKind, str] = {
    "start": Text("begun"),
    "tare": Text("cup tared"),
    "hold": Text("in hand"),
    "down": Text("put down again"),
    "weigh": Text("weighed"),
    "wrong": Text("wrong part, set aside"),
    "discard": Text("thrown away"),
    "mixed": Text("mixed"),
    "poured": Text("poured"),
    "leftover": Text("left over"),
    "mould": Text("mould weighed"),
    "temperature": Text("room"),
    "correction": Text("corrected"),
    "note": Text("note"),
    "finish": Text("finished"),
    "step": Text("done"),
    "witness": Text("witness cup"),
    "short": Text("ran short"),
    "mishap": Text("mishap"),
    "demould": Text("demoulding"),
    "found": Text("found"),
    "photo": Text("picture"),
    "retract": Text("taken back"),
}
STEP_WORDS: Mapping[str, str] = {
    "lay-ready": Text("everything laid ready"),
    "melt": Text("melted"),
    "soak": Text("soaked"),
    "take-off": Text("a part taken off and coloured"),
    "turn": Text("mould turned until it no longer ran"),
    "stir-a": Text("part A stirred"),
    "shake-b": Text("part B shaken"),
    "lids-apart": Text("lumps and lids kept apart"),
    "bring-together": Text("lumps brought together"),
    "scrape": Text("scraped in"),
    "second-cup": Text("stirred in a second cup"),
    "rest": Text("rested"),
    "degas-rise": Text("degassed until it fell"),
    "degas-hold": Text("vacuum held after the fall"),
    "vibrate": Text("vibrated"),
    "pressure-on": Text("under pressure"),
    "press-flat": Text("back pressed flat"),
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
