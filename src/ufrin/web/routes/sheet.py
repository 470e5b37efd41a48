"""The Sheet: one page to print and take to the bench, as HTML and as PDF."""

from datetime import date

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import jobs
from ufrin.actions.opened import OpenJob
from ufrin.core.terms import BOX, MASTER, RUBBER, WAYS, settled
from ufrin.devices import clock
from ufrin.web.checks_page import befores
from ufrin.web.drawings.ink import in_a_row
from ufrin.web.forms import Read
from ufrin.web.opening_page import opening_context
from ufrin.web.pages import environment, render
from ufrin.web.routes import Number, TheDatabase
from ufrin.web.routes.job import job_context
from ufrin.web.scenes import box_views
from ufrin.web.speech import Speech

router = APIRouter(include_in_schema=False)


def _context(opened: OpenJob) -> dict[str, object]:
    say = Speech(opened.workshop.units, opened.workshop.currency)
    views = box_views(opened, say)
    opening = opening_context(opened, say)
    drawn = [
        (f"{view.title}, {what}", view.drawing)
        for what, key in (("in the box", "mould_views"), ("held for casting", "cast_views"))
        for view in opening[key]
    ]
    return {
        **opening,
        "opening_line": in_a_row(drawn, "How the mould opens, and how it is held for casting") if drawn else None,
        **job_context(opened, "box", Read(changes={})),
        "station": "sheet",
        "views": views,
        "on_one_line": in_a_row([(view.title, view.drawing) for view in views], "The box in front, side and plan") if views else None,
        "findings": [finding for found in opened.plan.findings.values() for finding in found if finding.level != "note"],
        "all_refusals": [say.refusal(refusal) for refused in opened.plan.refusals.values() for refusal in refused],
        "said": {"master": settled(opened.job.master, MASTER), "box": settled(opened.job.box, BOX), "rubber": settled(opened.job.rubber, RUBBER)},
        "ways": WAYS,
        "befores": befores(opened.plan.checks.steps, say, clock.now().wall_s) if opened.plan.checks else [],
        "printed": date.today(),
    }


@router.get("/jobs/{job_id}/sheet")
def show(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Show the sheet as it will be printed."""
    return render(request, "sheet.html", _context(jobs.open_job(database, job_id)))


@router.get("/jobs/{job_id}/sheet.pdf")
def download(database: TheDatabase, job_id: Number) -> Response:
    """Give the sheet as PDF."""
    from ufrin.web.paper import pdf  # noqa: PLC0415 - it takes a second to load, which a server that starts need not wait for

    opened = jobs.open_job(database, job_id)
    made = pdf(environment.get_template("_paper.html").render(_context(opened)), opened.job.name, opened.workshop.units)
    return Response(made, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="job-{job_id}-sheet.pdf"'})
