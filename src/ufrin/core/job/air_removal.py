"""Getting the air out of the rubber of a job.

It sets the schools side by side for its mix, and names what is wrong with the one chosen.
"""

from dataclasses import dataclass, replace

from ufrin.core.degassing.bubbles import ATMOSPHERE_KPA, absolute_kpa
from ufrin.core.degassing.schools import (
    AFTER_FALL_MIN,
    AirRemoval,
    Liquid,
    School,
    SchoolSettings,
    schools,
    wart_findings,
)
from ufrin.core.inputs.checks import CheckInputs, SettledChecks
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.rubber_station import Pour
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.rubber.thinner_side_effects import side_effects
from ufrin.core.rubber.tins import Rubber
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class AirRemovalContext:
    """What the choice of a school goes by: the stations as filled in, what they point to, the pour and its depth.

    ``air_kpa`` is the pressure of the air in the workshop.
    """

    checks: CheckInputs
    rubber: RubberInputs
    shelf: ShelfPicks
    mixed: Rubber | None
    pour: Pour | None
    fill_mm: float | None
    air_kpa: float = ATMOSPHERE_KPA


def chosen_school(context: AirRemovalContext, shop_school: str) -> tuple[str, bool]:
    """Return the school that counts for the rubber of a job.

    Parameters
    ----------
    context : AirRemovalContext
        Of the job.
    shop_school : str
        How the shop does it.

    Returns
    -------
    str, bool
        The school, and whether the shop's default decided.
    """
    if context.checks.air:
        return context.checks.air, False
    # a time for degassing at the Rubber station shows that it is done
    return ("vacuum", False) if context.rubber.degas_min else (shop_school, True)


def air_removal(context: AirRemovalContext, air: str) -> tuple[tuple[School, ...], list[Finding]]:
    """Compare the schools for the mix of a job.

    Parameters
    ----------
    context : AirRemovalContext
        Of the job.
    air : str
        The school that counts.

    Returns
    -------
    tuple of School, list of Finding
        Empty where they can't be compared, and why not.
    """
    settled = context.checks.settled()
    removal = AirRemoval(
        mould=air,
        cast=settled.cast_air or "",
        mould_kpa=settled.pot_kpa,
        cast_kpa=settled.cast_kpa,
        air_kpa=context.air_kpa,
    )
    found = list(wart_findings(removal))
    pour = context.pour
    if pour is None or pour.how != "poured" or not context.fill_mm:
        return (), found
    viscosity = _viscosity_mpa_s(context)
    if viscosity is None or pour.pot_life_min is None:
        what = Text("How thick the mix is") if viscosity is None else Text("How long the mix stays liquid")
        return (), [*found, Finding(code="air-not-known", facts={"what": what})]
    batch_ml = pour.mix.total_ml / len(pour.batches) if pour.mix.total_ml else pour.need_ml
    liquid = Liquid(
        viscosity_mpa_s=viscosity,
        sg=pour.mix.sg_mixed or 1.0,
        depth_mm=context.fill_mm,
        volume_ml=batch_ml,
        pour_min=context.rubber.settled().pour_min,
        still_min=max(pour.pot_life_min - pour.batch_min, 0.0),
    )
    vacuum_kpa = _vacuum_kpa(settled, context.air_kpa)
    ways = _settings(context, settled, vacuum_kpa, pour)
    return schools(liquid, ways), [*found, *_vacuum_findings(context, air, vacuum_kpa, batch_ml * ways.rise_factor)]


def _viscosity_mpa_s(context: AirRemovalContext) -> float | None:
    rubber, thinner = context.mixed, context.shelf.thinner
    if rubber is None:
        return None
    dose = rubber.parts_of_both(context.rubber.settled().thinner_parts) if thinner else 0.0
    return side_effects(rubber, dose, thinner_mpa_s=thinner.viscosity_mpa_s if thinner else None).viscosity_mpa_s


def _vacuum_kpa(settled: SettledChecks, air_kpa: float) -> float | None:
    # the absolute pressure; the reading of a gauge takes precedence, and an impossible pressure is None
    if settled.vacuum_gauge_kpa is None:
        return settled.vacuum_kpa if settled.vacuum_kpa < air_kpa else None
    try:
        return absolute_kpa(settled.vacuum_gauge_kpa, air_kpa)
    except Refused:
        return None


def _settings(
    context: AirRemovalContext, settled: SettledChecks, vacuum_kpa: float | None, pour: Pour
) -> SchoolSettings:
    degas_min = context.rubber.settled().degas_min
    ways = SchoolSettings(
        drop_mm=settled.drop_mm,
        vibrate_min=settled.vibrate_min,
        vacuum_kpa=vacuum_kpa or SchoolSettings().vacuum_kpa,
        vacuum_min=context.checks.vacuum_min or degas_min or settled.vacuum_min,
        pot_kpa=settled.pot_kpa,
        cup_ml=pour.cup_ml,
        air_kpa=context.air_kpa,
    )
    rise = context.rubber.rise_factor
    return replace(ways, rise_factor=rise) if rise and rise > 1 else ways


def _vacuum_findings(context: AirRemovalContext, air: str, vacuum_kpa: float | None, vessel_ml: float) -> list[Finding]:
    settled, found = context.checks.settled(), []
    if vacuum_kpa is None:
        typed_kpa = settled.vacuum_gauge_kpa or settled.vacuum_kpa
        said = {"pressure": Amount(typed_kpa, "pressure"), "air": Amount(context.air_kpa, "pressure")}
        found.append(Finding(code="vacuum-impossible", facts=said, field="vacuum_kpa"))
    if air != "vacuum":
        return found
    if not context.rubber.degas_min:
        time = Amount(settled.vacuum_min + AFTER_FALL_MIN, "time")
        found.append(Finding(code="vacuum-not-timed", facts={"time": time}))
    cup_ml = context.pour.cup_ml if context.pour else None
    if cup_ml and cup_ml < vessel_ml:
        facts = {"vessel": Amount(vessel_ml, "volume"), "cup": Amount(cup_ml, "volume")}
        found.append(Finding(code="vacuum-vessel", facts=facts, field="air"))
    return found
