"""Stations: what a maker has filled in at each. None is "not said" or "as recommended"; ``terms`` has the words."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

Station = Literal["master", "opening", "box", "rubber", "checks"]
State = Literal["empty", "ready", "warning", "stop"]
STATIONS: tuple[Station, ...] = ("master", "opening", "box", "rubber", "checks")


@dataclass(frozen=True, slots=True, kw_only=True)
class MasterInputs:
    """What is filled in at the Master station; None is "not said". ``terms.MASTER`` has the words."""

    what: str = ""
    mesh: str | None = None
    mesh_unit: str | None = None
    up: str | None = None
    spin_deg: float | None = None
    shrink_pct: float | None = None
    surface_pm_mm: float | None = None
    standin: str | None = None
    profile: str = ""
    top_mm: float | None = None
    ring_mm: float | None = None
    slab_base_mm: float | None = None
    relief_ml: float | None = None
    outline: str | None = None
    length_mm: float | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    mass_g: float | None = None
    counted_way: str | None = None
    hung_reading_g: float | None = None
    hung_sinker_g: float | None = None
    under_reading_g: float | None = None
    under_sinker_g: float | None = None
    level_before_ml: float | None = None
    level_after_ml: float | None = None
    dip_diameter_mm: float | None = None
    dip_before_mm: float | None = None
    dip_after_mm: float | None = None
    boxed_length_mm: float | None = None
    boxed_width_mm: float | None = None
    boxed_depth_mm: float | None = None
    boxed_net_ml: float | None = None
    boxed_count: float | None = None
    grain_before_ml: float | None = None
    grain_after_ml: float | None = None
    material: str | None = None
    own_material: str = ""
    sealer: str | None = None
    release: str | None = None
    finish: str | None = None
    density_g_per_ml: float | None = None
    density_pm_g_per_ml: float | None = None
    solid: bool = False
    water_temp_c: float | None = None
    scale_step_g: float | None = None
    mark_ml: float | None = None
    ruler_step_mm: float | None = None
    size_pm_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningInputs:
    """What is filled in at the Opening station; None is "as recommended". ``terms.OPENING`` has the words.

    Directions and points are in the master's own coordinates, so that they stay with it when it is turned; keys lie
    in the plan of the box.
    """

    style: str | None = None
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


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxInputs:
    """What is filled in at the Box station; None is "as recommended". ``terms.BOX`` has the words."""

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
    wall_material: str | None = None
    board_material: str | None = None
    joint: str | None = None
    sheet_length_mm: float | None = None
    sheet_width_mm: float | None = None
    kerf_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class RubberInputs:
    """What is filled in at the Rubber station; None is "as recommended". ``terms.RUBBER`` has the words."""

    rubber_id: int | None = None
    half: str | None = None
    how: str | None = None
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


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckInputs:
    """What is filled in at the Checks station; None is "as advised" or "as the shop does it". ``terms.CHECKS`` has the words."""

    between_board: str | None = None
    between_walls: str | None = None
    between_bed: str | None = None
    between_halves: str | None = None
    between_cast: str | None = None
    cast_material: str | None = None
    cast_finish: str | None = None
    insert: str | None = None
    air: str | None = None
    drop_mm: float | None = None
    vibrate_min: float | None = None
    vacuum_kpa: float | None = None
    vacuum_gauge_kpa: float | None = None
    vacuum_min: float | None = None
    pot_kpa: float | None = None
    cast_air: str | None = None
    cast_kpa: float | None = None


Inputs = MasterInputs | OpeningInputs | BoxInputs | RubberInputs | CheckInputs
INPUTS: Mapping[Station, type[Inputs]] = {
    "master": MasterInputs,
    "opening": OpeningInputs,
    "box": BoxInputs,
    "rubber": RubberInputs,
    "checks": CheckInputs,
}


def is_said(value: object) -> bool:
    """Tell whether a maker filled an input in; a 0 is said, nothing and an unticked box are not.

    Parameters
    ----------
    value : object
        Of one input.

    Returns
    -------
    bool
        False for None, empty text and False.
    """
    return value is not None and value is not False and value != ""
