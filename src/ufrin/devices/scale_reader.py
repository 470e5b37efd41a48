"""The scale reader: one thread for each scale, which reads its lines, reports when it is lost, and finds it again."""

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import serial
import structlog

from ufrin.core.shelf.scales import Scale
from ufrin.devices.scale_line import Lines, ScaleLine, Settling, read_line

log = structlog.get_logger()
Link = Literal["connecting", "reading", "silent", "lost"]
WAIT_S, SILENT_S, AGAIN_S, MOST_AGAIN_S = 0.02, 2.0, 0.3, 3.0
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


class ScaleReader:
    """Reads one scale.

    Parameters
    ----------
    scale : Scale
        Where it is.
    tell : callable of ScaleReading
        Called from the reader's thread at each reading and at each change of the link.
    """

    def __init__(self, scale: Scale, tell: Callable[[ScaleReading], None]) -> None:
        self.scale, self._tell = scale, tell
        self.heard = ScaleReading(count=0, at_s=time.monotonic(), line=None, is_settled=False, link="connecting")
        self.garbage = 0
        self._stop = threading.Event()
        self._port: serial.SerialBase | None = None
        self._thread = threading.Thread(target=self._run, name=f"scale {scale.name}", daemon=True)

    def start(self) -> None:
        """Begin to read."""
        self._thread.start()

    def stop(self) -> None:
        """Release the scale."""
        self._stop.set()

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

    def _say(self, **changed: object) -> None:
        known = {name: getattr(self.heard, name) for name in ScaleReading.__slots__}
        self.heard = ScaleReading(**{**known, **changed})
        self._tell(self.heard)

    def _run(self) -> None:
        again_s = AGAIN_S
        while not self._stop.is_set():
            try:
                with serial.serial_for_url(self.scale.address, baudrate=int(self.scale.baud), timeout=WAIT_S) as port:
                    self._port = port
                    again_s = AGAIN_S
                    self._read(port)
            except (serial.SerialException, OSError, ValueError) as error:
                if self.heard.link != "lost":  # reported once, not at every try
                    log.info("scale not there", scale=self.scale.name, error=str(error))
            self._port = None
            if not self._stop.is_set():
                if self.heard.link != "lost":
                    self._say(link="lost", is_settled=False)
                self._stop.wait(again_s)
                again_s = min(again_s * 1.5, MOST_AGAIN_S)

    def _read(self, port: serial.SerialBase) -> None:
        lines, settling, last = Lines(), Settling(self.scale.step_g), time.monotonic()
        while not self._stop.is_set():
            arrived = port.read(64)
            now = time.monotonic()
            if not arrived:
                if now - last > SILENT_S and self.heard.link not in {"silent", "lost"}:
                    self._say(link="silent", is_settled=False)
                continue
            for data in lines.take(arrived):
                line = read_line(data)
                if line is None:
                    self.garbage += 1
                    continue
                last = now
                self._say(
                    count=self.heard.count + 1,
                    at_s=now,
                    line=line,
                    is_settled=settling.is_settled(line, now),
                    link="reading",
                )
            if now - last > SILENT_S and self.heard.link != "silent":  # it sends lines, but no reading
                self._say(link="silent", is_settled=False)
