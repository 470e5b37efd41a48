"""What meets in a job, how each pair is judged, what lies between, and in which order it is put on."""

from collections.abc import Mapping
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.materials.kinds import BETWEENS, PUT_ON
from ufrin.core.pairing.cautions import TOPICS, UsedInJob, cautions
from ufrin.core.pairing.contacts import NOT_SAID, Contact, PartsThatMeet, Surface, contacts_of, judged, remedy_of
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.core.pairing.preparation_steps import begin_min, steps_for
from ufrin.core.pairing.releases import Product, ReleaseOffer, release_offers, steps_with
from ufrin.core.pairing.rules import (
    NOT_KNOWN,
    REMEDIES,
    VERDICTS,
    OwnRule,
    check_kinds,
    contradictions,
    is_day,
    judge,
    judge_layers,
)
from ufrin.core.pairing.spot_test import needs_spot_test, spot_test
from ufrin.core.pairing.surface_finish import finish_findings, finish_of
from ufrin.errors import Refused

ADDITION, CONDENSATION = "addition-silicone", "condensation-silicone"
PRINT = Surface(name="Letter", kind="photopolymer-print")
PARTS = PartsThatMeet(
    rubber=ADDITION,
    rubber_name="Tideline 15",
    masters=(PRINT,),
    board="melamine-board",
    walls="glass",
    cast="polyurethane-resin",
)


TRIED = OwnRule(
    pour=ADDITION, touches="photopolymer-print", between="clear-coat", verdict="fine", why="Set.", tried_on="2026-05-01"
)


def contact(key: str = "board", pour: str = ADDITION, touches: str = "glass", **more: object) -> Contact:
    return Contact(
        **{"key": key, "pour": pour, "touches": touches, "pour_name": "the rubber", "touches_name": "the board"} | more
    )


def by_key(parts: PartsThatMeet) -> Mapping[str, Contact]:
    return {one.key: one for one in contacts_of(parts)}


# --- what meets


@pytest.mark.parametrize(
    ("changed", "keys"),
    [
        ({}, ["master", "board", "walls", "cast"]),
        ({"has_board": False}, ["master", "walls", "cast"]),
        ({"has_walls": False}, ["master", "board", "cast"]),
        ({"has_bed": True}, ["master", "board", "walls", "bed", "cast"]),
        ({"filler": ADDITION}, ["master", "board", "walls", "filler", "cast"]),
        ({"is_parted": True}, ["master", "board", "walls", "halves", "cast"]),
        ({"has_jacket": True}, ["master", "board", "walls", "jacket", "cast"]),
        ({"insert": "metal"}, ["master", "board", "walls", "cast", "insert"]),
        ({"masters": (PRINT, PRINT, PRINT)}, ["master", "master-2", "master-3", "board", "walls", "cast"]),
    ],
)
def test_everything_that_meets_is_listed_once(changed: dict[str, object], keys: list[str]) -> None:
    assert [one.key for one in contacts_of(replace(PARTS, **changed))] == keys


