"""The interface calls on how a mould opens: air, parting surface and pull directions of a mesh."""

from math import isqrt
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from pydantic import BaseModel

from ufrin.bounded.child import do_apart
from ufrin.core.mesh.cells import MOST_CELLS
from ufrin.core.opening.file_calls import air_in_sent, air_round_sent, part_sent, rank_sent
from ufrin.errors import Refused
from ufrin.web.contexts.interface import Finding, findings_out
from ufrin.web.contexts.interface_mesh import (
    CALL,
    MOST_SEARCH,
    Unit,
    direction_of,
    only_known_fields,
    points_of,
    sent_file,
)
from ufrin.web.frame.mesh_line import in_line

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
async def mesh_air(
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
    upward, openings, holes = direction_of("up", up), points_of("gates", gates), points_of("vents", vents)
    sent = await sent_file(request, file, units, cells)
    if phase == "rubber":
        found = await in_line(
            request,
            do_apart,
            air_round_sent,
            CALL,
            None,
            sent,
            up=upward,
            under_mm=under_mm,
            is_open_beside=side_mm > 0,
            is_open_over=over_mm > 0,
        )
    else:
        found = await in_line(request, do_apart, air_in_sent, CALL, None, sent, up=upward, gates=openings, vents=holes)
    return AirOut(
        trapped_ml=sum(one.ml for one in found.pockets),
        cell_mm=found.cell_mm,
        pockets=[
            PocketOut(ml=one.ml, plus_minus_ml=one.plus_minus_ml, peak_mm=list(one.peak_mm), depth_mm=one.depth_mm)
            for one in found.pockets
        ],
        method=found.method,
        findings=findings_out(found.findings),
    )


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
async def mesh_split(
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
    upward = direction_of("pull", pull)
    made = await in_line(
        request,
        do_apart,
        part_sent,
        CALL,
        None,
        await sent_file(request, file, units, cells),
        pull=upward,
        side_mm=side_mm,
        over_mm=over_mm,
        under_mm=under_mm,
        slack_mm=slack_mm,
    )
    return SplitOut(
        locked_ml=made.locked_ml,
        overhang_ml=made.overhang_ml,
        master_ml=made.master_ml,
        box_ml=made.box_ml,
        halves_ml=[made.upper_ml, made.lower_ml],
        clay_ml=made.lower_ml,
        parting_mm=[[list(point) for point in line] for line in made.lines_mm],
        flatness_mm=made.flatness_mm,
        film_ml=made.film_ml,
        method=made.method,
        findings=findings_out(made.findings),
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
async def mesh_directions(
    request: Request,
    file: Annotated[UploadFile, File()],
    units: Annotated[Unit, Form()] = "mm",
    cells: Cells = 128,
    count: Annotated[int, Form(ge=6, le=1000)] = 200,
) -> DirectionsOut:
    """Score directions by locked rubber, trapped air and overhang.

    The best are looked at more closely than the rest.
    """
    if count * cells**2 > MOST_SEARCH:
        raise Refused(
            "count",
            f"{count} directions in {cells} cells are more than one call works through. Ask for at most "
            f"{MOST_SEARCH // cells**2} directions in {cells} cells, or at most {isqrt(MOST_SEARCH // count)} cells "
            f"for {count} directions.",
        )
    sent = await sent_file(request, file, units, cells)
    found = await in_line(request, do_apart, rank_sent, CALL, None, sent, count=count)
    return DirectionsOut(
        directions=[
            DirectionOut(
                pull=list(one.pull), locked_ml=one.locked_ml, overhang_ml=one.overhang_ml, trapped_ml=one.trapped_ml
            )
            for one in found.pulls
        ],
        findings=findings_out(found.findings),
    )
