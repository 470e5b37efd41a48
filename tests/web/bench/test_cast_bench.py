"""A shot from the Casts station over the bench into the log, and what keeps it apart from the pours of moulds."""

import re
from typing import Any

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient

from ufrin.actions import RESINS
from ufrin.actions.bench import pours
from ufrin.actions.bench.running import what_runs
from ufrin.actions.casts import bench as cast_bench
from ufrin.actions.casts import shots as shot_actions
from ufrin.actions.job import stations
from ufrin.actions.shelf import lots, things
from ufrin.devices import clock
from ufrin.store.connection import Database

PULLEY = 6


def begin(client: TestClient, status: int = 303, **typed: str) -> Any:  # noqa: ANN401
    answer = client.post(f"/jobs/{PULLEY}/casts/bench", data={"units": "metric", **typed}, follow_redirects=False)
    assert answer.status_code == status, answer.text
    return int(answer.headers["location"].rsplit("/", 1)[1]) if status == 303 else answer


def write(client: TestClient, number: int, kind: str, **more: str) -> None:
    step = re.findall(r'data-step="(\d+)"', client.get(f"/pours/{number}/now").text)[0]
    form = {"kind": kind, "number": step, "token": f"{number}-{step}", "units": "metric", "by": "typed", **more}
    answer = client.post(f"/pours/{number}/enter", data=form, headers={"HX-Request": "true"})
    assert answer.status_code == 200, answer.text


def walk(client: TestClient, database: Database, number: int, *, left: str = "3") -> list[str]:
    """Do whatever the bench asks for until the shot is in the mould, and return the headings."""
    seen = []
    while True:
        step = pours.look(database, number).state.step
        heading = BeautifulSoup(client.get(f"/pours/{number}").text, "lxml").find("h1")
        seen.append(heading.text if heading else "")
        match step.kind:
            case "do":
                write(client, number, "step", what=step.key, sure="yes")
            case "cup":
                write(client, number, "tare")
            case "hold":
                write(client, number, "hold", ingredient=step.ingredient.key)  # type: ignore[union-attr]
            case "weigh":
                net = f"{step.target_g:.4f} g"
                write(client, number, "weigh", ingredient=step.ingredient.key, net_g=net)  # type: ignore[union-attr]
            case "mix":
                write(client, number, "mixed", sure="yes")
            case "pour":
                write(client, number, "poured")
            case "leftover":
                write(client, number, "leftover", net_g=left)
            case "finish":
                write(client, number, "finish")
            case _:
                return seen


def left_g(database: Database) -> float:
    board = things.shelf(database, RESINS)
    return sum(
        one.lot.left_g for kept in board.things if kept.thing.name == "Quayside 70" for one in board.lots[kept.id]
    )


def test_a_shot_from_the_station_over_the_bench_into_the_log(client: TestClient, filled: Database) -> None:
    before_g, allowance = left_g(filled), pours.learnt(filled).allowance
    stage = client.get("/api/v1/jobs/6").json()["state"]
    number = begin(client, who="Wren")
    assert "Go on at the bench" in client.get(f"/jobs/{PULLEY}/casts").text
    assert "being weighed already" in begin(client, status=422).text
    seen = walk(client, filled, number)
    assert seen[0] == "Lay everything ready"
    order = [text for text in seen if text.startswith(("Pour", "Add"))]
    assert order[0].startswith("Pour Quayside B")
    assert order[1] == "Add Lichen grey"
    assert order[2].startswith("Pour Quayside A")
    assert "Cast it" in seen
    made = shot_actions.of_job(filled, PULLEY, clock.now()).opened.casts.plan  # type: ignore[union-attr]
    assert made is not None
    resin_g = made.totals["A"].g + made.totals["B"].g
    assert before_g - left_g(filled) == pytest.approx(resin_g, abs=0.05)
    # it is no pour of a mould: neither the allowance nor the state of the job knows it
    assert pours.learnt(filled).allowance == allowance
    assert client.get("/api/v1/jobs/6").json()["state"] == stage
    assert str(number) not in {str(one.id) for one, _ in pours.of_job(filled, PULLEY).pours}
    # but its clock runs on the Board
    assert number in {one.pour.id for one in what_runs(filled, clock.now()).running}
    log = BeautifulSoup(client.get(f"/jobs/{PULLEY}/casts/log?pour={number}").text, "lxml")
    assert log.find(id="s-mixed_g")["value"] == f"{made.shot_g:.1f} g"
    assert log.find(id="s-left_g")["value"] == "3.0 g"
    fields = {
        one["name"]: one.get("value", "")
        for one in log.find(id="log-shot").find_all("input")
        if one.get("type") != "checkbox"
    }
    pieces = {f"piece-{cavity}": "good" for cavity in range(1, 5)}
    client.post(f"/jobs/{PULLEY}/casts/log", data={**fields, **pieces})
    found = shot_actions.of_job(filled, PULLEY, clock.now())
    newest = found.shots[0]
    assert (newest.pour_id, newest.shot.who, newest.shot.left_g) == (number, "Wren", 3.0)
    assert before_g - left_g(filled) == pytest.approx(resin_g, abs=0.05)  # its tins are counted once
    assert client.get("/jobs/9/casts/log?pour=" + str(number)).status_code == 404


