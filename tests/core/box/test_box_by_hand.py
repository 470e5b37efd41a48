"""Boxes by hand: each figure with its sum beside it, the way a maker would check it on paper."""

from dataclasses import replace
from math import ceil, hypot, pi

import numpy as np
import pytest
import shapely

from ufrin.core.box.bed import bed_volume_ml, plaster_for
from ufrin.core.box.box_comparison import AttitudeFigures, are_alike, box_options
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.cut_list import check_sheet, cut_list, panels
from ufrin.core.box.filler import filler_room_ml
from ufrin.core.box.hold_down import hold_down, lift_gf
from ufrin.core.box.jacket import jacket
from ufrin.core.box.layouts import Place, grids, placed_outline, with_true_circle
from ufrin.core.box.mould_box import box
from ufrin.core.box.packing import packed
from ufrin.core.box.printed_box import printable_box
from ufrin.core.box.wall_bow import PanelStock, bow_mm, wall_bow, wall_load
from ufrin.core.master.master_form import Form, Master
from ufrin.core.master.stand_ins import block
from ufrin.core.mesh.sections import section
from ufrin.core.opening.undercuts import UnderAMaster
from ufrin.core.shelf.containers import Container, Pot
from ufrin.errors import Refused

LETTER = Master(name="Letter", length_mm=60, width_mm=40, height_mm=20, volume_ml=30, mass_g=25)
BOARD = PanelStock(thickness_mm=6, youngs_modulus_gpa=3, poisson_ratio=0.3)


def codes(plan: BoxPlan) -> list[str]:
    return [finding.code for finding in box(plan).findings]


# --- fill line, volumes, bed


def test_every_height_of_a_box_with_a_bed() -> None:
    made = box(
        BoxPlan(
            masters=(LETTER,), side_mm=10, over_mm=12, under_mm=3, bed_mm=8, sunk_mm=5, freeboard_mm=9, rubber_sg=1.1
        )
    )
    # 8 of bed + 3 of rubber under - 5 sunk = 6; + 20 + 12 = 38; + 9 = 47
    assert (made.foot_mm, made.fill_mm, made.rim_mm) == (6, 38, 47)
    assert made.gross_ml == pytest.approx(80 * 60 * 38 / 1000)
    # a quarter of the letter lies in the bed
    assert made.bed_ml == pytest.approx(80 * 60 * 8 / 1000 - 30 / 4)
    assert made.net_ml == pytest.approx(182.4 - 30 - 30.9)
    # what is above the bed lifts: 22.5 ml of 1.1 against 25 g
    assert made.lift_g == 0
    # 30 mm of 1.1 over the bed, in kPa
    assert made.wall_kpa == pytest.approx(1.1 * 9.80665 * 30 / 1000)


def test_the_lift_is_less_for_what_is_seated() -> None:
    light = replace(LETTER, mass_g=10)
    free, seated = (box(BoxPlan(masters=(light,), rubber_sg=1.2, bed_mm=bed, sunk_mm=bed)).lift_g for bed in (0.0, 5.0))
    assert (free, seated) == (pytest.approx(1.2 * 30 - 10), pytest.approx(1.2 * 22.5 - 10))
    assert lift_gf(displaced_ml=30, mass_g=25, sg=1.2) == pytest.approx(11)
    # 17 g at 5 mm of seat; nothing where 1.2 x what is above weighs 10 g: 8.33 ml, so 14.44 mm deep
    held = hold_down(light, 1.2, sunk_mm=5)
    assert held is not None
    assert held.lift_g == held.weight_g == pytest.approx(17)
    assert held.seat_mm == pytest.approx(20 * (1 - 10 / 36), abs=0.02)
    # tape holds 50, hot glue 200 and a screw 5000 g (common practice), each for a third more than the pull
    assert held.tape_cm2 == pytest.approx(17 * 4 / 3 / 50)
    assert held.glue_cm2 == pytest.approx(17 * 4 / 3 / 200)
    assert held.screws == 1
    assert held.name == "Letter"


@pytest.mark.parametrize(("pull_g", "screws"), [(3000, 1), (3700, 1), (3800, 2), (7400, 2), (7600, 3)])
def test_a_screw_holds_five_kilograms_less_a_quarter(pull_g: float, screws: int) -> None:
    raft = Master(length_mm=400, width_mm=200, height_mm=100, volume_ml=8000, mass_g=8000 * 1.2 - pull_g)
    held = hold_down(raft, 1.2)
    assert held is not None
    assert held.screws == screws == ceil(pull_g * 4 / 3 / 5000)


