"""Weighing by hand: mixes, batches, blends, coats, the bench and its clock, each figure with its sum."""

from dataclasses import replace
from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st
from records import FULL, OIL, PLAN, RED, A, B, Hand, at

from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.pot_life import pot_life
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.allowance import PastPour, learn, quantile
from ufrin.core.weighing.batches import Recipe, batches_of
from ufrin.core.weighing.bench_state import bench_state
from ufrin.core.weighing.coats import Coat, coats, recoat_window, skin_mm
from ufrin.core.weighing.drops import drops, drops_per_ml
from ufrin.core.weighing.kit_costs import KitUse, PackUse, kit_use
from ufrin.core.weighing.mix import MixPlan, Thinner, batches_for_cup, mass_needed_g, mix
from ufrin.core.weighing.putty import Pad, lumps
from ufrin.core.weighing.ratio import check_ratio, mixed_sg, weight_shares
from ufrin.core.weighing.ratio_mend import check
from ufrin.core.weighing.record_entries import RecordEntry, Step, StepAttempt
from ufrin.core.weighing.record_rules import MOST_ENTRIES, check_entry, check_weight, lines
from ufrin.core.weighing.weigh_plan import Ingredient, in_order, total_of
from ufrin.core.weighing.whole_kit import Waiting, whole_kit
from ufrin.errors import Refused

TEN_TO_ONE = {"A": 100.0, "B": 10.0}
TIDE = Rubber(
    name="Tideline 15",
    a_name="Tideline A",
    a_colour="white",
    b_name="Tideline B",
    b_colour="blue",
    weight_a=10,
    weight_b=1,
    sg_a=1.15,
    sg_b=1.0,
    sg_mixed=1.13,
)
NEAP = replace(
    TIDE, name="Neap 30", a_name="Neap A", a_colour="grey", b_name="Neap B", b_colour="green", sg_a=1.2, sg_b=0.9
)


# --- mixes


def test_a_mix_with_everything_in_it() -> None:
    made = mix(
        MixPlan(
            ratio=TEN_TO_ONE,
            need_ml=200,
            sg_mixed=1.1,
            spare_pct=10,
            cling_g=5,
            thinner=Thinner(parts_per_100=10, sg=0.97),
            pigment_pct=1,
            scale_step_g=0.1,
        )
    )
    # 100 g of 1.1 and 10 g of 0.97 fill 90.909 + 10.309 ml: 110 / 101.218 = 1.0868
    assert made.sg_mixed == pytest.approx(110 / (100 / 1.1 + 10 / 0.97))
    # 200 ml of it, a tenth more, and 5 g for the cup
    total = 200 * 110 / (100 / 1.1 + 10 / 0.97) * 1.1 + 5
    assert made.total_g == pytest.approx(total)
    # to 100 of A + B go 10 of thinner, and 1 % of those 110 of pigment: 111.1 in all
    base = total / 111.1 * 100
    assert made.parts["A"].g == pytest.approx(base * 10 / 11)
    assert made.parts["B"].g == pytest.approx(base / 11)
    assert made.thinner_g == pytest.approx(base / 10)
    assert made.pigment_g == pytest.approx(base * 0.011)
    assert made.total_ml == pytest.approx(total / made.sg_mixed)
    (batch,) = made.batches
    assert (batch.total_g, batch.thinner_g, batch.pigment_g) == (made.total_g, made.thinner_g, made.pigment_g)
    assert batch.parts_g == {name: part.g for name, part in made.parts.items()}
    # half a step too much of B and too little of A is the worst that the scale allows
    a, b = made.parts["A"].g, made.parts["B"].g
    assert made.worst_ratio_error_pct == pytest.approx(100 * ((b + 0.05) / (a - 0.05) / 0.1 - 1))


def test_thinner_by_the_a_alone() -> None:
    made = mix(MixPlan(ratio=TEN_TO_ONE, need_g=1200, thinner=Thinner(parts_per_100=10, of="A")))
    # 100 of A, 10 of B, 10 of thinner
    assert [round(grams, 6) for grams in (made.parts["A"].g, made.parts["B"].g, made.thinner_g)] == [1000, 100, 100]
    assert (made.total_ml, made.sg_mixed, made.worst_ratio_error_pct) == (None, None, None)


def test_a_mix_by_volume_of_three_parts() -> None:
    made = mix(
        MixPlan(ratio={"A": 2, "B": 1, "C": 1}, basis="volume", sg_parts={"A": 1.2, "B": 1.0, "C": 0.8}, need_ml=400)
    )
    assert {name: round(part.g, 6) for name, part in made.parts.items()} == {"A": 240, "B": 100, "C": 80}
    assert {name: round(part.ml or 0, 6) for name, part in made.parts.items()} == {"A": 200, "B": 100, "C": 100}
    assert made.sg_mixed == pytest.approx(420 / 400)


def test_the_sg_of_the_mix_comes_before_that_of_its_parts() -> None:
    parts = {"A": 1.2, "B": 1.0}
    assert mix(MixPlan(ratio=TEN_TO_ONE, need_ml=1, sg_mixed=1.5, sg_parts=parts)).total_g == pytest.approx(1.5)
    assert mix(MixPlan(ratio=TEN_TO_ONE, need_ml=1, sg_parts=parts)).total_g == pytest.approx(11 / (10 / 1.2 + 1))
    half_known = mix(MixPlan(ratio=TEN_TO_ONE, need_g=110, sg_parts={"A": 1.25}))
    assert (half_known.sg_mixed, half_known.parts["A"].ml, half_known.parts["B"].ml) == (None, pytest.approx(80), None)
    # what is wanted in grams needs no SG of the thinner
    plain = mix(MixPlan(ratio=TEN_TO_ONE, need_g=110, sg_mixed=1.1, thinner=Thinner(parts_per_100=10)))
    assert (plain.total_ml, plain.sg_mixed) == (None, None)


