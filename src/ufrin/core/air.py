"""Air under a master: what the rising rubber can't drive out, and what keeps a block from lifting straight off."""

from dataclasses import dataclass

import numpy as np
from scipy import ndimage

from ufrin.core.columns import columns, grid
from ufrin.core.meshes import Flags, Mesh

MANY = 1 << 32  # more patches than any grid has
LEAST_ML, LEAST_CELLS = 0.02, 2  # pockets smaller than that do not matter


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
        Overhang: room above the board whose ray upwards meets the master. Trapped: fluid cells from which every way to the open top dips
        below their own height (bottleneck paths; Barnes et al. 2014, Priority-Flood, is the same problem upside down).
    """
    low, cell, shape = grid(mesh, cells)
    cast = columns(mesh, axis=2, low_mm=low, cell_mm=cell, shape=shape)
    solid = cast.kept(cast.balanced()).filled()
    board = max(0, int(np.ceil(-float(low[2]) / cell - 0.5)))  # cells whose middles lie below the board are no room
    solid = solid[:, :, board:]
    # a ray up from a free cell meets the master when anything solid stands above it
    above = np.flip(np.maximum.accumulate(np.flip(solid, axis=2), axis=2), axis=2)
    overhang_ml = float((above & ~solid).sum()) * cell**3 / 1000
    trapped = trapped_cells(np.pad(~solid, ((1, 1), (1, 1), (0, 1)), constant_values=True))
    labels, count = ndimage.label(trapped)
    sizes = np.bincount(labels.ravel(), minlength=count + 1)[1:]
    matter = sizes[(sizes > LEAST_CELLS) & (sizes * cell**3 / 1000 >= LEAST_ML)]
    return UnderAMaster(trapped_ml=float(matter.sum()) * cell**3 / 1000, overhang_ml=overhang_ml, cell_mm=cell)


def trapped_cells(fluid: Flags) -> Flags:
    """Find the cells in which rising liquid leaves air.

    Parameters
    ----------
    fluid : (nx, ny, nz) bool
        Where the liquid may go; the top layer is open to the air.

    Returns
    -------
    (nx, ny, nz) bool
        Swept from the top layer down: a layer's patch is free when it touches, in the layer above, a patch that is free, directly or by way
        of patches that have come together higher up.
    """
    trapped = np.zeros_like(fluid)
    parent: list[int] = [0]  # patch 0 is the open air

    def root(patch: int) -> int:
        while parent[patch] != patch:
            parent[patch] = parent[parent[patch]]
            patch = parent[patch]
        return patch

    above = np.zeros(fluid.shape[:2], dtype=np.int64)  # the open air over the top layer
    has_above = np.ones(fluid.shape[:2], dtype=bool)
    for layer in range(fluid.shape[2] - 1, -1, -1):
        here = fluid[:, :, layer]
        labels, count = ndimage.label(here)
        first = len(parent)
        parent.extend(range(first, first + count))
        patch = labels.astype(np.int64) + (first - 1)
        touching = here & has_above
        pairs = np.unique(patch[touching] * MANY + above[touching])
        for one, other in zip((pairs // MANY).tolist(), (pairs % MANY).tolist(), strict=True):
            parent[root(one)] = parent[root(other)]
        free = np.array([root(first + number) == root(0) for number in range(count)], dtype=bool)
        trapped[:, :, layer] = here & ~np.r_[True, free][labels]
        above, has_above = patch, here
    return trapped
