"""Findings: every code that is declared can happen, speaks in both unit systems, and points at a field that exists."""

from dataclasses import replace
from functools import cache
from string import Formatter

import numpy as np
import pytest
from manifold3d import Manifold
from records import PLAN, Hand, at
from shapes import CUBE, ball, cup, dumbbell, egg, figure_of_eight, inside_out, moved, torn, u_tube, without

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import box
from ufrin.core.casting.additions import Addition
from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.resins import Resin
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.casts import CastInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.casts_station import answer_casts
from ufrin.core.job.checks_station import ShopWays
from ufrin.core.job.job_plan import JobContext, plan
from ufrin.core.job.job_state import curing_finding, pour_states
from ufrin.core.job.shelf_picks import ShelfPicks, Stocked
from ufrin.core.job.terms.box import BOX_TERMS
from ufrin.core.job.terms.casts import CASTS_TERMS
from ufrin.core.job.terms.checks import CHECKS_TERMS
from ufrin.core.job.terms.master import MASTER_TERMS
from ufrin.core.job.terms.opening import OPENING_TERMS
from ufrin.core.job.terms.rubber import RUBBER_TERMS
from ufrin.core.job.weighed_pours import WeighedPour
from ufrin.core.master.attitudes import turn_up
from ufrin.core.master.master_form import Master, stand_form
from ufrin.core.mesh.line_work import shadow
from ufrin.core.mesh.manifolds import from_manifold
from ufrin.core.mesh.mesh_volume import as_displaced, measure
from ufrin.core.mesh.triangles import Mesh, joined
from ufrin.core.moulds.mould_life import UsedMould, life_findings
from ufrin.core.opening.keys import Key, check_keys, flange
from ufrin.core.opening.parting_surface import box_round, parting_surface
from ufrin.core.pairing.contacts import Contact, judged
from ufrin.core.pairing.rules import OwnRule
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.coupons import Coupon
from ufrin.core.rubber.shore import Hardness
from ufrin.core.rubber.terms import COUPON_TERMS, RUBBER_TIN_TERMS
from ufrin.core.rubber.thinner_curve import CouponPoint
from ufrin.core.rubber.tins import Rubber
from ufrin.core.schedule.plan_findings import gathering_findings, plan_findings, unattended_findings
from ufrin.core.schedule.steps import Step, Thing, Work, Worker, plan_of
from ufrin.core.shelf.containers import Container, Pot
from ufrin.core.shelf.lots import Lot
from ufrin.core.weighing.mix import MixPlan, Thinner, mix
from ufrin.core.weighing.weigh_plan import WeighPlan
from ufrin.core.wording.findings import SENTENCES, Amount, Finding, worst_first
from ufrin.language import Text, language

TIN = Rubber(name="Saltmarsh 25", weight_a=100, weight_b=10, sg_mixed=1.13, pot_life_min=45, kit_g=100, kit_price=3)
BOTH = Rubber(name="Bosun 40", weight_a=100, weight_b=50, volume_a=1, volume_b=1, sg_a=1.05, sg_b=0.945)
SIZED = MasterInputs(length_mm=60, width_mm=40, height_mm=35, mass_g=20)
WET = replace(SIZED, level_before_ml=100.0, level_after_ml=152.0)


def scheduled() -> list[Finding]:
    """A step that is wished to be done before it can be, in a plan of which more is not known."""
    late = Step(key="a", job="Ammonite", label="Pour", attended_s=7200, finish_by_s=3600)
    work = Work(steps=(late,), people=(Worker(key="1", windows=((0, 9 * 3600),)),))
    known = replace(plan_of(work, {"a": 0}, {"a": "1"}), bound_s=3600)
    night = Work(
        steps=(Step(key="a", job="Cleat", alone_s=7 * 3600, uses=("oven",)),), people=(), things=(Thing(key="oven"),)
    )
    unattended = unattended_findings(night, plan_of(night, {"a": 0}, {}), {"oven": "the oven"})
    return [
        *unattended,
        *plan_findings(work, known),
        *gathering_findings(
            ["an oven that nobody has"], {"Badges": 12}, [late], [("Cleat", "The scale is too coarse.")]
        ),
    ]


