"""One PostgreSQL for all tests, in a temporary folder; and Ufrin on it, empty before each test."""

import fcntl
import multiprocessing
import os
import pickle
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from snapshot import Snapshot, put_back, take
from starlette.middleware.gzip import GZipMiddleware

from ufrin import demo
from ufrin.bounded.child import take_work
from ufrin.settings import Settings
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Connection, Database
from ufrin.trial import trial_cluster, trial_database
from ufrin.web.app import create_app

if "UFRIN_MUTANTS" in os.environ:
    # each wrong rule is tried in a process of its own, which would load the libraries for meshes beside it once more
    multiprocessing.get_context("forkserver").set_forkserver_preload([])


@pytest.fixture(autouse=True)
def _taking_work() -> None:
    take_work()  # an application that stopped before has ended all work of this process


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    with trial_cluster() as started:
        yield started


@pytest.fixture(scope="session")
def conninfo(cluster: Cluster) -> str:
    return trial_database(cluster, "ufrin_tests")


@pytest.fixture(scope="session")
def _open_database(conninfo: str) -> Iterator[Database]:
    database = Database(conninfo, wait_s=20.0)  # a busy machine is slow to open a connection
    database.open()
    yield database
    database.close()


@pytest.fixture(scope="session")
def nothing_kept(_open_database: Database) -> Snapshot:
    """What a new record book holds."""
    with _open_database.reading() as connection:
        return take(connection)


@pytest.fixture(scope="session")
def demo_kept(_open_database: Database, nothing_kept: Snapshot, tmp_path_factory: pytest.TempPathFactory) -> Snapshot:
    """What a record book holds that was filled with the demo data: by whichever of the test processes comes first."""
    is_one_of_several = "PYTEST_XDIST_WORKER" in os.environ
    shared = tmp_path_factory.getbasetemp().parent if is_one_of_several else tmp_path_factory.getbasetemp()
    kept = shared / "demo.pickle"
    with (shared / "demo.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not kept.exists():
            with _open_database.transaction() as connection:
                put_back(connection, nothing_kept)
            take_work()
            demo.fill(_open_database)
            with _open_database.reading() as connection:
                kept.write_bytes(pickle.dumps(take(connection)))
    filled: Snapshot = pickle.loads(kept.read_bytes())  # noqa: S301 # our own
    return filled


@pytest.fixture
def database(_open_database: Database, nothing_kept: Snapshot, request: pytest.FixtureRequest) -> Database:
    # what is to be filled is not emptied first: of the demo most is left as it is
    is_filled = "filled" in request.fixturenames
    kept: Snapshot = request.getfixturevalue("demo_kept") if is_filled else nothing_kept
    with _open_database.transaction() as connection:
        put_back(connection, kept)
    return _open_database


@pytest.fixture
def filled(database: Database, demo_kept: Snapshot) -> Database:
    """The database with the demo data."""
    with database.transaction() as connection:
        put_back(connection, demo_kept)
    return database


@pytest.fixture
def connection(_open_database: Database, nothing_kept: Snapshot) -> Iterator[Connection]:
    """A connection whose work is rolled back."""
    with _open_database.reading() as lent, lent.transaction(force_rollback=True):
        put_back(lent, nothing_kept)
        yield lent


@pytest.fixture(scope="session")
def _served(conninfo: str) -> Iterator[TestClient]:
    app = create_app(
        Database(conninfo, wait_s=5.0), Settings(sign_in=False)
    )  # a busy machine is slow to open a connection
    # compression loses what a template was given, which tests look at; real servers compress in the browser's tests
    app.user_middleware = [one for one in app.user_middleware if one.cls is not GZipMiddleware]  # type: ignore[comparison-overlap]
    with TestClient(app, base_url="http://127.0.0.1", follow_redirects=True, raise_server_exceptions=False) as ready:
        yield ready


@pytest.fixture
def client(database: Database, _served: TestClient) -> TestClient:
    _served.app.state.workshop_clock.forget()  # type: ignore[attr-defined]
    _served.cookies.clear()
    return _served
