"""Lots as they are kept: tins of rubbers and additives, and what was taken out of each."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any, Literal, cast

from psycopg.rows import class_row

from ufrin.core.shelf.lots import Lot, Part, reason_as_kept
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("lots")
MOST_LISTED = 2000
# the columns of which one tells what a lot is of
OF = ("rubber_id", "additive_id", "resin_id", "addition_id")
MoveKind = Literal["poured", "corrected", "counted", "cast"]


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredLot:
    """A lot with its number, its dates, and what it is a lot of."""

    id: int
    lot: Lot
    rubber_id: int | None
    additive_id: int | None
    resin_id: int | None
    addition_id: int | None
    use_by: date | None
    opened_on: date | None
    version: int
    name: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Move:
    """What was taken out of a tin, negative when it was put back."""

    lot_id: int
    at: datetime
    grams: float
    pour_id: int | None
    why: str


def _kept(row: Mapping[str, Any]) -> StoredLot:
    lot = Lot(
        code=row["code"],
        part=cast(Part, row["part"]),
        left_g=row["left_g"],
        got_g=row["got_g"],
        days_left=row["days_left"],
        price=row["price"],
    )
    same = {key: row[key] for key in ("id", *OF, "use_by", "opened_on", "version")}
    return StoredLot(lot=lot, name=row.get("name", ""), **same)


def of(
    connection: Connection,
    *,
    rubbers: Sequence[int] = (),
    additives: Sequence[int] = (),
    resins: Sequence[int] = (),
    additions: Sequence[int] = (),
) -> list[StoredLot]:
    """Read the lots of some things."""
    wanted = {"rubbers": rubbers, "additives": additives, "resins": resins, "additions": additions}
    if not any(wanted.values()):
        return []
    values = {name: list(numbers) for name, numbers in wanted.items()}
    return [_kept(row) for row in connection.execute(_SQL["of"], values).fetchall()]


def at_place(connection: Connection, place: str, role: str) -> list[StoredLot]:
    """Read the lots that an ingredient may come from, by its place on the Shelf, such as "resin:3"; none for no place.

    Those of its part, A or B, and those of things that have no parts, such as wax.
    """
    kind, _, number = place.partition(":")
    found = of(connection, **{f"{kind}s": [int(number)]}) if number else []
    return [one for one in found if one.lot.part in {role, "all"}]


def every(connection: Connection) -> list[StoredLot]:
    """Read them all, by name of what is in them."""
    return [_kept(row) for row in connection.execute(_SQL["all"], {"limit": MOST_LISTED}).fetchall()]


def some(connection: Connection, numbers: Iterable[int]) -> dict[int, StoredLot]:
    """Read some lots."""
    wanted = list(numbers)
    return (
        {row["id"]: _kept(row) for row in connection.execute(_SQL["some"], {"ids": wanted}).fetchall()}
        if wanted
        else {}
    )


def lock(connection: Connection, number: int) -> StoredLot:
    """Read one and lock it against other saves until the transaction ends.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["lock"], {"id": number}).fetchone()
    if row is None:
        raise Missing(Text("this lot"))
    return _kept(row)


def add(
    connection: Connection,
    lot: Lot,
    of_id: Mapping[str, int],
    *,
    use_by: date | None = None,
    opened_on: date | None = None,
) -> int:
    """Put a tin of one thing on the Shelf, named by its column; one that is not full any more is counted at once."""
    values = {**_columns(lot, use_by, opened_on), **dict.fromkeys(OF), **of_id}
    row = connection.execute(_SQL["add"], values).fetchone()
    number = int(row["id"]) if row else 0
    if lot.left_g != lot.got_g:
        moved(connection, number, lot.got_g - lot.left_g, kind="counted", why=Text("counted as it came"))
    return number


def change(connection: Connection, number: int, lot: Lot, *, use_by: date | None, opened_on: date | None) -> None:
    """Keep a tin's new description; what is left in it only changes by moves."""
    connection.execute(_SQL["change"], {**_columns(lot, use_by, opened_on), "id": number})


def _columns(lot: Lot, use_by: date | None, opened_on: date | None) -> dict[str, Any]:
    same = {key: getattr(lot, key) for key in ("code", "part", "got_g", "price")}
    return {**same, "use_by": use_by, "opened_on": opened_on}


def moved(
    connection: Connection,
    number: int,
    grams: float,
    *,
    kind: MoveKind,
    why: str,
    pour_id: int | None = None,
    entry: int | None = None,
    shot_id: int | None = None,
) -> None:
    """Take something out of a tin and write that into its history; what is put back is negative.

    Raises Missing when there is no such lot.
    """
    lock(connection, number)
    values = {"id": number, "grams": grams, "kind": kind, "pour_id": pour_id, "number": entry, "why": why}
    values["shot_id"] = shot_id
    connection.execute(_SQL["moved"], values)


def moves(connection: Connection, numbers: Sequence[int], *, limit: int = 40) -> list[Move]:
    """Read what last happened to some tins."""
    if not numbers:
        return []
    with connection.cursor(row_factory=class_row(Move)) as cursor:
        kept = cursor.execute(_SQL["moves"], {"ids": list(numbers), "limit": limit}).fetchall()
    return [replace(one, why=reason_as_kept(one.why)) for one in kept]


def delete(connection: Connection, number: int) -> None:
    """Remove a tin that was entered by mistake; refused (``InUse``) once it was poured from.

    Raises Missing when there is none.
    """
    if connection.execute(_SQL["delete"], {"id": number}).fetchone() is None:
        raise Missing(Text("this lot"))
