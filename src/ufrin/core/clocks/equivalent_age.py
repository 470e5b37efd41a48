"""Equivalent age: how far a cure has come in a room whose temperature changed, in minutes at the tin's temperature."""

from collections.abc import Iterator, Sequence
from math import inf

from ufrin.core.rubber.cure_times import Q10, TIN_TEMP_C
from ufrin.errors import Refused
from ufrin.language import Text

# the band within which q10 lies for most rubbers (common practice)
SLOWEST_Q10, FASTEST_Q10 = 1.8, 2.5
MOST_DONE_MIN = 1e9  # beyond every cure: about 1,900 years

TempNotes = Sequence[tuple[float, float]]
"""(minutes since A met B, degC) in the order of their times; the first counts from the start, the last goes on."""


def _stretches(notes: TempNotes) -> Iterator[tuple[float, float, float]]:
    # from, until and temperature of each stretch
    for index, (from_min, temp_c) in enumerate(notes):
        until_min = notes[index + 1][0] if index + 1 < len(notes) else inf
        yield (0.0 if index == 0 else max(0.0, from_min)), max(0.0, until_min), temp_c


def _rate(temp_c: float, ref_c: float, q10: float) -> float:
    return float(q10 ** ((temp_c - ref_c) / 10))


def age_min(elapsed_min: float, notes: TempNotes, *, ref_c: float = TIN_TEMP_C, q10: float = Q10) -> float:
    """Return the equivalent age: the integral of q10^((T - T_ref) / 10) over time.

    Parameters
    ----------
    elapsed_min : float
        Since A met B.
    notes : sequence of (min, degC)
        The temperatures of the room, each from when it was noted; without any, the reference temperature.
    ref_c, q10 : float, optional
        The temperature of the tin's figures, and how many times faster the cure is for 10 degC more.

    Returns
    -------
    float
        Minutes at the reference temperature that would have brought the cure as far. The maturity method of concrete
        (ASTM C1074), with the q10 rule, which is common practice, in the place of Arrhenius's law.

    Examples
    --------
    >>> age_min(60, [(0, 23), (30, 33)])
    90.0
    """
    if not notes:
        return elapsed_min
    return sum(
        (min(until, elapsed_min) - start) * _rate(temp_c, ref_c, q10)
        for start, until, temp_c in _stretches(notes)
        if start < elapsed_min
    )


def done_min(minutes_at_ref: float, notes: TempNotes, *, ref_c: float = TIN_TEMP_C, q10: float = Q10) -> float:
    """Return when the equivalent age reaches a figure of the tin: the inverse of ``age_min``.

    Parameters
    ----------
    minutes_at_ref : float
        As the tin states, at the reference temperature.
    notes : sequence of (min, degC)
        The temperatures of the room; the last one goes on.
    ref_c, q10 : float, optional
        As in ``age_min``.

    Returns
    -------
    float
        In min since A met B.

    Raises
    ------
    Refused
        When the notes are not in the order of their times, or it is so cold that the end is beyond every calendar.

    Examples
    --------
    >>> done_min(240, [(0, 23), (120, 33)])
    180.0
    """
    if any(later < earlier for (earlier, _), (later, _) in zip(notes, notes[1:], strict=False)):
        raise Refused("temperatures", Text("The temperatures must be in the order of their times."))
    missing_min = minutes_at_ref
    for start, until, temp_c in _stretches(notes or [(0.0, ref_c)]):
        rate = _rate(temp_c, ref_c, q10)
        if missing_min <= (until - start) * rate:
            ends_min = start + missing_min / rate
            if not ends_min <= MOST_DONE_MIN:
                break
            return ends_min
        missing_min -= max(0.0, until - start) * rate
    raise Refused(
        "temperatures", Text("At this temperature it would take longer than anyone waits. Check the figures.")
    )
