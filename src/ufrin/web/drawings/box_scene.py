"""A box as its drawings show it: what is drawn, and where it lies on its sheet."""

from collections.abc import Callable
from dataclasses import dataclass

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.layouts import Place
from ufrin.core.box.mould_box import Box
from ufrin.core.master.master_form import Master
from ufrin.web.drawings.svg_marks import Drawing

ROW_PX, WIDEST_PX, HIGHEST_PX = 440.0, 250.0, 170.0  # front and side in a row, one view, and its height
QuantityText = Callable[[float, str], str]


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxScene:
    """What the three views show.

    Parameters
    ----------
    box : Box
        As worked out.
    plan : BoxPlan
        What it was worked out from.
    wall_mm : float
        Thickness of the walls.
    lift : str
        The lift on the master as text; empty when there is none.
    """

    box: Box
    plan: BoxPlan
    wall_mm: float
    lift: str = ""

    @property
    def inside_mm(self) -> tuple[float, float]:
        """Inside length and width over all, where it is widest."""
        pot = self.plan.the_pot
        if pot:
            widest = max(pot.diameter_mm(0), pot.diameter_mm(self.box.rim_mm))
            return widest, widest
        return self.box.inside_mm

    @property
    def middle_mm(self) -> tuple[float, float]:
        """The middle of the inside, from the middle of the layout."""
        if self.box.outline is not None:
            left, near, right, far = self.box.outline.bounds
            return (left + right) / 2, (near + far) / 2
        return self.box.layout.circle_at_mm if self.box.diameter_mm is not None else (0.0, 0.0)

    @property
    def beyond_mm(self) -> tuple[float, float]:
        """How far masters protrude through the walls on either side, where they do not fit."""
        layout = self.box.layout
        return tuple(
            max(0.0, (over - inside) / 2 - self.wall_mm)
            for over, inside in zip((layout.length_mm, layout.width_mm), self.inside_mm, strict=True)
        )  # type: ignore[return-value]

    @property
    def px_per_mm(self) -> float:
        """One scale for all three views."""
        length, width = (
            inside + 2 * (self.wall_mm + beyond) for inside, beyond in zip(self.inside_mm, self.beyond_mm, strict=True)
        )
        return min(
            ROW_PX / (length + width), WIDEST_PX / length, HIGHEST_PX / max(self.box.rim_mm, self.box.fill_mm, width)
        )

    def master(self, place: Place) -> Master:
        """Return the master that stands at a place."""
        return self.plan.masters[place.kind]

    @property
    def tightest(self) -> tuple[float, float] | None:
        """In a tapered pot, the least clearance and its height."""
        return self.box.tightest if self.plan.the_pot else None

    def half_at(self, height_mm: float, inside_mm: float) -> float:
        """Return half of the inside at a height, in mm."""
        pot = self.plan.the_pot
        return pot.diameter_mm(height_mm) / 2 if pot else inside_mm / 2


@dataclass(frozen=True, slots=True, kw_only=True)
class View:
    """One view: its key, its title, and the drawing."""

    key: str
    title: str
    drawing: Drawing

    @property
    def svg(self) -> str:
        """The drawing alone, at its natural size."""
        return self.drawing.svg
