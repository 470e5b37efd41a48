"""Bubbles and the five schools by hand: Stokes in base units, Boyle, and the time that a pour leaves."""

from dataclasses import replace
from math import pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.degassing.air_pressure import local_air_kpa, standard_air_hpa
from ufrin.core.degassing.bubbles import (
    absolute_kpa,
    diameter_ratio,
    pot_ratio,
    rise_mm_per_min,
    smallest_mm,
    volume_ratio,
)
from ufrin.core.degassing.schools import SCHOOLS, AirRemoval, Liquid, School, SchoolSettings, schools, stream_mm
from ufrin.core.degassing.schools import wart_findings as warts
from ufrin.errors import Refused

LIQUID = Liquid(viscosity_mpa_s=20_000, sg=1.1, depth_mm=60, volume_ml=1000, still_min=30, pour_min=2)
WAYS = SchoolSettings(drop_mm=300, vibrate_min=5, vacuum_kpa=3, vacuum_min=3, pot_kpa=275, rise_factor=4)


def by_key(of: Liquid = LIQUID, ways: SchoolSettings = WAYS) -> dict[str, School]:
    return {one.key: one for one in schools(of, ways)}


def stokes_mm(depth_mm: float, time_min: float, eta_mpa_s: float, sg: float) -> float:
    """d = sqrt(18 eta v / (delta rho g)) in base units (Stokes 1851)."""
    speed = depth_mm / 1000 / (time_min * 60)
    return 1000 * sqrt(18 * eta_mpa_s / 1000 * speed / ((sg - 0.0012) * 1000 * 9.80665))


def test_the_smallest_bubble_that_rises_in_time() -> None:
    by_hand = stokes_mm(60, 30, 20_000, 1.1)
    assert by_hand == pytest.approx(1.06, abs=0.01)
    assert smallest_mm(60, 30, 20_000, 1.1) == pytest.approx(by_hand)
    # a clean surface rises half as fast again in a thick liquid (Hadamard and Rybczynski 1911)
    assert smallest_mm(60, 30, 20_000, 1.1, "clean") == pytest.approx(by_hand / sqrt(1.5), rel=1e-5)
    # and in a gas as thick as the liquid the factor is 3 (1 + 1) / (2 + 3) = 1.2
    slow, fast = (rise_mm_per_min(0.1, 0.018, 1.0, surface) for surface in ("dirty", "clean"))
    assert fast / slow == pytest.approx(1.2)


@given(st.floats(0.01, 5), st.floats(10, 1e5), st.floats(0.8, 2))
def test_what_just_rises_in_a_time_covers_the_depth_in_it(mm: float, eta: float, sg: float) -> None:
    speed = rise_mm_per_min(mm, eta, sg)
    assert smallest_mm(7 * speed, 7, eta, sg) == pytest.approx(mm)


def test_each_school_by_hand() -> None:
    found = by_key()
    assert list(found) == list(SCHOOLS)
    still = stokes_mm(60, 30, 20_000, 1.1)
    assert (found["clear"].slow_mm, found["clear"].fast_mm) == (
        pytest.approx(still),
        pytest.approx(still / sqrt(1.5), rel=1e-5),
    )
    # 1000 ml in 2 min, 300 mm down: 2.43 m/s, and a stream of area flow / speed
    area = 1000e3 / 120 / sqrt(2 * 9806.65 * 300)
    assert stream_mm(500, 300) == pytest.approx(sqrt(4 * area / pi))
    assert found["stream"].slow_mm == pytest.approx(min(still, sqrt(4 * area / pi)))
    # shaken for 5 of the 30 min, and left still for the others
    assert found["vibrate"].slow_mm == pytest.approx(still)
    assert found["vibrate"].fast_mm == pytest.approx(still / sqrt(1.5), rel=1e-5)
    # a litre in its cup stands like a cube of 100 mm; its own head of 1.079 kPa counts before and after
    grows = ((101.325 + 1.0787) / (3 + 1.0787)) ** (1 / 3)
    left_in = stokes_mm(100, 4.5, 20_000, 1.1) / grows
    assert found["vacuum"].slow_mm == pytest.approx(min(still, left_in), rel=1e-4)
    # what shrinks to 0.2 mm is no longer seen
    unseen = 0.2 * ((101.325 + 275) / 101.325) ** (1 / 3)
    assert (found["pressure"].slow_mm, found["pressure"].fast_mm) == (pytest.approx(unseen), pytest.approx(unseen))
    assert [one.key for one in found.values() if one.is_estimate] == ["stream", "vibrate"]
    assert {one.label for one in found.values()} == set(SCHOOLS.values())


