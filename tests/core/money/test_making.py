"""What making costs and when it pays: by casting one piece after another, in exact fractions."""

from fractions import Fraction
from math import ceil

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.money.making import BreakEven, MakingCosts, cost_line
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


@given(CENTS, CENTS, st.integers(1, 50), CENTS, CENTS)
def test_break_even_by_brute_force(master: float, mould: float, life: int, unit: float, buy: float) -> None:
    costs = MakingCosts(master_cost=master, mould_cost=mould, mould_life_casts=life, unit_cost=unit)
    found, counted = costs.against(buy), by_hand(costs, buy)
    # what comes only after all that was counted is not seen by hand
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


def test_the_line_jumps_where_a_mould_is_poured() -> None:
    costs = MakingCosts(master_cost=5, mould_cost=10, mould_life_casts=4, unit_cost=1)
    assert cost_line(costs, 9) == ((1, 16.0), (4, 19.0), (5, 30.0), (8, 33.0), (9, 44.0), (9, 44.0))


@pytest.mark.parametrize(
    "wrong", [{"master_cost": -1}, {"mould_cost": float("nan")}, {"mould_life_casts": 0}, {"unit_cost": 1e13}]
)
def test_what_cannot_be_is_refused(wrong: dict[str, float]) -> None:
    with pytest.raises(Refused):
        MakingCosts(**({"master_cost": 1, "mould_cost": 1, "mould_life_casts": 9, "unit_cost": 1} | wrong))
