"""What is printed beside the sheet: the cut list and the list of the day, on A4 and on Letter."""

from io import BytesIO

import pytest
from pypdf import PdfReader
from starlette.testclient import TestClient

from ufrin.actions.shop import workshop_settings
from ufrin.store.connection import Database

MM_PER_PT = 25.4 / 72
A4_MM, LETTER_MM = (210.0, 297.0), (215.9, 279.4)


def read(client: TestClient, address: str) -> tuple[str, tuple[float, float]]:
    answer = client.get(address)
    assert answer.headers["content-type"] == "application/pdf"
    paper = PdfReader(BytesIO(answer.content))
    page = paper.pages[0].mediabox
    size = (float(page.width) * MM_PER_PT, float(page.height) * MM_PER_PT)
    return " ".join(one.extract_text() for one in paper.pages), size


@pytest.mark.parametrize(("units", "size"), [("metric", A4_MM), ("us", LETTER_MM)])
@pytest.mark.parametrize(
    "address", ["/plan/today.pdf", "/jobs/9/files/cut.pdf", "/jobs/9/files/grid.pdf", "/jobs/9/sheet.pdf"]
)
def test_each_is_on_the_workshops_paper(
    client: TestClient, filled: Database, address: str, units: str, size: tuple[float, float]
) -> None:
    kept = workshop_settings.settings(filled)
    client.post("/settings", data={"version": str(kept.version), "units": units, "currency": "EUR"})
    assert read(client, address)[1] == pytest.approx(size, abs=0.2)


def test_the_cut_list_names_every_piece(client: TestClient, filled: Database) -> None:
    shown = client.get("/jobs/9/box").context
    told, _ = read(client, "/jobs/9/files/cut.pdf")
    for panel in shown["cut"].panels:
        assert panel.name.capitalize() in told
        assert shown["say"].plain(panel.length_mm, "length").replace("\xa0", " ") in told.replace("\xa0", " ")
    assert client.get("/jobs/4/files/cut.pdf").status_code in {200, 422}


def test_the_list_of_the_day_has_its_steps(client: TestClient, filled: Database) -> None:
    today = client.get("/plan").context["today"]
    told, _ = read(client, "/plan/today.pdf")
    assert today
    for one in today:
        assert one.label.split()[0] in told
    assert told.count("☐") == len(today)


def test_there_is_no_list_where_nothing_is_at_work(client: TestClient, database: Database) -> None:
    refused = client.get("/plan/today.pdf")
    assert refused.status_code == 422
    assert "Nothing is at work" in refused.text
