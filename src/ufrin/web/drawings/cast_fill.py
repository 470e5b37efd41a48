"""The filled mould, cut open: the cavity's own section, its layers or its shell, and how high each comes."""

from collections.abc import Callable, Sequence

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, box

from ufrin.core.casting.planned_cast import CastPlan
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.cell_rings import polygon_rings
from ufrin.core.mesh.sections import section
from ufrin.core.mesh.triangles import Mesh
from ufrin.language import Joined, Text
from ufrin.web.drawings.svg_marks import (
    LINE_PX,
    Drawing,
    horizontal_dimension,
    line,
    path,
    patterns,
    sheet,
    spread,
    text,
    width_px,
)

QuantityText = Callable[[float, str], str]
WIDE_PX, HIGH_PX, RUBBER_PX, LEFT_PX, TOP_PX = 420.0, 300.0, 26.0, 14.0, 22.0
UPRIGHT = np.array([[1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, -1.0, 0.0]])  # a section from front to back lies level then


def cast_fill(plan: CastPlan, held: Form, show_quantity: QuantityText) -> Drawing:
    """Draw a mould with its cast, cut open through the middle of the cavity.

    Parameters
    ----------
    plan : CastPlan
        What is poured.
    held : Form
        The cavity as the mould is held.
    show_quantity : callable of (value, kind) to str
        Shows a quantity in the workshop's units.

    Returns
    -------
    Drawing
        With a mark for every level.
    """
    stretch = (plan.cavity.height_mm or 1.0) / held.size_mm[2]
    shape = shapely.affinity.scale(_middle(held), stretch, stretch, origin=(0, 0))
    _, _, width_mm, height_mm = shape.bounds
    px = min(WIDE_PX / width_mm, HIGH_PX / height_mm)
    drawing = _Cut("cast-fill", px, LEFT_PX + RUBBER_PX, TOP_PX + height_mm * px)
    frame = box(-RUBBER_PX / px, -RUBBER_PX / px, width_mm + RUBBER_PX / px, height_mm)
    marks = [patterns("cast-fill"), drawing.area("rubber", shapely.difference(frame, shape))]
    levels = _filled(drawing, marks, plan, shape, height_mm)
    right = drawing.left + width_mm * px + RUBBER_PX
    widest = _level_marks(drawing, marks, levels, right, show_quantity)
    foot = drawing.foot + RUBBER_PX
    marks.append(
        horizontal_dimension(
            drawing.left, drawing.left + width_mm * px, foot + 12, show_quantity(width_mm, "length"), foot + 2
        )
    )
    names = [name for _, name in levels] or [Text("filled")]
    label = Text("The mould cut open with its cast: {name}", name=Joined(names))
    return sheet(max(widest, right + 12), foot + 40, label, "".join(marks))


@kept_by_form(48)
def _middle(held: Form) -> MultiPolygon:
    # cut from left to right through the middle, its lowest corner at the origin
    low, high = held.drawn.bounds_mm
    laid = Mesh(vertices_mm=held.drawn.vertices_mm @ UPRIGHT.T, faces=held.drawn.faces)
    cut = section(laid, float(-(low[1] + high[1]) / 2))
    return shapely.affinity.translate(cut, -float(low[0]), -float(low[2]))


class _Cut:
    def __init__(self, key: str, px: float, left: float, foot: float) -> None:
        self.key, self.px, self.left, self.foot = key, px, left, foot

    def area(self, substance: str, shape: shapely.Geometry) -> str:
        rings = [[(self.left + x * self.px, self.foot - y * self.px) for x, y in ring] for ring in polygon_rings(shape)]
        return path(self.key, substance, rings)


def _filled(
    drawing: _Cut, marks: list[str], plan: CastPlan, shape: MultiPolygon, height_mm: float
) -> list[tuple[float, str]]:
    # each level in mm with its name, from the bottom
    if plan.layers:
        substances = ("cast", "second-cast")  # by turns, so that layers that touch can be told apart
        levels: list[tuple[float, str]] = []
        for layer in plan.layers:
            within = shape.intersection(box(-1e5, layer.from_mm, 1e5, layer.to_mm))
            marks.append(drawing.area(substances[(layer.number - 1) % 2], within))
            levels.append((layer.to_mm, Text("layer {number}", number=layer.number)))
        return levels
    if plan.thickness_mm is not None:
        hollow = shape.buffer(-plan.thickness_mm)
        marks.append(drawing.area("cast", shape.difference(hollow)))
        if plan.kind == "foam-back" and not hollow.is_empty:
            marks.append(drawing.area("foam", hollow))
        return []
    marks.append(drawing.area("cast", shape))
    return [(height_mm, Text("full"))]


def _level_marks(
    drawing: _Cut, marks: list[str], levels: Sequence[tuple[float, str]], right: float, show_quantity: QuantityText
) -> float:
    if not levels:
        return right
    at = [drawing.foot - height * drawing.px for height, _ in levels]
    placed = spread(at, LINE_PX + 3, TOP_PX - 6, 1e4)
    widest = right
    for (height, name), y, label_y in zip(levels, at, placed, strict=True):
        words = f"{name}: {show_quantity(height, 'length')}"
        marks.append(line(drawing.left - 8, y, right + 6, y, "d-fill"))
        marks.append(line(right + 6, y, right + 16, label_y, "d-leader"))
        marks.append(text(right + 20, label_y, words))
        widest = max(widest, right + 24 + width_px(words))
    return widest
