"""The Checks station on its pages.

So are the sign-off, pairings, own tests, the fault finder, safety data sheets and the interface.
"""

import io
import json
from datetime import UTC, datetime
from itertools import product
from typing import Any

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient

from ufrin import demo, demo_pours
from ufrin.actions import PRODUCTS, RUBBERS
from ufrin.actions.bench import pours
from ufrin.actions.job import stations
from ufrin.actions.shelf import lots, things
from ufrin.core.clocks.moment import Moment
from ufrin.core.materials.kinds import BETWEENS, POURS, SURFACES
from ufrin.core.pairing.rules import VERDICTS
from ufrin.store.connection import Database

HTMX = {"HX-Request": "true"}
PRINT = {
    "material": "photopolymer-print",
    "sealer": "none",
    "length_mm": 60.0,
    "width_mm": 40.0,
    "height_mm": 35.0,
    "level_before_ml": 100.0,
    "level_after_ml": 150.0,
}


@pytest.fixture
def planted(database: Database) -> int:
    """A job with three mistakes.

    They are an unsealed print, a bed of clay with sulphur, and a release with silicone between the halves.
    """
    rubber = things.add(database, RUBBERS, demo.RUBBERS[1])
    job = stations.start_job(database, "Planted")
    said = {
        "master": PRINT,
        "opening": {"style": "two-part", "bed_material": "sulphur-clay"},
        "rubber": {"rubber_id": rubber},
        "checks": {"between_halves": "silicone-release"},
    }
    stations.fill_in(database, job, said)
    return job


def page(client: TestClient, address: str, status: int = 200) -> BeautifulSoup:
    answer = client.get(address)
    assert answer.status_code == status, address
    return BeautifulSoup(answer.text, "lxml")


def verdicts(client: TestClient, job: int) -> dict[str, str]:
    made = client.get(f"/jobs/{job}/checks").context["checks"]
    return {pair.contact.key: pair.ruling.verdict for pair in made.pairs}


def remedy(client: TestClient, job: int, key: str, **more: int) -> Any:  # noqa: ANN401
    versions = client.get(f"/jobs/{job}/checks").context["job"].versions
    said = {
        "version": versions["checks"],
        "master_version": versions["master"],
        "opening_version": versions["opening"],
        "box_version": versions["box"],
        **more,
    }
    return client.post(
        f"/jobs/{job}/checks/remedy/{key}", data={name: str(value) for name, value in said.items()}, headers=HTMX
    )


def begin(client: TestClient, job: int) -> Any:  # noqa: ANN401
    return client.post(
        f"/jobs/{job}/pour", data={"who": "Wren", "temp_c": "21", "units": "metric"}, follow_redirects=False
    )


def test_planted_mistakes_shut_the_bench_until_they_are_mended(client: TestClient, planted: int) -> None:
    assert verdicts(client, planted) == {
        "master": "will-not-set",
        "walls": "fine",
        "bed": "will-not-set",
        "halves": "bonds",
        "cast": "may-not-set",
    }
    shown = page(client, f"/jobs/{planted}/checks")
    assert "3 pairings forbid it" in shown.text
    assert len(shown.select(".touch-stop")) == 3
    shut = begin(client, planted)
    assert shut.status_code == 422
    assert "3 stops" in shut.text
    assert page(client, f"/jobs/{planted}/pour").select_one("button[disabled]")
    for key in ("master", "bed", "halves"):
        assert remedy(client, planted, key).status_code == 200
    assert verdicts(client, planted) | {"cast": ""} == {
        "master": "fine",
        "walls": "fine",
        "bed": "fine",
        "halves": "fine",
        "cast": "",
    }
    mended = page(client, f"/jobs/{planted}/pour")
    assert "Clear coat" in mended.text or "clear coat" in mended.text
    assert not mended.select("#sign-off")
    sheet = page(client, f"/jobs/{planted}/sheet").text
    assert "Before the second half is poured" in sheet
    assert "clear coat on the master" in sheet
    assert begin(client, planted).status_code == 303


