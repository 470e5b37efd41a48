"""Line work: a mesh seen in plan, front and side, as the edge of its shadow and the visible silhouettes and creases."""

from dataclasses import dataclass
from typing import Literal

import fast_simplification
import numpy as np
import shapely
from shapely.geometry import MultiPolygon
from shapely.strtree import STRtree

from ufrin.core.mesh.sections import as_multi
from ufrin.core.mesh.triangles import Floats, Mesh, Whole, merged, normals

ViewKey = Literal["plan", "front", "side"]
DRAWN_FACES = 12_000
SHARP = np.cos(np.radians(42))  # faces that meet more sharply than this make a crease
EXACT, FINEST = 1e-7, 1 / 3000  # of the size: the grids to which computations and drawings are snapped
PAIRS_AT_ONCE = 2_000_000
DRAWN = 1 / 1200  # of the size: the error that a line may have in a drawing, a third of a pixel
MOST_LINES, LEAST_LINE = 300, 1 / 60  # of the size: shorter creases are texture

# across, upwards and towards the eye, as (axis, sign)
_LOOK: dict[ViewKey, tuple[tuple[int, int], tuple[int, int], tuple[int, int]]] = {
    "plan": ((0, 1), (1, 1), (2, 1)),
    "front": ((0, 1), (2, 1), (1, -1)),
    "side": ((1, 1), (2, 1), (0, 1)),
}
Ring = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class LineWork:
    """A mesh in one view, in mm.

    It has the rings of its shadow (outer ones and holes alike, for an even-odd fill), and visible lines inside.
    """

    rings: tuple[Ring, ...]
    lines: tuple[Ring, ...]


def reduced(mesh: Mesh, faces: int = DRAWN_FACES) -> Mesh:
    """Thin a mesh out for drawing, never for computing.

    Parameters
    ----------
    mesh : Mesh
        Any.
    faces : int, optional
        About how many to keep.

    Returns
    -------
    Mesh
        As it is when it has no more (quadric error decimation: Garland and Heckbert 1997).
    """
    if len(mesh.faces) <= faces:
        return mesh
    points, kept = fast_simplification.simplify(
        mesh.vertices_mm.astype(np.float32), mesh.faces.astype(np.int32), target_reduction=1 - faces / len(mesh.faces)
    )
    return merged(Mesh(vertices_mm=np.asarray(points, dtype=np.float64), faces=np.asarray(kept, dtype=np.int32)))


def shadow(mesh: Mesh, view: ViewKey = "plan") -> MultiPolygon:
    """Return the exact shadow of a mesh in a view.

    Its edge is among the edges between faces towards the viewer and faces away from it.

    Parameters
    ----------
    mesh : Mesh
        As it stands.
    view : "plan", "front" or "side"
        From where.

    Returns
    -------
    MultiPolygon
        In mm.
    """
    return _shadow(_Seen.of(mesh, view), EXACT)


def contours(mesh: Mesh) -> Floats:
    """Return the edges that throw a mesh's shadow in plan.

    They are where the faces that look up end, and where those that look down end.

    Parameters
    ----------
    mesh : Mesh
        As it stands.

    Returns
    -------
    (e, 2, 3) float64
        Both ends of each. At an upright wall there is one such edge above and one below.
    """
    seen = _Seen.of(mesh, "plan")
    chosen = np.zeros(len(seen.edge), dtype=bool)
    for here in (seen.facing > 1e-9, seen.facing < -1e-9):
        chosen |= (seen.right < 0) | (here[seen.left] != here[seen.right])
    ends = seen.points[seen.edge[chosen]]
    return np.asarray(ends[np.linalg.norm(ends[:, 0, :2] - ends[:, 1, :2], axis=1) > 0])


