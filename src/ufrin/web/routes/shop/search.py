"""The search: jobs, moulds, things of the Shelf, words, quick sums and pages by one field."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.shop.search import LONGEST, find
from ufrin.actions.shop.workshop_settings import settings
from ufrin.web.contexts.search import hits_shown, other_pages
from ufrin.web.frame.pages import is_htmx, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/search")
def show(request: Request, database: TheDatabase, q: str = "") -> Response:
    """Show what holds a text."""
    text = q.replace("\x00", "")[:LONGEST]
    context = {
        "text": text,
        "hits": hits_shown(find(database, text)),
        "groups": other_pages(text),
        "say": UnitFormatter(settings(database).units),
    }
    return render(request, "shop/_found.html" if is_htmx(request) else "shop/search.html", context)
