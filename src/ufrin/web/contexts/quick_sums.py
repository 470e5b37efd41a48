"""What the page of a quick sum shows: its fields, its answer or what it still needs, and the address of both."""

from collections.abc import Mapping
from typing import Any

from ufrin.core.quick_sums.quick_sum import QuickSum, SumAnswer, SumInputs
from ufrin.core.quick_sums.time_sums import clock_ends_s
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.web.frame.forms import Field, read_sum, shown_text, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.wording_in_units import UnitFormatter


def filled_in(made: QuickSum, sent: Mapping[str, str]) -> dict[str, str]:
    """Return what was filled in of what an address or a form holds."""
    return {name: text for name, text in sent.items() if name in made.terms and text.strip()}


def sum_context(made: QuickSum, typed: Mapping[str, str], say: UnitFormatter) -> dict[str, Any]:
    """Return what the templates of a quick sum receive.

    Parameters
    ----------
    made : QuickSum
        The sum.
    typed : mapping of input to text
        What was filled in.
    say : UnitFormatter
        In the units that bare numbers of ``typed`` are in.

    Returns
    -------
    dict
        By the names in the templates.
    """
    reading = read_sum(made.terms, typed, say.units)
    errors, missing = dict(reading.errors), ""
    answer: SumAnswer | None = None
    if not errors:
        try:
            answer = made.work(SumInputs(terms=made.terms, typed=reading.changes))
        except Refused as refused:
            if refused.field in typed:
                errors[refused.field] = say.refusal(refused)
            else:
                missing = say.refusal(refused)
    begun_s = whole_number(typed.get("begun", ""), most_digits=11)
    # a bare number means the units it was typed in, wherever the address is opened
    address_of = {"units": say.units, **typed} if typed else {}
    return {
        "made": made,
        "fields": {
            name: Field(key=name, term=term, text=typed.get(name, ""), is_default=False, error=errors.get(name, ""))
            for name, term in made.terms.items()
            if term.kind != "hidden"
        },
        "counts": {name: shown_text(term, None, say.units) for name, term in made.terms.items()},
        "answer": answer,
        "missing": missing,
        "say": say,
        "address": Links.sum(made.key, address_of),
        "address_of": address_of,
        "typed": typed,
        "now_s": int(clock.now().wall_s),
        "until_s": clock_ends_s(answer, begun_s) if answer and "begun" in made.terms and begun_s is not None else None,
        "not_made": "",
        "name": "",
        # only where a page begins: an answer must leave a maker in the field they type in
        "focuses_first": False,
    }
