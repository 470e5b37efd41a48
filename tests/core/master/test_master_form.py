"""Masters with a form: what a box makes of them, cell by cell; outlines, attitudes, air; and every way to box them."""

from math import hypot, pi

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapes import CUBE, cup, egg, moved
from thoroughness import examples

from ufrin.core.box.box_comparison import attitude_figures, box_options
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.hold_down import hold_down
from ufrin.core.box.mould_box import box
from ufrin.core.box.wall_bow import PanelStock, bow_mm
from ufrin.core.master.attitudes import attitudes, stand, words_as_kept
from ufrin.core.master.master_form import Form, KnownForm, Master
from ufrin.core.master.stand_ins import block, cone, fitted, slab, turned
from ufrin.core.master.turned_profiles import direction_vector, parse_direction
from ufrin.core.mesh.line_work import outline, reduced, shadow
from ufrin.core.mesh.rays import columns, grid
from ufrin.core.mesh.sections import volume_below_ml
from ufrin.core.mesh.triangles import Mesh, joined
from ufrin.core.opening.undercuts import under_a_master
from ufrin.core.shelf.containers import Container, Pot
from ufrin.language import english, language, using

VASE = turned([(0, 40), (12, 44), (30, 18), (50, 34), (64, 10)])


def master(form: Form, count: int = 1, mass_g: float = 40.0) -> Master:
    length, width, height = form.size_mm
    return Master(
        length_mm=length,
        width_mm=width,
        height_mm=height,
        volume_ml=form.volume_ml,
        mass_g=mass_g,
        count=count,
        form=form,
    )


@examples(12)
@given(
    st.sampled_from(["rectangle", "round", "contour", "tray"]),
    st.floats(4, 20),
    st.floats(4, 20),
    st.sampled_from([1, 2]),
    st.floats(0, 20),
)
def test_net_rubber_against_cells_counted_another_way(
    shape: str, side: float, over: float, count: int, sunk: float
) -> None:
    form = Form(stand(VASE))
    bed = sunk if shape != "tray" else 0.0
    plan = BoxPlan(
        masters=(master(form, count),), shape=shape, side_mm=side, over_mm=over, bed_mm=bed, sunk_mm=bed, lip_mm=6.0
    )
    made = box(plan)
    assert made.net_ml + made.displaced_ml + made.bed_ml == pytest.approx(made.gross_ml)
    # the whole scene as a mesh, filled by rays along another axis
    places = [moved(form.mesh, place.x_mm, place.y_mm, made.foot_mm) for place in made.layout.places]
    solid = joined(places)
    inside = made.inside_polygon()
    low, cell, size = grid(joined([solid, block(*made.inside_mm, made.fill_mm)]), 90)
    xs, ys, zs = (low[axis] + (np.arange(size[axis]) + 0.5) * cell for axis in range(3))
    within = shapely.contains_xy(inside, *np.meshgrid(xs, ys, indexing="ij"))
    level = (zs > made.fill_mm - made.fill_mm + plan.bed_mm) & (zs < made.fill_mm)
    filled = columns(solid, axis=0, low_mm=low, cell_mm=cell, shape=size).filled()
    lip = np.zeros_like(filled)
    if shape == "tray":
        shadows = shapely.union_all(
            [shapely.transform(form.shadow, lambda xy, p=p: xy + [p.x_mm, p.y_mm]) for p in made.layout.places]
        )
        lip = shapely.contains_xy(shadows, *np.meshgrid(xs, ys, indexing="ij"))[:, :, None] & ((zs > 0) & (zs < 6.0))
    free = (within[:, :, None] & level & ~filled & ~lip).sum() * cell**3 / 1000
    assert free == pytest.approx(made.net_ml, rel=0.04)


