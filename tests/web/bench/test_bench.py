"""The bench through its pages.

It has typed weights, two benches on one step, the wrong part, corrections, tins, the record that is only added to.
"""

import re
from typing import Any

import psycopg
import pytest
from bs4 import BeautifulSoup, Tag
from fastapi.testclient import TestClient

from ufrin import demo
from ufrin.actions import RUBBERS
from ufrin.actions.bench import pours
from ufrin.actions.job import stations
from ufrin.actions.shelf import lots, things
from ufrin.core.rubber.tins import Rubber
from ufrin.errors import InUse
from ufrin.store.connection import Database

HTMX = {"HX-Request": "true"}
PREPARED = 2  # lines before the first cup: A stirred, B shaken


@pytest.fixture
def job(database: Database) -> int:
    """A job of 52 ml in a box, a rubber of 100 to 10 with tins."""
    rubber = things.add(database, RUBBERS, demo.RUBBERS[0])
    for part, code, grams in (("A", "OLD", 30.0), ("A", "SM-1", 1000.0), ("B", "SM-1", 100.0)):
        use_by = "2020-01-01" if code == "OLD" else "2030-01-01"
        lots.add(database, RUBBERS, rubber, {"code": code, "part": part, "got_g": grams, "use_by": use_by})
    number = stations.start_job(database, "Block")
    told = {
        "length_mm": 60.0,
        "width_mm": 40.0,
        "height_mm": 35.0,
        "mass_g": 90.0,
        "level_before_ml": 100.0,
        "level_after_ml": 152.0,
    }
    stations.change_station(database, number, "master", version=1, changes=told)
    stations.change_station(database, number, "rubber", version=1, changes={"rubber_id": rubber, "scale_step_g": 0.1})
    return number


class Page:
    """A bench in a browser: it sends the forms that it was shown."""

    def __init__(self, client: TestClient, number: int) -> None:
        self.client, self.number = client, number
        self.look()

    def look(self) -> "Page":
        return self.shown(self.client.get(f"/pours/{self.number}"))

    def shown(self, answer: Any) -> "Page":
        self.answer, self.page = answer, BeautifulSoup(answer.text, "lxml")
        return self

    @property
    def step(self) -> str:
        return str(self.section["class"][0]).removeprefix("step-")

    @property
    def section(self) -> Tag:
        return self.page.find(id="weigh")

    @property
    def target_g(self) -> float:
        return float(str(self.section["data-target"]))

    def send(self, kind: str = "", **typed: str) -> "Page":
        forms = [form for form in self.page.find_all("form") if form.find("input", {"name": "kind"})]
        form = next(form for form in forms if not kind or form.find("input", {"name": "kind"})["value"] == kind)
        told = {
            field["name"]: field.get("value", "")
            for field in form.find_all("input")
            if field.get("name") and field.get("type") != "checkbox"
        }
        told |= {
            field["name"]: (field.find("option", selected=True) or field.find("option"))["value"]
            for field in form.find_all("select")
        }
        told.setdefault("by", "typed")
        return self.shown(self.client.post(str(form["action"]), data=told | typed, headers=HTMX))

    def do_steps(self) -> "Page":
        while self.step == "do":
            self.send("step", sure="yes")
        return self

    def weigh(self, net: str) -> "Page":
        if self.step == "hold":
            self.send("hold")
        return self.send("weigh", net_g=net)


def begin(client: TestClient, job: int, **typed: str) -> Page:
    begun = client.post(
        f"/jobs/{job}/pour", data={"units": "metric", "who": "Wren", "temp_c": "21", **typed}, follow_redirects=False
    )
    assert begun.status_code == 303, begun.text
    return Page(client, int(begun.headers["location"].rsplit("/", 1)[1])).do_steps()


