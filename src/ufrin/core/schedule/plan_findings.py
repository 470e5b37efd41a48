"""Findings of a plan: wishes that it does not meet, and what stands in their way."""

from collections.abc import Mapping

from ufrin.core.schedule.steps import PlacedStep, SchedulePlan, Step, Work
from ufrin.core.wording.findings import Amount, Finding, worst_first

MOST_TOLD = 20


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
                "step": f"“{step.called}”",
                "late": Amount(late_min, "time"),
                "why": short,
            }
            found.append(Finding(code="schedule-late", facts=facts, field=step.key))
    found = found[:MOST_TOLD]
    if not plan.is_proven and plan.placed:
        gap = f"{100 * plan.gap:.0f}"
        found.append(Finding(code="schedule-not-proven", facts={"gap": gap}))
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
    return reason or "its steps take that long by themselves"


def _taken_by(work: Work, placed: Mapping[str, PlacedStep], step: Step, ready_s: int) -> str:
    steps, own = work.by_key(), placed[step.key]
    shared_s: dict[str, int] = {}
    for other in placed.values():
        if other.key == step.key:
            continue
        for thing in set(step.uses) & set(steps[other.key].uses):
            meets_s = min(other.ends_s, own.begins_s) - max(other.begins_s, ready_s)
            shared_s[thing] = shared_s.get(thing, 0) + max(0, meets_s)
    if shared_s and max(shared_s.values()) * 2 >= own.begins_s - ready_s:
        return f"“{step.called}” waits for {max(shared_s, key=lambda one: shared_s[one])}"
    busy_s = sum(
        max(0, min(other.hands_off_s, own.begins_s) - max(other.begins_s, ready_s)) for other in placed.values()
    )
    open_s = sum(
        max(0, min(end, own.begins_s) - max(begin, ready_s)) for one in work.people for begin, end in one.windows
    )
    if open_s and busy_s * 2 >= open_s:
        return f"“{step.called}” waits for a pair of hands"
    return f"“{step.called}” waits for working hours"
