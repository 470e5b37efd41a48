"""The page that describes the open interface."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.web.frame.pages import render

router = APIRouter(include_in_schema=False)


@router.get("/api/docs")
def show(request: Request) -> Response:
    """Show the interface's description, from shipped assets."""
    return render(request, "interface/api_docs.html", {})
