"""One PostgreSQL for all tests, in a temporary folder; and Ufrin on it, empty before each test."""

import fcntl
import os
import pickle
import time
from collections.abc import Iterator
from datetime import date
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from snapshot import Snapshot, put_back, take
from starlette.middleware.gzip import GZipMiddleware
from thoroughness import FOR_LONG, keep_for_long, last_for_long
from xdist.remote import Producer
from xdist.scheduler import LoadFileScheduling, Scheduling

from ufrin import demo
from ufrin.bounded.child import take_work
from ufrin.settings import Settings
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Connection, Database
from ufrin.trial import trial_cluster, trial_database
from ufrin.web.app import create_app

# the slow stage: what drives a browser, and what starts, kills and stops whole programs
SLOW = ("tests/browser/", "tests/programs/")
# files that look at the demo's jobs in this process: one after the other, so that they are worked out once
OF_THE_DEMO = (
    "tests/web/station/test_pages.py",
    "tests/web/station/test_job_laws.py",
    "tests/web/station/test_hardness.py",
    "tests/web/frame/test_what_is_served.py",
    "tests/web/shelf/test_csv_files.py",
)
# files that take longest, begun first within their stage: begun last, they would keep one core waiting for the other
FIRST = (
    *OF_THE_DEMO,
    "tests/web/station/test_kinds_of_mould.py",
    "tests/core/job/test_one_plan.py",
    "tests/web/station/test_opening.py",
    "tests/actions/schedule/test_day_plan.py",
    "tests/safekeeping/test_parcels.py",
    "tests/web/station/test_mesh_upload.py",
    "tests/web/frame/test_request_guard.py",
    "tests/web/plan/test_plan_pages.py",
    "tests/core/wording/test_findings.py",
    "tests/core/practice/test_practice.py",
    "tests/programs/test_benchmarks.py",
    "tests/programs/test_kills.py",
    "tests/programs/test_command.py",
    "tests/programs/test_worker.py",
    "tests/browser/test_workshop_network.py",
    "tests/programs/test_description.py",
    "tests/browser/test_looks.py",
    "tests/browser/test_pour_to_mould.py",
    "tests/browser/test_mesh_path.py",
    "tests/browser/test_bench.py",
)


def file_of(nodeid: str) -> str:
    return nodeid.split("::", 1)[0]


def pytest_ignore_collect(collection_path: Path) -> bool | None:
    """Look for examples only in modules that have some."""
    if collection_path.suffix == ".py" and not collection_path.name.startswith(("test_", "conftest")):
        return ">>>" not in collection_path.read_text() or None
    return None


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Put the gate first, and in each stage what takes longest."""
    order = {file: place for place, file in enumerate(FIRST)}
    items.sort(key=lambda item: (item.nodeid.startswith(SLOW), order.get(file_of(item.nodeid), len(order))))


class ByFile(LoadFileScheduling):
    """Gives each file to one of the test processes, and those that look at the demo to the same one."""

    def _split_scope(self, nodeid: str) -> str:
        file = file_of(nodeid)
        return "the demo" if file in OF_THE_DEMO else file


def pytest_report_header() -> str:
    return (
        f"Looking {'for long' if FOR_LONG else 'as on every change'}; for long it was done last on {last_for_long()}."
    )


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter, config: pytest.Config) -> None:
    """Write down when all of it was looked at for long."""
    of_a_worker, of_a_part = hasattr(config, "workerinput"), bool(config.option.ignore or config.option.keyword)
    if FOR_LONG and not of_a_worker and not of_a_part and config.args_source is not pytest.Config.ArgsSource.ARGS:
        counted = {name: len(terminalreporter.stats.get(name, [])) for name in ("passed", "failed", "error")}
        minutes = round((time.time() - terminalreporter._session_start.time) / 60)
        keep_for_long(date.today().isoformat(), counted["passed"], counted["failed"] + counted["error"], minutes)


def pytest_xdist_make_scheduler(config: pytest.Config, log: Producer) -> Scheduling:
    return ByFile(config, log)


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
