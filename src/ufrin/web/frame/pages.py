"""Pages: the template environment, and what every page receives."""

import json
import os
import sys
from collections.abc import Mapping
from contextlib import suppress
from datetime import UTC, date, datetime
from hashlib import sha256
from importlib.metadata import version
from importlib.resources import files
from pathlib import Path
from typing import Any

from jinja2 import Environment, FileSystemBytecodeCache, FileSystemLoader, StrictUndefined, pass_context
from jinja2.runtime import Context
from markupsafe import Markup, escape
from starlette.datastructures import FormData
from starlette.requests import Request
from starlette.responses import Response
from starlette.templating import Jinja2Templates

from ufrin.core.inputs.stations import MOULD_STATIONS, State
from ufrin.core.wording.findings import Finding, Level
from ufrin.core.wording.glossary import cut_at_terms
from ufrin.language import NAMES, DateText, Text, capitalized, in_use, inside_a_sentence
from ufrin.web.frame import template_text
from ufrin.web.frame.access import party_in
from ufrin.web.frame.example_cookie import example_in
from ufrin.web.frame.links import Links
from ufrin.web.frame.wording_in_units import SPOKEN, STATE_WORDS, STATION_WORDS, UnitFormatter
from ufrin.web.frame.workshop_clock import WorkshopClock

_HERE = files("ufrin.web")
LEVEL_WORDS: dict[Level, str] = {"stop": Text("Stop"), "warn": Text("Warning"), "note": Text("Note")}
STATE_SIGNS: dict[State, str] = {"empty": "○", "ready": "✓", "warning": "!", "stop": "✕"}


def with_words(text: str) -> Markup:
    """Link the terms in a text to the glossary.

    Parameters
    ----------
    text : str
        As it will be shown, without tags.

    Returns
    -------
    Markup
        Escaped.
    """
    plain = text.unescape() if isinstance(text, Markup) else str(text)
    return Markup("").join(
        Markup('<a class="word" href="{}">{}</a>').format(Links.word(word.anchor), piece) if word else escape(piece)
        for piece, word in cut_at_terms(plain)
    )


def tell(finding: Finding, say: UnitFormatter) -> str:
    """Return a finding in the workshop's units.

    Parameters
    ----------
    finding : Finding
        The finding.
    say : UnitFormatter
        Units of the page.

    Returns
    -------
    str
        A sentence.
    """
    return say.finding(finding)


def _kept_compiled() -> FileSystemBytecodeCache | None:
    # beside the templates, as Python keeps its own; what Jinja, these settings and the extension make of them is
    # compiled in
    folder = Path(str(_HERE)) / "templates" / "__pycache__"
    with suppress(OSError):
        folder.mkdir(exist_ok=True)
    if sys.dont_write_bytecode or not os.access(folder, os.W_OK):
        return None
    made_by = sha256(version("jinja2").encode())
    for module in (__file__, template_text.__file__):
        made_by.update(Path(module).read_bytes())
    return FileSystemBytecodeCache(str(folder), f"{made_by.hexdigest()[:12]}-%s.cache")


environment = Environment(
    loader=FileSystemLoader(str(_HERE.joinpath("templates"))),
    bytecode_cache=_kept_compiled(),
    autoescape=True,
    undefined=StrictUndefined,
    trim_blocks=True,
    lstrip_blocks=True,
    auto_reload=False,
    extensions=[template_text.RunningText],
)


def _dumped(value: object, *, sort_keys: bool = False) -> str:
    """Write what a script of the page shows, in the language in use."""
    return json.dumps(_in_words(value), sort_keys=sort_keys)


def _in_words(value: object) -> object:
    if isinstance(value, Mapping):
        return {key: _in_words(within) for key, within in value.items()}
    if isinstance(value, list | tuple):
        return [_in_words(within) for within in value]
    return str(value) if isinstance(value, Text) else value


def _shown(text: str) -> str:
    return text if isinstance(text, Markup) else str(text)


