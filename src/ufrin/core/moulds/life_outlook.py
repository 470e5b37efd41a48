"""The outlook of a mould: how many more casts it makes, from what is to be expected and the shop's own retirements."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from math import log

import numpy as np
import numpy.typing as npt

from ufrin.core.moulds.life_prior import PRIOR_SHAPE, PRIOR_WORTH, LifePrior
from ufrin.core.moulds.mould_life import UsedMould

Floats = npt.NDArray[np.float64]
# the steepness and the typical life that are weighed against each other
SHAPES, SCALES = 40, 90
LEAST_SHAPE, MOST_SHAPE = 0.7, 9.0
WIDEST = 15.0  # times the life to expect, and a part of it
DRAWS = 4000
BAND = (0.05, 0.95)


@dataclass(frozen=True, slots=True, kw_only=True)
class LifeLeft:
    """How many more casts are made: the middle, the band that holds nine of ten, and the draws that both come from."""

    median: float
    low: float
    high: float
    draws: Floats = field(compare=False, repr=False)

    def chance(self, casts: float) -> float:
        """Return the chance of at least so many more.

        Parameters
        ----------
        casts : float
            How many.

        Returns
        -------
        float
            From 0 to 1.
        """
        return float((self.draws >= casts).mean())

    def at_least(self, chance: float) -> float:
        """Return how many more are made with a chance.

        Parameters
        ----------
        chance : float
            From 0 to 1.

        Returns
        -------
        float
            That many or more.
        """
        return float(np.quantile(self.draws, 1 - chance, method="lower"))


@dataclass(frozen=True, slots=True, kw_only=True)
class LifeModel:
    """What is believed of the lives of cavities: how likely each steepness and typical life is.

    Parameters
    ----------
    shapes, scales : array of shape (s,), (c,)
        Of Weibull distributions.
    weights : array of shape (s, c)
        They add up to 1.
    """

    shapes: Floats
    scales: Floats
    weights: Floats

    def survival(self, casts: Floats) -> Floats:
        """Return the share of cavities that last longer than some counts.

        Parameters
        ----------
        casts : array of shape (n,)
            Counts.

        Returns
        -------
        array of shape (n,)
            From 0 to 1.
        """
        powers = (casts[:, None, None] / self.scales[None, None, :]) ** self.shapes[None, :, None]
        found: Floats = (np.exp(-powers) * self.weights).sum(axis=(1, 2))
        return found

    def times(self, unit: float) -> "LifeModel":
        """Return the same in another unit.

        Parameters
        ----------
        unit : float
            Casts in one count of this model, such as the life to expect where it counts in shares of it.

        Returns
        -------
        LifeModel
            Counting in casts.
        """
        return replace(self, scales=self.scales * unit)

    def left(self, made: Sequence[float], seed: int, *, stream: int = 0, draws: int = DRAWS) -> LifeLeft:
        """Return how many more casts some cavities make together.

        Parameters
        ----------
        made : sequence of float
            Casts that each of them has made.
        seed, stream : int
            Of the draws: those of one seed share what is believed, draw by draw, so that what several moulds make can
            be added up; each stream has its own luck.
        draws : int, optional
            How many.

        Returns
        -------
        LifeLeft
            In whole casts; no more for no cavities.
        """
        picked = np.random.default_rng(seed).choice(self.weights.size, size=draws, p=self.weights.ravel())
        luck = np.random.default_rng([seed, stream])
        shape = self.shapes[picked // len(self.scales)][:, None]
        scale = self.scales[picked % len(self.scales)][:, None]
        done = np.asarray(made, dtype=float)[None, :]
        # a life that is longer than what was made already
        lives = scale * ((done / scale) ** shape + luck.exponential(size=(draws, len(made)))) ** (1 / shape)
        total = (np.floor(lives) - done).clip(min=0).sum(axis=1)
        low, median, high = np.quantile(total, (BAND[0], 0.5, BAND[1]))
        return LifeLeft(median=float(median), low=float(low), high=float(high), draws=total)


def life_model(prior: LifePrior, own: Sequence[UsedMould] = ()) -> LifeModel:
    """Weigh what is to be expected against the shop's own cavities.

    Parameters
    ----------
    prior : LifePrior
        The life to expect: it counts like four cavities that were worn out, at the quarters of a Weibull distribution
        of shape 2.5 with that median.
    own : sequence of UsedMould, optional
        Cavities of the shop that were cast in alike: worn out, or still in use.

    Returns
    -------
    LifeModel
        By Bayes' rule on a grid of Weibull distributions, each as likely as any other before.
    """
    shapes = np.geomspace(LEAST_SHAPE, MOST_SHAPE, SHAPES)
    scale = prior.median_casts / log(2) ** (1 / PRIOR_SHAPE)
    scales = np.geomspace(scale / WIDEST, scale * WIDEST, SCALES)
    places = (np.arange(PRIOR_WORTH) + 0.5) / PRIOR_WORTH
    expected = scale * (-np.log(1 - places)) ** (1 / PRIOR_SHAPE)
    failed = np.concatenate([expected, [one.casts for one in own if one.failed]])
    used = np.concatenate([expected, [one.casts for one in own if one.casts > 0]])
    powers = np.array([(used**shape).sum() for shape in shapes])
    k, lam = shapes[:, None], np.log(scales)[None, :]
    likelihood = len(failed) * (np.log(k) - k * lam) + (k - 1) * np.log(failed).sum()
    likelihood = likelihood - powers[:, None] * np.exp(-k * lam)
    weights = np.exp(likelihood - likelihood.max())
    return LifeModel(shapes=shapes, scales=scales, weights=weights / weights.sum())
