"""Boxes compared, printed and drawn: what each way to box a master says of itself, its findings included."""

from dataclasses import replace
from math import hypot, pi

import numpy as np
import pytest
import shapely

from ufrin.core.box.box_comparison import AttitudeFigures, attitude_figures, box_options
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.hold_down import hold_down
from ufrin.core.box.layouts import Layout, Place
from ufrin.core.box.mould_box import box
from ufrin.core.box.packing import packed
from ufrin.core.box.printed_box import printable_box
from ufrin.core.box.wall_bow import PanelStock, WallBow, wall_bow
from ufrin.core.master.attitudes import Attitude
from ufrin.core.master.master_form import Form, Master
from ufrin.core.master.stand_ins import block, cone
from ufrin.core.mesh.sections import section
from ufrin.core.shelf.containers import Container, Pot
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused

LETTER = Master(name="Letter", length_mm=60, width_mm=40, height_mm=20, volume_ml=30, mass_g=25)
BELL = Form(cone(60, 10, 40))


# --- what a finding says


def test_a_box_that_is_too_tight_names_its_figures() -> None:
    tin = Container(name="Tin", length_mm=76, width_mm=90, height_mm=60)
    (told,) = box(BoxPlan(masters=(LETTER,), container=tin, side_mm=20, size_pm_mm=0.5)).findings
    assert (told.code, told.field, dict(told.facts)) == (
        "too-tight",
        "side_mm",
        {
            "clearance": Amount(15, "length"),
            "side": Amount(20, "length"),
            "height": Amount(0, "length"),
            "cure": "Take a wider one, or less side clearance.",
        },
    )
    (hardly,) = box(BoxPlan(masters=(LETTER,), container=tin, side_mm=15.5, size_pm_mm=0.5)).findings
    assert (hardly.code, hardly.field) == ("tight-hardly", "side_mm")
    assert dict(hardly.facts) == {
        "clearance": Amount(15, "length"),
        "side": Amount(15.5, "length"),
        "height": Amount(0, "length"),
    }
    # a master that just touches has no clearance, but goes in
    touching = Container(name="Tin", length_mm=60, width_mm=40, height_mm=60)
    (none,) = box(BoxPlan(masters=(LETTER,), container=touching)).findings
    assert none.facts["clearance"] == Amount(0, "length")
    assert (
        box(BoxPlan(masters=(LETTER,), container=replace(tin, length_mm=80, width_mm=100), side_mm=20)).findings == ()
    )


def test_what_a_bed_does_in_a_pot_counts_what_lies_under_and_what_is_sunk() -> None:
    across = hypot(60, 40)

    def cure(pot: Pot, **more: float) -> tuple[str, str]:
        made = box(BoxPlan(masters=(LETTER,), shape="tapered", pot=pot, side_mm=10, over_mm=12, **more))
        told = next(one for one in made.findings if one.code == "too-tight")
        return str(told.facts["cure"]), told.field

    # it needs 92.1 mm, which a pot of 80 to 110 mm over 120 has 48.4 mm up
    up = (across + 20 - 80) / 30 * 120
    assert cure(Pot(bottom_mm=80, top_mm=110, height_mm=120)) == (
        f"A bed of [{up:.1f} length] lifts the master clear; or take a wider pot.",
        "bed_mm",
    )
    assert cure(Pot(bottom_mm=80, top_mm=110, height_mm=120), under_mm=5)[0].startswith(
        f"A bed of [{up - 5:.1f} length]"
    )
    sunk = cure(Pot(bottom_mm=80, top_mm=110, height_mm=120), bed_mm=4, sunk_mm=4)[0]
    assert sunk.startswith(f"A bed of [{up:.1f} length]")  # what is sunk in it has no rubber beside it
    # lifted clear, the fill line stands higher than the rim by the sum of all heights
    low = cure(Pot(bottom_mm=80, top_mm=100, height_mm=75))
    assert low[0].startswith(f"A bed of [{(across + 20 - 80) / 20 * 75:.1f} length] would lift the master clear")
    over = (across + 20 - 80) / 20 * 75 + 20 + 12 - 75
    assert f"[{over:.1f} length] over the rim: take a higher or a wider pot." in low[0]
    straight = cure(Pot(bottom_mm=86, top_mm=86, height_mm=90), under_mm=2)
    assert straight == (
        "No bed helps: lifted as high as the rim allows, the master is still "
        f"[{10 - (86 - across) / 2:.1f} length] short of the side clearance. Take a wider pot.",
        "side_mm",
    )
    assert cure(Pot(bottom_mm=80, top_mm=80, height_mm=30), under_mm=3)[0] == (
        "No bed helps: even without one the pot is [5.0 length] too low. Take a larger one."
    )


