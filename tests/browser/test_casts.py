"""Casting in the browser: a filled shot of four cavities over the bench into the log; layers; a rotated shell."""

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Locator, Page, expect
from reveal import reveal
from running import Killable, Lever, simulated_scales
from waiting import patient_context

from ufrin.actions import SCALES
from ufrin.actions.bench import pours
from ufrin.actions.casts import shots
from ufrin.actions.shelf import things
from ufrin.devices import clock
from ufrin.store.connection import Database

pytestmark = pytest.mark.browser
PULLEY, FINIAL, CORMORANT = 6, 8, 5


@pytest.fixture(scope="module")
def lever() -> Iterator[Lever]:
    with simulated_scales() as started:
        yield started


def opened(browser: Browser, server: Killable, width: int = 1280, height: int = 800) -> Page:
    return patient_context(browser, base_url=server.address, viewport={"width": width, "height": height}).new_page()


def choose(page: Page, label: str, option: str) -> None:
    with page.expect_response(lambda answer: "/casts" in answer.url and answer.request.method == "POST"):
        reveal(page.get_by_label(label, exact=True)).select_option(label=option)


def fill(page: Page, label: str | re.Pattern[str], text: str) -> None:
    with page.expect_response(lambda answer: "/casts" in answer.url and answer.request.method == "POST"):
        reveal(page.get_by_label(label, exact=True)).fill(text)
        page.keyboard.press("Tab")


def test_a_filled_shot_of_four_by_cups_from_the_station_into_the_log(
    browser: Browser, server: Killable, filled: Database
) -> None:
    page = opened(browser, server, 820, 1180)
    page.goto(f"/jobs/{PULLEY}/casts")
    choose(page, "Kind of cast", "Solid, with filler")
    choose(page, "Filler or metal powder", "Chalk of shells")
    fill(page, re.compile("^Scoops of powder"), "1")
    fill(page, "Cup holds", "120 ml")
    answer = page.locator(".answer")
    expect(answer).to_contain_text("one shot of 4 cavities")
    mixes = page.get_by_text(re.compile(r"in \d+ equal mixes"))
    cups = int(re.findall(r"in (\d+) equal", mixes.text_content() or "")[0])
    assert cups > 1
    page.get_by_role("button", name="To the bench").click()
    page.wait_for_url("**/pours/*")
    number = int(page.url.rsplit("/", 1)[1])
    page.goto(f"/pours/{number}?scale=typed")
    seen: list[str] = []
    for _ in range(80):
        section = page.locator("#weigh")
        kind = (section.get_attribute("class") or "").split()[0].removeprefix("step-")
        if kind in {"cure", "done"}:
            break
        step = section.get_attribute("data-step")
        seen.append(page.locator("h1").inner_text())
        if kind == "weigh":
            page.locator("#net_g").fill(section.get_attribute("data-target") or "")
        elif kind == "leftover":
            page.locator("#net_g").fill("2")
        page.locator("[data-primary]").click()
        page.wait_for_function(
            "step => document.getElementById('weigh').dataset.step !== step || document.querySelector('.sure')",
            arg=step,
        )
        if page.locator(".sure input").count():
            page.locator(".sure input").check()
            page.locator("[data-primary]").click()
            expect(page.locator("#weigh")).not_to_have_attribute("data-step", step or "")
    assert seen[0] == "Lay everything ready"
    poured = [text for text in seen if text.startswith(("Pour ", "Add "))]
    assert [text.split()[1] for text in poured[:4]] == ["Quayside", "Lichen", "Chalk", "Quayside"]
    assert seen.count("Cast it") == cups
    state = pours.look(filled, number).state
    assert state.ratio_error_pct(state.attempts[0]) == pytest.approx(0, abs=0.1)
    page.goto(f"/jobs/{PULLEY}/casts/log?pour={number}")
    expect(page.get_by_label("Left over")).to_have_value(f"{2 * cups:.1f} g")
    page.get_by_label("Cavity 2", exact=True).select_option(label="bubbles")
    page.get_by_role("button", name="Log this shot").click()
    expect(page.locator(".shots li").first).to_contain_text("✕ 2: bubbles")
    newest = shots.of_job(filled, PULLEY, clock.now()).shots[0]
    assert newest.pour_id == number
    page.get_by_role("button", name="The same shot again, all good").click()
    expect(page.locator(".shots li").first).not_to_contain_text("bubbles")
    assert len(shots.of_job(filled, PULLEY, clock.now()).shots) == 7


