"""After the pour: what is done when it ran short, and pictures of what was found."""

from typing import Annotated

from fastapi import APIRouter, File, Form, Request, UploadFile
from starlette.responses import Response

from ufrin.actions.bench import photos, pours, shortfall
from ufrin.core.measures.parsing import parse
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.frame.access import asks
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/pours/{number}/short")
@asks("see bench")
def short(request: Request, database: TheDatabase, number: Number, below: str = "", missing: str = "") -> Response:
    """Show what is weighed now, from the level that was reached or from what is missing."""
    now, errors = clock.now(), dict[str, str]()
    seen = shortfall.look(database, number, now)
    say = UnitFormatter(seen.workshop.units, seen.workshop.currency)
    try:
        below_mm = _typed(below, "length", seen.workshop.units, "below_mm")
        volume_ml = _typed(missing, "volume", seen.workshop.units, "volume_ml")
        if below_mm is not None or volume_ml is not None:
            seen = shortfall.look(database, number, now, below_mm=below_mm, volume_ml=volume_ml)
    except Refused as refused:
        errors[refused.field] = say.refusal(refused)
    context = {
        "seen": seen,
        "state": seen.state,
        "say": say,
        "typed": {"below": below[:60], "missing": missing[:60]},
        "errors": errors,
        "token": pours.new_token(),
        "decimals": 1,
    }
    return render(request, "bench/short.html", context, status_code=422 if errors else 200)


def _typed(text: str, kind: str, units: Units, field: str) -> float | None:
    return parse(text[:60], kind, units, field=field) if text.strip() else None


@router.post("/pours/{number}/photos")
@asks("weigh")
def keep_photo(
    request: Request,
    database: TheDatabase,
    number: Number,
    photo: Annotated[UploadFile | None, File()] = None,
    token: Annotated[str, Form(max_length=64)] = "",
) -> Response:
    """Keep a picture."""
    if photo is None or not photo.size:
        raise Refused("photo", Text("Take or choose a picture first."))
    entry = RecordEntry(number=0, at=clock.now(), kind="photo")
    photos.keep(database, number, photo.file.read(photos.MOST_BYTES + 1), entry, token=token or pours.new_token())
    return go_to(request, Links.pour(number))


@router.get("/pours/{number}/photos/{entry}")
@asks("see bench")
def show_photo(database: TheDatabase, number: Number, entry: Number) -> Response:
    """Give a picture."""
    return Response(photos.look(database, number, entry), media_type="image/jpeg")
