"""Parcels as rows: read from one record book, and put into another under new numbers."""

from collections.abc import Collection, Mapping, Sequence
from typing import Any

from psycopg import sql
from psycopg.types.json import Jsonb

from ufrin.errors import Missing, Refused
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.parcel_tables import HAVE_INPUTS, INPUTS, ParcelTable
from ufrin.store.queries import named_queries

_SQL = named_queries("parcels")
Row = dict[str, Any]
_columns: dict[str, dict[str, bool]] = {}  # a process lives with one schema
Numbers = dict[str, dict[int, int]]  # by table: the number that a row had, and the one that it has here


def columns(connection: Connection, table: str) -> dict[str, bool]:
    """Read the columns of a table that are kept, each with whether it holds bytes."""
    if table not in _columns:
        rows = connection.execute(_SQL["columns"], {"table": table}).fetchall()
        _columns[table] = {row["name"]: row["is_bytes"] for row in rows}
    return _columns[table]


def rows_of(
    connection: Connection, table: str, of: str, ids: Collection[int], *, order: str = "id"
) -> list[tuple[Row, dict[str, bytes]]]:
    """Read the rows that belong to something, each as plain values with its bytes beside."""
    kept = columns(connection, table)
    plain = sql.SQL(", ").join(sql.Identifier(name) for name, is_bytes in kept.items() if not is_bytes)
    held = [name for name, is_bytes in kept.items() if is_bytes]
    statement = sql.SQL(
        "select (select to_jsonb(r) from (select {plain}) r) as row {held} from {table} where {of} = any(%s) "
        "order by {order}"
    ).format(
        plain=plain,
        held=sql.SQL("").join(sql.SQL(", {}").format(sql.Identifier(name)) for name in held),
        table=sql.Identifier(table),
        of=sql.Identifier(of),
        order=sql.SQL(", ").join(sql.Identifier(name.strip()) for name in order.split(",")),
    )
    found = connection.execute(statement, [list(ids)]).fetchall()
    return [(one["row"], {name: bytes(one[name]) for name in held if one[name] is not None}) for one in found]


def all_rows(connection: Connection, table: str) -> list[Row]:
    """Read every row of a table without bytes."""
    statement = sql.SQL("select to_jsonb(t) as row from {} t order by id").format(sql.Identifier(table))
    return [one["row"] for one in connection.execute(statement).fetchall()]


def all_jobs(connection: Connection) -> set[int]:
    """Read the numbers of all jobs."""
    return {row["id"] for row in connection.execute(_SQL["all_jobs"]).fetchall()}


def with_others(connection: Connection, job_ids: Collection[int]) -> set[int]:
    """Return jobs with all that they can't be without: those in the same box, and those of earlier moulds."""
    found, looked = set(job_ids), set[int]()
    while found - looked:
        asked = found - looked
        looked |= asked
        found |= {row["id"] for row in connection.execute(_SQL["other_jobs"], {"ids": list(asked)}).fetchall()}
    return found


def meshes_of(connection: Connection, job_ids: Collection[int]) -> list[tuple[str, str, bytes]]:
    """Read the meshes of some jobs: hash, name and file."""
    rows = connection.execute(_SQL["meshes_of"], {"ids": list(job_ids)}).fetchall()
    return [(row["hash"], row["name"], bytes(row["data"])) for row in rows]


def named_alike(connection: Connection, table: str, name: str) -> Row | None:
    """Read the thing on the Shelf that has a name, as plain values."""
    statement = sql.SQL("select to_jsonb(t) as row from {} t where lower(name) = lower(%s)").format(
        sql.Identifier(table)
    )
    found = connection.execute(statement, [name]).fetchone()
    return found["row"] if found else None


def same_job(connection: Connection, name: str, created_at: str) -> int | None:
    """Return the number of a job that is the same by its name and the moment when it was begun."""
    found = connection.execute(_SQL["same_job"], {"name": name, "created_at": created_at}).fetchone()
    return found["id"] if found else None


