"""The room: thermometers that are to be read, and what they read, kept for the clocks."""

from collections.abc import Sequence

from ufrin.core.clocks.moment import Moment
from ufrin.core.shelf.scales import check_host, listed_hosts
from ufrin.core.shelf.thermometers import Thermometer
from ufrin.errors import Refused
from ufrin.store import room_temps, workshop_settings
from ufrin.store.connection import Database
from ufrin.store.room_temps import HeardThermometer
from ufrin.store.shelf import THERMOMETERS, Stored

CHANGED_C = 0.4  # a smaller change moves no clock by more than 3 %
JUST_NOW_S = 300.0
EVERY_MIN = 30.0  # what does not change is noted again, so that the log shows that it was read


def to_read(database: Database) -> Sequence[Stored[Thermometer]]:
    """List the thermometers that may be read: in use, and at hosts that the settings list."""
    with database.reading() as connection:
        kept = THERMOMETERS.all(connection)
        hosts = listed_hosts(workshop_settings.load(connection).scale_hosts)
    return [one for one in kept if one.retired_at is None and _may(one.thing, hosts)]


def _may(thermometer: Thermometer, hosts: tuple[str, ...]) -> bool:
    try:
        check_host(thermometer.address, hosts)
    except Refused:
        return False
    return True


def note(database: Database, number: int, temp_c: float, now: Moment) -> None:
    """Keep what a thermometer reads now."""
    with database.transaction() as connection:
        room_temps.note(connection, number, temp_c, now, changed_c=CHANGED_C, every_min=EVERY_MIN)


def now_c(database: Database, now: Moment) -> float | None:
    """Return what the room has now by the first thermometer that was heard just now; None where there is none."""
    return next(
        (
            one.heard_c
            for one in heard(database)
            if one.heard_at is not None and now.wall_s - one.heard_at.timestamp() < JUST_NOW_S
        ),
        None,
    )


def heard(database: Database) -> Sequence[HeardThermometer]:
    """Show when each thermometer was heard last."""
    with database.reading() as connection:
        return room_temps.heard(connection)