environment.globals.update(
    links=Links(),
    spoken=SPOKEN,
    stations=MOULD_STATIONS,
    station_words=STATION_WORDS,
    state_words=STATE_WORDS,
    state_signs=STATE_SIGNS,
    level_words=LEVEL_WORDS,
)


@pass_context
def _local(context: Context, at: datetime) -> datetime:
    # times are kept in UTC and shown by the workshop's own clock
    clock: WorkshopClock = context["workshop_clock"]
    return clock.local(at)


def _local_of(context: Context, at: datetime | float) -> datetime:
    return _local(context, at if isinstance(at, datetime) else datetime.fromtimestamp(at, UTC))


@pass_context
def _soon(context: Context, at: datetime | float) -> str:
    local = _local_of(context, at)
    return f"{DateText(local, 'name_of_day')} {local:%H:%M}"


@pass_context
def _moment(context: Context, at: datetime | float) -> str:
    return str(DateText(_local_of(context, at), "day", "%H:%M"))


@pass_context
def _to_the_second(context: Context, at: datetime) -> str:
    return str(DateText(_local(context, at), "day", "%H:%M:%S"))


@pass_context
def _day(context: Context, at: date | str) -> str:
    if isinstance(at, str):
        at = date.fromisoformat(at)
    return str(DateText(_local(context, at) if isinstance(at, datetime) else at))


@pass_context
def _weekday(context: Context, at: date) -> str:
    return str(DateText(_local(context, at) if isinstance(at, datetime) else at, "weekday"))


environment.filters.update({"local": _local, "soon": _soon, "moment": _moment, "to_the_second": _to_the_second})
environment.filters.update({"day": _day, "weekday": _weekday})
environment.policies["json.dumps_function"] = _dumped
environment.filters["words"] = with_words
environment.filters["capitalize"] = lambda text: capitalized(_shown(text))
environment.filters["lower"] = lambda text: inside_a_sentence(_shown(text))
environment.filters["tell"] = tell
_templates = Jinja2Templates(env=environment)


def static_folder() -> str:
    """Return the folder of shipped styles, scripts and fonts.

    Returns
    -------
    str
        Its path.
    """
    return str(_HERE.joinpath("static"))


def is_htmx(request: Request) -> bool:
    """Return whether a part of a page is requested, not a whole one.

    Parameters
    ----------
    request : Request
        As received.

    Returns
    -------
    bool
        True for a part.
    """
    return request.headers.get("HX-Request") == "true"


def render(request: Request, template: str, context: Mapping[str, Any], *, status_code: int = 200) -> Response:
    """Render a template.

    Parameters
    ----------
    request : Request
        As received.
    template : str
        Its name.
    context : mapping
        What it receives.
    status_code : int, optional
        Of the answer.

    Returns
    -------
    Response
        The page or fragment.
    """
    shown = {
        "language": in_use().code,
        "languages": NAMES,
        "workshop_clock": request.app.state.workshop_clock,
        "party": party_in(request),
        "example_id": example_in(request),
        **context,
    }
    return _templates.TemplateResponse(
        request, template, shown, status_code=status_code, headers={"Cache-Control": "no-store"}
    )


def go_to(request: Request, address: str) -> Response:
    """Send the browser on after an action.

    Parameters
    ----------
    request : Request
        htmx is told in a header, all others are redirected.
    address : str
        Of the page.

    Returns
    -------
    Response
        Without a body.
    """
    if is_htmx(request):
        return Response(status_code=204, headers={"HX-Redirect": address})
    return Response(status_code=303, headers={"Location": address})


async def posted(request: Request) -> dict[str, str]:
    """Read a posted form; where a name occurs more than once, its last value counts (a checkbox after its hidden "no").

    Parameters
    ----------
    request : Request
        As received.

    Returns
    -------
    dict of name to text
        Files are left out.
    """
    form: FormData = await request.form(max_files=0, max_fields=200)
    return {name: value for name, value in form.multi_items() if isinstance(value, str)}
