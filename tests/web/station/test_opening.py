"""The Opening station on its pages, its deeds, its files, and the calls of the open interface that belong to it."""

import io
import re
from typing import Any

import ezdxf
import numpy as np
import pytest
import trimesh
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from shapes import CUBE, ball, cup, dumbbell, egg, inside_out, moved, torn, turned_about, u_tube

from ufrin.actions import RUBBERS
from ufrin.actions.job import long_work, stations
from ufrin.actions.job.board import board
from ufrin.actions.shelf import things
from ufrin.core.master.attitudes import turn_up
from ufrin.core.mesh.triangles import Mesh, joined
from ufrin.core.mesh.written_files import write_stl
from ufrin.core.opening.ranking_costs import DECIDING
from ufrin.core.rubber.tins import Rubber
from ufrin.store.connection import Database

HTMX = {"HX-Request": "true"}


def job_of(database: Database, mesh: Mesh, *, style: str | None = None) -> int:
    job = stations.start_job(database, "Tried")
    stations.give_mesh(database, job, "tried.stl", write_stl(mesh))
    if style:
        stations.change_station(database, job, "opening", version=1, changes={"style": style})
    return job


def shown(client: TestClient, job: int) -> Any:  # noqa: ANN401
    return client.get(f"/jobs/{job}/opening").context


def do(client: TestClient, job: int, what: str, **typed: object) -> Any:  # noqa: ANN401
    now = shown(client, job)["job"].versions
    said = {"version": now["opening"], "master_version": now["master"], "units": "metric", **typed}
    return client.post(
        f"/jobs/{job}/opening/{what}", data={key: str(value) for key, value in said.items()}, headers=HTMX
    )


def test_without_shape_it_is_a_judgement_by_checklist(client: TestClient, database: Database) -> None:
    job = stations.start_job(database, "Carving")
    assert "Its size is missing" in client.get(f"/jobs/{job}/opening").text
    stations.change_station(
        database, job, "master", version=1, changes={"length_mm": 60.0, "width_mm": 40.0, "height_mm": 35.0}
    )
    page = client.get(f"/jobs/{job}/opening")
    assert "Advised; the plan follows it" in page.text
    assert "not from a simulation" in page.text
    assert len(BeautifulSoup(page.text, "lxml").select(".ticks input[type=checkbox]")) == 6
    before = page.context["opens"].advice[0].style
    ticked = client.post(
        f"/jobs/{job}/opening",
        data={"version": "1", "units": "metric", "flat_back": "yes", "hook": "yes"},
        headers=HTMX,
    )
    assert ticked.context["opens"].advice[0].style == "slit" != before
    assert "In the bend of the hook" in ticked.text


def test_an_advised_kind_counts_until_another_is_chosen(client: TestClient, database: Database) -> None:
    job = job_of(database, ball(40, 48))
    advised = shown(client, job)
    assert (advised["opens"].style, advised["opens"].is_chosen) == ("two-part", False)
    box = client.get(f"/jobs/{job}/box").context
    assert box["plan"].box.fill_mm == pytest.approx(40 + 2 * 12, abs=0.05)  # as much rubber under it as over it
    assert box["fields"]["under_mm"].text == "12 mm"
    assert box["fields"]["under_mm"].is_default
    halves = box["halves"]
    assert halves.first_ml + halves.second_ml == pytest.approx(box["plan"].box.net_ml)
    assert halves.first_ml == pytest.approx(halves.second_ml, rel=0.01)
    client.post(f"/jobs/{job}/opening", data={"version": "1", "units": "metric", "style": "open"}, headers=HTMX)
    alone = client.get(f"/jobs/{job}/box").context
    assert alone["plan"].box.fill_mm == pytest.approx(40 + 12, abs=0.05)
    assert alone["halves"] is None


