"""A weigh-up at the bench in the browser with the simulated scale.

It has an over-poured A, a mended B, a reload, a server that is killed, and a scale that is lost.
"""

import time
from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect
from running import Killable, Lever, simulated_scales
from waiting import patient_context

from ufrin.actions.bench import pours
from ufrin.store.connection import Database

pytestmark = pytest.mark.browser
AMMONITE, CUP_G = 9, 18.0


@pytest.fixture(scope="module")
def lever() -> Iterator[Lever]:
    with simulated_scales() as started:
        yield started


@contextmanager
def bench(browser: Browser, server: Killable, width: int, height: int) -> Iterator[tuple[BrowserContext, Page]]:
    context = patient_context(browser, base_url=server.address, viewport={"width": width, "height": height})
    try:
        yield context, context.new_page()
    finally:
        context.close()


def pour(page: Page, lever: Lever, grams: float) -> None:
    """Pour onto the scale, and wait until the page shows that it is there and at rest."""
    lever.do("add", grams)
    page.wait_for_function(
        "grams => Math.abs(parseFloat(document.querySelector('[data-shown]').textContent) - grams) < 0.5"
        " && !document.querySelector('[data-shown]').classList.contains('moving')",
        arg=grams,
    )


def begin(page: Page) -> int:
    page.goto(f"/jobs/{AMMONITE}/pour")
    page.get_by_label("Who weighs").fill("Wren")
    page.get_by_role("button", name="Begin to weigh").click()
    page.wait_for_url("**/pours/*")
    do_steps(page)
    return int(page.url.rsplit("/", 1)[1])


def do_steps(page: Page) -> None:
    """Tick the steps besides weighing off, one after the other."""
    for _ in range(10):
        if page.locator("#weigh.step-do").count() == 0:
            return
        step = page.locator("#weigh").get_attribute("data-step")
        page.locator("[data-primary]").click()
        page.wait_for_function(
            "step => document.getElementById('weigh').dataset.step !== step || document.querySelector('.sure')",
            arg=step,
        )
        if page.locator(".sure input").count():
            page.locator(".sure input").check()
            page.locator("[data-primary]").click()
            expect(page.locator("#weigh")).not_to_have_attribute("data-step", step or "")


def take(page: Page) -> None:
    """Wait until the scale has come to rest, and take what it shows."""
    button = page.locator("[data-primary]")
    expect(button).to_be_enabled()
    step = page.locator("#weigh").get_attribute("data-step")
    button.click()
    expect(page.locator("#weigh")).not_to_have_attribute("data-step", step or "")


def target_g(page: Page) -> float:
    return float(page.locator("#weigh").get_attribute("data-target") or "0")


@pytest.mark.parametrize(("width", "height"), [(820, 1180), (390, 844)])
def test_a_whole_weigh_up(
    browser: Browser, server: Killable, filled: Database, lever: Lever, width: int, height: int
) -> None:
    with bench(browser, server, width, height) as (context, page):
        lever.do("load", CUP_G)
        number = begin(page)
        assert page.evaluate("document.documentElement.scrollWidth") <= width
        take(page)  # tared
        expect(page.locator("h1")).to_contain_text("Take part A")
        take(page)
        asked = target_g(page)
        lever.do("flow", 200)
        expect(page.locator("[data-togo]")).to_contain_text("to go")
        lever.do("flow", 0)
        lever.do("load", CUP_G + asked + 14)  # too much A, and B follows it
        expect(page.locator("[data-togo]")).to_contain_text("over by")
        assert page.locator(".shown").evaluate("e => parseFloat(getComputedStyle(e).fontSize)") >= 40
        for name in ("[data-primary]", "#net_g", ".sound", ".leave"):
            box = page.locator(name).bounding_box()
            assert box is not None
            assert box["height"] >= 56, name
        take(page)
        page.reload()
        expect(page.locator("h1")).to_contain_text("Take part B")
        take(page)
        assert target_g(page) == pytest.approx((asked + 14) / 10, abs=0.02)
        expect(page.locator(".clock")).to_be_visible()
        server.kill()
        expect(page.locator("[data-link]")).to_contain_text("lost")
        server.start()
        expect(page.locator("[data-link]")).to_contain_text("reads")  # it comes back by itself
        pour(page, lever, (asked + 14) / 10 * 1.15)
        take(page)
        expect(page.locator("h1")).to_contain_text("Mend: more of part A")
        take(page)
        pour(page, lever, target_g(page))
        take(page)
        assert "pigment" in page.locator("h1").inner_text()
        take(page)
        page.locator("#net_g").fill(f"{target_g(page):.2f}")
        page.locator("#net_g").press("Enter")  # a pinch of pigment is typed
        expect(page.locator("h1")).to_have_text("Mix")
        left = page.locator(".clock .left").inner_text()
        expect(page.locator(".clock .left")).not_to_have_text(left)
        page.locator("[data-primary]").click()
        expect(page.locator("#notice")).to_contain_text("it needs at least")  # nobody mixes in no time
        page.locator(".sure input").check()
        take(page)
        do_steps(page)
        take(page)
        do_steps(page)
        page.locator("#net_g").fill("20 g")
        take(page)
        take(page)
        expect(page.locator("h1")).to_have_text("It cures")
        state = pours.look(filled, number).state
        assert state.is_finished
        error_pct = state.ratio_error_pct(state.attempts[0])
        assert error_pct is not None
        assert abs(error_pct) <= 2
        assert [entry.scale for entry in state.entries if entry.kind == "weigh"] == [
            "Bench scale",
            "Bench scale",
            "Bench scale",
            "",
        ]


