"""The Sheet: one page to print and take to the bench, as HTML and as PDF."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.job import sheets, stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.actions.safekeeping import shared_sheets
from ufrin.core.job.terms.master import WAYS
from ufrin.core.rubber.post_cure import post_cure_of
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.web.contexts.checks import befores
from ufrin.web.contexts.cure_watch import demould_sentences
from ufrin.web.contexts.opening import opening_context
from ufrin.web.contexts.scenes import box_views
from ufrin.web.contexts.station import job_context
from ufrin.web.drawings.svg_marks import in_a_row
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import FormReading, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import environment, go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

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
    return _page(request, database, job_id)


@router.post("/jobs/{job_id}/sheet/share")
def share(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Share the sheet with somebody who has no account, and show its address once."""
    typed = {key: form.get(key, "")[:80] for key in ("for_whom", "days")}
    days = whole_number(typed["days"].strip(), most_digits=4)
    try:
        secret = shared_sheets.share(database, job_id, for_whom=typed["for_whom"], days=days, by=party_in(request).name)
    except Refused as refused:
        return _page(request, database, job_id, errors={refused.field: str(refused)}, typed=typed)
    base = request.app.state.address or str(request.base_url).rstrip("/")
    return _page(request, database, job_id, address=f"{base}{Links.shared(secret)}")


@router.post("/jobs/{job_id}/sheet/share/{number}/end")
def end_share(request: Request, database: TheDatabase, job_id: Number, number: Number) -> Response:
    """End a share before its time."""
    shared_sheets.end(database, number, job_id)
    return go_to(request, Links.job(job_id, "sheet") + "#share")


@router.get("/shared/{secret}")
@asks("anybody")
def show_shared(request: Request, database: TheDatabase, secret: str) -> Response:
    """Show a shared sheet, as PDF, to whoever has its address."""
    return _pdf(request, database, shared_sheets.job_of(database, secret))


def _page(
    request: Request,
    database: Database,
    job_id: int,
    *,
    address: str = "",
    errors: dict[str, str] | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    context = {
        **_context(stations.open_job(database, job_id)),
        "shares": shared_sheets.of_job(database, job_id),
        "shared_address": address,
        "errors": errors or {},
        "typed": typed or {},
    }
    return render(request, "paper/job_sheet.html", context, status_code=422 if errors else 200)


@router.post("/jobs/{job_id}/sheet/print")
def print_sheet(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Count the sheet as printed, and give it as PDF with its revision."""
    sheets.print_sheet(database, job_id)
    return go_to(request, Links.job(job_id, "sheet.pdf"))


@router.get("/jobs/{job_id}/sheet.pdf")
def download(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Give the sheet as PDF."""
    return _pdf(request, database, job_id)


def _pdf(request: Request, database: Database, job_id: int) -> Response:
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
