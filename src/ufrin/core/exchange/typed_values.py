"""Typed values: what somebody typed for a term, in a form or in the cell of a table, read as a value."""

from ufrin.core.inputs.term import Term
from ufrin.core.master.turned_profiles import parse_direction, parse_profile
from ufrin.core.measures.parsing import parse
from ufrin.core.measures.quantity_kinds import KINDS, Units
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Refused

LONGEST_REFERENCE = 18  # digits


def read_typed(key: str, term: Term, text: str, units: Units = "metric", *, lists_choices: bool = False) -> object:
    """Read a text that is not empty.

    Parameters
    ----------
    key : str
        The field, for the refusal.
    term : Term
        The input.
    text : str
        As typed.
    units : "metric" or "us", optional
        The meaning of a bare number.
    lists_choices : bool, optional
        Whether a refusal lists the choices, for those who don't see them.

    Returns
    -------
    object
        A number in the base unit of its kind, a number on the Shelf, or a text as it is kept.

    Raises
    ------
    Refused
        When it can't be read, naming the field.
    """
    if term.kind in KINDS:
        return parse(text, term.kind, units, field=key)
    if term.kind == "choice":
        return _choice(key, term, text, lists_choices=lists_choices)
    if term.kind == "reference":
        if not (text.isascii() and text.isdigit() and len(text) <= LONGEST_REFERENCE):
            raise Refused(key, "That is not one of the choices. Choose again.")
        return int(text)
    plain = one_line(text)
    if len(plain) > term.longest:
        raise Refused(key, f"That is {len(plain)} characters; {term.longest} is the most. Shorten it.")
    if term.kind == "profile":
        return parse_profile(plain, units)
    return parse_direction(plain) if term.kind == "direction" else plain


def _choice(key: str, term: Term, text: str, *, lists_choices: bool) -> str:
    choices = term.choices or {}
    if text in choices:
        return text
    if lists_choices:
        raise Refused(key, f"“{text[:40]}” is not one of: {', '.join(choice for choice in choices if choice)}.")
    raise Refused(key, "That is not one of the choices. Choose again.")
