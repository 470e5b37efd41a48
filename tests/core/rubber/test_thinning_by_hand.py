"""Thinner and blends by hand: figures from a slide rule's worth of arithmetic, not from the functions themselves."""

import re
from dataclasses import replace
from math import exp, log

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.blends import blend_range_mpa, blended, check_blend, share_for, viscosity_of_mix
from ufrin.core.rubber.coupons import Coupon, puck_recipe, read_readings
from ufrin.core.rubber.cure_times import check_room, time_at
from ufrin.core.rubber.hardness_wanted import hardness_wanted
from ufrin.core.rubber.shore import Hardness, feel_of, gent_mpa, reading
from ufrin.core.rubber.thinner_curve import CouponPoint, Curve, Thinned, polymer_fraction
from ufrin.core.rubber.thinner_side_effects import (
    side_effects,
    thinned_cast_in_min,
    thinned_demould_min,
    thinned_full_cure_min,
)
from ufrin.core.rubber.tins import Rubber
from ufrin.core.rubber.typical import typical_rubber
from ufrin.errors import Refused

TIN = Rubber(
    name="Tideline 25",
    weight_a=10,
    weight_b=1,
    sg_mixed=1.1,
    viscosity_mpa_s=20_000,
    pot_life_min=40,
    demould_min=360,
    full_cure_min=1440,
    elongation_pct=350,
    tear_kn_per_m=20,
    hardness=25,
)
OTHER = replace(
    TIN,
    name="Tideline 10",
    sg_mixed=1.0,
    viscosity_mpa_s=5_000,
    pot_life_min=30,
    demould_min=300,
    full_cure_min=2880,
    elongation_pct=500,
    tear_kn_per_m=12,
    tolerance_pct=1.0,
    hardness=10,
)


def a(shore: float) -> Hardness:
    return Hardness(scale="A", shore=shore)


def soft(shore: float) -> Hardness:
    return Hardness(scale="00", shore=shore)


def point(parts: float, hardness: Hardness) -> CouponPoint:
    return CouponPoint(parts_per_100=parts, hardness=hardness)


def codes(made: Thinned) -> list[str]:
    """Return what is found, without the advice to read a soft rubber on the softer scale, which has its own test."""
    return [finding.code for finding in made.findings if finding.code != "measure-on"]


# --- the volume of thinner, and what it does to the modulus


def test_the_fraction_of_polymer_is_a_share_of_volume() -> None:
    # 100 g of rubber of 1.1 are 90.909 ml; 25 g of oil of 0.97 are 25.773 ml
    assert polymer_fraction(25, rubber_sg=1.1, thinner_sg=0.97) == pytest.approx(
        90.9091 / (90.9091 + 25.7732), rel=1e-5
    )
    assert polymer_fraction(25) == pytest.approx(0.8)  # without densities, by mass
    assert polymer_fraction(25, rubber_sg=1.1) == polymer_fraction(25, thinner_sg=0.97) == pytest.approx(0.8)


def test_the_model_alone_has_the_exponent_nine_quarters_and_a_range_from_two_to_three() -> None:
    made = Curve(a(25)).at(25)
    own = gent_mpa(25)
    assert made.modulus_mpa == pytest.approx(own * 0.8**2.25)
    assert made.range_mpa == (pytest.approx(own * 0.8**3), pytest.approx(own * 0.8**2))
    assert (made.basis, codes(made)) == ("model", ["model-only"])
    neat = Curve(a(25)).at(0)
    assert (neat.modulus_mpa, neat.findings, neat.range_mpa) == (pytest.approx(own), (), None)


