"""Pictures: every choice by eye has one, in marks that the style sheet knows, and on its sheet."""

import re
from pathlib import Path

import pytest
from bs4 import BeautifulSoup

from ufrin.core.faults.causes import SYMPTOMS
from ufrin.core.master.measuring_ways import WAY_OF
from ufrin.core.opening.mould_styles import STYLES
from ufrin.web.drawings.pictures import HEIGHT, PICTURES, WIDTH, picture, picture_hatches

STYLE_SHEET = Path("src/ufrin/web/static/drawing.css").read_text()


def test_every_choice_has_its_picture() -> None:
    assert PICTURES["kinds"].keys() == set(STYLES)
    assert PICTURES["ways"].keys() == set(WAY_OF)
    assert PICTURES["symptoms"].keys() == set(SYMPTOMS)


@pytest.mark.parametrize(("group", "key"), [(group, key) for group in PICTURES for key in PICTURES[group]])
def test_its_marks_are_known_and_on_the_sheet(group: str, key: str) -> None:
    drawn = BeautifulSoup(picture(group, key), "xml").svg
    hatches = {pattern["id"] for pattern in BeautifulSoup(picture_hatches(), "xml").select("pattern")}
    marks = drawn.select("path")
    assert len(marks) > 1
    for mark in marks:
        assert f".{mark['class']} " in STYLE_SHEET
        if mark.get("fill"):
            assert mark["fill"][5:-1] in hatches
        # absolute points alone: the handles of a curve may lie outside
        for letter, x, y in re.findall(r"([ML])(-?[\d.]+),(-?[\d.]+)", mark["d"]):
            assert 0 <= float(x) <= WIDTH, (letter, x)
            assert 0 <= float(y) <= HEIGHT, (letter, y)