def test_a_whole_weigh_up_by_typing_with_an_over_pour_and_a_mended_b(
    client: TestClient, database: Database, job: int
) -> None:
    page = begin(client, job)
    assert page.step == "cup"
    assert page.send("tare").step == "hold"
    assert "Saltmarsh base, white" in page.page.text
    page.send("hold")
    wanted = page.target_g
    page.weigh(f"{wanted + 20:.1f}")
    assert page.step == "hold"
    assert "Saltmarsh catalyst, blue" in page.page.text
    assert "pot life" in page.page.text.lower()
    page.send("hold")
    assert page.page.find(class_="clock") is not None
    assert page.target_g == pytest.approx((wanted + 20) / 10, abs=0.01)
    page.weigh(f"{page.target_g * 1.2:.1f}")
    assert "Mend: more of part A" in page.page.text
    page.send("hold")
    assert page.target_g == pytest.approx((wanted + 20) * 0.2, rel=0.02)
    page.weigh(f"{page.target_g:.1f}")
    assert page.step == "mix"
    page.send("mixed", sure="yes").do_steps().send("poured").do_steps().send("leftover", net_g="14 g").send("finish")
    assert page.step == "cure"
    (bench,) = [pours.look(database, page.number)]
    assert bench.pour.finished_at is not None
    left = {(one.lot.part, one.lot.code): one.lot.left_g for one in lots.of_thing(database, RUBBERS, 1)[0]}
    poured = bench.state.attempts[0].poured_g
    assert left["A", "OLD"] == 30  # past its use-by while there is a good one
    assert left["A", "SM-1"] == pytest.approx(1000 - poured["A"])
    assert left["B", "SM-1"] == pytest.approx(100 - poured["B"])
    learnt = pours.learnt(database)
    assert learnt.past[0].pour.used_g == pytest.approx(sum(poured.values()) - 14)
    record = client.get(f"/pours/{page.number}/record").text
    for said in ("Wren", "SM-1", "21 °C", "demould after", "left over"):
        assert said in record.replace("\xa0", " ")


def test_two_benches_on_one_step(client: TestClient, database: Database, job: int) -> None:
    first = begin(client, job)
    second = Page(client, first.number)
    first.send("tare")
    late = second.send("tare")
    assert late.answer.status_code == 409
    assert "done meanwhile at another bench" in late.page.text
    assert late.step == "hold"  # and it stands where the pour stands
    assert len(pours.look(database, first.number).state.entries) == 1 + PREPARED + 1


def test_the_same_line_sent_again_is_taken_once(client: TestClient, database: Database, job: int) -> None:
    page = begin(client, job)
    page.send("tare").send("hold")
    form = {
        "kind": "weigh",
        "number": str(PREPARED + 4),
        "token": "abc-weigh",
        "units": "metric",
        "ingredient": "A",
        "by": "typed",
        "net_g": f"{page.target_g:.1f}",
    }
    for _ in range(3):
        assert client.post(f"/pours/{page.number}/enter", data=form, headers=HTMX).status_code == 200
    state = pours.look(database, page.number).state
    assert len(state.entries) == PREPARED + 4
    assert sum(
        one.lot.left_g for one in lots.of_thing(database, RUBBERS, 1)[0] if one.lot.part == "A"
    ) == pytest.approx(1030 - state.attempt.poured_g["A"])


@pytest.mark.parametrize(
    ("form", "says"),
    [
        ({"kind": "weigh", "ingredient": "A", "by": "typed", "net_g": "0"}, "must be more than nothing"),
        ({"kind": "weigh", "ingredient": "A", "by": "typed", "net_g": "-5"}, "less than nothing"),
        ({"kind": "weigh", "ingredient": "A", "by": "typed", "net_g": "nan"}, "can't be read"),
        ({"kind": "weigh", "ingredient": "A", "by": "typed", "net_g": "9 ml"}, "measures a volume"),
        ({"kind": "weigh", "ingredient": "A", "by": "typed", "net_g": "9999"}, "far from"),
        ({"kind": "weigh", "ingredient": "B", "by": "typed", "net_g": "20"}, "not the part that comes next"),
        ({"kind": "weigh", "ingredient": "A", "by": "scale", "net_g": ""}, "No scale is chosen"),
        ({"kind": "weigh", "ingredient": "A", "by": "typed", "net_g": "230", "lot_id": "999"}, "not of that part"),
        ({"kind": "temperature", "temp_c": "200"}, "no room to pour in"),
        ({"kind": "temperature", "temp_c": "warm"}, "can't be read"),
        ({"kind": "boil"}, "not one of the steps"),
        ({"kind": "note", "text": "\0"}, "Say why"),
        ({"kind": "weigh", "ingredient": "A\0", "net_g": "0"}, "must be more than nothing"),
        ({"kind": "weigh", "token": ""}, "out of date"),
        ({"kind": "note", "text": "x" * 900}, "400 is the most"),
    ],
)
def test_bad_input_at_the_bench_is_told_and_nothing_is_written(
    client: TestClient, database: Database, job: int, form: dict[str, str], says: str
) -> None:
    page = begin(client, job)
    page.send("tare").send("hold")
    told = {
        "number": str(PREPARED + 4),
        "token": "t",
        "units": "metric",
        "ingredient": "A",
        "by": "typed",
        "net_g": "130",
    } | form
    answer = client.post(f"/pours/{page.number}/enter", data=told, headers=HTMX)
    assert answer.status_code == 422
    assert says in BeautifulSoup(answer.text, "lxml").find(id="notice").text
    assert len(pours.look(database, page.number).state.entries) == PREPARED + 3
    if form.get("net_g") == "9999":
        assert 'value="9999"' in answer.text  # what was typed stays, and can be said to be right
        assert client.post(f"/pours/{page.number}/enter", data=told | {"sure": "yes"}, headers=HTMX).status_code == 200