def test_all_of_the_a_that_is_left() -> None:
    made = mix(MixPlan(ratio=TEN_TO_ONE, have_g={"A": 500}, thinner=Thinner(parts_per_100=20), pigment_pct=2))
    # 550 of A + B, 110 of thinner, 2 % of 660; no spare and no loss
    assert made.total_g == pytest.approx(550 + 110 + 13.2)
    assert mix(MixPlan(ratio=TEN_TO_ONE, have_g={"B": 5}, spare_pct=50, cling_g=9)).total_g == pytest.approx(55)


def test_batches_are_counted_by_the_cup_and_the_rise() -> None:
    def number(cup_ml: float, rise: float = 1.0) -> int:
        return len(mix(MixPlan(ratio=TEN_TO_ONE, need_ml=1000, sg_mixed=1.0, cup_ml=cup_ml, rise_factor=rise)).batches)

    assert [number(1000), number(999), number(500), number(1000, 4), number(4000, 4), number(3999, 4)] == [
        1,
        2,
        2,
        4,
        1,
        2,
    ]
    assert batches_for_cup(0.001, 1000, 1) == 1
    assert number(1.0) == 1000
    with pytest.raises(Refused, match="1001 batches"):
        number(0.9991)
    two = mix(MixPlan(ratio=TEN_TO_ONE, need_g=220, sg_mixed=1.0, cup_ml=110, thinner=None, scale_step_g=1.0))
    assert [round(one.total_g, 6) for one in two.batches] == [110, 110]
    assert two.batches[0].parts_g == {"A": pytest.approx(100), "B": pytest.approx(10)}
    # each batch is weighed for itself, so its own error counts
    assert two.worst_ratio_error_pct == pytest.approx(100 * (10.5 / 99.5 * 10 - 1))


def test_every_cup_keeps_its_own_loss() -> None:
    plan = MixPlan(ratio=TEN_TO_ONE, need_ml=290, sg_mixed=1.0, cup_ml=100)
    # 290 g fill three cups; with 5 g lost on each it is 305, which takes a fourth, and so 310
    made = mix(replace(plan, cling_g=5))
    assert (len(made.batches), made.total_g) == (4, pytest.approx(310))
    assert mix(replace(plan, cling_g=3)).total_g == pytest.approx(299)
    assert mix(replace(plan, cup_ml=None, cling_g=5)).total_g == pytest.approx(295)
    assert mix(replace(plan, cling_g=5), cups=6).total_g == pytest.approx(320)
    assert mass_needed_g(100, 10, 5) == pytest.approx(115)


@pytest.mark.parametrize(
    ("changed", "field"),
    [
        ({"spare_pct": -1}, "spare_pct"),
        ({"spare_pct": 1001}, "spare_pct"),
        ({"cling_g": -1}, "cling_g"),
        ({"pigment_pct": 101}, "pigment_pct"),
        ({"scale_step_g": 0}, "scale_step_g"),
        ({"tolerance_pct": 0}, "tolerance_pct"),
        ({"cup_ml": 0}, "cup_ml"),
        ({"rise_factor": 0.9}, "rise_factor"),
        ({"rise_factor": 21}, "rise_factor"),
        ({"sg_mixed": 0.05}, "sg_mixed"),
        ({"need_g": 0}, "need_g"),
        ({"need_g": None, "have_g": {"A": 0}}, "have_g"),
        ({"need_g": None, "have_g": {"A": 1e8}}, "have_g"),
        ({"need_g": None, "have_g": {"A": 1, "B": 1}}, "have_g"),
        ({"sg_parts": {"C": 1.0}}, "sg_parts"),
        ({"sg_parts": {"A": 0.05}}, "sg_parts"),
        ({"ratio": {"A": 1, "B": 1e7}}, "ratio"),
        ({"ratio": {"A": 1, "B": 1, "E": 1}}, "ratio"),
    ],
)
def test_a_mix_that_cannot_be(changed: dict[str, object], field: str) -> None:
    with pytest.raises(Refused, match=r"\.$") as refused:
        MixPlan(**{"ratio": TEN_TO_ONE, "need_g": 100, **changed})
    assert refused.value.field == field


def test_thinner_within_its_limits() -> None:
    assert Thinner(parts_per_100=200, sg=0.1).parts_per_100 == 200
    for wrong, field in (
        ({"parts_per_100": -1}, "thinner.parts_per_100"),
        ({"parts_per_100": 201}, "thinner.parts_per_100"),
        ({"parts_per_100": 1, "sg": 0.05}, "thinner.sg"),
        ({"parts_per_100": 1, "sg": 23}, "thinner.sg"),
    ):
        with pytest.raises(Refused, match="Thinner|specific gravity") as refused:
            Thinner(**wrong)
        assert refused.value.field == field


def test_findings_have_their_figures() -> None:
    plan = MixPlan(
        ratio=TEN_TO_ONE,
        need_g=55,
        pigment_pct=3,
        scale_step_g=1.0,
        tolerance_pct=2.0,
        thinner=Thinner(parts_per_100=60),
    )
    found = {one.code: one for one in mix(plan).findings}
    assert set(found) == {"pigment-high", "thinner-beyond-data", "thinner-high", "scale-too-coarse"}
    assert found["pigment-high"].facts["pigment"].value == 3
    assert found["thinner-high"].facts["parts"] == "60"
    coarse = found["scale-too-coarse"]
    # 110 g in the ratio, half a gram each way: A is h (1 + q (1 + e)) / (q e) with h = 0.5, q = 0.1, e = 0.02
    least_a = 0.5 * (1 + 0.1 * 1.02) / (0.1 * 0.02)
    assert coarse.facts["least"].value == pytest.approx(least_a * 1.1)
    batch = mix(plan).batches[0].parts_g
    assert coarse.facts["finer"].value == pytest.approx(sum(batch.values()) / (least_a * 1.1))
    assert coarse.facts["step"].value == 1.0
    assert coarse.facts["tolerance"].value == 2.0
    assert coarse.facts["worst"].value == pytest.approx(100 * ((batch["B"] + 0.5) / (batch["A"] - 0.5) * 10 - 1))
    assert [found[code].field for code in sorted(found)] == ["pigment_pct", "scale_step_g", "thinner", "thinner"]
    hopeless = mix(MixPlan(ratio=TEN_TO_ONE, need_g=0.5, scale_step_g=1.0)).findings[0]
    assert hopeless.facts["worst"] == "any amount"
    # a batch of just the least is within
    assert mix(MixPlan(ratio=TEN_TO_ONE, need_g=least_a * 1.1, scale_step_g=1.0)).findings == ()
    # a step finer than a tenth is told to the milligram
    assert coarse.facts["finer"].decimals == 2
    fine = mix(MixPlan(ratio=TEN_TO_ONE, need_g=2, scale_step_g=0.1)).findings[0]
    assert fine.facts["finer"].value < 0.1
    assert fine.facts["finer"].decimals == 3


