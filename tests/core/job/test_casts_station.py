"""The Casts station: what the job tells of a cavity, what was typed instead, and the shot that follows."""

from dataclasses import replace
from math import pi

import pytest
from materials_to_cast import PICKS, RESIN
from records import MASTER, OPEN, PARTED, worked_out
from shapes import moved

from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.casts import CastInputs, SettledCasts
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.casts_station import CastsAnswer, answer_casts, held_form, known_cavity
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.mould_channels import channels_of
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.master.master_form import stand_form
from ufrin.core.master.stand_ins import block, cone

POST = moved(block(60, 40, 30), 0, 0, 0)  # 72 ml; 2 x (60 x 40) + 2 x (60 + 40) x 30 mm2 = 108 cm2
JUG = worked_out(replace(MASTER, material=None))  # 60 x 40 x 35 mm, which raises the water by 50 ml

DRUM = MasterInputs(
    length_mm=50.8,
    width_mm=50.8,
    height_mm=50.8,
    outline="round",
    mass_g=220,
    material="brass",
    level_before_ml=300.0,
    level_after_ml=345.0,
)


def of_mesh(box: BoxInputs | None = None, opening: object = OPEN) -> Plan:
    context = JobContext(shelf=ShelfPicks(), mesh=stand_form(POST, (0, 0, 1)))
    return plan(MasterInputs(mass_g=90), box or BoxInputs(), RubberInputs(), context, opening)  # type: ignore[arg-type]


def answered(of: Plan = JUG, picks: CastPicks = PICKS, **inputs: object) -> CastsAnswer:
    return answer_casts(CastInputs(**inputs), of, picks)  # type: ignore[arg-type]


def test_a_cavity_is_the_master_less_the_shrinkage_of_the_rubber() -> None:
    cavity = known_cavity(JUG, SettledCasts(), RESIN)
    assert cavity is not None
    assert (cavity.volume_ml, cavity.height_mm, cavity.area_cm2, cavity.count) == (pytest.approx(50.0), 35.0, None, 1)
    shrunk = known_cavity(JUG, SettledCasts(rubber_shrink_pct=2.0), RESIN)
    assert shrunk is not None
    assert shrunk.volume_ml == pytest.approx(50.0 * 0.98**3)
    assert (
        known_cavity(worked_out(MasterInputs(length_mm=60, width_mm=40, height_mm=35)), SettledCasts(), RESIN) is None
    )


def test_a_cast_does_not_run_short_by_a_wrong_measurement() -> None:
    # a drum of brass that weighs as if it held 26 ml, and raises the water by 45: rubber can't run short by the first,
    # nor a cast by the second
    apart = worked_out(DRUM)
    assert apart.master.measured is not None
    assert apart.master.measured.volume_ml == pytest.approx(220 / 8.5, rel=0.02)
    cast = answered(apart)
    assert cast.cavity is not None
    assert cast.cavity.volume_ml == pytest.approx(45.0)
    (told,) = [one for one in cast.findings if one.code == "cavity-undecided"]
    assert (told.level, told.facts["most"].value) == ("warn", pytest.approx(45.0))  # type: ignore[union-attr]
    assert "cavity-undecided" not in {one.code for one in answered(apart, cavity_ml=44.0).findings}
    decided = worked_out(replace(DRUM, counted_way="level"))
    assert "cavity-undecided" not in {one.code for one in answered(decided).findings}


def test_what_the_master_may_be_larger_is_mixed_on_top_until_a_spare_is_typed() -> None:
    # 50 ml, read twice to a quarter of a mark of 10 ml
    pm_pct = 100 * 2.5 * 2**0.5 / 50.0
    assert answered().settled.spare_pct == pytest.approx(5.0 + pm_pct, abs=0.05)
    assert answered().defaults["spare_pct"] == answered().settled.spare_pct
    assert answered(spare_pct=5.0).settled.spare_pct == 5.0
    assert answered(cavity_ml=50.0).settled.spare_pct == 5.0


