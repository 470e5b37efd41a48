"""What a maker relies on in a whole job, each figure by another route: times, air, halves, gangs, marks, tins."""

from dataclasses import replace
from math import exp, log, pi, sqrt

import pytest
from records import ADDITION, MASTER

from ufrin.core.box.wall_bow import PanelStock, wall_bow
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.opening_findings import compass
from ufrin.core.job.shelf_picks import ShelfPicks, Stocked
from ufrin.core.materials.tables import BOARDS
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.shore import gent_mpa
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup, Mark, marks
from ufrin.core.shelf.lots import Lot
from ufrin.core.weighing.whole_kit import Waiting
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused

SIZES = MasterInputs(length_mm=60, width_mm=40, height_mm=30, known_ml=40, mass_g=30)
OPEN, PARTS = OpeningInputs(style="open"), OpeningInputs(style="two-part")


def planned(
    poured: RubberInputs | None = None,
    /,
    *,
    master: MasterInputs = SIZES,
    box: BoxInputs | None = None,
    opening: OpeningInputs = OPEN,
    checks: CheckInputs | None = None,
    container: Container | None = None,
    **picks: object,
) -> Plan:
    context = JobContext(shelf=ShelfPicks(**{"rubber": ADDITION, **picks}), container=container)
    return plan(
        master,
        box or BoxInputs(),
        poured or RubberInputs(rubber_id=1),
        context,
        opening,
        checked=checks or CheckInputs(),
    )


def found(made: Plan, station: str) -> dict[str, Finding]:
    return {one.code: one for one in made.findings[station]}


# --- times


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ({}, None),  # 3 min to mix and 5 to pour, of 40
        ({"degas_min": 32.0}, None),
        ({"degas_min": 32.1}, "pot-life-over"),
        ({"degas_min": 12.1, "room_temp_c": 33.0}, "pot-life-over"),  # 20 min at 33 °C
        ({"degas_min": 12.0, "room_temp_c": 33.0}, None),
        ({"cup_ml": 80.0}, None),  # three cups, one after the other, take 24 min
        ({"cup_ml": 80.0, "degas_min": 5.4}, "pot-life-short"),
        ({"cup_ml": 80.0, "degas_min": 5.3}, None),
    ],
)
def test_degassing_and_batches_against_the_pot_life(typed: dict[str, float], code: str | None) -> None:
    made = planned(RubberInputs(rubber_id=1, **typed))
    codes = [one for one in found(made, "rubber") if one.startswith("pot-life")]
    assert codes == ([code] if code else [])
    (pour,) = made.pours
    assert pour.batch_min == 8 + typed.get("degas_min", 0)
    if code:
        told = found(made, "rubber")[code].facts
        assert told["batch"] == Amount(pour.batch_min, "time")
        assert told["pot_life"] == Amount(pour.pot_life_min, "time")
        assert code != "pot-life-short" or told["batches"] == "3"


def test_demould_time_with_thinner_in_a_cold_room() -> None:
    oil = Additive(name="Ebb", sg=0.97)
    made = planned(RubberInputs(rubber_id=1, thinner_id=1, thinner_parts=25, room_temp_c=13.0), thinner=oil)
    (pour,) = made.pours
    # 360 min x 2^(25 / 50) thinned, and twice that 10 °C colder
    assert pour.tin_demould_min == pytest.approx(509.117, abs=1e-3)
    assert pour.demould_min == pytest.approx(1018.23, abs=0.01)
    assert pour.pot_life_min == 80
    by_a = planned(
        RubberInputs(rubber_id=1, thinner_id=1, thinner_parts=25),
        thinner=oil,
        rubber=replace(ADDITION, thinner_of="A", weight_a=4, weight_b=1),
    )
    # 25 per 100 of A are 20 per 100 of both
    assert by_a.pours[0].demould_min == pytest.approx(360 * 2**0.4)


