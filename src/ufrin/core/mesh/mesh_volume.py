"""Measuring a mesh: its volume by the divergence theorem where it is closed, by uniting its bodies or filling voxels where it is not; never silently wrong."""

from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from manifold3d import Error, Manifold, OpType
from manifold3d import Mesh64 as Loose

from ufrin.core.mesh.rays import Columns, columns, grid
from ufrin.core.mesh.triangles import (
    Edges,
    Flags,
    Floats,
    Mesh,
    Whole,
    edges,
    face_sums,
    merged,
    snapped,
    wound_one_way,
)
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused

MOST_BODIES, SNAPPED_FACES = 2000, 400_000
CELLS = 128  # along the longest side, for voxels
CHECK_CELLS = 96  # rays that look for bodies inside each other
LEAST_SHARE = 1e-9  # of the box round it: less is no volume
ROUNDING = 2e-6  # of the longest side: corners nearer than that were one before the file was rounded


Method = Literal["exact", "union", "voxel"]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MeasuredMesh:
    """A mesh measured.

    Parameters
    ----------
    watertight : bool
        Whether the faces, as they came, bound a volume.
    bodies : int
        Pieces that hang together.
    volume_ml, plus_minus_ml : float
        Of the solid, and how far off the method may be.
    area_cm2 : float
        Of the solid's surface.
    method : "exact", "union" or "voxel"
        How the volume was found.
    solid : Mesh
        Closed; what everything later is worked out from.
    findings : tuple of Finding
        What was mended and what is in doubt.
    """

    watertight: bool
    bodies: int
    volume_ml: float
    plus_minus_ml: float
    area_cm2: float
    method: Method
    solid: Mesh
    findings: tuple[Finding, ...] = field(default=())


def measure(mesh: Mesh, *, cells: int = CELLS) -> MeasuredMesh:
    """Measure a mesh.

    Parameters
    ----------
    mesh : Mesh
        In mm, corners shared.
    cells : int, optional
        Along the longest side, where it has to be filled.

    Returns
    -------
    MeasuredMesh
        Volume, surface and a closed solid.

    Raises
    ------
    Refused
        When it holds no volume or falls into thousands of bodies.

    Notes
    -----
    Closed and free of overlaps: V is the sum of signed tetrahedra over the faces (divergence theorem). Overlapping
    bodies are united by manifold3d. Open or self-crossing ones are filled by rays along three axes, a cell being
    solid when most rays that balance say so; flat caps over the holes are taken as the solid where their volume
    agrees with that filling.
    """
    found: list[Finding] = []
    met = edges(mesh)
    count, of_corner = met.body_of_corner()
    if met.open_count and (count <= MOST_BODIES or len(mesh.faces) < SNAPPED_FACES):
        closer = snapped(mesh, float(mesh.extents_mm.max()) * ROUNDING)
        met_closer = edges(closer)
        if met_closer.is_closed:
            mesh, met = closer, met_closer
            count, of_corner = met.body_of_corner()
    if count > MOST_BODIES:
        raise Refused(
            "file",
            f"It falls into {count} separate bodies; {MOST_BODIES} is the most. Join its pieces into one "
            "solid before exporting.",
        )
    if not met.is_closed and not met.open_count:
        turned = wound_one_way(mesh)
        if turned is not None:
            mesh, met = turned, edges(turned)
            found.append(Finding(code="mesh-flipped"))
    if not met.is_closed:
        return _open(mesh, met.open_count, count, found, cells)
    return _closed(mesh, count, of_corner[mesh.faces[:, 0]].astype(np.int32), found, cells)


