"""Rings round cells seen from one side, for drawing."""

import numpy as np
import shapely
from shapely.geometry import Polygon

from ufrin.core.mesh.sections import as_multi
from ufrin.core.mesh.triangles import Flags, Floats

Ring = tuple[tuple[float, float], ...]


def rings_of(mask: Flags, low_mm: Floats, cell_mm: float) -> tuple[Ring, ...]:
    """Return the outline of cells in a plane.

    Parameters
    ----------
    mask : (n, m) bool
        First index across, second upwards.
    low_mm : (2,) float
        Corner of the grid.
    cell_mm : float
        Edge of a cell.

    Returns
    -------
    tuple of rings of (x, y)
        Outer ones and holes alike, for an even-odd fill, their steps smoothed by half a cell.
    """
    padded = np.pad(mask, ((0, 0), (1, 1))).astype(np.int8)
    turns = np.diff(padded, axis=1)
    across, begin = np.nonzero(turns == 1)
    _, end = np.nonzero(turns == -1)
    if not len(across):
        return ()
    x, y = low_mm
    strips = shapely.box(x + across * cell_mm, y + begin * cell_mm, x + (across + 1) * cell_mm, y + end * cell_mm)
    shape = as_multi(shapely.union_all(strips).simplify(0.75 * cell_mm))
    return tuple(_ring(ring) for polygon in shape.geoms for ring in (polygon.exterior, *polygon.interiors))


def _ring(line: shapely.LinearRing) -> Ring:
    return tuple((round(float(x), 2), round(float(y), 2)) for x, y in line.coords)


def polygon_rings(shape: shapely.Geometry) -> tuple[Ring, ...]:
    """Return the rings of polygons.

    Parameters
    ----------
    shape : Geometry
        One polygon or several.

    Returns
    -------
    tuple of rings
        Outer ones and holes alike.
    """
    return tuple(
        _ring(ring)
        for part in shapely.get_parts(shape)
        if isinstance(part, Polygon)
        for ring in (part.exterior, *part.interiors)
    )