def test_advice_that_changes_is_said_and_the_one_before_can_be_kept(client: TestClient, database: Database) -> None:
    job = stations.start_job(database, "Badge")
    size = {"length_mm": "60", "width_mm": "40", "height_mm": "10", "units": "metric", "version": "1"}
    client.post(f"/jobs/{job}/master", data=size, headers=HTMX)
    assert client.get(f"/jobs/{job}/box").context["advice_was"] is None
    flat = {"version": "1", "units": "metric", "flat_back": "yes"}
    changed = client.post(f"/jobs/{job}/opening", data=flat, headers=HTMX)
    assert changed.context["advice_was"] == "two-part"
    assert changed.context["plan"].style != "two-part"
    for station in ("master", "box", "rubber", "pour", "sheet"):
        assert "The advice has changed" in client.get(f"/jobs/{job}/{station}").text
    version = str(changed.context["job"].versions["opening"])
    kept = client.post(f"/jobs/{job}/opening/advice", data={"version": version, "keep": "yes"})
    assert (kept.context["plan"].style, kept.context["advice_was"]) == ("two-part", None)
    client.post(f"/jobs/{job}/opening", data={**flat, "version": "3", "style": ""}, headers=HTMX)
    assert client.get(f"/jobs/{job}/box").context["advice_was"] is None  # it was agreed to


def test_two_halves_are_two_pours(client: TestClient, database: Database) -> None:
    tin = things.add(
        database, RUBBERS, Rubber(name="Saltmarsh 25", weight_a=100, weight_b=10, sg_mixed=1.1, elongation_pct=350)
    )
    job = job_of(database, dumbbell(), style="two-part")
    stations.change_station(database, job, "rubber", version=1, changes={"rubber_id": tin})
    worked_out = client.get(f"/jobs/{job}/rubber").context["plan"]
    first, second = worked_out.pours
    assert first.need_ml == pytest.approx(worked_out.opening.parting_surface.upper_ml)
    assert second.need_ml == pytest.approx(worked_out.opening.parting_surface.lower_ml)
    assert "Two pours of one plan" in client.get(f"/jobs/{job}/rubber").text
    # the Board shows the same weight as the page; so does the bench, with which half it is
    listed = board(database).listed[0].figures
    assert listed is not None
    assert listed.halves == ("first", "second")
    assert listed.total_g == pytest.approx(first.mix.total_g + second.mix.total_g)
    for stop in client.get(f"/jobs/{job}/pour").context["stops"]:
        signed = {"about": stop["key"], "reason": "Tried", "who": "Marin"}
        client.post(f"/jobs/{job}/pour/sign", data=signed, headers={"Origin": "http://127.0.0.1"})
    client.post(f"/jobs/{job}/pour", data={"who": "Marin"}, headers={"Origin": "http://127.0.0.1"})
    with client.app.state.database.reading() as connection:
        kept = connection.execute("select plan from pours").fetchone()
    assert (kept["plan"]["half"], kept["plan"]["what"]) == ("first", "the box, first half")
    assert client.get(f"/jobs/{job}/sheet").status_code == 200
    assert client.get(f"/jobs/{job}/sheet.pdf").content.startswith(b"%PDF")


def test_a_pull_is_taken_tipped_and_undone(client: TestClient, database: Database) -> None:
    job = job_of(database, egg())
    assert do(client, job, "pull", pull="0, 0, -1").context["job"].master.up == "0, 0, -1"
    tipped = do(client, job, "tip", towards="right", degrees="10")
    up = np.array([float(number) for number in tipped.context["job"].master.up.split(",")])
    assert np.degrees(np.arccos(-up[2])) == pytest.approx(10, abs=0.05)
    for what, typed in (
        ("tip", {"towards": "sideways", "degrees": "5"}),
        ("tip", {"towards": "left", "degrees": "4000"}),
        ("pull", {"pull": "0, 0, 0"}),
        ("pull", {"pull": "up"}),
    ):
        answer = do(client, job, what, **typed)
        assert answer.status_code == 422
        assert answer.context["refusals"]
    old = client.post(f"/jobs/{job}/opening/pull", data={"master_version": "1", "pull": "1, 0, 0"}, headers=HTMX)
    assert old.status_code == 409
    assert "Somebody changed this meanwhile" in old.text


