"""From the pour to the mould in the browser, with the simulated thermometer.

Both halves with a witness cup that sets early, a putty on a hot day, a pour that ran short.
"""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Page, expect
from running import Killable, Lever, simulated_scales
from waiting import patient_context, wait_until

from ufrin.actions import THERMOMETERS
from ufrin.actions.bench import pours
from ufrin.actions.bench.running import what_runs
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.devices import clock
from ufrin.store.connection import Database

pytestmark = pytest.mark.browser
PULLEY, BADGE, AMMONITE = 6, 11, 9


@pytest.fixture(scope="module")
def lever() -> Iterator[Lever]:
    with simulated_scales(thermometer=True) as started:
        yield started


def opened(browser: Browser, server: Killable, width: int, height: int) -> Page:
    context = patient_context(browser, base_url=server.address, viewport={"width": width, "height": height})
    return context.new_page()


def begin(page: Page, job: int, temp: str = "21") -> int:
    page.goto(f"/jobs/{job}/pour")
    page.get_by_label("Who weighs").fill("Wren")
    page.get_by_label("Room now").fill(temp)
    page.get_by_role("button", name="Begin to weigh").click()
    page.wait_for_url("**/pours/*")
    number = int(page.url.rsplit("/", 1)[1])
    page.goto(f"/pours/{number}?scale=typed")
    return number


def kind_shown(page: Page) -> str:
    """Return the kind of the step that is shown."""
    return (page.locator("#weigh").get_attribute("class") or "").split()[0].removeprefix("step-")


def press(page: Page) -> None:
    step = page.locator("#weigh").get_attribute("data-step")
    page.locator("[data-primary]").click()
    page.wait_for_function(
        "step => document.getElementById('weigh').dataset.step !== step || document.querySelector('.sure')", arg=step
    )
    if page.locator(".sure input").count():
        page.locator(".sure input").check()
        page.locator("[data-primary]").click()
        expect(page.locator("#weigh")).not_to_have_attribute("data-step", step or "")


def work(page: Page, *, until: str = "cure") -> list[str]:
    """Do whatever the bench asks for, and return its headings."""
    seen = []
    while (kind := kind_shown(page)) not in {until, "cure", "done"}:
        seen.append(page.locator("h1").inner_text())
        if kind == "weigh":
            page.locator("#net_g").fill(page.locator("#weigh").get_attribute("data-target") or "")
        elif kind == "leftover":
            page.locator("#net_g").fill("3")
        press(page)
    return seen


def answer(page: Page, words: str) -> None:
    if page.locator(".witness-any").count():
        page.locator(".witness-any summary").click()
    page.get_by_role("button", name=words, exact=True).click()


def test_both_halves_from_the_stirred_tin_to_the_mould(browser: Browser, server: Killable, filled: Database) -> None:
    desk = opened(browser, server, 1280, 800)
    first = begin(desk, PULLEY)
    seen = work(desk)
    assert seen[0].startswith("Stir Tideline A")
    assert seen[-2:] == ["What is left over?", "All batches are poured"]
    assert {"Scrape sides, bottom and stick", "Into a second, clean cup", "Let it rest in the cup", "Pour"} <= set(seen)
    expect(desk.locator("h1")).to_have_text("The first half cures")
    shown = desk.locator(".cure-clock .left")
    before = shown.inner_text()
    expect(shown).not_to_have_text(before)  # it counts
    # the clock is the server's: it goes on over a kill, and on a second device
    server.kill()
    server.start()
    phone = opened(browser, server, 390, 844)
    phone.goto(f"/pours/{first}?scale=typed")
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    expect(phone.locator(".cure-clock .left")).to_be_visible()
    answer(phone, "Set")
    expect(phone.locator("h1")).to_have_text("First half: turn it over")
    expect(desk.locator("h1")).to_have_text("First half: turn it over")  # told by the server, without a reload
    phone.get_by_role("link", name="To the second half").click()
    phone.wait_for_url("**/pour")
    second = begin(phone, PULLEY)
    work(phone)
    answer(phone, "Set")
    expect(phone.locator("h1")).to_have_text("Take it out")
    for box in [one.bounding_box() for one in phone.locator(".take-out button").all()]:
        assert box is not None
        assert box["height"] >= 56
    phone.get_by_role("button", name="It is out").click()
    expect(phone.locator("h1")).to_have_text("The mould is out")
    phone.get_by_role("button", name="Nothing wrong").click()
    expect(phone.locator(".found")).to_contain_text("Nothing wrong")
    assert pours.look(filled, second).state.is_demoulded
    desk.goto(f"/jobs/{PULLEY}/sequence")
    for step in ("Post-cure at 93 °C", "Let it cool down", "First cast"):
        desk.get_by_role("button", name=f"Tick it off: {step}").click()
        expect(desk.get_by_role("button", name=f"Take the tick back: {step}")).to_be_visible()
    expect(desk.locator(".answer")).to_contain_text("Every step is done")
    desk.goto("/")
    expect(desk.locator("#jobs")).to_contain_text("Mould ready")


