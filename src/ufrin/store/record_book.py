"""The record book as a whole: whether anything is in it, and the filling with demo data, which is done whole or not."""

from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("record_book")


def demo_state(connection: Connection) -> str | None:
    """Return how far the filling with demo data came: "begun", "filled", or None where none was begun."""
    row = connection.execute(_SQL["demo_state"]).fetchone()
    return row["demo"] if row else None


def mark_demo(connection: Connection, state: str) -> None:
    """Keep how far the filling with demo data came."""
    connection.execute(_SQL["mark_demo"], {"state": state})


def is_empty(connection: Connection) -> bool:
    """Return whether nobody has put anything into it."""
    row = connection.execute(_SQL["is_empty"]).fetchone()
    return bool(row and row["is_empty"])


def empty(connection: Connection) -> None:
    """Empty it of all that was put in."""
    connection.execute(_SQL["empty"])
    connection.execute(_SQL["settings"])
    connection.execute(_SQL["somebody"])