def test_each_pair_says_what_meets_what_and_where_it_is_filled_in() -> None:
    everything = replace(
        PARTS,
        has_bed=True,
        bed="sulphur-clay",
        bed_station="opening",
        filler=CONDENSATION,
        is_parted=True,
        has_jacket=True,
        insert="metal",
        walls_name="the tin",
        masters=(PRINT, replace(PRINT, name="Knot", of_job=7, layers=("wax",), is_known=True)),
    )
    told = {
        key: (one.pour, one.touches, one.pour_name, one.touches_name, one.field, one.station, one.phase)
        for key, one in by_key(everything).items()
    }
    print_kind = "photopolymer-print"
    assert told == {
        "master": (ADDITION, print_kind, "the rubber", "the master", "sealer", "master", "first"),
        "master-2": (ADDITION, print_kind, "the rubber", "the master of “Knot”", "sealer", "master", "first"),
        "board": (ADDITION, "melamine-board", "the rubber", "the board", "between_board", "checks", "first"),
        "walls": (ADDITION, "glass", "the rubber", "the tin", "between_walls", "checks", "first"),
        "bed": (ADDITION, "sulphur-clay", "the rubber", "the bed", "between_bed", "checks", "first"),
        "filler": (ADDITION, CONDENSATION, "the rubber", "the old rubber laid in", "filler_family", "box", "first"),
        "halves": (ADDITION, ADDITION, "the rubber", "the first half", "between_halves", "checks", "second"),
        "jacket": ("plaster", ADDITION, "the jacket", "the skin", "", "checks", "second"),
        "cast": ("polyurethane-resin", ADDITION, "the cast", "the mould", "between_cast", "checks", "cast"),
        "insert": ("polyurethane-resin", "metal", "the cast", "the insert", "insert", "checks", "cast"),
    }
    found = by_key(everything)
    assert (found["master-2"].layers, found["master-2"].is_known, found["master-2"].of_job) == (("wax",), True, 7)
    assert [key for key, one in found.items() if one.is_held] == ["filler", "insert"]
    assert [key for key, one in found.items() if one.is_known] == ["master-2", "filler", "insert"]
    assert [key for key, one in found.items() if not one.may_be_advised] == ["master", "master-2"]
    assert {one.rubber for one in found.values()} == {"Tideline 15"}
    assert found["bed"].bed_at == "opening"


def test_what_is_missing_is_asked_for_where_it_is_filled_in() -> None:
    bare = replace(PARTS, masters=(replace(PRINT, kind=""),), has_bed=True, cast="", insert="metal")
    found = by_key(bare)
    assert (found["master"].field, found["bed"].field, found["bed"].station) == ("material", "bed_material", "box")
    assert (found["cast"].field, found["insert"].field) == ("cast_material", "cast_material")


def test_what_a_maker_put_between_counts_and_nothing_is_an_answer() -> None:
    found = by_key(replace(PARTS, between={"walls": "petroleum-jelly", "board": "none", "cast": None}))
    assert (found["walls"].layers, found["walls"].is_known) == (("petroleum-jelly",), True)
    assert (found["board"].layers, found["board"].is_known) == (("none",), True)
    assert (found["cast"].layers, found["cast"].is_known) == ((), False)


# --- how a pair is judged


def test_the_advised_layer_is_assumed_until_the_maker_says_otherwise() -> None:
    pair = judged(contact())
    assert (pair.bare.verdict, pair.ruling.verdict, pair.is_advised) == ("release", "fine", True)
    assert pair.layers == REMEDIES["release"].between
    assert pair.case == (ADDITION, "glass", REMEDIES["release"].between[-1])
    bare = judged(contact(is_known=True, layers=("none",)))
    assert (bare.ruling.verdict, bare.is_advised, bare.layers, bare.between_words) == ("release", False, (), "nothing")
    assert bare.case == (ADDITION, "glass", "none")
    on_master = judged(contact("master", touches="photopolymer-print", may_be_advised=False))
    assert (on_master.ruling.verdict, on_master.is_advised) == ("will-not-set", False)


def test_a_shop_that_always_uses_a_release_puts_it_in_its_moulds_alone() -> None:
    def layers(key: str, *, always: bool) -> tuple[str, ...]:
        return judged(contact(key, "polyurethane-resin", ADDITION), always_release=always).layers

    assert (layers("cast", always=False), layers("cast", always=True)) == ((), ("silicone-free-release",))
    assert layers("insert", always=True) == ()


def test_what_is_not_said_is_not_judged() -> None:
    for pour, touches in (("", "glass"), (ADDITION, "")):
        pair = judged(contact(pour=pour, touches=touches))
        assert (pair.ruling.known, pair.ruling.verdict, pair.ruling.why) == (False, "may-not-set", NOT_SAID)
        assert not pair.is_advised
        assert remedy_of(pair) is None
        assert release_offers(pair) == ()
    (asked,) = [judged(contact(touches="", field="between_board")).finding()]
    assert asked is not None
    assert (asked.code, asked.field) == ("touch-not-said", "between_board")
    assert dict(asked.facts) == {"pour": "the rubber", "touches": "the board"}
    assert judged(contact(pour="", touches="")).finding() is None
    assert judged(contact(pour="")).pour_kind == "not known yet"


