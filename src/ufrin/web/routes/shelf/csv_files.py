"""The Shelf as CSV: given out, and taken in after a look at what would change."""

from collections.abc import Mapping
from typing import Annotated, Literal

from fastapi import APIRouter, File, Form, Request, UploadFile
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.shelf import csv_files
from ufrin.actions.shelf.csv_files import LOT_COLUMNS, CsvPreview
from ufrin.core.inputs.term import Term
from ufrin.core.measures.quantity_kinds import KINDS as QUANTITIES
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.shelf import KINDS, NOTHING
from ufrin.web.frame.forms import YES
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.routes import TheDatabase

router = APIRouter(include_in_schema=False)
CsvKind = Literal["rubbers", "additives", "products", "cups", "containers", "scales", "thermometers", "lots"]
MOST_SHOWN = 200
TITLES: Mapping[str, str] = {**{name: kind.title for name, kind in KINDS.items()}, "lots": Text("Lots")}


def _terms(kind: CsvKind) -> Mapping[str, Term]:
    return LOT_COLUMNS if kind == "lots" else KINDS[kind].terms


def _take(database: Database, kind: CsvKind, text: str, *, keep: bool) -> CsvPreview:
    if kind == "lots":
        return csv_files.lots_in(database, text, keep=keep)
    return csv_files.things_in(database, KINDS[kind].table, KINDS[kind].terms, text, keep=keep)


@router.get("/shelf/{kind}/file.csv")
def give(database: TheDatabase, kind: CsvKind) -> Response:
    """Give a board of the Shelf as CSV."""
    text = csv_files.lots_csv(database) if kind == "lots" else csv_files.things_csv(database, KINDS[kind].table)
    return Response(
        text,
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="ufrin-{kind}.csv"'},
    )


@router.get("/shelf/{kind}/csv")
def ask(request: Request, kind: CsvKind) -> Response:
    """Ask for a file."""
    return _page(request, kind, "", None, "")


@router.post("/shelf/{kind}/csv")
def take(
    request: Request,
    database: TheDatabase,
    kind: CsvKind,
    csv: Annotated[str, Form()] = "",
    keep: Annotated[str, Form()] = "",
    file: Annotated[UploadFile | None, File()] = None,
) -> Response:
    """Show what a file would change, or keep it."""
    text = csv
    try:
        if file is not None and file.size:
            try:
                text = file.file.read().decode("utf-8-sig")
            except UnicodeDecodeError:
                raise Refused(
                    "csv", Text("This is not a text in UTF-8. Save it as CSV in UTF-8, and try again.")
                ) from None
        if not text.strip():
            raise Refused("csv", Text("There is nothing in it. Choose a file, or paste its lines."))
        if "\0" in text:
            raise Refused("csv", Text("This is no text. Save the table as CSV, and try again."))
        preview = _take(database, kind, text, keep=keep == YES)
    except Refused as refused:
        return _page(request, kind, text[:200_000], None, str(refused))
    if keep == YES and not preview.wrong:
        return go_to(request, Links.things(kind))
    return _page(request, kind, text, preview, "")


def _page(request: Request, kind: CsvKind, text: str, preview: CsvPreview | None, error: str) -> Response:
    columns = [(key, term.label, _holds(term)) for key, term in _terms(kind).items()]
    context = {
        "kind": kind,
        "title": TITLES[kind],
        "columns": columns,
        "text": text,
        "preview": preview,
        "error": error,
        "most": MOST_SHOWN,
        "plain": _plain,
    }
    return render(
        request, "shelf/csv_files.html", context, status_code=422 if error or (preview and preview.wrong) else 200
    )


def _holds(term: Term) -> str:
    if term.kind in QUANTITIES:
        return QUANTITIES[term.kind].example
    if term.kind == "choice":
        return " | ".join(choice for choice in term.choices or {} if choice)
    return "2027-03-31" if term.kind == "date" else "text"


def _plain(value: object) -> str:
    return NOTHING if value is None or value == "" else f"{value:g}" if isinstance(value, float) else str(value)
