"""A job's stations: shown, changed field by field, undone; and the job's own name and place."""

from collections.abc import Callable, Mapping

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.job import stations
from ufrin.actions.job.history import station_history
from ufrin.actions.job.open_job import OpenJob
from ufrin.actions.schedule import job_in_plan
from ufrin.core.inputs.stations import Station
from ufrin.core.job.terms import TERMS
from ufrin.core.materials.kinds import POURS
from ufrin.devices import clock
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.web.contexts.station import Conflict, act_and_show, conflict_rows, job_context, terms_of
from ufrin.web.contexts.station_history import history_context
from ufrin.web.frame.forms import FormReading, form_units, form_version, read, shown_text, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{job_id}")
def first(request: Request, job_id: Number) -> Response:
    """Redirect a bare job's address to its first station."""
    return go_to(request, Links.job(job_id))


@router.post("/jobs/{job_id}/casting")
def casting(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Keep what will be cast, and how often."""

    def act() -> None:
        material, shots = form.get("cast_material", ""), form.get("shots_wanted", "").strip()
        number = whole_number(shots, most_digits=6) if shots else None
        if material and material not in POURS:
            raise Refused("", Text("That is not one of the choices of what will be cast. Choose again."))
        if shots and not number:
            raise Refused("", Text("How many casts are wanted? Type a whole number, or leave it empty."))
        stations.say_casting(
            database, job_id, cast_material=material or None, shots_wanted=float(number) if number else None
        )

    return act_and_show(request, database, job_id, "master", act)


@router.get("/jobs/{job_id}/{station}")
def show(request: Request, database: TheDatabase, job_id: Number, station: Station) -> Response:
    """Show a station."""
    opened = stations.open_job(database, job_id, station)
    if opened.job.is_mould_only and station != "casts":
        return go_to(request, Links.job(job_id, "casts"))
    if station == "casts":
        opened = job_in_plan.with_its_times(database, opened, clock.now())
    return _page(request, opened, station, FormReading(changes={}))


@router.post("/jobs/{job_id}/{station}")
def change(request: Request, database: TheDatabase, job_id: Number, station: Station, form: Posted) -> Response:
    """Save what can be read, and show what can't be read beside its field."""
    seen = stations.station_form(database, job_id, station)
    taken = read(terms_of(seen, station), form, seen.job.inputs[station], form_units(form, seen.workshop.units))
    try:
        saved = stations.change_station(database, job_id, station, version=form_version(form), changes=taken.changes)
    except Stale as stale:
        return _page(request, stations.open_job(database, job_id, station), station, taken, stale=stale)
    if not is_htmx(request) and not taken.errors:
        return go_to(request, Links.job(job_id, station))
    return _page(request, saved, station, taken, waiting=_waiting(form, station, saved))


@router.post("/jobs/{job_id}/{station}/undo")
def undo(request: Request, database: TheDatabase, job_id: Number, station: Station, form: Posted) -> Response:
    """Take a station's last change back."""
    return _step(request, database, job_id, station, form, stations.undo)


@router.post("/jobs/{job_id}/{station}/redo")
def redo(request: Request, database: TheDatabase, job_id: Number, station: Station, form: Posted) -> Response:
    """Bring back the change of a station that was undone last."""
    return _step(request, database, job_id, station, form, stations.redo)


@router.get("/jobs/{job_id}/{station}/history")
def history(request: Request, database: TheDatabase, job_id: Number, station: Station) -> Response:
    """Show what was changed at a station, when and by whom."""
    opened = stations.open_job(database, job_id, station)
    context = job_context(opened, station, FormReading(changes={}))
    steps = history_context(opened, station, station_history(database, job_id, station))
    return render(request, "station/history.html", context | {"steps": steps})


def _step(
    request: Request,
    database: Database,
    job_id: int,
    station: Station,
    form: Mapping[str, str],
    step: Callable[..., OpenJob],
) -> Response:
    try:
        undone = step(database, job_id, station, version=form_version(form))
    except Stale as stale:
        opened = stations.open_job(database, job_id, station)
        return _page(request, opened, station, FormReading(changes={}), stale=stale)
    return (
        _page(request, undone, station, FormReading(changes={}))
        if is_htmx(request)
        else go_to(request, Links.job(job_id, station))
    )


@router.post("/jobs/{job_id}/rubber/newer-spare")
def newer_spare(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Settle the spare by what past pours teach now."""
    return act_and_show(
        request,
        database,
        job_id,
        "rubber",
        lambda: stations.take_newer_spare(database, job_id, version=form_version(form)),
    )


@router.post("/jobs/{job_id}")
def rename(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Give the job another name."""
    stations.rename_job(database, job_id, form.get("name", ""))
    return go_to(request, Links.job(job_id))


@router.post("/jobs/{job_id}/place/{place}")
def place(request: Request, database: TheDatabase, job_id: Number, place: str) -> Response:
    """Put the job away, or bring it back to the Board."""
    stations.put_job_away(database, job_id, away=place == "away")
    return go_to(request, Links.board())


def _waiting(form: Mapping[str, str], station: Station, saved: OpenJob) -> Conflict:
    # values refused by an earlier save that nobody has decided on yet, and that were not typed again since
    refused = {key: text for key, text in form.items() if key.startswith("mine:") and key[5:] in TERMS[station]}
    rows = []
    for key, mine in ((key[5:], text[:200]) for key, text in refused.items()):
        term = TERMS[station][key]
        theirs = shown_text(term, getattr(saved.job.inputs[station], key), saved.workshop.units)
        if mine != theirs and form.get(key) == theirs:
            rows.append((key, term.label, theirs, mine))
    return rows


def _page(
    request: Request,
    opened: OpenJob,
    station: Station,
    taken: FormReading,
    *,
    stale: Stale | None = None,
    waiting: Conflict | None = None,
) -> Response:
    context = job_context(opened, station, taken)
    context["conflict"] = conflict_rows(TERMS[station], stale, opened.workshop.units) if stale else waiting or []
    context["is_undo_refused"] = stale is not None and not stale.mine
    status = 409 if stale else 422 if taken.errors else 200
    return render(
        request, "station/_station.html" if is_htmx(request) else "station/station.html", context, status_code=status
    )
