"""The workshop's settings, read and changed."""

from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.job.shelf_picks import DEFAULT_CONFIDENCE_PCT
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.pairing.releases import RELEASE_SCHOOLS
from ufrin.errors import Refused, Stale
from ufrin.store import workshop_settings
from ufrin.store.connection import Database
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
) -> None:
    """Change the settings: how things are shown, never what is kept.

    Raises Refused for an unknown currency. Raises Stale when someone saved meanwhile and the two differ.
    """
    currency = currency.strip()
    if not 1 <= len(currency) <= 8 or not currency.isprintable():
        raise Refused("currency", "A currency is written in 1 to 8 characters, such as EUR.")
    if not 50 <= confidence_pct <= 99:
        raise Refused("confidence_pct", "Choose how often it should be enough: between 50 and 99 pours out of 100.")
    if air not in SCHOOLS or release not in RELEASE_SCHOOLS:
        raise Refused("air" if air not in SCHOOLS else "release", "That is not one of the choices. Choose again.")
    with database.transaction() as connection:
        kept = workshop_settings.load(connection, lock=True)
        mine = {"units": units, "currency": currency, "confidence_pct": confidence_pct, "air": air, "release": release}
        differing = {name: value for name, value in mine.items() if getattr(kept, name) != value}
        if differing and version != kept.version:
            raise Stale({name: getattr(kept, name) for name in differing}, differing, kept.version)
        workshop_settings.save(
            connection, units=units, currency=currency, confidence_pct=confidence_pct, air=air, release=release
        )
