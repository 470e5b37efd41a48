"""Amounts of casts, each by another route: grains counted apart, foam weighed back, shells integrated, laws."""

from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from ufrin.core.casting.cast_amount import CastMix, solid_cast
from ufrin.core.casting.cast_size import cavity_ml, master_for, size_after
from ufrin.core.casting.filled_cast import filled_cast, filled_viscosity
from ufrin.core.casting.layered_cast import SetIn, cast_layers
from ufrin.core.casting.rotated_cast import mass_by_known_piece
from ufrin.core.casting.shell_cast import foam_back, hollow_ball_ml, shell_coats, shell_mass_g
from ufrin.core.master.stand_ins import ball, cone
from ufrin.core.mesh.sections import volume_below_ml
from ufrin.core.weighing.mould_weight import rotation
from ufrin.errors import Refused

some = st.floats(0.5, 500)
sg = st.floats(0.5, 3)
share = st.floats(0.2, 5)


def test_one_shot_of_four_by_hand() -> None:
    # 1 : 1 by volume of 1.10 and 1.00 g/ml: 10 ml of each weigh 11 and 10 g, so the mix has 1.05 g/ml
    mix = CastMix(ratio={"A": 1, "B": 1}, basis="volume", sg_parts={"A": 1.10, "B": 1.00})
    made = solid_cast(mix, cavity_ml=18, sprue_ml=2, count=4, overfill_pct=5, spare_pct=10)
    assert made.volume_ml == pytest.approx(84)
    assert made.mass_g == pytest.approx(84 * 1.05 * 1.1)
    assert made.parts is not None
    assert made.parts["A"].ml == pytest.approx(46.2)
    assert made.parts["B"].ml == pytest.approx(46.2)
    assert made.parts["A"].g == pytest.approx(50.82)
    assert made.parts["B"].g == pytest.approx(46.2)


def test_the_data_sheets_sg_of_the_mix_stands_before_that_of_the_parts() -> None:
    mix = CastMix(ratio={"A": 1, "B": 1}, sg_parts={"A": 1.1, "B": 1.0}, sg_mixed=1.2)
    assert solid_cast(mix, cavity_ml=100).mass_g == pytest.approx(120)


@given(a_ml=some, b_ml=some, a=sg, b=sg)
def test_the_volumes_of_a_mixs_parts_add_up(a_ml: float, b_ml: float, a: float, b: float) -> None:
    mix = CastMix(ratio={"A": a_ml, "B": b_ml}, basis="volume", sg_parts={"A": a, "B": b})
    made = solid_cast(mix, cavity_ml=a_ml + b_ml)
    assert made.parts is not None
    assert made.parts["A"].ml == pytest.approx(a_ml)
    assert made.parts["B"].ml == pytest.approx(b_ml)
    assert made.parts["A"].g + made.parts["B"].g == pytest.approx(made.mass_g)


@given(
    need=some, a=share, b=share, scoop=st.floats(0, 5), a_sg=sg, b_sg=sg, bulk=st.floats(0.1, 2), more=st.floats(0, 5)
)
def test_a_filled_mix_takes_up_liquid_and_grains_without_the_air_between_them(
    need: float, a: float, b: float, scoop: float, a_sg: float, b_sg: float, bulk: float, more: float
) -> None:
    true = bulk + more
    made = filled_cast(
        need,
        parts_by_volume={"A": a, "B": b, "filler": scoop},
        sg_parts={"A": a_sg, "B": b_sg},
        bulk_sg=bulk,
        true_sg=true,
    )
    # the same by root finding: scale the recipe until its volume is the need
    unit = brentq(lambda one: one * (a + b) + one * scoop * bulk / true - need, 0, need / (a + b) * 1.01)
    assert made.a_ml == pytest.approx(unit * a)
    assert made.scoop_ml == pytest.approx(unit * scoop, abs=1e-9)
    assert made.a_ml + made.b_ml + made.filler_g / true == pytest.approx(need)
    assert made.a_g + made.b_g + made.filler_g == pytest.approx(made.total_g)
    assert made.sg * need == pytest.approx(made.total_g)
    assert 0 <= made.filler_share < 1
    assert made.filler_mass_pct == pytest.approx(100 * made.filler_g / made.total_g)


def test_a_powder_denser_than_its_grains_is_refused() -> None:
    with pytest.raises(Refused, match="wrong way round"):
        filled_cast(
            100, parts_by_volume={"A": 1, "B": 1, "filler": 1}, sg_parts={"A": 1, "B": 1}, bulk_sg=2.7, true_sg=1.3
        )


def test_powder_thickens_a_liquid_as_einstein_has_it_while_there_is_little_and_stops_it_when_packed() -> None:
    # mu (1 + 2.5 phi) for little powder (Einstein 1906)
    assert filled_viscosity(200, 0.01) == pytest.approx(200 * 1.025, rel=0.002)
    grows = [filled_viscosity(200, one) or 0.0 for one in (0.0, 0.1, 0.3, 0.5, 0.6)]
    assert grows == sorted(grows)
    assert grows[-1] > 20 * grows[0]
    assert filled_viscosity(200, 0.62) is None


@given(thickness=st.integers(1, 300), coat=st.integers(1, 60))
def test_coats_are_the_fewest_that_reach_a_thickness(thickness: int, coat: int) -> None:
    made = shell_coats(thickness / 10, coat / 10)
    assert made.number * coat >= thickness > (made.number - 1) * coat
    assert made.reached_mm == pytest.approx(made.number * coat / 10)


