"""What a job's Rubber station picks from the Shelf, and what follows from it alone: SG, hardness, what is left."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from ufrin.core.clocks.cure_factor import TIN, CureFactor
from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.blends import blend_mpa, blended
from ufrin.core.rubber.shore import GOOD_TO, Hardness, reading
from ufrin.core.rubber.thinner_curve import CouponPoint, Curve
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.lots import Lot
from ufrin.core.weighing.allowance import Allowance, learn
from ufrin.core.weighing.ratio import mixed_sg
from ufrin.core.weighing.whole_kit import Waiting

DEFAULT_CONFIDENCE_PCT = 80.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Stocked:
    """A thing on the Shelf as a pour needs it: its number there, and its lots."""

    shelf: str
    lots: tuple[Lot, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelfPicks:
    """What the Rubber station points to on the Shelf, and what past pours teach."""

    rubber: Rubber | None = None
    retired: bool = False
    blend: Rubber | None = None
    thinner: Additive | None = None
    thickener: Additive | None = None
    pigment: Additive | None = None
    cup: Cup | None = None
    points: tuple[CouponPoint, ...] = ()
    stock: Mapping[str, Stocked] = field(default_factory=dict, hash=False)
    past_over_pct: tuple[float, ...] = ()
    cure_factor: CureFactor = TIN
    confidence_pct: float = DEFAULT_CONFIDENCE_PCT
    waiting: tuple[Waiting, ...] = ()

    def as_mixed(self, blend_pct: float) -> Rubber | None:
        """Return the rubber as it is mixed: blended with the second one, where there is one.

        Parameters
        ----------
        blend_pct : float
            Share of the second rubber.

        Returns
        -------
        Rubber or None
            None while no rubber is chosen.

        Raises
        ------
        Refused
            When the two can't be blended.
        """
        if self.rubber is None or self.blend is None:
            return self.rubber.completed() if self.rubber else None
        return blended(self.rubber, self.blend, blend_pct / 100)

    @property
    def allowance(self) -> Allowance:
        """What past pours teach of the spare."""
        return learn(self.past_over_pct, self.confidence_pct)


def left_on_shelf_g(shelf: ShelfPicks, key: str) -> float:
    """Add up the part A that the Shelf's lots have left.

    Parameters
    ----------
    shelf : ShelfPicks
        With the rubber's lots.
    key : "A" or "A2"
        Of the rubber, or of the second one of a blend.

    Returns
    -------
    float
        In g; 0 where nobody keeps count.
    """
    stocked = shelf.stock.get(key)
    return sum(lot.left_g for lot in stocked.lots if lot.part == "A" and not lot.is_expired) if stocked else 0.0


def base_hardness(shelf: ShelfPicks, settled: SettledRubber) -> Hardness | None:
    """Return the hardness of the rubber, or of the blend, without thinner.

    Parameters
    ----------
    shelf : ShelfPicks
        With the rubber and what it is blended with.
    settled : SettledRubber
        The Rubber station.

    Returns
    -------
    Hardness or None
        None where a tin states none.
    """
    own = shelf.rubber.reading if shelf.rubber else None
    if own is None or shelf.blend is None:
        return own
    if shelf.blend.reading is None:
        return None
    modulus = blend_mpa(own, shelf.blend.reading, settled.blend_pct / 100)
    scale = own.scale
    shore = reading(modulus, scale)
    if shore is None or shore > GOOD_TO:
        scale, shore = shelf.blend.reading.scale, reading(modulus, shelf.blend.reading.scale)
    return Hardness(scale=scale, shore=shore) if shore is not None else None


def curve_of(shelf: ShelfPicks, settled: SettledRubber) -> Curve | None:
    """Return the curve of hardness against thinner.

    Parameters
    ----------
    shelf : ShelfPicks
        With the rubber, its test points, and the thinner.
    settled : SettledRubber
        The Rubber station.

    Returns
    -------
    Curve or None
        None where the tin states no hardness; a blend has no test points.
    """
    base = base_hardness(shelf, settled)
    if base is None or shelf.rubber is None:
        return None
    points = () if shelf.blend else shelf.points
    rubber_sg = shelf.rubber.sg
    if shelf.blend is not None:
        second = settled.blend_pct / 100
        rubber_sg = mixed_sg({"A": 1 - second, "B": second}, {"A": rubber_sg, "B": shelf.blend.sg})
    return Curve(base, points, rubber_sg=rubber_sg, thinner_sg=shelf.thinner.sg_or_usual if shelf.thinner else None)
