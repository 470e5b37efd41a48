"""The temperatures of the room as they were noted: typed at a bench, or read from a thermometer."""

from collections.abc import Iterable
from dataclasses import dataclass

from ufrin.core.clocks.moment import Moment
from ufrin.core.rubber.cure_times import TIN_TEMP_C


@dataclass(frozen=True, slots=True, kw_only=True)
class RoomReading:
    """A temperature of the room, when it was noted, and the thermometer's name; empty for a typed one."""

    at: Moment
    temp_c: float
    thermometer: str = ""


def notes_since(start: Moment, readings: Iterable[RoomReading]) -> tuple[tuple[float, float], ...]:
    """Return the temperatures that count for a cure.

    Parameters
    ----------
    start : Moment
        When A met B.
    readings : iterable of RoomReading
        In any order.

    Returns
    -------
    tuple of (min since the start, degC)
        In the order of their times: the last one before the start counts from the start, or the tin's temperature
        where there is none; then those after it.
    """
    in_order = sorted(readings, key=lambda one: (one.at.wall_s, one.at.steady_s))
    after = [(one.at.since_s(start) / 60, one.temp_c) for one in in_order]
    before = [temp_c for from_min, temp_c in after if from_min <= 0]
    later = sorted((note for note in after if note[0] > 0), key=lambda note: note[0])
    return ((0.0, before[-1] if before else TIN_TEMP_C), *later)