def test_two_coupons_fit_the_exponent_by_least_squares_through_the_tin() -> None:
    curve = Curve(a(25), [point(25, a(12)), point(100 / 9, a(17))])
    # ln(E / E0) = n ln(phi): phi is 0.8 and 0.9
    across = [log(0.8), log(0.9)]
    up = [log(gent_mpa(12) / gent_mpa(25)), log(gent_mpa(17) / gent_mpa(25))]
    n = sum(x * y for x, y in zip(across, up, strict=True)) / sum(x * x for x in across)
    assert curve.exponent == pytest.approx(n)
    assert curve.modulus_mpa(30) == pytest.approx(gent_mpa(25) * (100 / 130) ** n)
    assert curve.last_dose == 25
    # beyond its last coupon the curve's own exponent counts among the ends of the range
    ratio = (100 / 140) / 0.8
    start = curve.modulus_mpa(25)
    low, high = curve.range_mpa(40) or (0, 0)
    ends = [start * ratio**power for power in (2, 3, n)]
    assert (low, high) == (pytest.approx(min(ends)), pytest.approx(max(ends)))
    assert curve.range_mpa(25) is None


def test_a_coupon_without_thinner_replaces_the_tin_and_coupons_of_one_dose_are_averaged() -> None:
    curve = Curve(a(25), [point(0, a(20)), point(25, a(10)), point(25, a(14))])
    assert curve.own_mpa == pytest.approx(gent_mpa(20))
    n = log(exp((log(gent_mpa(10)) + log(gent_mpa(14))) / 2) / gent_mpa(20)) / log(0.8)
    assert curve.exponent == pytest.approx(n)
    assert curve.at(0).basis == curve.at(25).basis == "data"
    assert curve.at(10).basis == "fitted"


def test_coupons_harder_than_the_rubber_leave_the_curve_almost_flat() -> None:
    assert Curve(a(10), [point(20, a(15))]).exponent == 0.05
    assert codes(Curve(a(10), [point(20, a(15))]).at(20)) == ["points-disagree"]


def test_points_on_a_falling_curve_do_not_disagree_and_small_bumps_are_forgiven() -> None:
    assert codes(Curve(a(25), [point(10, a(20)), point(20, a(16)), point(30, a(12))]).at(20)) == []
    # two neighbours that rise by less than a tenth are within five percent of their mean
    rise = [point(10, a(16)), point(20, a(16.6)), point(30, a(12))]
    assert codes(Curve(a(25), rise).at(20)) == []
    assert codes(Curve(a(25), [point(10, a(14)), point(20, a(18)), point(30, a(12))]).at(20)) == ["points-disagree"]


def test_beyond_three_coupons_the_curve_goes_on_with_the_model_from_the_last() -> None:
    curve = Curve(a(25), [point(10, a(20)), point(20, a(16)), point(25, a(13))])
    n = curve.exponent
    assert curve.own_mpa == pytest.approx(gent_mpa(25))
    # a first coupon that is harder than the tin lifts the whole curve to their mean
    lifted = Curve(a(20), [point(10, a(25)), point(20, a(16)), point(25, a(13))])
    assert lifted.own_mpa == pytest.approx((gent_mpa(20) * gent_mpa(25)) ** 0.5)
    assert Curve(a(20), [point(10, a(25)), point(20, a(16))]).own_mpa == pytest.approx(gent_mpa(20))
    assert curve.modulus_mpa(25) == pytest.approx(gent_mpa(13), rel=1e-5)
    assert curve.modulus_mpa(40) == pytest.approx(gent_mpa(13) * (125 / 140) ** n, rel=1e-5)
    assert codes(curve.at(40)) == ["beyond-points"]
    assert dict(curve.at(40).findings[-1].facts) == {"last": "25"}


def test_a_thinned_rubber_that_its_gauge_no_longer_reads_names_the_other_gauge() -> None:
    made = Curve(a(22)).at(40)
    assert (made.shore("A") or 0) < 20
    (found,) = (one for one in made.findings if one.code == "measure-on")
    assert (dict(found.facts), found.field) == ({"scale": "A", "other": "00"}, "thinner_parts")
    assert all(one.code != "measure-on" for one in Curve(a(40)).at(5).findings)
    assert [one.code for one in Curve(a(10)).at(0).findings] == ["scale-end"]  # the tin's own reading is told as it is


