"""One plan that agrees with itself: whatever the kind of mould and whoever chose it, every station tells the same."""

from dataclasses import replace
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st
from records import ADDITION
from records import MASTER as BRASS
from shapes import ball, dumbbell

from ufrin.core.box.packing import packed
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.inputs.stations import INPUTS
from ufrin.core.inputs.usual_ranges import RANGES, usual_range
from ufrin.core.job.checks_station import ShopWays
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.rubber_choice import advised_families
from ufrin.core.job.shelf_picks import ShelfPicks, Stocked
from ufrin.core.job.weighed_pours import WeighedPour
from ufrin.core.master.master_form import Master, stand_form
from ufrin.core.materials.kinds import POURS
from ufrin.core.opening.mould_styles import PARTED, STYLES
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import FAMILIES, Rubber
from ufrin.core.rubber.typical import typical_rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.lots import Lot

MASTER = replace(BRASS, material=None)  # brass would weigh more than that: its displacement counts as measured
PUTTY = replace(ADDITION, name="Quay putty", form="putty", pot_life_min=None)
TUB = Container(name="Tub", length_mm=200, width_mm=160, height_mm=160)
WAYS = {
    "size alone": MasterInputs(length_mm=60, width_mm=40, height_mm=35),
    "level": MASTER,
    "hung": replace(MASTER, hung_reading_g=49.0),
    "two that disagree": replace(MASTER, hung_reading_g=30.0),
    "stand-in": MasterInputs(standin="cone", length_mm=50, top_mm=30, height_mm=60, mass_g=80),
    "profile": MasterInputs(standin="profile", profile="0 40; 10 40; 20 16; 40 36; 60 0"),
    "mesh": MasterInputs(mass_g=100),
}
MESHES = {"mesh": stand_form(dumbbell(), (0, 0, 1))}
SHAPES = (None, "rectangle", "round", "contour", "container", "tray")
ADVISED = {
    "as advised": OpeningInputs(),
    "flat": OpeningInputs(flat_back=True),
    **{style: OpeningInputs(style=style) for style in STYLES},
}


def made(
    master: MasterInputs,
    opening: OpeningInputs,
    box: BoxInputs | None = None,
    poured: RubberInputs | None = None,
    *,
    way: str = "",
    shop: ShopWays | None = None,
    **picks: object,
) -> Plan:
    shelf = ShelfPicks(**{"rubber": ADDITION, **picks})
    context = JobContext(shelf=shelf, mesh=MESHES.get(way), container=TUB, shop=shop or ShopWays())
    return plan(master, box or BoxInputs(), poured or RubberInputs(rubber_id=1), context, opening)


@pytest.mark.parametrize("way", ["level", "mesh"])
@pytest.mark.parametrize(
    "box", [BoxInputs(), BoxInputs(count=3, side_mm=9.0), BoxInputs(shape="contour", over_mm=15.0)]
)
def test_the_rubber_of_a_kind_that_is_not_chosen_is_what_it_would_take(way: str, box: BoxInputs) -> None:
    advised = made(WAYS[way], OpeningInputs(), box, RubberInputs(rubber_id=1, coats=3.0), way=way)
    assert advised.kind is not None
    for one in advised.kind.advice:
        picks = {"rubber": PUTTY} if one.style == "press" else {}
        chosen = made(
            WAYS[way], OpeningInputs(style=one.style), box, RubberInputs(rubber_id=1, coats=3.0), way=way, **picks
        )
        assert chosen.rubber_ml == pytest.approx(one.rubber_ml), one.style


def check_agrees(found: Plan) -> None:
    kind = found.kind
    assert kind is not None
    assert found.opening is not None
    assert found.opening.style == kind.style
    # what is filled is what is poured, to the drop
    if found.rubber is not None:
        assert sum(pour.need_ml for pour in found.pours) == pytest.approx(found.rubber.need_ml)
        if found.box is not None:
            assert found.rubber.need_ml == pytest.approx(found.box.net_ml, rel=1e-9)
        weighed = sum(one.g for pour in found.pours for batch in pour.batches for one in batch)
        thickener = sum(one.g for one in found.rubber.ingredients if one.role == "thickener")
        assert weighed == pytest.approx(found.rubber.total_g + thickener)
        assert weighed == pytest.approx(sum(one.g for one in found.rubber.ingredients))
    # two pours exactly where the mould has two halves
    assert len(found.pours) == (0 if found.rubber is None else 2 if kind.style in PARTED else 1)
    assert (found.halves is not None) == (kind.style in PARTED and found.box is not None)
    if found.halves is not None and found.box is not None and found.box_plan is not None:
        assert found.halves.first_ml + found.halves.second_ml == pytest.approx(found.box.net_ml)
        assert found.box_plan.bed_mm == 0
    # no box, no walls, no bed where the kind of mould has none
    if kind.style in {"skin", "press"}:
        assert found.box is None
        assert not found.refusals["box"]
    if found.box is not None:
        assert (found.box.shape == "tray") == (kind.style == "tray")
    hows = {"skin": "brushed", "press": "putty"}
    assert {pour.how for pour in found.pours} <= {hows.get(kind.style, "poured")}
    assert (found.jacket is not None) == (kind.style == "skin" and found.master.size_mm is not None)
    assert found.opening.slit is None or kind.style == "slit"
    if kind.style == "slit":
        assert found.opening.slit is not None
    if found.checks is not None:
        met = {pair.contact.key for pair in found.checks.pairs}
        assert ("halves" in met) == (kind.style in PARTED)
        assert ("jacket" in met) == (kind.style == "skin")
        assert ("walls" in met) == (kind.style not in {"skin", "press"})


