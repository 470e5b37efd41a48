"""Pairing: no case without a rule, no rule against another, every remedy mends.

A shop's own tests come first; files of them go out and in.
"""

import contextlib
import json
from dataclasses import replace
from datetime import date
from importlib.resources import files
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.exchange.pairing_tests_json import FORM, MOST_BYTES, SCHEMA, read, written
from ufrin.core.materials.kinds import BETWEENS, GROUPS, POURS, PUT_ON, SURFACES, members
from ufrin.core.pairing.rules import (
    REMEDIES,
    RULES,
    VERDICTS,
    WORST,
    OwnRule,
    check_kinds,
    contradictions,
    judge,
    judge_layers,
)
from ufrin.errors import Refused

CASES = list(product(POURS, SURFACES, BETWEENS))
ADDITION, CONDENSATION = "addition-silicone", "condensation-silicone"

# common practice, no source
FACTS = [
    (ADDITION, "sulphur-clay", "none", {"will-not-set"}),
    (ADDITION, "sulphur-clay", "silicone-free-release", {"will-not-set"}),
    (ADDITION, "sulphur-free-clay", "none", {"fine"}),
    (ADDITION, "photopolymer-print", "none", {"will-not-set"}),
    (ADDITION, "photopolymer-print", "clear-coat", {"fine"}),
    (ADDITION, CONDENSATION, "none", {"will-not-set"}),
    (ADDITION, "latex", "none", {"may-not-set"}),
    (ADDITION, "epoxy-resin", "none", {"may-not-set"}),
    (CONDENSATION, "photopolymer-print", "none", {"fine"}),
    (CONDENSATION, "sulphur-clay", "none", {"fine"}),
    (ADDITION, ADDITION, "none", {"bonds"}),
    (CONDENSATION, CONDENSATION, "none", {"bonds"}),
    ("polyurethane-rubber", "polyurethane-rubber", "none", {"bonds"}),
    (ADDITION, ADDITION, "silicone-release", {"bonds"}),
    (ADDITION, ADDITION, "silicone-free-release", {"fine"}),
    (ADDITION, ADDITION, "petroleum-jelly", {"fine"}),
    ("polyurethane-resin", ADDITION, "none", {"fine"}),
    ("polyurethane-resin", ADDITION, "silicone-release", {"harms-mould"}),
    ("plaster", CONDENSATION, "none", {"fine"}),
    ("polyurethane-resin", ADDITION, "talc", {"fine"}),
    ("clear-polyurethane", CONDENSATION, "none", {"may-not-set"}),
    ("polyester-resin", CONDENSATION, "none", {"may-not-set"}),
    (ADDITION, "bare-wood", "none", {"seal"}),
    (ADDITION, "plaster", "none", {"seal"}),
    (ADDITION, "bare-wood", "clear-coat", {"fine"}),
    ("polyurethane-rubber", "melamine-board", "none", {"release"}),
    ("polyurethane-rubber", "wax", "none", {"fine"}),
    (ADDITION, "glass", "none", {"release"}),
    (ADDITION, "melamine-board", "none", {"fine"}),
]


@pytest.mark.parametrize(("pour", "touches", "between", "verdicts"), FACTS, ids="-".join)
def test_fact_of_the_trade(pour: str, touches: str, between: str, verdicts: set[str]) -> None:
    assert judge(pour, touches, between).verdict in verdicts


def test_no_case_is_without_a_rule_and_no_rule_is_against_another() -> None:
    for case in CASES:
        speaking = [rule for rule in RULES if rule.speaks_of(*case)]
        assert speaking, case
        narrowest = min(speaking, key=lambda rule: rule.cases)
        for rule in speaking:
            # where two rules that overlap differ, one lies wholly within the other
            nested = (
                narrowest.pour <= rule.pour and narrowest.touches <= rule.touches and narrowest.between <= rule.between
            )
            assert rule.verdict == narrowest.verdict or (nested and rule.cases > narrowest.cases), case