def test_a_stop_is_signed_off_with_a_reason_that_goes_into_the_record(client: TestClient, planted: int) -> None:
    remedy(client, planted, "bed")
    remedy(client, planted, "halves")
    (stop,) = client.get(f"/jobs/{planted}/pour").context["stops"]
    for said, status in (
        ({"reason": "", "who": "Wren"}, 422),
        ({"reason": "x" * 401, "who": "Wren"}, 422),
        ({"reason": "Tried it", "who": " "}, 422),
    ):
        answer = client.post(f"/jobs/{planted}/pour/sign", data={"about": stop["key"], **said})
        assert answer.status_code == status
        assert said["reason"][:100] in answer.text  # nothing typed is lost
    assert (
        client.post(f"/jobs/{planted}/pour/sign", data={"about": "gone", "reason": "a", "who": "b"}).status_code == 422
    )
    client.post(
        f"/jobs/{planted}/pour/sign", data={"about": stop["key"], "reason": "Spot set <b>fine</b>", "who": "Wren"}
    )
    signed = page(client, f"/jobs/{planted}/pour")
    assert "Every stop is signed off" in signed.text
    assert not signed.select("#sign-off b b")
    assert client.get(f"/jobs/{planted}/checks").context["plan"].states["checks"] == "warning"
    started = begin(client, planted)
    assert "Spot set &lt;b&gt;fine&lt;/b&gt;" in client.get(started.headers["Location"] + "/record").text
    client.post(f"/jobs/{planted}/pour/unsign", data={"about": stop["key"]})
    assert begin(client, planted).status_code == 422


def test_a_stop_whose_facts_change_must_be_signed_again(client: TestClient, planted: int, database: Database) -> None:
    for stop in client.get(f"/jobs/{planted}/pour").context["stops"]:
        client.post(f"/jobs/{planted}/pour/sign", data={"about": stop["key"], "reason": "trial", "who": "Wren"})
    assert begin(client, planted).status_code == 303
    stations.change_station(
        database,
        planted,
        "master",
        version=client.get(f"/jobs/{planted}/master").context["job"].versions["master"],
        changes={"material": "oil-clay"},
    )
    assert "1 stop before" in page(client, f"/jobs/{planted}/pour").text


def test_a_remedy_that_came_too_late_overwrites_nothing(client: TestClient, planted: int) -> None:
    assert remedy(client, planted, "master", master_version=99).status_code == 409
    assert remedy(client, planted, "walls").status_code == 422
    assert remedy(client, planted, "no-such-pair").status_code == 422
    assert verdicts(client, planted)["master"] == "will-not-set"


def test_an_own_test_is_noted_comes_first_and_is_withdrawn(client: TestClient, planted: int) -> None:
    said = {
        "pour": "addition-silicone",
        "touches": "photopolymer-print",
        "between": "none",
        "rubber": "",
        "verdict": "fine",
        "why": "Set <script>",
        "tried_on": "2026-03-01",
    }
    assert client.post("/pairings", data=said).status_code == 200
    shown = page(client, f"/jobs/{planted}/checks#pairs")
    assert "Your own test of 1 Mar 2026" in shown.text
    assert not shown.select("#pairs script")
    assert verdicts(client, planted)["master"] == "fine"
    client.post(
        "/pairings", data={**said, "verdict": "will-not-set", "why": "Sticky after all", "tried_on": "2026-05-01"}
    )
    listed = page(client, "/pairings")
    assert "An older test says otherwise" in listed.text
    assert "a newer one says otherwise" in listed.text
    assert verdicts(client, planted)["master"] == "will-not-set"
    newest = client.get("/pairings").context["kept"][0].rule
    client.post(f"/pairings/{newest.id}/withdraw")
    assert verdicts(client, planted)["master"] == "fine"
    out = client.get("/pairings/tests.json").json()
    assert [test["why"] for test in out["tests"]] == ["Set <script>"]
    again = client.post("/pairings/tests", files={"file": ("tests.json", json.dumps(out).encode(), "application/json")})
    assert "0 taken in, 1 were here already" in again.text
    assert client.post("/pairings/4711/withdraw").status_code == 404


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"why": ""}, "Say in up to 400"),
        ({"tried_on": "yesterday"}, "Type a date"),
        ({"verdict": "perhaps"}, "not a verdict"),
        ({"pour": "treacle"}, "not a kind"),
        ({"rubber": "Nowhere 20"}, "not on the Shelf"),
    ],
)
def test_a_test_that_says_nothing_is_refused_and_nothing_typed_is_lost(
    client: TestClient, wrong: dict[str, str], says: str
) -> None:
    said = {
        "pour": "plaster",
        "touches": "glass",
        "between": "none",
        "rubber": "",
        "verdict": "fine",
        "why": "Came off clean",
        "tried_on": "2026-03-01",
        **wrong,
    }
    answer = client.post("/pairings", data=said)
    assert answer.status_code == 422
    assert says in answer.text
    assert said["why"] in answer.text


