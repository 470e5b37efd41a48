"""What making pieces costs, with a new mould each time one is worn out, against buying them."""

from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor

from ufrin.errors import Refused
from ufrin.language import Text

MOST_PIECES = 10_000_000
MOST_MONEY = 1e12
LIFE_STEPS = 1000  # of a cast


@dataclass(frozen=True, slots=True, kw_only=True)
class Making:
    """What a number of pieces costs: moulds that are worn out, in all, and for each piece."""

    moulds: int
    total_cost: float
    cost_per_piece: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BreakEven:
    """From how many pieces on making costs no more than buying: for the first time, and for good; None for never."""

    first_count: int | None
    stays_from_count: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MakingCosts:
    """The costs of making.

    Parameters
    ----------
    master_cost, mould_cost, unit_cost : float
        Of the master, of each mould, and of the material of each piece.
    mould_life_casts : float
        Pieces that a mould makes, counted to a thousandth.
    """

    master_cost: float
    mould_cost: float
    mould_life_casts: float
    unit_cost: float

    def __post_init__(self) -> None:
        for name in ("master_cost", "mould_cost", "unit_cost"):
            if not 0 <= getattr(self, name) <= MOST_MONEY:
                raise Refused(name, Text("A cost is 0 or more."))
        if not 1 <= self.mould_life_casts <= MOST_PIECES:
            raise Refused("mould_life_casts", Text("A mould makes at least 1 piece."))

    def of(self, pieces: int) -> Making:
        """Return what a number of pieces costs.

        Parameters
        ----------
        pieces : int
            1 or more.

        Returns
        -------
        Making
            total = master + moulds x mould + pieces x unit; moulds = pieces / life, rounded up (common practice).

        Raises
        ------
        Refused
            For no pieces, or too many.

        Examples
        --------
        >>> MakingCosts(master_cost=60, mould_cost=45, mould_life_casts=25, unit_cost=2.1).of(50)
        Making(moulds=2, total_cost=255.0, cost_per_piece=5.1)
        """
        if not 1 <= pieces <= MOST_PIECES:
            raise Refused("pieces", Text("How many pieces? Between 1 and {most_pieces}.", most_pieces=MOST_PIECES))
        moulds = ceil(pieces / _life(self))
        total = _exact(self.master_cost) + moulds * _exact(self.mould_cost) + pieces * _exact(self.unit_cost)
        return Making(moulds=moulds, total_cost=float(total), cost_per_piece=float(total / pieces))

    def of_run(self, moulds: int, cast: int, good: int) -> Making:
        """Return what a run costs that is made with moulds of its own.

        Parameters
        ----------
        moulds : int
            New ones, whether they are worn out by it or not.
        cast, good : int
            Pieces that are cast, and those of them that are good: at least 1.

        Returns
        -------
        Making
            Without the master; the cost per piece is that of a good one.

        Examples
        --------
        >>> MakingCosts(master_cost=60, mould_cost=45, mould_life_casts=25, unit_cost=2).of_run(1, 22, 20)
        Making(moulds=1, total_cost=89.0, cost_per_piece=4.45)
        """
        total = moulds * _exact(self.mould_cost) + cast * _exact(self.unit_cost)
        return Making(moulds=moulds, total_cost=float(total), cost_per_piece=float(total / good))

    def against(self, buy_price: float) -> BreakEven:
        """Return from how many pieces on making pays.

        Parameters
        ----------
        buy_price : float
            Of a piece that is bought, or made without a mould.

        Returns
        -------
        BreakEven
            Exactly, in fractions; a tie counts as no dearer. Each new mould makes it dearer again for a while.

        Raises
        ------
        Refused
            For a price below 0.
        """
        if not 0 <= buy_price <= MOST_MONEY:
            raise Refused("buy_price", Text("A price is 0 or more."))
        return _break_even(
            _exact(self.master_cost), _exact(self.mould_cost), _life(self), _exact(buy_price) - _exact(self.unit_cost)
        )


def _exact(value: float) -> Fraction:
    # as it is written: 2.1 means 21/10
    return Fraction(str(value))


def _life(costs: MakingCosts) -> Fraction:
    # finer than anybody knows it, and coarse enough to be counted through
    return Fraction(round(costs.mould_life_casts * LIFE_STEPS), LIFE_STEPS)


def _break_even(master: Fraction, mould: Fraction, life: Fraction, gain: Fraction) -> BreakEven:
    """Compare period by period: in the j-th, j moulds are paid, and each piece gains ``gain``."""
    if gain <= 0:
        never_dearer = master == 0 and mould == 0 and gain == 0
        return BreakEven(first_count=1 if never_dearer else None, stays_from_count=1 if never_dearer else None)
    return BreakEven(
        first_count=_first(master, mould, life, gain), stays_from_count=_for_good(master, mould, life, gain)
    )


def _first(master: Fraction, mould: Fraction, life: Fraction, gain: Fraction) -> int | None:
    a_period = gain * life - mould  # what a whole mould gains
    if a_period < 0 or (a_period == 0 and master):
        return None  # the last piece of a mould is the best one, and even there it never catches up
    # no earlier mould can pay; this one may not either, where its life is no whole number of pieces
    period = max(1, ceil(master / a_period)) if a_period else 1
    while (pays := _pays_from(master, mould, gain, period)) > floor(period * life):
        period += 1
    return _if_counted(max(pays, floor((period - 1) * life) + 1))


def _for_good(master: Fraction, mould: Fraction, life: Fraction, gain: Fraction) -> int | None:
    a_period = gain * life - mould
    if a_period < 0 or (a_period == 0 and master + mould > gain):
        return None
    # the first piece of a mould is the worst one: from the last mould that can be dearer there, go down to one that is
    period = ceil((master + gain * (life - Fraction(1, life.denominator))) / a_period) if a_period else 1
    while period:
        pays = _pays_from(master, mould, gain, period)
        if pays > floor((period - 1) * life) + 1:
            return _if_counted(min(pays, floor(period * life) + 1))
        period -= 1
    return 1


def _pays_from(master: Fraction, mould: Fraction, gain: Fraction, moulds: int) -> int:
    # pieces that gain what the master and so many moulds cost
    return ceil((master + moulds * mould) / gain)


def _if_counted(pieces: int) -> int | None:
    return pieces if pieces <= MOST_PIECES else None


def cost_line(costs: MakingCosts, pieces: int) -> tuple[tuple[int, float], ...]:
    """Return total against pieces, as it is drawn: it jumps where a new mould is poured.

    Parameters
    ----------
    costs : MakingCosts
        Of making.
    pieces : int
        Up to how many.

    Returns
    -------
    tuple of (pieces, total)
        The first and the last piece of each mould.
    """
    points: list[tuple[int, float]] = []
    life, period = _life(costs), 0
    while (first := floor(period * life) + 1) <= pieces and len(points) < 4000:
        period += 1
        last = min(floor(period * life), pieces)
        points += [(first, costs.of(first).total_cost), (last, costs.of(last).total_cost)]
    return tuple(points)
