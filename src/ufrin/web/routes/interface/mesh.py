"""The interface call that measures a mesh: multipart, the file with its form fields."""

from typing import Annotated, Literal

from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from pydantic import BaseModel

from ufrin.core.mesh.files import in_mm, read
from ufrin.core.mesh.mesh_volume import measure
from ufrin.web.contexts.interface import Finding, findings_out
from ufrin.web.contexts.interface_mesh import Unit, check_file_size, only_known_fields, unit_notes

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
def measure_mesh(
    request: Request,
    file: Annotated[UploadFile, File()],
    units: Annotated[Unit, Form()] = "mm",
    cells: Annotated[int, Form(ge=24, le=320)] = 128,
) -> MeasureOut:
    """Measure an STL, OBJ, PLY, 3MF, OFF or GLB file."""
    check_file_size(request, file)
    got = read(file.file.read(), file.filename or "")
    found = measure(in_mm(got.mesh, units), cells=cells)
    return MeasureOut(
        format=got.format,
        triangles=got.triangles,
        watertight=found.watertight,
        bodies=found.bodies,
        volume_ml=found.volume_ml,
        plus_minus_ml=found.plus_minus_ml,
        area_cm2=found.area_cm2,
        bounds_mm=found.solid.bounds_mm.tolist(),
        method=found.method,
        findings=findings_out((*found.findings, *unit_notes(got, units))),
    )
