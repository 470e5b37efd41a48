"""Masters: the Master station worked out, from every way the displacement was measured to the one that counts."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from ufrin.core.inputs.stations import MasterInputs, is_said
from ufrin.core.job.terms import MASTER, WAYS, settled
from ufrin.core.master.displacement import (
    HEAVIEST_G_PER_ML,
    LEAD_G_PER_ML,
    MeasuredVolume,
    boxed,
    compare,
    dip,
    grain_rise,
    hung_from_scale,
    hung_in_beaker,
    level_rise,
    off_table,
    weight_over_density,
)
from ufrin.core.master.master_form import Form, Master, stood_up
from ufrin.core.master.stand_ins import ball, block, cone, fitted, ring, slab, turned
from ufrin.core.master.turned_profiles import direction_of, pairs_of
from ufrin.core.materials.kinds import SOMETHING_ELSE
from ufrin.core.materials.tables import MATERIALS
from ufrin.core.measures.plain_volumes import block_ml, drum_ml
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuringWay:
    """A way to measure the displacement: the readings it must have, those it may have, and how they are turned into a volume."""

    needs: tuple[str, ...]
    may: tuple[str, ...]
    measure: Callable[[Mapping[str, Any]], MeasuredVolume]


def _scale(said: Mapping[str, Any]) -> dict[str, float]:
    return {"water_temp_c": said["water_temp_c"], "scale_step_g": said["scale_step_g"]}


# Best first.
WAY_OF: Mapping[str, MeasuringWay] = {
    "hung": MeasuringWay(
        needs=("hung_reading_g",),
        may=("hung_sinker_g",),
        measure=lambda said: hung_in_beaker(
            reading_g=said["hung_reading_g"], sinker_g=said["hung_sinker_g"], **_scale(said)
        ),
    ),
    "under": MeasuringWay(
        needs=("under_reading_g", "mass_g"),
        may=("under_sinker_g",),
        measure=lambda said: hung_from_scale(
            dry_g=said["mass_g"],
            in_water_g=said["under_reading_g"],
            sinker_in_water_g=said["under_sinker_g"],
            **_scale(said),
        ),
    ),
    "level": MeasuringWay(
        needs=("level_before_ml", "level_after_ml"),
        may=(),
        measure=lambda said: level_rise(
            before_ml=said["level_before_ml"], after_ml=said["level_after_ml"], mark_ml=said["mark_ml"]
        ),
    ),
    "dip": MeasuringWay(
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
    "boxed": MeasuringWay(
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
    "grain": MeasuringWay(
        needs=("grain_before_ml", "grain_after_ml"),
        may=(),
        measure=lambda said: grain_rise(
            before_ml=said["grain_before_ml"], after_ml=said["grain_after_ml"], mark_ml=said["mark_ml"]
        ),
    ),
    "density": MeasuringWay(
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
    measured: MeasuredVolume | None = None
    refused: Refused | None = None
    missing: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class MasterAnswer:
    """The Master station worked out.

    ``ways`` holds those that were begun, best first; ``counted`` the one that counts; ``form`` is the mesh
    or stand-in as it stands, and ``form_refused`` why there is none although one was asked for.
    """

    size_mm: tuple[float, float, float] | None
    outside_ml: float | None
    ways: tuple[WayAnswer, ...]
    counted: WayAnswer | None
    density_g_per_ml: float | None
    form: Form | None
    form_refused: Refused | None
    findings: tuple[Finding, ...]

    @property
    def measured(self) -> MeasuredVolume | None:
        """The displacement that counts."""
        return self.counted.measured if self.counted else None


# what each stand-in is made from, besides its own readings
STANDIN_NEEDS: Mapping[str, tuple[str, ...]] = {
    "block": ("length_mm", "width_mm", "height_mm"),
    "drum": ("length_mm", "height_mm"),
    "cone": ("length_mm", "top_mm", "height_mm"),
    "ball": ("length_mm",),
    "ring": ("length_mm", "ring_mm"),
    "slab": ("length_mm", "width_mm", "height_mm", "slab_base_mm", "relief_ml"),
    "profile": ("profile",),
    "fitted": ("length_mm", "width_mm", "height_mm"),
}


def answer_master(inputs: MasterInputs, mesh: Form | None = None) -> MasterAnswer:
    """Work out the Master station.

    Parameters
    ----------
    inputs : MasterInputs
        As filled in.
    mesh : Form or None, optional
        Its mesh as it stands, where one was uploaded.

    Returns
    -------
    MasterAnswer
        Every way that was begun, the one that counts, and what disagrees.
    """
    if inputs.material == SOMETHING_ELSE:  # which says nothing of its density
        inputs = replace(inputs, material=None)
    said = settled(inputs, MASTER)
    by_hand = [_answer_way(key, way, inputs, said) for key, way in WAY_OF.items() if _begun(way, inputs)]
    form, form_refused = mesh, None
    if mesh is None and inputs.standin:
        measured = _counted([way for way in by_hand if way.measured], said["counted_way"])
        try:
            form = _standin(inputs, measured.measured if measured else None)
        except Refused as refused:
            form_refused = refused
    ways = (*_form_ways(form, inputs, said), *by_hand)
    size_mm = form.size_mm if form else _size_mm(said)
    outside_ml = _outside_ml(size_mm, "rectangle" if form else said["outline"])
    done = [way for way in ways if way.measured]
    # what it is made of is told for its surface too, so that says nothing against a print that was measured otherwise
    ways = tuple(way for way in ways if not (done and way.key == "density" and _may_be_hollow(inputs)))
    counted = _counted(done, said["counted_way"])
    volume_ml = counted.measured.volume_ml if counted and counted.measured else None
    density = inputs.mass_g / volume_ml if inputs.mass_g and volume_ml else None
    findings = list(compare([(WAYS[way.key], way.measured) for way in done if way.measured]))
    findings += off_table(MATERIALS.get(inputs.material or ""), inputs.density_g_per_ml)
    if form and form.is_standin:
        findings.append(Finding(code="standin", field="standin"))
    if outside_ml is not None and volume_ml is None:
        findings.append(Finding(code="no-displacement"))
    if outside_ml and volume_ml and volume_ml > outside_ml * (1 + 1e-9):
        facts = {"volume": Amount(volume_ml, "volume", 1), "outside": Amount(outside_ml, "volume", 1)}
        findings.append(Finding(code="more-than-outside", facts=facts, field="length_mm"))
    if density and density > LEAD_G_PER_ML:
        code = "density-impossible" if density > HEAVIEST_G_PER_ML else "density-unlikely"
        findings.append(Finding(code=code, facts={"density": Amount(density, "density")}, field="mass_g"))
    return MasterAnswer(
        size_mm=size_mm,
        outside_ml=outside_ml,
        ways=ways,
        counted=counted,
        density_g_per_ml=density,
        form=form,
        form_refused=form_refused,
        findings=worst_first(findings),
    )


def box_master(inputs: MasterInputs, answer: MasterAnswer, count: int, name: str = "") -> Master | None:
    """Give a master as a box sees it.

    Parameters
    ----------
    inputs : MasterInputs
        Of its Master station.
    answer : MasterAnswer
        The same worked out.
    count : int
        How many stand in the box.
    name : str, optional
        What it is called there.

    Returns
    -------
    Master or None
        None while its size is not known.

    Raises
    ------
    Refused
        While its figures contradict each other.
    """
    if answer.size_mm is None:
        return None
    if any(finding.level == "stop" for finding in answer.findings):
        raise Refused("", "The figures of the master contradict each other. Settle that on the Master station first.")
    length, width, height = answer.size_mm
    is_round = answer.form is None and inputs.outline == "round"
    return Master(
        length_mm=length,
        width_mm=width,
        height_mm=height,
        volume_ml=answer.measured.volume_ml if answer.measured else None,
        mass_g=inputs.mass_g,
        count=count,
        outline="round" if is_round else "rectangle",
        form=answer.form,
        name=name,
    )


def turned_standin(inputs: MasterInputs, measured: MeasuredVolume | None) -> Mesh | None:
    """Make a master's stand-in as it was described, before it is turned.

    Parameters
    ----------
    inputs : MasterInputs
        With the stand-in chosen.
    measured : MeasuredVolume or None
        The displacement, for a body fitted to it.

    Returns
    -------
    Mesh or None
        None while something that it needs is missing.
    """
    said, kind = settled(inputs, MASTER), inputs.standin or ""
    needs = [key for key in STANDIN_NEEDS.get(kind, ()) if key != "relief_ml"]
    if (
        kind not in STANDIN_NEEDS
        or any(said[key] in (None, "") for key in needs)
        or (kind == "fitted" and measured is None)
    ):
        return None
    length, width, height = said["length_mm"], said["width_mm"], said["height_mm"]
    return {
        "block": lambda: block(length, width, height),
        "drum": lambda: cone(length, length, height),
        "cone": lambda: cone(length, said["top_mm"], height),
        "ball": lambda: ball(length),
        "ring": lambda: ring(length, said["ring_mm"]),
        "slab": lambda: slab(length, width, height, said["slab_base_mm"], said["relief_ml"]),
        "profile": lambda: turned(pairs_of(said["profile"])),
        "fitted": lambda: fitted(length, width, height, measured.volume_ml if measured else 0.0),
    }[kind]()


@lru_cache(maxsize=64)  # every page of a job asks for the same one
def _standin(inputs: MasterInputs, measured: MeasuredVolume | None) -> Form | None:
    made = turned_standin(inputs, measured)
    if made is None:
        return None
    said = settled(inputs, MASTER)
    return stood_up(made, direction_of(said["up"]), said["spin_deg"], is_standin=True)


def _form_ways(form: Form | None, inputs: MasterInputs, said: Mapping[str, Any]) -> list[WayAnswer]:
    # a fitted body takes its volume from the other ways, so it is none of its own
    if form is None or (form.is_standin and inputs.standin == "fitted"):
        return []
    skin_mm = said["size_pm_mm"] if form.is_standin else said["surface_pm_mm"]
    measured = MeasuredVolume(volume_ml=form.volume_ml, plus_minus_ml=form.area_cm2 * skin_mm / 10)
    return [WayAnswer(key="standin" if form.is_standin else "mesh", measured=measured)]


def _may_be_hollow(inputs: MasterInputs) -> bool:
    material = MATERIALS.get(inputs.material or "")
    return bool(material and material.may_be_hollow and not inputs.solid and inputs.density_g_per_ml is None)


def _size_mm(said: Mapping[str, Any]) -> tuple[float, float, float] | None:
    width = said["length_mm"] if said["outline"] == "round" else said["width_mm"]
    if not (said["length_mm"] and width and said["height_mm"]):
        return None
    return said["length_mm"], width, said["height_mm"]


def _outside_ml(size_mm: tuple[float, float, float] | None, outline: str) -> float | None:
    if size_mm is None:
        return None
    return drum_ml(size_mm[0], size_mm[2]) if outline == "round" else block_ml(*size_mm)


def _begun(way: MeasuringWay, inputs: MasterInputs) -> bool:
    # the weight is a plain fact of the master, not a sign that weight over density or the scale's hook is meant
    return any(is_said(getattr(inputs, key)) for key in (*way.needs, *way.may) if key != "mass_g")


def _answer_way(key: str, way: MeasuringWay, inputs: MasterInputs, said: Mapping[str, Any]) -> WayAnswer:
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
