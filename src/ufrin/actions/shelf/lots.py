"""Lots: tins that came, counted again, opened, and taken off the Shelf while nothing was poured from them."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import date
from typing import Any

from ufrin.core.casting.resins import Resin
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.lots import Lot, Part
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.store import lots, workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.lots import Move, StoredLot
from ufrin.store.shelf import ADDITIONS, ADDITIVES, RESINS, RUBBERS, ShelfTable, Stored
from ufrin.store.workshop_settings import Workshop


def of_thing(database: Database, table: ShelfTable[Any], number: int) -> tuple[tuple[StoredLot, ...], tuple[Move, ...]]:
    """Show the lots of a thing."""
    with database.reading() as connection:
        found = tuple(lots.of(connection, **_place(table, number)))
        return found, tuple(lots.moves(connection, [one.id for one in found]))


# the things that come in tins, and the column that names one
COLUMNS: Mapping[str, str] = {
    RUBBERS.name: "rubber_id",
    ADDITIVES.name: "additive_id",
    RESINS.name: "resin_id",
    ADDITIONS.name: "addition_id",
}


def _place(table: ShelfTable[Any], number: int) -> dict[str, list[int]]:
    return {table.name: [number]} if table.name in COLUMNS else {}


def add(database: Database, table: ShelfTable[Any], number: int, values: Mapping[str, Any]) -> None:
    """Put a tin on the Shelf; a kit of two parts, "all" of it, becomes a tin of A and one of B."""
    with database.transaction() as connection:
        enter(connection, table, table.lock(connection, number), values)


def enter(connection: Connection, table: ShelfTable[Any], kept: Stored[Any], values: Mapping[str, Any]) -> None:
    """Put a tin on the Shelf inside a transaction.

    Raises Refused when the amount is missing, or a date is impossible.
    """
    got_g = values.get("got_g")
    if not got_g:
        raise Refused("got_g", Text("How much came? Type what the tin holds."))
    dates = {key: read_date(key, values.get(key)) for key in ("use_by", "opened_on")}
    shares: dict[Part, float] = {values.get("part") or "all": 1.0}
    if "all" in shares:
        shares = _shares(kept.thing)
    for part, share in shares.items():
        left_g = values["left_g"] if values.get("left_g") is not None else got_g
        price = values["price"] * share if values.get("price") is not None else None
        lot = Lot(
            code=str(values.get("code") or ""), part=part, got_g=got_g * share, left_g=left_g * share, price=price
        )
        of_id = {COLUMNS[table.name]: kept.id}
        lots.add(connection, lot, of_id, use_by=dates["use_by"], opened_on=dates["opened_on"])


def _shares(thing: object) -> dict[Part, float]:
    # a kit of what has two parts holds both in its ratio
    if isinstance(thing, Rubber):
        a, b = thing.weight_ratio
        return {"A": a / (a + b), "B": b / (a + b)}
    if isinstance(thing, Resin) and (parts := thing.mix_by("weight").parts(1.0)):
        return {"A": parts["A"].g, "B": parts["B"].g}
    return {"all": 1.0}


def read_date(field: str, text: object) -> date | None:
    """Read a date as it is typed.

    Returns None for an empty text. Raises Refused when it is no date, or of another century.
    """
    if not text:
        return None
    if isinstance(text, date):
        return text
    try:
        day = date.fromisoformat(str(text).strip())
    except ValueError:
        raise Refused(field, Text("Type a date as year-month-day, such as 2027-03-31.")) from None
    if not 2000 <= day.year <= 2100:
        raise Refused(field, Text("That year is a slip of the finger. Type a date such as 2027-03-31."))
    return day


def change(database: Database, lot_id: int, *, version: int, values: Mapping[str, Any]) -> None:
    """Count a tin again, or correct its label.

    Raises Stale when it was poured from or changed meanwhile and the two differ.
    """
    with database.transaction() as connection:
        kept = lots.lock(connection, lot_id)
        words = {key: values[key] for key in ("code", "left_g", "price") if key in values}
        differing = {key: value for key, value in words.items() if getattr(kept.lot, key) != value}
        if differing and version != kept.version:
            raise Stale({key: getattr(kept.lot, key) for key in differing}, differing, kept.version)
        rewrite(connection, kept, values, why=Text("counted again"))


def rewrite(connection: Connection, kept: StoredLot, values: Mapping[str, Any], *, why: str) -> None:
    """Keep what is newly known of a tin, and write the count into its history.

    Raises Refused when the weight is missing, or a date is impossible.
    """
    dates = {
        key: read_date(key, values[key]) if key in values else getattr(kept, key) for key in ("use_by", "opened_on")
    }
    words = {key: values[key] for key in ("code", "got_g", "left_g", "price") if key in values}
    if words.get("left_g", 0.0) is None:
        raise Refused("left_g", Text("What is left? Type 0 when the tin is empty."))
    lot = replace(kept.lot, **words)
    lot = replace(lot, got_g=max(lot.got_g, lot.left_g))
    lots.change(connection, kept.id, lot, use_by=dates["use_by"], opened_on=dates["opened_on"])
    # a tin that held more when it came has as much more in it now
    before_g = kept.lot.left_g + lot.got_g - kept.lot.got_g
    if "left_g" in words and lot.left_g != before_g:
        lots.moved(connection, kept.id, before_g - lot.left_g, kind="counted", why=why)


def delete(database: Database, lot_id: int) -> None:
    """Remove a tin that was entered by mistake."""
    with database.transaction() as connection:
        lots.lock(connection, lot_id)
        lots.delete(connection, lot_id)


def every(database: Database) -> tuple[tuple[StoredLot, ...], Workshop]:
    """Show every lot on the Shelf."""
    with database.reading() as connection:
        return tuple(lots.every(connection)), workshop_settings.load(connection)
