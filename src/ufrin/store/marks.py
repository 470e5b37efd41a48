"""Marks: numbers that go up with every change, so that what was read under one need not be read again."""

import time
from collections.abc import Hashable
from dataclasses import dataclass
from threading import Lock
from typing import Generic, TypeVar
from weakref import WeakKeyDictionary

from ufrin.store.connection import Connection, Database
from ufrin.store.queries import named_queries

_SQL = named_queries("marks")
BELIEVED_S = 1.0
MOST_KEPT = 64
Key = TypeVar("Key", bound=Hashable)
Answer = TypeVar("Answer")


@dataclass(frozen=True, slots=True, kw_only=True)
class Marks:
    """How far the marks have gone; each goes up before its change is committed."""

    runs: int
    lists: int


def read(connection: Connection) -> Marks:
    """Read how far the marks have gone."""
    row = connection.execute(_SQL["marks"]).fetchone()
    return Marks(**row) if row else Marks(runs=0, lists=0)


class KeptAnswers(Generic[Key, Answer]):
    """Answers kept in this process for each record book, as long as its mark stays and for a second at most.

    A mark goes up before its change can be seen, so an answer that was read in between is old under the new mark: that
    is why nothing is believed for longer.
    """

    def __init__(self) -> None:
        self._kept: WeakKeyDictionary[Database, dict[Key, tuple[int, float, Answer]]] = WeakKeyDictionary()
        self._lock = Lock()

    def get(self, database: Database, key: Key, mark: int) -> Answer | None:
        """Return an answer that is still true, or None."""
        with self._lock:
            kept = self._kept.get(database, {}).get(key)
        return kept[2] if kept and kept[0] == mark and time.monotonic() - kept[1] <= BELIEVED_S else None

    def keep(self, database: Database, key: Key, mark: int, answer: Answer, *, read_at_s: float) -> None:
        """Keep an answer that was begun to be read at a time of ``time.monotonic``, after its mark."""
        with self._lock:
            of_book = self._kept.setdefault(database, {})
            if len(of_book) >= MOST_KEPT:
                of_book.clear()
            of_book[key] = (mark, read_at_s, answer)
