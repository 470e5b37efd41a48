"""The whole way: a tablet on the workshop's network joins and weighs; backed up, wiped, restored and compared."""

import http.cookiejar
import re
import shutil
import ssl
import stat
import subprocess
import sys
import urllib.error
import urllib.parse
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest
from networks import Machine, two_machines
from playwright.sync_api import Page, Playwright, expect
from psycopg.rows import dict_row
from running import ROOT, end, free_port, place_of_its_own
from signing import PASSWORD
from snapshot import Snapshot, put_back
from waiting import PATIENCE_S, patient_context, wait_until

from ufrin.store import schema
from ufrin.store.cluster import Cluster

AMMONITE = 8
RUNNING: list[subprocess.Popen[str]] = []


class Desk:
    """A person's browser at a desk, as far as forms go; it trusts the workshop's certificate alone."""

    def __init__(self, at: Machine, address: str, trusts: Path | None = None) -> None:
        self._at, self.address = at, address
        handlers: list[urllib.request.BaseHandler] = [urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar())]
        if trusts:
            handlers.append(urllib.request.HTTPSHandler(context=ssl.create_default_context(cafile=str(trusts))))
        self._opener = urllib.request.build_opener(*handlers)

    def ask(self, path: str, **form: str) -> str:
        data = urllib.parse.urlencode(form).encode() if form else None

        def work() -> str:
            with self._opener.open(self.address + path, data, timeout=PATIENCE_S) as answer:
                return str(answer.read().decode())

        return self._at.do(work)

    def answers(self) -> bool:
        try:
            return bool(self.ask("/healthz"))
        except OSError:
            return False


@pytest.fixture
def var() -> Iterator[Path]:
    with place_of_its_own() as folder:
        yield folder
        while RUNNING:  # what a failure left running would keep its database up
            process = RUNNING.pop()
            process.kill()
            process.communicate(timeout=PATIENCE_S)


def told(var: Path) -> dict[str, str]:
    import os

    return os.environ | {
        "UFRIN_VAR": str(var),
        "PYTHONPATH": str(ROOT / "src"),
        "PYTHONUNBUFFERED": "1",
        "UFRIN_WORKERS": "0",
    }


