"""The log of a mould: its shots, its cavities, trials of two ways, and pictures."""

from collections.abc import Mapping
from typing import Annotated

from fastapi import APIRouter, File, Request, UploadFile
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.bench import photos
from ufrin.actions.bench.pours import new_token
from ufrin.actions.casts import bench, shots
from ufrin.actions.casts.bench import CastPour
from ufrin.core.moulds.retirement import CAUSES
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.shot_log import cast_at, log_context, read_shot
from ufrin.web.contexts.station import job_context
from ufrin.web.frame.forms import YES, FormReading, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
LOG = "casts/log"


def _page(
    request: Request,
    database: Database,
    job_id: int,
    *,
    refused: Refused | None = None,
    typed: Mapping[str, str] | None = None,
    weighed: CastPour | None = None,
    before: int | None = None,
) -> Response:
    log = shots.of_job(database, job_id, clock.now(), before=before)
    say = UnitFormatter(log.opened.workshop.units, log.opened.workshop.currency)
    context = {
        **job_context(log.opened, "casts", FormReading(changes={})),
        **log_context(log, say, weighed),
        "refused": say.refusal(refused) if refused else "",
        "refused_field": refused.field if refused else "",
        "typed": {key: text[:400] for key, text in (typed or {}).items()},
        "token": new_token(),
    }
    return render(request, "station/shot_log.html", context, status_code=422 if refused else 200)


@router.get("/jobs/{job_id}/casts/log")
def show(request: Request, database: TheDatabase, job_id: Number, pour: str = "", before: str = "") -> Response:
    """Show the log of a job's mould; a shot that was weighed at the bench is filled in already."""
    number = whole_number(pour) if pour else None
    weighed = bench.look(database, job_id, number) if number else None
    return _page(request, database, job_id, weighed=weighed, before=whole_number(before) if before else None)


@router.post("/jobs/{job_id}/casts/log")
def add(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Log a shot."""
    now = clock.now()
    log = shots.of_job(database, job_id, now)
    say = UnitFormatter(log.opened.workshop.units, log.opened.workshop.currency)
    number = whole_number(form.get("pour", "")) if form.get("pour") else None
    weighed = bench.look(database, job_id, number) if number else None
    try:
        shot = read_shot(form, log, say)
        shots.add(
            database,
            job_id,
            shot,
            cast_at(form, now, say),
            token=form.get("token", "")[:80] or new_token(),
            pour_id=weighed.pour.id if weighed else None,
        )
    except Refused as refused:
        return _page(request, database, job_id, refused=refused, typed=form, weighed=weighed)
    return go_to(request, Links.job(job_id, LOG))


@router.post("/jobs/{job_id}/casts/log/repeat")
def repeat(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Log the last shot once more."""
    try:
        shots.repeat(database, job_id, clock.now(), token=form.get("token", "")[:80] or new_token())
    except Refused as refused:
        return _page(request, database, job_id, refused=refused)
    return go_to(request, Links.job(job_id, LOG))


@router.post("/jobs/{job_id}/casts/log/{number}/back")
def take_back(request: Request, database: TheDatabase, job_id: Number, number: Number) -> Response:
    """Take back a shot that was logged by mistake."""
    shots.take_back(database, job_id, number)
    return go_to(request, Links.job(job_id, LOG))


@router.post("/jobs/{job_id}/casts/log/{number}/photos")
def keep_photo(
    request: Request,
    database: TheDatabase,
    job_id: Number,
    number: Number,
    photo: Annotated[UploadFile | None, File()] = None,
) -> Response:
    """Keep a picture of a shot."""
    try:
        if photo is None or not photo.size:
            raise Refused("photo", Text("Take or choose a picture first."))
        small, size_px = photos.made_small(photo.file.read(photos.MOST_BYTES + 1))
        shots.keep_photo(database, job_id, number, small, size_px)
    except Refused as refused:
        return _page(request, database, job_id, refused=refused)
    return go_to(request, Links.job(job_id, LOG))


@router.get("/jobs/{job_id}/casts/photos/{number}")
def show_photo(database: TheDatabase, job_id: Number, number: Number) -> Response:
    """Give a picture."""
    return Response(shots.photo(database, job_id, number), media_type="image/jpeg")


@router.post("/jobs/{job_id}/casts/cavities/{cavity}")
def retire(request: Request, database: TheDatabase, job_id: Number, cavity: Number, form: Posted) -> Response:
    """Retire a cavity, or take it back into use."""
    try:
        cause = form.get("cause", "")
        if form.get("act") == "retire" and cause not in CAUSES:
            raise Refused("why", Text("Why is this cavity retired? Choose a cause: it teaches how long moulds last."))
        why = CAUSES[cause] if form.get("act") == "retire" else ""
        shots.retire_cavity(database, job_id, cavity, why, cause=cause or "other")
    except Refused as refused:
        return _page(request, database, job_id, refused=refused)
    return go_to(request, Links.job(job_id, LOG))


@router.post("/jobs/{job_id}/casts/trial")
def trial(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Begin a trial of two ways, or end the one that runs."""
    try:
        if form.get("act") == "end":
            shots.end_trial(database, job_id)
        else:
            shots.begin_trial(
                database,
                job_id,
                about=form.get("about", ""),
                what=form.get("what", ""),
                first=form.get("first", ""),
                second=form.get("second", ""),
                by_shot=form.get("by_shot") == YES,
                is_graded=form.get("is_graded") == YES,
                is_blind=form.get("is_blind") == YES,
            )
    except Refused as refused:
        return _page(request, database, job_id, refused=refused, typed=form)
    return go_to(request, Links.job(job_id, LOG))
