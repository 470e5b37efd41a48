"""The slit of a one-piece mould: the side it runs on, its length and its wavy line."""

from dataclasses import dataclass

import numpy as np

from ufrin.core.mesh.triangles import Floats

SLIT_SHARE = 2 / 3  # of the height: how far a block is slit where its shape does not decide (common practice)
SIDES = ("front", "right", "back", "left")
TOWARDS = {"front": (0.0, -1.0), "right": (1.0, 0.0), "back": (0.0, 1.0), "left": (-1.0, 0.0)}


@dataclass(frozen=True, slots=True, kw_only=True)
class Slit:
    """A cut from the mouth up: the side it runs on, and how long it is."""

    side: str
    length_mm: float

    def wave(self, across_mm: float, waves: int = 4) -> tuple[tuple[float, float], ...]:
        """Return its wavy line, which lets both lips find each other again.

        Parameters
        ----------
        across_mm : float
            How far it swings to either side.
        waves : int, optional
            Whole ones.

        Returns
        -------
        tuple of (x, z)
            From the mouth up, about its middle.
        """
        turn = np.linspace(0, 2 * np.pi * waves, 12 * waves + 1)
        return tuple((float(across_mm * np.sin(t)), float(self.length_mm * t / turn[-1])) for t in turn)


def slit_side(shown: Floats | None) -> str:
    """Choose the side for a slit: the one turned away from the show face.

    Parameters
    ----------
    shown : (3,) float or None
        Where the show face looks to, as the master stands.

    Returns
    -------
    str
        One of ``SIDES``; the back where nothing decides.
    """
    if shown is None or float(np.hypot(shown[0], shown[1])) < 0.2:
        return "back"
    return min(SIDES, key=lambda side: float(np.dot(TOWARDS[side], shown[:2])))
