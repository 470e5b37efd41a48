"""Compiled loops over cells and rays that array arithmetic can't express.

They are compiled on first import and cached beside the module.

Every loop is compiled for fixed types when it is defined, so that importing the module is the only wait: set-up
imports it once.
"""

from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray

Cells = NDArray[np.bool_]
Plan = NDArray[np.float64]


@njit("int32(int32[:], int32)", cache=True, nogil=True)
def _root(parent: Any, patch: int) -> int:
    while parent[patch] != patch:
        parent[patch] = parent[parent[patch]]
        patch = parent[patch]
    return patch


@njit("boolean[:,:,::1](boolean[:,:,::1], boolean[:,:,::1])", cache=True, nogil=True)
def trapped_cells(fluid: Cells, outlets: Cells) -> Cells:
    """Find the cells in which rising liquid leaves air.

    Parameters
    ----------
    fluid : (nz, nx, ny) bool
        Where the liquid may go, the lowest layer first.
    outlets : (nz, nx, ny) bool
        Fluid cells from which air gets out.

    Returns
    -------
    (nz, nx, ny) bool
        Cells from which every path to an outlet dips below their own layer. The layers are swept from the top down:
        patches of a layer that touch each other or the patches above are united, and a patch is free once it
        contains an outlet (bottleneck paths; the same problem as filling depressions, Barnes et al. 2014,
        Priority-Flood, upside down; united by Tarjan's disjoint sets).
    """
    nz, nx, ny = fluid.shape
    trapped = np.zeros((nz, nx, ny), dtype=np.bool_)
    parent = np.empty(4 * nx * ny + 64, dtype=np.int32)
    is_open = np.zeros(4 * nx * ny + 64, dtype=np.bool_)
    count = 0
    above = np.full((nx, ny), -1, dtype=np.int32)
    here = np.full((nx, ny), -1, dtype=np.int32)
    for z in range(nz - 1, -1, -1):
        if count + nx * ny > len(parent):
            # only the patches of the layer above are still needed: number them afresh
            fresh = np.full(count, -1, dtype=np.int32)
            was_open = is_open.copy()
            number = 0
            for x in range(nx):
                for y in range(ny):
                    if above[x, y] >= 0:
                        old = above[x, y]
                        if fresh[old] < 0:
                            fresh[old] = number
                            parent[number] = number
                            is_open[number] = was_open[old]
                            number += 1
                        above[x, y] = fresh[old]
            count = number
        for x in range(nx):
            left, left_above, left_back = -1, -1, -1
            room, row, row_above, row_back, row_open = (
                fluid[z, x],
                here[x],
                above[x],
                here[max(x - 1, 0)],
                outlets[z, x],
            )
            for y in range(ny):
                if not room[y]:
                    row[y] = -1
                    left, left_above, left_back = -1, -1, -1
                    continue
                back = row_back[y] if x > 0 else -1
                over = row_above[y]
                patch = left
                if over >= 0 and not (left >= 0 and over == left_above):
                    root = _root(parent, over)
                    if patch < 0:
                        patch = root
                    elif root != patch:
                        patch = _root(parent, patch)
                        if root != patch:
                            parent[root] = patch
                            is_open[patch] = is_open[patch] or is_open[root]
                if back not in (-1, patch, left_back):
                    root = _root(parent, back)
                    if patch < 0:
                        patch = root
                    elif root != patch:
                        patch = _root(parent, patch)
                        if root != patch:
                            parent[root] = patch
                            is_open[patch] = is_open[patch] or is_open[root]
                if patch < 0:
                    patch = count
                    parent[patch] = patch
                    is_open[patch] = False
                    count += 1
                if row_open[y]:
                    is_open[_root(parent, patch)] = True
                row[y] = patch
                left, left_above, left_back = patch, over, back
        known, root, free = -1, -1, True
        for x in range(nx):
            row, row_trapped = here[x], trapped[z, x]
            for y in range(ny):
                patch = row[y]
                if patch >= 0:
                    if patch != known:
                        known, root = patch, _root(parent, patch)
                        free = is_open[root]
                    row[y] = root
                    if not free:
                        row_trapped[y] = True
        above, here = here, above
    return trapped


