"""Drawings as DXF R2010, in mm: the cut list of a box, and the plan of a mould in two halves."""

import io
from collections.abc import Mapping

import numpy as np
import shapely
from contourpy import contour_generator
from ezdxf import units
from ezdxf.document import Drawing
from ezdxf.filemanagement import new

from ufrin.core.box.cut_list import CutList
from ufrin.core.mesh.cell_rings import polygon_rings
from ufrin.core.opening.keys import Key
from ufrin.core.opening.parting_surface import PartingSurface

# layer and colour number
CUT_LAYERS = {"CUT": 1, "SHEET": 8, "TEXT": 3}
PLAN_LAYERS = {"BOX": 7, "MASTER": 6, "SPLIT": 1, "KEYS": 5}


def cut_dxf(cut: CutList) -> bytes:
    """Write the nested panels.

    Parameters
    ----------
    cut : CutList
        Nested.

    Returns
    -------
    bytes
        Layers CUT (outlines), SHEET (the sheets, side by side) and TEXT (names).
    """
    document = _document(CUT_LAYERS)
    space = document.modelspace()
    length, width = cut.sheet_mm

    def rectangle(x: float, y: float, wide: float, high: float, layer: str) -> None:
        space.add_lwpolyline(
            [(x, y), (x + wide, y), (x + wide, y + high), (x, y + high)], close=True, dxfattribs={"layer": layer}
        )

    for number in range(cut.sheets):
        rectangle(number * (length + 50), 0, length, width, "SHEET")
    for piece in cut.pieces:
        x = piece.sheet * (length + 50) + piece.x_mm
        rectangle(x, piece.y_mm, piece.length_mm, piece.height_mm, "CUT")
        space.add_text(
            piece.name, height=min(8.0, min(piece.length_mm, piece.height_mm) / 3), dxfattribs={"layer": "TEXT"}
        ).set_placement((x + 4, piece.y_mm + 4))
    return _file(document)


def plan_dxf(parted: PartingSurface, inside: shapely.Polygon, keys: tuple[Key, ...], step_mm: float) -> bytes:
    """Write the plan of a mould in two halves.

    Parameters
    ----------
    parted : PartingSurface
        The mould.
    inside : Polygon
        Its box.
    keys : tuple of Key
        On its flange.
    step_mm : float
        Between contour lines; their layer says the height over the floor.

    Returns
    -------
    bytes
        Box, master, split line, keys and the contour lines of the clay bed, on a layer each.
    """
    document = _document(PLAN_LAYERS)
    sheet = document.modelspace()
    for layer, shape in (("BOX", inside), ("MASTER", parted.seen)):
        for ring in polygon_rings(shape):
            sheet.add_lwpolyline(ring, close=True, dxfattribs={"layer": layer})
    for seam in parted.seams:
        sheet.add_polyline3d(
            [tuple(point) for point in seam.points_mm.round(3).tolist()], close=True, dxfattribs={"layer": "SPLIT"}
        )
    for key in keys:
        sheet.add_circle((key.x_mm, key.y_mm), key.diameter_mm / 2, dxfattribs={"layer": "KEYS"})
    heights = np.ma.masked_where(~parted.inside, parted.height_mm)
    xs, ys = (
        parted.low_mm[axis] + (np.arange(size) + 0.5) * parted.cell_mm
        for axis, size in ((0, heights.shape[0]), (1, heights.shape[1]))
    )
    lines = contour_generator(x=xs, y=ys, z=heights.T)
    low, high = float(heights.min()), float(heights.max())
    for level in np.arange(np.ceil(low / step_mm), np.floor(high / step_mm) + 1) * step_mm:
        layer = f"CLAY {level - parted.floor_mm:.1f}"
        runs = lines.lines(float(level))
        for run in runs if isinstance(runs, list) else []:
            if len(run) > 2:
                sheet.add_lwpolyline([(float(x), float(y)) for x, y in run], dxfattribs={"layer": layer, "color": 3})
    return _file(document)


def _document(layers: Mapping[str, int]) -> Drawing:
    document = new("R2010", units=units.MM)
    for name, colour in layers.items():
        document.layers.add(name, color=colour)
    return document


def _file(document: Drawing) -> bytes:
    file = io.StringIO()
    document.write(file)
    return file.getvalue().encode()