def test_pulls_are_ranked_by_a_worker_and_at_once_for_a_stand_in(client: TestClient, database: Database) -> None:
    job = job_of(database, dumbbell())
    waiting = client.get(f"/jobs/{job}/opening/pulls")
    assert "You can carry on elsewhere" in waiting.text
    assert waiting.context["ranking"] is None
    mesh = stations.open_job(database, job).mesh
    assert mesh is not None
    assert long_work.work_on(database, mesh.kept.hash, "directions") == "done"
    done = client.get(f"/jobs/{job}/opening/pulls")
    assert done.context["ranking"].is_whole
    assert "hx-trigger" not in BeautifulSoup(done.text, "lxml").select_one(".waits").attrs
    best = done.context["ranking"].ranked(None)[0].scored
    row = done.context["pulls"][0]
    assert (row.locked_ml, row.is_taken) == (best.locked_ml, False)
    assert best.locked_ml == pytest.approx(0, abs=0.02)
    assert abs(best.pull[2]) < 0.1
    assert len(BeautifulSoup(done.text, "lxml").select("circle.d-way")) == len(done.context["ranking"].scored)
    # in inches the same master is 25.4 times as large
    stations.change_station(database, job, "master", version=2, changes={"mesh_unit": "in"})
    larger = client.get(f"/jobs/{job}/opening/pulls").context["ranking"]
    assert larger.scored[-1].locked_ml == pytest.approx(25.4**3 * done.context["ranking"].scored[-1].locked_ml)
    other = stations.start_job(database, "Vase")
    stations.change_station(
        database, other, "master", version=1, changes={"standin": "profile", "profile": "0 30; 10 44; 30 20; 50 34"}
    )
    made = client.get(f"/jobs/{other}/opening/pulls").context
    assert made["work"] is None
    assert abs(made["ranking"].ranked(None)[0].scored.pull[2]) < 0.1
    assert client.get(f"/jobs/{stations.start_job(database, 'Bare')}/opening/pulls").context["pulls"] == []


def test_ranking_given_up_keeps_what_is_known(client: TestClient, database: Database) -> None:
    job = job_of(database, egg())
    client.get(f"/jobs/{job}/opening/pulls")
    client.post(f"/jobs/{job}/opening/stop", headers={"Origin": "http://127.0.0.1"})
    mesh = stations.open_job(database, job).mesh
    assert mesh is not None
    assert long_work.work_on(database, mesh.kept.hash, "directions") == "stopped"


def test_gate_and_vents_are_placed_checked_and_chosen_again(client: TestClient, database: Database) -> None:
    job = job_of(database, u_tube(), style="two-part")
    do(client, job, "hold", up="0, 0, 1")
    made = shown(client, job)["opens"]
    assert (len(made.cast.gates), len(made.cast.vents), made.cast.left) == (1, 1, ())
    taken = do(client, job, "place", kind="vent", number=1, act="take").context["opens"]
    assert sum(pocket.ml for pocket in taken.cast.left) == pytest.approx(4, rel=0.08)
    assert any(finding.code == "air-cast" for finding in shown(client, job)["plan"].findings["opening"])
    # another vent begins at the top; it is moved to the other leg, wherever near it is let go
    gate_x = taken.cast.gates[0].at_mm[0]
    placed = do(
        client, job, "place", kind="vent", number=0, act="move", across=f"{-gate_x:.1f} mm", deep="0", up="90 mm"
    ).context["opens"]
    assert placed.cast.left == ()
    assert placed.cast.vents[0].by_hand
    assert placed.cast.vents[0].at_mm[0] == pytest.approx(-gate_x, abs=6)
    # turned on its board, what was placed stays on the master
    own = shown(client, job)["job"].opening.vents
    do(client, job, "tip", towards="left", degrees="30")
    assert shown(client, job)["job"].opening.vents == own
    assert shown(client, job)["plan"].refusals["opening"] == ()
    again = do(client, job, "place", kind="vent", number=0, act="auto").context["opens"]
    assert not again.vents_by_hand


def test_keys_are_placed_and_found_out(client: TestClient, database: Database) -> None:
    job = job_of(database, ball(40, 48), style="two-part")
    made = shown(client, job)["opens"]
    assert len(made.keys) >= 3
    assert made.key_findings == ()
    moved_in = do(client, job, "place", kind="key", number=1, act="move", across="0", deep="0").context
    assert any(finding.code == "key-in-the-way" for finding in moved_in["plan"].findings["opening"])
    for _ in range(2):
        do(client, job, "place", kind="key", number=1, act="take")
    fewer = shown(client, job)["plan"].findings["opening"]
    assert any(finding.code == "keys-too-few" for finding in fewer)
    assert not do(client, job, "place", kind="key", number=0, act="auto").context["opens"].keys_by_hand


