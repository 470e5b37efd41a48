"""Takes the pictures of docs/screenshots from the demo data.

There is one of each main view, and of the bench pages at tablet and phone size.
"""

import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from ufrin import demo, logs
from ufrin.actions.job import long_work, stations
from ufrin.actions.people import tokens
from ufrin.actions.schedule import day_plan
from ufrin.devices import clock
from ufrin.store import accounts, devices, sessions
from ufrin.store.connection import Database
from ufrin.store.meshes import What
from ufrin.trial import trial_cluster, trial_database, trial_server

FOLDER = Path(__file__).parent / "screenshots"
SCALE_PORT, LEVER_PORT = 8640, 8649
DESK, TABLET, PHONE = (1280, 800), (820, 1180), (390, 844)
CHROMIUM = (
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
)

WORK: tuple[tuple[int, What], ...] = ((8, "attitudes"), (6, "directions"), (9, "directions"))

# name, size, address, and whether the whole length of the page is shown
VIEWS: tuple[tuple[str, tuple[int, int], str, bool], ...] = (
    ("board", DESK, "/", False),
    ("master", DESK, "/jobs/9/master", False),
    ("box", DESK, "/jobs/9/box", False),
    ("casts", DESK, "/jobs/8/casts", True),
    ("moulds", DESK, "/moulds", False),
    ("plan", (1280, 1000), "/plan?days=7", False),
    ("mould", DESK, "/moulds/8", True),
    ("rubber", DESK, "/jobs/9/rubber", False),
    ("checks", DESK, "/jobs/8/checks", False),
    ("faults", DESK, "/jobs/9/faults", False),
    ("clocks", TABLET, "/pours/13", False),
    ("sums", DESK, "/sums/grams?length_mm=92&width_mm=78&height_mm=31&displaced_ml=94&ratio=10:1&sg=1.13", False),
    ("sheet", DESK, "/jobs/9/sheet", True),
    ("shelf", DESK, "/shelf/rubbers", False),
)


