"""The interface calls on how a mould opens: air, parting surface and pull directions of a mesh."""

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from pydantic import BaseModel

from ufrin.core.master.attitudes import turn_up
from ufrin.core.mesh.cells import MOST_CELLS, refined_cells
from ufrin.core.opening.parting_surface import box_round, parting_surface
from ufrin.core.opening.pull_directions import SEARCH_FACES, ranked
from ufrin.core.opening.trapped_air import Air, Cavity, air_round_master
from ufrin.core.wording.findings import Amount
from ufrin.core.wording.findings import Finding as CoreFinding
from ufrin.errors import Refused
from ufrin.web.contexts.interface import Finding, findings_out
from ufrin.web.contexts.interface_mesh import Unit, cell_findings, direction_of, only_known_fields, points_of, sent_mesh

router = APIRouter()
Clearance = Annotated[float, Form(ge=0, le=10_000)]
Cells = Annotated[int, Form(ge=24, le=MOST_CELLS)]


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


@router.post(
    "/api/v1/mesh/air",
    summary="Air that stays, in the rubber or in the cast",
    dependencies=[Depends(only_known_fields)],
)
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
        raise Refused(
            "gates" if gates.strip() else "vents",
            "Gates and vents belong to the cast; the rubber's outlet is the open top of the box.",
        )
    turn = turn_up(direction_of("up", up))
    openings, holes = points_of("gates", gates), points_of("vents", vents)
    sent = sent_mesh(request, file, units)
    mesh = sent.measured.solid.moved(turn)
    longest = float(mesh.extents_mm.max())
    if phase == "rubber":
        solid, used = refined_cells(mesh, cells)
        foot = float(mesh.bounds_mm[0, 2])
        air = air_round_master(solid, board_mm=foot - under_mm, is_open_beside=side_mm > 0, is_open_over=over_mm > 0)
    else:
        solid, used = refined_cells(mesh, cells)
        air = _cast_air(
            Cavity(solid=solid, turn=turn),
            [np.array(one) @ turn.T for one in openings],
            [np.array(one) @ turn.T for one in holes],
        )
    found = [*sent.measured.findings, *sent.notes, *cell_findings(solid, cells, used, longest)]
    if air.closed_ml:
        found.append(CoreFinding(code="air-closed", facts={"volume": Amount(air.closed_ml, "volume", 2)}))
    pockets = [
        PocketOut(
            ml=one.ml,
            plus_minus_ml=one.plus_minus_ml,
            peak_mm=[float(x) for x in np.array(one.peak_mm) @ turn],
            depth_mm=one.depth_mm,
        )
        for one in air.pockets
        if one.matters
    ]
    return AirOut(
        trapped_ml=sum(one.ml for one in pockets),
        cell_mm=solid.cell_mm,
        pockets=pockets,
        method=sent.measured.method,
        findings=findings_out(found),
    )


def _cast_air(cavity: Cavity, gates: list[np.ndarray], vents: list[np.ndarray]) -> Air:
    outlets = cavity.outlets(np.array(gates) if gates else cavity.highest())
    if vents:
        try:
            outlets = outlets | cavity.outlets(np.array(vents))
        except Refused as refused:
            raise Refused("vents", refused.why) from None
    return cavity.air(outlets)


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


@router.post("/api/v1/mesh/split", summary="Part a mould in two halves", dependencies=[Depends(only_known_fields)])
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
    """Find the flattest parting surface along a pull, its split lines, and the rubber of each half.

    The clay bed is the half poured second.
    """
    turn = turn_up(direction_of("pull", pull))
    sent = sent_mesh(request, file, units)
    mesh = sent.measured.solid.moved(turn)
    made = parting_surface(
        mesh,
        box_round(mesh, side_mm),
        under_mm=under_mm,
        over_mm=over_mm,
        cells=cells,
        slack_mm=slack_mm,
        volume_ml=sent.measured.volume_ml,
    )
    lines = [np.vstack([seam.points_mm, seam.points_mm[:1]]) @ turn for seam in made.seams]
    lost = [CoreFinding(code="rays-lost", facts={"rays": str(made.lost)})] if made.lost else []
    return SplitOut(
        locked_ml=made.locked_ml,
        overhang_ml=made.overhang_ml,
        master_ml=made.master_ml,
        box_ml=made.box_ml,
        halves_ml=[made.upper_ml, made.lower_ml],
        clay_ml=made.lower_ml,
        parting_mm=[line.round(4).tolist() for line in lines],
        flatness_mm=made.flatness_mm,
        film_ml=made.film_ml,
        method=sent.measured.method,
        findings=findings_out([*sent.measured.findings, *sent.notes, *lost]),
    )


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


@router.post(
    "/api/v1/mesh/directions", summary="Rank pull directions over a sphere", dependencies=[Depends(only_known_fields)]
)
def mesh_directions(
    request: Request,
    file: Annotated[UploadFile, File()],
    units: Annotated[Unit, Form()] = "mm",
    cells: Cells = 128,
    count: Annotated[int, Form(ge=6, le=1000)] = 200,
) -> DirectionsOut:
    """Score directions by locked rubber, trapped air and overhang.

    The best are looked at more closely than the rest.
    """
    sent = sent_mesh(request, file, units)
    found = ranked(sent.measured.solid, count, cells)
    thinned = [CoreFinding(code="mesh-thinned")] if len(sent.measured.solid.faces) > SEARCH_FACES else []
    return DirectionsOut(
        directions=[
            DirectionOut(
                pull=list(one.pull), locked_ml=one.locked_ml, overhang_ml=one.overhang_ml, trapped_ml=one.trapped_ml
            )
            for one in found
        ],
        findings=findings_out([*sent.measured.findings, *sent.notes, *thinned]),
    )
