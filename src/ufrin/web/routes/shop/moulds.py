"""Moulds: one that was made before, or elsewhere, is entered by hand."""

from collections.abc import Mapping

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.job import stations
from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.inputs.casts import CastInputs
from ufrin.core.job.terms.casts import CASTS_TERMS
from ufrin.errors import Refused
from ufrin.web.frame.forms import FormReading, fields, form_units, read
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Posted, TheDatabase

router = APIRouter(include_in_schema=False)
ASKED = {key: CASTS_TERMS[key] for key in ("mould_family", "mould_parts", "mould_cavities", "cavity_ml", "area_cm2")}


def _page(
    request: Request, database: Database, name: str, error: str, taken: FormReading, typed: Mapping[str, str]
) -> Response:
    workshop = settings(database)
    say = UnitFormatter(workshop.units, workshop.currency)
    shown = {key: text[:200] for key, text in typed.items() if key in ASKED}
    context = {
        "name": name,
        "name_error": error,
        "fields": fields(ASKED, CastInputs(), workshop.units, taken.errors, shown),
        "say": say,
    }
    return render(request, "shop/new_mould.html", context, status_code=422 if error or taken.errors else 200)


@router.get("/moulds/new")
def new(request: Request, database: TheDatabase) -> Response:
    """Ask what is known of a mould that was made before."""
    return _page(request, database, "", "", FormReading(changes={}), {})


@router.post("/moulds")
def enter(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Enter it, and go to its Casts station."""
    name = form.get("name", "")
    taken = read(ASKED, form, CastInputs(), form_units(form, settings(database).units))
    try:
        checked = stations.checked_name(name)
    except Refused as refused:
        return _page(request, database, name[:500], str(refused), taken, form)
    if taken.errors:
        return _page(request, database, checked, "", taken, form)
    return go_to(request, Links.job(stations.start_mould(database, checked, taken.changes), "casts"))
