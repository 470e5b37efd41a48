"""Checks: every two things that meet are found and judged, remedies become steps in time.

Planted mistakes are stopped.
"""

from dataclasses import fields, replace
from itertools import pairwise
from math import log10

import pytest
from hypothesis import given
from hypothesis import strategies as st
from records import ADDITION, MASTER, OPEN, PARTED, URETHANE, worked_out

from ufrin.core.degassing.bubbles import pot_ratio, rise_mm_per_min, smallest_mm
from ufrin.core.degassing.schools import SCHOOLS, AirRemoval, Liquid, SchoolSettings, schools, stream_mm, wart_findings
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.checks_station import Checks, ShopWays
from ufrin.core.job.sign_off import open_stops, stops
from ufrin.core.job.terms import TERMS
from ufrin.core.job.terms.master import MASTER_TERMS
from ufrin.core.materials.kinds import BETWEENS, POURS, PUT_ON, SURFACES
from ufrin.core.pairing.cautions import KNOWN, TOPICS, UsedInJob, cautions
from ufrin.core.pairing.contacts import PartsThatMeet, Surface, contacts_of, judged, remedy_of
from ufrin.core.pairing.preparation_steps import begin_min
from ufrin.core.pairing.releases import Product, release_offers
from ufrin.core.pairing.rules import OwnRule
from ufrin.core.pairing.surface_finish import FINISHES, finish_findings, finish_of
from ufrin.core.wording.glossary import WORDS, cut_at_terms
from ufrin.errors import Refused
from ufrin.language import Text, language, using


def checked(*said: object, **more: object) -> Checks:
    made = worked_out(*said, **more).checks
    assert made is not None
    return made


def keys(made: Checks) -> list[str]:
    return [pair.contact.key for pair in made.pairs]


def test_every_two_things_that_meet_are_found() -> None:
    assert keys(checked(opening=OPEN)) == ["master", "board", "walls", "cast"]
    assert keys(checked(opening=PARTED)) == ["master", "walls", "bed", "halves", "cast"]
    in_bed = checked(box=BoxInputs(bed_mm=10.0, filler_ml=20.0), opening=OPEN)
    assert keys(in_bed) == ["master", "walls", "bed", "filler", "cast"]
    # nothing in it lies flat, so two halves are advised, and what is advised counts
    assert keys(checked(opening=OpeningInputs())) == keys(checked(opening=PARTED))
    assert keys(checked(checks=CheckInputs(cast_material="plaster", insert="metal")))[-2:] == ["cast", "insert"]
    assert keys(checked(others=(Surface(name="Net float", kind="glass"),)))[:2] == ["master", "master-2"]
    skin = checked(opening=OpeningInputs(style="skin"), box=BoxInputs(jacket_material="resin"))
    assert keys(skin) == ["master", "board", "jacket", "cast"]
    assert skin.pair("jacket").contact.pour == "polyester-resin"
    assert worked_out(rubber=None).checks is None


kinds_or_nothing = st.one_of(st.just(""), st.sampled_from(list(SURFACES)))


@given(
    st.builds(
        PartsThatMeet,
        rubber=st.sampled_from(["addition-silicone", "condensation-silicone", "polyurethane-rubber"]),
        rubber_name=st.just("any"),
        masters=st.lists(st.builds(Surface, name=st.just("other"), kind=kinds_or_nothing), min_size=1, max_size=3).map(
            tuple
        ),
        board=kinds_or_nothing,
        walls=kinds_or_nothing,
        bed=kinds_or_nothing,
        cast=st.one_of(st.just(""), st.sampled_from(list(POURS))),
        insert=kinds_or_nothing,
        has_bed=st.booleans(),
        is_parted=st.booleans(),
        has_jacket=st.booleans(),
        between=st.dictionaries(
            st.sampled_from(["board", "walls", "bed", "halves", "cast"]), st.sampled_from(list(BETWEENS))
        ),
    )
)
def test_every_pair_has_a_verdict_a_reason_and_what_is_advised_is_fine(parts: PartsThatMeet) -> None:
    for contact in contacts_of(parts):
        pair = judged(contact)
        assert pair.ruling.why.endswith(".")
        assert pair.ruling.known == bool(contact.pour and contact.touches)
        # what we advise ourselves is never what we warn of, unless nothing that lies between can help
        if pair.is_advised and pair.layers:
            assert pair.ruling.verdict == "fine"
        finding = pair.finding()
        assert finding is None or finding.text()


