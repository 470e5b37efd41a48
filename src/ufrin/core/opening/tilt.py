"""How far to tilt the box while the rubber is poured, so that the least air stays round the master."""

from dataclasses import dataclass
from math import cos, pi, radians, sin

import numpy as np

from ufrin.core.master.attitudes import turn_up
from ufrin.core.mesh.cells import cells_of_mesh
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.opening.trapped_air import LEAST_ML, Point3, air_round_master

TILT_CELLS = 56
STRAIGHT_UP: Point3 = (0.0, 0.0, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Tilt:
    """A tilt of the box while the rubber is poured.

    It has the angle, the side towards which the box leans, and the air left in it level and tilted.
    """

    degrees: float
    towards_deg: float
    level_ml: float
    tilted_ml: float


def best_tilt(mesh: Mesh, limit_deg: float, *, board_mm: float = 0.0, cells: int = TILT_CELLS) -> Tilt | None:
    """Find the tilt of the box that leaves the least air round a master.

    Parameters
    ----------
    mesh : Mesh
        As it stands, foot at 0.
    limit_deg : float
        At most.
    board_mm : float, optional
        How high the bed reaches up the master; negative where there is rubber under it.
    cells : int, optional
        Along the longest side.

    Returns
    -------
    Tilt or None
        None where level is as good.
    """

    def left(up: Point3) -> float:
        turn = turn_up(up)
        turned = mesh.moved(turn)
        air = air_round_master(
            cells_of_mesh(turned, cells), board_mm=board_mm, board_normal=turn @ np.array([0.0, 0.0, 1.0])
        )
        return sum(pocket.ml for pocket in air.pockets if pocket.matters)

    level = left(STRAIGHT_UP)
    if level < LEAST_ML or limit_deg <= 0:
        return None
    best: Tilt | None = None
    for share in (0.5, 1.0):
        for turn in np.arange(12) * pi / 6:
            tilt = radians(limit_deg * share)
            # the box leans towards `turn`: what was upright in it now points away from there
            ml = left((-sin(tilt) * cos(turn), -sin(tilt) * sin(turn), cos(tilt)))
            if ml < (best.tilted_ml if best else level) * 0.98 - LEAST_ML / 2:
                best = Tilt(
                    degrees=limit_deg * share, towards_deg=float(np.degrees(turn)), level_ml=level, tilted_ml=ml
                )
        if best and best.tilted_ml < LEAST_ML:
            break
    return best
