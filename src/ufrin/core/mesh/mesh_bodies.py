"""The bodies of a mesh: which lie inside each other, which are cavities, and whether they overlap."""

import numpy as np
import shapely

from ufrin.core.mesh.rays import columns, grid
from ufrin.core.mesh.triangles import Flags, Floats, Mesh, Whole
from ufrin.errors import Refused
from ufrin.language import Text

CHECK_CELLS = 96  # rays that look for bodies inside each other


def overlaps(mesh: Mesh) -> bool:
    """Return whether bodies of a mesh run through each other."""
    low, cell, shape = grid(mesh, CHECK_CELLS)
    seen = columns(mesh, axis=2, low_mm=low, cell_mm=cell, shape=shape)
    winding = seen.winding()
    if not len(winding):
        return False
    # faces that touch cross a ray at one point in either order: only a stretch with some length counts
    long_enough = np.diff(seen.height_mm, append=seen.height_mm[-1]) > cell * 1e-6
    return bool(((winding < 0) | (winding > 1))[long_enough].any())


def near_another(mesh: Mesh, body: Whole, count: int) -> Flags:
    """Return which bodies of a mesh come so near another one, by their boxes, that they could touch it."""
    corners = mesh.vertices_mm[mesh.faces]
    low, high = np.full((count, 3), np.inf), np.full((count, 3), -np.inf)
    for axis in range(3):
        np.minimum.at(low[:, axis], body, corners[:, :, axis].min(axis=1))
        np.maximum.at(high[:, axis], body, corners[:, :, axis].max(axis=1))
    slack = float(mesh.extents_mm.max()) * 1e-6
    boxes = shapely.box(low[:, 0] - slack, low[:, 1] - slack, high[:, 0], high[:, 1])
    one, other = shapely.STRtree(boxes).query(boxes, predicate="intersects")
    touch = (one != other) & (low[one, 2] <= high[other, 2] + slack) & (low[other, 2] <= high[one, 2] + slack)
    near = np.zeros(count, dtype=bool)
    near[one[touch]] = True
    return near


def meet(mesh: Mesh, body: Whole, count: int) -> bool:
    """Return whether bodies of a mesh lie against each other, so that faces of both are inside of the whole."""
    near = near_another(mesh, body, count)
    if not near.any():
        return False
    mesh = mesh.part(near[body])
    low, cell, shape = grid(mesh, CHECK_CELLS)
    for axis in range(3):
        seen = columns(mesh, axis=axis, low_mm=low, cell_mm=cell, shape=shape)
        # a ray that leaves one body where it enters the next is outside of both, or inside of both, for no length
        nowhere = (np.diff(seen.height_mm) <= cell * 1e-6) & (np.diff(seen.ray) == 0)
        if (nowhere & (seen.winding()[:-1] != 1)).any():
            return True
    return False


def without_walls_inside(mesh: Mesh) -> Mesh:
    """Return a mesh without the faces that lie upon each other the opposite way: where bodies share a wall."""
    corners = np.sort(mesh.faces, axis=1)
    _, wall, times = np.unique(corners, axis=0, return_inverse=True, return_counts=True)
    a, b, c = (mesh.faces[:, place] for place in range(3))
    way = np.where((a < b).astype(int) + (b < c) + (c < a) == 2, 1, -1)  # how a face runs through its corners
    cancels = (times == 2) & (np.bincount(wall.ravel(), weights=way, minlength=len(times)) == 0)
    kept = ~cancels[wall.ravel()]
    return mesh.part(kept) if kept.any() and not kept.all() else mesh


def winding_number(mesh: Mesh, point_mm: Floats) -> float:
    """Return how many times a closed surface winds round a point.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    point_mm : (3,) float
        Not on the surface.

    Returns
    -------
    float
        1 inside, 0 outside: the solid angle of all faces over 4 pi (Van Oosterom and Strackee 1983, The solid
        angle of a plane triangle).
    """
    a, b, c = (mesh.vertices_mm[mesh.faces[:, corner]] - point_mm for corner in range(3))
    la, lb, lc = (np.linalg.norm(side, axis=1) for side in (a, b, c))
    over = np.einsum("ij,ij->i", a, np.cross(b, c))
    under = (
        la * lb * lc
        + np.einsum("ij,ij->i", a, b) * lc
        + np.einsum("ij,ij->i", b, c) * la
        + np.einsum("ij,ij->i", c, a) * lb
    )
    return float(np.arctan2(over, under).sum() / (2 * np.pi))


def homes_of(mesh: Mesh, body: Whole, by_body: Floats) -> dict[int, int]:
    """Return the body that each inner body lies in."""
    # each inside-out body that lies in another one is assigned to the smallest such body
    firsts = {
        int(label): mesh.vertices_mm[mesh.faces[np.argmax(body == label), 0]] for label in np.flatnonzero(by_body < 0)
    }
    if len(firsts) > 200:
        raise Refused(
            "file",
            Text(
                "{firsts} of its bodies are inside out. Check the normals in the program that made it "
                "and export it again.",
                firsts=len(firsts),
            ),
        )
    homes = {}
    for label in np.argsort(-by_body):
        if by_body[label] > 0 and firsts:
            outer = mesh.part(body == label)
            low, high = outer.bounds_mm
            for inner, point in firsts.items():
                if (point > low).all() and (point < high).all() and winding_number(outer, point) > 0.5:
                    homes[inner] = int(label)
    return homes


def cavities(mesh: Mesh, body: Whole, by_body: Floats) -> Flags:
    """Return which bodies are hollows of others."""
    inner = np.zeros(len(by_body), dtype=bool)
    inner[list(homes_of(mesh, body, by_body))] = True
    return inner