@pytest.mark.parametrize(
    ("key", "pour", "touches", "verdict"),
    [
        ("filler", ADDITION, ADDITION, "fine"),  # old rubber of the same family bonds, as it is meant to
        ("filler", CONDENSATION, ADDITION, "harms-mould"),
        ("filler", "polyurethane-rubber", ADDITION, "harms-mould"),
        ("filler", ADDITION, CONDENSATION, "will-not-set"),
        ("insert", "polyurethane-resin", "metal", "fine"),
        ("insert", "polyurethane-resin", "wax", "fine"),
    ],
)
def test_what_is_meant_to_hold_is_judged_the_other_way_round(key: str, pour: str, touches: str, verdict: str) -> None:
    held = judged(contact(key, pour, touches, is_held=True, is_known=True))
    assert held.ruling.verdict == verdict
    assert held.finding() is None or held.ruling.verdict == "will-not-set"
    free = judge(pour, touches)
    if key == "insert" and free.verdict == "fine":
        assert "groove or a hole" in held.ruling.why
    elif verdict == "fine":
        assert held.ruling.why.startswith("It takes hold, as it is meant to.")
    elif verdict == "harms-mould":
        assert "does not bond to the new" in held.ruling.why
    own = replace(TRIED, pour=pour, touches=touches, between="none", verdict="bonds")
    assert judged(contact(key, pour, touches, is_held=True, is_known=True), [own]).ruling.verdict == "bonds"


@pytest.mark.parametrize(
    ("pour", "touches", "code", "level"),
    [
        (ADDITION, "sulphur-clay", "touch-will-not-set", "stop"),
        (ADDITION, ADDITION, "touch-bonds", "stop"),
        (ADDITION, "latex", "touch-may-not-set", "warn"),
        (ADDITION, "glass", "touch-release", "warn"),
        (ADDITION, "bare-wood", "touch-seal", "warn"),
        (ADDITION, "moon dust", "touch-not-known", "warn"),
        (ADDITION, "melamine-board", None, None),
    ],
)
def test_each_verdict_speaks_with_its_level(pour: str, touches: str, code: str | None, level: str | None) -> None:
    pair = judged(contact("walls", pour, touches, is_known=True, field="between_walls"))
    found = pair.finding()
    if code is None:
        assert found is None
        return
    assert found is not None
    assert (found.code, found.level, found.field) == (code, level, "between_walls")
    assert found.facts["why"] == pair.ruling.why
    assert found.facts["kind"] == pair.touches_kind
    assert found.facts["remedy"] == (pair.ruling.remedy.text if pair.ruling.remedy else "Test a spot first.")
    elsewhere = judged(contact("master", pour, touches, is_known=True, field="sealer", station="master")).finding()
    assert elsewhere is not None
    assert elsewhere.field == ""


def test_silicone_release_in_a_silicone_mould_is_told_as_harm() -> None:
    pair = judged(contact("cast", "polyurethane-resin", ADDITION, layers=("silicone-release",), is_known=True))
    found = pair.finding()
    assert found is not None
    assert (found.code, found.level) == ("touch-harms", "stop")


# --- what one click mends