def test_a_form_in_a_pot_is_as_wide_as_it_is_at_each_height() -> None:
    # a bell of 60 mm at its foot and 10 mm at 40 mm: the wall is nearest at the foot
    bell = Master(length_mm=60, width_mm=60, height_mm=40, volume_ml=40, form=BELL)
    pot = Pot(bottom_mm=80, top_mm=80, height_mm=100)
    made = box(BoxPlan(masters=(bell,), shape="tapered", pot=pot, side_mm=5))
    assert made.tightest == (pytest.approx(10, abs=0.1), pytest.approx(0, abs=1.0))
    narrowing = Pot(bottom_mm=80, top_mm=40, height_mm=100)
    # it loses 0.4 mm a side for each 2 mm of height, and the bell 1.25: still the foot
    assert box(BoxPlan(masters=(bell,), shape="tapered", pot=narrowing, side_mm=5)).tightest[0] == pytest.approx(
        10, abs=0.1
    )
    # two of them count as upright drums round both
    two = box(
        BoxPlan(masters=(replace(bell, count=2),), shape="tapered", pot=replace(narrowing, bottom_mm=200), gap_mm=10)
    )
    assert two.tightest is not None
    assert two.tightest[1] == 40


def test_a_bow_that_is_told_has_its_figures() -> None:
    sheet = PanelStock(thickness_mm=4, youngs_modulus_gpa=3)
    made = wall_bow(length_mm=700, depth_mm=120, sg=1.1, sheet=sheet, side_mm=12)
    (told,) = made.findings()
    assert dict(told.facts) == {
        "length": Amount(700, "length", 0),
        "bow": Amount(made.bow_mm, "length"),
        "limit": Amount(pytest.approx(0.6), "length"),
        "brace": Amount(made.brace_mm, "length", 0),
    }
    stiff = wall_bow(length_mm=100, depth_mm=50, sg=1.1, sheet=sheet, side_mm=0.5)
    assert stiff == WallBow(length_mm=100, bow_mm=stiff.bow_mm, limit_mm=0.025, brace_mm=None)
    paper = PanelStock(thickness_mm=0.3, youngs_modulus_gpa=1)
    hopeless = wall_bow(length_mm=6000, depth_mm=100, sg=1.2, sheet=paper, side_mm=10)
    assert (hopeless.length_mm, hopeless.limit_mm, hopeless.brace_mm) == (6000, 0.5, 100)
    assert hopeless.bow_mm > 10


# --- printed


def frustum(high: float, low_r: float, high_r: float) -> float:
    # a cylinder of 32 sides is 0.64 % smaller than a round one
    return pi * high / 3 * (low_r**2 + low_r * high_r + high_r**2) * 0.99359


@pytest.mark.parametrize("pour_mm", [0.0, 0.5, 18.0])
def test_a_printed_box_has_the_volume_of_its_parts(pour_mm: float) -> None:
    inside = shapely.box(-40, -30, 60, 30)
    made = printable_box(inside, rim_mm=45, thickness_mm=3, pour_mm=pour_mm)
    outer, foot = inside.buffer(3, quad_segs=24), inside.buffer(12, quad_segs=24)
    holes = 3 * frustum(2.4 + 0.25, 2.5 + 0.25, 2.0 + 0.25)
    plain = (outer.area - inside.area) * 45 + (foot.area - outer.area) * 3 - holes
    # the notch goes through one wall, half of its 12 mm in it
    assert made.walls.volume_mm3 == pytest.approx(plain - pour_mm * 3 * 6, rel=2e-3)
    assert made.board.volume_mm3 == pytest.approx(foot.area * 3 + 3 * frustum(2.4, 2.5, 2.0), rel=1e-4)
    (low, high), (board_low, board_high) = made.walls.bounds_mm, made.board.bounds_mm
    assert (low[2], high[2]) == (0, 45)
    assert (board_low[2], board_high[2]) == (-3, pytest.approx(2.4))
    assert list(low[:2]) == [pytest.approx(-52), pytest.approx(-42)]
    assert list(board_high[:2]) == [pytest.approx(72), pytest.approx(42)]


