"""Hardness: the scales against each other and against the gauges' own mechanics.

Curves of thinner are held against facts and laws.
"""

from math import log, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.rubber.blends import blend_mpa, check_blend, share_for
from ufrin.core.rubber.coupons import Coupon, puck_recipe, read_readings
from ufrin.core.rubber.hardness_wanted import hardness_wanted
from ufrin.core.rubber.shore import FEELS, Hardness, better_scale, feel_of, gent_mpa, gent_shore_a, reading
from ufrin.core.rubber.thinner_curve import CouponPoint, Curve
from ufrin.core.rubber.thinner_side_effects import demould_factor, side_effects
from ufrin.core.rubber.tins import Rubber
from ufrin.errors import Refused


def a(shore: float) -> Hardness:
    return Hardness(scale="A", shore=shore)


def soft(shore: float) -> Hardness:
    return Hardness(scale="00", shore=shore)


SCALES = st.sampled_from([("A", 0.0, 98.0), ("00", 0.0, 98.0), ("D", 8.0, 90.0)])
POINTS = st.lists(st.tuples(st.integers(1, 50), st.floats(5, 45)), max_size=6, unique_by=lambda pair: pair[0])


@given(SCALES, st.floats(0, 1))
def test_a_reading_goes_to_a_modulus_and_back(scale: tuple[str, float, float], share: float) -> None:
    name, low, high = scale
    shore = low + share * (high - low)
    modulus = Hardness(scale=name, shore=shore).modulus_mpa
    assert reading(modulus, name) == pytest.approx(shore, abs=1e-6)


@pytest.mark.parametrize("scale", ["00", "A", "D"])
def test_a_harder_reading_is_a_stiffer_rubber(scale: str) -> None:
    shores = list(range(8, 91))
    moduli = [Hardness(scale=scale, shore=shore).modulus_mpa for shore in shores]
    assert moduli == sorted(moduli)
    assert len(set(moduli)) == len(moduli)


@pytest.mark.parametrize("shore", [15, 25, 35, 45])
def test_the_soft_scale_agrees_with_its_gauge(shore: float) -> None:
    """Hertz's contact of a ball, F = 16/9 E sqrt(R) h^1.5.

    The 00 gauge's spring takes 0.203 to 1.111 N, its ball is 1.19 mm and its travel 2.54 mm (from memory).
    """
    force, depth = 0.2034 + 0.9079 * shore / 100, 2.54 * (1 - shore / 100)
    by_gauge = force * 9 / 16 / (sqrt(1.19) * depth**1.5)
    assert soft(shore).modulus_mpa == pytest.approx(by_gauge, rel=0.2)


@pytest.mark.parametrize("shore", [30, 50, 70])
def test_scale_a_agrees_with_a_flat_punch(shore: float) -> None:
    """Sneddon's flat punch, E = 3 F / (8 R h).

    The A gauge's spring takes 0.55 + 0.075 S N, its travel is 2.5 mm and its cone's mean radius 0.515 mm (from memory).
    """
    by_gauge = 3 * (0.55 + 0.075 * shore) / (8 * 0.515 * 2.5 * (1 - shore / 100))
    assert gent_mpa(shore) == pytest.approx(by_gauge, rel=0.03)
    assert gent_shore_a(gent_mpa(shore)) == pytest.approx(shore)


def test_readings_off_the_good_part_name_the_scale_to_use() -> None:
    assert [better_scale(one.modulus_mpa) for one in (soft(5), soft(50), a(5), a(30), a(95))] == [
        "00",
        "00",
        "00",
        "A",
        "D",
    ]
    (found,) = a(5).findings()
    assert "Read it on the scale 00" in found.text()
    assert a(40).findings() == ()
    assert {feel_of(feel.hardness.modulus_mpa) for feel in FEELS.values()} == set(FEELS.values())


