"""Every kind of mould on every page of its job, however much is known of the master."""

import pytest
from bs4 import BeautifulSoup, SoupStrainer
from fastapi.testclient import TestClient
from records import ADDITION
from shapes import dumbbell

from ufrin.actions import RUBBERS
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.core.mesh.written_files import write_stl
from ufrin.core.opening.mould_styles import STYLES
from ufrin.store.connection import Database

STATION_PLACES = ("master", "opening", "box", "rubber", "checks")
PLACES = (*STATION_PLACES, "hardness", "pour", "faults", "sheet", "ways", "cut")
STATIONS = SoupStrainer(class_="stations")
MASTERS: dict[str, dict[str, object]] = {
    "nothing": {},
    "sizes": {"length_mm": 50.0, "width_mm": 40.0, "height_mm": 30.0, "known_ml": 30.0},
    "stand-in": {"standin": "ball", "length_mm": 50.0, "mass_g": 60.0},
    "mesh": {"mass_g": 60.0},
}


@pytest.mark.parametrize("style", ["", *STYLES])
@pytest.mark.parametrize("known", MASTERS)
def test_every_kind_of_mould_has_all_its_pages(client: TestClient, database: Database, style: str, known: str) -> None:
    job = stations.start_job(database, f"{style}, {known}")
    if known == "mesh":
        stations.give_mesh(database, job, "tried.stl", write_stl(dumbbell()))
    stations.fill_in(database, job, {"master": MASTERS[known], "opening": {"style": style or None}})
    for rubber in (None, things.add(database, RUBBERS, ADDITION)):
        stations.fill_in(database, job, {"rubber": {"rubber_id": rubber}})
        pages = {place: client.get(f"/jobs/{job}/{place}") for place in PLACES}
        assert {place: answer.status_code for place, answer in pages.items()} == dict.fromkeys(PLACES, 200)
        # the line of stations shows one net volume and one weight on all of them
        heads = {
            BeautifulSoup(answer.text, "lxml", parse_only=STATIONS).get_text(" ", strip=True)
            for place, answer in pages.items()
            if place in STATION_PLACES
        }
        assert len(heads) == 1
        assert heads != {""}
        assert client.get(f"/api/v1/jobs/{job}").status_code == 200