def test_a_cup_that_was_thrown_away_is_not_logged_as_mixed(client: TestClient, filled: Database) -> None:
    number = begin(client)
    while pours.look(filled, number).state.step.kind == "do":
        write(client, number, "step", what=pours.look(filled, number).state.step.key, sure="yes")
    write(client, number, "tare")
    first = pours.look(filled, number).state.step
    assert first.ingredient is not None
    write(client, number, "hold", ingredient=first.ingredient.key)
    write(client, number, "weigh", ingredient=first.ingredient.key, net_g=f"{first.target_g:.4f} g")
    write(client, number, "discard", sure="yes", text="a fly in it")
    walk(client, filled, number)
    made = shot_actions.of_job(filled, PULLEY, clock.now()).opened.casts.plan  # type: ignore[union-attr]
    assert made is not None
    assert [cup.outcome for cup in pours.look(filled, number).state.attempts] == ["discarded", "poured"]
    kept = cast_bench.look(filled, PULLEY, number)
    assert (kept.mixed_g, kept.left_g) == (pytest.approx(made.shot_g, abs=0.05), pytest.approx(3.0))
    log = BeautifulSoup(client.get(f"/jobs/{PULLEY}/casts/log?pour={number}").text, "lxml")
    assert log.find(id="s-mixed_g")["value"] == f"{made.shot_g:.1f} g"


def test_a_cast_comes_out_by_its_own_steps(client: TestClient, filled: Database) -> None:
    number = begin(client)
    walk(client, filled, number)
    page = client.get(f"/pours/{number}").text
    assert "a warm one warps" in page
    write(client, number, "demould", what="well", sure="yes")
    page = client.get(f"/pours/{number}").text
    assert "The cast is out" in page
    assert f"/jobs/{PULLEY}/casts/log?pour={number}" in page
    record = client.get(f"/pours/{number}/record")
    assert record.status_code == 200
    assert "Quayside B" in record.text


def test_the_bench_waits_for_stops_and_for_a_mould_that_cures(
    client: TestClient, filled: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    from ufrin.actions.job.open_job import OpenJob  # noqa: PLC0415

    with monkeypatch.context() as patched:
        patched.setattr(OpenJob, "stage", lambda *_: "curing")
        assert "say why it is cast in" in begin(client, status=422).text
        number = begin(client, reason="a trial of the detail")
    assert "a trial of the detail" in client.get(f"/pours/{number}/record").text
    job = stations.start_job(filled, "Nothing yet")
    empty = client.post(f"/jobs/{job}/casts/bench", data={})
    assert empty.status_code == 422
    assert "nothing to weigh yet" in empty.text


def test_a_tin_without_parts_is_offered_too(client: TestClient, filled: Database) -> None:
    wax = next(kept for kept in things.shelf(filled, RESINS).things if kept.thing.kind == "wax")
    lots.add(filled, RESINS, wax.id, {"got_g": 2000.0, "code": "BW-7"})
    stations.fill_in(filled, PULLEY, {"casts": {"resin_id": wax.id, "cast_kind": "solid"}})
    for stop in shot_actions.of_job(filled, PULLEY, clock.now()).opened.cast_stops:
        client.post(f"/jobs/{PULLEY}/casts/sign", data={"about": stop.key, "reason": "a trial", "who": "Wren"})
    number = begin(client, reason="a trial")
    while (bench := pours.look(filled, number)).state.step.kind != "weigh":
        step = bench.state.step
        match step.kind:
            case "do":
                write(client, number, "step", what=step.key, sure="yes")
            case "cup":
                write(client, number, "tare")
            case _:
                write(client, number, "hold", ingredient=step.ingredient.key)  # type: ignore[union-attr]
    assert bench.lot is not None
    assert bench.lot.lot.code == "BW-7"
