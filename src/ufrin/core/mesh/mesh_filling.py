"""A mesh filled with small cells, where its surface alone does not say what is inside."""

from dataclasses import dataclass

import numpy as np

from ufrin.core.mesh.rays import Columns, columns, grid
from ufrin.core.mesh.triangles import Flags, Floats, Mesh


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Filled:
    """A mesh filled with cells: the cells, their volume, and its error."""

    cells: Flags
    low_mm: Floats
    cell_mm: float
    volume_mm3: float
    plus_minus_mm3: float


def _vote(mesh: Mesh, cells: int, odd: bool) -> tuple[Flags, Floats, float]:
    low, cell, shape = grid(mesh, cells)
    votes, voters = np.zeros(shape, dtype=np.int8), np.zeros(shape, dtype=np.int8)
    for axis in range(3):
        cast = columns(mesh, axis=axis, low_mm=low, cell_mm=cell, shape=shape)
        fair = _crossed_evenly(cast) if odd else cast.balanced()
        votes += cast.kept(fair).filled(odd=odd)
        first, second = [one for one in range(3) if one != axis]
        voters += np.expand_dims(fair.reshape(shape[first], shape[second]), axis)
    return (votes * 2 > voters) & (voters > 0), low, cell


def _crossed_evenly(cast: Columns) -> Flags:
    return np.asarray(np.bincount(cast.ray, minlength=cast.rays) % 2 == 0)


def fill_mesh(mesh: Mesh, along: int, *, odd: bool) -> Filled:
    """Fill a mesh with cells by the vote of rays along the three axes."""
    cells, low, cell = _vote(mesh, along, odd)
    volume = float(cells.sum()) * cell**3
    other, _, other_cell = _vote(mesh, along * 3 // 4, odd)
    apart = abs(float(other.sum()) * other_cell**3 - volume)
    return Filled(cells=cells, low_mm=low, cell_mm=cell, volume_mm3=volume, plus_minus_mm3=apart + 0.005 * volume)


def blocks(cells: Flags, low_mm: Floats, cell_mm: float) -> Mesh:
    """Return the surface of filled cells, two triangles for each face that borders on an empty cell.

    Parameters
    ----------
    cells : (nx, ny, nz) bool
        At least one filled.
    low_mm : (3,) float
        Corner of the grid.
    cell_mm : float
        Edge of a cell.

    Returns
    -------
    Mesh
        Closed.
    """
    padded = np.pad(cells, 1)
    corners = []
    for axis in range(3):
        one, other = [i for i in range(3) if i != axis]
        for side in (0, 1):
            neighbour = np.roll(padded, -1 if side else 1, axis=axis)
            at = np.argwhere(padded & ~neighbour) - 1
            quad = np.zeros((len(at), 4, 3), dtype=np.int64)
            quad[:] = at[:, None, :]
            quad[:, :, axis] += side
            quad[:, [1, 2], one] += 1
            quad[:, [2, 3], other] += 1
            # counter-clockwise from outside
            corners.append(quad if (side == 1) != (axis == 1) else quad[:, ::-1])
    quads = np.concatenate(corners)
    keys = (quads[..., 0] * (cells.shape[1] + 1) + quads[..., 1]) * (cells.shape[2] + 1) + quads[..., 2]
    used, ids = np.unique(keys, return_inverse=True)
    ids = ids.reshape(-1, 4)
    lattice = np.stack(np.unravel_index(used, [size + 1 for size in cells.shape]), axis=1)
    faces = np.concatenate([ids[:, [0, 1, 2]], ids[:, [0, 2, 3]]]).astype(np.int32)
    return Mesh(vertices_mm=low_mm + lattice * cell_mm, faces=faces)
