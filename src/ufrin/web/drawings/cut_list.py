"""The cut list drawn: the panels of a box as true-size SVG, and how they lie on sheets."""

from collections.abc import Callable

from ufrin.core.box.cut_list import CutList
from ufrin.language import Text
from ufrin.web.drawings.svg_marks import Drawing, area, patterns, sheet, text, width_px

WIDE_PX = 520.0


def sheet_drawings(cut: CutList, show_quantity: Callable[[float, str], str]) -> tuple[Drawing, ...]:
    """Draw the sheets with the pieces on them.

    Parameters
    ----------
    cut : CutList
        Nested.
    show_quantity : callable of (value, kind) to str
        Shows a quantity in the workshop's units.

    Returns
    -------
    tuple of Drawing
        One for each sheet.
    """
    length, width = cut.sheet_mm
    px = WIDE_PX / max(length, width)
    made = []
    for number in sorted({piece.sheet for piece in cut.pieces}):
        marks = [
            patterns(f"sheet{number}"),
            f'<rect x="1" y="1" width="{length * px:.1f}" height="{width * px:.1f}" class="d-waste"/>',
        ]
        for piece in (piece for piece in cut.pieces if piece.sheet == number):
            x, y, wide, high = (
                1 + piece.x_mm * px,
                1 + (width - piece.y_mm - piece.height_mm) * px,
                piece.length_mm * px,
                piece.height_mm * px,
            )
            marks.append(area(f"sheet{number}", "board", x, y, wide, high))
            words = piece.name
            if max(wide, high) > width_px(words) + 8 and min(wide, high) > 18:
                turned = f' transform="rotate(-90 {x + wide / 2:.1f} {y + high / 2:.1f})"' if high > wide else ""
                back = (
                    f'<rect x="{x + wide / 2 - width_px(words) / 2 - 2:.1f}" y="{y + high / 2 - 8.5:.1f}" '
                    f'width="{width_px(words) + 4:.1f}" height="17" class="d-back"/>'
                )
                marks.append(f"<g{turned}>{back}{text(x + wide / 2, y + high / 2, words, 'middle')}</g>")
        label = Text(
            "Sheet {number} of {sheets}, {length} by {width}",
            number=number + 1,
            sheets=cut.sheets,
            length=show_quantity(length, "length"),
            width=show_quantity(width, "length"),
        )
        made.append(sheet(length * px + 2, width * px + 2, label, "".join(marks)))
    return tuple(made)


def true_size_svg(cut: CutList) -> str:
    """Write the nested panels as SVG whose units are millimetres, for a plotter or a laser.

    Parameters
    ----------
    cut : CutList
        Nested.

    Returns
    -------
    str
        Sheets side by side; outlines to cut in red hairlines, the sheets dashed.
    """
    length, width = cut.sheet_mm
    wide = max(1, cut.sheets) * (length + 50) - 50
    marks = []
    for number in range(cut.sheets):
        marks.append(
            f'<rect id="sheet-{number + 1}" x="{number * (length + 50):g}" y="0" width="{length:g}" height="{width:g}" '
            'stroke="#888" stroke-dasharray="4 4"/>'
        )
    for piece in cut.pieces:
        x, y = piece.sheet * (length + 50) + piece.x_mm, width - piece.y_mm - piece.height_mm
        marks.append(
            f'<rect x="{x:.3f}" y="{y:.3f}" width="{piece.length_mm:.3f}" height="{piece.height_mm:.3f}" '
            f'stroke="#f00"><title>{piece.name}</title></rect>'
        )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:g}mm" height="{width:g}mm" viewBox="0 0 {wide:g} '
        f'{width:g}" fill="none" '
        f'stroke-width="0.1">{"".join(marks)}</svg>'
    )