@pytest.mark.parametrize("shore", [12.0, 20.0, 24.9])
def test_a_dose_for_a_target_is_the_model_turned_round(shore: float) -> None:
    # phi = (E / E0)^(1 / 2.25), and 100 / phi - 100 parts
    by_hand = 100 / (gent_mpa(shore) / gent_mpa(25)) ** (1 / 2.25) - 100
    assert Curve(a(25)).dose_for(a(shore)).parts_per_100 == pytest.approx(by_hand, rel=1e-6)


def test_the_ends_of_a_curve_are_doses_too() -> None:
    curve = Curve(a(25))
    assert curve.dose_for(a(25)).parts_per_100 == 0
    softest = reading(curve.modulus_mpa(50), "A") or 0
    assert curve.dose_for(a(softest)).parts_per_100 == pytest.approx(50, abs=1e-4)
    for beyond, says in ((a(25.1), "harder than the rubber itself, A 25"), (a(softest - 0.1), "more than 50 parts")):
        with pytest.raises(Refused, match=says):
            curve.dose_for(beyond)


# --- what thinner costs


def test_what_twenty_five_parts_cost() -> None:
    paid = side_effects(TIN, 25, thinner_mpa_s=50, thinner_sg=1.1)
    # ln eta by mass: 100 of 20 000 and 25 of 50; half and double, and never thicker than the rubber
    eta = exp((100 * log(20_000) + 25 * log(50)) / 125)
    assert paid.viscosity_mpa_s == pytest.approx(eta)
    assert paid.viscosity_range_mpa_s == (pytest.approx(eta / 2), pytest.approx(eta * 2))
    # phi = 0.8: from phi^3 to phi^1.5 of 20 kN/m are left
    assert paid.tear_range_kn_per_m == (pytest.approx(20 * 0.512), pytest.approx(20 * 0.8**1.5))
    assert paid.tear_lost_pct == (pytest.approx(100 - 100 * 0.8**1.5), pytest.approx(48.8))
    assert paid.demould_min == pytest.approx(360 * 2**0.5)
    # 100 g of 1.1 are 90.91 ml and 25 g of 0.97 are 25.77 ml
    phi = 90.9091 / (90.9091 + 25.7732)
    assert side_effects(TIN, 25, thinner_sg=0.97).tear_lost_pct == (
        pytest.approx(100 * (1 - phi**1.5), rel=1e-4),
        pytest.approx(100 * (1 - phi**3), rel=1e-4),
    )
    neat = side_effects(TIN, 0)
    assert neat.viscosity_range_mpa_s == (pytest.approx(20_000), pytest.approx(20_000))
    assert side_effects(TIN, 0.5, thinner_mpa_s=50).viscosity_range_mpa_s[1] == 20_000
    bare = replace(TIN, viscosity_mpa_s=None, tear_kn_per_m=None, demould_min=None, full_cure_min=None)
    nothing = side_effects(bare, 10, thinner_mpa_s=50)
    assert (nothing.viscosity_mpa_s, nothing.viscosity_range_mpa_s, nothing.tear_range_kn_per_m) == (None, None, None)
    assert nothing.demould_min is None
    assert thinned_full_cure_min(bare, 10) is None


@pytest.mark.parametrize(
    ("parts", "word"), [(0, "none"), (20, "unlikely"), (20.1, "possible"), (35, "possible"), (35.1, "likely")]
)
def test_bleeding_by_dose(parts: float, word: str) -> None:
    assert side_effects(TIN, parts).bleeding == word