def test_every_rule_decides_something_and_speaks() -> None:
    deciding = {
        id(min((rule for rule in RULES if rule.speaks_of(*case)), key=lambda rule: rule.cases)) for case in CASES
    }
    assert deciding == {id(rule) for rule in RULES}
    for rule in RULES:
        assert rule.why.endswith(".")
        assert rule.verdict in VERDICTS
        assert (rule.verdict == "fine") == (rule.remedy == "")


def follow(pour: str, touches: str, layers: tuple[str, ...], steps: int = 0) -> str:
    ruling = judge_layers(pour, touches, layers)
    if ruling.verdict == "fine" or ruling.remedy is None or steps > 2:
        return ruling.verdict
    remedy = ruling.remedy
    return follow(remedy.pour or pour, remedy.touches or touches, remedy.between or layers, steps + 1)


def test_every_remedy_mends_and_is_made_of_steps() -> None:
    assert {follow(pour, touches, (between,)) for pour, touches, between in CASES} == {"fine"}
    for remedy in REMEDIES.values():
        assert bool(remedy.between) + bool(remedy.touches) + bool(remedy.pour) == 1, remedy.key
        assert all(PUT_ON[layer].steps for layer in remedy.between)
        assert remedy.touches in {"", *SURFACES}
        assert remedy.pour in {"", *POURS}
    assert {rule.remedy for rule in RULES} - {""} == set(REMEDIES)
    for key, between in PUT_ON.items():
        assert key == "none" or (
            between.how and between.renew and between.paint and between.finish in {"shiny", "satin", "matt"}
        )


def test_no_groups_are_idle_or_unknown() -> None:
    text = files("ufrin.core.pairing").joinpath("data/pairings.toml").read_text("utf-8")
    assert all(f'"{group}"' in text for group in GROUPS)
    with pytest.raises(KeyError, match="no such thing"):
        members(["no such thing"], POURS)


@given(st.text(max_size=20), st.sampled_from(list(SURFACES)))
def test_what_nobody_knows_is_never_fine(pour: str, touches: str) -> None:
    ruling = judge(pour + "?", touches)
    assert (ruling.verdict, ruling.text, ruling.known) == ("may-not-set", "not known: test a spot", False)
    with pytest.raises(Refused, match="not a kind"):
        check_kinds(pour + "?", touches, "none")


@given(st.sampled_from(CASES), st.sampled_from(list(BETWEENS)))
def test_a_second_layer_never_makes_it_worse_than_the_first(case: tuple[str, str, str], over: str) -> None:
    assert WORST[judge_layers(case[0], case[1], (case[2], over)).verdict] <= WORST[judge(*case).verdict]


OWN = OwnRule(
    pour=ADDITION,
    touches="photopolymer-print",
    between="none",
    verdict="fine",
    why="Set as in its cup.",
    tried_on="2026-03-01",
    id=1,
)


def test_a_shops_own_test_comes_first_the_newest_and_the_nearest_of_them() -> None:
    case = OWN.case[:3]
    assert judge(*case, [OWN]).own == OWN
    older = replace(OWN, verdict="will-not-set", why="Sticky.", tried_on="2025-01-01", id=2)
    both = judge(*case, [older, OWN])
    assert (both.verdict, both.own, both.against) == ("fine", OWN, older)
    assert contradictions([older, OWN, replace(OWN, id=3)]) == ((replace(OWN, id=3), older),)
    of_one = replace(older, rubber="Tideline 15", id=4)
    assert judge(*case, [of_one, OWN], "tideline 15").verdict == "will-not-set"
    assert judge(*case, [of_one, OWN], "Mudflat Soft").verdict == "fine"
    assert judge(*case, [of_one], "Mudflat Soft").own is None
    assert judge(*case, [of_one], "Tideline 15").remedy == REMEDIES["clear-coat-print"]


@pytest.mark.parametrize(
    "wrong",
    [
        {"pour": "treacle"},
        {"touches": " "},
        {"touches": "something-else"},
        {"touches": "x" * 61},
        {"between": "any"},
        {"verdict": "perhaps"},
        {"why": " "},
        {"why": "x" * 401},
        {"tried_on": "2026-02-30"},
    ],
)
def test_a_test_that_says_nothing_is_refused(wrong: dict[str, object]) -> None:
    with pytest.raises(Refused, match=r"[.?]$"):
        replace(OWN, **wrong)