def test_what_is_to_be_held_is_judged_the_other_way_round() -> None:
    scrap = BoxInputs(filler_ml=2.0)
    assert checked(box=scrap).pair("filler").ruling.verdict == "fine"
    other = worked_out(
        box=replace(scrap, filler_family="polyurethane-rubber"),
        rubber=replace(ADDITION, family="condensation-silicone"),
    )
    assert other.checks is not None
    assert other.checks.pair("filler").ruling.verdict == "harms-mould"
    assert [stop.station for stop in other.stops] == ["box"]  # told once
    held = checked(checks=CheckInputs(cast_material="polyurethane-resin", insert="metal")).pair("insert")
    assert held is not None
    assert held.ruling.verdict == "fine"
    assert "takes hold" in held.ruling.why


def test_three_planted_mistakes_are_stopped_and_mended() -> None:
    # common practice, no source: sulphur clay and unsealed prints stop addition-cure silicone; a release with
    # silicone does nothing between halves
    printed = replace(MASTER, material="photopolymer-print", sealer="none")
    planted = worked_out(
        printed,
        checks=CheckInputs(between_halves="silicone-release"),
        opening=replace(PARTED, bed_material="sulphur-clay"),
    )
    assert [stop.finding.code for stop in planted.stops if stop.finding] == [
        "touch-will-not-set",
        "touch-will-not-set",
        "touch-bonds",
    ]
    assert planted.states["checks"] == "stop"
    mended = worked_out(
        replace(printed, sealer="clear-coat"), opening=replace(PARTED, bed_material="sulphur-free-clay")
    )
    assert mended.stops == ()
    assert mended.checks is not None
    steps = [(step.phase, step.do) for step in mended.checks.steps]
    assert any("clear coat on the master" in do for phase, do in steps if phase == "first")
    assert any("Test a spot" in do for phase, do in steps if phase == "first")
    assert any("Release without silicone on the first half" in do for phase, do in steps if phase == "second")


def test_a_remedy_changes_what_it_names_and_nothing_else() -> None:
    bare = checked(replace(MASTER, material="plaster", sealer="none", release="talc")).pair("master")
    assert bare is not None
    assert remedy_of(bare) == ("master", {"sealer": "clear-coat"})  # what lies over it stays
    both = checked(replace(MASTER, material="plaster", sealer="none"), rubber=URETHANE).pair("master")
    assert both is not None
    assert remedy_of(both) == ("master", {"sealer": "clear-coat", "release": "silicone-free-release"})
    fine = checked().pair("walls")
    assert fine is not None
    assert remedy_of(fine) is None


def test_what_is_advised_becomes_steps_that_end_at_the_pour() -> None:
    made = checked(box=BoxInputs(wall_material="plywood"), rubber=URETHANE)
    walls = made.pair("walls")
    assert walls is not None
    assert walls.layers == ("clear-coat", "silicone-free-release")
    assert walls.is_advised
    chain = [step for step in made.steps if "walls" in step.pairs]
    assert [step.before_min for step in chain] == sorted((step.before_min for step in chain), reverse=True)
    for earlier, later in pairwise(chain):
        assert earlier.before_min - earlier.work_min - earlier.dry_min == pytest.approx(later.before_min)
    assert chain[-1].before_min == chain[-1].work_min + chain[-1].dry_min
    assert begin_min(made.steps)["first"] == max(step.before_min for step in made.steps if step.phase == "first")
    tin = Product(name="Shoal varnish", kind="clear-coat", sets_min=60)
    quick = [
        step
        for step in checked(
            box=BoxInputs(wall_material="plywood"), rubber=URETHANE, shop=ShopWays(products=(tin,))
        ).steps
        if "walls" in step.pairs
    ]
    assert quick[0].do.endswith("(Shoal varnish)")
    assert chain[0].before_min - quick[0].before_min == 720 - 60  # as its own tin says
    assert "the board and the walls" in chain[0].do  # alike, so done in one go


