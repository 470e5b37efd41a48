"""Temperatures of the room as they are kept: noted when they change, and when each thermometer was heard last."""

from dataclasses import dataclass
from datetime import datetime

from ufrin.core.clocks.moment import Moment
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("room_temps")


@dataclass(frozen=True, slots=True, kw_only=True)
class HeardThermometer:
    """A thermometer by its name, and when it was heard last; None before its first reading."""

    name: str
    heard_at: datetime | None
    heard_c: float | None


def note(connection: Connection, number: int, temp_c: float, at: Moment, *, changed_c: float, every_min: float) -> None:
    """Keep what a thermometer reads: as heard, and in the log where it changed enough or nothing was noted for long."""
    values = {"wall_s": at.wall_s, "steady_s": at.steady_s, "machine": at.machine}
    rules = {"changed_c": changed_c, "every_min": every_min}
    connection.execute(_SQL["note"], {**values, **rules, "id": number, "temp_c": temp_c})


def heard(connection: Connection) -> list[HeardThermometer]:
    """Read the thermometers that are in use."""
    return [HeardThermometer(**row) for row in connection.execute(_SQL["heard"]).fetchall()]
