"""Takes the pictures of docs/screenshots from the demo data: one of each main view, and the bench pages at tablet and phone size."""

import tempfile
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from ufrin import demo, logs
from ufrin.actions import jobs, meshes
from ufrin.store.connection import Database
from ufrin.trial import trial_cluster, trial_database, trial_server

FOLDER = Path(__file__).parent / "screenshots"
DESK, TABLET, PHONE = (1280, 800), (820, 1180), (390, 844)
CHROMIUM = ("--disable-gpu", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--disable-quic")

# name, size, address, and whether the whole length of the page is shown
VIEWS: tuple[tuple[str, tuple[int, int], str, bool], ...] = (
    ("board", DESK, "/", False),
    ("master", DESK, "/jobs/9/master", False),
    ("box", DESK, "/jobs/9/box", False),
    ("box-gang", DESK, "/jobs/6/box", False),
    ("box-strip", DESK, "/jobs/5/box", False),
    ("box-pot", DESK, "/jobs/3/box", False),
    ("cut-list", DESK, "/jobs/5/box", True),
    ("ways", DESK, "/jobs/8/ways", False),
    ("rubber", DESK, "/jobs/9/rubber", False),
    ("sheet", DESK, "/jobs/9/sheet", True),
    ("shelf", DESK, "/shelf", False),
    ("rubber-form", DESK, "/shelf/rubbers/1", False),
    ("rubber-tablet", TABLET, "/jobs/9/rubber", False),
    ("board-phone", PHONE, "/", False),
    ("master-phone", PHONE, "/jobs/5/master", False),
    ("box-phone", PHONE, "/jobs/9/box", False),
    ("rubber-phone", PHONE, "/jobs/9/rubber", False),
)


def shoot(page: Page, address: str, file: Path, size: tuple[int, int], *, whole: bool) -> None:
    """Take one picture."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(address)
    page.evaluate("document.fonts.ready")
    page.screenshot(path=file, full_page=whole)


def main() -> None:
    """Take all of them."""
    FOLDER.mkdir(exist_ok=True)
    logs.write_to(Path(tempfile.mkdtemp(prefix="ufrin-shots-")))
    with trial_cluster() as cluster:
        conninfo = trial_database(cluster, "shots")
        database = Database(conninfo)
        database.open()
        demo.fill(database)
        opened = jobs.open_job(database, 8)
        if opened.mesh:  # what a worker would do
            meshes.ask_to_compare(database, opened.mesh)
            meshes.work_on(database, opened.mesh.kept.hash, "attitudes")
        database.close()
        with trial_server(conninfo) as address, sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", *CHROMIUM])
            page = browser.new_page()
            for name, size, where, whole in VIEWS:
                shoot(page, address + where, FOLDER / f"{name}.png", size, whole=whole)
            browser.close()


if __name__ == "__main__":
    main()
