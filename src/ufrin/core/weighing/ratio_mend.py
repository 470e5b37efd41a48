"""Mending a ratio: what was really poured, checked against the ratio, and what restores it."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from ufrin.core.weighing.mix import DEFAULT_TOLERANCE_PCT, EXACT
from ufrin.core.weighing.ratio import Basis, check_ratio, weight_shares
from ufrin.errors import Refused
from ufrin.language import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class Checked:
    """A pour checked against its ratio."""

    ratio_error_pct: float
    verdict: Literal["within", "mend"]
    add_part: str | None
    add_g: float
    total_g_after: float


def check(
    *,
    ratio: Mapping[str, float],
    poured_g: Mapping[str, float],
    basis: Basis = "weight",
    sg_parts: Mapping[str, float] | None = None,
    tolerance_pct: float = DEFAULT_TOLERANCE_PCT,
) -> Checked:
    """Check what was really poured, and how to mend it: the short part is topped up, nothing is taken out.

    Parameters
    ----------
    ratio : mapping of part name to number
        A and B, by ``basis``.
    poured_g : mapping of part name to grams
        In the cup.
    basis : "weight" or "volume"
        Of the ratio.
    sg_parts : mapping of part name to SG, or None
        Needed by volume.
    tolerance_pct : float
        How far B/A may be off.

    Returns
    -------
    Checked
        ``ratio_error_pct`` = 100 ((B/A poured) / (B/A wanted) - 1), by weight.

    Raises
    ------
    Refused
        For a ratio of other than A and B, or without any A in the cup.

    Examples
    --------
    >>> check(ratio={"A": 100, "B": 10}, poured_g={"A": 200, "B": 26}).add_g
    60.0
    """
    check_ratio(ratio, basis, sg_parts)
    if set(ratio) != {"A", "B"} or set(poured_g) != {"A", "B"}:
        raise Refused(
            "poured_g", Text("A check is of A against B: name both, and no other, in the ratio and in what was poured.")
        )
    if not 0 < tolerance_pct <= 100:
        raise Refused("tolerance_pct", Text("The tolerance must be more than 0 and at most 100 %."))
    if not (0 < poured_g["A"] <= 1e7 and 0 <= poured_g["B"] <= 1e7):
        raise Refused(
            "poured_g", Text("There must be some A in the cup, no part can be less than nothing, and 10 t is the most.")
        )
    shares = weight_shares(ratio, basis, sg_parts)
    wanted_ratio = shares["B"] / shares["A"]
    error_pct = 100 * (poured_g["B"] / poured_g["A"] / wanted_ratio - 1)
    within = abs(error_pct) <= tolerance_pct * (1 + EXACT)
    part = None if within else "A" if error_pct > 0 else "B"
    short_g = {"A": poured_g["B"] / wanted_ratio - poured_g["A"], "B": poured_g["A"] * wanted_ratio - poured_g["B"]}
    add_g = short_g[part] if part else 0.0
    return Checked(
        ratio_error_pct=error_pct,
        verdict="within" if within else "mend",
        add_part=part,
        add_g=add_g,
        total_g_after=sum(poured_g.values()) + add_g,
    )
