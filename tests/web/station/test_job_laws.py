"""Laws of a job in the record book: one set of figures everywhere; units, undo and the order of work change nothing."""

from collections.abc import Mapping
from itertools import permutations

import pytest
from bs4 import BeautifulSoup, Tag
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st
from thoroughness import examples

from ufrin import demo
from ufrin.actions import RUBBERS, Database
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.core.inputs.stations import Station

SHARED = examples(12, on_one_database=True)
MASTER = {
    "length_mm": 62.0,
    "width_mm": 41.0,
    "height_mm": 33.0,
    "mass_g": 71.0,
    "level_before_ml": 500.0,
    "level_after_ml": 548.0,
    "material": "brass",
}


@pytest.fixture
def rubber(database: Database) -> int:
    return things.add(database, RUBBERS, demo.RUBBERS[0])


def job_ids(client: TestClient) -> list[int]:
    return [one["id"] for one in client.get("/api/v1/jobs").json()["jobs"]]


def figures(client: TestClient, job: int) -> Mapping[str, object]:
    """Return the figures of a job as each place has them."""
    page = client.get(f"/jobs/{job}/rubber").context["plan"]
    sheet = client.get(f"/jobs/{job}/sheet").context["plan"]
    told = client.get(f"/api/v1/jobs/{job}").json()
    return {"page": page, "sheet": sheet, "interface": told}


def test_page_sheet_bench_and_interface_show_the_same_amounts(client: TestClient, filled: Database) -> None:
    poured = 0
    for job in job_ids(client):
        found = figures(client, job)
        page, sheet, told = found["page"], found["sheet"], found["interface"]
        assert [pour.batches for pour in page.pours] == [pour.batches for pour in sheet.pours]
        bench = client.get(f"/jobs/{job}/pour").context
        for pour, one in zip(page.pours, told["pours"], strict=True):
            if one["weighed"]:
                continue  # what was weighed keeps the plan that it was weighed from
            poured += 1
            assert one["total_g"] == pytest.approx(sum(part.g for batch in pour.batches for part in batch), rel=1e-6)
            for role in "AB":
                weighed = sum(part.g for batch in pour.batches for part in batch if part.role == role)
                assert one["parts"][role] == pytest.approx(weighed)
            assert one["net_ml"] == pytest.approx(pour.need_ml)
        if page.box is not None:
            assert told["box"]["net_ml"] == pytest.approx(page.box.net_ml) == sheet.box.net_ml
        assert bench["plan"].pours == page.pours
    assert poured > 5


def test_the_bench_weighs_what_the_page_shows(client: TestClient, filled: Database) -> None:
    begun = 0
    for job in job_ids(client):
        plan = client.get(f"/jobs/{job}/rubber").context["plan"]
        answer = client.post(
            f"/jobs/{job}/pour", data={"units": "metric", "who": "Wren", "temp_c": "21"}, follow_redirects=False
        )
        if answer.status_code != 303:
            continue
        begun += 1
        state = client.get(answer.headers["location"]).context["state"]
        halves = [pour for pour in plan.pours if pour.half == state.plan.half]
        assert state.plan.batches == halves[0].batches
        assert state.plan.need_g == halves[0].need_g
    assert begun > 2


def verdicts(client: TestClient, job: int) -> object:
    told = client.get(f"/api/v1/jobs/{job}").json()
    return told["state"], [(one["code"], one["level"]) for one in told["findings"]]


def test_the_workshops_units_change_no_stored_value_and_no_verdict(client: TestClient, filled: Database) -> None:
    def seen() -> object:
        found = []
        for job in job_ids(client):
            kept = stations.open_job(filled, job, "master").job
            found.append((verdicts(client, job), kept.inputs, kept.versions))
        return found

    def save_units(units: str) -> None:
        page = client.get("/settings")
        answer = client.post("/settings", data=fields(page.text, "form.settings-form") | {"units": units})
        assert answer.status_code == 200, answer.context.get("errors")
        assert client.get("/settings").context["kept"].units == units

    before = seen()
    save_units("us")
    assert seen() == before
    # saving a page as it is shown in the other units changes nothing either
    for job in job_ids(client):
        for place in ("master", "box", "rubber"):
            page = client.get(f"/jobs/{job}/{place}")
            for form in BeautifulSoup(page.text, "lxml").select(".asked"):
                client.post(f"/jobs/{job}/{place}", data=sent_as_shown(form))
    assert seen() == before
    save_units("metric")
    assert seen() == before


