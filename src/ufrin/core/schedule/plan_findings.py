"""Findings of a plan: wishes that it does not meet, and what stands in their way."""

from collections.abc import Iterable, Mapping
from itertools import pairwise

from ufrin.core.schedule.steps import PlacedStep, SchedulePlan, Step, Thing, Work
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.language import Text

MOST_TOLD = 20
LONG_ALONE_S = 2 * 3600


def plan_findings(work: Work, plan: SchedulePlan) -> tuple[Finding, ...]:
    """Say what is late, by how much and why, and whether a better plan may exist.

    Parameters
    ----------
    work : Work
        What is planned.
    plan : SchedulePlan
        Of it.

    Returns
    -------
    tuple of Finding
        Worst first.
    """
    placed = plan.by_key()
    found = []
    for step in work.steps:
        if step.finish_by_s is not None and placed[step.key].ends_s > step.finish_by_s:
            late_min = (placed[step.key].ends_s - step.finish_by_s) / 60
            short = what_is_short(work, plan, step)
            facts: dict[str, Amount | str] = {
                "step": Text("“{step}” of {job}", step=step.called, job=step.job) if step.job else f"“{step.called}”",
                "late": Amount(late_min, "time"),
                "why": short,
            }
            found.append(Finding(code="schedule-late", facts=facts))
    found = found[:MOST_TOLD]
    if not plan.is_proven and plan.bound_s:  # nothing is known of a plan that was made at once
        gap = f"{100 * plan.gap:.0f}"
        found.append(Finding(code="schedule-not-proven", facts={"gap": gap}))
    return worst_first(found)


def unattended_findings(work: Work, plan: SchedulePlan, hot: Mapping[str, str]) -> tuple[Finding, ...]:
    """Say which steps go on in heat or under pressure for long while nobody works.

    Parameters
    ----------
    work : Work
        What is planned.
    plan : SchedulePlan
        Of it.
    hot : mapping of str to str
        Keys of the things that are hot or under pressure, with what they are called.

    Returns
    -------
    tuple of Finding
        A caution for each such step; breaks within a day are no long time.
    """
    windows = sorted({window for one in work.people for window in one.windows})
    placed, found = plan.by_key(), []
    for step in work.steps:
        thing = next((hot[key] for key in step.uses if key in hot), None)
        if thing is None:
            continue
        own, alone_s = placed[step.key], 0
        at_s = own.begins_s
        for begin, end in (*windows, (own.ends_s, own.ends_s)):
            alone_s += max(0, min(begin, own.ends_s) - at_s)
            at_s = max(at_s, min(end, own.ends_s))
        if alone_s > LONG_ALONE_S:
            facts: dict[str, Amount | str] = {
                "step": f"“{step.called}”",
                "job": step.job,
                "thing": thing,
                "alone": Amount(alone_s / 60, "time"),
            }
            found.append(Finding(code="schedule-unattended", facts=facts))
    return tuple(found[:MOST_TOLD])


def gathering_findings(
    missing: Iterable[str],
    shots_later: Mapping[str, int],
    past: Iterable[Step],
    stopped: Iterable[tuple[str, str]] = (),
) -> tuple[Finding, ...]:
    """Say what could not be planned as it was meant.

    Parameters
    ----------
    missing : iterable of str
        Kinds of equipment that steps need and that nobody entered, in words with their article.
    shots_later : mapping of str to int
        Orders, with how many of their shots come after those on the plan.
    past : iterable of Step
        Put at a time that is past, and not begun.
    stopped : iterable of (str, str), optional
        Jobs that a stop keeps from being begun, and the first of their stops.

    Returns
    -------
    tuple of Finding
        Worst first.
    """
    found = [Finding(code="schedule-no-equipment", facts={"what": one}) for one in missing]
    found += [Finding(code="schedule-stopped", facts={"job": job, "stop": stop}) for job, stop in stopped]
    found += [Finding(code="schedule-time-past", facts={"step": f"“{one.called}”", "job": one.job}) for one in past]
    found += [
        Finding(code="schedule-shots-later", facts={"order": order, "shots": f"{number}"})
        for order, number in shots_later.items()
    ]
    return worst_first(found)


def what_is_short(work: Work, plan: SchedulePlan, step: Step) -> str:
    """Say what keeps a step and those before it from being earlier.

    Parameters
    ----------
    work : Work
        What is planned.
    plan : SchedulePlan
        Of it.
    step : Step
        That is late.

    Returns
    -------
    str
        The thing, hands or hours that the longest wait on its way is for; or that the steps themselves take so long.
    """
    steps, placed = work.by_key(), plan.by_key()
    longest_s, reason = 0, ""
    here: Step | None = step
    while here is not None:
        ready = {wait.key: placed[wait.key].ends_s + wait.at_least_s for wait in here.after}
        ready_s = max((here.earliest_s, *ready.values()))
        waits_s = placed[here.key].begins_s - ready_s
        if waits_s > longest_s and not here.is_under_way:
            longest_s, reason = waits_s, _taken_by(work, placed, here, ready_s)
        last = max(ready, key=lambda key: ready[key], default=None)
        here = steps[last] if last is not None else None
    return reason or Text("its steps take that long by themselves")


def _taken_by(work: Work, placed: Mapping[str, PlacedStep], step: Step, ready_s: int) -> str:
    waits_s = placed[step.key].begins_s - ready_s
    for thing in work.things:
        if 2 * _short_s(work, placed, step, thing, ready_s) >= waits_s:
            return Text("“{called}” waits for the {thing}", called=step.called, thing=thing.called)
    begins_s = placed[step.key].begins_s
    busy_s = sum(
        max(0, min(other.hands_off_s, begins_s) - max(other.begins_s, ready_s))
        for other in placed.values()
        if other.person is not None
    )
    open_s = sum(max(0, min(end, begins_s) - max(begin, ready_s)) for one in work.people for begin, end in one.windows)
    return Text(
        "“{called}” waits for {pair_of_hands}",
        called=step.called,
        pair_of_hands=Text("a pair of hands") if open_s and 2 * busy_s >= open_s else Text("working hours"),
    )


def _short_s(work: Work, placed: Mapping[str, PlacedStep], step: Step, thing: Thing, ready_s: int) -> int:
    # for how long of its wait too few of a thing were free
    needed, begins_s = step.uses.count(thing.key), placed[step.key].begins_s
    if not needed:
        return 0
    taken = [
        (max(placed[other.key].begins_s, ready_s), min(placed[other.key].ends_s, begins_s), other.uses.count(thing.key))
        for other in work.steps
        if other.key != step.key
    ]
    taken += [(max(begin, ready_s), min(end, begins_s), 1) for begin, end in thing.away]
    moments = sorted({ready_s, begins_s, *(one for begin, end, _ in taken if begin < end for one in (begin, end))})
    return sum(
        later - at
        for at, later in pairwise(moments)
        if sum(number for begin, end, number in taken if begin <= at < end) + needed > thing.count
    )