@pytest.mark.parametrize(
    "data", [b"", b"not json", b"{}", b"\x00\xff", b'{"form": "ufrin own pairing tests, 1", "tests": [{"pour": "x"}]}']
)
def test_what_is_no_rule_file_is_refused(client: TestClient, data: bytes) -> None:
    answer = client.post("/pairings/tests", files={"file": ("rules.json", data, "application/json")})
    assert answer.status_code == 422
    assert client.get("/pairings").context["kept"] == ()


def test_a_surface_of_its_own_name_is_tried_and_known_from_then_on(
    client: TestClient, planted: int, database: Database
) -> None:
    version = client.get(f"/jobs/{planted}/master").context["job"].versions["master"]
    said = {
        "version": str(version),
        "units": "metric",
        "material": "something-else",
        "own_material": "Grey | resin <i>",
        "sealer": "none",
    }
    client.post(f"/jobs/{planted}/master", data=said, headers=HTMX)
    unknown = page(client, f"/jobs/{planted}/checks").select_one("#pair-master")
    assert unknown is not None
    assert "not known: test a spot" in unknown.text
    assert not unknown.select("i")
    tried = next(link for link in unknown.select("a") if link.text == "Enter a test of our own")
    form = page(client, str(tried["href"])).select_one("form#test")
    assert form is not None
    filled = {field["name"]: field.get("value", "") for field in form.select("input[type=hidden]")}
    rubber = form.select_one("#test-rubber option[selected]")
    assert rubber is not None  # it was tried with the rubber of this job
    client.post(
        "/pairings", data={**filled, "rubber": rubber.text, "verdict": "fine", "why": "Set", "tried_on": "2026-04-01"}
    )
    assert verdicts(client, planted)["master"] == "fine"
    assert client.post("/api/v1/pairing", json={"pour": "plaster", "touches": "Grey | resin <i>"}).status_code == 422


def test_the_fault_finder_reads_the_record_and_remembers(client: TestClient, planted: int, database: Database) -> None:
    assert "What does it look like?" in page(client, f"/jobs/{planted}/faults").text
    found = client.get(f"/jobs/{planted}/faults?symptom=sticky-skin").context["found"]
    assert found.ranked_causes[0].cause.key == "inhibited-master"
    client.post(
        f"/jobs/{planted}/faults",
        data={"symptom": "sticky-skin", "cause": "inhibited-master", "note": "it <i>was</i> the print"},
    )
    noted = page(client, f"/jobs/{planted}/faults")
    assert "it <i>was</i> the print" in noted.text
    other = stations.start_job(database, "Another print")
    rubber = client.get(f"/jobs/{planted}/rubber").context["job"].rubber.rubber_id
    stations.fill_in(database, other, {"master": PRINT, "rubber": {"rubber_id": rubber}})
    assert "It happened here:" in page(client, f"/jobs/{other}/checks").text
    assert "Planted" in page(client, f"/jobs/{other}/faults").text
    number = client.get(f"/jobs/{planted}/faults").context["found"].noted[0].id
    client.post(f"/jobs/{planted}/faults/{number}/forget")
    assert "It happened here:" not in page(client, f"/jobs/{other}/checks").text
    for said in (
        {"symptom": "green", "cause": "ratio"},
        {"symptom": "soft", "cause": "gremlins"},
        {"symptom": "soft", "cause": "other", "note": ""},
    ):
        assert client.post(f"/jobs/{planted}/faults", data=said).status_code == 422
    assert client.get(f"/jobs/{planted}/faults?symptom=soft&demoulded=9 kg&shots=-1").status_code == 422
    assert client.get(f"/jobs/{planted}/faults?symptom=%00").status_code == 422


