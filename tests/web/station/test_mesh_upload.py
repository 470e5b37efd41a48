"""Meshes on the pages and in the open interface: uploaded, refused, turned, compared, boxed, cut."""

import io
import os
import signal
import zipfile
from collections.abc import Iterator

import pytest
import trimesh
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from shapes import CUBE, cup, egg, figure_of_eight, torn

from ufrin.actions import CONTAINERS
from ufrin.actions.job import long_work, meshes, stations
from ufrin.actions.shelf import things
from ufrin.core.mesh.written_files import write_stl
from ufrin.core.shelf.containers import Container
from ufrin.settings import Settings
from ufrin.store.connection import Database
from ufrin.web.app import create_app

HTMX = {"HX-Request": "true"}


def upload(client: TestClient, job: int, data: bytes, name: str = "egg.stl") -> object:
    return client.post(f"/jobs/{job}/mesh", files={"file": (name, data)}, headers={"Origin": "http://127.0.0.1"})


@pytest.fixture
def job(database: Database) -> int:
    with database.transaction() as connection:
        connection.execute("truncate meshes cascade")
        connection.execute("delete from procrastinate_jobs")
    return stations.start_job(database, "Egg")


def test_an_upload_gives_size_displacement_drawings_and_a_box(client: TestClient, job: int) -> None:
    shown = upload(client, job, write_stl(egg()), "..\\..\\secret/egg.stl")
    plan = shown.context["plan"]
    assert shown.status_code == 200
    assert plan.master.measured.volume_ml == pytest.approx(60, rel=1e-4)
    assert plan.states["box"] in {"ready", "warning"}
    page = BeautifulSoup(shown.text, "lxml")
    assert "about an egg" in page.text
    assert page.find(id="mesh").find("b").text == "egg.stl"
    assert len(page.select(".views svg.drawing")) == 3
    # the same file again is kept once
    upload(client, job, write_stl(egg()), "again.stl")
    with client.app.state.database.reading() as connection:
        assert connection.execute("select count(*) as kept from meshes").fetchone() == {"kept": 1}
    version = client.get(f"/jobs/{job}/master").context["job"].versions["master"]
    undone = client.post(f"/jobs/{job}/master/undo", data={"version": str(version)}, headers=HTMX)
    assert undone.context["mesh"] is None


def test_turning_scaling_and_the_unit_change_size_and_never_lose_volume(client: TestClient, job: int) -> None:
    upload(client, job, write_stl(cup()))

    def save(**typed: str) -> object:
        version = client.get(f"/jobs/{job}/master").context["job"].versions["master"]
        return (
            client.post(f"/jobs/{job}/master", data={"version": str(version), "units": "metric", **typed}, headers=HTMX)
            .context["plan"]
            .master
        )

    before = save()
    lying = save(up="1, 0, 0")
    assert lying.size_mm == pytest.approx((40, 40, 40), rel=1e-2)
    assert lying.measured.volume_ml == pytest.approx(before.measured.volume_ml)
    larger = save(shrink_pct="2")
    assert larger.measured.volume_ml == pytest.approx(before.measured.volume_ml * 1.02**3)
    inches = save(shrink_pct="0", mesh_unit="in")
    assert inches.size_mm[2] == pytest.approx(40 * 25.4, rel=1e-2)
    wrong = client.post(f"/jobs/{job}/master", data={"version": "1", "units": "metric", "up": "north"}, headers=HTMX)
    assert wrong.status_code == 422
    assert "three numbers" in wrong.text
    assert 'value="north"' in wrong.text


@pytest.mark.parametrize("data", [b"", b"hello there", write_stl(egg())[:5000]])
def test_a_bad_file_is_told_beside_the_field_and_changes_nothing(client: TestClient, job: int, data: bytes) -> None:
    shown = upload(client, job, data, "x.stl")
    assert shown.status_code == 422
    assert BeautifulSoup(shown.text, "lxml").find(id="h-file")["role"] == "alert"
    assert shown.context["job"].master.mesh is None
    assert client.post(f"/jobs/{job}/mesh").status_code == 422
    assert client.post("/jobs/404/mesh", files={"file": ("x.stl", write_stl(egg()))}).status_code == 404


