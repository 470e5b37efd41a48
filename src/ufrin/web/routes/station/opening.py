"""Actions of the Opening station.

Pulls are searched and taken, the master is tipped, the mould held, gates, vents and keys placed; and the view turns.
"""

from fastapi import APIRouter, Request
from fastapi.responses import JSONResponse
from starlette.responses import Response

from ufrin.actions.job import long_work, stations
from ufrin.actions.job import opening as opening_actions
from ufrin.core.job.pulls_compared import pull_rows
from ufrin.core.measures.parsing import parse
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.opening import turning_scene
from ufrin.web.contexts.station import act_and_show
from ufrin.web.drawings.pull_directions import sphere_of
from ufrin.web.frame.forms import YES, form_units, form_version, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{job_id}/opening/pulls")
def pulls(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Show the pull directions ranked so far; it is requested again by itself while the ranking goes on."""
    found = opening_actions.pulls(database, job_id)
    opened, ranking = found.opened, found.ranking
    opening, form = opened.plan.opening, opened.plan.master.form
    shown = (
        opening.shown @ form.turn if opening is not None and opening.shown is not None and form is not None else None
    )
    worst = max((one.locked_ml for one in ranking.scored), default=0.0) if ranking else 0.0
    dots = [(one.pull, one.locked_ml / worst if worst else 0.0) for one in ranking.scored] if ranking else []
    up = form.turn[2] if form is not None else None
    context = {
        "job": opened.job,
        "mesh": opened.mesh,
        "say": UnitFormatter(opened.workshop.units, opened.workshop.currency),
        "work": found.work,
        "ranking": ranking,
        "shown": shown,
        "pulls": pull_rows(opened.plan, ranking, shown) if ranking else [],
        "sphere": sphere_of(dots, (float(up[0]), float(up[1]), float(up[2])) if up is not None else None)
        if dots
        else "",
        "is_waiting": found.work is not None and found.work.state == "waiting",
    }
    return render(request, "station/_pull_directions.html", context)


@router.post("/jobs/{job_id}/opening/stop")
def stop(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Give up the ranking of pull directions; what is known stays."""
    opened = stations.open_job(database, job_id, "master")
    if opened.mesh:
        long_work.stop_work(database, opened.mesh.kept.hash, "directions")
    return go_to(request, Links.job(job_id, "opening"))


@router.post("/jobs/{job_id}/opening/pull")
def pull(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Lay the master so that it is pulled straight up along a direction."""
    return act_and_show(
        request,
        database,
        job_id,
        "opening",
        lambda: opening_actions.take_pull(
            database, job_id, version=_master_version(form), pull=form.get("pull", "")[:200]
        ),
    )


@router.post("/jobs/{job_id}/opening/tip")
def tip(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Tip the master a little."""

    def act() -> None:
        degrees = parse(form.get("degrees", "5")[:20], "angle", "metric", field="up")
        opening_actions.tip(
            database, job_id, version=_master_version(form), towards=form.get("towards", ""), degrees=degrees
        )

    return act_and_show(request, database, job_id, "opening", act)


@router.post("/jobs/{job_id}/opening/hold")
def hold(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Hold the mould another way for casting."""
    up = form.get("up", "")[:200] or None
    return act_and_show(
        request,
        database,
        job_id,
        "opening",
        lambda: opening_actions.hold(database, job_id, version=form_version(form), up=up),
    )


@router.post("/jobs/{job_id}/opening/place")
def place(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Place a gate, a vent or a key."""
    number, units = whole_number(form.get("number", "0"), most_digits=3), form_units(form, "metric")

    def where(name: str) -> float | None:
        text = form.get(name, "").strip()[:60]
        if not text:
            return None
        away = parse(text.lstrip("-−+ "), "length", units, field=name)
        return -away if text[0] in "-−" else away

    def act() -> None:
        if number is None:
            raise Refused("", Text("That is not something that can be placed. Open the page again."))
        placing = opening_actions.Placement(
            kind=form.get("kind", ""),
            number=number,
            act=form.get("act", ""),
            across_mm=where("across"),
            up_mm=where("up"),
            deep_mm=where("deep"),
        )
        opening_actions.place(database, job_id, version=form_version(form), placing=placing)

    return act_and_show(request, database, job_id, "opening", act)


@router.post("/jobs/{job_id}/opening/advice")
def advice(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Keep the kind of mould that was advised before, or agree to the new advice."""
    keep = form.get("keep") == YES
    return act_and_show(
        request,
        database,
        job_id,
        "opening",
        lambda: stations.settle_advice(database, job_id, version=form_version(form), keep=keep),
    )


@router.get("/jobs/{job_id}/opening/scene.json")
def scene(database: TheDatabase, job_id: Number) -> Response:
    """Return what the turning view draws."""
    return JSONResponse(turning_scene(stations.open_job(database, job_id, "opening")))


def _master_version(form: Posted) -> int:
    return form_version({"version": form.get("master_version", "")})
