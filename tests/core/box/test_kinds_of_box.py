"""Each kind of box by its closed formula, with and without a form; and what the plan makes of the station's inputs."""

from math import pi

import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st
from shapes import cup, moved

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import box
from ufrin.core.box.wall_bow import PanelStock, bow_mm, wall_bow
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.box_station import cuts, plan_box
from ufrin.core.job.job_plan import JobContext, plan
from ufrin.core.job.master_station import answer_master
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.master.attitudes import stand
from ufrin.core.master.master_form import Form, Master
from ufrin.core.master.stand_in_choice import STAND_IN_NEEDS
from ufrin.core.master.stand_ins import block, cone, turned
from ufrin.core.materials.tables import BOARDS
from ufrin.core.mesh.sections import section
from ufrin.core.mesh.triangles import joined
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container, Pot
from ufrin.errors import Refused

size = st.floats(10, 120)
clear = st.floats(2, 30)
DRUM = Master(length_mm=50, width_mm=50, height_mm=30, volume_ml=pi * 25**2 * 30 / 1000, mass_g=40, outline="round")


@given(size, size, size, clear, clear, st.floats(0, 15))
def test_a_tray_is_deeper_by_its_lip_and_full_to_the_brim(
    length: float, width: float, height: float, side: float, over: float, lip: float
) -> None:
    one = Master(length_mm=length, width_mm=width, height_mm=height, volume_ml=length * width * height / 1000)
    made = box(BoxPlan(masters=(one,), shape="tray", side_mm=side, over_mm=over, lip_mm=lip, freeboard_mm=10))
    assert made.rim_mm == made.fill_mm == pytest.approx(lip + height + over)
    whole = (length + 2 * side) * (width + 2 * side) * made.fill_mm / 1000
    assert made.net_ml == pytest.approx(whole - length * width * (height + lip) / 1000)


@given(clear, clear)
def test_a_strip_round_a_drum_is_a_round_box(side: float, over: float) -> None:
    bent, round_box = (
        box(BoxPlan(masters=(DRUM,), shape=shape, side_mm=side, over_mm=over, wall_thickness_mm=3))
        for shape in ("contour", "round")
    )
    assert bent.net_ml == pytest.approx(round_box.net_ml, rel=5e-3)
    assert bent.panels[0].length_mm == pytest.approx(round_box.panels[0].length_mm, rel=5e-3)


@given(st.floats(30, 200), st.floats(30, 200), st.floats(30, 200), st.floats(0, 20), st.floats(0, 20))
def test_the_bed_that_clears_a_tapered_pot_is_the_least_that_does(
    bottom: float, top: float, height: float, side: float, under: float
) -> None:
    pot = Pot(bottom_mm=bottom, top_mm=top, height_mm=height)
    assume(pot.diameter_mm(under + 30) > 0)  # one that closes below the fill line is refused
    plan_of = BoxPlan(masters=(DRUM,), shape="tapered", pot=pot, side_mm=side, under_mm=under, over_mm=0)
    raise_mm = box(plan_of).raise_to_clear_mm
    if raise_mm is None:
        # at no height between bottom and rim is there room all round
        feet = (under, max(under, height - 30))
        best = max(min(pot.diameter_mm(foot), pot.diameter_mm(foot + 30)) for foot in feet)
        assert best < 50 + 2 * side + 1e-6 or height < 30 + under
        return
    raised = box(
        BoxPlan(masters=(DRUM,), shape="tapered", pot=pot, side_mm=side, under_mm=under, over_mm=0, bed_mm=raise_mm)
    )
    assert raised.tightest is not None
    assert raised.tightest[0] >= side - 1e-6
    if raise_mm > 0.5:
        lower = box(
            BoxPlan(
                masters=(DRUM,),
                shape="tapered",
                pot=pot,
                side_mm=side,
                under_mm=under,
                over_mm=0,
                bed_mm=raise_mm - 0.5,
            )
        )
        assert lower.tightest is not None
        assert lower.tightest[0] < side


@pytest.mark.parametrize(
    ("container", "ml"),
    [
        (Container(name="tin", length_mm=100, width_mm=80, height_mm=60), 480),
        (Container(name="pipe", shape="round", bottom_mm=100, height_mm=60), pi * 50**2 * 60 / 1000),
        (
            Container(name="pot", shape="tapered", bottom_mm=80, top_mm=100, height_mm=60),
            pi * 60 * (80**2 + 8000 + 100**2) / 12_000,
        ),
    ],
)
def test_a_container_holds_what_its_shape_does(container: Container, ml: float) -> None:
    assert container.holds_ml == pytest.approx(ml)
    made = box(BoxPlan(masters=(DRUM,), container=container, over_mm=10))
    assert made.shape == container.shape
    assert (made.rim_mm, made.panels) == (60, ())
    full = box(BoxPlan(masters=(DRUM,), container=container, over_mm=30))  # to the very rim
    assert full.gross_ml == pytest.approx(ml)
    assert [
        finding.code
        for finding in box(BoxPlan(masters=(DRUM,), container=container, over_mm=31)).findings
        if finding.level == "stop"
    ][0] == "overflows"


