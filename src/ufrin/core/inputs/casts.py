"""What is filled in at the Casts station, and the same with every default settled."""

from dataclasses import dataclass

from ufrin.core.inputs.usual import USUAL, settle

_USUAL = USUAL["casts"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SettledCasts:
    """The Casts station with every default in place; None only where there is no default either."""

    cast_kind: str = "solid"
    resin_id: int | None = None
    foam_id: int | None = None
    filler_id: int | None = None
    cast_colour_id: int | None = None
    basis: str = "weight"
    cavities: float | None = None
    pieces: float | None = None
    cavity_ml: float | None = None
    area_cm2: float | None = None
    height_mm: float | None = None
    rubber_shrink_pct: float = 0.0
    sprue_ml: float | None = None
    overfill_pct: float = 0.0
    spare_pct: float = _USUAL["spare_pct"]
    scoops: float | None = None
    colour_pct: float = _USUAL["colour_pct"]
    thickness_mm: float = _USUAL["thickness_mm"]
    coat_mm: float = _USUAL["coat_mm"]
    face_mm: float = 0.0
    squeeze_pct: float = _USUAL["squeeze_pct"]
    each_g: float | None = None
    foam_each_g: float | None = None
    face_each_g: float | None = None
    layers: str = "1, 1"
    colour_shares: str = "80, 20"
    set_in_ml: float | None = None
    set_in_g: float | None = None
    set_in_after: float = 1.0
    known_g: float | None = None
    known_cm2: float | None = None
    mould_g: float | None = None
    now_g: float | None = None
    cup_ml: float | None = None
    room_c: float = USUAL["rubber"]["room_temp_c"]  # the job's, as the Rubber station has it
    mould_cavities: float | None = None
    mould_family: str = ""
    mould_parts: str = "one"


@dataclass(frozen=True, slots=True, kw_only=True)
class CastInputs:
    """What a maker filled in at the Casts station; None is "as recommended"."""

    cast_kind: str | None = None
    resin_id: int | None = None
    foam_id: int | None = None
    filler_id: int | None = None
    cast_colour_id: int | None = None
    basis: str | None = None
    cavities: float | None = None
    pieces: float | None = None
    cavity_ml: float | None = None
    area_cm2: float | None = None
    height_mm: float | None = None
    rubber_shrink_pct: float | None = None
    sprue_ml: float | None = None
    overfill_pct: float | None = None
    spare_pct: float | None = None
    scoops: float | None = None
    colour_pct: float | None = None
    thickness_mm: float | None = None
    coat_mm: float | None = None
    face_mm: float | None = None
    squeeze_pct: float | None = None
    each_g: float | None = None
    foam_each_g: float | None = None
    face_each_g: float | None = None
    layers: str | None = None
    colour_shares: str | None = None
    set_in_ml: float | None = None
    set_in_g: float | None = None
    set_in_after: float | None = None
    known_g: float | None = None
    known_cm2: float | None = None
    mould_g: float | None = None
    now_g: float | None = None
    cup_ml: float | None = None
    mould_cavities: float | None = None
    mould_family: str | None = None
    mould_parts: str | None = None

    def settled(self) -> SettledCasts:
        """Return the same with every default in place."""
        return settle(self, SettledCasts)