def test_shares_and_densities() -> None:
    assert weight_shares({"A": 1, "B": 1}, "volume", {"A": 1.2, "B": 0.8}) == {"A": 0.6, "B": 0.4}
    assert mixed_sg({"A": 60, "B": 40}, {"A": 1.2, "B": 0.8}) == pytest.approx(1.0)
    for good in (1e6, 1e-9):
        check_ratio({"A": 1, "B": good}, "weight", {"A": 0.1, "B": 22.6})


# --- mending


@pytest.mark.parametrize(
    ("poured_b", "error_pct", "part", "add_g"),
    [
        (20.0, 0, None, 0),
        (20.4, 2, None, 0),
        (19.6, -2, None, 0),
        (20.6, 3, "A", 6),  # 20.6 of B want 206 of A
        (19.0, -5, "B", 1),
        (0.0, -100, "B", 20),
    ],
)
def test_what_mends_a_cup(poured_b: float, error_pct: float, part: str | None, add_g: float) -> None:
    found = check(ratio=TEN_TO_ONE, poured_g={"A": 200, "B": poured_b})
    assert found.ratio_error_pct == pytest.approx(error_pct)
    assert (found.verdict, found.add_part) == ("within" if part is None else "mend", part)
    assert found.add_g == pytest.approx(add_g)
    assert found.total_g_after == pytest.approx(200 + poured_b + add_g)


def test_a_ratio_by_volume_is_checked_by_weight() -> None:
    # 1:1 by volume of 1.2 and 0.9 is 4:3 by weight
    found = check(ratio={"A": 1, "B": 1}, basis="volume", sg_parts={"A": 1.2, "B": 0.9}, poured_g={"A": 80, "B": 50})
    assert found.ratio_error_pct == pytest.approx(-100 / 6)
    assert found.add_g == pytest.approx(10)
    assert check(ratio=TEN_TO_ONE, poured_g={"A": 200, "B": 21}, tolerance_pct=5).verdict == "within"
    assert check(ratio=TEN_TO_ONE, poured_g={"A": 200, "B": 21}, tolerance_pct=4.9).verdict == "mend"


@pytest.mark.parametrize(
    ("changed", "field"),
    [
        ({"ratio": {"A": 1, "B": 1, "C": 1}}, "poured_g"),
        ({"poured_g": {"A": 1}}, "poured_g"),
        ({"poured_g": {"A": 0, "B": 1}}, "poured_g"),
        ({"poured_g": {"A": 1e8, "B": 1}}, "poured_g"),
        ({"poured_g": {"A": 1, "B": -1}}, "poured_g"),
        ({"poured_g": {"A": 1, "B": 1e8}}, "poured_g"),
        ({"tolerance_pct": 0}, "tolerance_pct"),
        ({"tolerance_pct": 101}, "tolerance_pct"),
    ],
)
def test_a_check_that_cannot_be(changed: dict[str, object], field: str) -> None:
    with pytest.raises(Refused, match=r"\.$") as refused:
        check(**{"ratio": TEN_TO_ONE, "poured_g": {"A": 100, "B": 10}, **changed})
    assert refused.value.field == field


# --- batches of a recipe


def tabled(batch: tuple[Ingredient, ...]) -> dict[str, float]:
    return {one.key: round(one.g, 6) for one in batch}


def test_each_part_of_a_blend_by_its_own_share_and_name() -> None:
    mixed = mix(MixPlan(ratio=TEN_TO_ONE, need_g=220, sg_mixed=1.1, cup_ml=100))
    recipe = Recipe(
        rubber=TIDE, blend=NEAP, blend_share=0.25, shelf={"A": "rubber:1", "B": "rubber:1", "A2": "rubber:2"}
    )
    made = batches_of(mixed, recipe)
    assert len(made) == 2
    # 100 of A and 10 of B in each cup, a quarter of both from the second tin
    assert made[0] == made[1]
    assert tabled(made[0]) == {"A": 75, "A2": 25, "B": 7.5, "B2": 2.5}
    assert [(one.role, one.name, one.colour, one.sg, one.shelf) for one in made[0]] == [
        ("A", "Tideline A", "white", 1.15, "rubber:1"),
        ("A", "Neap A", "grey", 1.2, "rubber:2"),
        ("B", "Tideline B", "blue", 1.0, "rubber:1"),
        ("B", "Neap B", "green", 0.9, ""),
    ]
    alone = batches_of(mixed, replace(recipe, blend=None))
    assert tabled(alone[0]) == {"A": 100, "B": 10}


