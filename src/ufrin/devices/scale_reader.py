"""The scale reader: reads one scale, and tells of each reading and of each change of its link."""

import time
from collections.abc import Callable
from dataclasses import dataclass

import serial

from ufrin.core.shelf.scales import Scale
from ufrin.devices.line_reader import LineReader, Link
from ufrin.devices.scale_line import ScaleLine, Settling, read_line

SILENT_S = 2.0
TARE = b"T\r\n"


@dataclass(frozen=True, slots=True, kw_only=True)
class ScaleReading:
    """The state of a scale at a moment.

    Parameters
    ----------
    count : int
        Of readings since it was connected first.
    at_s : float
        By the steady clock of this process.
    line : ScaleLine or None
        The newest reading; None before the first.
    is_settled : bool
        Whether it can be accepted.
    link : str
        Whether it is read, silent, lost, or being connected.
    """

    count: int
    at_s: float
    line: ScaleLine | None
    is_settled: bool
    link: Link


class ScaleReader(LineReader):
    """Reads one scale.

    Parameters
    ----------
    scale : Scale
        Where it is.
    tell : callable of ScaleReading
        Called from the reader's thread at each reading and at each change of the link.
    """

    def __init__(self, scale: Scale, tell: Callable[[ScaleReading], None]) -> None:
        super().__init__(scale.name, scale.address, scale.baud, silent_s=SILENT_S)
        self.scale, self._tell = scale, tell
        self.heard = ScaleReading(count=0, at_s=time.monotonic(), line=None, is_settled=False, link="connecting")
        self._settling = Settling(scale.step_g)

    @property
    def link(self) -> Link:
        """How it is connected."""
        return self.heard.link

    def tare(self) -> bool:
        """Tare the scale.

        Returns
        -------
        bool
            Whether the command could be sent; the readings show whether it was obeyed.
        """
        port = self._port
        if port is None:
            return False
        try:
            port.write(TARE)
        except (serial.SerialException, OSError):
            return False
        return True

    def begin(self) -> None:
        """Begin anew: what it showed before the connection says nothing of whether it is at rest."""
        self._settling = Settling(self.scale.step_g)

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
        line = read_line(data)
        if line is None:
            return False
        settled = self._settling.is_settled(line, at_s)
        self._say(count=self.heard.count + 1, at_s=at_s, line=line, is_settled=settled, link="reading")
        return True

    def changed(self, link: Link) -> None:
        """Hear that the link has changed.

        Parameters
        ----------
        link : str
            The new one.
        """
        self._say(link=link, is_settled=False)

    def _say(self, **changed: object) -> None:
        known = {name: getattr(self.heard, name) for name in ScaleReading.__slots__}
        self.heard = ScaleReading(**{**known, **changed})
        self._tell(self.heard)
