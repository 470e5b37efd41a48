"""Bench devices: joined by scanning a code, thrown out at a tap; where a tablet begins; and keys of scripts."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.bench.running import what_runs
from ufrin.actions.job import board
from ufrin.actions.people import bench_devices
from ufrin.actions.people.bench_devices import JoinCode
from ufrin.actions.shop.workshop_settings import settings
from ufrin.devices import clock
from ufrin.errors import Missing, NotSignedIn, Refused, TooManyTries
from ufrin.language import Text
from ufrin.web.contexts.board import AT_BENCH, by_state, clocks_context
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import whole_number
from ufrin.web.frame.headlines import NOT_YET, job_state
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.qr_code import qr_code
from ufrin.web.frame.sign_in import DEVICE, asker, keep_token
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
MOST_NAMED = 200


@router.get("/devices")
@asks("change")
def show(request: Request, database: TheDatabase) -> Response:
    """Show the devices, and how to reach this server."""
    return _page(request, database)


@router.post("/devices/code")
@asks("change")
def show_code(request: Request, database: TheDatabase) -> Response:
    """Show a code that one tablet can scan."""
    return _page(request, database, code=bench_devices.show_code(database, party_in(request)))


@router.get("/devices/joined/{code}")
@asks("change")
def joined(request: Request, database: TheDatabase, code: str) -> Response:
    """Tell the page that shows a code whether a tablet has joined with it."""
    is_used = bench_devices.was_used(database, code)
    return go_to(request, Links.devices) if is_used else Response(status_code=204)


@router.post("/devices/scripts")
@asks("run shop")
def add_script(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Let a script read the interface, and show its key once."""
    try:
        key = bench_devices.add_script(database, party_in(request), name=form.get("name", ""))
    except Refused as refused:
        return _page(request, database, errors={"script": str(refused)}, typed=form.get("name", "")[:80])
    return _page(request, database, key=key)


@router.post("/devices/{number}/out")
@asks("change")
def throw_out(request: Request, database: TheDatabase, number: Number) -> Response:
    """Throw a device out."""
    bench_devices.throw_out(database, number)
    return go_to(request, Links.devices)


def _page(
    request: Request,
    database: Database,
    *,
    code: JoinCode | None = None,
    key: str = "",
    errors: dict[str, str] | None = None,
    typed: str = "",
) -> Response:
    base = request.app.state.address or str(request.base_url).rstrip("/")
    context: dict[str, Any] = {
        "devices": bench_devices.every(database),
        "code": code,
        "address": base,
        "qr": qr_code(f"{base}{Links.join(code.code)}") if code else "",
        "address_qr": qr_code(base),
        "hosts": request.app.state.hosts,
        "signs_in": request.app.state.settings.sign_in,
        "has_own_certificate": request.app.state.own_certificate is not None,
        "key": key,
        "errors": errors or {},
        "typed": typed,
    }
    return render(request, "people/devices.html", context, status_code=422 if errors else 200)


@router.get("/devices/certificate.crt")
@asks("anybody")
def certificate(request: Request) -> Response:
    """Give the certificate of the shop's own, for a tablet to trust."""
    own = request.app.state.own_certificate
    if own is None:
        raise Missing(Text("a certificate of the workshop's own"))
    headers = {"Content-Disposition": 'attachment; filename="ufrin-workshop.crt"'}
    return Response(own.read_bytes(), media_type="application/x-x509-ca-cert", headers=headers)


@router.get("/join")
@asks("anybody")
def ask(request: Request, database: TheDatabase, code: str = "") -> Response:
    """Ask a tablet that scanned a code for its name; looking at this page uses nothing up."""
    code = code[:40]
    errors = {} if not code or bench_devices.is_good(database, code) else {"": bench_devices.NO_CODE}
    return render(request, "people/join.html", {"code": code, "name": "", "errors": errors})


@router.post("/join")
@asks("anybody")
def join(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Join a tablet."""
    code, name = form.get("code", "")[:40], form.get("name", "")[:80]
    try:
        token = bench_devices.join(database, code=code, name=name, address=asker(request)[0])
    except (NotSignedIn, Refused, TooManyTries) as error:
        field = error.field if isinstance(error, Refused) else ""
        context = {"code": code, "name": name, "errors": {field: str(error)}}
        return render(request, "people/join.html", context, status_code=error.status)
    return keep_token(request, go_to(request, Links.bench), DEVICE, token)


@router.get("/bench")
@asks("see bench")
def bench(request: Request, database: TheDatabase) -> Response:
    """Show what can be weighed and what runs: where a tablet at the bench begins."""
    return _bench(request, database)


@router.post("/bench/who")
@asks("weigh")
def stand(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Keep who stands at this tablet."""
    try:
        bench_devices.stand(database, party_in(request), form.get("who", "")[:80])
    except Refused as refused:
        return _bench(request, database, error=str(refused))
    return go_to(request, Links.bench)


def _bench(request: Request, database: Database, *, error: str = "") -> Response:
    now, workshop = clock.now(), settings(database)
    page = board.board(database, page=whole_number(request.query_params.get("page", "1"), most_digits=6) or 1)
    rows = [
        (one.job, job_state(one.figures, one.stage(now)) if one.figures else NOT_YET, one.figures)
        for one in page.listed
    ]
    context = {
        "board": page,
        "groups": [(heading, found) for heading, found in by_state(rows) if heading in AT_BENCH],
        "names": bench_devices.names(database)[:MOST_NAMED],
        "say": UnitFormatter(workshop.units, workshop.currency),
        "error": error,
    }
    runs = clocks_context(what_runs(database, now), now)
    return render(request, "people/bench.html", context | runs, status_code=422 if error else 200)
