"""A part cut off a master, on its page: what it saves, what is taken, and that it can be undone."""

from dataclasses import replace

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from records import ADDITION
from shapes import CUBE, mushroom

from ufrin.actions import RUBBERS
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.mesh.written_files import write_stl
from ufrin.store.connection import Database


def job_of(database: Database, mesh: Mesh) -> int:
    job = stations.start_job(database, "Tried")
    stations.give_mesh(database, job, "tried.stl", write_stl(mesh))
    return job


def context(client: TestClient, job: int, typed: str = "") -> dict[str, object]:
    got: dict[str, object] = client.get(f"/jobs/{job}/cut", params={"cut_mm": typed} if typed else {}).context
    return got


def test_rubber_and_money_saved_are_the_difference_of_two_plans(client: TestClient, database: Database) -> None:
    job = job_of(database, CUBE)
    rubber = things.add(database, RUBBERS, replace(ADDITION, kit_g=1000.0, kit_price=45.0))
    stations.fill_in(
        database,
        job,
        {"opening": {"style": "open"}, "rubber": {"rubber_id": rubber}, "box": {"side_mm": 10.0, "over_mm": 10.0}},
    )
    page = context(client, job, "4 mm")
    (above, saved_ml, money), (below, saved_below_ml, _) = page["rows"]  # type: ignore[misc]
    # of 30 x 20 x 10 in a box 50 x 40: every millimetre of height displaces 0.6 ml and takes 2 ml less of box
    assert above.volume_ml == pytest.approx(3.6)
    assert below.volume_ml == pytest.approx(2.4)
    assert saved_ml == pytest.approx(4 * (2.0 - 0.6))
    assert saved_below_ml == pytest.approx(6 * (2.0 - 0.6))
    assert money == pytest.approx(page["plan"].cost - above.plan.cost)  # type: ignore[attr-defined]
    assert money > 0


def test_the_part_that_is_taken_is_the_master_as_it_stood(client: TestClient, database: Database) -> None:
    job = job_of(database, mushroom())
    before = stations.open_job(database, job, "master")
    stations.change_station(
        database,
        job,
        "master",
        version=before.job.versions["master"],
        changes={"up": "0, 0, -1", "spin_deg": 30.0, "shrink_pct": 2.0, "mass_g": 50.0, "hung_reading_g": 9.0},
    )
    page = context(client, job)
    above = page["rows"][0][0]  # type: ignore[index]
    version = page["job"].versions["master"]  # type: ignore[attr-defined]
    posted = {"version": version, "part": "above", "cut_mm": page["cut"].cut_mm}  # type: ignore[attr-defined]
    assert client.post(f"/jobs/{job}/cut", data=posted, follow_redirects=False).status_code == 303
    after = stations.open_job(database, job, "master")
    form = after.plan.master.form
    assert form is not None
    assert form.volume_ml == pytest.approx(above.volume_ml, rel=1e-4)
    assert form.size_mm == pytest.approx(above.plan.master.form.size_mm, abs=0.01)
    assert (after.job.master.up, after.job.master.spin_deg, after.job.master.shrink_pct) == ("0, 0, -1", 30.0, 2.0)
    # what was measured of the whole does not count for a part
    assert after.job.master.mass_g is None
    assert after.job.master.hung_reading_g is None
    undone = stations.undo(database, job, "master", version=stations.open_job(database, job).job.versions["master"])
    assert undone.job.master.hung_reading_g == 9.0
    assert undone.plan.master.form is not None
    assert undone.plan.master.form.volume_ml > form.volume_ml


@pytest.mark.parametrize("typed", ["0", "-3", "10 mm", "500 mm", "five", "1e300", "nan"])
def test_a_height_that_does_not_cut_is_refused_and_kept(client: TestClient, database: Database, typed: str) -> None:
    got = client.get(f"/jobs/{job_of(database, CUBE)}/cut", params={"cut_mm": typed})
    assert got.status_code == 422
    assert BeautifulSoup(got.text, "lxml").select_one(".help.wrong")
    assert not got.context["rows"] or got.context["field"].text == typed


def test_without_a_mesh_it_says_so(client: TestClient, database: Database) -> None:
    job = stations.start_job(database, "Nothing yet")
    got = client.get(f"/jobs/{job}/cut")
    assert got.status_code == 200
    assert "Only a master with a mesh can be cut" in got.text
    refused = client.post(f"/jobs/{job}/cut", data={"version": 1, "part": "above", "cut_mm": "4"})
    assert refused.status_code == 422


def test_a_stale_cut_takes_nothing(client: TestClient, database: Database) -> None:
    job = job_of(database, CUBE)
    posted = {"version": 1, "part": "above", "cut_mm": "4"}
    client.post(f"/jobs/{job}/cut", data=posted, follow_redirects=False)
    assert stations.open_job(database, job, "master").plan.master.form.volume_ml == pytest.approx(6.0)  # type: ignore[union-attr]
