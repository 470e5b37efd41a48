"""The weigh plan: what the bench works through, batch by batch.

It is kept with the pour as it was when the weighing began.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ufrin.core.clocks.cure_clocks import ClockKind
from ufrin.core.clocks.cure_factor import TIN, CureFactor
from ufrin.core.rubber.cure_times import time_at
from ufrin.core.weighing.method import Method
from ufrin.errors import Refused
from ufrin.language import Text

Role = Literal["A", "B", "thinner", "thickener", "pigment", "filler", "colour"]
# A and what thins it first, so that the clock starts as late as possible; pigment last, so that a coloured cup is one
# that has its B
ORDER: tuple[Role, ...] = ("A", "thinner", "thickener", "B", "pigment")
BAND_PCT: Mapping[Role, float] = {
    "A": 2.0,
    "thinner": 5.0,
    "thickener": 10.0,
    "pigment": 10.0,
    "filler": 5.0,
    "colour": 10.0,
}  # common practice; B has the rubber's own tolerance


@dataclass(frozen=True, slots=True, kw_only=True)
class Ingredient:
    """One thing to weigh for a batch.

    Parameters
    ----------
    key : str
        "A", "B", "thinner" and so on; "A2" and "B2" in a blend.
    role : str
        The role it plays in the mix.
    name, colour : str
        As on its tin, which is checked before a reading is taken.
    g : float
        Planned for this batch.
    sg : float or None
        Where it is known.
    shelf : str
        "rubber:7" or "additive:3": where its lots stand.
    """

    key: str
    role: Role
    name: str
    colour: str = ""
    g: float
    sg: float | None = None
    shelf: str = ""

    @property
    def called(self) -> str:
        """Name and colour, as the bench shows it."""
        return f"{self.name}, {self.colour}" if self.colour else self.name


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherMaterial:
    """Another material that some cups of a shot are mixed of, such as the foam behind a shell.

    Parameters
    ----------
    batches : tuple of int
        The batches that are of it, counted from 0.
    name : str
        On its tin.
    tolerance_pct, sg : float
        Of its ratio and its mix.
    least_mix_min : float
        It is stirred for.
    pot_life_min, handling_min, demould_min, full_cure_min : float or None
        At 23 degC.
    """

    batches: tuple[int, ...]
    name: str
    tolerance_pct: float
    sg: float
    least_mix_min: float
    pot_life_min: float | None = None
    handling_min: float | None = None
    demould_min: float | None = None
    full_cure_min: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class RotationAim:
    """What a cast that is rotated by hand is to become, in all cavities of the shot together.

    Parameters
    ----------
    target_g : float
        It is to weigh.
    area_cm2, sg : float
        Surface that it covers, and SG of the mix.
    coat_mm : float
        Thickness of a coat that does not spill.
    """

    target_g: float
    area_cm2: float
    sg: float
    coat_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighPlan:
    """Everything that the bench needs to know.

    Parameters
    ----------
    what : str
        What is poured: "the box", "the first half", "the skin".
    half, how : str, str
        Of a mould in two parts; poured, brushed or kneaded.
    rubber : str
        Its name.
    b_per_a : float
        Ratio by weight.
    tolerance_pct : float
        The tolerance of the ratio.
    step_g : float
        Of the scale.
    sg : float
        Of the mix, thinner included.
    need_g : float
        Of the box, before spare and loss on cups.
    batches : tuple of tuple of Ingredient
        In the order of weighing.
    cup_ml, pot_life_min, demould_min, full_cure_min : float or None
        The cup; times at 23 degC, thinner included in the last two.
    mix_min, degas_min, pour_min : float
        The time that each batch needs once A has met B.
    method : Method or None
        How it is worked; None for a pour that was begun when only its weighing was kept.
    press_min, cast_in_min : float or None
        Press window of a putty, and when the mould may be cast in, at 23 degC.
    family, style : str, str
        Of the rubber, and the kind of mould; empty in plans of earlier versions.
    slit_mm : float or None
        How far down from the mouth a block is slit.
    cure_factor : CureFactor
        What the shop had learnt of the rubber when the weighing began.
    handling_min : float or None
        When a cast may be handled, at 23 degC.
    in_coats : bool
        Whether each batch goes on the one before while that is still tacky.
    cup_names : tuple of str
        What each batch is called, such as "coat 2 of 4"; empty where a number is enough.
    cup_parts : tuple of str
        The part of a cast that each batch makes, where they are logged by themselves; empty otherwise.
    rotation : RotationAim or None
        Of a cast that is rotated by hand.
    other : OtherMaterial or None
        What some of the batches are mixed of instead.
    cast_kind : str
        The kind of cast; empty for a mould.
    set_in_before : int or None
        The batch, counted from 0, before which something is laid into a cast.
    taken_shares : tuple of float
        Shares of each mix that are taken off and coloured.
    """

    what: str
    rubber: str
    b_per_a: float
    tolerance_pct: float
    step_g: float
    sg: float
    need_g: float
    batches: tuple[tuple[Ingredient, ...], ...]
    cup_ml: float | None = None
    pot_life_min: float | None = None
    demould_min: float | None = None
    full_cure_min: float | None = None
    half: str = ""
    how: str = "poured"
    mix_min: float = 3.0
    degas_min: float = 0.0
    pour_min: float = 5.0
    method: Method | None = None
    press_min: float | None = None
    cast_in_min: float | None = None
    family: str = ""
    style: str = ""
    slit_mm: float | None = None
    cure_factor: CureFactor = TIN
    handling_min: float | None = None
    in_coats: bool = False
    cup_names: tuple[str, ...] = ()
    cup_parts: tuple[str, ...] = ()
    rotation: RotationAim | None = None
    other: OtherMaterial | None = None
    cast_kind: str = ""
    set_in_before: int | None = None
    taken_shares: tuple[float, ...] = ()

    def __post_init__(self) -> None:
        needed = {"A"} if self.has_one_part else {"A", "B"}
        if not self.batches or not all(needed <= {ingredient.role for ingredient in batch} for batch in self.batches):
            raise Refused("", Text("There is nothing to weigh: every batch needs an A and a B."))

    @property
    def has_one_part(self) -> bool:
        """Whether it is melted and poured as it is, such as wax: nothing meets in the cup."""
        return self.how == "cast" and self.b_per_a == 0

    @property
    def clock_times(self) -> dict[ClockKind, float | None]:
        """What the tin states for each clock, in min at 23 degC."""
        return {
            "pot-life": self.pot_life_min,
            "press": self.press_min,
            "handling": self.handling_min,
            "demould": self.demould_min,
            "cast-in": self.cast_in_min,
            "full-cure": self.full_cure_min,
        }

    def other_of(self, batch: int) -> OtherMaterial | None:
        """Return what a batch is mixed of, where that is not the main material.

        Parameters
        ----------
        batch : int
            Counted from 0.

        Returns
        -------
        OtherMaterial or None
            None for the main material.
        """
        return self.other if self.other is not None and batch in self.other.batches else None

    def clock_times_of(self, batch: int) -> dict[ClockKind, float | None]:
        """Return what the tin of a batch states for each clock.

        Parameters
        ----------
        batch : int
            Counted from 0.

        Returns
        -------
        dict of kind to min
            At 23 degC.
        """
        other = self.other_of(batch)
        if other is None:
            return self.clock_times
        return {
            "pot-life": other.pot_life_min,
            "handling": other.handling_min,
            "demould": other.demould_min,
            "full-cure": other.full_cure_min,
        }

    @property
    def need_ml(self) -> float:
        """What the mould takes, before spare and loss on cups."""
        return self.need_g / self.sg

    @property
    def total_g(self) -> float:
        """All that is weighed, in every batch."""
        return sum(ingredient.g for batch in self.batches for ingredient in batch)


def leading_role(batch: Sequence[Ingredient]) -> Role:
    """Return which of the two parts goes into a cup first, so that the other follows what is really in it.

    Parameters
    ----------
    batch : sequence of Ingredient
        In the order of weighing.

    Returns
    -------
    "A" or "B"
        A for rubber; B for casts, into which powder and colour go.
    """
    return next(one.role for one in batch if one.role in {"A", "B"})


def following_role(batch: Sequence[Ingredient]) -> Role:
    """Return which of the two parts goes into a cup second: with it the clock begins.

    Parameters
    ----------
    batch : sequence of Ingredient
        In the order of weighing.

    Returns
    -------
    "A" or "B"
        The other one than ``leading_role``.
    """
    return "B" if leading_role(batch) == "A" else "A"


def press_left_min(plan: WeighPlan, room_c: float) -> float | None:
    """Return how long a putty can be pressed on once it is kneaded.

    Parameters
    ----------
    plan : WeighPlan
        With its method.
    room_c : float
        The temperature of the room.

    Returns
    -------
    float or None
        In min, from the end of the shortest kneading; None for what is not pressed on.
    """
    if plan.press_min is None or plan.method is None:
        return None
    return time_at(plan.press_min, room_c) - plan.method.least_mix_min


def total_of(batches: Sequence[Sequence[Ingredient]]) -> dict[str, float]:
    """Add each ingredient up over all batches.

    Parameters
    ----------
    batches : sequence of batches
        As they are weighed.

    Returns
    -------
    dict of key to g
        In the order in which they are met.
    """
    totals: dict[str, float] = {}
    for one in (one for batch in batches for one in batch):
        totals[one.key] = totals.get(one.key, 0.0) + one.g
    return totals


def in_order(ingredients: Sequence[Ingredient]) -> tuple[Ingredient, ...]:
    """Sort a batch into the order of weighing.

    Parameters
    ----------
    ingredients : sequence of Ingredient
        Ingredients of no weight are left out.

    Returns
    -------
    tuple of Ingredient
        A, thinner, thickener, B, pigment.
    """
    return tuple(sorted((one for one in ingredients if one.g > 0), key=lambda one: ORDER.index(one.role)))
