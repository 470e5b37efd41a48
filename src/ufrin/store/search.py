"""The search through what has a name: jobs, moulds, things of the Shelf."""

from dataclasses import dataclass

from psycopg.rows import class_row

from ufrin.store.connection import Connection
from ufrin.store.queries import escaped, holding, named_queries

_SQL = named_queries("search")


@dataclass(frozen=True, slots=True, kw_only=True)
class Hit:
    """A "job", a "mould" or a row of a table of the Shelf, with its number, name, and where or how it is."""

    kind: str
    id: int
    name: str
    note: str


def found(connection: Connection, text: str, *, limit: int) -> list[Hit]:
    """Find what holds a text in its name, what begins with it first."""
    values = {"pattern": holding(text), "start": f"{escaped(text)}%", "limit": limit}
    with connection.cursor(row_factory=class_row(Hit)) as cursor:
        return cursor.execute(_SQL["found"], values).fetchall()