def test_a_spot_is_tested_with_its_coat_on_and_nothing_is_fine_that_nobody_knows() -> None:
    made = checked(replace(MASTER, material="photopolymer-print", sealer="clear-coat"))
    test = next(step for step in made.steps if "Test a spot" in step.do)
    coats = [step for step in made.steps if "clear coat" in step.do and step is not test]
    assert min(step.before_min - step.work_min - step.dry_min for step in coats) >= test.before_min
    strange = worked_out(replace(MASTER, material="something-else"))
    assert strange.checks is not None
    assert strange.checks.pairs[0].ruling.text == "not known: test a spot"
    assert any("Test a spot" in step.do for step in strange.checks.steps)
    assert ([finding.code for finding in strange.findings["checks"]], strange.states["master"]) == (
        ["touch-not-known"],
        "ready",
    )
    unsaid = checked(replace(MASTER, material=None))
    assert [finding.code for finding in unsaid.findings] == ["touch-not-said"]


def test_an_own_test_comes_first_and_says_so() -> None:
    print_ = replace(MASTER, material="photopolymer-print", sealer="none")
    tried = OwnRule(
        pour="addition-silicone",
        touches="photopolymer-print",
        between="none",
        verdict="fine",
        why="Set.",
        tried_on="2026-03-01",
    )
    assert checked(print_, shop=ShopWays(own_rules=(tried,))).pairs[0].ruling.own == tried
    older = replace(tried, verdict="will-not-set", tried_on="2024-03-01")
    codes = [finding.code for finding in checked(print_, shop=ShopWays(own_rules=(tried, older))).findings]
    assert codes == ["own-tests-differ"]


def anything(key: str) -> st.SearchStrategy[object]:
    term = TERMS["checks"][key]
    if term.choices is not None:
        return st.one_of(st.none(), st.sampled_from([one for one in term.choices if one]))
    return st.one_of(st.none(), st.floats(1e-3, 1e4))


everything = st.fixed_dictionaries({f.name: anything(f.name) for f in fields(CheckInputs)})
masters = st.fixed_dictionaries(
    {
        key: st.one_of(st.none(), st.sampled_from([one for one in (MASTER_TERMS[key].choices or ()) if one]))
        for key in ("material", "sealer", "release", "finish")
    }
)
families = st.sampled_from(["addition-silicone", "condensation-silicone", "polyurethane-rubber"])
shops = st.builds(ShopWays, air=st.sampled_from(list(SCHOOLS)), release=st.sampled_from(["spare", "always"]))


@given(everything, masters, families, shops, st.booleans(), st.sampled_from([None, 0.0, 5000.0, 1e7]))
def test_whatever_is_said_is_worked_out_and_told(
    said: dict[str, object],
    master: dict[str, str | None],
    family: str,
    shop: ShopWays,
    is_parted: bool,
    viscosity: float | None,
) -> None:
    opening = PARTED if is_parted else OPEN
    rubber = replace(ADDITION, family=family, viscosity_mpa_s=viscosity)
    made = worked_out(replace(MASTER, **master), checks=CheckInputs(**said), rubber=rubber, shop=shop, opening=opening)
    checks = made.checks
    assert checks is not None
    for finding in made.findings["checks"]:
        assert finding.text("metric")
        assert finding.text("us")
    for step in checks.steps:
        assert step.before_min >= step.work_min + step.dry_min >= 0
    # what is put on in the job is what the steps put on
    layered = {pair.contact.key for pair in checks.pairs if pair.layers}
    assert layered <= {key for step in checks.steps for key in step.pairs}
    assert {stop.station for stop in made.stops} <= set(made.states)
    assert (made.states["checks"] == "stop") == any(finding.level == "stop" for finding in made.findings["checks"])


