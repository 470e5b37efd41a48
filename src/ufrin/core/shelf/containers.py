"""Containers to mould in, tapered pots among them, by their insides: what they hold, and how near the wall comes."""

from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from ufrin.core.measures.plain_volumes import block_ml, drum_ml, frustum_ml
from ufrin.errors import Refused
from ufrin.language import Text

Floats = NDArray[np.floating[Any]]
ContainerShape = Literal["rectangle", "round", "tapered"]
CONTAINER_SHAPES = {
    "rectangle": Text("Rectangular, straight walls"),
    "round": Text("Round, straight walls"),
    "tapered": Text("Round, tapered"),
}
CONTAINER_MATERIALS = ("plastic-sheet", "metal", "glass", "ceramic", "card", "sealed-wood", "bare-wood")
CLOSE_ENOUGH = 1 + 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Pot:
    """A tapered pot by its inside.

    Parameters
    ----------
    bottom_mm, top_mm : float
        Diameters.
    height_mm : float
        From bottom to rim.
    """

    bottom_mm: float
    top_mm: float
    height_mm: float

    def __post_init__(self) -> None:
        for name in ("bottom_mm", "top_mm", "height_mm"):
            if not 0 < getattr(self, name) <= 10_000:
                raise Refused(f"pot.{name}", Text("A pot's size must be more than nothing and at most 10 m."))

    def diameter_mm(self, above_bottom_mm: float) -> float:
        """Return the inside diameter at a height; the taper is carried on beyond the rim.

        Parameters
        ----------
        above_bottom_mm : float
            The height.

        Returns
        -------
        float
            In mm.
        """
        return self.bottom_mm + (self.top_mm - self.bottom_mm) * above_bottom_mm / self.height_mm

    def holds_ml(self, fill_mm: float) -> float:
        """Return what it holds up to a height.

        Parameters
        ----------
        fill_mm : float
            Above the bottom.

        Returns
        -------
        float
            In ml.

        Raises
        ------
        Refused
            When the pot closes below that height.
        """
        if self.diameter_mm(fill_mm) < 0:
            raise Refused("pot.height_mm", Text("The pot closes below the fill line. Take a higher one."))
        return frustum_ml(self.bottom_mm, self.diameter_mm(fill_mm), fill_mm) if fill_mm > 0 else 0.0

    def tightest(self, foot_mm: float, reach_mm: Floats) -> tuple[float, float]:
        """Find where the wall comes nearest to a master that stands in the middle.

        Parameters
        ----------
        foot_mm : float
            Of the master, above the pot's bottom.
        reach_mm : (n, 2) float
            Heights above its foot, and how far out it reaches there.

        Returns
        -------
        float, float
            The least clearance and its height above the pot's bottom; negative when the master does not go in.
        """
        heights = foot_mm + reach_mm[:, 0]
        clear = (self.bottom_mm + (self.top_mm - self.bottom_mm) * heights / self.height_mm) / 2 - reach_mm[:, 1]
        nearest = int(np.argmin(clear))
        return float(clear[nearest]), float(heights[nearest])

    def clear_foot_mm(self, side_mm: float, reach_mm: Floats) -> float | None:
        """Find the lowest foot at which the side clearance is kept at every height.

        Parameters
        ----------
        side_mm : float
            Wanted.
        reach_mm : (n, 2) float
            As ``tightest`` takes it.

        Returns
        -------
        float or None
            Above the pot's bottom, never below it; None when no height helps or it would stand out of the pot.
        """
        taper = (self.top_mm - self.bottom_mm) / self.height_mm
        high_mm = float(reach_mm[:, 0].max())
        if taper <= 0:
            foot_mm = 0.0 if self.tightest(0.0, reach_mm)[0] * CLOSE_ENOUGH >= side_mm else None
        else:
            foot_mm = max(
                0.0, float(((2 * (reach_mm[:, 1] + side_mm) - self.bottom_mm) / taper - reach_mm[:, 0]).max())
            )
        return None if foot_mm is None or foot_mm + high_mm > self.height_mm * CLOSE_ENOUGH else foot_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Container:
    """A container on the Shelf, by its inside.

    Parameters
    ----------
    name : str
        As the shop calls it.
    shape : "rectangle", "round" or "tapered"
        Of the inside.
    length_mm, width_mm : float or None
        Of a rectangular one.
    bottom_mm, top_mm : float or None
        Diameters of a round one; the same twice for straight walls.
    height_mm : float
        Inside.
    material : str
        One of ``CONTAINER_MATERIALS``.
    """

    name: str
    shape: ContainerShape = "rectangle"
    material: str = "plastic-sheet"
    length_mm: float | None = None
    width_mm: float | None = None
    bottom_mm: float | None = None
    top_mm: float | None = None
    height_mm: float = 0.0

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise Refused("name", Text("Give the container a name that the shop knows it by."))
        if self.shape not in CONTAINER_SHAPES:
            raise Refused("shape", Text("That is not one of the choices. Choose again."))
        if self.material not in CONTAINER_MATERIALS:
            raise Refused("material", Text("That is not one of the choices. Choose again."))
        needed = {"rectangle": ("length_mm", "width_mm"), "round": ("bottom_mm",), "tapered": ("bottom_mm", "top_mm")}[
            self.shape
        ]
        for key in (*needed, "height_mm"):
            size = getattr(self, key)
            if size is None or not 0 < size <= 10_000:
                raise Refused(key, Text("This size is needed: more than nothing and at most 10 m, measured inside."))

    @property
    def pot(self) -> Pot | None:
        """A round one as a pot; straight walls have a taper of 0."""
        if self.shape == "rectangle":
            return None
        top = self.top_mm if self.shape == "tapered" else self.bottom_mm
        return Pot(bottom_mm=self.bottom_mm or 0, top_mm=top or 0, height_mm=self.height_mm)

    @property
    def holds_ml(self) -> float:
        """What it holds to the brim."""
        pot = self.pot
        if pot is None:
            return block_ml(self.length_mm or 0, self.width_mm or 0, self.height_mm)
        return drum_ml(pot.bottom_mm, pot.height_mm) if pot.top_mm == pot.bottom_mm else pot.holds_ml(pot.height_mm)
