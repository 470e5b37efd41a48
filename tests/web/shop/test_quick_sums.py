"""Quick sums on their pages: answered as typed, shared by address, made into a job."""

import pytest
from bs4 import BeautifulSoup
from starlette.testclient import TestClient

from ufrin.actions.job import stations
from ufrin.actions.job.sum_to_job import TABLE_OF
from ufrin.actions.shelf import things
from ufrin.core.job.terms import TERMS
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.quick_sums.quick_sum import SumInputs
from ufrin.core.rubber.tins import Rubber
from ufrin.store.connection import Database
from ufrin.store.shelf import RUBBERS

GRAMS = {
    "length_mm": "3 1/2 in",
    "width_mm": "6 cm",
    "height_mm": "40",
    "displaced_ml": "118 ml",
    "ratio": "10:1",
    "sg": "1.13",
    "spare_pct": "5",
}


@pytest.mark.parametrize("key", SUMS)
def test_each_has_its_page_and_a_field_to_begin_in(client: TestClient, key: str) -> None:
    assert f'href="/sums/{key}"' in client.get("/sums").text
    page = BeautifulSoup(client.get(f"/sums/{key}").text, "lxml")
    first = page.select_one("form#typed input:not([type=hidden])")
    assert first is not None
    assert first["name"] == next(iter(SUMS[key].terms))
    assert first.has_attr("autofocus")
    # what counts without being typed is shown where it would be typed
    for name, term in SUMS[key].terms.items():
        if term.default is not None and term.kind != "hidden":
            assert page.select_one(f"#f-{name}")["placeholder"]


def test_the_address_holds_what_was_typed(client: TestClient) -> None:
    answer = client.get("/sums/grams", params=GRAMS | {"nonsense": "1", "side_mm": ""}, headers={"HX-Request": "true"})
    assert answer.text.lstrip().startswith('<div class="bench sum"')
    address = answer.headers["HX-Replace-Url"]
    assert "nonsense" not in address
    assert "side_mm" not in address
    assert client.get(address).context["answer"] == answer.context["answer"]
    # a bare number keeps its meaning where the workshop has other units
    kept = client.get("/settings").context["kept"]
    client.post("/settings", data={"version": str(kept.version), "units": "us", "currency": "EUR"})
    assert client.get("/settings").context["kept"].units == "us"
    assert client.get(address).context["answer"] == answer.context["answer"]


def test_units_of_the_address_are_those_it_was_typed_in(client: TestClient) -> None:
    metric = client.get("/sums/weight", params={"units": "metric", "volume_ml": "100", "sg": "1"}).context
    us = client.get("/sums/weight", params={"units": "us", "volume_ml": "100", "sg": "1"}).context
    assert us["answer"].figures[0][1].value == pytest.approx(29.5735 * metric["answer"].figures[0][1].value, rel=1e-4)


def test_a_sum_becomes_a_job_of_the_same_figures(client: TestClient, database: Database) -> None:
    made = client.post("/sums/grams/job", data=GRAMS | {"name": "Capstan"}, follow_redirects=False)
    assert made.status_code == 303
    job_id = int(made.headers["location"].split("/")[2])
    opened = stations.open_job(database, job_id)
    told = client.get("/sums/grams", params=GRAMS).context["answer"]
    rows = dict(told.rows)
    assert opened.plan.box is not None
    assert opened.plan.box.net_ml == pytest.approx(rows["Net rubber"].value)
    (pour,) = opened.plan.pours
    assert [one.g for one in pour.batches[0]] == pytest.approx([amount.value for _, amount in told.figures])
    # its rubber is on the Shelf, once
    client.post("/sums/grams/job", data=GRAMS | {"name": "Capstan again"})
    assert [kept.thing.name for kept in things.shelf(database, RUBBERS).things] == ["Rubber 10:1, 1.13 g/ml"]


def job_of(client: TestClient, key: str, typed: dict[str, str]) -> int:
    made = client.post(f"/sums/{key}/job", data=typed | {"name": f"Of {key}"}, follow_redirects=False)
    assert made.status_code == 303, made.text
    return int(made.headers["location"].split("/")[2])


def test_a_jug_keeps_its_error_in_the_job(client: TestClient, database: Database) -> None:
    size = {"length_mm": "85", "width_mm": "60", "height_mm": "40"}
    job_id = job_of(client, "box", size | {"level_before_ml": "300", "level_after_ml": "418", "count": "2"})
    opened = stations.open_job(database, job_id)
    assert opened.plan.master.measured is not None
    assert opened.plan.master.measured.plus_minus_ml == pytest.approx(2.5 * 2**0.5)
    told = client.get("/sums/box", params=size | {"displaced_ml": "118", "count": "2"}).context["answer"]
    assert opened.plan.box is not None
    assert opened.plan.box.net_ml == pytest.approx(told.figures[0][1].value)
    codes = {one.code for one in opened.plan.findings["opening"]}
    assert "style-unlikely" not in codes  # what stands in a box has a foot to stand on


