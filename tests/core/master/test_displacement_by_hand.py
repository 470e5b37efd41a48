"""Every way to measure a master by hand: its volume and its error, and where each refusal is shown.

Density of water: 0.99821 g/ml at 20 °C and 0.99565 at 30 °C (handbook values, from memory).
"""

from math import hypot, pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.inputs.master import MasterInputs
from ufrin.core.master.displacement import (
    MeasuredVolume,
    boxed,
    dip,
    grain_rise,
    hung_from_scale,
    hung_in_beaker,
    known,
    level_rise,
    off_table,
    weight_over_density,
)
from ufrin.core.master.measurements_compared import are_apart, compare
from ufrin.core.master.measuring_ways import WAY_OF, answers_by_hand, best_answer, disagreeing, is_undecided
from ufrin.core.materials.tables import MATERIALS
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused

WATER_20, WATER_30 = 0.99821, 0.99565


def pair(measured: MeasuredVolume) -> tuple[float, float]:
    return measured.volume_ml, measured.plus_minus_ml


def approx(volume_ml: float, plus_minus_ml: float) -> tuple[object, object]:
    return pytest.approx(volume_ml, rel=1e-4), pytest.approx(plus_minus_ml, rel=1e-4)


def test_hung_in_a_beaker_on_the_scale() -> None:
    # 86.4 g of water pushed aside; the reading and its tare are each off by up to half a step
    assert pair(hung_in_beaker(reading_g=86.4, water_temp_c=20, scale_step_g=0.1)) == approx(
        86.4 / WATER_20, 0.05 * sqrt(2) / WATER_20
    )
    # with a sinker of 20 g of water there are four readings
    assert pair(hung_in_beaker(reading_g=86.4, sinker_g=20, water_temp_c=30, scale_step_g=1)) == approx(
        66.4 / WATER_30, 0.5 * 2 / WATER_30
    )
    with pytest.raises(Refused, match="more than with the sinker alone") as refused:
        hung_in_beaker(reading_g=20, sinker_g=20, water_temp_c=20, scale_step_g=1)
    assert refused.value.field == "hung_reading_g"


def test_hung_from_the_scale() -> None:
    # 140 g in air and 60 in water: 80 g of water
    assert pair(hung_from_scale(dry_g=140, in_water_g=60, water_temp_c=20, scale_step_g=0.1)) == approx(
        80 / WATER_20, 0.05 * 2 / WATER_20
    )
    # a cork of 10 g with a sinker of 50 g in water: both together show 35
    assert pair(
        hung_from_scale(dry_g=10, in_water_g=35, sinker_in_water_g=50, water_temp_c=20, scale_step_g=0.1)
    ) == approx(25 / WATER_20, 0.05 * sqrt(6) / WATER_20)
    with pytest.raises(Refused, match="weigh less than in air") as refused:
        hung_from_scale(dry_g=10, in_water_g=60, sinker_in_water_g=50, water_temp_c=20, scale_step_g=0.1)
    assert refused.value.field == "under_reading_g"


def test_a_level_that_rises() -> None:
    assert pair(level_rise(before_ml=500, after_ml=620, mark_ml=10)) == approx(120, 2.5 * sqrt(2))
    with pytest.raises(Refused, match="must rise") as refused:
        level_rise(before_ml=500, after_ml=500, mark_ml=10)
    assert refused.value.field == "level_after_ml"


def test_a_dip_in_a_round_vessel_has_the_error_of_its_diameter_twice() -> None:
    # 100 mm across and 15 mm of rise: 117.8 ml; a quarter of a millimetre for each reading, and 1 mm of diameter
    area_cm2 = pi * 10**2 / 4
    reading_ml = area_cm2 * 0.025 * sqrt(2)
    assert pair(dip(diameter_mm=100, before_mm=40, after_mm=55, step_mm=1, diameter_pm_mm=1)) == approx(
        area_cm2 * 1.5, hypot(reading_ml, area_cm2 * 1.5 * 2 * 0.01)
    )
    with pytest.raises(Refused, match="must rise") as refused:
        dip(diameter_mm=100, before_mm=40, after_mm=40, step_mm=1, diameter_pm_mm=1)
    assert refused.value.field == "dip_after_mm"


