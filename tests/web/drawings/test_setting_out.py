"""The grid at true size: whole sheets that together cover the box, with every master where it stands."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import box
from ufrin.core.master.master_form import Master
from ufrin.web.drawings.setting_out import PAPER_MM, setting_out


@given(st.floats(10, 90), st.floats(10, 90), st.integers(1, 12))
def test_the_sheets_cover_the_box_at_true_size(long: float, wide: float, count: int) -> None:
    kinds = (Master(length_mm=long, width_mm=wide, height_mm=20, volume_ml=1, count=count),)
    made = box(BoxPlan(masters=kinds))
    sheets = setting_out(made, kinds, "Cleats <4>", PAPER_MM["metric"])
    windows = [
        [float(number) for number in re.search(r'<svg x="0"[^>]*viewBox="([^"]+)"', sheet)[1].split()]
        for sheet in sheets
    ]
    length, width = made.inside_mm
    assert min(left for left, *_ in windows) == pytest.approx(-length / 2, abs=0.01)
    assert max(left + across for left, _, across, _ in windows) >= length / 2
    assert max(top + down for _, top, _, down in windows) >= width / 2
    for sheet, (_, _, across, down) in zip(sheets, windows, strict=True):
        drawn = re.search(r'<svg x="0" y="0" width="([\d.]+)" height="([\d.]+)"', sheet)
        assert (float(drawn[1]), float(drawn[2])) == (across, down)  # a millimetre is a millimetre
        assert "Cleats &lt;4&gt;" in sheet
        assert sheet.count("<circle") == count
    places = re.findall(r'<circle cx="([-\d.]+)" cy="([-\d.]+)"', sheets[0])
    assert [(float(x), -float(y)) for x, y in places] == [
        (pytest.approx(place.x_mm, abs=0.01), pytest.approx(place.y_mm, abs=0.01)) for place in made.layout.places
    ]


def test_a_huge_box_has_no_grid() -> None:
    kinds = (Master(length_mm=3000, width_mm=3000, height_mm=20, volume_ml=9),)
    assert setting_out(box(BoxPlan(masters=kinds)), kinds, "Hull", PAPER_MM["us"]) == []
