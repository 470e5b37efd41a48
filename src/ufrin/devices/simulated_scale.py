"""A simulated scale: what a bench scale does with a cup that is poured into.

It is seeded, and the clock is passed in, so that it can be tested.
"""

from dataclasses import dataclass
from math import exp
from random import Random

SETTLES_S = 0.25  # the load shown follows the real one with this time constant
STILL_S = 0.5


@dataclass(kw_only=True)
class SimulatedScale:
    """A scale with noise, drift, overload and settling.

    Parameters
    ----------
    step_g, most_g : float
        Its steps, and the most it weighs.
    noise_g, drift_g_per_min : float
        The amplitude of its noise.
    seed : int
        Of the noise.
    load_g, flow_g_per_s : float
        What stands on it, and what is poured into that.
    zero_g : float
        What it shows as nothing.
    is_plugged, is_mad : bool
        Whether its plug is in, and whether it sends nonsense.
    """

    step_g: float = 0.1
    most_g: float = 2000.0
    noise_g: float = 0.03
    drift_g_per_min: float = 0.0
    seed: int = 1
    load_g: float = 0.0
    flow_g_per_s: float = 0.0
    zero_g: float = 0.0
    is_plugged: bool = True
    is_mad: bool = False

    def __post_init__(self) -> None:
        self._random = Random(self.seed)  # noqa: S311 - noise, not secrets
        self._shown_g = self.load_g
        self._at_s: float | None = None
        self._last = 0.0
        self._still_s = 0.0

    def move_on(self, at_s: float) -> None:
        """Let time pass.

        Parameters
        ----------
        at_s : float
            By any steady clock.
        """
        passed = 0.0 if self._at_s is None else max(0.0, at_s - self._at_s)
        self._at_s = at_s
        self.load_g = max(0.0, self.load_g + self.flow_g_per_s * passed)
        self.zero_g += self.drift_g_per_min / 60 * passed
        self._shown_g += (self.load_g - self._shown_g) * (1 - exp(-passed / SETTLES_S))
        self._still_s = (
            self._still_s + passed
            if abs(self.load_g - self._shown_g) < self.step_g / 2 and not self.flow_g_per_s
            else 0.0
        )

    def line(self, at_s: float) -> bytes:
        """Return its reading.

        Parameters
        ----------
        at_s : float
            By the same clock.

        Returns
        -------
        bytes
            A line with its end.
        """
        self.move_on(at_s)
        if self.is_mad:
            return bytes(self._random.randrange(256) for _ in range(24)) + b"\r\n"
        if self.load_g > self.most_g:
            return b"over\r\n"
        exact = self._shown_g - self.zero_g + self._random.gauss(0.0, self.noise_g)
        # a digit is held while the noise would only make it flicker, as scales do
        if abs(exact - self._last) > 0.8 * self.step_g:
            self._last = round(exact / self.step_g) * self.step_g
        word = "stable" if self._still_s >= STILL_S else "moving"
        return f"{word} {self._last + 0.0:.{_decimals(self.step_g)}f} g\r\n".encode()

    def hear(self, data: bytes) -> None:
        """Carry out a command: T tares.

        Parameters
        ----------
        data : bytes
            As it came.
        """
        if data.strip().upper() == b"T":
            self.zero_g, self._last = self._shown_g, 0.0


def _decimals(step_g: float) -> int:
    return 0 if step_g >= 1 else 1 if step_g >= 0.1 else 2
