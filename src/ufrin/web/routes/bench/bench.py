"""The bench: one step of a weighing at a time, with the scale's readings as they come.

Each accepted line is kept at once.
"""

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated, cast, get_args

from fastapi import APIRouter, Depends, Request
from fastapi.sse import EventSourceResponse, ServerSentEvent
from starlette.responses import Response

from ufrin.actions import SCALES, Database, Stored
from ufrin.actions.bench import pours
from ufrin.actions.bench.pours import Bench
from ufrin.actions.shelf import scales as scales_on_shelf
from ufrin.actions.shelf import things
from ufrin.core.measures.parsing import parse
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.shelf.scales import Scale
from ufrin.core.weighing.record_entries import EntryKind, RecordEntry
from ufrin.core.weighing.record_rules import done_at
from ufrin.devices import clock
from ufrin.devices.scale_reader import ScaleReading
from ufrin.devices.scales import Scales
from ufrin.errors import Overtaken, Refused
from ufrin.language import Text
from ufrin.web.contexts.bench_page import Answered, BenchLinks, bench_page
from ufrin.web.frame.access import asks
from ufrin.web.frame.forms import YES, form_units, form_version, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.frame.scale_events import changed_event, reading_event
from ufrin.web.routes import Number, Posted, TheBenchEvents, TheDatabase, TheScales

router = APIRouter(include_in_schema=False)
COOKIE = "bench_scale"
TYPED = "typed"
KINDS: frozenset[str] = frozenset(get_args(EntryKind)) - {
    "start",
    "correction",
    "photo",
}  # a pour starts and is corrected elsewhere
WEIGHED: frozenset[str] = frozenset({"weigh", "wrong", "leftover", "mould"})
# what may be noted some time after it was seen
LOOKED_AT: frozenset[str] = frozenset({"witness", "demould"})


def _chosen(request: Request, scales: tuple[Stored[Scale], ...]) -> Stored[Scale] | None:
    # the scale of this device: as just chosen, as chosen before, or the first there is
    chosen = request.query_params.get("scale") or request.cookies.get(COOKIE) or ""
    if chosen == TYPED:
        return None
    offered = [kept for kept in scales if not kept.retired_at]
    return next((kept for kept in offered if str(kept.id) == chosen), offered[0] if offered else None)


@router.get("/pours/{number}")
@asks("see bench")
def show(request: Request, database: TheDatabase, number: Number) -> Response:
    """Show the bench."""
    return _page(request, database, pours.look(database, number), "bench/bench.html")


@router.get("/pours/{number}/now")
@asks("see bench")
def now(request: Request, database: TheDatabase, number: Number) -> Response:
    """Show the current state of the pour, for a page that is open already."""
    return _page(request, database, pours.look(database, number), "bench/_bench.html")


@router.post("/pours/{number}/enter")
@asks("weigh")
def enter(request: Request, database: TheDatabase, scales: TheScales, number: Number, form: Posted) -> Response:
    """Add a line to the record."""
    typed = {key: text[:400] for key, text in form.items()}
    template = "bench/_bench.html" if is_htmx(request) else "bench/bench.html"
    try:
        entry = _entry(database, scales, pours.look(database, number), form)
        bench = pours.enter(database, number, entry, token=form.get("token", ""), sure=form.get("sure") == YES)
    except Refused as refused:
        return _page(request, database, pours.look(database, number), template, refused=refused, typed=typed)
    except Overtaken as overtaken:
        return _page(request, database, pours.look(database, number), template, overtaken=overtaken)
    return _page(request, database, bench, template) if is_htmx(request) else go_to(request, Links.pour(number))


def _entry(database: Database, scales: Scales, bench: Bench, form: dict[str, str]) -> RecordEntry:
    kind = form.get("kind", "")
    if kind not in KINDS:
        raise Refused("", Text("That is not one of the steps. Reload the page: nothing is lost."))
    # the scale whose weight this very page showed; another tab may have chosen another
    by_scale = whole_number(form.get("scale_id", "")) if form.get("by") == "scale" else None
    if form.get("by") == "scale" and by_scale is None:
        raise Refused("scale", Text("No scale is chosen here. Choose one below, or type the weight."))
    scale = scales_on_shelf.to_read(database, by_scale) if by_scale else None
    late_s = whole_number(form.get("late_s", ""), most_digits=6) or 0
    gross = _gross_g(scales, scale, form, kept=late_s > 0) if kind in {"tare", "weigh", "mould"} else None
    units = form_units(form, bench.workshop.units)
    is_unweighed = kind == "mould" and bool(form.get("text", "").strip())
    net = None
    if kind in WEIGHED and not is_unweighed:
        net = _net_g(bench, kind, form, units, scale.thing.name if scale else "", gross)
    at = clock.now()
    if kind in LOOKED_AT and form.get("ago_min", "").strip():
        ago_min = parse(form["ago_min"], "time", units, field="ago_min")
        at = at.before(60 * ago_min)
    if late_s:
        at = done_at(bench.state, at, late_s)
    temp = parse(form.get("temp_c", ""), "temperature", units, field="temp_c") if kind == "temperature" else None
    return RecordEntry(
        number=form_version({"version": form.get("number", "")}),
        at=at,
        kind=cast(EntryKind, kind),
        ingredient=form.get("ingredient", "")[:20],
        net_g=net,
        gross_g=gross,
        scale=scale.thing.name if scale else "",
        temp_c=temp,
        lot_id=whole_number(form.get("lot_id", "")),
        text=" ".join(form.get("text", "").split()),
        what=form.get("what", "")[:40],
        volume_ml=parse(form.get("volume_ml", ""), "volume", units, field="volume_ml") if kind == "short" else None,
    )