def test_a_lost_scale_leaves_typing_and_two_benches_keep_in_step(
    browser: Browser, server: Killable, filled: Database, lever: Lever
) -> None:
    with bench(browser, server, 820, 1180) as (context, page):
        lever.do("load", CUP_G)
        number = begin(page)
        other = context.new_page()
        other.goto(page.url)
        take(page)
        expect(other.locator("h1")).to_contain_text("Take part A")  # told by the server, without a reload
        take(other)
        expect(page.locator("h1")).to_contain_text("Pour Saltmarsh base, white")
        lever.do("plug", 0)
        expect(page.locator("[data-link]")).to_contain_text("lost: type the weight")
        expect(page.locator("[data-primary]")).to_be_disabled()
        page.locator("#net_g").fill("4000")
        page.get_by_role("button", name="Use the typed weight").click()
        expect(page.locator("#notice")).to_contain_text("far from")
        expect(page.locator("#net_g")).to_have_value("4000")
        page.locator("#net_g").fill(f"{target_g(page):.1f}")
        page.get_by_role("button", name="Use the typed weight").click()
        expect(page.locator("h1")).to_contain_text("Take part B")
        lever.do("plug", 1)
        take(page)
        expect(page.locator("[data-link]")).to_contain_text("reads")
        expect(page.locator("[data-togo]")).to_have_text(
            "tare first"
        )  # the weight was typed, so this scale has no zero in this cup
        expect(page.locator("[data-primary]")).to_be_disabled()
        page.keyboard.press("t")
        expect(page.locator("[data-togo]")).to_contain_text("to go")
        page.keyboard.press("o")
        page.get_by_label("Which part went in").select_option(label="Saltmarsh base, white")
        page.get_by_label("How much of it").fill("30")
        page.get_by_role("button", name="Set this cup aside").click()
        expect(page.locator("h1")).to_have_text("A fresh cup")
        expect(page.locator("#weigh")).to_contain_text("never pour it into a mould")
        assert pours.look(filled, number).state.attempts[0].outcome == "wrong"


def test_by_keys_alone(browser: Browser, server: Killable, filled: Database) -> None:
    with bench(browser, server, 1280, 800) as (context, page):
        number = begin(page)
        page.goto(f"{page.url}?scale=typed")
        for said in ("Take part A", "Pour Saltmarsh base"):
            page.keyboard.press("Enter")
            expect(page.locator("h1")).to_contain_text(said)
        weight = f"{target_g(page):.1f}"
        page.keyboard.type(weight)
        expect(page.locator("#net_g")).to_have_value(weight)
        page.keyboard.press("Enter")
        expect(page.locator("h1")).to_contain_text("Take part B")
        page.keyboard.press("m")
        expect(page.locator(".sound")).to_have_text("voice")
        page.keyboard.press("m")
        expect(page.locator(".sound")).to_have_text("muted")
        kinds = [entry.kind for entry in pours.look(filled, number).state.entries if entry.kind != "step"]
        assert kinds == ["start", "tare", "hold", "weigh"]


