"""How a mould opens, by hand: kinds of mould and their scores, the checklist, keys, steep seams, slits and stretch."""

from dataclasses import replace
from math import atan, degrees, hypot, pi

import numpy as np
import pytest
import shapely
from shapes import ball, torus

from ufrin.core.master.master_form import Form, Master
from ufrin.core.master.stand_ins import block, cone, turned
from ufrin.core.opening.feature_checklist import FeatureChecklist, checklist_figures, places_of_air
from ufrin.core.opening.keys import Key, check_keys, flange, key_size_mm, other_ways, place_keys
from ufrin.core.opening.mould_features import MasterFeatures, coated_cm2, features_of_shape, judged_features
from ufrin.core.opening.mould_styles import CONDITIONS, STYLES, advise
from ufrin.core.opening.parting_surface import PartingSurface, box_round, parting_surface
from ufrin.core.opening.point_lists import plan_points, points_text, space_points, tipped
from ufrin.core.opening.slit import Slit, slit_side
from ufrin.core.opening.stretch import allowed_stretch, stretch
from ufrin.core.opening.tilt import best_tilt
from ufrin.core.wording.findings import Amount

PLAIN = MasterFeatures(
    flat_back=True,
    stretch=0.2,
    allowed=0.6,
    locked_share=0.0,
    best_locked_share=0.0,
    hole_through=False,
    thin_part=False,
    height_to_width=1.0,
    size_mm=(60.0, 40.0, 30.0),
    volume_ml=300.0,
    coated_cm2=100.0,
    skin_mm=5.0,
)


# --- kinds of mould


@pytest.mark.parametrize(
    ("condition", "holds", "does_not"),
    [
        ("flat_back", {}, {"flat_back": False}),
        ("no_flat_back", {"flat_back": False}, {}),
        ("passes", {"stretch": 0.6}, {"stretch": 0.61}),
        ("passes", {"stretch": 1.0, "allowed": None}, {"stretch": 1.01, "allowed": None}),
        ("too_tight", {"stretch": 0.61}, {"stretch": 0.6}),
        ("much_locked", {"locked_share": 0.081}, {"locked_share": 0.08}),
        ("much_locked", {"hole_through": True}, {}),
        ("little_locked", {"locked_share": 0.08}, {"locked_share": 0.004}),
        ("little_locked", {"locked_share": 0.0041}, {"locked_share": 0.081}),
        ("locked", {"locked_share": 0.0041}, {"locked_share": 0.004}),
        ("best_pull_free", {"best_locked_share": 0.004}, {"best_locked_share": 0.0041}),
        ("best_pull_locked", {"best_locked_share": 0.081}, {"best_locked_share": 0.08}),
        ("parts_freely", {"flat_back": False, "best_locked_share": 0.004}, {}),
        ("parts_freely", {"flat_back": False}, {"flat_back": False, "best_locked_share": 0.0041}),
        ("hole_through", {"hole_through": True}, {}),
        ("thin_part", {"thin_part": True}, {}),
        ("tall", {"height_to_width": 2.51}, {"height_to_width": 2.5}),
        ("tall_and_not_small", {"height_to_width": 3.0}, {"height_to_width": 3.0, "volume_ml": 200.0}),
        ("several", {"count": 2}, {}),
        ("large", {"volume_ml": 1500.1}, {"volume_ml": 1500.0}),
        ("small", {"volume_ml": 199.9}, {"volume_ml": 200.0}),
        ("low_relief", {"size_mm": (60.0, 40.0, 19.9)}, {"size_mm": (60.0, 40.0, 20.0)}),
        ("no_low_relief", {"size_mm": (60.0, 40.0, 20.0)}, {"size_mm": (60.0, 40.0, 19.9)}),
        ("no_low_relief", {"flat_back": False, "size_mm": (60.0, 40.0, 5.0)}, {"size_mm": (60.0, 40.0, 5.0)}),
        ("too_large_to_press", {"size_mm": (60.0, 40.0, 40.1)}, {"volume_ml": 150.0}),
        ("too_large_to_press", {"volume_ml": 150.1}, {"size_mm": (60.0, 40.0, 40.0), "volume_ml": 150.0}),
        ("putty", {"is_putty": True}, {"is_putty": False}),
        ("liquid", {"is_putty": False}, {"is_putty": None}),
        ("many_shots", {"shots": 26}, {"shots": 25}),
        ("many_shots", {"shots": 26}, {"shots": None}),
    ],
)
def test_what_speaks_for_and_against_a_kind_holds_where_it_should(
    condition: str, holds: dict[str, object], does_not: dict[str, object]
) -> None:
    assert CONDITIONS[condition](replace(PLAIN, **holds))
    assert not CONDITIONS[condition](replace(PLAIN, **does_not))


