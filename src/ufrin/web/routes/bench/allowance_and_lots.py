"""Every lot on the Shelf in one list, and what the allowance has learnt from the pours that were taken from them."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.bench import pours
from ufrin.actions.shelf import lots
from ufrin.core.shelf.lots import SOON_DAYS
from ufrin.web.drawings.allowance import evidence
from ufrin.web.frame.pages import render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import TheDatabase

router = APIRouter(include_in_schema=False)
MOST_SHOWN = 30


@router.get("/shelf/lots")
def show(request: Request, database: TheDatabase) -> Response:
    """Show every lot."""
    found, workshop = lots.every(database)
    context = {
        "tins": found,
        "say": UnitFormatter(workshop.units, workshop.currency),
        "soon_days": SOON_DAYS,
        "kind": "lots",
    }
    return render(request, "bench/lots.html", context)


@router.get("/allowance")
def allowance(request: Request, database: TheDatabase) -> Response:
    """Show the allowance learnt from past pours, with its evidence."""
    learnt = pours.learnt(database)
    drawn = evidence([one.pour.over_pct for one in learnt.past], learnt.allowance.spare_pct) if learnt.past else None
    context = {
        "learnt": learnt,
        "shown": learnt.past[:MOST_SHOWN],
        "drawn": drawn,
        "say": UnitFormatter(learnt.workshop.units, learnt.workshop.currency),
    }
    return render(request, "bench/allowance.html", context)
