"""Orders as they are kept: pieces wanted by a date, with how many good ones were cast since they began."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime

from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("orders")


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredOrder:
    """An order: what is wanted of which mould, how the shop works on it, and the good pieces so far."""

    id: int
    job_id: int
    job_name: str
    mould_id: int
    name: str
    pieces: int
    start_on: date
    due_on: date | None
    moulds_at_once: int
    cycle_min: float
    hours_a_day: float
    flawed_pct: float
    closed_at: datetime | None
    good: int

    @property
    def to_go(self) -> int:
        """Good pieces that are still wanted."""
        return max(0, self.pieces - self.good)


def add(connection: Connection, values: Mapping[str, object]) -> int:
    """Keep an order."""
    row = connection.execute(_SQL["add"], dict(values)).fetchone()
    return int(row["id"]) if row else 0


def listed(connection: Connection, *, job_id: int | None = None, with_closed: bool = False) -> list[StoredOrder]:
    """Read orders, of one job's mould where it is named."""
    rows = connection.execute(_SQL["list"], {"job_id": job_id, "all": with_closed}).fetchall()
    same = (
        *("id", "job_id", "job_name", "mould_id", "name", "pieces", "start_on", "due_on", "moulds_at_once"),
        *("cycle_min", "hours_a_day", "flawed_pct", "closed_at", "good"),
    )
    return [StoredOrder(**{name: row[name] for name in same}) for row in rows]


def close(connection: Connection, number: int) -> None:
    """Keep that an order is done, or called off.

    Raises Missing when there is none that is open.
    """
    if connection.execute(_SQL["close"], {"id": number}).fetchone() is None:
        raise Missing(Text("this order"))