def test_keys_keep_clear_of_the_gate(client: TestClient, database: Database) -> None:
    # held on its side, the gate runs along the parting surface to the wall
    job = job_of(database, ball(40, 48), style="two-part")
    do(client, job, "hold", up="0, 1, 0")
    made = shown(client, job)["opens"]
    assert made.key_findings == ()
    x, y, _ = (
        np.array(made.cast.gates[0].at_mm) @ made.cast_turn + np.array(made.cast.gates[0].way) @ made.cast_turn * 6
    )
    told = do(client, job, "place", kind="key", number=2, act="move", across=f"{x:.1f} mm", deep=f"{y:.1f} mm").context
    assert ("key-in-the-way", "2") in {
        (finding.code, finding.facts.get("key")) for finding in told["plan"].findings["opening"]
    }


@pytest.mark.parametrize(
    "typed",
    [
        {"kind": "door", "number": 1, "act": "move"},
        {"kind": "vent", "number": "1;drop", "act": "move"},
        {"kind": "vent", "number": 99, "act": "take"},
        {"kind": "vent", "number": 0, "act": "take"},
        {"kind": "gate", "number": 1, "act": "move", "across": "twelve"},
        {"kind": "gate", "number": 1, "act": "move", "across": "9e9 mm"},
        {"kind": "gate", "number": 1, "act": "fly"},
    ],
)
def test_what_can_t_be_placed_is_refused(client: TestClient, database: Database, typed: dict[str, object]) -> None:
    job = job_of(database, ball(40, 48), style="two-part")
    before = shown(client, job)["job"].opening
    answer = do(client, job, "place", **typed)
    assert answer.status_code == 422
    assert "Stop" in answer.text
    assert shown(client, job)["job"].opening == before
    bare = stations.start_job(database, "Bare")
    assert do(client, bare, "place", kind="vent", number=0, act="move").status_code == 422


def test_holding_it_another_way_and_as_advised_again(client: TestClient, database: Database) -> None:
    job = job_of(database, dumbbell(), style="two-part")
    advised = shown(client, job)
    assert advised["attitudes"]
    assert "Hold it this way" in client.get(f"/jobs/{job}/opening").text
    own = advised["attitudes"][-1][1]
    held = do(client, job, "hold", up=own).context
    assert held["job"].opening.cast_up == own
    assert held["attitudes"] == []
    assert do(client, job, "hold", up="").context["job"].opening.cast_up is None


def test_the_files_are_closed_and_true(client: TestClient, database: Database) -> None:
    job = job_of(database, ball(40, 48), style="two-part")
    made = shown(client, job)["opens"]
    for name, kind in (("halves.stl", "stl"), ("halves.3mf", "3mf"), ("parting.stl", "stl")):
        loaded = trimesh.load(io.BytesIO(client.get(f"/jobs/{job}/files/{name}").content), file_type=kind, force="mesh")
        assert loaded.is_watertight
        if name.startswith("halves"):
            assert loaded.volume / 1000 == pytest.approx(
                made.parting_surface.upper_ml + made.parting_surface.lower_ml, rel=0.01
            )
    plan = ezdxf.read(io.StringIO(client.get(f"/jobs/{job}/files/plan.dxf").text))
    layers = {entity.dxf.layer for entity in plan.modelspace()}
    assert {"BOX", "MASTER", "SPLIT", "KEYS"} <= layers
    assert len(list(plan.modelspace().query("CIRCLE"))) == len(made.keys)
    plain = job_of(database, cup(), style="open")
    assert client.get(f"/jobs/{plain}/files/halves.stl").status_code == 422


def test_the_turning_view_gets_the_whole_scene(client: TestClient, database: Database) -> None:
    job = job_of(database, u_tube(), style="two-part")
    scene = client.get(f"/jobs/{job}/opening/scene.json").json()
    assert len(scene["painted"]) == len(scene["master"]["points"]) // 3
    assert max(scene["master"]["faces"]) < len(scene["painted"])
    assert len(scene["surface"]["heights"]) == np.prod(scene["surface"]["shape"])
    assert scene["gates"]
    assert scene["keys"]
    upside = job_of(database, cup(), style="open")
    assert len(client.get(f"/jobs/{upside}/opening/scene.json").json()["rubber_air"]) == 1
    assert client.get(f"/jobs/{stations.start_job(database, 'Bare')}/opening/scene.json").json() == {}