def test_a_press_at_once_stays_on_the_page_and_a_double_tap_counts_once(
    browser: Browser, server: Killable, filled: Database
) -> None:
    with bench(browser, server, 1280, 800) as (context, page):
        begin(page)
        page.goto(f"{page.url}?scale=typed")
        # the next step's button is pressed in the very moment in which it appears
        page.evaluate(
            """() => {
                window.isSamePage = true;
                const next = () => setTimeout(() => document.querySelector("#weigh [data-primary]").click());
                document.addEventListener("htmx:afterSwap", next, { once: true });
            }"""
        )
        page.locator("[data-primary]").click()
        expect(page.locator("h1")).to_contain_text("Pour Saltmarsh base")
        assert page.evaluate("window.isSamePage")
        page.locator("#net_g").fill(f"{target_g(page):.1f}")
        page.locator("[data-primary]").click()
        expect(page.locator("h1")).to_contain_text("Take part B")
        page.locator("[data-primary]").dispatch_event("click", {"detail": 2})
        assert not page.locator("[data-primary]").is_disabled()  # so nothing was sent
        expect(page.locator("h1")).to_contain_text("Take part B")


def test_what_is_done_while_the_line_is_down_is_kept_and_sent_when_it_is_back(
    browser: Browser, server: Killable, filled: Database
) -> None:
    with bench(browser, server, 820, 1180) as (context, page):
        number = begin(page)
        page.goto(f"{page.url}?scale=typed")
        for said in ("Take part A", "Pour Saltmarsh base"):
            page.keyboard.press("Enter")
            expect(page.locator("h1")).to_contain_text(said)
        weight = f"{target_g(page):.1f}"
        server.kill()
        page.locator("#net_g").fill(weight)
        page.locator("#net_g").press("Enter")
        expect(page.locator("#notice")).to_contain_text("kept on this device")
        page.wait_for_timeout(3000)  # so long that a line dated when it comes is told from one dated when it was done
        server.start()
        expect(page.locator("#notice")).to_contain_text("has been sent")
        expect(page.locator("h1")).to_contain_text("Take part B")
        state = pours.look(filled, number).state
        weighed = [entry for entry in state.entries if entry.kind == "weigh"]
        assert [f"{entry.net_g:.1f}" for entry in weighed] == [weight]
        # it is dated when it was done, not when it came
        assert time.time() - weighed[0].at.wall_s >= 3
        assert page.evaluate("Object.keys(localStorage).filter(key => key.startsWith('bench-unsent')).length") == 0


def test_a_weight_by_the_scale_is_kept_as_it_was_shown(
    browser: Browser, server: Killable, filled: Database, lever: Lever
) -> None:
    with bench(browser, server, 820, 1180) as (_, page):
        lever.do("load", CUP_G)
        number = begin(page)
        take(page)
        take(page)
        weight = target_g(page)
        pour(page, lever, weight)
        page.route("**/enter*", lambda route: route.abort())  # the readings still come, but nothing can be sent
        page.locator("[data-primary]:not([disabled])").click()
        expect(page.locator("#notice")).to_contain_text("kept on this device")
        lever.do("add", 100)  # what the scale shows when the line is back is another weight
        page.wait_for_timeout(1500)
        page.unroute("**/enter*")
        expect(page.locator("h1")).to_contain_text("Take part B")
        (weighed,) = [one for one in pours.look(filled, number).state.entries if one.kind == "weigh"]
        assert weighed.net_g == pytest.approx(weight, abs=0.3)
        assert weighed.scale == "Bench scale"


def test_what_is_kept_waits_for_who_was_signed_out(browser: Browser, server: Killable, filled: Database) -> None:
    with bench(browser, server, 820, 1180) as (_, page):
        number = begin(page)
        page.goto(f"{page.url}?scale=typed")
        page.route("**/enter*", lambda route: route.abort())
        page.keyboard.press("Enter")
        expect(page.locator("#notice")).to_contain_text("kept on this device")
        page.unroute("**/enter*")
        page.route("**/enter*", lambda route: route.fulfill(status=403, body="<h1>Sign in</h1>"))
        with page.expect_response("**/enter*") as tried:
            pass
        assert tried.value.status == 403
        assert page.evaluate("Object.keys(localStorage).some(key => key.startsWith('bench-unsent'))")
        page.unroute("**/enter*")
        expect(page.locator("h1")).to_contain_text("Take part A")
        assert pours.look(filled, number).state.entries[-1].kind == "tare"