@pytest.mark.parametrize(("use_by", "is_old"), [("2021-03-01", False), ("2019-03-01", True)])
def test_a_lot_is_as_old_as_it_was_at_the_pour(
    client: TestClient, planted: int, database: Database, use_by: str, *, is_old: bool
) -> None:
    for key in ("master", "bed", "halves"):
        remedy(client, planted, key)
    for part in ("A", "B"):
        lots.add(database, RUBBERS, 1, {"code": "TL-1", "part": part, "got_g": 5000.0, "use_by": use_by})
    begun = datetime(2020, 6, 1, tzinfo=UTC).timestamp()
    number = pours.start(
        database,
        planted,
        who="Wren",
        temp_c=21.0,
        what="the box",
        now=Moment(wall_s=begun, steady_s=begun, machine="then"),
    )
    demo_pours.weigh_through(demo_pours._Hand(database, number, begun), 0.0, 0.0)  # noqa: SLF001 - the demo's own hand
    told = client.get(f"/jobs/{planted}/faults?symptom=soft").text
    assert ("Past their use-by: TL-1." in told) == is_old
    assert ("within their use-by" in told) != is_old


def test_a_safety_data_sheet_is_attached_linked_and_taken_off(client: TestClient, planted: int) -> None:
    assert "attach it" in page(client, f"/jobs/{planted}/checks").text
    for name, data in (("sheet.html", b"<html>"), ("empty.pdf", b"")):
        assert client.post("/shelf/rubbers/1/sheet", files={"file": (name, data, "application/pdf")}).status_code == 422
    client.post("/shelf/rubbers/1/sheet", files={"file": ('s"afe\n.pdf', b"%PDF-1.7 words", "text/html")})
    answer = client.get("/shelf/rubbers/1/sheet")
    assert (answer.content, answer.headers["content-type"]) == (b"%PDF-1.7 words", "application/pdf")
    link = page(client, f"/jobs/{planted}/checks").select_one('#section-protection a[href="/shelf/rubbers/1/sheet"]')
    assert link is not None
    client.post("/shelf/rubbers/1/sheet/off", data={"sure": "yes"})
    assert client.get("/shelf/rubbers/1/sheet").status_code == 404
    assert (
        client.post(
            "/shelf/rubbers/99/sheet", files={"file": ("a.pdf", io.BytesIO(b"%PDF-"), "application/pdf")}
        ).status_code
        == 404
    )
    assert client.get("/shelf/cups/1/sheet").status_code == 404


def test_protection_is_folded_and_never_dismissed(client: TestClient, planted: int) -> None:
    station = page(client, f"/jobs/{planted}/checks")
    shown = station.select_one("#section-protection")
    assert shown is not None
    assert shown.select("dt")
    assert not shown.select("button, input")
    # what is folded is named beside the answer
    caution = station.select_one(".overview .caution").text
    for topic in shown.select("dt"):
        assert topic.find(string=True).strip().lower() in caution


def test_releases_stand_on_the_shelf_and_are_named(client: TestClient, planted: int, database: Database) -> None:
    made = client.post(
        "/shelf/products/new",
        data={
            "name": "Spindrift",
            "kind": "silicone-free-release",
            "by": "spray",
            "finish": "matt",
            "sets_min": "10",
            "shots": "4",
        },
    )
    assert made.status_code == 200
    assert [kept.thing.name for kept in things.shelf(database, PRODUCTS).things] == ["Spindrift"]
    assert "Spindrift" in page(client, f"/jobs/{planted}/checks").text
    assert client.post("/shelf/products/new", data={"name": "Spindrift"}).status_code == 422
    given = client.get("/shelf/products/file.csv").text
    assert "Spindrift" in given
    client.post(
        "/shelf/products/csv",
        data={"csv": given.replace("Spindrift", "Shoal").replace("silicone-free-release", "talc"), "keep": "yes"},
    )
    assert [kept.thing.kind for kept in things.shelf(database, PRODUCTS).things] == ["talc", "silicone-free-release"]
    kinds = client.post("/shelf/products/csv", data={"csv": "name,kind\nGull,treacle\n", "keep": "yes"})
    assert kinds.status_code == 422
    assert client.post("/shelf/products/1/delete", data={"sure": "yes"}).status_code == 200
    assert len(things.shelf(database, PRODUCTS).things) == 1