def test_texts_of_the_drawings_do_not_touch(client: TestClient, database: Database) -> None:
    spikes = joined(
        [
            CUBE,
            *(
                moved(Mesh(vertices_mm=CUBE.vertices_mm * [0.1, 0.1, 2], faces=CUBE.faces), x, y, 9)
                for x in (-12, -4, 4, 12)
                for y in (-7, 7)
            ),
        ]
    )
    for mesh, style in ((spikes, "two-part"), (egg().moved(turn_up((0.3, 0.4, 1))), "two-part"), (cup(), "open")):
        page = BeautifulSoup(client.get(f"/jobs/{job_of(database, mesh, style=style)}/opening").text, "lxml")
        for svg in page.select(".views svg.drawing"):
            boxes = []
            for one in svg.select("text"):
                if one.find_parent("g", transform=re.compile("rotate")):
                    continue
                x, y, wide = float(one["x"]), float(one["y"]), 0.55 * float(one["font-size"]) * len(one.text)
                left = x - (wide / 2 if one["text-anchor"] == "middle" else 0)
                boxes.append((left, y - 10, left + wide, y + 2, one.text))
            for i, a in enumerate(boxes):
                for b in boxes[:i]:
                    assert a[2] <= b[0] + 1 or b[2] <= a[0] + 1 or a[3] <= b[1] + 1 or b[3] <= a[1] + 1, (a, b)


# the open interface


def call(client: TestClient, name: str, mesh: Mesh, **fields: object) -> Any:  # noqa: ANN401
    return client.post(
        f"/api/v1/mesh/{name}",
        files={"file": ("part.stl", write_stl(mesh))},
        data={key: str(value) for key, value in fields.items()},
    )


def test_air_by_the_interface(client: TestClient) -> None:
    told = call(client, "air", cup(), phase="rubber").json()
    assert told["trapped_ml"] == pytest.approx(np.pi * 15**2 * 36 / 1000, rel=0.005)
    assert told["pockets"][0]["peak_mm"][2] == pytest.approx(36)
    assert {finding["code"] for finding in told["findings"]} == {"air-closed"}
    assert call(client, "air", cup(), phase="rubber", up="0,0,-1").json()["pockets"] == []
    # in the mesh's own coordinates and after its unit, however it lies
    lying = cup().moved(turn_up((0, 1, 0)) / 10)
    same = call(
        client, "air", lying, phase="rubber", units="cm", up=",".join(map(str, turn_up((0, 1, 0)) @ [0, 0, 1]))
    ).json()
    assert same["trapped_ml"] == pytest.approx(told["trapped_ml"], rel=0.01)
    assert np.array(same["pockets"][0]["peak_mm"]) == pytest.approx(
        turn_up((0, 1, 0)) @ told["pockets"][0]["peak_mm"], abs=1
    )
    cast = {"phase": "cast", "gates": "5,5,50"}
    assert call(client, "air", u_tube(), **cast).json()["trapped_ml"] == pytest.approx(4, rel=0.02)
    assert call(client, "air", u_tube(), **cast, vents="45,5,50").json()["trapped_ml"] == 0
    assert call(client, "air", u_tube(), phase="cast").json()["trapped_ml"] == 0  # both tops are the highest point
    hollow = joined([CUBE, inside_out(Mesh(vertices_mm=CUBE.vertices_mm * 0.5 + [0, 0, 2], faces=CUBE.faces))])
    assert call(client, "air", hollow, phase="rubber").json()["trapped_ml"] == pytest.approx(
        CUBE.volume_mm3 / 8000, rel=0.01
    )


