"""Points and directions as they are kept with a job, as text, and small turns of a direction."""

from collections.abc import Sequence

import numpy as np

from ufrin.core.master.attitudes import turn_up
from ufrin.core.opening.trapped_air import Point3

NONE = "none"


def plan_points(kept: str) -> list[tuple[float, float]]:
    """Read kept points of a plan.

    Parameters
    ----------
    kept : str
        Such as "1, 2; 3, 4".

    Returns
    -------
    list of (x, y)
        In order.
    """
    return [(float(x), float(y)) for x, y in (one.split(",") for one in kept.split(";"))]


def space_points(kept: str) -> list[Point3]:
    """Read kept points in space.

    Parameters
    ----------
    kept : str
        Such as "1, 2, 3; 4, 5, 6"; "none" means no point.

    Returns
    -------
    list of (x, y, z)
        In order.
    """
    return (
        []
        if kept == NONE
        else [(float(x), float(y), float(z)) for x, y, z in (one.split(",") for one in kept.split(";"))]
    )


def points_text(points: Sequence[Sequence[float]]) -> str:
    """Write points as they are kept.

    Parameters
    ----------
    points : sequence of (x, y) or (x, y, z)
        In mm.

    Returns
    -------
    str
        To a thousandth of a mm; "none" for none.
    """
    return "; ".join(", ".join(f"{round(float(number), 3) + 0.0:g}" for number in point) for point in points) or NONE


def tipped(up: Point3, about: str, degrees: float) -> Point3:
    """Turn an upright direction a little, as if the master were tipped on its board.

    Parameters
    ----------
    up : (x, y, z)
        In the master's own coordinates.
    about : "front", "back", "left" or "right"
        The side it is tipped towards, as it stands (unspun).
    degrees : float
        By how much.

    Returns
    -------
    (x, y, z)
        Of unit length.
    """
    turn = turn_up(up)
    x, y = {"front": (0.0, 1.0), "back": (0.0, -1.0), "left": (1.0, 0.0), "right": (-1.0, 0.0)}[about]
    angle = np.radians(degrees)
    way = turn.T @ np.array([x * np.sin(angle), y * np.sin(angle), np.cos(angle)])
    return (float(way[0]), float(way[1]), float(way[2]))