def test_each_remedy_is_one_change_at_its_own_station() -> None:
    print_on = judged(contact("master", touches="photopolymer-print", may_be_advised=False, field="sealer"))
    assert remedy_of(print_on) == ("master", {"sealer": "clear-coat"})
    glass = judged(contact("master", touches="glass", may_be_advised=False, field="sealer"))
    assert remedy_of(glass) == ("master", {"release": REMEDIES["release"].between[0]})
    clay = judged(contact("bed", touches="sulphur-clay", is_known=True, bed_at="opening", field="between_bed"))
    assert remedy_of(clay) == ("opening", {"bed_material": REMEDIES[clay.ruling.remedy.key].touches})
    walls = judged(contact("walls", touches="glass", is_known=True, layers=("none",), field="between_walls"))
    assert remedy_of(walls) == ("checks", {"between_walls": None})  # the advice for the bare surface is taken again
    assert remedy_of(judged(contact("walls", touches="melamine-board", field="between_walls"))) is None
    assert remedy_of(judged(contact("jacket", touches="glass", is_known=True))) is None
    wrong = judged(
        contact(
            "cast", "polyurethane-resin", ADDITION, is_known=True, layers=("silicone-release",), field="between_cast"
        )
    )
    assert wrong.bare.verdict == "fine"
    station, changes = remedy_of(wrong) or ("", {})
    assert station == "checks"
    mended = judged(
        contact("cast", "polyurethane-resin", ADDITION, is_known=True, layers=(str(changes["between_cast"]),))
    )
    assert mended.ruling.verdict == "fine"


# --- layers over layers


def test_a_layer_that_harms_counts_even_over_one_that_helps() -> None:
    sealed = judge_layers(ADDITION, "photopolymer-print", ("clear-coat",))
    assert sealed.verdict == "fine"
    assert judge_layers(ADDITION, "photopolymer-print", ("none", "clear-coat", "none")).verdict == "fine"
    # what does not work below is not cured by what lies over it
    unsealed = judge_layers(ADDITION, "sulphur-clay", ("silicone-free-release", "clear-coat"))
    assert unsealed.verdict == judge(ADDITION, "sulphur-clay", "silicone-free-release").verdict == "will-not-set"
    # a worse layer over a good one does not make the good one worse: the better of the two is told
    assert judge_layers(ADDITION, "glass", ("petroleum-jelly", "silicone-release")).verdict == "fine"


@given(st.sampled_from(list(BETWEENS)), st.sampled_from(["glass", "bare-wood", ADDITION]))
def test_nothing_over_a_layer_is_the_layer(layer: str, touches: str) -> None:
    assert judge_layers(ADDITION, touches, (layer, "none")) == judge_layers(ADDITION, touches, (layer,))


def test_the_shops_own_word_is_taken_for_its_own_case_alone() -> None:
    own = replace(TRIED, touches="Glass", between="none", why="Came off.")
    ruling = judge(ADDITION, "glass", "none", [own])
    assert (ruling.verdict, ruling.why, ruling.own, ruling.remedy) == ("fine", "Came off.", own, None)
    assert judge(CONDENSATION, "glass", "none", [own]).own is None
    assert judge(ADDITION, "glass", "wax", [own]).own is None
    later = replace(own, verdict="bonds", tried_on="2026-06-01")
    ruling = judge(ADDITION, "glass", "none", [own, later])
    assert (ruling.verdict, ruling.against, ruling.remedy) == ("bonds", own, REMEDIES["release"])
    # of one day, the one that was written later
    first, second = replace(own, id=1), replace(own, id=2, verdict="release")
    assert judge(ADDITION, "glass", "none", [second, first]).own == second
    # an older test that agrees is not against it
    assert judge(ADDITION, "glass", "none", [first, replace(own, id=3)]).against is None
    unknown = judge(ADDITION, "moon dust")
    assert (unknown.why, unknown.known, unknown.remedy) == (NOT_KNOWN, False, None)
    assert judge(ADDITION, "glass").text == "release needed"
    assert {judge(ADDITION, "x", "none", [replace(own, touches="x", verdict=v)]).verdict for v in VERDICTS} == set(
        VERDICTS
    )


