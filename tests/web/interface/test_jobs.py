"""The interface on jobs: the same figures as the pages and the sheet show, through both halves and their cures."""

import time
from dataclasses import replace
from io import BytesIO

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from pypdf import PdfReader

from ufrin import demo, demo_pours
from ufrin.actions import RUBBERS, Database
from ufrin.actions.bench import pours, shortfall
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.board_figures import BoardFigures
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.store import board_rows


@pytest.fixture
def halves(database: Database) -> int:
    """A job of two halves, ready to pour."""
    rubber = things.add(database, RUBBERS, demo.RUBBERS[1])
    job = stations.start_job(database, "Cleat")
    stations.fill_in(
        database,
        job,
        {
            "master": {
                "length_mm": 60.0,
                "width_mm": 40.0,
                "height_mm": 35.0,
                "mass_g": 430.0,
                "level_before_ml": 500.0,
                "level_after_ml": 552.0,
                "material": "brass",
                "counted_way": "level",
            },
            "opening": {"style": "two-part", "bed_material": "sulphur-free-clay"},
            "rubber": {"rubber_id": rubber, "scale_step_g": 0.1},
        },
    )
    return job


def pour(database: Database, job: int, hours_ago: float) -> int:
    begun = time.time() - 3600 * hours_ago
    now = Moment(wall_s=begun, steady_s=begun, machine="then")
    number = pours.start(database, job, who="Wren", temp_c=23.0, what="the box", now=now)
    demo_pours.weigh_through(demo_pours._Hand(database, number, begun), 0.0, 0.0)  # noqa: SLF001 - the demo's own hand
    return number


def test_the_figures_are_those_of_the_pages_and_the_sheet(client: TestClient, database: Database, halves: int) -> None:
    told = client.get(f"/api/v1/jobs/{halves}").json()
    plan = client.get(f"/jobs/{halves}/rubber").context["plan"]
    assert (told["state"], told["style"], told["style_is"]) == ("ready", "two-part", "chosen")
    assert told["master"]["displaced_ml"] == plan.master.measured.volume_ml == pytest.approx(52)
    assert told["box"]["net_ml"] == pytest.approx(84 * 64 * 59 / 1000 - 52)
    assert [one["half"] for one in told["pours"]] == ["first", "second"]
    assert sum(one["net_ml"] for one in told["pours"]) == pytest.approx(told["box"]["net_ml"])
    for one, planned in zip(told["pours"], plan.pours, strict=True):
        assert one["total_g"] == pytest.approx(planned.mix.total_g)
        assert one["parts"] == pytest.approx({key: part.g for key, part in planned.mix.parts.items()})
        assert (one["weighed"], one["poured_at"], one["demould_at"]) == (False, None, None)
        sheet = PdfReader(BytesIO(client.get(f"/jobs/{halves}/sheet.pdf").content)).pages[0].extract_text()
        assert f"{one['parts']['A']:.1f} g" in sheet
    assert {one["level"] for one in told["findings"]} <= {"stop", "warn", "note"}


def test_a_half_that_ran_short_never_lacks_more_than_it_takes(
    client: TestClient, database: Database, halves: int
) -> None:
    number, now = pour(database, halves, 1.0), clock.now()
    first = client.get(f"/api/v1/jobs/{halves}").json()["pours"][0]
    little = shortfall.look(database, number, now, below_mm=2.0).top_up
    assert little is not None
    assert little.volume_ml == pytest.approx(84 * 64 * 2.0 / 1000)  # over the master there is nothing but rubber
    # beyond the parting surface lies the other half
    all_of_it = shortfall.look(database, number, now, below_mm=58.0).top_up
    assert all_of_it is not None
    assert all_of_it.volume_ml == pytest.approx(first["net_ml"])


