"""A solid as cells, with walls that stay tight however thin they are, and the exact lengths of rays inside it."""

from dataclasses import dataclass

import numpy as np

from ufrin.core.mesh.compiled_loops import fill
from ufrin.core.mesh.rays import Stretches, columns, grid, stretches
from ufrin.core.mesh.triangles import Flags, Floats, Mesh, Whole
from ufrin.errors import Refused
from ufrin.language import Text

# share of the rays' stretches without the middle of a cell; edges and points have fewer, so a wall must be thinner
# than a cell
THIN_SHARE = 0.004
MOST_CELLS = 320


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Cells:
    """A solid as cells, z upright.

    Parameters
    ----------
    solid : (nz, nx, ny) bool
        Cells whose middles are inside, and those that close a wall thinner than a cell: no path from middle to
        middle passes through it.
    low_mm : (3,) float
        Corner of the grid.
    cell_mm : float
        Edge of a cell.
    upright, sideways : Stretches, (Stretches, Stretches)
        The lengths that rays along z, and along x and y, spend inside, exactly.
    thin_mm : float or None
        The approximate thickness of walls that are thinner than a cell; None where there are none.
    """

    solid: Flags
    low_mm: Floats
    cell_mm: float
    upright: Stretches
    sideways: tuple[Stretches, Stretches]
    thin_mm: float | None = None

    @property
    def plan(self) -> tuple[int, int]:
        """Cells along x and y."""
        return self.solid.shape[1], self.solid.shape[2]

    def middle_mm(self, index: Whole) -> Floats:
        """Return the middles of cells.

        Parameters
        ----------
        index : (..., 3) int
            As (z, x, y).

        Returns
        -------
        (..., 3) float64
            As (x, y, z).
        """
        return np.asarray(self.low_mm + (np.asarray(index)[..., [1, 2, 0]] + 0.5) * self.cell_mm)

    def index_of(self, points_mm: Floats) -> Whole:
        """Return the cells that points lie in, whether in the grid or beyond.

        Parameters
        ----------
        points_mm : (..., 3) float
            As (x, y, z).

        Returns
        -------
        (..., 3) int64
            As (z, x, y).
        """
        return np.floor((points_mm - self.low_mm) / self.cell_mm).astype(np.int64)[..., [2, 0, 1]]


def cells_of_mesh(mesh: Mesh, cells: int = 128) -> Cells:
    """Turn a closed mesh into cells.

    Parameters
    ----------
    mesh : Mesh
        Closed, z upright.
    cells : int, optional
        Along its longest side.

    Returns
    -------
    Cells
        With a cell of room on every side.
    """
    low, cell, shape = grid(mesh, cells)
    solid = np.zeros((shape[2], shape[0], shape[1]), dtype=bool)
    thin, number, found = [], 0, []
    for axis in (2, 0, 1):
        along = stretches(columns(mesh, axis=axis, low_mm=low, cell_mm=cell, shape=shape))
        begin, end, missed = cells_of(along, float(low[axis]), cell)
        if axis == 2:
            fill(solid.reshape(shape[2], -1), along.ray, begin, end)
        else:  # walls that lie along the upright and are thinner than a cell
            own = Stretches(ray=along.ray[missed], low_mm=along.low_mm[missed], high_mm=along.high_mm[missed], lost=0)
            solid.ravel()[cell_numbers(own, begin[missed], axis, solid.shape)] = True
        thin.append((along.high_mm - along.low_mm)[missed])
        number += len(missed)
        found.append(along)
    lengths = np.concatenate(thin)
    is_thin = len(lengths) > max(THIN_SHARE * number, 3 * cells**0.5)
    return Cells(
        solid=solid,
        low_mm=low,
        cell_mm=cell,
        upright=found[0],
        sideways=(found[1], found[2]),
        thin_mm=float(np.median(lengths)) if is_thin else None,
    )


def cells_of(found: Stretches, low_mm: float, cell_mm: float) -> tuple[Whole, Whole, Flags]:
    """Return the cells that stretches fill, by their middles.

    Parameters
    ----------
    found : Stretches
        Along an axis.
    low_mm, cell_mm : float
        Where the grid begins on it, and its cell.

    Returns
    -------
    (s,) int64, (s,) int64, (s,) bool
        The first cell of each, the one after its last, and whether it contains no middle of a cell: it then takes
        the cell whose middle is nearest.
    """
    start, stop = (found.low_mm - low_mm) / cell_mm, (found.high_mm - low_mm) / cell_mm
    begin, end = np.ceil(start - 0.5).astype(np.int64), np.ceil(stop - 0.5).astype(np.int64)
    missed = begin == end
    begin = np.where(missed, np.floor((start + stop) / 2).astype(np.int64), begin)
    return begin, np.where(missed, begin + 1, end), missed


def cell_numbers(found: Stretches, along: Whole, axis: int, shape: tuple[int, ...]) -> Whole:
    """Return the indices that cells on rays have in a grid.

    Parameters
    ----------
    found : Stretches
        Whose rays they lie on.
    along : (s,) int
        Cell along each ray.
    axis : int
        Of the rays: 0 for x, 1 for y, 2 for z.
    shape : (nz, nx, ny)
        Of the grid.

    Returns
    -------
    (s,) int64
        In the flattened grid.
    """
    nz, nx, ny = shape
    first, second = np.divmod(found.ray.astype(np.int64), (nz, nz, ny)[axis])
    z, x, y = ((second, along, first), (second, first, along), (along, first, second))[axis]
    return np.asarray((z * nx + x) * ny + y)


def refined_cells(mesh: Mesh, cells: int, most: int = MOST_CELLS) -> tuple[Cells, int]:
    """Turn a closed mesh into cells small enough for its thinnest walls.

    Parameters
    ----------
    mesh : Mesh
        Closed, z upright.
    cells : int
        Along its longest side, to begin with.
    most : int, optional
        The finest resolution.

    Returns
    -------
    Voxels, int
        Also the number of cells along the longest side that was used; ``thin_mm`` still reports walls that even the
        finest cells don't resolve.

    Raises
    ------
    Refused
        When it is so thin that no ray meets it.
    """
    made = cells_of_mesh(mesh, cells)
    while made.thin_mm is not None and cells < most:
        cells = min(most, max(cells * 3 // 2, int(1.3 * float(mesh.extents_mm.max()) / made.thin_mm)))
        made = cells_of_mesh(mesh, cells)
    if not made.solid.any():
        raise Refused(
            "file",
            Text(
                "It is so thin for its length that nothing of it is seen with {cells} cells along it. "
                "Simulate a thicker part of it alone.",
                cells=cells,
            ),
        )
    return made, cells
