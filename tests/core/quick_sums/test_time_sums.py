"""Quick sums of time: every row and sentence by hand, not the headline alone."""

import pytest
from sums import rows, said, worked

from ufrin.core.quick_sums.time_sums import LATEST_S, clock_ends_s

THICK = {"viscosity_mpa_s": 20_000, "pot_life_min": 30, "depth_mm": 50, "sg": 1.1}


def test_a_bubble_in_the_pot_shrinks_by_boyle() -> None:
    made = worked("bubbles", **THICK, pot_kpa=275.79)  # 40 psi by its gauge
    # its volume falls to 101.325 / (101.325 + 275.79), its diameter by the cube root (by hand)
    share = (101.325 / (101.325 + 275.79)) ** (1 / 3)
    assert rows(made) == {"A bubble that stays is pressed to": f"{100 * share:.0f} % of its diameter in the pot"}
    assert rows(worked("bubbles", **THICK)) == {}


def test_the_two_bounds_of_a_bubble_that_rises() -> None:
    (dirty,) = (amount.value for _, amount in worked("bubbles", **THICK).figures)
    # Stokes: v = rho g d2 / (18 mu), so that d = sqrt(18 mu h / (rho g t)); clean ones rise half as fast again
    by_hand_mm = (18 * 20 * 0.05 / (1100 * 9.80665 * 1800)) ** 0.5 * 1000
    assert dirty == pytest.approx(by_hand_mm, rel=1e-3)
    assert f"{by_hand_mm / 1.5**0.5:.2f}" in said(worked("bubbles", **THICK))


def test_a_cure_in_a_warm_room_tells_its_factor() -> None:
    assert said(worked("cure", tin_min=240, room_temp_c=33, tin_temp_c=23)).startswith("The tin's 4 h times 0.50")
    assert said(worked("cure", tin_min=240, room_temp_c=13, tin_temp_c=23)).startswith("The tin's 4 h times 2.00")


def test_a_clock_ends_when_its_time_is_over() -> None:
    made = worked("clock", tin_min=60, room_temp_c=33, tin_temp_c=23)
    assert clock_ends_s(made, 1e9) == pytest.approx(1e9 + 1800)
    assert clock_ends_s(made, LATEST_S) is None
    assert clock_ends_s(made, LATEST_S - 1801) is not None