@pytest.mark.parametrize("style", ADVISED)
@pytest.mark.parametrize("way", WAYS)
def test_no_station_contradicts_another(way: str, style: str) -> None:
    for shape, rubber in product(SHAPES, (ADDITION, PUTTY)):
        box = BoxInputs(shape=shape, container_id=1, bed_mm=5.0, count=2.0)
        found = made(WAYS[way], ADVISED[style], box, way=way, rubber=rubber)
        if found.kind is not None:
            check_agrees(found)
            assert (found.rubber is None) == bool(found.refusals["rubber"] or found.refusals["box"])


@pytest.mark.parametrize("way", WAYS)
def test_what_is_advised_is_planned_exactly_as_if_it_were_chosen(way: str) -> None:
    for rubber in (ADDITION, PUTTY, replace(ADDITION, elongation_pct=100.0)):
        advised = made(WAYS[way], OpeningInputs(), way=way, rubber=rubber)
        taken = made(WAYS[way], OpeningInputs(style=advised.style), way=way, rubber=rubber)
        assert advised.style == taken.style
        assert (advised.box, advised.halves, advised.jacket) == (taken.box, taken.halves, taken.jacket)
        assert advised.pours == taken.pours
        assert [stop.key for stop in advised.stops] == [stop.key for stop in taken.stops]


def test_a_putty_advises_a_pad_and_a_liquid_never_does() -> None:
    for way, master in WAYS.items():
        assert made(master, OpeningInputs(), way=way, rubber=PUTTY).style == "press"
        assert made(master, OpeningInputs(), way=way).style != "press"
    poured = made(MASTER, OpeningInputs(style="press"))
    assert poured.rubber is None
    assert [refused.field for refused in poured.refusals["rubber"]] == ["rubber_id"]


def test_halves_without_a_shape_are_shared_out_and_marked() -> None:
    found = made(MASTER, OpeningInputs(style="two-part"))
    # by hand: 84 x 64 x 59 mm, 50 ml of master in the middle: both halves alike
    whole_ml = 84 * 64 * 59 / 1000 - 50
    assert [pour.need_ml for pour in found.pours] == [pytest.approx(whole_ml / 2), pytest.approx(whole_ml / 2)]
    assert "halves-judged" in [finding.code for finding in found.findings["opening"]]


@given(st.floats(0, 60), st.floats(100, 400))
def test_halves_take_filler_and_the_measured_displacement(filler_ml: float, counted_ml: float) -> None:
    form = stand_form(ball(40, 48), (0, 0, 1))
    master = MasterInputs(level_before_ml=1000.0, level_after_ml=1000.0 + counted_ml / 10, counted_way="level")
    context = JobContext(shelf=ShelfPicks(rubber=ADDITION), mesh=form)
    box = BoxInputs(filler_ml=filler_ml, side_mm=30.0)
    found = plan(master, box, RubberInputs(rubber_id=1), context, OpeningInputs(style="two-part"))
    assert found.box is not None
    assert found.halves is not None
    assert found.box.displaced_ml == pytest.approx(counted_ml / 10 + filler_ml)
    assert found.halves.first_ml + found.halves.second_ml == pytest.approx(found.box.net_ml)
    # a ball parts in the middle, whatever was measured and laid in
    assert found.halves.first_ml == pytest.approx(found.halves.second_ml, rel=0.02)