def test_the_shops_schools_count_where_the_job_says_nothing() -> None:
    cast = CheckInputs(cast_material="polyurethane-resin")
    assert checked(checks=cast).pair("cast").layers == ()
    assert checked(checks=cast, shop=ShopWays(release="always")).pair("cast").layers == ("silicone-free-release",)
    said = replace(cast, between_cast="none")
    assert checked(checks=said, shop=ShopWays(release="always")).pair("cast").layers == ()
    timed = checked(poured=RubberInputs(degas_min=5.0))
    assert (timed.air, timed.air_is_shop) == ("vacuum", False)  # who counts a time for it does it
    assert (
        checked(shop=ShopWays(air="vacuum")).air,
        checked(checks=CheckInputs(air="stream"), shop=ShopWays(air="vacuum")).air,
    ) == ("vacuum", "stream")


def test_the_release_advisor_minds_paint_and_never_puts_silicone_on_silicone() -> None:
    painted = CheckInputs(cast_material="polyurethane-resin", cast_finish="painted")
    pair = checked(checks=painted).pair("cast")
    assert pair is not None
    ranked = [offer.between.key for offer in release_offers(pair, wanted="painted")]
    assert ranked[:2] == ["none", "talc"]
    assert ranked[-1] == "silicone-release"
    always = release_offers(pair, wanted="painted", always=True, products=(Product(name="Sandbar", kind="talc"),))
    assert always[0].between.key == "talc"
    assert [one.name for one in always[0].products] == ["Sandbar"]
    codes = {finding.code for finding in checked(checks=replace(painted, between_cast="silicone-release")).findings}
    assert codes == {"paint-spoilt", "touch-harms"}
    with pytest.raises(Refused, match="choices"):
        Product(name="x", kind="none")


@pytest.mark.parametrize("finish", FINISHES)
def test_a_finish_goes_from_the_master_to_the_cast_unless_something_lies_between(finish: str) -> None:
    # common practice, no source
    assert finish_of(finish, (), ()).cast == finish
    assert finish_of(finish, ("clear-coat",), ()).cast == "shiny"
    assert finish_of(finish, (), ("talc",)).cast == "matt"
    assert finish_of(finish, (), ("silicone-free-release",), "matt").cast == "matt"
    assert finish_findings(finish_of(finish, (), ()), finish, ()) == ()
    assert finish_of("", (), ()).cast == ""


@given(st.floats(10, 1e6), st.floats(0.8, 3), st.floats(1, 500), st.floats(1, 1000), st.floats(1.5, 10))
def test_bubbles_obey_their_laws(viscosity: float, sg: float, depth_mm: float, time_min: float, times: float) -> None:
    smallest = smallest_mm(depth_mm, time_min, viscosity, sg)
    assert rise_mm_per_min(smallest, viscosity, sg) * time_min == pytest.approx(depth_mm)
    assert smallest_mm(depth_mm, time_min, viscosity * times**2, sg) == pytest.approx(smallest * times)
    assert smallest_mm(depth_mm, time_min, viscosity, sg, "clean") == pytest.approx(smallest / 1.5**0.5, rel=0.002)
    assert pot_ratio(times) < 1


LIQUID = Liquid(viscosity_mpa_s=9000, sg=1.08, depth_mm=60, volume_ml=300, still_min=30, pour_min=5)