def test_the_rubber_of_each_kind_by_hand() -> None:
    of = replace(PLAIN, side_mm=10.0, over_mm=12.0)
    # never less than none
    assert {one.style: one.rubber_ml for one in advise(replace(of, volume_ml=300.0))}["open"] == 0
    small = replace(of, volume_ml=40.0)
    found = {one.style: one.rubber_ml for one in advise(small)}
    assert set(found) == set(STYLES)
    for style in ("open", "slit", "tray"):
        assert found[style] == pytest.approx(80 * 60 * 42 / 1000 - 40)
    assert found["two-part"] == pytest.approx(80 * 60 * 54 / 1000 - 40)
    # a squeeze mould has a flange of 20 mm and 8 mm of rubber; a pad 12 mm beside and 10 over; a skin 5 mm
    assert found["squeeze"] == pytest.approx(100 * 80 * 46 / 1000 - 40)
    assert found["press"] == pytest.approx(84 * 64 * 40 / 1000 - 40)
    assert found["skin"] == pytest.approx(100 * 5 / 10)


def test_scores_add_up_and_the_best_comes_first() -> None:
    for of in (PLAIN, replace(PLAIN, flat_back=False, hole_through=True, count=3), replace(PLAIN, is_putty=True)):
        advice = advise(of)
        assert [one.score for one in advice] == sorted((one.score for one in advice), reverse=True)
        for one in advice:
            assert one.score == pytest.approx(sum(score for _, score in one.scored))
            told = {words for words, _ in one.scored}
            assert set(one.reasons) | set(one.against) >= told - {
                "This kind of mould by itself.",
                "Many casts are wanted of it.",
            }
            assert one.suits == (one.score >= 0)


def test_an_open_block_is_scored_by_its_rules() -> None:
    (made,) = (one for one in advise(replace(PLAIN, volume_ml=40.0)) if one.style == "open")
    # 1 by itself, 2 for the flat, 1 as it passes
    assert made.score == pytest.approx(4.0)
    assert made.reasons == (
        "It stands on a flat: that face needs no rubber, and the cast is poured in there.",
        "It leaves the mould with a stretch of 20 %; the rubber gives 60 %.",
    )
    assert made.against == ()
    (tight,) = (one for one in advise(replace(PLAIN, volume_ml=40.0, stretch=1.2, allowed=None)) if one.style == "open")
    assert tight.score == pytest.approx(1 + 2 - 3)
    assert tight.against == (
        "It would have to stretch 120 %; the rubber gives about 100 %, as soft rubbers do. A slit helps.",
    )
    (slit,) = (one for one in advise(replace(PLAIN, height_to_width=3.04)) if one.style == "slit")
    assert any("It is 3.0 times as high as wide" in reason for reason in slit.reasons)


def test_less_than_six_tenths_of_a_blocks_rubber_is_a_saving() -> None:
    block_ml = (60 + 24) * (40 + 24) * (30 + 12) / 1000 - 40
    for share, saves in ((0.59, True), (0.61, False)):
        skin = replace(PLAIN, volume_ml=40.0, coated_cm2=share * block_ml / 0.5)
        (made,) = (one for one in advise(skin) if one.style == "skin")
        said = [reason for reason in made.reasons if reason.startswith("It takes [")]
        assert bool(said) == saves
        if saves:
            assert said == [
                f"It takes [{share * block_ml:.0f} volume] of rubber where a block takes [{block_ml:.0f} volume]."
            ]
            assert (said[0], 0.6) in made.scored


# --- what is known of a master without a shape, and with one


