"""A place for a program of its own: empty, or with a record book that has the newest schema already."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from running import place_of_its_own

from ufrin.store import schema
from ufrin.store.cluster import Cluster


@pytest.fixture
def empty_var() -> Iterator[Path]:
    with place_of_its_own() as folder:
        yield folder


@pytest.fixture(scope="session")
def migrated() -> Iterator[Path]:
    """A cluster with the newest schema that nobody runs, to be copied."""
    with place_of_its_own() as folder:
        made = Cluster(folder / "postgres")
        made.start()
        schema.bring_up_to_date(made.database("ufrin"))
        made.stop()
        yield folder


@pytest.fixture
def var(migrated: Path) -> Iterator[Path]:
    with place_of_its_own(migrated) as folder:
        yield folder
