"""The Shelf: rubbers made, edited, retired, deleted while no job uses them."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database, KeptRubber, shelf
from ufrin.actions.workshop import settings
from ufrin.core.rubbers import FAMILIES, Rubber
from ufrin.core.terms import SHELF
from ufrin.errors import Refused, Stale
from ufrin.web.forms import YES, Read, fields, read
from ufrin.web.links import Links
from ufrin.web.pages import go_to, render
from ufrin.web.routes import Number, Posted, TheDatabase
from ufrin.web.routes.job import conflict, form_units, form_version
from ufrin.web.speech import Speech

router = APIRouter(include_in_schema=False)


class _Blank:
    """A rubber nobody has described yet: everything unsaid."""

    def __getattr__(self, name: str) -> object:
        return "" if SHELF[name].kind == "text" and SHELF[name].default is None else None


@router.get("/shelf")
def show(request: Request, database: TheDatabase) -> Response:
    """Show the Shelf."""
    seen = shelf.shelf(database)
    return render(request, "shelf.html", {"seen": seen, "families": FAMILIES, "say": Speech(seen.workshop.units, seen.workshop.currency)})


@router.get("/shelf/new")
def new(request: Request, database: TheDatabase) -> Response:
    """Show the form for a new rubber."""
    return _form(request, database, None, Read(changes={}))


@router.post("/shelf/new")
def add(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Put a rubber on the Shelf."""
    taken = read(SHELF, form, _Blank(), form_units(form, settings(database).units))
    if taken.errors:
        return _form(request, database, None, taken, form=form)
    try:
        values: dict[str, Any] = {key: SHELF[key].default if value is None else value for key, value in taken.changes.items()}
        shelf.add_rubber(database, Rubber(**{"name": "", **values}))
    except Refused as refused:
        return _form(request, database, None, Read(changes={}, errors={refused.field: str(refused)}), form=form)
    return go_to(request, Links.shelf)


@router.get("/shelf/{rubber_id}")
def edit(request: Request, database: TheDatabase, rubber_id: Number) -> Response:
    """Show a rubber's form."""
    return _form(request, database, shelf.open_rubber(database, rubber_id), Read(changes={}))


@router.post("/shelf/{rubber_id}")
def change(request: Request, database: TheDatabase, rubber_id: Number, form: Posted) -> Response:
    """Keep a rubber's new figures."""
    kept = shelf.open_rubber(database, rubber_id)
    taken = read(SHELF, form, kept.rubber, form_units(form, settings(database).units))
    if taken.errors:
        return _form(request, database, kept, taken, form=form)
    changes = {key: SHELF[key].default if value is None else value for key, value in taken.changes.items()}
    try:
        shelf.change_rubber(database, rubber_id, version=form_version(form), changes=changes)
    except Refused as refused:
        return _form(request, database, kept, Read(changes={}, errors={refused.field: str(refused)}), form=form)
    except Stale as stale:
        return _form(request, database, shelf.open_rubber(database, rubber_id), Read(changes={}), stale=stale)
    return go_to(request, Links.shelf)


@router.post("/shelf/{rubber_id}/{what}")
def place(request: Request, database: TheDatabase, rubber_id: Number, what: str, form: Posted) -> Response:
    """Retire a rubber, offer it again, or delete it."""
    if what == "delete" and form.get("sure") == YES:
        shelf.delete_rubber(database, rubber_id)
    elif what in {"retire", "offer"}:
        shelf.retire_rubber(database, rubber_id, retired=what == "retire")
    return go_to(request, Links.shelf)


def _form(
    request: Request, database: Database, kept: KeptRubber | None, taken: Read, *, form: dict[str, str] | None = None, stale: Stale | None = None
) -> Response:
    workshop = settings(database)
    typed = {key: text[:200] for key, text in (form or {}).items() if key in SHELF}
    context: dict[str, Any] = {
        "kept": kept,
        "say": Speech(workshop.units, workshop.currency),
        "fields": fields(SHELF, kept.rubber if kept else _Blank(), workshop.units, taken.errors, typed),
        "general": taken.errors.get("", ""),
        "findings": kept.rubber.findings() if kept else (),
        "version": form_version(form) if form else kept.version if kept else 0,
        "conflict": conflict(SHELF, stale, workshop.units) if stale else [],
    }
    return render(request, "rubber.html", context, status_code=409 if stale else 422 if taken.errors else 200)