@pytest.mark.parametrize(
    ("ticked", "stretches", "locked", "best_locked", "ratio"),
    [
        ((), 0.15, 0, 0, 0),
        (("flat_back",), 0.15, 0, 0, 0),
        (("chin",), 0.6, 0.02, 0, 0),
        (("hook",), 1.5, 0.15, 0.15, 0),
        (("chin", "hook"), 1.5, 0.15, 0.15, 0),
        (("hole_through",), 0.15, 0.15, 0, 0),
        (("tall_part",), 0.15, 0, 0, 3),
    ],
)
def test_the_checklist_takes_the_worst_that_is_ticked(
    ticked: tuple[str, ...], stretches: float, locked: float, best_locked: float, ratio: float
) -> None:
    checklist = FeatureChecklist(**dict.fromkeys(ticked, True))
    assert (
        checklist.stretch,
        checklist.locked_share,
        checklist.best_locked_share,
        checklist.least_height_to_width,
    ) == (stretches, locked, best_locked, ratio)


def test_the_checklist_says_where_air_stays_and_what_it_assumes() -> None:
    assert places_of_air(FeatureChecklist()) == places_of_air(FeatureChecklist(flat_back=True)) == ()
    told = places_of_air(FeatureChecklist(chin=True, thin_part=True))
    assert [words.split(":")[0].split(",")[0] for words in told] == ["Under the chin", "At the end of the thin part"]
    figures = {one.name: (one.value, one.unit) for one in checklist_figures()}
    assert figures["none ticked: stretch"] == (0.15, "of its length")
    assert figures["hook: locked share in the best direction"] == (0.15, "of the master's volume")
    assert figures["tall part: height to width"] == (3.0, "times as high as wide")
    assert all(one.reason for one in checklist_figures())
    assert len(figures) == 8


def test_features_without_a_shape_are_judged_from_the_size() -> None:
    own = Master(length_mm=60, width_mm=20, height_mm=50, volume_ml=None, count=3)
    known = {"shots": 7, "side_mm": 9.0, "over_mm": 8.0, "skin_mm": 4.0, "is_putty": True}
    made = judged_features(FeatureChecklist(chin=True, flat_back=True, thin_part=True), own, 0.9, **known)
    assert (made.stretch, made.locked_share, made.best_locked_share, made.allowed) == (0.6, 0.02, 0, 0.9)
    assert (made.flat_back, made.thin_part, made.hole_through, made.is_judged, made.is_putty) == (
        True,
        True,
        False,
        True,
        True,
    )
    assert (made.height_to_width, made.size_mm, made.count, made.shots) == (2.5, (60, 20, 50), 3, 7)
    assert (made.side_mm, made.over_mm, made.skin_mm) == (9, 8, 4)
    # four sides and the top
    assert made.coated_cm2 == pytest.approx((60 * 20 + 2 * 50 * 80) / 100)
    assert 0 < made.volume_ml < 60
    measured = judged_features(FeatureChecklist(tall_part=True), replace(own, volume_ml=33), None, **known)
    assert (measured.volume_ml, measured.height_to_width) == (33, 3.0)


def features(form: Form) -> MasterFeatures:
    return features_of_shape(form, 0.5, count=2, shots=9, side_mm=9.0, over_mm=8.0, skin_mm=4.0, is_putty=False)


def test_features_of_shapes_that_are_known() -> None:
    made = features(Form(block(60, 40, 20)))
    assert (made.flat_back, made.hole_through, made.thin_part, made.is_judged, made.is_putty) == (
        True,
        False,
        False,
        False,
        False,
    )
    assert made.stretch == pytest.approx(0, abs=1e-9)
    assert (made.locked_share, made.best_locked_share) == (0, 0)
    assert made.height_to_width == pytest.approx(0.5)
    assert made.size_mm == (60, 40, 20)
    assert made.volume_ml == pytest.approx(48)
    assert made.coated_cm2 == pytest.approx((60 * 40 + 2 * 20 * 100) / 100, rel=0.02)
    assert (made.count, made.shots, made.side_mm, made.over_mm, made.skin_mm, made.allowed) == (2, 9, 9, 8, 4, 0.5)
    ring = features(Form(torus(30, 10).moved(np.eye(3), np.array([0.0, 0.0, 10.0]))))
    assert (ring.flat_back, ring.hole_through) == (False, True)
    globe = features(Form(ball(50).moved(np.eye(3), np.array([0.0, 0.0, 25.0]))))
    assert (globe.flat_back, globe.hole_through) == (False, False)
    assert globe.coated_cm2 == pytest.approx(pi * 25, rel=0.02)
    # a bell on its wide foot is coated all but there
    bell = Form(cone(60, 20, 40))
    slant = hypot(20, 40)
    assert coated_cm2(bell) == pytest.approx((pi * 40 * slant + pi * 100) / 100, rel=0.03)
    # a dumbbell that lies down has its neck locked in both other pulls, and none along its axis
    dumb = turned([(0, 40), (20, 40), (22, 16), (50, 16), (52, 40), (72, 40)])
    made = features(Form(dumb))
    assert made.stretch == pytest.approx(40 / 16 - 1, rel=0.01)
    assert made.best_locked_share < 0.01 < made.locked_share