@given(st.floats(0.05, 0.95), st.floats(0, 300), st.floats(0.8, 1.6))
def test_seating_deeper_never_lifts_more_and_the_seat_found_holds_it(share: float, mass: float, sg: float) -> None:
    one = master(Form(stand(VASE)), mass_g=max(mass, 0.1))
    plans = [BoxPlan(masters=(one,), bed_mm=70, sunk_mm=depth, rubber_sg=sg) for depth in (0.0, one.height_mm * share)]
    lifts = [box(plan).lift_g or 0 for plan in plans]
    assert lifts[0] >= lifts[1] >= 0
    held = hold_down(one, sg)
    assert (held is None) == (lifts[0] == 0)
    if held and held.seat_mm:
        assert box(
            BoxPlan(masters=(one,), bed_mm=70, sunk_mm=held.seat_mm + 0.02, rubber_sg=sg)
        ).lift_g == pytest.approx(0, abs=0.05)


def test_a_tapered_pot_is_checked_against_the_sections_not_the_cylinder() -> None:
    upside_down = Form(stand(cone(60, 20, 50), (0, 0, -1)))  # narrow below, as the pot is
    pot = Pot(bottom_mm=40, top_mm=100, height_mm=70)
    plan = BoxPlan(masters=(master(upside_down),), shape="tapered", pot=pot, side_mm=9.5, over_mm=8)
    assert box(plan).raise_to_clear_mm == 0
    drum = Master(length_mm=60, width_mm=60, height_mm=50, volume_ml=60, outline="round")
    assert box(BoxPlan(masters=(drum,), shape="tapered", pot=pot, side_mm=9.5, over_mm=8)).raise_to_clear_mm is None
    # the bed that lifts it clear leaves exactly the clearance asked for
    wanted = box(BoxPlan(masters=(master(upside_down),), shape="tapered", pot=pot, side_mm=12, over_mm=2))
    assert [finding.code for finding in wanted.findings if finding.level == "stop"] == ["too-tight"]
    again = box(
        BoxPlan(
            masters=(master(upside_down),),
            shape="tapered",
            pot=pot,
            side_mm=12,
            over_mm=2,
            bed_mm=wanted.raise_to_clear_mm or 0,
        )
    )
    assert again.tightest is not None
    assert again.tightest[0] == pytest.approx(12)
    assert again.bed_ml == pytest.approx(pot.holds_ml(wanted.raise_to_clear_mm or 0))


def test_a_strip_keeps_its_distance_and_joins_neighbours() -> None:
    made = box(
        BoxPlan(masters=(master(Form(stand(VASE)), 3),), shape="contour", side_mm=10, gap_mm=8, wall_thickness_mm=2)
    )
    outline_mm = made.inside_polygon()
    for place in made.layout.places:
        shape = shapely.transform(Form(stand(VASE)).shadow, lambda xy, place=place: xy + [place.x_mm, place.y_mm])
        assert outline_mm.exterior.distance(shape) >= 10 * (1 - 2e-3)
    assert made.panels[0].length_mm == pytest.approx(outline_mm.exterior.length + 2 * pi)
    least = box(BoxPlan(masters=(master(Form(stand(VASE)), 3),), side_mm=10, gap_mm=8)).net_ml
    assert made.net_ml < least


def test_masters_of_several_kinds_are_packed_apart() -> None:
    kinds = (
        Master(length_mm=80, width_mm=30, height_mm=20, volume_ml=40, count=2),
        Master(length_mm=25, width_mm=22, height_mm=30, volume_ml=9, count=5),
    )
    packed, loose = (box(BoxPlan(masters=kinds, gap_mm=10, pack=pack)) for pack in (True, False))
    assert packed.net_ml < loose.net_ml
    boxes = []
    for place in packed.layout.places:
        length, width = kinds[place.kind].length_mm, kinds[place.kind].width_mm
        length, width = (width, length) if place.turned else (length, width)
        boxes.append(
            shapely.box(
                place.x_mm - length / 2, place.y_mm - width / 2, place.x_mm + length / 2, place.y_mm + width / 2
            )
        )
    assert sorted(place.kind for place in packed.layout.places) == [0, 0, 1, 1, 1, 1, 1]
    inside = shapely.box(
        -packed.layout.length_mm / 2,
        -packed.layout.width_mm / 2,
        packed.layout.length_mm / 2,
        packed.layout.width_mm / 2,
    ).buffer(1e-6)
    assert all(inside.contains(one) for one in boxes)
    assert min(a.distance(b) for i, a in enumerate(boxes) for b in boxes[i + 1 :]) >= 10 - 1e-6


