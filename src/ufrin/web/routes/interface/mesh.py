"""The open interface's calls that take a mesh: multipart, the file with its form fields."""

import re
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from pydantic import BaseModel

from ufrin.core.master.attitudes import turn_up
from ufrin.core.mesh.cells import MOST_CELLS, Voxels, refined_voxels
from ufrin.core.mesh.files import in_mm, read
from ufrin.core.mesh.mesh_volume import Measured, measure
from ufrin.core.opening.parting_surface import box_round, split
from ufrin.core.opening.pull_directions import SEARCH_FACES, ranked
from ufrin.core.opening.trapped_air import Air, Cavity, Point, round_a_master
from ufrin.core.wording.findings import Amount
from ufrin.core.wording.findings import Finding as CoreFinding
from ufrin.errors import Refused, TooLarge
from ufrin.web.routes.interface.mix_box_hardness import Finding, said

router = APIRouter()
Unit = Literal["mm", "cm", "m", "in"]


class MeasureOut(BaseModel):
    """A mesh measured."""

    format: str
    triangles: int
    watertight: bool
    bodies: int
    volume_ml: float
    plus_minus_ml: float
    area_cm2: float
    bounds_mm: list[list[float]]
    method: Literal["exact", "union", "voxel"]
    findings: list[Finding]


async def _known_fields(request: Request) -> None:
    # what the framework would pass over in silence is refused, as everywhere in the interface
    route = request.scope["route"]
    known = {field.name for field in route.dependant.body_params}
    for name in await request.form():
        if name not in known:
            raise Refused(name, "This field is not known here; see /api/docs for the names.")


class PocketOut(BaseModel):
    """Air that stays."""

    ml: float
    plus_minus_ml: float
    peak_mm: list[float]
    depth_mm: float


class AirOut(BaseModel):
    """Air that rising liquid leaves behind, the largest pocket first."""

    trapped_ml: float
    cell_mm: float
    pockets: list[PocketOut]
    method: Literal["exact", "union", "voxel"]
    findings: list[Finding]


class SplitOut(BaseModel):
    """A mould in two halves."""

    locked_ml: float
    overhang_ml: float
    master_ml: float
    box_ml: float
    halves_ml: list[float]
    clay_ml: float
    parting_mm: list[list[list[float]]]
    flatness_mm: float
    film_ml: float
    method: Literal["exact", "union", "voxel"]
    findings: list[Finding]


class DirectionOut(BaseModel):
    """A pull direction with what it costs."""

    pull: list[float]
    locked_ml: float
    overhang_ml: float
    trapped_ml: float


class DirectionsOut(BaseModel):
    """Pull directions, best first."""

    directions: list[DirectionOut]
    findings: list[Finding]


Clearance = Annotated[float, Form(ge=0, le=10_000)]
Cells = Annotated[int, Form(ge=24, le=MOST_CELLS)]
_NUMBER = re.compile(r"[-+]?(\d{1,9}(\.\d{0,12})?|\.\d{1,12})([eE][-+]?\d{1,2})?")
MOST_POINTS, FARTHEST_MM = 100, 1e5
MOST_BLOCK_FACES, COARSER_CELLS = 150_000, 48


@dataclass(frozen=True, slots=True, kw_only=True)
class _Sent:
    """A mesh as it was sent: measured, in mm."""

    measured: Measured
    notes: tuple[CoreFinding, ...]


def _check_size(request: Request, file: UploadFile) -> None:
    limit = request.app.state.settings.mesh_limit_bytes
    if (file.size or 0) > limit:
        raise TooLarge(limit, file=True)


def _taken(request: Request, file: UploadFile, units: Unit) -> _Sent:
    _check_size(request, file)
    got = read(file.file.read(), file.filename or "")
    notes = (CoreFinding(code="mesh-unit", facts={"says": got.says_unit, "taken": units}),) if got.says_unit not in {"", units} else ()
    mesh = in_mm(got.mesh, units)
    measured = measure(mesh)
    if measured.method == "voxel" and len(measured.solid.faces) > MOST_BLOCK_FACES:  # the more it is torn, the more faces its cells have
        measured = measure(mesh, cells=COARSER_CELLS)
        notes = (*notes, CoreFinding(code="mesh-thinned"))
    return _Sent(measured=measured, notes=notes)