# --- stretch and slits


def test_a_neck_is_measured_with_a_tight_string() -> None:
    dumb = turned([(0, 30), (20, 30), (22, 15), (50, 15), (52, 45), (72, 45)])
    made = stretch(dumb)
    # the head of 45 mm must pass the neck of 15
    assert made.needed == pytest.approx(2, rel=1e-3)
    assert 22 <= made.neck_mm <= 50 <= made.head_mm
    assert made.round_mm[5] == pytest.approx(30 * pi, rel=2e-3)
    assert made.slit_mm(2.1) == 0
    assert made.slit_mm(1.9) == pytest.approx(51, abs=1)
    # with a stretch of a half the head passes the foot of 30 mm just so
    assert made.slit_mm(0.45) == pytest.approx(51, abs=1)
    assert stretch(block(30, 30, 30)).needed == 0
    assert (allowed_stretch(300), allowed_stretch(None)) == (pytest.approx(0.9), None)


def test_a_slit_is_cut_away_from_what_is_shown_and_in_waves() -> None:
    for shown, side in (((0, -1, 0), "back"), ((0, 1, 0), "front"), ((1, 0, 0), "left"), ((-1, 0, 0), "right")):
        assert slit_side(np.array(shown, dtype=float)) == side
    assert slit_side(np.array([0.1, 0.1, 0.9])) == "back"
    assert slit_side(np.array([0.15, 0.14, 0.9])) == "left"
    wave = Slit(side="back", length_mm=40).wave(5, waves=2)
    assert len(wave) == 25
    assert wave[0] == (0, 0)
    assert wave[-1] == (pytest.approx(0, abs=1e-9), 40)
    # a quarter of the first wave is an eighth of the length
    assert wave[3] == (pytest.approx(5), pytest.approx(5))
    assert wave[9] == (pytest.approx(-5), pytest.approx(15))
    assert len(Slit(side="back", length_mm=40).wave(5)) == 49


def test_a_box_is_tilted_only_where_that_lets_air_out() -> None:
    assert best_tilt(block(40, 30, 20), 20) is None
    # a pan upside down traps its inside, whichever way it leans within the limit: and level lets none out either
    roof = turned([(0, 40), (2, 40), (20, 40)])
    assert best_tilt(roof, 20) is None
    assert best_tilt(ball(40).moved(np.eye(3), np.array([0.0, 0.0, 20.0])), 0) is None


# --- parting surfaces and what is steep


def slope(dx: float, dy: float, *, size: int = 40, cell_mm: float = 2.0) -> PartingSurface:
    """A plane that rises by so much for each millimetre to the right and to the back."""
    x, y = np.meshgrid(np.arange(size), np.arange(size), indexing="ij")
    flat = parting_surface(block(20, 20, 10), box_round(block(20, 20, 10), 10), under_mm=5, over_mm=5, cells=24)
    return replace(
        flat,
        height_mm=(x * dx + y * dy) * cell_mm,
        area_mm2=np.full((size, size), cell_mm**2),
        low_mm=np.full(2, -size * cell_mm / 2),
        cell_mm=cell_mm,
        lower_mm=np.full((size, size), np.nan),
        upper_mm=np.full((size, size), np.nan),
    )


@pytest.mark.parametrize(
    ("dx", "dy"), [(0.5, 0.0), (-0.5, 0.0), (0.0, 0.5), (0.0, -0.5), (0.5, 0.5), (-2.0, 1.0), (1.0, -2.0)]
)
def test_a_slope_is_as_steep_in_every_direction(dx: float, dy: float) -> None:
    steep, _ = slope(dx, dy).steepest()
    assert steep == pytest.approx(degrees(atan(hypot(dx, dy))))