def test_a_mesh_tells_surface_and_height_which_shrink_as_lengths_do() -> None:
    whole = known_cavity(of_mesh(opening=PARTED), SettledCasts(), RESIN)
    shrunk = known_cavity(of_mesh(opening=PARTED), SettledCasts(rubber_shrink_pct=10.0), RESIN)
    assert whole is not None
    assert shrunk is not None
    assert (whole.volume_ml, whole.area_cm2) == (pytest.approx(72.0), pytest.approx(108.0))
    assert shrunk.volume_ml == pytest.approx(72.0 * 0.9**3)
    assert shrunk.area_cm2 == pytest.approx(108.0 * 0.9**2)
    assert shrunk.height_mm == pytest.approx((whole.height_mm or 0) * 0.9)
    # half of its height holds half of its volume, shrunk as well
    assert shrunk.below_ml is not None
    assert shrunk.below_ml((shrunk.height_mm or 0) / 2) == pytest.approx(shrunk.volume_ml / 2, rel=1e-6)
    # what was measured is spread over the height as the mesh is: layers add up to it
    jug = plan(
        MasterInputs(known_ml=80.0, counted_way="known"),
        BoxInputs(),
        RubberInputs(),
        JobContext(shelf=ShelfPicks(), mesh=stand_form(POST, (0, 0, 1))),
        PARTED,
    )
    spread = known_cavity(jug, SettledCasts(rubber_shrink_pct=10.0), RESIN)
    assert spread is not None
    assert spread.below_ml is not None
    assert spread.volume_ml == pytest.approx(80.0 * 0.9**3)
    assert spread.below_ml(spread.height_mm or 0) == pytest.approx(spread.volume_ml)
    # an open mould has no rubber on the face it stands on: 24 cm2 less are coated
    open_one = known_cavity(of_mesh(), SettledCasts(), RESIN)
    assert open_one is not None
    assert open_one.area_cm2 == pytest.approx(108.0 - 24.0)


@pytest.mark.parametrize(("up", "through_mm"), [("0,0,1", 20.0), ("0,0,-1", 8.0), ("1,0,0", 15.0)])
def test_gate_and_vents_run_through_the_rubber_that_the_box_gives(up: str, through_mm: float) -> None:
    # 20 mm of rubber over the master, 8 under it and 15 beside it: the gate is as long as what lies above it
    box = BoxInputs(over_mm=20.0, under_mm=8.0, side_mm=15.0)
    made = of_mesh(box, OpeningInputs(style="two-part", cast_up=up))
    assert made.opening is not None
    found = channels_of(made, "polyurethane-resin")
    (gate,) = [one for (kind, _), one in found.items() if kind == "gate"]
    assert gate.length_mm == pytest.approx(through_mm, abs=0.01)
    cavity = known_cavity(made, SettledCasts(), RESIN)
    assert cavity is not None
    assert cavity.sprue_ml == pytest.approx(sum(one.volume_ml for one in found.values()))
    assert channels_of(JUG, None) == {}  # without a form nothing is cut


def test_an_open_mould_is_cast_upside_down() -> None:
    tapered = stand_form(cone(40, 20, 30), (0, 0, 1))
    made = plan(MasterInputs(mass_g=90), BoxInputs(), RubberInputs(), JobContext(mesh=tapered), OPEN)
    held = held_form(tapered, replace(made, opening=None))
    assert held.size_mm == pytest.approx(tapered.size_mm)
    # its foot, which is wide, is at the top now: the lower half holds less than half
    lower_ml, upper_ml = (pi * 15 / 3 * (a * a + a * b + b * b) / 1000 for a, b in ((10, 15), (15, 20)))
    assert held.below_ml(15.0) == pytest.approx(lower_ml, rel=1e-2)
    assert held.volume_ml - held.below_ml(15.0) == pytest.approx(upper_ml, rel=1e-2)


def test_what_was_measured_on_the_mould_counts_before_what_the_master_tells() -> None:
    typed = answered(cavity_ml=40.0, area_cm2=80.0, height_mm=30.0, sprue_ml=3.0).cavity
    assert typed is not None
    assert (typed.volume_ml, typed.area_cm2, typed.height_mm, typed.sprue_ml) == (40.0, 80.0, 30.0, 3.0)
    known = answered().known
    assert known is not None
    assert known.volume_ml == pytest.approx(50.0)
    # of a mesh, a taller and larger cavity is filled in proportion
    scaled = answered(of_mesh(opening=PARTED), cavity_ml=36.0, height_mm=60.0).cavity
    assert scaled is not None
    assert scaled.below_ml is not None
    assert scaled.below_ml(60.0) == pytest.approx(36.0, rel=1e-6)
    assert scaled.below_ml(15.0) == pytest.approx(9.0, rel=0.02)


