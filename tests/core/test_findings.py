"""Findings: every code that is declared can happen, speaks in both unit systems, and points at a field that exists."""

from dataclasses import replace
from string import Formatter

import pytest
from shapes import CUBE, egg, figure_of_eight, inside_out, moved, torn, without

from ufrin.core.additives import Additive
from ufrin.core.box_plans import BoxPlan
from ufrin.core.boxes import box
from ufrin.core.coupons import Coupon
from ufrin.core.findings import SENTENCES, Amount, Finding, worst_first
from ufrin.core.from_shelf import FromShelf, Stocked
from ufrin.core.hardness import Hardness
from ufrin.core.lots import Lot
from ufrin.core.measuring import measure
from ufrin.core.meshes import Mesh, together
from ufrin.core.plan import Beside, plan
from ufrin.core.pots import Pot
from ufrin.core.rubbers import Rubber
from ufrin.core.standing import Master
from ufrin.core.stations import BoxInputs, MasterInputs, RubberInputs
from ufrin.core.terms import BOX, COUPON, MASTER, RUBBER, SHELF
from ufrin.core.thinning import Point
from ufrin.core.weighing import MixPlan, Thinner, mix

TIN = Rubber(name="Saltmarsh 25", weight_a=100, weight_b=10, sg_mixed=1.13, pot_life_min=45, kit_g=100, kit_price=3)
BOTH = Rubber(name="Bosun 40", weight_a=100, weight_b=50, volume_a=1, volume_b=1, sg_a=1.05, sg_b=0.945)
SIZED = MasterInputs(length_mm=60, width_mm=40, height_mm=35, mass_g=20)
WET = replace(SIZED, level_before_ml=100.0, level_after_ml=152.0)


def raised() -> list[Finding]:
    """Scenes of the workshop, chosen so that between them everything goes wrong that can."""
    found: list[Finding] = []
    for master in (
        SIZED,
        WET,
        replace(WET, hung_reading_g=80.0),
        replace(WET, level_after_ml=190.0),
        replace(WET, mass_g=900.0),
        replace(WET, mass_g=1500.0),
        replace(WET, material="glass", density_g_per_ml=1.0),
        replace(WET, mass_g=None),
    ):
        for made in (
            plan(
                master,
                BoxInputs(side_mm=3.0, over_mm=3.0),
                RubberInputs(rubber_id=1, cup_ml=60.0, pigment_pct=4.0, scale_step_g=10.0, room_temp_c=33.0),
                Beside(shelf=FromShelf(rubber=TIN, retired=True), not_ready=("Cormorant",)),
            ),
            plan(master, BoxInputs(), RubberInputs(rubber_id=1, basis="volume", cup_mark_ml=100.0), Beside(shelf=FromShelf(rubber=BOTH))),
            plan(master, BoxInputs(), RubberInputs(rubber_id=1, basis="volume"), Beside(shelf=FromShelf(rubber=TIN))),
        ):
            found += [finding for of_station in made.findings.values() for finding in of_station]
    stood_in = MasterInputs(standin="block", length_mm=300.0, width_mm=200.0, height_mm=200.0)
    scrap = BoxInputs(filler_ml=9000.0, filler_family="polyurethane-rubber", wall_thickness_mm=2.0, wall_material="polypropylene")
    found += plan(stood_in, scrap, RubberInputs(rubber_id=1), Beside(shelf=FromShelf(rubber=TIN))).findings["box"]
    found += plan(stood_in, BoxInputs(), RubberInputs(), Beside()).findings["master"]
    found += broken_meshes() + soft_and_thinned() + off_gauge()
    one = Master(length_mm=60, width_mm=40, height_mm=35, volume_ml=52)
    for over in (12.0, 20.0, 60.0):
        found += box(BoxPlan(masters=(one,), shape="tapered", pot=Pot(bottom_mm=80, top_mm=90, height_mm=60), over_mm=over)).findings
    for dose in (30, 60):
        found += mix(MixPlan(need_g=100, ratio={"A": 1, "B": 1}, thinner=Thinner(parts_per_100=dose))).findings
    return found


def soft_and_thinned() -> list[Finding]:
    """A soft rubber with the wrong thinner, short and old tins, a room too warm, a kit that is not enough, and coupons that contradict each other."""
    soft = replace(TIN, name="Estuary 5", hardness=5.0, viscosity_mpa_s=9000)
    oil = Additive(name="Slack thinner", family="polyurethane-rubber")
    lots = (Lot(code="ES-1", part="A", left_g=5, got_g=900, days_left=-40), Lot(code="ES-2", part="B", left_g=1, got_g=90, days_left=9))
    stock = {key: Stocked(shelf="rubber:1", lots=lots) for key in "AB"}
    off = [Point(parts_per_100=parts, hardness=Hardness(scale="00", shore=shore)) for parts, shore in ((10, 30), (20, 45), (30, 28))]
    found: list[Finding] = []
    found += plan(WET, BoxInputs(), RubberInputs(rubber_id=1), Beside(shelf=FromShelf(rubber=soft))).findings["rubber"]
    for points in ((), tuple(off)):
        shelf = FromShelf(rubber=soft, thinner=oil, stock=stock, points=points)
        said = RubberInputs(rubber_id=1, thinner_id=1, thinner_parts=40.0, mix_min=60.0, room_temp_c=33.0, amount="kit", kit_left_a_g=10.0)
        found += plan(WET, BoxInputs(), said, Beside(shelf=shelf)).findings["rubber"]
    return found


def off_gauge() -> list[Finding]:
    """Pucks that were cast and read as they should not be."""
    soft, stone = Coupon(scale="A", readings=(12, 11), thickness_mm=4, edge_mm=5), Coupon(scale="00", readings=(4, 5, 3, 4, 5))
    return [*soft.findings(), *stone.findings()]


def broken_meshes() -> list[Finding]:
    """Meshes with every fault that can be mended, or lived with."""
    hollow = inside_out(Mesh(vertices_mm=CUBE.vertices_mm * 0.5 + [0, 0, 2], faces=CUBE.faces))
    faulty = [inside_out(CUBE), together([CUBE, hollow]), together([CUBE, moved(CUBE, 5, 5, 5)]), without(egg(), 7), torn(), figure_of_eight()]
    found = [finding for mesh in faulty for finding in measure(mesh).findings]
    return [*found, Finding(code="mesh-unit", facts={"says": "m", "taken": "mm"})]


RAISED = raised()


def test_every_code_can_happen() -> None:
    assert {finding.code for finding in RAISED} == set(SENTENCES)


@pytest.mark.parametrize("code", sorted(SENTENCES))
def test_it_says_what_why_and_what_to_do(code: str) -> None:
    finding = next(finding for finding in RAISED if finding.code == code)
    needed = {name for _, name, _, _ in Formatter().parse(SENTENCES[code][1]) if name}
    assert needed == set(finding.facts)
    metric, us = finding.text("metric"), finding.text("us")
    assert len(metric.split(". ")) + metric.count(":") + metric.count(",") >= 2
    assert metric.endswith(".")
    if any(isinstance(fact, Amount) and fact.kind in {"length", "mass", "volume"} for fact in finding.facts.values()):
        assert metric != us
    assert finding.field == "" or finding.field in {**MASTER, **BOX, **RUBBER, **SHELF, **COUPON, "thinner": None, "other_id": None}


def test_the_worst_comes_first() -> None:
    levels = [finding.level for finding in worst_first(RAISED)]
    assert levels == sorted(levels, key=["stop", "warn", "note"].index)