@given(
    st.floats(100, 1e5),
    st.floats(5, 500),
    st.floats(10, 20_000),
    st.floats(0, 300),
    st.floats(0.1, 90),
    st.floats(1, 9),
)
def test_no_school_is_worse_than_to_leave_it_alone(
    eta: float, depth_mm: float, volume_ml: float, still_min: float, vacuum_kpa: float, vacuum_min: float
) -> None:
    of = replace(LIQUID, viscosity_mpa_s=eta, depth_mm=depth_mm, volume_ml=volume_ml, still_min=still_min)
    found = by_key(of, replace(WAYS, vacuum_kpa=vacuum_kpa, vacuum_min=vacuum_min))
    alone = found["clear"]
    if alone.slow_mm is None or alone.fast_mm is None:
        return
    for one in found.values():
        assert one.slow_mm is not None
        assert one.fast_mm is not None
        assert one.slow_mm <= alone.slow_mm * (1 + 1e-12)
        assert one.fast_mm <= alone.fast_mm * (1 + 1e-12)


def test_the_words_have_the_figures_that_were_computed() -> None:
    found = by_key(ways=replace(WAYS, cup_ml=3999))
    assert "30 min" in found["clear"].text
    assert "[60.0 length ~]" in found["clear"].text
    assert "[300.0 length ~0]" in found["stream"].text
    assert "2 min" in found["stream"].text
    assert f"[{stream_mm(500, 300):.3f} fine ~]" in found["stream"].text
    assert found["vibrate"].text.startswith("For 5 min, then leave it still.")
    assert "[3.000 pressure ~1]" in found["vacuum"].text
    assert "[4000.0 volume ~0] or more" in found["vacuum"].text
    assert "2.9 times its size" in found["vacuum"].text
    assert "1 min 30 s after" in found["vacuum"].text or "1.5 min after" in found["vacuum"].text
    assert found["vacuum"].text.endswith("Your cup holds [3999.0 volume ~0]: too small.")
    assert "too small" not in by_key(ways=replace(WAYS, cup_ml=4000))["vacuum"].text
    assert "[275.0 pressure ~0]" in found["pressure"].text
    assert "to 0.65 of its size" in found["pressure"].text
    assert "[0.310 fine ~]" in found["pressure"].text


def test_a_thin_liquid_may_need_nothing_else() -> None:
    for eta, is_thin in ((3000, True), (3001, False)):
        text = by_key(replace(LIQUID, viscosity_mpa_s=eta))["clear"].text
        assert text.endswith("often needs nothing else.") == is_thin


def test_no_time_left_lets_nothing_rise() -> None:
    found = by_key(replace(LIQUID, still_min=0))
    assert (found["clear"].fast_mm, found["clear"].slow_mm) == (None, None)
    assert (found["vibrate"].fast_mm, found["vibrate"].slow_mm) == (None, None)
    assert found["clear"].text.startswith("No time is left")
    assert found["vibrate"].text.startswith("No time is left")
    assert not found["clear"].is_estimate
    assert found["vibrate"].is_estimate
    # what does not wait for the rise still helps
    assert found["stream"].slow_mm == found["stream"].fast_mm == pytest.approx(stream_mm(500, 300))
    assert found["pressure"].slow_mm == found["pressure"].fast_mm == pytest.approx(0.3097, abs=1e-3)


def test_vibrating_stops_when_the_liquid_does() -> None:
    found = by_key(replace(LIQUID, still_min=3))
    assert found["vibrate"].slow_mm == pytest.approx(stokes_mm(60, 3, 20_000, 1.1))
    assert "For 3 min" in found["vibrate"].text