def test_what_weighs_next_to_nothing_cannot_be_seated() -> None:
    held = hold_down(replace(LETTER, mass_g=1.7), 1.2)
    assert held is not None
    assert held.seat_mm is None  # a twentieth of it stays above the bed, and 1.5 ml of 1.2 lift 1.8 g
    nearly = hold_down(replace(LETTER, mass_g=1.9), 1.2)
    assert nearly is not None
    assert nearly.seat_mm == pytest.approx(20 * (1 - 1.9 / 36), abs=0.02)
    assert hold_down(replace(LETTER, mass_g=36.0), 1.2) is None


def test_plaster_for_a_litre() -> None:
    # 933 g of powder of 2.63 are 355 ml, and 653 g of water the rest; 0.7 parts of water (common practice)
    plaster_g, water_g = plaster_for(1000)
    assert (plaster_g, water_g) == (pytest.approx(925.4, abs=1), pytest.approx(647.8, abs=1))
    assert plaster_g / 2.63 + water_g == pytest.approx(1000)


def test_masters_that_fill_their_bed_are_refused() -> None:
    wide = replace(LETTER, volume_ml=47)
    tin = Container(name="Tin", length_mm=60, width_mm=40, height_mm=60)
    plan = BoxPlan(masters=(wide,), container=tin, bed_mm=10, sunk_mm=10)
    assert bed_volume_ml(plan, 23.5) == pytest.approx(0)
    with pytest.raises(Refused, match="more than the whole bed") as refused:
        bed_volume_ml(plan, 23)
    assert refused.value.field == "sunk_mm"
    assert bed_volume_ml(replace(plan, bed_mm=0, sunk_mm=0), 99) == 0


def test_an_unknown_displacement_counts_as_nothing_and_is_told() -> None:
    unknown = Master(length_mm=60, width_mm=40, height_mm=20, volume_ml=None)
    plan = BoxPlan(masters=(unknown,), rubber_sg=1.1)
    made = box(plan)
    assert made.net_ml == made.gross_ml == pytest.approx(84 * 64 * 32 / 1000)
    assert made.lift_g is None
    assert "no-displacement" in codes(plan)
    heavy = replace(LETTER, mass_g=None)
    assert "weight-unknown" in codes(BoxPlan(masters=(heavy,), rubber_sg=1.1))
    assert box(BoxPlan(masters=(heavy,), rubber_sg=1.1)).lift_g is None
    assert codes(BoxPlan(masters=(heavy,))) == []
    assert box(BoxPlan(masters=(LETTER,))).lift_g is None
    assert box(BoxPlan(masters=(LETTER,))).wall_kpa is None


@pytest.mark.parametrize(
    ("changed", "found"),
    [
        ({"over_mm": 6.0}, []),
        ({"over_mm": 5.9}, ["thin-cover"]),
        ({"side_mm": 5.0}, []),
        ({"side_mm": 4.9}, ["thin-side"]),
    ],
)
def test_thin_rubber_is_told(changed: dict[str, float], found: list[str]) -> None:
    assert codes(BoxPlan(masters=(LETTER,), **changed)) == found


@pytest.mark.parametrize(
    ("changed", "field"),
    [
        ({"masters": ()}, "masters"),
        ({"masters": (replace(LETTER, count=400), LETTER)}, "masters"),
        ({"over_mm": -0.1}, "over_mm"),
        ({"under_mm": 10_001.0}, "under_mm"),
        ({"gap_mm": -1.0}, "gap_mm"),
        ({"bed_mm": -1.0}, "bed_mm"),
        ({"freeboard_mm": -1.0}, "freeboard_mm"),
        ({"lip_mm": -1.0}, "lip_mm"),
        ({"sunk_mm": 2.0, "bed_mm": 1.0}, "sunk_mm"),
        ({"sunk_mm": 20.0, "bed_mm": 20.0}, "sunk_mm"),
        ({"pot": Pot(bottom_mm=90, top_mm=90, height_mm=90)}, "pot"),
        ({"rubber_sg": 23.0}, "rubber_sg"),
        ({"wall_thickness_mm": 0.0}, "wall.thickness_mm"),
        ({"wall_thickness_mm": 1001.0}, "wall.thickness_mm"),
        ({"filler_ml": -1.0}, "filler_ml"),
    ],
)
def test_a_plan_that_cannot_be(changed: dict[str, object], field: str) -> None:
    with pytest.raises(Refused, match=r"[.\]]$") as refused:
        BoxPlan(**{"masters": (LETTER,), **changed})
    assert refused.value.field == field


