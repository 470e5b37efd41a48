"""The Board's lists: what runs, what is next to do, and the jobs by their state."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ufrin.actions.bench.running import NextKind, Running, WhatRuns
from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.pot_life import PotLife
from ufrin.language import Text
from ufrin.web.contexts.cure_watch import ShownClock, shown_clocks
from ufrin.web.frame.headlines import JobState

MOST_SHOWN = 6  # of each list; the rest is a tap away
NEXT_WORDS: dict[NextKind, str] = {
    "take out": Text("Take it out"),
    "second half": Text("Turn it over for the second half"),
    "press the cup": Text("Press the witness cup"),
}
# by the level and words of a state: what waits for somebody first
_HEADINGS = (
    (Text("Being weighed"), frozenset({Text("Being weighed")})),
    (Text("To take out"), frozenset({Text("Demould")})),
    (Text("Curing"), frozenset({Text("Curing")})),
    (Text("Ready to pour"), frozenset({Text("Ready to pour"), Text("Ready, with a warning")})),
    (Text("Mould ready"), frozenset({Text("Mould ready")})),
)
_PLANNING, _STOPPED = Text("Planning"), Text("Stopped")
# what could be begun at the bench; what is under way is among the clocks
AT_BENCH = frozenset({Text("Ready to pour"), Text("Mould ready")})


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownRunning:
    """A line of what runs: at the bench with its pot life, or a cure with its clock."""

    running: Running
    clock: ShownClock | None
    pot_life: PotLife | None


def clocks_context(runs: WhatRuns, now: Moment, *, is_all: bool = False) -> dict[str, Any]:
    """Return what the top of the Board receives: the first of each list, or all."""
    most = None if is_all else MOST_SHOWN
    lines, todo = runs.running[:most], runs.next[:most]
    return {
        "is_all": is_all,
        "lines": [_line(one, now) for one in lines],
        "more_lines": len(runs.running) - len(lines),
        "todo": todo,
        "more_todo": len(runs.next) - len(todo),
        "next_words": NEXT_WORDS,
        "long": _long,
    }


def _long(seconds: float) -> str:
    minutes = round(seconds / 60)
    if minutes >= 2 * 24 * 60:
        return Text("{minutes} days", minutes=round(minutes / 1440))
    hours, rest = divmod(minutes, 60)
    return f"{hours} h {rest} min" if hours else f"{rest} min"


def _line(one: Running, now: Moment) -> ShownRunning:
    clock = shown_clocks([one.clock], now)[0] if one.clock else None
    at_work = one.is_at_bench and one.state.attempt.outcome == "open"
    return ShownRunning(running=one, clock=clock, pot_life=one.state.clock(now) if at_work else None)


def by_state(rows: Sequence[tuple[Any, JobState, Any]]) -> list[tuple[str, list[tuple[Any, JobState, Any]]]]:
    """Group jobs by their state, what waits for somebody first; inside a group they keep their order."""
    groups: dict[str, list[tuple[Any, JobState, Any]]] = {
        name: [] for name in (*(name for name, _ in _HEADINGS[:4]), _STOPPED, _PLANNING, _HEADINGS[4][0])
    }
    for row in rows:
        heading = next((name for name, words in _HEADINGS if row[1].words in words), None)
        groups.setdefault(heading or (_STOPPED if row[1].level == "stop" else _PLANNING), []).append(row)
    return [(name, found) for name, found in groups.items() if found]
