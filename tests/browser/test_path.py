"""The whole path in the browser: from a new job to the printed sheet, by mouse and by keys."""

import re
import time

import pytest
from playwright.sync_api import BrowserContext, Page, Route, expect
from reveal import reveal

from ufrin.store.cluster import Cluster

pytestmark = pytest.mark.browser

MASTER_STATION = re.compile(r"/jobs/\d+/master$")  # of a new job


def fill(page: Page, key: str, text: str) -> None:
    """Type into a field and leave it, as a maker would, and wait for the answer."""
    field = reveal(page.locator(f"#f-{key}"))
    field.fill(text)
    with page.expect_response(lambda response: response.request.method == "POST"):
        field.blur()


def test_by_mouse(page: Page) -> None:
    page.goto("/")
    page.get_by_label("New job").fill("Knot board")
    page.get_by_role("button", name="Start job").click()
    page.wait_for_url(MASTER_STATION)
    for key, text in (("length_mm", "3 1/2 in"), ("width_mm", "60"), ("height_mm", "4 cm"), ("mass_g", "140 g")):
        fill(page, key, text)
    expect(page.locator("#f-length_mm")).to_have_value("88.9 mm")
    page.get_by_role("link", name="Level rise in a marked jug").click()
    fill(page, "level_before_ml", "500")
    fill(page, "level_after_ml", "620")
    expect(page.locator(".answer .big")).to_have_text(re.compile("120.0"))

    page.locator(".stations").get_by_role("link", name="Opening").click()
    reveal(page.locator("#style-open button")).click()
    expect(page.locator(".answer .big")).to_have_text("Open block")
    page.locator(".stations").get_by_role("link", name="Box").click()
    expect(page.locator(".answer .big")).to_have_text(re.compile("373"))  # 112.9 x 84 x 52 less 120
    fill(page, "side_mm", "10")
    expect(page.locator("[data-mark=net] .figure")).to_have_text(re.compile("333"))
    expect(page.locator("[data-mark=net]")).to_have_class(re.compile("changed"))
    expect(page.locator("#view-front")).to_contain_text("side 10.0 mm")
    reveal(page.locator("#f-shape")).select_option("round")
    expect(page.locator("#view-plan")).to_contain_text("Ø")
    page.get_by_role("button", name="Undo").click()

    page.locator(".stations").get_by_role("link", name="Rubber").click()
    reveal(page.locator("#f-rubber_id")).select_option(label="Tideline 15, A15")
    expect(page.locator("[data-mark=part-A]")).to_contain_text("Tideline A")
    fill(page, "cup_ml", "300 ml")
    expect(page.get_by_text("equal batches")).to_be_visible()
    reveal(page.locator("#f-basis")).select_option("volume")
    expect(page.locator("[data-mark=part-A]")).to_contain_text("ml")

    page.get_by_role("link", name="Sheet").click()
    expect(page.locator(".paper")).to_contain_text("Knot board")
    expect(page.locator(".paper")).to_contain_text("What was really used")
    with page.expect_request("**/jobs/*/sheet.pdf"):
        page.get_by_role("link", name="PDF").click()


def test_by_keys(page: Page) -> None:
    page.goto("/")
    page.keyboard.press("n")
    page.keyboard.type("Cleat")
    page.keyboard.press("Enter")
    page.wait_for_url(MASTER_STATION)
    page.keyboard.press("e")
    for text in ("Cleat of oak", "", "95 g", "110", "32", "38"):  # what it is, its outline, weight and size
        page.keyboard.type(text)
        page.keyboard.press("Tab")
    expect(page.locator("#w-height_mm input")).to_have_value("38 mm")
    while not page.evaluate("document.activeElement.matches('#section-ways > summary')"):
        page.keyboard.press("Tab")  # past the stand-ins and the mesh
    page.keyboard.press("Enter")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")  # opens the best way
    page.keyboard.press("Tab")
    page.keyboard.type("88.2")
    page.keyboard.press("Enter")
    expect(page.locator(".answer .big")).to_have_text(re.compile("88.4"))
    page.keyboard.press("Escape")
    page.keyboard.press("3")
    page.wait_for_url("**/box")
    expect(page.locator(".answer .big")).to_contain_text("ml")
    page.keyboard.press("4")
    page.wait_for_url("**/rubber")
    reveal(page.locator("#f-rubber_id")).focus()
    page.keyboard.type("Salt")
    expect(page.locator("[data-mark=part-firstB]")).to_contain_text("blue")
    page.keyboard.press("Escape")
    page.keyboard.press("5")
    page.wait_for_url("**/checks")
    expect(page.locator("#pairs")).to_contain_text("The rubber on the walls")
    page.keyboard.press("7")
    page.wait_for_url("**/sheet")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("b")
    expect(page.get_by_role("status")).to_have_text("Press b again to go to Board.")
    page.keyboard.press("b")
    page.wait_for_url(re.compile(r":\d+/$"))  # keys are heard once the page's scripts have come
    expect(page.locator("#jobs")).to_contain_text("Cleat")
    page.keyboard.press("/")
    page.keyboard.type("finial")
    expect(page.locator(".jobs li")).to_have_count(1)