def test_the_notch_of_a_printed_box_is_in_the_middle_of_the_front_wall() -> None:
    inside = shapely.box(-40, -30, 60, 30)
    made = printable_box(inside, rim_mm=45, thickness_mm=3, pour_mm=18)
    top = section(made.walls, 42)
    assert top.area == pytest.approx(inside.buffer(3, quad_segs=24).area - inside.area - 18 * 3, rel=1e-3)
    assert not top.intersects(shapely.box(1.5, -35, 18.5, -29))
    assert top.intersects(shapely.box(-10, -35, 0.5, -29))
    assert section(made.walls, 38.5).intersects(shapely.box(5, -35, 15, -29))
    # a low box has a notch of a third of its height, half of which is in the wall
    low = printable_box(inside, rim_mm=12, thickness_mm=3, pour_mm=18)
    assert section(low.walls, 9.5).intersects(shapely.box(5, -35, 15, -29))
    assert not section(low.walls, 10.5).intersects(shapely.box(5, -35, 15, -29))


def test_the_keys_of_a_printed_box_stand_on_its_foot_outside_the_walls() -> None:
    inside = shapely.box(-40, -30, 60, 30)
    made = printable_box(inside, rim_mm=45, thickness_mm=3, pour_mm=0)
    keys = list(section(made.board, 1.0).geoms)
    assert len(keys) == 3
    for key in keys:
        middle = shapely.centroid(key)
        # half way out on the flange of 12 mm
        assert middle.distance(inside) == pytest.approx(3 + 4.5, abs=0.05)
        assert key.area == pytest.approx(pi * (2.5 - 0.5 / 2.4) ** 2, rel=0.02)
    for limit in ({"thickness_mm": 0.8}, {"thickness_mm": 50.0}, {"rim_mm": 5.0}, {"rim_mm": 2000.0}):
        assert printable_box(inside, **{"rim_mm": 45, "thickness_mm": 3, "pour_mm": 0, **limit}).walls.volume_mm3 > 0
    for wrong, field in (
        ({"thickness_mm": 0.79}, "wall_thickness_mm"),
        ({"thickness_mm": 50.1}, "wall_thickness_mm"),
        ({"rim_mm": 4.9}, "freeboard_mm"),
        ({"rim_mm": 2001.0}, "freeboard_mm"),
    ):
        with pytest.raises(Refused, match="between") as refused:
            printable_box(inside, **{"rim_mm": 45, "thickness_mm": 3, "pour_mm": 0, **wrong})
        assert refused.value.field == field


# --- compared


def test_the_figures_of_an_attitude() -> None:
    mesh = block(60, 40, 20)
    lying = Attitude(up=(1.0, 0.0, 0.0), **_rest(Attitude, {"up"}))
    made = attitude_figures(mesh, mesh, lying, 30.0)
    assert made.attitude == lying
    assert made.form is not None
    # it stands on its end: 60 mm high, 40 by 20 in plan
    assert sorted(made.form.size_mm[:2]) == [pytest.approx(20), pytest.approx(40)]
    assert made.form.size_mm[2] == pytest.approx(60)
    assert made.form.volume_ml == 30
    assert made.under is not None
    assert made.under.overhang_ml == pytest.approx(0, abs=0.1)


def _rest(kind: type, known: set[str]) -> dict[str, object]:
    return {name: 0.0 for name in kind.__dataclass_fields__ if name not in known}


