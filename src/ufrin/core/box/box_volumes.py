"""The volumes of a box: what it holds, what the masters displace, the bed, and the net volume of rubber."""

from dataclasses import dataclass

from ufrin.core.box.bed import bed_volume_ml
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.inside import Inside
from ufrin.errors import Refused
from ufrin.language import Text

MOST_ML = 1e7


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxVolumes:
    """Volumes of a whole gang, in ml; what is displaced includes the lip of a tray and the filler."""

    gross_ml: float
    displaced_ml: float
    bed_ml: float

    @property
    def net_ml(self) -> float:
        """The rubber: gross less displaced less bed."""
        return self.gross_ml - self.displaced_ml - self.bed_ml


def box_volumes(plan: BoxPlan, inside: Inside, fill_mm: float) -> BoxVolumes:
    """Return the volumes of a box.

    Parameters
    ----------
    plan : BoxPlan
        Masters, shape and clearances.
    inside : Inside
        Of the box.
    fill_mm : float
        The fill line above the board.

    Returns
    -------
    BoxVolumes
        Where a displacement is not known, it counts as nothing.

    Raises
    ------
    Refused
        When the box would be larger than is believable, or the masters are sunk deeper than their bed has room for.
    """
    gross_ml = inside.holds_ml(fill_mm)
    if gross_ml > MOST_ML:
        raise Refused(
            "masters",
            Text(
                "That box would hold {gross_ml:.1f} m³; Ufrin stops at 10. Check sizes and units.",
                gross_ml=gross_ml / 1e6,
            ),
        )
    masters_ml = sum(master.count * (master.volume_ml or 0) for master in plan.masters)
    return BoxVolumes(
        gross_ml=gross_ml,
        displaced_ml=masters_ml + _lip_ml(plan) + plan.filler_ml,
        bed_ml=bed_volume_ml(plan, inside.holds_ml(plan.bed_mm)),
    )


def _lip_ml(plan: BoxPlan) -> float:
    if plan.kind != "tray":
        return 0.0
    return sum(master.count * float(master.plan_outline().area) * plan.lip_mm / 1000 for master in plan.masters)
