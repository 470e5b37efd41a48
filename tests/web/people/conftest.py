"""A server that people sign in to."""

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from signing import Shop

from ufrin.settings import Settings
from ufrin.store.connection import Database
from ufrin.web.app import create_app


@pytest.fixture(scope="module")
def signing(conninfo: str) -> Iterator[TestClient]:
    app = create_app(Database(conninfo, wait_s=5.0), Settings(sign_in=True))
    with TestClient(app, base_url="http://127.0.0.1", follow_redirects=False) as ready:
        yield ready


@pytest.fixture
def visitor(database: Database, signing: TestClient) -> TestClient:
    """A browser that nobody is signed in with, at a record book that holds nothing."""
    signing.cookies.clear()
    signing.headers.pop("Authorization", None)
    return signing


@pytest.fixture
def shop(database: Database, visitor: TestClient) -> Shop:
    return Shop(visitor, database)
