"""Forms: typed text to values and back, for inputs declared as terms."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ufrin.core.exchange.typed_values import read_typed
from ufrin.core.inputs.term import Term
from ufrin.core.master.turned_profiles import show_profile
from ufrin.core.measures.display import field_text
from ufrin.core.measures.quantity_kinds import KINDS, Units
from ufrin.errors import Refused
from ufrin.language import Text

YES, NO = "yes", "no"


@dataclass(frozen=True, slots=True, kw_only=True)
class FormReading:
    """A form as it was read.

    Parameters
    ----------
    changes : mapping of field to value
        Those whose text differs from what the page showed.
    errors : mapping of field to sentence
        Those that can't be read.
    typed : mapping of field to text
        Of those with errors, so that nothing typed is lost.
    """

    changes: Mapping[str, Any]
    errors: Mapping[str, str] = field(default_factory=dict)
    typed: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Field:
    """A field as a template shows it."""

    key: str
    term: Term
    text: str
    is_default: bool
    error: str = ""

    @property
    def unit_example(self) -> str:
        """What could be typed, for quantities."""
        return KINDS[self.term.kind].example if self.term.kind in KINDS else ""


def shown_text(term: Term, value: object, units: Units) -> str:
    """Return the text in a field for a value.

    Parameters
    ----------
    term : Term
        The input.
    value : object
        As kept; None shows what is recommended.
    units : "metric" or "us"
        The workshop's unit system.

    Returns
    -------
    str
        The text that an unchanged field sends back.
    """
    value = term.default if value is None else value
    if term.kind == "flag":
        return YES if value else NO
    if value is None:
        return ""
    if term.kind == "profile":
        return show_profile(str(value), units)
    return field_text(float(str(value)), term.kind, units) if term.kind in KINDS else str(value)


def fields(
    terms: Mapping[str, Term], inputs: object, units: Units, errors: Mapping[str, str], typed: Mapping[str, str]
) -> dict[str, Field]:
    """Make the fields of a form.

    Parameters
    ----------
    terms : mapping of key to Term
        The inputs.
    inputs : object
        What is kept, by attribute.
    units : "metric" or "us"
        The workshop's unit system.
    errors, typed : mapping of key to text
        What is wrong, and what was typed there.

    Returns
    -------
    dict of key to Field
        In the order of the terms.
    """
    return {
        key: Field(
            key=key,
            term=term,
            text=typed[key] if key in typed else shown_text(term, getattr(inputs, key), units),
            is_default=getattr(inputs, key) is None and term.default is not None and key not in typed,
            error=errors.get(key, ""),
        )
        for key, term in terms.items()
    }


def read(terms: Mapping[str, Term], posted: Mapping[str, str], inputs: object, units: Units) -> FormReading:
    """Read what was posted.

    A field whose text is still what the page showed keeps its stored value to the last digit, and a default stays
    one: so neither rounding for display nor a change of units ever changes what is kept.

    Parameters
    ----------
    terms : mapping of key to Term
        The inputs.
    posted : mapping of key to text
        Fields that are missing are left as they are.
    inputs : object
        What is kept, by attribute.
    units : "metric" or "us"
        The unit system that the page showed.

    Returns
    -------
    FormReading
        Changes, errors, and what was typed where there is an error.
    """
    changes: dict[str, Any] = {}
    errors: dict[str, str] = {}
    typed: dict[str, str] = {}
    for key, term in terms.items():
        text = posted.get(key)
        if term.kind == "hidden" or text is None or text == shown_text(term, getattr(inputs, key), units):
            continue
        try:
            changes[key] = _value(key, term, text, units)
        except Refused as refused:
            errors[key], typed[key] = str(refused), text[:200]
    return FormReading(changes=changes, errors=errors, typed=typed)


def read_sum(terms: Mapping[str, Term], typed: Mapping[str, str], units: Units) -> FormReading:
    """Read what was typed for a quick sum, of which nothing is kept.

    Parameters
    ----------
    terms : mapping of key to Term
        The inputs.
    typed : mapping of key to text
        Those that were filled in.
    units : "metric" or "us"
        The meaning of a bare number.

    Returns
    -------
    FormReading
        The values by key, and what can't be read.
    """
    values: dict[str, Any] = {}
    errors: dict[str, str] = {}
    for key, text in typed.items():
        try:
            values[key] = _value(key, terms[key], text[:200], units)
        except Refused as refused:
            errors[key] = str(refused)
    return FormReading(changes=values, errors=errors, typed=typed)


def _value(key: str, term: Term, text: str, units: Units) -> object:
    if term.kind == "flag":
        return text == YES
    if not text.strip() and term.kind not in {"text", "date"}:
        return "" if term.kind == "profile" else None
    value = read_typed(key, term, text, units)
    if term.positive and not (isinstance(value, float) and value > 0):
        raise Refused(
            key,
            Text(
                "{label}: this must be more than 0. Type {noun} such as {example}, or leave it empty.",
                label=term.label,
                noun=KINDS[term.kind].noun,
                example=KINDS[term.kind].example,
            ),
        )
    return value


def form_units(form: Mapping[str, str], otherwise: Units) -> Units:
    """Return the units of the page that a form comes from; a bare number in it means those."""
    units = form.get("units")
    return "us" if units == "us" else "metric" if units == "metric" else otherwise


def form_version(form: Mapping[str, str]) -> int:
    """Return the version that a form was filled in on; 0, which never exists, when it is missing."""
    return whole_number(form.get("version", ""), most_digits=9) or 0


def whole_number(text: str, *, most_digits: int = 17) -> int | None:
    """Return a whole number that a page sent, such as the number of a thing; None for any other text."""
    return int(text) if text.isascii() and text.isdigit() and len(text) <= most_digits else None
