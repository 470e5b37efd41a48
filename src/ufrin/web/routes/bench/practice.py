"""Practice: levels and progress, the practice itself at the bench with its table beside it, and its review."""

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated, Any, cast

from fastapi import APIRouter, Depends, Request
from fastapi.sse import EventSourceResponse, ServerSentEvent
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.bench import practice
from ufrin.actions.bench.practice import OpenPractice
from ufrin.actions.people import accounts
from ufrin.core.measures.parsing import parse
from ufrin.core.practice.levels import LEVELS, SPEED
from ufrin.core.practice.practice_plan import TOTAL_G
from ufrin.core.weighing.record_entries import EntryKind, RecordEntry
from ufrin.devices import clock
from ufrin.devices.practice_scale import PracticeScale
from ufrin.errors import Missing, Overtaken, Refused
from ufrin.language import Text
from ufrin.web.contexts.bench_page import NOTHING_SENT, Answered, bench_page
from ufrin.web.contexts.practice import (
    LEVEL_WORDS,
    MISHAP_WORDS,
    SCALE_NAME,
    bench_links,
    practice_scale,
    review_page,
    table_page,
)
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import YES, form_units, form_version, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.frame.scale_events import changed_event, reading_event
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
COOKIE = "ufrin_practises"
KINDS = frozenset({"tare", "hold", "down", "weigh", "wrong", "discard", "step", "mixed", "poured", "note", "finish"})
EVERY_S = 0.2
LISTED = 12


def _who(request: Request, database: Database) -> tuple[int | None, str]:
    party = party_in(request)
    return accounts.account_of(database, party), party.person or request.cookies.get(COOKIE, "")[:80]


@router.get("/practice")
@asks("see bench")
def show(request: Request, database: TheDatabase) -> Response:
    """Show the levels, and how somebody gets on."""
    return _levels(request, database)


def _levels(
    request: Request, database: Database, *, refused: Refused | None = None, typed: dict[str, str] | None = None
) -> Response:
    account_id, who = _who(request, database)
    seen, typed = practice.practising(database, account_id=account_id, who=who), typed or {}
    context = {
        "seen": seen,
        "say": UnitFormatter(seen.units),
        "who": typed.get("who", who),
        "rubber": typed.get("rubber", ""),
        "is_known": bool(party_in(request).person),
        "total_g": TOTAL_G,
        "levels": LEVELS,
        "level_words": LEVEL_WORDS,
        "level_progress": {one.level: one for one in seen.progress.levels},
        "mishap_words": MISHAP_WORDS,
        "past": seen.past[:LISTED],
        "refused": str(refused) if refused else "",
        "refused_field": refused.field if refused else "",
    }
    return render(request, "practice/practices.html", context, status_code=422 if refused else 200)


