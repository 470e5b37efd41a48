"""The ways to measure a master by hand, best first: the readings that each one needs, and the volume they give."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from ufrin.core.inputs.master import MasterInputs, SettledMaster
from ufrin.core.inputs.stations import is_filled_in
from ufrin.core.master.displacement import (
    MeasuredVolume,
    boxed,
    dip,
    grain_rise,
    hung_from_scale,
    hung_in_beaker,
    known,
    level_rise,
    weight_over_density,
)
from ufrin.core.master.measurements_compared import are_apart
from ufrin.core.materials.tables import MATERIALS
from ufrin.errors import Refused
from ufrin.language import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuringWay:
    """A way to measure a displacement: the readings it must have, those it may have, and how they give a volume."""

    needs: tuple[str, ...]
    may: tuple[str, ...]
    measure: Callable[[SettledMaster], MeasuredVolume]


@dataclass(frozen=True, slots=True, kw_only=True)
class WayAnswer:
    """What one way gave: a volume, a refusal, or (both None) readings that are still missing."""

    key: str
    measured: MeasuredVolume | None = None
    refused: Refused | None = None
    missing: tuple[str, ...] = ()


def _given(reading: float | None) -> float:
    # a way is only evaluated once everything that it needs was filled in
    if reading is None:
        raise Refused("", Text("A reading is missing. Fill in all readings of this way."))
    return reading


def _known(inputs: SettledMaster) -> MeasuredVolume:
    volume_ml = _given(inputs.known_ml)
    return known(volume_ml=volume_ml, plus_minus_ml=inputs.known_pm_ml)


def _hung(inputs: SettledMaster) -> MeasuredVolume:
    return hung_in_beaker(
        reading_g=_given(inputs.hung_reading_g),
        sinker_g=inputs.hung_sinker_g,
        water_temp_c=inputs.water_temp_c,
        scale_step_g=inputs.scale_step_g,
    )


def _under(inputs: SettledMaster) -> MeasuredVolume:
    return hung_from_scale(
        dry_g=_given(inputs.mass_g),
        in_water_g=_given(inputs.under_reading_g),
        sinker_in_water_g=inputs.under_sinker_g,
        water_temp_c=inputs.water_temp_c,
        scale_step_g=inputs.scale_step_g,
    )


def _level(inputs: SettledMaster) -> MeasuredVolume:
    before_ml, after_ml = _given(inputs.level_before_ml), _given(inputs.level_after_ml)
    return level_rise(before_ml=before_ml, after_ml=after_ml, mark_ml=inputs.mark_ml)


def _dip(inputs: SettledMaster) -> MeasuredVolume:
    return dip(
        diameter_mm=_given(inputs.dip_diameter_mm),
        before_mm=_given(inputs.dip_before_mm),
        after_mm=_given(inputs.dip_after_mm),
        step_mm=inputs.ruler_step_mm,
        diameter_pm_mm=inputs.size_pm_mm,
    )


def _boxed(inputs: SettledMaster) -> MeasuredVolume:
    return boxed(
        length_mm=_given(inputs.boxed_length_mm),
        width_mm=inputs.boxed_width_mm,
        depth_mm=_given(inputs.boxed_depth_mm),
        net_ml=_given(inputs.boxed_net_ml),
        mark_ml=inputs.mark_ml,
        size_pm_mm=inputs.size_pm_mm,
        count=inputs.boxed_count,
    )


def _grain(inputs: SettledMaster) -> MeasuredVolume:
    before_ml, after_ml = _given(inputs.grain_before_ml), _given(inputs.grain_after_ml)
    return grain_rise(before_ml=before_ml, after_ml=after_ml, mark_ml=inputs.mark_ml)


def _density(inputs: SettledMaster) -> MeasuredVolume:
    return weight_over_density(
        mass_g=_given(inputs.mass_g),
        mass_pm_g=inputs.scale_step_g,
        material=MATERIALS.get(inputs.material or ""),
        density_g_per_ml=inputs.density_g_per_ml,
        density_pm_g_per_ml=inputs.density_pm_g_per_ml,
        solid=inputs.solid,
    )


# best first
WAY_OF: Mapping[str, MeasuringWay] = {
    "hung": MeasuringWay(needs=("hung_reading_g",), may=("hung_sinker_g",), measure=_hung),
    "under": MeasuringWay(needs=("under_reading_g", "mass_g"), may=("under_sinker_g",), measure=_under),
    "known": MeasuringWay(needs=("known_ml",), may=("known_pm_ml",), measure=_known),
    "level": MeasuringWay(needs=("level_before_ml", "level_after_ml"), may=(), measure=_level),
    "dip": MeasuringWay(needs=("dip_diameter_mm", "dip_before_mm", "dip_after_mm"), may=(), measure=_dip),
    "boxed": MeasuringWay(
        needs=("boxed_length_mm", "boxed_depth_mm", "boxed_net_ml"),
        may=("boxed_width_mm", "boxed_count"),
        measure=_boxed,
    ),
    "grain": MeasuringWay(needs=("grain_before_ml", "grain_after_ml"), may=(), measure=_grain),
    "density": MeasuringWay(
        needs=("mass_g",), may=("material", "density_g_per_ml", "density_pm_g_per_ml", "solid"), measure=_density
    ),
}


# readings of an egg of 50 ml and 60 g, to compare how exact the ways are before anything was measured
_EGG: Mapping[str, float | str] = {
    "mass_g": 60.0,
    "material": "",
    "density_g_per_ml": 1.2,
    "hung_reading_g": 49.9,
    "under_reading_g": 10.1,
    "known_ml": 50.0,
    "level_before_ml": 100.0,
    "level_after_ml": 150.0,
    "dip_diameter_mm": 80.0,
    "dip_before_mm": 50.0,
    "dip_after_mm": 60.0,
    "boxed_length_mm": 80.0,
    "boxed_width_mm": 70.0,
    "boxed_depth_mm": 55.0,
    "boxed_net_ml": 258.0,
    "grain_before_ml": 100.0,
    "grain_after_ml": 150.0,
}
EGG_ML = 50.0


def error_on_an_egg_ml(key: str, inputs: MasterInputs) -> float | None:
    """Return how far a way may be off on a small master, with the instruments that are at hand.

    Parameters
    ----------
    key : str
        The way.
    inputs : MasterInputs
        Of the job: how finely scale, jug and ruler read is taken from it.

    Returns
    -------
    float or None
        Plus or minus, in ml, for a master of ``EGG_ML``; None where it can't be measured so with these instruments,
        such as in boiling water.
    """
    way = WAY_OF[key]
    readings = {name: value for name, value in _EGG.items() if name in (*way.needs, *way.may)}
    try:
        return way.measure(replace(inputs.settled(), **readings)).plus_minus_ml  # type: ignore[arg-type]
    except Refused:
        return None


def answers_by_hand(inputs: MasterInputs) -> tuple[WayAnswer, ...]:
    """Return what every way that was begun gives.

    Parameters
    ----------
    inputs : MasterInputs
        As filled in.

    Returns
    -------
    tuple of WayAnswer
        Best first.
    """
    settled = inputs.settled()
    return tuple(_answer(key, way, inputs, settled) for key, way in WAY_OF.items() if _is_begun(way, inputs))


def _is_begun(way: MeasuringWay, inputs: MasterInputs) -> bool:
    # the weight is a fact of the master, not a sign that weight over density or the scale's hook is meant
    return any(is_filled_in(getattr(inputs, key)) for key in (*way.needs, *way.may) if key != "mass_g")


def _answer(key: str, way: MeasuringWay, inputs: MasterInputs, settled: SettledMaster) -> WayAnswer:
    missing = tuple(need for need in way.needs if getattr(inputs, need) is None)
    if missing:
        return WayAnswer(key=key, missing=missing)
    try:
        return WayAnswer(key=key, measured=way.measure(settled))
    except Refused as refused:
        # a check that names no field of the station is shown at the way's first reading
        field = refused.field if hasattr(settled, refused.field) else way.needs[0]
        return WayAnswer(key=key, refused=Refused(field, refused.why))


def disagreeing(answers: tuple[WayAnswer, ...]) -> tuple[WayAnswer, ...]:
    """Return the answers that are further from another one than their errors explain.

    Parameters
    ----------
    answers : tuple of WayAnswer
        Of one master.

    Returns
    -------
    tuple of WayAnswer
        In the same order; none where all agree.
    """
    done = [(answer, answer.measured) for answer in answers if answer.measured]
    return tuple(one for one, a in done if any(are_apart(a, b) for _, b in done))


def is_undecided(answers: tuple[WayAnswer, ...], wanted: str) -> bool:
    """Return whether measurements disagree and nobody said which of them counts.

    Parameters
    ----------
    answers : tuple of WayAnswer
        Of one master.
    wanted : str
        The way that the maker chose.

    Returns
    -------
    bool
        False where all agree, or one that gave a volume was chosen.
    """
    return bool(disagreeing(answers)) and not any(one.measured and one.key == wanted for one in answers)


def best_answer(answers: tuple[WayAnswer, ...], wanted: str) -> WayAnswer | None:
    """Return the answer that counts.

    Parameters
    ----------
    answers : tuple of WayAnswer
        Best way first.
    wanted : str
        The way that the maker chose; any other word leaves it to the errors.

    Returns
    -------
    WayAnswer or None
        The chosen one where it gave a volume, else the one with the smallest error; None without any volume. While
        measurements disagree and none was chosen, the smallest volume of those that disagree counts: rubber can't run
        short by it.
    """
    done = [answer for answer in answers if answer.measured]
    chosen = [answer for answer in done if answer.key == wanted]
    if chosen:
        return chosen[0]
    apart = disagreeing(answers)

    def rank(answer: WayAnswer) -> float:
        measured = answer.measured
        return 0.0 if measured is None else measured.volume_ml if apart else measured.plus_minus_ml

    return min(apart or done, key=rank, default=None)
