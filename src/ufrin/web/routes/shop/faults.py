"""The fault finder of a job: from a symptom to its causes, and what it turned out to be."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.checks import faults
from ufrin.core.faults.causes import CAUSES, OTHER, SYMPTOMS
from ufrin.core.measures.parsing import parse
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.station import job_context
from ufrin.web.frame.forms import FormReading
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
OUTCOME_FIELDS = ("demoulded", "shots")


@router.get("/jobs/{job_id}/faults")
def show(
    request: Request, database: TheDatabase, job_id: Number, symptom: str = "", demoulded: str = "", shots: str = ""
) -> Response:
    """Show the possible causes of a symptom."""
    return _page(request, database, job_id, {"symptom": symptom[:40], "demoulded": demoulded[:60], "shots": shots[:60]})


@router.post("/jobs/{job_id}/faults")
def note(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Note the outcome."""
    typed = {key: form.get(key, "")[:600] for key in ("symptom", "cause", "note", *OUTCOME_FIELDS)}
    try:
        faults.note(database, job_id, symptom=typed["symptom"], cause=typed["cause"], text=typed["note"])
    except Refused as refused:
        return _page(request, database, job_id, typed, errors={refused.field: str(refused)})
    return go_to(request, Links.job(job_id, "faults") + "#noted")


@router.post("/jobs/{job_id}/faults/{number}/forget")
def forget(request: Request, database: TheDatabase, job_id: Number, number: Number) -> Response:
    """Remove a note that was made by mistake."""
    faults.forget(database, job_id, number)
    return go_to(request, Links.job(job_id, "faults") + "#noted")


def _page(
    request: Request, database: Database, job_id: int, typed: dict[str, str], *, errors: dict[str, str] | None = None
) -> Response:
    wrong = dict(errors or {})
    outcome: dict[str, float | None] = {"demoulded": None, "shots": None}
    for key, kind in (("demoulded", "time"), ("shots", "number")):
        try:
            outcome[key] = parse(typed[key], kind, field=key) if typed.get(key, "").strip() else None
        except Refused as refused:
            wrong[key] = str(refused)
    symptom = typed.get("symptom", "")
    if symptom and symptom not in SYMPTOMS:
        wrong["symptom"], symptom = Text("What does it look like? Choose from the list what comes nearest."), ""
    found = faults.find(database, job_id, symptom, demoulded_min=outcome["demoulded"], shots=outcome["shots"])
    opened = found.opened
    context = {
        **job_context(opened, "checks", FormReading(changes={})),
        "station": "faults",
        "found": found,
        "symptoms": SYMPTOMS,
        "causes": CAUSES,
        "other": OTHER,
        "symptom": symptom,
        "errors": wrong,
        "typed": typed,
        "say": UnitFormatter(opened.workshop.units, opened.workshop.currency),
    }
    return render(request, "shop/faults.html", context, status_code=422 if wrong else 200)
