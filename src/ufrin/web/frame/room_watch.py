"""The room watch: a thread that keeps what the workshop's thermometers read while a server runs."""

import threading

import structlog

from ufrin.actions import Database
from ufrin.actions.shop import room
from ufrin.devices import clock
from ufrin.devices.thermometers import Thermometers
from ufrin.errors import UfrinError

log = structlog.get_logger()
EVERY_S = 5.0


class RoomWatch:
    """Looks at all thermometers on the Shelf, again and again.

    Parameters
    ----------
    database : Database
        Open.
    every_s : float, optional
        How often.
    """

    def __init__(self, database: Database, every_s: float = EVERY_S) -> None:
        self._database, self._every_s = database, every_s
        self._thermometers = Thermometers()
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=self._run, name="room watch", daemon=True)

    def start(self) -> None:
        """Begin to watch."""
        self._thread.start()

    def stop(self) -> None:
        """Stop, and release the thermometers."""
        self._stopped.set()
        self._thermometers.close()
        self._thread.join(5)

    def _run(self) -> None:
        while not self._stopped.is_set():
            try:
                self._look()
            except UfrinError as error:  # the database is away for a moment: the next look tries again
                log.info("the room is not noted", error=str(error))
            self._stopped.wait(self._every_s)

    def _look(self) -> None:
        kept = room.to_read(self._database)
        self._thermometers.keep_only({one.id for one in kept})
        for one in kept:
            temp_c = self._thermometers.fresh_c(one.id, one.thing)
            if temp_c is not None:
                room.note(self._database, one.id, temp_c, clock.now())
