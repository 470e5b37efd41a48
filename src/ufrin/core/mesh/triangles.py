"""Triangles with shared corners, and what follows from them directly. Corners are in mm."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array, csr_array
from scipy.sparse.csgraph import connected_components

from ufrin.errors import Refused
from ufrin.language import Text

Floats = NDArray[np.floating[Any]]
Whole = NDArray[np.signedinteger[Any]]
Flags = NDArray[np.bool_]

# odd numbers without a pattern, so that a corner's three coordinates hash to a number that no other corner has (for a
# million corners the probability that two share one is about 1 in 10^7)
_MIX = np.array([0x9E3779B97F4A7C15, 0xC2B2AE3D27D4EB4F, 0x165667B19E3779F9], dtype=np.uint64)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Mesh:
    """Triangles with shared corners.

    Parameters
    ----------
    vertices_mm : (n, 3) float64
        Corners.
    faces : (m, 3) int32
        Each triangle's corners, counter-clockwise seen from outside.
    """

    vertices_mm: Floats
    faces: Whole

    def __post_init__(self) -> None:
        if len(self.faces) == 0 or len(self.vertices_mm) == 0:
            raise Refused(
                "file",
                Text("There are no triangles in it that span anything. Export the model again as a closed solid."),
            )

    @property
    def bounds_mm(self) -> Floats:
        """The lowest and highest corner of the box round it, (2, 3)."""
        return np.stack([self.vertices_mm.min(axis=0), self.vertices_mm.max(axis=0)])

    @property
    def extents_mm(self) -> Floats:
        """The size of the box round it, (3,)."""
        low, high = self.bounds_mm
        return np.asarray(high - low)

    @property
    def area_mm2(self) -> float:
        """The surface."""
        return float(face_sums(self)[1].sum())

    @property
    def volume_mm3(self) -> float:
        """The signed volume that closed faces enclose, negative when they are wound inside out (divergence theorem)."""
        return float(face_sums(self)[0].sum())

    def moved(self, matrix: Floats, shift_mm: Floats | None = None) -> "Mesh":
        """Turn, scale and shift it.

        Parameters
        ----------
        matrix : (3, 3) float
            Applied to every corner.
        shift_mm : (3,) float, optional
            Added afterwards.

        Returns
        -------
        Mesh
            With the same faces; wound the other way round when the matrix mirrors.
        """
        vertices = self.vertices_mm @ np.asarray(matrix, dtype=float).T
        if shift_mm is not None:
            vertices += shift_mm
        return Mesh(
            vertices_mm=vertices,
            faces=self.faces if np.linalg.det(matrix) > 0 else np.ascontiguousarray(self.faces[:, ::-1]),
        )

    def part(self, chosen: Flags) -> "Mesh":
        """Take some of its faces, with only the corners that they need.

        Parameters
        ----------
        chosen : (m,) bool
            For each face.

        Returns
        -------
        Mesh
            Smaller.
        """
        used, faces = np.unique(self.faces[chosen], return_inverse=True)
        return Mesh(vertices_mm=self.vertices_mm[used], faces=faces.reshape(-1, 3).astype(np.int32))


def joined(meshes: list[Mesh]) -> Mesh:
    """Put meshes side by side into one, without uniting overlaps.

    Parameters
    ----------
    meshes : list of Mesh
        At least one.

    Returns
    -------
    Mesh
        All their faces.
    """
    starts = np.cumsum([0, *(len(mesh.vertices_mm) for mesh in meshes[:-1])])
    return Mesh(
        vertices_mm=np.concatenate([mesh.vertices_mm for mesh in meshes]),
        faces=np.concatenate([mesh.faces + start for mesh, start in zip(meshes, starts, strict=True)]).astype(np.int32),
    )


def face_sums(mesh: Mesh) -> tuple[Floats, Floats]:
    """Return the contribution of each face to volume and surface.

    Parameters
    ----------
    mesh : Mesh
        With m faces.

    Returns
    -------
    (m,) float64, (m,) float64
        The signed volume of the tetrahedron over it in mm3, and its area in mm2.
    """
    first, normal = _first_and_normal(mesh)
    volume = first[0] * normal[0]
    volume += first[1] * normal[1]
    volume += first[2] * normal[2]
    area = normal[0] ** 2
    area += normal[1] ** 2
    area += normal[2] ** 2
    np.sqrt(area, out=area)
    return volume / 6, area / 2


def normals(mesh: Mesh) -> Floats:
    """Return each face's outward normal, twice its area long.

    Parameters
    ----------
    mesh : Mesh
        With m faces.

    Returns
    -------
    (m, 3) float64
        In mm2.
    """
    return np.stack(_first_and_normal(mesh)[1], axis=1)


def _first_and_normal(mesh: Mesh) -> tuple[list[Floats], list[Floats]]:
    # the first corner of each face, about a local origin so that a part far from the middle loses no digits; and
    # its normal, by axis
    local = mesh.vertices_mm - mesh.bounds_mm.mean(axis=0)
    axes = [np.ascontiguousarray(local[:, axis]) for axis in range(3)]
    a, b, c = (np.ascontiguousarray(mesh.faces[:, corner]) for corner in range(3))
    first = [axis[a] for axis in axes]
    ux, uy, uz = (axis[b] - begin for axis, begin in zip(axes, first, strict=True))
    vx, vy, vz = (axis[c] - begin for axis, begin in zip(axes, first, strict=True))
    return first, [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]


def from_triangles(corners: Floats) -> Mesh:
    """Find the corners that loose triangles share.

    Parameters
    ----------
    corners : (3 m, 3) float32 or float64
        Every three corners make a triangle. Corners are shared where their coordinates are bitwise equal.

    Returns
    -------
    Mesh
        Without triangles that have two corners at one point.
    """
    vertices, which = _shared(corners)
    return Mesh(vertices_mm=vertices, faces=_without_slivers(which.reshape(-1, 3)))


def _shared(corners: Floats) -> tuple[Floats, Whole]:
    # corners without repetition, (n, 3) float64, and which of them each one is, (len(corners),) int32
    flat = np.add(corners, 0, dtype=corners.dtype)  # -0 is 0
    bits = flat.view(np.uint32 if flat.dtype == np.float32 else np.uint64)
    mixed = np.zeros(len(bits), dtype=np.uint64)
    for axis in range(3):
        mixed ^= bits[:, axis].astype(np.uint64)
        mixed *= _MIX[axis]
        mixed ^= mixed >> np.uint64(31)  # round numbers end in zeros: their high digits must affect the low ones
    order = np.argsort(mixed)
    mixed = mixed[order]
    first = np.empty(len(mixed), dtype=bool)
    first[:1] = True
    np.not_equal(mixed[1:], mixed[:-1], out=first[1:])
    numbers = np.cumsum(first, dtype=np.int32)
    numbers -= 1
    which = np.empty(len(mixed), dtype=np.int32)
    which[order] = numbers
    return flat[order[first]].astype(np.float64), which


def merged(mesh: Mesh) -> Mesh:
    """Share corners at the same point; files often list a corner once for each triangle.

    Parameters
    ----------
    mesh : Mesh
        As read.

    Returns
    -------
    Mesh
        Without triangles that have two corners at one point.
    """
    used = np.zeros(len(mesh.vertices_mm), dtype=bool)
    used[mesh.faces] = True
    places = np.cumsum(used, dtype=np.int32) - 1
    vertices, which = _shared(mesh.vertices_mm[used])
    return Mesh(vertices_mm=vertices, faces=_without_slivers(which[places[mesh.faces]]))


def snapped(mesh: Mesh, step_mm: float) -> Mesh:
    """Share corners that lie within a small step of each other, as rounding in a file leaves them.

    Parameters
    ----------
    mesh : Mesh
        As read.
    step_mm : float
        Corners are rounded to it.

    Returns
    -------
    Mesh
        With corners on that lattice.
    """
    lattice = np.round(mesh.vertices_mm / step_mm) * step_mm
    return merged(Mesh(vertices_mm=lattice, faces=mesh.faces))


def _without_slivers(faces: Whole) -> Whole:
    a, b, c = faces[:, 0], faces[:, 1], faces[:, 2]
    whole = (a != b) & (b != c) & (c != a)
    return np.ascontiguousarray(faces if whole.all() else faces[whole])


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Edges:
    """How a mesh's faces meet.

    Parameters
    ----------
    pairs : (e, 2) int32
        Each edge once: lower and higher corner, sorted.
    balance : (e,) int32
        Faces that run along it upwards minus those that run downwards; 0 everywhere for a closed mesh wound one way.
    faces_at : (e,) int32
        Faces at it.
    corners : int
        Of the mesh.
    """

    pairs: Whole
    balance: Whole
    faces_at: Whole
    corners: int

    @property
    def is_closed(self) -> bool:
        """Whether the faces bound a volume: every edge is traversed equally often both ways."""
        return not self.balance.any()

    @property
    def open_count(self) -> int:
        """Edges with an odd number of faces: the rims of holes, however the faces are wound."""
        return int((self.faces_at % 2 == 1).sum())

    def body_of_corner(self) -> tuple[int, Whole]:
        """Find the connected bodies.

        Returns
        -------
        int, (n,) int32
            How many bodies, and the body of each corner.
        """
        starts = np.zeros(self.corners + 1, dtype=np.int32)
        np.cumsum(np.bincount(self.pairs[:, 0], minlength=self.corners), out=starts[1:])
        graph = csr_array(
            (np.ones(len(self.pairs), dtype=np.int8), self.pairs[:, 1], starts), shape=(self.corners, self.corners)
        )
        count, labels = connected_components(graph, directed=False)
        return int(count), labels


def edges(mesh: Mesh) -> Edges:
    """Find how a mesh's faces meet.

    Parameters
    ----------
    mesh : Mesh
        With shared corners, all of them used.

    Returns
    -------
    Edges
        Each edge once.
    """
    corners = len(mesh.vertices_mm)
    starts, ends = mesh.faces.ravel(), mesh.faces[:, [1, 2, 0]].ravel()
    low, high = np.minimum(starts, ends).astype(np.int64), np.maximum(starts, ends)
    keys = (low * corners + high) * 2 + (starts < ends)
    keys.sort()
    if len(keys) % 2 == 0 and np.array_equal(
        keys[::2] ^ 1, keys[1::2]
    ):  # the usual case: two faces at each edge, one each way
        edge = keys[::2] >> 1
        balance, faces_at = np.zeros(len(edge), dtype=np.int32), np.full(len(edge), 2, dtype=np.int32)
    else:
        edge, firsts, counts = np.unique(keys >> 1, return_index=True, return_counts=True)
        upwards = np.add.reduceat((keys & 1).astype(np.int32), firsts)
        faces_at = counts.astype(np.int32)
        balance = 2 * upwards - faces_at
    low = edge // corners
    pairs = np.stack([low, edge - low * corners], axis=1).astype(np.int32)
    return Edges(pairs=pairs, balance=balance, faces_at=faces_at, corners=corners)


def wound_one_way(mesh: Mesh) -> Mesh | None:
    """Turn faces over until neighbours agree which side is outside.

    Parameters
    ----------
    mesh : Mesh
        With shared corners.

    Returns
    -------
    Mesh or None
        None when they can't agree, as on a strip with half a twist.

    Notes
    -----
    Each face is two nodes, as it is and turned over; neighbours that agree join like with like, those that don't
    join crosswise. A body whose two nodes fall into one component can't be wound one way.
    """
    corners, number = len(mesh.vertices_mm), len(mesh.faces)
    starts, ends = mesh.faces.ravel().astype(np.int64), mesh.faces[:, [1, 2, 0]].ravel().astype(np.int64)
    keys = np.minimum(starts, ends) * corners + np.maximum(starts, ends)
    order = np.argsort(keys, kind="stable")
    sorted_keys, face, upwards = keys[order], order // 3, (starts < ends)[order]
    joined = sorted_keys[1:] == sorted_keys[:-1]
    one, other, differ = face[:-1][joined], face[1:][joined], upwards[:-1][joined] != upwards[1:][joined]
    # neighbours that agree run their shared edge in opposite directions
    crosswise = np.where(differ, 0, number)
    rows = np.concatenate([one, one + number])
    columns = np.concatenate([other + crosswise, (other + number + crosswise) % (2 * number)])
    graph = coo_array((np.ones(len(rows), dtype=np.int8), (rows, columns)), shape=(2 * number, 2 * number))
    _, labels = connected_components(graph, directed=False)
    as_is, turned = labels[:number], labels[number:]
    if (as_is == turned).any():
        return None
    over = as_is > turned
    faces = mesh.faces.copy()
    faces[over] = faces[over][:, ::-1]
    return Mesh(vertices_mm=mesh.vertices_mm, faces=faces)
