"""Split lines: where the parting surface meets the master, and how much of them crosses the show face."""

from dataclasses import dataclass

import numpy as np
import shapely
from scipy import ndimage
from shapely.geometry import MultiPolygon, Polygon
from shapely.strtree import STRtree

from ufrin.core.mesh.line_work import contours
from ufrin.core.mesh.triangles import Floats, Mesh
from ufrin.core.opening.show_face import ON_SHOW_COSINE

SNAP = 1e-6  # of the size: how far the edge of a shadow may lie off the edges that throw it


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Seam:
    """One split line: a closed run of points on the master, in order.

    Parameters
    ----------
    points_mm : (k, 3) float64
        On the master's outline along the pull.
    outward : (k, 2) float64
        Away from the master, perpendicular to the line and the pull, of unit length.
    span_mm : (k,) float64
        How much of the line each point stands for.
    """

    points_mm: Floats
    outward: Floats
    span_mm: Floats


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class OutlineRing:
    """Points on the edge of the shadow, half a cell apart at most.

    It also has the heights between which the master is outermost there.
    """

    points: Floats
    outward: Floats
    span: Floats
    low: Floats
    high: Floats


def outline_rings(mesh: Mesh, seen: MultiPolygon, cell: float) -> list[OutlineRing]:
    """Return the rings of a shadow as points with the heights of the master above each of them."""
    size = float(mesh.extents_mm.max())
    ends = contours(mesh)
    tree = STRtree(shapely.linestrings(ends[:, :, :2]))
    rings = []
    for polygon in shapely.get_parts(seen):
        oriented = shapely.geometry.polygon.orient(polygon)
        for line in (oriented.exterior, *oriented.interiors):
            if Polygon(line).area < cell**2:
                continue
            points, outward, span = _walk(np.asarray(line.coords), cell / 2)
            low, high = _heights(tree, ends, points, size)
            known = ~np.isnan(low)
            if known.sum() >= 3:
                rings.append(
                    OutlineRing(
                        points=points[known], outward=outward[known], span=span[known], low=low[known], high=high[known]
                    )
                )
    return rings


def _walk(corners: Floats, step: float) -> tuple[Floats, Floats, Floats]:
    # the middles of short pieces: no point lies on a corner, where two edges of different heights may cross
    along = np.diff(corners, axis=0)
    length = np.linalg.norm(along, axis=1)
    corners, along, length = corners[:-1][length > 0], along[length > 0], length[length > 0]
    number = np.maximum(1, np.ceil(length / step).astype(np.int64))
    piece = np.repeat(np.arange(len(number)), number)
    nth = np.arange(len(piece)) - np.repeat(np.cumsum(number) - number, number)
    share = (nth + 0.5) / number[piece]
    unit = along / length[:, None]
    return (
        corners[piece] + along[piece] * share[:, None],
        np.stack([unit[piece, 1], -unit[piece, 0]], axis=1),
        (length / number)[piece],
    )


def _heights(tree: STRtree, ends: Floats, points: Floats, size: float) -> tuple[Floats, Floats]:
    which, edge = tree.query(shapely.points(points), predicate="dwithin", distance=SNAP * size)
    a, b = ends[edge, 0], ends[edge, 1]
    along = b[:, :2] - a[:, :2]
    share = ((points[which] - a[:, :2]) * along).sum(axis=1) / np.maximum((along**2).sum(axis=1), 1e-30)
    z = a[:, 2] + np.clip(share, 0, 1) * (b[:, 2] - a[:, 2])
    low, high = np.full(len(points), np.inf), np.full(len(points), -np.inf)
    np.minimum.at(low, which, z)
    np.maximum.at(high, which, z)
    return np.where(np.isfinite(low), low, np.nan), np.where(np.isfinite(high), high, np.nan)


def height_at(height: Floats, low_mm: Floats, cell_mm: float, points_mm: Floats) -> Floats:
    """Return the height of a surface over points of the plan, interpolated between the middles of its cells."""
    where = (np.asarray(points_mm, dtype=float) - low_mm) / cell_mm - 0.5
    return np.asarray(ndimage.map_coordinates(height, where.T, order=1, mode="nearest"))


def seam_on(ring: OutlineRing, settled: Floats, corner: Floats, cell: float) -> Seam:
    """Return the split line that a ring makes on the settled surface."""
    z = np.clip(height_at(settled, corner, cell, ring.points), ring.low, ring.high)
    points = np.column_stack([ring.points, z])
    return Seam(points_mm=points, outward=ring.outward, span_mm=ring.span)


def seam_mm(seams: tuple[Seam, ...], shown: Floats | None = None) -> float:
    """Return the length of the split lines, or of the part that crosses the show face.

    Parameters
    ----------
    seams : tuple of Seam
        Of a split.
    shown : (3,) float, optional
        The direction of the show face, of unit length; surfaces within 60 degrees of it belong to it.

    Returns
    -------
    float
        In mm.
    """
    total = 0.0
    for seam in seams:
        steps = np.linalg.norm(np.roll(seam.points_mm, -1, axis=0) - seam.points_mm, axis=1)
        if shown is not None:
            steps = steps[seam.outward @ shown[:2] > ON_SHOW_COSINE]
        total += float(steps.sum())
    return total
