"""The plan of the shop as lanes of people, things and jobs over days; nights are drawn narrow and shaded."""

import json
from bisect import bisect_right
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from markupsafe import escape

from ufrin.core.schedule.day_plan import DayPlan, DayStep
from ufrin.language import Text

WIDTH, LABEL, TOP, ROW, BAR, GAP, HEAD = 1180.0, 158.0, 46.0, 26.0, 20.0, 8.0, 24.0
NIGHT_SHARE, NIGHT_MOST_S = 0.1, 3600.0  # how wide time outside working time is drawn, against time inside, and at most
CHAR_PX, LEAST_PX, LEAST_CHARS = 6.4, 3.0, 4
LEAST_HOUR_PX, LEAST_DAY_PX = 42.0, 84.0
HOUR_S = 3600.0
Span = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Axis:
    """A line of time that is broken at the ends of working time: marks of seconds since 1970, and their places."""

    marks_s: tuple[float, ...]
    places: tuple[float, ...]

    def x(self, at_s: float) -> float:
        """Return the place of a time, at an end of the line for what lies beyond it."""
        at_s = min(max(at_s, self.marks_s[0]), self.marks_s[-1])
        number = min(bisect_right(self.marks_s, at_s), len(self.marks_s) - 1)
        begin, end = self.marks_s[number - 1], self.marks_s[number]
        share = (at_s - begin) / (end - begin) if end > begin else 0.0
        return self.places[number - 1] + share * (self.places[number] - self.places[number - 1])


