"""In the browser: three planted mistakes are stopped, mended and released.

One is signed off; a fault is found and remembered.
"""

import re

import pytest
from playwright.sync_api import Page, expect
from reveal import reveal

pytestmark = pytest.mark.browser


def choose(page: Page, key: str, value: str) -> None:
    """Choose in a list and wait for the answer."""
    with page.expect_response(lambda response: response.request.method == "POST"):
        reveal(page.locator(f"#f-{key}")).select_option(value)


def typed(page: Page, key: str, text: str) -> None:
    field = reveal(page.locator(f"#f-{key}"))
    field.fill(text)
    with page.expect_response(lambda response: response.request.method == "POST"):
        field.blur()


def planted(page: Page) -> None:
    """A new job: an unsealed photopolymer print over a bed of clay with sulphur.

    A release with silicone lies between the halves.
    """
    page.goto("/")
    page.get_by_label("New job").fill("Bosun's whistle")
    page.get_by_role("button", name="Start job").click()
    page.wait_for_url(re.compile(r"/jobs/\d+/master$"))
    for key, text in (("length_mm", "60"), ("width_mm", "40"), ("height_mm", "35"), ("mass_g", "48")):
        typed(page, key, text)
    choose(page, "material", "photopolymer-print")
    page.get_by_role("link", name="Level rise in a marked jug").click()
    typed(page, "level_before_ml", "300")
    typed(page, "level_after_ml", "345")
    page.keyboard.press("Escape")
    page.keyboard.press("2")
    page.wait_for_url("**/opening")
    with page.expect_response(lambda response: response.request.method == "POST"):
        page.locator("#style-two-part button").click()
    choose(page, "bed_material", "sulphur-clay")
    page.keyboard.press("Escape")
    page.keyboard.press("4")
    page.wait_for_url("**/rubber")
    with page.expect_response(lambda response: response.request.method == "POST"):
        reveal(page.locator("#f-rubber_id")).select_option(label="Tideline 15, A15")
    page.keyboard.press("Escape")
    page.keyboard.press("5")
    page.wait_for_url("**/checks")
    choose(page, "between_halves", "silicone-release")


def test_planted_mistakes_are_stopped_mended_and_released(page: Page) -> None:
    planted(page)
    expect(page.locator(".answer .big")).to_have_text("3 pairings forbid it")
    expect(page.locator(".touch-stop")).to_have_count(3)
    page.keyboard.press("Escape")
    page.keyboard.press("6")
    page.wait_for_url("**/pour")
    expect(page.locator("#sign-off h2")).to_have_text(re.compile("3 stops"))
    expect(page.get_by_role("button", name="Begin to weigh")).to_be_disabled()
    page.keyboard.press("5")
    page.wait_for_url("**/checks")
    for key in ("master", "bed", "halves"):
        with page.expect_response(lambda response: "remedy" in response.url):
            page.locator(f"#pair-{key}").get_by_role("button", name="Add this to the plan").click()
        expect(page.locator(f"#pair-{key}")).to_have_class(re.compile("touch-ready"))
    expect(page.locator(".answer")).to_contain_text("before you pour")
    expect(page.locator(".before").first).to_contain_text("clear coat on the master")
    page.keyboard.press("6")
    page.wait_for_url("**/pour")
    expect(page.locator("#sign-off")).to_have_count(0)
    page.locator("#who").fill("Wren")
    page.get_by_role("button", name="Begin to weigh").click()
    page.wait_for_url(re.compile(r"/pours/\d+$"))


def test_a_stop_is_signed_off_and_a_fault_is_remembered(page: Page) -> None:
    planted(page)
    for key in ("bed", "halves"):
        with page.expect_response(lambda response: "remedy" in response.url):
            page.locator(f"#pair-{key}").get_by_role("button", name="Add this to the plan").click()
    page.keyboard.press("6")
    page.wait_for_url("**/pour")
    job = page.url.removesuffix("/pour")
    page.locator("#sign-off summary").click()
    page.get_by_role("button", name="Sign off").click()
    expect(page.locator("#sign-off [role=alert]")).to_contain_text("Say why")
    page.get_by_label("Why it may be poured all the same").fill("A spot on the same resin set well")
    page.get_by_label("Who says so").fill("Wren")
    page.get_by_role("button", name="Sign off").click()
    expect(page.locator("#sign-off h2")).to_contain_text("the bench is open")
    page.get_by_role("button", name="Begin to weigh").click()
    page.wait_for_url(re.compile(r"/pours/\d+$"))
    page.goto(f"{page.url}/record")
    expect(page.locator("body")).to_contain_text("A spot on the same resin set well")

    page.goto(f"{job}/faults")
    page.get_by_label("It is").select_option("sticky-skin")
    page.get_by_role("button", name="Find out why").click()
    expect(page.locator(".answer .big")).to_have_text("The master's surface stopped the cure.")
    page.locator("#cause-inhibited-master").get_by_role("button", name="It was this").click()
    expect(page.locator("#noted")).to_contain_text("sticky skin", ignore_case=True)
    page.goto(f"{job}/checks")
    expect(page.locator("#pair-master")).to_contain_text("It happened here:")
