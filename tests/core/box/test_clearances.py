"""Clearances: how near a given wall comes at every height, what a bed does about it, and what is too thin."""

import re

import pytest

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.clearances import clearance_findings, clearances
from ufrin.core.box.inside import Inside
from ufrin.core.box.layouts import grids
from ufrin.core.master.master_form import Master
from ufrin.core.shelf.containers import Container, Pot
from ufrin.core.wording.findings import Finding

# a drum of 50 mm across: its circle is its own outline, so that all of this can be worked out by hand
DRUM = Master(length_mm=50, width_mm=50, height_mm=30, volume_ml=58.9, outline="round")
BLOCK = Master(length_mm=60, width_mm=40, height_mm=30, volume_ml=70)


def found(plan: BoxPlan, inside: Inside) -> tuple[tuple[float, float] | None, float | None, list[Finding]]:
    (layout,) = grids(plan.masters, plan.gap_mm, None, None)
    made = clearances(plan, layout, inside)
    return made.tightest, made.raise_to_clear_mm, list(clearance_findings(plan, layout, made))


def in_pot(pot: Pot, **more: float) -> tuple[tuple[float, float] | None, float | None, list[Finding]]:
    plan = BoxPlan(masters=(DRUM,), shape="tapered", pot=pot, side_mm=12, over_mm=12, **more)
    return found(plan, Inside(pot=pot))


def test_a_box_built_to_measure_is_never_too_tight() -> None:
    plan = BoxPlan(masters=(BLOCK,), side_mm=12, over_mm=12)
    assert found(plan, Inside(length_mm=84, width_mm=64)) == (None, 0.0, [])


def test_a_pot_is_tightest_at_the_foot_and_a_bed_lifts_the_master_clear() -> None:
    # 60 mm across at the bottom, 1 mm wider for each 2 mm of height: 74 mm, as 50 + 2 x 12 wants, from 28 mm up
    tightest, raise_mm, told = in_pot(Pot(bottom_mm=60, top_mm=110, height_mm=100))
    assert tightest == pytest.approx((5.0, 0.0))
    assert raise_mm == pytest.approx(28.0, abs=0.01)
    (one,) = told
    assert (one.code, one.field) == ("too-tight", "bed_mm")
    assert one.facts["clearance"].value == pytest.approx(5.0)
    assert "bed of 28 mm lifts the master clear" in one.text()
    # with rubber under the master, the bed is lower by as much; a master sunk into it asks for a higher one
    assert in_pot(Pot(bottom_mm=60, top_mm=110, height_mm=100), under_mm=3)[1] == pytest.approx(25.0, abs=0.01)
    assert in_pot(Pot(bottom_mm=60, top_mm=110, height_mm=100), bed_mm=40, sunk_mm=4)[0] == pytest.approx((15.0, 40.0))


def test_a_bed_that_lifts_it_over_the_rim_is_no_cure() -> None:
    # clear from 28 mm up, where master and cover reach 70 mm: 5 mm over the rim of a pot 65 mm high
    _, raise_mm, (one,) = in_pot(Pot(bottom_mm=60, top_mm=92.5, height_mm=65))
    assert raise_mm == pytest.approx(28.0, abs=0.01)
    assert "5 mm over the rim" in one.text()
    # a pot that is too low without any bed, and one that is too narrow all the way up
    low = in_pot(Pot(bottom_mm=60, top_mm=62, height_mm=40))[2]
    assert "even without one the pot is 2 mm too low" in next(one for one in low if one.code == "too-tight").text()
    narrow = in_pot(Pot(bottom_mm=60, top_mm=64, height_mm=80))
    assert narrow[1] is None
    # lifted to 38 mm, where it is 61.9 mm across: 5.95 mm all round, 6.05 mm short of 12
    assert re.search(r"still 6(\.[01])? mm short", narrow[2][0].text())


def test_in_a_container_the_shorter_side_counts_and_a_round_one_by_the_circle() -> None:
    tub = Container(name="Tub", length_mm=100, width_mm=56, height_mm=90)
    plan = BoxPlan(masters=(BLOCK,), shape="container", container=tub, side_mm=12, over_mm=12, under_mm=4)
    tightest, raise_mm, told = found(plan, Inside(length_mm=100, width_mm=56))
    assert tightest == pytest.approx((8.0, 4.0))
    assert raise_mm == 0.0  # no bed widens a straight wall
    assert "Take a wider one" in told[0].text()
    drum = Container(name="Drum", shape="round", bottom_mm=70, height_mm=90)
    plan = BoxPlan(masters=(DRUM,), shape="container", container=drum, side_mm=12, over_mm=12)
    assert found(plan, Inside(diameter_mm=70))[0] == pytest.approx((10.0, 0.0))


def test_what_the_error_of_the_size_explains_is_said_more_softly() -> None:
    tub = Container(name="Tub", length_mm=100, width_mm=62, height_mm=90)
    for pm_mm, code in ((0.5, "too-tight"), (1.0, "tight-hardly")):
        plan = BoxPlan(masters=(BLOCK,), shape="container", container=tub, side_mm=12, over_mm=12, size_pm_mm=pm_mm)
        assert [one.code for one in found(plan, Inside(length_mm=100, width_mm=62))[2]] == [code]
    wide = BoxPlan(masters=(BLOCK,), shape="container", container=tub, side_mm=11, over_mm=12)
    assert found(wide, Inside(length_mm=100, width_mm=62))[2] == []


@pytest.mark.parametrize(
    ("side_mm", "over_mm", "wanted"),
    [(5.0, 6.0, []), (4.9, 6.0, ["thin-side"]), (5.0, 5.9, ["thin-cover"]), (4.0, 4.0, ["thin-cover", "thin-side"])],
)
def test_rubber_under_half_of_what_is_usual_is_thin(side_mm: float, over_mm: float, wanted: list[str]) -> None:
    plan = BoxPlan(masters=(BLOCK,), side_mm=side_mm, over_mm=over_mm)
    assert [one.code for one in found(plan, Inside(length_mm=84, width_mm=64))[2]] == wanted


def test_a_master_that_does_not_fit_at_all_has_no_room_to_be_told_in_millimetres() -> None:
    tub = Container(name="Tub", length_mm=58, width_mm=58, height_mm=90)
    plan = BoxPlan(masters=(BLOCK,), shape="container", container=tub, side_mm=12, over_mm=12)
    tightest, _, (one,) = found(plan, Inside(length_mm=58, width_mm=58))
    assert tightest == pytest.approx((-1.0, 0.0))
    assert one.facts["clearance"] == "no room"
