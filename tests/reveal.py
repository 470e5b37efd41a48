"""Fields in a section of a station that is closed: it is opened by its line, as a maker would."""

from playwright.sync_api import Locator


def reveal(field: Locator) -> Locator:
    """Open the sections around a field."""
    closed = field.locator("xpath=ancestor::details[not(@open)]")
    field.wait_for(state="attached")
    while closed.count():
        closed.first.locator("> summary").click()
    return field
