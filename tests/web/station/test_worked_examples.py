"""The six jobs of docs/worked-examples.md, typed into the real pages: each figure is shown as its sum gives it."""

import re
from pathlib import Path

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient

from ufrin.actions import ADDITIVES, CONTAINERS, RUBBERS
from ufrin.actions.shelf import things
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container
from ufrin.store.connection import Database

PAGE = (Path(__file__).parents[3] / "docs" / "worked-examples.md").read_text("utf-8")
Row = list[str]


def rows(text: str, head: str) -> list[Row]:
    """Return the rows of the table that begins with a heading."""
    found = re.search(rf"^\| {re.escape(head)} .*\n\|[-|]+\n((?:\|.*\n)+)", text + "\n", re.MULTILINE)
    assert found, head
    return [[cell.strip() for cell in line.strip().strip("|").split("|")] for line in found[1].splitlines()]


SHELF, *JOBS = re.split(r"^## ", PAGE, flags=re.MULTILINE)[1:]


def number(text: str) -> float:
    return float(re.search(r"[\d.]+", text)[0])


def minutes(text: str) -> float | None:
    return None if not text else number(text) * (60 if text.endswith("h") else 1)


def fill_shelf(database: Database) -> dict[str, int]:
    shelf: dict[str, int] = {}
    for name, ratio, sg, pot_life, demould, hardness, form in rows(SHELF, "rubber"):
        a, b = map(float, ratio.split(" to "))
        tin = Rubber(
            name=name,
            weight_a=a,
            weight_b=b,
            sg_mixed=float(sg),
            pot_life_min=minutes(pot_life),
            demould_min=minutes(demould),
            hardness=number(hardness.removeprefix("A ")),
            form=form,
        )
        shelf[name] = things.add(database, RUBBERS, tin)
    shelf["Ebb"] = things.add(database, ADDITIVES, Additive(name="Ebb", sg=0.97))
    pot = Container(name="Bait pot", shape="tapered", bottom_mm=100, top_mm=120, height_mm=150)
    shelf["Bait pot"] = things.add(database, CONTAINERS, pot)
    return shelf


@pytest.mark.parametrize("job", JOBS, ids=lambda job: job.splitlines()[0])
def test_a_job_worked_out_by_hand(client: TestClient, database: Database, job: str) -> None:
    shelf = fill_shelf(database)
    client.post("/jobs", data={"name": job.splitlines()[0]})
    typed: dict[str, dict[str, str]] = {}
    for station, field, text in rows(job, "station"):
        typed.setdefault(station, {})[field] = str(shelf.get(text, text))
    for station, fields in typed.items():
        answer = client.post(f"/jobs/1/{station}", data={"version": "1", "units": "metric", **fields})
        assert answer.status_code == 200
        assert 'aria-invalid="true"' not in answer.text, station
    figures = rows(job, "page")
    assert len(figures) > 3
    shown = {
        page: BeautifulSoup(client.get(f"/jobs/1/{page}").text, "lxml").select_one("main").get_text(" ")
        for page in {row[0] for row in figures}
    }
    for page, figure, by_hand, wanted in figures:
        if not wanted:  # a step on the way to the next figure
            continue
        text = re.sub(r"\s+", " ", shown[page])
        assert re.search(rf"(?<![\d.]){re.escape(wanted)}(?![\d.]\d)", text), f"{page}: {figure} = {by_hand}"