def shoot(page: Page, address: str, file: Path, size: tuple[int, int], *, whole: bool) -> None:
    """Take one picture."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(address)
    page.evaluate("document.fonts.ready")
    page.screenshot(path=file, full_page=whole)


@contextmanager
def simulated_scales() -> Iterator[None]:
    """Run the simulated scales while the block runs."""
    command = [sys.executable, "-m", "ufrin.devices", "--port", str(SCALE_PORT), "--lever-port", str(LEVER_PORT)]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)  # noqa: S603 - our own words
    try:
        yield
    finally:
        process.terminate()
        process.wait(10)


def plan_the_week(database: Database) -> None:
    """Search for the best plan, as a worker would."""
    shop = day_plan.look(database, clock.now()).shop
    if shop is not None:
        day_plan.search(database, shop.fingerprint, clock.now())


def open_up(page: Page, address: str) -> None:
    """Show how a mould opens: answer and drawing, and the kinds of mould to choose from."""
    page.set_viewport_size({"width": DESK[0], "height": 940})
    page.goto(address + "/jobs/6/opening")
    page.locator("#section-kind > summary").click()
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER / "opening.png")


def weigh(page: Page, address: str, lever: str) -> None:
    """Weigh A of a job on the simulated scale, a little too much.

    Pictures are taken on a tablet and on a phone while B is poured.
    """

    def do(what: str, amount: float) -> None:
        page.request.post(f"{lever}/scales/0/{what}", form={"amount": str(amount)})

    def take() -> None:
        step = page.locator("#weigh").get_attribute("data-step")
        page.locator("[data-primary]:not([disabled])").click(timeout=15_000)
        page.locator(f"#weigh:not([data-step='{step}'])").wait_for()

    page.set_viewport_size({"width": TABLET[0], "height": TABLET[1]})
    do("load", 18)
    page.goto(f"{address}/jobs/9/pour")
    page.get_by_label("Who weighs").fill("Wren")
    page.get_by_role("button", name="Begin to weigh").click()
    page.wait_for_url("**/pours/*")
    page.wait_for_timeout(1500)
    for _ in range(4):  # A stirred, B shaken, the cup tared, A in hand
        take()
    do("add", float(page.locator("#weigh").get_attribute("data-target") or 0) + 3)
    page.wait_for_timeout(5000)  # it comes to rest
    for _ in range(2):
        take()
    do("add", 31)
    page.wait_for_timeout(3000)
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER / "bench.png")
    page.set_viewport_size({"width": PHONE[0], "height": PHONE[1]})
    page.wait_for_timeout(500)
    page.screenshot(path=FOLDER / "bench-phone.png")


def practise(page: Page, address: str) -> None:
    """Begin a practice, and pour into its cup."""
    page.set_viewport_size({"width": DESK[0], "height": DESK[1]})
    page.goto(f"{address}/practice")
    page.get_by_label("Who practises").fill("Wren")
    page.locator("button[value=second]").click()
    page.wait_for_url("**/practice/*")
    for step in ("do", "do", "cup", "hold"):
        page.locator(f"#weigh.step-{step}").wait_for()
        number = page.locator("#weigh").get_attribute("data-step")
        if step == "cup":
            page.get_by_role("button", name="Put an empty cup").click()
        elif page.locator(".tin-label").count():
            asked, handed = page.locator(".called").inner_text(), page.locator(".tin-label b").inner_text()
            if not asked.startswith(handed):  # chance hands a wrong one now and then
                page.get_by_role("button", name="This is the wrong tin").click()
                page.get_by_text("Right, that was the wrong tin").wait_for()
        page.locator("[data-primary]:not([disabled])").click(timeout=15_000)
        page.locator(f"#weigh:not([data-step='{number}'])").wait_for()
    page.get_by_role("button", name="Tip it far").click()
    page.wait_for_timeout(4500)
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER / "practice.png")


def enter_people(database: Database) -> dict[str, str]:
    """Enter an owner, some makers and a tablet at which one of them stands; return the cookies of owner and tablet."""
    session, tablet = tokens.new_token(), tokens.new_token()
    with database.transaction() as connection:
        owner = accounts.add(connection, name="Wren Calder", role="owner", hashed="none")
        for name in ("Isolde Marsh", "Jory Fenn", "Tamsin Pike"):
            accounts.add(connection, name=name, role="maker", hashed="none")
        sessions.begin(connection, tokens.hash_of(session), owner, longest_h=1, program="pictures")
        number = devices.join(
            connection,
            name="Bench by the window",
            kind="bench",
            token_hash=tokens.hash_of(tablet),
            joined_by="Wren Calder",
        )
        devices.stands(connection, number, "Tamsin Pike")
    return {"ufrin_session": session, "ufrin_device": tablet}


def shoot_signed_in(browser: Browser, address: str, cookies: dict[str, str]) -> None:
    """Take what a tablet at the bench begins with."""
    context = browser.new_context(viewport={"width": TABLET[0], "height": TABLET[1]}, base_url=address)
    context.add_cookies([{"name": "ufrin_device", "value": cookies["ufrin_device"], "url": address}])
    page = context.new_page()
    page.goto("/bench")
    page.evaluate("document.fonts.ready")
    page.screenshot(path=FOLDER / "bench-tablet.png")
    context.close()


def main() -> None:
    """Take all of them."""
    FOLDER.mkdir(exist_ok=True)
    logs.write_to(Path(tempfile.mkdtemp(prefix="ufrin-shots-")))
    with trial_cluster() as cluster:
        conninfo = trial_database(cluster, "shots")
        database = Database(conninfo)
        database.open()
        demo.fill(database, scale_port=SCALE_PORT)
        demo.pour_today(database, clock.now())
        demo.promise_this_week(database, clock.now())
        for number, what in WORK:  # what a worker would do
            opened = stations.open_job(database, number)
            if opened.mesh:
                long_work.ask_for(database, opened.mesh.kept.hash, what)
                long_work.work_on(database, opened.mesh.kept.hash, what)
        plan_the_week(database)
        cookies = enter_people(database)
        database.close()
        with simulated_scales(), trial_server(conninfo) as address, sync_playwright() as playwright:
            browser = playwright.chromium.launch(
                executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox", *CHROMIUM]
            )
            page = browser.new_page()
            for name, size, where, whole in VIEWS:
                shoot(page, address + where, FOLDER / f"{name}.png", size, whole=whole)
            open_up(page, address)
            weigh(page, address, f"http://127.0.0.1:{LEVER_PORT}")
            practise(page, address)
            with trial_server(conninfo, sign_in=True) as signed:
                shoot_signed_in(browser, signed, cookies)
            browser.close()


if __name__ == "__main__":
    main()
