"""How much a page sends, and what people and their browsers may do to it: long names, large letters, no motion."""

import pytest
from playwright.sync_api import Browser, Page, expect
from waiting import patient_context

pytestmark = pytest.mark.browser

PAGES = (
    *("/", "/jobs/9/master", "/jobs/9/opening", "/jobs/9/box", "/jobs/9/rubber", "/jobs/9/checks", "/jobs/9/casts"),
    *("/jobs/9/pour", "/jobs/9/sheet", "/jobs/9/ways", "/plan?days=7", "/moulds", "/shelf/rubbers", "/sums/grams"),
    *("/words", "/pairings", "/settings", "/practice"),
)
MOST_BYTES = 150_000
RIGHT_TO_LEFT = "תבנית של עוגן ישן"
UNBROKEN = "Untertassenhenkelabgussformdeckel" * 3


def test_a_page_sends_little(browser: Browser, address: str, demo_data: None) -> None:
    for where in PAGES:
        context = patient_context(browser, base_url=address)
        page = context.new_page()
        network = context.new_cdp_session(page)
        network.send("Network.enable")
        asked: dict[str, str] = {}
        sent: dict[str, float] = {}
        network.on(
            "Network.responseReceived", lambda e, asked=asked: asked.update({e["requestId"]: e["response"]["url"]})
        )
        network.on(
            "Network.loadingFinished", lambda e, sent=sent: sent.update({e["requestId"]: e["encodedDataLength"]})
        )
        page.goto(where)
        page.wait_for_load_state("networkidle")
        # the turning view is fetched by those who open it
        counted = {asked[key]: size for key, size in sent.items() if "turning" not in asked.get(key, "turning")}
        assert 20_000 < sum(counted.values()) <= MOST_BYTES, (where, counted)
        context.close()


@pytest.mark.parametrize("name", [RIGHT_TO_LEFT, UNBROKEN, "<b>Cleat</b> & 'Co' \"ring\""])
def test_any_name_stays_on_the_page_and_is_shown_as_it_was_typed(
    browser: Browser, address: str, demo_data: None, name: str
) -> None:
    context = patient_context(browser, base_url=address, viewport={"width": 390, "height": 844})
    page = context.new_page()
    page.goto("/")
    page.locator("#new-name, input[name=name]").first.fill(name)
    page.locator("#new-name, input[name=name]").first.press("Enter")
    page.wait_for_url("**/master")
    assert page.locator("h1").inner_text() == name
    job = page.url.rsplit("/", 2)[1]
    for where in ("/", f"/jobs/{job}/master", f"/jobs/{job}/sheet", f"/search?text={name[:8]}"):
        page.goto(where)
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, where
        assert page.evaluate("document.querySelector('h1 b')") is None, where
    context.close()


def test_a_name_that_is_too_long_is_refused_with_its_length(page: Page) -> None:
    page.goto("/")
    field = page.locator("#new-name, input[name=name]").first
    field.evaluate("field => field.removeAttribute('maxlength')")
    field.fill("x" * 200)
    field.press("Enter")
    page.get_by_text("200 characters").wait_for()
    assert page.locator("input[name=name]").first.input_value() == "x" * 200


def test_letters_twice_as_large_still_fit(browser: Browser, address: str, demo_data: None) -> None:
    # a zoom of 200 % leaves half of the width and of the height
    context = patient_context(browser, base_url=address, viewport={"width": 640, "height": 400}, device_scale_factor=2)
    page = context.new_page()
    for where in PAGES:
        page.goto(where)
        assert page.evaluate("document.documentElement.scrollWidth") <= 640, where
    context.close()


def test_nothing_moves_for_those_who_want_it_still(browser: Browser, address: str, demo_data: None) -> None:
    context = patient_context(browser, base_url=address, reduced_motion="reduce")
    page = context.new_page()
    for where in ("/", "/jobs/9/box", "/jobs/9/opening", "/pours/12"):
        page.goto(where)
        moving = page.evaluate(
            "[...document.querySelectorAll('*')].filter(e => { const s = getComputedStyle(e); "
            "const jumps = /^step/.test(s.animationTimingFunction); "
            "return parseFloat(s.animationDuration) > 0.01 && s.animationName !== 'none' && !jumps "
            "|| parseFloat(s.transitionDuration) > 0.01; }).map(e => e.outerHTML.slice(0, 80))"
        )
        assert moving == [], where
    context.close()


def test_a_page_that_waits_for_a_backup_keeps_what_is_typed_beside_it(page: Page) -> None:
    page.goto("/safekeeping?asked=1")
    expect(page.get_by_text("A backup is being made")).to_be_visible()
    page.locator("#kept").fill("14")
    page.locator("#wish_days").fill("3")
    with page.expect_response("**/safekeeping?asked=1"):
        pass
    page.wait_for_function("document.querySelector('.htmx-request, .htmx-swapping, .htmx-settling') === null")
    expect(page.get_by_text("A backup is being made")).to_be_visible()
    expect(page.locator("#kept")).to_have_value("14")
    expect(page.locator("#wish_days")).to_be_focused()
