"""The mix of a pour: what is to be mixed and what of, by what the Rubber station points to on the Shelf."""

from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.job.pour_targets import PourTarget
from ufrin.core.job.shelf_picks import ShelfPicks, left_on_shelf_g
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.batches import Recipe
from ufrin.core.weighing.mix import MixPlan, Thinner
from ufrin.errors import Refused
from ufrin.language import Text


def cup_ml(shelf: ShelfPicks, settled: SettledRubber) -> float | None:
    """Return what the cup holds.

    Parameters
    ----------
    shelf : ShelfPicks
        With the cup chosen on the Shelf.
    settled : SettledRubber
        The Rubber station.

    Returns
    -------
    float or None
        None where none is named.
    """
    return shelf.cup.holds_ml if shelf.cup else settled.cup_ml


def mix_plan(target: PourTarget, shelf: ShelfPicks, rubber: Rubber, settled: SettledRubber) -> MixPlan:
    """Return what is to be mixed for a pour.

    Parameters
    ----------
    target : PourTarget
        What it fills.
    shelf : ShelfPicks
        What the Rubber station points to.
    rubber : Rubber
        As it is mixed.
    settled : SettledRubber
        The Rubber station.

    Returns
    -------
    MixPlan
        By need, or by the A that is left.

    Raises
    ------
    Refused
        When something is missing, or a blend has nothing of its first rubber.
    """
    by_volume = settled.basis == "volume" and rubber.by_volume
    ratio = (rubber.volume_a or 0, rubber.volume_b or 0) if by_volume else rubber.weight_ratio
    uses_kit = settled.amount == "kit"
    return MixPlan(
        ratio={"A": ratio[0], "B": ratio[1]},
        basis="volume" if by_volume else "weight",
        need_ml=None if uses_kit else target.need_ml,
        have_g={"A": _a_left_g(shelf, settled) * target.share} if uses_kit else None,
        sg_parts=rubber.sg_parts,
        sg_mixed=rubber.sg_mixed,
        spare_pct=settled.spare_pct,
        cling_g=0.0 if uses_kit else settled.cling_g,
        thinner=_thinner(shelf, rubber, settled.thinner_parts),
        pigment_pct=settled.pigment_pct,
        scale_step_g=settled.scale_step_g or None,
        tolerance_pct=rubber.tolerance_pct,
        weighings=2 if shelf.blend and settled.blend_pct else 1,
        cup_ml=None if target.coats else cup_ml(shelf, settled),
        rise_factor=settled.rise_factor,
    )


def _thinner(shelf: ShelfPicks, rubber: Rubber, parts_per_100: float) -> Thinner | None:
    if not parts_per_100:
        return None
    if shelf.thinner is None:
        raise Refused(
            "thinner_id", Text("Which thinner? Choose it, so that its volume counts and its lot is taken from.")
        )
    return Thinner(
        parts_per_100=parts_per_100, of="A" if rubber.thinner_of == "A" else "A+B", sg=shelf.thinner.sg_or_usual
    )


def _a_left_g(shelf: ShelfPicks, settled: SettledRubber) -> float:
    # all the A of a mix; in a blend the first rubber is only a share of it, and the second one's tin may run out first
    share = settled.blend_pct / 100 if shelf.blend else 0.0
    left_g = settled.kit_left_a_g or left_on_shelf_g(shelf, "A")
    if not left_g > 0:
        raise Refused(
            "kit_left_a_g", Text("How much A is left? Put the tin on the scale, less what an empty tin weighs.")
        )
    if not share:
        return left_g
    if share >= 1:
        raise Refused(
            "blend_pct", Text("Nothing of the first rubber is used in this blend. Choose the second one instead.")
        )
    second_g = left_on_shelf_g(shelf, "A2")
    return min(left_g / (1 - share), second_g / share) if second_g else left_g / (1 - share)


_DOSES = {"blend_id": "blend_pct", "thinner_id": "thinner_parts", "pigment_id": "pigment_pct"}


def is_same_mix(one: SettledRubber, other: SettledRubber) -> bool:
    """Return whether what is left over of one job's mix is what another job pours.

    Parameters
    ----------
    one, other : SettledRubber
        Their Rubber stations.

    Returns
    -------
    bool
        True where the rubber and all that is stirred into it agree, doses included; thickener goes into coats alone,
        and what is left of those is no mix to pour.
    """

    def mixed_of(of: SettledRubber) -> list[object]:
        doses = ((getattr(of, key), getattr(of, dose)) for key, dose in _DOSES.items())
        return [of.rubber_id, *((key, dose) if key is not None and dose else None for key, dose in doses)]

    return mixed_of(one) == mixed_of(other)


def recipe_of(shelf: ShelfPicks, settled: SettledRubber) -> Recipe:
    """Return what goes into a mix.

    Parameters
    ----------
    shelf : ShelfPicks
        What the Rubber station points to.
    settled : SettledRubber
        The Rubber station.

    Returns
    -------
    Recipe
        With the tins that each part is taken from.

    Raises
    ------
    Refused
        While no rubber is chosen.
    """
    if shelf.rubber is None:
        raise Refused("rubber_id", Text("Choose a rubber first."))
    return Recipe(
        rubber=shelf.rubber,
        blend=shelf.blend,
        blend_share=settled.blend_pct / 100,
        thinner=shelf.thinner,
        thickener=shelf.thickener,
        pigment=shelf.pigment,
        thickener_parts=settled.thickener_parts,
        shelf={key: stocked.shelf for key, stocked in shelf.stock.items()},
    )