def started(var: Path, at: Machine, *words: str) -> subprocess.Popen[str]:
    command = [*at.within, sys.executable, "-m", "ufrin", "start", *words]
    process = subprocess.Popen(command, env=told(var), stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    RUNNING.append(process)
    return process


def line(process: subprocess.Popen[str]) -> str:
    return process.stdout.readline() if process.stdout else ""


def command(var: Path, *words: str) -> str:
    done = subprocess.run(
        [sys.executable, "-m", "ufrin", *words], env=told(var), check=False, capture_output=True, text=True
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


def rows_of(var: Path) -> dict[str, list[str]]:
    cluster = Cluster(var / "postgres")
    cluster.start()
    with psycopg.connect(cluster.conninfo("ufrin"), options="-c timezone=UTC") as connection:
        names = connection.execute("select tablename from pg_tables where schemaname = 'public'").fetchall()
        # what is a machine's own is not in a backup: who is signed in, the queue, and the list of backups made since
        kept = [
            name for (name,) in names if not re.match(r"procrastinate|_?yoyo|sessions|one_time|failed|backups", name)
        ]
        return {
            name: sorted(row[0] for row in connection.execute(f'select t::text from "{name}" t').fetchall())
            for name in kept
        }


def weigh(page: Page) -> None:
    """Weigh a whole batch by typing, as the page leads."""
    for _ in range(40):
        weigh = page.locator("#weigh")
        step, kind = weigh.get_attribute("data-step"), (weigh.get_attribute("class") or "").removeprefix("step-")
        if kind in {"cure", "done"}:
            return
        if kind == "weigh":
            page.locator("#net_g").fill(f"{float(weigh.get_attribute('data-target') or 0):.2f} g")
            page.locator("#net_g").press("Enter")
        elif kind == "leftover":
            page.locator("#net_g").fill("20 g")
            page.locator("[data-primary]").click()
        else:
            page.locator("[data-primary]").click()
        page.wait_for_function(
            "step => document.getElementById('weigh').dataset.step !== step || document.querySelector('.sure')",
            arg=step,
        )
        if weigh.get_attribute("data-step") == step and page.locator(".sure input").count():
            page.locator(".sure input").check()
            page.locator("[data-primary]").click()
            expect(weigh).not_to_have_attribute("data-step", step or "")
    raise AssertionError("the batch does not end")


def test_a_tablet_joins_weighs_and_all_of_it_outlives_the_machine(
    var: Path, demo_kept: Snapshot, driver: Playwright
) -> None:
    port = str(free_port())
    cluster = Cluster(var / "postgres")
    cluster.start()
    schema.bring_up_to_date(cluster.database("ufrin"))
    with psycopg.connect(cluster.conninfo("ufrin"), row_factory=dict_row) as connection:
        put_back(connection, demo_kept)
        connection.execute("update workshop set demo = null")
    cluster.stop()
    with two_machines() as (shop, tablet):
        # nobody else is let near before there is an owner
        refused = started(var, shop, "--host", shop.address, "--port", port)
        assert "Nobody owns this workshop yet" in (refused.communicate(timeout=PATIENCE_S)[0] or "")
        assert refused.returncode == 1
        process = started(var, shop, "--port", port)
        code = line(process).split("code:")[1].strip()
        assert line(process).startswith(f"Ufrin serves on http://127.0.0.1:{port}")
        here = Desk(shop, f"http://127.0.0.1:{port}")
        wait_until(here.answers, "it does not answer")
        here.ask("/first-owner", code=code, name="Wren", password=PASSWORD, again=PASSWORD)
        assert not Desk(tablet, f"http://{shop.address}:{port}").answers()  # this machine alone
        end(process, 15)

        process = started(var, shop, "--host", shop.address, "--port", port)
        address = f"https://{shop.address}:{port}"
        assert line(process).startswith(f"Ufrin serves on {address}")
        desk = Desk(tablet, address, var / "certificates" / "workshop.crt")
        wait_until(desk.answers, "it does not answer")
        with pytest.raises(urllib.error.URLError, match="CERTIFICATE_VERIFY_FAILED"):
            Desk(tablet, address, Path(ssl.get_default_verify_paths().openssl_cafile)).ask("/healthz")
        desk.ask("/sign-in", name="wren", password=PASSWORD)
        page = desk.ask("/devices/code", asked="1")
        code = re.findall(r'code-figure">([\w-]+)<', page)[0]
        assert address in page  # the QR code leads to this very address

        browser_there = var / "chromium"
        browser_there.write_text(f'#!/bin/sh\nexec {" ".join(tablet.within)} /usr/bin/chromium-headless-shell "$@"\n')
        browser_there.chmod(browser_there.stat().st_mode | stat.S_IXUSR)
        browser = driver.chromium.launch(executable_path=str(browser_there), args=["--no-sandbox", "--disable-gpu"])
        context = patient_context(
            browser, base_url=address, viewport={"width": 820, "height": 1180}, ignore_https_errors=True
        )
        bench = context.new_page()
        bench.goto(f"/join?code={code}")
        bench.get_by_label("What this device is called").fill("Bench by the window")
        bench.get_by_role("button", name="Join").click()
        bench.get_by_role("button", name="Wren").click()
        expect(bench.locator(".who-stands")).to_contain_text("Wren stands here")
        assert bench.evaluate("window.isSecureContext && 'wakeLock' in navigator && 'mediaDevices' in navigator")
        bench.goto(f"/jobs/{AMMONITE}/pour")
        expect(bench.get_by_label("Who weighs")).to_have_value("Wren")
        bench.get_by_role("button", name="Begin to weigh").click()
        bench.wait_for_url("**/pours/*")
        number = int(bench.url.rsplit("/", 1)[1])
        bench.goto(f"/pours/{number}?scale=typed")
        weigh(bench)
        expect(bench.locator("h1")).to_have_text("It cures")
        bench.goto("/settings")
        expect(bench.locator("h1")).to_have_text("You may not do this")
        end(process, 15)

        # backed up, wiped, restored, compared
        file = var.parent / f"{var.name}.zip"
        assert "Backed up" in command(var, "backup", str(file))
        before = rows_of(var)
        assert sum("Wren at Bench by the window" in row for row in before["pour_entries"]) > 8
        Cluster(var / "postgres").drop()
        shutil.rmtree(var / "log")
        assert "Every table matches it" in command(var, "restore", str(file))
        file.unlink()
        assert rows_of(var) == before

        process = started(var, shop, "--host", shop.address, "--port", port)
        assert address in line(process)
        wait_until(desk.answers, "it does not answer after it was restored")
        bench.goto(f"/pours/{number}")  # the tablet is still joined, and the pour where it was
        expect(bench.locator("h1")).to_have_text("It cures")
        browser.close()
        with pytest.raises(urllib.error.HTTPError, match="401|403"):
            desk.ask("/jobs", name="x")  # whoever was signed in signs in again
        end(process, 15)