def test_thinner_delays_demoulding_first_cast_and_full_cure_alike() -> None:
    # common practice: twice as long at 50 parts, by equal ratios in between; more is not extrapolated
    assert thinned_demould_min(TIN, 50) == 720
    assert thinned_demould_min(TIN, 25) == pytest.approx(509.117, abs=0.001)
    assert thinned_full_cure_min(TIN, 50) == 2880
    assert thinned_full_cure_min(TIN, 80) == 2880
    slow = replace(TIN, cast_in_min=600)
    assert [thinned_cast_in_min(slow, parts) for parts in (0, 50, 80)] == [600, 1200, 1200]
    assert thinned_cast_in_min(TIN, 50) is None
    assert thinned_demould_min(TIN, 80) == 720


@pytest.mark.parametrize(("temp_c", "minutes"), [(23, 360), (33, 180), (13, 720), (18, 509.117), (28, 254.558)])
def test_ten_degrees_halve_or_double_a_time(temp_c: float, minutes: float) -> None:
    assert time_at(360, temp_c) == pytest.approx(minutes, abs=0.001)
    assert time_at(360, temp_c + 2, reference_temp_c=25) == pytest.approx(minutes, abs=0.001)
    check_room(temp_c)


def test_another_q10_and_rooms_that_are_none() -> None:
    assert time_at(100, 33, q10=2.5) == pytest.approx(40)
    for temp_c in (0, 50):
        check_room(temp_c)
    for temp_c in (-0.1, 50.1, float("nan")):
        with pytest.raises(Refused, match="no room to pour in"):
            check_room(temp_c)


# --- blends


def test_a_blend_has_the_cautious_figure_of_each_pair() -> None:
    both = blended(TIN, OTHER, 0.25)
    assert (both.pot_life_min, both.demould_min, both.full_cure_min) == (30, 360, 2880)
    assert (both.elongation_pct, both.tear_kn_per_m, both.tolerance_pct) == (350, 12, 1)
    # 75 g of 1.1 and 25 g of 1.0 are 68.18 and 25 ml
    assert both.sg == pytest.approx(100 / (75 / 1.1 + 25))
    assert both.viscosity_mpa_s == pytest.approx(20_000**0.75 * 5_000**0.25)
    assert (both.hardness, both.kit_g, both.kit_price) == (None, None, None)
    assert both.weight_ratio == (10, 1)
    assert both.family == TIN.family
    turned = blended(OTHER, TIN, 0.75)
    assert (turned.pot_life_min, turned.demould_min, turned.tear_kn_per_m) == (30, 360, 12)
    assert turned.sg == pytest.approx(both.sg)
    assert turned.viscosity_mpa_s == pytest.approx(both.viscosity_mpa_s)
    assert both.name == "Tideline 25 with 25 % Tideline 10"
    # parts that are known of the first tin alone are not those of the blend
    by_parts = blended(replace(TIN, sg_a=1.1, sg_b=1.0, volume_a=9, volume_b=1), replace(OTHER, weight_b=1.005), 0.5)
    assert (by_parts.sg_a, by_parts.sg_b, by_parts.volume_a, by_parts.volume_b) == (None, None, None, None)
    assert by_parts.weight_ratio == (10, 1)


@pytest.mark.parametrize("name", ["pot_life_min", "demould_min", "full_cure_min", "elongation_pct", "tear_kn_per_m"])
def test_a_figure_that_one_tin_leaves_out_is_not_known_of_the_blend(name: str) -> None:
    assert getattr(blended(TIN, replace(OTHER, **{name: None}), 0.5), name) is None
    assert getattr(blended(replace(TIN, **{name: None}), OTHER, 0.5), name) is None
    assert blended(TIN, replace(OTHER, viscosity_mpa_s=None), 0.5).viscosity_mpa_s is None


def test_ratios_may_differ_by_a_percent() -> None:
    check_blend(TIN, replace(OTHER, weight_a=100, weight_b=10.09))
    for b in (10.11, 9.89):
        with pytest.raises(Refused, match="Tideline 25 and Tideline 10 have different ratios"):
            check_blend(TIN, replace(OTHER, weight_a=100, weight_b=b))