def _closed(mesh: Mesh, count: int, body: Whole, found: list[Finding], cells: int) -> MeasuredMesh:
    volumes, areas = face_sums(mesh)
    by_body: Floats = np.bincount(body, weights=volumes, minlength=count).astype(np.float64)
    _check_volume(mesh, float(np.abs(by_body).sum()))
    inside_out = by_body < 0
    if inside_out.any():
        over = inside_out if count == 1 else inside_out & ~_cavities(mesh, body, by_body)
        if over.any():
            faces = mesh.faces.copy()
            faces[over[body]] = faces[over[body]][:, ::-1]
            mesh = Mesh(vertices_mm=mesh.vertices_mm, faces=faces)
            by_body = np.where(over, -by_body, by_body)
            if not any(finding.code == "mesh-flipped" for finding in found):
                found.append(Finding(code="mesh-flipped"))
    _check_volume(mesh, float(by_body.sum()))
    area_cm2 = float(areas.sum()) / 100
    if (by_body < 0).any():
        hollow_ml = -float(by_body[by_body < 0].sum()) / 1000
        found.append(Finding(code="mesh-cavity", facts={"hollow": Amount(hollow_ml, "volume", 1)}))
    if _overlaps(mesh):
        return _united(mesh, body, by_body, found, cells)
    return MeasuredMesh(
        watertight=True,
        bodies=count,
        volume_ml=float(by_body.sum()) / 1000,
        plus_minus_ml=0.0,
        area_cm2=area_cm2,
        method="exact",
        solid=mesh,
        findings=worst_first(found),
    )


def _turned_over(mesh: Mesh) -> Mesh:
    return Mesh(vertices_mm=mesh.vertices_mm, faces=np.ascontiguousarray(mesh.faces[:, ::-1]))


def _check_volume(mesh: Mesh, volume_mm3: float) -> None:
    # against the cube over its longest side: a sheet has no volume whatever the box round it
    if not volume_mm3 > LEAST_SHARE * float(mesh.extents_mm.max()) ** 3:
        raise Refused(
            "file",
            "It holds no volume: it is a flat sheet, or its faces cancel each other. Give it thickness and "
            "export it again.",
        )


def _overlaps(mesh: Mesh) -> bool:
    low, cell, shape = grid(mesh, CHECK_CELLS)
    seen = columns(mesh, axis=2, low_mm=low, cell_mm=cell, shape=shape)
    winding = seen.winding()
    if not len(winding):
        return False
    # faces that touch cross a ray in one place in either order: only a stretch with some length counts
    long_enough = np.diff(seen.height_mm, append=seen.height_mm[-1]) > cell * 1e-6
    return bool(((winding < 0) | (winding > 1))[long_enough].any())


def winding_number(mesh: Mesh, point_mm: Floats) -> float:
    """Tell how many times a closed surface winds round a point.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    point_mm : (3,) float
        Not on the surface.

    Returns
    -------
    float
        1 inside, 0 outside: the solid angle of all faces over 4 pi (Van Oosterom and Strackee 1983, The solid
        angle of a plane triangle).
    """
    a, b, c = (mesh.vertices_mm[mesh.faces[:, corner]] - point_mm for corner in range(3))
    la, lb, lc = (np.linalg.norm(side, axis=1) for side in (a, b, c))
    over = np.einsum("ij,ij->i", a, np.cross(b, c))
    under = (
        la * lb * lc
        + np.einsum("ij,ij->i", a, b) * lc
        + np.einsum("ij,ij->i", b, c) * la
        + np.einsum("ij,ij->i", c, a) * lb
    )
    return float(np.arctan2(over, under).sum() / (2 * np.pi))


def _homes(mesh: Mesh, body: Whole, by_body: Floats) -> dict[int, int]:
    # each inside-out body that lies in another, with the smallest such body
    firsts = {
        int(label): mesh.vertices_mm[mesh.faces[np.argmax(body == label), 0]] for label in np.flatnonzero(by_body < 0)
    }
    if len(firsts) > 200:
        raise Refused(
            "file",
            f"{len(firsts)} of its bodies are inside out. Check the normals in the program that made it and "
            "export it again.",
        )
    homes = {}
    for label in np.argsort(-by_body):
        if by_body[label] > 0 and firsts:
            outer = mesh.part(body == label)
            low, high = outer.bounds_mm
            for inner, point in firsts.items():
                if (point > low).all() and (point < high).all() and winding_number(outer, point) > 0.5:
                    homes[inner] = int(label)
    return homes


def _cavities(mesh: Mesh, body: Whole, by_body: Floats) -> Flags:
    inner = np.zeros(len(by_body), dtype=bool)
    inner[list(_homes(mesh, body, by_body))] = True
    return inner


def manifold(mesh: Mesh) -> Manifold:
    """Hand a closed mesh to manifold3d.

    Parameters
    ----------
    mesh : Mesh
        Closed, wound one way.

    Returns
    -------
    Manifold
        Its status tells whether it was taken.
    """
    return Manifold(Loose(mesh.vertices_mm.astype(np.float64), mesh.faces.astype(np.uint64)))


