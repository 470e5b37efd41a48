"""Findings: what is wrong or worth knowing, why, and what to do.

The level and sentence of each code are in ``data/findings``.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from ufrin.core.data_files import read_data
from ufrin.core.measures.display import say_amounts, show
from ufrin.core.measures.quantity_kinds import Units

Level = Literal["stop", "warn", "note"]


@dataclass(frozen=True, slots=True)
class Amount:
    """A quantity inside a finding, shown in the workshop's units when the sentence is built."""

    value: float
    kind: str
    decimals: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One finding.

    Parameters
    ----------
    code : str
        One of ``SENTENCES``.
    facts : mapping
        The facts in the sentence, by name.
    field : str
        The input that it is about; empty when it is about none.
    """

    code: str
    facts: Mapping[str, Amount | str] = field(default_factory=dict)
    field: str = ""

    @property
    def level(self) -> Level:
        """Its level: stop, warn or note."""
        return SENTENCES[self.code][0]

    def text(self, units: Units = "metric") -> str:
        """Build the sentence.

        Parameters
        ----------
        units : "metric" or "us"
            The workshop's unit system.

        Returns
        -------
        str
            What, why and what to do.
        """
        shown = {
            name: show(fact.value, fact.kind, units, fact.decimals) if isinstance(fact, Amount) else fact
            for name, fact in self.facts.items()
        }
        sentence = say_amounts(str(SENTENCES[self.code][1]).format(**shown), units)
        return sentence[:1].upper() + sentence[1:]


_ORDER: Mapping[Level, int] = {"stop": 0, "warn": 1, "note": 2}


def worst_first(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Sort findings: stops, then warnings, then notes.

    Parameters
    ----------
    findings : iterable of Finding
        In any order.

    Returns
    -------
    tuple of Finding
        The same, worst first.
    """
    return tuple(sorted(findings, key=lambda finding: _ORDER[finding.level]))


SUBJECTS = (
    "mesh",
    "master",
    "opening",
    "box",
    "shelf",
    "rubber",
    "weighing",
    "degassing",
    "pairing",
    "casting",
    "moulds",
    "schedule",
)
# the level and the sentence of each code
SENTENCES: Mapping[str, tuple[Level, str]] = {
    code: (declared["level"], declared["sentence"])
    for subject in SUBJECTS
    for code, declared in read_data("wording", f"findings/{subject}").items()
}