# --- containers


def test_how_near_the_rim_is_told() -> None:
    tin = Container(name="Tin", length_mm=100, width_mm=80, height_mm=50)
    for over, found in ((20.0, []), (25.0, ["low-freeboard"]), (30.0, ["low-freeboard"]), (31.0, ["overflows"])):
        assert codes(BoxPlan(masters=(LETTER,), container=tin, over_mm=over)) == found
    left = box(BoxPlan(masters=(LETTER,), container=tin, over_mm=25.0)).findings[0]
    assert (left.facts["left"].value, left.field) == (5, "freeboard_mm")
    over = box(BoxPlan(masters=(LETTER,), container=tin, over_mm=33.0)).findings[0]
    assert (over.facts["fill"].value, over.facts["height"].value, over.field) == (53, 50, "over_mm")


def test_a_master_is_turned_in_a_container_to_leave_the_most_room() -> None:
    tin = Container(name="Tin", length_mm=70, width_mm=100, height_mm=60)
    made = box(BoxPlan(masters=(LETTER,), container=tin, side_mm=12))
    # 60 in 100 and 40 in 70: 20 and 15 mm beside it; the other way round 5 and 30
    assert made.tightest == (15, 0)
    assert (made.length_mm, made.width_mm) == (100, 70)
    pipe = Container(name="Pipe", shape="round", bottom_mm=100, height_mm=60)
    across = hypot(60, 40)
    made = box(BoxPlan(masters=(LETTER,), container=pipe, under_mm=4))
    assert made.tightest == (pytest.approx((100 - across) / 2), 4)
    (tight,) = (one for one in box(BoxPlan(masters=(LETTER,), container=pipe, side_mm=15)).findings)
    assert (tight.code, tight.field) == ("too-tight", "side_mm")
    assert tight.facts["clearance"].value == pytest.approx((100 - across) / 2)
    assert tight.facts["cure"] == "Take a wider one, or less side clearance."
    narrow = Container(name="Cup", shape="round", bottom_mm=70, height_mm=60)
    assert box(BoxPlan(masters=(LETTER,), container=narrow)).findings[0].facts["clearance"] == "no room"


def test_a_pot_that_narrows_upwards_is_tightest_at_the_top_of_the_master() -> None:
    pot = Pot(bottom_mm=120, top_mm=90, height_mm=60)
    made = box(BoxPlan(masters=(LETTER,), shape="tapered", pot=pot, side_mm=5, over_mm=10))
    # 20 mm up it is 110 across, and the letter 72.1
    assert made.tightest == (pytest.approx((110 - hypot(60, 40)) / 2), 20)
    assert made.raise_to_clear_mm == 0
    assert made.diameter_mm == pytest.approx(105)
    # above its middle of 105, 30 mm of it hold the frustum's volume
    assert made.gross_ml == pytest.approx(pi * 30 * (120**2 + 120 * 105 + 105**2) / 12_000)


def test_the_shapes_of_containers() -> None:
    tapered = Pot(bottom_mm=80, top_mm=100, height_mm=50)
    assert (tapered.diameter_mm(0), tapered.diameter_mm(25), tapered.diameter_mm(50)) == (80, 90, 100)
    assert tapered.holds_ml(0) == 0
    cone = Pot(bottom_mm=100, top_mm=50, height_mm=50)
    with pytest.raises(Refused, match="closes below the fill line"):
        cone.holds_ml(101)
    reach = np.array([[0.0, 30.0], [10.0, 35.0]])
    # 10 mm higher and 5 wider: 2 mm more room from the taper, 5 less from the master
    assert tapered.tightest(5, reach) == (pytest.approx(43 - 35), 15)
    # clear of 12 mm at the top of the master: 94 across, which the pot has 35 mm up; its foot stands at 25
    assert tapered.clear_foot_mm(12, reach) == pytest.approx(25)
    assert tapered.clear_foot_mm(20, reach) is None
    assert tapered.clear_foot_mm(1, reach) == 0
    assert Pot(bottom_mm=100, top_mm=90, height_mm=50).clear_foot_mm(12, reach) == 0
    assert Pot(bottom_mm=90, top_mm=90, height_mm=50).clear_foot_mm(12, reach) is None
    with pytest.raises(Refused, match="more than nothing"):
        Pot(bottom_mm=80, top_mm=0, height_mm=50)