@cache
def raised() -> list[Finding]:
    """Scenes of the workshop, chosen so that between them everything goes wrong that can."""
    found: list[Finding] = []
    for master in (
        SIZED,
        WET,
        replace(WET, hung_reading_g=80.0),
        replace(WET, hung_reading_g=80.0, counted_way="hung"),
        replace(WET, level_after_ml=190.0),
        replace(WET, mass_g=900.0),
        replace(WET, mass_g=1500.0),
        replace(SIZED, known_ml=4.0),
        replace(WET, material="glass", density_g_per_ml=1.0),
        replace(WET, mass_g=None),
    ):
        for made in (
            plan(
                master,
                BoxInputs(side_mm=3.0, over_mm=3.0, gap_mm=300.0),
                RubberInputs(
                    rubber_id=1, cup_ml=60.0, pigment_pct=4.0, scale_step_g=10.0, room_temp_c=33.0, post_cure_c=80.0
                ),
                JobContext(shelf=ShelfPicks(rubber=TIN, retired=True), not_ready=("Cormorant",)),
            ),
            plan(
                master,
                BoxInputs(),
                RubberInputs(rubber_id=1, basis="volume", cup_mark_ml=100.0),
                JobContext(shelf=ShelfPicks(rubber=BOTH)),
            ),
            plan(
                master, BoxInputs(), RubberInputs(rubber_id=1, basis="volume"), JobContext(shelf=ShelfPicks(rubber=TIN))
            ),
        ):
            found += [finding for of_station in made.findings.values() for finding in of_station]
    stood_in = MasterInputs(standin="block", length_mm=300.0, width_mm=200.0, height_mm=200.0)
    scrap = BoxInputs(
        filler_ml=9000.0, filler_family="polyurethane-rubber", wall_thickness_mm=2.0, wall_material="polypropylene"
    )
    found += plan(stood_in, scrap, RubberInputs(rubber_id=1), JobContext(shelf=ShelfPicks(rubber=TIN))).findings["box"]
    found += plan(stood_in, BoxInputs(), RubberInputs(), JobContext()).findings["master"]
    many = RubberInputs(rubber_id=1, cup_ml=40.0, scale_step_g=0.1)
    slow = plan(
        replace(WET, mass_g=20.0),
        BoxInputs(),
        many,
        JobContext(shelf=ShelfPicks(rubber=TIN)),
        OpeningInputs(style="open"),
    )
    found += slow.findings["rubber"] + slow.findings["box"]
    found += broken_meshes() + soft_and_thinned() + off_gauge() + how_they_open() + how_they_are_cast()
    putty = Rubber(name="Wharf", form="putty", weight_a=1, weight_b=1, sg_mixed=1.45, press_min=3)
    hot = RubberInputs(rubber_id=1, room_temp_c=34.0)
    pressed = JobContext(shelf=ShelfPicks(rubber=putty))
    found += plan(WET, BoxInputs(), hot, pressed, OpeningInputs(style="press")).findings["rubber"]
    one = Master(length_mm=60, width_mm=40, height_mm=35, volume_ml=52)
    tin = Container(name="Tin", length_mm=83.4, width_mm=70, height_mm=46.7)
    found += box(BoxPlan(masters=(one,), container=tin, size_pm_mm=0.5)).findings
    bollard = Master(length_mm=20, width_mm=20, height_mm=120, volume_ml=30)
    gang = JobContext(shelf=ShelfPicks(rubber=TIN), others=(bollard,))
    found += plan(WET, BoxInputs(count=9.0), RubberInputs(), gang, OpeningInputs(style="open")).findings["box"]
    found += replace(BOTH, sg_mixed=1.3).findings()
    found += replace(TIN, weight_a=10, weight_b=100).findings()
    for over in (12.0, 20.0, 60.0):
        found += box(
            BoxPlan(masters=(one,), shape="tapered", pot=Pot(bottom_mm=80, top_mm=90, height_mm=60), over_mm=over)
        ).findings
    for dose in (30, 60):
        found += mix(MixPlan(need_g=100, ratio={"A": 1, "B": 1}, thinner=Thinner(parts_per_100=dose))).findings
    for record in ([(5, False)], [(5, True)], [(5, True)] * 2):
        found += life_findings([UsedMould(casts=casts, failed=failed) for casts, failed in record])
    found += scheduled()
    half = WeighPlan(
        what="the box",
        half="first",
        rubber="Tin",
        b_per_a=0.1,
        tolerance_pct=2,
        step_g=0.1,
        sg=1,
        need_g=220,
        batches=PLAN.batches,
        demould_min=60,
    )
    hand = Hand(half)
    hand.batch(None, None)
    for kind in ("mixed", "poured"):
        hand.write(kind)
    hand.write("leftover", 0.0)
    hand.write("finish")
    curing = curing_finding(pour_states(("first", "second"), [(7, hand.state)], at(300)))
    assert curing is not None
    untimed = Hand(replace(half, demould_min=None))
    untimed.batch(None, None)
    for kind in ("mixed", "poured"):
        untimed.write(kind)
    untimed.write("leftover", 0.0)
    untimed.write("finish")
    unknown = curing_finding(pour_states(("first", "second"), [(7, untimed.state)], at(300)))
    assert unknown is not None
    # a mould that was begun with another rubber
    begun = WeighedPour(half="", rubber="Bosun 40", style="open", need_g=90)
    swapped = plan(
        MasterInputs(length_mm=60, width_mm=40, height_mm=35, known_ml=50),
        BoxInputs(),
        RubberInputs(),
        JobContext(shelf=ShelfPicks(rubber=TIN), weighed=(begun,)),
        OpeningInputs(style="open"),
    )
    return [*found, curing, unknown, *swapped.findings["rubber"]]