def test_the_steepest_place_is_found_where_it_is() -> None:
    flat = slope(0.0, 0.0)
    assert flat.steepest()[0] == 0
    for axis, at in ((0, (10, 25)), (1, (25, 10))):
        height = np.zeros((40, 40))
        cut = [slice(None), slice(None)]
        cut[axis] = slice(at[axis] + 1, None)
        height[tuple(cut)] = 2.0
        steep, where = replace(flat, height_mm=height).steepest()
        assert steep == pytest.approx(45)
        assert where[axis] == pytest.approx(-40 + 10.5 * 2)
    # outside the box nothing counts
    height = np.zeros((40, 40))
    height[:5] = 50.0
    area = np.full((40, 40), 4.0)
    area[:5] = 0.0
    assert replace(flat, height_mm=height, area_mm2=area).steepest()[0] == 0


def test_figures_of_a_surface() -> None:
    made = slope(0.5, 0.0)
    # from the first to the last of 40 cells of 2 mm
    assert made.flatness_mm == pytest.approx(39)
    made = replace(made, top_mm=50.0)
    # the room over it: 50 mm less its mean height of 19.5, over 80 x 80
    assert made.upper_box_ml == pytest.approx((50 - 19.5) * 80 * 80 / 1000)
    assert replace(made, upper_ml=30.0, lower_ml=10.0).balance == pytest.approx(0.25)
    assert replace(made, upper_ml=10.0, lower_ml=30.0).balance == pytest.approx(0.25)
    heights = made.at(np.array([[-39.0, 0.0], [0.0, 10.0], [10.0, -20.0]]))
    assert list(heights) == [pytest.approx(0), pytest.approx(19.5), pytest.approx(24.5)]


# --- keys


BOX = shapely.box(-50, -40, 50, 40)
FREE = flange(BOX, shapely.box(-15, -15, 15, 15))


def test_the_flange_leaves_out_masters_their_holes_and_bores() -> None:
    ring = shapely.Point(0, 0).buffer(20).difference(shapely.Point(0, 0).buffer(10))
    free = flange(BOX, ring)
    # the box less a disc of 20 + 2 mm, hole and all
    assert free.area == pytest.approx(100 * 80 - pi * 22**2, rel=0.01)
    bored = flange(BOX, ring, ((35.0, 0.0), (-35.0, 0.0)))
    assert free.area - bored.area == pytest.approx(2 * pi * 4**2, rel=0.02)


@pytest.mark.parametrize(("clear_mm", "size"), [(4, 4), (8, 4), (14, 7), (32, 16), (60, 16)])
def test_a_key_is_half_as_wide_as_the_flange_within_limits(clear_mm: float, size: float) -> None:
    seen = shapely.box(0, 0, 30, 20)
    inside = shapely.box(-clear_mm, -clear_mm - 50, 30 + clear_mm + 9, 20 + clear_mm + 70)
    assert key_size_mm(inside, seen) == size


def test_keys_keep_clear_of_everything() -> None:
    for bores in ((), ((42.0, 32.0), (-42.0, 32.0), (42.0, -32.0))):
        free = flange(BOX, shapely.box(-15, -15, 15, 15), bores)
        keys = place_keys(free, BOX, 8, 5)
        assert len(keys) == 5
        for number, key in enumerate(keys):
            assert free.buffer(1e-6).covers(key.disc)
            assert BOX.buffer(-2 + 1e-6).covers(key.disc)
            for x, y in bores:
                assert hypot(key.x_mm - x, key.y_mm - y) >= 4 + key.diameter_mm / 2 - 0.01
            for other in keys[:number]:
                assert hypot(key.x_mm - other.x_mm, key.y_mm - other.y_mm) >= 2.2 * 8 - 1e-6
        # the first is larger, so that a turned half shows
        assert [round(key.diameter_mm, 6) for key in keys] == [10.8, 8, 8, 8, 8]
        assert other_ways(keys, BOX) == ()
    assert place_keys(flange(shapely.box(0, 0, 30, 30), shapely.box(1, 1, 29, 29)), shapely.box(0, 0, 30, 30), 8) == ()
    assert len(place_keys(FREE, BOX, 8)) == 4