def take(page: Page, scale: Locator, button: str, field: str, shown: str) -> None:
    """Tap until the scale has come to rest and the weight that is on it was taken."""
    for _ in range(60):
        with page.expect_response(lambda answer: "mould-weight" in answer.url) as answered:
            scale.get_by_role("button", name=button).click()
        if answered.value.status == 200 and page.get_by_label(field, exact=True).input_value() == shown:
            return
        page.wait_for_timeout(500)
    raise AssertionError("the scale does not come to rest")


def test_two_layers_with_something_set_in_and_a_rotated_shell_on_the_simulated_scale(
    browser: Browser, server: Killable, filled: Database, lever: Lever
) -> None:
    page = opened(browser, server)
    page.goto(f"/jobs/{FINIAL}/casts")
    fill(page, "Layers from the bottom", "1, 1")
    fill(page, "Set in: its volume", "4 ml")
    fill(page, "Set in: its weight", "2 g")
    expect(page.locator(".findings")).to_contain_text("floats up with")
    drawing = page.locator(".cast-fill svg")
    expect(drawing).to_contain_text("layer 2: 118.0 mm")
    fill(page, "Layers from the bottom", "1, x")
    expect(page.get_by_label("Layers from the bottom", exact=True)).to_have_value("1, x")
    expect(page.locator("#w-layers")).to_contain_text("Type shares")
    page.goto(f"/jobs/{CORMORANT}/casts")
    choose(page, "Kind of cast", "Hollow, rotated by hand")
    scale = page.locator(".mould-weight form").filter(has_text="Bench scale")
    lever.do("load", 1500)
    take(page, scale, "It shows the empty mould", "Weight of the empty mould", "1500 g")
    lever.do("add", 22)
    take(page, scale, "It shows the mould now", "Weight of the mould now", "1522 g")
    expect(page.locator("[data-mark=rotated]")).to_be_visible()
    expect(page.locator(".answer")).to_contain_text("to go, in 2 coats")
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_rotated_shell_at_the_bench_is_as_thick_as_its_mould_gained(
    browser: Browser, server: Killable, filled: Database, lever: Lever
) -> None:
    page = opened(browser, server, 820, 1180)
    page.goto(f"/jobs/{CORMORANT}/casts")
    if page.get_by_label("Kind of cast", exact=True).input_value() != "rotated":
        choose(page, "Kind of cast", "Hollow, rotated by hand")
    fill(page, re.compile("^Thickness of the shell"), "2 mm")
    fill(page, re.compile("^Thickness of a coat"), "2 mm")
    page.get_by_role("button", name="To the bench").click()
    page.wait_for_url("**/pours/*")
    number = int(page.url.rsplit("/", 1)[1])
    scale = str(next(kept.id for kept in things.shelf(filled, SCALES).things if kept.thing.name == "Bench scale"))
    # the mould goes on the scale three times: empty, after a thin coat, and after the coat that was added for it
    loads = iter((1500.0, 1515.0, 1541.0))
    heads: list[str] = []
    for _ in range(80):
        section = page.locator("#weigh")
        kind = (section.get_attribute("class") or "").split()[0].removeprefix("step-")
        if kind in {"cure", "done"}:
            break
        wanted = scale if kind == "mould" else "typed"
        if section.get_attribute("data-scale") != (scale if kind == "mould" else ""):
            page.goto(f"/pours/{number}?scale={wanted}")
        step = section.get_attribute("data-step") or ""
        heads.append(page.locator("h1").inner_text())
        if kind == "mould":
            load = next(loads)
            lever.do("load", load)
            expect(page.locator("[data-shown]")).to_contain_text(f"{load:.1f}")
        elif kind == "weigh":
            page.locator("#net_g").fill(section.get_attribute("data-target") or "")
        expect(page.locator("[data-primary]")).to_be_enabled()
        page.locator("[data-primary]").click()
        page.wait_for_function(
            "step => document.getElementById('weigh').dataset.step !== step || document.querySelector('.sure')",
            arg=step,
        )
        if page.locator(".sure input").count():
            page.locator(".sure input").check()
            page.locator("[data-primary]").click()
            expect(page.locator("#weigh")).not_to_have_attribute("data-step", step)
    state = pours.look(filled, number).state
    # one coat was planned, and another followed from the weight
    assert [heads.count(head) for head in ("Weigh the empty mould", "Weigh the mould")] == [1, 2]
    assert heads.count("What is left over?") == 0
    assert state.rotation is not None
    assert state.rotation.in_mould_g == pytest.approx(41, abs=0.5)
    assert state.used_g == pytest.approx(41, abs=0.5)
    page.goto(f"/jobs/{CORMORANT}/casts/log?pour={number}")
    expect(page.get_by_label("Mixed in all")).not_to_have_value("")
    page.get_by_role("button", name="Log this shot").click()
    expect(page.locator(".shots li").first).to_contain_text("Hollow, rotated by hand")
