"""Shapes for tests: sound ones, and ones with every fault that meshes arrive with."""

import numpy as np
from manifold3d import CrossSection, Manifold

from ufrin.core.master.stand_ins import block, fitted
from ufrin.core.mesh.manifolds import from_manifold
from ufrin.core.mesh.triangles import Mesh


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


def cup(
    outside_mm: float = 40, inside_mm: float = 30, high_mm: float = 40, deep_mm: float = 36, sides: int = 96
) -> Mesh:
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


def ball(across_mm: float = 50, around: int = 96) -> Mesh:
    return from_manifold(Manifold.sphere(across_mm / 2, around))


def tube(radius_mm: float, high_mm: float, sides: int = 96) -> Manifold:
    return Manifold.cylinder(high_mm, radius_mm, radius_mm, sides)


def drum_share(sides: int = 96) -> float:
    """What a drum of that many sides holds of a round one."""
    return sides / (2 * np.pi) * np.sin(2 * np.pi / sides)


def torus(ring_mm: float = 30, tube_mm: float = 10, sides: int = 64) -> Mesh:
    """Lying flat, its axis upright."""
    return from_manifold(Manifold.revolve(CrossSection.circle(tube_mm, sides).translate((ring_mm, 0)), 128))


def mushroom(stalk_mm: float = 8, cap_mm: float = 20, stalk_high_mm: float = 20, cap_high_mm: float = 10) -> Mesh:
    return from_manifold(tube(stalk_mm, stalk_high_mm + 1) + tube(cap_mm, cap_high_mm).translate((0, 0, stalk_high_mm)))


def u_tube(bore_mm: float = 10, apart_mm: float = 40, high_mm: float = 50) -> Mesh:
    """Two upright legs of square bore, joined at the foot; their tops are open ends."""
    leg = Manifold.cube((bore_mm, bore_mm, high_mm))
    return from_manifold(leg + leg.translate((apart_mm, 0, 0)) + Manifold.cube((apart_mm + bore_mm, bore_mm, bore_mm)))


def turned_about(mesh: Mesh, *, quarters: int = 0, mirrored: bool = False) -> Mesh:
    """Turned about the upright by quarters, and mirrored left to right before."""
    matrix = np.diag([-1.0, 1.0, 1.0]) if mirrored else np.eye(3)
    quarter = np.array([[0.0, -1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0]])
    return mesh.moved(np.linalg.matrix_power(quarter, quarters) @ matrix)


def dumbbell() -> Mesh:
    """Standing: two discs on a stalk."""
    return from_manifold(tube(20, 10) + tube(8, 40).translate((0, 0, 5)) + tube(20, 10).translate((0, 0, 40)))
