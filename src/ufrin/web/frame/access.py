"""Access: what each route asks of whoever makes a request, declared beside it, and checked before it runs.

What a route declares nothing for follows from how it is asked: to look asks for "see", to change for "change". The
calls of the open interface only compute and read, so they ask for "see".
"""

from collections.abc import Callable
from typing import Any, TypeVar

from starlette.requests import Request

from ufrin.actions.people.party import ALONE, NOBODY, Party, Right
from ufrin.errors import NotAllowed, NotSignedIn
from ufrin.language import Text

Endpoint = TypeVar("Endpoint", bound=Callable[..., Any])
_DECLARED = "least_right"
_WHO_MAY: dict[Right, str] = {
    "see": Text("A tablet at the bench opens the pages of the bench only. Open this one at a desk, signed in."),
    "see bench": Text("This page is for people and for tablets at the bench."),
    "weigh": Text("Your account can read, and change nothing. Ask the owner to make you a maker."),
    "change": Text("This is for makers: an account that reads, a tablet at the bench or a script can't change it."),
    "run shop": Text("This is for the owner of the workshop."),
}


def asks(right: Right) -> Callable[[Endpoint], Endpoint]:
    """Declare what a route asks of whoever makes a request.

    Parameters
    ----------
    right : str
        The least right.

    Returns
    -------
    function
        That marks the route.
    """

    def mark(endpoint: Endpoint) -> Endpoint:
        setattr(endpoint, _DECLARED, right)
        return endpoint

    return mark


def right_of(endpoint: Callable[..., Any], path: str, method: str) -> Right:
    """Return what a route asks of whoever makes a request.

    Parameters
    ----------
    endpoint : function
        The route's.
    path, method : str
        How it is asked.

    Returns
    -------
    str
        The right.
    """
    declared: Right | None = getattr(endpoint, _DECLARED, None)
    if declared:
        return declared
    return "see" if path.startswith("/api/") or method in {"GET", "HEAD", "OPTIONS"} else "change"


def party_in(request: Request) -> Party:
    """Return who makes a request.

    Parameters
    ----------
    request : Request
        As received.

    Returns
    -------
    Party
        Where nobody has looked yet: nobody, or whoever is at this machine where nobody signs in.
    """
    found: Party | None = getattr(request.state, "party", None)
    return found or (NOBODY if request.app.state.settings.sign_in else ALONE)


async def check(request: Request) -> None:
    """Check that whoever makes a request may; every route depends on it.

    Parameters
    ----------
    request : Request
        As received.

    Raises
    ------
    NotSignedIn
        When nobody is signed in.
    NotAllowed
        When whoever is may not.
    """
    party, right = party_in(request), right_of(request.scope["endpoint"], request.url.path, request.method)
    if party.may(right):
        return
    if party.who == "nobody":
        raise NotSignedIn
    raise NotAllowed(_WHO_MAY[right])
