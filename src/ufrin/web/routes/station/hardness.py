"""Hardness of a job: what is recommended, the dose for it, the curve, and the side effects of thinner."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.job import stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.job.hardness_station import answer_hardness
from ufrin.core.job.terms.rubber import RUBBER_TERMS
from ufrin.core.measures.display import say_amounts
from ufrin.core.rubber.shore import FEELS, feel_of
from ufrin.errors import Stale
from ufrin.web.contexts.station import conflict_rows, job_context, terms_of
from ufrin.web.drawings.hardness import ChosenDose, hardness_curve
from ufrin.web.frame.forms import FormReading, form_units, form_version, read
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{job_id}/hardness")
def show(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Show the hardness of a job."""
    return _page(request, stations.open_job(database, job_id, "rubber"), FormReading(changes={}))


@router.post("/jobs/{job_id}/hardness")
def change(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Save what was typed or chosen here; it is part of the Rubber station."""
    seen = stations.station_form(database, job_id, "rubber")
    taken = read(terms_of(seen, "rubber"), form, seen.job.inputs["rubber"], form_units(form, seen.workshop.units))
    try:
        saved = stations.change_station(database, job_id, "rubber", version=form_version(form), changes=taken.changes)
    except Stale as stale:
        return _page(request, stations.open_job(database, job_id, "rubber"), taken, stale=stale)
    if not is_htmx(request) and not taken.errors:
        return go_to(request, Links.job(job_id, "hardness"))
    return _page(request, saved, taken)


@router.post("/jobs/{job_id}/hardness/undo")
def undo(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Take the last change of the Rubber station back."""
    try:
        undone = stations.undo(database, job_id, "rubber", version=form_version(form))
    except Stale as stale:
        return _page(request, stations.open_job(database, job_id, "rubber"), FormReading(changes={}), stale=stale)
    return (
        _page(request, undone, FormReading(changes={}))
        if is_htmx(request)
        else go_to(request, Links.job(job_id, "hardness"))
    )


def _page(request: Request, opened: OpenJob, taken: FormReading, *, stale: Stale | None = None) -> Response:
    say = UnitFormatter(opened.workshop.units, opened.workshop.currency)
    context = {**job_context(opened, "rubber", taken), **_worked_out(opened, say)}
    context["conflict"] = conflict_rows(RUBBER_TERMS, stale, say.units) if stale else []
    context["is_undo_refused"] = stale is not None and not stale.mine
    return render(
        request,
        "station/_hardness.html" if is_htmx(request) else "station/hardness.html",
        context,
        status_code=409 if stale else 422 if taken.errors else 200,
    )


def _worked_out(opened: OpenJob, say: UnitFormatter) -> dict[str, Any]:
    plan, shelf = opened.plan, opened.shelf
    answer = answer_hardness(plan.master.size_mm, opened.plan.box_inputs, plan.box, opened.job.rubber, shelf)
    shown = answer.shown
    return {
        "wanted": answer.wanted,
        "reasons": [say_amounts(reason, say.units) for reason in answer.wanted.reasons],
        "target": answer.target,
        "solved": answer.solved,
        "solved_parts": answer.solved_parts,
        "share": answer.share_pct,
        "blended": answer.blended_mpa,
        "now": answer.now,
        "shown": shown,
        "base": answer.base,
        "refused": say.refusal(answer.refused) if answer.refused else "",
        "curve": hardness_curve(
            answer.curve, ChosenDose(parts_per_100=shown.parts_per_100 if shown else None, target=answer.target)
        )
        if answer.curve
        else None,
        "curve_of": answer.curve,
        "effects": answer.effects,
        "feels": FEELS,
        "feel": feel_of(shown.modulus_mpa).label if shown else "",
        "findings": shown.findings if shown else (),
        "thinner": shelf.thinner,
        "blend_name": shelf.blend.name if shelf.blend else "",
    }