def test_a_box_filled_with_water() -> None:
    # 100 x 80 x 50 mm hold 400 ml; 280 go in beside two masters; each size is off by half a millimetre
    relative = hypot(0.5 / 100, 0.5 / 80, 0.5 / 50)
    assert pair(
        boxed(length_mm=100, width_mm=80, depth_mm=50, net_ml=280, mark_ml=10, size_pm_mm=0.5, count=2)
    ) == approx(60, hypot(400 * relative, 2.5) / 2)
    # round: the error of its diameter counts twice
    gross = pi * 100**2 / 4 * 50 / 1000
    assert pair(
        boxed(length_mm=100, width_mm=None, depth_mm=50, net_ml=gross - 60, mark_ml=10, size_pm_mm=0.5)
    ) == approx(60, hypot(gross * hypot(0.5 / 50, 2 * 0.5 / 100), 2.5))
    with pytest.raises(Refused, match=r"holds \[400 volume\] empty") as refused:
        boxed(length_mm=100, width_mm=80, depth_mm=50, net_ml=400, mark_ml=10, size_pm_mm=0.5)
    assert refused.value.field == "boxed_net_ml"


def test_dry_grain_settles_by_two_percent() -> None:
    # 600 ml of grain rise to 720: the readings, and 2 % of 720
    assert pair(grain_rise(before_ml=600, after_ml=720, mark_ml=10)) == approx(120, hypot(2.5 * sqrt(2), 14.4))
    with pytest.raises(Refused, match="must stand higher") as refused:
        grain_rise(before_ml=600, after_ml=600, mark_ml=10)
    assert refused.value.field == "grain_after_ml"


def test_weight_over_density() -> None:
    brass = MATERIALS["brass"]
    low, high = brass.low_g_per_ml, brass.high_g_per_ml
    middle = (low + high) / 2
    by_table = {"material": brass, "density_g_per_ml": None, "density_pm_g_per_ml": 9.0, "solid": False}
    assert pair(weight_over_density(mass_g=100, mass_pm_g=1, **by_table)) == approx(
        100 / middle, 100 / middle * hypot(0.01, (high - low) / 2 / middle)
    )
    own = by_table | {"density_g_per_ml": 1.25, "density_pm_g_per_ml": 0.05}
    assert pair(weight_over_density(mass_g=100, mass_pm_g=1, **own)) == approx(80, 80 * hypot(0.01, 0.04))
    assert weight_over_density(mass_g=0.5, mass_pm_g=0, **own).volume_ml == pytest.approx(0.4)
    for wrong, field in (
        ({"mass_g": 0.0}, "mass_g"),
        ({"material": None, "density_g_per_ml": None}, "material"),
        ({"density_g_per_ml": 0.0}, "density_g_per_ml"),
        ({"material": MATERIALS["photopolymer-print"]}, "solid"),
    ):
        with pytest.raises(Refused, match=r"\.$") as refused:
            weight_over_density(**{"mass_g": 100, "mass_pm_g": 1, **own, **wrong})
        assert refused.value.field == field
    assert weight_over_density(mass_g=100, mass_pm_g=1, **(own | {"material": None})).volume_ml == 80


def test_a_density_outside_the_range_of_its_material() -> None:
    brass = MATERIALS["brass"]
    low, high = brass.low_g_per_ml, brass.high_g_per_ml
    for inside in (low, high, None):
        assert off_table(brass, inside) == ()
    assert off_table(None, 1.0) == ()
    for outside in (low - 0.01, high + 0.01):
        (found,) = off_table(brass, outside)
        assert (found.code, found.field) == ("density-off-table", "density_g_per_ml")
        assert dict(found.facts) == {
            "density": Amount(outside, "density"),
            "material": brass.label,
            "low": Amount(low, "density"),
            "high": Amount(high, "density"),
        }


