"""The things on the Shelf, one table for each kind.

They are rubbers, additives, casting materials and what is stirred into them, releases, cups, containers, scales and
thermometers.
"""

from collections.abc import Iterable, Mapping
from dataclasses import asdict, dataclass, fields
from datetime import datetime
from typing import Any, Generic, TypeVar

from psycopg import sql

from ufrin.core.casting.additions import Addition
from ufrin.core.casting.resins import Resin
from ufrin.core.pairing.releases import Product
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.scales import Scale
from ufrin.core.shelf.thermometers import Thermometer
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("shelf")
_USE = "select {column} as id, job_id from stations where {column} is not null"
Thing = TypeVar("Thing", Rubber, Additive, Cup, Container, Scale, Thermometer, Product, Resin, Addition)


@dataclass(frozen=True, slots=True, kw_only=True)
class Stored(Generic[Thing]):
    """A thing on the Shelf with its number, its version, and since when it is retired."""

    id: int
    thing: Thing
    version: int
    retired_at: datetime | None


class ShelfTable(Generic[Thing]):
    """One kind of thing on the Shelf.

    Parameters
    ----------
    name : str
        Of the table.
    kind : type
        What its rows are; the columns are its fields.
    what : str
        With its article, for "there is no record of …".
    used_as : tuple of str
        The columns of a job's stations that name it.
    """

    def __init__(self, name: str, kind: type[Thing], what: str, used_as: tuple[str, ...]) -> None:
        self.name = name
        self.kind: type[Thing] = kind
        self.what = what
        self._columns = tuple(f.name for f in fields(kind))
        parts = {
            "table": sql.Identifier(name),
            "uses": sql.SQL(" union all ").join(
                sql.SQL(_USE).format(column=sql.Identifier(column)) for column in used_as
            ),
            "columns": sql.SQL(", ").join(map(sql.Identifier, self._columns)),
            "values": sql.SQL(", ").join(map(sql.Placeholder, self._columns)),
        }
        self._used = bool(used_as)
        # put together once: the driver remembers how it parsed a text, not a composition
        self._sql = {key: sql.SQL(text).format(**parts).as_bytes() for key, text in _SQL.items()}

    def _kept(self, row: Mapping[str, Any]) -> Stored[Thing]:
        thing = self.kind(**{name: row[name] for name in self._columns})
        return Stored(id=row["id"], thing=thing, version=row["version"], retired_at=row["retired_at"])

    def all(self, connection: Connection) -> list[Stored[Thing]]:
        """Read them all: those in use first, by name."""
        return [self._kept(row) for row in connection.execute(self._sql["all"]).fetchall()]

    def some(self, connection: Connection, ids: Iterable[int]) -> dict[int, Stored[Thing]]:
        """Read those of these numbers."""
        wanted = list(ids)
        return (
            {row["id"]: self._kept(row) for row in connection.execute(self._sql["some"], {"ids": wanted}).fetchall()}
            if wanted
            else {}
        )

    def lock(self, connection: Connection, number: int) -> Stored[Thing]:
        """Read one and lock it against other saves until the transaction ends.

        Raises Missing when there is none.
        """
        row = connection.execute(self._sql["lock"], {"id": number}).fetchone()
        if row is None:
            raise Missing(self.what)
        return self._kept(row)

    def add(self, connection: Connection, thing: Thing) -> int:
        """Put one on the Shelf."""
        row = connection.execute(self._sql["add"], asdict(thing)).fetchone()
        return int(row["id"]) if row else 0

    def change(self, connection: Connection, number: int, thing: Thing) -> None:
        """Keep new figures."""
        connection.execute(self._sql["change"], {**asdict(thing), "id": number})

    def retire(self, connection: Connection, number: int, *, retired: bool) -> None:
        """Stop offering it, or offer it again.

        Raises Missing when there is none.
        """
        if connection.execute(self._sql["retire"], {"id": number, "retired": retired}).fetchone() is None:
            raise Missing(self.what)

    def delete(self, connection: Connection, number: int) -> None:
        """Take it off the Shelf for good; refused (``InUse``) while a job uses it.

        Raises Missing when there is none.
        """
        if connection.execute(self._sql["delete"], {"id": number}).fetchone() is None:
            raise Missing(self.what)

    def jobs_using(self, connection: Connection) -> dict[int, int]:
        """Count the jobs that use each."""
        return (
            {row["id"]: row["jobs"] for row in connection.execute(self._sql["jobs_using"]).fetchall()}
            if self._used
            else {}
        )


RUBBERS: ShelfTable[Rubber] = ShelfTable("rubbers", Rubber, Text("this rubber"), ("rubber_id", "blend_id"))
ADDITIVES: ShelfTable[Additive] = ShelfTable(
    "additives", Additive, Text("this additive"), ("thinner_id", "thickener_id", "pigment_id")
)
RESINS: ShelfTable[Resin] = ShelfTable("resins", Resin, Text("this casting material"), ("resin_id", "foam_id"))
ADDITIONS: ShelfTable[Addition] = ShelfTable(
    "additions", Addition, Text("this filler or colour"), ("filler_id", "cast_colour_id")
)
CUPS: ShelfTable[Cup] = ShelfTable("cups", Cup, Text("this cup"), ("cup_id",))
CONTAINERS: ShelfTable[Container] = ShelfTable("containers", Container, Text("this container"), ("container_id",))
PRODUCTS: ShelfTable[Product] = ShelfTable("products", Product, Text("this release"), ())
THERMOMETERS: ShelfTable[Thermometer] = ShelfTable("thermometers", Thermometer, Text("this thermometer"), ())
SCALES: ShelfTable[Scale] = ShelfTable("scales", Scale, Text("this scale"), ())