def test_fast_typing_over_a_slow_line_loses_nothing(page: Page) -> None:
    page.route(
        "**/jobs/2/master",
        lambda route: (time.sleep(0.25), route.continue_()) if route.request.method == "POST" else route.continue_(),
    )
    page.goto("/jobs/2/master")
    reveal(page.locator("#f-mass_g")).focus()
    for text in ("95", "110", "32", "38"):
        page.keyboard.type(text)
        page.keyboard.press("Tab")
    for key, shown in (("mass_g", "95 g"), ("length_mm", "110 mm"), ("width_mm", "32 mm"), ("height_mm", "38 mm")):
        expect(page.locator(f"#f-{key}")).to_have_value(shown)
    page.reload()
    expect(page.locator("#f-height_mm")).to_have_value("38 mm")
    expect(page.locator(".answer")).to_contain_text("134 ml")


def test_what_is_typed_in_another_section_outlasts_every_answer(page: Page) -> None:
    waiting: list[Route] = []

    def hold(route: Route) -> None:
        if route.request.method == "POST":
            waiting.append(route)
        else:
            route.continue_()

    def answer(number: int) -> None:
        for _ in range(200):
            if len(waiting) >= number:
                break
            page.wait_for_timeout(50)
        with page.expect_response(lambda response: response.request.method == "POST"):
            waiting[number - 1].continue_()

    page.goto("/jobs/6/box")
    page.route("**/jobs/6/box", hold)
    for key, text in (("count", "2"), ("columns", "2"), ("side_mm", "14"), ("over_mm", "15")):
        field = reveal(page.locator(f"#f-{key}"))
        field.fill(text)
        field.press("Tab")
    # the first two answers are to the other section; the maker has typed here since before the second was sent
    for number in (1, 2, 3):
        answer(number)
    page.unroute("**/jobs/6/box")
    for route in waiting[3:]:
        route.continue_()
    for key, shown in (("count", "2"), ("columns", "2"), ("side_mm", "14 mm"), ("over_mm", "15 mm")):
        expect(page.locator(f"#f-{key}")).to_have_value(shown)


def test_a_mistake_in_one_section_stays_while_another_is_saved(page: Page) -> None:
    page.goto("/jobs/9/box")
    fill(page, "count", "a few")
    expect(page.locator("#w-count .help.wrong")).to_be_visible()
    fill(page, "side_mm", "14")
    expect(page.locator("#f-side_mm")).to_have_value("14 mm")
    expect(page.locator("#f-count")).to_have_value("a few")
    expect(page.locator("#w-count .help.wrong")).to_have_count(1)
    fill(page, "count", "2")
    expect(page.locator("#f-count")).to_have_value("2")
    expect(page.locator("#w-count .help.wrong")).to_have_count(0)


def test_a_choice_made_before_the_scripts_have_come_is_saved(page: Page) -> None:
    kept_back: list[Route] = []
    page.route("**/htmx.min.js", lambda route: kept_back.append(route))  # noqa: PLW0108 - a builtin has no signature to read
    page.goto("/jobs/9/box", wait_until="commit")
    reveal(page.locator("#f-shape")).select_option("round")
    assert page.evaluate("typeof htmx") == "undefined"
    kept_back[0].continue_()
    expect(page.locator("#view-plan")).to_contain_text("Ø")


