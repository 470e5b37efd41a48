"""The Sheet: one page to print and take to the bench, as HTML and as PDF."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.job import sheets, stations
from ufrin.actions.safekeeping import shared_sheets
from ufrin.errors import Refused
from ufrin.web.contexts.job_sheet import sheet_context, sheet_pdf
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


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
        **sheet_context(stations.open_job(database, job_id)),
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
    made = sheet_pdf(stations.open_job(database, job_id), request.app.state.workshop_clock)
    headers = {"Content-Disposition": f'inline; filename="job-{job_id}-sheet.pdf"'}
    return Response(made, media_type="application/pdf", headers=headers)
