"""The Shelf: rubbers and containers made, edited, retired, deleted while no job uses them."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import CONTAINERS, RUBBERS, Database, Kept, ShelfTable, shelf
from ufrin.actions.workshop import settings
from ufrin.core.pots import CONTAINER_SHAPES
from ufrin.core.rubbers import FAMILIES, Rubber
from ufrin.core.terms import CONTAINER, SHELF, Term
from ufrin.errors import Refused, Stale
from ufrin.web.forms import YES, Read, fields, read
from ufrin.web.links import Links
from ufrin.web.pages import go_to, render
from ufrin.web.routes import Number, Posted, TheDatabase
from ufrin.web.routes.job import conflict, form_units, form_version
from ufrin.web.speech import Speech

router = APIRouter(include_in_schema=False)
KindName = Literal["rubbers", "containers"]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Kind:
    """A kind of thing on the Shelf: its table, its inputs, and how its form is laid out."""

    table: ShelfTable[Any]
    terms: Mapping[str, Term]
    new: str
    save: str
    groups: tuple[tuple[str, tuple[str, ...]], ...]

    def blank(self) -> object:
        """Give a thing nobody has described yet: everything unsaid."""
        return _Blank(self.terms)


class _Blank:
    def __init__(self, terms: Mapping[str, Term]) -> None:
        self._terms = terms

    def __getattr__(self, name: str) -> object:
        return "" if self._terms[name].kind == "text" and self._terms[name].default is None else None


KINDS: Mapping[KindName, _Kind] = {
    "rubbers": _Kind(
        table=RUBBERS, terms=SHELF, new="New rubber", save="Put on the Shelf",
        groups=(
            ("What it is", ("name", "family", "hardness_scale", "hardness")),
            ("The parts", ("a_name", "a_colour", "b_name", "b_colour")),
            ("Ratio and specific gravity (SG)", ("weight_a", "weight_b", "tolerance_pct", "volume_a", "volume_b", "sg_mixed", "sg_a", "sg_b")),
            ("In the cup and after", ("viscosity_mpa_s", "pot_life_min", "demould_min", "full_cure_min", "elongation_pct", "tear_kn_per_m")),
            ("The kit", ("kit_g", "kit_price")),
        ),
    ),
    "containers": _Kind(
        table=CONTAINERS, terms=CONTAINER, new="New container", save="Put on the Shelf",
        groups=(("What it is", ("name", "shape")), ("Its inside", ("length_mm", "width_mm", "height_mm", "bottom_mm", "top_mm"))),
    ),
}  # fmt: skip


@router.get("/shelf")
def show(request: Request, database: TheDatabase) -> Response:
    """Show the Shelf."""
    seen = shelf.shelf(database)
    context = {"seen": seen, "families": FAMILIES, "shapes": CONTAINER_SHAPES, "say": Speech(seen.workshop.units, seen.workshop.currency)}
    return render(request, "shelf.html", context)


@router.get("/shelf/{kind}/new")
def new(request: Request, database: TheDatabase, kind: KindName) -> Response:
    """Show the form for a new thing."""
    return _form(request, database, kind, None, Read(changes={}))


@router.post("/shelf/{kind}/new")
def add(request: Request, database: TheDatabase, kind: KindName, form: Posted) -> Response:
    """Put a thing on the Shelf."""
    terms, table = KINDS[kind].terms, KINDS[kind].table
    taken = read(terms, form, KINDS[kind].blank(), form_units(form, settings(database).units))
    if taken.errors:
        return _form(request, database, kind, None, taken, form=form)
    try:
        values: dict[str, Any] = {key: terms[key].default if value is None else value for key, value in taken.changes.items()}
        shelf.add(database, table, table.kind(**{"name": "", **values}))
    except Refused as refused:
        return _form(request, database, kind, None, Read(changes={}, errors={refused.field: str(refused)}), form=form)
    return go_to(request, Links.shelf)


@router.get("/shelf/{kind}/{number}")
def edit(request: Request, database: TheDatabase, kind: KindName, number: Number) -> Response:
    """Show a thing's form."""
    return _form(request, database, kind, shelf.look(database, KINDS[kind].table, number), Read(changes={}))


@router.post("/shelf/{kind}/{number}")
def change(request: Request, database: TheDatabase, kind: KindName, number: Number, form: Posted) -> Response:
    """Keep a thing's new figures."""
    terms, table = KINDS[kind].terms, KINDS[kind].table
    kept = shelf.look(database, table, number)
    taken = read(terms, form, kept.thing, form_units(form, settings(database).units))
    if taken.errors:
        return _form(request, database, kind, kept, taken, form=form)
    changes = {key: terms[key].default if value is None else value for key, value in taken.changes.items()}
    try:
        shelf.change(database, table, number, version=form_version(form), changes=changes)
    except Refused as refused:
        return _form(request, database, kind, kept, Read(changes={}, errors={refused.field: str(refused)}), form=form)
    except Stale as stale:
        return _form(request, database, kind, shelf.look(database, table, number), Read(changes={}), stale=stale)
    return go_to(request, Links.shelf)


@router.post("/shelf/{kind}/{number}/{what}")
def place(request: Request, database: TheDatabase, kind: KindName, number: Number, what: str, form: Posted) -> Response:
    """Retire a thing, offer it again, or delete it."""
    if what == "delete" and form.get("sure") == YES:
        shelf.delete(database, KINDS[kind].table, number)
    elif what in {"retire", "offer"}:
        shelf.retire(database, KINDS[kind].table, number, retired=what == "retire")
    return go_to(request, Links.shelf)


def _form(
    request: Request, database: Database, kind: KindName, kept: Kept[Any] | None, taken: Read, *, form: dict[str, str] | None = None,
    stale: Stale | None = None,
) -> Response:  # fmt: skip
    workshop, the_kind = settings(database), KINDS[kind]
    typed = {key: text[:200] for key, text in (form or {}).items() if key in the_kind.terms}
    context: dict[str, Any] = {
        "kind": kind,
        "laid_out": the_kind,
        "kept": kept,
        "say": Speech(workshop.units, workshop.currency),
        "fields": fields(the_kind.terms, kept.thing if kept else the_kind.blank(), workshop.units, taken.errors, typed),
        "general": taken.errors.get("", ""),
        "findings": kept.thing.findings() if kept and isinstance(kept.thing, Rubber) else (),
        "version": form_version(form) if form else kept.version if kept else 0,
        "conflict": conflict(the_kind.terms, stale, workshop.units) if stale else [],
    }
    return render(request, "thing.html", context, status_code=409 if stale else 422 if taken.errors else 200)
