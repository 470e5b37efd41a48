"""What can be measured of the looks.

Axe checks contrast and labels; words may not overlap, targets are large enough, and pages fit a phone.
"""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from prepared import weigh_through
from reveal import reveal
from signing import enter, join, session_of
from waiting import patient_context

from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.trial import trial_database, trial_server

pytestmark = pytest.mark.browser

AXE = (Path(__file__).parent / "vendor" / "axe-core" / "axe.min.js").read_text()
# each page is opened once: at the desk in the light, then in the dark, then on a phone
PAGES = (
    "/",
    "/plan",
    "/plan?days=7",
    "/plan?step=job:5:pour-all",
    "/plan/shop",
    "/practice",
    "/?away=1",
    "/moulds/8",
    "/sums/grams",
    "/jobs/3/box",
    "/jobs/4/box",
    "/jobs/5/box",
    "/jobs/6/box",
    "/jobs/7/box",
    "/jobs/3/sheet",
    "/jobs/4/sheet",
    "/jobs/5/sheet",
    "/jobs/6/sheet",
    "/jobs/7/sheet",
    "/jobs/7/rubber",
    "/jobs/3/rubber",
    "/jobs/3/hardness",
    "/jobs/9/hardness",
    "/jobs/7/checks",
    "/jobs/4/pour",
    "/jobs/9/faults",
    "/jobs/9/faults?symptom=bubbles-bottom",
    "/pairings",
    "/pairings?pour=polyurethane-rubber&touches=bare-wood",
    "/words",
    "/shelf/products",
    "/jobs/9/pour",
    "/pours/12",
    "/pours/12/record",
    "/pours/12/short?missing=40",
    "/jobs/6/sequence",
    "/jobs/9/sequence",
    "/pours/13",
    "/pours/14?scale=typed",
    "/allowance",
    "/shelf/rubbers",
    "/shelf/additives",
    "/shelf/lots",
    "/shelf/scales/1",
    "/shelf/rubbers/7/coupons",
    "/shelf/lots/csv",
    "/shelf/rubbers/1",
    "/shelf/resins/1",
    "/shelf/rubbers/new",
    "/shelf/containers/1",
    "/jobs/8/ways",
    "/settings",
    "/people",
    "/devices",
    "/changes",
    "/safekeeping",
    "/bring-in",
    "/bench",
    "/components",
    "/nope",
)
STATIONS = tuple(
    f"/jobs/{job}/{station}"
    for job in (4, 6, 8, 9)
    for station in ("master", "opening", "box", "rubber", "checks", "casts")
)
# what is looked at in the dark as well, and what is laid out anew on a phone
COLOURED = {
    *("/", "/plan?days=7", "/jobs/8/checks", "/jobs/4/pour", "/jobs/6/opening", "/jobs/8/box", "/jobs/3/hardness"),
    *("/jobs/4/sheet", "/pours/12", "/pours/13", "/jobs/6/sequence", "/shelf/lots", "/allowance", "/safekeeping"),
    *("/bench", "/components"),
}
NARROW = {
    *("/", "/plan?step=job:5:pour-all", "/plan/shop", "/jobs/6/opening", "/jobs/9/master", "/jobs/3/rubber"),
    *("/jobs/8/checks", "/jobs/4/pour", "/jobs/9/faults?symptom=bubbles-bottom", "/pairings", "/jobs/9/pour"),
    *("/pours/12", "/pours/12/record", "/pours/13", "/pours/14?scale=typed", "/jobs/6/sequence", "/shelf/rubbers"),
    *("/shelf/rubbers/1", "/people", "/devices", "/bench", "/components"),
}
# of the stations axe looks at these in the light; of the others at what is on the screen
WITH_AXE = {
    *("/jobs/9/master", "/jobs/6/opening", "/jobs/9/opening", "/jobs/4/opening", "/jobs/8/box", "/jobs/6/box"),
    *("/jobs/8/checks", "/jobs/9/checks", *PAGES),
}
# pages that are two screens at most
TWO_SCREENS = {
    *("/", "/plan", "/plan/shop", "/moulds/8", "/words", "/pairings", "/settings", "/practice", "/sums/grams"),
    *("/jobs/9/pour", "/jobs/9/faults", "/jobs/9/hardness", "/jobs/6/sequence", "/shelf/rubbers/1", "/shelf/resins/1"),
    *STATIONS,
}
OF_COLOURS = ("color-contrast", "link-in-text-block")
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
OVERLAPS = """() => [...document.querySelectorAll('svg.drawing')].flatMap(svg => {
  const texts = [...svg.querySelectorAll('text')].map(t => [t.textContent, t.getBoundingClientRect()]);
  const sheet = svg.getBoundingClientRect();
  const out = texts.filter(([, r]) => r.left < sheet.left - 1 || r.right > sheet.right + 1 ||
    r.top < sheet.top - 1 || r.bottom > sheet.bottom + 1);
  const on = texts.flatMap(([a, r], i) => texts.slice(i + 1).filter(([, q]) =>
    Math.min(r.right, q.right) - Math.max(r.left, q.left) > 1 &&
    Math.min(r.bottom, q.bottom) - Math.max(r.top, q.top) > 3).map(([b]) => `${a} / ${b}`));
  return [...out.map(([t]) => `off the sheet: ${t}`), ...on];
})"""


