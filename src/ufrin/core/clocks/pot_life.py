"""The pot life of a cup: how far it is used up, and when the clock warns and urges."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ufrin.core.clocks.equivalent_age import age_min
from ufrin.core.rubber.cure_times import TIN_TEMP_C, time_at

Phase = Literal["calm", "soon", "now", "over"]
# from which share of the pot life each phase counts, the last first: the clock warns, then urges (common practice)
PHASES: tuple[tuple[Phase, float], ...] = (("over", 1.0), ("now", 0.85), ("soon", 0.6), ("calm", 0.0))


@dataclass(frozen=True, slots=True, kw_only=True)
class PotLife:
    """How far a pot life is used up.

    Parameters
    ----------
    used : float
        Fraction; more than 1 is past its end.
    elapsed_s, left_s : float
        Since A met B, and until the end at the room's temperature now; negative when past.
    whole_min : float
        At the room's temperature now.
    """

    used: float
    elapsed_s: float
    left_s: float
    whole_min: float

    @property
    def phase(self) -> Phase:
        """Calm, soon, now, or over."""
        return next(phase for phase, share in PHASES if self.used >= share or phase == "calm")


def pot_life(tin_min: float, elapsed_s: float, temps_c: Sequence[tuple[float, float]]) -> PotLife:
    """Work out how far a pot life is used up in a room whose temperature changed.

    Parameters
    ----------
    tin_min : float
        Pot life at 23 degC, as the tin states.
    elapsed_s : float
        Since A met B.
    temps_c : sequence of (seconds since A met B, degC)
        When each temperature was noted, in their order; one noted before counts from the start.

    Returns
    -------
    PotLife
        By the equivalent age; temperatures noted later than ``elapsed_s`` don't count.
    """
    first_c = temps_c[0][1] if temps_c else TIN_TEMP_C
    notes = [(max(0.0, at) / 60, temp) for at, temp in temps_c if at <= elapsed_s] or [(0.0, first_c)]
    used = age_min(elapsed_s / 60, notes) / tin_min
    whole_min = time_at(tin_min, notes[-1][1])
    return PotLife(used=used, elapsed_s=elapsed_s, left_s=(1 - used) * whole_min * 60, whole_min=whole_min)
