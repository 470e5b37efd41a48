"""A reader of lines: one thread for each device, which reads its lines, reports when it is lost, and finds it again."""

import threading
import time
from typing import Literal

import serial
import structlog

from ufrin.devices.scale_line import Lines

log = structlog.get_logger()
Link = Literal["connecting", "reading", "silent", "lost"]
WAIT_S, AGAIN_S, MOST_AGAIN_S = 0.02, 0.3, 3.0


class LineReader:
    """Reads the lines of a device at a serial port or a socket.

    Parameters
    ----------
    name, address : str
        What it is called, and where it is.
    baud : float
        Speed of a serial port.
    silent_s : float
        After how long without a reading it counts as silent.
    """

    def __init__(self, name: str, address: str, baud: float, *, silent_s: float) -> None:
        self.name, self._address, self._baud, self._silent_s = name, address, baud, silent_s
        self.garbage = 0
        self._stop = threading.Event()
        self._port: serial.SerialBase | None = None
        self._thread = threading.Thread(target=self._run, name=f"reads {name}", daemon=True)

    def start(self) -> None:
        """Begin to read."""
        self._thread.start()

    def stop(self) -> None:
        """Release the device."""
        self._stop.set()

    @property
    def link(self) -> Link:
        """How it is connected.

        Raises
        ------
        NotImplementedError
            Here; each kind of device keeps it beside its readings.
        """
        raise NotImplementedError

    def begin(self) -> None:
        """Begin anew: called at each connection."""

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

        Raises
        ------
        NotImplementedError
            Here; each kind of device reads its own lines.
        """
        raise NotImplementedError

    def changed(self, link: Link) -> None:
        """Hear that the link has changed.

        Parameters
        ----------
        link : str
            The new one.

        Raises
        ------
        NotImplementedError
            Here; each kind of device keeps it beside its readings.
        """
        raise NotImplementedError

    def _run(self) -> None:
        again_s = AGAIN_S
        while not self._stop.is_set():
            try:
                with serial.serial_for_url(self._address, baudrate=int(self._baud), timeout=WAIT_S) as port:
                    self._port = port
                    again_s = AGAIN_S
                    self._read(port)
            except (serial.SerialException, OSError, ValueError) as error:
                if self.link != "lost":  # reported once, not at every try
                    log.info("device not there", device=self.name, error=str(error))
            self._port = None
            if not self._stop.is_set():
                if self.link != "lost":
                    self.changed("lost")
                self._stop.wait(again_s)
                again_s = min(again_s * 1.5, MOST_AGAIN_S)

    def _read(self, port: serial.SerialBase) -> None:
        lines, last = Lines(), time.monotonic()
        self.begin()
        while not self._stop.is_set():
            arrived = port.read(64)
            now = time.monotonic()
            for data in lines.take(arrived) if arrived else ():
                if self.take(data, now):
                    last = now
                else:
                    self.garbage += 1
            # it sends nothing, or lines without a reading
            if now - last > self._silent_s and self.link not in {"silent", "lost"}:
                self.changed("silent")
