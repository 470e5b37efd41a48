"""Quick sums: each calculator without a job, answered as it is typed, shared by its address, made into a job."""

from collections.abc import Mapping
from datetime import UTC, datetime
from typing import Any

from fastapi import APIRouter, Request
from starlette.exceptions import HTTPException
from starlette.responses import Response

from ufrin.actions.job.sum_to_job import job_of_sum
from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.quick_sums.quick_sum import QuickSum, SumAnswer, SumInputs
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.web.frame.forms import Field, form_units, read_sum, shown_text, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/sums")
def show_all(request: Request, database: TheDatabase) -> Response:
    """Show the list of sums."""
    return render(request, "shop/sums.html", {"sums": SUMS, "say": UnitFormatter(settings(database).units)})


@router.get("/sums/{key}")
def show(request: Request, database: TheDatabase, key: str) -> Response:
    """Show a sum with its answer, for what its address holds."""
    made, workshop = _sum(key), settings(database)
    typed = {name: text for name, text in request.query_params.items() if name in made.terms and text.strip()}
    units = form_units(request.query_params, workshop.units)
    context = _worked_out(made, typed, UnitFormatter(units, workshop.currency))
    answer = render(request, "shop/_sum.html" if is_htmx(request) else "shop/sum.html", context)
    answer.headers["HX-Replace-Url"] = context["address"]
    return answer


@router.post("/sums/{key}/job")
def make_job(request: Request, database: TheDatabase, key: str, form: Posted) -> Response:
    """Make a job of a sum."""
    made, workshop = _sum(key), settings(database)
    typed = {name: text for name, text in form.items() if name in made.terms and text.strip()}
    say = UnitFormatter(form_units(form, workshop.units), workshop.currency)
    reading = read_sum(made.terms, typed, say.units)
    try:
        if reading.errors:
            raise Refused("", "Mend the fields that are marked, and try again.")
        job_id = job_of_sum(database, made, SumInputs(terms=made.terms, typed=reading.changes), form.get("name", ""))
    except Refused as refused:
        context = _worked_out(made, typed, say) | {"not_made": say.refusal(refused), "name": form.get("name", "")[:200]}
        return render(request, "shop/sum.html", context, status_code=422)
    return go_to(request, Links.job(job_id))


def _sum(key: str) -> QuickSum:
    if key not in SUMS:
        raise HTTPException(404)
    return SUMS[key]


def _worked_out(made: QuickSum, typed: Mapping[str, str], say: UnitFormatter) -> dict[str, Any]:
    reading = read_sum(made.terms, typed, say.units)
    errors = dict(reading.errors)
    answer: SumAnswer | None = None
    missing = ""
    if not errors:
        try:
            answer = made.work(SumInputs(terms=made.terms, typed=reading.changes))
        except Refused as refused:
            if typed.keys() - {"begun"} and refused.field in typed:
                errors[refused.field] = say.refusal(refused)
            else:
                missing = say.refusal(refused) if refused.field not in made.terms else _asks_for(made, refused, say)
    fields = {
        name: Field(key=name, term=term, text=typed.get(name, ""), is_default=False, error=errors.get(name, ""))
        for name, term in made.terms.items()
        if term.kind != "hidden"
    }
    begun_s = whole_number(typed.get("begun", ""), most_digits=11)
    until_s = None
    if answer and begun_s is not None and made.key == "clock":
        until_s = begun_s + 60 * answer.figures[0][1].value
    return {
        "made": made,
        "fields": fields,
        "counts": {name: shown_text(term, None, say.units) for name, term in made.terms.items()},
        "answer": answer,
        "missing": missing,
        "say": say,
        "address": Links.sum(made.key, typed),
        "typed": typed,
        "now_s": int(clock.now().wall_s),
        "until_s": until_s,
        "until": datetime.fromtimestamp(until_s, UTC) if until_s is not None and until_s < MOST_S else None,
        "not_made": "",
        "name": "",
    }


MOST_S = 4e9  # a moment beyond the year 2096 is no clock of a workshop


def _asks_for(made: QuickSum, refused: Refused, say: UnitFormatter) -> str:
    why = say.refusal(refused)
    label = made.terms[refused.field].label
    return f"Type {label[:1].lower()}{label[1:]}." if why == "This is still missing." else why
