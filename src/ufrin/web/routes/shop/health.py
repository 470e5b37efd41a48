"""Health: whether the server, its database and any worker answer; and metrics for a monitor."""

import ipaddress

from fastapi import APIRouter, Request
from starlette.responses import JSONResponse, Response

from ufrin.actions.safekeeping import watched
from ufrin.errors import DatabaseAway, DatabaseBusy, NotAllowed
from ufrin.language import Text
from ufrin.web.frame import metrics
from ufrin.web.frame.access import asks, party_in
from ufrin.web.routes import TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/healthz")
@asks("anybody")
def health(request: Request, database: TheDatabase) -> Response:
    """Return 200 when pages are answered, or 503 while the database is away or busy; workers and disk besides."""
    try:
        told = watched.health(database, request.app.state.settings.backups)
    except (DatabaseAway, DatabaseBusy) as error:
        state = "busy" if isinstance(error, DatabaseBusy) else "away"
        return JSONResponse({"server": "up", "database": state}, status_code=503)
    return JSONResponse({"server": "up", **told})


@router.get("/metrics")
@asks("anybody")
def figures(request: Request, database: TheDatabase) -> Response:
    """Return metrics, to a monitor on this machine, to a script with a key, and to whoever is signed in."""
    if not (_is_here(request) or party_in(request).may("see")):
        raise NotAllowed(Text("Metrics are for a monitor on this machine, and for scripts with a key."))
    return Response(metrics.text(watched.gauges(database, request.app.state.settings.backups)), media_type=metrics.TEXT)


def _is_here(request: Request) -> bool:
    # what a proxy on this machine passes on comes from elsewhere
    if request.client is None or "x-forwarded-for" in request.headers:
        return False
    try:
        return ipaddress.ip_address(request.client.host).is_loopback
    except ValueError:
        return False
