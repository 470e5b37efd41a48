"""The action of the Checks station: the advised remedy of a contact is taken."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.checks import sign_off
from ufrin.core.inputs.stations import Station
from ufrin.web.contexts.station import act_and_show
from ufrin.web.frame.forms import form_version
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.post("/jobs/{job_id}/checks/remedy/{key}")
def remedy(request: Request, database: TheDatabase, job_id: Number, key: str, form: Posted) -> Response:
    """Take the advised remedy of a contact."""
    names: tuple[tuple[Station, str], ...] = (
        ("checks", "version"),
        ("master", "master_version"),
        ("opening", "opening_version"),
        ("box", "box_version"),
    )
    versions: dict[Station, int] = {station: form_version({"version": form.get(name, "")}) for station, name in names}
    return act_and_show(
        request, database, job_id, "checks", lambda: sign_off.take_remedy(database, job_id, key[:40], versions=versions)
    )
