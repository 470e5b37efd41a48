"""A record book put back as it once was, in milliseconds: filling one takes half a minute."""

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass

import psycopg
from psycopg import sql

from ufrin.store.connection import Connection

# the list of applied schema steps stays as it is
TABLES = """
    select tablename as name from pg_tables where schemaname = current_schema() and tablename !~ 'yoyo' order by name
"""
SEQUENCES = """
    select sequencename as name, coalesce(last_value, start_value) as number, last_value is not null as used
    from pg_sequences where schemaname = current_schema() and sequencename not in ('runs_mark', 'lists_mark')
"""
COUNT_ON = """
    select setval(name::regclass, number, used)
    from unnest(%s::text[], %s::bigint[], %s::boolean[]) as sequences (name, number, used)
"""


@dataclass(frozen=True)
class Snapshot:
    """The tables, the rows of those that hold any, and how far each sequence has counted."""

    tables: list[str]
    rows: dict[str, bytes]
    sequences: list[tuple[str, int, bool]]


def take(connection: Connection) -> Snapshot:
    tables = [row["name"] for row in connection.execute(TABLES).fetchall()]
    rows = {}
    for table in tables:
        cursor = connection.cursor()
        with cursor.copy(_named("copy {} to stdout (format binary)", table)) as out:
            data = b"".join(bytes(block) for block in out)
        if cursor.rowcount:
            rows[table] = data
    counted = connection.execute(SEQUENCES).fetchall()
    return Snapshot(tables, rows, [(one["name"], one["number"], one["used"]) for one in counted])


# which snapshot each database was last put back to, and what marked its tables then
_last: dict[str, tuple[Snapshot, dict[str, tuple[int, int]]]] = {}


def put_back(connection: Connection, snapshot: Snapshot) -> None:
    """Put a snapshot back, inside the caller's transaction: the tables that are not as it left them the last time."""
    # what the page of the test before sent last may still be written, in an order of its own
    for _ in range(9):
        with suppress(psycopg.errors.DeadlockDetected), connection.transaction():
            return _put_back(connection, snapshot)
    return _put_back(connection, snapshot)


def _put_back(connection: Connection, snapshot: Snapshot) -> None:
    place = f"{connection.info.host}/{connection.info.dbname}"
    last, marks = _last.get(place, (None, {}))
    now = _marks(connection, snapshot.tables) if last is snapshot else {}
    changed = [table for table in snapshot.tables if table not in now or now[table] != marks[table]]
    # a replica fires no triggers and checks no references: the rows were whole together when they were read
    connection.execute("set local session_replication_role = replica")
    if changed:
        connection.execute(sql.SQL("; ").join(_named("delete from {}", table) for table in changed))
    for table in changed:
        if table in snapshot.rows:
            with connection.cursor().copy(_named("copy {} from stdin (format binary)", table)) as into:
                into.write(snapshot.rows[table])
    connection.execute(COUNT_ON, [list(column) for column in zip(*snapshot.sequences, strict=True)])
    connection.execute("set local session_replication_role = origin")
    connection.execute("select nextval('runs_mark'), nextval('lists_mark')")  # all of it differs
    _last[place] = snapshot, now | _marks(connection, changed)


def _marks(connection: Connection, tables: Sequence[str]) -> dict[str, tuple[int, int]]:
    if not tables:
        return {}
    # how many rows a table holds, and by which transactions they were written: every change shows in one of them
    each = sql.SQL(" union all ").join(
        sql.SQL(
            "select {} as name, count(*) as rows, coalesce(sum(xmin::text::bigint), 0)::bigint as written from {}"
        ).format(sql.Literal(table), sql.Identifier(table))
        for table in tables
    )
    return {row["name"]: (row["rows"], row["written"]) for row in connection.execute(each).fetchall()}


def _named(statement: str, table: str) -> sql.Composed:
    return sql.SQL(statement).format(sql.Identifier(table))