def test_split_by_the_interface(client: TestClient) -> None:
    told = call(client, "split", ball(50), pull="0,0,2", side_mm=8, over_mm=9, under_mm=10).json()
    assert told["halves_ml"][0] + told["halves_ml"][1] + told["master_ml"] == pytest.approx(told["box_ml"], rel=5e-4)
    assert told["box_ml"] == pytest.approx(66 * 66 * 69 / 1000, rel=1e-3)
    assert (told["locked_ml"], told["clay_ml"]) == (0, told["halves_ml"][1])
    line = np.array(told["parting_mm"][0])
    assert np.array_equal(line[0], line[-1])
    assert np.abs(line[:, 2]).max() < 0.3
    assert told["flatness_mm"] < 0.5
    aside = call(client, "split", turned_about(ball(50), quarters=1), pull="1,0,0", under_mm=10).json()
    assert np.abs(np.array(aside["parting_mm"][0])[:, 0]).max() < 0.5


def test_directions_by_the_interface(client: TestClient) -> None:
    told = call(client, "directions", cup(), count=40, cells=48).json()["directions"]
    assert told[0]["pull"] == pytest.approx([0, 0, -1])
    assert len(told) == 40
    assert [one["locked_ml"] for one in told] == sorted(one["locked_ml"] for one in told)


@pytest.mark.parametrize(
    ("name", "fields", "said"),
    [
        ("split", {"pull": "0,0,0"}, "needs some length"),
        ("split", {"pull": "0,0"}, "three numbers"),
        ("split", {"pull": "0,0,nan"}, "three numbers"),
        ("split", {}, "pull"),
        ("split", {"pull": "0,0,1", "side_mm": "-1"}, "side_mm"),
        ("split", {"pull": "0,0,1", "tilt": "3"}, "not known here"),
        ("air", {"phase": "cast", "gates": "900,0,0"}, "nearest point"),
        ("air", {"phase": "cast", "vents": "900,0,0"}, "nearest point"),
        ("air", {"phase": "cast", "gates": "1e9,0,0"}, "100 m"),
        ("air", {"phase": "rubber", "gates": "0,0,40"}, "belong to the cast"),
        ("air", {"phase": "steam"}, "phase"),
        ("air", {"phase": "rubber", "cells": "1000"}, "cells"),
        ("air", {"phase": "rubber", "side_mm": "inf"}, "side_mm"),
        ("directions", {"count": "100000"}, "count"),
    ],
)
def test_the_interface_refuses_with_the_field_and_why(
    client: TestClient, name: str, fields: dict[str, str], said: str
) -> None:
    answer = call(client, name, cup(), **fields)
    assert answer.status_code == 422
    assert said in answer.text


def test_a_torn_mesh_is_filled_and_said_so(client: TestClient) -> None:
    for name, fields in (("air", {"phase": "rubber"}), ("split", {"pull": "0,0,1"})):
        told = call(client, name, torn(), **fields).json()
        assert told["method"] == "voxel"
        assert any(finding["code"] == "mesh-open" for finding in told["findings"])


def test_the_pull_that_is_taken_has_the_figures_of_the_plan(client: TestClient, database: Database) -> None:
    job = job_of(database, ball(40, 48), style="two-part")
    kept = client.get(f"/jobs/{job}/master").context["mesh"].kept
    client.get(f"/jobs/{job}/opening/pulls")
    long_work.work_on(database, kept.hash, "directions")
    rows = client.get(f"/jobs/{job}/opening/pulls").context["pulls"]
    first = rows[0]
    do(client, job, "pull", pull=first.own)
    rows = client.get(f"/jobs/{job}/opening/pulls").context["pulls"]
    (taken,) = [row for row in rows if row.is_taken]
    told = shown(client, job)
    assert taken.seam_mm == pytest.approx(told["seam_mm"])
    assert taken.rubber_ml == pytest.approx(told["plan"].box.net_ml, rel=0.01)
    assert len({row.words for row in rows}) == len(rows)


def test_figures_that_decide_can_be_read_where_they_decide(client: TestClient, database: Database) -> None:
    page = BeautifulSoup(client.get(f"/jobs/{job_of(database, egg())}/opening").text, "lxml")
    told = page.select_one("#section-deciding").text
    for subject, figures in DECIDING.items():
        for one in figures:
            assert one.name.capitalize() in told, subject
            assert f"{one.value:g}" in told
    for one in shown(client, 1)["opens"].advice:
        assert one.score == pytest.approx(sum(score for _, score in one.scored))