def soft_and_thinned() -> list[Finding]:
    """A soft rubber with the wrong thinner, short and old tins, a room too warm, a kit that is not enough.

    Its coupons contradict each other.
    """
    soft = replace(TIN, name="Estuary 5", hardness=5.0, viscosity_mpa_s=9000)
    oil = Additive(name="Slack thinner", family="polyurethane-rubber", most_parts=30.0)
    lots = (
        Lot(code="ES-1", part="A", left_g=5, got_g=900, days_left=-40),
        Lot(code="ES-2", part="B", left_g=1, got_g=90, days_left=9),
    )
    stock = {key: Stocked(shelf="rubber:1", lots=lots) for key in "AB"}
    off = [
        CouponPoint(parts_per_100=parts, hardness=Hardness(scale="00", shore=shore))
        for parts, shore in ((10, 30), (20, 45), (30, 28))
    ]
    found: list[Finding] = []
    found += plan(WET, BoxInputs(), RubberInputs(rubber_id=1), JobContext(shelf=ShelfPicks(rubber=soft))).findings[
        "rubber"
    ]
    for points in ((), tuple(off)):
        shelf = ShelfPicks(rubber=soft, thinner=oil, stock=stock, points=points)
        said = RubberInputs(
            rubber_id=1,
            thinner_id=1,
            thinner_parts=40.0,
            mix_min=60.0,
            room_temp_c=33.0,
            amount="kit",
            kit_left_a_g=10.0,
        )
        found += plan(WET, BoxInputs(), said, JobContext(shelf=shelf)).findings["rubber"]
    return found


def opened(
    mesh: Mesh, said: OpeningInputs, box: BoxInputs | None = None, rubber: Rubber | None = None
) -> list[Finding]:
    beside = JobContext(shelf=ShelfPicks(rubber=rubber), mesh=stand_form(mesh, (0, 0, 1)))
    return list(plan(MasterInputs(), box or BoxInputs(), RubberInputs(rubber_id=1), beside, said).findings["opening"])


