"""Undercuts: rubber that a master locks along a pull, and room that it overhangs as it stands on a board."""

from dataclasses import dataclass

import numpy as np

from ufrin.core.mesh.cells import Cells, cells_of_mesh
from ufrin.core.mesh.rays import Stretches
from ufrin.core.mesh.triangles import Flags, Mesh
from ufrin.core.opening.trapped_air import air_round_master


@dataclass(frozen=True, slots=True, kw_only=True)
class UnderAMaster:
    """What lies under a master that stands on a board: air trapped by the rising rubber, and room that it overhangs."""

    trapped_ml: float
    overhang_ml: float
    cell_mm: float


def under_a_master(mesh: Mesh, cells: int = 64) -> UnderAMaster:
    """Work out trapped air and overhang of a master as it stands.

    Parameters
    ----------
    mesh : Mesh
        Closed, foot at 0.
    cells : int, optional
        Along its longest side.

    Returns
    -------
    UnderAMaster
        Overhang: room above the board whose ray upwards meets the master.
    """
    solid = cells_of_mesh(mesh, cells)
    air = air_round_master(solid, board_mm=0.0)
    return UnderAMaster(
        trapped_ml=sum(pocket.ml for pocket in air.pockets if pocket.matters),
        overhang_ml=overhang_ml(solid.upright, 0.0, solid.cell_mm),
        cell_mm=solid.cell_mm,
    )


def locked_ml(upright: Stretches, cell_mm: float) -> float:
    """Return the rubber locked for a pull along the rays: points outside whose rays both ways meet the master.

    Parameters
    ----------
    upright : Stretches
        Of the master along the pull.
    cell_mm : float
        Distance of the rays.

    Returns
    -------
    float
        In ml: the gaps inside the rays, so exactly 0 where nothing is locked.
    """
    same = upright.ray[1:] == upright.ray[:-1]
    return float((upright.low_mm[1:] - upright.high_mm[:-1])[same].sum()) * cell_mm**2 / 1000


def overhang_ml(upright: Stretches, board_mm: float, cell_mm: float) -> float:
    """Return the room above the board whose ray upwards meets the master.

    Parameters
    ----------
    upright : Stretches
        Of the master.
    board_mm : float
        Height of the board.
    cell_mm : float
        Distance of the rays.

    Returns
    -------
    float
        In ml: from the board to the top of the highest stretch of each ray, without the solid.
    """
    high = float((upright.high_mm[upright.is_last] - board_mm).sum())
    return max(0.0, high - float((upright.high_mm - upright.low_mm).sum())) * cell_mm**2 / 1000


def locked_cells(solid: Cells, *, under_too: bool = False) -> Flags:
    """Find the cells of rubber that the master locks along the upright.

    Parameters
    ----------
    solid : Cells
        The master.
    under_too : bool, optional
        Whether to count the room under it as well, which holds a block that lifts straight off.

    Returns
    -------
    (nz, nx, ny) bool
        Outside the master, between parts of it.
    """
    above = np.flip(np.logical_or.accumulate(np.flip(solid.solid, axis=0), axis=0), axis=0)
    return np.asarray(above & ~solid.solid & (True if under_too else np.logical_or.accumulate(solid.solid, axis=0)))
