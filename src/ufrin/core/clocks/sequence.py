"""The sequence of a job: its steps one after the other, dated forward from now or back from a wish."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

StepState = Literal["done", "running", "to come"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SequenceStep:
    """One step of a job.

    Parameters
    ----------
    key, label : str
        What it is ticked off by, and what is done.
    takes_s : float
        How long it takes; of a step that runs, in all.
    is_wait : bool
        Whether nobody has to stand by it.
    done_at_s : float or None
        When it was done, in seconds since 1970.
    began_s, ends_s : float or None
        Of a step that runs: when it began and when its clock ends, in seconds since 1970.
    can_tick : bool
        Whether a maker ticks it off by hand.
    hands_s : float or None
        For how long at its begin somebody stands by it; None where that is all of it, or nothing of a wait.
    """

    key: str
    label: str
    takes_s: float
    is_wait: bool = False
    done_at_s: float | None = None
    began_s: float | None = None
    ends_s: float | None = None
    can_tick: bool = False
    hands_s: float | None = None

    @property
    def attended_s(self) -> float:
        """For how long at its begin somebody stands by it."""
        whole_s = 0.0 if self.is_wait else self.takes_s
        return whole_s if self.hands_s is None else min(self.hands_s, self.takes_s)


@dataclass(frozen=True, slots=True, kw_only=True)
class DatedStep:
    """A step with its times, in seconds since 1970."""

    step: SequenceStep
    state: StepState
    begins_s: float
    ends_s: float


def forward(steps: Sequence[SequenceStep], now_s: float) -> tuple[DatedStep, ...]:
    """Date the steps of a job from now on.

    Parameters
    ----------
    steps : sequence of SequenceStep
        In their order.
    now_s : float
        Seconds since 1970.

    Returns
    -------
    tuple of DatedStep
        What is done keeps its real time; what runs ends when its clock does; the rest follows one after the other, as
        early as it can.
    """
    dated, at_s = [], now_s
    for step in steps:
        if step.done_at_s is not None:
            dated.append(DatedStep(step=step, state="done", begins_s=step.done_at_s, ends_s=step.done_at_s))
            continue
        if step.ends_s is not None:
            begins_s = step.began_s if step.began_s is not None else now_s
            dated.append(DatedStep(step=step, state="running", begins_s=begins_s, ends_s=step.ends_s))
            at_s = max(at_s, step.ends_s)
            continue
        dated.append(DatedStep(step=step, state="to come", begins_s=at_s, ends_s=at_s + step.takes_s))
        at_s += step.takes_s
    return tuple(dated)


def as_planned(
    dated: Sequence[DatedStep], times: Mapping[str, tuple[float, float]], since_s: float
) -> tuple[DatedStep, ...] | None:
    """Give the steps of a job the times that the shop's plan has for them.

    Parameters
    ----------
    dated : sequence of DatedStep
        By themselves.
    times : mapping of step key to (begin, end)
        Of the plan, in seconds since 1970.
    since_s : float
        From when on a plan is believed, in seconds since 1970: what somebody should have begun before that was missed.

    Returns
    -------
    tuple of DatedStep or None
        What is done or runs keeps its real time. None where the plan knows other steps than these, or where somebody
        missed one.
    """
    to_come = [one for one in dated if one.state == "to come"]
    if not to_come or any(one.step.key not in times for one in to_come):
        return None
    if any(one.step.attended_s and times[one.step.key][0] < since_s for one in to_come):
        return None
    return tuple(
        replace(one, begins_s=times[one.step.key][0], ends_s=times[one.step.key][1]) if one.state == "to come" else one
        for one in dated
    )


def backward(steps: Sequence[SequenceStep], now_s: float, wish_s: float) -> tuple[tuple[DatedStep, ...], float]:
    """Date the steps of a job back from when it is wished to be ready.

    Parameters
    ----------
    steps : sequence of SequenceStep
        In their order.
    now_s, wish_s : float
        Seconds since 1970.

    Returns
    -------
    tuple of DatedStep, float
        Each step to come as late as it can; and by how many seconds the wish can't be met, 0 where it can. A wish that
        can't be met dates them from now on.
    """
    early = forward(steps, now_s)
    late_s = max(0.0, max((one.ends_s for one in early), default=now_s) - wish_s)
    if late_s > 0:
        return early, late_s
    dated, at_s = [], wish_s
    for one in reversed(early):
        if one.state == "to come":
            dated.append(DatedStep(step=one.step, state=one.state, begins_s=at_s - one.step.takes_s, ends_s=at_s))
            at_s -= one.step.takes_s
        else:
            dated.append(one)
    return tuple(reversed(dated)), 0.0
