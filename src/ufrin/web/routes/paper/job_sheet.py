"""The Sheet: one page to print and take to the bench, as HTML and as PDF."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.job import sheets, stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.job.terms.master import WAYS
from ufrin.core.rubber.post_cure import post_cure_of
from ufrin.devices import clock
from ufrin.web.contexts.checks import befores
from ufrin.web.contexts.cure_watch import demould_sentences
from ufrin.web.contexts.opening import opening_context
from ufrin.web.contexts.scenes import box_views
from ufrin.web.contexts.station import job_context
from ufrin.web.drawings.svg_marks import in_a_row
from ufrin.web.frame.forms import FormReading
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import environment, go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, TheDatabase

router = APIRouter(include_in_schema=False)


def _context(opened: OpenJob) -> dict[str, object]:
    say = UnitFormatter(opened.workshop.units, opened.workshop.currency)
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
        **job_context(opened, "box", FormReading(changes={})),
        "station": "sheet",
        "views": views,
        "on_one_line": in_a_row([(view.title, view.drawing) for view in views], "The box in front, side and plan")
        if views
        else None,
        "findings": [
            finding for found in opened.plan.findings.values() for finding in found if finding.level != "note"
        ],
        "all_refusals": [say.refusal(refusal) for refused in opened.plan.refusals.values() for refusal in refused],
        "said": {"master": opened.job.master.settled(), "rubber": opened.plan.rubber_settled},
        "ways": WAYS,
        "befores": befores(opened.step_states(clock.now()), say, clock.now().wall_s),
        "after_pours": _after_pours(opened, say),
        "post_cure": post_cure_of(opened.plan.pour.rubber.family) if opened.plan.pour else None,
        "today": opened.workshop.today,
    }


def _after_pours(opened: OpenJob, say: UnitFormatter) -> list[tuple[str, tuple[str, ...]]]:
    # what is done after each pour, under its heading
    plan = opened.plan
    slit_mm = plan.opening.slit.length_mm if plan.opening and plan.opening.slit else None
    return [
        (
            f"After the {pour.half} half" if pour.half else "After the pour",
            (
                "Press the left-over in its cup before you touch the mould.",
                *demould_sentences(plan.style, pour.half, slit_mm, say),
            ),
        )
        for pour in plan.pours
    ]


@router.get("/jobs/{job_id}/sheet")
def show(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Show the sheet as it will be printed."""
    return render(request, "paper/job_sheet.html", _context(stations.open_job(database, job_id)))


@router.post("/jobs/{job_id}/sheet/print")
def print_sheet(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Count the sheet as printed, and give it as PDF with its revision."""
    sheets.print_sheet(database, job_id)
    return go_to(request, Links.job(job_id, "sheet.pdf"))


@router.get("/jobs/{job_id}/sheet.pdf")
def download(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Give the sheet as PDF."""
    # it takes a second to load, which a server that starts need not wait for
    from ufrin.web.frame.pdf import pdf  # noqa: PLC0415

    opened = stations.open_job(database, job_id)
    made = pdf(
        environment.get_template("paper/_job_sheet.html").render(
            {"workshop_clock": request.app.state.workshop_clock, **_context(opened)}
        ),
        opened.job.name,
        opened.workshop.units,
    )
    return Response(
        made,
        media_type="application/pdf",
        headers={"Content-Disposition": f'inline; filename="job-{job_id}-sheet.pdf"'},
    )
