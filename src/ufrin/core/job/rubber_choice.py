"""The choice of a rubber: which families suit what will be cast, and the figures taken while none is chosen."""

from collections.abc import Sequence
from dataclasses import dataclass

from ufrin.core.pairing.rules import LEVELS, OwnRule, Ruling, judge
from ufrin.core.rubber.tins import FAMILIES, Rubber
from ufrin.core.rubber.typical import typical_rubber

USUAL_FAMILY = "addition-silicone"  # what most shops pour (common practice)
_ORDER = {None: 0, "note": 0, "warn": 1, "stop": 2}


@dataclass(frozen=True, slots=True, kw_only=True)
class FamilyAdvice:
    """A family of rubbers for what will be cast: how the cast gets on with it, bare."""

    family: str
    ruling: Ruling

    @property
    def label(self) -> str:
        """Its name."""
        return FAMILIES[self.family]

    @property
    def level(self) -> str:
        """Its mark: ready, warning or stop."""
        return ("ready", "warning", "stop")[_ORDER[LEVELS[self.ruling.verdict]]]


def advised_families(cast: str | None, own: Sequence[OwnRule] = ()) -> tuple[FamilyAdvice, ...]:
    """Rank the families of rubbers for what will be cast.

    Parameters
    ----------
    cast : str or None
        Its material; None while that is not known.
    own : sequence of OwnRule, optional
        The shop's own tests.

    Returns
    -------
    tuple of FamilyAdvice
        Those that get on with it first, otherwise in the usual order; empty while the cast is not known.
    """
    if not cast:
        return ()
    found = [FamilyAdvice(family=family, ruling=judge(cast, family, own=own)) for family in FAMILIES]
    return tuple(sorted(found, key=lambda one: _ORDER[LEVELS[one.ruling.verdict]]))


def assumed_rubber(cast: str | None, own: Sequence[OwnRule] = ()) -> Rubber:
    """Return the rubber that is assumed while none is chosen.

    Parameters
    ----------
    cast : str or None
        What will be cast.
    own : sequence of OwnRule, optional
        The shop's own tests.

    Returns
    -------
    Rubber
        With the figures typical of the family that suits best.
    """
    advised = advised_families(cast, own)
    return typical_rubber(advised[0].family if advised else USUAL_FAMILY)
