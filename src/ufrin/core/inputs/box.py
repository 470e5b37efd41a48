"""What is filled in at the Box station, and the same with every default settled."""

from dataclasses import dataclass
from typing import Literal

from ufrin.core.inputs.usual import USUAL, settle

_USUAL = USUAL["box"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SettledBox:
    """The Box station with every default in place; None only where there is no default either."""

    shape: Literal["rectangle", "round", "contour", "tray", "container"] = "rectangle"
    container_id: int | None = None
    count: int = 1
    other_id: int | None = None
    other_count: int = 1
    third_id: int | None = None
    third_count: int = 1
    rows: int | None = None
    columns: int | None = None
    side_mm: float = _USUAL["side_mm"]
    over_mm: float = _USUAL["over_mm"]
    under_mm: float = 0.0
    gap_mm: float = _USUAL["gap_mm"]
    bed_mm: float = 0.0
    bed_material: str | None = None
    sunk_mm: float = 0.0
    freeboard_mm: float = _USUAL["freeboard_mm"]
    wall_thickness_mm: float = _USUAL["wall_thickness_mm"]
    lip_mm: float = _USUAL["lip_mm"]
    filler_ml: float = 0.0
    filler_family: str | None = None
    jacket_material: Literal["plaster", "resin"] = "plaster"
    jacket_mm: float | None = None
    wall_material: str = "melamine-board"
    board_material: str | None = None
    joint: Literal["long", "pinwheel"] = "long"
    sheet_length_mm: float = _USUAL["sheet_length_mm"]
    sheet_width_mm: float = _USUAL["sheet_width_mm"]
    kerf_mm: float = _USUAL["kerf_mm"]

    @property
    def board(self) -> str:
        """What the masters stand on: a board like the walls where nothing else was filled in."""
        return self.board_material or self.wall_material


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxInputs:
    """What a maker filled in at the Box station; None is "as recommended"."""

    shape: str | None = None
    container_id: int | None = None
    count: float | None = None
    other_id: int | None = None
    other_count: float | None = None
    third_id: int | None = None
    third_count: float | None = None
    rows: float | None = None
    columns: float | None = None
    side_mm: float | None = None
    over_mm: float | None = None
    under_mm: float | None = None
    gap_mm: float | None = None
    bed_mm: float | None = None
    bed_material: str | None = None
    sunk_mm: float | None = None
    freeboard_mm: float | None = None
    wall_thickness_mm: float | None = None
    lip_mm: float | None = None
    filler_ml: float | None = None
    filler_family: str | None = None
    jacket_material: str | None = None
    jacket_mm: float | None = None
    wall_material: str | None = None
    board_material: str | None = None
    joint: str | None = None
    sheet_length_mm: float | None = None
    sheet_width_mm: float | None = None
    kerf_mm: float | None = None

    def settled(self) -> SettledBox:
        """Return the same with every default in place."""
        return settle(self, SettledBox)
