"""The allowance drawn: what past pours used over what they needed, as points on one line."""

from collections.abc import Sequence
from math import ceil, floor

from ufrin.language import Text
from ufrin.web.drawings.svg_marks import Drawing, line, sheet, text, width_px

WIDE_PX, LEFT_PX, DOT_PX, MOST_STACK = 640.0, 20.0, 9.0, 14


def evidence(over_pct: Sequence[float], spare_pct: float) -> Drawing:
    """Draw past pours as stacked points.

    Parameters
    ----------
    over_pct : sequence of float
        How much more than needed each used, in percent.
    spare_pct : float
        The allowance.

    Returns
    -------
    Drawing
        One point for each pour, up to as many as can be distinguished.
    """
    low = floor(min([0.0, *over_pct]) / 5) * 5
    high = max(ceil(max([spare_pct, 10.0, *over_pct]) / 5) * 5, low + 20)

    def x(value: float) -> float:
        return LEFT_PX + (value - low) / (high - low) * WIDE_PX

    bins: dict[int, int] = {}
    for value in over_pct:
        column = round((x(value) - LEFT_PX) / DOT_PX)
        bins[column] = bins.get(column, 0) + 1
    tallest = max([1, *bins.values()])
    step = DOT_PX if tallest <= MOST_STACK else DOT_PX * MOST_STACK / tallest
    foot = 44 + MOST_STACK * DOT_PX
    made = [line(LEFT_PX, foot, LEFT_PX + WIDE_PX, foot)]
    for column, number in sorted(bins.items()):
        made += [
            f'<circle cx="{LEFT_PX + column * DOT_PX:.1f}" cy="{foot - 6 - index * step:.1f}" r="3.6" class="d-point"/>'
            for index in range(number)
        ]
    every = 5 if high - low <= 40 else 10 if high - low <= 100 else 50
    first = ceil(low / every) * every
    made += [
        line(x(value), foot, x(value), foot + 5) + text(x(value), foot + 15, f"{value} %", "middle")
        for value in range(first, high + 1, every)
    ]
    show_quantity = Text("spare {spare_pct:.1f} %", spare_pct=spare_pct)
    at = x(spare_pct)
    made.append(line(at, 22, at, foot, "d-lift"))
    made.append(
        text(
            min(max(at, LEFT_PX + width_px(show_quantity) / 2), LEFT_PX + WIDE_PX - width_px(show_quantity) / 2),
            11,
            show_quantity,
            "middle",
            "d-text d-title",
        )
    )
    return sheet(
        LEFT_PX * 2 + WIDE_PX,
        foot + 40,
        Text("What past pours used over what they needed"),
        "".join([*made, text(LEFT_PX + WIDE_PX / 2, foot + 32, Text("used over needed"), "middle")]),
    )
