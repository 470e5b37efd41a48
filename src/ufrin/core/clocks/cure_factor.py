"""The cure factor: how long a rubber really takes in this shop, as a share of the tin's time, and its evidence.

A witness cup that is pressed and a mould that is taken out bracket the real time of a pour: it was still liquid or
sticky at one age, and set at another. The factor is learnt from such brackets as their interval-censored likelihood
says (Turnbull, 1976, has the general case), over a prior that keeps it near 1 while there are few.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import exp, inf, log, sqrt
from statistics import NormalDist
from typing import Literal

Answer = Literal["liquid", "sticky", "set", "demoulded", "too-soft"]
HAS_SET: frozenset[Answer] = frozenset({"set", "demoulded"})

# of ln(factor): between rubbers, between the pours of one rubber, and of a reading that is simply odd (common practice)
RUBBERS_SD, POURS_SD, ODD_SD = 0.25, 0.10, 1.0
ODD_SHARE = 0.05
WIDEST, CELLS = 1.6, 320  # the factors from a fifth to five times, in steps of 1 %
BAND_SHARE = 0.8  # of the cases lie within the band that is shown
JUST_BEFORE = 1 - 1e-6
LEAST_CHANCE = 1e-6
LEARNT_FROM = 30  # of the newest pours with evidence
_STANDARD = NormalDist()


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """What somebody found when pressing a left-over, or when taking a mould out.

    Parameters
    ----------
    answer : str
        Liquid, sticky or set; demoulded well, or too soft to demould.
    share : float
        The equivalent age of the rubber then, as a share of the tin's time to demould.
    """

    answer: Answer
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Bracket:
    """Between which shares of the tin's time the rubber of one pour set."""

    low: float = 0.0
    high: float = inf

    @property
    def says_something(self) -> bool:
        """Whether it narrows anything down."""
        return self.low > 0 or self.high < inf


def bracket(readings: Sequence[Reading]) -> Bracket:
    """Return between which shares of the tin's time a pour set.

    Parameters
    ----------
    readings : sequence of Reading
        In the order in which they were taken.

    Returns
    -------
    Bracket
        What was found later counts before an earlier answer that it contradicts: a cup that is sticky now had not
        set before.

    Examples
    --------
    >>> bracket([Reading(answer="sticky", share=0.7), Reading(answer="set", share=0.9)])
    Bracket(low=0.7, high=0.9)
    """
    low, high = 0.0, inf
    for one in readings:
        if one.answer in HAS_SET:
            high = min(high, one.share)
            low = low if low < high else 0.0
        else:
            low = max(low, one.share)
            high = high if high > low else inf
    return Bracket(low=low, high=high)


NOTHING_FOUND = Bracket()


@dataclass(frozen=True, kw_only=True)
class CureFactor:
    """How long a cure takes as a share of the tin's time: a log-normal distribution, and the pours that it is from.

    Parameters
    ----------
    log_mean, log_sd : float
        Of ln(factor) of the rubber; that of a pour scatters around it by ``POURS_SD``.
    pours : int
        That told something.
    """

    log_mean: float = 0.0
    log_sd: float = RUBBERS_SD
    pours: int = 0

    @property
    def factor(self) -> float:
        """The middle of what is to be expected."""
        return exp(self.log_mean)

    def real_min(self, tin_min: float, *, is_deadline: bool, found: Bracket = NOTHING_FOUND) -> float:
        """Return how long something takes here.

        Parameters
        ----------
        tin_min : float
            What the tin states.
        is_deadline : bool
            Whether it must be done by then: a deadline is never put off by what was learnt, only brought forward, so
            that nobody pours too late.
        found : Bracket, optional
            What was found in this very pour until now.

        Returns
        -------
        float
            In min; the tin's figure itself while nothing was learnt.
        """
        times = self.of_pour(found) if self.pours or found.says_something else 1.0
        return tin_min * (min(1.0, times) if is_deadline else times)

    @property
    def band(self) -> tuple[float, float]:
        """Within which it lies in four of five cases."""
        reach = _STANDARD.inv_cdf((1 + BAND_SHARE) / 2) * self.log_sd
        return exp(self.log_mean - reach), exp(self.log_mean + reach)

    @cached_property
    def _of_a_pour(self) -> NormalDist:
        return NormalDist(self.log_mean, sqrt(self.log_sd**2 + POURS_SD**2))

    def of_pour(self, found: Bracket) -> float:
        """Return the factor of a pour that is still under way.

        Parameters
        ----------
        found : Bracket
            What was found in it until now.

        Returns
        -------
        float
            The median of what the rubber's factor leaves possible inside the bracket.
        """
        return self.quantile(found, 0.5)

    def quantile(self, found: Bracket, share: float) -> float:
        """Return the factor of a pour that it will not exceed in a share of the cases.

        Parameters
        ----------
        found : Bracket
            What was found in it until now.
        share : float
            Between 0 and 1.

        Returns
        -------
        float
            Of the distribution cut off at both ends of the bracket; the nearest end where that is far off anything
            to be expected.
        """
        if not found.says_something:
            return exp(self._of_a_pour.inv_cdf(share))
        below = self._of_a_pour.cdf(log(found.low)) if found.low > 0 else 0.0
        above = self._of_a_pour.cdf(log(found.high)) if found.high < inf else 1.0
        at = below + share * (above - below)
        # what was found to have set had set before it was looked at, not at that very moment
        set_by = found.high * JUST_BEFORE
        if not above - below > 1e-9 or not 0 < at < 1:
            return found.low if found.low > 0 and self.log_mean < log(found.low) else set_by
        return min(max(exp(self._of_a_pour.inv_cdf(at)), found.low), set_by)


TIN = CureFactor()


def learn_factor(brackets: Sequence[Bracket]) -> CureFactor:
    """Learn a rubber's factor from its pours.

    Parameters
    ----------
    brackets : sequence of Bracket
        One of each pour, the newest first; only ``LEARNT_FROM`` count.

    Returns
    -------
    CureFactor
        The mean and standard deviation of the posterior of ln(factor): normal prior around the tin's figure, and of
        each pour the probability that it sets inside its bracket, of which a share may be odd and tells nothing.
    """
    telling = [one for one in brackets if one.says_something][:LEARNT_FROM]
    if not telling:
        return TIN
    grid = [-WIDEST + 2 * WIDEST * index / CELLS for index in range(CELLS + 1)]
    odd = NormalDist(0.0, ODD_SD)
    prior = NormalDist(0.0, RUBBERS_SD)
    weights = [prior.pdf(at) for at in grid]
    for one in telling:
        low = log(one.low) if one.low > 0 else -inf
        high = log(one.high) if one.high < inf else inf
        # however odd it is, it leaves the others their say
        by_chance = ODD_SHARE * max(LEAST_CHANCE, odd.cdf(high) - odd.cdf(low))
        for index, at in enumerate(grid):
            inside = _STANDARD.cdf((high - at) / POURS_SD) - _STANDARD.cdf((low - at) / POURS_SD)
            weights[index] *= (1 - ODD_SHARE) * inside + by_chance
    whole = sum(weights)
    mean = sum(weight * at for weight, at in zip(weights, grid, strict=True)) / whole
    spread = sum(weight * (at - mean) ** 2 for weight, at in zip(weights, grid, strict=True)) / whole
    return CureFactor(log_mean=mean, log_sd=sqrt(spread), pours=len(telling))