def test_the_range_of_a_blend_is_between_the_two_rules() -> None:
    low, high = blend_range_mpa(a(10), a(40), 0.25)
    by_modulus = gent_mpa(10) ** 0.75 * gent_mpa(40) ** 0.25
    by_number = gent_mpa(17.5)
    assert (low, high) == (pytest.approx(min(by_modulus, by_number)), pytest.approx(max(by_modulus, by_number)))
    # gauges of two scales have no numbers to share
    one, other = blend_range_mpa(soft(40), a(30), 0.5)
    assert one == other == pytest.approx((soft(40).modulus_mpa * gent_mpa(30)) ** 0.5)


def test_the_share_for_a_target_runs_from_the_first_to_the_second() -> None:
    assert share_for(a(10), a(40), a(10)) == 0
    assert share_for(a(10), a(40), a(40)) == 1
    assert share_for(a(40), a(10), a(40)) == 0
    assert share_for(a(20), a(20), a(20)) == 0
    middle = a(reading((gent_mpa(10) * gent_mpa(40)) ** 0.5, "A") or 0)
    assert share_for(a(10), a(40), middle) == pytest.approx(0.5)
    for beyond in (a(9), a(41)):
        with pytest.raises(Refused, match="A blend lies between its two: A 10 and A 40"):
            share_for(a(10), a(40), beyond)


@given(st.lists(st.tuples(st.floats(1, 100), st.floats(10, 1e5)), min_size=1, max_size=4))
def test_viscosities_mix_by_their_logarithms(parts: list[tuple[float, float]]) -> None:
    masses, etas = zip(*parts, strict=True)
    product = 1.0
    for mass, eta in parts:
        product *= eta ** (mass / sum(masses))
    assert viscosity_of_mix(masses, etas) == pytest.approx(product, rel=1e-9)


# --- coupons


@pytest.mark.parametrize(
    ("changed", "code"),
    [
        ({}, None),
        ({"thickness_mm": 6.0}, None),
        ({"thickness_mm": 5.9}, "coupon-thin"),
        ({"edge_mm": 12.0, "apart_mm": 6.0}, None),
        ({"edge_mm": 11.9}, "coupon-edge"),
        ({"apart_mm": 5.9}, "coupon-edge"),
        ({"readings": (30, 31, 32, 33)}, "coupon-few"),
        ({"readings": (5, 5, 5, 5, 5)}, "coupon-off-scale"),
        ({"scale": "00", "readings": (0, 0, 0, 0, 0)}, "coupon-off-all"),
    ],
)
def test_a_coupon_that_does_not_count_says_why(changed: dict[str, object], code: str | None) -> None:
    coupon = Coupon(**{"scale": "A", "readings": (30, 31, 32, 33, 34), **changed})
    assert [finding.code for finding in coupon.findings()] == ([code] if code else [])
    for finding in coupon.findings():
        assert code != "coupon-few" or dict(finding.facts) == {"readings": "4"}
        assert finding.field in {"readings", "thickness_mm", "edge_mm"}


def test_the_median_counts_and_not_the_mean() -> None:
    assert Coupon(scale="A", readings=(20, 21, 22, 23, 80)).shore == 22
    assert Coupon(scale="A", readings=(20, 30)).hardness == a(25)
    (off,) = Coupon(scale="A", readings=(5,) * 5).findings()
    assert dict(off.facts) == {"reading": "A 5", "other": "00"}


def test_readings_are_read_however_they_are_separated() -> None:
    assert read_readings("24;25, 23.5\n24") == (24, 25, 23.5, 24)
    assert len(read_readings("24 " * 50)) == 21  # one more than a coupon takes, so that the coupon can refuse it
    for text in ("24 -5", "1e3", "24..5", "12345678", "٢٤"):
        with pytest.raises(Refused, match="is not a reading"):
            read_readings(text)
    with pytest.raises(Refused, match="at most 20"):
        Coupon(scale="A", readings=(24,) * 21)
    with pytest.raises(Refused, match="more than nothing thick"):
        Coupon(scale="A", readings=(24,), thickness_mm=0)