def test_the_time_left_for_bubbles_is_what_mixing_degassing_and_pouring_leave() -> None:
    made = planned(RubberInputs(rubber_id=1, degas_min=6.0), checks=CheckInputs(air="clear"))
    assert made.checks is not None
    clear = next(one for one in made.checks.airing if one.key == "clear")
    # 40 - 3 - 6 - 5 = 26 min to rise through 42 mm of 9000 mPa s and 1.08
    speed = 0.042 / (26 * 60)
    by_hand = 1000 * sqrt(18 * 9.0 * speed / ((1.08 - 0.0012) * 1000 * 9.80665))
    assert clear.slow_mm == pytest.approx(by_hand, rel=1e-6)
    assert "26 min" in clear.text
    late = planned(RubberInputs(rubber_id=1, degas_min=40.0), checks=CheckInputs(air="clear"))
    assert late.checks is not None
    assert next(one for one in late.checks.airing if one.key == "clear").slow_mm is None


def test_thinner_makes_bubbles_rise_faster() -> None:
    oil = Additive(name="Ebb", sg=0.97, viscosity_mpa_s=50)
    made = planned(
        RubberInputs(rubber_id=1, thinner_id=1, thinner_parts=20), thinner=oil, checks=CheckInputs(air="clear")
    )
    assert made.checks is not None
    clear = next(one for one in made.checks.airing if one.key == "clear")
    eta = exp((100 * log(9000) + 20 * log(50)) / 120)
    sg = 120 / (100 / 1.08 + 20 / 0.97)
    speed = 0.042 / (32 * 60)
    assert clear.slow_mm == pytest.approx(1000 * sqrt(18 * eta / 1000 * speed / ((sg - 0.0012) * 9806.65)), rel=1e-6)


# --- halves


def test_a_two_part_master_has_as_much_rubber_under_it_as_over_it() -> None:
    made = planned(opening=PARTS, box=BoxInputs(over_mm=14.0, bed_mm=9.0, sunk_mm=4.0))
    assert made.box_plan is not None
    assert made.box is not None
    assert (made.box_plan.under_mm, made.box_plan.bed_mm, made.box_plan.sunk_mm) == (14, 0, 0)
    assert made.box.fill_mm == 14 + 30 + 14
    assert found(made, "opening")["half-bed"].facts["bed"] == Amount(9, "length")
    own = planned(opening=PARTS, box=BoxInputs(over_mm=14.0, under_mm=6.0))
    assert own.box is not None
    assert own.box.fill_mm == 6 + 30 + 14
    thin = planned(opening=OpeningInputs(style="squeeze"))
    assert thin.box is not None
    assert (thin.box.fill_mm, thin.box.length_mm) == (8 + 30 + 8, 60 + 2 * 20)


def test_the_half_over_the_clay_is_poured_first_and_lifts_what_it_reaches() -> None:
    made = planned(opening=PARTS, box=BoxInputs(over_mm=20.0, under_mm=6.0))
    # the box is 84 x 64 x 56, parted 21 mm up: 35 mm over the clay, 21 where it was, half of 40 ml in each
    first, second = 84 * 64 * 35 / 1000 - 20, 84 * 64 * 21 / 1000 - 20
    assert [pour.half for pour in made.pours] == ["first", "second"]
    assert [pour.need_ml for pour in made.pours] == [pytest.approx(first), pytest.approx(second)]
    assert made.halves is not None
    assert made.halves.bed_ml == pytest.approx(second)
    # 20 ml of 1.08 lift 21.6 g, and it weighs 30
    assert "lifted-out-of-bed" not in found(made, "box")
    light = planned(opening=PARTS, master=replace(SIZES, mass_g=15))
    told = found(light, "box")["lifted-out-of-bed"]
    assert told.facts["lift"] == Amount(pytest.approx(1.08 * 20 - 15), "mass", 0)
    assert "floats" not in found(light, "box")