def test_an_option_carries_what_it_was_worked_out_from() -> None:
    now = AttitudeFigures(attitude=None, form=None)
    lying = AttitudeFigures(attitude=Attitude(up=(1.0, 0, 0), **_rest(Attitude, {"up"})), form=Form(block(20, 40, 60)))
    crate = Container(name="Crate", length_mm=300, width_mm=200, height_mm=100)
    ring = replace(LETTER, name="Ring", length_mm=30, width_mm=30, volume_ml=10, count=2)
    plan = BoxPlan(
        masters=(replace(LETTER, outline="round", length_mm=60, width_mm=60), ring),
        shape="tapered",
        pot=Pot(bottom_mm=300, top_mm=300, height_mm=300),
        side_mm=10,
        over_mm=12,
        bed_mm=6,
        sunk_mm=3,
    )
    found = box_options(plan, [now, lying], {4: crate}, 0.1)
    assert len(found) == 8
    assert {(way.shape, way.name, way.container) for way in found} == {
        ("rectangle", "", None),
        ("round", "", None),
        ("contour", "", None),
        ("rectangle", "Crate", 4),
    }
    for way in found:
        # in its own attitude a master is not seated in the bed that was made for another
        own = way.figures is now
        assert way.figures in (now, lying)
        assert way.fill_mm == pytest.approx(6 - 3 + 20 + 12 if own else 6 + 60 + 12)
        assert (way.bed_mm, way.why_not) == (6, "")
        assert way.cost == pytest.approx(way.net_ml * 0.1)
        assert way.bed_ml > 0
    # a form is boxed by its own outline: 40 x 20 and two of 30 x 30
    narrow = min(way.net_ml for way in found if way.figures is lying and way.shape == "rectangle" and not way.name)
    assert narrow < min(way.net_ml for way in found if way.figures is now and way.shape == "rectangle") * 2.5


def test_only_the_first_reason_is_told_why_a_container_does_not_do() -> None:
    tiny = Container(name="Lid", length_mm=70, width_mm=50, height_mm=10)
    now = AttitudeFigures(attitude=None, form=None)
    (way,) = (one for one in box_options(BoxPlan(masters=(LETTER,)), [now], {9: tiny}, 0.1) if one.name)
    assert not way.fits
    assert way.why_not.count(".") >= 1
    alone = [one.text() for one in box(BoxPlan(masters=(LETTER,), container=tiny)).findings if one.level == "stop"]
    assert len(alone) == 2
    assert way.why_not == alone[0]
    closes = Container(name="Thimble", shape="tapered", bottom_mm=60, top_mm=1, height_mm=10)
    (refused,) = (one for one in box_options(BoxPlan(masters=(LETTER,)), [now], {3: closes}, 0.1) if one.name)
    assert (refused.figures, refused.shape, refused.name) == (now, "tapered", "Thimble")
    assert (refused.fill_mm, refused.bed_mm, refused.bed_ml, refused.cost) == (0, 0, 0, None)


# --- the inside in plan


def test_the_inside_of_each_shape_in_plan() -> None:
    rectangle = box(BoxPlan(masters=(LETTER,), side_mm=10))
    assert rectangle.inside_mm == (80, 60)
    assert rectangle.inside_polygon().bounds == (-40, -30, 40, 30)
    round_box = box(BoxPlan(masters=(LETTER,), shape="round", side_mm=10))
    across = hypot(60, 40) + 20
    assert round_box.inside_mm == (pytest.approx(across), pytest.approx(across))
    assert round_box.inside_polygon().area == pytest.approx(pi * across**2 / 4, rel=1e-3)
    bent = box(BoxPlan(masters=(LETTER,), shape="contour", side_mm=10, gap_mm=4, wall_thickness_mm=2))
    assert bent.inside_mm == (pytest.approx(80, abs=0.05), pytest.approx(60, abs=0.05))
    assert bent.inside_polygon().area == pytest.approx(60 * 40 + 2 * 10 * 100 + pi * 100, rel=2e-3)
    assert bent.panels[0].length_mm == pytest.approx(200 + 2 * pi * 10 + 2 * pi, rel=2e-3)
    assert (rectangle.rows, rectangle.columns, rectangle.panels) == (1, 1, ())
    assert rectangle.tightest is None


