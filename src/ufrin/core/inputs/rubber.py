"""What is filled in at the Rubber station, and the same with every default settled."""

from dataclasses import dataclass
from typing import Literal

from ufrin.core.inputs.usual import USUAL, settle

_USUAL = USUAL["rubber"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SettledRubber:
    """The Rubber station with every default in place; None only where there is no default either."""

    rubber_id: int | None = None
    basis: Literal["weight", "volume"] = "weight"
    blend_id: int | None = None
    blend_pct: float = _USUAL["blend_pct"]
    thinner_id: int | None = None
    thinner_parts: float = 0.0
    pigment_id: int | None = None
    pigment_pct: float = 0.0
    amount: str = "need"
    kit_left_a_g: float | None = None
    spare_pct: float = _USUAL["spare_pct"]
    learnt_spare_pct: float | None = None
    learnt_spare_on: str | None = None
    cling_g: float = _USUAL["cling_g"]
    scale_step_g: float = _USUAL["scale_step_g"]
    cup_id: int | None = None
    cup_ml: float | None = None
    rise_factor: float = 1.0
    cup_mark_ml: float = _USUAL["cup_mark_ml"]
    drops_per_ml: float | None = None
    room_temp_c: float = _USUAL["room_temp_c"]
    mix_min: float = _USUAL["mix_min"]
    degas_min: float = 0.0
    pour_min: float = _USUAL["pour_min"]
    post_cure_c: float | None = None
    post_cure_min: float | None = None
    pad_mm: float = _USUAL["pad_mm"]
    pad_thickness_mm: float | None = None
    coats: int = int(_USUAL["coats"])
    coat_mm: float = _USUAL["coat_mm"]
    coat_area_cm2: float | None = None
    thickener_id: int | None = None
    thickener_parts: float = _USUAL["thickener_parts"]
    undercut: str = "slight"
    detail: str = "plain"
    shots_wanted: float | None = None
    target_scale: Literal["00", "A", "D"] = "A"
    target_shore: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class RubberInputs:
    """What a maker filled in at the Rubber station; None is "as recommended"."""

    rubber_id: int | None = None
    basis: str | None = None
    blend_id: int | None = None
    blend_pct: float | None = None
    thinner_id: int | None = None
    thinner_parts: float | None = None
    pigment_id: int | None = None
    pigment_pct: float | None = None
    amount: str | None = None
    kit_left_a_g: float | None = None
    spare_pct: float | None = None
    learnt_spare_pct: float | None = None
    learnt_spare_on: str | None = None
    cling_g: float | None = None
    scale_step_g: float | None = None
    cup_id: int | None = None
    cup_ml: float | None = None
    rise_factor: float | None = None
    cup_mark_ml: float | None = None
    drops_per_ml: float | None = None
    room_temp_c: float | None = None
    mix_min: float | None = None
    degas_min: float | None = None
    pour_min: float | None = None
    post_cure_c: float | None = None
    post_cure_min: float | None = None
    pad_mm: float | None = None
    pad_thickness_mm: float | None = None
    coats: float | None = None
    coat_mm: float | None = None
    coat_area_cm2: float | None = None
    thickener_id: int | None = None
    thickener_parts: float | None = None
    undercut: str | None = None
    detail: str | None = None
    shots_wanted: float | None = None
    target_scale: str | None = None
    target_shore: float | None = None

    def settled(self) -> SettledRubber:
        """Return the same with every default in place."""
        return settle(self, SettledRubber)