def test_a_puck_is_weighed_in_the_ratio_of_the_tin() -> None:
    # a drum of 44 x 8 mm holds 12.164 ml
    puck = puck_recipe(TIN, 1.1)
    assert (puck.a_g, puck.b_g) == (pytest.approx(12.164 * 10 / 10, abs=0.01), pytest.approx(1.2164, abs=0.001))
    assert puck.thinner_g == pytest.approx(1.338, abs=0.001)


# --- what to want, and how it feels


@pytest.mark.parametrize(
    ("asked", "shore"),
    [
        ({"undercut": "none"}, 33),
        ({}, 22),
        ({"undercut": "deep"}, 13),
        ({"detail": "fine"}, 20),
        ({"detail": "frail"}, 15),
        ({"height_to_width": 1.9}, 22),
        ({"height_to_width": 2.0}, 17),
        ({"wall_mm": 6.0}, 22),
        ({"wall_mm": 5.9}, 27),
        ({"longest_mm": 250.0}, 22),
        ({"longest_mm": 251.0}, 27),
        ({"shots": 40}, 22),
        ({"shots": 41}, 25),
        ({"undercut": "deep", "shots": 41}, 10),
        ({"undercut": "deep", "detail": "frail", "height_to_width": 3, "shots": 99}, 5),
        ({"undercut": "none", "wall_mm": 3, "longest_mm": 400, "shots": 99}, 45),
    ],
)
def test_each_circumstance_moves_the_hardness_to_want(asked: dict[str, object], shore: float) -> None:
    wanted = hardness_wanted(**asked)
    assert (wanted.hardness, wanted.softest) == (a(shore), a(max(0, shore - 5)))
    assert wanted.hardest == a(shore + 5)
    for reason in wanted.reasons:  # whole sentences
        assert re.fullmatch(r"([A-Z][a-z ]|\d).* .*[a-z]\.", reason)


def test_a_feel_is_the_nearest_by_ratio() -> None:
    for shore in (5, 30, 60):
        feel = feel_of(gent_mpa(shore))
        assert abs(log(feel.hardness.modulus_mpa / gent_mpa(shore))) < 0.6
    assert feel_of(soft(20).modulus_mpa) != feel_of(gent_mpa(80))


# --- tins


def test_a_tin_that_counts_thinner_by_its_a() -> None:
    by_a = replace(TIN, thinner_of="A")
    # 10:1, so 11 parts of A are 10 parts of A + B
    assert by_a.parts_of_both(11) == pytest.approx(10)
    assert by_a.parts_as_told(10) == pytest.approx(11)
    assert TIN.parts_of_both(11) == TIN.parts_as_told(11) == 11


@pytest.mark.parametrize(
    ("changed", "field", "says"),
    [
        ({"weight_b": None}, "weight_b", "two numbers"),
        ({"weight_a": None}, "weight_a", "two numbers"),
        ({"volume_a": 1.0}, "volume_b", "two numbers"),
        ({"weight_b": 0.0}, "weight_b", "never sets"),
        ({"volume_a": 1.0, "volume_b": -1.0}, "volume_b", "never sets"),
        ({"weight_a": None, "weight_b": None}, "weight_a", "A ratio is needed"),
        ({"weight_a": None, "weight_b": None, "volume_a": 1.0, "volume_b": 1.0}, "weight_a", "A ratio is needed"),
        ({"pot_life_min": 0.0}, "pot_life_min", "pot life"),
        ({"demould_min": 0.0}, "demould_min", "demould time"),
        ({"full_cure_min": -1.0}, "full_cure_min", "full cure"),
        ({"kit_g": 0.0}, "kit_g", "kit"),
        ({"hardness": 101.0}, "hardness", "from 0 to 100"),
        ({"hardness": -1.0}, "hardness", "from 0 to 100"),
        ({"form": "gas"}, "form", "not one of the choices"),
        ({"thinner_of": "B"}, "form", "not one of the choices"),
        ({"family": "glue"}, "form", "not one of the choices"),
        ({"tolerance_pct": 0.0}, "tolerance_pct", "more than nothing"),
        ({"sg_mixed": None}, "sg_mixed", "specific gravity of the mix"),
        ({"sg_mixed": None, "sg_a": 1.0}, "sg_mixed", "specific gravity of the mix"),
    ],
)
def test_a_tin_that_cannot_be(changed: dict[str, object], field: str, says: str) -> None:
    with pytest.raises(Refused, match=says) as refused:
        replace(TIN, **changed)
    assert refused.value.field == field


