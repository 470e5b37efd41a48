"""A job as the schedule sees it: the steps of its sequence that are not done, with what each of them uses."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from ufrin.core.clocks.sequence import SequenceStep
from ufrin.core.schedule.steps import After, Step

ThingKind = Literal["oven", "chamber", "pot", "table"]
# what getting the air out needs while the rubber is mixed and poured, and while it cures
POURED_WITH: Mapping[str, ThingKind] = {"vacuum": "chamber", "vibrate": "table"}
CURED_IN: Mapping[str, ThingKind] = {"pressure": "pot"}


@dataclass(frozen=True, slots=True, kw_only=True)
class ScheduledJob:
    """A job to be planned.

    Parameters
    ----------
    key, name : str
        What it is known by and called.
    steps : sequence of SequenceStep
        In their order.
    air : str
        How the air is got out of its rubber.
    wish_s : float or None
        When it is wished to be ready, in seconds since 1970.
    """

    key: str
    name: str
    steps: Sequence[SequenceStep]
    air: str = ""
    wish_s: float | None = None


def thing_kind(step_key: str, air: str) -> ThingKind | None:
    """Return which kind of equipment a step of a job's sequence needs.

    Parameters
    ----------
    step_key : str
        Of the sequence.
    air : str
        How the air is got out of the rubber.

    Returns
    -------
    str or None
        None where it needs nothing that is shared out.
    """
    if step_key == "post-cure":
        return "oven"
    if step_key.startswith("pour-"):
        return POURED_WITH.get(air)
    return CURED_IN.get(air) if step_key.startswith("cure-") else None


def job_steps(job: ScheduledJob, things: Mapping[ThingKind, str], start_s: int) -> tuple[Step, ...]:
    """Return the steps of a job that are not done.

    Parameters
    ----------
    job : ScheduledJob
        With the sequence of its steps.
    things : mapping of kind to str
        The key of the equipment of each kind that there is.
    start_s : int
        Of the plan, in seconds since 1970; whole minutes.

    Returns
    -------
    tuple of Step
        One after the other. A cure begins when the rubber is poured, a step that runs is under way, and what uses
        equipment of a kind that there is not uses nothing.
    """
    found: list[Step] = []
    for one in job.steps:
        if one.done_at_s is not None:
            continue
        kind = thing_kind(one.key, job.air)
        at_once = one.key.startswith("cure-") and found and found[-1].key.rpartition(":")[2].startswith("pour-")
        before = (After(key=found[-1].key, at_most_s=0 if at_once else None),) if found else ()
        begins_s, attended_s = None, _minutes_s(one.attended_s)
        alone_s = _minutes_s(one.takes_s) - attended_s
        if one.ends_s is not None:
            begins_s = _floor_s((one.began_s if one.began_s is not None else start_s) - start_s)
            whole_s = max(_minutes_s(one.ends_s - start_s), 0) - begins_s
            attended_s, alone_s = (0, whole_s) if one.is_wait else (whole_s, 0)
        found.append(
            Step(
                key=f"{job.key}:{one.key}",
                job=job.name,
                label=one.label,
                attended_s=attended_s,
                alone_s=max(0, alone_s),
                after=before,
                uses=(things[kind],) if kind and kind in things else (),
                begins_s=begins_s,
                is_under_way=begins_s is not None,
            )
        )
    if found and job.wish_s is not None:
        found[-1] = replace(found[-1], finish_by_s=_floor_s(job.wish_s - start_s))
    return tuple(found)


def _minutes_s(seconds: float) -> int:
    return 60 * ceil(round(seconds / 60, 6))


def _floor_s(seconds: float) -> int:
    return 60 * int(seconds // 60)
