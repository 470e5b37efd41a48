"""The search: what of the workshop has a text in its name."""

from ufrin.actions import Database
from ufrin.core.wording.one_line import one_line
from ufrin.store import search
from ufrin.store.search import Hit

__all__ = ["LONGEST", "Hit", "find"]
MOST_HITS, LONGEST = 40, 120


def find(database: Database, text: str) -> tuple[Hit, ...]:
    """Find jobs, moulds and things of the Shelf.

    Parameters
    ----------
    database : Database
        Of the workshop.
    text : str
        As typed; its signs stand for themselves.

    Returns
    -------
    tuple of Hit
        What begins with it first; empty for an empty text.
    """
    plain = one_line(text)[:LONGEST]
    if not plain:
        return ()
    with database.reading() as connection:
        return tuple(search.found(connection, plain, limit=MOST_HITS))
