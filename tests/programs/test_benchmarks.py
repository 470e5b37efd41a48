"""The benchmarks measure: each part in a short form, whose figures say nothing but that there are some."""

import os
import re
import subprocess
import sys

import pytest
from running import ROOT
from waiting import PATIENCE_S

PARTS = {"pages": 9, "clocks": 5, "pours": 7, "moulds": 4, "schedule": 5, "safekeeping": 5, "meshes": 15}


def parts_of_the_command() -> set[str]:
    text = (ROOT / "benchmarks" / "__main__.py").read_text()
    return set(re.findall(r'^    "(\w+)": \w+,$', text.split("PARTS = {")[1].split("}")[0], flags=re.MULTILINE))


def test_every_part_is_tried() -> None:
    assert parts_of_the_command() == set(PARTS)


@pytest.mark.parametrize("part", PARTS)
def test_a_part_measures_and_tells_its_aims(part: str) -> None:
    told = os.environ | {"UFRIN_BENCH_SHORT": "1", "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [sys.executable, "benchmarks", part],
        cwd=ROOT,
        env=told,
        check=False,
        capture_output=True,
        text=True,
        timeout=PATIENCE_S,
    )
    assert done.returncode == 0, done.stderr[-3000:]
    figures = [float(one) for one in re.findall(r"^.{58,}? +(-?[\d.]+)   aim \S", done.stdout, flags=re.MULTILINE)]
    assert len(figures) >= PARTS[part], done.stdout
    assert all(0 <= figure < 1e6 for figure in figures), done.stdout
