"""Bench events: published when a pour's record has a new line, so that other benches and tabs look again."""

import asyncio
from collections.abc import Iterator
from contextlib import contextmanager, suppress

Ear = asyncio.Queue[object]


class BenchEvents:
    """One channel for each pour, in this process; a page that receives nothing looks again by itself now and then."""

    def __init__(self) -> None:
        self._ears: dict[int, set[tuple[asyncio.AbstractEventLoop, Ear]]] = {}
        self.is_closed = False

    @contextmanager
    def ear(self, pour: int) -> Iterator[Ear]:
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
        mine = (asyncio.get_running_loop(), Ear(1000))
        self._ears.setdefault(pour, set()).add(mine)
        if self.is_closed:
            mine[1].put_nowait(None)
        try:
            yield mine[1]
        finally:
            self._ears[pour].discard(mine)
            if not self._ears[pour]:
                del self._ears[pour]

    def ring(self, pour: int) -> None:
        """Publish an event of a pour, from any thread.

        Parameters
        ----------
        pour : int
            Its number.
        """
        self._tell(tuple(self._ears.get(pour, ())), "changed")

    def close(self) -> None:
        """End all subscriptions."""
        self.is_closed = True
        self._tell([ear for ears in tuple(self._ears.values()) for ear in tuple(ears)], None)

    @staticmethod
    def _tell(ears: object, word: str | None) -> None:
        for loop, ear in ears:  # type: ignore[attr-defined]
            with suppress(RuntimeError, asyncio.QueueFull):  # a page that is closing has no loop any more
                loop.call_soon_threadsafe(ear.put_nowait, word)
