"""What the Checks station and the fault finder keep, in a real PostgreSQL; each test is rolled back."""

from dataclasses import replace
from datetime import date

import psycopg
import pytest
from hypothesis import given
from hypothesis import strategies as st
from thoroughness import examples

from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.job.sign_off import Stop
from ufrin.core.materials.kinds import BETWEENS, POURS, SURFACES
from ufrin.core.pairing.releases import PRODUCT_FINISHES, PRODUCT_KINDS, PUT_ON_BY, Product
from ufrin.core.pairing.rules import VERDICTS, OwnRule
from ufrin.core.rubber.tins import Rubber
from ufrin.errors import Missing, Refused
from ufrin.store import faults, jobs, pairing_tests, safety_sheets, shop_ways
from ufrin.store import sign_offs as gate
from ufrin.store.connection import Connection
from ufrin.store.safety_sheets import SafetySheet
from ufrin.store.shelf import PRODUCTS, RUBBERS

TIN = Rubber(name="Tideline 15", weight_a=1, weight_b=1, sg_mixed=1.08)
TEST = OwnRule(
    pour="addition-silicone",
    touches="photopolymer-print",
    between="none",
    verdict="fine",
    why="Set.",
    tried_on="2026-03-01",
)
STOP = Stop(key="a1", station="checks", why=Refused("", "It will not set. Seal it."))

words = st.text(st.characters(exclude_categories=["C", "Z"]), min_size=1, max_size=40)
tests = st.builds(
    OwnRule,
    pour=st.sampled_from(list(POURS)),
    touches=st.one_of(st.sampled_from(list(SURFACES)), words),
    between=st.sampled_from(list(BETWEENS)),
    verdict=st.sampled_from(VERDICTS),
    why=words,
    tried_on=st.dates(min_value=date(1950, 1, 1)).map(str).filter(lambda day: day < "2199"),
    rubber=st.sampled_from(["", "Tideline 15"]),
)
products = st.builds(
    Product,
    name=words,
    kind=st.sampled_from(list(PRODUCT_KINDS)),
    by=st.sampled_from(list(PUT_ON_BY)),
    finish=st.sampled_from(list(PRODUCT_FINISHES)),
    sets_min=st.one_of(st.none(), st.floats(0.1, 1e4)),
    shots=st.one_of(st.none(), st.floats(1, 100)),
)


@examples(25, on_one_database=True)
@given(
    st.lists(tests, max_size=6, unique_by=lambda test: (test.case, test.verdict, test.why, test.tried_on)),
    st.lists(products, max_size=4, unique_by=lambda one: one.name.lower()),
)
def test_tests_and_releases_go_there_and_back(
    connection: Connection, noted: list[OwnRule], on_shelf: list[Product]
) -> None:
    with connection.transaction(force_rollback=True):
        RUBBERS.add(connection, TIN)
        assert all(pairing_tests.add(connection, test) for test in noted)
        assert not any(pairing_tests.add(connection, test) for test in noted)  # the same again is taken once
        for product in on_shelf:
            PRODUCTS.add(connection, product)
        kept = shop_ways.load(connection, [])
        assert {replace(rule, id=0) for rule in kept.rules} == set(noted)
        assert {replace(one.rule, id=0) for one in pairing_tests.every(connection)} == set(noted)
        assert set(kept.products) == set(on_shelf)


def test_a_withdrawn_test_no_longer_counts_and_stays_on_record(connection: Connection) -> None:
    pairing_tests.add(connection, TEST)
    (number,) = [one.rule.id for one in pairing_tests.every(connection)]
    pairing_tests.withdraw(connection, number, withdrawn=True)
    assert shop_ways.load(connection, []).rules == ()
    assert [one.withdrawn_at is not None for one in pairing_tests.every(connection, withdrawn=True)] == [True]
    with pytest.raises(Missing, match="this test"):
        pairing_tests.withdraw(connection, number + 1, withdrawn=True)
    with pytest.raises(Refused, match="not on the Shelf"):
        pairing_tests.add(connection, replace(TEST, rubber="Nowhere 20"))