def test_the_schools_stand_side_by_side() -> None:
    made = {school.key: school for school in schools(LIQUID, SchoolSettings())}
    assert list(made) == list(SCHOOLS)
    assert made["clear"].slow_mm == pytest.approx(smallest_mm(60, 30, 9000, 1.08))
    assert all(
        school.fast_mm is not None and school.slow_mm is not None and school.fast_mm <= school.slow_mm
        for school in made.values()
    )
    assert made["vacuum"].slow_mm < made["clear"].slow_mm
    assert {key for key, school in made.items() if school.is_estimate} == {"stream", "vibrate"}
    late = {school.key: school for school in schools(replace(LIQUID, still_min=0.0), SchoolSettings())}
    assert (late["clear"].slow_mm, late["vibrate"].slow_mm) == (None, None)
    # a stream twice as high is thinner by the fourth root of two: its speed goes with the root of the fall
    assert stream_mm(100, 600) == pytest.approx(stream_mm(100, 300) / 2**0.25)
    assert log10(stream_mm(400, 300) / stream_mm(100, 300)) == pytest.approx(log10(2))


def test_a_vacuum_is_read_either_way_and_never_more_than_there_is() -> None:
    def grown(**said: float) -> tuple[float | None, list[str]]:
        made = checked(checks=CheckInputs(air="vacuum", **said))
        return made.school.slow_mm if made.school else None, [finding.code for finding in made.findings]

    assert grown(vacuum_gauge_kpa=98.325)[0] == pytest.approx(grown()[0])  # 3 kPa are left
    assert grown(vacuum_gauge_kpa=98.325, vacuum_kpa=50.0)[0] == pytest.approx(grown()[0])
    for wrong in ({"vacuum_kpa": 200.0}, {"vacuum_gauge_kpa": 120.0}):
        assert grown(**wrong) == (grown()[0], ["vacuum-impossible", "vacuum-not-timed"])


def test_a_gauge_is_read_from_the_air_where_the_workshop_stands() -> None:
    def grown(air_kpa: float, **typed: float) -> tuple[float | None, bool]:
        made = checked(checks=CheckInputs(air="vacuum", **typed), shop=ShopWays(air_kpa=air_kpa))
        return made.school.slow_mm if made.school else None, "vacuum-impossible" in [one.code for one in made.findings]

    # the same absolute pressure is left, and the bubbles grow less from thinner air
    high, sea = grown(70.0, vacuum_gauge_kpa=67.0), grown(101.325, vacuum_gauge_kpa=98.325)
    assert high[0] is not None
    assert sea[0] is not None
    assert high[0] > sea[0]
    assert (high[1], sea[1]) == (False, False)
    assert grown(70.0, vacuum_gauge_kpa=98.325)[1]  # there is no such vacuum up there


def test_warts_come_only_of_the_one_bad_mix() -> None:
    # common practice, no source
    for mould, cast, mould_kpa, bad in (
        ("clear", "pressure", 275, True),
        ("vibrate", "pressure", 275, True),
        ("vacuum", "pressure", 275, False),
        ("pressure", "pressure", 275, False),
        ("pressure", "pressure", 100, True),
        ("clear", "", 275, False),
        ("clear", "vacuum", 275, False),
    ):
        assert bool(wart_findings(AirRemoval(mould=mould, cast=cast, mould_kpa=mould_kpa, cast_kpa=275))) == bad, (
            mould,
            cast,
            mould_kpa,
        )


