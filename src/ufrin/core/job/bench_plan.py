"""The bench plan of a pour: its weigh plan, and the method by which it is worked, from the job's stations."""

from ufrin.core.clocks.cure_factor import TIN, CureFactor
from ufrin.core.degassing.schools import USUAL_RISE
from ufrin.core.inputs.checks import SettledChecks
from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.job.rubber_station import Pour
from ufrin.core.weighing.method import Method
from ufrin.core.weighing.putty import KNEAD_MIN
from ufrin.core.weighing.weigh_plan import WeighPlan


def method_of(pour: Pour, settled: SettledRubber, checks: SettledChecks, air: str) -> Method:
    """Return how a pour is worked at the bench.

    Parameters
    ----------
    pour : Pour
        As it is planned.
    settled : SettledRubber
        The figures that count for it.
    checks : SettledChecks
        The Checks station.
    air : str
        The school of getting the air out that counts.

    Returns
    -------
    Method
        Mixing times are the tin's; where it states none, the job's own, or what is usual for a putty.
    """
    rubber, is_poured = pour.rubber, pour.how == "poured"
    planned_min = KNEAD_MIN if pour.how == "putty" else settled.mix_min
    least_min = rubber.mix_least_min or min(planned_min, rubber.mix_most_min or planned_min)
    largest_ml = max(sum(one.g for one in batch) for batch in pour.batches) / (pour.mix.sg_mixed or rubber.sg)
    rise = settled.rise_factor if settled.rise_factor > 1 else USUAL_RISE
    return Method(
        how=pour.how,
        basis=settled.basis if rubber.by_volume else "weight",
        takes_kit=settled.amount == "kit",
        air=air if is_poured else "",
        least_mix_min=least_min,
        most_mix_min=rubber.mix_most_min,
        degas_min=settled.degas_min or checks.vacuum_min,
        vessel_ml=rise * largest_ml if is_poured and air == "vacuum" else None,
        vibrate_min=checks.vibrate_min,
        pot_kpa=checks.pot_kpa,
        drop_mm=checks.drop_mm,
        drops_per_ml=settled.drops_per_ml,
    )


def weigh_plan(
    pour: Pour,
    settled: SettledRubber,
    what: str,
    *,
    method: Method | None = None,
    style: str = "",
    slit_mm: float | None = None,
    factor: CureFactor = TIN,
) -> WeighPlan:
    """Write down what the bench needs to know.

    Parameters
    ----------
    pour : Pour
        As it is now.
    settled : SettledRubber
        The figures that counted for it.
    what : str
        What is poured.
    method : Method, optional
        How it is worked.
    style, slit_mm : str, float or None, optional
        The kind of mould, and how far from its mouth it is slit.
    factor : CureFactor, optional
        What the shop has learnt of the rubber's times.

    Returns
    -------
    WeighPlan
        To be kept with the pour.
    """
    parts, rubber = pour.mix.parts, pour.rubber
    return WeighPlan(
        what=what,
        half=pour.half,
        how=pour.how,
        rubber=rubber.name,
        b_per_a=parts["B"].g / parts["A"].g,
        tolerance_pct=rubber.tolerance_pct,
        step_g=settled.scale_step_g,
        sg=pour.mix.sg_mixed or rubber.sg,
        need_g=pour.need_g,
        batches=pour.batches,
        cup_ml=pour.cup_ml,
        pot_life_min=rubber.pot_life_min,
        demould_min=pour.tin_demould_min,
        full_cure_min=pour.tin_full_cure_min,
        mix_min=settled.mix_min,
        degas_min=settled.degas_min,
        pour_min=settled.pour_min,
        method=method,
        press_min=rubber.press_window_min,
        cast_in_min=pour.tin_cast_in_min,
        family=rubber.family,
        style=style,
        slit_mm=slit_mm,
        cure_factor=factor,
    )
