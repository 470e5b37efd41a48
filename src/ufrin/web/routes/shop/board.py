"""The Board: the jobs, newest first; and starting a new one."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.bench.running import what_runs
from ufrin.actions.job import board as board_actions
from ufrin.actions.job import stations
from ufrin.actions.shop.workshop_settings import settings
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.web.contexts.board import by_state, clocks_context
from ufrin.web.contexts.safekeeping_words import warnings
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import whole_number
from ufrin.web.frame.headlines import NOT_YET, box_headline, job_state, rubber_headline
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/")
def show(request: Request, database: TheDatabase, search: str = "", page: str = "1", away: str = "") -> Response:
    """Show a page of the Board; htmx asks for the list alone while someone searches."""
    number = whole_number(page, most_digits=6)
    board = board_actions.board(database, search=search, put_away=bool(away), page=1 if number is None else number)
    say = UnitFormatter(board.workshop.units, board.workshop.currency)
    now = clock.now()
    rows = [
        (listed.job, job_state(listed.figures, listed.stage(now)), listed.figures)
        if listed.figures
        else (listed.job, NOT_YET, None)
        for listed in board.listed
    ]
    context = {
        "board": board,
        "rows": rows,
        "groups": by_state(rows),
        "say": say,
        "box_headline": box_headline,
        "rubber_headline": rubber_headline,
    }
    if is_htmx(request):
        return render(request, "shop/_jobs.html", context)
    context["warnings"] = (
        warnings(database, request.app.state.settings.backups) if party_in(request).may("change") else []
    )
    return render(request, "shop/board.html", context | clocks_context(what_runs(database, now), now))


@router.get("/clocks")
@asks("see bench")
def clocks(request: Request, database: TheDatabase, all: str = "") -> Response:  # noqa: A002 - as the address has it
    """Show what runs and what is to be done next: for a Board that is open already, or on a page of its own."""
    now, workshop = clock.now(), settings(database)
    say = UnitFormatter(workshop.units, workshop.currency)
    context = {"say": say} | clocks_context(what_runs(database, now), now, is_all=bool(all))
    return render(request, "shop/_clocks.html" if is_htmx(request) else "shop/clocks.html", context)


@router.post("/jobs")
def start(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Start a job from its name, and go to its Master station."""
    name = form.get("name", "")
    try:
        job_id = stations.start_job(database, name)
    except Refused as refused:
        return render(
            request,
            "shop/_new_job.html" if is_htmx(request) else "shop/new_job.html",
            {"name": name[:500], "error": str(refused)},
            status_code=422,
        )
    return go_to(request, Links.job(job_id))
