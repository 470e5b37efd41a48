"""The history of a station in words: each input that was changed, before and after, as its field shows it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from ufrin.actions.job.history import HistoryStep
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.inputs.stations import Station
from ufrin.core.inputs.term import Term
from ufrin.core.job.terms import TERMS
from ufrin.core.measures.quantity_kinds import Units
from ufrin.language import Text
from ufrin.web.frame.forms import shown_text

EMPTY = Text("empty")


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownStep:
    """A step: when, by whom, and (label, before, after) of each input."""

    at: datetime
    doer: str
    changed: tuple[tuple[str, str, str], ...]


def history_context(opened: OpenJob, station: Station, steps: Sequence[HistoryStep]) -> list[ShownStep]:
    """Return the steps as they are shown; inputs without words of their own are placed in the drawings."""
    terms, units = TERMS[station], opened.workshop.units
    return [
        ShownStep(
            at=step.changed_at,
            doer=step.doer,
            changed=tuple(
                (terms[key].label, _text(terms[key], before, units), _text(terms[key], after, units))
                for key, (before, after) in step.changed.items()
                if key in terms
            ),
        )
        for step in steps
    ]


def _text(term: Term, value: object, units: Units) -> str:
    if value is None or value == "":
        return EMPTY
    if term.kind in {"hidden", "direction"}:
        return Text("placed")
    if term.kind == "flag":
        return Text("yes") if value else Text("no")
    if term.kind == "choice":
        return (term.choices or {}).get(str(value), str(value))
    return shown_text(term, value, units)
