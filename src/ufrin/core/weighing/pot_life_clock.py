"""The clock of a pot life: moments as a machine tells them, and how far a pot life is used up."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ufrin.core.rubber.cure_times import TIN_TEMP_C, time_at

Phase = Literal["calm", "soon", "now", "over"]
# from which share of the pot life each phase counts, the last first: the clock warns, then urges (common practice)
PHASES: tuple[tuple[Phase, float], ...] = (("over", 1.0), ("now", 0.85), ("soon", 0.6), ("calm", 0.0))


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """A point in time as a machine tells it.

    Parameters
    ----------
    wall_s : float
        Seconds since 1970, by the clock on the wall, which can be set.
    steady_s : float
        Seconds that the machine has run, which can't be set.
    machine : str
        Which run of which machine ``steady_s`` belongs to.
    """

    wall_s: float
    steady_s: float
    machine: str

    def since_s(self, earlier: "Moment") -> float:
        """Return the seconds since an earlier moment.

        They are counted by the steady clock while the machine was not restarted, otherwise by the clock on the wall.

        Parameters
        ----------
        earlier : Moment
            Before this one.

        Returns
        -------
        float
            Never less than 0.
        """
        same = self.machine == earlier.machine
        return max(0.0, self.steady_s - earlier.steady_s if same else self.wall_s - earlier.wall_s)

    def clock_moved_s(self, earlier: "Moment") -> float:
        """Return by how much the clock on the wall was set since an earlier moment; 0 where it can't be known.

        Parameters
        ----------
        earlier : Moment
            Before this one.

        Returns
        -------
        float
            Seconds, positive when it was set forwards.
        """
        if self.machine != earlier.machine:
            return 0.0
        return (self.wall_s - earlier.wall_s) - (self.steady_s - earlier.steady_s)


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
        Each interval uses up its duration over the pot life at its temperature.
    """
    notes = [(max(0.0, at), temp) for at, temp in temps_c if at <= elapsed_s] or [
        (0.0, temps_c[0][1] if temps_c else TIN_TEMP_C)
    ]
    used = 0.0
    for index, (at, temp) in enumerate(notes):
        start = 0.0 if index == 0 else at
        end = max(start, notes[index + 1][0]) if index + 1 < len(notes) else elapsed_s
        used += max(0.0, end - start) / 60 / time_at(tin_min, temp)
    whole_min = time_at(tin_min, notes[-1][1])
    return PotLife(used=used, elapsed_s=elapsed_s, left_s=(1 - used) * whole_min * 60, whole_min=whole_min)
