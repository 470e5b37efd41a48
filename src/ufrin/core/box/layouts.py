"""Layouts: where the masters of a box stand in plan, on a grid of equal cells."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil, hypot

import shapely
from shapely import affinity

from ufrin.core.master.master_form import Master
from ufrin.core.measures.plain_volumes import diagonal_mm
from ufrin.errors import Refused
from ufrin.language import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """Where one master stands.

    Its middle is relative to the middle of the layout; ``turned`` is whether it is turned a quarter.
    """

    kind: int
    x_mm: float
    y_mm: float
    turned: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Layout:
    """Where all masters stand.

    Its size over all masters, the smallest circle round them and that circle's middle, and each master's place,
    numbered from 1 row by row from the far left. ``rows`` and ``columns`` are of the grid, or 1 and the number of
    masters when packed.
    """

    rows: int
    columns: int
    length_mm: float
    width_mm: float
    circle_mm: float
    places: tuple[Place, ...]
    circle_at_mm: tuple[float, float] = (0.0, 0.0)


def grids(masters: Sequence[Master], gap_mm: float, rows: int | None, columns: int | None) -> list[Layout]:
    """Lay masters out on grids whose cells are as large as the largest.

    Parameters
    ----------
    masters : sequence of Master
        Each kind with its count.
    gap_mm : float
        Between neighbours.
    rows, columns : int or None
        As wanted; None tries them all.

    Returns
    -------
    list of Layout
        At least one.

    Raises
    ------
    Refused
        When the rows and columns wanted don't hold the masters.
    """
    count = sum(master.count for master in masters)
    if rows and columns:
        if rows * columns < count:
            raise Refused(
                "rows",
                Text(
                    "{rows} rows of {columns} hold {rows2} masters, and there are {count}. Add a row or a column.",
                    rows=rows,
                    columns=columns,
                    rows2=rows * columns,
                    count=count,
                ),
            )
        pairs = [(rows, columns)]
    elif rows or columns:
        given = rows or columns or 1
        pairs = [(given, ceil(count / given)) if rows else (ceil(count / given), given)]
    else:
        pairs = [(ceil(count / columns), columns) for columns in range(1, count + 1)]
    return [_grid(masters, gap_mm, *pair) for pair in pairs]


def _grid(masters: Sequence[Master], gap_mm: float, rows: int, columns: int) -> Layout:
    cell_x, cell_y = max(master.length_mm for master in masters), max(master.width_mm for master in masters)
    kinds = [kind for kind, master in enumerate(masters) for _ in range(master.count)]
    places = []
    for number, kind in enumerate(kinds):
        row, column = divmod(number, columns)
        x = (column - (columns - 1) / 2) * (cell_x + gap_mm)
        places.append(Place(kind=kind, x_mm=x, y_mm=((rows - 1) / 2 - row) * (cell_y + gap_mm)))
    along, across = (columns - 1) * (cell_x + gap_mm), (rows - 1) * (cell_y + gap_mm)
    circle, at = diagonal_mm(along + cell_x, across + cell_y), (0.0, 0.0)
    if len(kinds) == 1 and masters[0].form:
        circle, at = masters[0].form.circle
    elif all(master.outline == "round" for master in masters):
        circle = hypot(along, across) + max(cell_x, cell_y)
    return Layout(
        rows=rows,
        columns=columns,
        length_mm=along + cell_x,
        width_mm=across + cell_y,
        circle_mm=circle,
        places=tuple(places),
        circle_at_mm=at,
    )


def placed_outline(master: Master, place: Place) -> shapely.Geometry:
    """Return a master's outline in plan where it stands.

    Parameters
    ----------
    master : Master
        Of the place's kind.
    place : Place
        Its middle, and whether it was turned.

    Returns
    -------
    Geometry
        In mm from the middle of the layout.
    """
    outline = master.plan_outline()
    if place.turned:
        outline = affinity.rotate(outline, 90, origin=(0, 0))
    return affinity.translate(outline, place.x_mm, place.y_mm)


def with_true_circle(masters: Sequence[Master], layout: Layout) -> Layout:
    """Replace the circle round a layout's rectangle by the smallest one round its true outlines.

    Parameters
    ----------
    masters : sequence of Master
        Each kind with its count.
    layout : Layout
        Of several masters.

    Returns
    -------
    Layout
        With a circle no larger than before.
    """
    circle, at = _circle(masters, layout.places)
    return replace(layout, circle_mm=circle, circle_at_mm=at)


def _circle(masters: Sequence[Master], places: Sequence[Place]) -> tuple[float, tuple[float, float]]:
    everything = shapely.union_all([placed_outline(masters[place.kind], place).convex_hull for place in places])
    ball = shapely.minimum_bounding_circle(everything)
    middle = shapely.centroid(ball)
    return 2 * float(shapely.minimum_bounding_radius(everything)), (float(middle.x), float(middle.y))