def test_protection_names_what_calls_for_it() -> None:
    # every word that a topic waits for is one that a job can say; every rubber, resin and vessel has a topic of its own
    for topic in TOPICS:
        assert all(key in KNOWN[name] for name, wanted in topic.wants.items() for key in wanted), topic.topic
        assert topic.always or any(topic.wants.values())
    bare = {caution.topic for caution in cautions(UsedInJob())}
    assert {"Gloves", "Eyes", "Moving air"} <= bare
    for used, topic in (
        (UsedInJob(pour=frozenset({"polyurethane-rubber"})), "Isocyanates"),
        (UsedInJob(pour=frozenset({"condensation-silicone"})), "Catalyst splash"),
        (UsedInJob(deed=frozenset({"vacuum"})), "Vacuum vessel"),
        (UsedInJob(deed=frozenset({"pressure"})), "Pressure vessel"),
        (UsedInJob(between=frozenset({"clear-coat"})), "Flame and solvent"),
        (UsedInJob(between=frozenset({"talc"})), "Dust"),
        (UsedInJob(pour=frozenset({"plaster"})), "Heat of cure"),
        (UsedInJob(pour=frozenset({"epoxy-resin"})), "Respirator"),
        (UsedInJob(deed=frozenset({"slit"})), "Knife"),
        (UsedInJob(pour=frozenset({"addition-silicone"})), "Hot oven"),
    ):
        assert topic in {caution.topic for caution in cautions(used)} - bare


def test_a_stop_that_changes_must_be_signed_again() -> None:
    planted = worked_out(replace(MASTER, material="photopolymer-print", sealer="none"))
    (stop,) = planted.stops
    other = worked_out(
        replace(MASTER, material="photopolymer-print", sealer="wax"), rubber=replace(ADDITION, name="another")
    )
    assert [one.key for one in other.stops] == [stop.key]  # the same stop, whatever it is called
    clay = worked_out(replace(MASTER, material="oil-clay", sealer="none"))
    assert stop.key not in {one.key for one in clay.stops}
    assert open_stops(planted.stops) == planted.stops


def test_a_stop_has_one_key_and_the_words_of_whoever_reads_it() -> None:
    # a plan is kept, and whoever opens it next may read another language than whoever had it worked out
    findings = worked_out(replace(MASTER, material="photopolymer-print", sealer="none")).findings
    refusals = {"master": (Refused("mass_g", Text("That is not one of the choices. Choose again.")),)}
    with using(language("de")):
        made_in_german = stops(findings, refusals)
        in_german = [str(one.text) for one in made_in_german]
    assert len(in_german) == 2
    assert all(str(one.text) != german for one, german in zip(made_in_german, in_german, strict=True))
    assert [one.key for one in stops(findings, refusals)] == [one.key for one in made_in_german]


@given(st.text(max_size=200))
def test_words_are_spotted_without_losing_a_letter(text: str) -> None:
    told = f"{text} pot life {text} Release"
    pieces = cut_at_terms(told)
    assert "".join(piece for piece, _ in pieces) == told
    found = [word.term for _, word in pieces if word]
    assert len(found) == len(set(found))


SPOKEN = (
    "master",
    "board",
    "box",
    "tapered-pot",
    "contour-box",
    "tray",
    "fill-line",
    "cover",
    "side",
    "gap",
    "displacement",
    "bed",
    "rubber",
    "putty",
    "part-A-and-part-B",
    "parts-per-100",
    "specific-gravity",
    "thinner",
    "thickener",
    "pigment",
    "pot-life",
    "demould-time",
    "full-cure",
    "Shore-hardness",
    "split-line",
    "pull-direction",
    "undercut",
    "locked-rubber",
    "keys",
    "slit",
    "gate",
    "vent",
    "riser",
    "release",
    "sealer",
    "inhibitor",
    "degas",
    "pressure-pot",
    "vibrate",
    "shot",
    "cavity",
    "gang-mould",
    "witness-cup",
    "jacket",
    "squeeze-mould",
    "job",
    "station",
    "Board",
    "Shelf",
)


def test_every_term_of_the_trade_is_on_the_list() -> None:
    anchors = [word.anchor for word in WORDS]
    assert set(SPOKEN) <= set(anchors)
    assert len(anchors) == len(set(anchors))
    assert all(word.text.endswith(".") for word in WORDS)
    assert all(cut_at_terms(spelt)[0][1] == word for word in WORDS for spelt in word.spelt.split(", ") if spelt)


def test_every_between_is_told() -> None:
    assert set(PUT_ON) == set(BETWEENS)
