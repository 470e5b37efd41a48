"""What is filled in at the Master station, and the same with every default settled."""

from dataclasses import dataclass
from typing import Literal

from ufrin.core.inputs.usual import USUAL, settle

_USUAL = USUAL["master"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SettledMaster:
    """The Master station with every default in place; None only where there is no default either."""

    what: str = ""
    mesh: str | None = None
    mesh_unit: Literal["mm", "cm", "m", "in"] = "mm"
    up: str = "0, 0, 1"
    spin_deg: float = 0.0
    shrink_pct: float = 0.0
    surface_pm_mm: float = _USUAL["surface_pm_mm"]
    standin: str | None = None
    profile: str = ""
    top_mm: float = 0.0
    ring_mm: float | None = None
    slab_base_mm: float | None = None
    relief_ml: float | None = None
    outline: Literal["rectangle", "round"] = "rectangle"
    length_mm: float | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    mass_g: float | None = None
    counted_way: str = "best"
    known_ml: float | None = None
    known_pm_ml: float | None = None
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
    boxed_count: int = 1
    grain_before_ml: float | None = None
    grain_after_ml: float | None = None
    material: str | None = None
    own_material: str = ""
    sealer: str | None = None
    release: str | None = None
    finish: str | None = None
    density_g_per_ml: float | None = None
    density_pm_g_per_ml: float = _USUAL["density_pm_g_per_ml"]
    solid: bool = False
    water_temp_c: float = _USUAL["water_temp_c"]
    scale_step_g: float = _USUAL["scale_step_g"]
    mark_ml: float = _USUAL["mark_ml"]
    ruler_step_mm: float = _USUAL["ruler_step_mm"]
    size_pm_mm: float = _USUAL["size_pm_mm"]


@dataclass(frozen=True, slots=True, kw_only=True)
class MasterInputs:
    """What a maker filled in at the Master station; None is "not filled in"."""

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
    known_ml: float | None = None
    known_pm_ml: float | None = None
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

    def settled(self) -> SettledMaster:
        """Return the same with every default in place."""
        return settle(self, SettledMaster)
