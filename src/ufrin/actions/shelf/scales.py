"""Scales that are read: only at serial ports, and at hosts that the settings list."""

from ufrin.core.shelf.scales import Scale, check_host, listed_hosts
from ufrin.errors import Missing
from ufrin.store import workshop_settings
from ufrin.store.connection import Database
from ufrin.store.shelf import SCALES, Stored


def to_read(database: Database, number: int) -> Stored[Scale]:
    """Open a scale that is to be read.

    Raises Refused when it is at a host that the settings do not list, Missing when there is no such scale.
    """
    with database.reading() as connection:
        kept = SCALES.some(connection, {number}).get(number)
        hosts = workshop_settings.load(connection).scale_hosts
    if kept is None:
        raise Missing(SCALES.what)
    check_host(kept.thing.address, listed_hosts(hosts))
    return kept
