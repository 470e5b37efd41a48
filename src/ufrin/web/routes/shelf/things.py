"""Things on the Shelf: made, edited, retired, and deleted while no job uses them."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database, Stored
from ufrin.actions.bench.cure_evidence import of_rubber
from ufrin.actions.shelf import lots, things
from ufrin.actions.shop import room, safety_sheets
from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.inputs.term import Term
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.terms import LOT_TERMS
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.web.contexts.shelf import KINDS, Blank, KindName
from ufrin.web.contexts.station import conflict_rows
from ufrin.web.frame.forms import YES, FormReading, fields, form_units, form_version, read
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
WORKED_OUT = ("weight_a", "weight_b", "volume_a", "volume_b", "sg_a", "sg_b", "sg_mixed")


@router.get("/shelf")
def first(request: Request) -> Response:
    """Show the Shelf at its rubbers."""
    return go_to(request, Links.shelf)


@router.get("/shelf/{kind}")
def show(request: Request, database: TheDatabase, kind: KindName) -> Response:
    """Show one board of the Shelf."""
    seen, the_kind = things.shelf(database, KINDS[kind].table), KINDS[kind]
    say = UnitFormatter(seen.workshop.units, seen.workshop.currency)
    rows = [
        (kept, [column.text(kept.thing, say) for column in the_kind.columns], seen.lots.get(kept.id, ()))
        for kept in seen.things
    ]
    return render(
        request, "shelf/things.html", {"seen": seen, "kind": kind, "laid_out": the_kind, "rows": rows, "say": say}
    )


@router.get("/shelf/{kind}/new")
def new(request: Request, database: TheDatabase, kind: KindName) -> Response:
    """Show the form for a new thing."""
    return _form(request, database, kind, None, FormReading(changes={}))


@router.post("/shelf/{kind}/new")
def add(request: Request, database: TheDatabase, kind: KindName, form: Posted) -> Response:
    """Put a thing on the Shelf."""
    terms, table = KINDS[kind].terms, KINDS[kind].table
    taken = read(terms, form, KINDS[kind].blank(), form_units(form, settings(database).units))
    if taken.errors:
        return _form(request, database, kind, None, taken, form=form)
    try:
        defaults = {key: term.default for key, term in terms.items() if term.default is not None and key != "name"}
        values: dict[str, Any] = {
            **defaults,
            **{key: terms[key].default if value is None else value for key, value in taken.changes.items()},
        }
        thing = table.kind(**{"name": "", **values})
        number = things.add(database, table, thing)
    except Refused as refused:
        return _form(
            request, database, kind, None, FormReading(changes={}, errors={refused.field: str(refused)}), form=form
        )
    return _after(request, kind, number, thing)


def _after(request: Request, kind: KindName, number: int, thing: object) -> Response:
    # a tin that contradicts itself, or whose missing figures were worked out, is shown at once
    told = isinstance(thing, Rubber) and (thing.findings() or thing != thing.completed())
    return go_to(request, Links.thing(kind, number) if told else Links.things(kind))


def _terms(kind: KindName, thing: object) -> Mapping[str, Term]:
    # figures of a tin that follow from its others are filled in, and marked as that
    terms = KINDS[kind].terms
    if not isinstance(thing, Rubber):
        return terms
    full = thing.completed()
    worked_out = {key: getattr(full, key) for key in WORKED_OUT if getattr(thing, key) is None and getattr(full, key)}
    return {
        **terms,
        **{
            key: replace(terms[key], default=round(value, 4), default_is=Text("calculated"))
            for key, value in worked_out.items()
        },
    }


@router.get("/shelf/{kind}/{number}")
def edit(request: Request, database: TheDatabase, kind: KindName, number: Number) -> Response:
    """Show a thing's form."""
    return _form(request, database, kind, things.look(database, KINDS[kind].table, number), FormReading(changes={}))


@router.post("/shelf/{kind}/{number}")
def change(request: Request, database: TheDatabase, kind: KindName, number: Number, form: Posted) -> Response:
    """Keep a thing's new figures."""
    terms, table = KINDS[kind].terms, KINDS[kind].table
    kept = things.look(database, table, number)
    taken = read(_terms(kind, kept.thing), form, kept.thing, form_units(form, settings(database).units))
    if taken.errors:
        return _form(request, database, kind, kept, taken, form=form)
    changes = {key: terms[key].default if value is None else value for key, value in taken.changes.items()}
    try:
        things.change(database, table, number, version=form_version(form), changes=changes)
    except Refused as refused:
        return _form(
            request, database, kind, kept, FormReading(changes={}, errors={refused.field: str(refused)}), form=form
        )
    except Stale as stale:
        return _form(
            request, database, kind, things.look(database, table, number), FormReading(changes={}), stale=stale
        )
    return _after(request, kind, number, things.look(database, table, number).thing)


