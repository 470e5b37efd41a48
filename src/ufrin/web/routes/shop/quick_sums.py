"""Quick sums: each calculator without a job, answered as it is typed, shared by its address, made into a job."""

from fastapi import APIRouter, Request
from starlette.exceptions import HTTPException
from starlette.responses import Response

from ufrin.actions.job.sum_to_job import job_of_sum
from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.quick_sums.quick_sum import QuickSum, SumInputs
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.quick_sums import filled_in, sum_context
from ufrin.web.frame.forms import form_units, read_sum
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
    say = UnitFormatter(form_units(request.query_params, workshop.units), workshop.currency)
    context = sum_context(made, filled_in(made, request.query_params), say)
    is_part = is_htmx(request)
    page = context | {"focuses_first": not is_part}
    answer = render(request, "shop/_sum.html" if is_part else "shop/sum.html", page)
    answer.headers["HX-Replace-Url"] = context["address"]
    return answer


@router.post("/sums/{key}/job")
def make_job(request: Request, database: TheDatabase, key: str, form: Posted) -> Response:
    """Make a job of a sum."""
    made, workshop = _sum(key), settings(database)
    typed = filled_in(made, form)
    say = UnitFormatter(form_units(form, workshop.units), workshop.currency)
    reading = read_sum(made.terms, typed, say.units)
    try:
        if reading.errors:
            raise Refused("", Text("Mend the fields that are marked, and try again."))
        job_id = job_of_sum(database, made, SumInputs(terms=made.terms, typed=reading.changes), form.get("name", ""))
    except Refused as refused:
        context = sum_context(made, typed, say) | {"not_made": say.refusal(refused), "name": form.get("name", "")[:200]}
        return render(request, "shop/sum.html", context, status_code=422)
    return go_to(request, Links.job(job_id))


def _sum(key: str) -> QuickSum:
    if key not in SUMS:
        raise HTTPException(404)
    return SUMS[key]
