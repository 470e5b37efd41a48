"""What making costs and when it pays: by casting one piece after another, in exact fractions."""

from fractions import Fraction
from math import ceil, floor

import pytest
from hypothesis import given
from hypothesis import strategies as st
from thoroughness import examples

from ufrin.core.money.making import MOST_MONEY, MOST_PIECES, BreakEven, MakingCosts, cost_line
from ufrin.errors import Refused

CENTS = st.integers(0, 4000).map(lambda cents: cents / 100)
LOOK = 1500


def by_hand(costs: MakingCosts, buy_price: float) -> BreakEven:
    """Count piece by piece."""
    master, mould, unit, buy = (
        Fraction(str(value)) for value in (costs.master_cost, costs.mould_cost, costs.unit_cost, buy_price)
    )
    dear = [
        master + mould * ceil(n / Fraction(str(costs.mould_life_casts))) + unit * n > buy * n for n in range(1, LOOK)
    ]
    first = dear.index(False) + 1 if False in dear else None
    stays = len(dear) - dear[::-1].index(True) + 1 if True in dear else 1
    return BreakEven(first_count=first, stays_from_count=stays if stays < LOOK - 60 else None)


LIVES = st.integers(1, 50) | st.integers(10, 300).map(lambda tenths: tenths / 10)


@given(CENTS, CENTS, LIVES, CENTS, CENTS)
@examples(60)
def test_break_even_by_brute_force(master: float, mould: float, life: float, unit: float, buy: float) -> None:
    costs = MakingCosts(master_cost=master, mould_cost=mould, mould_life_casts=life, unit_cost=unit)
    found, counted = costs.against(buy), by_hand(costs, buy)
    # what comes only after all that was counted is not seen by hand
    assert found.first_count is not None or counted.first_count is None
    if found.first_count is None or found.first_count < LOOK:
        assert found.first_count == counted.first_count
    if found.stays_from_count is None or found.stays_from_count < LOOK - 60:
        assert found.stays_from_count == counted.stays_from_count


def test_a_tie_and_what_never_pays() -> None:
    # each mould gains exactly what it costs: the last piece of each is a tie, the next dearer again
    tie = MakingCosts(master_cost=0, mould_cost=20, mould_life_casts=10, unit_cost=1)
    assert tie.against(3) == BreakEven(first_count=10, stays_from_count=None)
    assert tie.against(1) == BreakEven(first_count=None, stays_from_count=None)
    free = MakingCosts(master_cost=0, mould_cost=0, mould_life_casts=10, unit_cost=1)
    assert free.against(1) == BreakEven(first_count=1, stays_from_count=1)


@given(
    st.integers(0, 10**12).map(lambda cents: cents / 100),
    st.integers(0, 10**8).map(lambda cents: cents / 100),
    st.integers(1000, 90_000).map(lambda thousandths: thousandths / 1000),
    st.integers(1, 10**7).map(lambda cents: cents / 100),
)
def test_where_it_pays_far_out(master: float, mould: float, life: float, gain: float) -> None:
    """No dearer where it is found, dearer one piece before, and never again at the first piece of a later mould."""
    costs = MakingCosts(master_cost=master, mould_cost=mould, mould_life_casts=life, unit_cost=0)
    exact = [Fraction(str(value)) for value in (master, mould, life, gain)]

    def excess(pieces: int) -> Fraction:
        return exact[0] + exact[1] * ceil(pieces / exact[2]) - exact[3] * pieces

    found = costs.against(gain)
    for count in (found.first_count, found.stays_from_count):
        if count is not None:
            assert excess(count) <= 0
            assert count == 1 or excess(count - 1) > 0
    if found.stays_from_count is not None:
        moulds = ceil(found.stays_from_count / exact[2])
        assert all(excess(floor(exact[2] * later) + 1) <= 0 for later in range(moulds, moulds + 300))
    gains = exact[3] * exact[2] - exact[1]
    if found.first_count is None:
        assert gains < 0 or (gains == 0 and master) or excess(MOST_PIECES) > 0
    else:
        assert found.stays_from_count is None or found.stays_from_count >= found.first_count
        best = (floor(exact[2] * mould) for mould in range(1, min(400, ceil(found.first_count / exact[2]))))
        assert all(excess(last) > 0 for last in best if last)  # no mould before pays at its last piece, its best one


def test_it_is_counted_up_to_ten_million_pieces() -> None:
    def pays(master: float) -> BreakEven:
        return MakingCosts(master_cost=master, mould_cost=0, mould_life_casts=9, unit_cost=0).against(1)

    assert pays(MOST_PIECES) == BreakEven(first_count=MOST_PIECES, stays_from_count=MOST_PIECES)
    assert pays(MOST_PIECES + 1) == BreakEven(first_count=None, stays_from_count=None)
    # a mould gains 5 millionths: 800,000 of them earn the master, and piece 7,999,991, the first one of mould
    # 1,599,999, is the last that is dearer: 4 + 1,599,999 x 4.999995 - 7,999,991 = 0.000005
    slow = MakingCosts(master_cost=4, mould_cost=4.999995, mould_life_casts=5, unit_cost=1)
    assert slow.against(2) == BreakEven(first_count=4_000_000, stays_from_count=7_999_992)


def test_the_largest_figures_are_taken() -> None:
    costs = MakingCosts(
        master_cost=MOST_MONEY, mould_cost=MOST_MONEY, mould_life_casts=MOST_PIECES, unit_cost=MOST_MONEY
    )
    assert costs.of(MOST_PIECES).moulds == 1
    assert costs.against(MOST_MONEY).first_count is None
    with pytest.raises(Refused):
        costs.of(MOST_PIECES + 1)
    with pytest.raises(Refused):
        costs.against(-0.01)


def test_the_line_jumps_where_a_mould_is_poured() -> None:
    costs = MakingCosts(master_cost=5, mould_cost=10, mould_life_casts=4, unit_cost=1)
    assert cost_line(costs, 9) == ((1, 16.0), (4, 19.0), (5, 30.0), (8, 33.0), (9, 44.0), (9, 44.0))


@pytest.mark.parametrize(
    "wrong", [{"master_cost": -1}, {"mould_cost": float("nan")}, {"mould_life_casts": 0}, {"unit_cost": 1e13}]
)
def test_what_cannot_be_is_refused(wrong: dict[str, float]) -> None:
    with pytest.raises(Refused):
        MakingCosts(**({"master_cost": 1, "mould_cost": 1, "mould_life_casts": 9, "unit_cost": 1} | wrong))
