"""The inside of a box in plan, and what it holds."""

from dataclasses import dataclass

from shapely.geometry import Polygon

from ufrin.core.measures.plain_volumes import block_ml, drum_ml
from ufrin.core.shelf.containers import Pot


@dataclass(frozen=True, slots=True, kw_only=True)
class Inside:
    """The inside of a box in plan: a rectangle, a circle, a tapered pot or an outline."""

    length_mm: float | None = None
    width_mm: float | None = None
    diameter_mm: float | None = None
    pot: Pot | None = None
    outline: Polygon | None = None

    def holds_ml(self, height_mm: float) -> float:
        """Return what it holds up to a height.

        Returns
        -------
        float
            In ml.
        """
        if height_mm <= 0:
            return 0.0
        if self.pot:
            return self.pot.holds_ml(height_mm)
        if self.outline is not None:
            return float(self.outline.area) * height_mm / 1000
        if self.diameter_mm is not None:
            return drum_ml(self.diameter_mm, height_mm)
        return block_ml(self.length_mm or 0, self.width_mm or 0, height_mm)
