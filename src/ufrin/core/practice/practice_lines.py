"""The lines of a practice: what was entered at the bench, and what was done at the table beside it."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal, get_args

from ufrin.core.clocks.moment import Moment
from ufrin.core.practice.levels import Level, Mishap
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.core.weighing.weigh_plan import WeighPlan

ActKind = Literal["cup", "tip", "stop", "flag"]
Tipped = Literal["far", "little"]
ACTS: frozenset[str] = frozenset(get_args(ActKind))
TIPPED: frozenset[str] = frozenset(get_args(Tipped))
MACHINE = "practice"
MOST_LINES = 400
SLIDES_S = 1.0  # a lump that lets go of the tin late takes so long to fall


@dataclass(frozen=True, slots=True, kw_only=True)
class Act:
    """Something done at the table.

    Parameters
    ----------
    at_s : float
        By the clock of the practice.
    kind : str
        A cup was put on the scale, the tin was tipped, or put upright, or something was called wrong.
    what : str
        How far the tin was tipped, or the kind of mishap that was called.
    """

    at_s: float
    kind: ActKind
    what: str = ""


PracticeLine = RecordEntry | Act


@dataclass(frozen=True, slots=True, kw_only=True)
class PracticeSetup:
    """A practice before its first line: its level, what is weighed, and the mishaps that are planted."""

    level: Level
    plan: WeighPlan
    mishaps: tuple[Mishap, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Stream:
    """What runs out of a tin into the cup; ``to_s`` is None while it runs."""

    tin: str
    from_s: float
    to_s: float | None
    g_per_s: float
    is_wrong: bool = False

    def by_s(self, at_s: float) -> float:
        """Return what has run out by a time.

        Parameters
        ----------
        at_s : float
            By the clock of the practice.

        Returns
        -------
        float
            In g.
        """
        to_s = at_s if self.to_s is None else min(at_s, self.to_s)
        return self.g_per_s * max(0.0, to_s - self.from_s)

    def runs_at(self, at_s: float) -> bool:
        """Return whether it runs at a time."""
        return self.from_s <= at_s and (self.to_s is None or at_s < self.to_s)


def seconds_of(line: PracticeLine) -> float:
    """Return when a line was written, by the clock of the practice."""
    return line.at_s if isinstance(line, Act) else line.at.steady_s


def moment(at_s: float, began_wall_s: float = 0.0) -> Moment:
    """Return a time by the clock of the practice as a moment of the bench.

    Parameters
    ----------
    at_s : float
        Since the practice began.
    began_wall_s : float, optional
        When it began, by the clock on the wall.

    Returns
    -------
    Moment
        Of a machine of its own, so that it is never mixed up with a real one.
    """
    return Moment(wall_s=began_wall_s + at_s, steady_s=at_s, machine=MACHINE)


def poured_by(streams: tuple[Stream, ...], at_s: float) -> Mapping[str, float]:
    """Return what has run into a cup by a time, in g by tin."""
    found: dict[str, float] = {}
    for stream in streams:
        found[stream.tin] = found.get(stream.tin, 0.0) + stream.by_s(at_s)
    return found
