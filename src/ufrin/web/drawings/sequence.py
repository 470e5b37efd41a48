"""The sequence of a job as a line of time: what is done, what runs and what is to come."""

from collections.abc import Callable, Sequence

from markupsafe import escape

from ufrin.core.clocks.sequence import DatedStep
from ufrin.language import Text

WIDTH, LEFT, TOP, ROW, BAR = 700.0, 0.0, 34.0, 34.0, 14.0
LABEL, WHEN = 236.0, 162.0  # room for the names on the left, and for the times on the right
LEAST_PX = 4.0
NEAR_PX = 30.0  # a mark nearer than that to an end is written inside


def sequence_svg(steps: Sequence[DatedStep], now_s: float, when: Callable[[float], str]) -> str:
    """Draw the steps of a job under a line of time.

    Parameters
    ----------
    steps : sequence of DatedStep
        In their order.
    now_s : float
        Seconds since 1970.
    when : callable
        Writes a time as the page does.

    Returns
    -------
    str
        SVG; empty without steps.
    """
    if not steps:
        return ""
    first, last = min(one.begins_s for one in steps), max(one.ends_s for one in steps)
    first, last = min(first, now_s), max(last, now_s + 60)
    left, right = LEFT + LABEL, WIDTH - WHEN
    across = (right - left) / (last - first)

    def x(at_s: float) -> float:
        return left + (at_s - first) * across

    high = TOP + ROW * len(steps) + 8
    label = Text("The steps of the job from {begins} to {ends}", begins=when(first), ends=when(last))
    parts = [
        f'<svg class="drawing sequence" viewBox="0 0 {WIDTH:.0f} {high:.0f}" role="img" aria-label="{escape(label)}">'
    ]
    now_x = x(now_s)
    parts.append(f'<path class="seq-now" d="M{now_x:.1f},{TOP - 8:.0f} V{high - 4:.0f}"/>')
    anchor = "start" if now_x - left < NEAR_PX else "end" if right - now_x < NEAR_PX else "middle"
    parts.append(
        f'<text class="seq-mark" x="{now_x:.1f}" y="{TOP - 14:.0f}" text-anchor="{anchor}">{Text("now")}</text>'
    )
    for row, one in enumerate(steps):
        y = TOP + ROW * row + (ROW - BAR) / 2
        begin, end = x(one.begins_s), x(one.ends_s)
        kind = {"done": "done", "running": "running", "to come": "wait" if one.step.is_wait else "work"}[one.state]
        middle = y + BAR / 2 + 5
        parts.append(f'<text class="seq-name" x="{LEFT:.0f}" y="{middle:.1f}">{escape(one.step.label)}</text>')
        parts.append(
            f'<rect class="seq-{kind}" x="{min(begin, right - LEAST_PX):.1f}" y="{y:.1f}" '
            f'width="{max(LEAST_PX, end - begin):.1f}" height="{BAR:.0f}"/>'
        )
        shown = when(one.begins_s if one.state == "to come" and not one.step.is_wait else one.ends_s)
        told = (
            Text("until {time}", time=shown)
            if one.state == "running" or one.step.is_wait
            else Text("at {time}", time=shown)
        )
        if one.state == "done":
            told = Text("✓ {time}", time=shown)
        parts.append(f'<text class="seq-when" x="{WIDTH:.0f}" y="{middle:.1f}" text-anchor="end">{escape(told)}</text>')
    return "".join([*parts, "</svg>"])
