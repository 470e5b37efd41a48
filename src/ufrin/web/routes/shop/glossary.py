"""The list of words: every term of the trade in a sentence."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.wording.glossary import listed_words
from ufrin.web.frame.pages import render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/words")
def show(request: Request, database: TheDatabase) -> Response:
    """Show the list."""
    return render(
        request, "shop/glossary.html", {"listed": listed_words(), "say": UnitFormatter(settings(database).units)}
    )
