"""The parting surface of a two-part mould, its clay bed, and the rubber of each half.

Seen along the pull, the surface is a height map over the box: the flattest one that stays between the master's lower
and upper envelope wherever there is master. Whatever surface lies between the envelopes captures the locked rubber and
nothing else.
"""

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from ufrin.core.inputs.usual import USUAL
from ufrin.core.mesh.line_work import shadow
from ufrin.core.mesh.rays import Stretches, columns, stretches
from ufrin.core.mesh.triangles import Flags, Floats, Mesh
from ufrin.core.opening.flattest_surface import settled_surface
from ufrin.core.opening.split_line import Seam, height_at, outline_rings, seam_on
from ufrin.core.opening.undercuts import locked_ml, overhang_ml
from ufrin.errors import Refused
from ufrin.language import Text

STEEP_DEG = 60.0
MOST_RAYS = 1_500_000


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PartingSurface:
    """A mould in two halves, pulled apart along z.

    Parameters
    ----------
    height_mm : (nx, ny) float64
        The parting surface over the middles of the plan's cells.
    area_mm2 : (nx, ny) float64
        The area of each cell inside the box.
    low_mm : (2,) float64
        Corner of the plan.
    cell_mm : float
        Edge of a cell.
    floor_mm, top_mm : float
        Of the box.
    lower_mm, upper_mm : (nx, ny) float64
        The master's envelopes; nan where there is no master.
    seams : tuple of Seam
        The split lines.
    master_ml, box_ml, locked_ml, overhang_ml, film_ml : float
        Volumes; the film is what the surface captures through the slack.
    upper_ml, lower_ml : float
        Rubber of each half. The clay bed is as large as the half that is poured second.
    seen : MultiPolygon
        The masters' shadow.
    lost : int
        Rays that were left out.
    """

    height_mm: Floats
    area_mm2: Floats
    low_mm: Floats
    cell_mm: float
    floor_mm: float
    top_mm: float
    lower_mm: Floats
    upper_mm: Floats
    seams: tuple[Seam, ...]
    master_ml: float
    box_ml: float
    locked_ml: float
    overhang_ml: float
    film_ml: float
    upper_ml: float
    lower_ml: float
    seen: MultiPolygon
    lost: int = 0

    @property
    def inside(self) -> Flags:
        """Cells that lie at least partly in the box."""
        return self.area_mm2 > 0

    @property
    def flatness_mm(self) -> float:
        """From the lowest to the highest point of the surface."""
        own = self.height_mm[self.inside]
        return float(own.max() - own.min())

    @property
    def upper_box_ml(self) -> float:
        """The room over the surface, masters included."""
        return float(((self.top_mm - self.height_mm) * self.area_mm2).sum()) / 1000

    @property
    def balance(self) -> float:
        """The smaller half as a fraction of the rubber."""
        return min(self.upper_ml, self.lower_ml) / (self.upper_ml + self.lower_ml)

    def steepest(self) -> tuple[float, tuple[float, float]]:
        """Find where the surface is steepest.

        Returns
        -------
        float, (x, y)
            In degrees, and where.
        """
        known = np.where(self.inside, self.height_mm, np.nan)
        across = np.zeros(known.shape)
        along = np.zeros(known.shape)
        across[:-1] = np.nan_to_num(np.diff(known, axis=0)) / self.cell_mm
        along[:, :-1] = np.nan_to_num(np.diff(known, axis=1)) / self.cell_mm
        worst = np.hypot(across, along)  # the slope of the surface itself, not of its run along either axis
        x, y = np.unravel_index(int(np.argmax(worst)), worst.shape)
        where = self.low_mm + (np.array([x, y]) + 0.5) * self.cell_mm
        return float(np.degrees(np.arctan(worst[x, y]))), (float(where[0]), float(where[1]))

    def at(self, points_mm: Floats) -> Floats:
        """Return the surface's height under points.

        Parameters
        ----------
        points_mm : (k, 2) float
            In plan.

        Returns
        -------
        (k,) float64
            Interpolated between the middles of the cells.
        """
        return height_at(self.height_mm, self.low_mm, self.cell_mm, points_mm)


def box_round(mesh: Mesh, side_mm: float) -> Polygon:
    """Return the rectangle round a master in plan.

    Parameters
    ----------
    mesh : Mesh
        As it lies.
    side_mm : float
        Rubber beside it.

    Returns
    -------
    Polygon
        In mm.
    """
    low, high = mesh.bounds_mm
    return shapely.box(low[0] - side_mm, low[1] - side_mm, high[0] + side_mm, high[1] + side_mm)


