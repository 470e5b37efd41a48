"""Displacement drawn: measurements of one master side by side, each with its error, on one scale."""

from collections.abc import Sequence
from dataclasses import dataclass

from ufrin.web.drawings.svg_marks import line

WIDE_PX, HIGH_PX, EDGE_PX = 200.0, 22.0, 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One measurement: its value and its plus-minus, in any one unit."""

    value: float
    plus_minus: float


def error_bars(readings: Sequence[Reading]) -> list[str]:
    """Draw each reading as a point with its error bar, all on one scale.

    Parameters
    ----------
    readings : sequence of Reading
        At least one.

    Returns
    -------
    list of str
        An ``svg`` element for each.
    """
    low = min(reading.value - reading.plus_minus for reading in readings)
    high = max(reading.value + reading.plus_minus for reading in readings)
    px = (WIDE_PX - 2 * EDGE_PX) / max(high - low, 1e-12)

    def at(value: float) -> float:
        return EDGE_PX + (value - low) * px

    made = []
    for reading in readings:
        x1, x, x2, y = (
            at(reading.value - reading.plus_minus),
            at(reading.value),
            at(reading.value + reading.plus_minus),
            HIGH_PX / 2,
        )
        caps = "".join(line(end, y - 5, end, y + 5, "d-reading") for end in (x1, x2))
        mark = f'{line(x1, y, x2, y, "d-reading")}{caps}<circle cx="{x:.2f}" cy="{y:.2f}" r="4" class="d-point"/>'
        made.append(
            f'<svg class="readings" aria-hidden="true" width="{WIDE_PX:.0f}" height="{HIGH_PX:.0f}" '
            f'viewBox="0 0 {WIDE_PX:.0f} {HIGH_PX:.0f}">{mark}</svg>'
        )
    return made
