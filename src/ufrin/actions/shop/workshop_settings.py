"""The workshop's settings, read and changed."""

from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.job.shelf_picks import DEFAULT_CONFIDENCE_PCT
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.pairing.releases import RELEASE_SCHOOLS
from ufrin.core.rubber.cure_times import TIN_TEMP_C, check_room
from ufrin.errors import Refused, Stale
from ufrin.store import workshop_settings
from ufrin.store.connection import Database
from ufrin.store.shelf import SCALES
from ufrin.store.workshop_settings import Workshop


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
) -> None:
    """Change the settings: how things are shown, how the shop works, and its scale and room for every job.

    Raises Refused for an unknown currency or scale, or a room too cold or hot to pour in. Raises Stale when someone
    saved meanwhile and the two differ.
    """
    currency = currency.strip()
    if not 1 <= len(currency) <= 8 or not currency.isprintable():
        raise Refused("currency", "A currency is written in 1 to 8 characters, such as EUR.")
    if not 50 <= confidence_pct <= 99:
        raise Refused("confidence_pct", "Choose how often it should be enough: between 50 and 99 pours out of 100.")
    if air not in SCHOOLS or release not in RELEASE_SCHOOLS:
        raise Refused("air" if air not in SCHOOLS else "release", "That is not one of the choices. Choose again.")
    check_room(room_temp_c)
    with database.transaction() as connection:
        if scale_id is not None and not SCALES.some(connection, {scale_id}):
            raise Refused("scale_id", "That scale is not on the Shelf. Choose one that is.")
        kept = workshop_settings.load(connection, lock=True)
        mine = {
            "units": units,
            "currency": currency,
            "confidence_pct": confidence_pct,
            "air": air,
            "release": release,
            "room_temp_c": room_temp_c,
            "scale_id": scale_id,
        }
        differing = {name: value for name, value in mine.items() if getattr(kept, name) != value}
        if differing and version != kept.version:
            raise Stale({name: getattr(kept, name) for name in differing}, differing, kept.version)
        workshop_settings.save(connection, mine)
