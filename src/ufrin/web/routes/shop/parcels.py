"""Parcels: a job, a mould or everything taken out, and brought in with what collides shown first."""

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, File, Request, UploadFile
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.job import stations
from ufrin.actions.safekeeping import bringing_in, taking_out
from ufrin.errors import Refused, TooLarge
from ufrin.language import Text
from ufrin.web.contexts.job_sheet import sheet_pdf
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import YES, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.mesh_line import in_line
from ufrin.web.frame.pages import go_to, render
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
THINGS = {
    "rubbers": Text("Rubber"),
    "additives": Text("Additive"),
    "resins": Text("Casting material"),
    "additions": Text("Filler or colour"),
    "products": Text("Release or sealer"),
    "cups": Text("Cup"),
    "containers": Text("Container"),
}
COUNTS = {
    "meshes": ("mesh", "meshes"),
    "pours": (Text("pour with its record"), Text("pours with their records")),
    "shots": ("shot", "shots"),
    "moulds": ("mould", "moulds"),
    "pictures": ("picture", "pictures"),
    "coupons": (Text("test coupon"), Text("test coupons")),
    "sheets": (Text("safety data sheet"), Text("safety data sheets")),
    "tests": (Text("test of a pairing"), Text("tests of pairings")),
}


def _file(found: tuple[str, bytes]) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{taking_out.file_name(found[0])}"'}
    return Response(found[1], media_type="application/zip", headers=headers)


@router.get("/jobs/{job_id}/parcel.zip")
def job(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Give a job as a parcel, with its sheet."""
    sheet = sheet_pdf(stations.open_job(database, job_id), request.app.state.workshop_clock)
    return _file(taking_out.job(database, job_id, datetime.now(UTC), sheet=sheet))


@router.get("/moulds/{number}/parcel.zip")
def mould(database: TheDatabase, number: Number) -> Response:
    """Give a mould as a parcel."""
    return _file(taking_out.mould(database, number, datetime.now(UTC)))


@router.get("/everything.zip")
@asks("run shop")
def everything(database: TheDatabase) -> Response:
    """Give all jobs and the Shelf as a parcel."""
    return _file(taking_out.everything(database, datetime.now(UTC)))


@router.get("/bring-in")
@asks("change")
def ask(request: Request) -> Response:
    """Ask for a parcel."""
    return _ask(request, "")


@router.post("/bring-in")
async def send(request: Request, database: TheDatabase, file: Annotated[UploadFile | None, File()] = None) -> Response:
    """Look at a parcel before it is brought in."""
    return await in_line(request, _send, request, database, file)


def _send(request: Request, database: Database, file: UploadFile | None) -> Response:
    try:
        if file is None or not file.size:
            raise Refused("file", Text("Choose an export file first: a zip file that Ufrin made."))
        if file.size > request.app.state.settings.mesh_limit_bytes:
            raise TooLarge(request.app.state.settings.mesh_limit_bytes, file=True)
        number = bringing_in.send(database, file.filename or "", file.file.read())
    except Refused as refused:
        return _ask(request, str(refused))
    return go_to(request, Links.incoming(number))


def _ask(request: Request, error: str) -> Response:
    return render(request, "shop/bring_in.html", {"error": error}, status_code=422 if error else 200)


@router.get("/bring-in/{number}")
@asks("change")
def look(request: Request, database: TheDatabase, number: Number) -> Response:
    """Show what a parcel would bring, and what collides."""
    return _look(request, database, number, "")


@router.post("/bring-in/{number}")
async def bring_in(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Bring a parcel in, or forget it."""
    return await in_line(request, _bring_in, request, database, number, form)


def _bring_in(request: Request, database: Database, number: int, form: dict[str, str]) -> Response:
    if form.get("what") == "forget":
        bringing_in.forget(database, number)
        return go_to(request, Links.bring_in)
    both = {key.removeprefix("both-") for key, value in form.items() if key.startswith("both-") and value == YES}
    again = {whole_number(key.removeprefix("again-")) for key in form if key.startswith("again-")}
    try:
        made = bringing_in.bring_in(
            database,
            number,
            both=frozenset(both),
            again=frozenset(one for one in again if one is not None),
            by=party_in(request).name,
        )
    except Refused as refused:
        return _look(request, database, number, str(refused))
    return render(request, "shop/brought_in.html", {"made": made})


def _look(request: Request, database: Database, number: int, error: str) -> Response:
    try:
        incoming = bringing_in.look(database, number)
    except Refused as refused:
        return _ask(request, str(refused))
    context = {
        "incoming": incoming,
        "things": THINGS,
        "counts": [(COUNTS[key], count) for key, count in incoming.counts.items() if count],
        "plain_values": bringing_in.plain_values,
        "error": error,
    }
    return render(request, "shop/incoming.html", context, status_code=422 if error else 200)