def test_thinner_and_pigment_are_shared_out_with_the_batch() -> None:
    mixed = mix(
        MixPlan(
            ratio=TEN_TO_ONE,
            need_g=245,
            sg_mixed=1.0,
            cup_ml=130,
            thinner=Thinner(parts_per_100=10, sg=1.0),
            pigment_pct=2,
        )
    )
    oil, red = Additive(name="Ebb", colour="clear", sg=0.95), Additive(name="Buoy red", kind="pigment", colour="red")
    recipe = Recipe(rubber=TIDE, thinner=oil, pigment=red, shelf={"thinner": "additive:3"})
    (first, second) = batches_of(mixed, recipe)
    assert [one.key for one in first] == ["A", "thinner", "B", "pigment"]
    by_key = {one.key: one for one in first}
    assert by_key["thinner"].g * 2 == pytest.approx(mixed.thinner_g)
    assert by_key["pigment"].g * 2 == pytest.approx(mixed.pigment_g)
    assert sum(one.g for one in (*first, *second)) == pytest.approx(245)
    assert (by_key["thinner"].name, by_key["thinner"].called, by_key["thinner"].sg, by_key["thinner"].shelf) == (
        "Ebb",
        "Ebb, clear",
        0.95,
        "additive:3",
    )
    nameless = batches_of(mixed, replace(recipe, pigment=None))[0][-1]
    assert (nameless.name, nameless.called, nameless.colour, nameless.sg) == ("Pigment", "Pigment", "", None)


def test_coats_are_batches_of_their_own_and_thickener_goes_on_a_and_b() -> None:
    # 100 cm2: 5 ml for the print coat, 20 ml for each of two that follow
    planned = coats(area_cm2=100, number=3, coat_mm=2)
    assert planned == (
        Coat(number=1, volume_ml=5, is_thickened=False),
        Coat(number=2, volume_ml=20, is_thickened=True),
        Coat(number=3, volume_ml=20, is_thickened=True),
    )
    mixed = mix(MixPlan(ratio=TEN_TO_ONE, need_g=99 * 1.1, thinner=Thinner(parts_per_100=10)))
    thick = Additive(name="Weft", kind="thickener")
    made = batches_of(mixed, Recipe(rubber=TIDE, thickener=thick, thickener_parts=2, shelf={}), planned)
    # a ninth and four ninths of 90 of A, 9 of B and 9.9 of thinner; 2 per 100 of A + B alone
    assert [round(sum(one.g for one in batch if one.role in "AB"), 6) for batch in made] == [11, 44, 44]
    assert [tabled(batch).get("thickener") for batch in made] == [None, 0.88, 0.88]
    assert [tabled(batch)["thinner"] for batch in made] == [1.1, 4.4, 4.4]
    assert [one.key for one in made[1]] == ["A", "thinner", "thickener", "B"]
    plain = batches_of(mixed, Recipe(rubber=TIDE, thickener_parts=2, shelf={}), planned)
    assert all("thickener" not in tabled(batch) for batch in plain)
    assert skin_mm(3, 2) == pytest.approx(4.5)
    assert skin_mm(1, 2) == skin_mm(0, 2) == 0.5


def test_when_the_next_coat_goes_on() -> None:
    window = recoat_window(20, 240)
    assert window is not None
    assert (window.from_min, window.until_min) == (20, 120)  # half of the time to demould (common practice)
    assert recoat_window(None, 240) is None
    open_ended = recoat_window(20, None)
    assert open_ended is not None
    assert open_ended.until_min is None
    fast = recoat_window(20, 30)
    assert fast is not None
    assert fast.until_min == 20  # never before it may begin


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"area_cm2": 1e7}, "coat_area_cm2"),
        ({"number": 21}, "coats"),
        ({"coat_mm": 51}, "coat_mm"),
        ({"first_mm": 0}, "coat_mm"),
        ({"first_mm": 51}, "coat_mm"),
    ],
)
def test_coats_that_cannot_be(wrong: dict[str, float], field: str) -> None:
    with pytest.raises(Refused, match=r"[.?]") as refused:
        coats(**{"area_cm2": 100, "number": 3, "coat_mm": 2, **wrong})
    assert refused.value.field == field
    assert coats(area_cm2=1e6, number=20, coat_mm=50, first_mm=50)


def test_everything_in_a_record_adds_up() -> None:
    assert total_of([[A, B], [A]]) == {"A": 400, "B": 20}
    assert [one.key for one in in_order([RED, replace(OIL, g=0), B, A])] == ["A", "B", "pigment"]
    with pytest.raises(Refused, match="nothing to weigh"):
        replace(PLAN, batches=())
    with pytest.raises(Refused, match="nothing to weigh"):
        replace(PLAN, batches=((A,),))


# --- putty, drops, kits, allowance


def test_putty_lumps_by_hand() -> None:
    made = lumps(240, 240, 1.6, sg_a=1.5, sg_b=1.7)
    # 300 ml, and hands knead 120 at once: three pairs of 80 g
    assert (made.number, made.a_g, made.b_g) == (3, 80, 80)
    assert made.a_ball_mm == pytest.approx((6 * 80_000 / 1.5 / pi) ** (1 / 3))
    assert made.b_ball_mm == pytest.approx((6 * 80_000 / 1.7 / pi) ** (1 / 3))
    assert lumps(96, 96, 1.6).number == 1
    assert lumps(96.1, 96, 1.6).number == 2
    assert lumps(1, 1, 1.6).number == 1
    assert lumps(19_200, 19_200, 1.6).number == 200
    with pytest.raises(Refused, match="201 lumps") as refused:
        lumps(19_201, 19_200, 1.6)
    assert refused.value.field == "rubber_id"
    assert lumps(96, 96, 1.6).b_ball_mm == pytest.approx((6 * 60_000 / pi) ** (1 / 3))


def test_the_need_of_a_pad() -> None:
    assert Pad(length_mm=60, width_mm=50, thickness_mm=20).need_ml == 60
    for wrong in ({"length_mm": 0.0}, {"width_mm": 10_001.0}, {"thickness_mm": -1.0}, {"displaced_ml": 60.0}):
        with pytest.raises(Refused, match="pad"):
            _ = Pad(**{"length_mm": 60.0, "width_mm": 50.0, "thickness_mm": 20.0, **wrong}).need_ml