def parting_surface(
    mesh: Mesh,
    inside: Polygon,
    *,
    under_mm: float,
    over_mm: float,
    cells: int = 128,
    slack_mm: float = USUAL["opening"]["slack_mm"],
    volume_ml: float | None = None,
    seen: MultiPolygon | None = None,
) -> PartingSurface:
    """Find the parting surface of a mould in two halves.

    Parameters
    ----------
    mesh : Mesh
        Closed, the pull along z.
    inside : Polygon
        The box in plan.
    under_mm, over_mm : float
        Rubber under and over the master.
    cells : int, optional
        Along the master's longest side.
    slack_mm : float, optional
        By how much the surface may cut the envelopes: a calmer seam on a faceted mesh, at the cost of a thin
        captured film.
    volume_ml : float, optional
        The master's, when it is known.
    seen : MultiPolygon, optional
        Its shadow, when it is known.

    Returns
    -------
    PartingSurface
        The surface is the flattest (least integral of its squared slope), free at the walls.

    Raises
    ------
    Refused
        When the master does not fit the box.
    """
    low, high = mesh.bounds_mm
    cell = float((high - low).max()) / cells
    west, south, east, north = inside.bounds
    while (east - west) / cell * ((north - south) / cell) > MOST_RAYS:
        cell *= 1.25
    shape = (int(np.ceil((east - west) / cell)) + 1, int(np.ceil((north - south) / cell)) + 1)
    corner = np.array(
        [west - (shape[0] * cell - (east - west)) * 0.4871, south - (shape[1] * cell - (north - south)) * 0.5137]
    )
    seen = shadow(mesh) if seen is None else seen
    if not inside.buffer(cell * 1e-3).covers(seen):
        raise Refused("side_mm", Text("The master reaches through the walls of the box. Give it a larger one first."))
    area = _areas(inside, corner, cell, shape)
    cast = stretches(columns(mesh, axis=2, low_mm=np.array([*corner, low[2]]), cell_mm=cell, shape=(*shape, 2)))
    floor, top = float(low[2]) - under_mm, float(high[2]) + over_mm
    lower, upper = _envelopes(cast, shape)
    rings = outline_rings(mesh, seen, cell)
    settled = settled_surface(lower, upper, rings, area > 0, corner, cell=cell, floor=floor, top=top, slack=slack_mm)
    master_ml = mesh.volume_mm3 / 1000 if volume_ml is None else volume_ml
    above, below = _shared(cast, settled, area)
    # the volume by rays is slightly off the exact one: either side takes its share of the difference
    factor = master_ml * 1000 / (above + below) if above + below > 0 else 1.0
    box_ml = inside.area * (top - floor) / 1000
    upper_ml = float(((top - settled) * area).sum()) / 1000 - above * factor / 1000
    film = np.where(np.isnan(lower), 0.0, np.maximum(lower - settled, 0.0) + np.maximum(settled - upper, 0.0))
    return PartingSurface(
        height_mm=settled,
        area_mm2=area,
        low_mm=corner,
        cell_mm=cell,
        floor_mm=floor,
        top_mm=top,
        lower_mm=lower,
        upper_mm=upper,
        seams=tuple(seam_on(ring, settled, corner, cell) for ring in rings),
        master_ml=master_ml,
        box_ml=box_ml,
        locked_ml=locked_ml(cast, cell),
        overhang_ml=overhang_ml(cast, float(low[2]), cell),
        film_ml=float((film * area).sum()) / 1000,
        upper_ml=upper_ml,
        lower_ml=box_ml - master_ml - upper_ml,
        seen=seen,
        lost=cast.lost,
    )


def _areas(inside: Polygon, corner: Floats, cell: float, shape: tuple[int, int]) -> Floats:
    wests, souths = (corner[axis] + np.arange(shape[axis]) * cell for axis in (0, 1))
    low_x, low_y, high_x, high_y = inside.bounds
    if inside.equals(shapely.box(low_x, low_y, high_x, high_y)):
        across, along = (
            np.clip(np.minimum(first + cell, high) - np.maximum(first, low), 0.0, None)
            for first, low, high in ((wests, low_x, high_x), (souths, low_y, high_y))
        )
        return np.outer(across, along)
    west, south = np.meshgrid(wests, souths, indexing="ij")
    shapely.prepare(inside)
    squares = shapely.box(west, south, west + cell, south + cell)
    area = np.where(shapely.contains_properly(inside, squares), cell**2, 0.0)
    rim = (area == 0) & shapely.intersects(inside, squares)
    area[rim] = shapely.area(shapely.intersection(squares[rim], inside))
    return area


def _envelopes(cast: Stretches, shape: tuple[int, int]) -> tuple[Floats, Floats]:
    lower, upper = np.full(shape[0] * shape[1], np.nan), np.full(shape[0] * shape[1], np.nan)
    first, last = cast.is_first, cast.is_last
    lower[cast.ray[first]], upper[cast.ray[last]] = cast.low_mm[first], cast.high_mm[last]
    return lower.reshape(shape), upper.reshape(shape)


def _shared(cast: Stretches, settled: Floats, area: Floats) -> tuple[float, float]:
    height, weight = settled.ravel()[cast.ray], area.ravel()[cast.ray]
    above = np.maximum(0.0, cast.high_mm - np.maximum(cast.low_mm, height))
    below = np.maximum(0.0, np.minimum(cast.high_mm, height) - cast.low_mm)
    return float((above * weight).sum()), float((below * weight).sum())
