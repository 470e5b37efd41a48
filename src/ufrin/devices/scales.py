"""All scales that are being read, and who listens to each."""

import asyncio
import threading
import time
from collections.abc import AsyncIterator
from contextlib import suppress

from ufrin.core.shelf.scales import Scale
from ufrin.devices.scale_reader import ScaleReader, ScaleReading
from ufrin.errors import Refused
from ufrin.language import Text

FRESH_S = 1.5
MOST_WAITING = 600  # a minute of readings; a listener that is slower has gone to sleep
MOST_SCALES = 60


class _Listener:
    def __init__(self) -> None:
        self.loop = asyncio.get_running_loop()
        self.queue: asyncio.Queue[ScaleReading | None] = asyncio.Queue(MOST_WAITING)

    def tell(self, heard: ScaleReading | None) -> None:
        # from a reader's thread; a page that is closing has no loop any more
        with suppress(RuntimeError):
            self.loop.call_soon_threadsafe(self._put, heard)

    def _put(self, heard: ScaleReading | None) -> None:
        if self.queue.full():
            self.queue.get_nowait()
        self.queue.put_nowait(heard)


class Scales:
    """Reads scales from the moment that someone asks for one, until it is closed."""

    def __init__(self) -> None:
        self._readers: dict[int, ScaleReader] = {}
        self._listeners: dict[int, set[_Listener]] = {}
        self._lock = threading.Lock()
        self.is_closed = False

    def reader(self, number: int, scale: Scale) -> ScaleReader:
        """Return the reader of a scale; it starts again when the address was changed.

        Parameters
        ----------
        number : int
            Of the scale on the Shelf.
        scale : Scale
            As the Shelf has it now.

        Returns
        -------
        ScaleReader
            Running.

        Raises
        ------
        Refused
            When there are more than a workshop has.
        """
        with self._lock:
            known = self._readers.get(number)
            if known is not None and known.scale == scale:
                return known
            if known is not None:
                known.stop()
            elif len(self._readers) >= MOST_SCALES:
                raise Refused(
                    "",
                    Text(
                        "More than {most_scales} scales can't be read at once. Retire those that are not used.",
                        most_scales=MOST_SCALES,
                    ),
                )
            begun = ScaleReader(scale, lambda heard: self._tell(number, heard))
            self._readers[number] = begun
            begun.start()
            return begun

    def forget(self, number: int) -> None:
        """Stop reading a scale.

        Parameters
        ----------
        number : int
            Of the scale on the Shelf.
        """
        with self._lock:
            known = self._readers.pop(number, None)
        if known:
            known.stop()

    def _tell(self, number: int, heard: ScaleReading) -> None:
        for listener in tuple(self._listeners.get(number, ())):
            listener.tell(heard)

    async def listen(self, number: int, scale: Scale) -> AsyncIterator[ScaleReading]:
        """Follow a scale.

        Parameters
        ----------
        number : int
            Of the scale on the Shelf.
        scale : Scale
            As the Shelf has it now.

        Yields
        ------
        ScaleReading
            The current state at once, then every reading and every change of the link, until all are closed.
        """
        reader = self.reader(number, scale)
        listener = _Listener()
        self._listeners.setdefault(number, set()).add(listener)
        try:
            yield reader.heard
            while not self.is_closed:
                heard = await listener.queue.get()
                if heard is None:
                    return
                yield heard
        finally:
            self._listeners[number].discard(listener)

    def settled_g(self, number: int, scale: Scale) -> float:
        """Return the reading of a scale that is to be kept.

        Parameters
        ----------
        number : int
            Of the scale on the Shelf.
        scale : Scale
            As the Shelf has it now.

        Returns
        -------
        float
            In g.

        Raises
        ------
        Refused
            When it is lost, silent, overloaded, in another unit, or not at rest.
        """
        heard = self.reader(number, scale).heard
        if heard.line is None or heard.link != "reading" or time.monotonic() - heard.at_s > FRESH_S:
            raise Refused(
                "scale", Text("{name} says nothing just now. Look at its plug, or type what it shows.", name=scale.name)
            )
        if heard.line.state == "overload":
            raise Refused("scale", Text("There is more on {name} than it weighs. Take something off.", name=scale.name))
        if heard.line.state == "unit":
            raise Refused(
                "scale", Text("{name} shows something other than a weight. Set it to grams.", name=scale.name)
            )
        if not heard.is_settled:
            raise Refused("scale", Text("{name} has not come to rest. Wait until it stands still.", name=scale.name))
        return heard.line.g

    def close(self) -> None:
        """Release all scales, and end the subscriptions."""
        self.is_closed = True
        with self._lock:
            readers = list(self._readers.values())
        for reader in readers:
            reader.stop()
        for listeners in self._listeners.values():
            for listener in tuple(listeners):
                listener.tell(None)
