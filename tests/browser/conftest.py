"""Debian's Chromium, driven against a real server with the demo data."""

from collections.abc import Iterator

import psycopg
import pytest
from playwright.sync_api import (
    Browser,
    BrowserContext,
    ConsoleMessage,
    Page,
    Playwright,
    Response,
    expect,
    sync_playwright,
)
from psycopg.rows import dict_row
from running import Killable, Lever
from snapshot import Snapshot, put_back
from waiting import PATIENCE_S, patient_context

from ufrin import demo
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.trial import trial_database, trial_server

expect.set_options(timeout=PATIENCE_S * 1000)
ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
]


@pytest.fixture(scope="session")
def driver() -> Iterator[Playwright]:
    """What drives every browser of this process; there can be one of it."""
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def browser(driver: Playwright) -> Iterator[Browser]:
    launched = driver.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=ARGS)
    yield launched
    launched.close()


@pytest.fixture(scope="session")
def killable(conninfo: str) -> Iterator[Killable]:
    """A server that may be killed and started again, on a port that it keeps."""
    loaded = Killable(conninfo)
    yield loaded
    loaded.close()


@pytest.fixture
def server(killable: Killable, filled: Database, lever: Lever) -> Iterator[Killable]:
    """A server with the demo data; the module's own ``lever`` moves its simulated scales."""
    demo.point_scales_at(filled, lever.port)
    killable.start()
    yield killable
    killable.kill()


@pytest.fixture(scope="session")
def address(cluster: Cluster) -> Iterator[str]:
    with trial_server(trial_database(cluster, "browser")) as serving:
        yield serving


@pytest.fixture
def demo_data(cluster: Cluster, address: str, demo_kept: Snapshot) -> None:
    with psycopg.connect(cluster.conninfo("browser"), row_factory=dict_row) as connection:
        put_back(connection, demo_kept)


@pytest.fixture
def context(browser: Browser, address: str, demo_data: None) -> Iterator[BrowserContext]:
    opened = patient_context(browser, base_url=address, viewport={"width": 1280, "height": 800})
    yield opened
    opened.close()


@pytest.fixture
def page(context: BrowserContext, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A page on which any error of a script, of the content policy or of the server fails the test."""
    opened, errors = context.new_page(), []
    refusals: list[str] = []

    def hear(message: ConsoleMessage) -> None:
        # an answer that refuses (409, 422, 503) is reported by the browser as well, and is no error of ours
        if (
            message.type == "error"
            and "Failed to load resource" not in message.text
            and "Response Status Error" not in message.text
        ):
            errors.append(message.text)

    def watch(response: Response) -> None:
        if response.status >= 500:
            refusals.append(f"{response.status} {response.request.method} {response.url}")

    opened.on("console", hear)
    opened.on("response", watch)
    opened.on("pageerror", lambda error: errors.append(str(error)))
    yield opened
    # a request that was under way when its page was left is logged twice: as done, and as given up
    for _ in [error for error in errors if error.startswith("htmx:sendAbort")]:
        errors.remove(next(error for error in errors if error.startswith("htmx:afterRequest")))
        errors.remove(next(error for error in errors if error.startswith("htmx:sendAbort")))
    assert not errors
    assert bool(refusals) == bool(request.node.get_closest_marker("server_refuses")), refusals
