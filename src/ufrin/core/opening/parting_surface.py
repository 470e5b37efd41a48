"""Split: the parting surface of a two-part mould, its split line on the master, the clay bed, and the rubber of each half.

Seen along the pull, the surface is a height map over the box: the flattest one that stays between the master's lower
and upper envelope wherever there is master. Whatever surface lies between the envelopes captures the locked rubber and
nothing else.
"""

from dataclasses import dataclass

import numpy as np
import shapely
from scipy import ndimage
from shapely.geometry import MultiPolygon, Polygon
from shapely.strtree import STRtree

from ufrin.core.mesh.compiled_loops import relax
from ufrin.core.mesh.line_work import contours, shadow
from ufrin.core.mesh.rays import Stretches, columns, stretches
from ufrin.core.mesh.triangles import Flags, Floats, Mesh
from ufrin.core.opening.undercuts import locked_ml, overhang_ml
from ufrin.errors import Refused

SLACK_MM = 0.5  # common practice: facets of a mesh make its outline jump by about that
SETTLED = 0.002  # of a cell
STEEP_DEG = 60.0
SNAP = 1e-6  # of the size: how far a shadow's edge may lie off the edges that throw it
MOST_RAYS = 1_500_000


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Seam:
    """One split line: a closed run of points on the master, in order.

    Parameters
    ----------
    points_mm : (k, 3) float64
        On the master's outline along the pull.
    outward : (k, 2) float64
        Away from the master, square to the line and the pull, of unit length.
    span_mm : (k,) float64
        How much of the line each point stands for.
    """

    points_mm: Floats
    outward: Floats
    span_mm: Floats


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PartingSurface:
    """A mould in two halves, pulled apart along z.

    Parameters
    ----------
    height_mm : (nx, ny) float64
        The parting surface over the middles of the plan's cells.
    area_mm2 : (nx, ny) float64
        What of each cell lies inside the box.
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
        Volumes; the film is what the slack lets the surface capture.
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
        """Cells that lie in the box at all."""
        return self.area_mm2 > 0

    @property
    def flatness_mm(self) -> float:
        """From the lowest to the highest point of the surface."""
        own = self.height_mm[self.inside]
        return float(own.max() - own.min())

    @property
    def balance(self) -> float:
        """The smaller half's share of the rubber."""
        return min(self.upper_ml, self.lower_ml) / (self.upper_ml + self.lower_ml)

    def steepest(self) -> tuple[float, tuple[float, float]]:
        """Find where the surface is steepest.

        Returns
        -------
        float, (x, y)
            In degrees, and where.
        """
        known = np.where(self.inside, self.height_mm, np.nan)
        across = np.abs(np.diff(known, axis=0)) / self.cell_mm
        along = np.abs(np.diff(known, axis=1)) / self.cell_mm
        worst = np.zeros(known.shape)
        worst[:-1] = np.fmax(worst[:-1], across)
        worst[:, :-1] = np.fmax(worst[:, :-1], along)
        x, y = np.unravel_index(int(np.argmax(worst)), worst.shape)
        where = self.low_mm + (np.array([x, y]) + 0.5) * self.cell_mm
        return float(np.degrees(np.arctan(worst[x, y]))), (float(where[0]), float(where[1]))

    def at(self, points_mm: Floats) -> Floats:
        """Give the surface's height under points.

        Parameters
        ----------
        points_mm : (k, 2) float
            In plan.

        Returns
        -------
        (k,) float64
            Between the cells' middles in proportion.
        """
        return _at(self.height_mm, self.low_mm, self.cell_mm, points_mm)


def _at(height: Floats, low_mm: Floats, cell_mm: float, points_mm: Floats) -> Floats:
    where = (np.asarray(points_mm, dtype=float) - low_mm) / cell_mm - 0.5
    return np.asarray(ndimage.map_coordinates(height, where.T, order=1, mode="nearest"))


