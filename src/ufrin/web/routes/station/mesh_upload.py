"""A job's mesh: uploaded, waited for, given up, taken away."""

from typing import Annotated

from fastapi import APIRouter, File, Request, UploadFile
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.job import long_work, stations
from ufrin.errors import Refused, TooLarge
from ufrin.language import Text
from ufrin.web.contexts.station import job_context
from ufrin.web.frame.forms import FormReading
from ufrin.web.frame.links import Links
from ufrin.web.frame.mesh_line import in_line
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.routes import Number, TheDatabase

router = APIRouter(include_in_schema=False)


@router.post("/jobs/{job_id}/mesh")
async def upload(
    request: Request, database: TheDatabase, job_id: Number, file: Annotated[UploadFile | None, File()] = None
) -> Response:
    """Give the job a mesh."""
    return await in_line(request, _upload, request, database, job_id, file)


def _upload(request: Request, database: Database, job_id: int, file: UploadFile | None) -> Response:
    try:
        if file is None or not file.size:
            raise Refused("file", Text("Choose a mesh file first: STL, OBJ, PLY, 3MF, OFF or GLB."))
        if file.size > request.app.state.settings.mesh_limit_bytes:
            raise TooLarge(request.app.state.settings.mesh_limit_bytes, file=True)
        stations.give_mesh(database, job_id, file.filename or "", file.file.read())
    except Refused as refused:
        context = job_context(stations.open_job(database, job_id, "master"), "master", FormReading(changes={}))
        template = "station/_station.html" if is_htmx(request) else "station/station.html"
        return render(request, template, {**context, "upload_error": context["say"].refusal(refused)}, status_code=422)
    return go_to(request, Links.job(job_id))


@router.get("/jobs/{job_id}/mesh")
def wait(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Show how far the measuring is; the whole station once it is done."""
    opened = stations.open_job(database, job_id, "master")
    if opened.mesh is None or opened.mesh.kept.work["measure"].state != "waiting":
        return go_to(request, Links.job(job_id))
    return render(request, "station/_mesh_progress.html", {"job": opened.job, "mesh": opened.mesh})


@router.post("/jobs/{job_id}/mesh/{what}")
def act(request: Request, database: TheDatabase, job_id: Number, what: str) -> Response:
    """Give the measuring up, or take the mesh away from the job."""
    opened = stations.open_job(database, job_id, "master")
    if opened.mesh and what == "stop":
        long_work.stop_work(database, opened.mesh.kept.hash, "measure")
    elif what == "remove":
        stations.change_station(
            database, job_id, "master", version=opened.job.versions["master"], changes={"mesh": None, "mesh_unit": None}
        )
    return go_to(request, Links.job(job_id))
