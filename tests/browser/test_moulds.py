"""Moulds in the browser: entered by hand, ten shots, a cavity retired, the card printed, an order planned and kept."""

from collections.abc import Iterator
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Browser, Page, expect
from reveal import reveal
from running import Killable, Lever, simulated_scales
from waiting import patient_context

from ufrin.actions.moulds import cards, orders
from ufrin.store.connection import Database

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def lever() -> Iterator[Lever]:
    with simulated_scales() as started:
        yield started


def opened(browser: Browser, server: Killable, width: int, height: int) -> Page:
    return patient_context(browser, base_url=server.address, viewport={"width": width, "height": height}).new_page()


def test_from_an_old_mould_over_ten_shots_to_an_order(browser: Browser, server: Killable, filled: Database) -> None:
    page = opened(browser, server, 1280, 800)
    page.goto("/")
    page.get_by_role("link", name="Moulds").click()
    page.get_by_role("link", name="Enter a mould that you have").click()
    page.get_by_label("Name").fill("Capstan knob")
    page.get_by_label("Rubber family of the mould").select_option(label="addition-cure silicone")
    page.get_by_label("Cavities in the mould").fill("2")
    page.get_by_label("One cavity holds").fill("30 ml")
    page.get_by_role("button", name="Enter this mould").click()
    page.wait_for_url("**/casts")
    job = int(page.url.split("/")[-2])
    with page.expect_response(lambda answer: answer.request.method == "POST"):
        reveal(page.get_by_label("Casting material", exact=True)).select_option(label="Quayside 70")
    expect(page.locator(".answer")).to_contain_text("one shot of 2 cavities")
    page.get_by_role("link", name="Log", exact=False).first.click()
    page.wait_for_url("**/casts/log")
    page.get_by_role("button", name="Log this shot").click()
    for number in range(2, 11):
        page.get_by_role("button", name="The same shot again, all good").click()
        expect(page.locator(".shots li")).to_have_count(number)
    page.get_by_role("link", name="Card of the mould").click()
    page.wait_for_url("**/moulds/*")
    mould = int(page.url.rsplit("/", 1)[1])
    before = int(page.locator("[data-mark=left]").inner_text())
    page.get_by_label("Why cavity 2 is retired").select_option(label="torn")
    page.get_by_role("row", name="2 10 10").get_by_role("button", name="Retire").click()
    expect(page.get_by_role("button", name="Use it again")).to_be_visible()
    assert int(page.locator("[data-mark=left]").inner_text()) < before
    page.get_by_label("Release is due every").fill("5")
    page.get_by_role("button", name="Keep the card").click()
    expect(page.locator("#care")).to_contain_text("due now")
    page.locator("#care").get_by_role("button", name="Done now").click()
    expect(page.locator("#care")).to_contain_text("in 5 shots")
    assert page.request.get(f"/moulds/{mould}/card.pdf").body().startswith(b"%PDF")
    page.get_by_role("link", name="Plan a run").click()
    page.get_by_label("Good pieces wanted").fill("200")
    page.get_by_label("Wanted by").fill((datetime.now(UTC).date() + timedelta(days=3)).isoformat())
    page.get_by_role("button", name="Plan the run").click()
    expect(page.locator(".answer")).to_contain_text("after the date that is wished")
    page.get_by_label("Wanted by").fill("")
    page.get_by_label("Name").fill("Chandler")
    page.get_by_role("button", name="Keep this order").click()
    page.wait_for_url("**/orders")
    expect(page.locator(".orders")).to_contain_text("Chandler")
    kept = next(one for one in orders.at_work(filled) if one.order.name == "Chandler")
    assert (kept.order.job_id, kept.order.pieces) == (job, 200)
    card = cards.look(filled, mould)
    assert [(one.shots, bool(one.retired)) for one in card.cavities] == [(10, False), (10, True)]
    # a phone shows the card without scrolling sideways
    page.set_viewport_size({"width": 390, "height": 844})
    for address in (f"/moulds/{mould}", "/moulds", "/orders", f"/moulds/{mould}/run"):
        page.goto(address)
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, address