@pytest.mark.parametrize(
    ("mesh", "view", "area"),
    [
        (VASE, "plan", pi * 22**2),
        (CUBE, "front", 300),
        (CUBE, "side", 200),
        (cup(), "plan", pi * 400),
        (cup(), "front", 1600),
    ],
)
def test_shadows(mesh: object, view: str, area: float) -> None:
    assert shadow(mesh, view).area == pytest.approx(area, rel=2e-3)


def test_a_ring_throws_a_shadow_with_a_hole_and_inner_lines_are_those_one_sees() -> None:
    seen = outline(VASE, "front")
    assert len(seen.rings) == 1
    # the widest place, the neck and the shoulder are creases that run right across
    spans = sorted(round(max(x for x, _ in line) - min(x for x, _ in line)) for line in seen.lines)
    assert spans == [18, 34, 44]
    assert outline(cup(), "front").lines == ()  # its hollow is hidden
    assert len(outline(stand(cup(), (0, 0, -1)), "plan").lines) == 1  # and is seen from above


def test_thinning_out_keeps_the_form() -> None:
    fine = fitted(60, 44, 50, 60)
    thin = reduced(fine, 1500)
    assert len(thin.faces) < 1700
    assert thin.volume_mm3 == pytest.approx(fine.volume_mm3, rel=0.02)


def test_a_block_rests_on_six_sides_and_a_turned_master_does_not_rest_on_its_tip() -> None:
    assert [way.stable for way in attitudes(block(10, 20, 30))] == [True] * 6
    ways = attitudes(turned([(0, 40), (10, 40), (60, 0)]))
    assert {way.words: way.stable for way in ways if way.words in {"as drawn", "upside down"}} == {
        "as drawn": True,
        "upside down": False,
    }
    lying = [way for way in ways if "flat" in way.words]
    assert len(lying) == 1  # of its many like flats one is enough
    assert lying[0].stable


@pytest.mark.parametrize("mesh", [turned([(0, 40), (10, 40), (60, 0)]), VASE, cup(), egg()])
def test_every_way_to_stand_can_be_typed_and_kept(mesh: Mesh) -> None:
    for way in attitudes(mesh):
        assert parse_direction(way.kept) == way.kept
        assert direction_vector(way.kept) == pytest.approx(way.up, abs=1e-4)
        with using(language("de")):
            assert str(words_as_kept(english(way.words))) == str(way.words) != way.words


def test_air_under_a_cup_is_all_that_is_in_it() -> None:
    hollow_ml = pi * 15**2 * 36 / 1000
    upside_down, upright = under_a_master(stand(cup())), under_a_master(stand(cup(), (0, 0, -1)))
    assert upside_down.trapped_ml == pytest.approx(hollow_ml, rel=0.03)
    assert upside_down.overhang_ml == pytest.approx(hollow_ml, rel=0.04)
    assert (upright.trapped_ml, upright.overhang_ml) == (0, pytest.approx(0, abs=0.3))
    assert under_a_master(stand(egg())).trapped_ml == 0


