"""Drawings of the Checks station: bars stand where time and size say, and nothing leaves the sheet."""

import xml.etree.ElementTree as ET
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.degassing.schools import SCHOOLS, School
from ufrin.core.measures.display import show
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.web.drawings.checks import LARGEST_MM, SMALLEST_MM, WIDTH, bubbles, preparation

SVG = "{http://www.w3.org/2000/svg}"


def drawn(svg: str) -> ET.Element:
    return ET.fromstring(svg.replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" ', 1))


def bars(root: ET.Element) -> list[tuple[float, float, float]]:
    """Each bar outside the patterns: its left end, its right end, its height on the sheet."""
    held = {one for pattern in root.iter(f"{SVG}pattern") for one in pattern.iter()}
    return [
        (float(bar.get("x", 0)), float(bar.get("x", 0)) + float(bar.get("width", 0)), float(bar.get("y", 0)))
        for bar in root.iter(f"{SVG}rect")
        if bar not in held
    ]


@st.composite
def chains(draw: st.DrawFn) -> list[PrepStep]:
    times = draw(st.lists(st.tuples(st.floats(1, 60), st.floats(0, 3000)), min_size=1, max_size=6))
    before, steps = 0.0, []
    for work_min, dry_min in times:
        before += work_min + dry_min
        steps.append(
            PrepStep(
                phase="first",
                do="Put <it> on",
                before_min=before,
                work_min=work_min,
                dry_min=dry_min,
                pairs=("master",),
            )
        )
    return steps[::-1]


@given(chains())
def test_steps_follow_each_other_to_the_pour(steps: list[PrepStep]) -> None:
    root = drawn(preparation(steps, show))
    found = bars(root)
    rows = sorted({y for _, _, y in found})
    assert len(rows) == len(steps)
    ends = [max(right for _, right, y in found if y == row) for row in rows]
    begins = [min(left for left, _, y in found if y == row) for row in rows]
    assert begins == sorted(begins)
    assert all(0 <= left <= right <= WIDTH for left, right, _ in found)
    for end, begin in pairwise(zip(ends, begins, strict=True)):
        assert abs(end[0] - begin[1]) < 4  # one ends where the next begins, but for the least that is drawn
    labels = [text for text in root.iter(f"{SVG}text") if text.get("y") == "14"]
    places = sorted(float(label.get("x", 0)) for label in labels)
    assert all(later - earlier > 44 for earlier, later in pairwise(places))


sizes = st.one_of(st.none(), st.floats(0.001, 50))


@given(st.lists(sizes, min_size=len(SCHOOLS), max_size=len(SCHOOLS)), st.floats(1, 1.5))
def test_bars_begin_at_the_smallest_bubble_that_is_gone(smallest: list[float | None], spread: float) -> None:
    schools = [
        School(key=key, fast_mm=size, slow_mm=size * spread if size is not None else None, is_estimate=False, text="")
        for key, size in zip(SCHOOLS, smallest, strict=True)
    ]
    root = drawn(bubbles(schools, "clear", show))
    found = bars(root)
    assert len(found) == 2 * sum(size is not None for size in smallest)
    begins = {y: min(left for left, _, row in found if row == y) for _, _, y in found}
    in_order = [begins[y] for y in sorted(begins)]
    known = [min(max(size, SMALLEST_MM), LARGEST_MM) for size in smallest if size is not None]
    for (one, size), (other, more) in pairwise(sorted(zip(in_order, known, strict=True), key=lambda pair: pair[1])):
        assert one <= other + 0.11, (size, more)  # places are written to a tenth
    assert all(0 <= left <= right <= WIDTH for left, right, _ in found)
    assert [text.text for text in root.iter(f"{SVG}text")].count("no time for it") == smallest.count(None)
