"""Boxes: laws that hold for any master, and the shapes by closed formulas."""

from dataclasses import replace
from math import hypot, pi

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import box
from ufrin.core.master.master_form import Master
from ufrin.core.shelf.containers import Container, Pot
from ufrin.errors import Refused

# twelve in one row stay well under the largest box there may be
sizes = st.floats(1, 200)
clearances = st.floats(0, 50)


@st.composite
def masters(draw: st.DrawFn) -> Master:
    length, width, height = draw(sizes), draw(sizes), draw(sizes)
    outline = draw(st.sampled_from(["rectangle", "round"]))
    width = length if outline == "round" else width
    outside = length * width * height / 1000 * (pi / 4 if outline == "round" else 1)
    volume = outside * draw(st.floats(0.01, 0.99))
    return Master(
        length_mm=length,
        width_mm=width,
        height_mm=height,
        volume_ml=volume,
        mass_g=volume * draw(st.floats(0.1, 8)),
        count=draw(st.integers(1, 4)),
        outline=outline,
    )


@st.composite
def plans(draw: st.DrawFn) -> BoxPlan:
    chosen = tuple(draw(st.lists(masters(), min_size=1, max_size=3)))
    bed = draw(clearances)
    sunk = draw(st.floats(0, 0.9)) * min(bed, *(master.height_mm for master in chosen))
    made = {name: draw(clearances) for name in ("side_mm", "over_mm", "under_mm", "gap_mm", "freeboard_mm")}
    return BoxPlan(
        masters=chosen,
        shape=draw(st.sampled_from(["rectangle", "round"])),
        bed_mm=bed,
        sunk_mm=sunk,
        rubber_sg=draw(st.floats(0.9, 1.6)),
        **made,
    )


@given(plans())
def test_net_is_the_room_that_masters_and_bed_leave(plan: BoxPlan) -> None:
    made = box(plan)
    # the room by the sizes that the box is built to; masters without a shape stand like columns in their bed
    area_mm2 = pi * made.diameter_mm**2 / 4 if made.diameter_mm else made.length_mm * made.width_mm
    fill_mm = plan.bed_mm + plan.under_mm - plan.sunk_mm + max(one.height_mm for one in plan.masters) + plan.over_mm
    above_ml = sum(one.count * one.volume_ml * (1 - plan.sunk_mm / one.height_mm) for one in plan.masters)
    bed_mm = plan.bed_mm if plan.bed_mm else 0.0
    assert made.net_ml == pytest.approx(area_mm2 * (fill_mm - bed_mm) / 1000 - above_ml, abs=1e-6 * made.gross_ml)
    assert made.net_ml >= 0
    assert made.fill_mm == pytest.approx(fill_mm)
    assert made.rim_mm == pytest.approx(fill_mm + plan.freeboard_mm)
    lifts = sum(
        one.count * (plan.rubber_sg * one.volume_ml * (1 - plan.sunk_mm / one.height_mm) - one.mass_g)
        for one in plan.masters
    )
    assert made.lift_g == pytest.approx(max(0.0, lifts), abs=1e-6)


@given(plans(), st.sampled_from(["side_mm", "over_mm", "under_mm", "gap_mm"]), st.floats(0.1, 50))
def test_more_clearance_never_needs_less_rubber(plan: BoxPlan, name: str, more: float) -> None:
    wider = replace(plan, **{name: getattr(plan, name) + more})
    assert box(wider).net_ml >= box(plan).net_ml * (1 - 1e-9)


@given(plans(), st.randoms())
def test_the_order_of_masters_does_not_matter(plan: BoxPlan, chance: object) -> None:
    shuffled = list(plan.masters)
    chance.shuffle(shuffled)
    one, other = box(plan), box(replace(plan, masters=tuple(shuffled)))
    assert other.net_ml == pytest.approx(one.net_ml)
    assert other.gross_ml == one.gross_ml
    assert other.lift_g == pytest.approx(one.lift_g)


@given(plans())
def test_the_grid_chosen_takes_the_least_rubber(plan: BoxPlan) -> None:
    count = sum(master.count for master in plan.masters)
    assume(count > 1)
    best = box(plan).net_ml
    for columns in range(1, count + 1):
        assert box(replace(plan, columns=columns)).net_ml >= best * (1 - 1e-9)


def test_round_box_is_the_circle_round_the_footprint() -> None:
    one = Master(length_mm=60, width_mm=40, height_mm=35, volume_ml=52, mass_g=60)
    made = box(BoxPlan(masters=(one,), shape="round", wall_thickness_mm=2))
    assert made.diameter_mm == pytest.approx(hypot(60, 40) + 24)
    assert made.gross_ml == pytest.approx(pi * (hypot(60, 40) + 24) ** 2 / 4 * 47 / 1000)
    assert made.panels[0].length_mm == pytest.approx(pi * (hypot(60, 40) + 26))
    turned = Master(length_mm=46, width_mm=46, height_mm=118, volume_ml=118, outline="round")
    assert box(BoxPlan(masters=(turned,), shape="round")).diameter_mm == pytest.approx(70)


def test_gang_panels_and_lift() -> None:
    four = Master(length_mm=64, width_mm=38, height_mm=40, volume_ml=63, mass_g=47, count=4)
    made = box(BoxPlan(masters=(four,), rubber_sg=1.1, wall_thickness_mm=6))
    assert (made.rows, made.columns, made.length_mm, made.width_mm) == (2, 2, 64 * 2 + 10 + 24, 38 * 2 + 10 + 24)
    assert [(panel.name, panel.length_mm, panel.height_mm, panel.count) for panel in made.panels] == [
        ("long side", 162 + 12, 62, 2),
        ("short side", 110, 62, 2),
    ]
    assert made.lift_g == pytest.approx(4 * (63 * 1.1 - 47))
    assert [finding.code for finding in made.findings] == ["floats"]


