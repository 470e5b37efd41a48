"""A trial of two ways side by side, such as two releases, told by an exact test."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ufrin.errors import Refused
from ufrin.language import Text

CONVINCED_BELOW = 0.05  # common practice
Verdict = Literal["first", "second", "no difference", "too few"]
Way = Literal["first", "second"]


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialResult:
    """What a trial tells: which way is better, and how likely such a difference is by chance alone."""

    verdict: Verdict
    chance: float


def laid_out(places: int, seed: int) -> tuple[Way, ...]:
    """Lay two ways out fairly over cavities or shots.

    Parameters
    ----------
    places : int
        How many there are.
    seed : int
        Of the shuffle, kept with the trial so that it can be laid out again.

    Returns
    -------
    tuple of Way
        In each two places that follow each other, each way once, in an order that chance chose (permuted blocks).

    Raises
    ------
    Refused
        For fewer than two places.
    """
    if places < 2:
        raise Refused("places", Text("Two ways need at least two cavities or two shots."))
    chance = np.random.default_rng(seed)
    found: list[Way] = []
    while len(found) < places:
        found += ["first", "second"] if chance.random() < 0.5 else ["second", "first"]
    return tuple(found[:places])


def compare_good(first: tuple[int, int], second: tuple[int, int]) -> TrialResult:
    """Compare how often two ways came out well.

    Parameters
    ----------
    first, second : (int, int)
        Good and flawed pieces of each.

    Returns
    -------
    TrialResult
        By Fisher's exact test, two-sided (Fisher 1922). "Too few" where not even all good against all flawed could
        convince.

    Raises
    ------
    Refused
        Without a piece of each.
    """
    tried = sum(first), sum(second)
    if min(tried) < 1 or min(*first, *second) < 0:
        raise Refused("pieces", Text("At least one piece of each way is needed."))
    from scipy.stats import fisher_exact  # noqa: PLC0415 - slow to load, and few jobs need it

    chance = float(fisher_exact([list(first), list(second)]).pvalue)
    clearest = float(fisher_exact([[tried[0], 0], [0, tried[1]]]).pvalue)
    return _told(chance, clearest, first[0] / tried[0] - second[0] / tried[1])


def compare_grades(first: Sequence[float], second: Sequence[float]) -> TrialResult:
    """Compare the grades that two ways got.

    Parameters
    ----------
    first, second : sequence of float
        Grades of the pieces, higher is better.

    Returns
    -------
    TrialResult
        By the test of Mann and Whitney 1947, two-sided, exact where no two grades are equal.

    Raises
    ------
    Refused
        Without a grade of each.
    """
    if not first or not second:
        raise Refused("grades", Text("At least one grade of each way is needed."))
    is_tied = len({*first, *second}) < len(first) + len(second)
    from scipy.stats import mannwhitneyu  # noqa: PLC0415 - slow to load, and few jobs need it

    found = mannwhitneyu(first, second, method="asymptotic" if is_tied else "exact")
    low = [*range(len(first))]
    high = [len(first) + one for one in range(len(second))]
    clearest = float(mannwhitneyu(low, high, method="exact").pvalue)
    pairs = len(first) * len(second)
    chance = float(found.pvalue)
    return _told(1.0 if np.isnan(chance) else chance, clearest, float(found.statistic) / pairs - 0.5)


def _told(chance: float, clearest: float, ahead: float) -> TrialResult:
    if clearest >= CONVINCED_BELOW:
        return TrialResult(verdict="too few", chance=chance)
    if chance >= CONVINCED_BELOW:
        return TrialResult(verdict="no difference", chance=chance)
    return TrialResult(verdict="first" if ahead > 0 else "second", chance=chance)
