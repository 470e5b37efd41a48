"""Sections: a closed mesh cut exactly at a level; the volume below, the outline, and the reach at each height."""

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from ufrin.core.mesh.triangles import Floats, Mesh, Whole


def volume_below_ml(mesh: Mesh, height_mm: float) -> float:
    """Return the volume of a closed mesh below a height.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    height_mm : float
        Of the level.

    Returns
    -------
    float
        In ml. The faces are cut at the level and summed about a point on it, so that the cut itself contributes
        nothing (divergence theorem).
    """
    z = mesh.vertices_mm[:, 2] - height_mm
    if z.max() <= 0:
        return mesh.volume_mm3 / 1000
    if z.min() >= 0:
        return 0.0
    middle = mesh.bounds_mm.mean(axis=0)
    points = np.column_stack([mesh.vertices_mm[:, 0] - middle[0], mesh.vertices_mm[:, 1] - middle[1], z])
    below = z < 0
    a, b, c = (below[mesh.faces[:, i]] for i in range(3))
    number = a.astype(np.int8) + b + c
    whole = points[mesh.faces[number == 3]]
    total = _six(whole[:, 0], whole[:, 1], whole[:, 2])
    one, two = mesh.faces[number == 1], mesh.faces[number == 2]
    p, q, r = _rolled(points, one, below[one])
    total += _six(p, _between(p, q), _between(p, r))
    p, q, r = _rolled(points, two, ~below[two])  # only p is above
    pq, pr = _between(p, q), _between(p, r)
    total += _six(pq, q, r) + _six(pq, r, pr)
    return total / 6000


def _rolled(points: Floats, faces: Whole, alone: np.ndarray) -> tuple[Floats, Floats, Floats]:
    # corners in their order, beginning with the one that is alone on its side
    first = np.argmax(alone, axis=1)
    rows = np.arange(len(faces))
    return points[faces[rows, first]], points[faces[rows, (first + 1) % 3]], points[faces[rows, (first + 2) % 3]]


def _between(p: Floats, q: Floats) -> Floats:
    share = (p[:, 2] / (p[:, 2] - q[:, 2]))[:, None]
    at = p + share * (q - p)
    at[:, 2] = 0.0
    return at


def _six(a: Floats, b: Floats, c: Floats) -> float:
    return float(np.einsum("ij,ij->", a, np.cross(b, c)))


def section(mesh: Mesh, height_mm: float) -> MultiPolygon:
    """Cut a closed mesh level.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    height_mm : float
        Of the cut; a corner that lies exactly on it counts as above.

    Returns
    -------
    MultiPolygon
        The solid area there; empty above and below the master.
    """
    z = mesh.vertices_mm[:, 2] - height_mm
    below = z < 0
    three = below[mesh.faces]
    crossed = mesh.faces[three.any(axis=1) & ~three.all(axis=1)]
    if not len(crossed):
        return MultiPolygon()
    inside = below[crossed]
    single = inside.sum(axis=1) == 1
    first = np.where(single, np.argmax(inside, axis=1), np.argmin(inside, axis=1))
    rows = np.arange(len(crossed))
    p, q, r = crossed[rows, first], crossed[rows, (first + 1) % 3], crossed[rows, (first + 2) % 3]
    # each crossing is identified by its edge, so that neighbours are joined without comparing coordinates
    number = len(z)
    near = np.minimum(p, q).astype(np.int64) * number + np.maximum(p, q)
    far = np.minimum(p, r).astype(np.int64) * number + np.maximum(p, r)
    names, ids = np.unique(np.concatenate([near, far]), return_inverse=True)
    low, high = names // number, names % number
    share = (z[low] / (z[low] - z[high]))[:, None]
    at = mesh.vertices_mm[low, :2] + share * (mesh.vertices_mm[high, :2] - mesh.vertices_mm[low, :2])
    begin, end = ids[: len(p)], ids[len(p) :]
    # solid lies left of the way from begin to end when one corner is below, right when two are
    begin, end = np.where(single, begin, end), np.where(single, end, begin)
    return _joined(at, begin, end)


def _joined(at: Floats, begin: Whole, end: Whole) -> MultiPolygon:
    following = np.full(len(at), -1, dtype=np.int64)
    following[begin] = end
    rings, seen = [], np.zeros(len(at), dtype=bool)
    follow = following.tolist()
    for start in begin.tolist():
        if seen[start]:
            continue
        chain, here = [], start
        while here >= 0 and not seen[here]:
            seen[here] = True
            chain.append(here)
            here = follow[here]
        if len(chain) >= 3:
            rings.append(at[chain])
    made = shapely.MultiPolygon()
    # holes run the other way round: even-odd over all rings is the solid part of a mesh without overlaps
    polygons = shapely.make_valid(np.array([Polygon(ring) for ring in rings], dtype=object)) if rings else []
    for polygon in sorted(polygons, key=lambda one: -one.area):
        made = shapely.symmetric_difference(made, polygon)
    return as_multi(made)


def as_multi(shape: shapely.Geometry) -> MultiPolygon:
    """Return the areas of a shape, without stray lines and points.

    Parameters
    ----------
    shape : Geometry
        Any.

    Returns
    -------
    MultiPolygon
        It may be empty.
    """
    parts = shapely.get_parts(shapely.get_parts(shape))
    return MultiPolygon([part for part in parts if part.geom_type == "Polygon" and part.area > 0])


def reach(mesh: Mesh, centre_mm: tuple[float, float]) -> tuple[Floats, Floats]:
    """Return how far each corner is from an upright axis.

    Between corners a face reaches no further than a straight line.

    Parameters
    ----------
    mesh : Mesh
        As it stands.
    centre_mm : (x, y)
        Of the axis.

    Returns
    -------
    (n,) float64, (n,) float64
        Height above the master's foot and radius, thinned to the furthest corner in each of 400 steps of height.
    """
    radius = np.hypot(mesh.vertices_mm[:, 0] - centre_mm[0], mesh.vertices_mm[:, 1] - centre_mm[1])
    z = mesh.vertices_mm[:, 2]
    step = np.minimum((z / max(float(z.max()), 1e-9) * 400).astype(np.int64), 399)
    furthest = np.zeros(400)
    np.maximum.at(furthest, step, radius)
    chosen = radius >= furthest[step]
    return z[chosen], radius[chosen]
