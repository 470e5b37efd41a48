"""Health: whether the server, its database and any worker answer."""

from fastapi import APIRouter
from starlette.responses import JSONResponse, Response

from ufrin.actions.job import long_work
from ufrin.errors import DatabaseAway, DatabaseBusy
from ufrin.web.frame.access import asks
from ufrin.web.routes import TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/healthz")
@asks("anybody")
def health(database: TheDatabase) -> Response:
    """Return 200 when pages are answered, or 503 while the database is away or busy; workers are told besides."""
    try:
        at_work = long_work.are_workers_at_work(database)
    except (DatabaseAway, DatabaseBusy) as error:
        state = "busy" if isinstance(error, DatabaseBusy) else "away"
        return JSONResponse({"server": "up", "database": state}, status_code=503)
    return JSONResponse({"server": "up", "database": "up", "workers": "at work" if at_work else "none at work"})
