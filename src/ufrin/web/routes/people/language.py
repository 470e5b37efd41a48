"""The language that pages are read in, chosen at the foot of any page."""

from urllib.parse import urlsplit

from fastapi import APIRouter, Request
from starlette.responses import RedirectResponse, Response
from starlette.routing import Match

from ufrin.language import NAMES
from ufrin.web.frame.access import asks
from ufrin.web.frame.links import Links
from ufrin.web.frame.reading_language import COOKIE, COOKIE_LASTS_S
from ufrin.web.routes import Posted

router = APIRouter(include_in_schema=False)


@router.post("/language")
@asks("anybody")
def choose(request: Request, form: Posted) -> Response:
    """Keep the language in this browser, and show the page again."""
    answer = RedirectResponse(_page_before(request), status_code=303)
    if form.get("language") in NAMES:
        answer.set_cookie(COOKIE, form["language"], max_age=COOKIE_LASTS_S, httponly=True, samesite="lax")
    return answer


def _page_before(request: Request) -> str:
    came_from = urlsplit(request.headers.get("referer", ""))
    asked = {"type": "http", "method": "GET", "path": came_from.path}
    # what was shown may be the answer to a form, which can't be asked for again; and no other place is a page of ours
    if not any(route.matches(asked)[0] == Match.FULL for route in request.app.router.routes):
        return Links.board()
    return f"{came_from.path}?{came_from.query}" if came_from.query else came_from.path