@pytest.fixture(autouse=True)
def at_work(cluster: Cluster, demo_data: None) -> None:
    """A pour that cures, and one that is about to be mixed."""
    database = Database(cluster.conninfo("browser"))
    database.open()
    try:
        weigh_through(database, 9, ago_h=9)
        weigh_through(database, 12, until="mix")
    finally:
        database.close()


def violations(page: Page, rules: tuple[str, ...] = ()) -> list[object]:
    """Return what axe finds wrong with a page: its rule, how bad it is, and where; of all its rules or of some."""
    page.evaluate("Promise.all(document.getAnimations().map(one => one.finished))")
    if page.evaluate("!window.axe"):
        page.evaluate(AXE)
    # style sheets and media are fetched beforehand for none of the rules that are looked at
    found: list[object] = page.evaluate(
        "rules => axe.run({resultTypes: ['violations'], preload: false, ...(rules.length ? {runOnly: rules} : {})})"
        ".then(done => done.violations.map(v => [v.id, v.impact, v.nodes.map(n => n.html)]))",
        list(rules),
    )
    return found


def bare(browser: Browser, address: str, width: int, height: int, scheme: str, locale: str = "en-US") -> Page:
    # axe is put into the page by the test, which the page's own policy would rightly refuse
    size = {"width": width, "height": height}
    context = patient_context(
        browser,
        base_url=address,
        viewport=size,
        color_scheme=scheme,
        bypass_csp=True,
        locale=locale,
        reduced_motion="reduce",  # a colour on its way to another would be looked at half-way
    )
    return context.new_page()


def height_px(page: Page) -> float:
    return float(page.evaluate("document.documentElement.scrollHeight"))


def width_px(page: Page) -> float:
    return float(page.evaluate("document.documentElement.scrollWidth"))


def look_at(page: Page, where: str) -> None:
    """Look at a page in one visit: at the desk in the light and in the dark, then on a phone."""
    page.set_viewport_size(DESK)
    page.emulate_media(color_scheme="light")
    page.goto(where)
    page.evaluate("document.fonts.ready")
    if where in WITH_AXE:
        assert violations(page) == [], where
    assert page.locator("h1").count() == 1, where
    assert page.evaluate(OVERLAPS) == [], where
    assert width_px(page) <= DESK["width"], where
    if where in TWO_SCREENS:
        page.wait_for_load_state("networkidle")
        assert height_px(page) <= 2.05 * DESK["height"], where
    if where in COLOURED:
        # the dark differs in its colours alone
        page.emulate_media(color_scheme="dark")
        assert violations(page, OF_COLOURS) == [], where
    page.set_viewport_size(PHONE)
    page.emulate_media(color_scheme="light")
    assert width_px(page) <= PHONE["width"], where
    if where in NARROW:
        assert violations(page) == [], where
    if where in STATIONS:
        # the line that opens the first decision can be seen, or the way to it, without scrolling
        top = page.locator(".fold > summary").first.evaluate("node => node.getBoundingClientRect().top")
        assert top < 1.15 * PHONE["height"], (where, top)