def from_manifold(made: Manifold) -> Mesh:
    """Take a mesh back from manifold3d.

    Parameters
    ----------
    made : Manifold
        Not empty.

    Returns
    -------
    Mesh
        With corners shared.
    """
    got = made.to_mesh64()
    return merged(
        Mesh(
            vertices_mm=np.asarray(got.vert_properties[:, :3], dtype=np.float64),
            faces=np.asarray(got.tri_verts, dtype=np.int32),
        )
    )


def _united(mesh: Mesh, body: Whole, by_body: Floats, found: list[Finding], cells: int) -> MeasuredMesh:
    count = len(by_body)
    homes = _homes(mesh, body, by_body) if (by_body < 0).any() else {}
    solids = []
    for label in np.flatnonzero(by_body > 0):
        solid = manifold(mesh.part(body == label))
        for inner in (inner for inner, home in homes.items() if home == label):
            solid -= manifold(_turned_over(mesh.part(body == inner)))
        solids.append(solid)
    if count > 1 and all(solid.status() == Error.NoError for solid in solids):
        made = Manifold.batch_boolean(solids, OpType.Add)
        solid_mesh = from_manifold(made) if made.num_tri() else None
        if solid_mesh is not None and edges(solid_mesh).is_closed and not _overlaps(solid_mesh):
            found.append(Finding(code="mesh-united", facts={"bodies": str(count)}))
            return MeasuredMesh(
                watertight=True,
                bodies=count,
                volume_ml=solid_mesh.volume_mm3 / 1000,
                plus_minus_ml=0.0,
                area_cm2=solid_mesh.area_mm2 / 100,
                method="union",
                solid=solid_mesh,
                findings=worst_first(found),
            )
    filled = _fill(mesh, cells, odd=False)
    found.append(Finding(code="mesh-crosses", facts={"error": Amount(filled.plus_minus_mm3 / 1000, "volume", 1)}))
    return _voxel(filled, True, count, found)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Filled:
    """Voxels of a mesh: the cells, their volume, and how far off it may be."""

    cells: Flags
    low_mm: Floats
    cell_mm: float
    volume_mm3: float
    plus_minus_mm3: float


def _vote(mesh: Mesh, cells: int, odd: bool) -> tuple[Flags, Floats, float]:
    low, cell, shape = grid(mesh, cells)
    votes, voters = np.zeros(shape, dtype=np.int8), np.zeros(shape, dtype=np.int8)
    for axis in range(3):
        cast = columns(mesh, axis=axis, low_mm=low, cell_mm=cell, shape=shape)
        fair = _crossed_evenly(cast) if odd else cast.balanced()
        votes += cast.kept(fair).filled(odd=odd)
        first, second = [one for one in range(3) if one != axis]
        voters += np.expand_dims(fair.reshape(shape[first], shape[second]), axis)
    return (votes * 2 > voters) & (voters > 0), low, cell


def _crossed_evenly(cast: Columns) -> Flags:
    return np.asarray(np.bincount(cast.ray, minlength=cast.rays) % 2 == 0)


