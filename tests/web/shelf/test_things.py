"""Containers on the Shelf, and what the new fields of Box and Master refuse."""

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient

from ufrin.actions import CONTAINERS
from ufrin.actions.job import stations
from ufrin.actions.shelf import things as shelf
from ufrin.core.shelf.containers import Container
from ufrin.store.connection import Database

HTMX = {"HX-Request": "true"}
POT = {
    "version": "0",
    "units": "metric",
    "name": "Flower pot",
    "shape": "tapered",
    "bottom_mm": "84",
    "top_mm": "12.8 cm",
    "height_mm": "135",
}


@pytest.mark.parametrize(
    ("kind", "form", "wrong"),
    [
        (
            "additives",
            {"name": "Ebb", "kind": "thinner", "sg": "0.97", "viscosity_mpa_s": "50 cP"},
            {"sg": "9 mm", "kind": "glue", "pack_g": "0"},
        ),
        (
            "cups",
            {"name": "Beaker", "bottom_mm": "4 in", "height_mm": "150"},
            {"bottom_mm": "", "height_mm": "0", "top_mm": "3 kg"},
        ),
        (
            "scales",
            {"name": "Bench", "address": "socket://127.0.0.1:8540", "step_g": "0.1"},
            {"address": "spy:///tmp/x", "step_g": "0", "baud": "1"},
        ),
        (
            "rubbers",
            {"name": "Putty", "form": "putty", "weight_a": "1", "weight_b": "1", "sg_mixed": "1.4"},
            {"form": "jelly", "thinner_of": "B"},
        ),
    ],
)
def test_each_kind_of_thing_is_made_edited_listed_retired_and_deleted(
    client: TestClient, database: Database, kind: str, form: dict[str, str], wrong: dict[str, str]
) -> None:
    told = {"version": "0", "units": "metric", **form}
    for key, text in wrong.items():
        refused = client.post(f"/shelf/{kind}/new", data=told | {key: text})
        assert refused.status_code == 422, key
        assert BeautifulSoup(refused.text, "lxml").find(id=f"w-{key}").find(role="alert"), key
    made = client.post(f"/shelf/{kind}/new", data=told)
    (kept,) = made.context["seen"].things
    assert kept.thing.name == form["name"]
    assert client.post(f"/shelf/{kind}/new", data=told).status_code == 422  # the name is taken
    assert form["name"] in client.get(f"/shelf/{kind}/{kept.id}").text
    renamed = client.post(f"/shelf/{kind}/{kept.id}", data={"version": "1", "units": "metric", "name": "Another"})
    assert renamed.context["seen"].things[0].thing.name == "Another"
    assert client.post(f"/shelf/{kind}/{kept.id}/retire").context["seen"].things[0].retired_at
    assert client.post(f"/shelf/{kind}/{kept.id}/delete", data={"sure": "yes"}).context["seen"].things == ()


def test_a_container_is_made_changed_retired_and_deleted(client: TestClient, database: Database) -> None:
    assert "Nothing here yet" in client.get("/shelf/containers").text
    made = client.post("/shelf/containers/new", data=POT)
    (kept,) = made.context["seen"].things
    assert (kept.thing.top_mm, kept.thing.bottom_mm) == (128, 84)
    assert kept.thing.holds_ml == pytest.approx(3.14159 * 135 * (84**2 + 84 * 128 + 128**2) / 12_000, rel=1e-5)
    assert "1208 ml" in BeautifulSoup(made.text, "lxml").text.replace("\xa0", " ")
    again = client.post("/shelf/containers/new", data=POT | {"name": "FLOWER POT"})
    assert again.status_code == 422
    assert "Two pots with one name" in again.text
    page = client.get(f"/shelf/containers/{kept.id}")
    assert BeautifulSoup(page.text, "lxml").find(id="f-top_mm")["value"] == "128 mm"
    saved = client.post(f"/shelf/containers/{kept.id}", data={"version": "1", "units": "metric", "height_mm": "140"})
    assert saved.context["seen"].things[0].thing.height_mm == 140
    late = client.post(f"/shelf/containers/{kept.id}", data={"version": "1", "units": "metric", "height_mm": "150"})
    assert late.status_code == 409
    assert late.context["conflict"] == [("height_mm", "Inside height", "140 mm", "150 mm")]
    assert client.post(f"/shelf/containers/{kept.id}/retire").context["seen"].things[0].retired_at is not None
    assert client.post(f"/shelf/containers/{kept.id}/delete", data={"sure": "yes"}).context["seen"].things == ()
    assert client.get("/shelf/things/1").status_code == 404


@pytest.mark.parametrize(
    ("changed", "field", "says"),
    [
        ({"name": " "}, "name", "Give the container a name"),
        ({"name": "x" * 121}, "name", "120 is the most"),
        ({"top_mm": ""}, "top_mm", "This size is needed"),
        ({"height_mm": "0"}, "height_mm", "must be more than 0"),
        ({"height_mm": "11 m"}, "height_mm", "more than"),
        ({"shape": "rectangle"}, "length_mm", "This size is needed"),
        ({"shape": "<b>"}, "shape", "not one of the choices"),
        ({"bottom_mm": "3 kg"}, "bottom_mm", "measures a weight"),
    ],
)
def test_a_container_that_cannot_be_is_told_beside_the_field_and_kept_as_typed(
    client: TestClient, changed: dict[str, str], field: str, says: str
) -> None:
    refused = client.post("/shelf/containers/new", data=POT | changed)
    assert refused.status_code == 422
    page = BeautifulSoup(refused.text, "lxml")
    assert says in page.find(id=f"w-{field}").text
    for key, typed in (POT | changed).items():
        shown = page.find(id=f"f-{key}")
        if shown is not None and shown.name == "input":
            assert shown["value"] == typed[:200]


