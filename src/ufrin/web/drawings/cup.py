"""A cup with the levels of its parts, and the strip at true size that is stuck on it."""

from collections.abc import Callable, Sequence

from ufrin.core.shelf.cups import Cup, Mark
from ufrin.language import Text
from ufrin.web.drawings.svg_marks import TEXT_PX, Drawing, line, path, patterns, sheet, spread, text, width_px

HIGH_PX, MOST_WIDE_PX = 240.0, 240.0
STRIP_MM, ABOVE_MM = 24.0, 8.0
QuantityText = Callable[[float, str], str]


def cup_section(cup: Cup, marks: Sequence[Mark], say: QuantityText) -> Drawing:
    """Draw a cup from the side, filled to its marks.

    Parameters
    ----------
    cup : Cup
        Straight or tapered.
    marks : sequence of Mark
        From the lowest.
    say : callable of (value, kind) to str
        Shows a quantity in the workshop's units.

    Returns
    -------
    Drawing
        To one scale.
    """
    bottom, top, height = cup.ends_mm
    px = min(HIGH_PX / height, MOST_WIDE_PX / max(bottom, top))
    wide, foot = max(bottom, top) * px, 14 + height * px
    middle = 10 + wide / 2

    def half(level_mm: float) -> float:
        return (bottom + (top - bottom) * level_mm / height) * px / 2

    def slice_of(low: float, high: float) -> list[tuple[float, float]]:
        return [
            (middle - half(low), foot - low * px),
            (middle + half(low), foot - low * px),
            (middle + half(high), foot - high * px),
            (middle - half(high), foot - high * px),
        ]

    made, below = [patterns("cup")], 0.0
    for mark in marks:
        made.append(path("cup", "rubber", [slice_of(below, mark.level_mm)]))
        below = mark.level_mm
    outline = [
        (middle - half(height), 14.0),
        (middle - half(0), foot),
        (middle + half(0), foot),
        (middle + half(height), 14.0),
    ]
    made.append('<path d="M' + " L".join(f"{x:.1f},{y:.1f}" for x, y in outline) + '" class="d-cup"/>')
    names = [
        (
            Text(
                "{part}: {level_mm} high, {upto_ml}",
                part=" + ".join(m.part for m in marks[: index + 1]),
                level_mm=say(mark.level_mm, "length"),
                upto_ml=say(mark.upto_ml, "volume"),
            )
        )
        for index, mark in enumerate(marks)
    ]
    at_x = middle + wide / 2 + 14
    levels = [foot - mark.level_mm * px for mark in marks]
    for level, placed, show_quantity in zip(levels, spread(levels, 17, 20, foot), names, strict=True):
        made.append(
            line(middle - wide / 2, level, at_x - 6, level, "d-fill")
            + line(at_x - 6, level, at_x + 4, placed)
            + text(at_x + 8, placed, show_quantity, kind="d-text d-strong")
        )
    return sheet(
        at_x + 16 + max(width_px(show_quantity) for show_quantity in names),
        foot + 8,
        Text("The cup with the levels of its parts"),
        "".join(made),
    )


def true_size_strip(cup: Cup, marks: Sequence[Mark], say: QuantityText, title: str) -> str:
    """Draw the strip that is stuck on the outside of a cup, from its foot up, at true size.

    Parameters
    ----------
    cup : Cup
        Its wall may slant: the strip is as long as the wall.
    marks : sequence of Mark
        From the lowest.
    say : callable of (value, kind) to str
        Shows a quantity in the workshop's units.
    title : str
        What it is for.

    Returns
    -------
    str
        SVG whose units are millimetres.
    """
    _, _, height = cup.ends_mm
    long = cup.along_wall_mm(height)
    wide = STRIP_MM + 50
    made = [
        f'<rect x="0.15" y="{ABOVE_MM:.2f}" width="{STRIP_MM:.2f}" height="{long:.2f}" fill="#ffffff" '
        'stroke="#1b2325" stroke-width="0.3"/>'
    ]
    levels = [ABOVE_MM + long - mark.wall_mm for mark in marks]
    for index, (mark, level, placed) in enumerate(
        zip(marks, levels, spread(levels, 5.0, ABOVE_MM + 2, ABOVE_MM + long - 1), strict=True)
    ):
        parts = " + ".join(one.part for one in marks[: index + 1])
        made.append(
            f'<line x1="0" y1="{level:.3f}" x2="{STRIP_MM:.2f}" y2="{level:.3f}" stroke="#1b2325" stroke-width="0.4"/>'
        )
        made.append(
            f'<text x="{STRIP_MM + 2:.2f}" y="{placed + 1.2:.2f}" font-size="3.6" class="d-text">{parts}: '
            f"{say(mark.upto_ml, 'volume')}</text>"
        )
        made.append(
            f'<text x="{STRIP_MM / 2:.2f}" y="{max(level - 1, ABOVE_MM + 3.4):.2f}" font-size="{TEXT_PX / 3.5:.1f}" '
            f'text-anchor="middle" class="d-text">{mark.part}</text>'
        )
    made.append(f'<text x="0" y="4.5" font-size="3.6" class="d-text">{title}</text>')
    rule = ABOVE_MM + long + 6
    made.append(
        f'<path d="M0,{rule:.2f} h50 M0,{rule - 1.5:.2f} v3 M50,{rule - 1.5:.2f} v3" stroke="#1b2325" '
        'stroke-width="0.3" fill="none"/>'
    )
    made.append(
        f'<text x="0" y="{rule + 5:.2f}" font-size="3.2" class="d-text">'
        f"{Text('must measure 50 mm: print at full size')}</text>"
    )
    high = rule + 8
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:g}mm" height="{high:.2f}mm" viewBox="0 0 {wide:g} '
        f'{high:.2f}" '
        f'font-family="Hyperlegible, sans-serif">{"".join(made)}</svg>'
    )
