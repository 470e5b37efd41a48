"""A part cut off a job's master by a level plane: what it saves, and going on with what remains."""

from dataclasses import dataclass

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.job.cut_off import CutJob, cut_job, take_part
from ufrin.actions.job.stations import station_form
from ufrin.core.inputs.term import positive_quantity
from ufrin.core.measures.parsing import parse
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.web.contexts.station import job_context
from ufrin.web.drawings.master import master_views
from ufrin.web.frame.forms import FormReading, fields, form_version, read
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
TERMS = {
    "cut_mm": positive_quantity(Text("Cut at a height of"), "length", Text("Above the board, as the master stands."))
}


@dataclass(frozen=True, slots=True, kw_only=True)
class _Cut:
    cut_mm: float | None


@router.get("/jobs/{job_id}/cut")
def show(request: Request, database: TheDatabase, job_id: Number, cut_mm: str | None = None) -> Response:
    """Show what either part takes alone."""
    units = station_form(database, job_id).workshop.units
    taken = read(TERMS, {"cut_mm": cut_mm} if cut_mm is not None else {}, _Cut(cut_mm=None), units)
    return _page(request, cut_job(database, job_id, taken.changes.get("cut_mm")), taken)


@router.post("/jobs/{job_id}/cut")
def take(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Go on with one part."""
    part = form.get("part")
    if part not in {"above", "below"}:
        raise Refused("part", Text("That is not one of the parts. Open the page of the cut again."))
    cut_mm = parse(form.get("cut_mm", ""), "length", "metric", field="cut_mm")
    try:
        take_part(database, job_id, "above" if part == "above" else "below", cut_mm, version=form_version(form))
    except Stale:
        return go_to(request, Links.job(job_id, "cut"))
    return go_to(request, Links.job(job_id))


def _page(request: Request, cut: CutJob, taken: FormReading) -> Response:
    context = job_context(cut.opened, "box", FormReading(changes={}))
    say, form = context["say"], cut.opened.plan.master.form
    errors = dict(taken.errors)
    if cut.refused and cut.refused.field:
        errors.setdefault("cut_mm", say.refusal(cut.refused))
    views = master_views(form, say.plain, cut_mm=cut.cut_mm if cut.parts else None) if form else ()
    before = cut.opened.plan
    rows = [(one, _less(before.rubber_ml, one.plan.rubber_ml), _less(before.cost, one.plan.cost)) for one in cut.parts]
    shown = {
        "cut": cut,
        "rows": rows,
        "larger": max(rows, key=lambda row: row[0].volume_ml, default=None),
        "field": fields(TERMS, _Cut(cut_mm=cut.cut_mm), say.units, errors, taken.typed)["cut_mm"],
        "views": [view for view in views if view.key != "master-plan"],
        "refused": say.refusal(cut.refused) if cut.refused and not cut.refused.field else "",
    }
    return render(request, "station/cut_off.html", {**context, **shown}, status_code=422 if errors else 200)


def _less(before: float | None, after: float | None) -> float | None:
    return before - after if before is not None and after is not None else None
