"""The Shelf as CSV: out and in again, with a preview, and everything that a file can get wrong."""

import csv
from io import StringIO

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from ufrin import demo
from ufrin.actions import ADDITIVES, RUBBERS
from ufrin.actions.shelf import things as shelf
from ufrin.core.exchange.csv_table import plain, read, safe, write
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.terms import RUBBER_TIN_TERMS
from ufrin.store.connection import Database

HEAD = "name,family,weight_a,weight_b,sg_mixed,pot_life_min,kit_price\n"


@given(st.text(max_size=60))
def test_whatever_a_cell_holds_it_comes_back_and_never_begins_like_a_formula(text: str) -> None:
    assert not safe(text).startswith(("=", "+", "-", "@", "\t", "\r"))
    assert plain(safe(text)) == text


@given(
    st.lists(
        st.text(
            st.characters(codec="utf-8", exclude_categories=["Cc", "Cs", "Zs", "Zl", "Zp"]), min_size=1, max_size=30
        ).filter(str.isprintable),
        min_size=1,
        max_size=8,
        unique_by=str.lower,
    )
)
def test_a_file_that_was_written_is_read_as_it_was(names: list[str]) -> None:
    taken = read(write(["name", "sg_mixed"], [{"name": name, "sg_mixed": 1.13} for name in names]), RUBBER_TIN_TERMS)
    assert [row.values for row in taken.rows] == [{"name": name, "sg_mixed": 1.13} for name in names]


def test_out_and_in_again_changes_nothing(client: TestClient, filled: Database) -> None:
    for kind in ("rubbers", "additives", "cups", "containers", "scales", "thermometers", "lots"):
        given_out = client.get(f"/shelf/{kind}/file.csv")
        assert given_out.headers["content-type"].startswith("text/csv")
        preview = client.post(f"/shelf/{kind}/csv", data={"csv": given_out.text}).context["preview"]
        assert preview.counts == {
            "new": 0,
            "changed": 0,
            "same": len(list(csv.reader(StringIO(given_out.text)))) - 1,
        }, kind
        assert not preview.wrong


def test_a_preview_shows_what_would_change_and_keeping_does_it(client: TestClient, database: Database) -> None:
    shelf.add(database, RUBBERS, demo.RUBBERS[0])
    text = HEAD + "saltmarsh 25,,,,,50 min,29.9\nEelgrass 30,addition-silicone,1,1,1.1,1 h,\n"
    looked = client.post("/shelf/rubbers/csv", files={"file": ("shelf.csv", text.encode("utf-8-sig"), "text/csv")})
    assert looked.context["preview"].counts == {"new": 1, "changed": 1, "same": 0}
    assert "45 → 50" in BeautifulSoup(looked.text, "lxml").text
    assert len(shelf.shelf(database, RUBBERS).things) == 1  # looking keeps nothing
    kept = client.post("/shelf/rubbers/csv", data={"csv": text, "keep": "yes"})
    rubbers = {one.thing.name: one.thing for one in kept.context["seen"].things}
    assert (
        rubbers["Saltmarsh 25"].pot_life_min,
        rubbers["Saltmarsh 25"].kit_price,
        rubbers["Saltmarsh 25"].weight_a,
    ) == (50, 29.9, 100)
    assert (rubbers["Eelgrass 30"].pot_life_min, rubbers["Eelgrass 30"].tolerance_pct) == (60, 2)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "nothing in it"),
        ("colour,weight\nred,1\n", "“colour” is not one of them"),
        ("family\naddition-silicone\n", "“name” is needed"),
        ("name,name\nA,B\n", "stands there twice"),
        ('name,sg_mixed\n"Eelgrass,1\n', "can't be read as a table"),
        (HEAD + "Eelgrass,addition-silicone,1,1,9 mm,60,\n", "Line 2, sg_mixed"),
        (HEAD + "Eelgrass,jelly,1,1,1.1,60,\n", "is not one of: addition-silicone"),
        (HEAD + "Eelgrass,addition-silicone,1,0,1.1,60,\n", "never sets"),
        (HEAD + "Eelgrass,addition-silicone,1,1,1.1,-5,\n", "less than nothing"),
        (HEAD + "Eelgrass,addition-silicone,1,1,nan,60,\n", "can't be read"),
        (HEAD + "Eelgrass,addition-silicone,1,1,1.1,60,,more\n", "has 8 cells"),
        (
            HEAD + "Eelgrass,addition-silicone,1,1,1.1,60,\nEELGRASS,addition-silicone,1,1,1.1,60,\n",
            "in the file twice",
        ),
        (HEAD + ",addition-silicone,1,1,1.1,60,\n", "needed"),
        (HEAD + f"{'x' * 200},addition-silicone,1,1,1.1,60,\n", "120 is the most"),
        ("name\n" + "a\n" * 100_000, "more than 2000 lines"),
        ("name\n" + "".join(f"n{n}\n" for n in range(2001)), "2000 is the most"),
        ("name\0", "no text"),
    ],
)
def test_a_file_that_cannot_be_says_where_and_nothing_is_kept(
    client: TestClient, database: Database, text: str, says: str
) -> None:
    for keep in ("", "yes"):
        answer = client.post("/shelf/rubbers/csv", data={"csv": text, "keep": keep})
        assert answer.status_code == 422
        assert says in BeautifulSoup(answer.text, "lxml").text
    assert shelf.shelf(database, RUBBERS).things == ()


