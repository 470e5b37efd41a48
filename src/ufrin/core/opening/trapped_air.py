"""Trapped air: what rising liquid leaves behind.

It is found round a master while rubber is poured, and in the mould while it is cast.

Liquid rises without pressure from below. A point is trapped when every path from it to an outlet, inside the room,
dips below its own height. The volume of a pocket is that of its cells, corrected by the exact heights at which rays
meet the solid.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from scipy import ndimage

from ufrin.core.mesh.cells import Cells, cell_numbers, cells_of
from ufrin.core.mesh.compiled_loops import trapped_cells
from ufrin.core.mesh.triangles import Flags, Floats, Whole
from ufrin.errors import Refused
from ufrin.language import Text

LEAST_ML, LEAST_CELLS = 0.02, 2  # pockets smaller than that do not matter
HOLE_CELLS = 1.75  # a gate or vent opens the cells whose middles lie within that of it
NEAR_CELLS = 2.5  # a point further than that from the cavity can't be a gate
Point3 = tuple[float, float, float]
UP_DOWN = ndimage.generate_binary_structure(3, 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Pocket:
    """A pocket of air: its volume, its highest point, its depth, and its error."""

    ml: float
    plus_minus_ml: float
    peak_mm: Point3
    depth_mm: float
    label: int = 0

    @property
    def matters(self) -> bool:
        """Whether it is more than negligible."""
        return self.ml >= LEAST_ML


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Air:
    """The air that rising liquid leaves behind.

    Parameters
    ----------
    pockets : tuple of Pocket
        The largest first; those of a cell or two are left out.
    room : Cells
        The cells of the solid in which they are counted; points are in its coordinates.
    closed_ml : float
        The part of it that is closed off all round.
    labels : (kz, kx, ky) int32 or None
        Of trapped cells, in the box round all of them.
    begin : (int, int, int)
        Where that box begins, as (z, x, y).
    boxes : mapping of label to slices
        Where each pocket's cells lie in it.
    """

    pockets: tuple[Pocket, ...]
    room: Cells
    closed_ml: float = 0.0
    labels: Whole | None = None
    begin: tuple[int, int, int] = (0, 0, 0)
    boxes: Mapping[int, tuple[slice, slice, slice]] = field(default_factory=dict)

    def cells(self, pocket: Pocket) -> tuple[Flags, Whole]:
        """Return a pocket's cells.

        Parameters
        ----------
        pocket : Pocket
            One of them.

        Returns
        -------
        (kz, kx, ky) bool, (3,) int64
            In the box round them, and where that box begins, as (z, x, y).
        """
        box = self.boxes[pocket.label]
        own = self.labels[box] == pocket.label if self.labels is not None else np.zeros((0, 0, 0), dtype=bool)
        return own, np.array([one.start + begin for one, begin in zip(box, self.begin, strict=True)])

    @property
    def trapped_ml(self) -> float:
        """All of it."""
        return sum(pocket.ml for pocket in self.pockets)


def air_round_master(
    solid: Cells,
    *,
    board_mm: float,
    board_normal: Floats | None = None,
    is_open_beside: bool = True,
    is_open_over: bool = True,
    floor_mm: Floats | None = None,
) -> Air:
    """Find the air that rubber leaves round a master.

    Parameters
    ----------
    solid : Cells
        The master, as it stands in its box.
    board_mm : float
        Height of the board, at its foot or below.
    board_normal : (3,) float, optional
        Upwards from the board, where the box is tilted: the board then lies that far from the origin.
    is_open_beside, is_open_over : bool, optional
        Whether there is any rubber beside and over it.
    floor_mm : (nx, ny) float, optional
        Heights that the liquid stands on, over the middles of the grid's cells: a clay bed, or the first half.

    Returns
    -------
    Air
        The room is the box without the master, its outlet the open top.
    """
    nz, nx, ny = solid.solid.shape
    begin = int(np.clip(np.ceil((board_mm - solid.low_mm[2]) / solid.cell_mm - 0.5), 0, nz - 1))
    fluid = ~solid.solid
    if board_normal is not None:
        begin = 0
        axes = [
            solid.low_mm[axis] + (np.arange(size) + 0.5) * solid.cell_mm for axis, size in ((2, nz), (0, nx), (1, ny))
        ]
        z, x, y = np.meshgrid(*axes, indexing="ij", sparse=True)
        fluid &= board_normal[0] * x + board_normal[1] * y + board_normal[2] * z >= board_mm
    fluid[:begin] = False
    if floor_mm is not None:
        middles = solid.low_mm[2] + (np.arange(nz) + 0.5) * solid.cell_mm
        fluid &= middles[:, None, None] >= floor_mm
    if not is_open_beside:  # the walls touch it: everything beyond its outside is wall
        xs, ys = np.flatnonzero(solid.solid.any(axis=(0, 2))), np.flatnonzero(solid.solid.any(axis=(0, 1)))
        wall = np.ones((nx, ny), dtype=bool)
        wall[xs[0] : xs[-1] + 1, ys[0] : ys[-1] + 1] = False
        fluid[:, wall] = False
    outlets = np.zeros_like(fluid)
    top = nz - 1 if is_open_over else int(np.flatnonzero(solid.solid.any(axis=(1, 2)))[-1])
    fluid[top + 1 :] = False
    outlets[top] = fluid[top]
    trapped = trapped_cells(fluid, outlets)
    # the lowest layer of cells begins a little over or under the board
    rays = np.flatnonzero(trapped[begin].ravel())
    off = solid.low_mm[2] + begin * solid.cell_mm - max(board_mm, float(solid.low_mm[2]))
    floor = _Off(cell=begin * nx * ny + rays, mm=np.full(len(rays), off))
    return _air(solid, fluid, trapped, [floor, *_off(trapped, solid, outside=True)])


@dataclass(frozen=True, kw_only=True, eq=False)
class Cavity:
    """The room that a cast fills: the master's own cells, upright as the mould is held.

    ``turn`` brought it there from the coordinates in which points are given.
    """

    solid: Cells
    turn: Floats = field(default_factory=lambda: np.eye(3))

    @cached_property
    def top_mm(self) -> float:
        """Its highest point."""
        return float(self.solid.upright.high_mm.max())

    def highest(self) -> Floats:
        """Return its highest points: one, or several where tops are equal.

        Returns
        -------
        (n, 3) float64
            As (x, y, z).
        """
        found = self.solid.upright
        # the heights of tops are only as exact as the rays that find them: the rise of a slope within one
        # cell is no difference
        tops = np.flatnonzero(found.high_mm > self.top_mm - self.solid.cell_mm * 0.5)
        x, y = np.divmod(found.ray[tops], self.solid.plan[1])
        flat = np.zeros(self.solid.plan, dtype=bool)
        flat[x, y] = True
        labels, count = ndimage.label(flat, np.ones((3, 3)))
        label = labels[x, y]
        points = []
        for one in range(1, count + 1):
            own = tops[label == one]
            level = own[found.high_mm[own] > found.high_mm[own].max() - 1e-6 * self.solid.cell_mm]
            plan = np.column_stack(np.divmod(found.ray[level], self.solid.plan[1]))
            nearest = int(np.argmin(np.linalg.norm(plan - plan.mean(axis=0), axis=1)))
            points.append(
                [*(self.solid.low_mm[:2] + (plan[nearest] + 0.5) * self.solid.cell_mm), found.high_mm[level[nearest]]]
            )
        return np.array(points)

    def outlets(self, points_mm: Sequence[Point3] | Floats) -> Flags:
        """Open cells at gates and vents.

        Parameters
        ----------
        points_mm : (n, 3) float
            Where they enter the cavity.

        Returns
        -------
        (nz, nx, ny) bool
            Cells within a hole's reach of each.

        Raises
        ------
        Refused
            For a point away from the cavity; the refusal offers the nearest one that would do.
        """
        made = np.zeros_like(self.solid.solid)
        for point in np.asarray(points_mm, dtype=float).reshape(-1, 3):
            self._open(made, point)
        return made

    def _open(self, made: Flags, point: Floats) -> None:
        room, reach = self.solid, int(np.ceil(NEAR_CELLS))
        centre = room.index_of(point)
        low, high = np.maximum(centre - reach, 0), np.minimum(centre + reach + 1, room.solid.shape)
        if (low < high).all():
            block = tuple(slice(a, b) for a, b in zip(low, high, strict=True))
            at = np.argwhere(room.solid[block]) + low
            away = np.linalg.norm(room.middle_mm(at) - point, axis=1) / room.cell_mm if len(at) else np.zeros(0)
            if len(at) and away.min() <= NEAR_CELLS:
                chosen = at[away <= max(HOLE_CELLS, away.min() + 1e-9)]
                made[tuple(chosen.T)] = True
                return
        wanted, nearest = _coordinates(point @ self.turn), _coordinates(self.nearest(point) @ self.turn)
        raise Refused(
            "gates",
            Text(
                "{wanted} is not on the cavity. The nearest point on it is {nearest}: take that, or "
                "another on its surface.",
                wanted=wanted,
                nearest=nearest,
            ),
        )

    def nearest(self, point_mm: Floats) -> Floats:
        """Return the point of the cavity nearest to another.

        Parameters
        ----------
        point_mm : (3,) float
            Anywhere.

        Returns
        -------
        (3,) float64
            The middle of its cell.
        """
        at = np.argwhere(self.solid.solid)
        middles = self.solid.middle_mm(at)
        return np.asarray(middles[np.argmin(np.linalg.norm(middles - point_mm, axis=1))])

    def surface_near(self, point_mm: Floats) -> Floats:
        """Return the point of the cavity's surface nearest to another.

        Parameters
        ----------
        point_mm : (3,) float
            Anywhere.

        Returns
        -------
        (3,) float64
            On a face of a cell at its edge, upwards by preference: gates and vents lead up.
        """
        solid = self.solid.solid
        inner = np.zeros_like(solid)
        inner[1:-1, 1:-1, 1:-1] = (
            solid[:-2, 1:-1, 1:-1]
            & solid[2:, 1:-1, 1:-1]
            & solid[1:-1, :-2, 1:-1]
            & solid[1:-1, 2:, 1:-1]
            & solid[1:-1, 1:-1, :-2]
            & solid[1:-1, 1:-1, 2:]
        )
        at = np.argwhere(solid & ~inner)
        middles = self.solid.middle_mm(at)
        best = int(np.argmin(np.linalg.norm(middles - point_mm, axis=1)))
        z, x, y = at[best]
        is_top = z + 1 >= solid.shape[0] or not solid[z + 1, x, y]
        return np.asarray(middles[best] + np.array([0, 0, self.solid.cell_mm / 2 if is_top else 0.0]))

    def air(self, outlets: Flags) -> Air:
        """Find the air that the cast leaves.

        Parameters
        ----------
        outlets : (nz, nx, ny) bool
            As ``outlets`` gives them.

        Returns
        -------
        Air
            The room is the cavity, its outlets gates and vents.
        """
        room = self.solid
        trapped = trapped_cells(room.solid, outlets & room.solid)
        return _air(room, room.solid, trapped, _off(trapped, room, outside=False))


def _coordinates(point: Floats) -> str:
    return ", ".join(f"{number:.1f}" for number in point)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Off:
    """The correction to the volume by cells, in mm along each axis; cells by their index in the grid."""

    cell: Whole
    mm: Floats
    is_top: bool = False


def _off(trapped: Flags, room: Cells, *, outside: bool) -> list[_Off]:
    # rays along each axis find exactly where the solid beside a trapped cell begins and ends; rays along several
    # axes see a slanted face, but there their corrections cancel out
    made = []
    flat, shape = trapped.ravel(), trapped.shape
    for axis, found in ((2, room.upright), (0, room.sideways[0]), (1, room.sideways[1])):
        begin, end, _ = cells_of(found, float(room.low_mm[axis]), room.cell_mm)
        first, last = room.low_mm[axis] + begin * room.cell_mm, room.low_mm[axis] + end * room.cell_mm
        sides = (
            ((begin - 1, found.low_mm - first), (end, last - found.high_mm))
            if outside
            else ((begin, first - found.low_mm), (end - 1, found.high_mm - last))
        )
        for number, (along, mm) in enumerate(sides):
            cell = cell_numbers(found, np.clip(along, 0, shape[(axis + 1) % 3] - 1), axis, shape)
            own = flat[cell]
            made.append(_Off(cell=cell[own], mm=mm[own], is_top=axis == 2 and number == (0 if outside else 1)))
    return made


def _air(room: Cells, fluid: Flags, trapped: Flags, off: list[_Off]) -> Air:
    used = [np.flatnonzero(trapped.any(axis=axes)) for axes in ((1, 2), (0, 2), (0, 1))]
    if not len(used[0]):
        return Air(pockets=(), room=room)
    cell, (nz, nx, ny) = room.cell_mm, trapped.shape
    box = tuple(slice(int(one[0]), int(one[-1]) + 1) for one in used)
    labels, count = ndimage.label(trapped[box], UP_DOWN)
    whole = np.zeros((nz, nx, ny), dtype=np.int32)
    whole[box] = labels
    cells = np.bincount(labels.ravel(), minlength=count + 1)
    flat = whole.ravel()
    volume = cells * cell
    for one in off:
        volume = volume + np.bincount(flat[one.cell], weights=one.mm, minlength=count + 1)
    volume = volume * cell**2 / 1000
    # the rim: cells of a pocket over free liquid, where the level may be half a cell higher or lower
    low = max(box[0].start, 1)
    rim = trapped[low : box[0].stop, box[1], box[2]] & (fluid & ~trapped)[low - 1 : box[0].stop - 1, box[1], box[2]]
    rims = np.bincount(whole[low : box[0].stop, box[1], box[2]][rim], minlength=count + 1)
    pockets, closed_ml, boxes = [], 0.0, {}
    for label, found in enumerate(ndimage.find_objects(labels), 1):
        if cells[label] <= LEAST_CELLS or volume[label] <= 0:
            continue
        if not rims[label]:  # air can leave a pocket only by its rim
            closed_ml += float(volume[label])
        boxes[label] = found
        top = found[0].stop - 1
        at = np.argwhere(labels[top, found[1], found[2]] == label)
        centre = at[np.argmin(np.linalg.norm(at - at.mean(axis=0), axis=1))]
        index = np.array(
            [top + box[0].start, centre[0] + found[1].start + box[1].start, centre[1] + found[2].start + box[2].start]
        )
        x, y, z = room.middle_mm(index)
        peak = (index[0] * nx + index[1]) * ny + index[2]
        ends = [one.mm[one.cell == peak].sum() for one in off if one.is_top]
        z_top = float(z + cell / 2 + sum(ends))
        depth = (found[0].stop - found[0].start) * cell
        error = cell**3 / 1000 * (rims[label] + cells[label] ** (2 / 3) / 2)
        pockets.append(
            Pocket(
                ml=float(volume[label]),
                plus_minus_ml=float(error),
                peak_mm=(float(x), float(y), z_top),
                depth_mm=float(depth),
                label=label,
            )
        )
    pockets.sort(key=lambda pocket: -pocket.ml)
    begin = (box[0].start, box[1].start, box[2].start)
    return Air(pockets=tuple(pockets), room=room, closed_ml=closed_ml, labels=labels, begin=begin, boxes=boxes)
