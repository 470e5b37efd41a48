"""The promise of a new order: when it could be ready, with a band from how long the shop's steps really take."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import exp, log, sqrt

import numpy as np

from ufrin.core.schedule.first_plan import list_plan, tails_s
from ufrin.core.schedule.steps import SchedulePlan, Step, Work, Worker

SEED = 1
DRAWS = 120
BAND = (10.0, 90.0)  # of 100 draws
# before the shop has shown anything: a step with hands takes a tenth longer or shorter, now and then a third longer
USUAL_SPREAD, USUAL_WEIGHT = 0.15, 4.0  # common practice; worth as much as four pours of the shop's own
LEAST_TIMES, MOST_TIMES = 0.3, 4.0


@dataclass(frozen=True, slots=True, kw_only=True)
class LearntTimes:
    """How long steps with hands take, as times of what is planned.

    Parameters
    ----------
    median : float
        Half of them take longer.
    spread : float
        Standard deviation of their logarithm.
    pours : int
        Of the shop that it was learnt from.
    """

    median: float
    spread: float
    pours: int


def learn_times(ratios: Sequence[float]) -> LearntTimes:
    """Learn from the shop's own pours, beginning with what is usual.

    Parameters
    ----------
    ratios : sequence of float
        Real time over planned time; what can't be is left out.

    Returns
    -------
    LearntTimes
        The usual figures, outweighed step by step: mean and variance of the logarithm, each with the weight of
        ``USUAL_WEIGHT`` pours that went as planned.
    """
    logs = [log(one) for one in ratios if LEAST_TIMES <= one <= MOST_TIMES]
    weight = len(logs) + USUAL_WEIGHT
    mean = sum(logs) / weight
    squares = sum((one - mean) ** 2 for one in logs) + USUAL_WEIGHT * (USUAL_SPREAD**2 + mean**2)
    return LearntTimes(median=exp(mean), spread=sqrt(squares / weight), pours=len(logs))


@dataclass(frozen=True, slots=True, kw_only=True)
class Promise:
    """When an order could be ready, in seconds since the plan's start: as planned, and between which times mostly."""

    ends_s: int
    early_s: int
    late_s: int
    in_time: float


def promise(work: Work, key: str, plan: SchedulePlan, learnt: LearntTimes) -> Promise:
    """Say when a step could have ended, and how sure that is.

    Parameters
    ----------
    work : Work
        With the new order.
    key : str
        Of its last step.
    plan : SchedulePlan
        The best one that was found.
    learnt : LearntTimes
        Of the shop.

    Returns
    -------
    Promise
        The steps are done in the order of the plan, none before its time there, each with a time that is drawn from
        what was learnt; ``early_s`` to ``late_s`` holds 80 of 100 draws, and ``in_time`` is the share that is done by
        the end as planned.
    """
    placed = plan.by_key()
    urgency = {one.key: float(placed[one.key].begins_s) for one in work.steps}
    draws = np.random.default_rng(SEED).lognormal(log(learnt.median), learnt.spread, size=(DRAWS, len(work.steps)))
    longest = [_longest_s(step, work.people) for step in work.steps]
    ends = []
    for row in draws:
        drawn = tuple(
            _drawn(step, placed[step.key].begins_s, float(times), longest_s)
            for step, times, longest_s in zip(work.steps, row, longest, strict=True)
        )
        found = list_plan(replace(work, steps=drawn), urgency)
        if found is not None:
            ends.append(found.by_key()[key].ends_s)
    planned_s = placed[key].ends_s
    if not ends:
        return Promise(ends_s=planned_s, early_s=planned_s, late_s=planned_s + tails_s(work)[key], in_time=0.0)
    early_s, late_s = np.percentile(ends, BAND)
    return Promise(
        ends_s=planned_s,
        early_s=int(early_s),
        late_s=int(late_s),
        in_time=sum(one <= planned_s + 60 for one in ends) / len(ends),
    )


def _drawn(step: Step, planned_s: int, times: float, longest_s: int) -> Step:
    # nobody begins before it is planned, and no step becomes longer than any stretch of working time holds
    if step.is_under_way:
        return step
    takes_s = min(longest_s, 60 * max(1, round(times * step.attended_s / 60))) if step.attended_s else 0
    return replace(step, attended_s=takes_s, earliest_s=max(step.earliest_s, planned_s))


def _longest_s(step: Step, people: Sequence[Worker]) -> int:
    able = (one for one in people if step.person in {None, one.key})
    return max((end - begin for one in able for begin, end in one.windows), default=step.attended_s)
