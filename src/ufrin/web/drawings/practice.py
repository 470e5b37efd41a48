"""Practice, drawn: the scale with its cup and the tin at hand, and how the weight and the mishaps went over time."""

from collections.abc import Callable, Mapping

from ufrin.core.practice.levels import MishapKind
from ufrin.core.practice.practice_plan import TOTAL_G
from ufrin.core.practice.practice_review import MishapReview, PracticeReview
from ufrin.core.practice.practice_table import CUP_G, Cup, PracticeTable
from ufrin.language import Joined, Text
from ufrin.web.drawings.svg_marks import Drawing, line, nice_step, patterns, sheet, strokes, text, width_px

WIDE_PX, HIGH_PX = 360.0, 230.0
CUP_LEFT_PX, CUP_WIDE_PX, CUP_TOP_PX, CUP_FOOT_PX = 60.0, 110.0, 98.0, 184.0
FULL_G = 1.6 * TOTAL_G  # the cup is drawn full at so much
TIN_WIDE_PX, TIN_HIGH_PX = 74.0, 58.0


def table_drawing(table: PracticeTable, at_s: float) -> Drawing:
    """Draw the table of a practice.

    Parameters
    ----------
    table : PracticeTable
        As it is now.
    at_s : float
        By the clock of the practice.

    Returns
    -------
    Drawing
        The scale, the cup with what is in it, and the tin: upright, or tipped over the cup.
    """
    foot = HIGH_PX - 14
    made = [patterns("practice"), line(0, foot, WIDE_PX, foot)]
    made.append(
        f'<rect x="34" y="{CUP_FOOT_PX + 8:.1f}" width="162" height="{foot - CUP_FOOT_PX - 8:.1f}" class="d-scale"/>'
    )
    made.append(f'<rect x="24" y="{CUP_FOOT_PX:.1f}" width="182" height="8" class="d-scale"/>')
    if table.cup is not None:
        made.append(_cup(sum(table.truly_g(at_s).values())))
    if table.tin:
        made.append(_tin(tipped=table.is_tipped))
    said = (
        Text("A cup on the scale, and a tin tipped over it")
        if table.is_tipped
        else Text("The scale, and what is at hand")
    )
    return sheet(WIDE_PX, HIGH_PX, said, "".join(made))


def _cup(inside_g: float) -> str:
    right = CUP_LEFT_PX + CUP_WIDE_PX
    most = CUP_FOOT_PX - CUP_TOP_PX
    high = min(1.0, inside_g / FULL_G) * most
    # the script of the page lets it rise with what the scale shows
    content = (
        f'<rect data-content x="{CUP_LEFT_PX:g}" y="{CUP_FOOT_PX - high:.1f}" width="{CUP_WIDE_PX:g}" '
        f'height="{high:.1f}" '
        f'data-foot="{CUP_FOOT_PX:g}" data-most="{most:g}" data-full="{FULL_G:g}" data-cup="{CUP_G:g}" '
        'fill="url(#practice-rubber)"/>'
    )
    wall = [(CUP_LEFT_PX, CUP_TOP_PX), (CUP_LEFT_PX, CUP_FOOT_PX), (right, CUP_FOOT_PX), (right, CUP_TOP_PX)]
    return content + strokes([wall], "d-cup")


def _tin(*, tipped: bool) -> str:
    left, top = 256.0, HIGH_PX - 14 - TIN_HIGH_PX
    body = (
        f'<rect x="{left:.1f}" y="{top:.1f}" width="{TIN_WIDE_PX:g}" height="{TIN_HIGH_PX:g}" class="d-scale"/>'
        f'<rect x="{left - 3:.1f}" y="{top - 6:.1f}" width="{TIN_WIDE_PX + 6:g}" height="7" class="d-scale"/>'
        f'<rect x="{left:.1f}" y="{top + 16:.1f}" width="{TIN_WIDE_PX:g}" height="26" class="d-tag"/>'
    )
    if not tipped:
        return body
    # turned to the left about the left end of its rim, which is held over the cup
    rim_x, rim_y = CUP_LEFT_PX + CUP_WIDE_PX - 26, CUP_TOP_PX - 16
    stream = line(rim_x, rim_y, rim_x, CUP_FOOT_PX - 3, "d-curve")
    turned = f"translate({rim_x - left:.1f} {rim_y - top + 6:.1f}) rotate(-62 {left:.1f} {top - 6:.1f})"
    return f'{stream}<g transform="{turned}">{body}</g>'