# --- layouts


def test_a_grid_is_numbered_row_by_row_from_the_far_left() -> None:
    five = replace(LETTER, count=5)
    (made,) = grids((five,), 10, 2, 3)
    assert (made.rows, made.columns, made.length_mm, made.width_mm) == (2, 3, 3 * 60 + 2 * 10, 2 * 40 + 10)
    assert [(place.x_mm, place.y_mm) for place in made.places] == [(-70, 25), (0, 25), (70, 25), (-70, -25), (0, -25)]
    assert made.circle_mm == pytest.approx(hypot(200, 90))
    assert [(one.rows, one.columns) for one in grids((five,), 10, None, None)] == [
        (5, 1),
        (3, 2),
        (2, 3),
        (2, 4),
        (1, 5),
    ]
    assert [(one.rows, one.columns) for one in grids((five,), 10, 2, None)] == [(2, 3)]
    assert [(one.rows, one.columns) for one in grids((five,), 10, None, 2)] == [(3, 2)]
    with pytest.raises(Refused, match="2 rows of 2 hold 4 masters, and there are 5"):
        grids((five,), 10, 2, 2)


def test_round_masters_lie_in_a_smaller_circle_than_their_squares() -> None:
    coin = Master(length_mm=30, width_mm=30, height_mm=3, volume_ml=2, count=4, outline="round")
    (made,) = grids((coin,), 10, 2, 2)
    assert made.circle_mm == pytest.approx(hypot(40, 40) + 30)
    assert grids((replace(coin, outline="rectangle"),), 10, 2, 2)[0].circle_mm == pytest.approx(hypot(70, 70))
    true = with_true_circle((coin,), made)
    assert true.circle_mm == pytest.approx(hypot(40, 40) + 30, rel=2e-3)
    assert true.circle_at_mm == (pytest.approx(0, abs=1e-6), pytest.approx(0, abs=1e-6))


def test_a_master_stands_in_plan_where_its_place_says() -> None:
    turned = placed_outline(LETTER, Place(kind=0, x_mm=100, y_mm=-50, turned=True))
    assert turned.bounds == pytest.approx((80, -80, 120, -20))
    assert placed_outline(LETTER, Place(kind=0, x_mm=100, y_mm=-50)).bounds == pytest.approx((70, -70, 130, -30))


def test_packed_masters_keep_their_gap_and_stand_round_the_middle() -> None:
    kinds = (replace(LETTER, count=3), Master(length_mm=20, width_mm=90, height_mm=10, volume_ml=5, count=2))
    found = packed(kinds, 7)
    assert found
    for made in found:
        outlines = [placed_outline(kinds[place.kind], place) for place in made.places]
        assert sorted(place.kind for place in made.places) == [0, 0, 0, 1, 1]
        together = shapely.union_all(outlines)
        left, low, right, high = together.bounds
        assert (right - left, high - low) == (pytest.approx(made.length_mm), pytest.approx(made.width_mm))
        assert (left + right, low + high) == (pytest.approx(0, abs=1e-6), pytest.approx(0, abs=1e-6))
        assert made.circle_mm == pytest.approx(hypot(made.length_mm, made.width_mm))
        assert (made.rows, made.columns) == (1, 5)
        for index, one in enumerate(outlines):
            assert all(one.distance(other) >= 7 - 0.11 for other in outlines[:index])
        assert [-round(place.y_mm, 1) for place in made.places] == sorted(-round(p.y_mm, 1) for p in made.places)
    assert len({round(made.length_mm) for made in found}) > 2  # wide and narrow ones to choose from