@njit(
    "Tuple((int32[::1], float64[::1], int32[::1], boolean))(float64[:,::1], int32[:,::1], int64, int64, int64)",
    cache=True,
    nogil=True,
)
def crossings(corners: Plan, faces: Any, across: int, deep: int, most_tries: int) -> tuple[Any, Any, Any, bool]:
    """Find where rays through the integer points of a plan cross triangles.

    Parameters
    ----------
    corners : (n, 3) float64
        In cells, the rays' direction last.
    faces : (m, 3) int32
        Corners of each triangle.
    across, deep : int
        Rays along the first and the second axis, from 0.
    most_tries : int
        Pairs of ray and triangle that are tested before it gives up.

    Returns
    -------
    (k,) int32, (k,) float64, (k,) int32, bool
        Ray, height and step of each crossing, by ray and then by height, and whether all were found. Step 1 where
        the triangle turns one way seen along the ray, -1 where it turns the other. Both triangles at an edge
        evaluate it from the same corner, so that a ray on an edge crosses exactly one of them.
    """
    room = 4 * across * deep + 1024
    ray = np.empty(room, dtype=np.int32)
    height = np.empty(room, dtype=np.float64)
    step = np.empty(room, dtype=np.int32)
    per_ray = np.zeros(across * deep + 1, dtype=np.int64)
    count, tries = 0, 0
    for face in range(len(faces)):
        a, b, c = faces[face, 0], faces[face, 1], faces[face, 2]
        ua, ub, uc = corners[a, 0], corners[b, 0], corners[c, 0]
        u0, u1 = max(np.ceil(min(ua, ub, uc)), 0.0), min(np.floor(max(ua, ub, uc)), across - 1.0)
        if u0 > u1:
            continue
        va, vb, vc = corners[a, 1], corners[b, 1], corners[c, 1]
        v0, v1 = max(np.ceil(min(va, vb, vc)), 0.0), min(np.floor(max(va, vb, vc)), deep - 1.0)
        if v0 > v1:
            continue
        tries += int((u1 - u0 + 1) * (v1 - v0 + 1))
        if tries > most_tries:
            return ray[:0], height[:0], step[:0], False
        for iu in range(int(u0), int(u1) + 1):
            for iv in range(int(v0), int(v1) + 1):
                if a < b:
                    area_c = (ub - ua) * (iv - va) - (vb - va) * (iu - ua)
                    side_c = area_c >= 0
                else:
                    area_c = -((ua - ub) * (iv - vb) - (va - vb) * (iu - ub))
                    side_c = area_c > 0
                if b < c:
                    area_a = (uc - ub) * (iv - vb) - (vc - vb) * (iu - ub)
                    side_a = area_a >= 0
                else:
                    area_a = -((ub - uc) * (iv - vc) - (vb - vc) * (iu - uc))
                    side_a = area_a > 0
                if side_a != side_c:
                    continue
                if c < a:
                    area_b = (ua - uc) * (iv - vc) - (va - vc) * (iu - uc)
                    side_b = area_b >= 0
                else:
                    area_b = -((uc - ua) * (iv - va) - (vc - va) * (iu - ua))
                    side_b = area_b > 0
                if side_b != side_c:
                    continue
                whole = area_a + area_b + area_c
                at = (
                    corners[a, 2]
                    if whole == 0
                    else (area_a * corners[a, 2] + area_b * corners[b, 2] + area_c * corners[c, 2]) / whole
                )
                if count == len(ray):
                    ray = np.concatenate((ray, np.empty_like(ray)))
                    height = np.concatenate((height, np.empty_like(height)))
                    step = np.concatenate((step, np.empty_like(step)))
                number = iu * deep + iv
                ray[count], height[count], step[count] = number, at, -1 if side_c else 1
                per_ray[number + 1] += 1
                count += 1
    begin = np.cumsum(per_ray)
    filled = begin[:-1].copy()
    sorted_ray = np.empty(count, dtype=np.int32)
    sorted_height = np.empty(count, dtype=np.float64)
    sorted_step = np.empty(count, dtype=np.int32)
    for one in range(count):
        number = ray[one]
        at = filled[number]
        while at > begin[number] and sorted_height[at - 1] > height[one]:
            sorted_height[at], sorted_step[at] = sorted_height[at - 1], sorted_step[at - 1]
            at -= 1
        sorted_height[at], sorted_step[at] = height[one], step[one]
        sorted_ray[filled[number]] = number
        filled[number] += 1
    return sorted_ray, sorted_height, sorted_step, True


@njit("void(boolean[:,::1], int32[:], int64[:], int64[:])", cache=True, nogil=True)
def fill(cells: Cells, ray: Any, begin: Any, end: Any) -> None:
    """Fill stretches of cells.

    Parameters
    ----------
    cells : (nz, rays) bool
        Changed in place.
    ray : (s,) int32
        Of each stretch.
    begin, end : (s,) int64
        Its first cell, and the one after its last.
    """
    for one in range(len(ray)):
        for z in range(begin[one], end[one]):
            cells[z, ray[one]] = True


@njit(
    "float64(float64[:,::1], float64[:,::1], float64[:,::1], boolean[:,::1], int64, float64, float64)",
    cache=True,
    nogil=True,
)
def relax(height: Plan, low: Plan, high: Plan, inside: Cells, sweeps: int, over: float, enough: float) -> float:
    """Relax a height map to the flattest one between two obstacles, free at its edges.

    Parameters
    ----------
    height : (nx, ny) float64
        Changed in place.
    low, high : (nx, ny) float64
        Between which it must stay.
    inside : (nx, ny) bool
        Where the map is defined.
    sweeps : int
        At most so many sweeps.
    over : float
        Over-relaxation, 1 to 2.
    enough : float
        It has converged when no point moves by more.

    Returns
    -------
    float
        How far the last sweep moved any point (projected successive over-relaxation: Cryer 1971).
    """
    nx, ny = height.shape
    most = 0.0
    for _ in range(sweeps):
        most = 0.0
        for x in range(nx):
            for y in range(ny):
                if not inside[x, y]:
                    continue
                total, number = 0.0, 0
                if x > 0 and inside[x - 1, y]:
                    total += height[x - 1, y]
                    number += 1
                if x < nx - 1 and inside[x + 1, y]:
                    total += height[x + 1, y]
                    number += 1
                if y > 0 and inside[x, y - 1]:
                    total += height[x, y - 1]
                    number += 1
                if y < ny - 1 and inside[x, y + 1]:
                    total += height[x, y + 1]
                    number += 1
                if number == 0:
                    continue
                was = height[x, y]
                settled = min(max(was + over * (total / number - was), low[x, y]), high[x, y])
                height[x, y] = settled
                most = max(most, abs(settled - was))
        if most < enough:
            break
    return most
