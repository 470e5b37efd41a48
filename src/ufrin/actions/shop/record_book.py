"""The record book filled with demo data: as one unit, completed or begun again."""

from ufrin.store import record_book
from ufrin.store.connection import Database


def begin_demo(database: Database) -> bool:
    """Make ready for demo data; what a start that was killed left of it is taken out first.

    Returns whether it is to be put in: not where it is in already, or where anyone has put in something else.
    """
    with database.transaction() as connection:
        state = record_book.demo_state(connection)
        if state == "begun":
            record_book.empty(connection)
        elif state == "filled" or not record_book.is_empty(connection):
            return False
        record_book.mark_demo(connection, "begun")
    return True


def finish_demo(database: Database) -> None:
    """Keep that the demo data is in."""
    with database.transaction() as connection:
        record_book.mark_demo(connection, "filled")
