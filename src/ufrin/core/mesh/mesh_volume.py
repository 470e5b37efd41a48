"""The volume of a mesh: exact where it is closed, by uniting its bodies or filling cells where it is not."""

from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np
from manifold3d import Error, Manifold, OpType

from ufrin.core.mesh.manifolds import from_manifold, manifold
from ufrin.core.mesh.mesh_bodies import cavities, homes_of, meet, overlaps, without_walls_inside
from ufrin.core.mesh.mesh_filling import Filled, blocks, fill_mesh
from ufrin.core.mesh.triangles import Edges, Floats, Mesh, Whole, edges, face_sums, snapped, wound_one_way
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused
from ufrin.language import Text

MOST_BODIES, SNAPPED_FACES = 2000, 400_000
CELLS = 128  # along the longest side, for filling with cells
LEAST_SHARE = 1e-9  # of the box round it: less does not count as a volume
ROUNDING = 2e-6  # of the longest side: corners nearer than that were one corner before the file was rounded
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
        Of the solid, and the error of the method.
    area_cm2 : float
        Of the solid's surface.
    method : "exact", "union" or "voxel"
        How the volume was found.
    solid : Mesh
        Closed; everything else is computed from it.
    findings : tuple of Finding
        What was repaired and what is in doubt.
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
        When it encloses no volume or falls into thousands of bodies.

    Notes
    -----
    Closed and free of overlaps: V is the sum of signed tetrahedra over the faces (divergence theorem). Overlapping
    bodies are united by manifold3d. Open or self-crossing ones are filled by rays along three axes, a cell being
    solid when most rays that balance agree; flat caps over the holes are taken as the solid where their volume
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
            Text(
                "It falls into {count} separate bodies; {most_bodies} is the most. Join its pieces "
                "into one solid before exporting.",
                count=count,
                most_bodies=MOST_BODIES,
            ),
        )
    if met.is_closed and (met.faces_at > 2).any():
        mesh = without_walls_inside(mesh)
        met = edges(mesh)
        count, of_corner = met.body_of_corner()
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
        over = inside_out if count == 1 else inside_out & ~cavities(mesh, body, by_body)
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
    if overlaps(mesh) or (count > 1 and meet(mesh, body, count)):
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


def as_displaced(measured: MeasuredMesh) -> MeasuredMesh:
    """Return a measured mesh as liquid sees it: hollows that are closed all round count as solid.

    Parameters
    ----------
    measured : MeasuredMesh
        As it is.

    Returns
    -------
    MeasuredMesh
        The same where it has no closed hollow; else its outside, with a finding that says so.
    """
    solid = measured.solid
    count, of_corner = edges(solid).body_of_corner()
    body = of_corner[solid.faces[:, 0]]
    volumes, areas = face_sums(solid)
    by_body = np.bincount(body, weights=volumes, minlength=count)
    if not (by_body < 0).any():
        return measured
    is_outer = by_body > 0
    hollow_ml = -float(by_body[~is_outer].sum()) / 1000
    told = Finding(code="mesh-hollow-counted", facts={"hollow": Amount(hollow_ml, "volume", 1)})
    return replace(
        measured,
        volume_ml=measured.volume_ml + hollow_ml,
        area_cm2=float(areas[is_outer[body]].sum()) / 100,
        solid=solid.part(is_outer[body]),
        findings=worst_first([*(one for one in measured.findings if one.code != "mesh-cavity"), told]),
    )


def _turned_over(mesh: Mesh) -> Mesh:
    return Mesh(vertices_mm=mesh.vertices_mm, faces=np.ascontiguousarray(mesh.faces[:, ::-1]))


def _check_volume(mesh: Mesh, volume_mm3: float) -> None:
    # relative to the cube over its longest side: a sheet has no volume whatever the box round it
    if not volume_mm3 > LEAST_SHARE * float(mesh.extents_mm.max()) ** 3:
        raise Refused(
            "file",
            Text(
                "It holds no volume: it is a flat sheet, or its faces cancel each other. Give it "
                "thickness and export it again."
            ),
        )


def _united(mesh: Mesh, body: Whole, by_body: Floats, found: list[Finding], cells: int) -> MeasuredMesh:
    count = len(by_body)
    homes = homes_of(mesh, body, by_body) if (by_body < 0).any() else {}
    solids = []
    for label in np.flatnonzero(by_body > 0):
        solid = manifold(mesh.part(body == label))
        for inner in (inner for inner, home in homes.items() if home == label):
            solid -= manifold(_turned_over(mesh.part(body == inner)))
        solids.append(solid)
    if count > 1 and all(solid.status() == Error.NoError for solid in solids):
        made = Manifold.batch_boolean(solids, OpType.Add)
        solid_mesh = from_manifold(made) if made.num_tri() else None
        if solid_mesh is not None and edges(solid_mesh).is_closed and not overlaps(solid_mesh):
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
    filled = fill_mesh(mesh, cells, odd=False)
    found.append(Finding(code="mesh-crosses", facts={"error": Amount(filled.plus_minus_mm3 / 1000, "volume", 1)}))
    return _voxel(filled, True, count, found)


def _open(mesh: Mesh, holes: int, count: int, found: list[Finding], cells: int) -> MeasuredMesh:
    filled = fill_mesh(mesh, cells, odd=True)
    _check_volume(mesh, filled.volume_mm3)
    wound = mesh if holes == 0 else wound_one_way(mesh)
    capped = _capped(wound) if wound is not None else None
    if capped is not None:
        volume = capped.volume_mm3
        if volume < 0:
            capped = _turned_over(capped)
        agrees = abs(abs(volume) - filled.volume_mm3) <= filled.plus_minus_mm3 + 0.02 * filled.volume_mm3
        if agrees and not overlaps(capped):
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


def _voxel(filled: Filled, watertight: bool, count: int, found: list[Finding]) -> MeasuredMesh:
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
    # a fan from the middle of each rim; a cone over a closed chain of edges closes it, whatever the order of the edges
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
