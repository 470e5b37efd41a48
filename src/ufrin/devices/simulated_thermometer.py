"""A simulated thermometer: a room that follows what is set, slowly, and a reading with a little noise.

It is seeded, and the clock is passed in, so that it can be tested.
"""

from dataclasses import dataclass
from math import exp
from random import Random

FOLLOWS_S = 20.0  # the room reaches a new temperature with this time constant


@dataclass(kw_only=True)
class SimulatedThermometer:
    """A thermometer on the wall of a workshop.

    Parameters
    ----------
    set_c, room_c : float
        The temperature that the room goes to, and the one that it has.
    noise_c : float
        The amplitude of its noise.
    seed : int
        Of the noise.
    is_plugged : bool
        Whether its plug is in.
    """

    set_c: float = 21.0
    room_c: float = 21.0
    noise_c: float = 0.03
    seed: int = 1
    is_plugged: bool = True

    def __post_init__(self) -> None:
        self._random = Random(self.seed)  # noqa: S311 - noise, not secrets
        self._at_s: float | None = None

    def line(self, at_s: float) -> bytes:
        """Return its reading.

        Parameters
        ----------
        at_s : float
            By any steady clock.

        Returns
        -------
        bytes
            A line with its end.
        """
        passed = 0.0 if self._at_s is None else max(0.0, at_s - self._at_s)
        self._at_s = at_s
        self.room_c += (self.set_c - self.room_c) * (1 - exp(-passed / FOLLOWS_S))
        return f"T {self.room_c + self._random.gauss(0.0, self.noise_c):.1f} C\r\n".encode()
