"""Thermometers of the room: where one is reached."""

from dataclasses import dataclass

from ufrin.core.shelf.scales import check_address


@dataclass(frozen=True, slots=True, kw_only=True)
class Thermometer:
    """A thermometer that Ufrin can read.

    Parameters
    ----------
    name : str
        What it is called in the workshop.
    address : str
        A serial port, or ``socket://host:port``.
    baud : float
        Speed of a serial port.
    """

    name: str
    address: str = ""
    baud: float = 9600.0

    def __post_init__(self) -> None:
        check_address(self.address, self.baud, "thermometer")
