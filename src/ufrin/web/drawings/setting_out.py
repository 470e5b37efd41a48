"""The setting-out grid of a box: where its masters stand, at true size, to lay under a clear board."""

from collections.abc import Sequence
from math import ceil

from markupsafe import escape
from shapely.geometry import Polygon

from ufrin.core.box.layouts import placed_outline
from ufrin.core.box.mould_box import Box
from ufrin.core.master.master_form import Master
from ufrin.language import Text

GRID_MM, STRONG_MM = 10.0, 50.0
PAPER_MM = {"metric": (186.0, 262.0), "us": (191.0, 245.0)}  # what A4 and Letter leave within margins of 12 mm
LINE = 'stroke="#1b2325" fill="none"'
MOST_SHEETS = 60


def setting_out(box: Box, masters: Sequence[Master], title: str, paper_mm: tuple[float, float]) -> list[str]:
    """Draw the grid, sheet by sheet.

    Parameters
    ----------
    box : Box
        Worked out.
    masters : sequence of Master
        That stand in it.
    title : str
        Of the job.
    paper_mm : (float, float)
        What a sheet of paper leaves to draw on.

    Returns
    -------
    list of str
        One SVG in millimetres for each sheet, row by row from the far left; empty for a box that would take a stack.
    """
    inside = box.inside_polygon()
    west, south, east, north = inside.bounds
    wide, high = paper_mm[0], paper_mm[1] - 8  # a line of text below
    columns, rows = max(1, ceil((east - west) / wide)), max(1, ceil((north - south) / high))
    if columns * rows > MOST_SHEETS:
        return []
    drawn = _drawn(box, masters, inside)
    made = []
    for row in range(rows):
        for column in range(columns):
            left, top = west + column * wide, -north + row * high
            name = (
                Text("{title}, sheet {row} of {rows}", title=title, row=row * columns + column + 1, rows=rows * columns)
                if rows * columns > 1
                else title
            )
            made.append(
                f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide}mm" height="{paper_mm[1]}mm" '
                f'viewBox="0 0 {wide} {paper_mm[1]}"><svg x="0" y="0" width="{wide}" height="{high}" '
                f'viewBox="{left:.3f} {top:.3f} {wide} {high}">{drawn}</svg>'
                f'<rect x="0.1" y="0.1" width="{wide - 0.2}" height="{high - 0.2}" {LINE} stroke-width="0.1" '
                'stroke-dasharray="2 2"/>'
                f'<text x="0" y="{high + 5}" font-size="3.6">{escape(_told(name))}</text></svg>'
            )
    return made


def _drawn(box: Box, masters: Sequence[Master], inside: Polygon) -> str:
    west, south, east, north = inside.bounds
    made = []
    for step in range(ceil((east - west) / GRID_MM) + 1):
        x = west + step * GRID_MM
        made.append(_line(x, -north, x, -south, strong=step * GRID_MM % STRONG_MM == 0))
    for step in range(ceil((north - south) / GRID_MM) + 1):
        y = -north + step * GRID_MM
        made.append(_line(west, y, east, y, strong=step * GRID_MM % STRONG_MM == 0))
    made.append(f'<path d="{_path(inside)}" {LINE} stroke-width="0.6"/>')
    for number, place in enumerate(box.layout.places, 1):
        outline = placed_outline(masters[place.kind], place)
        made.append(f'<path d="{_path(outline)}" {LINE} stroke-width="0.5"/>')
        made.append(
            f'<circle cx="{place.x_mm:.2f}" cy="{-place.y_mm:.2f}" r="4" fill="#ffffff" stroke="#1b2325" '
            f'stroke-width="0.3"/><text x="{place.x_mm:.2f}" y="{-place.y_mm + 1.5:.2f}" font-size="4.2" '
            f'text-anchor="middle">{number}</text>'
        )
    return "".join(made)


def _line(x1: float, y1: float, x2: float, y2: float, *, strong: bool) -> str:
    return (
        f'<line x1="{x1:.2f}" y1="{y1:.2f}" x2="{x2:.2f}" y2="{y2:.2f}" stroke="#7f8f93" '
        f'stroke-width="{0.3 if strong else 0.12}"/>'
    )


def _path(shape: Polygon) -> str:
    parts = getattr(shape, "geoms", [shape])
    return " ".join(
        "M" + " L".join(f"{x:.2f},{-y:.2f}" for x, y in ring.coords) + " z"
        for part in parts
        for ring in (part.exterior, *part.interiors)
    )


def _told(name: str) -> Text:
    return Text(
        "{name}: squares of 10 mm, true size, seen from above, front below. Check a square with a ruler.", name=name
    )
