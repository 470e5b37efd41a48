"""The Shelf: rubbers put on it, changed, retired, deleted while no job uses them."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ufrin.core.rubbers import Rubber
from ufrin.errors import InUse, Stale
from ufrin.store import rubbers, workshop
from ufrin.store.connection import Database
from ufrin.store.rubbers import KeptRubber
from ufrin.store.workshop import Workshop


@dataclass(frozen=True, slots=True, kw_only=True)
class Shelf:
    """The Shelf, with how many jobs use each rubber."""

    rubbers: tuple[KeptRubber, ...]
    jobs_using: Mapping[int, int]
    workshop: Workshop


def shelf(database: Database) -> Shelf:
    """Show the Shelf.

    Parameters
    ----------
    database : Database
        The record book.

    Returns
    -------
    Shelf
        Rubbers in use first.
    """
    with database.reading() as connection:
        return Shelf(rubbers=tuple(rubbers.shelf(connection)), jobs_using=rubbers.jobs_using(connection), workshop=workshop.load(connection))


def open_rubber(database: Database, rubber_id: int) -> KeptRubber:
    """Open one rubber.

    Parameters
    ----------
    database : Database
        The record book.
    rubber_id : int
        Its number.

    Returns
    -------
    KeptRubber
        As kept.
    """
    with database.transaction() as connection:
        return rubbers.lock(connection, rubber_id)


def add_rubber(database: Database, rubber: Rubber) -> int:
    """Put a rubber on the Shelf.

    Parameters
    ----------
    database : Database
        The record book.
    rubber : Rubber
        What its tin says.

    Returns
    -------
    int
        Its number.
    """
    with database.transaction() as connection:
        return rubbers.add(connection, rubber)


def change_rubber(database: Database, rubber_id: int, *, version: int, changes: Mapping[str, object]) -> None:
    """Change a rubber's figures; every job that uses it is worked out from the new ones.

    Parameters
    ----------
    database : Database
        The record book.
    rubber_id : int
        Its number.
    version : int
        Of what was read when the change was typed.
    changes : mapping of field to value
        What is not named stays as it is.

    Raises
    ------
    Stale
        When someone saved meanwhile and the two differ.
    """
    with database.transaction() as connection:
        kept = rubbers.lock(connection, rubber_id)
        differing = {name: value for name, value in changes.items() if getattr(kept.rubber, name) != value}
        if differing and version != kept.version:
            raise Stale({name: getattr(kept.rubber, name) for name in differing}, differing, kept.version)
        if differing:
            rubbers.change(connection, rubber_id, replace(kept.rubber, **differing))  # type: ignore[arg-type]


def retire_rubber(database: Database, rubber_id: int, *, retired: bool) -> None:
    """Stop offering a rubber, or offer it again.

    Parameters
    ----------
    database : Database
        The record book.
    rubber_id : int
        Its number.
    retired : bool
        Off, or back.
    """
    with database.transaction() as connection:
        rubbers.retire(connection, rubber_id, retired=retired)


def delete_rubber(database: Database, rubber_id: int) -> None:
    """Take a rubber off the Shelf for good.

    Parameters
    ----------
    database : Database
        The record book.
    rubber_id : int
        Its number.

    Raises
    ------
    InUse
        While a job uses it; the database itself would refuse too.
    """
    with database.transaction() as connection:
        name = rubbers.lock(connection, rubber_id).rubber.name
        used = rubbers.jobs_using(connection).get(rubber_id, 0)
        if used:
            jobs = "1 job counts" if used == 1 else f"{used} jobs count"
            raise InUse(f"{jobs} on {name}, so it can't be deleted. Retire it instead: it stays in its jobs and is no longer offered.")
        rubbers.delete(connection, rubber_id)