def _points(field: str, text: str) -> list[Point]:
    found: list[Point] = []
    for one in (part for part in text.split(";") if part.strip()):
        words = [word.strip() for word in one.split(",")]
        if len(words) != 3 or not all(_NUMBER.fullmatch(word) for word in words):
            raise Refused(field, f"“{one.strip()[:60]}” is not a point: three numbers x,y,z, and a semicolon between points.")
        x, y, z = (float(word) for word in words)
        if max(abs(x), abs(y), abs(z)) > FARTHEST_MM:
            raise Refused(field, "A point lies within 100 m of the mesh's origin.")
        found.append((x, y, z))
    if len(found) > MOST_POINTS:
        raise Refused(field, f"{MOST_POINTS} points are the most.")
    return found


def _direction(field: str, text: str) -> Point:
    found = _points(field, text)
    if len(found) != 1 or sum(number**2 for number in found[0]) < 1e-18:
        raise Refused(field, "A direction is three numbers x,y,z, and needs some length: 0,0,1 is straight up.")
    return found[0]


def _told_of(solid: Voxels, asked: int, took: int, longest_mm: float) -> list[CoreFinding]:
    if solid.thin_mm is not None:
        cells = str(int(1.3 * longest_mm / max(solid.thin_mm, longest_mm / 9999)) + 1)
        return [CoreFinding(code="wall-too-thin", facts={"thin": Amount(solid.thin_mm, "length", 2), "cells": cells})]
    return [CoreFinding(code="cells-raised", facts={"cells": str(took), "asked": str(asked)})] if took > asked else []


@router.post("/api/v1/mesh/measure", summary="Volume, surface and soundness of a mesh", dependencies=[Depends(_known_fields)])
def measure_mesh(
    request: Request, file: Annotated[UploadFile, File()], units: Annotated[Unit, Form()] = "mm", cells: Annotated[int, Form(ge=24, le=320)] = 128
) -> MeasureOut:
    """Measure an STL, OBJ, PLY, 3MF, OFF or GLB file."""
    _check_size(request, file)
    got = read(file.file.read(), file.filename or "")
    found = measure(in_mm(got.mesh, units), cells=cells)
    notes = [CoreFinding(code="mesh-unit", facts={"says": got.says_unit, "taken": units})] if got.says_unit not in {"", units} else []
    return MeasureOut(
        format=got.format,
        triangles=got.triangles,
        watertight=found.watertight,
        bodies=found.bodies,
        volume_ml=found.volume_ml,
        plus_minus_ml=found.plus_minus_ml,
        area_cm2=found.area_cm2,
        bounds_mm=found.solid.bounds_mm.tolist(),
        method=found.method,  # type: ignore[arg-type]
        findings=said((*found.findings, *notes)),
    )


@router.post("/api/v1/mesh/air", summary="Air that stays, in the rubber or in the cast", dependencies=[Depends(_known_fields)])
def mesh_air(
    request: Request,
    file: Annotated[UploadFile, File()],
    phase: Annotated[Literal["rubber", "cast"], Form()],
    units: Annotated[Unit, Form()] = "mm",
    cells: Cells = 128,
    up: Annotated[str, Form(max_length=200)] = "0,0,1",
    under_mm: Clearance = 0.0,
    side_mm: Clearance = 10.0,
    over_mm: Clearance = 10.0,
    gates: Annotated[str, Form(max_length=8000)] = "",
    vents: Annotated[str, Form(max_length=8000)] = "",
) -> AirOut:
    """Find where air stays as liquid rises. Points and directions are in the mesh's own coordinates, in mm."""
    if phase == "rubber" and (gates.strip() or vents.strip()):
        raise Refused("gates" if gates.strip() else "vents", "Gates and vents belong to the cast; the rubber's outlet is the open top of the box.")
    turn = turn_up(_direction("up", up))
    openings, holes = _points("gates", gates), _points("vents", vents)
    sent = _taken(request, file, units)
    mesh = sent.measured.solid.moved(turn)
    longest = float(mesh.extents_mm.max())
    if phase == "rubber":
        solid, took = refined_voxels(mesh, cells)
        foot = float(mesh.bounds_mm[0, 2])
        air = round_a_master(solid, board_mm=foot - under_mm, is_open_beside=side_mm > 0, is_open_over=over_mm > 0)
    else:
        solid, took = refined_voxels(mesh, cells)
        air = _cast_air(Cavity(solid=solid, turn=turn), [np.array(one) @ turn.T for one in openings], [np.array(one) @ turn.T for one in holes])
    found = [*sent.measured.findings, *sent.notes, *_told_of(solid, cells, took, longest)]
    if air.closed_ml:
        found.append(CoreFinding(code="air-closed", facts={"volume": Amount(air.closed_ml, "volume", 2)}))
    pockets = [
        PocketOut(ml=one.ml, plus_minus_ml=one.plus_minus_ml, peak_mm=[float(x) for x in np.array(one.peak_mm) @ turn], depth_mm=one.depth_mm)
        for one in air.pockets
        if one.matters
    ]
    return AirOut(
        trapped_ml=sum(one.ml for one in pockets), cell_mm=solid.cell_mm, pockets=pockets, method=sent.measured.method, findings=said(found),  # type: ignore[arg-type]
    )  # fmt: skip


