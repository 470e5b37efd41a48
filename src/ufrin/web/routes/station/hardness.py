"""Hardness of a job: what is recommended, the dose for it, the curve, and the side effects of thinner."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.job import stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.job.shelf_picks import base_hardness, curve_of
from ufrin.core.job.terms.rubber import RUBBER_TERMS
from ufrin.core.measures.display import say_amounts
from ufrin.core.rubber.blends import blend_range_mpa, share_for
from ufrin.core.rubber.hardness_wanted import Wanted, hardness_wanted
from ufrin.core.rubber.shore import FEELS, Hardness, feel_of
from ufrin.core.rubber.thinner_curve import MOST_PARTS, Thinned
from ufrin.core.rubber.thinner_side_effects import side_effects
from ufrin.errors import Refused, Stale
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
def undo(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Take the last change of the Rubber station back."""
    undone = stations.undo(database, job_id, "rubber")
    return (
        _page(request, undone, FormReading(changes={}))
        if is_htmx(request)
        else go_to(request, Links.job(job_id, "hardness"))
    )


def _page(request: Request, opened: OpenJob, taken: FormReading, *, stale: Stale | None = None) -> Response:
    say = UnitFormatter(opened.workshop.units, opened.workshop.currency)
    context = {**job_context(opened, "rubber", taken), **_worked_out(opened, say)}
    context["conflict"] = conflict_rows(RUBBER_TERMS, stale, say.units) if stale else []
    return render(
        request,
        "station/_hardness.html" if is_htmx(request) else "station/hardness.html",
        context,
        status_code=409 if stale else 422 if taken.errors else 200,
    )


def _wanted(opened: OpenJob) -> Wanted:
    settled, size = opened.job.rubber.settled(), opened.plan.master.size_mm
    box = opened.job.box.settled()
    return hardness_wanted(
        undercut=settled.undercut,
        detail=settled.detail,
        height_to_width=size[2] / min(size[:2]) if size else None,
        wall_mm=min(box.side_mm, box.over_mm) if opened.plan.box else None,
        longest_mm=max(opened.plan.box.inside_mm) if opened.plan.box else None,
        shots=int(settled.shots_wanted) if settled.shots_wanted else None,
    )


def _worked_out(opened: OpenJob, say: UnitFormatter) -> dict[str, Any]:
    settled, shelf, refused = opened.job.rubber.settled(), opened.shelf, ""
    wanted, curve = _wanted(opened), curve_of(shelf, settled)
    target: Hardness | None = None
    solved: Thinned | None = None
    share: float | None = None
    try:
        target = (
            Hardness(scale=settled.target_scale, shore=settled.target_shore)
            if settled.target_shore is not None
            else None
        )
        solved = curve.dose_for(target) if curve and target else None
    except Refused as why:
        refused = say.refusal(why)
    own, other = shelf.rubber.reading if shelf.rubber else None, shelf.blend.reading if shelf.blend else None
    if target and own and other:
        try:
            share = 100 * share_for(own, other, target)
        except Refused as why:
            refused = refused or say.refusal(why)
    dose = min(shelf.rubber.parts_of_both(settled.thinner_parts), MOST_PARTS) if shelf.rubber else 0.0
    now = curve.at(dose) if curve else None
    shown = solved or now
    thinner = shelf.thinner
    return {
        "wanted": wanted,
        "reasons": [say_amounts(reason, say.units) for reason in wanted.reasons],
        "target": target,
        "solved": solved,
        "solved_told": shelf.rubber.parts_as_told(solved.parts_per_100) if solved and shelf.rubber else None,
        "share": share,
        "blended": blend_range_mpa(own, other, settled.blend_pct / 100) if own and other else None,
        "now": now,
        "shown": shown,
        "base": base_hardness(shelf, settled),
        "refused": refused,
        "curve": hardness_curve(curve, ChosenDose(parts_per_100=shown.parts_per_100 if shown else None, target=target))
        if curve
        else None,
        "curve_of": curve,
        "price": side_effects(
            shelf.rubber,
            shown.parts_per_100,
            thinner_mpa_s=thinner.viscosity_mpa_s if thinner else None,
            thinner_sg=thinner.sg_or_usual if thinner else None,
        )
        if shelf.rubber and shown
        else None,
        "feels": FEELS,
        "feel": feel_of(shown.modulus_mpa).label if shown else "",
        "findings": shown.findings if shown else (),
        "thinner": thinner,
        "blend_name": shelf.blend.name if shelf.blend else "",
    }