@pytest.mark.parametrize(
    ("text", "good"),
    [
        ("2026-11-03", True),
        ("2028-02-29", True),
        ("1900-02-29", False),
        ("2000-02-29", True),
        ("2026-00-10", False),
        ("2026-13-10", False),
        ("2026-12-31", True),
        ("2026-12-00", False),
        ("2026-04-31", False),
        ("1899-01-01", False),
        ("2200-01-01", False),
        ("2026-1-1", False),
        ("2026-11-03 ", False),
    ],
)
def test_days(text: str, *, good: bool) -> None:
    assert is_day(text) == good


def test_a_test_of_the_shop_keeps_to_its_limits() -> None:
    own = replace(TRIED, touches="x" * 60, between="none", why="y" * 400)
    assert own.case == (ADDITION, "x" * 60, "none", "")
    assert replace(own, rubber="Tide").case[3] == "tide"
    for wrong, field in (
        ({"pour": "treacle"}, "pour"),
        ({"between": "any"}, "between"),
        ({"touches": "x" * 61}, "touches"),
        ({"touches": "something-else"}, "touches"),
        ({"verdict": "perhaps"}, "verdict"),
        ({"why": "y" * 401}, "why"),
        ({"tried_on": "today"}, "tried_on"),
    ):
        with pytest.raises(Refused, match=r"[.?]") as refused:
            replace(own, **wrong)
        assert refused.value.field == field


# --- spot tests and preparation


def test_a_spot_is_tested_where_setting_hangs_on_the_coat_or_nobody_knows() -> None:
    def asks(touches: str, **more: object) -> bool:
        return needs_spot_test(judged(contact("master", touches=touches, may_be_advised=False, **more)))

    assert asks("photopolymer-print", layers=("clear-coat",), is_known=True)
    assert asks("latex")
    assert asks("moon dust")
    assert not asks("sulphur-clay")  # it will not set: there is nothing to test
    assert not asks("glass", layers=("wax",), is_known=True)
    assert not asks("melamine-board")
    known = judged(contact("master", touches="photopolymer-print", layers=("clear-coat",), is_known=True), [TRIED])
    assert not needs_spot_test(known)


def test_what_a_spot_test_says_and_takes() -> None:
    pair = judged(
        contact("master", touches="photopolymer-print", layers=("clear-coat", "wax"), is_known=True, phase="second")
    )
    step = spot_test(pair, 360)
    assert (step.phase, step.before_min, step.work_min, step.dry_min, step.pairs) == (
        "second",
        370,
        10,
        360,
        ("master",),
    )
    assert step.do.startswith("Test a spot: a spoonful of ")
    assert f"over {PUT_ON['clear-coat'].label}, then {PUT_ON['wax'].label}; it must set as in its cup" in step.do


def chain_min(*layers: str) -> float:
    return sum(step.work_min + step.dry_min for layer in layers for step in PUT_ON[layer].steps)


def test_coats_are_counted_back_from_the_pour_and_a_spot_test_lies_between() -> None:
    walls = judged(contact("walls", touches="glass", layers=("wax",), is_known=True))
    steps = steps_for([walls])
    assert [step.pairs for step in steps] == [("walls",)] * len(PUT_ON["wax"].steps)
    assert steps[0].before_min == pytest.approx(chain_min("wax"))
    # each begins when the one before it has dried
    for one, following in zip(steps, steps[1:], strict=False):
        assert one.before_min - one.work_min - one.dry_min == pytest.approx(following.before_min)
    assert steps[-1].before_min == pytest.approx(steps[-1].work_min + steps[-1].dry_min)
    coated = judged(contact("master", touches="photopolymer-print", layers=("clear-coat",), is_known=True))
    tested = steps_for([coated], test_min=360)
    assert tested[0].before_min == pytest.approx(chain_min("clear-coat") + 370)
    (spot,) = [step for step in tested if step.do.startswith("Test a spot")]
    assert spot.before_min == 370
    assert begin_min(tested) == {"first": tested[0].before_min}
    assert spot_test(coated, 24 * 60.0).before_min == steps_for([coated])[-1].before_min


