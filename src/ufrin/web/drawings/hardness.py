"""Hardness against thinner, drawn: the measured, fitted and modelled curve, on the scales A and 00 side by side."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import log

from ufrin.core.rubber.shore import GOOD_TO, Hardness, ShoreScale, reading
from ufrin.core.rubber.thinner_curve import MOST_PARTS, Curve
from ufrin.language import Text
from ufrin.web.drawings.svg_marks import LINE_PX, Drawing, line, sheet, spread, strokes, text, width_px

LEFT_PX, RIGHT_PX, TOP_PX, HIGH_PX, WIDE_PX, FOOT_PX = 62.0, 62.0, 34.0, 300.0, 520.0, 46.0
ToPx = Callable[[float], float]
STEPS = 60
TICKS: dict[ShoreScale, tuple[float, ...]] = {
    "A": (0, 2, 5, 10, 15, 20, 25, 30, 40, 50, 60, 70, 80, 90),
    "00": (0, 5, 10, 15, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 85, 90, 95),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ChosenDose:
    """The dose that is marked, and the hardness that was wanted, where there are any."""

    parts_per_100: float | None = None
    target: Hardness | None = None


def hardness_curve(curve: Curve, chosen: ChosenDose) -> Drawing:
    """Draw a rubber's curve.

    Parameters
    ----------
    curve : Curve
        Of hardness against parts of thinner per 100.
    chosen : ChosenDose
        What is marked on it.

    Returns
    -------
    Drawing
        Modulus upwards, in equal ratios; both scales read off at the sides.
    """
    doses = [MOST_PARTS * step / STEPS for step in range(STEPS + 1)]
    logs = [log(curve.modulus_mpa(dose)) for dose in doses]
    measured = [(point.parts_per_100, log(point.hardness.modulus_mpa)) for point in curve.points]
    reached = [
        *logs,
        *(value for _, value in measured),
        *(log(end) for dose in doses for end in curve.range_mpa(dose) or ()),
    ]
    if chosen.target:
        reached.append(log(chosen.target.modulus_mpa))
    low, high = min(reached) - 0.08, max(reached) + 0.12
    foot = TOP_PX + HIGH_PX

    def x(dose: float) -> float:
        return LEFT_PX + dose / MOST_PARTS * WIDE_PX

    def y(value: float) -> float:
        return foot - (value - low) / (high - low) * HIGH_PX

    made = [_guess(curve, doses, x, y), _frame(foot), _doses(x, foot)]
    made.append(_axis("A", LEFT_PX, -1, low, high, y) + _axis("00", LEFT_PX + WIDE_PX, 1, low, high, y))
    last = curve.last_dose
    known = [(x(dose), y(value)) for dose, value in zip(doses, logs, strict=True) if dose <= last] + (
        [(x(last), y(log(curve.modulus_mpa(last))))] if last else []
    )
    rest = ([(x(last), y(log(curve.modulus_mpa(last))))] if last else []) + [
        (x(dose), y(value)) for dose, value in zip(doses, logs, strict=True) if dose >= last
    ]
    made.append(strokes([known], "d-curve") if len(known) > 1 else "")
    made.append(strokes([rest], "d-curve d-guessed") if len(rest) > 1 else "")
    made += [f'<circle cx="{x(dose):.1f}" cy="{y(value):.1f}" r="5.5" class="d-coupon"/>' for dose, value in measured]
    made.append(
        f'<rect x="{LEFT_PX - 5:.1f}" y="{y(log(curve.own_mpa)) - 5:.1f}" width="10" height="10" class="d-coupon"/>'
    )
    made.append(_chosen(curve, chosen, x, y, foot))
    return sheet(
        LEFT_PX + WIDE_PX + RIGHT_PX,
        foot + FOOT_PX,
        Text("Hardness against parts of thinner per 100, on the scales A and 00"),
        "".join(made),
    )


def _guess(curve: Curve, doses: Sequence[float], x: ToPx, y: ToPx) -> str:
    ends = [(dose, curve.range_mpa(dose)) for dose in doses]
    spread_out = [(dose, pair) for dose, pair in ends if pair]
    if not spread_out:
        return ""
    start = (curve.last_dose, curve.modulus_mpa(curve.last_dose))
    upper = [(x(start[0]), y(log(start[1])))] + [(x(dose), y(log(pair[1]))) for dose, pair in spread_out]
    lower = [(x(dose), y(log(pair[0]))) for dose, pair in reversed(spread_out)]
    ring = " L".join(f"{px:.1f},{py:.1f}" for px, py in [*upper, *lower])
    return f'<path d="M{ring} z" class="d-range"/>'


def _frame(foot: float) -> str:
    return "".join(
        line(*ends)
        for ends in (
            (LEFT_PX, TOP_PX, LEFT_PX, foot),
            (LEFT_PX + WIDE_PX, TOP_PX, LEFT_PX + WIDE_PX, foot),
            (LEFT_PX, foot, LEFT_PX + WIDE_PX, foot),
        )
    )


def _doses(x: ToPx, foot: float) -> str:
    marks = "".join(
        line(x(dose), foot, x(dose), foot + 5) + text(x(dose), foot + 14, f"{dose:g}", "middle")
        for dose in range(0, 51, 10)
    )
    return marks + text(LEFT_PX + WIDE_PX / 2, foot + 34, Text("parts of thinner per 100 of A + B"), "middle")


def _axis(scale: ShoreScale, at: float, side: int, low: float, high: float, y: ToPx) -> str:
    title = text(at, TOP_PX - 18, Text("Shore {scale}", scale=scale), "start" if side < 0 else "end", "d-text d-title")
    shown: list[tuple[float, float]] = []
    for shore in TICKS[scale]:
        value = log(Hardness(scale=scale, shore=shore).modulus_mpa)
        if low <= value <= high and (not shown or abs(y(value) - shown[-1][1]) >= LINE_PX * 1.5):
            shown.append((shore, y(value)))
    marks = "".join(
        line(at, at_y, at + side * 5, at_y) + text(at + side * 9, at_y, f"{shore:g}", "end" if side < 0 else "start")
        for shore, at_y in shown
    )
    return title + marks


def _chosen(curve: Curve, chosen: ChosenDose, x: ToPx, y: ToPx, foot: float) -> str:
    made, labels = [], []
    if chosen.target:
        at = y(log(chosen.target.modulus_mpa))
        made.append(line(LEFT_PX, at, LEFT_PX + WIDE_PX, at, "d-hidden"))
        labels.append((LEFT_PX + 8, at - 10, Text("wanted: {target}", target=chosen.target), "start"))
    if chosen.parts_per_100 is not None:
        dose = chosen.parts_per_100
        modulus = curve.modulus_mpa(dose)
        at_x, at_y = x(dose), y(log(modulus))
        made.append(
            line(at_x, at_y, at_x, foot, "d-fill") + f'<circle cx="{at_x:.1f}" cy="{at_y:.1f}" r="4" class="d-level"/>'
        )
        show_quantity = Text("{dose:.3g} parts: {modulus}", dose=dose, modulus=_both(modulus))
        leftwards = at_x + 12 + width_px(show_quantity) > LEFT_PX + WIDE_PX
        labels.append(
            (at_x - 12 if leftwards else at_x + 12, at_y - 14, show_quantity, "end" if leftwards else "start")
        )
    placed = spread([at_y for _, at_y, _, _ in labels], LINE_PX + 2, TOP_PX + 4, foot - 8)
    made += [
        _haloed(at_x, at_y, show_quantity, anchor)
        for (at_x, _, show_quantity, anchor), at_y in zip(labels, placed, strict=True)
    ]
    return "".join(made)


def _haloed(x: float, y: float, show_quantity: str, anchor: str) -> str:
    # a label over a curve is read against the paper, not against the line
    return text(x, y, show_quantity, anchor, "d-text d-strong d-haloed")


def _both(modulus_mpa: float) -> str:
    a, soft = reading(modulus_mpa, "A"), reading(modulus_mpa, "00")
    show_quantity = [f"A {a:.0f}"] if a is not None else []
    show_quantity += [f"00 {soft:.0f}"] if soft is not None and soft <= GOOD_TO else []
    return ", ".join(show_quantity) or f"{modulus_mpa:.2g} MPa"