@given(outer=st.floats(5, 500), part=st.floats(0.001, 0.5))
def test_a_hollow_ball_is_what_its_shells_add_up_to(outer: float, part: float) -> None:
    wall = outer * part
    steps = 2000
    radii = [outer / 2 - wall * (index + 0.5) / steps for index in range(steps)]
    summed_ml = sum(4 * pi * radius**2 for radius in radii) * wall / steps / 1000
    assert hollow_ball_ml(outer, wall) == pytest.approx(summed_ml, rel=1e-4)
    assert hollow_ball_ml(outer, wall) < shell_mass_g(pi * outer**2 / 100, wall, 1.0)


@given(cavity=some, shell_share=st.floats(0.01, 0.95), shell=sg, expansion=st.floats(1.5, 30), liquid=sg)
def test_risen_foam_and_shell_fill_the_cavity(
    cavity: float, shell_share: float, shell: float, expansion: float, liquid: float
) -> None:
    shell_g = shell_share * cavity * shell
    made = foam_back(cavity_ml=cavity, shell_g=shell_g, shell_sg=shell, expansion=expansion, foam_liquid_sg=liquid)
    risen_ml = made.foam_mix_g / (liquid / expansion)  # by the density of the risen foam
    assert risen_ml + shell_g / shell == pytest.approx(cavity)


@pytest.mark.parametrize(
    ("change", "says"), [({"shell_g": 900}, "takes up the whole cavity"), ({"expansion": 1}, "must rise")]
)
def test_foam_needs_room_and_must_rise(change: dict[str, float], says: str) -> None:
    asked = {"cavity_ml": 820.0, "shell_g": 160.0, "shell_sg": 1.05, "expansion": 8.0, "foam_liquid_sg": 1.1}
    with pytest.raises(Refused, match=says):
        foam_back(**(asked | change))


@given(shares=st.lists(st.floats(0.1, 10), min_size=1, max_size=8))
def test_layers_add_up_to_the_cavity(shares: list[float]) -> None:
    mesh = cone(60, 0.001, 80)
    height = float(mesh.extents_mm[2])
    low = float(mesh.bounds_mm[0, 2])
    layers = cast_layers(height, shares, lambda up: volume_below_ml(mesh, low + up))
    assert sum(layer.volume_ml for layer in layers) == pytest.approx(mesh.volume_mm3 / 1000, rel=1e-9)
    assert [layer.number for layer in layers] == list(range(1, len(shares) + 1))
    assert layers[-1].to_mm == height


def test_the_lower_half_of_a_cone_standing_on_its_base_holds_seven_eighths() -> None:
    mesh = cone(60, 0.001, 80)
    low = float(mesh.bounds_mm[0, 2])
    lower, upper = cast_layers(80, [1, 1], lambda up: volume_below_ml(mesh, low + up))
    assert lower.volume_ml / (lower.volume_ml + upper.volume_ml) == pytest.approx(7 / 8, abs=1e-4)


def test_what_is_set_in_takes_its_room_from_the_layer_over_it_and_floats_by_archimedes() -> None:
    mesh = ball(50)
    low = float(mesh.bounds_mm[0, 2])
    wood = SetIn(volume_ml=6, mass_g=4.2, after_layer=1)
    plain = cast_layers(50, [1, 1], lambda up: volume_below_ml(mesh, low + up))
    over = cast_layers(50, [1, 1], lambda up: volume_below_ml(mesh, low + up), wood)
    assert over[0] == plain[0]
    assert over[1].volume_ml == pytest.approx(plain[1].volume_ml - 6)
    assert wood.lift_g(1.1) == pytest.approx(2.4)
    assert SetIn(volume_ml=6, mass_g=47, after_layer=1).lift_g(1.1) < 0
    with pytest.raises(Refused, match="more than the layer"):
        cast_layers(
            50, [9, 1], lambda up: volume_below_ml(mesh, low + up), SetIn(volume_ml=60, mass_g=1, after_layer=1)
        )
    with pytest.raises(Refused, match="below the top"):
        cast_layers(50, [1, 1], lambda up: volume_below_ml(mesh, low + up), SetIn(volume_ml=1, mass_g=1, after_layer=2))


def test_the_weight_of_a_mould_tells_how_thick_its_shell_is() -> None:
    # start 7.0 kg, aim 9.0 kg; 0.42 m2 at 1.05 g/ml is 441 g for each millimetre
    now = rotation(mould_g=7000, now_g=7882, target_g=2000, area_cm2=4200, sg=1.05, coat_mm=1.0)
    assert now.aim_g == 9000
    assert now.thickness_mm == pytest.approx(2.0)
    assert now.to_go_g == pytest.approx(1118)
    assert now.coats_to_go == 3
    assert rotation(mould_g=7000, now_g=9100, target_g=2000, area_cm2=4200, sg=1.05, coat_mm=1).coats_to_go == 0
    with pytest.raises(Refused, match="weighs less"):
        rotation(mould_g=7000, now_g=6900, target_g=2000, area_cm2=4200, sg=1.05, coat_mm=1)
    assert mass_by_known_piece(900, 1800, 4200) == pytest.approx(2100)


@given(master=some, shrinkages=st.lists(st.floats(-3, 20), max_size=6))
def test_the_master_for_a_wanted_size_gives_it(master: float, shrinkages: list[float]) -> None:
    assert size_after(master_for(master, shrinkages), shrinkages) == pytest.approx(master)


def test_shrinkages_add_up_along_the_chain() -> None:
    # rubber 0.2 %, resin 0.4 %: 120 mm come out 0.72 mm smaller, less what counts twice
    assert size_after(120, [0.2, 0.4]) == pytest.approx(120 * 0.998 * 0.996)
    assert cavity_ml(100, 1.0) == pytest.approx(97.0299)
    with pytest.raises(Refused, match="leaves nothing"):
        size_after(120, [100])
