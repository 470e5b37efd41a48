"""The plan of all that is at work: lanes, today's list, steps moved and ticked, and the search for a better one."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import RUBBERS, Database
from ufrin.actions.schedule import day_plan, moving, promises, what_if
from ufrin.actions.shelf import things
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.day_plan import SPANS, plan_context
from ufrin.web.frame.access import asks
from ufrin.web.frame.forms import YES, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import environment, go_to, is_htmx, render
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
USUAL_DAYS = 3
LONGEST_KEY = 80


def _days(text: str) -> int:
    number = whole_number(text, most_digits=3)
    return number if number in SPANS else USUAL_DAYS


def page(
    request: Request,
    database: Database,
    form: dict[str, str],
    errors: dict[str, str],
    more: dict[str, Any] | None = None,
) -> Response:
    """Show the plan, with what was typed and is wrong with it."""
    now = clock.now()
    chosen = form.get("step", "")[:LONGEST_KEY]
    context = plan_context(day_plan.look(database, now), now, days=_days(form.get("days", "")), chosen=chosen)
    of_jobs, of_moulds = promises.choices(database)
    context |= {
        "asked": "",
        "rubbers": [(one.id, one.thing.name) for one in things.shelf(database, RUBBERS).things],
        "like_jobs": of_jobs,
        "in_moulds": of_moulds,
    }
    context |= {"errors": errors, "typed": {key: text[:200] for key, text in form.items()}, "answer": None} | (
        more or {}
    )
    return render(request, "shop/day_plan.html", context, status_code=422 if errors else 200)


@router.get("/plan")
@asks("see bench")
def show(request: Request, database: TheDatabase, days: str = "", step: str = "") -> Response:
    """Show the plan; htmx asks for the part alone that changes by itself."""
    if is_htmx(request):
        now = clock.now()
        context = plan_context(day_plan.look(database, now), now, days=_days(days), chosen=step[:LONGEST_KEY])
        return render(request, "shop/_day_plan.html", context)
    return page(request, database, {"days": days, "step": step}, {})


@router.get("/plan/today.pdf")
@asks("see bench")
def day_list(request: Request, database: TheDatabase) -> Response:
    """Give the list of the day, to be hung up in the workshop."""
    # it takes a second to load, which a server that starts need not wait for
    from ufrin.web.frame.pdf import LIST_SIZES, pdf  # noqa: PLC0415

    now = clock.now()
    context = plan_context(day_plan.look(database, now), now, days=USUAL_DAYS)
    if "when" not in context or not context["shown"].steps:
        raise Refused("", Text("Nothing is at work, so there is no list to print."))
    body = environment.get_template("paper/_day_list.html").render(
        {"workshop_clock": request.app.state.workshop_clock, **context}
    )
    made = pdf(body, str(context["list_of"]), context["say"].units, LIST_SIZES)
    return Response(made, media_type="application/pdf", headers={"Content-Disposition": 'inline; filename="today.pdf"'})


@router.get("/plan/search")
@asks("see bench")
def search(request: Request, database: TheDatabase, days: str = "") -> Response:
    """Show how far the search for a better plan is."""
    state, has_worker = day_plan.search_state(database)
    share = day_plan.share_done(state, clock.now())
    context = {"search": state, "share": share, "has_worker": has_worker, "days": _days(days)}
    return render(request, "shop/_plan_search.html", context)


def _act(request: Request, form: dict[str, str]) -> Response:
    return go_to(request, Links.day_plan(days=_days(form.get("days", ""))))


@router.post("/plan/put")
def put(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Put a step at a time."""
    key = form.get("step", "")[:LONGEST_KEY]
    try:
        moving.put(
            database, key, typed=form.get("begins", "")[:40], person=form.get("person", "")[:20], now=clock.now()
        )
    except Refused as refused:
        return page(request, database, dict(form), {refused.field or "begins": str(refused)})
    return _act(request, form)


@router.post("/plan/free")
def free(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Let a step go where it fits again."""
    moving.free(database, form.get("step", "")[:LONGEST_KEY])
    return _act(request, form)


@router.post("/plan/tick")
@asks("weigh")
def tick(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Tick a step off, at its real time where one is typed."""
    try:
        moving.tick(database, form.get("step", "")[:LONGEST_KEY], typed=form.get("at", "")[:40], now=clock.now())
    except Refused as refused:
        return page(request, database, dict(form), {refused.field or "at": str(refused)})
    return _act(request, form)


@router.post("/plan/untick")
@asks("weigh")
def untick(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Take back that a step is done."""
    try:
        moving.take_tick_back(database, form.get("step", "")[:LONGEST_KEY], clock.now())
    except Refused as refused:
        return page(request, database, dict(form), {refused.field: str(refused)})
    return _act(request, form)


@router.post("/plan/take")
def take(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Let the plan that touches a promise count."""
    moving.take_proposed(database)
    return _act(request, form)


@router.post("/plan/jobs/{job_id}")
def leave_off(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Leave a job off the plan, or plan it again."""
    moving.leave_off(database, job_id, off=form.get("off") == YES)
    return _act(request, form)


@router.post("/plan/what-if")
def ask_what_if(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Answer what would become of time and money if something were otherwise."""
    typed = {key: text[:60] for key, text in form.items()}
    try:
        answer = what_if.ask(database, typed.get("kind", ""), typed, clock.now())
    except Refused as refused:
        return page(request, database, dict(form), {refused.field or "kind": str(refused)}, {"asked": "what-if"})
    return page(request, database, dict(form), {}, {"answer": answer, "asked": "what-if"})


@router.post("/plan/promise")
def ask_promise(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Answer by when a new order could be ready."""
    typed = {key: text[:60] for key, text in form.items()}
    try:
        answer = promises.ask(database, typed, clock.now())
    except Refused as refused:
        return page(request, database, dict(form), {refused.field or "of": str(refused)}, {"asked": "promise"})
    return page(request, database, dict(form), {}, {"answer": answer, "asked": "promise"})
