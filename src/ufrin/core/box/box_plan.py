"""Box plans: what a maker wants of a box, checked for sense, before it is worked out."""

from dataclasses import dataclass
from typing import Literal

from ufrin.core.inputs.usual import USUAL
from ufrin.core.master.master_form import MOST_MASTERS, Master
from ufrin.core.shelf.containers import Container, Pot
from ufrin.errors import Refused
from ufrin.language import Text

Shape = Literal["rectangle", "round", "tapered", "contour", "tray"]
CLOSE_ENOUGH = 1 + 1e-9
_USUAL = USUAL["box"]


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxPlan:
    """What a box is to be like; clearances that are left out are the usual ones.

    Parameters
    ----------
    masters : tuple of Master
        One kind or several; they stand on a grid of cells as large as the largest, unless they are packed.
    shape : "rectangle", "round", "tapered", "contour" or "tray"
        Of the box: contour is a strip bent round the outline at the side clearance; a tray is built upside
        down, the master on a lip of its own outline, and filled to the very top.
    side_mm, over_mm, under_mm, gap_mm : float
        Rubber beside, over and under the masters and between them.
    bed_mm, sunk_mm : float
        Clay or plaster on the board, and how deep the masters sit in it.
    freeboard_mm : float
        Wall above the fill line.
    rows, columns : int or None
        Of the gang; None lets the grid with the least rubber be taken. Columns run along the length.
    pot : Pot or None
        For "tapered", where no container is given.
    container : Container or None
        One from the Shelf, with a fixed inside; its own shape takes precedence over ``shape``.
    rubber_sg : float or None
        Of the liquid rubber.
    wall_thickness_mm : float or None
        Of the panels; None lists none.
    lip_mm : float
        Of a tray: how much deeper than the master the mould is.
    filler_ml : float
        Old cut-up rubber that is laid in.
    pack : bool
        Whether masters of several kinds are packed closely instead of standing on a grid.
    pinwheel : bool
        Panels each overlapping the next, instead of the long ones overlapping the short.
    size_pm_mm : float
        How far the masters' sizes may be off: a wall that is short by less does not stop anybody.
    """

    masters: tuple[Master, ...]
    shape: Shape = "rectangle"
    side_mm: float = _USUAL["side_mm"]
    over_mm: float = _USUAL["over_mm"]
    under_mm: float = 0.0
    gap_mm: float = _USUAL["gap_mm"]
    bed_mm: float = 0.0
    sunk_mm: float = 0.0
    freeboard_mm: float = _USUAL["freeboard_mm"]
    rows: int | None = None
    columns: int | None = None
    pot: Pot | None = None
    container: Container | None = None
    rubber_sg: float | None = None
    wall_thickness_mm: float | None = None
    lip_mm: float = 0.0
    filler_ml: float = 0.0
    pack: bool = False
    pinwheel: bool = False
    size_pm_mm: float = 0.0

    def __post_init__(self) -> None:
        if not self.masters:
            raise Refused("masters", Text("There is no master to put in the box."))
        if sum(master.count for master in self.masters) > MOST_MASTERS:
            raise Refused("masters", Text("A gang has at most {most_masters} masters.", most_masters=MOST_MASTERS))
        for name in ("side_mm", "over_mm", "under_mm", "gap_mm", "bed_mm", "sunk_mm", "freeboard_mm", "lip_mm"):
            if not 0 <= getattr(self, name) <= 10_000:
                raise Refused(name, Text("A clearance can't be less than nothing or more than 10 m."))
        if self.sunk_mm > self.bed_mm:
            raise Refused(
                "sunk_mm",
                Text(
                    "A master can't sit [{sunk_mm:g} length] deep in a bed of [{bed_mm:g} length]. Make "
                    "the bed deeper.",
                    sunk_mm=self.sunk_mm,
                    bed_mm=self.bed_mm,
                ),
            )
        if any(self.sunk_mm >= master.height_mm for master in self.masters):
            raise Refused("sunk_mm", Text("The master would sit wholly in the bed and leave no mould. Sink it less."))
        if self.container is None and (self.shape == "tapered") != (self.pot is not None):
            raise Refused(
                "pot",
                Text("A tapered box needs the pot's inside diameters and height, and only a tapered box takes them."),
            )
        if self.rubber_sg is not None and not 0.1 <= self.rubber_sg <= 22.6:
            raise Refused(
                "rubber_sg",
                Text("A specific gravity between 0.1 and 22.6 is believable; rubbers lie between 0.9 and 1.6."),
            )
        if self.wall_thickness_mm is not None and not 0 < self.wall_thickness_mm <= 1000:
            raise Refused("wall.thickness_mm", Text("A wall's thickness must be more than nothing and at most 1 m."))
        if not 0 <= self.filler_ml <= 1e7:
            raise Refused("filler_ml", Text("Filler can't be less than nothing."))

    @property
    def kind(self) -> Shape:
        """The shape that counts: the container's, where there is one."""
        return self.container.shape if self.container else self.shape

    @property
    def the_pot(self) -> Pot | None:
        """The tapered pot, given directly or as a container of the Shelf."""
        return self.container.pot if self.container and self.container.shape == "tapered" else self.pot

    @property
    def foot_mm(self) -> float:
        """How high the masters' feet stand above the board."""
        return self.bed_mm + self.under_mm - self.sunk_mm + (self.lip_mm if self.kind == "tray" else 0.0)

    @property
    def height_mm(self) -> float:
        """Of the highest master."""
        return max(master.height_mm for master in self.masters)
