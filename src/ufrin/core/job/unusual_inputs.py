"""Inputs that lie far outside what is usual for a master: a note, for a digit may have slipped. Nothing is refused."""

from ufrin.core.inputs.stations import Inputs, Station
from ufrin.core.inputs.usual_ranges import RANGES, Size, usual_range
from ufrin.core.job.terms import TERMS
from ufrin.core.wording.findings import Amount, Finding


def unusual(station: Station, inputs: Inputs, size_mm: Size | None) -> tuple[Finding, ...]:
    """Return a note for every figure of a station that is far from usual.

    Parameters
    ----------
    station : str
        Where they were filled in.
    inputs : Inputs
        As filled in; defaults are never unusual.
    size_mm : (float, float, float) or None
        Of the master: some figures grow with it.

    Returns
    -------
    tuple of Finding
        With the usual range.
    """
    found = []
    for name, rule in RANGES.get(station, {}).items():
        typed = getattr(inputs, name)
        low, high = usual_range(rule, size_mm)
        if typed is None or typed == 0 or low <= typed <= high:
            continue
        term = TERMS[station][name]
        facts: dict[str, Amount | str] = {
            "what": term.label,
            "typed": Amount(typed, term.kind),
            "low": Amount(low, term.kind),
            "high": Amount(high, term.kind),
        }
        found.append(Finding(code="unusual-input", facts=facts, field=name))
    return tuple(found)