words = st.text(st.characters(exclude_categories=["C", "Z"]), min_size=1, max_size=40)
own_rules = st.builds(
    OwnRule,
    pour=st.sampled_from(list(POURS)),
    touches=st.sampled_from(list(SURFACES)),
    between=st.sampled_from(list(BETWEENS)),
    verdict=st.sampled_from(VERDICTS),
    why=words,
    tried_on=st.dates(date(1980, 1, 1), date(2100, 1, 1)).map(date.isoformat),
    rubber=st.one_of(st.just(""), words),
)


@given(st.lists(own_rules, max_size=5))
def test_a_file_of_tests_goes_out_and_in(rules: list[OwnRule]) -> None:
    assert read(written(rules).encode()) == tuple(rules)


def test_the_schema_tells_the_form() -> None:
    told = json.loads(written([OWN]))
    test = SCHEMA["properties"]["tests"]["items"]
    assert set(told) == set(SCHEMA["required"])
    assert set(test["required"]) <= set(told["tests"][0]) <= set(test["properties"])
    assert told["tests"][0]["verdict"] in test["properties"]["verdict"]["enum"]


def broken(**changes: object) -> bytes:
    told = json.loads(written([OWN]))
    told["tests"][0] |= changes
    return json.dumps(told).encode()


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "JSON"),
        (b"\xff\xfe\x00", "JSON"),
        (b"[" * 100_000, "JSON"),
        (b'{"form": NaN, "tests": []}', "JSON"),
        (b'"text"', "not a rule file"),
        (b'{"tests": []}', "not a rule file"),
        (json.dumps({"form": FORM, "tests": {}}).encode(), "not a rule file"),
        (json.dumps({"form": FORM, "tests": [], "more": 1}).encode(), "not a rule file"),
        (json.dumps({"form": FORM, "tests": [7]}).encode(), "Test 1"),
        (json.dumps({"form": FORM, "tests": [{}] * 2001}).encode(), "2001 tests"),
        (broken(pour="treacle"), "Test 1 of the file: “treacle”"),
        (broken(tried_on="last week"), "date"),
        (broken(colour="red"), "“colour”"),
        (broken(why=3), "text"),
        (broken(why="\x00\x07"), "characters"),
        (b" " * (MOST_BYTES + 1), "larger"),
    ],
)
def test_what_is_no_rule_file_is_refused_with_the_place(data: bytes, says: str) -> None:
    with pytest.raises(Refused, match=says):
        read(data)


def test_a_surface_may_have_a_name_of_its_own() -> None:
    grey = replace(OWN, touches="Grey print resin")
    assert judge(ADDITION, "grey print resin", "none", [grey]).verdict == "fine"
    assert judge(ADDITION, "grey print resin", "wax", [grey]).known is False
    assert read(written([grey]).encode())[0].touches == "Grey print resin"


@given(
    st.recursive(
        st.none() | st.booleans() | st.floats() | st.text(max_size=8),
        lambda inner: (
            st.lists(inner, max_size=3)
            | st.dictionaries(st.sampled_from([*SCHEMA["properties"], "more"]), inner, max_size=3)
        ),
        max_leaves=8,
    )
)
def test_any_json_is_rules_or_a_sentence(value: object) -> None:
    with pytest.raises(Refused, match=r"[A-Z].*\."):
        read(json.dumps(value).encode())


@given(st.integers(0, 400), st.binary(max_size=6))
def test_a_damaged_rule_file_gives_its_rules_or_a_sentence(at: int, put_in: bytes) -> None:
    sound = written([OWN, replace(OWN, verdict="bonds")]).encode()
    data = sound[: at % len(sound)] + put_in + sound[at % len(sound) + len(put_in) :]
    with contextlib.suppress(Refused):
        assert len(read(data)) == 2