def test_drops_by_hand() -> None:
    assert drops_per_ml(100, 4, 1.2) == 30
    counted = drops(0.5, 1.0, 25)
    assert (counted.number, counted.one_drop_pct) == (12, 8)
    assert drops(0.5, 1.0, 1).number == 0
    assert drops(80, 1.0, 25).number == 2000
    assert drops_per_ml(100_000, 1, 1) == 100_000
    for wrong in ((0, 1, 1), (100_001, 1, 1), (1, 0, 1), (1, 1, 0)):
        with pytest.raises(Refused, match="Count some drops") as refused:
            drops_per_ml(*wrong)
        assert refused.value.field == "drops_per_ml"
    for grams in (0.4, 2001):
        with pytest.raises(Refused, match="Weigh this") as refused:
            drops(grams, 1.0, 1)
        assert refused.value.field == "drops_per_ml"


def test_a_kit_that_just_fills_a_job_fills_it() -> None:
    def job(number: int, grams: float) -> Waiting:
        return Waiting(job_id=number, name="x", need_g=grams)

    made = whole_kit(1000, 400, [job(1, 600)])
    assert [one.job_id for one in made.fills] == [1]
    assert whole_kit(1000, 400, [job(1, 600.1), job(2, 0.0)]).fills == ()
    assert whole_kit(1000, 400, [job(1, 0.5)]).fills[0].need_g == 0.5


def test_packs_and_their_cost() -> None:
    rubber = PackUse(name="Tideline", used_g=450, pack_g=500, price=40)
    assert (rubber.packs, rubber.cost) == (1, 36)
    assert replace(rubber, used_g=500).packs == 1
    assert replace(rubber, used_g=501).packs == 2
    assert replace(rubber, used_g=1).packs == 1
    oil = PackUse(name="Ebb", used_g=20, pack_g=None, is_rubber=False)
    assert (oil.packs, oil.cost) == (None, None)
    assert PackUse(name="Ebb", used_g=20, pack_g=100, is_rubber=False).cost is None
    red = PackUse(name="Red", used_g=5, pack_g=50, price=10, is_rubber=False)
    use = kit_use([oil, red, rubber, replace(red, name="Unused", used_g=0)])
    assert [one.name for one in use.packs] == ["Tideline", "Ebb", "Red"]
    assert (use.cost, use.unpriced) == (37, ("Ebb",))
    assert KitUse(packs=(replace(rubber, price=None), red)).cost is None
    with pytest.raises(Refused, match="A kit must weigh something"):
        replace(rubber, pack_g=0)


def test_the_allowance_by_hand() -> None:
    assert quantile([1, 2, 3, 4], 0.5) == 2.5
    assert quantile([1, 2, 30, 4], 0.9) == pytest.approx(4 + 0.7 * 26)
    assert quantile([7], 0.5) == 7
    # ten pours of 20 %: 20 x 10 / 15 + 10 x 5 / 15
    made = learn([20.0] * 10, 80)
    assert (made.spare_pct, made.learnt_pct, made.pours, made.confidence_pct) == (16.7, 20, 10, 80)
    assert made.weight == pytest.approx(2 / 3)
    assert learn([-50.0] * 100, 80).spare_pct == 0
    assert learn([-2.6] * 10, 80).spare_pct == 1.6
    assert learn([500.0] * 100, 80).spare_pct == 100
    nothing = learn([], 80)
    assert (nothing.spare_pct, nothing.learnt_pct, nothing.weight, nothing.pours) == (10, None, 0, 0)
    assert learn([0.0] * 5, 80).spare_pct == 5
    mixed_pours = learn([float(percent) for percent in range(100)], 50)
    assert mixed_pours.learnt_pct == pytest.approx(49.5)
    for sure in (50, 99):
        assert learn([1.0], sure).confidence_pct == sure
    assert PastPour(needed_g=0.5, used_g=0.4).over_pct == pytest.approx(-20)
    for needed, used in ((0, 1), (1, 0), (-1, 1), (1, -1)):
        with pytest.raises(Refused, match="teaches nothing") as refused:
            PastPour(needed_g=needed, used_g=used)
        assert refused.value.field == "used_g"


# --- the bench


def poured(*grams: float | None, plan=PLAN) -> Hand:
    hand = Hand(plan)
    hand.batch(*grams)
    hand.write("mixed")
    hand.write("poured")
    return hand


def test_a_pour_is_accounted_for() -> None:
    hand = poured(200.0, 20.0)
    contact_s = hand.state.attempt.contact.wall_s
    hand.write("leftover", 8.0)
    state = hand.write("finish")
    assert (state.used_g, state.needed_g, state.lost_g) == (212, 200, 0)
    assert state.over_pct == pytest.approx(6)
    assert state.clocks.contact_s == contact_s
    # 960 min at 23 degC
    assert state.clocks.end_s("demould") == contact_s + 960 * 60
    assert state.clocks.end_s("pot-life") == contact_s + 45 * 60
    assert state.clocks.end_s("full-cure") is None
    assert state.clocks.poured_s == next(entry.at.wall_s for entry in state.entries if entry.kind == "poured")
    assert state.has_poured
    assert state.clocks.end_of_s(state.attempt, "demould") == contact_s + 960 * 60


def test_demould_time_with_thinner_in_a_cold_room() -> None:
    # the plan has the thinner in its times already: 960 x 2^(10/50); what is missing when the room is found to have 13
    # degC takes twice as long
    plan = replace(PLAN, demould_min=960 * 2**0.2, full_cure_min=1440 * 2**0.2)
    hand = poured(200.0, 20.0, plan=plan)
    contact_s = hand.state.attempt.contact.wall_s
    hand.write("temperature", temp_c=13.0)
    assert hand.state.room_temp_c == 13
    warm_s = hand.state.entries[-1].at.wall_s - contact_s
    assert warm_s > 0
    for kind, tin_min in (("demould", 960 * 2**0.2), ("full-cure", 1440 * 2**0.2), ("pot-life", 45)):
        assert hand.state.clocks.end_s(kind) == pytest.approx(contact_s + warm_s + 2 * (60 * tin_min - warm_s))


