"""The workshop's settings as they are kept."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from psycopg.rows import class_row

from ufrin.core.measures.quantity_kinds import Units
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("workshop_settings")


@dataclass(frozen=True, slots=True, kw_only=True)
class Workshop:
    """What holds for every page.

    It is the unit system, the currency's sign, the confidence of the allowance, the schools of air and release, its
    scale and room, its time zone with the day that it is there, the pressure of its air, the hosts at which scales may
    be reached, and the version of all.
    """

    units: Units
    currency: str
    confidence_pct: float
    air: str
    release: str
    room_temp_c: float
    scale_id: int | None
    scale_step_g: float | None
    time_zone: str
    air_pressure_hpa: float | None
    height_m: float | None
    scale_hosts: str
    today: date
    version: int

    @property
    def zone(self) -> ZoneInfo:
        """The time zone that days and times are shown in."""
        return zone_of(self.time_zone)


def zone_of(name: str) -> ZoneInfo:
    """Return a time zone by its name; one that this machine does not know counts as UTC."""
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError):
        return ZoneInfo("UTC")


def load(connection: Connection, *, lock: bool = False) -> Workshop:
    """Read the settings.

    Raises Missing when somebody emptied the database.
    """
    with connection.cursor(row_factory=class_row(Workshop)) as cursor:
        workshop = cursor.execute(_SQL["lock" if lock else "load"]).fetchone()
    if workshop is None:
        raise Missing(Text("the workshop's settings"))
    return workshop


def save(connection: Connection, values: Mapping[str, object]) -> None:
    """Keep new settings: all of them, by name."""
    connection.execute(_SQL["save"], values)
