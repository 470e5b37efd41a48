"""Line work of a master as marks on a drawing, from its form or, where there is none, from its outside."""

from collections.abc import Callable, Sequence

from ufrin.core.master.master_form import Master
from ufrin.core.mesh.line_work import LineWork, ViewKey
from ufrin.web.drawings.svg_marks import path, strokes

ToPx = Callable[[float, float], tuple[float, float]]


def shifted(to_px: ToPx, x_mm: float, y_mm: float) -> ToPx:
    """Return the way to the sheet for a thing whose own middle lies at ``x_mm``, ``y_mm``."""
    return lambda x, y: to_px(x_mm + x, y_mm + y)


def draw(prefix: str, outline: LineWork, to_px: ToPx, *, kind: str = "d-edge") -> str:
    """Draw line work: the shadow filled with the master's hatch, the lines inside it thinner.

    Parameters
    ----------
    prefix : str
        Of the drawing's hatches.
    outline : LineWork
        In mm.
    to_px : callable of (x, y) to (x, y)
        From mm to the sheet.
    kind : str, optional
        Class of the edge.

    Returns
    -------
    str
        SVG.
    """
    shadow = path(prefix, "master", [[to_px(x, y) for x, y in ring] for ring in outline.rings], kind)
    return shadow + strokes([[to_px(x, y) for x, y in line] for line in outline.lines], "d-inner")


def plain(master: Master, view: ViewKey, *, turned: bool = False) -> LineWork:
    """Return the outside of a master without form: a rectangle; in plan a circle where it is round.

    Parameters
    ----------
    master : Master
        By its outside.
    view : "plan", "front" or "side"
        From where.
    turned : bool, optional
        A quarter on the board.

    Returns
    -------
    LineWork
        In mm about its middle and, upright, above its foot.
    """
    length, width = (master.width_mm, master.length_mm) if turned else (master.length_mm, master.width_mm)
    if view == "plan":
        ring: Sequence[tuple[float, float]] = (
            list(master.plan_outline().exterior.coords)
            if master.outline == "round"
            else _box(length, -width / 2, width / 2)
        )
        return LineWork(rings=(tuple(ring),), lines=())
    return LineWork(rings=(tuple(_box(length if view == "front" else width, 0.0, master.height_mm)),), lines=())


def _box(across: float, low: float, high: float) -> list[tuple[float, float]]:
    return [(-across / 2, low), (across / 2, low), (across / 2, high), (-across / 2, high)]
