"""The work on a shot from the Casts station: getting ready, signing off, weighing the mould, and to the bench."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.casts import bench
from ufrin.actions.checks import preparation, sign_off
from ufrin.actions.job import stations
from ufrin.actions.shelf import scales as scales_on_shelf
from ufrin.core.measures.parsing import parse
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.station import act_and_show, job_context
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import YES, FormReading, form_units, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.routes import Number, Posted, TheDatabase, TheScales

router = APIRouter(include_in_schema=False)


def _refused(request: Request, database: Database, job_id: int, refused: Refused, typed: dict[str, str]) -> Response:
    # the station as it is, with what was typed and what is wrong with it
    context = job_context(stations.open_job(database, job_id, "casts"), "casts", FormReading(changes={}))
    field = {"who": "sign_who", "": "stop"}.get(refused.field, refused.field)
    context |= {"errors": {field: context["say"].refusal(refused)}, "typed": context["typed"] | typed}
    return render(request, "station/station.html", context, status_code=422)


@router.post("/jobs/{job_id}/casts/bench")
@asks("weigh")
def begin(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Begin to weigh a shot at the bench."""
    try:
        typed_c = form.get("temp_c", "").strip()
        temp_c = parse(typed_c, "temperature", form_units(form, "metric"), field="temp_c") if typed_c else None
        number = bench.start(
            database,
            job_id,
            who=form.get("who", "") or party_in(request).person,
            temp_c=temp_c,
            reason=form.get("reason", ""),
            now=clock.now(),
        )
    except Refused as refused:
        return _refused(request, database, job_id, Refused("stop", str(refused)), {})
    return go_to(request, Links.pour(number))


@router.post("/jobs/{job_id}/casts/sign")
def sign(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Sign a stop of the Casts station off."""
    typed = {key: form.get(key, "")[:500] for key in ("about", "reason", "who")}
    try:
        sign_off.sign_off(
            database, job_id, typed["about"], reason=typed["reason"], who=typed["who"], now=clock.now(), of_cast=True
        )
    except Refused as refused:
        return _refused(request, database, job_id, refused, typed)
    return go_to(request, Links.job(job_id, "casts") + "#sign-off")


@router.post("/jobs/{job_id}/casts/unsign")
def unsign(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Take a sign-off back."""
    sign_off.take_back(database, job_id, form.get("about", ""))
    return go_to(request, Links.job(job_id, "casts") + "#sign-off")


@router.post("/jobs/{job_id}/casts/steps/{key}")
@asks("weigh")
def tick(request: Request, database: TheDatabase, job_id: Number, key: str, form: Posted) -> Response:
    """Tick a step of getting ready off, or take the tick back."""
    at_s = clock.now().wall_s
    return act_and_show(
        request,
        database,
        job_id,
        "casts",
        lambda: preparation.tick(database, job_id, key[:64], done=form.get("done") == YES, at_s=at_s, of_cast=True),
    )


@router.post("/jobs/{job_id}/casts/mould-weight")
@asks("weigh")
def weigh_mould(request: Request, database: TheDatabase, scales: TheScales, job_id: Number, form: Posted) -> Response:
    """Take what a scale shows as the weight of the mould, empty or as it fills."""

    def act() -> None:
        which, number = form.get("which", ""), whole_number(form.get("scale_id", ""))
        if which not in {"mould_g", "now_g"} or number is None:
            raise Refused("", Text("Choose a scale, and whether the mould is empty."))
        scale = scales_on_shelf.to_read(database, number)
        grams = scales.settled_g(scale.id, scale.thing)
        version = stations.station_form(database, job_id, "casts").job.versions["casts"]
        stations.change_station(database, job_id, "casts", version=version, changes={which: grams}, own_step=True)

    return act_and_show(request, database, job_id, "casts", act)
