"""Making against buying, drawn: total against pieces, with a step where each new mould is poured."""

from collections.abc import Callable

from ufrin.core.money.making import BreakEven, MakingCosts, cost_line
from ufrin.language import Text
from ufrin.web.drawings.svg_marks import LINE_PX, Drawing, line, nice_step, sheet, spread, strokes, text, width_px

LEFT_PX, RIGHT_PX, TOP_PX, HIGH_PX, WIDE_PX, FOOT_PX = 104.0, 96.0, 14.0, 210.0, 430.0, 42.0
LEAST_SHOWN, MOST_SHOWN = 20, 5000


def cost_drawing(
    costs: MakingCosts, buy_price: float | None, pays: BreakEven | None, show_money: Callable[[float], str]
) -> Drawing:
    """Draw what making pieces costs.

    Parameters
    ----------
    costs : MakingCosts
        Of making.
    buy_price : float or None
        Of a bought piece; None draws making alone.
    pays : BreakEven or None
        From when on making costs no more.
    show_money : callable of amount to str
        In the workshop's currency.

    Returns
    -------
    Drawing
        Pieces to the right, money upwards.
    """
    pieces = int(max(LEAST_SHOWN, 2.4 * costs.mould_life_casts))
    for count in (pays.first_count, pays.stays_from_count) if pays else ():
        pieces = max(pieces, int(1.25 * (count or 0)))
    pieces = min(pieces, MOST_SHOWN)
    points = cost_line(costs, pieces)
    bought = (buy_price or 0.0) * pieces
    most = max([total for _, total in points] + [bought, 1e-9])
    foot = TOP_PX + HIGH_PX

    def x(count: float) -> float:
        return LEFT_PX + count / pieces * WIDE_PX

    def y(money: float) -> float:
        return foot - money / most * HIGH_PX

    made = [line(LEFT_PX, TOP_PX, LEFT_PX, foot), line(LEFT_PX, foot, LEFT_PX + WIDE_PX, foot)]
    rung = nice_step(most)
    for place in range(int(most / rung) + 1):
        made.append(line(LEFT_PX - 5, y(place * rung), LEFT_PX, y(place * rung)))
        made.append(text(LEFT_PX - 8, y(place * rung), show_money(place * rung), "end"))
    step = nice_step(pieces)
    for place in range(int(pieces // step) + 1):
        count = int(place * step)
        made.append(line(x(count), foot, x(count), foot + 5) + text(x(count), foot + 15, str(count), "middle"))
    made.append(text(LEFT_PX + WIDE_PX / 2, foot + 34, Text("pieces"), "middle"))
    made.append(strokes([[(x(count), y(total)) for count, total in points]], "d-curve"))
    ends: list[tuple[float, str]] = [(y(points[-1][1]), Text("made"))]
    if buy_price:
        made.append(strokes([[(x(0), y(0)), (x(pieces), y(bought))]], "d-curve d-guessed"))
        ends.append((y(bought), Text("bought")))
    placed = spread([at for at, _ in ends], LINE_PX, TOP_PX + 6, foot - 6)
    made += [text(x(pieces) + 8, at, label) for at, (_, label) in zip(placed, ends, strict=True)]
    made.append(_break_even(pays, pieces, x, foot) if pays else "")
    return sheet(
        LEFT_PX + WIDE_PX + RIGHT_PX,
        foot + FOOT_PX,
        Text("Cost of making against pieces, and of buying"),
        "".join(made),
    )


def _break_even(pays: BreakEven, pieces: int, x: Callable[[float], float], foot: float) -> str:
    counts = [count for count in dict.fromkeys((pays.first_count, pays.stays_from_count)) if count and count <= pieces]
    made = []
    for row, count in enumerate(counts):
        label = Text("from {count}", count=count) if row or len(counts) == 1 else Text("first at {count}", count=count)
        at = min(x(count) + 4, LEFT_PX + WIDE_PX - width_px(label))
        made.append(line(x(count), TOP_PX, x(count), foot, "d-hidden"))
        made.append(text(at, TOP_PX + LINE_PX * (row + 0.5), label, kind="d-text d-strong d-haloed"))
    return "".join(made)