@pytest.mark.parametrize(
    ("changed", "says"),
    [
        ({"shape": "sphere"}, "not one of the choices"),
        ({"height_mm": 0.0}, "needed"),
        ({"name": ""}, "name"),
        ({"shape": "tapered", "top_mm": None}, "needed"),
    ],
)
def test_a_container_that_cannot_be(changed: dict[str, object], says: str) -> None:
    told: dict[str, object] = {"name": "pot", "shape": "round", "bottom_mm": 80.0, "height_mm": 90.0}
    with pytest.raises(Refused, match=says):
        Container(**told | changed)


def test_a_gang_with_forms_is_boxed_by_their_true_outlines() -> None:
    form = Form(stand(cone(60, 10, 40)))
    one = Master(length_mm=60, width_mm=60, height_mm=40, volume_ml=form.volume_ml, count=2, form=form)
    round_box = box(BoxPlan(masters=(one,), shape="round", side_mm=10, gap_mm=10))
    # two circles of 60 with 10 between them lie in one of 130; two squares would need more
    assert round_box.diameter_mm == pytest.approx(130 + 20, rel=2e-3)
    assert box(
        BoxPlan(
            masters=(Master(length_mm=60, width_mm=60, height_mm=40, volume_ml=50, count=2),), shape="round", side_mm=10
        )
    ).diameter_mm == pytest.approx((130**2 + 60**2) ** 0.5 + 20)


def test_what_is_sunk_is_cut_from_the_form_and_keeps_the_measured_displacement() -> None:
    form = Form(stand(turned([(0, 60), (20, 60), (20, 20), (60, 20)])))  # broad foot, slender top
    one = Master(length_mm=60, width_mm=60, height_mm=60, volume_ml=form.volume_ml, form=form)
    foot = pi * 30**2 * 10 / 1000
    assert one.below_ml(10) == pytest.approx(foot)
    assert one.below_ml(60) == one.volume_ml
    assert one.below_ml(-1) == 0
    plain = Master(length_mm=60, width_mm=60, height_mm=60, volume_ml=form.volume_ml)
    assert plain.below_ml(10) == pytest.approx(form.volume_ml / 6)
    measured = Master(length_mm=60, width_mm=60, height_mm=60, volume_ml=form.volume_ml * 1.02, form=form)
    assert measured.below_ml(10) == pytest.approx(foot * 1.02)
    seated = box(BoxPlan(masters=(one,), bed_mm=10, sunk_mm=10, side_mm=10, over_mm=10))
    assert seated.bed_ml == pytest.approx(80 * 80 * 10 / 1000 - foot)
    assert seated.net_ml == pytest.approx(80 * 80 * 60 / 1000 - (form.volume_ml - foot))


def test_sections_have_their_holes_and_parts() -> None:
    hollow = cup(sides=24)
    (ring,) = section(hollow, 10).geoms
    assert len(ring.interiors) == 1
    assert section(hollow, 38).area == pytest.approx(shapely.Polygon(ring.exterior).area)
    assert len(section(joined([hollow, moved(block(5, 5, 50), 60, 0, 0)]), 45).geoms) == 1
    assert section(hollow, 41).is_empty
    assert section(hollow, -1).is_empty


@pytest.mark.parametrize("kind", STAND_IN_NEEDS)
def test_each_stand_in_waits_for_what_it_needs_and_then_has_a_form(kind: str) -> None:
    sizes = {
        "length_mm": 60.0,
        "width_mm": 40.0,
        "height_mm": 30.0,
        "top_mm": 20.0,
        "ring_mm": 10.0,
        "slab_base_mm": 8.0,
        "profile": "0 40; 30 20",
    }
    told = {key: value for key, value in sizes.items() if key in STAND_IN_NEEDS[kind]}
    if kind == "fitted":
        told |= {"level_before_ml": 100.0, "level_after_ml": 140.0}
    full = answer_master(MasterInputs(standin=kind, **told))
    assert full.form is not None
    assert full.form.is_standin
    assert full.measured is not None
    assert full.form.volume_ml == pytest.approx(full.measured.volume_ml, rel=1e-3)
    assert [finding.code for finding in full.findings] == ["standin"]
    for key in told:
        if key not in {"level_before_ml", "level_after_ml", "top_mm"}:
            waiting = answer_master(
                MasterInputs(standin=kind, **{name: value for name, value in told.items() if name != key})
            )
            assert waiting.form is None
            assert waiting.form_refused is None


