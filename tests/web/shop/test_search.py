"""The search: every kind of thing is found by its name, and what is typed is only ever text."""

import pytest
from bs4 import BeautifulSoup
from hypothesis import given
from hypothesis import strategies as st
from starlette.testclient import TestClient
from thoroughness import examples

from ufrin.actions.job import stations
from ufrin.actions.shop.search import find
from ufrin.store.connection import Database


def titles(client: TestClient, text: str) -> dict[str, str]:
    page = BeautifulSoup(client.get("/search", params={"q": text}).text, "lxml")
    return {str(link["href"]): link.b.text for link in page.select("#found a")}


@pytest.mark.parametrize(
    ("text", "place", "title"),
    [
        ("finial", "/jobs/8/master", "Lamp finial"),
        ("tideline", "/shelf/rubbers/2", "Tideline 15"),
        ("ounces", "/settings", "Units and currency"),
        ("break-even", "/sums/cost", "Cost and break-even"),
        ("undercut", "/words#undercut", "undercut"),
        ("BACK up", "/safekeeping", "Backups"),
    ],
)
def test_each_kind_is_found(client: TestClient, filled: Database, text: str, place: str, title: str) -> None:
    found = titles(client, text)
    assert found.get(place) == title
    for address in found:  # every line leads somewhere
        assert client.get(address, follow_redirects=True).status_code == 200


def test_what_begins_with_it_comes_first_and_archived_jobs_are_found_too(
    client: TestClient, database: Database
) -> None:
    for name in ("An old cleat", "Cleat", "Bow cleat"):
        stations.start_job(database, name)
    stations.put_job_away(database, 2, away=True)
    assert [(hit.name, hit.note) for hit in find(database, "cleat")] == [
        ("Cleat", "archived"),
        ("Bow cleat", ""),
        ("An old cleat", ""),
    ]
    assert list(titles(client, "cleat").values()) == ["Cleat", "Bow cleat", "An old cleat"]


@given(st.text(max_size=40))
@examples(25, on_one_database=True)
def test_any_text_is_only_text(client: TestClient, database: Database, text: str) -> None:
    answer = client.get("/search", params={"q": text})
    assert answer.status_code == 200
    assert "<script>" not in answer.text


def test_signs_of_a_pattern_stand_for_themselves(database: Database) -> None:
    for name in ("100 % beech", "Beech_2", "Beech 2", r"Back\slash"):
        stations.start_job(database, name)
    assert [hit.name for hit in find(database, "%")] == ["100 % beech"]
    assert [hit.name for hit in find(database, "h_2")] == ["Beech_2"]
    assert [hit.name for hit in find(database, "\\")] == [r"Back\slash"]
    assert find(database, "   ") == ()