def test_a_known_volume_is_good_to_two_percent() -> None:
    assert pair(known(volume_ml=50)) == approx(50, 1)
    assert pair(known(volume_ml=50, plus_minus_ml=0.2)) == approx(50, 0.2)
    assert known(volume_ml=50, plus_minus_ml=0.0).plus_minus_ml == 0
    for nothing in (0, -1, float("nan")):
        with pytest.raises(Refused, match="no volume at all") as refused:
            known(volume_ml=nothing)
        assert refused.value.field == ""
    assert known(volume_ml=0.5).volume_ml == 0.5


@given(st.floats(1, 1000), st.floats(0, 20), st.floats(1, 1000), st.floats(0, 20))
def test_two_volumes_are_apart_beyond_both_errors_whichever_comes_first(
    one: float, pm: float, other: float, other_pm: float
) -> None:
    a = MeasuredVolume(volume_ml=one, plus_minus_ml=pm)
    b = MeasuredVolume(volume_ml=other, plus_minus_ml=other_pm)
    assert (
        are_apart(a, b) == are_apart(b, a) == ((one - other) ** 2 > pm**2 + other_pm**2)
        or abs((one - other) ** 2 - pm**2 - other_pm**2) < 1e-6
    )
    assert not are_apart(a, a)


def test_disagreement_has_its_figures() -> None:
    ways = [
        ("Jug", MeasuredVolume(volume_ml=120, plus_minus_ml=3)),
        ("Scale", MeasuredVolume(volume_ml=130, plus_minus_ml=4)),
        ("Grain", MeasuredVolume(volume_ml=126, plus_minus_ml=14)),
    ]
    (found,) = compare(ways)
    assert dict(found.facts) == {
        "first": "Jug",
        "second": "scale",
        "first_ml": Amount(120, "volume", 1),
        "second_ml": Amount(130, "volume", 1),
        "apart": Amount(10, "volume", 1),
        "allowed": Amount(5, "volume", 1),
    }
    assert (found.code, found.field) == ("ways-disagree", "counted_way")
    assert [one.code for one in compare(ways, is_decided=True)] == ["ways-differ"]
    # 0.23 and 0.19 ml with 0.02 and 0.02 (in quadrature 0.028): two decimals show that they are too far apart
    small = [
        ("Jug", MeasuredVolume(volume_ml=0.23, plus_minus_ml=0.02)),
        ("Scale", MeasuredVolume(volume_ml=0.19, plus_minus_ml=0.02)),
    ]
    (close,) = compare(small)
    assert "They are 0.04 ml apart, but their errors together explain only 0.03 ml" in close.text()
    three = [*ways[:2], ("Known", MeasuredVolume(volume_ml=200, plus_minus_ml=1))]
    assert len(compare(three)) == 3


# --- the ways of a master as they are filled in

READINGS: dict[str, dict[str, float]] = {
    "hung": {"hung_reading_g": 60.0},
    "under": {"under_reading_g": 40.0, "mass_g": 100.0},
    "known": {"known_ml": 60.0},
    "level": {"level_before_ml": 100.0, "level_after_ml": 160.0},
    "dip": {"dip_diameter_mm": 100.0, "dip_before_mm": 40.0, "dip_after_mm": 47.639},
    "boxed": {"boxed_length_mm": 100.0, "boxed_width_mm": 80.0, "boxed_depth_mm": 50.0, "boxed_net_ml": 340.0},
    "grain": {"grain_before_ml": 300.0, "grain_after_ml": 360.0},
    "density": {"mass_g": 75.0, "density_g_per_ml": 1.25},
}


@pytest.mark.parametrize("key", READINGS)
def test_each_way_reads_its_own_fields(key: str) -> None:
    (answer,) = answers_by_hand(MasterInputs(**READINGS[key]))
    assert answer.key == key
    assert answer.measured is not None
    assert answer.measured.volume_ml == pytest.approx(60, rel=5e-3)
    needs = [name for name in READINGS[key] if name in WAY_OF[key].needs]
    for missing in needs:
        others = {name: value for name, value in READINGS[key].items() if name != missing}
        found = [one for one in answers_by_hand(MasterInputs(**others)) if one.key == key]
        begun = [name for name in others if name != "mass_g"]
        assert [one.missing for one in found] == ([(missing,)] if begun else [])