def outline(mesh: Mesh, view: ViewKey) -> LineWork:
    """Draw a mesh in one view.

    Parameters
    ----------
    mesh : Mesh
        As it stands, thinned out.
    view : "plan", "front" or "side"
        From where.

    Returns
    -------
    LineWork
        Rings and lines, off by a thousandth of its size at most.
    """
    seen = _Seen.of(mesh, view)
    shape = _shadow(seen, FINEST)
    size = float(mesh.extents_mm.max())
    clean = as_multi(shapely.simplify(shape, size * DRAWN))
    rings = [ring for polygon in clean.geoms for ring in (polygon.exterior, *polygon.interiors)]
    lines = _lines(seen, shape, size)
    return LineWork(
        rings=tuple(_ring(np.asarray(ring.coords)) for ring in rings),
        lines=tuple(_ring(np.asarray(one.coords)) for one in lines),
    )


def _ring(points: Floats) -> Ring:
    return tuple((round(float(x), 3), round(float(y), 3)) for x, y in points)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Seen:
    """A mesh in view coordinates.

    It has the corners as (across, up, near), the faces that look at the viewer, and the edges with their two faces.
    """

    points: Floats
    faces: Whole
    facing: np.ndarray
    units: Floats
    edge: Whole
    left: Whole
    right: Whole

    @classmethod
    def of(cls, mesh: Mesh, view: ViewKey) -> "_Seen":
        points = np.stack([mesh.vertices_mm[:, axis] * sign for axis, sign in _LOOK[view]], axis=1)
        across, up, near = _LOOK[view]
        outward = normals(mesh)
        lengths = np.linalg.norm(outward, axis=1)
        units = outward / np.where(lengths > 0, lengths, 1)[:, None]
        facing = units[:, near[0]] * near[1]
        starts, ends = mesh.faces.ravel().astype(np.int64), mesh.faces[:, [1, 2, 0]].ravel().astype(np.int64)
        keys = np.minimum(starts, ends) * len(points) + np.maximum(starts, ends)
        order = np.argsort(keys, kind="stable")
        keys, owner = keys[order], order // 3
        same = keys[1:] == keys[:-1]
        first = np.flatnonzero(np.r_[True, ~same])
        last = np.r_[first[1:] - 1, len(keys) - 1]
        edge = np.stack([keys[first] // len(points), keys[first] % len(points)], axis=1)
        right = np.where(last > first, owner[last], -1)
        return cls(
            points=points, faces=mesh.faces, facing=facing, units=units, edge=edge, left=owner[first], right=right
        )

    def contour(self) -> np.ndarray:
        """Edges where a face towards the viewer meets one away from it, or nothing.

        Returns
        -------
        (e,) bool
            For each edge.
        """
        here = self.facing > 1e-9
        return np.asarray((self.right < 0) | (here[self.left] != here[self.right]))

    def rim(self) -> Whole:
        """Corners of the edges that bound the faces towards the viewer, each along its face.

        Returns
        -------
        (r, 2) int
            From and to.
        """
        here = self.facing > 1e-9
        chosen = self.contour() & (here[self.left] | ((self.right >= 0) & here[self.right]))
        edge, face = self.edge[chosen], np.where(here[self.left], self.left, self.right)[chosen]
        corners = self.faces[face]
        begin = np.argmax(corners == edge[:, :1], axis=1)
        forward = corners[np.arange(len(corners)), (begin + 1) % 3] == edge[:, 1]
        return np.where(forward[:, None], edge, edge[:, ::-1])

    def crease(self) -> np.ndarray:
        """Sharp edges between two faces that both look at the viewer.

        Returns
        -------
        (e,) bool
            For each edge.
        """
        both = (self.right >= 0) & (self.facing[self.left] > 1e-9) & (self.facing[self.right] > 1e-9)
        bend = np.einsum("ij,ij->i", self.units[self.left], self.units[self.right])
        return np.asarray(both & (bend < SHARP))


def _shadow(seen: _Seen, grid: float) -> MultiPolygon:
    flat = seen.points[:, :2]
    size = float(np.ptp(flat, axis=0).max())
    segments = flat[seen.edge[seen.contour()]]
    lattice = np.round(segments / (size * grid)).astype(np.int64)
    swap = (lattice[:, 0] > lattice[:, 1])[:, 0] | (
        (lattice[:, 0, 0] == lattice[:, 1, 0]) & (lattice[:, 0, 1] > lattice[:, 1, 1])
    )
    lattice[swap] = lattice[swap][:, ::-1]
    # on a coarse grid many short edges coincide or vanish, and each is needed once
    lattice = np.unique(lattice[(lattice[:, 0] != lattice[:, 1]).any(axis=1)].reshape(-1, 4), axis=0)
    lines = shapely.linestrings(lattice.reshape(-1, 2, 2) * (size * grid))
    net = shapely.union_all(lines, grid_size=size * grid)
    cells = shapely.get_parts(shapely.polygonize(shapely.get_parts(net)))
    if not len(cells):
        return MultiPolygon()
    covered = _layers(shapely.get_coordinates(shapely.point_on_surface(cells)), flat[seen.rim()]) > 0
    return as_multi(shapely.coverage_union_all(cells[covered]))


def _layers(points: Floats, rim: Floats) -> Whole:
    # how many layers of faces towards the viewer lie over each point: as often as their combined
    # boundary winds round it
    (x1, y1), (x2, y2) = rim[:, 0].T, rim[:, 1].T
    found = np.zeros(len(points), dtype=np.int64)
    for begin in range(0, len(points), step := max(1, PAIRS_AT_ONCE // max(1, len(rim)))):
        x, y = points[begin : begin + step].T[:, :, None]
        left = (x2 - x1) * (y - y1) - (x - x1) * (y2 - y1)
        up, down = (y1 <= y) & (y2 > y) & (left > 0), (y1 > y) & (y2 <= y) & (left < 0)
        found[begin : begin + step] = up.sum(axis=1) - down.sum(axis=1)
    return found


def _triangles(corners: Floats) -> np.ndarray:
    return np.asarray(shapely.polygons(np.concatenate([corners, corners[:, :1]], axis=1)))


def _lines(seen: _Seen, shape: MultiPolygon, size: float) -> list[shapely.LineString]:
    chosen = np.flatnonzero(seen.contour() | seen.crease())
    ends = seen.points[seen.edge[chosen]]
    middle = ends.mean(axis=1)
    lengths = np.linalg.norm(ends[:, 0, :2] - ends[:, 1, :2], axis=1)
    keep = lengths > size * 1e-6
    chosen, middle, ends = chosen[keep], middle[keep], ends[keep]
    # an edge of the shadow is drawn already
    rim = shapely.boundary(shape)
    points = shapely.points(middle[:, :2])
    inner = shapely.distance(points, rim) > size * 1.5 * FINEST
    chosen, middle, ends, points = chosen[inner], middle[inner], ends[inner], points[inner]
    if not len(chosen):
        return []
    visible = _visible(seen, middle, points, size)
    net = shapely.set_precision(
        shapely.multilinestrings(shapely.linestrings(ends[visible][:, :, :2])), size * FINEST / 4
    )
    merged_lines = shapely.get_parts(shapely.line_merge(shapely.union_all(net)))
    tidy = [one for one in shapely.simplify(merged_lines, size * DRAWN) if one.geom_type == "LineString"]
    longest = sorted((one for one in tidy if one.length > size * LEAST_LINE), key=lambda one: -one.length)
    return longest[:MOST_LINES]


def _visible(seen: _Seen, middle: Floats, points: np.ndarray, size: float) -> np.ndarray:
    facing = np.flatnonzero(seen.facing > 1e-9)
    corners = seen.points[seen.faces[facing]]
    hit, over = STRtree(_triangles(corners[:, :, :2])).query(points, predicate="intersects")
    a, b, c = (corners[over, i] for i in range(3))
    p = middle[hit]
    det = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (c[:, 0] - a[:, 0]) * (b[:, 1] - a[:, 1])
    det = np.where(np.abs(det) < 1e-12, 1e-12, det)
    u = ((p[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (c[:, 0] - a[:, 0]) * (p[:, 1] - a[:, 1])) / det
    v = ((b[:, 0] - a[:, 0]) * (p[:, 1] - a[:, 1]) - (p[:, 0] - a[:, 0]) * (b[:, 1] - a[:, 1])) / det
    near = a[:, 2] + u * (b[:, 2] - a[:, 2]) + v * (c[:, 2] - a[:, 2])
    hides = near > p[:, 2] + size * 2e-3
    hidden = np.bincount(hit[hides], minlength=len(middle)) > 0
    return ~hidden
