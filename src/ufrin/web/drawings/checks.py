"""Drawings of the Checks station.

They are the preparation along a time line, and the bubbles that each school removes.
"""

from collections.abc import Callable, Sequence
from math import log10

from markupsafe import escape

from ufrin.core.degassing.schools import School
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.language import Text

WIDTH, NAMES, ROW, TOP = 640.0, 208.0, 30.0, 26.0
SMALLEST_MM, LARGEST_MM = 0.08, 6.0
MARKS_MM = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0)
_HOURS = (0.25, 0.5, 1.0, 2.0, 3.0, 4.0, 6.0, 12.0, 24.0, 48.0)
LEAST_BAR = 3.0


def preparation(steps: Sequence[PrepStep], say: Callable[[float, str], str]) -> str:
    """Draw the steps before one pour, the pour at the right end; work is solid, drying hatched.

    The numbers are those of the list beside it.

    Parameters
    ----------
    steps : sequence of PrepStep
        Of one phase, earliest first.
    say : callable
        Shows a quantity.

    Returns
    -------
    str
        SVG.
    """
    dry = f"prep-dry-{steps[0].phase}"  # a page may draw several
    whole = max(step.before_min for step in steps)
    left, right = 34.0, WIDTH - 40.0

    def at(before_min: float) -> float:
        return right - (right - left) * before_min / whole

    height = TOP + ROW * len(steps) + 10
    tick_min = 60 * next((hours for hours in _HOURS if whole / 60 / hours <= 6), 72.0)
    lines = [
        f'<svg viewBox="0 0 {WIDTH:g} {height:g}" class="drawing prep" role="img" '
        f'aria-label="{Text("When each step is begun before the pour")}">',
        f'<defs><pattern id="{dry}" width="6" height="6" patternUnits="userSpaceOnUse" '
        'patternTransform="rotate(45)"><path d="M0,0 V6" class="d-dry"/></pattern></defs>',
    ]
    ticks = 0
    while ticks * tick_min <= whole + 1e-9:
        x = at(ticks * tick_min)
        label = Text("pour") if not ticks else f"−{say(ticks * tick_min, 'time')}"
        anchor = "end" if not ticks else "middle"
        lines += [
            f'<path d="M{x:.1f},{TOP - 6:g} V{height - 6:g}" class="d-tick"/>',
            f'<text x="{(right + 38 if not ticks else max(x, 30)):.1f}" y="14" text-anchor="{anchor}" '
            f'class="d-text">{escape(label)}</text>',
        ]
        ticks += 1
    for number, step in enumerate(steps, 1):
        y = TOP + ROW * (number - 1) + 5
        begin, done, ready = (
            at(step.before_min),
            at(step.before_min - step.work_min),
            at(step.before_min - step.work_min - step.dry_min),
        )
        lines.append(
            f'<text x="{max(begin - 6, 14):.1f}" y="{y + 15:.1f}" text-anchor="end" class="d-text">{number}</text>'
        )
        if step.work_min:
            lines.append(
                f'<rect x="{begin:.1f}" y="{y:.1f}" width="{max(done - begin, LEAST_BAR):.1f}" height="20" '
                'class="d-work"/>'
            )
        if step.dry_min:
            lines.append(
                f'<rect x="{done:.1f}" y="{y:.1f}" width="{max(ready - done, LEAST_BAR):.1f}" height="20" '
                f'fill="url(#{dry})" class="d-edge"/>'
            )
    return "".join([*lines, "</svg>"])


def bubbles(schools: Sequence[School], chosen: str, say: Callable[[float, str], str]) -> str:
    """Draw the bubbles that each school removes, along a line of sizes.

    The line is solid where they are removed for certain, and hatched between the two bounds.

    Parameters
    ----------
    schools : sequence of School
        The schools side by side.
    chosen : str
        The one that counts.
    say : callable
        Shows a quantity.

    Returns
    -------
    str
        SVG.
    """
    height = TOP + ROW * len(schools) + 8
    right = WIDTH - 14

    def at(size_mm: float) -> float:
        share = (log10(min(max(size_mm, SMALLEST_MM), LARGEST_MM)) - log10(SMALLEST_MM)) / (
            log10(LARGEST_MM) - log10(SMALLEST_MM)
        )
        return NAMES + (right - NAMES) * share

    lines = [
        f'<svg viewBox="0 0 {WIDTH:g} {height:g}" class="drawing air-bars" role="img" '
        f'aria-label="{Text("Which bubbles each school gets rid of")}">',
        '<defs><pattern id="air-maybe" width="5" height="5" patternUnits="userSpaceOnUse" '
        'patternTransform="rotate(45)"><path d="M0,0 V5" class="d-dry"/></pattern></defs>',
    ]
    for mark in MARKS_MM:
        x = at(mark)
        lines += [
            f'<path d="M{x:.1f},{TOP - 6:g} V{height - 4:g}" class="d-tick"/>',
            f'<text x="{x:.1f}" y="14" text-anchor="middle" class="d-text">{escape(say(mark, "length"))}</text>',
        ]
    for row, one in enumerate(schools):
        y = TOP + ROW * row
        bold = " d-bold" if one.key == chosen else ""
        lines.append(f'<text x="0" y="{y + 19:.1f}" class="d-text{bold}">{escape(one.label)}</text>')
        if one.fast_mm is None or one.slow_mm is None:
            lines.append(f'<text x="{NAMES + 8:.1f}" y="{y + 19:.1f}" class="d-text">{Text("no time for it")}</text>')
            continue
        maybe, sure = at(one.fast_mm), at(one.slow_mm)
        ground = "d-chosen" if one.key == chosen else "d-bar"
        lines.append(
            f'<rect x="{maybe:.1f}" y="{y + 6:.1f}" width="{max(sure - maybe, 0):.1f}" height="16" '
            'fill="url(#air-maybe)" class="d-edge"/>'
        )
        lines.append(
            f'<rect x="{sure:.1f}" y="{y + 6:.1f}" width="{max(right - sure, 1):.1f}" height="16" class="{ground}"/>'
        )
    return "".join([*lines, "</svg>"])