def test_a_volume_ratio_turned_into_weights() -> None:
    tin = Rubber(name="By cups", volume_a=2, volume_b=1, sg_a=1.2, sg_b=0.9)
    # two cups of 1.2 and one of 0.9: 2.4 g and 0.9 g in 3 ml
    assert tin.weight_ratio == (100, pytest.approx(37.5))
    assert tin.sg == pytest.approx(1.1)
    assert tin.sg_parts == {"A": 1.2, "B": 0.9}
    assert TIN.sg_parts is None
    assert TIN.b_per_100_a_by_volume_ratio is None
    assert (tin.by_volume, TIN.by_volume) == (True, False)


def test_ratios_that_disagree_by_more_than_the_tolerance_are_told() -> None:
    tin = Rubber(name="Two ratios", weight_a=100, weight_b=38, volume_a=2, volume_b=1, sg_a=1.2, sg_b=0.9)
    assert tin.findings() == ()  # 1.3 % apart
    (found,) = replace(tin, weight_b=40).findings()
    assert (found.code, found.field) == ("ratios-disagree", "volume_a")
    assert found.facts["by_volume"].value == pytest.approx(37.5)
    assert found.facts["by_weight"].value == pytest.approx(40)
    (found,) = replace(tin, sg_mixed=1.13).findings()
    assert (found.code, found.field) == ("sgs-disagree", "sg_mixed")
    assert found.facts["mixed"].value == 1.13
    assert found.facts["parts"].value == pytest.approx(1.1, abs=0.001)
    assert replace(tin, sg_mixed=1.12).findings() == ()


def test_additives_have_usual_densities_and_go_with_their_family() -> None:
    assert [Additive(name="x", kind=kind).sg_or_usual for kind in ("thinner", "thickener", "pigment")] == [0.97, 1, 1.1]
    assert Additive(name="x", sg=0.9).sg_or_usual == 0.9
    assert Additive(name="x").goes_with("polyurethane-rubber")
    own = Additive(name="x", family="addition-silicone")
    assert (own.goes_with("addition-silicone"), own.goes_with("polyurethane-rubber")) == (True, False)
    for changed, field in (
        ({"kind": "glitter"}, "kind"),
        ({"family": "glue"}, "family"),
        ({"sg": 0.05}, "sg"),
        ({"sg": 22.7}, "sg"),
        ({"pack_g": 0.0}, "pack_g"),
        ({"most_parts": -1.0}, "most_parts"),
        ({"viscosity_mpa_s": 0.0}, "viscosity_mpa_s"),
    ):
        with pytest.raises(Refused, match=r".+") as refused:
            Additive(name="x", **changed)
        assert refused.value.field == field
    for sg in (0.1, 22.6):
        assert Additive(name="x", sg=sg).sg == sg


def test_a_family_stands_in_for_a_rubber_that_is_not_chosen_yet() -> None:
    for family in ("addition-silicone", "condensation-silicone", "polyurethane-rubber"):
        usual = typical_rubber(family)
        assert (usual.family, usual.weight_ratio) == (family, (1, 1))
        assert 0.95 < usual.sg < 1.5  # rubbers lie between 0.9 and 1.6 (common practice)
        assert 100 < (usual.elongation_pct or 0) < 1200
