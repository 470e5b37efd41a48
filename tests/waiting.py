"""Waiting for something to come about: for the event itself, with a patience that a busy machine does not exhaust."""

import time
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from playwright.sync_api import Browser, BrowserContext

PATIENCE_S = 180.0  # far more than anything here takes, so that only what never comes about fails


def wait_until(so: Callable[[], object], what: str = "nothing came of it") -> None:
    """Look again and again until it is so."""
    end = time.monotonic() + PATIENCE_S
    while not so():
        assert time.monotonic() < end, what
        time.sleep(0.02)


def patient_context(browser: "Browser", **options: Any) -> "BrowserContext":
    """Return a new context of a browser that waits for pages, too, as long as a busy machine may take."""
    context = browser.new_context(**options)
    context.set_default_timeout(PATIENCE_S * 1000)
    return context