CHART_LEFT, CHART_HIGH, CHART_WIDE, CHART_FOOT = 72.0, 180.0, 600.0, 40.0
TAG_PX, ROW_PX = 11.0, 27.0


def course_chart(
    table: PracticeTable, review: PracticeReview, names: Mapping[MishapKind, str], say: Callable[[float, str], str]
) -> Drawing:
    """Draw how the weight in the cups went, when each mishap began, and when it was noticed.

    Parameters
    ----------
    table : PracticeTable
        After its last line.
    review : PracticeReview
        What came of it.
    names : mapping of mishap to str
        How each is called.
    say : callable of (value, kind) to str
        Shows a quantity in the workshop's units.

    Returns
    -------
    Drawing
        Seconds to the right, the weight upwards; above them a row for each mishap, numbered in their order.
    """
    most_s = max(10.0, review.took_s)
    cups = [_course(table, cup) for cup in (*table.cups, *([table.cup] if table.cup else []))]
    most_g = max([TOTAL_G, *(g for cup in cups for _, g in cup)]) * 1.05
    top = 10 + ROW_PX * len(review.met)
    foot = top + CHART_HIGH

    def x(seconds: float) -> float:
        return CHART_LEFT + CHART_WIDE * min(1.0, seconds / most_s)

    def y(grams: float) -> float:
        return foot - CHART_HIGH * grams / most_g

    made = [line(CHART_LEFT, top, CHART_LEFT, foot), line(CHART_LEFT, foot, CHART_LEFT + CHART_WIDE, foot)]
    step_g, step_s = nice_step(most_g), nice_step(most_s)
    for number in range(int(most_g // step_g) + 1):
        at = number * step_g
        made.append(
            line(CHART_LEFT - 5, y(at), CHART_LEFT, y(at)) + text(CHART_LEFT - 8, y(at), say(at, "mass"), "end")
        )
    for number in range(int(most_s // step_s) + 1):
        at = number * step_s
        made.append(line(x(at), foot, x(at), foot + 5) + text(x(at), foot + 15, f"{at:g} s", "middle"))
    for cup in cups:
        made.append(strokes([[(x(at), y(g)) for at, g in cup]], "d-curve" if cup is cups[-1] else "d-curve d-guessed"))
    for number, one in enumerate(review.met, 1):
        made.append(_row(number, one, names[one.kind], x, foot))
    told = Text(
        "How the weight in the cup went, and when each mishap began: {mishaps}",
        mishaps=Joined([names[one.kind] for one in review.met]),
    )
    return sheet(CHART_LEFT + CHART_WIDE + 24, foot + CHART_FOOT, told, "".join(made))


def _course(table: PracticeTable, cup: Cup) -> list[tuple[float, float]]:
    points, inside_g = [], 0.0
    for stream in cup.streams:
        to_s = table.last_s if stream.to_s is None else stream.to_s
        points.append((table.real_s(stream.from_s), inside_g))
        inside_g += stream.by_s(to_s)
        points.append((table.real_s(to_s), inside_g))
    return [*points, (table.real_s(table.last_s), inside_g)] if cup.is_poured and points else points


def _row(number: int, one: MishapReview, name: str, x: Callable[[float], float], foot: float) -> str:
    began_px, middle = x(one.began_s or 0.0), 10 + ROW_PX * (number - 0.5)
    made, end_px = [line(began_px, middle + TAG_PX, began_px, foot, "d-hidden")], began_px + TAG_PX
    if one.noticed_s is not None:
        end_px = max(end_px, x(one.noticed_s) + 5)
        made.append(line(began_px, middle, x(one.noticed_s), middle, "d-fill"))
        made.append(f'<circle cx="{x(one.noticed_s):.1f}" cy="{middle:.1f}" r="4.5" class="d-level"/>')
    made.append(f'<circle cx="{began_px:.1f}" cy="{middle:.1f}" r="{TAG_PX:g}" class="d-tag"/>')
    made.append(text(began_px, middle, str(number), "middle"))
    fits = end_px + 8 + width_px(name) < CHART_LEFT + CHART_WIDE + 20
    name_px, anchor = (end_px + 8, "start") if fits else (began_px - TAG_PX - 8, "end")
    made.append(text(name_px, middle, name, anchor, "d-text d-haloed"))
    return "".join(made)
