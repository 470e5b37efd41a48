"""The interface call that measures a mesh: multipart, the file with its form fields."""

from typing import Annotated, Literal

from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from pydantic import BaseModel

from ufrin.bounded.child import do_apart
from ufrin.core.opening.file_calls import measure_sent
from ufrin.web.contexts.interface import Finding, findings_out
from ufrin.web.contexts.interface_mesh import CALL, Unit, only_known_fields, sent_file
from ufrin.web.frame.mesh_line import in_line

router = APIRouter()


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


@router.post(
    "/api/v1/mesh/measure", summary="Volume, surface and soundness of a mesh", dependencies=[Depends(only_known_fields)]
)
async def measure_mesh(
    request: Request,
    file: Annotated[UploadFile, File()],
    units: Annotated[Unit, Form()] = "mm",
    cells: Annotated[int, Form(ge=24, le=320)] = 128,
) -> MeasureOut:
    """Measure an STL, OBJ, PLY, 3MF, OFF or GLB file."""
    sent = await sent_file(request, file, units, cells)
    found = await in_line(request, do_apart, measure_sent, CALL, None, sent)
    return MeasureOut(
        format=found.format,
        triangles=found.triangles,
        watertight=found.watertight,
        bodies=found.bodies,
        volume_ml=found.volume_ml,
        plus_minus_ml=found.plus_minus_ml,
        area_cm2=found.area_cm2,
        bounds_mm=[list(corner) for corner in found.bounds_mm],
        method=found.method,
        findings=findings_out(found.findings),
    )
