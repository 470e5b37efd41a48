"""Safety data sheets as they are kept, each with the thing on the Shelf that it is of."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from psycopg.rows import class_row

from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("safety_sheets")
COLUMNS: Mapping[str, str] = {"rubbers": "rubber_id", "additives": "additive_id", "products": "product_id"}


@dataclass(frozen=True, slots=True, kw_only=True)
class SafetySheet:
    """A safety data sheet: its file's name, the kind of file, and the file."""

    name: str
    media: str
    data: bytes


def _of(kind: str, number: int) -> dict[str, Any]:
    if kind not in COLUMNS:
        raise Missing(Text("a safety data sheet of such a thing"))
    return {column: number if column == COLUMNS[kind] else None for column in COLUMNS.values()}


def attach(connection: Connection, kind: str, number: int, sheet: SafetySheet) -> None:
    """Keep a sheet, in place of the one that the thing had."""
    connection.execute(
        _SQL["attach"], {**_of(kind, number), "name": sheet.name, "media": sheet.media, "data": sheet.data}
    )


def names(connection: Connection) -> dict[tuple[str, int], str]:
    """Return which things have a sheet."""
    found = {}
    for row in connection.execute(_SQL["names"]).fetchall():
        kind, number = next((kind, row[column]) for kind, column in COLUMNS.items() if row[column] is not None)
        found[kind, int(number)] = str(row["name"])
    return found


def load(connection: Connection, kind: str, number: int) -> SafetySheet:
    """Read a sheet.

    Raises Missing when there is none.
    """
    with connection.cursor(row_factory=class_row(SafetySheet)) as cursor:
        sheet = cursor.execute(_SQL["open"], _of(kind, number)).fetchone()
    if sheet is None:
        raise Missing(Text("this safety data sheet"))
    return sheet


def take_off(connection: Connection, kind: str, number: int) -> None:
    """Take a sheet off again."""
    connection.execute(_SQL["take_off"], _of(kind, number))
