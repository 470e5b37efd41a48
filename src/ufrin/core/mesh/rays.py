"""Rays along an axis through a plan grid, and where they enter and leave a mesh.

Volumes, votes and cells are built on them.
"""

from dataclasses import dataclass

import numpy as np

from ufrin.core.mesh.compiled_loops import crossings
from ufrin.core.mesh.triangles import Flags, Floats, Mesh, Whole
from ufrin.errors import Refused
from ufrin.language import Text

MOST_TRIES = 40_000_000  # pairs of ray and triangle that are tested; beyond that the grid is made coarser


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Columns:
    """Crossings of rays with a mesh, sorted by ray and then by height.

    Parameters
    ----------
    axis : int
        The rays run along it, 0 to 2.
    cell_mm : float
        Distance of the rays.
    low_mm : (3,) float
        Corner of the grid; rays run through the middles of its cells.
    shape : (int, int, int)
        Cells along x, y, z.
    ray : (k,) int
        Number of the ray, the second of the two plan axes running fastest.
    height_mm : (k,) float
        Along the axis.
    step : (k,) int
        1 where the ray enters, -1 where it leaves.
    """

    axis: int
    cell_mm: float
    low_mm: Floats
    shape: tuple[int, int, int]
    ray: Whole
    height_mm: Floats
    step: Whole

    @property
    def rays(self) -> int:
        """How many rays there are."""
        first, second = _plan_axes(self.axis)
        return self.shape[first] * self.shape[second]

    def balanced(self) -> Flags:
        """Return for each ray whether it leaves as often as it enters; one through a hole in the mesh does not.

        Returns
        -------
        (rays,) bool
            For each ray.
        """
        return np.asarray(np.bincount(self.ray, weights=self.step, minlength=self.rays) == 0)

    def winding(self) -> Whole:
        """Return how many bodies each ray is inside of after each crossing; the rays must balance.

        Returns
        -------
        (k,) int
            After each crossing.
        """
        return np.cumsum(self.step, dtype=np.int32)

    def kept(self, rays: Flags) -> "Columns":
        """Leave out some rays.

        Returns
        -------
        Columns
            With the chosen rays.
        """
        chosen = rays[self.ray]
        return Columns(
            axis=self.axis,
            cell_mm=self.cell_mm,
            low_mm=self.low_mm,
            shape=self.shape,
            ray=self.ray[chosen],
            height_mm=self.height_mm[chosen],
            step=self.step[chosen],
        )

    def volume_mm3(self) -> float:
        """Return the volume where the winding number is above 0, from rays that balance.

        Returns
        -------
        float
            In mm3.
        """
        inside = self.winding() > 0
        lengths = np.diff(self.height_mm, append=0.0)
        return float(lengths[inside].sum()) * self.cell_mm**2

    def filled(self, *, odd: bool = False) -> Flags:
        """Fill the cells whose middles are inside.

        Parameters
        ----------
        odd : bool, optional
            Whether inside means after an odd number of crossings, however the faces are wound; otherwise it is where
            the winding number is above 0.

        Returns
        -------
        (nx, ny, nz) bool
            Cells.
        """
        first, second = _plan_axes(self.axis)
        high = self.shape[self.axis]
        if odd:
            starts = np.r_[True, self.ray[1:] != self.ray[:-1]]
            rank = np.arange(len(self.ray)) - np.maximum.accumulate(np.where(starts, np.arange(len(self.ray)), 0))
            turns = np.where(rank % 2 == 0, 1, -1)
        else:
            inside = (self.winding() > 0).astype(np.int8)
            turns = np.diff(inside, prepend=0)
        # the first cell whose middle lies above the crossing
        cell = np.clip(np.ceil((self.height_mm - self.low_mm[self.axis]) / self.cell_mm - 0.5), 0, high).astype(
            np.int64
        )
        change = np.bincount(
            self.ray.astype(np.int64) * (high + 1) + cell, weights=turns, minlength=self.rays * (high + 1)
        )
        full = np.cumsum(change.reshape(self.rays, high + 1)[:, :high], axis=1) > 0.5
        return np.moveaxis(full.reshape(self.shape[first], self.shape[second], high), 2, self.axis)


def _plan_axes(axis: int) -> tuple[int, int]:
    return (1, 2) if axis == 0 else (0, 2) if axis == 1 else (0, 1)