def test_one_light_master_is_told_even_among_heavy_ones() -> None:
    cork = Master(length_mm=20, width_mm=20, height_mm=20, volume_ml=8, mass_g=2)
    lead = Master(length_mm=20, width_mm=20, height_mm=20, volume_ml=8, mass_g=90)
    made = box(BoxPlan(masters=(cork, lead), rubber_sg=1.1))
    assert made.lift_g == 0
    assert [finding.code for finding in made.findings] == ["floats"]


POT = Pot(bottom_mm=80, top_mm=100, height_mm=120)


@pytest.mark.parametrize(
    ("bed", "over", "raised", "codes"),
    [
        (
            0.0,
            12.0,
            24.0,
            {"too-tight"},
        ),  # 60 x 20 across is 63.2; with 2 x 10.377 beside it is 84, which the pot has 24 mm up
        (24.0, 12.0, 0.0, set()),
        (60.0, 40.0, 0.0, {"overflows"}),
    ],
)
def test_tapered_pot(bed: float, over: float, raised: float, codes: set[str]) -> None:
    side = (84 - hypot(60, 20)) / 2
    one = Master(length_mm=60, width_mm=20, height_mm=35, volume_ml=30)
    made = box(BoxPlan(masters=(one,), shape="tapered", pot=POT, side_mm=side, over_mm=over, bed_mm=bed))
    assert made.raise_to_clear_mm == pytest.approx(raised)
    assert {finding.code for finding in made.findings} == codes
    top = 80 + 20 * made.fill_mm / 120
    assert made.gross_ml == pytest.approx(pi * made.fill_mm * (80**2 + 80 * top + top**2) / 12_000)


def test_no_bed_helps_in_a_straight_or_low_pot() -> None:
    wide = Master(length_mm=80, width_mm=20, height_mm=35, volume_ml=30)
    for pot in (
        Pot(bottom_mm=90, top_mm=90, height_mm=120),
        Pot(bottom_mm=80, top_mm=110, height_mm=40),
        Pot(bottom_mm=110, top_mm=80, height_mm=90),
    ):
        assert box(BoxPlan(masters=(wide,), shape="tapered", pot=pot)).raise_to_clear_mm is None


def test_a_pot_says_which_of_its_limits_fails_and_by_how_much() -> None:
    one = Master(length_mm=60, width_mm=20, height_mm=35, volume_ml=30)  # 63.2 across
    side = (84 - hypot(60, 20)) / 2

    def cure(pot: Pot) -> str:
        made = box(BoxPlan(masters=(one,), shape="tapered", pot=pot, side_mm=side))
        return next(str(finding.facts["cure"]) for finding in made.findings if finding.code == "too-tight")

    assert "A bed of [24.0 length] lifts the master clear" in cure(POT)
    # as before, but 24 + 35 + 12 mm would stand 11 mm over a rim of 60
    low = Pot(bottom_mm=80, top_mm=90, height_mm=60)
    assert "[11.0 length] over the rim" in cure(low)
    # straight walls of 80: two millimetres short on either side at any height
    assert "still [2.0 length] short" in cure(Pot(bottom_mm=80, top_mm=80, height_mm=120))
    assert "[7.0 length] too low" in cure(Pot(bottom_mm=80, top_mm=80, height_mm=40))


def test_a_box_that_is_short_by_less_than_the_size_is_known_does_not_stop() -> None:
    one = Master(length_mm=60, width_mm=20, height_mm=35, volume_ml=30)
    tin = Container(name="Tin", length_mm=83.4, width_mm=60, height_mm=46.7)
    for error_mm, codes in ((0.5, {"tight-hardly", "overflows-hardly"}), (0.1, {"too-tight", "overflows"})):
        made = box(BoxPlan(masters=(one,), container=tin, size_pm_mm=error_mm))
        assert {finding.code for finding in made.findings} == codes
        assert made.fits == (error_mm == 0.5)


@pytest.mark.parametrize(
    ("changed", "field", "says"),
    [
        ({"sunk_mm": 5.0}, "sunk_mm", "Make the bed deeper"),
        ({"sunk_mm": 40.0, "bed_mm": 50.0}, "sunk_mm", "wholly in the bed"),
        ({"rows": 1, "columns": 2}, "rows", "there are 3"),
        ({"side_mm": float("nan")}, "side_mm", "clearance"),
        ({"shape": "tapered"}, "pot", "inside diameters"),
        ({"rubber_sg": 0.0}, "rubber_sg", "specific gravity"),
        ({"side_mm": 9000.0}, "masters", "m³"),
    ],
)
def test_refuses(changed: dict[str, object], field: str, says: str) -> None:
    three = Master(length_mm=60, width_mm=40, height_mm=35, volume_ml=52, count=3)
    with pytest.raises(Refused, match=says) as refused:
        box(BoxPlan(masters=(three,), **changed))
    assert refused.value.field == field


def test_a_volume_larger_than_its_outside_is_refused() -> None:
    with pytest.raises(Refused, match="can't be inside"):
        Master(length_mm=10, width_mm=10, height_mm=10, volume_ml=1.01)
    assert Master(length_mm=10, width_mm=10, height_mm=10, volume_ml=1.0).outside_ml == 1.0
