"""The lift of the liquid rubber on a master, and what holds the master down against it."""

from collections.abc import Iterator
from dataclasses import dataclass

from scipy.optimize import brentq

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.data_files import read_data
from ufrin.core.master.master_form import Master
from ufrin.core.wording.findings import Amount, Finding

_FIGURES = read_data("box", "hold_down")
TAPE_G_PER_CM2 = float(_FIGURES["tape_g_per_cm2"]["value"])
GLUE_G_PER_CM2 = float(_FIGURES["glue_g_per_cm2"]["value"])
SCREW_G = float(_FIGURES["screw_g"]["value"])
SAFETY = float(_FIGURES["safety"]["value"])
DEEPEST_SEAT = 0.95  # of the master's height: more would leave nothing to mould


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldDown:
    """What holds one master down.

    Parameters
    ----------
    name : str
        Of the master, where it is of another job.
    lift_g : float
        The pull if rubber creeps under it.
    tape_cm2, glue_cm2 : float
        Face to be taped or glued.
    screws : int
        From below.
    weight_g : float
        What it would have to weigh more.
    seat_mm : float or None
        How deep to seat it in a bed so that too little is left above for it to float; None when no depth does.
    """

    name: str
    lift_g: float
    tape_cm2: float
    glue_cm2: float
    screws: int
    weight_g: float
    seat_mm: float | None


def lift_gf(*, displaced_ml: float, mass_g: float, sg: float) -> float:
    """Return the upward pull on something wholly under a liquid that gets beneath it (Archimedes).

    Parameters
    ----------
    displaced_ml, mass_g : float
        Its volume in the liquid and its weight.
    sg : float
        Of the liquid, g/ml.

    Returns
    -------
    float
        In grams-force; negative when it sinks.
    """
    return sg * displaced_ml - mass_g


def lift_of_one_g(plan: BoxPlan, master: Master, sg: float) -> float:
    """Return the upward pull on one master, should rubber creep under it.

    Parameters
    ----------
    plan : BoxPlan
        How deep it is sunk.
    master : Master
        With its displacement.
    sg : float
        Of the liquid rubber.

    Returns
    -------
    float
        In grams-force; negative when it stays down.
    """
    above_ml = (master.volume_ml or 0) - master.below_ml(plan.sunk_mm)
    return lift_gf(displaced_ml=above_ml, mass_g=master.mass_g or 0, sg=sg)


def lift_of_all_g(plan: BoxPlan) -> float | None:
    """Return the upward pull on all masters of a box together.

    Parameters
    ----------
    plan : BoxPlan
        With its masters and the SG of its rubber.

    Returns
    -------
    float or None
        In grams-force, never below 0; None while a volume, a weight or the SG is not known.
    """
    if plan.rubber_sg is None or any(master.volume_ml is None or master.mass_g is None for master in plan.masters):
        return None
    return max(0.0, sum(lift_of_one_g(plan, master, plan.rubber_sg) * master.count for master in plan.masters))


def lift_findings(plan: BoxPlan) -> Iterator[Finding]:
    """Yield whether the masters of a box stay down, or why that is not known.

    Parameters
    ----------
    plan : BoxPlan
        With its masters and the SG of its rubber.

    Yields
    ------
    Finding
        A displacement or weight that is missing, or a master that floats.
    """
    if any(master.volume_ml is None for master in plan.masters):
        yield Finding(code="no-displacement")
    elif plan.rubber_sg is not None:
        # one light master floats even when its heavy neighbours would hold the sum down
        lifts = [lift_of_one_g(plan, master, plan.rubber_sg) for master in plan.masters if master.mass_g is not None]
        if lifts and max(lifts) > 0:
            yield Finding(code="floats", facts={"lift": Amount(max(lifts), "mass", 0)}, field="bed_mm")
        if len(lifts) < len(plan.masters):
            yield Finding(code="weight-unknown", field="bed_mm")


def hold_down(master: Master, sg: float, sunk_mm: float = 0.0) -> HoldDown | None:
    """Return what holds a master down.

    Parameters
    ----------
    master : Master
        With displacement and weight.
    sg : float
        Of the liquid rubber.
    sunk_mm : float, optional
        How deep it is seated already.

    Returns
    -------
    HoldDown or None
        None when it stays down by itself, or nothing is known. Tape, glue and screws are counted for a third more
        than the lift.
    """
    if master.volume_ml is None or master.mass_g is None:
        return None
    volume_ml, mass_g = master.volume_ml, master.mass_g

    def lift(seat_mm: float) -> float:
        return lift_gf(displaced_ml=volume_ml - master.below_ml(seat_mm), mass_g=mass_g, sg=sg)

    pull = lift(sunk_mm)
    if pull <= 0:
        return None
    deepest = master.height_mm * DEEPEST_SEAT
    seat = float(brentq(lift, 0.0, deepest, xtol=0.01)) if lift(0.0) > 0 >= lift(deepest) else None
    safe = pull * SAFETY
    return HoldDown(
        name=master.name,
        lift_g=pull,
        tape_cm2=safe / TAPE_G_PER_CM2,
        glue_cm2=safe / GLUE_G_PER_CM2,
        screws=max(1, round(safe / SCREW_G + 0.49)),
        weight_g=pull,
        seat_mm=seat,
    )
