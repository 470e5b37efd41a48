"""The clocks of one batch: pot life, press window, demould, full cure, and when it may be cast in."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal, get_args

from ufrin.core.clocks.cure_factor import NOTHING_FOUND, TIN, Bracket, CureFactor
from ufrin.core.clocks.equivalent_age import FASTEST_Q10, SLOWEST_Q10, TempNotes, done_min
from ufrin.core.rubber.cure_times import Q10

ClockKind = Literal["pot-life", "press", "handling", "demould", "cast-in", "full-cure"]
CLOCK_KINDS: tuple[ClockKind, ...] = get_args(ClockKind)
# what must be done before its clock ends; the others are waited for
DEADLINES: frozenset[ClockKind] = frozenset({"pot-life", "press"})


@dataclass(frozen=True, slots=True, kw_only=True)
class CureClock:
    """One clock of a batch.

    Parameters
    ----------
    kind : str
        One of ``CLOCK_KINDS``.
    elapsed_s : float
        Since A met B.
    end_s, early_s, late_s : float
        When it ends, in seconds since A met B, and between which times it does if the rubber answers to warmth less
        or more than is usual.
    """

    kind: ClockKind
    elapsed_s: float
    end_s: float
    early_s: float
    late_s: float

    def after(self, elapsed_s: float) -> "CureClock":
        """Return the same clock at another time.

        Parameters
        ----------
        elapsed_s : float
            Since A met B.

        Returns
        -------
        CureClock
            With the same ends.
        """
        return CureClock(
            kind=self.kind, elapsed_s=elapsed_s, end_s=self.end_s, early_s=self.early_s, late_s=self.late_s
        )

    @property
    def left_s(self) -> float:
        """Until its end; negative when past."""
        return self.end_s - self.elapsed_s

    @property
    def is_over(self) -> bool:
        """Whether it has ended."""
        return self.left_s <= 0


def cure_clocks(
    tin_min: Mapping[ClockKind, float | None],
    elapsed_s: float,
    notes: TempNotes,
    *,
    factor: CureFactor = TIN,
    found: Bracket = NOTHING_FOUND,
) -> tuple[CureClock, ...]:
    """Work out the clocks of a batch.

    Parameters
    ----------
    tin_min : mapping of kind to min
        What the tin states, at its reference temperature; None for what it does not state.
    elapsed_s : float
        Since A met B; the ends do not depend on it.
    notes : sequence of (min since A met B, degC)
        The temperatures of the room until now.
    factor : CureFactor, optional
        What the shop has learnt of the rubber.
    found : Bracket, optional
        What the witness cup of this pour said.

    Returns
    -------
    tuple of CureClock
        In the order of ``CLOCK_KINDS``. Each ends when the equivalent age reaches the tin's figure times the factor.
    """
    clocks = []
    for kind in CLOCK_KINDS:
        minutes = tin_min.get(kind)
        if not minutes:
            continue
        real_min = factor.real_min(minutes, is_deadline=kind in DEADLINES, found=found)
        ends = [done_min(real_min, notes, q10=q10) for q10 in (SLOWEST_Q10, Q10, FASTEST_Q10)]
        clocks.append(
            CureClock(kind=kind, elapsed_s=elapsed_s, end_s=60 * ends[1], early_s=60 * min(ends), late_s=60 * max(ends))
        )
    return tuple(clocks)