def grid(mesh: Mesh, cells: int) -> tuple[Floats, float, tuple[int, int, int]]:
    """Lay a grid over a mesh, off round coordinates so that no ray runs along a face or an edge by design.

    Parameters
    ----------
    mesh : Mesh
        What it covers.
    cells : int
        Along the longest side.

    Returns
    -------
    (3,) float, float, (int, int, int)
        Its low corner, the cell and the number of cells along x, y, z.
    """
    low, high = mesh.bounds_mm
    cell = float((high - low).max()) / cells
    shape = np.ceil((high - low) / cell - 1e-9).astype(int) + 2
    slack = shape * cell - (high - low)
    start = low - slack * np.array([0.4871, 0.5137, 0.4943])
    return start, cell, (int(shape[0]), int(shape[1]), int(shape[2]))


def columns(mesh: Mesh, *, axis: int, low_mm: Floats, cell_mm: float, shape: tuple[int, int, int]) -> Columns:
    """Cast rays along an axis through a grid.

    Parameters
    ----------
    mesh : Mesh
        With shared corners.
    axis : int
        0 to 2.
    low_mm, cell_mm, shape : (3,) float, float, (int, int, int)
        As ``grid`` gives them.

    Returns
    -------
    Columns
        A ray that meets an edge or a corner crosses exactly one of the faces there: both faces evaluate the edge
        from the same corner.

    Raises
    ------
    Refused
        When so many triangles lie over each other that there is no answer in reasonable time.
    """
    first, second = _plan_axes(axis)
    # in a right-handed system of (first, second, axis), a face seen counter-clockwise from above is one that a
    # rising ray leaves
    hand = -1 if axis == 1 else 1
    local = (mesh.vertices_mm - low_mm) / cell_mm - 0.5
    corners = np.ascontiguousarray(local[:, [first, second, axis]])
    faces = np.ascontiguousarray(mesh.faces, dtype=np.int32)
    ray, height, step, whole = crossings(corners, faces, shape[first], shape[second], MOST_TRIES)
    if not whole:
        raise Refused(
            "file",
            Text(
                "Its triangles lie over each other in so many layers that it can't be one solid. "
                "Export it again as a closed model."
            ),
        )
    return Columns(
        axis=axis,
        cell_mm=cell_mm,
        low_mm=low_mm,
        shape=shape,
        ray=ray,
        height_mm=low_mm[axis] + (height + 0.5) * cell_mm,
        step=hand * step,
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Stretches:
    """The stretches that rays spend inside a solid, by ray and then by height.

    Parameters
    ----------
    ray : (s,) int32
        Number of the ray.
    low_mm, high_mm : (s,) float64
        Where it enters and leaves.
    lost : int
        Rays that were left out, since they do not leave as often as they enter.
    """

    ray: Whole
    low_mm: Floats
    high_mm: Floats
    lost: int

    @property
    def is_first(self) -> Flags:
        """Whether each is the lowest of its ray, (s,) bool."""
        return np.asarray(np.r_[np.ones(min(1, len(self.ray)), dtype=bool), self.ray[1:] != self.ray[:-1]])

    @property
    def is_last(self) -> Flags:
        """Whether each is the highest of its ray, (s,) bool."""
        return np.asarray(np.r_[self.ray[1:] != self.ray[:-1], np.ones(min(1, len(self.ray)), dtype=bool)])


def stretches(cast: Columns) -> Stretches:
    """Return the stretches that rays spend inside a solid.

    The inside is where the winding number is above 0, so that overlapping bodies unite.

    Parameters
    ----------
    cast : Columns
        Of a closed mesh.

    Returns
    -------
    Stretches
        Without those of length 0, where faces touch.
    """
    fair = cast.balanced()
    lost = int((~fair).sum())
    if lost:
        cast = cast.kept(fair)
    inside = cast.winding() > 0
    before = np.r_[False, inside[:-1]]  # a ray that balances ends outside
    begin, end = np.flatnonzero(inside & ~before), np.flatnonzero(~inside & before)
    if not len(begin):
        return Stretches(ray=np.zeros(0, dtype=np.int32), low_mm=np.zeros(0), high_mm=np.zeros(0), lost=lost)
    low, high = cast.height_mm[begin], cast.height_mm[end]
    # where two solids touch, a ray leaves one and enters the other at one height
    apart = np.r_[True, (cast.ray[begin][1:] != cast.ray[begin][:-1]) | (low[1:] - high[:-1] > cast.cell_mm * 1e-6)]
    last = np.r_[apart[1:], True]
    ray, low, high = cast.ray[begin][apart], low[apart], high[last]
    long_enough = high - low > cast.cell_mm * 1e-6
    return Stretches(ray=ray[long_enough], low_mm=low[long_enough], high_mm=high[long_enough], lost=lost)