def test_all_ways_are_told_with_what_is_wrong_and_the_best_first() -> None:
    mesh = stand(VASE)
    stoods = [attitude_figures(mesh, mesh, way, mesh.volume_mm3 / 1000) for way in attitudes(mesh)]
    shelf = {
        1: Container(name="tin", length_mm=70, width_mm=69, height_mm=80),
        2: Container(name="cup", shape="tapered", bottom_mm=30, top_mm=50, height_mm=40),
    }
    ways = box_options(BoxPlan(masters=(master(Form(mesh)),), rubber_sg=1.1), stoods, shelf, 0.03)
    assert len(ways) == len(stoods) * 5
    fitting = [way for way in ways if way.fits]
    assert [way.net_ml for way in fitting] == sorted(way.net_ml for way in fitting)
    assert all(way.cost == pytest.approx(way.net_ml * 0.03) for way in fitting)
    assert {way.name for way in ways if not way.fits} == {"cup", "tin"}
    assert any(way.name == "tin" and way.fits for way in ways)
    # what was kept of a form gives the same table without its mesh, and at twice the size eight times the volume
    known = KnownForm(stoods[0].form.to_plain(), 2.0)
    assert known.volume_ml == pytest.approx(8 * mesh.volume_mm3 / 1000)
    assert known.circle[0] == pytest.approx(2 * Form(mesh).circle[0], rel=1e-3)


@pytest.mark.parametrize("aspect", [0.7, 1.0, 2.0, 3.0])
def test_a_wall_with_a_free_top_against_finite_differences(aspect: float) -> None:
    high, nu, sheet = 100.0, 0.3, PanelStock(thickness_mm=4, youngs_modulus_gpa=3, poisson_ratio=0.3)
    got = bow_mm(length_mm=aspect * high, height_mm=high, foot_kpa=1.2, top_kpa=0, sheet=sheet, top_is_held=False)
    assert got == pytest.approx(_by_finite_differences(aspect * high, high, 1.2e-3, sheet.stiffness_nmm, nu), rel=0.02)


def _by_finite_differences(length: float, high: float, foot_mpa: float, stiffness: float, nu: float) -> float:
    # sines along the wall (exact for simply held sides), finite differences up it; nodes -1 to n + 2
    n, total = 400, np.zeros(401)
    h = high / n
    second, fourth = np.array([0, 1, -2, 1, 0]) / h**2, np.array([1, -4, 6, -4, 1]) / h**4
    for m in range(1, 20, 2):
        k = m * pi / length
        a, load = np.zeros((n + 4, n + 4)), np.zeros(n + 4)
        for i in range(1, n + 1):
            a[i, i - 1 : i + 4] = fourth - 2 * k**2 * second + k**4 * np.array([0, 0, 1, 0, 0])
            load[i] = 4 / (m * pi) * foot_mpa * (1 - i / n) / stiffness
        a[0, 1] = 1  # held foot: w = 0, and free to turn: w'' = 0
        a[n + 1, [0, 1, 2]] = 1, -2, 1
        a[n + 2, n - 1 : n + 4] = second - nu * k**2 * np.array([0, 0, 1, 0, 0])  # free top: no moment,
        a[n + 3, n - 1 : n + 4] = np.array([-1, 2, 0, -2, 1]) / (2 * h**3) - (2 - nu) * k**2 * np.array(
            [0, -1, 0, 1, 0]
        ) / (2 * h)  # and no force
        total += np.sin(m * pi / 2) * np.linalg.solve(a, load)[1 : n + 2]
    return float(np.abs(total).max())


@given(st.floats(20, 200), st.floats(20, 200), st.floats(4, 30), st.floats(0.02, 0.9))
def test_a_slab_with_relief_has_the_volume_it_was_given(length: float, width: float, base: float, share: float) -> None:
    rise = 12.0
    relief = length * width * rise / 1000 * share
    made = slab(length, width, base + rise, base, relief)
    assert made.volume_mm3 / 1000 == pytest.approx(length * width * base / 1000 + relief, rel=1e-6)
    assert made.extents_mm[2] == pytest.approx(base + rise)


def test_a_container_that_stands_the_right_way_round() -> None:
    tin = Container(name="tin", length_mm=60, width_mm=100, height_mm=60)
    one = Master(length_mm=70, width_mm=30, height_mm=30, volume_ml=50)
    made = box(BoxPlan(masters=(one,), container=tin, side_mm=12))
    assert (made.length_mm, made.width_mm, made.fits) == (100, 60, True)
    assert made.tightest == (15, 0)
    assert volume_below_ml(CUBE, 5) == pytest.approx(3)
    assert hypot(*made.inside_mm) > 0