def test_a_putty_on_a_hot_day(browser: Browser, server: Killable, filled: Database) -> None:
    # the thermometer on the wall, which reads 21 °C, would go before the temperature that is typed
    (wall,) = things.shelf(filled, THERMOMETERS).things
    things.retire(filled, THERMOMETERS, wall.id, retired=True)
    page = opened(browser, server, 390, 844)
    page.goto(f"/jobs/{BADGE}/pour")
    number = begin(page, BADGE, "42")
    expect(page.locator(".finding-warn")).to_contain_text("min are left to press once it is kneaded")
    seen = work(page, until="mix")
    assert seen[-1] == "Bring the lumps together"
    expect(page.locator(".clock .left")).to_be_visible()
    seen = work(page)
    assert seen[:3] == ["Knead", "Press it on", "Press the back flat"]
    expect(page.locator("h1")).to_have_text("It cures")
    assert [clock.kind for clock in pours.look(filled, number).state.clocks.of_mould(clock.now())] == [
        *("pot-life", "press", "demould", "cast-in", "full-cure")
    ]


def test_a_pour_that_ran_forty_millilitres_short(browser: Browser, server: Killable, filled: Database) -> None:
    page = opened(browser, server, 820, 1180)
    number = begin(page, AMMONITE)
    work(page, until="leftover")
    page.get_by_role("link", name="It ran short").click()
    page.get_by_label("Or missing").fill("40 ml")
    page.get_by_role("button", name="What to weigh").click()
    expect(page.locator(".answer")).to_contain_text("40")
    page.get_by_role("button", name="Mix this top-up at the bench").click()
    page.wait_for_url(f"**/pours/{number}")
    page.goto(f"/pours/{number}?scale=typed")
    work(page)
    state = pours.look(filled, number).state
    assert state.short_ml == pytest.approx(40)
    assert len(state.attempts) == 2
    assert state.needed_g == pytest.approx(state.plan.need_g + 40 * state.plan.sg)


def test_the_clocks_follow_the_room_of_the_thermometer(
    browser: Browser, server: Killable, filled: Database, lever: Lever
) -> None:
    page = opened(browser, server, 820, 1180)
    number = begin(page, AMMONITE, "21")
    work(page)
    expect(page.locator(".all-clocks")).to_contain_text("Room 21 °C")
    ends = pours.look(filled, number).state.clocks.end_s("demould")
    lever.room(45.0)
    wait_until(lambda: pours.look(filled, number).state.room_temp_c > 30, "the warm room is not noted")
    page.reload()
    expect(page.locator(".all-clocks")).to_contain_text("by Wall thermometer")
    assert pours.look(filled, number).state.clocks.end_s("demould") < ends - 3600
    lever.room(21.0)
    assert [one.pour.id for one in what_runs(filled, clock.now()).running if one.pour.id == number] == [number]


def test_parts_measured_by_the_marks_of_a_cup(browser: Browser, server: Killable, filled: Database) -> None:
    version = stations.open_job(filled, AMMONITE).job.versions["rubber"]
    fine = {"basis": "volume", "cup_mark_ml": 2.0}
    stations.change_station(filled, AMMONITE, "rubber", version=version, changes=fine)
    page = opened(browser, server, 390, 844)
    number = begin(page, AMMONITE)
    work(page, until="cup")
    expect(page.locator("h1")).to_have_text("Empty cup, straight and dry")
    press(page)
    for part in ("A", "B"):
        kind_shown(page)
        press(page)  # in hand
        kind_shown(page)
        expect(page.locator(".why")).to_contain_text("meniscus")
        shown = page.locator(".target .goal").inner_text()
        assert "ml" in shown
        page.locator("#net_g").fill(shown.split()[0])
        press(page)
        one = pours.look(filled, number).state
        sg = next(ingredient.sg for ingredient in one.batch if ingredient.key == part)
        assert one.attempt.poured_g[part] == pytest.approx(float(shown.split()[0]) * sg, rel=1e-6)
    assert abs(pours.look(filled, number).state.ratio_error_pct(one.attempt)) < 2
    assert page.locator(".clock").count() == 1  # the same clock as for weighed parts
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
