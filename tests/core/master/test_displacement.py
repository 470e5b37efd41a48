"""Ways to measure a master, and what disagreement says."""

from dataclasses import replace

import pytest

from ufrin.core.inputs.master import MasterInputs
from ufrin.core.job.master_station import answer_master
from ufrin.core.master import displacement
from ufrin.core.master.displacement import MeasuredVolume, boxed, hung_in_beaker, level_rise, weight_over_density
from ufrin.core.master.measurements_compared import compare
from ufrin.core.materials.tables import MATERIALS
from ufrin.core.measures.plain_volumes import block_ml, drum_ml
from ufrin.errors import Refused


def test_errors_of_readings() -> None:
    # common practice: a tenth-gram scale reads a tenth of a millilitre; a cup is good to a quarter of a
    # mark for each reading
    assert hung_in_beaker(reading_g=86.4, water_temp_c=21, scale_step_g=0.1).plus_minus_ml == pytest.approx(
        0.0709, abs=1e-3
    )
    assert level_rise(before_ml=150, after_ml=268, mark_ml=10).plus_minus_ml == pytest.approx(2.5 * 2**0.5)


@pytest.mark.parametrize(("width", "empty"), [(80.0, block_ml(105, 80, 52)), (None, drum_ml(105, 52))])
def test_a_box_of_water_gives_back_what_is_in_it(width: float | None, empty: float) -> None:
    one = boxed(length_mm=105, width_mm=width, depth_mm=52, net_ml=empty - 2 * 59, mark_ml=10, size_pm_mm=0.5, count=2)
    assert one.volume_ml == pytest.approx(59)
    assert one.plus_minus_ml < 5


@pytest.mark.parametrize(
    ("inputs", "field", "says"),
    [
        (MasterInputs(level_before_ml=300, level_after_ml=250), "level_after_ml", "must rise"),
        (MasterInputs(dip_diameter_mm=100, dip_before_mm=50, dip_after_mm=50), "dip_after_mm", "must rise"),
        (MasterInputs(hung_reading_g=20, hung_sinker_g=30), "hung_reading_g", "sinker alone"),
        (MasterInputs(mass_g=100, under_reading_g=120), "under_reading_g", "weigh less"),
        (
            MasterInputs(boxed_length_mm=100, boxed_width_mm=100, boxed_depth_mm=50, boxed_net_ml=600),
            "boxed_net_ml",
            "holds [500 volume] empty",
        ),
        (MasterInputs(mass_g=100, material="photopolymer-print"), "solid", "sparse"),
        (MasterInputs(hung_reading_g=20, water_temp_c=90), "water_temp_c", "between [0 temperature]"),
        (MasterInputs(hung_reading_g=0.0), "hung_reading_g", "no volume"),
    ],
)
def test_a_reading_that_cannot_be_is_refused_at_its_field(inputs: MasterInputs, field: str, says: str) -> None:
    (way,) = answer_master(inputs).ways
    assert way.refused is not None
    assert way.refused.field == field
    assert says in str(way.refused)


def test_a_solid_print_may_be_weighed() -> None:
    given = {
        "mass_g": 117.5,
        "mass_pm_g": 0,
        "material": MATERIALS["photopolymer-print"],
        "density_g_per_ml": None,
        "density_pm_g_per_ml": 0,
    }
    assert weight_over_density(**given, solid=True).volume_ml == pytest.approx(100)
    with pytest.raises(Refused, match="sparse"):
        weight_over_density(**given, solid=False)


def test_disagreement_is_told_only_beyond_both_errors() -> None:
    near = [
        ("Jug", MeasuredVolume(volume_ml=120, plus_minus_ml=3)),
        ("Scale", MeasuredVolume(volume_ml=124.9, plus_minus_ml=4)),
    ]
    far = [near[0], ("Scale", MeasuredVolume(volume_ml=125.1, plus_minus_ml=4))]
    assert compare(near) == ()
    (finding,) = compare(far)
    assert finding.code == "ways-disagree"
    assert "5.1 ml apart" in finding.text()


def test_the_most_exact_way_counts_unless_another_is_chosen() -> None:
    both = {"hung_reading_g": 100.0, "level_before_ml": 100.0, "level_after_ml": 200.0}
    best, chosen = (
        answer_master(MasterInputs(**both)).counted,
        answer_master(MasterInputs(**both, counted_way="level")).counted,
    )
    assert best is not None
    assert chosen is not None
    assert (best.key, chosen.key) == ("hung", "level")


def test_a_master_heavier_than_anything_is_a_stop() -> None:
    heavy = answer_master(MasterInputs(length_mm=50, width_mm=50, height_mm=50, mass_g=2400, hung_reading_g=100))
    assert [finding.code for finding in heavy.findings] == ["density-impossible"]
    assert heavy.findings[0].level == "stop"


def test_a_density_off_the_table_is_told() -> None:
    answer = answer_master(
        MasterInputs(length_mm=90, width_mm=50, height_mm=50, mass_g=100, material="glass", density_g_per_ml=1.0)
    )
    assert [finding.code for finding in answer.findings] == ["density-off-table"]


def test_the_table_is_in_order_and_believable() -> None:
    for material in MATERIALS.values():
        assert 0.01 < material.low_g_per_ml < material.high_g_per_ml < displacement.LEAD_G_PER_ML, material.key


def test_measurements_that_disagree_never_settle_themselves() -> None:
    ways = MasterInputs(
        length_mm=60, width_mm=40, height_mm=35, level_before_ml=100, level_after_ml=150, hung_reading_g=60.0
    )
    found = answer_master(ways)
    assert found.is_undecided
    assert found.counted is not None
    assert found.counted.key == "level"  # the smaller, though the other has the smaller error
    assert [finding.code for finding in found.findings] == ["ways-disagree"]
    chosen = answer_master(replace(ways, counted_way="hung"))
    assert not chosen.is_undecided
    assert chosen.counted is not None
    assert (chosen.counted.key, [finding.code for finding in chosen.findings]) == ("hung", ["ways-differ"])
    # a rough figure that agrees with both is not what is planned with, however small it is
    rough = answer_master(replace(ways, mass_g=49.0, density_g_per_ml=1.05, density_pm_g_per_ml=0.5))
    assert rough.counted is not None
    assert rough.counted.key == "level"
    # a way that was chosen and gave nothing decides nothing
    assert answer_master(replace(ways, counted_way="grain")).is_undecided
    agreed = answer_master(replace(ways, hung_reading_g=50.5))
    assert not agreed.is_undecided
    assert agreed.counted is not None
    assert agreed.counted.key == "hung"


def test_a_known_volume_is_a_way_of_its_own() -> None:
    typed = MasterInputs(length_mm=60, width_mm=40, height_mm=35, known_ml=50.0)
    usual, own = answer_master(typed).measured, answer_master(replace(typed, known_pm_ml=0.2)).measured
    assert (usual, own) == (
        MeasuredVolume(volume_ml=50, plus_minus_ml=1),
        MeasuredVolume(volume_ml=50, plus_minus_ml=0.2),
    )
