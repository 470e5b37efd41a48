"""The Pour station: what will be weighed, weighings begun, and the record of each."""

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.bench import pours
from ufrin.actions.bench.pours import Bench
from ufrin.actions.checks import preparation, sign_off
from ufrin.actions.people import change_log
from ufrin.actions.shop import room
from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.clocks.moment import Moment
from ufrin.core.exchange.csv_table import write
from ufrin.core.job.job_state import PourState, next_pour
from ufrin.core.measures.parsing import parse
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import RecordEntry, StepAttempt
from ufrin.core.weighing.record_rules import CORRECTABLE, RETRACTABLE, lines
from ufrin.core.weighing.witness import asks_witness
from ufrin.devices import clock
from ufrin.errors import Overtaken, Refused
from ufrin.language import Text
from ufrin.web.contexts.checks import befores, shown_stops
from ufrin.web.contexts.cure_watch import ShownClock, main_clock, shown_clocks
from ufrin.web.contexts.record import entry_words
from ufrin.web.contexts.station import job_context
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import YES, FormReading, form_units, form_version
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import environment, go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{job_id}/pour")
@asks("see bench")
def show(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Show what will be weighed, and the pours so far."""
    return _page(request, database, job_id, {}, {})


@router.post("/jobs/{job_id}/pour")
@asks("weigh")
def start(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Begin to weigh."""
    typed = {key: form.get(key, "")[:200] for key in ("who", "temp_c")}
    try:
        units = form_units(form, settings(database).units)
        temp_c = parse(typed["temp_c"], "temperature", units, field="temp_c") if typed["temp_c"].strip() else None
        number = pours.start(database, job_id, who=typed["who"], temp_c=temp_c, what=Text("the box"), now=clock.now())
    except Refused as refused:
        field = "temp_c" if refused.field == "room_temp_c" else refused.field
        return _page(
            request, database, job_id, {field: UnitFormatter(form_units(form, "metric")).refusal(refused)}, typed
        )
    return go_to(request, Links.pour(number))


@router.post("/jobs/{job_id}/pour/sign")
def sign(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Sign a stop off."""
    typed = {key: form.get(key, "")[:500] for key in ("about", "reason", "who")}
    try:
        sign_off.sign_off(database, job_id, typed["about"], reason=typed["reason"], who=typed["who"], now=clock.now())
    except Refused as refused:
        return _page(
            request,
            database,
            job_id,
            {{"who": "sign_who", "": "stop"}.get(refused.field, refused.field): str(refused)},
            typed,
        )
    return go_to(request, Links.job(job_id, "pour") + "#sign-off")


@router.post("/jobs/{job_id}/pour/unsign")
def unsign(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Take a sign-off back."""
    sign_off.take_back(database, job_id, form.get("about", ""))
    return go_to(request, Links.job(job_id, "pour") + "#sign-off")


@router.post("/jobs/{job_id}/steps/{key}")
@asks("weigh")
def tick(request: Request, database: TheDatabase, job_id: Number, key: str, form: Posted) -> Response:
    """Tick a step of the preparation off, or take the tick back."""
    try:
        preparation.tick(database, job_id, key[:64], done=form.get("done") == YES, at_s=clock.now().wall_s)
    except Refused as refused:
        return _page(request, database, job_id, {"": str(refused)}, {})
    return go_to(request, Links.job(job_id, "pour") + "#steps")


def _page(request: Request, database: Database, job_id: int, errors: dict[str, str], typed: dict[str, str]) -> Response:
    seen = pours.of_job(database, job_id)
    say = UnitFormatter(seen.opened.workshop.units, seen.opened.workshop.currency)
    now = clock.now()
    states = seen.opened.pour_states(now)
    room_c = room.now_c(database, now)
    if room_c is None:
        room_c = seen.opened.plan.rubber_settled.room_temp_c
    context = {
        **job_context(seen.opened, "rubber", FormReading(changes={})),
        "station": "pour",
        "pours": [(kept, state, state.clock(now)) for kept, state in seen.pours],
        "stops": shown_stops(seen.opened.bench_stops(now), say),
        "sign_at": "pour",
        "next_half": next_pour(states),
        "next": next((one for one in seen.opened.pour_figures(now) if one.half == next_pour(states)), None),
        "is_another_mould": bool(states) and all(one.is_poured for one in states),
        "stage": seen.opened.stage(now),
        "befores": befores(seen.opened.step_states(now), say, now.wall_s),
        "cures": [_cure(one, now) for one in states if one.state and one.is_poured],
        "errors": errors,
        "typed": {
            **typed,
            "who": typed.get("who") or party_in(request).person or (seen.pours[0][0].who if seen.pours else ""),
            "temp_c": typed.get("temp_c") or say.plain(room_c, "temperature"),
        },
        "say": say,
    }
    return render(request, "bench/pour.html", context, status_code=422 if errors else 200)


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownCure:
    """A cure of the mould at work: its number, its half, the clock that counts now, and whether its cup is pressed."""

    number: int | None
    half: str
    clock: ShownClock | None
    asks: bool


def _cure(one: PourState, now: Moment) -> ShownCure:
    state = one.state
    clocks = shown_clocks(state.clocks.of_mould(now), now) if state else ()
    clock_ = main_clock(clocks, state) if state else None
    return ShownCure(number=one.number, half=one.half, clock=clock_, asks=bool(state and asks_witness(state, now)))


@router.get("/pours/{number}/record")
@asks("see bench")
def record(request: Request, database: TheDatabase, number: Number) -> Response:
    """Show the record of a pour."""
    return _record(request, database, number, {}, {})


@router.get("/pours/{number}/record.csv")
def record_csv(database: TheDatabase, number: Number) -> Response:
    """Give the record of a pour as CSV, one line for each of its lines."""
    bench = pours.look(database, number)
    codes = pours.codes_of(database, bench)
    rows = [
        {
            "number": line.entry.number,
            "at": datetime.fromtimestamp(line.entry.at.wall_s, UTC).isoformat(timespec="seconds"),
            "what": entry_words(line.entry),
            "ingredient": line.entry.ingredient,
            "asked_g": line.target_g,
            "weighed_g": line.entry.net_g,
            "corrected_g": line.right_g,
            "scale": line.entry.scale,
            "missing_ml": line.entry.volume_ml,
            "lot": codes.get(line.entry.lot_id or 0),
            "room_temp_c": line.entry.temp_c,
            "of_number": line.entry.of_number,
            "text": line.entry.text,
        }
        for line in lines(bench.state)
    ]
    head = [
        "number",
        "at",
        "what",
        "ingredient",
        "asked_g",
        "weighed_g",
        "corrected_g",
        "missing_ml",
        "scale",
        "lot",
        "room_temp_c",
        "of_number",
        "text",
    ]
    return Response(
        write(head, rows),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="pour-{number}.csv"'},
    )


@router.get("/pours/{number}/record.pdf")
def record_pdf(request: Request, database: TheDatabase, number: Number) -> Response:
    """Give the record of a pour as PDF."""
    # it takes a second to load, which a server that starts need not wait for
    from ufrin.web.frame.pdf import RECORD_SIZES, pdf  # noqa: PLC0415

    bench = pours.look(database, number)
    context = {"workshop_clock": request.app.state.workshop_clock, **_record_context(database, bench)}
    body = environment.get_template("paper/_pour_record.html").render(context)
    made = pdf(
        body,
        Text("{job_name}, pour {number}", job_name=bench.pour.job_name, number=number),
        bench.workshop.units,
        RECORD_SIZES,
    )
    headers = {"Content-Disposition": f'inline; filename="pour-{number}.pdf"'}
    return Response(made, media_type="application/pdf", headers=headers)


@router.post("/pours/{number}/record")
def correct(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Add a correction or a note to a record: what was written stays."""
    typed = {key: text[:500] for key, text in form.items()}
    try:
        chosen = form.get("of_number", "")
        is_taken_back = chosen.startswith("back-")
        of_number = form_version({"version": chosen.removeprefix("back-")})
        units = form_units(form, settings(database).units)
        net_g = parse(form.get("net_g", ""), "mass", units, field="net_g") if of_number and not is_taken_back else None
        entry = RecordEntry(
            number=form_version({"version": form.get("number", "")}),
            at=clock.now(),
            kind="retract" if is_taken_back else "correction" if of_number else "note",
            net_g=net_g,
            of_number=of_number or None,
            text=" ".join(form.get("text", "").split()),
        )
        pours.enter(database, number, entry, token=form.get("token", ""))
    except Refused as refused:
        return _record(request, database, number, {refused.field: str(refused)}, typed)
    except Overtaken as overtaken:
        return _record(request, database, number, {"": str(overtaken)}, typed)
    return go_to(request, Links.pour(number, "record"))


def _demould_at(state: BenchState, attempt: StepAttempt) -> datetime | None:
    at_s = state.clocks.end_of_s(attempt, "demould")
    return None if at_s is None else datetime.fromtimestamp(at_s, UTC)


def _record(
    request: Request, database: Database, number: int, errors: dict[str, str], typed: dict[str, str]
) -> Response:
    bench = pours.look(database, number)
    context = {
        **_record_context(database, bench),
        "doers": change_log.doers_of_pour(database, number),
        "errors": errors,
        "typed": typed,
        "token": pours.new_token(),
    }
    return render(request, "bench/record.html", context, status_code=422 if errors else 200)


def _record_context(database: Database, bench: Bench) -> dict[str, Any]:
    state, say = bench.state, UnitFormatter(bench.workshop.units, bench.workshop.currency)
    record_lines = lines(state)
    return {
        "bench": bench,
        "state": state,
        "lines": record_lines,
        "entry_words": entry_words,
        "retractable": [one for one in state.valid if one.kind in RETRACTABLE],
        "names": {one.key: one for batch in state.plan.batches for one in batch},
        "correctable": [line for line in record_lines if line.entry.kind in CORRECTABLE],
        "attempts": [
            (attempt, state.ratio_error_pct(attempt), _demould_at(state, attempt)) for attempt in state.attempts
        ],
        "codes": pours.codes_of(database, bench),
        "say": say,
        "over_pct": state.over_pct,
        "needed_g": state.needed_g,
    }