@pytest.mark.parametrize(
    ("key", "typed"),
    [
        ("cast", {"cavity_ml": "206.4", "count": "3", "ratio": "100:90", "sg": "1.06", "spare_pct": "7"}),
        ("cast", {"cavity_ml": "118", "ratio": "1:1", "sg_a": "1.05", "sg_b": "0.97"}),
        ("filler", {"need_ml": "180", "scoops": "1.5", "ratio": "100:100", "sg": "1.1"}),
        ("shell", {"area_cm2": "340", "thickness_mm": "3.5", "coat_mm": "1", "sg": "1.05", "cavity_ml": "820"}),
    ],
)
def test_a_cast_becomes_a_job_of_the_same_grams(
    client: TestClient, database: Database, key: str, typed: dict[str, str]
) -> None:
    told = client.get(f"/sums/{key}", params=typed).context["answer"]
    casts = stations.open_job(database, job_of(client, key, typed)).casts
    assert casts is not None
    assert casts.plan is not None
    grams = {one.key: one.g for one in casts.plan.cups[0].ingredients}
    names = {"A": "A", "B": "B", "filler": "filler"}
    assert grams == pytest.approx({names[str(label)]: amount.value for label, amount in told.figures})


def test_the_workshops_own_tin_is_not_taken_for_one_of_the_same_ratio(client: TestClient, database: Database) -> None:
    own = Rubber(name="Quay 15", weight_a=10, weight_b=1, sg_mixed=1.13, pot_life_min=6)
    things.add(database, RUBBERS, own)
    opened = stations.open_job(database, job_of(client, "grams", GRAMS))
    assert opened.plan.pour is not None
    assert opened.plan.pour.rubber.pot_life_min is None


@pytest.mark.parametrize("key", SUMS)
def test_what_a_job_keeps_are_inputs_that_its_stations_have(key: str) -> None:
    made = SUMS[key]
    typed = {name: 12.0 for name, term in made.terms.items() if term.kind not in {"text", "hidden"}}
    for station, own in made.for_job(SumInputs(terms=made.terms, typed=typed)).items():
        assert own.keys() <= TERMS[station].keys()


@pytest.mark.parametrize("language", ["en", "de"])
def test_every_sum_can_be_made_into_a_job(client: TestClient, database: Database, language: str) -> None:
    spoken = {"accept-language": language}
    typed = {
        "mix": {"need_ml": "300"},
        "mend": {"a_g": "100", "b_g": "120"},
        "weight": {"volume_ml": "300", "sg": "1.1"},
        "box": {"length_mm": "60", "width_mm": "40", "height_mm": "30"},
        "pot": {"bottom_mm": "80", "top_mm": "100", "height_mm": "90"},
        "hardness": {"rubber": "A 15", "target": "00 50"},
        "blend": {"first": "A 10", "second": "A 30", "share_pct": "50"},
        "bubbles": {"viscosity_mpa_s": "20000", "pot_life_min": "30"},
        "cure": {"tin_min": "4 h"},
        "clock": {"tin_min": "4 h"},
        "cast": {"cavity_ml": "100"},
        "shell": {"area_cm2": "340"},
        "filler": {"need_ml": "100"},
        "cost": {},
        "grams": GRAMS,
    }
    assert typed.keys() == SUMS.keys()
    for key, own in typed.items():
        made = client.post(f"/sums/{key}/job", data=own | {"name": f"Of {key}"}, headers=spoken, follow_redirects=False)
        assert made.status_code == 303, (key, made.text[-900:])
        assert client.get(made.headers["location"]).status_code == 200
        # made once more, it is mixed of the same tins, under the same names
        there = tins(database)
        client.post(f"/sums/{key}/job", data=own | {"name": f"Again {key}"}, follow_redirects=False)
        assert tins(database) == there


def tins(database: Database) -> set[str]:
    return {kept.thing.name for table in TABLE_OF.values() for kept in things.shelf(database, table).things}


@pytest.mark.parametrize(
    ("typed", "name", "why"),
    [
        ({"length_mm": "9 kg"}, "Cleat", "Mend the fields"),
        ({}, "Cleat", "missing"),
        (GRAMS, " ", "Give it a name"),
        (GRAMS | {"displaced_ml": "9 l"}, "Cleat", "displace"),
    ],
)
def test_no_job_is_made_of_what_gives_no_answer(
    client: TestClient, database: Database, typed: dict[str, str], name: str, why: str
) -> None:
    refused = client.post("/sums/grams/job", data=typed | {"name": name})
    assert refused.status_code == 422
    assert why in refused.text
    for text in typed.values():  # what was typed is still there
        assert text in BeautifulSoup(refused.text, "lxml").select_one("#typed").decode()
    assert client.get("/api/v1/jobs").json()["jobs"] == []


def test_a_clock_runs_on_at_its_address(client: TestClient) -> None:
    shown = BeautifulSoup(client.get("/sums/clock", params={"tin_min": "4 h", "room_temp_c": "23"}).text, "lxml")
    start = shown.select_one(".answer a.go")
    running = client.get(str(start["href"]))
    left = BeautifulSoup(running.text, "lxml").select_one("[data-until]")
    assert int(left["data-until"]) - running.context["now_s"] == pytest.approx(4 * 3600, abs=5)
    for begun in ("x", "9" * 11, "9" * 30, "-5"):
        assert client.get("/sums/clock", params={"tin_min": "4 h", "begun": begun}).status_code == 200


def test_hostile_addresses_are_no_mistake_of_ours(client: TestClient) -> None:
    for address in ("/sums/door", "/sums/grams/door"):
        assert client.get(address).status_code == 404
    for text in ("9" * 5000, "\x00", "<script>", "\u202e123", "1e400", "nan", "-5", "🦑"):
        for key, made in SUMS.items():
            answer = client.get(f"/sums/{key}", params=dict.fromkeys(made.terms, text))
            assert answer.status_code == 200
            assert "<script>" not in answer.text.replace("<script src", "")
