"""The sequence of a job: its line of time, what is ticked off, its wish, and its calendar file."""

from collections.abc import Mapping
from datetime import datetime

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.bench import sequence
from ufrin.actions.bench.sequence import DatedJob
from ufrin.actions.schedule import job_in_plan
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.language import DateText, Text
from ufrin.web.contexts.station import job_context
from ufrin.web.drawings.sequence import sequence_svg
from ufrin.web.frame.access import asks
from ufrin.web.frame.calendar_file import CalendarEvent, calendar_file
from ufrin.web.frame.forms import YES, FormReading
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{job_id}/sequence")
@asks("see bench")
def show(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Show the steps of a job as a line of time."""
    return _page(request, database, job_id, {}, "")


@router.post("/jobs/{job_id}/wish")
def wish(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Keep when a job is wished to be ready."""
    typed = form.get("wanted", "")[:40]
    try:
        sequence.wish(database, job_id, typed, clock.now())
    except Refused as refused:
        return _page(request, database, job_id, {refused.field: str(refused)}, typed)
    return go_to(request, Links.job(job_id, "sequence"))


@router.post("/jobs/{job_id}/sequence/{key}")
@asks("weigh")
def tick(request: Request, database: TheDatabase, job_id: Number, key: str, form: Posted) -> Response:
    """Tick a step off, or take the tick back."""
    try:
        sequence.tick(database, job_id, key[:64], done=form.get("done") == YES, at_s=clock.now().wall_s)
    except Refused as refused:
        return _page(request, database, job_id, {"": str(refused)}, "")
    return go_to(request, Links.job(job_id, "sequence"))


@router.get("/jobs/{job_id}/sequence.ics")
def calendar(database: TheDatabase, job_id: Number) -> Response:
    """Give the steps of a job as a calendar file."""
    seen = job_in_plan.of_job(database, job_id, clock.now())
    headers = {"Content-Disposition": f'attachment; filename="job-{job_id}.ics"'}
    return Response(_calendar(seen), media_type="text/calendar; charset=utf-8", headers=headers)


def _calendar(seen: DatedJob) -> bytes:
    job = seen.opened.job
    events = [
        CalendarEvent(
            uid=f"job-{job.id}-{one.step.key}@ufrin",
            summary=f"{job.name}: {one.step.label}",
            begins_s=one.begins_s,
            ends_s=one.ends_s,
            is_busy=not one.step.is_wait,
            is_settled=one.state != "to come",
            is_over=one.state == "done",
        )
        for one in seen.steps
    ]
    return calendar_file(job.name, Text("Sequence of a job"), events)


def _page(request: Request, database: Database, job_id: int, errors: Mapping[str, str], typed: str) -> Response:
    now = clock.now()
    seen = job_in_plan.of_job(database, job_id, now)
    workshop = seen.opened.workshop
    say = UnitFormatter(workshop.units, workshop.currency)

    def when(seconds: float) -> str:
        return DateText(datetime.fromtimestamp(seconds, workshop.zone), "weekday", "%H:%M")

    wished = f"{datetime.fromtimestamp(seen.wish_s, workshop.zone):%Y-%m-%dT%H:%M}" if seen.wish_s else ""
    context = {
        **job_context(seen.opened, "rubber", FormReading(changes={})),
        "station": "pour",
        "seen": seen,
        "say": say,
        "svg": sequence_svg(seen.steps, now.wall_s, when),
        "when": when,
        "ready_s": seen.steps[-1].ends_s if seen.steps else None,
        "next_step": next((one for one in seen.steps if one.state != "done"), None),
        "errors": errors,
        "typed": typed or wished,
    }
    return render(request, "bench/sequence.html", context, status_code=422 if errors else 200)
