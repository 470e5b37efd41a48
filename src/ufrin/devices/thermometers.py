"""Thermometers of the room: what a line of one means, and all of them that are being read."""

import re
import threading
import time

from ufrin.core.measures.conversion import convert
from ufrin.core.shelf.thermometers import Thermometer
from ufrin.devices.line_reader import LineReader, Link

SILENT_S = 90.0  # slow ones send a line a minute
COLDEST_C, HOTTEST_C = -60.0, 200.0
LONGEST_LINE = 80
MOST_THERMOMETERS = 20
_LINE = re.compile(
    r"\s*(?:(?:t|temp|temperature|room)\s*[:=]?\s*)?(?P<number>[-+]?\d{1,3}(?:\.\d{1,4})?)"
    r"\s*(?:°|deg)?\s*(?P<unit>[cf])?\s*",
    re.IGNORECASE,
)


def read_temp_c(data: bytes) -> float | None:
    """Read one line: a word for what it is, the number, the unit. A bare number is in degC.

    Parameters
    ----------
    data : bytes
        Without its end.

    Returns
    -------
    float or None
        In degC; None when it is not a line of a thermometer, or no temperature that one can have.

    Examples
    --------
    >>> read_temp_c(b"T = 21.4 C")
    21.4
    >>> round(read_temp_c(b"70.7 F") or 0, 6)
    21.5
    >>> read_temp_c(b"21.4 g") is None
    True
    """
    if not 0 < len(data) <= LONGEST_LINE:
        return None
    try:
        found = _LINE.fullmatch(data.decode("utf-8"))
    except UnicodeDecodeError:
        return None
    if found is None:
        return None
    value = float(found["number"])
    temp_c = convert(value, "degF", "degC") if (found["unit"] or "c").lower() == "f" else value
    return temp_c if COLDEST_C <= temp_c <= HOTTEST_C else None


class ThermometerReader(LineReader):
    """Reads one thermometer.

    Parameters
    ----------
    thermometer : Thermometer
        Where it is.
    """

    def __init__(self, thermometer: Thermometer) -> None:
        super().__init__(thermometer.name, thermometer.address, thermometer.baud, silent_s=SILENT_S)
        self.thermometer = thermometer
        self._link: Link = "connecting"
        self._temp_c: float | None = None
        self._at_s = 0.0

    @property
    def link(self) -> Link:
        """How it is connected."""
        return self._link

    @property
    def fresh_c(self) -> float | None:
        """What it read last; None where that is too long ago."""
        return self._temp_c if self._link == "reading" and time.monotonic() - self._at_s <= SILENT_S else None

    def take(self, data: bytes, at_s: float) -> bool:
        """Take a line.

        Parameters
        ----------
        data : bytes
            Without its end.
        at_s : float
            By the steady clock of this process.

        Returns
        -------
        bool
            Whether it was a reading.
        """
        temp_c = read_temp_c(data)
        if temp_c is None:
            return False
        self._temp_c, self._at_s, self._link = temp_c, at_s, "reading"
        return True

    def changed(self, link: Link) -> None:
        """Hear that the link has changed.

        Parameters
        ----------
        link : str
            The new one.
        """
        self._link = link


class Thermometers:
    """Reads thermometers from the moment that somebody asks for one, until it is closed."""

    def __init__(self) -> None:
        self._readers: dict[int, ThermometerReader] = {}
        self._lock = threading.Lock()
        self.is_closed = False

    def fresh_c(self, number: int, thermometer: Thermometer) -> float | None:
        """Return what a thermometer reads now.

        Parameters
        ----------
        number : int
            On the Shelf.
        thermometer : Thermometer
            As the Shelf has it now; the reader starts again when its address was changed.

        Returns
        -------
        float or None
            In degC; None before its first line, when it is lost or silent, and where there are too many.
        """
        with self._lock:
            known = self._readers.get(number)
            if known is None or known.thermometer != thermometer:
                if known is not None:
                    known.stop()
                if self.is_closed or (known is None and len(self._readers) >= MOST_THERMOMETERS):
                    return None
                known = self._readers[number] = ThermometerReader(thermometer)
                known.start()
        return known.fresh_c

    def keep_only(self, numbers: set[int]) -> None:
        """Stop reading those that are not on the Shelf any more.

        Parameters
        ----------
        numbers : set of int
            That are.
        """
        with self._lock:
            gone = [number for number in self._readers if number not in numbers]
            for number in gone:
                self._readers.pop(number).stop()

    def close(self) -> None:
        """Release all thermometers."""
        with self._lock:
            self.is_closed = True
            for reader in self._readers.values():
                reader.stop()
