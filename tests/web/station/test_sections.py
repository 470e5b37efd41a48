"""Sections of a station: the first decision that is open stands open, and a field that is wrong is in sight."""

import pytest
from bs4 import BeautifulSoup, Tag
from starlette.testclient import TestClient

from ufrin.actions.job import stations
from ufrin.core.master.measuring_ways import WAY_OF
from ufrin.store.connection import Database

FIGURES = {"length", "mass", "volume", "percent", "time"}


def open_sections(client: TestClient, job: int, station: str, **typed: str) -> list[str]:
    """Return the sections that stand open, after something was typed."""
    answer = client.get(f"/jobs/{job}/{station}")
    if typed:
        version = answer.context["job"].versions[station]
        answer = client.post(f"/jobs/{job}/{station}", data={"version": version, "units": "metric", **typed})
    return [str(one["id"]) for one in BeautifulSoup(answer.text, "lxml").select(".fold[open]")]


def test_a_new_job_is_led_from_one_decision_to_the_next(client: TestClient, database: Database) -> None:
    job = stations.start_job(database, "Cleat")
    assert open_sections(client, job, "master") == ["section-size"]
    sized = {"length_mm": "60 mm", "width_mm": "40 mm", "height_mm": "30 mm", "mass_g": "425 g"}
    assert open_sections(client, job, "master", **sized) == ["section-ways"]
    assert open_sections(client, job, "master", known_ml="50 ml") == ["section-surface"]
    assert open_sections(client, job, "master", material="brass") == []
    assert open_sections(client, job, "opening") == ["section-kind"]
    assert open_sections(client, job, "rubber") == ["section-rubber"]
    assert open_sections(client, job, "box") == ["section-worked-out"]
    assert open_sections(client, job, "checks") == ["section-cast"]


@pytest.mark.parametrize(
    ("station", "wrong", "section"),
    [
        ("master", {"dip_before_mm": "9 kg"}, "ways"),
        ("master", {"scale_step_g": "much"}, "instruments"),
        ("opening", {"worth_ml": "-3 ml"}, "holes"),
        ("box", {"kerf_mm": "9 kg"}, "walls"),
        ("rubber", {"cup_ml": "9 mm"}, "cup"),
        ("checks", {"cast_air": "wishing"}, "cast"),
        ("casts", {"pieces": "some"}, "many"),
    ],
)
def test_what_is_wrong_is_in_sight(
    client: TestClient, filled: Database, station: str, wrong: dict[str, str], section: str
) -> None:
    assert open_sections(client, 9, station, **wrong) == [f"section-{section}"]


@pytest.mark.parametrize("station", ["master", "opening", "box", "rubber", "checks", "casts"])
def test_every_input_of_a_section_is_known_to_it(client: TestClient, filled: Database, station: str) -> None:
    for job in (6, 8, 9):
        kept = client.get(f"/jobs/{job}/{station}")
        page, terms = BeautifulSoup(kept.text, "lxml"), kept.context["fields"]
        names = {str(field["name"]) for field in page.select(".fold .asked [name]:not([type=hidden])")} - {"up"}
        figures = [one for one in names if one in terms and terms[one].term.kind in FIGURES]
        wrong = client.post(
            f"/jobs/{job}/{station}",
            data={"version": kept.context["job"].versions[station], "units": "metric"}
            | dict.fromkeys(figures, "nonsense"),
        )
        shown = BeautifulSoup(wrong.text, "lxml")
        for name in figures:
            at = shown.select_one(f"#f-{name}")
            assert isinstance(at, Tag)
            assert at.find_parent("details", class_="fold").has_attr("open"), name


def test_an_empty_master_is_offered_every_way_to_measure(client: TestClient, database: Database) -> None:
    job = stations.start_job(database, "Cleat")
    page = BeautifulSoup(client.get(f"/jobs/{job}/master").text, "lxml")
    offered = [str(link["href"]) for link in page.select(".picture-choices a")]
    assert offered == [f"#way-{key}" for key in WAY_OF]
    for address in offered:
        assert page.select_one(address)
    # how exact each is follows from the instruments: a finer jug makes its ways better and leaves the scale's alone
    before = {key: off_ml for key, _, off_ml in client.get(f"/jobs/{job}/master").context["ways_offered"]}
    client.post(f"/jobs/{job}/master", data={"version": "1", "units": "metric", "mark_ml": "1 ml"})
    after = {key: off_ml for key, _, off_ml in client.get(f"/jobs/{job}/master").context["ways_offered"]}
    assert {key for key in before if after[key] < before[key]} == {"level", "boxed", "grain"}
    assert before["hung"] < before["level"]


def test_instruments_that_can_not_be_shut_no_page(client: TestClient, database: Database) -> None:
    job = stations.start_job(database, "Cleat")
    for number, (field, text) in enumerate(
        (("water_temp_c", "180 °C"), ("scale_step_g", "900 kg"), ("mark_ml", "900 l"), ("ruler_step_mm", "9 m")), 1
    ):
        client.post(f"/jobs/{job}/master", data={"version": str(number), "units": "metric", field: text})
        shown = client.get(f"/jobs/{job}/master")
        assert shown.status_code == 200, field
        assert len(BeautifulSoup(shown.text, "lxml").select(".picture-choices a")) == len(WAY_OF)
    offered = {key: off_ml for key, _, off_ml in client.get(f"/jobs/{job}/master").context["ways_offered"]}
    assert offered["hung"] is None