def test_a_large_mesh_is_measured_by_a_worker_and_can_be_given_up(
    client: TestClient, database: Database, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(meshes, "LARGE_BYTES", 1000)
    waiting = upload(client, job, write_stl(egg()))
    state = waiting.context["mesh"]
    assert (state.figures, state.kept.work["measure"].state) == (None, "waiting")
    assert "waits to be measured" in waiting.text
    assert "No worker is there" in waiting.text
    with database.transaction() as connection:
        connection.execute("insert into procrastinate_workers default values")
    assert "is being measured" in client.get(f"/jobs/{job}/mesh", headers=HTMX).text
    assert "No worker is there" not in client.get(f"/jobs/{job}/mesh", headers=HTMX).text
    assert client.get("/healthz").json()["workers"] == "at work"
    with database.transaction() as connection:
        connection.execute("delete from procrastinate_workers")
    assert client.get("/healthz").json()["workers"] == "none at work"
    with database.reading() as connection:
        (queued,) = connection.execute(
            "select task_name, args from procrastinate_jobs where status = 'todo'"
        ).fetchall()
    assert queued == {"task_name": "work_on_mesh", "args": {"mesh": state.kept.hash, "what": "measure"}}
    client.post(f"/jobs/{job}/mesh/stop")
    assert long_work.work_on(database, state.kept.hash, "measure") == "stopped"
    assert "was stopped" in client.get(f"/jobs/{job}/master").text
    upload(client, job, write_stl(egg()))  # begins afresh
    assert long_work.work_on(database, state.kept.hash, "measure") == "done"
    assert client.get(f"/jobs/{job}/mesh", headers=HTMX).headers["HX-Redirect"] == f"/jobs/{job}/master"
    assert client.get(f"/jobs/{job}/master").context["plan"].master.measured.volume_ml == pytest.approx(60, rel=1e-4)


def killed(*_: object) -> None:
    """End the child process as the system does when memory is short."""
    os.kill(os.getpid(), signal.SIGKILL)


def test_work_that_kills_workers_twice_is_reported(
    client: TestClient, database: Database, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(meshes, "LARGE_BYTES", 1000)
    upload(client, job, write_stl(cup()))
    kept = client.get(f"/jobs/{job}/master").context["mesh"].kept

    monkeypatch.setattr(long_work, "measure_file", killed)
    assert long_work.work_on(database, kept.hash, "measure") == "refused"
    assert "broke off twice" in client.get(f"/jobs/{job}/master").text


def test_all_ways_are_compared_and_one_is_taken(client: TestClient, database: Database, job: int) -> None:
    pot = things.add(
        database, CONTAINERS, Container(name="Flower pot", shape="tapered", bottom_mm=50, top_mm=130, height_mm=140)
    )
    upload(client, job, write_stl(egg()))
    stations.change_station(database, job, "opening", version=1, changes={"style": "open"})
    first = client.get(f"/jobs/{job}/ways")
    assert first.context["work"].state == "waiting"
    assert {way.figures.attitude for way in first.context["rows"]} == {None}
    kept = client.get(f"/jobs/{job}/master").context["mesh"].kept
    assert long_work.work_on(database, kept.hash, "attitudes") == "done"
    rows = client.get(f"/jobs/{job}/ways?order=height").context["rows"]
    assert client.get(f"/jobs/{job}/ways").context["work"] is None
    fitting = [row for row in rows if row.fits]
    assert [row.fill_mm for row in fitting] == sorted(row.fill_mm for row in fitting)
    in_pot = next(row for row in rows if row.container == pot and row.fits)
    assert in_pot.bed_mm > 0
    form = {
        "version": "1",
        "master_version": "2",
        "shape": "container",
        "container_id": str(pot),
        "up": "1, 0, 0",
        "bed_mm": str(in_pot.bed_mm),
    }
    taken = client.post(f"/jobs/{job}/use", data=form)
    plan = taken.context["plan"]
    assert (plan.box.shape, taken.context["job"].master.up) == ("tapered", "1, 0, 0")
    assert plan.box.net_ml == pytest.approx(
        next(row for row in rows if row.container == pot and row.figures.attitude.up == (1, 0, 0)).net_ml, rel=1e-3
    )
    assert client.post(
        f"/jobs/{job}/use", data=form | {"shape": "rectangle", "container_id": "", "version": "1"}
    ).url.path.endswith("/ways")  # stale
    now = {
        "version": str(taken.context["job"].versions["box"]),
        "master_version": str(taken.context["job"].versions["master"]),
    }
    for wrong in (
        {"container_id": "x"},
        {"up": "north"},
        {"up": "nan, 0, 1"},
        {"bed_mm": "nan"},
        {"bed_mm": "-4"},
        {"bed_mm": "1e99"},
        {"shape": "sphere"},
    ):
        assert client.post(f"/jobs/{job}/use", data=form | now | wrong).status_code == 422, wrong
    assert client.get(f"/jobs/{job}/box").status_code == 200
    assert client.post(f"/shelf/containers/{pot}/delete", data={"sure": "yes"}).status_code == 409


def test_stand_ins_and_containers_and_masters_of_other_jobs(client: TestClient, database: Database, job: int) -> None:
    def save(number: int, station: str, **typed: str) -> object:
        version = client.get(f"/jobs/{number}/{station}").context["job"].versions[station]
        return client.post(
            f"/jobs/{number}/{station}", data={"version": str(version), "units": "metric", **typed}, headers=HTMX
        )

    shown = save(job, "master", standin="profile", profile="0 46, 12 46, 12 30, 6 cm 14, 118 0")
    assert shown.context["plan"].master.size_mm == pytest.approx((46, 46, 118), rel=1e-3)
    assert "stand-in" in shown.text
    assert "Pair 2" in save(job, "master", profile="0 46, twelve").text
    for kind, typed, ml in (
        ("ball", {"length_mm": "40"}, 33.51),
        ("ring", {"length_mm": "60", "ring_mm": "10"}, 12.34),
        ("block", {"length_mm": "30", "width_mm": "20", "height_mm": "10"}, 6.0),
    ):
        got = save(job, "master", standin=kind, **typed)
        assert got.context["plan"].master.measured.volume_ml == pytest.approx(ml, rel=1e-3)
    assert "has a hole" in save(job, "master", standin="ring", length_mm="60", ring_mm="31").text
    save(job, "master", standin="block")
    other = stations.start_job(database, "Other")
    assert "be placed in the box yet" in save(job, "box", other_id=str(other)).text
    upload(client, other, write_stl(egg()))
    both = client.get(f"/jobs/{job}/box").context["plan"]
    assert [(master.name, master.count) for master in both.masters] == [("", 1), ("Other", 1)]
    assert len(both.box.layout.places) == 2
    assert "Choose which container" in save(job, "box", shape="container").text


def test_files_to_cut_and_print(client: TestClient, job: int) -> None:
    upload(client, job, write_stl(egg()))
    for name in ("cut.dxf", "cut.svg", "box.stl", "box.3mf", "master.stl"):
        got = client.get(f"/jobs/{job}/files/{name}")
        assert got.status_code == 200, name
        assert got.headers["content-disposition"] == f'attachment; filename="job-{job}-{name}"'
    master = trimesh.load(io.BytesIO(got.content), file_type="stl")
    assert master.volume / 1000 == pytest.approx(60, rel=1e-4)
    assert client.get(f"/jobs/{job}/files/passwd").status_code == 404
    empty = stations.start_job(client.app.state.database, "Empty")
    assert client.get(f"/jobs/{empty}/files/cut.dxf").status_code == 422


@pytest.fixture
def small_limit(database: Database, conninfo: str) -> Iterator[TestClient]:
    app = create_app(Database(conninfo, wait_s=5.0), Settings(sign_in=False, mesh_limit_bytes=2_000_000))
    with TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False) as ready:
        yield ready


def measure(client: TestClient, data: bytes, name: str = "x.stl", **form: str) -> object:
    return client.post("/api/v1/mesh/measure", files={"file": (name, data)}, data=form)


def test_the_interface_measures(client: TestClient) -> None:
    got = measure(client, write_stl(CUBE), units="cm").json()
    assert got["volume_ml"] == pytest.approx(6000)
    assert got["area_cm2"] == pytest.approx(2200)
    assert got["bounds_mm"] == [pytest.approx([-150, -100, 0]), pytest.approx([150, 100, 100])]
    assert {key: got[key] for key in ("format", "triangles", "watertight", "bodies", "method", "findings")} == {
        "format": "stl",
        "triangles": 12,
        "watertight": True,
        "bodies": 1,
        "method": "exact",
        "findings": [],
    }
    crossing = measure(client, write_stl(figure_of_eight())).json()
    assert (crossing["method"], crossing["findings"][0]["code"]) == ("voxel", "mesh-crosses")
    assert measure(client, write_stl(torn())).json()["watertight"] is False
    coarse, fine = (measure(client, write_stl(figure_of_eight()), cells=str(cells)).json() for cells in (32, 200))
    assert fine["plus_minus_ml"] < coarse["plus_minus_ml"]
    for form, says in (({"cells": "20"}, "cells"), ({"cells": "many"}, "cells"), ({"colour": "red"}, "colour")):
        refused = measure(client, write_stl(CUBE), **form)
        assert (refused.status_code, says in refused.json()["detail"]) == (422, True)
    glb = trimesh.Trimesh(CUBE.vertices_mm / 1000, CUBE.faces).export(file_type="glb")
    assert measure(client, glb, "x.glb", units="m").json()["volume_ml"] == pytest.approx(6, rel=1e-4)


@pytest.mark.parametrize(
    ("data", "name", "form", "status", "says"),
    [
        (b"", "x.stl", {}, 422, "empty"),
        (b"hi", "x.stl", {}, 422, "cut short|none of"),
        (write_stl(CUBE), "x.stl", {"units": "yd"}, 422, "units"),
        (write_stl(CUBE), "x.stl", {"units": "m"}, 422, "over 10 m"),
        (b"solid x\nfacet" + b" " * 1_999_980, "x.stl", {}, 422, "cut short"),
        (b"\1" * 2_100_000, "x.stl", {}, 413, "larger"),
        (b"\1" * 2_020_000, "x.stl", {}, 413, "larger"),
    ],
)
def test_the_interface_refuses(
    small_limit: TestClient, data: bytes, name: str, form: dict[str, str], status: int, says: str
) -> None:
    import re

    got = measure(small_limit, data, name, **form)
    assert got.status_code == status
    assert re.search(says, got.json()["detail"])
    assert small_limit.post("/api/v1/mesh/measure").status_code == 422
    assert small_limit.get("/healthz").status_code == 200


def test_a_packed_file_that_unpacks_to_far_more_is_refused_unread(client: TestClient) -> None:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("3D/3dmodel.model", b"<model>" + b"0" * 430_000_000)
    got = measure(client, file.getvalue(), "x.3mf")
    assert got.status_code == 422
    assert "unpack" in got.json()["detail"]