def test_discarded_and_wrong_cups_are_lost_and_need_nothing() -> None:
    hand = Hand()
    hand.batch(200.0)
    assert hand.state.lost_g == 0
    hand.write("discard", text="a moth in it")
    assert (hand.state.lost_g, hand.state.used_g, hand.state.needed_g, hand.state.has_poured) == (200, 0, 0, False)
    hand.batch(200.0)
    hand.write("hold")
    hand.write("wrong", 15.0, ingredient="A")
    assert hand.state.lost_g == 415
    hand.batch(200.0, 20.0)
    hand.write("mixed")
    state = hand.write("poured")
    assert (state.lost_g, state.used_g, state.needed_g) == (415, 220, 200)
    assert [cup.outcome for cup in state.attempts] == ["discarded", "wrong", "poured"]
    assert state.clocks.end_of_s(state.attempts[0], "demould") is None
    assert state.ratio_error_pct(state.attempts[0]) is None
    assert state.ratio_error_pct(state.attempts[2]) == pytest.approx(0)


def test_two_batches_demould_with_the_last() -> None:
    hand = Hand(FULL)
    contacts = []
    for _ in range(2):
        hand.batch(None, None, None, None)
        contacts.append(hand.state.attempt.contact.wall_s)
        hand.write("mixed")
        hand.write("poured")
        hand.write("leftover", 0.0)
    assert contacts[0] < contacts[1]
    assert hand.state.clocks.contact_s == contacts[0]
    assert hand.state.clocks.end_s("demould") == contacts[1] + 60 * (FULL.demould_min or 0)
    assert hand.state.clocks.poured_s > contacts[1]
    # half of what is needed, in each
    assert hand.state.needed_g == pytest.approx(FULL.need_g)


def test_a_second_b_does_not_start_the_clock_again() -> None:
    both = [replace(A, g=100), replace(A, key="A2", g=100), replace(B, g=10), replace(B, key="B2", g=10)]
    hand = Hand(replace(PLAN, batches=(in_order(both),)))
    hand.batch(100.0, 100.0)
    hand.write("hold")
    first = hand.seconds
    hand.weigh(10.0)
    hand.write("hold")  # the second B
    clock = hand.state.clock(at(first + 300))
    assert clock is not None
    assert clock.elapsed_s == 300
    # put down again: the first is in the cup, so the clock goes on
    hand.write("down")
    assert hand.state.clock(at(first + 360)).elapsed_s == 360


def test_the_temperature_noted_before_contact_counts_from_contact() -> None:
    hand = Hand()
    hand.batch(200.0)
    hand.write("temperature", temp_c=18.0)
    hand.write("temperature", temp_c=33.0)
    hand.write("hold")
    start = hand.seconds
    clock = hand.state.clock(at(start + 600))
    # 45 min at 23 degC are 22.5 at 33
    assert clock.whole_min == pytest.approx(22.5)
    assert clock.used == pytest.approx(10 / 22.5)
    hand.seconds = start + 590
    hand.write("temperature", temp_c=23.0)
    clock = hand.state.clock(at(start + 1200))
    assert clock.used == pytest.approx(10 / 22.5 + 10 / 45)
    assert clock.left_s == pytest.approx((1 - clock.used) * 2700)
    assert hand.state.clock(at(start + 1200), hand.state.attempt) == clock


def test_a_note_in_the_very_moment_of_contact() -> None:
    entries = [
        RecordEntry(number=1, at=at(0), kind="start", temp_c=13.0),
        RecordEntry(number=2, at=at(1), kind="tare"),
        RecordEntry(number=3, at=at(2), kind="hold", ingredient="A"),
        RecordEntry(number=4, at=at(3), kind="weigh", ingredient="A", net_g=200.0),
        RecordEntry(number=5, at=at(4), kind="hold", ingredient="B"),
        RecordEntry(number=6, at=at(4.5), kind="temperature", temp_c=33.0),
    ]
    clock = bench_state(PLAN, entries).clock(at(1204))
    assert clock.used == pytest.approx(0.5 / 60 / 90 + 1199.5 / 60 / 22.5)


@pytest.mark.parametrize(
    ("elapsed_s", "phase"),
    [(0, "calm"), (1619, "calm"), (1620, "soon"), (2294, "soon"), (2295, "now"), (2699, "now"), (2700, "over")],
)
def test_phases_of_a_pot_life_of_45_minutes(elapsed_s: float, phase: str) -> None:
    life = pot_life(45, elapsed_s, [(0.0, 23.0)])
    assert (life.phase, life.whole_min, life.elapsed_s) == (phase, 45, elapsed_s)
    assert life.left_s == pytest.approx(2700 - elapsed_s)


def test_a_pot_life_in_a_room_that_warms() -> None:
    # 10 min at 13 degC, 10 at 23, 10 at 33, of a pot life of 40
    life = pot_life(40, 1800, [(0, 13), (600, 23), (1200, 33), (9999, 50)])
    assert life.used == pytest.approx(10 / 80 + 10 / 40 + 10 / 20)
    assert life.whole_min == 20
    assert pot_life(40, 600, []).used == pytest.approx(0.25)
    # a note from before the start, and the first one later than now
    assert pot_life(40, 600, [(-500, 33)]).used == pytest.approx(0.5)
    assert pot_life(40, 600, [(700, 33)]).used == pytest.approx(0.5)
    # the first note counts from the start, however late it was made
    assert pot_life(40, 600, [(300, 33)]).used == pytest.approx(0.5)


