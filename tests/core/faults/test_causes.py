"""The fault finder: every symptom has causes that can be told apart, and the record moves the right one to the top."""

from dataclasses import replace

import pytest
from records import ADDITION, MASTER, PARTED, Hand, worked_out

from ufrin.core.faults.causes import (
    AGAINST,
    CAUSES,
    FOR,
    OTHER,
    STRONG,
    SYMPTOMS,
    Evidence,
    check_outcome,
    ranked_causes,
)
from ufrin.core.faults.evidence import JobEvidence, evidence, last_poured
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.weighing.bench_state import BenchState
from ufrin.errors import Refused

BOX, RUBBER = BoxInputs(), RubberInputs()


def poured(
    *,
    really_b_g: float | None = None,
    mixed_after_s: float = 200.0,
    poured_after_s: float = 600.0,
    temp_c: float = 23.0,
) -> BenchState:
    hand = Hand()
    hand.entries[0] = replace(hand.entries[0], temp_c=temp_c)
    hand.batch(200.0, 20.0)
    hand.seconds += mixed_after_s
    hand.write("mixed")
    hand.seconds += poured_after_s
    hand.write("poured")
    if really_b_g is not None:  # as a look at the scale's own log told afterwards
        weighed = max(entry.number for entry in hand.entries if entry.kind == "weigh")
        hand.write("correction", really_b_g, of_number=weighed, text="read again")
    return hand.state


GOOD = poured()


def looked(**more: object) -> JobEvidence:
    said = {"plan": worked_out(), "master": MASTER, "box": BOX, "rubber": RUBBER, "pour": GOOD}
    return JobEvidence(**{**said, **more})


def likeliest(symptom: str, **more: object) -> str:
    return ranked_causes(symptom, evidence(looked(**more)))[0].cause.key


def test_every_symptom_has_causes_with_a_test_and_a_remedy() -> None:
    for symptom in SYMPTOMS:
        causes = [cause for cause in CAUSES.values() if symptom in cause.symptoms]
        assert len(causes) >= 2, symptom
        assert len({cause.test for cause in causes}) == len(causes)
    for cause in CAUSES.values():
        assert set(cause.symptoms) <= set(SYMPTOMS)
        assert all(text.endswith(".") for text in (cause.text, cause.test, cause.now, cause.next)), cause.key
    for found in (ranked_causes(symptom, ()) for symptom in SYMPTOMS):
        assert sum(one.share for one in found) == pytest.approx(1)


RECORDS = (
    {},
    {"pour": poured(really_b_g=26.0)},
    {"pour": poured(mixed_after_s=20.0)},
    {"pour": poured(poured_after_s=7200.0)},
    {"pour": poured(temp_c=12.0)},
    {"lots_expired": ("BO-12",), "lots_known": True},
    {"lots_known": True},
    {"demoulded_min": 60.0},
    {"demoulded_min": 6000.0},
    {"shots": 60.0},
    {"rubber": RubberInputs(thinner_parts=40.0, pigment_pct=3.0)},
    {"box": BoxInputs(side_mm=4.0)},
    {"pour": None},
)


def troubled(*mishaps: str, out_after_s: float = 0.0) -> BenchState:
    hand = Hand()
    hand.batch(200.0, 20.0)
    hand.write("mixed")
    hand.write("poured")
    hand.write("leftover", 0.0)
    for what in mishaps or ("leak", "float", "spill"):
        hand.write("mishap", what=what)
    if not mishaps:
        hand.write("short", volume_ml=20.0)
    if out_after_s:
        hand.write("finish")
        hand.seconds += out_after_s
        hand.write("demould", what="well")
    return hand.state


def test_everything_that_a_cause_looks_at_can_be_on_record() -> None:
    seen = {one.key for record in RECORDS for one in evidence(looked(**record))}
    print_ = replace(MASTER, material="photopolymer-print", sealer="none", mass_g=20.0)
    cast = CheckInputs(cast_material="polyester-resin", cast_air="pressure", between_cast="talc")
    odd = (
        worked_out(
            print_,
            checks=replace(cast, between_halves="silicone-release"),
            opening=replace(PARTED, bed_material="sulphur-clay"),
        ),
        worked_out(
            replace(MASTER, material="plaster"),
            BoxInputs(wall_thickness_mm=0.5, wall_material="polypropylene"),
            CheckInputs(air="vacuum"),
        ),
        worked_out(replace(MASTER, mass_g=5.0), rubber=replace(ADDITION, family="polyurethane-rubber")),
        worked_out(checks=cast, rubber=replace(ADDITION, family="condensation-silicone")),
        worked_out(
            MasterInputs(standin="ring", length_mm=60, ring_mm=20, material="brass"),
            rubber=replace(ADDITION, elongation_pct=100),
        ),
    )
    for one in odd:
        seen |= {line.key for line in evidence(looked(plan=one, master=print_))}
    twice = Hand(replace(Hand().plan, batches=Hand().plan.batches * 2))
    for _ in range(2):
        twice.batch(200.0, 20.0)
        for kind in ("mixed", "poured", "leftover"):
            twice.write(kind, 0.0 if kind == "leftover" else None)
    wrong = Hand()
    wrong.write("tare")
    wrong.write("wrong", 12.0, ingredient="B")
    seen |= {line.key for pour in (twice.state, wrong.state, troubled()) for line in evidence(looked(pour=pour))}
    wanted = {key for cause in CAUSES.values() for key in cause.looks_at}
    assert wanted - seen == set()


