"""A quick sum: its inputs, its rule, its answer, and what of it a job can keep."""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from ufrin.core.casting.additions import Addition
from ufrin.core.casting.resins import Resin
from ufrin.core.inputs.term import Term
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.shore import Hardness, ShoreScale
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.scales import mass_decimals
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text

_RATIO = re.compile(r"\s*(\d{1,6}(?:\.\d{1,4})?)\s*[:/]\s*(\d{1,6}(?:\.\d{1,4})?)\s*")
_HARDNESS = re.compile(r"\s*(?:(00|A|D)[\s-]*(\d{1,3}(?:\.\d)?)|(\d{1,3}(?:\.\d)?)\s*(00|A|D))\s*", re.IGNORECASE)

SCALE_STEP_G = 0.1  # what a sum is shown for, which knows of no scale; common practice

Ratio = Mapping[str, float]
_SCALES: Mapping[str, ShoreScale] = {"00": "00", "A": "A", "D": "D"}


@dataclass(frozen=True, slots=True, kw_only=True)
class SumAnswer:
    """What a quick sum gives.

    Parameters
    ----------
    figures : tuple of (label, Amount)
        The headline, most wanted first.
    sentence : str
        With amounts as ``say_amounts`` reads them.
    rows : tuple of (label, Amount or text)
        What it is made up of.
    better : tuple of str
        What would make the answer better, most telling first.
    findings : tuple of Finding
        What is wrong or worth knowing.
    """

    figures: tuple[tuple[str, Amount], ...]
    sentence: str
    rows: tuple[tuple[str, Amount | str], ...] = ()
    better: tuple[str, ...] = ()
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class SumInputs:
    """What was typed for a sum, by the names of its terms; what was left empty has its default.

    Parameters
    ----------
    terms : mapping of key to Term
        Of the sum.
    typed : mapping of key to value
        In base units; what is missing, or None, was not typed.
    """

    terms: Mapping[str, Term]
    typed: Mapping[str, object]

    def is_typed(self, key: str) -> bool:
        """Return whether an input was filled in."""
        return self.typed.get(key) not in {None, ""}

    def maybe(self, key: str) -> float | None:
        """Return a number, or None where there is neither a typed one nor a default."""
        value = self.typed[key] if self.is_typed(key) else self.terms[key].default
        return None if value is None else float(str(value))

    def number(self, key: str) -> float:
        """Return a number.

        Parameters
        ----------
        key : str
            Of the input.

        Returns
        -------
        float
            In the base unit of its kind.

        Raises
        ------
        Refused
            When it was not typed and has no default.
        """
        value = self.maybe(key)
        if value is None:
            raise Refused(key, Text("“{label}” is still missing.", label=self.terms[key].label))
        if self.terms[key].positive and not value > 0:
            raise Refused(key, Text("This must be more than 0."))
        return value

    def text(self, key: str) -> str:
        """Return a text or the key of a choice; empty when there is none."""
        value = self.typed[key] if self.is_typed(key) else self.terms[key].default
        return "" if value is None else str(value)

    def ratio(self, key: str = "ratio") -> Ratio:
        """Return a ratio of A to B.

        Parameters
        ----------
        key : str
            Of the input, such as "10:1".

        Returns
        -------
        mapping of "A" and "B" to number
            As typed.

        Raises
        ------
        Refused
            When it is no ratio.
        """
        found = _RATIO.fullmatch(self.text(key))
        if not found or not float(found[1]) > 0 or not float(found[2]) > 0:
            raise Refused(key, Text("Type the parts of A and of B with a colon between them, such as 10:1 or 100:90."))
        return {"A": float(found[1]), "B": float(found[2])}

    def hardness(self, key: str) -> Hardness:
        """Return a Shore hardness.

        Parameters
        ----------
        key : str
            Of the input, such as "A 15".

        Returns
        -------
        Hardness
            On its scale.

        Raises
        ------
        Refused
            When it is none.
        """
        found = _HARDNESS.fullmatch(self.text(key))
        if not found:
            raise Refused(key, Text("Type a scale and a reading, such as A 15 or 00 30."))
        scale = _SCALES[(found[1] or found[4]).upper()]
        try:
            return Hardness(scale=scale, shore=float(found[2] or found[3]))
        except Refused as refused:
            raise Refused(key, refused.why) from refused


StationInputs = Mapping[str, Mapping[str, object]]
Tin = Rubber | Resin | Additive | Addition
# by station and the input that points to it
Tins = Mapping[str, Mapping[str, Tin]]


def weighed(amounts_g: Mapping[str, float]) -> tuple[tuple[str, Amount], ...]:
    """Return amounts to weigh, all with as many decimals as the smallest of them needs.

    Parameters
    ----------
    amounts_g : mapping of label to number
        In g.

    Returns
    -------
    tuple of (label, Amount)
        In the same order.
    """
    some_g = [g for g in amounts_g.values() if g > 0]
    decimals = mass_decimals(SCALE_STEP_G, min(some_g)) if some_g else 1
    return tuple((label, Amount(g, "mass", decimals)) for label, g in amounts_g.items())


def _nothing(_: SumInputs) -> StationInputs:
    return {}


def _no_tins(_: SumInputs) -> Tins:
    return {}


@dataclass(frozen=True, slots=True, kw_only=True)
class QuickSum:
    """A calculator without a job.

    Parameters
    ----------
    key, title, what : str
        Its address, its name, and a sentence on what it answers.
    terms : mapping of key to Term
        Its inputs; typing begins in the first.
    work : callable
        The answer for what was typed; raises Refused, naming the input.
    for_job : callable
        What of it a job keeps, by station and input.
    tins : callable
        What of the Shelf it is about, by station and input, as the tins describe it.
    """

    key: str
    title: str
    what: str
    terms: Mapping[str, Term]
    work: Callable[[SumInputs], SumAnswer]
    for_job: Callable[[SumInputs], StationInputs] = field(default=_nothing)
    tins: Callable[[SumInputs], Tins] = field(default=_no_tins)