def test_packing_beats_the_grid_where_kinds_differ() -> None:
    kinds = (LETTER, Master(length_mm=10, width_mm=120, height_mm=20, volume_ml=20, mass_g=20))
    plan = BoxPlan(masters=kinds)
    grid, close = box(plan), box(replace(plan, pack=True))
    assert close.net_ml < grid.net_ml
    # 60 + 10 + 10 by 120, or less where both lie along
    assert close.gross_ml <= (80 + 24) * (120 + 24) * 32 / 1000 + 1e-6
    # asked for a row of two, they stand on a grid whether they were to be packed or not
    assert box(replace(plan, pack=True, rows=1, columns=2)).gross_ml == box(replace(plan, rows=1)).gross_ml


# --- filler


def test_room_for_filler_is_what_the_clearance_leaves() -> None:
    tin = Container(name="Tin", length_mm=160, width_mm=120, height_mm=80)
    plan = BoxPlan(masters=(LETTER,), container=tin, side_mm=10, over_mm=12, filler_ml=1)
    made = box(plan)
    # 160 x 120 x 32 less the rounded block of 80 x 60 at the same height
    near = (60 * 40 + 2 * 10 * 100 + pi * 100) * 32 / 1000
    room = 160 * 120 * 32 / 1000 - near
    assert filler_room_ml(plan, made.layout, made.fill_mm, 160 * 120 * 32 / 1000) == pytest.approx(room, rel=1e-3)
    for filler, found in ((room - 1, []), (room + 1, ["filler-too-much"])):
        assert codes(replace(plan, filler_ml=filler)) == found
    (told,) = box(replace(plan, filler_ml=room + 1)).findings
    assert told.facts["filler"].value == room + 1
    assert told.facts["room"].value == pytest.approx(room, rel=1e-3)
    assert told.field == "filler_ml"
    assert box(replace(plan, filler_ml=100)).net_ml == pytest.approx(160 * 120 * 32 / 1000 - 30 - 100)


def test_a_bed_takes_room_from_the_filler() -> None:
    tin = Container(name="Tin", length_mm=160, width_mm=120, height_mm=80)
    plan = BoxPlan(masters=(LETTER,), container=tin, side_mm=10, over_mm=12, bed_mm=10, sunk_mm=5)
    # fill line at 10 - 5 + 20 + 12 = 37, so 27 mm over the bed; a quarter of the letter is in it
    near = (60 * 40 + 2 * 10 * 100 + pi * 100) * 27 / 1000
    room = 160 * 120 * 27 / 1000 - near
    assert codes(replace(plan, filler_ml=room * 0.99)) == []
    assert codes(replace(plan, filler_ml=room * 1.01)) == ["filler-too-much"]


def test_a_box_built_to_its_clearance_has_room_for_filler_in_its_corners_alone() -> None:
    plan = BoxPlan(masters=(LETTER,), side_mm=10, over_mm=12)
    corners = (4 - pi) * 100 * 32 / 1000
    assert codes(replace(plan, filler_ml=corners * 0.98)) == []
    assert codes(replace(plan, filler_ml=corners * 1.02)) == ["filler-too-much"]


# --- tray


def test_a_tray_of_several_has_a_lip_under_each() -> None:
    coin = Master(length_mm=30, width_mm=30, height_mm=3, volume_ml=2, mass_g=1, count=4, outline="round")
    made = box(BoxPlan(masters=(coin,), shape="tray", side_mm=8, over_mm=6, gap_mm=5, lip_mm=4, rows=2, columns=2))
    assert (made.fill_mm, made.rim_mm, made.foot_mm) == (13, 13, 4)
    # four lips of 30 mm across and 4 mm high: the round outline is drawn with straight pieces
    assert made.displaced_ml == pytest.approx(4 * (2 + pi * 15**2 * 4 / 1000), rel=2e-3)
    assert made.gross_ml == pytest.approx(81 * 81 * 13 / 1000)
    plain = box(BoxPlan(masters=(coin,), side_mm=8, over_mm=6, gap_mm=5, lip_mm=4, rows=2, columns=2))
    assert (plain.displaced_ml, plain.foot_mm) == (8, 0)


# --- jacket