def test_the_wrong_part_has_a_safe_way_out(client: TestClient, database: Database, job: int) -> None:
    page = begin(client, job)
    page.send("tare").send("hold")
    assert "never pour it into a mould" in page.page.text
    page.send("wrong", ingredient="B", net_g="12")
    assert page.step == "cup"
    assert "Label the cup" in page.page.text
    (b,) = [one for one in lots.of_thing(database, RUBBERS, 1)[0] if one.lot.part == "B"]
    assert b.lot.left_g == 88
    assert page.send("tare").step == "hold"


def test_corrections_are_added_and_move_the_tin(client: TestClient, database: Database, job: int) -> None:
    page = begin(client, job)
    page.send("tare").send("hold")
    page.weigh(f"{page.target_g:.1f}")
    before = pours.look(database, page.number).state.attempt.poured_g["A"]
    told = {
        "number": str(PREPARED + 5),
        "token": "c1",
        "units": "metric",
        "of_number": str(PREPARED + 4),
        "net_g": f"{before - 30:.1f}",
        "text": "misread",
    }
    assert client.post(f"/pours/{page.number}/record", data=told).status_code == 200
    state = pours.look(database, page.number).state
    assert state.entries[PREPARED + 3].net_g == before
    assert state.attempt.poured_g["A"] == pytest.approx(before - 30, abs=0.06)
    left = next(
        one.lot.left_g
        for one in lots.of_thing(database, RUBBERS, 1)[0]
        if one.lot.code == "SM-1" and one.lot.part == "A"
    )
    assert left == pytest.approx(1000 - before + 30, abs=0.06)
    # a second correction of the same line counts from the first, in the cup and in the tin
    again = told | {"number": str(PREPARED + 6), "token": "c1b", "net_g": f"{before - 10:.1f}", "text": "read again"}
    assert client.post(f"/pours/{page.number}/record", data=again).status_code == 200
    assert pours.look(database, page.number).state.attempt.poured_g["A"] == pytest.approx(before - 10, abs=0.06)
    left = next(
        one.lot.left_g
        for one in lots.of_thing(database, RUBBERS, 1)[0]
        if one.lot.code == "SM-1" and one.lot.part == "A"
    )
    assert left == pytest.approx(1000 - before + 10, abs=0.06)
    for wrong, says in (
        ({"text": " "}, "Say why"),
        ({"of_number": str(PREPARED + 2)}, "Only what was weighed"),
        ({"net_g": "3 ml"}, "measures a volume"),
    ):
        refused = client.post(
            f"/pours/{page.number}/record", data=told | {"number": str(PREPARED + 7), "token": "c2"} | wrong
        )
        assert refused.status_code == 422
        assert says in refused.text