def test_of_a_master_with_a_shape_the_half_over_the_clay_is_the_upper_one() -> None:
    # a bell, wide at its foot, parts low down: what lies over the surface is poured first, the clay is the rest
    bell = MasterInputs(standin="cone", length_mm=60, top_mm=20, height_mm=50, mass_g=60)
    made = planned(master=bell, opening=PARTS)
    assert made.opening is not None
    surface, halves = made.opening.parting_surface, made.halves
    assert surface is not None
    assert halves is not None
    assert made.box is not None
    assert not halves.is_judged
    assert halves.first_ml == pytest.approx(made.box.net_ml * surface.upper_ml / (surface.upper_ml + surface.lower_ml))
    assert halves.first_ml > 2 * halves.second_ml
    assert halves.bed_ml == pytest.approx(halves.second_ml, rel=1e-6)
    # next to nothing of the bell is under the surface
    assert halves.first_displaced_ml > 0.9 * (halves.first_displaced_ml + halves.second_displaced_ml)


# --- skins


def test_each_coat_of_a_skin_has_a_cup_of_its_own_and_its_loss() -> None:
    made = planned(
        RubberInputs(
            rubber_id=1, coats=3, coat_mm=2.0, coat_area_cm2=100.0, cling_g=4.0, thickener_id=1, thickener_parts=3.0
        ),
        opening=OpeningInputs(style="skin"),
        thickener=Additive(name="Weft", kind="thickener"),
    )
    (pour,) = made.pours
    # 5 + 20 + 20 ml of 1.08, a tenth more, and 4 g on each of three cups
    need_g = 45 * 1.08
    assert pour.mix.total_g == pytest.approx(need_g * 1.1 + 12)
    assert pour.batch_count == 3
    both = [sum(one.g for one in batch if one.role in "AB") for batch in pour.batches]
    assert both == [pytest.approx(ml * 1.08 * 1.1 + 4) for ml in (5, 20, 20)]
    thick = [sum(one.g for one in batch if one.role == "thickener") for batch in pour.batches]
    assert thick == [0, pytest.approx(both[1] * 0.03), pytest.approx(both[2] * 0.03)]
    # what is told in all is what is weighed, the thickener with it
    assert made.rubber is not None
    assert made.rubber.total_g == pytest.approx(sum(both) + sum(thick))
    # the next coat from the end of the pot life until half of the time to demould
    assert pour.recoat is not None
    assert (pour.recoat.from_min, pour.recoat.until_min) == (40, 180)


# --- gangs


def test_the_error_of_a_gang_is_that_of_its_master_times_their_number() -> None:
    level = replace(MASTER, material=None)
    one = planned(master=level)
    # a quarter of a mark of 10 ml, read twice
    assert one.net_pm_ml == pytest.approx(2.5 * sqrt(2))
    six = planned(master=level, box=BoxInputs(count=6.0))
    assert six.net_pm_ml == pytest.approx(6 * 2.5 * sqrt(2))
    assert planned(master=MasterInputs(length_mm=60, width_mm=40, height_mm=30)).net_pm_ml is None


# --- walls


def test_it_is_the_long_wall_that_bows() -> None:
    long = MasterInputs(length_mm=40, width_mm=400, height_mm=120, known_ml=900, mass_g=900)
    made = planned(master=long, box=BoxInputs(wall_material="polypropylene", wall_thickness_mm=4.0, side_mm=10.0))
    assert made.bow is not None
    board = BOARDS["polypropylene"]
    sheet = PanelStock(thickness_mm=4, youngs_modulus_gpa=board.youngs_modulus_gpa, poisson_ratio=board.poisson_ratio)
    by_hand = wall_bow(length_mm=420, depth_mm=132, sg=1.08, sheet=sheet, side_mm=10)
    assert (made.bow.length_mm, made.bow.limit_mm) == (420, 0.5)
    assert made.bow == by_hand
    assert found(made, "box")["wall-bows"].facts["bow"] == Amount(by_hand.bow_mm, "length")
    assert planned(master=long, box=BoxInputs(shape="round")).bow is None


