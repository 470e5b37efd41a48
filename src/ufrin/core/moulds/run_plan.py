"""The plan of a run: pieces wanted by a date, and the shots, days and moulds that they take.

Dates are day numbers as ``date.toordinal`` counts them.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil

from ufrin.core.moulds.life_outlook import LifeLeft, LifeModel
from ufrin.errors import Refused
from ufrin.language import Text

EXACT = 1e-9
MOST_PIECES = 1_000_000
MOST_MOULDS = 200  # that a plan looks ahead for
FAR_DAYS = 3650


@dataclass(frozen=True, slots=True, kw_only=True)
class RunWish:
    """What is wanted, and how the shop works.

    Parameters
    ----------
    pieces : int
        Good ones.
    start_day, due_day : int, int or None
        The first day of casting, and the last; None where there is no hurry.
    cavities, moulds_at_once : int
        Of a new mould, and how many moulds are cast in side by side.
    cycle_min : float
        From one shot to the next in the same mould: mix, pour, wait, demould, close again.
    hours_a_day : float
        In which shots are made.
    days : frozenset of int
        Working days, 1 for Monday.
    flawed_pct : float
        Pieces that are no good.
    mould_days : float
        From pouring a new mould to casting in it.
    """

    pieces: int
    start_day: int
    due_day: int | None = None
    cavities: int = 1
    moulds_at_once: int = 1
    cycle_min: float = 60.0
    hours_a_day: float = 8.0
    days: frozenset[int] = frozenset({1, 2, 3, 4, 5})
    flawed_pct: float = 0.0
    mould_days: float = 2.0

    def __post_init__(self) -> None:
        if not 1 <= self.pieces <= MOST_PIECES:
            raise Refused(
                "pieces", Text("How many pieces are wanted? Between 1 and {most_pieces}.", most_pieces=MOST_PIECES)
            )
        for name in ("cavities", "moulds_at_once"):
            if not 1 <= getattr(self, name) <= 1000:
                raise Refused(name, Text("This must be between 1 and 1000."))
        if not 0 < self.cycle_min <= 60 * 24 * 60:
            raise Refused("cycle_min", Text("How long is it from one shot to the next? It must be more than 0."))
        if not 0 < self.hours_a_day <= 24:
            raise Refused("hours_a_day", Text("A day has more than 0 and at most 24 hours to cast in."))
        if not self.days or not self.days <= set(range(1, 8)):
            raise Refused("days", Text("On which days is cast? Choose at least one."))
        if not 0 <= self.flawed_pct < 90:
            raise Refused("flawed_pct", Text("The share of flawed pieces is 0 % or more, and less than 90 %."))
        if self.due_day is not None and self.due_day < self.start_day:
            raise Refused("due_day", Text("That date is before the first day of casting. Choose a later one."))

    @property
    def gross_pieces(self) -> int:
        """With those that are flawed."""
        return ceil(self.pieces / (1 - self.flawed_pct / 100) - EXACT)

    @property
    def shots_a_day(self) -> int:
        """Rounds in a day, in which each mould is cast once; 0 where one takes longer than the day."""
        return int(self.hours_a_day * 60 / self.cycle_min + EXACT)


@dataclass(frozen=True, slots=True, kw_only=True)
class RunPlan:
    """A run worked out.

    Parameters
    ----------
    wish : RunWish
        What is wanted.
    pieces_a_shot : int
        Of the moulds that are cast in side by side, as the run begins.
    rounds : int
        Shots of each mould, one after the other.
    casting_days : int
        Working days that they take.
    ends_day : int
        The last of them.
    late_days : int
        Days after the date that was wished; 0 where it is met, or there is none.
    moulds : int
        To be poured, beside those that are there.
    chance : float
        That these, with those that are there, make all the pieces.
    first_new_day : int or None
        By when the first of them is poured, so that casting does not stop.
    has_moulds : bool
        Whether there is a mould to begin with.
    """

    wish: RunWish
    pieces_a_shot: int
    rounds: int
    casting_days: int
    ends_day: int
    late_days: int
    moulds: int
    chance: float
    first_new_day: int | None = None
    has_moulds: bool = True


def weekday(day: int) -> int:
    """Return the day of the week.

    Parameters
    ----------
    day : int
        Day number.

    Returns
    -------
    int
        1 for Monday.
    """
    return (day - 1) % 7 + 1


def working_day(start_day: int, number: int, days: frozenset[int]) -> int:
    """Return the day number of a working day.

    Parameters
    ----------
    start_day : int
        From when on they count.
    number : int
        1 for the first.
    days : frozenset of int
        Working days, 1 for Monday.

    Returns
    -------
    int
        ``start_day`` itself where it is one and the first is asked for; never more than ten years on.
    """
    weeks, rest = divmod(max(0, number - 1), len(days))
    day = start_day
    while weekday(day) not in days:
        day += 1
    day += 7 * min(weeks, FAR_DAYS // 7)
    while rest:
        day += 1
        rest -= weekday(day) in days
    return day


def plan_run(
    wish: RunWish, model: LifeModel, made: Sequence[Sequence[float]], *, chance_pct: float, seed: int
) -> RunPlan:
    """Plan a run.

    Parameters
    ----------
    wish : RunWish
        What is wanted.
    model : LifeModel
        Of the lives of cavities.
    made : sequence of sequence of float
        Casts that each cavity in use of each mould that is there has made.
    chance_pct : float
        How sure the shop wants to be, in percent.
    seed : int
        Of the draws.

    Returns
    -------
    RunPlan
        With the fewest new moulds whose lives, with those that are there, make all the pieces with that chance; at
        least as many as are cast in side by side.

    Raises
    ------
    Refused
        For a shot that takes longer than a day's hours, or a run that no number of moulds makes.
    """
    if not 50 <= chance_pct <= 99.9:
        raise Refused("chance_pct", Text("Choose how sure it should be: between 50 and 99 times out of 100."))
    if not wish.shots_a_day:
        raise Refused(
            "cycle_min", Text("One shot takes longer than a day has hours to cast in. Shorten it, or add hours.")
        )
    a_shot = _pieces_a_shot(wish, made)
    rounds = ceil(wish.gross_pieces / a_shot - EXACT)
    casting_days = ceil(rounds / wish.shots_a_day - EXACT)
    ends_day = working_day(wish.start_day, casting_days, wish.days)
    there = model.left([one for mould in made for one in mould], seed)
    moulds, chance = _moulds(wish, model, there, have=len(made), chance=chance_pct / 100, seed=seed)
    return RunPlan(
        wish=wish,
        pieces_a_shot=a_shot,
        rounds=rounds,
        casting_days=casting_days,
        ends_day=ends_day,
        late_days=max(0, ends_day - wish.due_day) if wish.due_day else 0,
        moulds=moulds,
        chance=chance,
        first_new_day=_first_new(wish, there, a_shot, have=len(made), chance=chance_pct / 100) if moulds else None,
        has_moulds=bool(made),
    )


def _pieces_a_shot(wish: RunWish, made: Sequence[Sequence[float]]) -> int:
    # cavities that are worn out make nothing more; a new mould has all of its own
    there = [len(mould) for mould in made][: wish.moulds_at_once]
    return sum(there) + wish.cavities * (wish.moulds_at_once - len(there))


def _moulds(
    wish: RunWish, model: LifeModel, there: LifeLeft, *, have: int, chance: float, seed: int
) -> tuple[int, float]:
    needed, total = wish.gross_pieces, there.draws.copy()
    least = max(0, wish.moulds_at_once - have)
    for number in range(MOST_MOULDS + 1):
        if number:
            total = total + model.left([0.0] * wish.cavities, seed, stream=number).draws
        reached = float((total >= needed).mean())
        if number >= least and reached >= chance:
            return number, reached
    raise Refused(
        "pieces",
        Text(
            "More than {most_moulds} moulds would be worn out. Divide the order, or add cavities.",
            most_moulds=MOST_MOULDS,
        ),
    )


def _first_new(wish: RunWish, there: LifeLeft, a_shot: int, *, have: int, chance: float) -> int:
    if have < wish.moulds_at_once:
        return wish.start_day
    rounds = int(there.at_least(chance) // a_shot)
    lasts = working_day(wish.start_day, max(1, ceil(rounds / wish.shots_a_day)), wish.days)
    return max(wish.start_day, lasts - ceil(wish.mould_days))


def what_would_do(
    plan: RunPlan, model: LifeModel, made: Sequence[Sequence[float]], *, chance_pct: float, seed: int
) -> RunPlan | None:
    """Return the smallest change that meets the date: more moulds side by side.

    Parameters
    ----------
    plan : RunPlan
        That is late.
    model : LifeModel
        Of the lives of cavities.
    made : sequence of sequence of float
        As ``plan_run`` takes it.
    chance_pct : float
        How sure the shop wants to be, in percent.
    seed : int
        Of the draws.

    Returns
    -------
    RunPlan or None
        None where not even 50 moulds would do, or the plan is not late.
    """
    if not plan.late_days:
        return None
    for at_once in range(plan.wish.moulds_at_once + 1, 51):
        other = plan_run(replace(plan.wish, moulds_at_once=at_once), model, made, chance_pct=chance_pct, seed=seed)
        if not other.late_days:
            return other
    return None