def test_every_page_is_sound_at_the_desk_in_the_dark_and_on_a_phone(
    browser: Browser, address: str, demo_data: None
) -> None:
    page = bare(browser, address, 1280, 800, "light")
    for where in (*PAGES, *STATIONS):
        look_at(page, where)
    page.context.close()


def test_german_pages_are_as_sound(browser: Browser, address: str, demo_data: None) -> None:
    page = bare(browser, address, 1280, 800, "dark", "de-DE")
    for where in sorted(COLOURED | NARROW | TWO_SCREENS - set(STATIONS)):
        page.set_viewport_size(DESK)
        page.emulate_media(color_scheme="dark")
        page.goto(where)
        page.evaluate("document.fonts.ready")
        assert page.evaluate("document.documentElement.lang") == "de", where
        assert width_px(page) <= DESK["width"], where
        if where in COLOURED:
            assert violations(page) == [], where
            assert page.evaluate(OVERLAPS) == [], where
        if where in TWO_SCREENS:
            page.wait_for_load_state("networkidle")
            assert height_px(page) <= 2.05 * DESK["height"], where
        if where in NARROW:
            page.set_viewport_size(PHONE)
            page.emulate_media(color_scheme="light")
            assert violations(page) == [], where
            assert width_px(page) <= PHONE["width"], where
    page.context.close()


@pytest.mark.parametrize(("width", "height", "scheme"), [(1280, 800, "dark"), (390, 844, "light")])
def test_axe_finds_nothing_at_a_practice(
    browser: Browser, address: str, demo_data: None, width: int, height: int, scheme: str
) -> None:
    page = bare(browser, address, width, height, scheme, "de-DE")
    page.goto("/practice")
    page.locator("#f-who").fill("Wren")
    page.locator("button[value=first]").click()
    page.wait_for_url("**/practice/*")

    def typed(kind: str) -> None:
        # a practice that nobody pours in: every weight is typed as it is asked for
        number = page.locator("#weigh").get_attribute("data-step")
        if kind == "weigh":
            page.locator("#net_g").fill(page.locator("#weigh").get_attribute("data-target") or "")
            page.locator("button[name=by][value=typed]").click()
        else:
            page.locator("[data-primary]:not([disabled])").click()
        page.wait_for_function(
            "n => document.getElementById('weigh')?.dataset.step !== n || document.querySelector('.sure')", arg=number
        )
        if page.locator("#weigh").count() and page.locator("#weigh").get_attribute("data-step") == number:
            page.locator(".sure input").check()
            page.locator("[data-primary]").click()
            page.wait_for_function("n => document.getElementById('weigh')?.dataset.step !== n", arg=number)

    seen: set[str] = set()
    while page.locator("#weigh").count():
        kind = (page.locator("#weigh").get_attribute("class") or "").removeprefix("step-")
        if kind == "cup":
            page.locator("#table .hands button").click()
            page.locator("#table [data-content]").wait_for(state="attached")
        if kind not in seen:
            page.evaluate("document.fonts.ready")
            assert violations(page) == [], kind
            assert page.evaluate("document.documentElement.scrollWidth") <= width, kind
        seen.add(kind)
        typed(kind)
    page.locator(".practice-review").wait_for()
    assert violations(page) == []
    assert page.evaluate(OVERLAPS) == []
    assert {"do", "cup", "hold", "weigh", "mix", "pour"} <= seen
    page.context.close()