def test_filler_of_another_family_does_not_bond() -> None:
    typed = BoxInputs(filler_ml=2.0, filler_family="polyurethane-rubber")
    told = found(planned(box=typed), "box")["filler-will-not-bond"]
    assert dict(told.facts) == {"filler": "polyurethane rubber", "rubber": "addition-cure silicone"}
    same = planned(box=replace(typed, filler_family="addition-silicone"))
    assert "filler-will-not-bond" not in found(same, "box")
    assert same.box is not None
    assert same.box.net_ml == pytest.approx(84 * 64 * 42 / 1000 - 40 - 2)


# --- a flat back


def test_a_flat_back_is_moulded_in_an_open_block() -> None:
    flat = planned(opening=OpeningInputs(flat_back=True), master=replace(SIZES, height_mm=10, known_ml=20))
    round_about = planned(opening=OpeningInputs())
    assert (flat.style, round_about.style) == ("open", "two-part")


# --- cups and marks


def test_marks_of_a_cup_by_volume() -> None:
    tin = replace(ADDITION, volume_a=2, volume_b=1, sg_a=1.1, sg_b=1.04, sg_mixed=None, weight_a=None, weight_b=None)
    cup = Cup(name="Beaker", bottom_mm=80, height_mm=120, mark_ml=5)
    made = planned(RubberInputs(rubber_id=1, basis="volume", cling_g=0.0, spare_pct=0.0), rubber=tin, cup=cup)
    (pour,) = made.pours
    assert pour.need_ml == pytest.approx(84 * 64 * 42 / 1000 - 40)
    area_cm2 = pi * 16
    levels = [mark.level_mm for mark in pour.cup_marks]
    assert levels == [pytest.approx(pour.need_ml * 2 / 3 / area_cm2 * 10), pytest.approx(pour.need_ml / area_cm2 * 10)]
    assert [mark.upto_ml for mark in pour.cup_marks] == [
        pytest.approx(pour.need_ml * 2 / 3),
        pytest.approx(pour.need_ml),
    ]
    assert [mark.part for mark in pour.cup_marks] == ["A", "B"]
    # read to a quarter of a mark of 5 ml each way
    a, b = pour.need_ml * 2 / 3, pour.need_ml / 3
    assert pour.marks_error_pct == pytest.approx(100 * ((b + 1.25) / (a - 1.25) * 2 - 1))
    told = found(made, "rubber")["marks-too-coarse"]
    assert told.facts["mark"] == Amount(5, "volume")
    assert told.facts["worst"] == Amount(pytest.approx(pour.marks_error_pct), "percent")


def test_marks_on_a_slanting_wall_lie_further_apart_than_the_levels() -> None:
    cup = Cup(name="Tub", bottom_mm=60, top_mm=100, height_mm=100)
    first, second = marks(cup, {"A": 100.0, "B": 50.0})
    for mark in (first, second):
        across = 60 + 40 * mark.level_mm / 100
        assert pi * mark.level_mm / 12_000 * (60**2 + 60 * across + across**2) == pytest.approx(mark.upto_ml)
        assert mark.wall_mm == pytest.approx(mark.level_mm * sqrt(1 + 0.2**2))
    assert (first.upto_ml, second.upto_ml) == (100, 150)
    assert isinstance(first, Mark)
    assert cup.holds_ml == pytest.approx(pi * 100 / 12_000 * (60**2 + 6000 + 100**2))
    with pytest.raises(Refused, match="Tub holds"):
        marks(cup, {"A": 500.0, "B": 50.0})


# --- kits, stock and doses