def test_files_that_are_no_text_or_far_too_large(client: TestClient) -> None:
    noise = client.post("/shelf/cups/csv", files={"file": ("a.csv", b"\xff\xfe\x00name", "text/csv")})
    assert (noise.status_code, "not a text in UTF-8" in noise.text) == (422, True)
    assert client.post("/shelf/cups/csv", files={"file": ("a.csv", b"x" * 2_000_000, "text/csv")}).status_code == 413
    assert client.get("/shelf/things/csv").status_code == 404


def test_formulas_are_neutralised_on_the_way_out(client: TestClient, database: Database) -> None:
    shelf.add(database, ADDITIVES, Additive(name="=1+1", colour="@red", kind="pigment"))
    row = client.get("/shelf/additives/file.csv").text.splitlines()[1]
    assert row.startswith("'=1+1,pigment,'@red")


def test_lots_are_counted_by_a_file(client: TestClient, database: Database) -> None:
    shelf.add(database, RUBBERS, demo.RUBBERS[0])
    head = "of,part,code,got_g,left_g,use_by\n"
    text = head + "Saltmarsh 25,A,SM-9,1000,,2030-01-01\nSaltmarsh 25,B,SM-9,100,80,\n"
    assert client.post("/shelf/lots/csv", data={"csv": text}).context["preview"].counts["new"] == 2
    client.post("/shelf/lots/csv", data={"csv": text, "keep": "yes"})
    counted = head + "saltmarsh 25,A,sm-9,,420,\n"
    page = client.post("/shelf/lots/csv", data={"csv": counted}).text
    assert "1000 → 420" in BeautifulSoup(page, "lxml").text
    client.post("/shelf/lots/csv", data={"csv": counted, "keep": "yes"})
    tins = client.get("/shelf/lots").context["tins"]
    assert [(tin.lot.part, tin.lot.left_g) for tin in tins] == [("A", 420), ("B", 80)]
    for line, says in (
        ("Eelgrass,A,1,5,,", "not on the Shelf"),
        ("Saltmarsh 25,A,7,,,", "How much came"),
        ("Saltmarsh 25,A,7,5,,31.12.2030", "year-month-day"),
        ("Saltmarsh 25,A,,5,,", "needed|has a code"),
    ):
        answer = client.post("/shelf/lots/csv", data={"csv": head + line + "\n", "keep": "yes"})
        assert answer.status_code == 422, line
        assert any(word in answer.text for word in says.split("|")), line
    assert len(client.get("/shelf/lots").context["tins"]) == 2
