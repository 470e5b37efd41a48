"""Benchmarks of the schedule: a week of twelve jobs, and sixty jobs at once, against the plainest rule."""

import random
import time
from typing import Any

from extent import at_most

from ufrin.core.schedule.best_plan import best_plan
from ufrin.core.schedule.effort import Effort
from ufrin.core.schedule.first_plan import first_plan, longest_tail_first
from ufrin.core.schedule.steps import After, SchedulePlan, Step, Thing, Work, Worker

DAY_S, HOUR_S, MIN_S = 86_400, 3600, 60
THINGS = ("oven", "vacuum chamber", "pressure pot", "vibrating table")
WEEKS = (1, 2, 3, 4, 5)[: at_most(5, 1)]  # seeds of weeks that are drawn afresh
WITHIN = 0.05


def drawn_week(jobs: int, *, days: int, seed: int) -> Work:
    """Draw jobs of eight steps for two people and four things, as they look in a workshop; some are promised."""
    draw = random.Random(seed)  # noqa: S311 - no secret
    windows = tuple(
        (day * DAY_S + begin * HOUR_S, day * DAY_S + (begin + 4) * HOUR_S)
        for day in range(days)
        if day % 7 < 5  # noqa: PLR2004 - Monday to Friday
        for begin in (0, 5)
    )
    steps = []
    for job in range(jobs):
        for number in range(8):
            last = number == 7  # noqa: PLR2004 - of eight
            at_most = draw.choice([None, None, None, 18 * HOUR_S])
            steps.append(
                Step(
                    key=f"{job}.{number}",
                    job=f"{job}",
                    attended_s=draw.choice([5, 10, 15, 20, 30, 45]) * MIN_S,
                    alone_s=draw.choice([0, 0, 15, 60, 240, 960]) * MIN_S,
                    uses=(draw.choice(THINGS),) if draw.random() < 0.4 else (),  # noqa: PLR2004 - four of ten
                    after=(After(key=f"{job}.{number - 1}", at_most_s=at_most),) if number else (),
                    finish_by_s=draw.randrange(2, 6) * DAY_S if last and draw.random() < 0.3 else None,  # noqa: PLR2004
                )
            )
    return Work(
        steps=tuple(steps),
        people=tuple(Worker(key=str(number), windows=windows) for number in (1, 2)),
        things=tuple(Thing(key=one) for one in THINGS),
    )


def _told(plan: SchedulePlan) -> str:
    return f"{plan.late_s / HOUR_S:.1f} h late, all done after {plan.makespan_s / HOUR_S:.1f} h"


def _is_worse(plan: SchedulePlan, other: SchedulePlan | None) -> bool:
    return other is not None and (plan.late_s, plan.makespan_s) > (other.late_s, other.makespan_s)


def weeks_of_twelve_jobs(tell: Any) -> None:
    """Plan weeks of twelve jobs with ten seconds each: how near the best, how much better than the plainest rule."""
    near, worse, first_s, better = 0, 0, 0.0, []
    for seed in WEEKS:
        work = drawn_week(at_most(12, 4), days=30, seed=seed)
        began = time.perf_counter()
        first_plan(work)
        first_s = max(first_s, time.perf_counter() - began)
        plain, plan = longest_tail_first(work), best_plan(lambda _: None, work, Effort(most_s=at_most(10.0, 1.0)))
        near += plan.is_proven or (plan.gap <= WITHIN and plan.late_s <= (1 + WITHIN) * plan.late_bound_s)
        worse += _is_worse(plan, plain)
        if plain is not None:
            better.append(
                f"{_told(plan)} ({'proven' if plan.is_proven else f'gap {plan.gap:.1%}'}) against {_told(plain)}"
            )
    tell("weeks of 12 jobs proven, or within 5 % of the bound", near / len(WEEKS), ">= 1", "; ".join(better))
    tell("of them worse than the longest tail first", worse / len(WEEKS), "<= 0", f"{len(WEEKS)} weeks")
    tell("the first plan of one, of a second", first_s, "<= 1", f"the slowest of {len(WEEKS)}")


def sixty_jobs(tell: Any) -> None:
    """Plan sixty jobs at once in thirty seconds, and tell the gap."""
    work = drawn_week(at_most(60, 8), days=150, seed=1)
    began = time.perf_counter()
    plan = best_plan(lambda _: None, work, Effort(most_s=at_most(27.0, 1.0)))
    took_s = time.perf_counter() - began
    tell("60 jobs planned, of 30 s", took_s / 30, "<= 1", f"{_told(plan)}, gap {plan.gap:.0%}")
    tell("of that worse than the longest tail first", float(_is_worse(plan, longest_tail_first(work))), "<= 0", "")
