"""Listening to the database: what any server on it writes is heard by all of them."""

import threading
from collections.abc import Callable
from contextlib import suppress

import psycopg
import structlog

log = structlog.get_logger()
LOOK_S, AGAIN_S, MOST_AGAIN_S = 0.5, 0.5, 10.0


class Listener:
    """A thread with a connection of its own that passes on what is notified on a channel.

    Parameters
    ----------
    conninfo : str
        Of the database.
    channel : str
        Its name.
    heard : callable of str or None
        Called in the thread with each payload, and with None when something may have been missed.
    """

    def __init__(self, conninfo: str, channel: str, heard: Callable[[str | None], None]) -> None:
        self._conninfo, self._channel, self._heard = conninfo, channel, heard
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=self._run, name=f"listens to {channel}", daemon=True)

    def start(self) -> None:
        """Begin to listen."""
        self._thread.start()

    def stop(self) -> None:
        """Stop listening."""
        self._stopped.set()
        self._thread.join(5)

    def _run(self) -> None:
        again_s = AGAIN_S
        while not self._stopped.is_set():
            with (
                suppress(psycopg.Error),
                psycopg.connect(self._conninfo, autocommit=True, connect_timeout=3) as connection,
            ):
                connection.execute(f"listen {self._channel}")
                self._heard(None)
                again_s = AGAIN_S
                while not self._stopped.is_set():
                    for one in connection.notifies(timeout=LOOK_S):
                        self._heard(one.payload)
            if self._stopped.wait(again_s):
                return
            log.info("listens again", channel=self._channel)
            again_s = min(2 * again_s, MOST_AGAIN_S)