def test_each_fault_of_a_key_is_told_by_its_number() -> None:
    level = slope(0.0, 0.0)
    good = (
        Key(x_mm=-40, y_mm=-30, diameter_mm=11),
        Key(x_mm=40, y_mm=-30, diameter_mm=8),
        Key(x_mm=40, y_mm=30, diameter_mm=8),
    )
    assert check_keys(good, BOX, FREE, level) == ()
    (few,) = check_keys(good[:2], BOX, FREE, level)
    assert (few.code, dict(few.facts), few.field) == ("keys-too-few", {"keys": "2"}, "keys")
    (edge,) = check_keys((*good[:2], replace(good[2], x_mm=45)), BOX, FREE, level)
    assert (edge.code, dict(edge.facts)) == ("key-at-edge", {"key": "3"})
    assert check_keys((*good[:2], replace(good[2], x_mm=44)), BOX, FREE, level) == ()
    (way,) = check_keys((good[0], replace(good[1], x_mm=0, y_mm=20), good[2]), BOX, FREE, level)
    assert (way.code, dict(way.facts)) == ("key-in-the-way", {"key": "2", "clear": Amount(2.0, "length")})
    assert check_keys((good[0], replace(good[1], x_mm=0, y_mm=21.1), good[2]), BOX, FREE, level) == ()
    (touch,) = check_keys((*good, replace(good[2], x_mm=31)), BOX, FREE, level)
    assert (touch.code, touch.field) == ("keys-touch", "keys")
    assert check_keys((*good, replace(good[2], x_mm=29.9)), BOX, FREE, level) == ()
    # rising by 0.85 is 40.4 degrees
    assert {one.code for one in check_keys(good, BOX, FREE, slope(0.85, 0.0, size=60))} == {"key-on-slope"}
    assert check_keys(good, BOX, FREE, slope(0.0, 0.83, size=60)) == ()
    sloped = check_keys(good, BOX, FREE, slope(0.0, 0.85, size=60))
    assert [dict(one.facts)["key"] for one in sloped] == ["1", "2", "3"]


def test_keys_that_go_together_turned_are_told_with_the_turn() -> None:
    square = shapely.box(-40, -40, 40, 40)
    free = flange(square, shapely.box(-10, -10, 10, 10))
    four = tuple(Key(x_mm=30 * x, y_mm=30 * y, diameter_mm=8) for x, y in ((1, 1), (-1, 1), (-1, -1), (1, -1)))
    assert other_ways(four, square) == (90, 180, 270)
    (alike,) = check_keys(four, square, free, slope(0.0, 0.0))
    assert (alike.code, dict(alike.facts)) == ("keys-alike", {"turn": "90"})
    # in a box that is longer than wide only half a turn fits its outside
    assert other_ways(four, shapely.box(-50, -40, 50, 40)) == (180,)
    assert other_ways((replace(four[0], diameter_mm=9.1), *four[1:]), square) == ()
    assert other_ways((replace(four[0], diameter_mm=8.9), *four[1:]), square) == (90, 180, 270)
    assert other_ways((replace(four[0], x_mm=31.1), *four[1:]), square) == ()
    three = tuple(Key(x_mm=30 * np.cos(a), y_mm=30 * np.sin(a), diameter_mm=8) for a in np.radians([10, 130, 250]))
    assert other_ways(three, shapely.Point(0, 0).buffer(45, quad_segs=48)) == (120, 240)
    assert other_ways(three, square) == ()


# --- points as they are kept


def test_points_are_kept_as_text_and_read_again() -> None:
    kept = points_text([(1.25, -2.0, 30.0), (0.0, 0.0, 5.5)])
    assert space_points(kept) == [(1.25, -2.0, 30.0), (0.0, 0.0, 5.5)]
    assert plan_points(points_text([(1.5, -2.0)])) == [(1.5, -2.0)]
    assert points_text([]) == "none"
    assert space_points("none") == []
    assert points_text([(0.12345, -0.0)]) == "0.123, 0"


@pytest.mark.parametrize(
    ("about", "way"), [("front", (0, 0.5)), ("back", (0, -0.5)), ("left", (0.5, 0)), ("right", (-0.5, 0))]
)
def test_a_master_is_tipped_towards_a_side(about: str, way: tuple[float, float]) -> None:
    # by 30 degrees: what was upright leans half its length the other way, in the master's own coordinates
    up = tipped((0.0, 0.0, 1.0), about, 30)
    assert up == (pytest.approx(way[0], abs=1e-9), pytest.approx(way[1], abs=1e-9), pytest.approx(3**0.5 / 2))
    assert tipped((0.0, 0.0, 1.0), about, 0) == (0, 0, 1)
