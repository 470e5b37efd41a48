"""What is filled in at the Opening station, and the same with every default settled."""

from dataclasses import dataclass

from ufrin.core.inputs.usual import USUAL, settle

_USUAL = USUAL["opening"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SettledOpening:
    """The Opening station with every default in place; None only where there is no default either."""

    style: str | None = None
    bed_material: str | None = None
    show: str | None = None
    slit_side: str | None = None
    slack_mm: float = _USUAL["slack_mm"]
    key_mm: float | None = None
    keys: str | None = None
    tilt_limit_deg: float = _USUAL["tilt_limit_deg"]
    cast_up: str | None = None
    gates: str | None = None
    vents: str | None = None
    worth_ml: float = _USUAL["worth_ml"]
    flat_back: bool | None = None
    chin: bool | None = None
    hook: bool | None = None
    hole_through: bool | None = None
    thin_part: bool | None = None
    tall_part: bool | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningInputs:
    """What a maker filled in at the Opening station; None is "as recommended".

    Directions and points are in the master's own coordinates, so that they stay with it when it is turned; keys lie in
    the plan of the box.
    """

    style: str | None = None
    bed_material: str | None = None
    show: str | None = None
    slit_side: str | None = None
    slack_mm: float | None = None
    key_mm: float | None = None
    keys: str | None = None
    tilt_limit_deg: float | None = None
    cast_up: str | None = None
    gates: str | None = None
    vents: str | None = None
    worth_ml: float | None = None
    flat_back: bool | None = None
    chin: bool | None = None
    hook: bool | None = None
    hole_through: bool | None = None
    thin_part: bool | None = None
    tall_part: bool | None = None

    def settled(self) -> SettledOpening:
        """Return the same with every default in place."""
        return settle(self, SettledOpening)
