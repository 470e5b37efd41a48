"""The benchmarks measure: each part in a short form, whose figures say nothing but that there are some."""

import os
import re
import subprocess
import sys

from running import ROOT
from waiting import PATIENCE_S

PARTS = {"pages": 9, "clocks": 5, "pours": 7, "moulds": 3, "schedule": 5, "safekeeping": 5, "meshes": 15}


def parts_of_the_command() -> set[str]:
    text = (ROOT / "benchmarks" / "__main__.py").read_text()
    return set(re.findall(r'^    "(\w+)": \w+,$', text.split("PARTS = {")[1].split("}")[0], flags=re.MULTILINE))


def test_every_part_is_tried() -> None:
    assert parts_of_the_command() == set(PARTS)


def test_every_part_measures_and_tells_its_aims() -> None:
    told = os.environ | {"UFRIN_BENCH_SHORT": "1", "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [sys.executable, "benchmarks"],
        cwd=ROOT,
        env=told,
        check=False,
        capture_output=True,
        text=True,
        timeout=3 * PATIENCE_S,
    )
    assert done.returncode == 0, done.stderr[-3000:]
    by_part = dict(re.findall(r"^(\w+):\n((?:.{58,}\n)+)", done.stdout, flags=re.MULTILINE))
    assert set(by_part) == set(PARTS), done.stdout
    for part, lines in by_part.items():
        figures = [float(one) for one in re.findall(r"^.{58,}? +(-?[\d.]+)   aim \S", lines, flags=re.MULTILINE)]
        assert len(figures) >= PARTS[part], lines
        assert all(abs(figure) < 1e6 for figure in figures), lines  # a difference may be less than nothing here