def test_what_was_poured_stays_what_it_is_when_the_job_is_changed(
    client: TestClient, database: Database, halves: int
) -> None:
    pour(database, halves, 1.0)
    before = client.get(f"/api/v1/jobs/{halves}").json()
    stations.fill_in(database, halves, {"box": {"side_mm": 20.0}})
    after = client.get(f"/api/v1/jobs/{halves}").json()
    assert after["pours"][0] == before["pours"][0]
    assert after["pours"][1]["total_g"] > 1.2 * before["pours"][1]["total_g"]
    assert "changed-after-weighing" not in {one["code"] for one in before["findings"]}
    (told,) = [one["text"] for one in after["findings"] if one["code"] == "changed-after-weighing"]
    for place in ("rubber", "pour"):
        page = BeautifulSoup(client.get(f"/jobs/{halves}/{place}").text, "lxml")
        assert told.split(":")[0] in " ".join(page.text.split())
        # each half with what it takes: the first as it was weighed, the second as it is planned now
        rows = [" ".join(row.text.split()) for row in page.find_all("tr")]
        for half, one in zip(("First", "Second"), after["pours"], strict=True):
            assert any(row.startswith(half) and f"{one['total_g']:.1f} g" in row for row in rows), (place, half)
    # the headline, the sheet and its print tell A of each half the same
    rubber = BeautifulSoup(client.get(f"/jobs/{halves}/rubber").text, "lxml")
    sheet = BeautifulSoup(client.get(f"/jobs/{halves}/sheet").text, "lxml")
    printed = PdfReader(BytesIO(client.get(f"/jobs/{halves}/sheet.pdf").content)).pages[0].extract_text()
    for one, line in zip(after["pours"], sheet.select(".paper p.weigh"), strict=True):
        a = f"{one['parts']['A']:.1f} g"
        assert a.removesuffix(" g") in rubber.find(attrs={"data-mark": f"part-{one['half']}A"}).text
        assert line.text.startswith(a)
        assert a in printed
    together_g = sum(one["total_g"] for one in after["pours"])
    assert f"{together_g:.1f}" in rubber.find(attrs={"data-mark": "total"}).text
    assert "as its weighing began" in rubber.find(class_="what").text
    # a rubber that is swapped over a cup that is mixed changes nothing of the cup
    other = things.add(database, RUBBERS, replace(demo.RUBBERS[1], name="Bosun 40"))
    stations.fill_in(database, halves, {"rubber": {"rubber_id": other}})
    swapped = client.get(f"/api/v1/jobs/{halves}").json()
    assert [one["rubber"] for one in swapped["pours"]] == [before["pours"][0]["rubber"], "Bosun 40"]


def test_the_board_knows_that_a_begun_mould_no_longer_fits_and_when_it_is_whole(
    client: TestClient, database: Database, halves: int
) -> None:
    def as_listed() -> BoardFigures | None:
        client.get("/")
        with database.reading() as connection:
            (row,) = board_rows.newest(connection, search="", limit=9, before=None)
        assert row.is_fresh
        return row.figures

    pour(database, halves, 30.0)
    as_listed()
    stations.fill_in(database, halves, {"box": {"side_mm": 20.0}})
    begun = stations.open_job(database, halves)
    assert begun.plan.states["rubber"] == "warning"
    assert as_listed() == begun.figures
    pour(database, halves, 15.0)
    whole = stations.open_job(database, halves)
    assert whole.plan.states["rubber"] == "ready"
    assert as_listed() == whole.figures


def test_the_bench_offers_the_half_that_is_next_and_waits_for_the_cure(
    client: TestClient, database: Database, halves: int
) -> None:
    pour(database, halves, 1.0)  # six hours to demould
    told = client.get(f"/api/v1/jobs/{halves}").json()
    assert told["state"] == "curing"
    assert [one["weighed"] for one in told["pours"]] == [True, False]
    assert told["pours"][0]["demould_at"] > told["pours"][0]["poured_at"] > told["pours"][0]["planned_at"]
    page = client.get(f"/jobs/{halves}/pour")
    assert page.context["next_half"] == "second"
    assert "still curing" in page.text
    with pytest.raises(Refused, match="neither settled nor signed off"):
        pour(database, halves, 0.9)
    (stop,) = page.context["stops"]
    signed = {"about": stop["key"], "reason": "It is firm", "who": "Wren"}
    client.post(f"/jobs/{halves}/pour/sign", data=signed, headers={"Origin": "http://127.0.0.1"})
    second = pour(database, halves, 0.9)
    state = pours.look(database, second).state
    assert state.plan.half == "second"
    assert any("It is firm" in entry.text for entry in state.entries)
    assert client.get(f"/jobs/{halves}/pour").context["is_another_mould"]


def test_a_cured_half_lets_the_second_be_poured_and_what_was_weighed_keeps_its_plan(
    client: TestClient, database: Database, halves: int
) -> None:
    first = client.get(f"/api/v1/jobs/{halves}").json()["pours"][0]
    pour(database, halves, 30.0)
    assert client.get(f"/api/v1/jobs/{halves}").json()["state"] == "ready"
    assert client.get(f"/jobs/{halves}/pour").context["stops"] == []
    stations.change_station(database, halves, "box", version=1, changes={"side_mm": 25.0})
    told = client.get(f"/api/v1/jobs/{halves}").json()
    assert told["pours"][0]["total_g"] == pytest.approx(first["total_g"])
    assert told["pours"][1]["total_g"] > 1.3 * first["total_g"]
    pour(database, halves, 7.0)
    assert client.get(f"/api/v1/jobs/{halves}").json()["state"] == "demould due"
    stations.put_job_away(database, halves, away=True)
    assert client.get(f"/api/v1/jobs/{halves}").json()["state"] == "put away"


