"""Benchmarks of how a mould opens.

Air, rays, locked rubber, directions and the parting surface are held against well-known libraries on the same cells.
"""

import time
from collections.abc import Callable
from typing import Any

import numpy as np
import trimesh
from extent import at_most
from meshes import best_s, pebble
from skimage.morphology import reconstruction
from trimesh.ray.ray_pyembree import RayMeshIntersector

from ufrin.core.master.attitudes import stand, turn_up
from ufrin.core.mesh.cells import cells_of_mesh
from ufrin.core.mesh.compiled_loops import trapped_cells
from ufrin.core.mesh.line_work import reduced
from ufrin.core.mesh.rays import columns, grid, stretches
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.opening.parting_surface import box_round, parting_surface
from ufrin.core.opening.pull_directions import coarse, refined
from ufrin.core.opening.pull_ranking import rankings
from ufrin.core.opening.undercuts import locked_ml

CELLS, EMBREE_CELLS = at_most(128, 32), at_most(96, 24)


def ring(sections: int) -> Mesh:
    """Make a torus, standing: its hole is locked."""
    made = trimesh.creation.torus(
        major_radius=30, minor_radius=11, major_sections=sections, minor_sections=sections // 2
    )
    standing = Mesh(vertices_mm=np.asarray(made.vertices, dtype=float), faces=np.asarray(made.faces, dtype=np.int32))
    return standing.moved(turn_up((1.0, 0.2, 0.1)))


def by_reconstruction(fluid: np.ndarray) -> np.ndarray:
    """Find trapped cells by greyscale reconstruction."""
    height = np.where(fluid, np.arange(1, len(fluid) + 1)[:, None, None], 0).astype(np.int16)
    seed = np.zeros_like(height)
    seed[-1] = height[-1]
    cross = np.zeros((3, 3, 3), dtype=bool)
    cross[1, 1, :] = cross[1, :, 1] = cross[:, 1, 1] = True
    rebuilt: Any = reconstruction
    return np.asarray(fluid & (rebuilt(seed, height, footprint=cross) < height))


def locked_by_embree(mesh: Mesh, cells: int) -> float:
    """Cast rays both ways from every cell's middle outside."""
    made = trimesh.Trimesh(mesh.vertices_mm, mesh.faces, process=False)
    rays: Any = RayMeshIntersector(made, scale_to_box=False)
    low, cell, shape = grid(mesh, cells)
    axes = [low[axis] + (np.arange(shape[axis]) + 0.5) * cell for axis in range(3)]
    points = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 3)
    points = points[~rays.contains_points(points)]
    up = rays.intersects_any(points, np.tile([0.0, 0.0, 1.0], (len(points), 1)))
    points = points[up]
    down = rays.intersects_any(points, np.tile([0.0, 0.0, -1.0], (len(points), 1)))
    return float(down.sum()) * cell**3 / 1000


def ours_locked(mesh: Mesh, cells: int) -> float:
    """Give the same by columns."""
    low, cell, shape = grid(mesh, cells)
    return locked_ml(stretches(columns(mesh, axis=2, low_mm=low, cell_mm=cell, shape=shape)), cell)


def run(tell: Callable[[str, float, str, str], None]) -> None:
    """Run them."""
    middling, small = stand(reduced(pebble(at_most(6, 3)), 60_000)), stand(reduced(pebble(5), 4_000))
    fluid = ~cells_of_mesh(middling, CELLS).solid
    outlets = np.zeros_like(fluid)
    outlets[-1] = fluid[-1]
    same = np.array_equal(trapped_cells(fluid, outlets), by_reconstruction(fluid))
    theirs_s, ours_s = best_s(lambda: by_reconstruction(fluid), 1), best_s(lambda: trapped_cells(fluid, outlets), 5)
    tell(
        "Greyscale reconstruction / trapped air, 128 cells",
        theirs_s / ours_s,
        ">= 100",
        f"{ours_s * 1000:.1f} ms; the same cells: {same}",
    )

    solid = trimesh.Trimesh(middling.vertices_mm, middling.faces, process=False)
    low, cell, shape = grid(middling, CELLS)

    def cast() -> Any:
        return columns(middling, axis=2, low_mm=low, cell_mm=cell, shape=shape)

    voxels_s, columns_s = best_s(lambda: solid.voxelized(cell).fill(), 1), best_s(lambda: cast().filled(), 5)
    off = abs(stretches(cast()).high_mm.sum() - stretches(cast()).low_mm.sum()) * cell**2 / middling.volume_mm3 - 1
    tell(
        "trimesh's filled voxels / columns, 128 cells",
        voxels_s / columns_s,
        ">= 40",
        f"{columns_s * 1000:.1f} ms; volume off by {off * 100:.3f} %",
    )

    torus = ring(at_most(180, 48))
    began = time.perf_counter()
    theirs = locked_by_embree(torus, EMBREE_CELLS)
    embree_s = time.perf_counter() - began
    locked_s = best_s(lambda: ours_locked(torus, EMBREE_CELLS), 5)
    apart = ours_locked(torus, EMBREE_CELLS) / theirs - 1
    tell(
        "Embree from every cell / locked rubber, 96 cells",
        embree_s / locked_s,
        ">= 50",
        f"{locked_s * 1000:.1f} ms; {apart * 100:+.2f} % apart",
    )

    search_s = best_s(lambda: coarse(small, at_most(200, 20), 64), 2)
    tell(
        "200 directions at 64 cells / 1.5 s", search_s / 1.5, "<= 1", f"{len(small.faces)} triangles, {search_s:.2f} s"
    )
    found = coarse(small, at_most(200, 20), 64)
    tell(
        "Finalists at 256 columns / 1 s",
        best_s(lambda: refined(small, found), 1),
        "-",
        "wandering beside the best included",
    )
    began, stages = time.perf_counter(), []
    for _ in rankings(middling):
        stages.append(time.perf_counter() - began)
    tell("First ranking of 60,000 triangles / 1 s", stages[0], "< 1", f"{stages[0]:.2f} s, without queue and page")
    tell("Full ranking of 60,000 triangles / 4 s", stages[-1] / 4, "< 1", f"{stages[-1]:.2f} s")

    split_s = best_s(lambda: parting_surface(small, box_round(small, 10), under_mm=10, over_mm=10, cells=CELLS), 2)
    made = parting_surface(middling, box_round(middling, 10), under_mm=10, over_mm=10, cells=CELLS)
    gap = abs(float((made.area_mm2 * (made.top_mm - made.floor_mm)).sum()) / 1000 / made.box_ml - 1)
    tell(
        "Parting surface at 128 cells / 0.4 s",
        split_s / 0.4,
        "<= 1",
        f"{split_s:.2f} s; cells miss the box by {gap * 100:.4f} %",
    )
