"""Masters: the Master station worked out, from every way the displacement was measured to the one that counts."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from ufrin.core.displacement import (
    HEAVIEST_G_PER_ML,
    LEAD_G_PER_ML,
    Measured,
    boxed,
    compare,
    dip,
    hung_from_scale,
    hung_in_beaker,
    level_rise,
    off_table,
    weight_over_density,
)
from ufrin.core.figures import MATERIALS
from ufrin.core.findings import Amount, Finding, worst_first
from ufrin.core.solids import block_ml, drum_ml
from ufrin.core.stations import MasterInputs, is_said
from ufrin.core.terms import MASTER, WAYS, settled
from ufrin.errors import Refused


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """A way to measure the displacement: the readings it must have, those it may have, and how they are turned into a volume."""

    needs: tuple[str, ...]
    may: tuple[str, ...]
    measure: Callable[[Mapping[str, Any]], Measured]


def _scale(said: Mapping[str, Any]) -> dict[str, float]:
    return {"water_temp_c": said["water_temp_c"], "scale_step_g": said["scale_step_g"]}


# Best first.
WAY_OF: Mapping[str, Way] = {
    "hung": Way(
        needs=("hung_reading_g",),
        may=("hung_sinker_g",),
        measure=lambda said: hung_in_beaker(reading_g=said["hung_reading_g"], sinker_g=said["hung_sinker_g"], **_scale(said)),
    ),
    "under": Way(
        needs=("under_reading_g", "mass_g"),
        may=("under_sinker_g",),
        measure=lambda said: hung_from_scale(
            dry_g=said["mass_g"], in_water_g=said["under_reading_g"], sinker_in_water_g=said["under_sinker_g"], **_scale(said)
        ),
    ),
    "level": Way(
        needs=("level_before_ml", "level_after_ml"),
        may=(),
        measure=lambda said: level_rise(before_ml=said["level_before_ml"], after_ml=said["level_after_ml"], mark_ml=said["mark_ml"]),
    ),
    "dip": Way(
        needs=("dip_diameter_mm", "dip_before_mm", "dip_after_mm"),
        may=(),
        measure=lambda said: dip(
            diameter_mm=said["dip_diameter_mm"],
            before_mm=said["dip_before_mm"],
            after_mm=said["dip_after_mm"],
            step_mm=said["ruler_step_mm"],
            diameter_pm_mm=said["size_pm_mm"],
        ),
    ),
    "boxed": Way(
        needs=("boxed_length_mm", "boxed_depth_mm", "boxed_net_ml"),
        may=("boxed_width_mm", "boxed_count"),
        measure=lambda said: boxed(
            length_mm=said["boxed_length_mm"],
            width_mm=said["boxed_width_mm"],
            depth_mm=said["boxed_depth_mm"],
            net_ml=said["boxed_net_ml"],
            mark_ml=said["mark_ml"],
            size_pm_mm=said["size_pm_mm"],
            count=int(said["boxed_count"]),
        ),
    ),
    "density": Way(
        needs=("mass_g",),
        may=("material", "density_g_per_ml", "density_pm_g_per_ml", "solid"),
        measure=lambda said: weight_over_density(
            mass_g=said["mass_g"],
            mass_pm_g=said["scale_step_g"],
            material=MATERIALS.get(said["material"] or ""),
            density_g_per_ml=said["density_g_per_ml"],
            density_pm_g_per_ml=said["density_pm_g_per_ml"],
            solid=said["solid"],
        ),
    ),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class WayAnswer:
    """What one way gave: a volume, a refusal, or (both None) readings still missing."""

    key: str
    measured: Measured | None = None
    refused: Refused | None = None
    missing: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class MasterAnswer:
    """The Master station worked out. ``ways`` holds those that were begun, best first; ``counted`` the one that counts."""

    outside_ml: float | None
    ways: tuple[WayAnswer, ...]
    counted: WayAnswer | None
    density_g_per_ml: float | None
    findings: tuple[Finding, ...]

    @property
    def measured(self) -> Measured | None:
        """The displacement that counts."""
        return self.counted.measured if self.counted else None


def answer_master(inputs: MasterInputs) -> MasterAnswer:
    """Work out the Master station.

    Parameters
    ----------
    inputs : MasterInputs
        As filled in.

    Returns
    -------
    MasterAnswer
        Every way that was begun, the one that counts, and what disagrees.
    """
    said = settled(inputs, MASTER)
    outside_ml = _outside_ml(said)
    ways = tuple(_answer_way(key, way, inputs, said) for key, way in WAY_OF.items() if _begun(way, inputs))
    done = [way for way in ways if way.measured]
    counted = _counted(done, said["counted_way"])
    volume_ml = counted.measured.volume_ml if counted and counted.measured else None
    density = inputs.mass_g / volume_ml if inputs.mass_g and volume_ml else None
    findings = list(compare([(WAYS[way.key], way.measured) for way in done if way.measured]))
    findings += off_table(MATERIALS.get(inputs.material or ""), inputs.density_g_per_ml)
    if outside_ml is not None and volume_ml is None:
        findings.append(Finding(code="no-displacement"))
    if outside_ml and volume_ml and volume_ml > outside_ml * (1 + 1e-9):
        facts = {"volume": Amount(volume_ml, "volume", 1), "outside": Amount(outside_ml, "volume", 1)}
        findings.append(Finding(code="more-than-outside", facts=facts, field="length_mm"))
    if density and density > LEAD_G_PER_ML:
        code = "density-impossible" if density > HEAVIEST_G_PER_ML else "density-unlikely"
        findings.append(Finding(code=code, facts={"density": Amount(density, "density")}, field="mass_g"))
    return MasterAnswer(outside_ml=outside_ml, ways=ways, counted=counted, density_g_per_ml=density, findings=worst_first(findings))


def _outside_ml(said: Mapping[str, Any]) -> float | None:
    if said["outline"] == "round":
        return drum_ml(said["length_mm"], said["height_mm"]) if said["length_mm"] and said["height_mm"] else None
    sizes = said["length_mm"], said["width_mm"], said["height_mm"]
    return block_ml(*sizes) if all(sizes) else None


def _begun(way: Way, inputs: MasterInputs) -> bool:
    # the weight is a plain fact of the master, not a sign that weight over density or the scale's hook is meant
    return any(is_said(getattr(inputs, key)) for key in (*way.needs, *way.may) if key != "mass_g")


def _answer_way(key: str, way: Way, inputs: MasterInputs, said: Mapping[str, Any]) -> WayAnswer:
    missing = tuple(need for need in way.needs if getattr(inputs, need) is None)
    if missing:
        return WayAnswer(key=key, missing=missing)
    try:
        return WayAnswer(key=key, measured=way.measure(said))
    except Refused as refused:
        # a core check that names no field of ours is shown at the way's first reading
        field = refused.field if refused.field in MASTER else way.needs[0]
        return WayAnswer(key=key, refused=Refused(field, refused.why))


def _counted(done: list[WayAnswer], wanted: str) -> WayAnswer | None:
    chosen = [way for way in done if way.key == wanted]
    by_error = sorted(done, key=lambda way: way.measured.plus_minus_ml if way.measured else 0)
    return next(iter(chosen or by_error), None)
