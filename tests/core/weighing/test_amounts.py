"""Amounts: cups, drops, putty, coats, kits and the allowance, against formulas and laws."""

from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.measures.plain_volumes import frustum_ml
from ufrin.core.shelf.cups import Cup, marks
from ufrin.core.shelf.lots import Lot, stock_findings
from ufrin.core.weighing.allowance import learn, quantile
from ufrin.core.weighing.coats import coats
from ufrin.core.weighing.drops import drops, drops_per_ml
from ufrin.core.weighing.putty import Pad, lumps
from ufrin.core.weighing.whole_kit import Waiting, whole_kit
from ufrin.errors import Refused

sizes = st.floats(30, 200)


@given(sizes, sizes, sizes, st.floats(0.01, 0.99), st.floats(0.1, 0.9))
def test_a_cup_filled_to_its_marks_holds_just_the_parts(
    bottom: float, top: float, height: float, full: float, share: float
) -> None:
    cup = Cup(name="Tub", bottom_mm=bottom, top_mm=top, height_mm=height)
    a, b = (cup.holds_ml * full * part for part in (share, 1 - share))
    first, second = marks(cup, {"A": a, "B": b})
    for mark, volume in ((first, a), (second, a + b)):
        across = bottom + (top - bottom) * mark.level_mm / height
        assert frustum_ml(bottom, across, mark.level_mm) == pytest.approx(volume, rel=1e-6)
        assert mark.wall_mm >= mark.level_mm
    assert first.level_mm < second.level_mm <= height
    with pytest.raises(Refused, match="Take a bigger cup"):
        marks(cup, {"A": cup.holds_ml, "B": 1.0})


def test_a_straight_cup_is_plain_arithmetic() -> None:
    cup = Cup(name="Beaker", bottom_mm=100, height_mm=200)
    (mark,) = marks(cup, {"A": 500.0})
    assert mark.level_mm == mark.wall_mm == pytest.approx(500_000 / (pi * 50**2))
    for wrong in ({"bottom_mm": None}, {"height_mm": 0.0}, {"top_mm": -1.0}, {"bottom_mm": 9999.0}):
        with pytest.raises(Refused, match="size is needed|rim of nothing"):
            Cup(**{"name": "x", "bottom_mm": 50.0, "height_mm": 50.0, **wrong})


def test_drops_are_calibrated_and_counted() -> None:
    per_ml = drops_per_ml(50, 2.0, 0.96)
    assert per_ml == 24
    counted = drops(3.2, 0.96, per_ml)
    assert (counted.number, counted.one_drop_pct) == (80, 1.25)


@given(st.floats(1, 5000), st.floats(1, 5000), st.floats(1, 2))
def test_lumps_are_equal_kneadable_and_lose_nothing(a_g: float, b_g: float, sg: float) -> None:
    made = lumps(a_g, b_g, sg)
    assert (made.number * made.a_g, made.number * made.b_g) == (pytest.approx(a_g), pytest.approx(b_g))
    assert (made.a_g + made.b_g) / sg <= 120 * (1 + 1e-6)
    assert made.a_ball_mm is not None
    assert pi / 6 * made.a_ball_mm**3 / 1000 * sg == pytest.approx(made.a_g)


def test_a_pad_takes_its_block_less_the_master() -> None:
    assert Pad(length_mm=100, width_mm=80, thickness_mm=20, displaced_ml=60).need_ml == pytest.approx(100)


@given(st.floats(1, 1e5), st.integers(1, 20), st.floats(0.1, 10))
def test_a_skin_is_as_thick_as_its_coats(area: float, number: int, each: float) -> None:
    planned = coats(area_cm2=area, number=number, coat_mm=each)
    assert sum(coat.volume_ml for coat in planned) == pytest.approx(area * 0.1 * (0.5 + each * (number - 1)))
    assert [coat.is_thickened for coat in planned] == [False] + [True] * (number - 1)


def test_a_whole_kit_fills_the_biggest_waiting_jobs_first() -> None:
    waiting = [
        Waiting(job_id=number, name=f"job {number}", need_g=grams)
        for number, grams in ((1, 90), (2, 500), (3, 450), (4, 80))
    ]
    kit = whole_kit(1100, 400, waiting)
    assert (kit.makes_g, kit.over_g) == (pytest.approx(1100), pytest.approx(700))
    assert [job.job_id for job in kit.fills] == [2, 1, 4]
    assert whole_kit(1100, 1200).over_g == pytest.approx(-100)


@given(st.lists(st.floats(-5, 60), max_size=300), st.floats(50, 99))
def test_the_allowance_starts_at_the_usual_and_ends_with_the_shops_own(over: list[float], sure: float) -> None:
    made = learn(over, sure)
    assert 0 <= made.spare_pct <= 100
    assert made.pours == min(200, len(over))
    if not over:
        assert made.spare_pct == 10
    else:
        lowest, highest = min([*over[:200], 10]), max([*over[:200], 10])
        assert max(0, lowest) - 0.05 <= made.spare_pct <= highest + 0.05
        enough = sum(one <= (made.learnt_pct or 0) + 1e-9 for one in over[:200]) / made.pours
        assert enough >= sure / 100 - 1 / made.pours - 1e-9


def test_surer_is_never_less_and_an_even_shop_is_learnt_exactly() -> None:
    over = [float(percent) for percent in range(101)]
    assert [quantile(over, share) for share in (0, 0.25, 0.5, 0.9, 1)] == [0, 25, 50, 90, 100]
    assert learn(over, 60).spare_pct < learn(over, 90).spare_pct
    assert learn([4.0] * 195, 80).spare_pct == pytest.approx(4 * 195 / 200 + 10 * 5 / 200, abs=0.05)
    for sure in (49, 100, float("nan")):
        with pytest.raises(Refused, match="between 50 and 99"):
            learn(over, sure)


def test_tins_that_nobody_counts_say_nothing() -> None:
    assert stock_findings("Estuary 5", (), {"A": 100.0}) == ()
    full = (
        Lot(code="1", part="A", left_g=100, got_g=100, days_left=200),
        Lot(code="2", part="B", left_g=100, got_g=100),
    )
    assert stock_findings("Estuary 5", full, {"A": 100.0, "B": 100.0}) == ()
    codes = [finding.code for finding in stock_findings("Estuary 5", full, {"A": 100.1, "B": 1.0})]
    assert codes == ["stock-low"]
    for wrong in ({"code": ""}, {"got_g": 0.0}, {"left_g": -1.0}, {"part": "C"}):
        with pytest.raises(Refused, match=r"[A-Z].*[.?]"):
            Lot(**{"code": "1", "part": "A", "left_g": 1.0, "got_g": 1.0, **wrong})