def test_fifty_parts_on_an_a5_end_just_over_20_on_00() -> None:
    """Common practice: 50 parts per 100 take an A 5 rubber, about 50 on 00, to just over 20 on 00.

    They also double its time to demould.
    """
    assert reading(a(5).modulus_mpa, "00") == pytest.approx(50, abs=3)
    # fitted to smaller doses alone, as a shop would test them first, the curve lands where practice says
    fitted = Curve(
        a(5), [CouponPoint(parts_per_100=parts, hardness=soft(shore)) for parts, shore in ((10, 44), (20, 38))]
    )
    thinned = fitted.at(50)
    assert thinned.basis == "fitted"
    assert 18 < (thinned.shore("00") or 0) < 26
    assert {finding.code for finding in thinned.findings} >= {"beyond-points"}
    assert demould_factor(50) == 2


def test_the_model_alone_is_told_as_a_guess_with_a_range() -> None:
    thinned = Curve(a(25)).at(20)
    assert thinned.basis == "model"
    assert "model-only" in {finding.code for finding in thinned.findings}
    low, high = thinned.range_mpa or (0, 0)
    assert low < thinned.modulus_mpa < high
    assert Curve(a(25), [CouponPoint(parts_per_100=30, hardness=a(10))]).at(20).range_mpa is None


@given(POINTS, st.floats(0, 50), st.floats(0, 50))
def test_more_thinner_is_never_harder_and_a_harder_target_never_needs_more(
    points: list[tuple[int, float]], one: float, other: float
) -> None:
    curve = Curve(a(15), [CouponPoint(parts_per_100=parts, hardness=soft(shore)) for parts, shore in points])
    less, more = sorted((one, other))
    assert curve.modulus_mpa(less) >= curve.modulus_mpa(more) * (1 - 1e-9)
    softest, hardest = curve.modulus_mpa(50), curve.modulus_mpa(0)
    targets = sorted(softest * (hardest / softest) ** share for share in (one / 50, other / 50))
    readings = [reading(target, "00") for target in targets]
    doses = [
        curve.dose_for(soft(min(shore, reading(hardest, "00") or 0))).parts_per_100
        for shore in readings
        if shore is not None
    ]
    assert doses == sorted(doses, reverse=True)


@given(POINTS, st.floats(0.01, 0.99))
def test_dose_to_hardness_and_back(points: list[tuple[int, float]], share: float) -> None:
    curve = Curve(a(15), [CouponPoint(parts_per_100=parts, hardness=soft(shore)) for parts, shore in points])
    softest, hardest = curve.modulus_mpa(50), curve.modulus_mpa(0)
    target = softest * (hardest / softest) ** share
    shore = reading(target, "00")
    if shore is not None:
        assert curve.dose_for(soft(shore)).modulus_mpa == pytest.approx(target, rel=1e-5)


def test_three_points_are_met_exactly() -> None:
    points = [CouponPoint(parts_per_100=parts, hardness=soft(shore)) for parts, shore in ((10, 44), (25, 35), (50, 21))]
    curve = Curve(a(5), points)
    for point in points:
        made = curve.at(point.parts_per_100)
        assert (made.basis, made.shore("00")) == ("data", pytest.approx(point.hardness.shore, abs=1e-3))
    assert curve.at(17).basis == "fitted"
    coupon_without = Curve(a(5), [CouponPoint(parts_per_100=0, hardness=soft(47)), *points])
    assert coupon_without.at(0).shore("00") == pytest.approx(47, abs=1e-3)


@pytest.mark.parametrize(
    ("ask", "says"),
    [
        (lambda: Curve(a(5)).dose_for(a(10)), "harder than the rubber itself"),
        (lambda: Curve(a(40)).dose_for(soft(10)), "more than 50 parts"),
        (lambda: Curve(a(5)).at(51), "Beyond that there are no figures"),
        (lambda: Curve(a(5)).at(float("nan")), "Beyond that there are no figures"),
        (lambda: Hardness(scale="B", shore=4), "00, A or D"),
        (lambda: a(101), "from 0 to 100"),
        (lambda: a(99.5), "Read it on D"),
        (lambda: Hardness(scale="D", shore=2).modulus_mpa, "Read it on a harder or softer scale"),
        (lambda: CouponPoint(parts_per_100=60, hardness=a(5)), "between 0 and 50"),
        (lambda: share_for(a(10), a(30), a(40)), "does not"),
        (lambda: read_readings("24, x"), "is not a reading"),
        (lambda: Coupon(scale="A", readings=()), "Type what the gauge read"),
        (lambda: Coupon(scale="A", readings=(120,)), "from 0 to 100"),
    ],
)
def test_what_cannot_be_is_refused(ask, says: str) -> None:
    with pytest.raises(Refused, match=says):
        ask()