def how_they_open() -> list[Finding]:
    """Moulds that won't let go, keep their air, part badly, or have their keys, gate and vents in bad places."""
    stiff = replace(TIN, elongation_pct=150.0)
    bell = from_manifold(
        Manifold.cylinder(40, 30, 30, 48)
        - Manifold.cylinder(25, 20, 20, 48).translate((0, 0, 8))
        + Manifold.cylinder(40, 4, 4, 24)
    )
    found = list(plan(SIZED, BoxInputs(), RubberInputs(), JobContext(), OpeningInputs(hook=True)).findings["opening"])
    found += opened(egg(), OpeningInputs(style="press"))
    found += opened(dumbbell(), OpeningInputs(style="open"), rubber=stiff)
    found += opened(dumbbell(), OpeningInputs(style="open"), rubber=TIN)
    found += opened(dumbbell(), OpeningInputs(style="two-part", show="0, -1, 0", key_mm=30.0), BoxInputs(bed_mm=3.0))
    found += opened(cup(), OpeningInputs(style="open")) + opened(bell, OpeningInputs(style="two-part"))
    tunnel = [(x, y, z) for y in (10.0, 30.0) for x, z in ((-1.0, -1.0), (50.0, -1.0), (-1.0, 9.9), (50.0, 15.0))]
    arch = from_manifold(Manifold.cube((60, 40, 30)) - Manifold.hull_points(tunnel))
    found += opened(arch, OpeningInputs(style="open")) + opened(arch, OpeningInputs(style="open", tilt_limit_deg=0.0))
    tilted = CUBE.moved(turn_up((0.3, 0.2, 1)))
    found += opened(tilted, OpeningInputs(style="two-part", slack_mm=3.0, keys="-18, 0; 0, 0; 20, 12; 21, 12"))
    found += opened(
        ball(40, 48), OpeningInputs(style="two-part", key_mm=5.0, keys="27, 27; -27, 27; -27, -27; 27, -27; 100, 0")
    )
    pot = BoxInputs(shape="container", container_id=1, side_mm=1.0)
    alike = OpeningInputs(style="two-part", keys="24, 24; -24, 24; -24, -24; 24, -24")
    wide = Container(name="pot", shape="tapered", bottom_mm=90, top_mm=110, height_mm=120)
    beside = JobContext(shelf=ShelfPicks(rubber=None), mesh=stand_form(ball(40, 48), (0, 0, 1)), container=wide)
    found += plan(MasterInputs(), pot, RubberInputs(), beside, alike).findings["opening"]
    round_box = box_round(ball(40, 48), 12)
    split = parting_surface(ball(40, 48), round_box, under_mm=12, over_mm=12, cells=48)
    rim = flange(round_box, shadow(ball(40, 48)))
    found += check_keys(
        tuple(Key(x_mm=x, y_mm=y, diameter_mm=5) for x in (-27, 27) for y in (-27, 27)), round_box, rim, split
    )
    roofed = from_manifold(
        Manifold.cube((40, 20, 5))
        + Manifold.cube((5, 20, 40))
        + Manifold.cube((220, 220, 5)).translate((-90, -100, 35))
    )
    found += opened(
        roofed,
        OpeningInputs(style="two-part", cast_up="0, 0, 1", show="0, 0, 1", gates="20, 10, 40", vents="30, 10, 5"),
    )
    found += opened(u_tube(), OpeningInputs(style="two-part", cast_up="0, 0, 1", vents="none"))
    climb_mm = 1.2 * split.cell_mm * np.arange(len(split.height_mm))[:, None]
    steep = replace(split, height_mm=split.height_mm + climb_mm)
    found += check_keys((Key(x_mm=26, y_mm=26, diameter_mm=5),), round_box, rim, steep)
    studded = from_manifold(Manifold.cube((40, 40, 20)) + Manifold.cylinder(1.8, 5, 5, 48).translate((20, 20, 19)))
    found += opened(
        studded, OpeningInputs(style="two-part", cast_up="0, 0, 1", gates="2, 2, 20", vents="none", worth_ml=0.5)
    )
    foil = from_manifold(
        Manifold.cylinder(40, 20, 20, 48) - Manifold.cylinder(40, 19.95, 19.95, 48).translate((0, 0, -0.05))
    )
    found += opened(foil, OpeningInputs(style="open"))
    found += unsuited() + list(replace(TIN, sg_mixed=11.3).findings())
    shell = Manifold.cube((60, 50, 70)) - Manifold.cube((52, 42, 62)).translate((4, 4, 4))
    drained = from_manifold(shell - Manifold.cylinder(10, 2, 2, 32).translate((15, 25, -2)))
    beside = JobContext(mesh=stand_form(drained, (0, 0, 1)))
    found += plan(MasterInputs(), BoxInputs(), RubberInputs(), beside).findings["master"]
    wood = MasterInputs(length_mm=100, width_mm=100, height_mm=101, mass_g=900, material="hardwood", solid=True)
    found += plan(wood, BoxInputs(), RubberInputs(), JobContext()).findings["master"]
    stalk = Manifold.cylinder(30, 2.5, 2.5, 48) + Manifold.sphere(15, 48).translate((0, 0, 40))
    found += opened(from_manifold(stalk + Manifold.cylinder(5, 20, 20, 48)), OpeningInputs(style="open"))
    codes = (("mesh-thinned", {}), ("cells-raised", {"cells": "192", "asked": "128"}), ("rays-lost", {"rays": "3"}))
    return [
        *found,
        *(Finding(code=code, facts=facts) for code, facts in codes),
    ]  # told of meshes larger, thinner and more torn than a test's