def test_moments() -> None:
    early = Moment(wall_s=100, steady_s=10, machine="one")
    assert Moment(wall_s=160, steady_s=75, machine="one").since_s(early) == 65
    assert Moment(wall_s=160, steady_s=75, machine="other").since_s(early) == 60
    assert Moment(wall_s=90, steady_s=75, machine="other").since_s(early) == 0
    assert Moment(wall_s=160, steady_s=75, machine="one").clock_moved_s(early) == -5
    assert Moment(wall_s=160, steady_s=75, machine="other").clock_moved_s(early) == 0


@pytest.mark.parametrize(
    ("key", "low", "high"),
    [
        ("A", 196, 204),  # 2 %
        ("thinner", 20.9, 23.1),  # 5 %
        ("B", 19.6, 20.4),  # the rubber's tolerance of 2 %
        ("pigment", 1.8, 2.2),  # 10 %
    ],
)
def test_the_band_of_each_step(key: str, low: float, high: float) -> None:
    hand = Hand(FULL)
    hand.write("tare")
    while hand.state.step.ingredient.key != key:
        hand.weigh()
    step = hand.state.step
    assert (step.low_g, step.high_g) == (pytest.approx(low), pytest.approx(high))
    assert not step.is_mend
    assert [step.verdict(grams) for grams in (low - 0.01, low, high, high + 0.01)] == [
        "under",
        "within",
        "within",
        "over",
    ]


def test_no_band_is_finer_than_half_a_step_of_the_scale() -> None:
    hand = Hand(replace(PLAN, step_g=2.0))
    state = hand.batch(200.0)
    assert (state.step.low_g, state.step.high_g) == (19, 21)


def test_the_band_of_a_mend_is_the_tolerance_of_the_whole_part() -> None:
    state = Hand().batch(200.0, 26.0)
    # 60 g of A are missing of 260: 2 % of those are 5.2
    assert state.step.is_mend
    assert (state.step.target_g, state.step.low_g, state.step.high_g) == (
        pytest.approx(60),
        pytest.approx(54.8),
        pytest.approx(65.2),
    )
    short = Hand().batch(200.0, 10.0)
    # 10 g of B are missing of 20: 2 % of those are 0.4
    assert (short.step.ingredient.key, short.step.low_g, short.step.high_g) == (
        "B",
        pytest.approx(9.6),
        pytest.approx(10.4),
    )
    little = Hand(replace(PLAN, step_g=20.0)).batch(200.0, 10.0)
    assert (little.step.low_g, little.step.high_g) == (0, pytest.approx(20))


def test_pigment_waits_until_the_ratio_is_mended() -> None:
    hand = Hand(FULL)
    hand.batch(None, None, 40.0)
    assert (hand.state.step.ingredient.key, hand.state.step.is_mend) == ("A", True)
    hand.weigh()
    assert hand.state.step.ingredient.key == "pigment"


def test_a_record_is_read_line_by_line() -> None:
    hand = Hand()
    hand.batch(201.0, 20.0)
    hand.write("correction", 20.2, of_number=6, text="read again")
    told = lines(hand.state)
    assert [line.since_start_s for line in told] == [0, 10, 20, 30, 40, 50, 60]
    assert [line.target_g for line in told] == [None, None, None, 200, None, pytest.approx(20.1), None]
    assert told[3].error_g == pytest.approx(1)
    assert told[5].error_g == pytest.approx(0.1)
    assert (told[5].right_g, told[3].right_g) == (20.2, None)
    assert told[0].error_g is None


def test_corrections_of_left_overs_and_wrong_parts() -> None:
    hand = Hand()
    hand.batch(200.0)
    hand.write("hold")
    hand.write("wrong", 15.0, ingredient="A")
    wrong = len(hand.entries)
    assert hand.write("correction", 17.0, of_number=wrong, text="misread").lost_g == 217
    hand.batch(200.0, 20.0)
    hand.write("mixed")
    hand.write("poured")
    hand.write("leftover", 8.0)
    left = len(hand.entries)
    assert hand.write("correction", 5.0, of_number=left, text="misread").used_g == 215
    assert hand.write("correction", 6.0, of_number=left, text="once more").used_g == 214


@pytest.mark.parametrize(
    ("kind", "more", "field", "says"),
    [
        ("leftover", {"net_g": -1.0}, "net_g", "never less than nothing"),
        ("leftover", {"net_g": None}, "net_g", "never less than nothing"),
        ("leftover", {"net_g": 221.0}, "net_g", "can't be left"),
        ("mixed", {}, "", "not what comes next"),
        ("tare", {}, "", "not what comes next"),
        ("correction", {"of_number": 4, "net_g": -1.0, "text": "x"}, "net_g", "never less"),
        ("correction", {"of_number": 4, "net_g": 2e6, "text": "x"}, "net_g", "never less"),
        ("correction", {"of_number": 4, "net_g": 1.0, "text": " "}, "text", "Say why it is corrected"),
        ("correction", {"of_number": 2, "net_g": 1.0, "text": "x"}, "of_number", "Only what was weighed"),
    ],
)
def test_lines_after_the_pour(kind, more: dict[str, object], field: str, says: str) -> None:
    hand = poured(200.0, 20.0)
    with pytest.raises(Refused, match=says) as refused:
        hand.write(kind, **more)
    assert refused.value.field == field


def test_all_of_a_cup_can_be_left_over() -> None:
    hand = poured(200.0, 20.0)
    assert hand.write("leftover", 220.0).used_g == 0
    assert hand.state.over_pct is None
    hand.write("finish")
    hand.write("note", text="Kept for the next one.")
    hand.write("correction", 20.1, of_number=6, text="misread")
    hand.write("temperature", temp_c=20.0)  # the room goes on mattering until it is cured
    with pytest.raises(Refused, match="finished"):
        hand.write("tare")


def test_a_record_has_an_end() -> None:
    hand = Hand()
    hand.entries += [
        RecordEntry(number=number, at=at(1), kind="note", text="x") for number in range(2, MOST_ENTRIES + 1)
    ]
    with pytest.raises(Refused, match="full"):
        hand.write("note", text="One more.")
    hand.entries.pop()
    assert len(hand.write("note", text="x" * 400).entries) == MOST_ENTRIES


