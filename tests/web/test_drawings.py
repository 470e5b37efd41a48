"""Drawings: well-formed, to scale, and no word on top of another, whatever the box."""

import re
from itertools import combinations
from xml.etree import ElementTree as ET

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.boxes import BoxPlan, Master, box
from ufrin.core.quantities import show
from ufrin.web.drawings.box import BoxScene, views
from ufrin.web.drawings.ink import LINE_PX, TEXT_PX, spread, width_px
from ufrin.web.drawings.readings import Reading, error_bars

SVG = "{http://www.w3.org/2000/svg}"
mm = st.floats(1, 400)
clearance = st.floats(0, 100)


@st.composite
def scenes(draw: st.DrawFn) -> BoxScene:
    length, width, height, count = draw(mm), draw(mm), draw(mm), draw(st.integers(1, 9))
    outline = draw(st.sampled_from(["rectangle", "round"]))
    width = length if outline == "round" else width
    bed = draw(st.just(0.0) | clearance)
    sunk = min(bed, height) * draw(st.floats(0, 0.9))
    said = {name: draw(clearance) for name in ("side_mm", "over_mm", "gap_mm")} | {"under_mm": draw(st.just(0.0) | clearance)}
    one = Master(length_mm=length, width_mm=width, height_mm=height, volume_ml=None, count=count, outline=outline)
    made = box(BoxPlan(masters=(one,), shape=draw(st.sampled_from(["rectangle", "round"])), bed_mm=bed, sunk_mm=sunk, **said))
    return BoxScene(
        box=made, length_mm=length, width_mm=width, height_mm=height, outline=outline, count=count, bed_mm=bed, sunk_mm=sunk,
        wall_mm=draw(st.floats(0.5, 40)), lift=draw(st.sampled_from(["", "lift 92 g"])), **said,
    )  # fmt: skip


def text_boxes(root: ET.Element) -> list[tuple[str, tuple[float, float, float, float]]]:
    """Where each text stands: left, top, right, bottom; turned texts stand upright."""
    found = []
    turned = {child: group for group in root.iter(f"{SVG}g") for child in group}
    for text in root.iter(f"{SVG}text"):
        said = text.text or ""
        x, y, wide = float(text.get("x", 0)), float(text.get("y", 0)) - TEXT_PX * 0.35, width_px(said) * 0.9
        x -= {"start": 0, "middle": wide / 2, "end": wide}[text.get("text-anchor", "start")]
        place = (x, y - TEXT_PX * 0.4, x + wide, y + TEXT_PX * 0.4)
        if text in turned:
            at = [float(number) for number in re.findall(r"-?[\d.]+", turned[text].get("transform", ""))]
            place = (at[0] - TEXT_PX * 0.4, at[1] - wide / 2, at[0] + TEXT_PX * 0.4, at[1] + wide / 2)
        found.append((said, place))
    return found


@given(scenes(), st.sampled_from(["metric", "us"]))
def test_no_text_overlaps_another_or_leaves_the_sheet(scene: BoxScene, units: str) -> None:
    for view in views(scene, lambda value, kind: show(value, kind, units)):  # type: ignore[arg-type]
        root = ET.fromstring(view.svg)
        width, height = float(root.get("width", 0)), float(root.get("height", 0))
        texts = text_boxes(root)
        for (one, a), (other, b) in combinations(texts, 2):
            apart = a[2] <= b[0] or b[2] <= a[0] or a[3] <= b[1] or b[3] <= a[1]
            assert apart, (view.key, one, other, a, b)
        for said, (left, top, right, bottom) in texts:
            assert left >= -1, (view.key, said)
            assert top >= -1, (view.key, said)
            assert right <= width + 1, (view.key, said)
            assert bottom <= height + 1, (view.key, said)
        assert width < 520
        assert height < 420


def test_the_three_views_share_one_scale() -> None:
    one = Master(length_mm=92, width_mm=78, height_mm=31, volume_ml=121)
    made = box(BoxPlan(masters=(one,)))
    scene = BoxScene(
        box=made, length_mm=92, width_mm=78, height_mm=31, outline="rectangle", count=1, side_mm=12, over_mm=12, under_mm=0, gap_mm=10, bed_mm=0,
        sunk_mm=0, wall_mm=6,
    )  # fmt: skip
    masters = {}
    for view in views(scene, show):
        (rect,) = [r for r in ET.fromstring(view.svg).iter(f"{SVG}rect") if r.get("fill") == f"url(#{view.key}-master)"]
        masters[view.key] = (float(rect.get("width", 0)), float(rect.get("height", 0)))
    px = scene.px_per_mm
    assert masters["front"] == pytest.approx((92 * px, 31 * px), abs=0.02)
    assert masters["side"] == pytest.approx((78 * px, 31 * px), abs=0.02)
    assert masters["plan"] == pytest.approx((92 * px, 78 * px), abs=0.02)


@given(st.lists(st.floats(0, 100), min_size=1, max_size=6))
def test_spread_keeps_order_distance_and_limits(wanted: list[float]) -> None:
    placed = spread(wanted, LINE_PX, 0, 100)
    order = sorted(range(len(wanted)), key=lambda index: wanted[index])
    steps = [placed[b] - placed[a] for a, b in zip(order, order[1:], strict=False)]
    assert all(step >= LINE_PX - 1e-6 for step in steps)
    assert min(placed) >= -1e-6
    assert max(placed) <= 100 + 1e-6


def test_error_bars_stand_on_one_scale() -> None:
    exact, rough = error_bars([Reading(value=121.5, plus_minus=0.0), Reading(value=120, plus_minus=3.5)])
    at = [float(ET.fromstring(bar).find("circle").get("cx")) for bar in (exact, rough)]  # type: ignore[union-attr, arg-type]
    assert at[0] - at[1] == pytest.approx(1.5 * 180 / 7, abs=0.02)
