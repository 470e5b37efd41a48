"""Things on the Shelf: put on it, changed, retired, and deleted while no job uses them."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Generic

from ufrin.actions.shelf.lots import COLUMNS
from ufrin.core.shelf.scales import Scale, check_host, listed_hosts
from ufrin.core.shelf.thermometers import Thermometer
from ufrin.errors import InUse, Stale
from ufrin.language import Counted
from ufrin.store import lots, workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.lots import StoredLot
from ufrin.store.shelf import ShelfTable, Stored, Thing
from ufrin.store.workshop_settings import Workshop


@dataclass(frozen=True, slots=True, kw_only=True)
class Board(Generic[Thing]):
    """One board of the Shelf: the things of a kind, how many jobs use each, and the lots of each."""

    things: tuple[Stored[Thing], ...]
    used: Mapping[int, int]
    lots: Mapping[int, tuple[StoredLot, ...]]
    workshop: Workshop


def shelf(database: Database, table: ShelfTable[Thing]) -> Board[Thing]:
    """Show one board of the Shelf."""
    with database.reading() as connection:
        things = tuple(table.all(connection))
        of_each: dict[int, list[StoredLot]] = {}
        if column := COLUMNS.get(table.name):
            for one in lots.of(connection, **{table.name: [kept.id for kept in things]}):
                of_each.setdefault(getattr(one, column), []).append(one)
        return Board(
            things=things,
            used=table.jobs_using(connection),
            lots={number: tuple(some) for number, some in of_each.items()},
            workshop=workshop_settings.load(connection),
        )


def look(database: Database, table: ShelfTable[Thing], number: int) -> Stored[Thing]:
    """Open one thing on the Shelf."""
    with database.transaction() as connection:
        return table.lock(connection, number)


def add(database: Database, table: ShelfTable[Thing], thing: Thing) -> int:
    """Put a thing on the Shelf."""
    with database.transaction() as connection:
        _check_device(connection, thing)
        return table.add(connection, thing)


def _check_device(connection: Connection, thing: object) -> None:
    if isinstance(thing, Scale | Thermometer):
        check_host(thing.address, listed_hosts(workshop_settings.load(connection).scale_hosts))


def change(
    database: Database, table: ShelfTable[Thing], number: int, *, version: int, changes: Mapping[str, object]
) -> None:
    """Change a thing's figures; every job that uses it is worked out from the new ones.

    Raises Stale when someone saved meanwhile and the two differ.
    """
    with database.transaction() as connection:
        kept = table.lock(connection, number)
        differing = {name: value for name, value in changes.items() if getattr(kept.thing, name) != value}
        if differing and version != kept.version:
            raise Stale({name: getattr(kept.thing, name) for name in differing}, differing, kept.version)
        if differing:
            changed = replace(kept.thing, **differing)  # type: ignore[arg-type]
            _check_device(connection, changed)
            table.change(connection, number, changed)


def retire(database: Database, table: ShelfTable[Thing], number: int, *, retired: bool) -> None:
    """Stop offering a thing, or offer it again."""
    with database.transaction() as connection:
        table.retire(connection, number, retired=retired)


def delete(database: Database, table: ShelfTable[Thing], number: int) -> None:
    """Take a thing off the Shelf for good.

    Raises InUse while a job uses it; the database itself would refuse too.
    """
    with database.transaction() as connection:
        name = table.lock(connection, number).thing.name
        used = table.jobs_using(connection).get(number, 0)
        if used:
            raise InUse(
                Counted(
                    "{n} job counts on {name}, so it can't be deleted. Retire it instead: it stays in its job and is "
                    "no longer offered.",
                    "{n} jobs count on {name}, so it can't be deleted. Retire it instead: it stays in its jobs and is "
                    "no longer offered.",
                    n=used,
                    name=name,
                )
            )
        table.delete(connection, number)
