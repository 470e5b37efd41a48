"""How far a one-piece mould must stretch to let its master out through the mouth."""

from dataclasses import dataclass

import numpy as np
from scipy.spatial import ConvexHull, QhullError

from ufrin.core.mesh.triangles import Floats, Mesh

LEVELS = 96
WORKING_FRACTION = 0.3  # of the elongation at break: common practice for a mould that is to last


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Stretch:
    """What a block must stretch as its master leaves through the mouth at the foot.

    Parameters
    ----------
    height_mm : (n,) float64
        Levels from the foot up.
    round_mm : (n,) float64
        The length round the master at each level, as a tight string would take it.
    needed : float
        The largest stretch: a later perimeter over that of a neck before it, less 1.
    neck_mm, head_mm : float
        Heights of that neck and of the widest part above it.
    """

    height_mm: Floats
    round_mm: Floats
    needed: float
    neck_mm: float
    head_mm: float

    def slit_mm(self, allowed: float) -> float:
        """Return how far a slit must go up from the mouth so that the rest passes.

        Parameters
        ----------
        allowed : float
            Stretch that the rubber gives, as a fraction.

        Returns
        -------
        float
            0 where none is needed.
        """
        too_much = np.flatnonzero(self._by_level() > allowed)
        if not len(too_much):
            return 0.0
        step = float(self.height_mm[1] - self.height_mm[0])
        return float(self.height_mm[too_much[-1]]) + step / 2

    def _by_level(self) -> Floats:
        later = np.maximum.accumulate(self.round_mm[::-1])[::-1]
        return np.asarray(later / np.maximum(self.round_mm, 1e-9) - 1)


def stretch(mesh: Mesh, levels: int = LEVELS) -> Stretch:
    """Find the stretch that a one-piece block needs.

    Parameters
    ----------
    mesh : Mesh
        Closed, as it stands: the mouth is at its foot.
    levels : int, optional
        Number of sections.

    Returns
    -------
    Stretch
        Along the upright: largest later perimeter over the smallest neck before it, less 1.
    """
    low, high = mesh.bounds_mm[:, 2]
    heights = low + (np.arange(levels) + 0.5) * (high - low) / levels
    pairs = mesh.faces[:, [[0, 1], [1, 2], [2, 0]]].reshape(-1, 2)
    ends = mesh.vertices_mm[pairs[pairs[:, 0] < pairs[:, 1]]]  # a closed mesh runs along each edge once that way
    bottom, top = ends[:, :, 2].min(axis=1), ends[:, :, 2].max(axis=1)
    lengths = []
    for height in heights:
        a, b = ends[(bottom < height) & (top >= height)].transpose(1, 0, 2)
        share = (height - a[:, 2]) / (b[:, 2] - a[:, 2])
        lengths.append(_string_mm(a[:, :2] + share[:, None] * (b[:, :2] - a[:, :2])))
    found = Stretch(height_mm=heights - low, round_mm=np.array(lengths), needed=0.0, neck_mm=0.0, head_mm=0.0)
    by_level = found._by_level()
    neck = int(np.argmax(by_level))
    head = neck + int(np.argmax(found.round_mm[neck:]))
    return Stretch(
        height_mm=found.height_mm,
        round_mm=found.round_mm,
        needed=float(by_level[neck]),
        neck_mm=float(found.height_mm[neck]),
        head_mm=float(found.height_mm[head]),
    )


def _string_mm(points: Floats) -> float:
    try:
        return float(ConvexHull(points).area)  # for a hull in the plane, Qhull's area is its perimeter
    except (QhullError, ValueError):
        return 2 * float(np.linalg.norm(np.ptp(points, axis=0))) if len(points) else 0.0


def allowed_stretch(elongation_pct: float | None) -> float | None:
    """Return the stretch that a rubber bears again and again.

    Parameters
    ----------
    elongation_pct : float or None
        At break.

    Returns
    -------
    float or None
        As a fraction; None when the elongation is not known.
    """
    return None if elongation_pct is None else elongation_pct / 100 * WORKING_FRACTION
