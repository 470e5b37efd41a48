"""What runs in the workshop: cups at the bench, cures with their clocks, and what is to be done next."""

import time
from dataclasses import dataclass
from typing import Literal

from ufrin.actions.job.open_job import state_of
from ufrin.core.clocks.cure_clocks import CureClock
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.job_state import counting_kind
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.witness import next_look_after_s
from ufrin.store import marks, pours
from ufrin.store.connection import Database
from ufrin.store.marks import KeptAnswers
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


@dataclass(frozen=True, slots=True, kw_only=True)
class _Cure:
    # what follows from the record and the room alone: the clock that counts and its first contact, and the next look
    pour: StoredPour
    state: BenchState
    contact: Moment | None
    clock: CureClock | None
    look_after_s: float | None


# all that runs: what is weighed, and the cures by the end of their clocks
_known: KeptAnswers[str, tuple[tuple[Running, ...], tuple[_Cure, ...]]] = KeptAnswers()


def what_runs(database: Database, now: Moment) -> WhatRuns:
    """Show what runs in the workshop now."""
    read_at_s = time.monotonic()
    with database.reading() as connection:
        mark = marks.read(connection).runs
        known = _known.get(database, "", mark)
        if known is None:
            weighed, cured = pours.running(connection), pours.curing(connection)
            known = (
                tuple(Running(pour=one, state=state_of(one)) for one in weighed),
                tuple(sorted((_cure(one) for one in cured), key=_ends_s)),
            )
            _known.keep(database, "", mark, known, read_at_s=read_at_s)
    weighing, cures = known
    counting, todo = list[Running](), list[NextDo]()
    for one in cures:
        elapsed_s = now.since_s(one.contact) if one.contact else 0.0
        if one.clock is not None and elapsed_s < one.clock.end_s:
            counting.append(Running(pour=one.pour, state=one.state, clock=one.clock.after(elapsed_s)))
        if found := _next(one, elapsed_s):
            todo.append(found)
    return WhatRuns(running=(*weighing, *counting), next=tuple(sorted(todo, key=lambda do: -do.since_s)))


def _ends_s(one: _Cure) -> float:
    return one.contact.wall_s + one.clock.end_s if one.contact and one.clock else 0.0


def _cure(kept: StoredPour) -> _Cure:
    state = state_of(kept)
    contact, clock = state.clocks.last_ends.get(counting_kind(state), (None, None))
    return _Cure(pour=kept, state=state, contact=contact, clock=clock, look_after_s=next_look_after_s(state, clock))


def _next(one: _Cure, elapsed_s: float) -> NextDo | None:
    if one.state.is_demoulded:
        return None
    if one.clock is None or elapsed_s >= one.clock.end_s:
        since_s = elapsed_s - one.clock.end_s if one.clock else 0.0
        kind: NextKind = "second half" if one.state.plan.half == "first" else "take out"
        return NextDo(kind=kind, pour=one.pour, since_s=since_s)
    is_asked = one.look_after_s is not None and elapsed_s >= one.look_after_s
    return NextDo(kind="press the cup", pour=one.pour, since_s=0.0) if is_asked else None
