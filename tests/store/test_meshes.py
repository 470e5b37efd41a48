"""Meshes as they are kept: once, with the work on them handed from hand to hand."""

import numpy as np
import pytest
from shapes import CUBE, egg

from ufrin.actions import CONTAINERS
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.shelf.containers import Container
from ufrin.errors import InUse, Missing, Refused, UfrinError
from ufrin.store import jobs, meshes
from ufrin.store.connection import Connection, Database


@pytest.fixture
def mesh(connection: Connection) -> str:
    connection.execute("truncate meshes cascade")
    return meshes.keep(connection, "egg.stl", b"some content")


def test_the_same_content_is_kept_once_under_its_first_name(connection: Connection, mesh: str) -> None:
    assert meshes.keep(connection, "other.stl", b"some content") == mesh == meshes.hash_of(b"some content")
    kept = meshes.facts(connection, mesh)
    assert kept is not None
    assert (kept.name, kept.bytes, kept.figures, dict(kept.work)) == ("egg.stl", 12, None, {})
    assert meshes.data(connection, mesh) == ("egg.stl", b"some content")
    assert meshes.facts(connection, "f" * 64) is None


def test_work_is_asked_for_once_and_taken_up_until_it_is_done(connection: Connection, mesh: str) -> None:
    assert meshes.begin(connection, mesh, "measure") is None  # nobody asked
    assert meshes.ask(connection, mesh, "measure")
    assert not meshes.ask(connection, mesh, "measure")  # waited for already
    assert meshes.begin(connection, mesh, "measure") == 1
    assert meshes.progress(connection, mesh, "measure", 0.5)
    assert meshes.begin(connection, mesh, "measure") == 2  # the first worker died
    meshes.keep_measured(connection, mesh, {"volume_ml": 6}, egg(), CUBE)
    kept = meshes.facts(connection, mesh)
    assert kept is not None
    assert (kept.work["measure"].state, kept.figures) == ("done", {"volume_ml": 6})
    assert not meshes.ask(connection, mesh, "measure")
    for drawn, expected in ((False, egg()), (True, CUBE)):
        got = meshes.solid(connection, mesh, drawn=drawn)
        assert np.array_equal(got.vertices_mm, expected.vertices_mm)
        assert np.array_equal(got.faces, expected.faces)


def test_work_that_was_stopped_or_refused_begins_afresh_when_asked_again(connection: Connection, mesh: str) -> None:
    meshes.ask(connection, mesh, "attitudes")
    meshes.begin(connection, mesh, "attitudes")
    meshes.stop(connection, mesh, "attitudes")
    assert not meshes.progress(connection, mesh, "attitudes", 0.9)
    assert meshes.begin(connection, mesh, "attitudes") is None
    assert meshes.ask(connection, mesh, "attitudes")
    assert meshes.begin(connection, mesh, "attitudes") == 1
    meshes.finish(connection, mesh, "attitudes", "It broke off.")
    kept = meshes.facts(connection, mesh)
    assert kept is not None
    assert (kept.work["attitudes"].state, kept.work["attitudes"].refused) == ("refused", "It broke off.")
    assert meshes.ask(connection, mesh, "attitudes")
    meshes.keep_attitudes(connection, mesh, [{"up": [0, 0, 1]}])
    assert meshes.attitudes(connection, mesh) == [{"up": [0, 0, 1]}]


def test_what_is_not_measured_is_missing(connection: Connection, mesh: str) -> None:
    assert meshes.attitudes(connection, mesh) is None
    for drawn in (False, True):
        with pytest.raises(Missing, match="this mesh"):
            meshes.solid(connection, mesh, drawn=drawn)
    with pytest.raises(Missing, match="this mesh"):
        meshes.data(connection, "0" * 64)


def test_a_job_holds_on_to_its_mesh_and_its_container(database: Database) -> None:
    with database.transaction() as connection:
        connection.execute("truncate meshes cascade")
        mesh = meshes.keep(connection, "x", b"y")
        pot = CONTAINERS.add(connection, Container(name="Pot", shape="round", bottom_mm=80, height_mm=90))
        job_id = jobs.start(connection, "Ammonite")
        jobs.save_station(connection, job_id, "master", MasterInputs(mesh=mesh), before=None, version=1)
        jobs.save_station(connection, job_id, "box", BoxInputs(container_id=pot), before=None, version=1)
        assert CONTAINERS.jobs_using(connection) == {pot: 1}
    with pytest.raises(InUse, match="this container"), database.transaction() as connection:
        CONTAINERS.delete(connection, pot)
    with pytest.raises(UfrinError, match="mesh named here"), database.transaction() as connection:
        connection.execute("delete from meshes")
    with pytest.raises(Refused, match="Upload it again"), database.transaction() as connection:
        jobs.save_station(connection, job_id, "master", MasterInputs(mesh="0" * 64), before=None, version=2)
    with pytest.raises(Refused, match="not on the Shelf"), database.transaction() as connection:
        jobs.save_station(connection, job_id, "box", BoxInputs(container_id=99), before=None, version=2)