def test_what_gets_the_same_coat_before_the_same_pour_gets_it_at_once() -> None:
    board = contact("board", touches="glass", layers=("wax",), is_known=True)
    walls = replace(board, key="walls", touches_name="the walls")
    third = replace(board, key="bed", touches_name="the bed")
    later = replace(board, key="halves", phase="second")
    steps = steps_for([judged(one) for one in (later, board, walls, third)])
    assert {step.pairs for step in steps} == {("board", "walls", "bed"), ("halves",)}
    assert [step.phase for step in steps] == sorted((step.phase for step in steps), key=["first", "second"].index)
    assert any("the board, the walls and the bed" in step.do for step in steps)
    assert all("{what}" not in step.do for step in steps)
    begins = begin_min(steps)
    assert set(begins) == {"first", "second"}
    assert begins["second"] == pytest.approx(chain_min("wax"))
    assert begin_min([]) == {}


def test_the_shops_own_product_is_named_and_dries_as_its_tin_says() -> None:
    coat = Product(name="Skerry coat", kind="clear-coat", sets_min=90)
    plain, named = steps_with("clear-coat", None), steps_with("clear-coat", coat)
    assert plain == PUT_ON["clear-coat"].steps
    assert len(named) == len(plain)
    assert named[0].done_to("the lid").endswith("the lid; brush or spray on a thin clear coat (Skerry coat)")
    assert named[-1].dry_min == 90
    assert [step.work_min for step in named] == [step.work_min for step in plain]
    assert [step.dry_min for step in named[:-1]] == [step.dry_min for step in plain[:-1]]
    assert steps_with("clear-coat", replace(coat, sets_min=None))[-1].dry_min == plain[-1].dry_min
    assert sum("(Skerry coat)" in step.done_to("the lid") for step in named) == 1
    walls = judged(contact("walls", touches="bare-wood", layers=("clear-coat",), is_known=True))
    # of two products of one kind the first is taken
    steps = steps_for([walls], products=[coat, replace(coat, name="Other", sets_min=5)])
    assert any("(Skerry coat)" in step.do for step in steps)
    assert steps[-1].dry_min == 90
    for wrong in ({"kind": "none"}, {"by": "hose"}, {"finish": "wet"}):
        with pytest.raises(Refused, match="not one of the choices") as refused:
            replace(coat, **wrong)
        assert refused.value.field == "kind"
    for name in ("sets_min", "shots"):
        with pytest.raises(Refused, match="Leave the field empty") as refused:
            replace(coat, **{name: 0.0})
        assert refused.value.field == name


def test_the_key_of_a_step_is_that_of_its_words() -> None:
    step = PrepStep(phase="first", do="Wax the board", before_min=1, work_min=1, dry_min=0, pairs=("board",))
    assert step.key == replace(step, before_min=99, dry_min=5).key
    others = {replace(step, phase="second").key, replace(step, do="Wax it").key, replace(step, pairs=("walls",)).key}
    assert len(others | {step.key}) == 4


# --- releases offered


def offers(**more: object) -> dict[str, ReleaseOffer]:
    pair = judged(contact("cast", "polyurethane-resin", ADDITION))
    return {offer.between.key: offer for offer in release_offers(pair, **more)}


def test_releases_are_offered_what_suits_first_and_nothing_before_a_coat_that_is_not_needed() -> None:
    found = offers()
    assert set(found) == set(BETWEENS)
    assert next(iter(found)) == "none"
    suits = [offer.suits for offer in found.values()]
    assert suits == sorted(suits, reverse=True)
    scores = [offer.score for offer in found.values() if offer.suits]
    assert scores == sorted(scores, reverse=True)
    assert not found["silicone-release"].suits
    assert found["none"].score == 1.0
    assert found["none"].reasons[-1].startswith("Nothing to put on")
    assert found["none"].minutes == 0
    # 12 hours of drying cost a point
    wax = found["wax"]
    assert wax.score == pytest.approx(-chain_min("wax") / 720)
    assert wax.minutes == pytest.approx(chain_min("wax"))
    assert wax.reasons == (wax.ruling.why,)
    # a verdict of rank 4 costs twelve
    assert found["silicone-release"].score == pytest.approx(-12 - chain_min("silicone-release") / 720)
    assert found["silicone-release"].against[0] == found["silicone-release"].ruling.why