def put(
    connection: Connection, table: ParcelTable, row: Row, numbers: Numbers, files: Mapping[str, bytes]
) -> int | None:
    """Put a row in: what it points to under the numbers of here, itself under a new one, which is returned."""
    known = columns(connection, table.name)
    strange = row.keys() - known.keys()
    if strange:
        raise Refused(
            "file",
            Text(
                "The export file has a column {name}.{strange} that this version does not know.",
                name=table.name,
                strange=min(strange),
            ),
        )
    values: Row = {key: value for key, value in row.items() if key != "id" and key not in table.left_out}
    for column, pointed in table.refs.items():
        if values.get(column) is not None:
            values[column] = numbers.get(pointed, {}).get(values[column])
    if table.name in HAVE_INPUTS:
        values["inputs"] = _inputs_of_here(values["inputs"], numbers)
    if table.of in table.refs and values.get(table.of) is None:
        return None  # what it belongs to did not come along
    names = [name for name in known if name in values]
    held = {name: files[name] for name in table.files if name in files}
    statement = sql.SQL(
        "insert into {table} ({columns}) select {chosen} from jsonb_populate_record(null::{table}, %s) r {once} {back}"
    ).format(
        table=sql.Identifier(table.name),
        columns=sql.SQL(", ").join(sql.Identifier(name) for name in [*names, *held]),
        chosen=sql.SQL(", ").join(
            [*(sql.SQL("r.{}").format(sql.Identifier(name)) for name in names), *(sql.SQL("%s") for _ in held)]
        ),
        once=sql.SQL("on conflict do nothing" if table.once else ""),
        back=sql.SQL("returning id" if table.has_id else ""),
    )
    cursor = connection.execute(statement, [*held.values(), Jsonb(values)])
    found = cursor.fetchone() if table.has_id else None
    return int(found["id"]) if found else None


def _inputs_of_here(inputs: Any, numbers: Numbers) -> Row:  # noqa: ANN401 - what a file holds
    if not isinstance(inputs, dict):
        raise Refused("file", Text("The export file has inputs of a job that can't be read."))
    found = dict(inputs)
    for key, pointed in INPUTS.items():
        if isinstance(found.get(key), int):
            here = numbers.get(pointed, {}).get(found[key])
            if here is None:
                del found[key]
            else:
                found[key] = here
    return found


def take_back_shot(connection: Connection, shot_id: int, at: str) -> None:
    """Keep that a shot was taken back; its pieces count no longer."""
    connection.execute(_SQL["take_back_shots"], {"id": shot_id, "at": at})


def all_differs(connection: Connection) -> None:
    """Have every list read anew."""
    connection.execute(_SQL["all_differs"])


def keep(connection: Connection, name: str, data: bytes) -> int:
    """Keep a parcel until somebody says what to do with it."""
    found = connection.execute(_SQL["keep"], {"name": name, "data": data}).fetchone()
    return int(found["id"]) if found else 0


def waiting(connection: Connection, number: int) -> tuple[str, bytes]:
    """Read a parcel that waits: its name and content.

    Raises Missing when there is none any more.
    """
    found = connection.execute(_SQL["waiting"], {"id": number}).fetchone()
    if found is None:
        raise Missing(Text("this parcel"))
    return found["name"], bytes(found["data"])


def forget(connection: Connection, number: int) -> None:
    """Forget a parcel."""
    connection.execute(_SQL["forget"], {"id": number})


def found_in_inputs(rows: Sequence[Row]) -> dict[str, set[int]]:
    """Return the numbers of things that inputs name, by table."""
    named: dict[str, set[int]] = {}
    for row in rows:
        for key, pointed in INPUTS.items():
            if isinstance(row["inputs"].get(key), int):
                named.setdefault(pointed, set()).add(row["inputs"][key])
    return named