def _fill(mesh: Mesh, along: int, *, odd: bool) -> _Filled:
    cells, low, cell = _vote(mesh, along, odd)
    volume = float(cells.sum()) * cell**3
    other, _, other_cell = _vote(mesh, along * 3 // 4, odd)
    apart = abs(float(other.sum()) * other_cell**3 - volume)
    return _Filled(cells=cells, low_mm=low, cell_mm=cell, volume_mm3=volume, plus_minus_mm3=apart + 0.005 * volume)


def _open(mesh: Mesh, holes: int, count: int, found: list[Finding], cells: int) -> MeasuredMesh:
    filled = _fill(mesh, cells, odd=True)
    _check_volume(mesh, filled.volume_mm3)
    wound = mesh if holes == 0 else wound_one_way(mesh)
    capped = _capped(wound) if wound is not None else None
    if capped is not None:
        volume = capped.volume_mm3
        if volume < 0:
            capped = _turned_over(capped)
        agrees = abs(abs(volume) - filled.volume_mm3) <= filled.plus_minus_mm3 + 0.02 * filled.volume_mm3
        if agrees and not _overlaps(capped):
            error_mm3 = max(abs(abs(volume) - filled.volume_mm3), 0.005 * filled.volume_mm3)
            found.append(
                Finding(code="mesh-capped", facts={"edges": str(holes), "error": Amount(error_mm3 / 1000, "volume", 1)})
            )
            return MeasuredMesh(
                watertight=False,
                bodies=count,
                volume_ml=abs(volume) / 1000,
                plus_minus_ml=error_mm3 / 1000,
                area_cm2=capped.area_mm2 / 100,
                method="voxel",
                solid=capped,
                findings=worst_first(found),
            )
    found.append(
        Finding(
            code="mesh-open", facts={"edges": str(holes), "error": Amount(filled.plus_minus_mm3 / 1000, "volume", 1)}
        )
    )
    return _voxel(filled, False, count, found)


def _voxel(filled: _Filled, watertight: bool, count: int, found: list[Finding]) -> MeasuredMesh:
    solid = blocks(filled.cells, filled.low_mm, filled.cell_mm)
    return MeasuredMesh(
        watertight=watertight,
        bodies=count,
        volume_ml=filled.volume_mm3 / 1000,
        plus_minus_ml=filled.plus_minus_mm3 / 1000,
        area_cm2=solid.area_mm2 / 100,
        method="voxel",
        solid=solid,
        findings=worst_first(found),
    )


def _capped(mesh: Mesh) -> Mesh | None:
    # over each rim, a fan from its middle; a cone over a closed chain of edges closes it, whatever the order of
    # the edges
    starts, ends = mesh.faces.ravel().astype(np.int64), mesh.faces[:, [1, 2, 0]].ravel().astype(np.int64)
    number = len(mesh.vertices_mm)
    keys = starts * number + ends
    rim = ~np.isin(keys, ends * number + starts)
    if not rim.any():
        return None
    a, b = starts[rim], ends[rim]
    used, ids = np.unique(np.concatenate([a, b]), return_inverse=True)
    pairs = np.sort(ids.reshape(2, -1).T, axis=1)
    pairs = pairs[np.lexsort((pairs[:, 1], pairs[:, 0]))].astype(np.int32)
    ones = np.ones(len(pairs), dtype=np.int32)
    count, loop = Edges(pairs=pairs, balance=ones, faces_at=ones, corners=len(used)).body_of_corner()
    weight = np.bincount(loop, minlength=count)
    middles = np.stack(
        [np.bincount(loop, weights=mesh.vertices_mm[used, axis], minlength=count) / weight for axis in range(3)], axis=1
    )
    fans = np.stack([b, a, number + loop[ids[: len(a)]]], axis=1)
    closed = Mesh(
        vertices_mm=np.concatenate([mesh.vertices_mm, middles]),
        faces=np.concatenate([mesh.faces, fans]).astype(np.int32),
    )
    return closed if edges(closed).is_closed else None


def blocks(cells: Flags, low_mm: Floats, cell_mm: float) -> Mesh:
    """Give the surface of filled cells, two triangles to each face that meets air.

    Parameters
    ----------
    cells : (nx, ny, nz) bool
        At least one filled.
    low_mm : (3,) float
        Corner of the grid.
    cell_mm : float
        Edge of a cell.

    Returns
    -------
    Mesh
        Closed.
    """
    padded = np.pad(cells, 1)
    corners = []
    for axis in range(3):
        one, other = [i for i in range(3) if i != axis]
        for side in (0, 1):
            neighbour = np.roll(padded, -1 if side else 1, axis=axis)
            at = np.argwhere(padded & ~neighbour) - 1
            quad = np.zeros((len(at), 4, 3), dtype=np.int64)
            quad[:] = at[:, None, :]
            quad[:, :, axis] += side
            quad[:, [1, 2], one] += 1
            quad[:, [2, 3], other] += 1
            # counter-clockwise from outside
            corners.append(quad if (side == 1) != (axis == 1) else quad[:, ::-1])
    quads = np.concatenate(corners)
    keys = (quads[..., 0] * (cells.shape[1] + 1) + quads[..., 1]) * (cells.shape[2] + 1) + quads[..., 2]
    used, ids = np.unique(keys, return_inverse=True)
    ids = ids.reshape(-1, 4)
    lattice = np.stack(np.unravel_index(used, [size + 1 for size in cells.shape]), axis=1)
    faces = np.concatenate([ids[:, [0, 1, 2]], ids[:, [0, 2, 3]]]).astype(np.int32)
    return Mesh(vertices_mm=low_mm + lattice * cell_mm, faces=faces)