def _gross_g(scales: Scales, scale: Stored[Scale] | None, form: dict[str, str], *, kept: bool) -> float | None:
    if scale is None:
        return None
    # what a device kept has the weight that it showed then; the scale may show another by now
    if kept and form.get("kept_g"):
        return parse(form["kept_g"], "mass", field="net_g")
    return scales.settled_g(scale.id, scale.thing)


def _net_g(bench: Bench, kind: str, form: dict[str, str], units: Units, scale: str, gross_g: float | None) -> float:
    # as the scale shows it, or as it was typed: a weight, or a volume where the parts are measured by marks
    if gross_g is not None and kind == "mould":
        return gross_g
    if gross_g is not None:
        return bench.state.attempt.net_g(gross_g, scale)
    plan, one = bench.state.plan, bench.state.step.ingredient
    if form.get("measured") == "ml" and plan.method and plan.method.basis == "volume":
        sg = plan.sg if kind == "leftover" else one.sg if one else None
        return parse(form.get("net_g", ""), "volume", units, field="net_g") * (sg or 1.0)
    return parse(form.get("net_g", ""), "mass", units, field="net_g")


def _page(
    request: Request,
    database: Database,
    bench: Bench,
    template: str,
    *,
    refused: Refused | None = None,
    overtaken: Overtaken | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    scales = things.shelf(database, SCALES).things
    scale = _chosen(request, scales)
    number, job = bench.pour.id, bench.pour.job_id
    links = BenchLinks(
        here=Links.pour(number),
        enter=Links.pour(number, "enter"),
        leave=Links.job(job, "casts" if bench.state.plan.how == "cast" else "pour"),
        now=Links.pour(number, "now"),
        stream=Links.pour(number, "stream"),
    )
    answered = Answered(refused=refused, overtaken=overtaken, typed=typed)
    context = bench_page(bench, links, clock.now(), scale=scale, scales=scales, answered=answered)
    response = render(request, template, context, status_code=answered.status)
    if "scale" in request.query_params:
        response.set_cookie(
            COOKIE, str(scale.id) if scale else TYPED, max_age=31_536_000, samesite="strict", httponly=True
        )
    return response


def _followed(database: TheDatabase, number: Number, scale: str = "") -> tuple[int, Stored[Scale] | None]:
    pours.look(database, number)
    return number, scales_on_shelf.to_read(database, chosen) if (chosen := whole_number(scale)) else None


@router.get("/pours/{number}/stream", response_class=EventSourceResponse)
@asks("see bench")
async def stream(
    scales: TheScales, events: TheBenchEvents, followed: Annotated[tuple[int, Stored[Scale] | None], Depends(_followed)]
) -> AsyncIterator[ServerSentEvent]:
    """Send a bench each reading of its scale, and an event when the record has a new line."""
    number, scale = followed
    with events.subscribe(number) as queue:
        following = asyncio.create_task(_follow(scales, scale, queue)) if scale else None
        try:
            while (item := await queue.get()) is not None:
                yield (changed_event() if item == "changed" else reading_event(cast(ScaleReading, item)))
        finally:
            if following:
                following.cancel()


async def _follow(scales: Scales, scale: Stored[Scale], queue: asyncio.Queue[object]) -> None:
    async for heard in scales.listen(scale.id, scale.thing):
        if queue.full():  # nobody takes them: the newest counts
            queue.get_nowait()
        queue.put_nowait(heard)


def _scale(database: TheDatabase, number: Number) -> Stored[Scale]:
    return scales_on_shelf.to_read(database, number)


@router.get("/scales/{number}/stream", response_class=EventSourceResponse)
@asks("see bench")
async def scale_stream(
    scales: TheScales, scale: Annotated[Stored[Scale], Depends(_scale)]
) -> AsyncIterator[ServerSentEvent]:
    """Send each reading of a scale, for its own page."""
    async for heard in scales.listen(scale.id, scale.thing):
        yield reading_event(heard)


@router.post("/scales/{number}/tare")
@asks("weigh")
def tare(scales: TheScales, scale: Annotated[Stored[Scale], Depends(_scale)]) -> Response:
    """Tare a scale."""
    if not scales.reader(scale.id, scale.thing).tare():
        raise Refused("scale", Text("{name} can't be reached. Look at its plug.", name=scale.thing.name))
    return Response(status_code=204)