def test_a_slow_pot_counts_where_bubbles_rise_better_than_they_shrink() -> None:
    thin = replace(LIQUID, viscosity_mpa_s=300)
    rise = stokes_mm(60, 30, 300, 1.1)
    found = by_key(thin)
    assert rise < 0.3
    assert found["pressure"].slow_mm == pytest.approx(rise)
    assert found["pressure"].fast_mm == pytest.approx(rise / sqrt(1.5), rel=1e-4)
    assert found["stream"].fast_mm == pytest.approx(rise / sqrt(1.5), rel=1e-4)


def test_a_pour_of_an_instant_counts_as_six_seconds() -> None:
    assert by_key(replace(LIQUID, pour_min=0, still_min=0))["stream"].slow_mm == pytest.approx(stream_mm(10_000, 300))


def test_boyle_with_the_head_of_the_liquid() -> None:
    assert volume_ratio(100, 50) == 2
    # 1 m of water is 9.80665 kPa
    assert volume_ratio(100, 50, depth_mm=1000) == pytest.approx(109.80665 / 59.80665)
    assert volume_ratio(100, 50, depth_mm=1000, sg=2) == pytest.approx(119.6133 / 69.6133)
    assert diameter_ratio(8) == pytest.approx(2)
    assert pot_ratio(101.325) == pytest.approx(0.5)
    assert pot_ratio(0) == 1


@pytest.mark.parametrize(
    ("ask", "field"),
    [
        (lambda: rise_mm_per_min(0, 1000, 1), "diameter_mm"),
        (lambda: rise_mm_per_min(1, 0, 1), "viscosity_mpa_s"),
        (lambda: rise_mm_per_min(1, float("inf"), 1), "viscosity_mpa_s"),
        (lambda: rise_mm_per_min(1, 1000, 0.0012), "sg"),
        (lambda: rise_mm_per_min(1, 1000, float("nan")), "sg"),
        (lambda: smallest_mm(0, 1, 1000, 1), "depth_mm"),
        (lambda: smallest_mm(1, 0, 1000, 1), "time_min"),
        (lambda: volume_ratio(0, 1), "from_kpa"),
        (lambda: volume_ratio(1, 0), "to_kpa"),
        (lambda: pot_ratio(-1), "pressure_psi_gauge"),
        (lambda: pot_ratio(float("inf")), "pressure_psi_gauge"),
        (lambda: absolute_kpa(0), "vacuum_gauge_kpa"),
        (lambda: absolute_kpa(101.325), "vacuum_gauge_kpa"),
        (lambda: standard_air_hpa(-501), "height_m"),
        (lambda: standard_air_hpa(5501), "height_m"),
        (lambda: local_air_kpa(499, None), "air_pressure_hpa"),
        (lambda: local_air_kpa(1101, None), "air_pressure_hpa"),
    ],
)
def test_what_no_bubble_can_be_in(ask, field: str) -> None:
    with pytest.raises(Refused, match=r"[a-z0-9]\.$") as refused:
        ask()
    assert refused.value.field == field


def test_the_limits_themselves_are_accepted() -> None:
    assert rise_mm_per_min(1, 1000, 0.0013) > 0
    assert local_air_kpa(500, None) == 50
    assert local_air_kpa(1100, None) == 110
    assert standard_air_hpa(-500) == pytest.approx(1074.8, abs=0.1)
    assert standard_air_hpa(5500) == pytest.approx(505, abs=0.5)
    assert absolute_kpa(101) == pytest.approx(0.325)


@pytest.mark.parametrize(
    ("mould", "mould_kpa", "cast", "left_pct"),
    [
        ("vacuum", 0, "pressure", None),
        ("pressure", 275, "pressure", None),
        ("pressure", 276, "pressure", None),
        ("clear", 0, "vacuum", None),
        ("clear", 0, "clear", None),
        # 101.325 / 376.325, and 376.325 became 201.325 before
        ("clear", 500, "pressure", 26.92),
        ("pressure", 100, "pressure", 53.50),
    ],
)
def test_warts(mould: str, mould_kpa: float, cast: str, left_pct: float | None) -> None:
    found = warts(AirRemoval(mould=mould, cast=cast, mould_kpa=mould_kpa, cast_kpa=275))
    if left_pct is None:
        assert found == ()
        return
    assert [(one.code, one.field) for one in found] == [("warts", "cast_air")]
    assert found[0].facts["pressure"].value == 275
    assert found[0].facts["left"].value == pytest.approx(left_pct, abs=0.01)