def unsuited() -> list[Finding]:
    """Things that meet and should not, and casts that will not look as they are to."""
    tin = replace(TIN, viscosity_mpa_s=9000.0)
    tested = OwnRule(
        pour="addition-silicone", touches="metal", between="none", verdict="fine", why="Set.", tried_on="2026-03-01"
    )
    differing = ShopWays(own_rules=(tested, replace(tested, verdict="will-not-set", tried_on="2024-03-01")))
    jobs = (
        (
            replace(WET, material="oil-clay", finish="shiny"),
            CheckInputs(cast_finish="matt", cast_air="pressure", cast_material="polyurethane-resin"),
            tin,
        ),
        (
            replace(WET, material="latex"),
            CheckInputs(
                cast_finish="painted", between_cast="wax", air="vacuum", cast_material="plaster", vacuum_kpa=150.0
            ),
            tin,
        ),
        (
            replace(WET, material="plaster", sealer="none"),
            CheckInputs(cast_finish="painted", between_cast="silicone-release", cast_material="plaster"),
            tin,
        ),
        (replace(WET, material="brass"), CheckInputs(), replace(tin, family="polyurethane-rubber")),
        (replace(WET, material="brass"), CheckInputs(cast_material="plaster"), tin),
    )
    made = [
        plan(
            master,
            BoxInputs(),
            RubberInputs(cup_ml=50.0),
            JobContext(shelf=ShelfPicks(rubber=rubber), shop=differing),
            checked=checks,
        )
        for master, checks, rubber in jobs
    ]
    halves = plan(
        WET,
        BoxInputs(),
        RubberInputs(),
        JobContext(shelf=ShelfPicks(rubber=TIN)),
        OpeningInputs(style="two-part"),
        checked=CheckInputs(between_halves="none"),
    )
    strange = Contact(
        key="walls",
        pour="addition-silicone",
        touches="moon dust",
        pour_name=Text("the rubber"),
        touches_name=Text("the walls"),
    )
    unknown = judged(strange).finding()
    return [finding for one in (*made, halves) for finding in one.findings["checks"]] + ([unknown] if unknown else [])


def how_they_are_cast() -> list[Finding]:
    """Shots that are too heavy, too deep, too slow, too stiff, of the wrong colour, and with things set in."""
    tin = Resin(
        name="Quay",
        b_name="Quay B",
        weight_a=1,
        weight_b=1,
        sg_a=1.1,
        sg_b=1.0,
        viscosity_mpa_s=900,
        pot_life_min=4,
        most_g=20,
        most_mm=5,
    )
    gel = Resin(name="Gel", kind="polyester-resin", sg_a=1.1, drops_per_100_g=40)
    foam = Resin(name="Foam", kind="rigid-foam", weight_a=1, weight_b=1, sg_mixed=1.1, rises=9)
    chalk = Addition(name="Chalk", bulk_sg=0.95, true_sg=2.7, most_volumes=1, dry_min=240, dry_c=66)
    clay = Addition(name="Clay", bulk_sg=2.6, true_sg=2.7, most_volumes=9)
    tar, grey = Addition(name="Tar", kind="water-colour"), Addition(name="Grey", kind="resin-colour")
    full = CastPicks(resin=tin, foam=foam, filler=chalk)
    made = plan(WET, BoxInputs(), RubberInputs(room_temp_c=35.0), JobContext(), OpeningInputs(style="open"))
    apart = plan(replace(WET, known_ml=20.0), BoxInputs(), RubberInputs(), JobContext(), OpeningInputs(style="open"))
    shots: list[tuple[CastInputs, CastPicks]] = [
        (CastInputs(resin_id=1, cup_ml=10.0), full),
        (CastInputs(resin_id=1, each_g=1.0), full),
        (CastInputs(resin_id=1, cast_kind="colours", colour_shares="60, 30"), full),
        (CastInputs(resin_id=1, cast_colour_id=1), replace(full, colour=tar)),
        (CastInputs(resin_id=1, cast_colour_id=1, colour_pct=60.0), replace(full, colour=grey)),
        (CastInputs(resin_id=1), CastPicks(resin=gel)),
        (CastInputs(resin_id=1, cast_kind="filled", scoops=3.0), full),
        (CastInputs(resin_id=1, cast_kind="filled", scoops=8.0), replace(full, filler=clay)),
        (CastInputs(resin_id=1, cast_kind="foam-back", area_cm2=100.0, thickness_mm=2.0), full),
        (CastInputs(resin_id=1, cast_kind="shell"), full),
        (CastInputs(resin_id=1, cast_kind="layers", set_in_ml=3.0, set_in_g=1.0), full),
        (CastInputs(resin_id=1, cast_kind="layers", set_in_ml=3.0, set_in_g=9.0), full),
    ]
    other = answer_casts(
        CastInputs(resin_id=1), made, full, checked_as="plaster", only_family="addition-silicone"
    ).findings
    other += answer_casts(CastInputs(resin_id=1), apart, full).findings
    return [*(finding for inputs, picks in shots for finding in answer_casts(inputs, made, picks).findings), *other]


