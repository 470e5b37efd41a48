"""In which language whoever makes a request reads: as chosen on a page, or as the browser asks for."""

from babel import negotiate_locale
from starlette.datastructures import Headers
from starlette.requests import cookie_parser
from starlette.types import ASGIApp, Receive, Scope, Send

from ufrin.language import ENGLISH, NAMES, Language, language, using

COOKIE = "ufrin_language"
COOKIE_LASTS_S = 365 * 24 * 3600
# the open interface and the files of the pages are the same for everybody
_FOR_PROGRAMS = ("/api/", "/static/")


class ReadingLanguage:
    """Pure ASGI middleware that shows the texts of an answer in the language of whoever reads it.

    Parameters
    ----------
    app : ASGIApp
        The application.
    """

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request through."""
        if scope["type"] != "http" or scope["path"].startswith(_FOR_PROGRAMS):
            await self._app(scope, receive, send)
            return
        with using(language_of(Headers(scope=scope))):
            await self._app(scope, receive, send)


def language_of(headers: Headers) -> Language:
    """Return the language that the headers of a request ask for.

    Parameters
    ----------
    headers : Headers
        With the cookie of the choice, and what the browser prefers.

    Returns
    -------
    Language
        English where none of them is one that Ufrin has.
    """
    chosen = cookie_parser(headers.get("cookie", "")).get(COOKIE, "")
    if chosen in NAMES:
        return language(chosen)
    wanted = _preferred(headers.get("accept-language", ""))
    found = negotiate_locale(wanted, list(NAMES), sep="-")
    return language(found) if found else ENGLISH


def _preferred(accepted: str) -> list[str]:
    """Return the languages of the header Accept-Language, the most wanted first (RFC 9110, section 12.5.4)."""
    weighed: list[tuple[float, str]] = []
    for part in accepted.split(",")[:20]:
        code, _, parameters = part.strip().partition(";")
        weight = parameters.strip().removeprefix("q=")
        try:
            weighed.append((float(weight or 1), code.strip()))
        except ValueError:
            continue
    return [code for weight, code in sorted(weighed, key=lambda one: -one[0]) if code and weight > 0]
