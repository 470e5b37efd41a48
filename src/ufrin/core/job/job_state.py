"""The state of a job: where each of its pours stands, which one is next, and what the whole has come to."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from ufrin.core.clocks.cure_clocks import ClockKind
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.pour_targets import Half
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.wording.findings import Amount, Finding

PourStage = Literal["to pour", "weighing", "curing", "cured"]
Stage = Literal["planning", "ready", "stopped", "pouring", "curing", "demould due", "mould ready", "put away"]
STAGES: tuple[Stage, ...] = get_args(Stage)


@dataclass(frozen=True, slots=True, kw_only=True)
class PourState:
    """Where one pour of a mould stands.

    Parameters
    ----------
    half : str
        Of a mould in two parts.
    stage : str
        To pour, being weighed, curing, or cured.
    number : int or None
        Of its record.
    state : BenchState or None
        Of its record.
    """

    half: Half
    stage: PourStage
    number: int | None = None
    state: BenchState | None = None

    @property
    def is_poured(self) -> bool:
        """Whether it is in the mould."""
        return self.stage in {"curing", "cured"}


def pour_states(
    halves: Sequence[Half], records: Sequence[tuple[int, BenchState]], now: Moment
) -> tuple[PourState, ...]:
    """Return where the pours of the mould at work stand.

    Parameters
    ----------
    halves : sequence of str
        Of the pours that the job plans, in the order of the work.
    records : sequence of (number, BenchState)
        Its pours, the newest first.
    now : Moment
        By the server's clock.

    Returns
    -------
    tuple of PourState
        A second half counts only when it is newer than the first half that it is poured on.
    """
    found: list[PourState] = []
    newer_than = 0
    for half in halves:
        of_half = [(number, state) for number, state in records if state.plan.half == half and number > newer_than]
        known = next(((number, state) for number, state in of_half if not state.is_finished or state.has_poured), None)
        if known is None:
            found.append(PourState(half=half, stage="to pour"))
            newer_than = max([newer_than, *(number for number, _ in records)])
            continue
        number, state = known
        newer_than = number
        found.append(PourState(half=half, stage=_stage(state, now), number=number, state=state))
    return tuple(found)


def _stage(state: BenchState, now: Moment) -> PourStage:
    if not state.is_finished:
        return "weighing"
    return "curing" if _runs(state, "demould", now) else "cured"


def _runs(state: BenchState, kind: ClockKind, now: Moment) -> bool:
    clock = state.clocks.of_kind(kind, now)
    return clock is not None and not clock.is_over


def next_pour(states: Sequence[PourState]) -> Half:
    """Return the half that is poured next.

    Parameters
    ----------
    states : sequence of PourState
        Of the mould at work.

    Returns
    -------
    str
        The first that is not in the mould yet; where all are, the first half of another mould.
    """
    return next((one.half for one in states if not one.is_poured), states[0].half if states else "")


def curing_finding(states: Sequence[PourState]) -> Finding | None:
    """Return what stops the second half while the first still cures, or while nobody knows whether it does.

    Parameters
    ----------
    states : sequence of PourState
        Of the mould at work.

    Returns
    -------
    Finding or None
        None where nothing stops it.
    """
    first = states[0] if len(states) > 1 else None
    if first is None or not first.is_poured or first.state is None or next_pour(states) != "second":
        return None
    begun_s, ends_s = first.state.clocks.contact_s, first.state.clocks.end_s("demould")
    if begun_s is None or ends_s is None:
        return Finding(code="first-half-cure-unknown", facts={"pour": str(first.number)})
    if first.stage != "curing":
        return None
    facts: dict[str, Amount | str] = {"cures": Amount((ends_s - begun_s) / 60, "time"), "pour": str(first.number)}
    return Finding(code="first-half-curing", facts=facts)


def stage_of(states: Sequence[PourState], *, is_stopped: bool, is_put_away: bool, now: Moment) -> Stage:
    """Return what a job has come to.

    Parameters
    ----------
    states : sequence of PourState
        Of the mould at work; without any, nothing can be poured yet.
    is_stopped : bool
        Whether a stop is neither settled nor signed off.
    is_put_away : bool
        Whether it was taken off the Board.
    now : Moment
        By the server's clock.

    Returns
    -------
    str
        One of ``STAGES``. A mould is ready once it was taken out and may be cast in.
    """
    if is_put_away:
        return "put away"
    if any(one.stage == "weighing" for one in states):
        return "pouring"
    if any(one.stage == "curing" for one in states) and not is_out(states):
        return "curing"
    if states and all(one.is_poured for one in states):
        return _of_poured([one.state for one in states if one.state], now)
    if is_stopped:
        return "stopped"
    return "ready" if states else "planning"


def is_out(states: Sequence[PourState]) -> bool:
    """Return whether the mould at work was taken out of its box.

    Parameters
    ----------
    states : sequence of PourState
        Of the mould at work.

    Returns
    -------
    bool
        Noted with the pour that was made last.
    """
    last = states[-1].state if states else None
    return last is not None and last.is_demoulded


def ready_kind(state: BenchState) -> ClockKind:
    """Return which clock of a pour tells that its mould may be cast in.

    Parameters
    ----------
    state : BenchState
        Of a pour.

    Returns
    -------
    str
        What its tin states for casting; full cure where it states nothing.
    """
    return "cast-in" if state.plan.cast_in_min else "full-cure"


def counting_kind(state: BenchState) -> ClockKind:
    """Return which clock of a cure counts now.

    Parameters
    ----------
    state : BenchState
        Of a pour.

    Returns
    -------
    str
        That of taking it out, then that of the first cast.
    """
    return ready_kind(state) if state.is_demoulded else "demould"


def _of_poured(records: Sequence[BenchState], now: Moment) -> Stage:
    if any(state.plan.method for state in records) and not records[-1].is_demoulded:
        return "demould due"
    if any(_runs(state, ready_kind(state), now) for state in records):
        return "curing" if records[-1].is_demoulded else "demould due"
    # a pour of which nobody noted that it was taken out, in a version that did not ask, or a tin that does not say
    known = all(state.plan.clock_times[ready_kind(state)] for state in records)
    return "mould ready" if known or records[-1].is_demoulded else "demould due"
