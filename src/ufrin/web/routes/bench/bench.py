"""The bench: one step of a weighing at a time, with the scale's readings as they come.

Each accepted line is kept at once.
"""

import asyncio
import json
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
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import EntryKind, RecordEntry
from ufrin.core.weighing.record_rules import done_at, without_tare_g
from ufrin.devices import clock
from ufrin.devices.scale_reader import ScaleReading
from ufrin.devices.scales import Scales
from ufrin.errors import Overtaken, Refused
from ufrin.web.contexts.bench import SCRIPT_WORDS, bar, clock_words, decimals, words
from ufrin.web.contexts.coats import batch_name, coat_clock
from ufrin.web.contexts.cure_watch import watch
from ufrin.web.frame.access import asks
from ufrin.web.frame.forms import YES, form_units, form_version, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.frame.wording_in_units import UnitFormatter
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
        raise Refused("", "That is not one of the steps. Reload the page: nothing is lost.")
    # the scale whose weight this very page showed; another tab may have chosen another
    by_scale = whole_number(form.get("scale_id", "")) if form.get("by") == "scale" else None
    if form.get("by") == "scale" and by_scale is None:
        raise Refused("scale", "No scale is chosen here. Choose one below, or type the weight.")
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
    state, say, moment = bench.state, UnitFormatter(bench.workshop.units, bench.workshop.currency), clock.now()
    scales = things.shelf(database, SCALES).things
    scale = _chosen(request, scales)
    cup = state.attempt
    running = state.clock(moment) if cup.outcome == "open" else None
    zero = cup.zero_g if scale and cup.scale == scale.thing.name else None
    moved_s = moment.clock_moved_s(cup.contact) if cup.contact else 0.0
    context = {
        "bench": bench,
        "state": state,
        "step": state.step,
        "say": say,
        "words": words(bench, say, moment),
        "script_words": SCRIPT_WORDS,
        "bar": bar(state.step),
        "coat_clock": coat_clock(state, moment) if state.step.kind == "cup" else None,
        "decimals": decimals(bench, state.step.ingredient, scale.thing.step_g if scale else None),
        "clock": running,
        "clock_words": clock_words(running, say) if running else "",
        "moved_min": moved_s / 60 if abs(moved_s) > 60 else 0.0,
        "scales": [kept for kept in scales if not kept.retired_at],
        "scale": scale,
        "zero_g": zero,
        "token": pours.new_token(),
        "refused": say.refusal(refused) if refused else "",
        "refused_field": refused.field if refused else "",
        "overtaken": str(overtaken) if overtaken else "",
        "typed": typed or {},
        "lot": bench.lot,
        "measured_ml": state.target_ml,
        "by_volume": bool(state.plan.method and state.plan.method.basis == "volume"),
        "elapsed_s": moment.since_s(state.step_began) if state.step_began else 0.0,
        "untared_g": _untared_g(state, refused, typed or {}, say),
        "watch": watch(bench, say, moment) if state.is_finished or state.has_poured else None,
        "batch_name": batch_name(
            state,
            min(cup.batch + (1 if cup.outcome == "poured" and state.step.kind == "cup" else 0), len(state.batches) - 1),
        ),
    }
    status = 409 if overtaken else 422 if refused else 200
    response = render(request, template, context, status_code=status)
    if "scale" in request.query_params:
        response.set_cookie(
            COOKIE, str(scale.id) if scale else TYPED, max_age=31_536_000, samesite="strict", httponly=True
        )
    return response


def _untared_g(state: BenchState, refused: Refused | None, typed: dict[str, str], say: UnitFormatter) -> float | None:
    if refused is None or refused.field != "untared":
        return None
    return without_tare_g(state, parse(typed.get("net_g", ""), "mass", say.units, field="net_g"))


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
                yield (
                    ServerSentEvent(event="changed", raw_data="1")
                    if item == "changed"
                    else reading_event(cast(ScaleReading, item))
                )
        finally:
            if following:
                following.cancel()


async def _follow(scales: Scales, scale: Stored[Scale], queue: asyncio.Queue[object]) -> None:
    async for heard in scales.listen(scale.id, scale.thing):
        if queue.full():  # nobody takes them: the newest counts
            queue.get_nowait()
        queue.put_nowait(heard)


def reading_event(heard: ScaleReading) -> ServerSentEvent:
    """Return a reading as an event."""
    line = heard.line
    fields = {
        "n": heard.count,
        "g": round(line.g, 4) if line and line.state == "ok" else None,
        "state": line.state if line else "ok",
        "settled": heard.is_settled,
        "link": heard.link,
    }
    return ServerSentEvent(event="reading", raw_data=json.dumps(fields))


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
        raise Refused("scale", f"{scale.thing.name} can't be reached. Look at its plug.")
    return Response(status_code=204)
