"""The next amount: how much to mix for a cavity, learnt from the shots before it."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

import numpy as np

from ufrin.core.weighing.allowance import quantile
from ufrin.errors import Refused
from ufrin.language import Text

FEWEST = 3  # shots before a percentile means anything; before it, the most that was used counts
LEARNT_FROM = 200  # the newest shots
SHORT_PCT = 10.0  # more than ever before, where every shot ran short
ALIKE = 0.02  # amounts so close count as one in the evidence


@dataclass(frozen=True, slots=True, kw_only=True)
class PastShot:
    """What a past shot tells of the amount.

    Parameters
    ----------
    mixed_g, left_g : float
        That were mixed, and that were left over.
    cavities : int
        Filled in it.
    was_short : bool
        Whether it was not enough; what was missing, if it is known, counts as needed.
    missing_g : float
        Where it was short.
    """

    mixed_g: float
    left_g: float = 0.0
    cavities: int = 1
    was_short: bool = False
    missing_g: float = 0.0

    def __post_init__(self) -> None:
        if not self.mixed_g > 0 or not 0 <= self.left_g < self.mixed_g or self.cavities < 1:
            raise Refused(
                "left_g", Text("What was left over must be less than what was mixed, and at least one cavity filled.")
            )

    @property
    def needed_g(self) -> float:
        """Of each cavity; where it was short and nobody knows by how much, at least that."""
        return (self.mixed_g - self.left_g + self.missing_g) / self.cavities

    @property
    def is_bound(self) -> bool:
        """Whether more than ``needed_g`` would have been needed."""
        return self.was_short and self.missing_g == 0


@dataclass(frozen=True, slots=True, kw_only=True)
class AmountTried:
    """An amount for a cavity, in g, how often in a row it was mixed, and how often it was enough."""

    g: float
    times: int
    enough: int


@dataclass(frozen=True, slots=True, kw_only=True)
class NextAmount:
    """What to mix for a cavity, in g, how many shots teach it, and what was tried, the oldest first."""

    g: float
    shots: int
    tried: tuple[AmountTried, ...]


def next_amount(shots: Sequence[PastShot], confidence_pct: float, *, least_g: float = 0.0) -> NextAmount | None:
    """Learn how much to mix for a cavity.

    Parameters
    ----------
    shots : sequence of PastShot
        Of one mould and one kind of cast, the oldest first.
    confidence_pct : float
        Percentage of shots for which it should be enough: 50 to 99.
    least_g : float, optional
        What a cavity takes by its own volume: less would never fill it, whatever was logged.

    Returns
    -------
    NextAmount or None
        The percentile of what a cavity really took; shots that ran short by an unknown amount count as "more than
        this" (Kaplan and Meier 1958). With fewer than three shots it is the most that any took. None without shots.

    Raises
    ------
    Refused
        For a confidence out of that range.
    """
    if not 50 <= confidence_pct <= 99:
        raise Refused(
            "confidence_pct", Text("Choose how often it should be enough: between 50 and 99 shots out of 100.")
        )
    counted = shots[-LEARNT_FROM:]
    if not counted:
        return None
    enough_g = max(least_g, _enough_g(counted, confidence_pct / 100))
    return NextAmount(g=enough_g, shots=len(counted), tried=_tried(counted))


def _enough_g(shots: Sequence[PastShot], share: float) -> float:
    known = [one.needed_g for one in shots if not one.is_bound]
    bounds = [one.needed_g for one in shots if one.is_bound]
    most_g = max([*known, *bounds])
    if len(shots) < FEWEST or not known:
        return most_g * (1 + SHORT_PCT / 100) if not known or most_g > max(known) else most_g
    if not bounds:
        return quantile(known, share)
    from scipy.stats import CensoredData, ecdf  # noqa: PLC0415 - slow to load, and few jobs need it

    reached = ecdf(CensoredData(uncensored=np.array(known), right=np.array(bounds))).cdf
    enough = reached.quantiles[reached.probabilities >= share]
    return float(enough[0]) if len(enough) else most_g * (1 + SHORT_PCT / 100)


def _tried(shots: Sequence[PastShot]) -> tuple[AmountTried, ...]:
    # amounts that follow each other and are alike are one
    step, number, last_g = list[int](), 0, 0.0
    for one in shots:
        g = one.mixed_g / one.cavities
        if last_g and abs(g / last_g - 1) > ALIKE:
            number += 1
        step.append(number)
        last_g = g
    tried = []
    for _, group in groupby(zip(step, shots, strict=True), key=lambda pair: pair[0]):
        alike = [shot for _, shot in group]
        mean_g = sum(shot.mixed_g / shot.cavities for shot in alike) / len(alike)
        tried.append(AmountTried(g=mean_g, times=len(alike), enough=sum(not shot.was_short for shot in alike)))
    return tuple(tried)