def test_a_plaster_jacket_by_hand() -> None:
    # a block of 100 x 60 x 50, coated all over but underneath, with a skin of 5 mm
    made = jacket(size_mm=(100, 60, 50), coated_cm2=220, skin_mm=5)
    side_and_top = (100 * 60 + 2 * 50 * 160) / 100
    grown = (110 * 70 + 2 * 55 * 180) / 100
    assert made.area_cm2 == pytest.approx(220 * grown / side_and_top)
    # up one side, over the narrow way, and down: 2 x 55 + 70
    assert made.seam_mm == 180
    # 15 mm thick, and two flanges of 25 mm along the seam
    assert made.volume_ml == pytest.approx((made.area_cm2 * 100 + 2 * 180 * 25) * 15 / 1000)
    assert made.bolts == 4
    assert made.parts_g["water"] == pytest.approx(0.7 * made.parts_g["plaster"])
    assert made.parts_g["plaster"] / 2.63 + made.parts_g["water"] == pytest.approx(made.volume_ml)
    assert made.mass_g == pytest.approx(sum(made.parts_g.values()))
    assert (made.material, made.thickness_mm, made.flange_mm, made.halves) == ("plaster", 15, 25, 2)


def test_a_resin_jacket_is_thinner_and_a_long_seam_takes_more_bolts() -> None:
    made = jacket(size_mm=(100, 400, 300), coated_cm2=3000, skin_mm=6, material="resin")
    assert made.thickness_mm == 4
    assert made.seam_mm == 2 * 306 + 112
    assert made.bolts == 8  # one every 100 mm of 724
    assert made.parts_g["glass mat"] == pytest.approx(made.volume_ml * 1.2 * 0.3)
    assert made.parts_g["resin, mixed"] == pytest.approx(made.volume_ml * 1.2 * 0.7)
    assert jacket(size_mm=(100, 400, 300), coated_cm2=3000, skin_mm=6, thickness_mm=8).volume_ml == pytest.approx(
        2 * made.volume_ml
    )
    for changed, field in (
        ({"material": "wood"}, "jacket_material"),
        ({"thickness_mm": 0.9}, "jacket_mm"),
        ({"thickness_mm": 201.0}, "jacket_mm"),
    ):
        with pytest.raises(Refused, match=r"\.$") as refused:
            jacket(size_mm=(100, 60, 50), coated_cm2=220, skin_mm=5, **changed)
        assert refused.value.field == field
    for limit in (1, 200):
        assert jacket(size_mm=(100, 60, 50), coated_cm2=220, skin_mm=5, thickness_mm=limit).thickness_mm == limit


# --- walls


def test_the_load_on_a_wall_by_hand() -> None:
    # 100 mm of 1.2: 1.177 kPa at the foot, half of it on average, over 0.03 m2
    load = wall_load(depth_mm=100, wall_length_mm=300, sg=1.2)
    assert load.base_kpa == pytest.approx(1.1768, abs=1e-4)
    assert load.mean_kpa == pytest.approx(0.5884, abs=1e-4)
    assert load.force_n == pytest.approx(17.652, abs=1e-3)
    assert load.force_height_mm == pytest.approx(33.333, abs=1e-3)
    for asked, field in (({"depth_mm": -1}, "depth_mm"), ({"sg": 0}, "rubber_sg")):
        with pytest.raises(Refused, match="nothing") as refused:
            wall_load(**{"depth_mm": 100, "wall_length_mm": 300, "sg": 1.2, **asked})
        assert refused.value.field == field


def test_a_wide_wall_bows_like_a_beam_on_its_corners() -> None:
    """A wall much longer than high whose top is free: a strip along the top spans from corner to corner.

    Where it is far higher than long, each strip is a plate on two edges: w = 5 q a^4 / (384 D).
    """
    stiffness = 3000 * 6**3 / (12 * (1 - 0.09))
    assert BOARD.stiffness_nmm == pytest.approx(stiffness)
    high = bow_mm(length_mm=50, height_mm=1000, foot_kpa=10, top_kpa=10, sheet=BOARD, top_is_held=True)
    assert high == pytest.approx(5 * 0.010 * 50**4 / (384 * stiffness), rel=1e-3)


