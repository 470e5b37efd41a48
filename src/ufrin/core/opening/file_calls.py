"""What the open interface works out from a mesh file: its measure, its air, its halves, its pulls.

Each function takes a function to report with first, so that it can run in a process of its own; its answer holds
figures and lines only, no mesh.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ufrin.core.master.attitudes import turn_up
from ufrin.core.mesh.cells import Cells, refined_cells
from ufrin.core.mesh.files import MeshFile, in_mm, read
from ufrin.core.mesh.mesh_volume import MeasuredMesh, Method, measure
from ufrin.core.mesh.triangles import Floats
from ufrin.core.opening.parting_surface import box_round, parting_surface
from ufrin.core.opening.pull_directions import SEARCH_FACES, ScoredDirection, ranked
from ufrin.core.opening.trapped_air import Air, Cavity, Pocket, Point3, air_round_master
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused

MOST_BLOCK_FACES, COARSER_CELLS = 150_000, 48
Report = Callable[[object], None]


@dataclass(frozen=True, slots=True, kw_only=True)
class SentFile:
    """A mesh file as it was sent, the unit it is to be read in, and the cells along its longest side."""

    data: bytes
    name: str
    unit: str
    cells: int


@dataclass(frozen=True, slots=True, kw_only=True)
class FileMeasure:
    """The measure of a mesh file."""

    format: str
    triangles: int
    watertight: bool
    bodies: int
    volume_ml: float
    plus_minus_ml: float
    area_cm2: float
    bounds_mm: tuple[tuple[float, ...], ...]
    method: Method
    findings: tuple[Finding, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class FileAir:
    """The pockets of air in a mesh file's rubber or cast, in the mesh's own coordinates, the largest first."""

    pockets: tuple[Pocket, ...]
    cell_mm: float
    method: Method
    findings: tuple[Finding, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class FileHalves:
    """The two halves of a mould round a mesh file, and its split lines in the mesh's own coordinates."""

    locked_ml: float
    overhang_ml: float
    master_ml: float
    box_ml: float
    upper_ml: float
    lower_ml: float
    lines_mm: tuple[tuple[tuple[float, ...], ...], ...]
    flatness_mm: float
    film_ml: float
    method: Method
    findings: tuple[Finding, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class FilePulls:
    """The pull directions of a mesh file, best first."""

    pulls: tuple[ScoredDirection, ...]
    findings: tuple[Finding, ...]


def measure_sent(report: Report, sent: SentFile) -> FileMeasure:
    """Measure a mesh file.

    Parameters
    ----------
    report : function
        Receives the share that is done.
    sent : SentFile
        The file.

    Returns
    -------
    FileMeasure
        Its volume, surface and soundness.
    """
    got = read(sent.data, sent.name)
    report(0.5)
    found = measure(in_mm(got.mesh, sent.unit), cells=sent.cells)
    return FileMeasure(
        format=got.format,
        triangles=got.triangles,
        watertight=found.watertight,
        bodies=found.bodies,
        volume_ml=found.volume_ml,
        plus_minus_ml=found.plus_minus_ml,
        area_cm2=found.area_cm2,
        bounds_mm=tuple(tuple(corner) for corner in found.solid.bounds_mm.tolist()),
        method=found.method,
        findings=(*found.findings, *_unit_notes(got, sent.unit)),
    )


def _unit_notes(got: MeshFile, unit: str) -> tuple[Finding, ...]:
    if got.says_unit in {"", unit}:
        return ()
    return (Finding(code="mesh-unit", facts={"says": got.says_unit, "taken": unit}),)


def _measured(report: Report, sent: SentFile) -> MeasuredMesh:
    got = read(sent.data, sent.name)
    notes = _unit_notes(got, sent.unit)
    mesh = in_mm(got.mesh, sent.unit)
    found = measure(mesh)
    # the more a mesh is torn, the more faces its cells have
    if found.method == "voxel" and len(found.solid.faces) > MOST_BLOCK_FACES:
        found = measure(mesh, cells=COARSER_CELLS)
        notes = (*notes, Finding(code="mesh-thinned"))
    report(0.3)
    return replace(found, findings=(*found.findings, *notes))


def air_round_sent(
    report: Report, sent: SentFile, *, up: Point3, under_mm: float, is_open_beside: bool, is_open_over: bool
) -> FileAir:
    """Find the air that stays under a master as rubber rises round it.

    Parameters
    ----------
    report : function
        Receives the share that is done.
    sent : SentFile
        The master.
    up : (x, y, z)
        In its own coordinates.
    under_mm : float
        From the board to its lowest point.
    is_open_beside, is_open_over : bool
        Whether there is room beside it and over it.

    Returns
    -------
    FileAir
        The pockets.
    """
    measured, turn = _measured(report, sent), turn_up(up)
    mesh = measured.solid.moved(turn)
    solid, used = refined_cells(mesh, sent.cells)
    foot = float(mesh.bounds_mm[0, 2])
    air = air_round_master(solid, board_mm=foot - under_mm, is_open_beside=is_open_beside, is_open_over=is_open_over)
    unsure = _cell_findings(solid, sent.cells, used, float(mesh.extents_mm.max()))
    return _air_found(measured, air, turn, unsure)


def air_in_sent(report: Report, sent: SentFile, *, up: Point3, gates: list[Point3], vents: list[Point3]) -> FileAir:
    """Find the air that stays in a mould's cavity as the cast rises in it.

    Parameters
    ----------
    report : function
        Receives the share that is done.
    sent : SentFile
        The cast.
    up : (x, y, z)
        In its own coordinates.
    gates, vents : list of (x, y, z)
        Where it is open; without a gate, at its highest points.

    Returns
    -------
    FileAir
        The pockets.

    Raises
    ------
    Refused
        When a gate or a vent lies away from the cavity.
    """
    measured, turn = _measured(report, sent), turn_up(up)
    mesh = measured.solid.moved(turn)
    solid, used = refined_cells(mesh, sent.cells)
    cavity = Cavity(solid=solid, turn=turn)
    outlets = cavity.outlets(np.array(gates) @ turn.T if gates else cavity.highest())
    if vents:
        try:
            outlets = outlets | cavity.outlets(np.array(vents) @ turn.T)
        except Refused as refused:
            raise Refused("vents", refused.why) from None
    unsure = _cell_findings(solid, sent.cells, used, float(mesh.extents_mm.max()))
    return _air_found(measured, cavity.air(outlets), turn, unsure)


def _air_found(measured: MeasuredMesh, air: Air, turn: Floats, unsure: list[Finding]) -> FileAir:
    found = [*measured.findings, *unsure]
    if air.closed_ml:
        found.append(Finding(code="air-closed", facts={"volume": Amount(air.closed_ml, "volume", 2)}))
    pockets = []
    for one in air.pockets:
        if one.matters:
            x, y, z = np.array(one.peak_mm) @ turn
            pockets.append(replace(one, peak_mm=(float(x), float(y), float(z))))
    return FileAir(pockets=tuple(pockets), cell_mm=air.room.cell_mm, method=measured.method, findings=tuple(found))


def _cell_findings(solid: Cells, wanted: int, used: int, longest_mm: float) -> list[Finding]:
    # walls that were thinner than the cells asked for, or finer cells that were used for them
    if solid.thin_mm is not None:
        cells = str(int(1.3 * longest_mm / max(solid.thin_mm, longest_mm / 9999)) + 1)
        return [Finding(code="wall-too-thin", facts={"thin": Amount(solid.thin_mm, "length", 2), "cells": cells})]
    return [Finding(code="cells-raised", facts={"cells": str(used), "asked": str(wanted)})] if used > wanted else []


def part_sent(
    report: Report, sent: SentFile, *, pull: Point3, side_mm: float, over_mm: float, under_mm: float, slack_mm: float
) -> FileHalves:
    """Part a mould round a mesh file in two halves.

    Parameters
    ----------
    report : function
        Receives the share that is done.
    sent : SentFile
        The master.
    pull : (x, y, z)
        In its own coordinates.
    side_mm, over_mm, under_mm : float
        The box beyond the master.
    slack_mm : float
        How far the parting surface may leave the flattest course.

    Returns
    -------
    FileHalves
        The rubber of each half, and the split lines.
    """
    measured, turn = _measured(report, sent), turn_up(pull)
    mesh = measured.solid.moved(turn)
    made = parting_surface(
        mesh,
        box_round(mesh, side_mm),
        under_mm=under_mm,
        over_mm=over_mm,
        cells=sent.cells,
        slack_mm=slack_mm,
        volume_ml=measured.volume_ml,
    )
    lines = [(np.vstack([seam.points_mm, seam.points_mm[:1]]) @ turn).round(4).tolist() for seam in made.seams]
    lost = (Finding(code="rays-lost", facts={"rays": str(made.lost)}),) if made.lost else ()
    return FileHalves(
        locked_ml=made.locked_ml,
        overhang_ml=made.overhang_ml,
        master_ml=made.master_ml,
        box_ml=made.box_ml,
        upper_ml=made.upper_ml,
        lower_ml=made.lower_ml,
        lines_mm=tuple(tuple(tuple(point) for point in line) for line in lines),
        flatness_mm=made.flatness_mm,
        film_ml=made.film_ml,
        method=measured.method,
        findings=(*measured.findings, *lost),
    )


def rank_sent(report: Report, sent: SentFile, *, count: int) -> FilePulls:
    """Rank the pull directions of a mesh file.

    Parameters
    ----------
    report : function
        Receives the share that is done.
    sent : SentFile
        The master.
    count : int
        Directions over the sphere.

    Returns
    -------
    FilePulls
        Best first.
    """
    measured = _measured(report, sent)
    found = ranked(measured.solid, count, sent.cells)
    thinned = (Finding(code="mesh-thinned"),) if len(measured.solid.faces) > SEARCH_FACES else ()
    return FilePulls(pulls=tuple(found), findings=(*measured.findings, *thinned))