def test_a_strip_needs_its_masters_close_together() -> None:
    two = replace(LETTER, count=2)
    near = box(BoxPlan(masters=(two,), shape="contour", side_mm=8, gap_mm=10, rows=1, columns=2))
    # one strip round both: no longer than the rounded rectangle round them, and not much shorter
    whole = 2 * (130 + 40) + 2 * pi * 8
    assert near.outline is not None
    assert whole * 0.9 < near.outline.exterior.length <= whole * 1.001
    tight = box(BoxPlan(masters=(two,), shape="contour", side_mm=0, gap_mm=0, rows=1, columns=2))
    assert tight.gross_ml == pytest.approx(120 * 40 * 32 / 1000, rel=1e-3)
    apart = BoxPlan(masters=(two,), shape="contour", side_mm=0.0, gap_mm=300.0, rows=1, columns=2)
    with pytest.raises(Refused, match="too far apart for one strip") as refused:
        box(apart)
    assert refused.value.field == "gap_mm"


def test_many_masters_are_followed_by_a_simpler_strip_of_the_same_size() -> None:
    many = Master(length_mm=20, width_mm=20, height_mm=10, volume_ml=3, count=16, outline="round")
    made = box(BoxPlan(masters=(many,), shape="contour", side_mm=6, gap_mm=6, rows=4, columns=4))
    assert made.outline is not None
    assert made.inside_mm == (pytest.approx(4 * 20 + 3 * 6 + 12, abs=0.3), pytest.approx(110, abs=0.3))


def test_a_layout_is_told_by_rows_and_columns() -> None:
    layout = Layout(rows=2, columns=3, length_mm=1, width_mm=1, circle_mm=1, places=(Place(kind=0, x_mm=0, y_mm=0),))
    made = replace(box(BoxPlan(masters=(LETTER,))), layout=layout)
    assert (made.rows, made.columns) == (2, 3)
    assert np.isclose(made.net_ml, 84 * 64 * 32 / 1000 - 30)


def test_of_packed_layouts_the_one_that_is_cheapest_with_its_length_is_chosen() -> None:
    """A box twice as long as wide must save 4 % of its rubber to be chosen before a square one (our own figure)."""
    kinds = (
        replace(LETTER, count=3),
        Master(length_mm=25, width_mm=90, height_mm=20, volume_ml=20, mass_g=20, count=2),
    )
    chosen = box(BoxPlan(masters=kinds, pack=True, side_mm=9, gap_mm=6)).layout

    def price(layout: Layout) -> float:
        long, short = sorted((layout.length_mm, layout.width_mm), reverse=True)
        return (long + 18) * (short + 18) * (1 + 0.04 * (long / short - 1))

    found = packed(kinds, 6)
    assert price(chosen) == pytest.approx(min(price(one) for one in found))
    assert len({round(price(one)) for one in found}) > 2
    round_box = box(BoxPlan(masters=kinds, pack=True, shape="round", side_mm=9, gap_mm=6))
    # round a packed gang the smallest circle is that of the true outlines: no wider than the rectangle's
    assert round_box.diameter_mm is not None
    assert round_box.diameter_mm < min(one.circle_mm for one in found) + 18


def test_a_light_pull_is_told_and_a_seat_found_for_it() -> None:
    nearly = replace(LETTER, mass_g=35.5)
    held = hold_down(nearly, 1.2)
    assert held is not None
    assert held.lift_g == pytest.approx(0.5)
    assert held.seat_mm == pytest.approx(20 * 0.5 / 36, abs=0.02)


def test_limits_of_a_plan_are_accepted() -> None:
    for changed in (
        {"over_mm": 10_000.0, "side_mm": 0.0},
        {"rubber_sg": 0.1},
        {"rubber_sg": 22.6},
        {"wall_thickness_mm": 1000.0},
        {"filler_ml": 1e7},
        {"bed_mm": 5.0, "sunk_mm": 5.0},
        {"masters": (replace(LETTER, count=400),)},
    ):
        assert BoxPlan(**{"masters": (LETTER,), **changed})