@pytest.mark.parametrize(("width", "scheme"), [(1280, "light"), (390, "dark")])
def test_axe_finds_nothing_where_people_sign_in(browser: Browser, cluster: Cluster, width: int, scheme: str) -> None:
    conninfo = trial_database(cluster, f"signing_{width}")
    database = Database(conninfo)
    database.open()
    with trial_server(conninfo, sign_in=True) as serving:
        page = bare(browser, serving, width, 844, scheme)
        with database.transaction() as connection:
            connection.execute("insert into jobs (name) values ('Ammonite')")
            connection.execute(
                "insert into backups (file, bytes, row_count, took_s, tried_at) "
                "values ('b.zip', 4100000, 970206, 8.1, now() - interval '6 days 23 hours')"
            )
        signed_in = ("/people", "/devices", "/me", "/changes", "/safekeeping", "/bring-in", "/settings", "/", "/bench")
        for where in ("/first-owner", "/join", "/sign-in", *signed_in):
            if where == "/sign-in":
                maker = enter(database, "owner")
            if where == "/people":
                cookie = {"name": "ufrin_session", "value": session_of(database, maker), "url": serving}
                page.context.add_cookies([cookie])
            if where == "/bench":
                page.context.clear_cookies()
                page.context.add_cookies([{"name": "ufrin_device", "value": join(database), "url": serving}])
            page.goto(where)
            assert where in page.url
            assert violations(page) == [], where
            assert page.evaluate("document.documentElement.scrollWidth") <= width, where
        page.context.close()
    database.close()


def test_figures_and_targets_are_large_enough_for_a_finger(page: Page) -> None:
    for width, height in ((390, 844), (820, 1180)):
        page.set_viewport_size({"width": width, "height": height})
        page.goto("/jobs/9/rubber")
        assert page.locator(".amount .figure").first.evaluate("e => parseFloat(getComputedStyle(e).fontSize)") >= 54
        assert too_small(page) == []


def too_small(page: Page) -> list[str]:
    found: list[str] = page.evaluate(
        "[...document.querySelectorAll('.asked input:not([type=hidden]), .asked select, .asked button, .stations a, "
        ".head a, .head button')]"
        ".filter(e => e.getClientRects().length && e.getBoundingClientRect().height < 55.5).map(e => e.outerHTML)"
    )
    return found


def test_the_sheet_prints_without_the_rest(page: Page) -> None:
    page.goto("/jobs/9/sheet")
    page.emulate_media(media="print")
    assert page.locator(".paper").is_visible()
    assert not page.locator(".head").is_visible()
    assert not page.locator(".stations").is_visible()


def test_the_views_on_the_sheet_are_ink_on_white_in_the_dark_as_well(page: Page) -> None:
    page.goto("/jobs/9/sheet")
    inks = set()
    for scheme in ("light", "dark"):
        page.emulate_media(color_scheme=scheme)
        inks |= set(page.locator(".paper svg .d-text").evaluate_all("all => all.map(e => getComputedStyle(e).fill)"))
        assert page.locator(".paper").evaluate("e => getComputedStyle(e).backgroundColor") == "rgb(255, 255, 255)"
    assert inks
    for ink in inks:  # WCAG 2.2 asks for 4.5 : 1 on white
        lights = [(int(value) / 255 + 0.055) / 1.055 for value in re.findall(r"\d+", ink)]
        luminance = sum(share * light**2.4 for share, light in zip((0.2126, 0.7152, 0.0722), lights, strict=True))
        assert 1.05 / (luminance + 0.05) >= 4.5, ink


def test_it_works_without_scripts(browser: Browser, address: str, demo_data: None) -> None:
    context = patient_context(browser, base_url=address, java_script_enabled=False)
    page = context.new_page()
    page.goto("/jobs/9/box")
    reveal(page.locator("#f-side_mm")).fill("20 mm")
    page.get_by_role("button", name="Save").first.click()
    expect(page.locator("#view-front")).to_contain_text("side 20.0 mm")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#view-front")).to_contain_text("side 12.0 mm")
    context.close()


def test_what_follows_the_workshop_leaves_the_focus_where_it_is(page: Page) -> None:
    page.goto("/clocks")
    running = page.locator("#clocks a").first
    running.focus()
    with page.expect_response("**/clocks*"):
        page.evaluate("document.body.dispatchEvent(new Event('clock-ended', {bubbles: true}))")
    # an answer that has settled is told by an event, after which nothing moves the focus any more
    page.wait_for_function("document.querySelector('.htmx-request, .htmx-swapping, .htmx-settling') === null")
    expect(running).to_be_focused()
