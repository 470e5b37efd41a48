"""The tasks of a first hour, walked in a browser; docs/first-tasks.md says how many actions each may take."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

pytestmark = pytest.mark.browser

ROOT = Path(__file__).parents[2]
MOST_TO_GRAMS = 20


class Walker:
    """A maker at the page: every click, key and filled field is an action."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.counts: list[int] = []
        self._actions = 0

    def click(self, at: Locator) -> None:
        self._actions += 1
        at.click()

    def press(self, key: str) -> None:
        self._actions += 1
        self.page.keyboard.press(key)

    def fill(self, key: str, text: str) -> None:
        """Fill in a field, which is left by Tab as a matter of course."""
        self._actions += 1
        field = self.page.locator(f"#f-{key}")
        if field.evaluate("node => node.tagName") == "SELECT":
            field.select_option(label=text)
            return
        field.fill(text)
        field.press("Tab")

    def name(self, at: str, text: str) -> None:
        """Fill in a field that is left by Enter, which counts of its own."""
        self._actions += 1
        self.page.locator(at).fill(text)

    def done(self) -> None:
        self.counts.append(self._actions)
        self._actions = 0


def test_they_take_no_more_actions_than_is_written(page: Page) -> None:
    walker = Walker(page)
    answer = page.locator(".answer").first

    page.goto("/")
    walker.click(page.get_by_role("link", name="Quick sums"))
    walker.click(page.get_by_role("link", name="From a master to grams"))
    for key, text in (
        ("length_mm", "60"),
        ("width_mm", "40"),
        ("height_mm", "30"),
        ("displaced_ml", "45"),
        ("ratio", "10:1"),
        ("sg", "1.13"),
    ):
        walker.fill(key, text)
    expect(answer).to_contain_text("204")  # (84 x 64 x 42 mm - 45 ml) x 1.13 x 1.1, ten parts in eleven
    walker.done()
    assert walker.counts[0] <= MOST_TO_GRAMS

    walker.name("#job-name", "Capstan")
    walker.press("Enter")
    page.wait_for_url("**/master")
    walker.done()

    page.goto("/")
    walker.name("#new-name", "Sextant box")
    walker.press("Enter")
    page.wait_for_url("**/master")
    walker.done()

    for key, text in (("mass_g", "140 g"), ("length_mm", "85"), ("width_mm", "60"), ("height_mm", "40")):
        walker.fill(key, text)
    expect(page.locator("#f-height_mm")).to_have_value("40 mm")
    walker.done()

    walker.click(page.get_by_role("link", name="Level rise in a marked jug"))
    walker.fill("level_before_ml", "500")
    walker.fill("level_after_ml", "618")
    expect(answer).to_contain_text("118.0")
    walker.done()

    page.keyboard.press("Escape")
    walker.press("2")
    page.wait_for_url("**/opening")
    walker.click(page.locator(".answer").get_by_role("button", name="Use this kind"))
    expect(page.locator(".answer").get_by_role("button", name="Use this kind")).to_have_count(0)
    walker.done()

    walker.press("3")
    page.wait_for_url("**/box")
    walker.click(page.locator("#section-clearances > summary"))
    walker.fill("side_mm", "14")
    expect(page.locator("#view-front")).to_contain_text("side 14.0 mm")
    walker.done()

    page.keyboard.press("Escape")
    walker.press("4")
    page.wait_for_url("**/rubber")
    walker.fill("rubber_id", "Tideline 15, A15")
    expect(answer).to_contain_text("Tideline A")
    walker.done()

    page.keyboard.press("Escape")
    walker.press("u")
    expect(answer).to_contain_text("Which rubber?")
    walker.press("r")
    expect(answer).to_contain_text("Tideline A")
    walker.done()

    walker.press("5")
    page.wait_for_url("**/checks")
    expect(page.locator(".overview")).to_contain_text("Before the rubber is poured")
    walker.done()

    walker.press("7")
    page.wait_for_url("**/sheet")
    with page.expect_request("**/jobs/*/sheet.pdf"):
        walker.click(page.get_by_role("link", name="PDF"))
    walker.done()

    walker.press("/")
    page.wait_for_url("**/search")
    walker.name("#q", "undercut")
    expect(page.locator("#found a").first).to_contain_text("undercut")
    walker.press("Enter")
    page.wait_for_url("**/words#undercut")
    walker.done()

    written = re.findall(r"^\| \d+\. .* \| (\d+) \|$", (ROOT / "docs" / "first-tasks.md").read_text(), re.MULTILINE)
    assert walker.counts == [int(number) for number in written]


def test_an_answer_leaves_a_maker_in_the_field_they_type_in(page: Page) -> None:
    page.goto("/sums/grams")
    expect(page.locator("#f-length_mm")).to_be_focused()
    for key, text in (("length_mm", "60"), ("width_mm", "40"), ("height_mm", "30")):
        with page.expect_response("**/sums/grams?*"):
            page.keyboard.type(text)
        # an answer has settled when nothing of it is under way any more
        page.wait_for_function("document.querySelector('.htmx-request, .htmx-swapping, .htmx-settling') === null")
        expect(page.locator(f"#f-{key}")).to_be_focused()
        expect(page.locator(f"#f-{key}")).to_have_value(text)
        page.keyboard.press("Tab")
    expect(page.locator(".answer").first).to_contain_text("Build a box")
