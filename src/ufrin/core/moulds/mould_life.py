"""The life of moulds as a record shows it: Kaplan and Meier's curve, and Weibull's distribution fitted to it."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import gamma, log

import numpy as np
from scipy.optimize import brentq

from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused
from ufrin.language import Text

MOST_MOULDS = 100_000
MOST_CASTS = 1e6
FEWEST_FAILURES = 2  # of a Weibull fit
LEAST_SHAPE, MOST_SHAPE = 0.02, 500.0


@dataclass(frozen=True, slots=True, kw_only=True)
class UsedMould:
    """A mould, or a cavity of one: the casts that it made, and whether it failed with the last; else it is in use."""

    casts: float
    failed: bool

    def __post_init__(self) -> None:
        if not 0 <= self.casts <= MOST_CASTS:
            raise Refused("casts", Text("A mould makes between 0 and {most_casts:.0f} casts.", most_casts=MOST_CASTS))
        if self.failed and self.casts == 0:
            raise Refused("casts", Text("A mould that failed made at least 1 cast. Leave it out if it never worked."))


@dataclass(frozen=True, slots=True, kw_only=True)
class WeibullFit:
    """A Weibull distribution of lives: chance to survive n casts = exp(-(n / scale)^shape)."""

    shape: float
    scale_casts: float

    @property
    def median_casts(self) -> float:
        """Half of the moulds last longer."""
        return float(self.scale_casts * log(2) ** (1 / self.shape))

    @property
    def b10_casts(self) -> float:
        """Nine of ten moulds last longer."""
        return float(self.scale_casts * (-log(0.9)) ** (1 / self.shape))

    @property
    def mean_casts(self) -> float:
        """The mean life."""
        return self.scale_casts * gamma(1 + 1 / self.shape)


@dataclass(frozen=True, slots=True, kw_only=True)
class LifeCurve:
    """Kaplan and Meier's curve: from each of ``casts`` on, the share that lasts longer."""

    casts: tuple[float, ...]
    survival: tuple[float, ...]

    @property
    def median_casts(self) -> float | None:
        """The smallest count at which at most half are left; None where more are."""
        return next((at for at, share in zip(self.casts, self.survival, strict=True) if share <= 0.5 + 1e-12), None)

    def survival_at(self, casts: float) -> float:
        """Return the share that lasts longer than a count.

        Parameters
        ----------
        casts : float
            How many.

        Returns
        -------
        float
            From 0 to 1.
        """
        left = [share for at, share in zip(self.casts, self.survival, strict=True) if at <= casts]
        return left[-1] if left else 1.0


def life_curve(moulds: Sequence[UsedMould]) -> LifeCurve:
    """Estimate how many moulds last how long.

    Parameters
    ----------
    moulds : sequence of UsedMould
        Failed, or still in use.

    Returns
    -------
    LifeCurve
        By Kaplan and Meier 1958 (``scipy.stats.ecdf``): a mould in use counts as at risk up to its count, that of a
        failure at the same count included.

    Raises
    ------
    Refused
        For no moulds, or too many.

    Examples
    --------
    >>> curve = life_curve([UsedMould(casts=10, failed=True), UsedMould(casts=20, failed=False)])
    >>> curve.median_casts, curve.survival_at(9), curve.survival_at(15)
    (10.0, 1.0, 0.5)
    """
    if not 1 <= len(moulds) <= MOST_MOULDS:
        raise Refused("moulds", Text("Between 1 and {most_moulds} moulds are needed.", most_moulds=MOST_MOULDS))
    failed = np.array([one.casts for one in moulds if one.failed], dtype=float)
    in_use = np.array([one.casts for one in moulds if not one.failed], dtype=float)
    if not len(failed):
        return LifeCurve(casts=(), survival=())
    from scipy.stats import CensoredData, ecdf  # noqa: PLC0415 - slow to load, and few jobs need it

    found = ecdf(CensoredData(uncensored=failed, right=in_use)).sf
    steps = np.isin(found.quantiles, failed)
    return LifeCurve(casts=tuple(found.quantiles[steps].tolist()), survival=tuple(found.probabilities[steps].tolist()))


def weibull_fit(moulds: Sequence[UsedMould]) -> WeibullFit | None:
    """Fit a Weibull distribution to the lives of moulds.

    Parameters
    ----------
    moulds : sequence of UsedMould
        Failed, or still in use.

    Returns
    -------
    WeibullFit or None
        By maximum likelihood with censoring: the shape from the profile equation, the scale from it (Lawless,
        Statistical Models and Methods for Lifetime Data, 2003; from memory). None with fewer than two failures, and
        where all failed at one count and none lasted longer, for any steepness would fit.
    """
    failed = np.array([one.casts for one in moulds if one.failed], dtype=float)
    used = np.array([one.casts for one in moulds if one.casts > 0], dtype=float)
    if len(failed) < FEWEST_FAILURES or (np.ptp(failed) == 0 and used.max() <= failed.max()):
        return None
    largest = used.max()
    logs, mean_log = np.log(used / largest), float(np.log(failed / largest).mean())

    def slope(shape: float) -> float:
        powers = np.exp(shape * logs)
        return float((powers * logs).sum() / powers.sum() - 1 / shape - mean_log)

    if slope(MOST_SHAPE) <= 0 or slope(LEAST_SHAPE) >= 0:
        return None
    shape = float(brentq(slope, LEAST_SHAPE, MOST_SHAPE, xtol=1e-12, rtol=1e-12))
    scale = largest * float((np.exp(shape * logs).sum() / len(failed)) ** (1 / shape))
    return WeibullFit(shape=shape, scale_casts=scale)


def life_findings(moulds: Sequence[UsedMould]) -> tuple[Finding, ...]:
    """Return what the record can't tell yet.

    Parameters
    ----------
    moulds : sequence of UsedMould
        Failed, or still in use.

    Returns
    -------
    tuple of Finding
        That none failed, that one did, or that all failed alike.
    """
    failures = sum(one.failed for one in moulds)
    if failures == 0:
        return (Finding(code="life-none-failed"),)
    if failures < FEWEST_FAILURES:
        return (Finding(code="life-one-failed"),)
    return () if weibull_fit(moulds) else (Finding(code="life-all-alike"),)
