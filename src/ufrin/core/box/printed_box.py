"""A box to print: walls, board, keys that lock the two together and a pour opening, as closed solids."""

from dataclasses import dataclass

import numpy as np
import shapely
from manifold3d import CrossSection, FillRule, Manifold
from shapely.geometry import Polygon

from ufrin.core.mesh.manifolds import from_manifold
from ufrin.core.mesh.triangles import Mesh, edges
from ufrin.core.opening.half_solids import PLAY_MM
from ufrin.errors import Refused
from ufrin.language import Text

KEY_MM, KEY_HIGH_MM = 5.0, 2.4
LIP_MM = 12.0  # the funnel stands this high over the rim
FOOT_MM = 3.0  # thickness of the board


@dataclass(frozen=True, slots=True, kw_only=True)
class PrintableBox:
    """The two prints: walls open above and below, and the board with its keys."""

    walls: Mesh
    board: Mesh

    @property
    def side_by_side(self) -> Mesh:
        """Both side by side, as they are laid on a print bed."""
        gap = float(self.walls.bounds_mm[1][0] - self.board.bounds_mm[0][0]) + 10.0
        moved = self.board.vertices_mm + np.array([gap, 0, 0])
        return Mesh(
            vertices_mm=np.concatenate([self.walls.vertices_mm, moved]),
            faces=np.concatenate([self.walls.faces, self.board.faces + len(self.walls.vertices_mm)]).astype(np.int32),
        )


def printable_box(inside: Polygon, *, rim_mm: float, thickness_mm: float, pour_mm: float) -> PrintableBox:
    """Make a box to print.

    Parameters
    ----------
    inside : Polygon
        In plan.
    rim_mm, thickness_mm : float
        Of the walls.
    pour_mm : float
        Width of the notch in the rim that the stream is poured over; 0 for none.

    Returns
    -------
    PrintableBox
        Both closed. Three keys at unequal distances let the walls stand on the board in one way only.

    Raises
    ------
    Refused
        For walls too thin to print or a box too small for its keys.
    """
    if not 0.8 <= thickness_mm <= 50:
        raise Refused("wall_thickness_mm", Text("A printed wall is between [0.8 length] and [50 length] thick."))
    if not 5 <= rim_mm <= 2000:
        raise Refused("freeboard_mm", Text("A box to print is between [5 length] and [2000 length] high."))
    flange = thickness_mm + KEY_MM + 4
    outer, foot = inside.buffer(thickness_mm, quad_segs=24), inside.buffer(flange, quad_segs=24)
    centres = _key_centres(inside, thickness_mm + (KEY_MM + 4) / 2)
    walls = _prism(outer, 0, rim_mm) + _prism(foot, 0, FOOT_MM) - _prism(inside, -1, rim_mm + 1)
    board = _prism(foot, -FOOT_MM, 0)
    for x, y in centres:
        key = Manifold.cylinder(KEY_HIGH_MM, KEY_MM / 2, KEY_MM / 2 * 0.8, 32).translate((x, y, 0))
        hole = Manifold.cylinder(KEY_HIGH_MM + PLAY_MM, KEY_MM / 2 + PLAY_MM, KEY_MM / 2 * 0.8 + PLAY_MM, 32).translate(
            (x, y, -1e-3)
        )
        board, walls = board + key, walls - hole
    if pour_mm > 0:
        middle_x = (inside.bounds[0] + inside.bounds[2]) / 2
        notch = Manifold.cube((pour_mm, thickness_mm * 6, min(LIP_MM, rim_mm / 3)), True)
        walls -= notch.translate((middle_x, inside.bounds[1], rim_mm))
    return PrintableBox(walls=_closed(walls), board=_closed(board))


def _prism(shape: shapely.Geometry, low: float, high: float) -> Manifold:
    rings = [np.asarray(ring.coords)[:-1] for ring in (shape.exterior, *shape.interiors)]
    return Manifold.extrude(CrossSection(rings, FillRule.EvenOdd), high - low).translate((0, 0, low))


def _key_centres(inside: Polygon, out_mm: float) -> list[tuple[float, float]]:
    # along the circumference, at distances that no turn or flip repeats
    path = inside.buffer(out_mm, quad_segs=24).exterior
    if path.length < 8 * KEY_MM:
        raise Refused("side_mm", Text("The box is too small for its keys. Cut it from sheet instead."))
    return [
        (float(point.x), float(point.y))
        for point in (path.interpolate(share, normalized=True) for share in (0.06, 0.31, 0.67))
    ]


def _closed(made: Manifold) -> Mesh:
    mesh = from_manifold(made)
    if not edges(mesh).is_closed:
        raise Refused(
            "wall_thickness_mm",
            Text("The box came out with a gap in its surface. Change the thickness a little and try again."),
        )
    return mesh
