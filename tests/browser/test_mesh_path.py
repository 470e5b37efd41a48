"""A mesh in the browser: upload, turn, compare, choose, cut list; while a real worker works."""

import os
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from shapes import cup

from ufrin.core.mesh_files import write_stl
from ufrin.store.cluster import Cluster

pytestmark = pytest.mark.browser
ROOT = Path(__file__).parents[2]


@pytest.fixture
def worker(cluster: Cluster, tmp_path: Path) -> Iterator[None]:
    told = os.environ | {"UFRIN_DATABASE_URL": cluster.database("browser"), "UFRIN_VAR": str(tmp_path), "PYTHONPATH": str(ROOT / "src")}
    process = subprocess.Popen([sys.executable, "-m", "ufrin", "worker"], env=told, stdout=subprocess.DEVNULL)
    yield
    process.terminate()
    process.wait(20)


def test_upload_turn_compare_choose_and_cut(page: Page, worker: None, tmp_path: Path) -> None:
    page.goto("/jobs/2/master")  # nothing is known of it yet
    page.locator("#f-file").set_input_files({"name": "letter.stl", "mimeType": "model/stl", "buffer": b"Dear all"})
    page.get_by_role("button", name="Upload").click()
    expect(page.locator("#h-file")).to_contain_text(re.compile("cut short|none of"))
    page.locator("#f-file").set_input_files({"name": "cup.stl", "mimeType": "model/stl", "buffer": write_stl(cup())})
    page.get_by_role("button", name="Upload").click()
    expect(page.locator("#mesh")).to_contain_text("cup.stl")
    expect(page.locator(".answer .big")).to_contain_text(re.compile(r"24\.8"))
    expect(page.locator("#view-master-front svg")).to_be_visible()
    page.get_by_role("button", name="upside down").click()
    expect(page.locator("#f-up")).to_have_value("0, 0, -1")
    page.locator("#f-shrink_pct").fill("10")
    page.keyboard.press("Tab")
    expect(page.locator(".answer .big")).to_contain_text("33.0")
    page.locator("#f-mass_g").fill("20 g")
    page.keyboard.press("Tab")
    page.keyboard.press("Escape")
    page.keyboard.press("2")
    page.wait_for_url("**/box")
    page.keyboard.press("w")
    page.wait_for_url("**/ways")
    expect(page.locator("table.ways")).to_contain_text("its x upwards", timeout=30_000)
    expect(page.locator("table.ways")).to_contain_text("does not fit")
    page.locator("table.ways tr", has_text="Length of drain pipe").filter(has_text="upside down").get_by_role("button", name="Take it").click()
    page.wait_for_url("**/box")
    expect(page.locator(".answer .sentence")).to_contain_text("Mould it in Length of drain pipe")
    page.locator("#f-shape").select_option("contour")
    expect(page.locator(".answer .sentence")).to_contain_text("strip")
    expect(page.locator(".told")).to_contain_text("Cut list")
    page.locator("#f-shape").select_option("rectangle")
    expect(page.locator("#view-plan svg")).to_be_visible()
    with page.expect_download() as saved:
        page.get_by_role("link", name="DXF").click()
    assert saved.value.suggested_filename == "job-2-cut.dxf"