def test_without_a_measured_master_the_cavity_is_asked_for() -> None:
    nobody = worked_out(MasterInputs())
    (why,) = answered(nobody).refusals
    assert why.field == "cavity_ml"
    assert answered(nobody).state == "empty"
    other = answered(nobody, cavity_ml=640.0, mould_cavities=2.0, mould_parts="two")
    assert other.cavity is not None
    assert (other.cavity.volume_ml, other.cavity.count, other.style) == (640.0, 2, "two-part")
    assert answered(nobody, cavity_ml=640.0).style == ""


def test_defaults_are_what_the_job_and_the_shelf_tell() -> None:
    shown = answered(of_mesh(opening=PARTED), cast_kind="filled").defaults
    assert (shown["cavity_ml"], shown["area_cm2"], shown["cavities"]) == (
        pytest.approx(72.0),
        pytest.approx(108.0),
        1.0,
    )
    assert shown["scoops"] == 2.0  # as the label of the chalk allows
    assert answered(picks=CastPicks(resin=RESIN)).defaults.get("scoops") is None


def test_no_resin_yet_is_no_mistake_and_a_shell_without_a_surface_is() -> None:
    assert answered(picks=CastPicks()).refusals == ()
    assert answered(picks=CastPicks()).plan is None
    wrong = answered(cast_kind="rotated")
    assert [one.field for one in wrong.refusals] == ["area_cm2"]
    assert wrong.state == "empty"


def test_where_a_rotated_cast_stands_follows_from_two_weights() -> None:
    known = {"cast_kind": "rotated", "area_cm2": 100.0, "thickness_mm": 3.0, "coat_mm": 1.0}
    made = answered(**known, mould_g=5000.0, now_g=5009.5)  # 100 cm2 x 3 mm x 0.95 = 28.5 g
    assert made.rotated is not None
    assert (made.rotated.aim_g, made.rotated.to_go_g) == (pytest.approx(5028.5), pytest.approx(19.0))
    assert made.rotated.coats_to_go == 2
    # cast solid, its 50 ml would weigh 47.5 g: it can't have gained more
    full = answered(**known, mould_g=5000.0, now_g=5060.0)
    assert full.rotated is None
    assert "more than its cavity holds" in str(full.refusals[0])
    assert full.plan is not None
    assert answered(**known, mould_g=5000.0).rotated is None
    lighter = answered(**known, mould_g=5000.0, now_g=4990.0)
    assert lighter.plan is not None  # the plan stays
    assert [one.field for one in lighter.refusals] == ["now_g"]


def test_what_the_checks_were_told_and_the_family_of_a_rigid_mould_are_compared() -> None:
    other = answer_casts(CastInputs(), JUG, PICKS, checked_as="epoxy-resin")
    assert "cast-not-checked" in [one.code for one in other.findings]
    assert "cast-not-checked" not in [one.code for one in answer_casts(CastInputs(), JUG, PICKS).findings]
    same = answer_casts(CastInputs(), JUG, PICKS, checked_as="polyurethane-resin")
    assert "cast-not-checked" not in [one.code for one in same.findings]
    rigid = answer_casts(CastInputs(), JUG, PICKS, only_family="addition-silicone")
    assert rigid.state == "stop"
    assert [stop.station for stop in rigid.stops(())] == ["casts"]


def test_getting_ready_follows_the_checks_of_the_job() -> None:
    released = worked_out(
        replace(MASTER, material=None),
        checks=CheckInputs(cast_material="polyurethane-resin", between_cast="silicone-free-release"),
    )
    said = [str(step.do) for step in answered(released).steps]
    assert any("release" in one.lower() for one in said)
    assert answered(picks=CastPicks()).steps == ()