@given(st.floats(0, 1))
def test_a_blend_lies_between_its_two_and_its_share_comes_back(share: float) -> None:
    modulus = blend_mpa(a(10), a(40), share)
    assert a(10).modulus_mpa * (1 - 1e-9) <= modulus <= a(40).modulus_mpa * (1 + 1e-9)
    assert log(modulus) == pytest.approx((1 - share) * log(gent_mpa(10)) + share * log(gent_mpa(40)))
    assert share_for(a(10), a(40), a(gent_shore_a(modulus))) == pytest.approx(share, abs=1e-6)


def test_only_rubbers_of_one_family_and_ratio_are_blended() -> None:
    first = Rubber(name="First", weight_a=1, weight_b=1, sg_mixed=1.1)
    for second, says in (
        (
            Rubber(name="Second", family="polyurethane-rubber", weight_a=1, weight_b=1, sg_mixed=1.1),
            "different families",
        ),
        (Rubber(name="Second", weight_a=10, weight_b=1, sg_mixed=1.1), "different ratios"),
    ):
        with pytest.raises(Refused, match=says):
            check_blend(first, second)


def test_thinner_is_paid_for() -> None:
    rubber = Rubber(
        name="R", weight_a=1, weight_b=1, sg_mixed=1.07, viscosity_mpa_s=12_000, demould_min=240, tear_kn_per_m=13
    )
    none, some, much = (side_effects(rubber, parts, thinner_mpa_s=50, thinner_sg=0.97) for parts in (0, 20, 50))
    assert none.viscosity_mpa_s == pytest.approx(12_000)
    assert (none.viscosity_mpa_s or 0) > (some.viscosity_mpa_s or 0) > (much.viscosity_mpa_s or 0)
    assert (none.demould_min, much.demould_min) == (240, 480)
    assert none.tear_lost_pct == (0, 0)
    assert some.tear_lost_pct < much.tear_lost_pct
    assert [one.bleeding for one in (none, some, much)] == ["none", "unlikely", "likely"]
    assert side_effects(rubber, 20).viscosity_mpa_s is None  # a thinner whose viscosity nobody knows


def test_what_hardness_to_want() -> None:
    plain, deep = hardness_wanted(undercut="none"), hardness_wanted(undercut="deep", detail="frail", height_to_width=3)
    assert deep.hardness.shore < plain.hardness.shore
    assert len(deep.reasons) == 3
    assert all(
        5 <= hardness_wanted(undercut=u, detail=d, wall_mm=w).hardness.shore <= 45
        for u in ("none", "deep")
        for d in ("plain", "frail")
        for w in (3, 9)
    )


def test_a_puck_has_room_for_five_readings() -> None:
    # 44 mm across leaves a circle of 20 mm within 12 mm of the edge: one reading in the middle and four 6 mm and
    # more from it and each other
    puck = puck_recipe(Rubber(name="Bosun 40", weight_a=100, weight_b=90, sg_mixed=1.0), 1.0)
    assert puck.a_g + puck.b_g == pytest.approx(12.16, abs=0.01)
    assert puck.a_g / puck.b_g == pytest.approx(100 / 90)
    assert puck.thinner_g == pytest.approx((puck.a_g + puck.b_g) * 10 / 100)
    assert Coupon(scale="A", readings=read_readings("24 25 23.5 24.5 26")).findings() == ()