def box_round(mesh: Mesh, side_mm: float) -> Polygon:
    """Give the rectangle round a master in plan.

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
    slack_mm: float = SLACK_MM,
    volume_ml: float | None = None,
    seen: MultiPolygon | None = None,
) -> PartingSurface:
    """Part a mould in two.

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
        By how much the surface may cut the envelopes: a calmer seam on a faceted mesh against a thin captured film.
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
        raise Refused("side_mm", "The master reaches through the walls of the box. Give it a larger one first.")
    area = _areas(inside, corner, cell, shape)
    cast = stretches(columns(mesh, axis=2, low_mm=np.array([*corner, low[2]]), cell_mm=cell, shape=(*shape, 2)))
    floor, top = float(low[2]) - under_mm, float(high[2]) + over_mm
    lower, upper = _envelopes(cast, shape)
    rings = _outline(mesh, seen, cell)
    settled = _settle(lower, upper, rings, area > 0, corner, cell=cell, floor=floor, top=top, slack=slack_mm)
    master_ml = mesh.volume_mm3 / 1000 if volume_ml is None else volume_ml
    above, below = _shared(cast, settled, area)
    # the rays' volume is a little off the exact one: either side takes its share of the difference
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
        seams=tuple(_seam(ring, settled, corner, cell) for ring in rings),
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
    west, south = np.meshgrid(
        corner[0] + np.arange(shape[0]) * cell, corner[1] + np.arange(shape[1]) * cell, indexing="ij"
    )
    shapely.prepare(inside)
    squares = shapely.box(west, south, west + cell, south + cell)
    area = np.where(shapely.contains_properly(inside, squares), cell**2, 0.0)
    rim = (area == 0) & shapely.intersects(inside, squares)
    area[rim] = shapely.area(shapely.intersection(squares[rim], inside))
    return area


def _envelopes(cast: Stretches, shape: tuple[int, int]) -> tuple[Floats, Floats]:
    lower, upper = np.full(shape[0] * shape[1], np.nan), np.full(shape[0] * shape[1], np.nan)
    first = np.r_[True, cast.ray[1:] != cast.ray[:-1]] if len(cast.ray) else np.zeros(0, dtype=bool)
    last = np.r_[first[1:], True] if len(cast.ray) else first
    lower[cast.ray[first]], upper[cast.ray[last]] = cast.low_mm[first], cast.high_mm[last]
    return lower.reshape(shape), upper.reshape(shape)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Ring:
    """Points on the shadow's edge, half a cell apart at most, and the heights between which the master has its outermost surface there."""

    points: Floats
    outward: Floats
    span: Floats
    low: Floats
    high: Floats