def test_the_stock_and_the_cost_are_those_of_both_halves() -> None:
    tin = replace(ADDITION, kit_g=200.0, kit_price=20.0)
    lots = (Lot(code="T-1", part="A", left_g=120, got_g=500), Lot(code="T-2", part="B", left_g=500, got_g=500))
    stock = {key: Stocked(shelf="rubber:1", lots=lots) for key in "AB"}
    found = made(MASTER, OpeningInputs(style="two-part"), rubber=tin, stock=stock)
    assert found.rubber is not None
    both_g = sum(pour.mix.parts["A"].g + pour.mix.parts["B"].g for pour in found.pours)
    assert found.rubber.kits.cost == pytest.approx(both_g * 20 / 200)
    each_a_g = max(pour.mix.parts["A"].g for pour in found.pours)
    assert each_a_g < 120 + 60  # one half alone would come near enough
    assert [finding.facts["needed"].value for finding in found.findings["rubber"] if finding.code == "stock-low"] == [
        pytest.approx(sum(pour.mix.parts["A"].g for pour in found.pours))
    ]


def test_what_is_weighed_already_is_not_asked_of_the_shelf_again() -> None:
    def low(left_g: float, weighed: tuple[WeighedPour, ...] = ()) -> list[float]:
        lots = (Lot(code="T-1", part="A", left_g=left_g, got_g=900), Lot(code="T-2", part="B", left_g=900, got_g=900))
        shelf = ShelfPicks(rubber=ADDITION, stock={key: Stocked(shelf="rubber:1", lots=lots) for key in "AB"})
        context = JobContext(shelf=shelf, weighed=weighed)
        found = plan(MASTER, BoxInputs(), RubberInputs(rubber_id=1), context, OpeningInputs(style="two-part"))
        told = (one for one in found.findings["rubber"] if one.code == "stock-low")
        return [one.facts["needed"].value for one in told]  # type: ignore[union-attr]

    first, second = made(MASTER, OpeningInputs(style="two-part")).pours
    second_a_g = second.mix.parts["A"].g
    both_a_g = first.mix.parts["A"].g + second_a_g
    (needed,) = low(second_a_g - 5)
    assert needed == pytest.approx(both_a_g)
    begun = WeighedPour(half="first", rubber=ADDITION.name, style="two-part", need_g=first.need_g)
    assert low(second_a_g - 5, (begun,)) == [pytest.approx(both_a_g)]  # nothing is in its cup yet
    half_in = replace(begun, taken_g=(("A", 20.0),))
    assert low(second_a_g - 5, (half_in,)) == [pytest.approx(both_a_g - 20)]
    done = replace(begun, is_finished=True)
    (needed,) = low(second_a_g - 5, (done,))
    assert needed == pytest.approx(second_a_g)
    assert low(second_a_g + 0.1, (done,)) == []
    # what the scale of 1 g can't show is no shortage
    assert low(second_a_g - 0.4, (done,)) == []


def test_every_cup_keeps_its_own_loss() -> None:
    small = RubberInputs(rubber_id=1, cup_ml=40.0, cling_g=3.0, spare_pct=0.0)
    pour = made(MASTER, OpeningInputs(style="open"), None, small).pours[0]
    assert len(pour.batches) > 3
    assert pour.mix.total_g == pytest.approx(pour.need_g + 3.0 * len(pour.batches))
    skin = made(MASTER, OpeningInputs(style="skin"), None, replace(small, coats=4.0)).pours[0]
    assert skin.mix.total_g == pytest.approx(skin.need_g + 3.0 * 4)


def test_a_blend_has_figures_of_its_own() -> None:
    quick = replace(ADDITION, pot_life_min=30.0, demould_min=240.0, full_cure_min=1000.0, kit_g=1000.0, kit_price=30.0)
    slow = replace(
        ADDITION, name="Slow", pot_life_min=60.0, demould_min=900.0, full_cure_min=2000.0, kit_g=500.0, kit_price=50.0
    )
    inputs = RubberInputs(rubber_id=1, blend_id=2, blend_pct=25.0, room_temp_c=23.0)
    found = made(MASTER, OpeningInputs(style="open"), None, inputs, rubber=quick, blend=slow)
    pour = found.pours[0]
    assert (pour.pot_life_min, pour.demould_min, pour.full_cure_min) == (30.0, 900.0, 2000.0)
    assert found.rubber is not None
    rubber_g = sum(part.g for part in pour.mix.parts.values())
    assert found.rubber.kits.cost == pytest.approx(rubber_g * (0.75 * 30 / 1000 + 0.25 * 50 / 500))
    assert [one.name for one in found.rubber.kits.packs] == [quick.name, "Slow"]