def test_the_shops_schools_are_settings(client: TestClient, planted: int) -> None:
    kept = client.get("/settings").context["kept"]
    said = {
        "version": kept.version,
        "units": "metric",
        "currency": "EUR",
        "confidence_pct": "80",
        "air": "vacuum",
        "release": "always",
    }
    client.post("/settings", data={key: str(value) for key, value in said.items()})
    assert client.get(f"/jobs/{planted}/checks").context["checks"].air == "vacuum"
    assert (
        client.post("/settings", data={**said, "version": str(kept.version + 1), "air": "wishing"}).status_code == 422
    )


def test_every_word_that_is_linked_is_on_the_list(client: TestClient, planted: int) -> None:
    listed = {entry["id"] for entry in page(client, "/words").select(".word-list p[id]")}
    for station in ("checks", "pour", "faults?symptom=warts", "opening", "box"):
        links = [link["href"] for link in page(client, f"/jobs/{planted}/{station}").select("a.word")]
        assert {str(link).removeprefix("/words#") for link in links} <= listed
        assert links or station != "checks"


def test_the_interface_judges_every_pairing_it_names(client: TestClient) -> None:
    kinds = client.get("/api/v1/pairing/kinds").json()
    assert (set(kinds["pours"]), set(kinds["surfaces"]), set(kinds["between"])) == (
        set(POURS),
        set(SURFACES),
        set(BETWEENS),
    )
    for pour, touches in list(product(kinds["pours"], kinds["surfaces"]))[::7]:
        answer = client.post("/api/v1/pairing", json={"pour": pour, "touches": touches, "between": "none"}).json()
        assert answer["verdict"] in VERDICTS
        assert answer["why"]
        assert bool(answer["remedy"]) == (answer["verdict"] != "fine")


@pytest.mark.parametrize(
    "wrong", [{"pour": "treacle"}, {"touches": "any"}, {"between": ""}, {"more": 1}, {"pour": 7}, {"pour": "x" * 90}]
)
def test_the_interface_refuses_unknown_names(client: TestClient, wrong: dict[str, object]) -> None:
    answer = client.post("/api/v1/pairing", json={"pour": "plaster", "touches": "wax", "between": "none", **wrong})
    assert answer.status_code == 422
    assert answer.json()["detail"]


def test_the_interface_tells_bubbles(client: TestClient) -> None:
    # Boyle and Stokes by hand: 40 psi over 101.325 kPa leaves 0.2687 of the volume; 0.409 mm rises 60 mm in 30
    # min in 3 Pa s
    asked = {"viscosity_mpa_s": 3000, "sg": 1.1, "depth_mm": 60, "pot_life_min": 30}
    plain = client.post("/api/v1/bubbles", json=asked).json()
    assert plain["clears_mm"] == {
        "stokes": pytest.approx(0.4087, rel=1e-3),
        "hadamard": pytest.approx(0.3337, rel=1e-3),
    }
    assert plain["pressure_pot"] is None
    pot = client.post("/api/v1/bubbles", json={**asked, "pressure_psi_gauge": 40}).json()["pressure_pot"]
    assert pot == {
        "volume_ratio": pytest.approx(0.268684, rel=1e-5),
        "diameter_ratio": pytest.approx(0.645279, rel=1e-5),
    }
    for wrong in (
        {"sg": 0},
        {"viscosity_mpa_s": -1},
        {"depth_mm": 1e9},
        {"pressure_psi_gauge": -5},
        {"pot_life_min": "soon"},
        {"sg": 0.001},
    ):
        assert client.post("/api/v1/bubbles", json={**asked, **wrong}).status_code == 422
