"""Why cavities are retired, the signs that come before, and when a mould is due for release, cleaning or rest."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from ufrin.language import Text

CAUSES: Mapping[str, str] = {
    "torn": Text("torn"),
    "stuck": Text("the cast stuck"),
    "colour": Text("it has drunk resin: its colour shifted"),
    "matt": Text("matt where it was glossy"),
    "swollen": Text("swollen"),
    "unmixed": Text("unmixed resin was left in it"),
    "lost": Text("lost, lent or given away"),
    "other": Text("something else"),
}
# a mould that was lost did not wear out: how long it would have lasted, nobody knows
NOT_WORN = frozenset({"lost"})
SIGNS: Mapping[str, str] = {
    "colour": Text("its colour shifts: it drinks resin and is near its end"),
    "sticking": Text("casts begin to stick"),
    "edge": Text("an edge has torn"),
    "matt": Text("matt spots"),
    "swollen": Text("it swells"),
}
NEAR_END_CASTS = 5.0  # of each cavity that is left; common practice
MouldState = Literal["new", "in use", "near its end", "retired"]
Care = Literal["release", "clean", "rest"]
CARES: Mapping[Care, str] = {"release": Text("Release"), "clean": Text("Cleaning"), "rest": Text("Rest")}


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """What a mould is due for: how often, and how many shots it made since; overdue from 0 to go on."""

    care: Care
    every_shots: int
    since_shots: int

    @property
    def to_go(self) -> int:
        """Shots until then; 0 or less when it is due."""
        return self.every_shots - self.since_shots


def dues(every: Mapping[Care, int | None], since: Mapping[Care, int]) -> tuple[Due, ...]:
    """Return what a mould is to be cared for by, the most urgent first.

    Parameters
    ----------
    every : mapping of care to int or None
        After so many shots; None for never.
    since : mapping of care to int
        Shots since it was done last.

    Returns
    -------
    tuple of Due
        Without what it never needs.
    """
    found = [
        Due(care=care, every_shots=often, since_shots=since.get(care, 0)) for care, often in every.items() if often
    ]
    return tuple(sorted(found, key=lambda one: one.to_go))


def mould_state(in_use: int, left_casts: float, *, signs: int, shots: int) -> MouldState:
    """Return what has come of a mould.

    Parameters
    ----------
    in_use : int
        Cavities that are not retired.
    left_casts : float
        Casts to be expected of them together: as likely more as fewer.
    signs, shots : int
        Signs of wear that were noted, and shots that it made.

    Returns
    -------
    str
        Near its end with five casts of each cavity left, or a sign of wear (common practice).

    Examples
    --------
    >>> mould_state(2, 11, signs=0, shots=9), mould_state(2, 10, signs=0, shots=9), mould_state(0, 0, signs=1, shots=9)
    ('in use', 'near its end', 'retired')
    """
    if not in_use:
        return "retired"
    if left_casts <= NEAR_END_CASTS * in_use or signs:
        return "near its end"
    return "in use" if shots else "new"
