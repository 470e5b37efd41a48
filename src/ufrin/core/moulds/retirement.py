"""Why cavities are retired, the signs that come before, and when a mould is due for release, cleaning or rest."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

CAUSES: Mapping[str, str] = {
    "torn": "torn",
    "stuck": "the cast stuck",
    "colour": "it has drunk resin: its colour shifted",
    "matt": "matt where it was glossy",
    "swollen": "swollen",
    "unmixed": "unmixed resin was left in it",
    "lost": "lost, lent or given away",
    "other": "something else",
}
# a mould that was lost did not wear out: how long it would have lasted, nobody knows
NOT_WORN = frozenset({"lost"})
SIGNS: Mapping[str, str] = {
    "colour": "its colour shifts: it drinks resin and is near its end",
    "sticking": "casts begin to stick",
    "edge": "an edge has torn",
    "matt": "matt spots",
    "swollen": "it swells",
}
Care = Literal["release", "clean", "rest"]
CARES: Mapping[Care, str] = {"release": "Release", "clean": "Cleaning", "rest": "Rest"}


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
