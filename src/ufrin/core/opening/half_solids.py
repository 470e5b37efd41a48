"""Halves: the parting surface as a plate, and both halves of a mould as solids with keys, gate and vents."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from manifold3d import CrossSection, FillRule, Manifold
from shapely.geometry import Polygon

from ufrin.core.mesh.manifolds import from_manifold, manifold
from ufrin.core.mesh.triangles import Floats, Mesh, edges
from ufrin.core.opening.keys import Key
from ufrin.core.opening.parting_surface import PartingSurface
from ufrin.core.opening.trapped_air import Point3
from ufrin.errors import Refused
from ufrin.language import Text

PLATE_MM = 1.6  # common practice for filament prints
PLAY_MM = 0.25  # common practice for filament prints: the play that a key needs all round
GATE_MM, VENT_MM = 8.0, 2.5
MOST_NODES = 150
BEYOND_MM = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Bore:
    """A gate or a vent as a hole: where it begins, which way it leads, and its diameter."""

    at_mm: Point3
    way: Point3
    diameter_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Halves:
    """Both halves, closed."""

    upper: Mesh
    lower: Mesh

    @property
    def side_by_side(self) -> Mesh:
        """Side by side as they are printed: the lower one as it lies, the upper one turned over."""
        over = self.upper.moved(np.diag([1.0, -1.0, -1.0]))
        gap = float(self.lower.bounds_mm[1][0] - over.bounds_mm[0][0]) + 10.0
        down = float(self.lower.bounds_mm[0][2] - over.bounds_mm[0][2])
        moved = over.vertices_mm + np.array([gap, 0.0, down])
        return Mesh(
            vertices_mm=np.concatenate([self.lower.vertices_mm, moved]),
            faces=np.concatenate([self.lower.faces, over.faces + len(self.lower.vertices_mm)]).astype(np.int32),
        )


def _field(parted: PartingSurface, inside: Polygon, low_mm: float | None, thickness_mm: float = 0.0) -> Manifold:
    # the solid below the surface, down to a level or by a thickness, and slightly beyond the box
    step = max(1, -(-max(parted.height_mm.shape) // MOST_NODES))
    heights = parted.height_mm[::step, ::step]
    nx, ny = heights.shape
    xs, ys = (
        parted.low_mm[axis] + (np.arange(size) * step + 0.5) * parted.cell_mm for axis, size in ((0, nx), (1, ny))
    )
    west, south, east, north = inside.bounds
    xs[0], ys[0], xs[-1], ys[-1] = (
        min(xs[0], west - BEYOND_MM),
        min(ys[0], south - BEYOND_MM),
        max(xs[-1], east + BEYOND_MM),
        max(ys[-1], north + BEYOND_MM),
    )
    grid_x, grid_y = np.meshgrid(xs, ys, indexing="ij")
    top = np.column_stack([grid_x.ravel(), grid_y.ravel(), heights.ravel()])
    foot = top.copy()
    foot[:, 2] = low_mm if low_mm is not None else top[:, 2] - thickness_mm
    i, j = np.meshgrid(np.arange(nx - 1), np.arange(ny - 1), indexing="ij")
    a, b, c, d = (((i + di) * ny + j + dj).ravel() for di, dj in ((0, 0), (1, 0), (1, 1), (0, 1)))
    upper = np.concatenate([np.column_stack([a, b, c]), np.column_stack([a, c, d])])
    number = len(top)
    rim = np.concatenate(
        [
            np.arange(nx) * ny,
            (nx - 1) * ny + np.arange(1, ny),
            np.arange(nx - 2, -1, -1) * ny + ny - 1,
            np.arange(ny - 2, 0, -1),
        ]
    )
    after = np.roll(rim, -1)
    sides = np.concatenate(
        [np.column_stack([rim, rim + number, after]), np.column_stack([after, rim + number, after + number])]
    )
    mesh = Mesh(
        vertices_mm=np.concatenate([top, foot]),
        faces=np.concatenate([upper, upper[:, ::-1] + number, sides]).astype(np.int32),
    )
    return manifold(mesh)


def _prism(shape: Polygon, low: float, high: float) -> Manifold:
    rings = [np.asarray(ring.coords)[:-1] for ring in (shape.exterior, *shape.interiors)]
    return Manifold.extrude(CrossSection(rings, FillRule.EvenOdd), high - low).translate((0, 0, low))


def parting_plate(parted: PartingSurface, inside: Polygon) -> Mesh:
    """Return the parting surface as a plate to print: its upper face is the surface.

    Parameters
    ----------
    parted : PartingSurface
        The mould.
    inside : Polygon
        Its box.

    Returns
    -------
    Mesh
        Closed, with the master's outline cut out.
    """
    free = inside.difference(parted.seen)
    plate = Manifold()
    for part in shapely.get_parts(free):
        if part.geom_type == "Polygon" and part.area > parted.cell_mm**2:
            plate += _prism(part, parted.floor_mm - PLATE_MM, parted.top_mm)
    return _closed(plate ^ _field(parted, inside, None, PLATE_MM))


def both_halves(
    parted: PartingSurface, inside: Polygon, masters: Mesh, keys: Sequence[Key], bores: Sequence[Bore]
) -> Halves:
    """Make both halves of a mould as solids.

    Parameters
    ----------
    parted : PartingSurface
        The mould.
    inside : Polygon
        Its box.
    masters : Mesh
        All masters in it, closed.
    keys : sequence of Key
        Domes on the lower half; their sockets in the upper are a little larger.
    bores : sequence of Bore
        Gates and vents, in the box's coordinates.

    Returns
    -------
    Halves
        Both closed.

    Raises
    ------
    Refused
        When the master can't be cut out cleanly.
    """
    body = manifold(masters)
    if body.status().name != "NoError":
        raise Refused(
            "mesh",
            Text("The master's surface crosses itself, so it can't be cut out of a block. Mend the model first."),
        )
    block = _prism(inside, parted.floor_mm, parted.top_mm)
    lower = block ^ _field(parted, inside, parted.floor_mm - 1.0)
    upper = block - _field(parted, inside, parted.floor_mm - 1.0)
    for key in keys:
        z = float(parted.at(np.array([[key.x_mm, key.y_mm]]))[0])
        radius = key.diameter_mm / 2
        lower += Manifold.sphere(radius, 40).translate((key.x_mm, key.y_mm, z)) ^ block
        upper -= Manifold.sphere(radius + PLAY_MM, 40).translate((key.x_mm, key.y_mm, z))
    for bore in bores:
        hole = _hole(
            bore,
            float(
                np.linalg.norm(
                    [parted.top_mm - parted.floor_mm, *np.ptp(np.array(inside.bounds).reshape(2, 2), axis=0)]
                )
            ),
        )
        lower, upper = lower - hole, upper - hole
    return Halves(upper=_closed(upper - body), lower=_closed(lower - body))


def _hole(bore: Bore, reach_mm: float) -> Manifold:
    way = np.array(bore.way) / np.linalg.norm(bore.way)
    side = np.cross(way, np.eye(3)[int(np.argmin(np.abs(way)))])
    side /= np.linalg.norm(side)
    frame = np.column_stack([side, np.cross(way, side), way, np.array(bore.at_mm) - way * bore.diameter_mm / 4])
    return Manifold.cylinder(reach_mm, bore.diameter_mm / 2, bore.diameter_mm / 2, 24).transform(frame)


def bore_through(at_mm: Floats, way: Floats, diameter_mm: float) -> Bore:
    """Make a bore.

    Parameters
    ----------
    at_mm, way : (3,) float
        Where it begins, and which way it leads.
    diameter_mm : float
        Across.

    Returns
    -------
    Bore
        In plain numbers.
    """
    return Bore(
        at_mm=(float(at_mm[0]), float(at_mm[1]), float(at_mm[2])),
        way=(float(way[0]), float(way[1]), float(way[2])),
        diameter_mm=diameter_mm,
    )


def _closed(made: Manifold) -> Mesh:
    if made.is_empty():
        raise Refused("style", Text("One half is empty. Give the box rubber under and over the master."))
    mesh = from_manifold(made)
    if not edges(mesh).is_closed:
        raise Refused(
            "style",
            Text("The half came out with a gap in its surface. Change the side or the slack a little and try again."),
        )
    return mesh
