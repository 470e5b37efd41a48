"""Drops: a small amount counted in drops of a dropper that was calibrated."""

from dataclasses import dataclass

from ufrin.errors import Refused
from ufrin.language import Text

# common practice for water; thicker liquids make fewer and larger drops, so a dropper is calibrated
# with the liquid itself
USUAL_PER_ML = 20.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Drops:
    """An amount in drops: how many, and the error of one drop more or less."""

    number: int
    one_drop_pct: float


def drops_per_ml(count: int, mass_g: float, sg: float) -> float:
    """Calibrate a dropper: count drops onto a scale.

    Parameters
    ----------
    count : int
        Drops let fall; fifty or more are good.
    mass_g, sg : float
        What they weigh, and the liquid's SG.

    Returns
    -------
    float
        Drops per ml.

    Raises
    ------
    Refused
        For no drops, or drops of no weight.

    Examples
    --------
    >>> drops_per_ml(50, 2.5, 1.0)
    20.0
    """
    if not 0 < count <= 100_000 or not mass_g > 0 or not sg > 0:
        raise Refused(
            "drops_per_ml", Text("Count some drops onto the scale: their number and weight must be more than nothing.")
        )
    return count * sg / mass_g


def drops(mass_g: float, sg: float, per_ml: float) -> Drops:
    """Express an amount in drops.

    Parameters
    ----------
    mass_g, sg : float
        The amount, and the liquid's SG.
    per_ml : float
        Of the dropper.

    Returns
    -------
    Drops
        Rounded to whole drops.

    Raises
    ------
    Refused
        When it is more than anyone counts, or less than half a drop.
    """
    exact = mass_g / sg * per_ml
    if not 0.5 <= exact <= 2000:
        raise Refused("drops_per_ml", Text("Drops are for amounts between one drop and some hundreds. Weigh this."))
    return Drops(number=round(exact), one_drop_pct=100 / exact)