def test_all_of_the_a_of_a_blend_and_what_it_fills() -> None:
    neap = replace(ADDITION, name="Neap 30")
    waiting = (Waiting(job_id=7, name="Cleat", need_g=150.0),)
    made = planned(
        RubberInputs(rubber_id=1, blend_id=2, blend_pct=20.0, amount="kit", kit_left_a_g=240.0),
        blend=neap,
        waiting=waiting,
    )
    # 240 g of the first A are four fifths of 300 of A; with as much B 600 g
    assert made.rubber is not None
    assert made.rubber.total_g == pytest.approx(600)
    need_g = (84 * 64 * 42 / 1000 - 40) * 1.08
    assert made.rubber.whole_kit is not None
    assert made.rubber.whole_kit.over_g == pytest.approx(600 - need_g * 1.1 - 5)
    assert [job.name for job in made.rubber.whole_kit.fills] == ["Cleat"]
    short = planned(RubberInputs(rubber_id=1, amount="kit", kit_left_a_g=50.0))
    told = found(short, "rubber")["whole-kit-short"]
    assert told.facts["short"] == Amount(pytest.approx(need_g * 1.1 + 5 - 100), "mass", 0)
    # the second tin may run out first: 25 g of its A make 125 of A
    lots = {"A2": Stocked(shelf="rubber:2", lots=(Lot(code="1", part="A", left_g=25, got_g=500),))}
    limited = planned(
        RubberInputs(rubber_id=1, blend_id=2, blend_pct=20.0, amount="kit", kit_left_a_g=240.0), blend=neap, stock=lots
    )
    assert limited.rubber is not None
    assert limited.rubber.total_g == pytest.approx(250)


def test_what_a_job_opens_and_costs() -> None:
    tin = replace(ADDITION, kit_g=150.0, kit_price=30.0)
    made = planned(rubber=tin)
    total_g = (84 * 64 * 42 / 1000 - 40) * 1.08 * 1.1 + 5
    assert made.rubber is not None
    assert made.rubber.kits.cost == pytest.approx(total_g * 30 / 150)
    told = found(made, "rubber")["kit-short"]
    assert dict(told.facts) == {"name": "Tideline 15", "kits": "2", "kit": Amount(150, "mass", 0)}
    assert "kit-short" not in found(planned(rubber=replace(tin, kit_g=total_g)), "rubber")


def test_more_than_a_tin_allows_is_told() -> None:
    oil = Additive(name="Ebb", most_parts=10.0)
    for parts, is_told in ((10.0, False), (10.5, True)):
        made = planned(RubberInputs(rubber_id=1, thinner_id=1, thinner_parts=parts), thinner=oil)
        assert ("additive-beyond-tin" in found(made, "rubber")) == is_told
    told = found(made, "rubber")["additive-beyond-tin"]
    assert dict(told.facts) == {"name": "Ebb", "parts": "10.5", "most": "10"}
    other = Additive(name="Gull", family="polyurethane-rubber")
    wrong = found(planned(RubberInputs(rubber_id=1, thinner_id=1, thinner_parts=5), thinner=other), "rubber")
    assert wrong["additive-not-for-it"].field == "thinner_id"
    red = Additive(name="Red", kind="pigment", most_parts=2.0)
    deep = planned(RubberInputs(rubber_id=1, pigment_id=1, pigment_pct=2.1), pigment=red)
    assert found(deep, "rubber")["additive-beyond-tin"].field == "pigment_pct"


def test_the_hardness_of_a_thinned_blend_goes_by_the_blends_own_density() -> None:
    heavy = replace(ADDITION, name="Heavy 30", sg_mixed=1.6, hardness=60)
    made = planned(
        RubberInputs(rubber_id=1, blend_id=2, blend_pct=50.0, thinner_id=1, thinner_parts=20),
        rubber=replace(ADDITION, hardness=40),
        blend=heavy,
        thinner=Additive(name="Ebb", sg=1.0),
    )
    (pour,) = made.pours
    assert pour.thinned is not None
    # half of 1.08 and half of 1.6 by weight; 100 g of it against 20 ml of oil
    blend_ml = 50 / 1.08 + 50 / 1.6
    phi = blend_ml / (blend_ml + 20)
    assert pour.thinned.modulus_mpa == pytest.approx((gent_mpa(40) * gent_mpa(60)) ** 0.5 * phi**2.25)


@pytest.mark.parametrize(
    ("degrees", "word"),
    [
        (0, "right"),
        (22, "right"),
        (23, "back right"),
        (90, "back"),
        (180, "left"),
        (270, "front"),
        (359, "right"),
        (-45, "front right"),
    ],
)
def test_the_compass_of_the_bench(degrees: float, word: str) -> None:
    assert compass(degrees) == word
