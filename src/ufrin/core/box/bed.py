"""The bed of clay or plaster under the masters: its volume, and the plaster and water that make it."""

from ufrin.core.box.box_plan import BoxPlan
from ufrin.errors import Refused
from ufrin.language import Text

PLASTER_G_PER_ML = 2.63  # calcium sulphate hemihydrate powder, handbook value, from memory
WATER_PER_PLASTER = 0.70  # by weight, common practice for pottery plaster


def bed_volume_ml(plan: BoxPlan, holds_ml: float) -> float:
    """Return the volume of the bed: what the box holds up to it, less the sunk part of the masters.

    Parameters
    ----------
    plan : BoxPlan
        With its bed and how deep the masters sit in it.
    holds_ml : float
        What the box holds up to the top of the bed.

    Returns
    -------
    float
        In ml; where a displacement is not known, the bed counts whole.

    Raises
    ------
    Refused
        When the sunk part is more than the bed.
    """
    if not plan.bed_mm:
        return 0.0
    bed_ml = holds_ml - sum(master.count * master.below_ml(plan.sunk_mm) for master in plan.masters)
    if bed_ml < 0:
        raise Refused(
            "sunk_mm",
            Text("The sunk part of the masters is more than the whole bed. Check the displacement and the depth."),
        )
    return bed_ml


def plaster_for(volume_ml: float) -> tuple[float, float]:
    """Return the plaster and the water for a bed.

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