def test_the_limit_of_a_bow_and_the_brace_that_cures_it() -> None:
    def walled(length: float, side: float, sheet: PanelStock = BOARD) -> tuple[float, float, float | None]:
        made = wall_bow(length_mm=length, depth_mm=100, sg=1.2, sheet=sheet, side_mm=side)
        return made.bow_mm, made.limit_mm, made.brace_mm

    assert walled(300, 10)[1] == 0.5  # a twentieth of the side clearance
    assert walled(300, 40)[1] == 1.0  # and never more than 1 mm
    assert walled(300, 0)[1] == 1.0
    bow, limit, brace = walled(600, 10)
    assert bow > limit
    assert brace is not None
    spans = 600 / brace
    assert spans == pytest.approx(round(spans))
    assert walled(brace, 10)[0] <= limit < walled(600 / (spans - 1), 10)[0]
    assert walled(100, 10)[2] is None
    made = wall_bow(length_mm=600, depth_mm=100, sg=1.2, sheet=BOARD, side_mm=10)
    (told,) = made.findings()
    assert (told.code, told.field) == ("wall-bows", "wall_thickness_mm")
    assert [told.facts[name].value for name in ("length", "bow", "limit", "brace")] == [600, bow, 0.5, brace]
    assert wall_bow(length_mm=100, depth_mm=100, sg=1.2, sheet=BOARD, side_mm=10).findings() == ()
    paper = PanelStock(thickness_mm=0.3, youngs_modulus_gpa=1)
    assert walled(6000, 10, paper)[2] == 100  # no brace is closer than a sixtieth


@pytest.mark.parametrize(
    "wrong",
    [
        {"thickness_mm": 0},
        {"thickness_mm": 1001},
        {"youngs_modulus_gpa": 0},
        {"youngs_modulus_gpa": 1001},
        {"poisson_ratio": -0.1},
        {"poisson_ratio": 0.5},
    ],
)
def test_a_sheet_without_stiffness_is_refused(wrong: dict[str, float]) -> None:
    with pytest.raises(Refused, match="a thickness and a stiffness") as refused:
        PanelStock(**{"thickness_mm": 6, "youngs_modulus_gpa": 3, **wrong})
    assert refused.value.field == "wall_thickness_mm"


# --- panels and cut list


def walls(*, pinwheel: bool = False, width: float = 80) -> list[tuple[str, float, float, int]]:
    found = panels(
        length_mm=width, width_mm=120, diameter_mm=None, around_mm=None, rim_mm=50, thickness_mm=6, pinwheel=pinwheel
    )
    return [(one.name, one.length_mm, one.height_mm, one.count) for one in found]


def test_two_ways_to_butt_a_box_together() -> None:
    assert walls() == [("long side", 132, 50, 2), ("short side", 80, 50, 2)]
    assert walls(pinwheel=True) == [("long side", 126, 50, 2), ("short side", 86, 50, 2)]


def test_a_cut_list_by_hand() -> None:
    sides = panels(
        length_mm=120, width_mm=80, diameter_mm=None, around_mm=None, rim_mm=50, thickness_mm=6, pinwheel=False
    )
    cut = cut_list(sides, outside_mm=(120, 80), around_mm=400, thickness_mm=6, sheet_mm=(600, 400), kerf_mm=3)
    # the board stands out 25 mm beyond walls of 6
    assert cut.board is not None
    assert (cut.board.name, cut.board.length_mm, cut.board.height_mm, cut.board.count) == ("board", 182, 142, 1)
    assert cut.seam_mm == 4 * 50 + 400
    assert (cut.sheets, cut.left_out, len(cut.pieces)) == (1, (), 5)
    assert sorted(piece.name for piece in cut.pieces) == ["board", *["long side"] * 2, *["short side"] * 2]
    assert cut.sheet_mm == (600, 400)
    small = cut_list(sides, outside_mm=(120, 80), around_mm=400, thickness_mm=6, sheet_mm=(140, 56), kerf_mm=3)
    assert small.left_out == ("board",)
    assert small.sheets == 4
    nothing = cut_list((), outside_mm=(10, 10), around_mm=40, thickness_mm=6, sheet_mm=(140, 140), kerf_mm=0)
    assert nothing.seam_mm == 40
    for edge in ((10_000, 10_000), (0.1, 0.1)):
        check_sheet(edge, 50)
    check_sheet((10, 10), 0)
    for wrong, kerf, field in (
        ((0, 1), 0, "sheet_length_mm"),
        ((1, 10_001), 0, "sheet_length_mm"),
        ((1, 1), 51, "kerf_mm"),
    ):
        with pytest.raises(Refused, match=r"\.$") as refused:
            check_sheet(wrong, kerf)
        assert refused.value.field == field