@given(st.floats(5, 95), st.floats(50, 2000))
def test_a_whole_kit_of_a_blend_uses_all_of_the_first_a(blend_pct: float, left_g: float) -> None:
    inputs = RubberInputs(rubber_id=1, blend_id=2, blend_pct=blend_pct, amount="kit", kit_left_a_g=left_g)
    second = replace(ADDITION, name="Second")
    for style in ("open", "two-part"):
        found = made(MASTER, OpeningInputs(style=style), None, inputs, blend=second)
        assert found.rubber is not None
        grams = {one.key: one.g for one in found.rubber.ingredients}
        assert grams["A"] == pytest.approx(left_g)
        assert grams["A2"] == pytest.approx(left_g * blend_pct / (100 - blend_pct))


def test_a_tins_own_limits_and_a_cups_own_marks_count() -> None:
    thinner = Additive(name="Ebb thinner", most_parts=10.0, pack_g=100.0, pack_price=8.0)
    inputs = RubberInputs(rubber_id=1, thinner_id=1, thinner_parts=12.0, basis="volume", cup_id=1, cup_mark_ml=5.0)
    tin = replace(ADDITION, volume_a=1.0, volume_b=1.0, sg_a=1.08, sg_b=1.08)
    cup = Cup(name="Marked beaker", bottom_mm=90, height_mm=200, mark_ml=50.0)
    found = made(MASTER, OpeningInputs(style="open"), None, inputs, rubber=tin, thinner=thinner, cup=cup)
    codes = [finding.code for finding in found.findings["rubber"]]
    assert "additive-beyond-tin" in codes
    assert found.pours[0].mark_ml == 50.0
    assert found.rubber is not None
    pack = next(one for one in found.rubber.kits.packs if not one.is_rubber)
    assert pack.cost == pytest.approx(found.pours[0].mix.thinner_g * 8 / 100)
    within = made(MASTER, OpeningInputs(style="open"), None, replace(inputs, thinner_parts=9.0), thinner=thinner)
    assert "additive-beyond-tin" not in [finding.code for finding in within.findings["rubber"]]


def test_the_shops_scale_and_room_count_until_a_job_differs() -> None:
    shop = ShopWays(scale_step_g=0.5, room_temp_c=13.0)
    plain = made(MASTER, OpeningInputs(style="open"), shop=shop)
    assert (plain.rubber_settled.scale_step_g, plain.rubber_settled.room_temp_c) == (0.5, 13.0)
    assert plain.pours[0].pot_life_min == pytest.approx(80)  # 40 min, twice as long 10 degC colder
    own = RubberInputs(rubber_id=1, scale_step_g=0.1, room_temp_c=23.0)
    differs = made(MASTER, OpeningInputs(style="open"), None, own, shop=shop)
    assert (differs.rubber_settled.scale_step_g, differs.pours[0].pot_life_min) == (0.1, 40.0)


def test_a_hopeless_scale_stops_and_a_settled_spare_stays() -> None:
    coarse = RubberInputs(rubber_id=1, scale_step_g=20.0)
    found = made(MASTER, OpeningInputs(style="open"), None, coarse)
    assert [stop.finding.code for stop in found.stops if stop.finding] == ["scale-too-coarse"]
    settled = RubberInputs(rubber_id=1, learnt_spare_pct=7.5, learnt_spare_on="2026-01-01", cling_g=0.0)
    for past in ((), (30.0,) * 50):
        pour = made(MASTER, OpeningInputs(style="open"), None, settled, past_over_pct=past).pours[0]
        assert pour.mix.total_g == pytest.approx(pour.need_g * 1.075)


def test_a_stop_is_known_by_its_code_and_facts() -> None:
    rubber = Rubber(name="Bosun 40", weight_a=100, weight_b=50, sg_mixed=1.0, tolerance_pct=1.0)
    one, same, other = (
        made(MASTER, OpeningInputs(style="open"), None, RubberInputs(rubber_id=1, scale_step_g=step), rubber=rubber)
        for step in (10.0, 10.0, 20.0)
    )
    assert one.stops[0].key == same.stops[0].key
    assert one.stops[0].key != other.stops[0].key


def test_each_kind_of_master_is_held_down() -> None:
    light = replace(MASTER, mass_g=10.0)
    context = JobContext(
        shelf=ShelfPicks(rubber=ADDITION),
        others=tuple(
            replace(made(light, OpeningInputs(style="open")).masters[0], name=name, mass_g=mass_g)
            for name, mass_g in (("Net float", 5.0), ("Anchor", 500.0))
        ),
    )
    found = plan(light, BoxInputs(), RubberInputs(rubber_id=1), context, OpeningInputs(style="open"))
    assert [(hold.name, round(hold.lift_g, 6)) for hold in found.hold_downs] == [
        ("", round(50 * 1.08 - 10, 6)),
        ("Net float", round(50 * 1.08 - 5, 6)),
    ]