@router.post("/shelf/{kind}/{number}/lots")
def add_lot(request: Request, database: TheDatabase, kind: KindName, number: Number, form: Posted) -> Response:
    """Put a tin on the Shelf."""
    table = KINDS[kind].table
    kept = things.look(database, table, number)
    taken = read(LOT_TERMS, form, Blank(LOT_TERMS), form_units(form, settings(database).units))
    errors = dict(taken.errors)
    if not errors:
        try:
            lots.add(database, table, number, taken.changes)
        except Refused as refused:
            errors = {refused.field: str(refused)}
    if errors:
        return _form(request, database, kind, kept, FormReading(changes={}), lot_errors=errors, form=form)
    return go_to(request, Links.thing(kind, number) + "#lots")


@router.post("/shelf/{kind}/{number}/lots/{lot_id}")
def change_lot(
    request: Request, database: TheDatabase, kind: KindName, number: Number, lot_id: Number, form: Posted
) -> Response:
    """Count a tin again, or take away one that never was."""
    kept = things.look(database, KINDS[kind].table, number)
    if form.get("what") == "delete":
        lots.delete(database, lot_id)
        return go_to(request, Links.thing(kind, number) + "#lots")
    term = {"left_g": replace(LOT_TERMS["got_g"], positive=False)}  # an empty tin is a count as well
    taken = read(term, form, Blank(term), form_units(form, settings(database).units))
    errors = dict(taken.errors)
    try:
        if not errors:
            lots.change(database, lot_id, version=form_version(form), values=taken.changes)
    except Refused as refused:
        errors = {refused.field: str(refused)}
    if errors:
        return _form(
            request, database, kind, kept, FormReading(changes={}), lot_errors={"": next(iter(errors.values()))}
        )
    return go_to(request, Links.thing(kind, number) + "#lots")


@router.post("/shelf/{kind}/{number}/{what}")
def place(request: Request, database: TheDatabase, kind: KindName, number: Number, what: str, form: Posted) -> Response:
    """Retire a thing, offer it again, or delete it."""
    if what == "delete" and form.get("sure") == YES:
        things.delete(database, KINDS[kind].table, number)
    elif what in {"retire", "offer"}:
        things.retire(database, KINDS[kind].table, number, retired=what == "retire")
    return go_to(request, Links.things(kind))


def _form(
    request: Request,
    database: Database,
    kind: KindName,
    kept: Stored[Any] | None,
    taken: FormReading,
    *,
    form: dict[str, str] | None = None,
    stale: Stale | None = None,
    lot_errors: dict[str, str] | None = None,
) -> Response:
    workshop, the_kind = settings(database), KINDS[kind]
    typed = {key: text[:200] for key, text in (form or {}).items()}
    of_thing = {} if lot_errors is not None else {key: text for key, text in typed.items() if key in the_kind.terms}
    tins, moves = lots.of_thing(database, the_kind.table, kept.id) if kept and the_kind.has_lots else ((), ())
    context: dict[str, Any] = {
        "evidence": of_rubber(database, kept.id) if kept and kind == "rubbers" else None,
        "heard": next((one for one in room.heard(database) if kept and one.name == kept.thing.name), None)
        if kind == "thermometers"
        else None,
        "kind": kind,
        "laid_out": the_kind,
        "kept": kept,
        "say": UnitFormatter(workshop.units, workshop.currency),
        "fields": fields(
            _terms(kind, kept.thing) if kept else the_kind.terms,
            kept.thing if kept else the_kind.blank(),
            workshop.units,
            taken.errors,
            of_thing,
        ),
        "general": next((text for key, text in taken.errors.items() if key not in the_kind.terms), ""),
        "findings": kept.thing.findings() if kept and isinstance(kept.thing, Rubber) else (),
        "version": form_version(form) if form and lot_errors is None else kept.version if kept else 0,
        "conflict": conflict_rows(the_kind.terms, stale, workshop.units) if stale else [],
        "tins": tins,
        "moves": moves,
        "sheet": safety_sheets.name_of(database, kind, kept.id) if kept and the_kind.has_sheet else "",
        "lot_fields": fields(
            LOT_TERMS, Blank(LOT_TERMS), workshop.units, lot_errors or {}, typed if lot_errors else {}
        ),
        "lot_wrong": (lot_errors or {}).get("", ""),
    }
    return render(
        request, "shelf/thing.html", context, status_code=409 if stale else 422 if taken.errors or lot_errors else 200
    )
