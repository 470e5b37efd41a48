"""The plan in the browser: two jobs, one oven and one wish; steps dragged, typed where they can not be, ticked late."""

import re
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Browser, Page, expect
from running import Killable, Lever, simulated_scales
from waiting import patient_context

from ufrin.actions.schedule import day_plan, job_in_plan, moving, shop_people
from ufrin.actions.shop import workshop_settings
from ufrin.core.schedule.day_plan import DayStep
from ufrin.devices import clock
from ufrin.store.connection import Database

pytestmark = pytest.mark.browser
NET_FLOAT, CORMORANT = 3, 5


@pytest.fixture(scope="module")
def lever() -> Iterator[Lever]:
    with simulated_scales() as started:
        yield started


def steps(database: Database) -> list[DayStep]:
    page = day_plan.look(database, clock.now())
    shown = page.proposed or page.plan
    assert shown is not None
    return list(shown.steps)


def only_two_jobs(database: Database) -> None:
    # all day and every day, so that the test is the same at any hour
    shop_people.change_hours(database, hours="0-24", days=range(1, 8), hour_cost=0)
    tamsin = next(one for one in shop_people.look(database).people if one.name == "Tamsin")
    shop_people.forget(database, "person", tamsin.id)
    for number in {one.job_id for one in steps(database) if one.job_id} - {NET_FLOAT, CORMORANT}:
        moving.leave_off(database, number, off=True)


def opened(browser: Browser, server: Killable) -> Page:
    return patient_context(browser, base_url=server.address, viewport={"width": 1280, "height": 800}).new_page()


def lane(page: Page, key: str, number: int = 0) -> dict[str, float]:
    box = page.locator(f"[data-drag='{key}'] rect").nth(number).bounding_box()
    assert box is not None
    return {"x": box["x"], "right": box["x"] + box["width"], "y": box["y"] + box["height"] / 2}


def test_two_jobs_one_oven_one_wish_and_a_step_ticked_late(
    browser: Browser, server: Killable, filled: Database
) -> None:
    only_two_jobs(filled)
    page = opened(browser, server)
    wish = datetime.now(UTC) + timedelta(days=6)
    page.goto(f"/jobs/{CORMORANT}/sequence")
    page.get_by_label("For its first cast by").fill(f"{wish:%Y-%m-%dT%H:%M}")
    page.get_by_role("button", name="Date the steps").click()
    page.get_by_role("link", name="Plan", exact=True).click()
    page.wait_for_url("**/plan")
    page.get_by_role("link", name="A week").click()
    expect(page.locator(".sch-wish")).to_have_count(1)
    # one oven: the second post-cure begins when the first has ended
    ovens = sorted(
        (lane(page, f"job:{number}:post-cure") for number in (NET_FLOAT, CORMORANT)), key=lambda one: one["x"]
    )
    assert ovens[0]["right"] <= ovens[1]["x"] + 1
    # dragged two hours later along its lane, it stays there and what follows comes after it
    key = f"job:{CORMORANT}:pour-all"
    before = next(one for one in steps(filled) if one.key == key)
    bar = lane(page, key)
    with page.expect_navigation():
        page.mouse.move(bar["x"] + 2, bar["y"])
        page.mouse.down()
        page.mouse.move(bar["x"] + 42, bar["y"], steps=4)
        page.mouse.up()
    expect(page.locator(".sch-placed").first).to_be_visible()
    dragged = next(one for one in steps(filled) if one.key == key)
    assert dragged.is_placed
    assert dragged.begins_s > before.begins_s + 1800
    assert dragged.begins_s % 300 == 0
    # where it can't be, it is told, and what was typed is still there
    page.locator(f"[data-drag='job:{CORMORANT}:take-out']").first.focus()
    page.keyboard.press("Enter")
    page.wait_for_url(re.compile("step="))
    too_early = f"{datetime.fromtimestamp(dragged.begins_s, UTC):%Y-%m-%dT%H:%M}"
    page.get_by_label("Begins").fill(too_early)
    page.get_by_role("button", name="Put it at that time").click()
    expect(page.get_by_role("alert").first).to_contain_text("comes before it")
    expect(page.get_by_label("Begins")).to_have_value(too_early)
    # ticked at its real time, an hour ago
    page.goto(f"/plan?step=job:{NET_FLOAT}:first-cast")
    page.get_by_label("At", exact=True).fill(f"{datetime.now(UTC) - timedelta(hours=1):%Y-%m-%dT%H:%M}")
    page.get_by_role("button", name="Tick it off at that time").click()
    page.wait_for_url("**/plan")
    assert not any(one.key == f"job:{NET_FLOAT}:first-cast" for one in steps(filled))
    done = next(one for one in job_in_plan.of_job(filled, NET_FLOAT, clock.now()).steps if one.step.key == "first-cast")
    assert done.step.done_at_s is not None
    assert 3500 < clock.now().wall_s - done.step.done_at_s < 3800


def test_today_on_a_phone_has_large_ticks(browser: Browser, server: Killable, filled: Database) -> None:
    only_two_jobs(filled)
    # by a clock where it is midday: a job of ten minutes would not fit into what is left of a day near its end
    midday = f"Etc/GMT{datetime.now(UTC).hour - 12:+d}"
    version = workshop_settings.settings(filled).version
    workshop_settings.change_settings(filled, version=version, units="metric", currency="EUR", time_zone=midday)
    shop_people.add_other_work(filled, name="Sweep", attended_min=10, person_id=None, equipment_id=None, by="")
    page = patient_context(browser, base_url=server.address, viewport={"width": 390, "height": 844}).new_page()
    page.goto("/plan?days=1")
    today, lanes = (page.locator(one).bounding_box() for one in (".plan-today", ".plan-lanes"))
    assert today is not None
    assert lanes is not None
    assert today["y"] < lanes["y"]
    tick = page.get_by_role("button", name="Tick it off now: Sweep")
    box = tick.bounding_box()
    assert box is not None
    assert min(box["width"], box["height"]) >= 56
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    tick.click()
    expect(tick).to_have_count(0)
    page.get_by_text("Done today: 1 step").click()
    page.get_by_role("button", name="Take the tick back: Sweep").click()
    expect(tick).to_have_count(1)
