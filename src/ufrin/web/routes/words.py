"""The list of words: every term of the trade in a sentence."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.workshop import settings
from ufrin.core.words import WORDS
from ufrin.web.pages import render
from ufrin.web.routes import TheDatabase
from ufrin.web.speech import Speech

router = APIRouter(include_in_schema=False)


@router.get("/words")
def show(request: Request, database: TheDatabase) -> Response:
    """Show the list."""
    return render(request, "words.html", {"listed": WORDS, "say": Speech(settings(database).units)})