def test_jobs_are_listed_newest_first_a_page_at_a_time(client: TestClient, database: Database) -> None:
    for name in ("Anchor", "Bollard", "Anchor 100 %", "Cleat"):
        stations.start_job(database, name)
    everything = client.get("/api/v1/jobs").json()["jobs"]
    assert [one["name"] for one in everything] == ["Cleat", "Anchor 100 %", "Bollard", "Anchor"]
    assert {one["state"] for one in everything} == {"planning"}
    first = client.get("/api/v1/jobs?limit=2").json()["jobs"]
    rest = client.get(f"/api/v1/jobs?before={first[-1]['id']}").json()["jobs"]
    assert first + rest == everything
    assert [one["name"] for one in client.get("/api/v1/jobs?search=r 100 %25").json()["jobs"]] == ["Anchor 100 %"]
    empty = client.get(f"/api/v1/jobs/{everything[0]['id']}").json()
    assert (empty["style"], empty["box"], empty["pours"], empty["master"]["way"]) == (None, None, [], None)


@pytest.mark.parametrize(
    "query", ["jobs?limit=0", "jobs?limit=1000", "jobs?before=-1", "jobs?limit=x", "jobs/99", "jobs/x", "jobs/0"]
)
def test_bad_questions_get_an_answer_to_act_on(client: TestClient, query: str) -> None:
    answer = client.get(f"/api/v1/{query}")
    assert answer.status_code in {404, 422}
    assert answer.json()["detail"]


def test_a_sheet_carries_its_revision_and_says_when_it_is_out_of_date(
    client: TestClient, database: Database, halves: int
) -> None:
    def print_it() -> str:
        answer = client.post(f"/jobs/{halves}/sheet/print", headers={"Origin": "http://127.0.0.1"})
        return PdfReader(BytesIO(answer.content)).pages[0].extract_text()

    assert "draft of" in client.get(f"/jobs/{halves}/sheet").text
    assert "revision 1 of" in print_it()
    assert "revision 1 of" in print_it()  # nothing changed: the same sheet again
    stations.change_station(database, halves, "opening", version=2, changes={"bed_material": "plaster"})
    stations.change_station(database, halves, "opening", version=3, changes={"bed_material": "sulphur-free-clay"})
    assert not client.get(f"/jobs/{halves}/sheet").context["is_sheet_old"]
    stations.change_station(database, halves, "rubber", version=2, changes={"spare_pct": 20.0})
    for place in ("master", "pour", "sheet"):
        assert client.get(f"/jobs/{halves}/{place}").context["is_sheet_old"]
    assert "The printed sheet is out of date" in client.get(f"/jobs/{halves}/sheet").text
    assert "would be revision 2" in client.get(f"/jobs/{halves}/sheet").text
    assert "revision 2 of" in print_it()


def test_steps_are_ticked_off_on_every_page_until_another_mould_is_made(
    client: TestClient, database: Database, halves: int
) -> None:
    def states() -> list[tuple[str, bool]]:
        shown = client.get(f"/jobs/{halves}/pour").context["befores"]
        return [(one.step.key, one.done_at_s is not None) for before in shown for one in before.states]

    origin = {"Origin": "http://127.0.0.1"}
    key, done = states()[0]
    assert not done
    client.post(f"/jobs/{halves}/steps/{key}", data={"done": "yes"}, headers=origin)
    assert dict(states())[key]
    assert "[done " in client.get(f"/jobs/{halves}/sheet").text
    client.post(f"/jobs/{halves}/steps/{key}", data={"done": "no"}, headers=origin)
    assert not dict(states())[key]
    client.post(f"/jobs/{halves}/steps/{key}", data={"done": "yes"}, headers=origin)
    pour(database, halves, 30.0)
    assert dict(states())[key]  # the first half does not undo what was prepared for this mould
    pour(database, halves, -0.01)
    assert not dict(states())[key]  # the mould is made: another one begins anew
    assert client.post(f"/jobs/{halves}/steps/none", data={"done": "yes"}, headers=origin).status_code == 422


def test_what_was_weighed_keeps_the_volume_that_it_was_weighed_for(
    client: TestClient, database: Database, halves: int
) -> None:
    before = client.get(f"/api/v1/jobs/{halves}").json()["pours"]
    pour(database, halves, hours_ago=1)
    kept = stations.open_job(database, halves, "box").job
    stations.change_station(database, halves, "box", version=kept.versions["box"], changes={"side_mm": 30.0})
    after = client.get(f"/api/v1/jobs/{halves}").json()["pours"]
    assert [one["weighed"] for one in after] == [True, False]
    assert after[0]["net_ml"] == pytest.approx(before[0]["net_ml"])
    assert after[0]["total_g"] == pytest.approx(before[0]["total_g"])
    assert after[1]["net_ml"] > 1.5 * before[1]["net_ml"]