def fields(html: str, selector: str) -> dict[str, str]:
    """Return what a form would send as it is shown."""
    return sent_as_shown(BeautifulSoup(html, "lxml").select_one(selector))


def sent_as_shown(form: Tag) -> dict[str, str]:
    """Return what a form would send as it is shown."""
    shown = {
        field["name"]: field.get("value", "")
        for field in form.find_all("input")
        if field.get("name") and (field.get("type") not in {"checkbox", "radio"} or field.has_attr("checked"))
    }
    for field in form.find_all("select"):
        chosen = field.find("option", selected=True) or field.find("option")
        shown[field["name"]] = chosen.get("value", chosen.text)
    for field in form.find_all("textarea"):
        shown[field["name"]] = field.text.strip("\n")
    return shown


CHANGES: tuple[tuple[Station, dict[str, object]], ...] = (
    ("master", {"length_mm": 70.0}),
    ("master", {"mass_g": None, "material": "bronze"}),
    ("master", {"hung_reading_g": 55.0, "counted_way": "hung"}),
    ("opening", {"style": "two-part"}),
    ("opening", {"style": "slit", "flat_back": True}),
    ("box", {"shape": "round", "side_mm": 15.0}),
    ("box", {"count": 3.0, "gap_mm": 7.0}),
    ("rubber", {"spare_pct": 20.0}),
    ("rubber", {"cup_ml": 200.0, "rise_factor": 4.0}),
    ("rubber", {"rubber_id": None}),
    ("checks", {"cast_material": "plaster"}),
)


@SHARED
@given(st.lists(st.sampled_from(CHANGES), min_size=1, max_size=4))
def test_undo_after_any_change_gives_the_job_back_exactly(
    database: Database, rubber: int, changes: list[tuple[Station, dict[str, object]]]
) -> None:
    job = stations.start_job(database, "Undone")
    stations.fill_in(database, job, {"master": MASTER, "rubber": {"rubber_id": rubber}})

    def held() -> object:
        return [
            getattr(stations.open_job(database, job, place).job, place)
            for place in ("master", "opening", "box", "rubber", "checks")
        ]

    seen = [held()]
    done: list[Station] = []
    for station, change in changes:
        version = stations.open_job(database, job, station).job.versions[station]
        stations.change_station(database, job, station, version=version, changes=change, own_step=True)
        if held() != seen[-1]:
            seen.append(held())
            done.append(station)
    for station, before in zip(reversed(done), reversed(seen[:-1]), strict=True):
        version = stations.open_job(database, job, station).job.versions[station]
        stations.undo(database, job, station, version=version)
        assert held() == before


PARTS: tuple[tuple[Station, dict[str, object]], ...] = (
    ("master", MASTER),
    ("opening", {"style": "open", "bed_material": "sulphur-clay"}),
    ("box", {"side_mm": 4.0, "over_mm": 5.0, "bed_mm": 6.0}),
    ("rubber", {"scale_step_g": 5.0, "pigment_pct": 4.0}),
    ("checks", {"cast_material": "polyurethane-resin"}),
)


@SHARED
@given(st.sampled_from(list(permutations(range(len(PARTS))))))
def test_findings_do_not_depend_on_the_order_in_which_fields_were_filled_in(
    client: TestClient, database: Database, rubber: int, order: tuple[int, ...]
) -> None:
    def begun(sequence: tuple[int, ...], *, one_by_one: bool) -> object:
        job = stations.start_job(database, "In some order")
        stations.fill_in(database, job, {"rubber": {"rubber_id": rubber}})
        for number in sequence:
            station, told = PARTS[number]
            for change in [{name: value} for name, value in reversed(told.items())] if one_by_one else [told]:
                version = stations.open_job(database, job, station).job.versions[station]
                stations.change_station(database, job, station, version=version, changes=change)
        told = client.get(f"/api/v1/jobs/{job}").json()
        return [told[key] for key in ("state", "style", "findings", "box")], [one["parts"] for one in told["pours"]]

    usual = begun(tuple(range(len(PARTS))), one_by_one=False)
    assert usual[0][2]  # there is something to find
    assert begun(order, one_by_one=True) == usual
