"""Measurements of one master compared: whether two are further apart than their errors explain."""

from collections.abc import Sequence
from itertools import combinations
from math import hypot

from ufrin.core.master.displacement import MeasuredVolume
from ufrin.core.wording.findings import Amount, Finding


def are_apart(one: MeasuredVolume, other: MeasuredVolume) -> bool:
    """Return whether two measurements are further apart than their errors, in quadrature, explain.

    Parameters
    ----------
    one, other : MeasuredVolume
        Of one master.

    Returns
    -------
    bool
        True where one of them must be wrong.
    """
    return abs(one.volume_ml - other.volume_ml) > hypot(one.plus_minus_ml, other.plus_minus_ml)


def compare(ways: Sequence[tuple[str, MeasuredVolume]], *, is_decided: bool = False) -> tuple[Finding, ...]:
    """Compare the measurements of one master in pairs.

    Parameters
    ----------
    ways : sequence of (str, MeasuredVolume)
        The name of each way, and its volume.
    is_decided : bool, optional
        Whether the maker said which one counts.

    Returns
    -------
    tuple of Finding
        ``ways-disagree``, or ``ways-differ`` where it is decided, for each pair that is further apart than their
        errors explain.
    """
    found = []
    for (first, a), (second, b) in combinations(ways, 2):
        if not are_apart(a, b):
            continue
        apart_ml, allowed_ml = abs(a.volume_ml - b.volume_ml), hypot(a.plus_minus_ml, b.plus_minus_ml)
        # as many decimals as it takes to see that the one is more than the other
        places = next((one for one in (1, 2) if round(apart_ml, one) > round(allowed_ml, one)), 3)
        facts: dict[str, Amount | str] = {
            "first": first,
            "second": second.lower(),
            "first_ml": Amount(a.volume_ml, "volume", places),
            "second_ml": Amount(b.volume_ml, "volume", places),
            "apart": Amount(apart_ml, "volume", places),
            "allowed": Amount(allowed_ml, "volume", places),
        }
        code = "ways-differ" if is_decided else "ways-disagree"
        found.append(Finding(code=code, facts=facts, field="counted_way"))
    return tuple(found)
