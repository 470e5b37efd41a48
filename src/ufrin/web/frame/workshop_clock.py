"""The workshop's clock: the time zone in which pages show days and times, as the settings have it."""

import contextlib
import time
from datetime import datetime, tzinfo
from zoneinfo import ZoneInfo

from ufrin.actions import Database
from ufrin.actions.shop import workshop_settings
from ufrin.errors import UfrinError

ASKED_AGAIN_S = 5.0


class WorkshopClock:
    """Shows times in the workshop's zone; the settings are looked up again every few seconds.

    Parameters
    ----------
    database : Database
        With the settings.
    """

    def __init__(self, database: Database) -> None:
        self._database, self._zone, self._until_s = database, ZoneInfo("UTC"), 0.0

    @property
    def zone(self) -> tzinfo:
        """The workshop's time zone; while the database is away, the one that it was."""
        if time.monotonic() > self._until_s:
            with contextlib.suppress(UfrinError):
                self._zone = workshop_settings.settings(self._database).zone
            self._until_s = time.monotonic() + ASKED_AGAIN_S
        return self._zone

    def forget(self) -> None:
        """Look the settings up again at the next time."""
        self._until_s = 0.0

    def local(self, at: datetime) -> datetime:
        """Return a time in the workshop's zone.

        Parameters
        ----------
        at : datetime
            Of any zone.

        Returns
        -------
        datetime
            The same moment.
        """
        return at.astimezone(self.zone)
