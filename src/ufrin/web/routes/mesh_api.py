"""The open interface's calls that take a mesh: multipart, the file with its form fields."""

from typing import Annotated, Literal

from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from pydantic import BaseModel

from ufrin.core.findings import Finding as CoreFinding
from ufrin.core.measuring import measure
from ufrin.core.mesh_files import in_mm, read
from ufrin.errors import Refused, TooLarge
from ufrin.web.routes.api import Finding, said

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


@router.post("/api/v1/mesh/measure", summary="Volume, surface and soundness of a mesh", dependencies=[Depends(_known_fields)])
def measure_mesh(
    request: Request, file: Annotated[UploadFile, File()], units: Annotated[Unit, Form()] = "mm", cells: Annotated[int, Form(ge=24, le=320)] = 128
) -> MeasureOut:
    """Measure an STL, OBJ, PLY, 3MF, OFF or GLB file."""
    limit = request.app.state.settings.mesh_limit_bytes
    if (file.size or 0) > limit:
        raise TooLarge(limit, file=True)
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