@router.post("/practice")
@asks("weigh")
def begin(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Begin a practice."""
    account_id, known_as = _who(request, database)
    who = party_in(request).person or form.get("who", "") or known_as
    try:
        number = practice.begin(
            database,
            who=who,
            account_id=account_id,
            level=form.get("level", ""),
            rubber_id=whole_number(form.get("rubber", "")),
            now=clock.now(),
        )
    except Refused as refused:
        return _levels(request, database, refused=refused, typed={key: text[:200] for key, text in form.items()})
    answer = go_to(request, Links.practice(number))
    if not party_in(request).person:
        answer.set_cookie(COOKIE, " ".join(who.split())[:80], max_age=31_536_000, samesite="lax", httponly=True)
    return answer


def _own(request: Request, database: Database, number: int) -> OpenPractice:
    seen = practice.look(database, number, clock.now())
    if seen.kept.account_id not in {None, accounts.account_of(database, party_in(request))}:
        raise Missing(Text("this practice"))  # what somebody is still learning is nobody else's
    return seen


@router.get("/practice/{number}")
@asks("see bench")
def look(request: Request, database: TheDatabase, number: Number) -> Response:
    """Show the practice, or once it has ended what came of it."""
    seen = _own(request, database, number)
    if seen.kept.ended_at is not None:
        return render(request, "practice/review.html", review_page(seen))
    return render(request, "practice/practice.html", _context(seen))


def _bench(seen: OpenPractice, answered: Answered = NOTHING_SENT) -> dict[str, Any]:
    number = seen.kept.id
    return bench_page(
        seen.bench, bench_links(number), seen.now, scale=practice_scale(number), answered=answered, pace=SPEED
    )


def _context(seen: OpenPractice, answered: Answered = NOTHING_SENT, table_refused: str = "") -> dict[str, Any]:
    return {**_bench(seen, answered), **table_page(seen), "table_refused": table_refused}


@router.get("/practice/{number}/now")
@asks("see bench")
def now(request: Request, database: TheDatabase, number: Number) -> Response:
    """Show where the practice is, for a page that is open already."""
    return render(request, "bench/_bench.html", _bench(_own(request, database, number)))


@router.post("/practice/{number}/enter")
@asks("weigh")
def enter(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Add a line to the record of the practice."""
    seen = _own(request, database, number)
    answered = NOTHING_SENT
    try:
        seen = practice.enter(
            database, number, lambda opened: _entry(opened, form), clock.now(), sure=form.get("sure") == YES
        )
    except Refused as refused:
        answered = Answered(refused=refused, typed={key: text[:400] for key, text in form.items()})
    except Overtaken as overtaken:
        answered = Answered(overtaken=overtaken)
        seen = _own(request, database, number)
    if seen.kept.ended_at is not None or (not is_htmx(request) and answered is NOTHING_SENT):
        return go_to(request, Links.practice(number))
    template = "practice/_step.html" if is_htmx(request) else "practice/practice.html"
    return render(request, template, _context(seen, answered), status_code=answered.status)


def _entry(seen: OpenPractice, form: dict[str, str]) -> RecordEntry:
    kind = form.get("kind", "")
    if kind not in KINDS:
        raise Refused("", Text("That is not one of the steps. Reload the page: nothing is lost."))
    by_scale = form.get("by") == "scale"
    gross_g = net_g = None
    if by_scale and kind in {"tare", "weigh"}:
        shown_g = parse(form["shows"], "mass", field="net_g") if form.get("shows") else None
        gross_g = seen.table.read_g(seen.at_s, shown_g)
    if kind == "weigh" and gross_g is not None:
        net_g = seen.table.bench.attempt.net_g(gross_g, SCALE_NAME)
    elif kind in {"weigh", "wrong"}:
        net_g = parse(form.get("net_g", ""), "mass", form_units(form, seen.workshop.units), field="net_g")
    return RecordEntry(
        number=form_version({"version": form.get("number", "")}),
        at=seen.now,
        kind=cast(EntryKind, kind),
        ingredient=form.get("ingredient", "")[:20],
        net_g=net_g,
        gross_g=gross_g,
        scale=SCALE_NAME if by_scale else "",
        text=" ".join(form.get("text", "").split()),
        what=form.get("what", "")[:40],
    )


@router.post("/practice/{number}/act")
@asks("weigh")
def act(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Do something at the table of the practice."""
    seen, table_refused = _own(request, database, number), ""
    try:
        seen = practice.act(database, number, form.get("act", ""), form.get("what", ""), clock.now())
    except Refused as refused:
        table_refused = str(refused)
    if not is_htmx(request) and not table_refused:
        return go_to(request, Links.practice(number))
    template = "practice/_table.html" if is_htmx(request) else "practice/practice.html"
    context = _context(seen, table_refused=table_refused)
    return render(request, template, context, status_code=422 if table_refused else 200)


async def _followed(request: Request, database: TheDatabase, number: Number) -> OpenPractice:
    return await run_in_threadpool(_own, request, database, number)


@router.get("/practice/{number}/stream", response_class=EventSourceResponse)
@asks("see bench")
async def stream(
    request: Request, database: TheDatabase, followed: Annotated[OpenPractice, Depends(_followed)]
) -> AsyncIterator[ServerSentEvent]:
    """Send each reading of the scale of a practice, and word that its record has a new line; until it has ended."""
    seen, scale = followed, PracticeScale(followed.kept.id)
    while seen.kept.ended_at is None:
        lines = await run_in_threadpool(practice.how_many_lines, database, seen.kept.id)
        if lines != len(seen.kept.lines):
            try:
                seen = await run_in_threadpool(_own, request, database, seen.kept.id)
            except Missing:  # another one was begun in its place
                return
            yield changed_event()
        yield reading_event(scale.read(seen.table, clock.now().since_s(seen.kept.began)))
        await asyncio.sleep(EVERY_S)
    yield changed_event()