def test_the_record_is_only_added_to(client: TestClient, database: Database, job: int) -> None:
    page = begin(client, job)
    with (
        database.transaction() as connection,
        pytest.raises(psycopg.errors.IntegrityConstraintViolation, match="only added to"),
    ):
        connection.execute("update pour_entries set net_g = 1 where pour_id = %s", [page.number])
    with pytest.raises(InUse, match="can't be deleted"):
        things.delete(database, RUBBERS, 1)


def test_what_cannot_be_weighed_yet_says_why(client: TestClient, database: Database, job: int) -> None:
    empty = stations.start_job(database, "Nothing yet")
    assert "Nothing to weigh yet" in client.get(f"/jobs/{empty}/pour").text
    assert client.post(f"/jobs/{empty}/pour", data={"who": "Wren"}).status_code == 422
    for temp, says in (("200", "no room to pour in"), ("warm", "can't be read"), ("-5", "no room")):
        refused = client.post(f"/jobs/{job}/pour", data={"units": "metric", "who": "Wren", "temp_c": temp})
        assert refused.status_code == 422
        assert says in BeautifulSoup(refused.text, "lxml").find(id="h-temp_c").text
        assert f'value="{temp}"' in refused.text
    assert (
        client.post(
            f"/jobs/{job}/pour", data={"units": "metric", "who": "Wren\0", "temp_c": "21"}, follow_redirects=False
        ).status_code
        == 303
    )
    assert client.get("/pours/999").status_code == 404
    assert client.get("/pours/999/stream").status_code == 404


def test_a_running_pour_is_on_the_board_and_its_stock_in_the_job(
    client: TestClient, database: Database, job: int
) -> None:
    page = begin(client, job)
    assert "running" not in client.get(f"/jobs/{job}/pour").text.split("Pours of this job")[0]
    waiting = BeautifulSoup(client.get(f"/jobs/{job}/pour").text, "lxml")
    assert "Being weighed" in waiting.select_one(".answer").text
    assert waiting.select_one(".answer a.go")["href"] == f"/pours/{page.number}"
    assert waiting.find(id="asked") is None  # one pour of a job is weighed at a time
    again = client.post(f"/jobs/{job}/pour", data={"units": "metric", "who": "Wren", "temp_c": "21"})
    assert (again.status_code, "being weighed already" in again.text) == (422, True)
    board = BeautifulSoup(client.get("/").text, "lxml")
    assert board.find(class_="running")["href"] == f"/pours/{page.number}"
    told = BeautifulSoup(client.get(f"/jobs/{job}/rubber").text, "lxml").find(class_="findings").text
    assert "Lot OLD of Saltmarsh base, part A is" in re.sub(r"\s+", " ", told)


def test_the_scales_rubber_can_be_weighed_in_ounces(client: TestClient, database: Database, job: int) -> None:
    client.post("/settings", data={"version": "1", "units": "us", "currency": "USD"})
    page = begin(client, job, units="us", temp_c="70 °F")
    page.send("tare").send("hold")
    assert " oz" in page.page.find(class_="target").text.replace("\xa0", " ")
    grams = page.target_g
    page.weigh(f"{grams / 28.349523:.3f}")
    assert pours.look(database, page.number).state.attempt.poured_g["A"] == pytest.approx(grams, rel=1e-3)


def test_a_blend_a_thinner_and_a_pigment_are_all_weighed(client: TestClient, database: Database, job: int) -> None:
    other = things.add(
        database,
        RUBBERS,
        Rubber(
            name="Saltmarsh 40", family="condensation-silicone", weight_a=100, weight_b=10, sg_mixed=1.2, hardness=40
        ),
    )
    version = stations.open_job(database, job).job.versions["rubber"]
    stations.change_station(
        database, job, "rubber", version=version, changes={"blend_id": other, "blend_pct": 25.0, "pigment_pct": 1.0}
    )
    page = begin(client, job)
    page.send("tare")
    seen = []
    while page.step in {"hold", "weigh"}:
        if page.step == "weigh":
            seen.append(page.page.find("input", {"name": "ingredient"})["value"])
            page.send("weigh", net_g=f"{page.target_g:.2f}")
        else:
            page.send("hold")
    assert seen == ["A", "A2", "B", "B2", "pigment"]
    state = pours.look(database, page.number).state
    assert abs(state.ratio_error_pct(state.attempt) or 9) < 0.5
