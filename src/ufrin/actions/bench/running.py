"""What runs in the workshop: cups at the bench, cures with their clocks, and what is to be done next."""

from dataclasses import dataclass
from typing import Literal

from ufrin.actions.job.open_job import state_of
from ufrin.core.clocks.cure_clocks import ClockKind, CureClock
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.job_state import ready_kind
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.witness import asks_witness
from ufrin.store import pours
from ufrin.store.connection import Database
from ufrin.store.pours import StoredPour

NextKind = Literal["take out", "second half", "press the cup"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Running:
    """A pour that runs: at the bench, or as a cure with the clock that counts for it."""

    pour: StoredPour
    state: BenchState
    clock: CureClock | None = None

    @property
    def is_at_bench(self) -> bool:
        """Whether somebody weighs it."""
        return not self.state.is_finished


@dataclass(frozen=True, slots=True, kw_only=True)
class NextDo:
    """Something that is to be done now with a pour; ``since_s`` is for how long it is due."""

    kind: NextKind
    pour: StoredPour
    since_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class WhatRuns:
    """What runs, the next to end first, and what is to be done, the longest due first."""

    running: tuple[Running, ...]
    next: tuple[NextDo, ...]


def what_runs(database: Database, now: Moment) -> WhatRuns:
    """Show what runs in the workshop now."""
    with database.reading() as connection:
        weighed, cured = pours.running(connection), pours.curing(connection)
    benches = [Running(pour=one, state=state_of(one)) for one in weighed]
    cures = [_cure(one, now) for one in cured]
    todo = [found for one in cures if (found := _next(one, now))]
    counting = [one for one in cures if one.clock and not one.clock.is_over]
    return WhatRuns(
        running=(*benches, *sorted(counting, key=lambda one: one.clock.left_s if one.clock else 0.0)),
        next=tuple(sorted(todo, key=lambda one: -one.since_s)),
    )


def counting_kind(state: BenchState) -> ClockKind:
    """Return which clock of a cure counts now: that of taking it out, then that of the first cast."""
    return ready_kind(state) if state.is_demoulded else "demould"


def _cure(kept: StoredPour, now: Moment) -> Running:
    state = state_of(kept)
    wanted = counting_kind(state)
    return Running(pour=kept, state=state, clock=state.clocks.of_kind(wanted, now))


def _next(one: Running, now: Moment) -> NextDo | None:
    if one.state.is_demoulded:
        return None
    if one.clock is None or one.clock.is_over:
        since_s = -one.clock.left_s if one.clock else 0.0
        kind: NextKind = "second half" if one.state.plan.half == "first" else "take out"
        return NextDo(kind=kind, pour=one.pour, since_s=since_s)
    return NextDo(kind="press the cup", pour=one.pour, since_s=0.0) if asks_witness(one.state, now) else None
