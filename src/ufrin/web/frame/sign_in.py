"""Who makes a request, found before it is read: by the cookie of a session or of a bench device, or by a script's key.

A stream that goes on for hours looks again now and then, so that it ends soon after whoever reads it was sent away.
"""

import time

from anyio import to_thread
from starlette.datastructures import Headers
from starlette.requests import HTTPConnection, Request
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ufrin.actions import Database
from ufrin.actions.people.party import ALONE, NOBODY, Party, at_work
from ufrin.actions.people.signing_in import SessionLimits, party_of
from ufrin.errors import UfrinError
from ufrin.web.frame.errors import answer

SESSION, DEVICE = "ufrin_session", "ufrin_device"
TEN_YEARS_S = 10 * 365 * 24 * 3600
LOOK_AGAIN_S = 5.0
_KEY = "bearer "


class _SentAway(Exception):
    """Whoever reads a stream may not read it any more."""


class SignIn:
    """Pure ASGI middleware inside the guard.

    Parameters
    ----------
    app : ASGIApp
        The application.
    database : Database
        With the sessions.
    limits : SessionLimits
        How long they last.
    is_required : bool
        Whether people sign in; without, whoever asks is taken for the owner.
    """

    def __init__(self, app: ASGIApp, database: Database, limits: SessionLimits, *, is_required: bool) -> None:
        self._app, self._database, self._limits, self._is_required = app, database, limits, is_required

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request through."""
        if scope["type"] != "http" or scope["path"].startswith("/static/"):
            await self._app(scope, receive, send)
            return
        try:
            party = await self._party(scope, is_use=not _asks_by_itself(scope))
        except UfrinError as error:
            await answer(Request(scope), error)(scope, receive, send)
            return
        scope.setdefault("state", {})["party"] = party
        looked_at, is_stream, is_sent_away = time.monotonic(), False, False

        async def sending(message: Message) -> None:
            nonlocal looked_at, is_stream, is_sent_away
            if message["type"] == "http.response.start":
                kind = Headers(raw=message["headers"]).get("content-type", "")
                is_stream = self._is_required and kind.startswith("text/event-stream")
            elif is_stream and time.monotonic() - looked_at > LOOK_AGAIN_S:
                looked_at = time.monotonic()
                if not _is_same(party, await self._party(scope, is_use=False)):
                    is_sent_away = True
                    raise _SentAway
            await send(message)

        try:
            with at_work(party):
                await self._app(scope, receive, sending)
        except Exception:
            if not is_sent_away:
                raise
            await send({"type": "http.response.body", "body": b"", "more_body": False})

    async def _party(self, scope: Scope, *, is_use: bool) -> Party:
        if not self._is_required:
            return ALONE
        asking = HTTPConnection(scope)
        session, device = asking.cookies.get(SESSION, ""), asking.cookies.get(DEVICE, "")
        authorization = asking.headers.get("authorization", "")
        key = authorization[len(_KEY) :].strip() if authorization.lower().startswith(_KEY) else ""
        if not (session or device or key):
            return NOBODY
        return await to_thread.run_sync(
            lambda: party_of(
                self._database, session=session, device=device, key=key, limits=self._limits, is_use=is_use
            )
        )


def _asks_by_itself(scope: Scope) -> bool:
    # parts of an open page and its streams: clocks that are brought up to date, and the like
    headers = Headers(scope=scope)
    is_part = headers.get("hx-request") == "true" or headers.get("accept") == "text/event-stream"
    return scope["method"] in {"GET", "HEAD"} and is_part


def _is_same(first: Party, second: Party) -> bool:
    return (first.who, first.account_id, first.device_id) == (second.who, second.account_id, second.device_id)


def limits_of(request: Request) -> SessionLimits:
    """Return how long sessions last here.

    Parameters
    ----------
    request : Request
        As received.

    Returns
    -------
    SessionLimits
        As they are set.
    """
    settings = request.app.state.settings
    return SessionLimits(idle_h=settings.session_idle_h, longest_h=settings.session_longest_h)


def keep_token(request: Request, response: Response, name: str, token: str) -> Response:
    """Let the browser keep a token: out of reach of scripts and other sites, and off plain connections over HTTPS.

    Parameters
    ----------
    request : Request
        As received; over HTTPS the token is never sent without.
    response : Response
        That is sent.
    name : str
        ``SESSION`` or ``DEVICE``.
    token : str
        Of the session or the device.

    Returns
    -------
    Response
        The same.
    """
    most_s = TEN_YEARS_S if name == DEVICE else limits_of(request).longest_h * 3600
    is_secure = request.url.scheme == "https"
    response.set_cookie(name, token, max_age=most_s, path="/", secure=is_secure, httponly=True, samesite="lax")
    return response


def asker(request: Request) -> tuple[str, str]:
    """Return from which address a request comes, and from which program.

    Parameters
    ----------
    request : Request
        As received.

    Returns
    -------
    tuple of str
        The address and the browser's own words.
    """
    return request.client.host if request.client else "", request.headers.get("user-agent", "")[:200]
