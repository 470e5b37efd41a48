"""The request guard: what every request passes through.

It gives each a reference and a line in the log, checks its origin and size, and sets the headers of the answer.
"""

import asyncio
import re
import secrets
import time
from urllib.parse import urlsplit

import structlog
from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ufrin.errors import NotOurs, TooLarge, UfrinError
from ufrin.language import Text
from ufrin.web.frame import metrics
from ufrin.web.frame.errors import answer

log = structlog.get_logger()

POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; font-src 'self'; connect-src 'self'; "
    "form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
)
# the page of the open interface draws its own icons as data
DOCS_POLICY = POLICY.replace("img-src 'self'", "img-src 'self' data:")
_SAFE_METHODS = frozenset({"GET", "HEAD", "OPTIONS"})
DRAINED_TIMES = 6
ROUND_A_FILE_BYTES = 65_536  # the overhead of a form round a file
# what opens something by itself stays out of the log
_SECRET = re.compile(r"^/(password|calendar|shared|devices/joined)/.+")
_TAKES_A_FILE = re.compile(r"^/(jobs/\d+/mesh|api/v1/mesh/\w+|shelf/\w+/\d+/sheet|pours/\d+/photos|bring-in)$")


class Failure(UfrinError):
    """An unexpected error."""

    status = 500
    title = Text("Ufrin tripped")

    def __str__(self) -> str:
        return Text(
            "This is our mistake, not yours. What was saved before is safe. Go back and try "
            "again; if it happens again, the reference below finds it in the log."
        )


class Guard:
    """Pure ASGI middleware round the whole application.

    Parameters
    ----------
    app : ASGIApp
        The application that it guards.
    body_limit_bytes, mesh_limit_bytes : int
        The most a request may send, and the most that one with a mesh file may.
    """

    def __init__(self, app: ASGIApp, body_limit_bytes: int, mesh_limit_bytes: int) -> None:
        self.app, self._limit, self._mesh_limit = app, body_limit_bytes, mesh_limit_bytes + ROUND_A_FILE_BYTES

    def _limit_of(self, scope: Scope) -> int:
        return self._mesh_limit if _TAKES_A_FILE.match(scope["path"]) else self._limit

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request through."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        if scope["method"] == "HEAD":
            scope, receive, send = _without_body({**scope, "method": "GET"}, send)
        reference, began, status = secrets.token_hex(4), time.perf_counter(), 500
        logged = _SECRET.sub(r"/\1/…", scope["path"])
        started = False

        async def sending(message: Message) -> None:
            nonlocal status, started
            if message["type"] == "http.response.start":
                status, started = message["status"], True
                _add_headers(
                    MutableHeaders(raw=message["headers"]), scope["path"], reference, time.perf_counter() - began
                )
            await send(message)

        try:
            limit = self._limit_of(scope)
            refused = await self._refused(scope, receive, limit)
            if refused:
                await answer(Request(scope), refused)(scope, receive, sending)
            else:
                await self.app(scope, self._counted(receive, limit), sending)
        except Exception:
            log.exception("failed", reference=reference, method=scope["method"], path=logged)
            if not started:
                await answer(Request(scope), Failure(), reference=reference)(scope, receive, sending)
        finally:
            took_s = time.perf_counter() - began
            metrics.count(scope, status, took_s)
            took_ms = round(took_s * 1000, 1)
            log.info("request", reference=reference, method=scope["method"], path=logged, status=status, ms=took_ms)

    async def _refused(self, scope: Scope, receive: Receive, limit: int) -> UfrinError | None:
        headers = Headers(scope=scope)
        if scope["method"] not in _SAFE_METHODS and not _same_origin(headers):
            return NotOurs()
        length = headers.get("content-length", "0")
        if not (length.isascii() and length.isdigit()) or int(length) <= limit:
            return None
        # the framework's own limit answers in its own words and closes the connection; a browser shows the
        # answer only if the rest of its request is accepted, so a little too much is read and discarded
        left = min(int(length), limit * DRAINED_TIMES)
        while left > 0 and (message := await receive())["type"] == "http.request":
            left -= len(message.get("body", b""))
            if not message.get("more_body"):
                break
        return TooLarge(limit, file=limit == self._mesh_limit)

    def _counted(self, receive: Receive, limit: int) -> Receive:
        taken = 0

        async def receiving() -> Message:
            nonlocal taken
            message = await receive()
            taken += len(message.get("body", b""))
            if taken > limit:
                raise HTTPException(413, str(TooLarge(limit, file=limit == self._mesh_limit)))
            return message

        return receiving


def _without_body(scope: Scope, send: Send) -> tuple[Scope, Receive, Send]:
    # what GET would answer, its head alone; whoever streams is told that nobody listens
    ended = asyncio.Event()

    async def receiving() -> Message:
        await ended.wait()
        return {"type": "http.disconnect"}

    async def sending(message: Message) -> None:
        if message["type"] == "http.response.start":
            await send(message)
            await send({"type": "http.response.body", "body": b"", "more_body": False})
            ended.set()

    return scope, receiving, sending


def _same_origin(headers: Headers) -> bool:
    """Browsers state the origin of a change; scripts state none and hold no one's session."""
    if headers.get("sec-fetch-site", "same-origin") not in {"same-origin", "none"}:
        return False
    origin = headers.get("origin")
    return origin is None or urlsplit(origin).netloc == headers.get("host")


def _add_headers(headers: MutableHeaders, path: str, reference: str, took_s: float) -> None:
    headers["Content-Security-Policy"] = DOCS_POLICY if path == "/api/docs" else POLICY
    headers["X-Content-Type-Options"] = "nosniff"
    headers["Referrer-Policy"] = "same-origin"
    headers["X-Reference"] = reference
    headers["Server-Timing"] = f"app;dur={took_s * 1000:.1f}"
    if not path.startswith("/static/"):
        headers.setdefault("Cache-Control", "no-store")
    else:
        headers["Cache-Control"] = "no-cache" if "/vendor/" not in path else "public, max-age=86400"