def axis(span: Span, working: Iterable[Span]) -> Axis:
    """Lay a line of time out.

    Parameters
    ----------
    span : tuple of float
        From and to, in seconds since 1970.
    working : iterable of tuple of float
        When anybody works.

    Returns
    -------
    Axis
        As wide as the drawing.
    """
    begin, end = span
    joined: list[list[float]] = []
    for one in sorted(working):
        first, last = max(one[0], begin), min(one[1], end)
        if first >= last:
            continue
        if joined and first <= joined[-1][1]:
            joined[-1][1] = max(joined[-1][1], last)
        else:
            joined.append([first, last])
    marks = sorted({begin, end, *(mark for one in joined for mark in one)})
    inside = [any(one[0] <= first and last <= one[1] for one in joined) for first, last in pairwise(marks)]
    sizes = [
        last - first if is_open else min(NIGHT_SHARE * (last - first), NIGHT_MOST_S)
        for (first, last), is_open in zip(pairwise(marks), inside, strict=True)
    ]
    across = (WIDTH - LABEL) / (sum(sizes) or 1.0)
    places = [LABEL]
    for size in sizes:
        places.append(places[-1] + size * across)
    return Axis(marks_s=tuple(marks), places=tuple(places))


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanView:
    """What is drawn of a plan, in seconds since 1970.

    Parameters
    ----------
    span : tuple of float
        From and to.
    working : tuple of tuple of float
        When anybody works.
    now_s : float
        The time now.
    days, hours : tuple of tuple of float and str
        Where days and hours begin, with their names.
    """

    span: Span
    working: tuple[Span, ...]
    now_s: float
    days: tuple[tuple[float, str], ...]
    hours: tuple[tuple[float, str], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Lane:
    """A lane: what it is called, and its bars, each with a step and the times that the lane shows of it."""

    name: str
    bars: tuple[tuple[DayStep, float, float], ...]
    is_job: bool = False


def lanes(plan: DayPlan, people: Sequence[str]) -> dict[str, list[Lane]]:
    """Sort the steps of a plan into lanes.

    Parameters
    ----------
    plan : DayPlan
        As it is shown.
    people : sequence of str
        Everybody, those without a step too.

    Returns
    -------
    dict of str to list of Lane
        By heading.
    """
    things = sorted({thing for one in plan.steps for thing in one.uses})
    groups = list(dict.fromkeys(one.job for one in plan.steps))
    return {
        Text("People"): [
            Lane(name=who, bars=tuple((one, one.begins_s, one.hands_off_s) for one in plan.steps if one.person == who))
            for who in people
        ],
        Text("Equipment and moulds"): [
            Lane(name=thing, bars=tuple((one, one.begins_s, one.ends_s) for one in plan.steps if thing in one.uses))
            for thing in things
        ],
        Text("Jobs and orders"): [
            Lane(
                name=job,
                bars=tuple((one, one.begins_s, one.ends_s) for one in plan.steps if one.job == job),
                is_job=True,
            )
            for job in groups
        ],
    }


def day_plan_svg(plan: DayPlan, people: Sequence[str], view: PlanView, step_link: Callable[[str], str]) -> str:
    """Draw a plan.

    Parameters
    ----------
    plan : DayPlan
        As it is shown.
    people : sequence of str
        Everybody.
    view : PlanView
        What is drawn of it.
    step_link : callable
        Returns the address of a step's own part of the page.

    Returns
    -------
    str
        SVG.
    """
    span = view.span
    line = axis(span, view.working)
    body: list[str] = []
    y = TOP
    for heading, own in lanes(plan, people).items():
        shown = [lane for lane in own if not lane.is_job or any(_is_seen(span, bar) for bar in lane.bars)]
        if not shown:
            continue
        body.append(f'<text class="sch-head" x="0" y="{y + HEAD - 8:.1f}">{heading}</text>')
        y += HEAD
        for lane in shown:
            drawn, high = _lane(lane, line, span, y, step_link)
            body += drawn
            y += high
    high = y + 6
    told = json.dumps([[round(place, 2), mark] for mark, place in zip(line.marks_s, line.places, strict=True)])
    begin = (
        f'<svg class="drawing day-plan" viewBox="0 0 {WIDTH:.0f} {high:.0f}" role="group" data-axis="{escape(told)}" '
        f'aria-label="{escape(Text("The plan as lanes of people, equipment and jobs over time"))}">'
    )
    return "".join([begin, _HATCH, *_ground(line, view, high), *body, *_now(line, view, high), "</svg>"])


_HATCH = (
    '<defs><pattern id="sch-alone" width="7" height="7" patternUnits="userSpaceOnUse"><rect width="7" height="7" '
    'class="sch-alone-ground"/><path d="M-1.5,1.5 l3,-3 M0,7 l7,-7 M5.5,8.5 l3,-3" class="sch-alone-hatch"/></pattern>'
    "</defs>"
)


def _ground(line: Axis, view: PlanView, high: float) -> list[str]:
    parts, span = [], view.span
    edges = sorted(
        (max(begin, span[0]), min(end, span[1])) for begin, end in view.working if end > span[0] and begin < span[1]
    )
    closed, at_s = [], span[0]
    for begin, end in edges:
        if begin > at_s:
            closed.append((at_s, begin))
        at_s = max(at_s, end)
    if at_s < span[1]:
        closed.append((at_s, span[1]))
    for begin, end in closed:
        x, right = line.x(begin), line.x(end)
        parts.append(_rect("sch-night", x, TOP - 4, max(1.0, right - x), high - TOP))
    places = [line.x(at) for at, _ in view.days]
    for (x, right), (_, name) in zip(pairwise([*places, WIDTH]), view.days, strict=True):
        parts.append(f'<path class="sch-day" d="M{x:.1f},4 V{high - 4:.1f}"/>')
        if right - x >= LEAST_DAY_PX:
            parts.append(f'<text class="sch-day-name" x="{x + 5:.1f}" y="16">{escape(name)}</text>')
    last_px = -1e9
    for at, name in view.hours:
        x = line.x(at)
        if x - last_px >= LEAST_HOUR_PX and LABEL + 14 < x < WIDTH - 14:
            parts.append(f'<text class="sch-hour" x="{x:.1f}" y="34" text-anchor="middle">{escape(name)}</text>')
            parts.append(f'<path class="sch-tick" d="M{x:.1f},38 V{high - 4:.1f}"/>')
            last_px = x
    return parts


def _now(line: Axis, view: PlanView, high: float) -> list[str]:
    if not view.span[0] <= view.now_s <= view.span[1]:
        return []
    x = line.x(view.now_s)
    return [f'<path class="seq-now" d="M{x:.1f},{TOP - 6:.0f} V{high - 4:.1f}"/>']


def _is_seen(span: Span, bar: tuple[DayStep, float, float]) -> bool:
    return bar[1] < span[1] and bar[2] > span[0]


def _rows(bars: Iterable[tuple[DayStep, float, float]]) -> tuple[list[tuple[int, tuple[DayStep, float, float]]], int]:
    # what goes on at the same time lies below each other
    ends: list[float] = []
    found = []
    for bar in sorted(bars, key=lambda one: (one[1], one[2])):
        row = next((number for number, end in enumerate(ends) if end <= bar[1] + 1e-6), len(ends))
        ends[row : row + 1] = [bar[2]]
        found.append((row, bar))
    return found, max(1, len(ends))


def _lane(lane: Lane, line: Axis, span: Span, y: float, step_link: Callable[[str], str]) -> tuple[list[str], float]:
    placed, rows = _rows(bar for bar in lane.bars if _is_seen(span, bar))
    high = rows * ROW + GAP / 2
    name = _cut(lane.name, LABEL - 8)
    parts = [
        f'<path class="sch-lane" d="M0,{y + high:.1f} H{WIDTH:.0f}"/>',
        f'<text class="sch-name" x="0" y="{y + ROW / 2 + 5:.1f}">{escape(name)}'
        f"<title>{escape(lane.name)}</title></text>",
    ]
    for row, (step, begin, end) in placed:
        parts.append(
            _bar(
                step,
                begin,
                end,
                line,
                y + row * ROW + (ROW - BAR) / 2 + 1,
                is_job=lane.is_job,
                link=step_link(step.key),
            )
        )
    if lane.is_job:
        for wish_s in sorted({one.wish_s for one in (bar[0] for bar in lane.bars) if one.wish_s is not None}):
            if span[0] <= wish_s <= span[1]:
                x = line.x(wish_s)
                flag = f"M{x:.1f},{y + 1:.1f} v{high - 3:.1f} m0,{3 - high:.1f} l8,4 l-8,4 z"
                parts.append(f'<path class="sch-wish" d="{flag}"><title>{Text("Promised")}</title></path>')
    return parts, high


def _bar(step: DayStep, begin: float, end: float, line: Axis, y: float, *, is_job: bool, link: str) -> str:
    x, right = line.x(begin), line.x(end)
    wide = max(LEAST_PX, right - x)
    hands = max(0.0, min(line.x(step.hands_off_s), right) - x) if step.is_attended else 0.0
    state = "running" if step.is_under_way else "late" if step.late_s else "work"
    told = str(step.label) if is_job else f"{step.label}, {step.job}"
    parts = [_rect("sch-alone", x, y, wide, BAR)]
    if hands:
        parts.append(_rect(f"sch-{state}", x, y, max(LEAST_PX, hands), BAR))
    if step.is_placed:
        parts.append(f'<path class="sch-placed" d="M{x:.1f},{y - 3:.1f} h9 l-9,9 z"/>')
    corner = 9.0 if step.is_placed else 0.0
    on_hands = hands - corner - 6 >= LEAST_CHARS * CHAR_PX
    begin_px, room = (corner, hands) if on_hands else (max(hands, corner), wide - hands)
    text = _cut(told, room - begin_px - 6 if on_hands else room - 6)
    if text:
        kind = f"sch-on-{state}" if on_hands else "sch-on-alone"
        at = f'x="{x + begin_px + 4:.1f}" y="{y + BAR / 2 + 4.2:.1f}"'  # the title has all of it
        parts.append(f'<text class="{kind}" aria-hidden="true" {at}>{escape(text)}</text>')
    can_drag = "" if step.is_under_way else f' data-drag="{escape(step.key)}" data-from="{step.begins_s:.0f}"'
    begin_link = f'<a href="{escape(link)}"{can_drag}>'
    return "".join([begin_link, f"<title>{escape(told)}</title>", *parts, "</a>"])


def _rect(kind: str, x: float, y: float, wide: float, high: float) -> str:
    return f'<rect class="{kind}" x="{x:.1f}" y="{y:.1f}" width="{wide:.1f}" height="{high:.1f}"/>'


def _cut(text: str, room_px: float) -> str:
    text, fits = str(text), int(room_px / CHAR_PX)
    if len(text) <= fits:
        return text
    return text[: fits - 1].rstrip() + "…" if fits > LEAST_CHARS else ""