@pytest.fixture
def job(database: Database) -> int:
    number = stations.start_job(database, "Block")
    told = {
        "length_mm": 60.0,
        "width_mm": 40.0,
        "height_mm": 35.0,
        "mass_g": 20.0,
        "level_before_ml": 100.0,
        "level_after_ml": 152.0,
    }
    stations.change_station(database, number, "master", version=1, changes=told)
    return number


@pytest.mark.parametrize(
    ("station", "typed", "says"),
    [
        ("box", {"shape": "sphere"}, "not one of the choices"),
        ("box", {"shape": "container"}, "Choose which container"),
        ("box", {"shape": "container", "container_id": "77"}, "not on the Shelf"),
        ("box", {"container_id": "one"}, "not one of the choices"),
        ("box", {"lip_mm": "-2", "shape": "tray"}, "less than nothing"),
        ("box", {"filler_ml": "2 l"}, "does not fit without coming closer"),
        ("box", {"filler_ml": "3 kg"}, "measures a weight"),
        ("box", {"kerf_mm": "80"}, "A saw takes between"),
        ("box", {"sheet_length_mm": "0"}, "must be more than 0"),
        ("box", {"wall_material": "steel"}, "not one of the choices"),
        ("box", {"wall_thickness_mm": "0"}, "must be more than 0"),
        ("box", {"shape": "contour", "count": "3", "gap_mm": "9 m"}, "Ufrin stops at 10|too far apart"),
        ("master", {"standin": "cube"}, "not one of the choices"),
        ("master", {"standin": "ring", "ring_mm": "40"}, "A ring has a hole"),
        ("master", {"standin": "profile", "profile": "0 10, 5 0, 9 10"}, "come to a point"),
        ("master", {"standin": "slab", "slab_base_mm": "50"}, "less than its height"),
        ("master", {"standin": "slab", "slab_base_mm": "20", "relief_ml": "90"}, "has room for"),
        ("master", {"standin": "fitted", "level_after_ml": "102"}, "so little of its block"),
        ("master", {"standin": "block", "spin_deg": "9999"}, "more than 360"),
        ("master", {"grain_before_ml": "400", "grain_after_ml": "300"}, "must stand higher"),
    ],
)
def test_bad_input_of_shapes_stand_ins_and_sheets(
    client: TestClient, database: Database, job: int, station: str, typed: dict[str, str], says: str
) -> None:
    import re

    version = str(stations.open_job(database, job).job.versions[station])
    got = client.post(f"/jobs/{job}/{station}", data={"version": version, "units": "metric", **typed}, headers=HTMX)
    assert got.status_code in {200, 422}
    assert re.search(says, BeautifulSoup(got.text, "lxml").text)
    assert client.get(f"/jobs/{job}/sheet").status_code == 200


def test_hidden_inputs_are_never_taken_from_a_form(client: TestClient, database: Database, job: int) -> None:
    client.post(
        f"/jobs/{job}/master",
        data={"version": "2", "units": "metric", "mesh": "f" * 64, "what": "changed"},
        headers=HTMX,
    )
    master = stations.open_job(database, job).job.master
    assert (master.mesh, master.what) == (None, "changed")


def test_each_kind_of_box_says_what_to_build(client: TestClient, database: Database, job: int) -> None:
    tin = shelf.add(database, CONTAINERS, Container(name="Biscuit tin", length_mm=150, width_mm=145, height_mm=62))
    said = {}
    stations.change_station(database, job, "opening", version=1, changes={"style": "open"})
    for shape in ("rectangle", "round", "contour", "container"):
        version = str(stations.open_job(database, job).job.versions["box"])
        form = {"version": version, "units": "metric", "shape": shape, "container_id": str(tin)}
        page = BeautifulSoup(client.post(f"/jobs/{job}/box", data=form, headers=HTMX).text, "lxml")
        said[shape] = " ".join(page.find(class_="sentence").text.split())
        assert len(page.select(".views figure svg")) >= 3
        assert ("Cut list" in page.text) == (shape != "container")
    assert said["rectangle"].startswith("Build it 84.0 mm by 64.0 mm inside, fill to 47.0 mm, walls 57.0 mm high.")
    assert "across inside" in said["round"]
    assert "strip of" in said["contour"]
    assert said["container"].startswith("Mould it in Biscuit tin, fill to 47.0 mm.")
    sheet = client.get(f"/jobs/{job}/sheet").text
    assert "Biscuit tin, inside" in sheet
    stations.change_station(database, job, "opening", version=2, changes={"style": "tray"})
    tray = BeautifulSoup(client.get(f"/jobs/{job}/box").text, "lxml")
    assert "level with the top" in " ".join(tray.find(class_="sentence").text.split())
    assert "Cut list" in tray.text
