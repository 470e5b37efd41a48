"""Holding down: what keeps a master on the board against the lift, and the bed that raises or seats it."""

from dataclasses import dataclass

from scipy.optimize import brentq

from ufrin.core.box.wall_bow import lift_gf
from ufrin.core.master.master_form import Master

TAPE_G_PER_CM2 = 50.0  # common practice, cautious: double-sided tape on a clean, sealed, dry face
SCREW_G = 5000.0  # common practice, cautious: one wood screw from below, 10 mm into the master
GLUE_G_PER_CM2 = 200.0  # common practice, cautious: hot glue or a smear of gel glue
PLASTER_G_PER_ML = 2.63  # calcium sulphate hemihydrate powder, handbook value, from memory
WATER_PER_PLASTER = 0.70  # by weight, common practice for pottery plaster


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldDown:
    """What holds one master down.

    Parameters
    ----------
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

    lift_g: float
    tape_cm2: float
    glue_cm2: float
    screws: int
    weight_g: float
    seat_mm: float | None


def hold_down(master: Master, sg: float, sunk_mm: float = 0.0) -> HoldDown | None:
    """Work out what holds a master down.

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
        None when it stays down by itself, or nothing is known. Figures for tape, glue and screws are common
        practice, a third of the lift over.
    """
    if master.volume_ml is None or master.mass_g is None:
        return None
    volume_ml, mass_g = master.volume_ml, master.mass_g

    def lift(seat_mm: float) -> float:
        return lift_gf(displaced_ml=volume_ml - master.below_ml(seat_mm), mass_g=mass_g, sg=sg)

    pull = lift(sunk_mm)
    if pull <= 0:
        return None
    deepest = master.height_mm * 0.95
    seat = float(brentq(lift, 0.0, deepest, xtol=0.01)) if lift(0.0) > 0 >= lift(deepest) else None
    safe = pull * 4 / 3
    return HoldDown(
        lift_g=pull,
        tape_cm2=safe / TAPE_G_PER_CM2,
        glue_cm2=safe / GLUE_G_PER_CM2,
        screws=max(1, round(safe / SCREW_G + 0.49)),
        weight_g=pull,
        seat_mm=seat,
    )


def plaster_for(volume_ml: float) -> tuple[float, float]:
    """Give the plaster and the water for a bed.

    Parameters
    ----------
    volume_ml : float
        Of the bed.

    Returns
    -------
    float, float
        Plaster and water in g: the powder's own volume and the water's make up the bed.

    Examples
    --------
    >>> [round(grams) for grams in plaster_for(100)]
    [93, 65]
    """
    plaster_g = volume_ml / (1 / PLASTER_G_PER_ML + WATER_PER_PLASTER)
    return plaster_g, plaster_g * WATER_PER_PLASTER
