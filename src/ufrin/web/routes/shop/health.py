"""Health: whether the server and its database answer."""

from fastapi import APIRouter
from starlette.responses import JSONResponse, Response

from ufrin.actions.shop.workshop_settings import settings
from ufrin.errors import DatabaseAway
from ufrin.web.routes import TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/healthz")
def health(database: TheDatabase) -> Response:
    """Return 200 when all is well, or 503 while the database is away."""
    try:
        settings(database)
    except DatabaseAway:
        return JSONResponse({"server": "up", "database": "away"}, status_code=503)
    return JSONResponse({"server": "up", "database": "up"})