def test_units_are_switched_everywhere_and_back(page: Page) -> None:
    page.goto("/jobs/9/rubber")
    before = page.locator(".overview").inner_text()
    for units, sign in (("US", "oz"), ("Metric", " g")):
        page.goto("/settings")
        page.get_by_role("radio", name=f"{units}:").check()
        with page.expect_response(lambda answer: answer.request.method == "POST"):
            page.get_by_role("button", name="Save").click()
        for place in ("master", "opening", "box", "rubber", "sheet"):
            page.goto(f"/jobs/9/{place}")
            shown = page.locator("main").inner_text()
            assert bool(re.search(r"\d (mm|ml|g)(?![\w/])", shown)) == (units == "Metric"), place
        page.goto("/jobs/9/rubber")
        assert sign in page.locator("[data-mark=part-A]").inner_text().replace("\xa0", " ")
    assert page.locator(".overview").inner_text() == before


def test_two_tabs(page: Page, context: BrowserContext) -> None:
    page.goto("/jobs/9/box")
    other = context.new_page()
    other.goto("/jobs/9/box")
    fill(other, "side_mm", "14")
    fill(page, "side_mm", "16")
    conflict = page.locator("#conflict")
    expect(conflict).to_contain_text("14 mm")
    expect(conflict).to_contain_text("16")
    fill(page, "freeboard_mm", "12")  # what was refused waits for a choice, whatever else is changed meanwhile
    expect(conflict).to_contain_text("16 mm")
    page.get_by_role("button", name="Use mine").click()
    expect(page.locator("#f-side_mm")).to_have_value("16 mm")
    fill(other, "over_mm", "15")
    expect(other.locator("#conflict")).to_contain_text("Over")
    other.get_by_role("link", name="Keep what was saved").click()
    expect(other.locator("#f-over_mm")).to_have_value("12 mm")


def test_a_wrong_value_stays_and_the_rest_is_saved(page: Page) -> None:
    page.goto("/jobs/9/box")
    fill(page, "side_mm", "9 kg")
    expect(page.locator("#w-side_mm")).to_contain_text("measures a weight")
    expect(page.locator("#f-side_mm")).to_have_value("9 kg")
    fill(page, "over_mm", "15")
    expect(page.locator("#w-side_mm")).to_contain_text("measures a weight")
    page.reload()
    expect(page.locator("#f-over_mm")).to_have_value("15 mm")


def test_what_takes_long_shows_at_once_and_a_download_leaves_nothing_behind(page: Page) -> None:
    page.route("**/jobs/9/box", lambda route: (time.sleep(0.6), route.continue_()))
    page.goto("/jobs/9/rubber")
    page.evaluate(
        "new MutationObserver(() => { if (document.documentElement.classList.contains('is-busy'))"
        " sessionStorage.setItem('busy', 'seen'); }).observe(document.documentElement, { attributes: true })"
    )
    page.locator(".stations").get_by_role("link", name="Box").click()
    expect(page).to_have_url(re.compile("/box$"))
    assert page.evaluate("sessionStorage.getItem('busy')") == "seen"
    expect(page.locator("html.is-busy")).to_have_count(0)
    with page.expect_download():
        reveal(page.locator("a[href$='cut.dxf']")).click()
    page.goto("/shelf/rubbers/csv")
    with page.expect_download():
        page.locator("a[href$='.csv']").first.click()
    page.wait_for_timeout(600)
    expect(page.locator("html.is-busy")).to_have_count(0)


@pytest.mark.server_refuses
def test_the_database_stops_while_a_page_is_open(page: Page, cluster: Cluster) -> None:
    page.goto("/jobs/9/box")
    cluster.stop()
    try:
        fill(page, "side_mm", "17")
        expect(page.locator("#notice")).to_contain_text("can't be reached")
        expect(page.locator("#f-side_mm")).to_have_value("17")
    finally:
        cluster.start()
    page.locator("#f-side_mm").press("Enter")
    expect(page.locator("#view-front")).to_contain_text("side 17.0 mm")
    expect(page.locator("#notice")).to_be_empty()