@pytest.mark.parametrize(
    ("symptom", "cause", "record"),
    [
        ("sticky-all", "ratio", {"pour": poured(really_b_g=26.0)}),
        ("sticky-all", "cold", {"pour": poured(temp_c=10.0)}),
        ("sticky-all", "mixing", {"pour": poured(mixed_after_s=15.0)}),
        ("soft", "early", {"demoulded_min": 60.0}),
        ("lines", "late", {"pour": poured(poured_after_s=7200.0)}),
        ("oily", "thinned", {"rubber": RubberInputs(thinner_parts=45.0)}),
        ("torn", "worn", {"shots": 80.0}),
    ],
)
def test_the_record_moves_the_cause_to_the_top(symptom: str, cause: str, record: dict[str, object]) -> None:
    assert likeliest(symptom, **record) == cause


def test_what_was_noted_at_the_bench_moves_the_cause_to_the_top() -> None:
    assert likeliest("leaks", pour=troubled("leak")) == "gap-in-box"
    assert likeliest("master-damaged", pour=troubled("float")) == "crept-under"
    out = evidence(looked(pour=troubled("spill", out_after_s=3600.0)))  # 16 h are its time
    (early,) = [line for line in out if line.key == "early-demould"]
    assert early.factor == STRONG


def test_what_touches_moves_the_cause_to_the_top() -> None:
    print_ = replace(MASTER, material="photopolymer-print", sealer="none")
    assert likeliest("sticky-skin", plan=worked_out(print_), master=print_) == "inhibited-master"
    bad = worked_out(
        MASTER,
        checks=CheckInputs(between_halves="silicone-release"),
        opening=replace(PARTED, bed_material="sulphur-clay"),
    )
    assert likeliest("sticky-edge", plan=bad) == "inhibited-elsewhere"
    assert likeliest("stuck-to-master", plan=bad) == "silicone-release"
    bare = worked_out(checks=CheckInputs(between_halves="none"), opening=PARTED)
    assert likeliest("stuck-to-master", plan=bare) == "grown-together"
    pressed = worked_out(checks=CheckInputs(cast_air="pressure"))
    assert likeliest("warts", plan=pressed) == "pressed"
    walls = worked_out(box=BoxInputs(wall_material="plywood"), checks=CheckInputs(between_walls="none"))
    assert likeliest("stuck-in-box", plan=walls) == "walls-grip"


def test_four_good_batches_do_not_excuse_the_fifth() -> None:
    def mixed(*factors: float) -> float:
        lines = [Evidence(key="short-mix", factor=factor, text="") for factor in factors]
        return {one.cause.key: one.share for one in ranked_causes("sticky-all", lines)}["mixing"]

    assert (
        mixed(AGAINST, AGAINST, FOR, AGAINST, AGAINST)
        == mixed(FOR)
        > mixed()
        > mixed(AGAINST, AGAINST)
        == mixed(AGAINST)
    )


def test_what_it_was_before_weighs_more() -> None:
    before, after = ranked_causes("leaks", ()), ranked_causes("leaks", (), ["crept-under"])
    share = {one.cause.key: one.share for one in before}
    assert {one.cause.key: one.share for one in after}["crept-under"] > share["crept-under"]


def test_a_pour_in_which_nothing_was_poured_says_nothing() -> None:
    begun = Hand().state
    assert last_poured([begun, GOOD]) is GOOD
    assert last_poured([begun]) is None


@pytest.mark.parametrize(
    ("symptom", "cause", "note"),
    [("green", "ratio", ""), ("soft", "gremlins", ""), ("soft", OTHER, " "), ("soft", "ratio", "x" * 401)],
)
def test_an_outcome_that_says_nothing_is_refused(symptom: str, cause: str, note: str) -> None:
    with pytest.raises(Refused, match=r"[A-Z].*\."):
        check_outcome(symptom, cause, note)


def test_causes_of_a_symptom_that_nobody_knows() -> None:
    with pytest.raises(Refused, match="What does it look like"):
        ranked_causes("green", ())
