"""The workshop's settings, read and changed."""

from functools import cache
from zoneinfo import available_timezones

from ufrin.core.degassing.air_pressure import local_air_kpa
from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.job.shelf_picks import DEFAULT_CONFIDENCE_PCT
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.pairing.releases import RELEASE_SCHOOLS
from ufrin.core.rubber.cure_times import TIN_TEMP_C, check_room
from ufrin.core.shelf.scales import listed_hosts
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.store import workshop_settings
from ufrin.store.connection import Database
from ufrin.store.shelf import SCALES
from ufrin.store.workshop_settings import Workshop


@cache
def time_zones() -> tuple[str, ...]:
    """Return the names of the time zones that this machine knows."""
    return tuple(sorted(available_timezones()))


def settings(database: Database) -> Workshop:
    """Read the settings."""
    with database.reading() as connection:
        return workshop_settings.load(connection)


def change_settings(
    database: Database,
    *,
    version: int,
    units: Units,
    currency: str,
    confidence_pct: float = DEFAULT_CONFIDENCE_PCT,
    air: str = "clear",
    release: str = "spare",
    room_temp_c: float = TIN_TEMP_C,
    scale_id: int | None = None,
    time_zone: str = "UTC",
    air_pressure_hpa: float | None = None,
    height_m: float | None = None,
    scale_hosts: str = "127.0.0.1, localhost",
) -> None:
    """Change the settings: how things are shown, how the shop works, and its scale and room for every job.

    Raises Refused for an unknown currency, scale, time zone, host or pressure, or a room too cold or hot to pour in.
    Raises Stale when someone saved meanwhile and the two differ.
    """
    currency = currency.strip()
    if not 1 <= len(currency) <= 8 or not currency.isprintable():
        raise Refused("currency", Text("A currency is written in 1 to 8 characters, such as EUR."))
    if not 50 <= confidence_pct <= 99:
        raise Refused(
            "confidence_pct", Text("Choose how often it should be enough: between 50 and 99 pours out of 100.")
        )
    if air not in SCHOOLS or release not in RELEASE_SCHOOLS:
        raise Refused("air" if air not in SCHOOLS else "release", Text("That is not one of the choices. Choose again."))
    check_room(room_temp_c)
    local_air_kpa(air_pressure_hpa, height_m)
    if time_zone not in time_zones():
        raise Refused("time_zone", Text("That is no time zone that is known here. Choose one from the list."))
    scale_hosts = ", ".join(listed_hosts(scale_hosts))
    with database.transaction() as connection:
        if scale_id is not None and not SCALES.some(connection, {scale_id}):
            raise Refused("scale_id", Text("That scale is not on the Shelf. Choose one that is."))
        kept = workshop_settings.load(connection, lock=True)
        mine = {
            "units": units,
            "currency": currency,
            "confidence_pct": confidence_pct,
            "air": air,
            "release": release,
            "room_temp_c": room_temp_c,
            "scale_id": scale_id,
            "time_zone": time_zone,
            "air_pressure_hpa": air_pressure_hpa,
            "height_m": height_m,
            "scale_hosts": scale_hosts,
        }
        differing = {name: value for name, value in mine.items() if getattr(kept, name) != value}
        if differing and version != kept.version:
            raise Stale({name: getattr(kept, name) for name in differing}, differing, kept.version)
        workshop_settings.save(connection, mine)
