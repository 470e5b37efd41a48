"""Rubbers as they are kept on the Shelf."""

from collections.abc import Iterable, Mapping
from dataclasses import asdict, dataclass, fields
from datetime import datetime
from typing import Any

from psycopg import sql

from ufrin.core.rubbers import Rubber
from ufrin.errors import Missing
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("rubbers")
_COLUMNS = tuple(f.name for f in fields(Rubber))


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptRubber:
    """A rubber with its number, its version, and since when it is retired."""

    id: int
    rubber: Rubber
    version: int
    retired_at: datetime | None


def _kept(row: Mapping[str, Any]) -> KeptRubber:
    return KeptRubber(id=row["id"], rubber=Rubber(**{name: row[name] for name in _COLUMNS}), version=row["version"], retired_at=row["retired_at"])


def shelf(connection: Connection) -> list[KeptRubber]:
    """Read the whole Shelf: those in use first, by name.

    Parameters
    ----------
    connection : Connection
        Open.

    Returns
    -------
    list of KeptRubber
        Retired ones last.
    """
    return [_kept(row) for row in connection.execute(_SQL["all"]).fetchall()]


def some(connection: Connection, ids: Iterable[int]) -> dict[int, KeptRubber]:
    """Read the rubbers of these numbers.

    Parameters
    ----------
    connection : Connection
        Open.
    ids : iterable of int
        Their numbers.

    Returns
    -------
    dict of number to KeptRubber
        Those that there are.
    """
    return {row["id"]: _kept(row) for row in connection.execute(_SQL["some"], {"ids": list(ids)}).fetchall()}


def lock(connection: Connection, rubber_id: int) -> KeptRubber:
    """Read one rubber and hold it against other saves until the transaction ends.

    Parameters
    ----------
    connection : Connection
        In a transaction.
    rubber_id : int
        Its number.

    Returns
    -------
    KeptRubber
        As kept.

    Raises
    ------
    Missing
        When there is none.
    """
    row = connection.execute(_SQL["lock"], {"id": rubber_id}).fetchone()
    if row is None:
        raise Missing("this rubber")
    return _kept(row)


def add(connection: Connection, rubber: Rubber) -> int:
    """Put a rubber on the Shelf.

    Parameters
    ----------
    connection : Connection
        In a transaction.
    rubber : Rubber
        What its tin says.

    Returns
    -------
    int
        Its number.
    """
    query = sql.SQL("insert into rubbers ({}) values ({}) returning id").format(
        sql.SQL(", ").join(map(sql.Identifier, _COLUMNS)), sql.SQL(", ").join(map(sql.Placeholder, _COLUMNS))
    )
    row = connection.execute(query, asdict(rubber)).fetchone()
    return int(row["id"]) if row else 0


def change(connection: Connection, rubber_id: int, rubber: Rubber) -> None:
    """Keep a rubber's new figures.

    Parameters
    ----------
    connection : Connection
        In a transaction that has locked it.
    rubber_id : int
        Its number.
    rubber : Rubber
        What its tin says.
    """
    pairs = sql.SQL(", ").join(sql.SQL("{} = {}").format(sql.Identifier(name), sql.Placeholder(name)) for name in _COLUMNS)
    query = sql.SQL("update rubbers set {}, version = version + 1 where id = %(id)s").format(pairs)
    connection.execute(query, {**asdict(rubber), "id": rubber_id})


def retire(connection: Connection, rubber_id: int, *, retired: bool) -> None:
    """Stop offering a rubber, or offer it again.

    Parameters
    ----------
    connection : Connection
        In a transaction.
    rubber_id : int
        Its number.
    retired : bool
        Off, or back.

    Raises
    ------
    Missing
        When there is none.
    """
    if connection.execute(_SQL["retire"], {"id": rubber_id, "retired": retired}).fetchone() is None:
        raise Missing("this rubber")


def delete(connection: Connection, rubber_id: int) -> None:
    """Take a rubber off the Shelf for good; refused (``InUse``) while a job uses it.

    Parameters
    ----------
    connection : Connection
        In a transaction.
    rubber_id : int
        Its number.

    Raises
    ------
    Missing
        When there is none.
    """
    if connection.execute(_SQL["delete"], {"id": rubber_id}).fetchone() is None:
        raise Missing("this rubber")


def jobs_using(connection: Connection) -> dict[int, int]:
    """Count the jobs that use each rubber.

    Parameters
    ----------
    connection : Connection
        Open.

    Returns
    -------
    dict of number to count
        Rubbers that no job uses are left out.
    """
    return {row["rubber_id"]: row["jobs"] for row in connection.execute(_SQL["jobs_using"]).fetchall()}