def off_gauge() -> list[Finding]:
    """Pucks that were cast and read as they should not be."""
    soft, stone = (
        Coupon(scale="A", readings=(12, 11), thickness_mm=4, edge_mm=5),
        Coupon(scale="00", readings=(4, 5, 3, 4, 5)),
    )
    return [*soft.findings(), *stone.findings()]


def broken_meshes() -> list[Finding]:
    """Meshes with every fault that can be mended, or lived with."""
    hollow = inside_out(Mesh(vertices_mm=CUBE.vertices_mm * 0.5 + [0, 0, 2], faces=CUBE.faces))
    faulty = [
        inside_out(CUBE),
        joined([CUBE, hollow]),
        joined([CUBE, moved(CUBE, 5, 5, 5)]),
        without(egg(), 7),
        torn(),
        figure_of_eight(),
    ]
    found = [finding for mesh in faulty for finding in measure(mesh).findings]
    found += as_displaced(measure(joined([CUBE, hollow]))).findings
    return [*found, Finding(code="mesh-unit", facts={"says": "m", "taken": "mm"})]


def test_every_code_can_happen() -> None:
    assert {finding.code for finding in raised()} == set(SENTENCES)


@pytest.mark.parametrize("code", sorted(SENTENCES))
def test_it_says_what_why_and_what_to_do(code: str) -> None:
    finding = next(finding for finding in raised() if finding.code == code)
    needed = {name for _, name, _, _ in Formatter().parse(SENTENCES[code][1]) if name}
    assert needed == set(finding.facts)
    metric, us = finding.text("metric"), finding.text("us")
    assert len(metric.split(". ")) + metric.count(":") + metric.count(",") >= 2
    assert metric.endswith(".")
    if any(isinstance(fact, Amount) and fact.kind in {"length", "mass", "volume"} for fact in finding.facts.values()):
        assert metric != us
    assert finding.field == "" or finding.field in {
        **MASTER_TERMS,
        **OPENING_TERMS,
        **BOX_TERMS,
        **RUBBER_TERMS,
        **CASTS_TERMS,
        **RUBBER_TIN_TERMS,
        **COUPON_TERMS,
        **CHECKS_TERMS,
        "thinner": None,
        "other_id": None,
    }


def test_the_worst_comes_first() -> None:
    levels = [finding.level for finding in worst_first(raised())]
    assert levels == sorted(levels, key=["stop", "warn", "note"].index)


def test_no_fact_is_a_text_that_was_cut_out_of_its_translation() -> None:
    texts = {key.lower() for key in language("de").messages._catalog if isinstance(key, str)}  # noqa: SLF001 - no other way lists them
    lost = {
        (finding.code, name): fact
        for finding in raised()
        for name, fact in finding.facts.items()
        if type(fact) is str and fact.lower() in texts and fact != "mm"
    }
    assert lost == {}
