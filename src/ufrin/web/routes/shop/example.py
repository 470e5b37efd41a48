"""The example of the first hour: begun from an empty Board, and put away when it has done its duty."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.job import example, stations
from ufrin.web.frame.example_cookie import COOKIE, example_in
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to
from ufrin.web.routes import Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.post("/example")
def begin(request: Request, database: TheDatabase) -> Response:
    """Start the example, and explain it in this browser."""
    job_id = example.begin(database)
    answer = go_to(request, Links.job(job_id))
    answer.set_cookie(COOKIE, str(job_id), httponly=True, samesite="lax")
    return answer


@router.post("/example/end")
def end(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Stop explaining; archive its job if that is asked for."""
    job_id = example_in(request)
    answer = go_to(request, Links.board() if form.get("archive") or not job_id else Links.job(job_id))
    if job_id and form.get("archive"):
        stations.put_job_away(database, job_id, away=True)
    answer.delete_cookie(COOKIE)
    return answer