def test_a_shop_that_always_uses_one_is_offered_one_first() -> None:
    found = offers(always=True)
    assert next(iter(found)) != "none"
    assert found["none"].score == -0.5
    assert found["none"].reasons[-1] == "This shop puts one in all the same."


def test_paint_and_finish_weigh() -> None:
    plain, painted, matt = offers(), offers(wanted="painted"), offers(wanted="matt")
    assert painted["talc"].score == pytest.approx(plain["talc"].score + 0.5)
    assert painted["talc"].reasons[-1].startswith("Paint: it ")
    assert painted["silicone-release"].score == pytest.approx(plain["silicone-release"].score - 4)
    assert painted["silicone-release"].against[-1].startswith("Paint: it ")
    assert painted["wax"].score == pytest.approx(plain["wax"].score)
    assert painted["wax"].against[-1] == f"Paint: {PUT_ON['wax'].paint}."
    for key, between in PUT_ON.items():
        if key == "none":
            continue
        more = 0.3 if between.finish == "matt" else -0.6
        assert matt[key].score == pytest.approx(plain[key].score + more), key
        said = matt[key].reasons if between.finish == "matt" else matt[key].against
        assert said[-1].startswith(f"Leaves the cast {between.finish}")
    # what the cast is to look like does not concern the walls
    walls = judged(contact("walls", touches="glass"))
    assert release_offers(walls, wanted="matt", always=True) == release_offers(walls)


def test_what_stands_on_the_shelf_is_preferred() -> None:
    mine = (Product(name="Skerry wax", kind="wax", shots=5), Product(name="Old wax", kind="wax", sets_min=7))
    plain, found = offers(), offers(products=mine)
    assert found["wax"].score == pytest.approx(plain["wax"].score + 0.2)
    assert found["wax"].reasons[-1] == "It stands on the Shelf: Skerry wax, Old wax."
    assert found["wax"].products == mine
    assert found["wax"].renew == "every 5 casts, as its tin says"
    assert plain["wax"].renew == PUT_ON["wax"].renew
    assert offers(products=mine[1:])["wax"].minutes == pytest.approx(
        chain_min("wax") - PUT_ON["wax"].steps[-1].dry_min + 7
    )
    assert found["talc"].products == ()


def test_a_sealer_that_stays_is_judged_with_the_release_over_it() -> None:
    master = judged(contact("master", touches="bare-wood", may_be_advised=False))
    bare = {one.between.key: one for one in release_offers(master)}
    sealed = {one.between.key: one for one in release_offers(master, under=("clear-coat",))}
    assert bare["none"].ruling.verdict == "seal"
    assert sealed["none"].ruling.verdict == "fine"


# --- the finish


@pytest.mark.parametrize(
    ("master", "on_master", "on_mould", "release", "mould", "cast"),
    [
        ("shiny", (), (), "", "shiny", "shiny"),
        ("matt", ("none",), ("none",), "", "matt", "matt"),
        ("matt", ("clear-coat",), (), "", PUT_ON["clear-coat"].finish, PUT_ON["clear-coat"].finish),
        ("shiny", (), ("talc",), "", "shiny", PUT_ON["talc"].finish),
        ("matt", (), ("wax",), "shiny", "matt", "matt"),
        ("shiny", (), ("wax",), "satin", "shiny", "satin"),
        ("", (), (), "", "", ""),
    ],
)
def test_the_finish_goes_from_master_to_mould_to_cast(
    master: str, on_master: tuple[str, ...], on_mould: tuple[str, ...], release: str, mould: str, cast: str
) -> None:
    made = finish_of(master, on_master, on_mould, release)
    assert (made.mould, made.cast) == (mould, cast)
    assert all(sentence[0].isupper() and sentence.endswith(".") for sentence in made.sentences)
    text = " ".join(made.sentences)
    if on_master == ("clear-coat",):
        assert PUT_ON["clear-coat"].label in text
    if not master:
        assert made.sentences == (made.sentences[0],)
        assert made.sentences[0].startswith("The finish of the master is not known")


