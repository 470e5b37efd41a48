"""How long cavities last, drawn: what was to be expected shaded, the shop's own as steps, and what is believed now."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ufrin.core.moulds.life_outlook import LifeModel
from ufrin.core.moulds.mould_life import LifeCurve
from ufrin.language import Text
from ufrin.web.drawings.svg_marks import LINE_PX, Drawing, line, nice_step, sheet, strokes, text, width_px

LEFT_PX, RIGHT_PX, TOP_PX, HIGH_PX, WIDE_PX, FOOT_PX = 48.0, 20.0, 12.0, 165.0, 500.0, 42.0
STEPS = 80
ToPx = Callable[[float], float]
LEAST_SHOWN = 0.03  # of the cavities that are left where the drawing ends


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownLife:
    """What is drawn: what was to be expected, what is believed now, the shop's own, and casts of each cavity here."""

    expected: LifeModel
    now: LifeModel
    own: LifeCurve | None
    made: Sequence[float]


def life_drawing(shown: ShownLife) -> Drawing:
    """Draw how many cavities last how long.

    Parameters
    ----------
    shown : ShownLife
        What is drawn.

    Returns
    -------
    Drawing
        Casts to the right, the share that lasts longer upwards.
    """
    most = _most(shown)
    foot = TOP_PX + HIGH_PX

    def x(casts: float) -> float:
        return LEFT_PX + min(casts, most) / most * WIDE_PX

    def y(share: float) -> float:
        return foot - share * HIGH_PX

    casts = np.linspace(0, most, STEPS + 1)
    expected, now = shown.expected.survival(casts), shown.now.survival(casts)
    under = " L".join(f"{x(at):.1f},{y(share):.1f}" for at, share in zip(casts, expected, strict=True))
    made = [f'<path d="M{LEFT_PX:.1f},{foot:.1f} L{under} L{x(most):.1f},{foot:.1f} z" class="d-range"/>']
    made += [line(LEFT_PX, TOP_PX, LEFT_PX, foot), line(LEFT_PX, foot, LEFT_PX + WIDE_PX, foot)]
    for share in (0.0, 0.5, 1.0):
        made.append(line(LEFT_PX - 5, y(share), LEFT_PX, y(share)))
        made.append(text(LEFT_PX - 8, y(share), f"{100 * share:.0f} %", "end"))
    step = nice_step(most)
    for number in range(int(most // step) + 1):
        at = number * step
        made.append(line(x(at), foot, x(at), foot + 5) + text(x(at), foot + 15, f"{at:g}", "middle"))
    made.append(text(LEFT_PX + WIDE_PX / 2, foot + 34, Text("casts of a cavity"), "middle"))
    if shown.own and shown.own.casts:
        made.append(strokes([_staircase(shown.own, most, x, y)], "d-curve d-guessed"))
    made.append(strokes([[(x(at), y(share)) for at, share in zip(casts, now, strict=True)]], "d-curve"))
    made.append(_here(shown, x, foot))
    label = Text("Share of cavities that last longer than so many casts")
    return sheet(LEFT_PX + WIDE_PX + RIGHT_PX, foot + FOOT_PX, label, "".join(made))


def _most(shown: ShownLife) -> float:
    ends = [10.0, *shown.made]
    for model in (shown.expected, shown.now):
        casts = np.geomspace(1, 20_000, 200)
        left = model.survival(casts)
        ends.append(float(casts[np.argmax(left < LEAST_SHOWN)]))
    step = nice_step(max(ends))
    return float(step * np.ceil(max(ends) / step))


def _staircase(own: LifeCurve, most: float, x: ToPx, y: ToPx) -> list[tuple[float, float]]:
    points, share = [(x(0.0), y(1.0))], 1.0
    for at, left in zip(own.casts, own.survival, strict=True):
        if at > most:
            break
        points += [(x(at), y(share)), (x(at), y(left))]
        share = left
    return points


def _here(shown: ShownLife, x: ToPx, foot: float) -> str:
    at = max(shown.made, default=0.0)
    if not at:
        return ""
    label = Text("here: {at:g}", at=at)
    px = x(at)
    leftwards = px + 10 + width_px(label) > LEFT_PX + WIDE_PX
    return line(px, TOP_PX, px, foot, "d-hidden") + text(
        px - 6 if leftwards else px + 6,
        foot - LINE_PX,
        label,
        "end" if leftwards else "start",
        "d-text d-strong d-haloed",
    )
