"""The allowance: how much more than needed to mix, learnt from the shop's own pours."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import floor

from ufrin.core.inputs.usual import USUAL
from ufrin.errors import Refused
from ufrin.language import Text

PRIOR_PCT = USUAL["rubber"]["spare_pct"]
PRIOR_WEIGHT = 5.0  # so many pours weigh as much as the usual 10 %
MOST_PCT = 100.0
LEARNT_FROM = 200  # the newest pours; a shop's habits change


@dataclass(frozen=True, slots=True, kw_only=True)
class PastPour:
    """A pour's need and use.

    Parameters
    ----------
    needed_g, used_g : float
        Of the box, and real: what was weighed without what was left over.
    """

    needed_g: float
    used_g: float

    def __post_init__(self) -> None:
        if not self.needed_g > 0 or not self.used_g > 0:
            raise Refused("used_g", Text("A pour that needed or used nothing teaches nothing."))

    @property
    def over_pct(self) -> float:
        """How much more than needed was used, in percent; negative when it was less."""
        return 100 * (self.used_g / self.needed_g - 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Allowance:
    """An allowance with its evidence.

    Parameters
    ----------
    spare_pct : float
        To mix beyond the need.
    learnt_pct : float or None
        The allowance by the pours alone; None without any.
    weight : float
        The weight of the pours against the usual 10 %, from 0 to 1.
    pours : int
        Learnt from.
    confidence_pct : float
        Fraction of pours for which it is enough.
    """

    spare_pct: float
    learnt_pct: float | None
    weight: float
    pours: int
    confidence_pct: float


def quantile(values: Sequence[float], share: float) -> float:
    """Return the value below which a fraction of the values lie, interpolated (Hyndman and Fan 1996, type 7).

    Parameters
    ----------
    values : sequence of float
        At least one.
    share : float
        From 0 to 1.

    Returns
    -------
    float
        Within the values.

    Examples
    --------
    >>> quantile([1, 2, 3, 4, 5], 0.9)
    4.6
    """
    ordered = sorted(values)
    at = share * (len(ordered) - 1)
    low = floor(at)
    high = min(low + 1, len(ordered) - 1)
    return ordered[low] + (at - low) * (ordered[high] - ordered[low])


def learn(over_pct: Sequence[float], confidence_pct: float) -> Allowance:
    """Learn the allowance from past pours.

    Parameters
    ----------
    over_pct : sequence of float
        How much more than needed each used, in percent, newest first; the first 200 count.
    confidence_pct : float
        Percentage of pours for which it should be enough: 50 to 99.

    Returns
    -------
    Allowance
        The percentile of used over needed, mixed with the usual 10 % by n / (n + 5) for n pours; never below 0.

    Raises
    ------
    Refused
        For a confidence out of that range.
    """
    if not 50 <= confidence_pct <= 99:
        raise Refused(
            "confidence_pct", Text("Choose how often it should be enough: between 50 and 99 pours out of 100.")
        )
    counted = over_pct[:LEARNT_FROM]
    weight = len(counted) / (len(counted) + PRIOR_WEIGHT)
    learnt = quantile(counted, confidence_pct / 100) if counted else None
    spare = weight * (learnt or 0.0) + (1 - weight) * PRIOR_PCT
    return Allowance(
        spare_pct=round(min(MOST_PCT, max(0.0, spare)), 1),
        learnt_pct=learnt,
        weight=weight,
        pours=len(counted),
        confidence_pct=confidence_pct,
    )
