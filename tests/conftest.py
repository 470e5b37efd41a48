"""One PostgreSQL for all tests, in a temporary folder; and Ufrin on it, empty before each test."""

import os
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from hypothesis import Phase, settings

from ufrin.bounded.child import take_work
from ufrin.settings import Settings
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Connection, Database
from ufrin.trial import empty, trial_cluster, trial_database
from ufrin.web.app import create_app

settings.register_profile("ufrin", deadline=None, derandomize=True)
# of a planted wrong rule it is enough to know that it is noticed, not by which smallest example
settings.register_profile(
    "mutants", settings.get_profile("ufrin"), max_examples=25, phases=[Phase.explicit, Phase.generate]
)
settings.load_profile("mutants" if "UFRIN_MUTANTS" in os.environ else "ufrin")


# files whose tests mostly wait, the longest first: begun last, they would keep one core waiting for the other
LONGEST = ("test_kills.py", "test_worker.py", "test_command.py", "test_description.py", "test_bench.py")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Begin with the files that take longest."""
    items.sort(key=lambda item: LONGEST.index(item.path.name) if item.path.name in LONGEST else len(LONGEST))


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
    database = Database(conninfo, wait_s=2.0)
    database.open()
    yield database
    database.close()


@pytest.fixture
def database(_open_database: Database) -> Database:
    with _open_database.transaction() as connection:
        empty(connection)
    return _open_database


@pytest.fixture
def connection(_open_database: Database) -> Iterator[Connection]:
    """A connection whose work is rolled back."""
    with _open_database.reading() as lent, lent.transaction(force_rollback=True):
        empty(lent)
        yield lent


@pytest.fixture
def client(database: Database, conninfo: str) -> Iterator[TestClient]:
    app = create_app(Database(conninfo, wait_s=1.0), Settings())
    with TestClient(app, base_url="http://127.0.0.1", follow_redirects=True, raise_server_exceptions=False) as ready:
        yield ready
