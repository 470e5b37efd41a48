"""What the plan of a shot consists of: the cavity as it is known, the cups, and what a piece takes."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace

from ufrin.core.casting.cast_cups import CastCup, CastIngredient
from ufrin.core.casting.layered_cast import CastLayer, SetIn


@dataclass(frozen=True, slots=True, kw_only=True)
class CastCavity:
    """A cavity as far as it is known.

    Parameters
    ----------
    volume_ml : float
        Of one cavity.
    area_cm2, height_mm : float or None
        Its surface, and how high it is as the mould is held.
    below_ml : callable or None
        Its volume below a height; without it, a cavity is taken to be as wide at every height.
    sprue_ml : float
        Of its gate and vents.
    count : int
        Cavities in the mould.
    """

    volume_ml: float
    area_cm2: float | None = None
    height_mm: float | None = None
    below_ml: Callable[[float], float] | None = field(default=None, compare=False)
    sprue_ml: float = 0.0
    count: int = 1


@dataclass(frozen=True, slots=True, kw_only=True)
class PricedWay:
    """One way to make the same piece: its name, what it weighs in g, and its cost, None without prices."""

    label: str
    piece_g: float
    cost: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TakenOff:
    """A part of the mix that is taken off, in g, and the colour that is stirred into it, in g."""

    g: float
    colour_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedPart:
    """A part of a shot that is logged by itself: all that is mixed of it, and what it takes for each cavity, in g."""

    part: str
    g: float
    fills_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class CastPlan:
    """A shot worked out.

    Parameters
    ----------
    kind : str
        One of ``CAST_KINDS``.
    cavity : CastCavity
        One of those that are filled.
    filled : int
        Cavities that the shot fills.
    cups : tuple of CastCup
        In the order of the work.
    shot_g, piece_g : float
        All that is mixed; and what a finished piece weighs, without gate, spare and what is pressed out.
    shots : int
        For the pieces that are wanted.
    shot_cost, piece_cost : float or None
        By the prices on the Shelf; None without them.
    thickness_mm : float or None
        That a shell reaches.
    target_g : float or None
        What a rotated shell is to weigh.
    layers : tuple of CastLayer
        Of a cast in layers.
    set_in : SetIn or None
        What is laid into it.
    part_fills_g : mapping of part to float
        What each part of a shot takes for one cavity, without spare; empty where all cups are of one mix.
    ways : tuple of PricedWay
        The same piece made in other ways, for as many as the Shelf's choices allow.
    taken_shares : tuple of float
        Shares of each mix that are taken off and coloured, for a marbled cast.
    taken_colour_pct : float
        Colour that goes into what is taken off, in percent; 0 without one.
    """

    kind: str
    cavity: CastCavity
    filled: int
    cups: tuple[CastCup, ...]
    shot_g: float
    piece_g: float
    shots: int
    shot_cost: float | None
    piece_cost: float | None
    thickness_mm: float | None = None
    target_g: float | None = None
    layers: tuple[CastLayer, ...] = ()
    set_in: SetIn | None = None
    part_fills_g: Mapping[str, float] = field(default_factory=dict)
    ways: tuple[PricedWay, ...] = ()
    taken_shares: tuple[float, ...] = ()
    taken_colour_pct: float = 0.0

    @property
    def fills_g(self) -> float:
        """What is poured to fill one cavity, or to make its shell, without gate and spare."""
        return self.piece_g - (self.set_in.mass_g if self.set_in else 0.0)

    @property
    def parts(self) -> tuple[PlannedPart, ...]:
        """The parts that are logged by themselves, in the order of the work; none where all cups are of one mix."""
        return tuple(
            PlannedPart(part=part, g=sum(cup.total_g for cup in self.cups if cup.part == part), fills_g=fills_g)
            for part, fills_g in self.part_fills_g.items()
        )

    @property
    def taken_off(self) -> tuple[TakenOff, ...]:
        """What is taken off the whole shot and coloured."""
        grams = (self.shot_g * share for share in self.taken_shares)
        return tuple(TakenOff(g=g, colour_g=g * self.taken_colour_pct / 100) for g in grams)

    @property
    def totals(self) -> Mapping[str, CastIngredient]:
        """Each thing of the whole shot together by its key, in the order in which they are met."""
        found: dict[str, CastIngredient] = {}
        for one in (one for cup in self.cups for one in cup.ingredients):
            before = found.get(one.key)
            found[one.key] = _added(before, one) if before else one
        return found


def _added(before: CastIngredient, one: CastIngredient) -> CastIngredient:
    return replace(
        before,
        g=before.g + one.g,
        ml=before.ml + one.ml if before.ml is not None and one.ml is not None else None,
        scoop_ml=before.scoop_ml + one.scoop_ml if before.scoop_ml is not None and one.scoop_ml is not None else None,
        drops=before.drops + one.drops if before.drops is not None and one.drops is not None else None,
    )