def test_a_rubber_with_tests_of_its_own_is_not_deleted(connection: Connection) -> None:
    number = RUBBERS.add(connection, TIN)
    pairing_tests.add(connection, replace(TEST, rubber="tideline 15"))
    assert shop_ways.load(connection, []).rules[0].rubber == "Tideline 15"
    with pytest.raises(psycopg.errors.ForeignKeyViolation, match="rubber_has_tests"):
        RUBBERS.delete(connection, number)


def test_the_first_signature_stands_until_it_is_taken_back(connection: Connection) -> None:
    job = jobs.start(connection, "Ammonite")
    for who in ("Wren", "Tamsin"):
        gate.sign(connection, job, STOP, reason="A spot set well", who=who)
    (signed,) = shop_ways.load(connection, [job, job + 1]).signed[job]
    assert (signed.about, signed.text, signed.who) == (STOP.key, STOP.text, "Wren")
    gate.withdraw(connection, job, STOP.key)
    assert shop_ways.load(connection, [job]).signed == {}
    gate.sign(connection, job, STOP, reason="Looked again", who="Tamsin")
    assert shop_ways.load(connection, [job]).signed[job][0].who == "Tamsin"
    row = connection.execute("select count(*) as lines from sign_offs").fetchone()
    assert row == {"lines": 2}  # what was taken back stays on record


def test_a_fault_is_found_by_any_of_its_pairings(connection: Connection) -> None:
    first, other = jobs.start(connection, "Ammonite"), jobs.start(connection, "Cleat")
    faults.add(connection, first, symptom="soft", cause="cold", note="", pairs=["a|b|none", "a|c|wax"])
    faults.add(connection, other, symptom="torn", cause="other", note="dropped", pairs=["a|d|none"])
    assert [one.job_name for one in faults.of_pairs(connection, ["a|c|wax", "x|y|z"])] == ["Ammonite"]
    assert faults.of_pairs(connection, []) == []
    (kept,) = faults.of_job(connection, other)
    faults.delete(connection, first, kept.id)  # of another job: nothing happens
    assert faults.of_job(connection, other) == [kept]
    faults.delete(connection, other, kept.id)
    assert faults.of_job(connection, other) == []


def test_a_sheet_goes_with_its_thing(connection: Connection) -> None:
    rubber, release = RUBBERS.add(connection, TIN), PRODUCTS.add(connection, Product(name="Spindrift"))
    sheet = SafetySheet(name="a.pdf", media="application/pdf", data=b"%PDF-\x00\xff")
    safety_sheets.attach(connection, "rubbers", rubber, sheet)
    safety_sheets.attach(connection, "products", release, replace(sheet, name="b.pdf"))
    safety_sheets.attach(connection, "rubbers", rubber, replace(sheet, name="newer.pdf"))
    assert safety_sheets.names(connection) == {("rubbers", rubber): "newer.pdf", ("products", release): "b.pdf"}
    assert safety_sheets.load(connection, "rubbers", rubber).data == sheet.data
    PRODUCTS.delete(connection, release)
    assert safety_sheets.names(connection) == {("rubbers", rubber): "newer.pdf"}
    safety_sheets.take_off(connection, "rubbers", rubber)
    for kind in ("rubbers", "cups"):
        with pytest.raises(Missing, match="safety data sheet"):
            safety_sheets.load(connection, kind, rubber)


def test_the_checks_station_is_kept_like_the_others(connection: Connection) -> None:
    job = jobs.start(connection, "Ammonite")
    said = CheckInputs(cast_material="plaster", between_walls="none", pot_kpa=275.0)
    before, version = jobs.lock_station(connection, job, "checks")
    jobs.save_station(connection, job, "checks", said, before=before, version=version)
    assert jobs.load(connection, job, "checks").checks == said
    assert jobs.take_earlier(connection, job, "checks") == CheckInputs()
