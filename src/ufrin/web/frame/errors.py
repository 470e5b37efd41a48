"""Errors as pages, fragments and answers: one handler for all of Ufrin's own, one for what the framework refuses."""

from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException
from starlette.requests import Request
from starlette.responses import Response
from starlette.routing import BaseRoute, Match, Route

from ufrin.core.measures.display import say_amounts
from ufrin.errors import Missing, NotAllowed, NotSignedIn, Refused, UfrinError
from ufrin.language import Text
from ufrin.web.frame.access import party_in
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render


class _Spoken(UfrinError):
    """What the framework refused, in our words."""

    def __init__(self, status: int, title: str, why: str) -> None:
        super().__init__(why)
        self.status, self.title, self.why = status, title, why

    def __str__(self) -> str:
        return self.why


def answer(request: Request, error: UfrinError, *, reference: str = "") -> Response:
    """Answer an error in the form that was asked for.

    Parameters
    ----------
    request : Request
        An address under ``/api`` gets JSON, an htmx request a notice, all others a page.
    error : UfrinError
        What happened.
    reference : str, optional
        Under which the log has more.

    Returns
    -------
    Response
        With the error's status.
    """
    why = say_amounts(str(error))
    if request.url.path.startswith("/api/"):
        detail = f"{error.field}: {why}" if isinstance(error, Refused) and error.field else why
        headers = {"WWW-Authenticate": "Bearer"} if isinstance(error, NotSignedIn) else {}
        told = {"detail": detail, **({"reference": reference} if reference else {})}
        return JSONResponse(told, status_code=error.status, headers=headers)
    is_signed_out = isinstance(error, NotSignedIn)
    context = {"title": error.title, "why": why, "reference": reference, "is_signed_out": is_signed_out}
    if is_htmx(request):
        response = render(request, "frame/_notice.html", context, status_code=error.status)
        response.headers["HX-Retarget"], response.headers["HX-Reswap"] = "#notice", "innerHTML"
        return response
    return render(request, "frame/error.html", context, status_code=error.status)


async def ufrin_error(request: Request, error: Exception) -> Response:
    """Answer one of Ufrin's own errors; somebody who looks at a page and is not signed in is led to sign in."""
    is_page = request.method in {"GET", "HEAD"} and not request.url.path.startswith("/api/") and not is_htmx(request)
    if is_page and isinstance(error, NotSignedIn):
        asked = request.url.path + (f"?{request.url.query}" if request.url.query else "")
        return go_to(request, Links.sign_in_then(asked))
    if is_page and isinstance(error, NotAllowed) and request.url.path == "/" and party_in(request).device_id:
        return go_to(request, Links.bench)
    return answer(request, error if isinstance(error, UfrinError) else UfrinError())


async def http_error(request: Request, error: Exception) -> Response:
    """Answer what the framework refuses: unknown addresses, wrong methods, unreadable bodies."""
    status = error.status_code if isinstance(error, HTTPException) else 400
    if status == 404:
        return answer(request, Missing())
    if status == 405:
        refused = answer(
            request, _Spoken(405, Text("Not that way"), Text("This address does not take that kind of request."))
        )
        refused.headers["Allow"] = _allowed(request) or "GET, HEAD"
        return refused
    detail = (
        str(error.detail)
        if isinstance(error, HTTPException) and status == 413
        else Text("What was sent can't be read. Reload the page and try again.")
    )
    return answer(request, _Spoken(status, Text("That did not work"), detail))


def _allowed(request: Request) -> str:
    # every way in which this address may be asked; the framework names those of the first route alone
    allowed = {
        method
        for route in _routes(request.app.routes)
        if route.matches(request.scope)[0] is not Match.NONE
        for method in route.methods or ()
    }
    return ", ".join(sorted(allowed | ({"HEAD"} if "GET" in allowed else set())))


def _routes(some: Iterable[BaseRoute]) -> Iterator[Route]:
    for one in some:
        if isinstance(one, Route):
            yield one
        else:
            yield from _routes(getattr(one, "original_router", one).__dict__.get("routes", ()))


async def invalid(request: Request, error: Exception) -> Response:
    """Answer a request whose body or address breaks its declaration."""
    if not request.url.path.startswith("/api/"):
        return answer(request, Missing())
    return answer(request, Refused("", sentence(error.errors() if isinstance(error, RequestValidationError) else [])))


_PLAIN = {
    "missing": Text("is missing"),
    "extra_forbidden": Text("is not known here; see /api/docs for the names"),
    "finite_number": Text("must be an ordinary number, not NaN or infinite"),
    "float_type": Text("must be a plain JSON number"),
    "int_type": Text("must be a whole JSON number"),
    "json_invalid": Text("is not valid JSON"),
}


_BOUNDS = {"ge": Text("must be at least {}"), "le": Text("must be at most {}")}


def sentence(errors: Sequence[Any]) -> str:
    """Turn the validator's list into one sentence per field.

    Parameters
    ----------
    errors : sequence of mappings
        As Pydantic gives them.

    Returns
    -------
    str
        Of at most five fields.
    """
    sentences = []
    for error in errors[:5]:
        place = ".".join(str(step) for step in error["loc"] if step != "body") or Text("the body")
        limits = error.get("ctx", {})
        bound = next((str(words).format(f"{limits[key]:.10g}") for key, words in _BOUNDS.items() if key in limits), "")
        message = bound or str(error["msg"]).removeprefix("Value error, ").removeprefix("Input ")
        sentences.append(f"{place} {_PLAIN.get(error['type'], message)}".replace(" should ", " must "))
    return "; ".join(sentences) + "." if sentences else Text("What was sent can't be read.")