def test_a_printed_box_has_the_walls_that_were_asked_for() -> None:
    made = printable_box(shapely.box(-40, -30, 40, 30), rim_mm=40, thickness_mm=3, pour_mm=18)
    left, near, right, far = section(made.walls, 30).bounds
    assert (right - left, far - near) == (pytest.approx(86, abs=0.1), pytest.approx(66, abs=0.1))
    low, high = made.walls.bounds_mm
    assert high[2] - low[2] == pytest.approx(40, abs=0.1)


# --- comparison


def figures(size: tuple[float, float, float], *, overhang: float = 0.0, trapped: float = 0.0) -> AttitudeFigures:
    form = Form(block(*size), volume_ml=size[0] * size[1] * size[2] / 1000)
    under = UnderAMaster(overhang_ml=overhang, trapped_ml=trapped, cell_mm=1.0)
    return AttitudeFigures(attitude=None, form=form, under=under)


def test_attitudes_that_differ_by_a_percent_are_alike() -> None:
    one = figures((60, 40, 20))
    assert are_alike(one, figures((60.5, 40, 20)))
    assert are_alike(one, figures((40, 60, 20)))
    assert not are_alike(one, figures((61, 40, 20)))
    assert not are_alike(one, figures((60, 40, 20.5)))
    # 2 % of 48 ml are 0.96
    assert are_alike(one, figures((60, 40, 20), overhang=0.95, trapped=0.95))
    assert not are_alike(one, figures((60, 40, 20), overhang=1.0))
    assert not are_alike(one, figures((60, 40, 20), trapped=1.0))
    assert not are_alike(one, AttitudeFigures(attitude=None, form=None))


def test_ways_to_box_are_ordered_by_fit_and_by_rubber() -> None:
    shelf = {
        1: Container(name="Tin", length_mm=100, width_mm=80, height_mm=60),
        2: Container(name="Crate", length_mm=300, width_mm=200, height_mm=100),
        3: Container(name="Lid", length_mm=300, width_mm=200, height_mm=10),
        4: Container(name="Pot", shape="tapered", bottom_mm=92, top_mm=112, height_mm=80),
        5: Container(name="Thimble", shape="tapered", bottom_mm=20, top_mm=1, height_mm=10),
    }
    now = AttitudeFigures(attitude=None, form=None)
    plan = BoxPlan(masters=(LETTER,), side_mm=10, over_mm=12, bed_mm=0)
    found = box_options(plan, [now], shelf, 0.05)
    fitting = [way for way in found if way.fits]
    assert [way.net_ml for way in fitting] == sorted(way.net_ml for way in fitting)
    assert [way.fits for way in found] == sorted((way.fits for way in found), reverse=True)
    by_name = {way.name or way.shape: way for way in found}
    assert by_name["rectangle"].net_ml == pytest.approx(80 * 60 * 32 / 1000 - 30)
    assert by_name["Tin"].net_ml == pytest.approx(100 * 80 * 32 / 1000 - 30)
    assert by_name["Tin"].cost == pytest.approx((256 - 30) * 0.05)
    assert by_name["Tin"].container == 1
    assert (by_name["Lid"].fits, by_name["Crate"].fits) == (False, True)
    assert by_name["Lid"].why_not
    # the letter is 72.1 across: 92.1 with its clearance, which the pot has 0.44 mm up
    assert by_name["Pot"].bed_mm == pytest.approx((hypot(60, 40) + 20 - 92) / 20 * 80, abs=1e-6)
    assert by_name["Pot"].fits
    assert by_name["Thimble"].why_not.endswith(".")
    assert (by_name["Thimble"].net_ml, by_name["Thimble"].cost, by_name["Thimble"].container) == (0, None, 5)
    assert {way.cost for way in box_options(plan, [now], {}, None)} == {None}


def test_an_attitude_gives_the_first_master_its_size_and_takes_it_out_of_its_seat() -> None:
    lying = AttitudeFigures(attitude=None, form=Form(block(20, 40, 60), volume_ml=48))
    plan = BoxPlan(masters=(LETTER,), side_mm=10, over_mm=12, bed_mm=5, sunk_mm=2)
    options = {way.shape: way for way in box_options(plan, [lying], {}, None)}
    # 5 mm of bed; without an attitude of its own it stays seated 2 mm deep
    assert options["rectangle"].fill_mm == pytest.approx(5 - 2 + 60 + 12)
