"""Shapes for tests: sound ones, and ones with every fault that meshes arrive with."""

import numpy as np
from manifold3d import Manifold

from ufrin.core.measuring import from_manifold
from ufrin.core.meshes import Mesh
from ufrin.core.standins import block, fitted


def moved(mesh: Mesh, *by_mm: float) -> Mesh:
    return mesh.moved(np.eye(3), np.array(by_mm, dtype=float))


def inside_out(mesh: Mesh) -> Mesh:
    return Mesh(vertices_mm=mesh.vertices_mm, faces=np.ascontiguousarray(mesh.faces[:, ::-1]))


def without(mesh: Mesh, *faces: int) -> Mesh:
    return Mesh(vertices_mm=mesh.vertices_mm, faces=np.delete(mesh.faces, faces, axis=0))


def shuffled_winding(mesh: Mesh) -> Mesh:
    faces = mesh.faces.copy()
    faces[::3] = faces[::3, ::-1]
    return Mesh(vertices_mm=mesh.vertices_mm, faces=faces)


def egg() -> Mesh:
    return fitted(60, 44, 50, 60)


def torn() -> Mesh:
    """A body of which every second strip is missing."""
    ball = egg()
    return without(ball, *range(0, len(ball.faces), 2))


def cup(outside_mm: float = 40, inside_mm: float = 30, high_mm: float = 40, deep_mm: float = 36, sides: int = 96) -> Mesh:
    """A cup, upside down on the board: it traps all that is inside it."""
    hollow = Manifold.cylinder(deep_mm + 1, inside_mm / 2, inside_mm / 2, sides).translate((0, 0, -1))
    return from_manifold(Manifold.cylinder(high_mm, outside_mm / 2, outside_mm / 2, sides) - hollow)


def figure_of_eight() -> Mesh:
    """A closed tube that crosses itself: one body, and no one can unite it with itself."""
    turns, sides = np.linspace(0, 2 * np.pi, 160, endpoint=False), 20
    path = np.column_stack([30 * np.sin(turns), 30 * np.sin(turns) * np.cos(turns), 0 * turns])
    along = np.gradient(path, axis=0)
    along /= np.linalg.norm(along, axis=1)[:, None]
    beside, up = np.cross(along, [0, 0, 1]), np.array([0, 0, 1])
    angle = np.linspace(0, 2 * np.pi, sides, endpoint=False)
    rings = path[:, None] + 4 * (beside[:, None] * np.cos(angle)[None, :, None] + up * np.sin(angle)[None, :, None])
    i, j = np.meshgrid(np.arange(160), np.arange(sides), indexing="ij")
    a, b, c, d = (((i + di) % 160) * sides + (j + dj) % sides for di, dj in ((0, 0), (0, 1), (1, 0), (1, 1)))
    faces = np.concatenate([np.stack([a, c, b], -1).reshape(-1, 3), np.stack([b, c, d], -1).reshape(-1, 3)])
    return Mesh(vertices_mm=rings.reshape(-1, 3), faces=faces.astype(np.int32))


CUBE = block(30, 20, 10)