def test_a_container_stands_over_the_shape_and_is_asked_for() -> None:
    tin = Container(name="tin", length_mm=150, width_mm=100, height_mm=80)
    assert plan_box((DRUM,), BoxInputs(shape="container"), 1.1, tin).kind == "rectangle"
    assert plan_box((DRUM,), BoxInputs(shape="round"), 1.1, tin).container is None
    with pytest.raises(Refused, match="Choose which container"):
        plan_box((DRUM,), BoxInputs(shape="container"), 1.1, None)


RUBBER = Rubber(name="Saltmarsh 25", family="condensation-silicone", weight_a=100, weight_b=10, sg_mixed=1.2)
LARGE = MasterInputs(
    length_mm=300.0, width_mm=60.0, height_mm=160.0, level_before_ml=1000.0, level_after_ml=2500.0, mass_g=4000.0
)


@pytest.mark.parametrize("material", BOARDS)
def test_a_brace_cures_what_bows(material: str) -> None:
    made = plan(
        LARGE,
        BoxInputs(wall_material=material, wall_thickness_mm=3.0),
        RubberInputs(rubber_id=1),
        JobContext(shelf=ShelfPicks(rubber=RUBBER)),
    )
    assert made.bow is not None
    told = "wall-bows" in [finding.code for finding in made.findings["box"]]
    assert told == (made.bow.bow_mm > made.bow.limit_mm)
    if made.bow.brace_mm is not None and made.box is not None:
        board = BOARDS[material]
        sheet = PanelStock(
            thickness_mm=3, youngs_modulus_gpa=board.youngs_modulus_gpa, poisson_ratio=board.poisson_ratio
        )
        again = wall_bow(length_mm=made.bow.brace_mm, depth_mm=made.box.fill_mm, sg=1.2, sheet=sheet, side_mm=12)
        assert again.brace_mm is None


@given(st.floats(50, 600), st.floats(30, 300), st.floats(1, 20), st.floats(0.5, 70), st.floats(0.1, 0.45))
def test_a_wall_bows_in_proportion_to_load_and_stiffness(
    length: float, height: float, thickness: float, modulus: float, poisson: float
) -> None:
    sheet = PanelStock(thickness_mm=thickness, youngs_modulus_gpa=modulus, poisson_ratio=poisson)
    stiffer = PanelStock(thickness_mm=thickness * 2, youngs_modulus_gpa=modulus, poisson_ratio=poisson)

    def bow(of: PanelStock, foot: float, top: float, *, held: bool) -> float:
        return bow_mm(length_mm=length, height_mm=height, foot_kpa=foot, top_kpa=top, sheet=of, top_is_held=held)

    for held in (True, False):
        one = bow(sheet, 1.0, 0.0, held=held)
        assert bow(sheet, 3.0, 0.0, held=held) == pytest.approx(3 * one)
        assert bow(stiffer, 1.0, 0.0, held=held) == pytest.approx(one / 8)
    assert bow(sheet, 1.0, 0.0, held=False) >= bow(sheet, 1.0, 0.0, held=True)
    # twice as large all round, under the same pressure: w grows with the fourth power
    double = bow_mm(length_mm=2 * length, height_mm=2 * height, foot_kpa=1, top_kpa=0, sheet=sheet, top_is_held=False)
    assert double == pytest.approx(16 * bow(sheet, 1.0, 0.0, held=False))


def test_a_box_that_is_not_cut_has_no_cut_list() -> None:
    tin = Container(name="tin", length_mm=400, width_mm=200, height_mm=300)
    built = plan(LARGE, BoxInputs(), RubberInputs(), JobContext())
    stood = plan(LARGE, BoxInputs(shape="container"), RubberInputs(), JobContext(container=tin))
    assert built.box is not None
    assert stood.box is not None
    assert cuts(built.box, BoxInputs()) is not None
    assert cuts(stood.box, BoxInputs()) is None
    large = cuts(built.box, BoxInputs(sheet_length_mm=200.0, sheet_width_mm=150.0))
    assert large is not None
    assert "long side" in large.left_out


@pytest.mark.parametrize("shape", ["round", "contour"])
def test_looking_closely_at_a_few_layouts_finds_as_little_rubber_as_looking_at_all(shape: str) -> None:
    form = Form(stand(cone(60, 10, 40)))
    one = Master(length_mm=60, width_mm=60, height_mm=40, volume_ml=form.volume_ml, count=6, form=form)
    best = box(BoxPlan(masters=(one,), shape=shape)).net_ml
    for columns in range(1, 7):
        assert box(BoxPlan(masters=(one,), shape=shape, columns=columns)).net_ml >= best * (1 - 1e-9)