def test_the_steps_and_marks_of_the_workshop_are_used() -> None:
    def pm(**more: object) -> float:
        (answer,) = answers_by_hand(MasterInputs(**more))
        assert answer.measured is not None
        return answer.measured.plus_minus_ml

    assert pm(**READINGS["hung"], scale_step_g=0.1) == pytest.approx(0.05 * sqrt(2) / WATER_20, rel=1e-4)
    assert pm(**READINGS["hung"], scale_step_g=0.1, water_temp_c=30.0) == pytest.approx(
        0.05 * sqrt(2) / WATER_30, rel=1e-4
    )
    assert pm(**READINGS["hung"], hung_sinker_g=10.0) == pytest.approx(1 / WATER_20, rel=1e-4)
    assert pm(**READINGS["under"], under_sinker_g=10.0) == pytest.approx(0.5 * sqrt(6) / WATER_20, rel=1e-4)
    assert pm(**READINGS["known"], known_pm_ml=0.3) == 0.3
    assert pm(**READINGS["level"], mark_ml=4.0) == pytest.approx(sqrt(2))
    assert pm(**READINGS["grain"], mark_ml=4.0) == pytest.approx(hypot(sqrt(2), 7.2))
    area_cm2 = pi * 25
    assert pm(**READINGS["dip"], ruler_step_mm=2.0, size_pm_mm=0.0) == pytest.approx(area_cm2 * 0.05 * sqrt(2))
    assert pm(**READINGS["dip"], ruler_step_mm=2.0, size_pm_mm=1.0) > 1.1
    box_pm = hypot(400 * hypot(0.01, 0.0125, 0.02), 1)
    assert pm(**READINGS["boxed"], mark_ml=4.0, size_pm_mm=1.0) == pytest.approx(box_pm)
    assert pm(**READINGS["boxed"], mark_ml=4.0, size_pm_mm=1.0, boxed_count=2) == pytest.approx(box_pm / 2)
    assert pm(**READINGS["density"], scale_step_g=1.5, density_pm_g_per_ml=0.05) == pytest.approx(
        60 * hypot(0.02, 0.04)
    )


def test_a_weight_alone_begins_no_way() -> None:
    assert answers_by_hand(MasterInputs(mass_g=50.0)) == ()
    assert [one.key for one in answers_by_hand(MasterInputs(mass_g=50.0, material="brass"))] == ["density"]
    (solid,) = answers_by_hand(MasterInputs(mass_g=60.0, material="photopolymer-print", solid=True))
    assert solid.measured is not None


def test_a_refusal_is_shown_at_a_field_of_its_way() -> None:
    (nothing,) = answers_by_hand(MasterInputs(hung_reading_g=0.0))
    assert nothing.refused is not None
    assert (nothing.refused.field, nothing.measured) == ("hung_reading_g", None)
    assert "no volume" in nothing.refused.why
    (hot,) = answers_by_hand(MasterInputs(hung_reading_g=10.0, water_temp_c=120.0))
    assert hot.refused is not None
    assert hot.refused.field == "water_temp_c"


def test_which_measurement_counts() -> None:
    answers = answers_by_hand(MasterInputs(**READINGS["hung"], **READINGS["level"], **READINGS["grain"]))
    assert [one.key for one in answers] == ["hung", "level", "grain"]
    assert disagreeing(answers) == ()
    assert best_answer(answers, "").key == "hung"
    assert best_answer(answers, "grain").key == "grain"
    assert best_answer(answers, "nonsense").key == "hung"
    assert best_answer((), "hung") is None
    assert not is_undecided(answers, "")
    apart = answers_by_hand(MasterInputs(hung_reading_g=66.0, **READINGS["level"], **READINGS["grain"]))
    assert [one.key for one in disagreeing(apart)] == ["hung", "level"]
    assert best_answer(apart, "").key == "level"
    assert (is_undecided(apart, ""), is_undecided(apart, "grain"), is_undecided(apart, "dip")) == (True, False, True)
    refused = answers_by_hand(MasterInputs(hung_reading_g=0.0, **READINGS["level"]))
    assert best_answer(refused, "hung").key == "level"