def _outline(mesh: Mesh, seen: MultiPolygon, cell: float) -> list[_Ring]:
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
                    _Ring(
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


def _settle(
    lower: Floats,
    upper: Floats,
    rings: list[_Ring],
    inside: Flags,
    corner: Floats,
    *,
    cell: float,
    floor: float,
    top: float,
    slack: float,
) -> Floats:
    low, high = np.where(np.isnan(lower), floor, lower - slack), np.where(np.isnan(upper), top, upper + slack)
    for ring in rings:
        x, y = np.floor((ring.points - corner) / cell).astype(np.int64).T
        pin_low, pin_high = np.full(low.shape, -np.inf), np.full(low.shape, np.inf)
        np.maximum.at(pin_low, (x, y), ring.low - slack)
        np.minimum.at(pin_high, (x, y), ring.high + slack)
        crossed = pin_low > pin_high  # the line climbs within the cell
        middle = np.where(crossed, (np.where(crossed, pin_low, 0) + np.where(crossed, pin_high, 0)) / 2, 0)
        pin_low, pin_high = np.where(crossed, middle, pin_low), np.where(crossed, middle, pin_high)
        touched = np.isfinite(pin_low)
        # the exact outline counts for more than the ray beside it
        low = np.where(touched, np.maximum(np.minimum(pin_low, high), low), low)
        high = np.where(touched, np.minimum(np.maximum(pin_high, low), high), high)
    return _flattest(np.clip(low, floor, top), np.clip(np.maximum(high, low), floor, top), inside, cell * SETTLED)


def _flattest(low: Floats, high: Floats, inside: Flags, enough: float) -> Floats:
    # coarse to fine: each level begins with what the coarser one settled to
    if min(low.shape) <= 8:
        guess = np.full(
            low.shape,
            float(
                np.clip(
                    (np.median(low[inside]) + np.median(high[inside])) / 2,
                    low[inside].max(),
                    max(low[inside].max(), high[inside].min()),
                )
            ),
        )
    else:
        coarse_low, coarse_high, coarse_in = (
            _halved(low, inside, np.maximum),
            _halved(high, inside, np.minimum),
            _halved(inside, inside, np.logical_or),
        )
        coarse_high = np.maximum(coarse_high, coarse_low)
        coarse = _flattest(coarse_low, coarse_high, coarse_in.astype(bool), enough)
        where = np.stack(np.meshgrid(*((np.arange(size) - 0.5) / 2 for size in low.shape), indexing="ij"))
        guess = ndimage.map_coordinates(coarse, where, order=1, mode="nearest")
    settled = np.ascontiguousarray(np.clip(guess, low, high))
    longest = max(low.shape)
    over = 2 / (1 + np.sin(np.pi / longest))
    relax(
        settled,
        np.ascontiguousarray(low),
        np.ascontiguousarray(high),
        np.ascontiguousarray(inside),
        min(600, 4 * longest),
        float(over),
        enough,
    )
    return settled


def _halved(values: Floats | Flags, inside: Flags, join: np.ufunc) -> Floats:
    empty = -np.inf if join is np.maximum else np.inf if join is np.minimum else False
    known = np.where(inside, values, empty) if join is not np.logical_or else values
    nx, ny = (-(-size // 2) for size in values.shape)
    padded = np.full((2 * nx, 2 * ny), empty, dtype=known.dtype)
    padded[: values.shape[0], : values.shape[1]] = known
    blocks = padded.reshape(nx, 2, ny, 2)
    made = join.reduce(join.reduce(blocks, axis=3), axis=1)
    return made if join is np.logical_or else np.where(np.isfinite(made), made, 0.0)


def _shared(cast: Stretches, settled: Floats, area: Floats) -> tuple[float, float]:
    height, weight = settled.ravel()[cast.ray], area.ravel()[cast.ray]
    above = np.maximum(0.0, cast.high_mm - np.maximum(cast.low_mm, height))
    below = np.maximum(0.0, np.minimum(cast.high_mm, height) - cast.low_mm)
    return float((above * weight).sum()), float((below * weight).sum())


def _seam(ring: _Ring, settled: Floats, corner: Floats, cell: float) -> Seam:
    z = np.clip(_at(settled, corner, cell, ring.points), ring.low, ring.high)
    points = np.column_stack([ring.points, z])
    return Seam(points_mm=points, outward=ring.outward, span_mm=ring.span)


def seam_mm(seams: tuple[Seam, ...], shown: Floats | None = None) -> float:
    """Give the length of the split lines, or of what of them crosses the show face.

    Parameters
    ----------
    seams : tuple of Seam
        Of a split.
    shown : (3,) float, optional
        The direction that the show face looks to, of unit length; all that looks within 60 degrees of it belongs to it.

    Returns
    -------
    float
        In mm.
    """
    total = 0.0
    for seam in seams:
        steps = np.linalg.norm(np.roll(seam.points_mm, -1, axis=0) - seam.points_mm, axis=1)
        if shown is not None:
            steps = steps[seam.outward @ shown[:2] > 0.5]
        total += float(steps.sum())
    return total
