"""The fill line: bed, room under, master and cover on top of each other; and what a given wall leaves of it."""

import pytest

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.fill_line import fill_findings, fill_line
from ufrin.core.master.master_form import Master
from ufrin.core.shelf.containers import Container, Pot

GULL = Master(length_mm=60, width_mm=40, height_mm=35, volume_ml=50)


def codes(plan: BoxPlan, fill_mm: float) -> list[str]:
    return [finding.code for finding in fill_findings(plan, fill_mm)]


def test_the_heights_add_up_and_what_is_sunk_comes_off() -> None:
    plan = BoxPlan(masters=(GULL,), bed_mm=20, under_mm=3, sunk_mm=8, over_mm=12, freeboard_mm=10)
    line = fill_line(plan)
    assert line.fill_mm == pytest.approx(20 + 3 + (35 - 8) + 12)  # by hand
    assert line.rim_mm == pytest.approx(line.fill_mm + 10)


def test_a_tray_is_filled_to_its_rim_and_a_container_has_its_own() -> None:
    tray = fill_line(BoxPlan(masters=(GULL,), shape="tray", lip_mm=6, over_mm=12, freeboard_mm=10))
    assert tray.rim_mm == tray.fill_mm == pytest.approx(6 + 35 + 12)
    tub = Container(name="Tub", length_mm=200, width_mm=160, height_mm=90)
    assert fill_line(BoxPlan(masters=(GULL,), shape="container", container=tub, over_mm=12)).rim_mm == 90


@pytest.mark.parametrize(
    ("fill_mm", "size_pm_mm", "wanted"),
    [
        (49.9, 0.0, ["low-freeboard"]),
        (40.0, 0.0, []),  # just the freeboard is left
        (40.1, 0.0, ["low-freeboard"]),
        (50.2, 0.0, ["overflows"]),
        (51.0, 1.5, ["overflows-hardly"]),  # within the error of the master's size
        (52.0, 1.5, ["overflows"]),
    ],
)
def test_what_runs_over_a_given_wall_or_nearly_does(fill_mm: float, size_pm_mm: float, wanted: list[str]) -> None:
    pot = Pot(bottom_mm=100, top_mm=120, height_mm=50)
    in_pot = BoxPlan(masters=(GULL,), shape="tapered", pot=pot, freeboard_mm=10, size_pm_mm=size_pm_mm)
    assert codes(in_pot, fill_mm) == wanted
    tub = Container(name="Tub", length_mm=200, width_mm=160, height_mm=50)
    in_tub = BoxPlan(masters=(GULL,), shape="container", container=tub, freeboard_mm=10, size_pm_mm=size_pm_mm)
    assert codes(in_tub, fill_mm) == wanted


def test_what_is_told_are_the_heights_that_a_maker_can_measure() -> None:
    pot = Pot(bottom_mm=100, top_mm=120, height_mm=50)
    plan = BoxPlan(masters=(GULL,), shape="tapered", pot=pot, freeboard_mm=10)
    (low,), (over,) = list(fill_findings(plan, 44.0)), list(fill_findings(plan, 55.0))
    assert low.facts["left"].value == pytest.approx(6.0)
    assert (over.facts["fill"].value, over.facts["height"].value) == (55.0, 50)
    assert (low.field, over.field) == ("freeboard_mm", "over_mm")


def test_a_box_that_is_built_never_runs_over() -> None:
    assert codes(BoxPlan(masters=(GULL,)), 4000.0) == []