def test_unlikely_weights_are_queried_and_impossible_ones_refused() -> None:
    step = Step(kind="weigh", ingredient=A, target_g=150, low_g=147, high_g=153)
    for grams in (100, 225):
        check_weight(step, grams, sure=False)
    for grams in (99.9, 225.1):
        with pytest.raises(Refused, match="far from") as refused:
            check_weight(step, grams, sure=False)
        assert refused.value.field == "sure"
        check_weight(step, grams, sure=True)
    for grams in (0, -1, 1_000_001):
        with pytest.raises(Refused, match="more than nothing") as refused:
            check_weight(step, grams, sure=True)
        assert refused.value.field == "net_g"
    # a band wider than half as much again is believed as well
    check_weight(replace(step, target_g=0.2, low_g=0, high_g=0.7), 0.7, sure=False)


def test_the_hold_must_be_of_the_part_that_comes_next() -> None:
    hand = Hand()
    hand.write("tare")
    state = hand.state
    with pytest.raises(Refused, match="not the part that comes next"):
        check_entry(state, RecordEntry(number=3, at=at(9), kind="hold", ingredient="B"))
    check_entry(state, RecordEntry(number=3, at=at(9), kind="hold", ingredient="A", text="x" * 400))
    with pytest.raises(Refused, match="401 characters"):
        check_entry(state, RecordEntry(number=3, at=at(9), kind="hold", ingredient="A", text="x" * 401))


def test_a_reading_counts_from_its_own_scale_and_zero() -> None:
    cup = StepAttempt(batch=0, zero_g=18.0, scale="Bench")
    assert cup.net_g(218.5, "Bench") == 200.5
    for other in (StepAttempt(batch=0, scale="Bench"), StepAttempt(batch=0, zero_g=1.0, scale="Shelf")):
        with pytest.raises(Refused, match="has not been tared") as refused:
            other.net_g(218.5, "Bench")
        assert refused.value.field == "scale"


@given(st.floats(150, 260), st.floats(10, 40))
def test_what_is_in_the_cup_after_the_step_is_what_is_in_it_and_what_is_asked_for(a_g: float, b_g: float) -> None:
    state = Hand().batch(a_g, b_g)
    assert state.after_ml() * 1.13 == pytest.approx(a_g + b_g + state.step.target_g)


def test_thinner_and_pigment_of_a_batch_are_shares_of_the_whole() -> None:
    made = mix(
        MixPlan(
            ratio=TEN_TO_ONE,
            need_ml=300,
            sg_mixed=1.1,
            thinner=Thinner(parts_per_100=10, sg=1.0),
            pigment_pct=1,
            cup_ml=110,
        )
    )
    assert len(made.batches) == 3
    for batch in made.batches:
        assert batch.thinner_g == pytest.approx(made.thinner_g / 3)
        assert batch.pigment_g == pytest.approx(made.pigment_g / 3)
        assert batch.total_g == pytest.approx(sum(batch.parts_g.values()) + batch.thinner_g + batch.pigment_g)


def test_parts_that_stand_on_no_shelf_name_none() -> None:
    mixed = mix(MixPlan(ratio=TEN_TO_ONE, need_g=110, thinner=Thinner(parts_per_100=10), pigment_pct=1))
    (batch,) = batches_of(mixed, Recipe(rubber=TIDE, thinner=Additive(name="Ebb"), shelf={}))
    assert [one.shelf for one in batch] == [""] * 4
    four = weight_shares({"A": 4, "B": 3, "C": 2, "D": 1})
    assert four == {"A": 0.4, "B": 0.3, "C": 0.2, "D": 0.1}
    check_ratio({"A": 4, "B": 3, "C": 2, "D": 1}, "weight", None)


@pytest.mark.parametrize(
    ("tolerance", "poured_b", "step"), [(5.0, 21.0, "mix"), (5.0, 21.1, "hold"), (0.5, 20.15, "hold")]
)
def test_the_bench_mends_by_the_tolerance_of_its_rubber(tolerance: float, poured_b: float, step: str) -> None:
    state = Hand(replace(PLAN, tolerance_pct=tolerance)).batch(200.0, poured_b)
    assert state.step.kind == step
    if step == "hold":
        assert state.step.ingredient is not None
        assert (state.step.ingredient.key, state.step.is_mend) == ("A", True)
        # the A that the B is enough for, less what is in the cup
        assert state.step.target_g == pytest.approx(poured_b * 10 - 200)


def test_a_pot_life_without_any_note_is_that_of_the_tin() -> None:
    entries = [
        RecordEntry(number=1, at=at(0), kind="start"),
        RecordEntry(number=2, at=at(1), kind="tare"),
        RecordEntry(number=3, at=at(2), kind="hold", ingredient="A"),
        RecordEntry(number=4, at=at(3), kind="weigh", ingredient="A", net_g=200.0),
        RecordEntry(number=5, at=at(4), kind="hold", ingredient="B"),
    ]
    state = bench_state(PLAN, entries)
    assert state.clock(at(604)).used == pytest.approx(10 / 45)
    assert state.room_temp_c == 23
    # one noted only later counts from the very start of a record that had none
    later = bench_state(PLAN, [*entries, RecordEntry(number=6, at=at(304), kind="temperature", temp_c=33.0)])
    assert later.clock(at(604)).used == pytest.approx(5 / 45 + 5 / 22.5)


def test_a_weight_is_corrected_to_nothing_and_up_from_nothing() -> None:
    hand = Hand()
    hand.batch(200.0, 20.0)
    hand.write("correction", 0.0, of_number=6, text="that was the cup")
    assert hand.state.attempt.poured_g["B"] == 0
    hand.write("correction", 20.0, of_number=6, text="it was B after all")
    assert hand.state.attempt.poured_g == {"A": 200, "B": 20}
    assert hand.state.step.kind == "mix"
