"""Safety data sheets: attached to a thing on the Shelf, opened, taken off."""

from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, File, Request, UploadFile
from starlette.responses import Response

from ufrin.actions.shelf import things
from ufrin.actions.shop import safety_sheets
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.shelf import KINDS
from ufrin.web.frame.forms import YES
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
Sheeted = Literal["rubbers", "additives", "products"]


@router.get("/shelf/{kind}/{number}/sheet")
def show(database: TheDatabase, kind: Sheeted, number: Number) -> Response:
    """Give a sheet as it was attached."""
    sheet = safety_sheets.open_sheet(database, kind, number)
    return Response(
        sheet.data,
        media_type=sheet.media,
        headers={"Content-Disposition": f"inline; filename*=UTF-8''{quote(sheet.name)}"},
    )


@router.post("/shelf/{kind}/{number}/sheet")
def attach(
    request: Request,
    database: TheDatabase,
    kind: Sheeted,
    number: Number,
    file: Annotated[UploadFile | None, File()] = None,
) -> Response:
    """Attach a sheet."""
    things.look(database, KINDS[kind].table, number)
    if file is None or not file.size:
        raise Refused("file", Text("Choose the safety data sheet first: a PDF, or a picture of a paper one."))
    safety_sheets.attach(database, kind, number, file.filename or "", file.file.read())
    return go_to(request, Links.thing(kind, number) + "#safety")


@router.post("/shelf/{kind}/{number}/sheet/off")
def take_off(request: Request, database: TheDatabase, kind: Sheeted, number: Number, form: Posted) -> Response:
    """Take a sheet off again."""
    if form.get("sure") == YES:
        safety_sheets.take_off(database, kind, number)
    return go_to(request, Links.thing(kind, number) + "#safety")
