"""The example of the first hour: begun on an empty Board, explained station by station, and put away."""

import re

from fastapi.testclient import TestClient

from ufrin.actions import RUBBERS, Database
from ufrin.actions.job import example
from ufrin.actions.shelf import things
from ufrin.core.inputs.stations import MOULD_STATIONS

STRIP = 'class="notice advice example'


def _words(page: str) -> str:
    return " ".join(re.sub(r"<[^>]+>", " ", page).replace("\N{NO-BREAK SPACE}", " ").split())


def test_an_empty_board_offers_it_and_each_step_leads_to_the_next(client: TestClient) -> None:
    assert 'action="/example"' in client.get("/").text
    page = client.post("/example")
    seen = []
    for step in range(1, 7):
        seen.append(page.url.path.rsplit("/", 1)[1])
        assert f"Example, step {step} of 6" in page.text
        if found := re.search(r'href="(/jobs/\d+/\w+)">Next: ', page.text):
            page = client.get(found[1])
    assert seen == [*MOULD_STATIONS, "sheet"]
    assert "Archive the example and begin my own" in page.text


def test_its_figures_are_those_of_a_jug_a_box_and_a_ratio_of_one_to_one(client: TestClient) -> None:
    job = client.post("/example").url.path.rsplit("/", 1)[0]
    # by hand: (92 + 24) x (78 + 24) x (31 + 12) mm less 95 ml, at 1.1 g/ml with the spare that the page shows
    net_ml = 11.6 * 10.2 * 4.3 - 95
    assert f"{net_ml:.0f} ml net" in _words(client.get(f"{job}/box").text)
    batch = re.search(r"One batch of (\d+) g", _words(client.get(f"{job}/rubber").text))
    assert batch
    spare = int(batch[1]) / (net_ml * 1.1)
    assert 1.05 < spare < 1.2


def test_it_is_explained_on_its_own_job_alone(client: TestClient) -> None:
    client.post("/example")
    assert STRIP not in client.post("/jobs", data={"name": "Finial"}).text


def test_it_can_be_left_and_kept_or_archived(client: TestClient) -> None:
    first = client.post("/example").url.path
    assert STRIP not in client.post("/example/end").text
    assert STRIP not in client.get(first).text
    client.post("/example")
    board = client.post("/example/end", data={"archive": "yes"})
    assert board.url.path == "/"
    assert board.text.count("Example: limestone ammonite") == 1


def test_the_first_silicone_of_the_workshop_is_used(client: TestClient, database: Database) -> None:
    client.post("/example")
    client.post("/example")
    rubbers = things.shelf(database, RUBBERS).things
    assert [kept.thing for kept in rubbers] == [example.EXAMPLE_RUBBER]  # the second found that of the first


def test_a_forged_cookie_is_no_more_than_no_example(client: TestClient) -> None:
    client.cookies.set("ufrin_example", "9" * 40)
    assert client.post("/example/end", data={"archive": "yes"}).url.path == "/"
    client.cookies.set("ufrin_example", "999")
    assert client.post("/example/end", data={"archive": "yes"}).status_code == 404
