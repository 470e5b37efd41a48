"""Bench events: published when a pour's record has a new line, so that other benches and tabs look again.

The database tells every server on it of new lines; each publishes them to the pages that are open at it.
"""

import asyncio
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress

EventQueue = asyncio.Queue[object]
Subscriber = tuple[asyncio.AbstractEventLoop, EventQueue]
MOST_WAITING = 1000


class BenchEvents:
    """One channel for each pour, in this process; a page that receives nothing looks again by itself now and then."""

    def __init__(self) -> None:
        self._subscribers: dict[int, set[Subscriber]] = {}
        self.is_closed = False

    @contextmanager
    def subscribe(self, pour: int) -> Iterator[EventQueue]:
        """Subscribe to the events of a pour.

        Parameters
        ----------
        pour : int
            Its number.

        Yields
        ------
        Queue
            Receives "changed" at each event, and None at the end.
        """
        loop, queue = asyncio.get_running_loop(), EventQueue(MOST_WAITING)
        self._subscribers.setdefault(pour, set()).add((loop, queue))
        if self.is_closed:
            queue.put_nowait(None)
        try:
            yield queue
        finally:
            self._subscribers[pour].discard((loop, queue))
            if not self._subscribers[pour]:
                del self._subscribers[pour]

    def publish(self, pour: int) -> None:
        """Publish an event of a pour, from any thread.

        Parameters
        ----------
        pour : int
            Its number.
        """
        self._send(tuple(self._subscribers.get(pour, ())), "changed")

    def hear(self, pour: str | None) -> None:
        """Take word of a new line from the database, in the thread that listens.

        Parameters
        ----------
        pour : str or None
            Its number; None when word may have been missed, so that every page looks again.
        """
        if pour is None:
            for number in tuple(self._subscribers):
                self.publish(number)
        elif pour.isdecimal():
            self.publish(int(pour))

    def close(self) -> None:
        """End all subscriptions."""
        self.is_closed = True
        self._send([one for subscribers in tuple(self._subscribers.values()) for one in tuple(subscribers)], None)

    @staticmethod
    def _send(subscribers: Iterable[Subscriber], event: str | None) -> None:
        for loop, queue in subscribers:
            with suppress(RuntimeError, asyncio.QueueFull):  # a page that is closing has no loop any more
                loop.call_soon_threadsafe(queue.put_nowait, event)