def test_a_finish_that_is_not_the_wanted_one_has_a_cure() -> None:
    shiny = finish_of("shiny", (), ())
    assert finish_findings(shiny, "", ()) == finish_findings(shiny, "shiny", ()) == ()
    assert finish_findings(finish_of("", (), ()), "matt", ()) == ()
    for wanted, word in (("matt", "talc"), ("satin", "satin")):
        (found,) = finish_findings(shiny, wanted, ())
        assert (found.code, found.field) == ("finish-differs", "cast_finish")
        assert (found.facts["cast"], found.facts["wanted"]) == ("shiny", wanted)
        assert word in found.facts["cure"]
    (found,) = finish_findings(finish_of("matt", (), ()), "shiny", ())
    assert found.facts["cure"].startswith("Polish the master")
    (spoilt,) = finish_findings(shiny, "painted", ("silicone-release", "wax"))
    assert (spoilt.code, spoilt.facts["what"], spoilt.field) == (
        "paint-spoilt",
        PUT_ON["silicone-release"].label,
        "between_cast",
    )
    (wash,) = finish_findings(shiny, "painted", ("wax",))
    assert (wash.code, wash.facts["what"], wash.field) == ("paint-wash", PUT_ON["wax"].label, "between_cast")
    assert finish_findings(shiny, "painted", ("talc",)) == ()


# --- cautions


def test_cautions_come_from_what_the_job_uses() -> None:
    always = [one.topic for one in TOPICS if one.always]
    assert [one.topic for one in cautions(UsedInJob())] == always
    assert all(one.because == () for one in cautions(UsedInJob()))
    used = UsedInJob(pour=frozenset({"polyurethane-resin"}), deed=frozenset({"vacuum"}))
    found = cautions(used)
    assert len(found) > len(always)
    assert {word for one in found for word in one.because} <= {"polyurethane resin", "the vacuum"}
    assert any("the vacuum" in one.because for one in found)
    order = [one.topic for one in TOPICS]
    assert [order.index(one.topic) for one in found] == sorted(order.index(one.topic) for one in found)
    assert all(one.text.rstrip().endswith(".") for one in found)


def test_kinds_that_are_known_and_those_that_are_not() -> None:
    check_kinds(ADDITION, "glass", "none")
    for asked, field in (
        ((f"{ADDITION}?", "glass", "none"), "pour"),
        ((ADDITION, "moon dust", "none"), "touches"),
        ((ADDITION, "glass", "jam"), "between"),
        (("any", "glass", "none"), "pour"),
        ((ADDITION, "glass", "any"), "between"),
    ):
        with pytest.raises(Refused, match="is not a kind that Ufrin knows. It knows: ") as refused:
            check_kinds(*asked)
        assert refused.value.field == field


def test_a_test_of_one_rubber_counts_under_and_over_a_sealer() -> None:
    under = replace(TRIED, verdict="may-not-set", why="Tacky.", rubber="Tideline 15")
    assert judge_layers(ADDITION, "photopolymer-print", ("clear-coat",), [under], "Tideline 15").own == under
    assert judge_layers(ADDITION, "photopolymer-print", ("clear-coat",), [under], "Neap 30").own is None
    over = replace(under, touches="sealed", between="wax", verdict="fine", why="Came off.")
    assert judge_layers(ADDITION, "bare-wood", ("clear-coat", "wax"), [over], "Tideline 15").own == over
    assert judge_layers(ADDITION, "bare-wood", ("clear-coat", "wax"), [over], "Neap 30").own is None
    assert contradictions([under, replace(under, touches="glass", verdict="fine")]) == ()