def gang(*others: Master, count: float = 1.0) -> Plan:
    own = replace(MASTER, length_mm=40, width_mm=40, height_mm=20, level_after_ml=120.0)
    context = JobContext(shelf=ShelfPicks(rubber=ADDITION), others=others)
    box = BoxInputs(count=count)
    return plan(own, box, RubberInputs(rubber_id=1), context, OpeningInputs(style="open"))


def test_a_tall_kind_that_lifts_the_fill_for_all_is_told_with_what_two_boxes_save() -> None:
    tall = Master(length_mm=20, width_mm=20, height_mm=100, volume_ml=30, count=1, name="Bollard")
    found = gang(tall, count=9.0)
    assert found.box is not None
    told = next(finding for finding in found.findings["box"] if finding.code == "tall-in-gang")
    alone = gang(count=9.0).box
    assert alone is not None
    its_own_ml = 44 * 44 * 112 / 1000 - 30
    assert told.facts["saved"].value == pytest.approx(found.box.net_ml - alone.net_ml - its_own_ml)
    assert told.facts["name"] == "“Bollard”"
    low = replace(tall, height_mm=21, volume_ml=8)
    assert "tall-in-gang" not in [finding.code for finding in gang(low, count=9.0).findings["box"]]


@given(st.integers(2, 6), st.integers(1, 8), st.floats(15, 60), st.floats(15, 60))
def test_packing_never_chooses_a_long_strip_for_little(few: int, more: int, long: float, wide: float) -> None:
    other = Master(length_mm=long, width_mm=wide, height_mm=20, volume_ml=1, count=more, name="other")
    chosen = gang(other, count=float(few)).box
    assert chosen is not None
    length, width = chosen.layout.length_mm, chosen.layout.width_mm
    # a box that is so many times as long as wide must be worth it against any other that was tried
    price = 1 + 0.04 * (max(length, width) / min(length, width) - 1)
    own = replace(gang().masters[0], count=few)
    for layout in packed((own, other), 10.0):
        gross_ml = (layout.length_mm + 24) * (layout.width_mm + 24) * chosen.fill_mm / 1000
        ratio = max(layout.length_mm, layout.width_mm) / min(layout.length_mm, layout.width_mm)
        assert chosen.gross_ml * price <= gross_ml * (1 + 0.04 * (ratio - 1)) * (1 + 1e-9)


def test_a_slip_of_a_digit_is_noticed_and_nothing_is_refused() -> None:
    slipped = made(MASTER, OpeningInputs(style="open"), BoxInputs(side_mm=120.0))
    assert [finding.code for finding in slipped.findings["box"] if finding.field == "side_mm"] == ["unusual-input"]
    assert slipped.rubber is not None
    assert slipped.stops == ()
    for side_mm in (8.0, 12.0, 30.0):
        usual = made(MASTER, OpeningInputs(style="open"), BoxInputs(side_mm=side_mm))
        assert "unusual-input" not in [finding.code for finding in usual.findings["box"]]
    # a large master has wide sides
    large = replace(MASTER, length_mm=600, width_mm=500, height_mm=400, level_after_ml=90_000.0)
    wide = made(large, OpeningInputs(style="open"), BoxInputs(side_mm=120.0))
    assert "unusual-input" not in [finding.code for finding in wide.findings["box"]]


def test_no_default_is_unusual() -> None:
    for station, rules in RANGES.items():
        settled = INPUTS[station]().settled()
        for name, rule in rules.items():
            low, high = usual_range(rule, (60, 40, 35))
            value = getattr(settled, name)
            assert value in {None, 0} or low <= value <= high, (station, name)


def test_while_no_rubber_is_chosen_the_family_that_suits_the_cast_lends_its_figures() -> None:
    for cast, family in ((None, "addition-silicone"), ("polyurethane-resin", "addition-silicone")):
        found = plan(MASTER, BoxInputs(), RubberInputs(), JobContext(), checked=CheckInputs(cast_material=cast))
        assert found.assumed is not None
        assert found.assumed.family == family
        assert found.box_plan is not None
        assert found.box_plan.rubber_sg == typical_rubber(family).sg
        assert "typical-figures" in [finding.code for finding in found.findings["opening"]]
        assert found.rubber is None  # nothing is weighed by figures that are only typical
    assert made(MASTER, OpeningInputs()).assumed is None
    for cast in POURS:
        ranked = advised_families(cast)
        levels = [("ready", "warning", "stop").index(one.level) for one in ranked]
        assert levels == sorted(levels)
        assert {one.family for one in ranked} == set(FAMILIES)