def _cast_air(cavity: Cavity, gates: list[np.ndarray], vents: list[np.ndarray]) -> Air:
    outlets = cavity.outlets(np.array(gates) if gates else cavity.highest())
    if vents:
        try:
            outlets = outlets | cavity.outlets(np.array(vents))
        except Refused as refused:
            raise Refused("vents", refused.why) from None
    return cavity.air(outlets)


@router.post("/api/v1/mesh/split", summary="Part a mould in two halves", dependencies=[Depends(_known_fields)])
def mesh_split(
    request: Request,
    file: Annotated[UploadFile, File()],
    pull: Annotated[str, Form(max_length=200)],
    units: Annotated[Unit, Form()] = "mm",
    cells: Cells = 128,
    side_mm: Clearance = 10.0,
    over_mm: Clearance = 10.0,
    under_mm: Clearance = 0.0,
    slack_mm: Annotated[float, Form(ge=0, le=100)] = 0.0,
) -> SplitOut:
    """Find the flattest parting surface along a pull, its split lines, and the rubber of each half. The clay bed is the half poured second."""
    turn = turn_up(_direction("pull", pull))
    sent = _taken(request, file, units)
    mesh = sent.measured.solid.moved(turn)
    made = split(
        mesh, box_round(mesh, side_mm), under_mm=under_mm, over_mm=over_mm, cells=cells, slack_mm=slack_mm, volume_ml=sent.measured.volume_ml
    )
    lines = [np.vstack([seam.points_mm, seam.points_mm[:1]]) @ turn for seam in made.seams]
    lost = [CoreFinding(code="rays-lost", facts={"rays": str(made.lost)})] if made.lost else []
    return SplitOut(
        locked_ml=made.locked_ml, overhang_ml=made.overhang_ml, master_ml=made.master_ml, box_ml=made.box_ml, halves_ml=[made.upper_ml, made.lower_ml],
        clay_ml=made.lower_ml, parting_mm=[line.round(4).tolist() for line in lines], flatness_mm=made.flatness_mm, film_ml=made.film_ml,
        method=sent.measured.method, findings=said([*sent.measured.findings, *sent.notes, *lost]),  # type: ignore[arg-type]
    )  # fmt: skip


@router.post("/api/v1/mesh/directions", summary="Rank pull directions over a sphere", dependencies=[Depends(_known_fields)])
def mesh_directions(
    request: Request,
    file: Annotated[UploadFile, File()],
    units: Annotated[Unit, Form()] = "mm",
    cells: Cells = 128,
    count: Annotated[int, Form(ge=6, le=1000)] = 200,
) -> DirectionsOut:
    """Score directions by locked rubber, trapped air and overhang; the best are looked at more closely than the rest."""
    sent = _taken(request, file, units)
    found = ranked(sent.measured.solid, count, cells)
    thinned = [CoreFinding(code="mesh-thinned")] if len(sent.measured.solid.faces) > SEARCH_FACES else []
    return DirectionsOut(
        directions=[
            DirectionOut(pull=list(one.pull), locked_ml=one.locked_ml, overhang_ml=one.overhang_ml, trapped_ml=one.trapped_ml) for one in found
        ],
        findings=said([*sent.measured.findings, *sent.notes, *thinned]),
    )
