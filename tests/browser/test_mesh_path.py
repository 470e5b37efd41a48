"""A mesh in the browser: upload, turn, compare, choose, cut list; while a real worker works."""

import os
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from reveal import reveal
from shapes import cup

from ufrin.core.mesh.written_files import write_stl
from ufrin.store.cluster import Cluster

pytestmark = pytest.mark.browser
ROOT = Path(__file__).parents[2]


@pytest.fixture
def worker(cluster: Cluster, tmp_path: Path) -> Iterator[None]:
    told = os.environ | {
        "UFRIN_DATABASE_URL": cluster.database("browser"),
        "UFRIN_VAR": str(tmp_path),
        "PYTHONPATH": str(ROOT / "src"),
    }
    process = subprocess.Popen([sys.executable, "-m", "ufrin", "worker"], env=told, stdout=subprocess.DEVNULL)
    yield
    process.terminate()
    process.wait(20)


def test_upload_turn_compare_choose_and_cut(page: Page, worker: None, tmp_path: Path) -> None:
    page.goto("/jobs/2/master")  # nothing is known of it yet
    reveal(page.locator("#f-file")).set_input_files(
        {"name": "letter.stl", "mimeType": "model/stl", "buffer": b"Dear all"}
    )
    page.locator(".upload button").click()
    expect(page.locator("#h-file")).to_contain_text(re.compile("cut short|none of"))
    reveal(page.locator("#f-file")).set_input_files(
        {"name": "cup.stl", "mimeType": "model/stl", "buffer": write_stl(cup())}
    )
    page.locator(".upload button").click()
    expect(page.locator("#mesh")).to_contain_text("cup.stl")
    expect(page.locator(".answer .big")).to_contain_text(re.compile(r"24\.8"))
    expect(page.locator("#view-master-front svg")).to_be_visible()
    reveal(page.locator("#asked-stands").get_by_text("upside down")).click()
    expect(page.locator("#f-up")).to_have_value("0, 0, -1")
    reveal(page.locator("#f-shrink_pct")).fill("10")
    page.keyboard.press("Tab")
    expect(page.locator(".answer .big")).to_contain_text("33.0")
    reveal(page.locator("#f-mass_g")).fill("20 g")
    page.keyboard.press("Tab")
    page.keyboard.press("Escape")
    page.keyboard.press("3")
    page.wait_for_url("**/box")
    page.keyboard.press("w")
    page.keyboard.press("w")
    page.wait_for_url("**/ways")
    page.locator("#ways summary").click()
    expect(page.locator("table.ways").first).to_contain_text("its x upwards")
    expect(page.locator("table.ways").last).to_contain_text("does not fit")
    page.locator("table.ways tr", has_text="Length of drain pipe").filter(has_text="upside down").get_by_role(
        "button", name="Use this box"
    ).click()
    page.wait_for_url("**/box")
    expect(page.locator(".answer .sentence")).to_contain_text("Mould it in Length of drain pipe")
    reveal(page.locator("#f-shape")).select_option("contour")
    expect(page.locator(".answer .sentence")).to_contain_text("strip")
    expect(page.locator("#section-cut")).to_contain_text("Cut list")
    reveal(page.locator("#f-shape")).select_option("rectangle")
    expect(page.locator("#view-plan svg")).to_be_visible()
    with page.expect_download() as saved:
        reveal(page.locator("#section-cut").get_by_text("DXF", exact=True)).click()
    assert saved.value.suggested_filename == "job-2-cut.dxf"


def test_choose_a_pull_move_a_vent_slide_the_level_and_export(page: Page, worker: None) -> None:
    page.goto("/jobs/8/opening")  # a turned finial, standing
    reveal(page.locator("#f-show")).select_option(label="the front")
    along = re.compile("^Its y (up|down)wards$")  # a turned finial is as good from the front as from the back
    expect(page.locator("#pulls")).to_contain_text(re.compile("Its y (up|down)wards"))
    expect(page.locator("#pulls progress")).to_have_count(0)
    page.locator("#pulls li", has=page.get_by_text(along)).get_by_text("Lay it this way").first.click()
    expect(page.locator("#pulls li.is-chosen")).to_contain_text(re.compile("Its y (up|down)wards"))
    reveal(page.locator("#style-two-part button")).click()
    expect(page.locator(".answer .big")).to_have_text("Two parts over a clay bed")
    expect(page.locator("#view-mould-plan .d-seam").first).to_be_visible()
    # the turning view was drawn, and draws again when it is turned by keys
    page.locator("#sheet-turning > summary").click()
    canvas = page.locator("#turning canvas")
    canvas.scroll_into_view_if_needed()

    def drawn() -> int:
        return int(canvas.evaluate("node => node.drawn ?? 0"))

    page.wait_for_function("() => document.querySelector('#turning canvas').drawn > 0")
    before = drawn()
    canvas.focus()
    page.keyboard.press("ArrowLeft")
    turned = drawn()
    assert turned > before
    # the level sinks in the drawing and in the turning view alike
    full = page.locator("#view-cast-front .d-liquid").get_attribute("height")
    page.locator("#level-turning-cast").fill("40")
    low = float(page.locator("#view-cast-front .d-liquid").get_attribute("height") or 0)
    assert low == pytest.approx(0.4 * float(full or 0), rel=0.05)
    assert drawn() > turned
    # another vent, dragged down the drawing: it is put on the surface there, and the slider stays where it was
    reveal(page.locator("#holes").get_by_text("Add a vent")).click()
    page.locator("#sheet-cast > summary").click()
    vent = page.locator("#view-cast-front [data-place=vent] .d-tag").last
    expect(vent).to_be_visible()
    vent.scroll_into_view_if_needed()
    place = page.locator("input[form=move-vent-1][name=up]")
    was, box, sheet = place.input_value(), vent.bounding_box(), page.locator("#view-cast-front svg").bounding_box()
    assert box
    assert sheet
    page.mouse.move(box["x"] + 5, box["y"] + 5)
    page.mouse.down()
    page.mouse.move(sheet["x"] + sheet["width"] / 3, sheet["y"] + sheet["height"] * 0.6, steps=5)
    page.mouse.up()
    expect(place).not_to_have_value(was)
    expect(page.locator("#holes")).to_contain_text("by hand")
    expect(page.locator("#level-cast")).to_have_value("40")
    # by keys: typed, and back by undo
    place.fill("60 mm")
    page.keyboard.press("Enter")
    expect(place).not_to_have_value("60")
    for name in ("Parting surface, STL", "Plan, DXF"):
        with page.expect_download() as saved:
            reveal(page.get_by_text(name)).click()
        assert saved.value.suggested_filename.startswith("job-8-p")
