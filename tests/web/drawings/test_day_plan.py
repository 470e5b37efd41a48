"""The lanes of the plan: one line of time on which nights are narrow, bars at their times, text where it fits."""

import re
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.schedule.day_plan import DayPlan, DayStep
from ufrin.web.drawings.day_plan import CHAR_PX, LABEL, WIDTH, PlanView, axis, day_plan_svg

H, DAY = 3600.0, 86_400.0
WORKING = tuple((day * DAY + begin * H, day * DAY + end * H) for day in range(3) for begin, end in ((8, 12), (13, 17)))


@given(st.lists(st.floats(0, 3 * DAY), min_size=2, max_size=20))
def test_later_is_further_right_and_within_the_drawing(times: list[float]) -> None:
    line = axis((0.0, 3 * DAY), WORKING)
    places = [line.x(one) for one in sorted(times)]
    assert all(earlier <= later for earlier, later in pairwise(places))
    assert all(LABEL <= one <= WIDTH + 1e-6 for one in places)


def test_an_hour_of_the_night_is_narrower_than_one_of_work_and_all_working_hours_are_alike() -> None:
    line = axis((0.0, 3 * DAY), WORKING)
    wide = [line.x(begin + H) - line.x(begin) for begin, _ in WORKING]
    assert wide == pytest.approx([wide[0]] * len(wide))
    assert line.x(20 * H) - line.x(19 * H) < wide[0] / 5
    assert (line.x(0.0), line.x(3 * DAY)) == (pytest.approx(LABEL), pytest.approx(WIDTH))
    assert (line.x(-DAY), line.x(9 * DAY)) == (line.x(0.0), line.x(3 * DAY))


def step(key: str, begin_h: float, hands_h: float, end_h: float, **more: object) -> DayStep:
    told: dict[str, object] = {"job": "Cleat", "label": "Pour the <rubber>", "person": "Wren", "uses": ("oven",)} | more
    return DayStep(key=key, begins_s=begin_h * H, hands_off_s=hands_h * H, ends_s=end_h * H, **told)  # type: ignore[arg-type]


def drawn(*steps: DayStep) -> str:
    plan = DayPlan(steps=steps, start_s=0.0, late_s=0.0, gap=0.0, is_proven=True)
    view = PlanView(
        span=(8 * H, 2 * DAY),
        working=WORKING,
        now_s=9 * H,
        days=((8 * H, "Mon 2 Mar"), (DAY, "Tue 3 Mar")),
        hours=tuple((hour * H, f"{hour}:00") for hour in (8, 10, 14, 16)),
    )
    return day_plan_svg(plan, ["Wren", "Tamsin"], view, lambda key: f"/plan?step={key}")


def test_lanes_of_people_things_and_jobs_show_each_step_where_it_belongs() -> None:
    svg = drawn(step("a&b", 9, 10, 12), step("wait", 12, 12, 16, person="", uses=(), is_under_way=True))
    assert [name for name in ("Wren", "Tamsin", "oven", "Cleat") if f">{name}<" in svg] == [
        "Wren",
        "Tamsin",
        "oven",
        "Cleat",
    ]
    assert svg.count('data-drag="a&amp;b"') == 3  # its person, its thing, its job
    assert 'data-drag="wait"' not in svg
    assert "&lt;rubber&gt;" in svg
    assert svg.count("seq-now") == 1


def test_what_goes_on_at_once_in_one_lane_lies_below_each_other() -> None:
    svg = drawn(step("a", 9, 10, 15), step("b", 11, 12, 16, person="Tamsin", uses=()))
    bars = re.findall(r'data-drag="(\w)"[^>]*>.*?<rect class="sch-alone" x="[\d.]+" y="([\d.]+)"', svg)
    of_job = dict(bars[-2:])
    assert float(of_job["b"]) > float(of_job["a"])


@given(st.lists(st.tuples(st.floats(8, 40), st.floats(0, 3), st.floats(0, 9)), min_size=1, max_size=8))
def test_no_text_is_wider_than_its_bar(times: list[tuple[float, float, float]]) -> None:
    steps = [step(f"s{number}", at, at + hands, at + hands + alone) for number, (at, hands, alone) in enumerate(times)]
    for link in re.findall(r"<a href.*?</a>", drawn(*steps)):
        rects = [
            tuple(map(float, one))
            for one in re.findall(r'<rect class="[\w-]+" x="([\d.]+)" y="[\d.]+" width="([\d.]+)"', link)
        ]
        right = max(x + wide for x, wide in rects)
        for x, text in re.findall(
            r'<text class="sch-on-\w+" aria-hidden="true" x="([\d.]+)" y="[\d.]+">([^<]*)</text>', link
        ):
            shown = text.replace("&lt;", "<").replace("&gt;", ">")
            assert float(x) + CHAR_PX * len(shown) <= right + 0.2


def test_a_promise_is_a_flag_and_a_late_step_is_marked() -> None:
    svg = drawn(step("a", 9, 10, 12, wish_s=11 * H))
    assert "sch-wish" in svg
    assert 'class="sch-late"' in svg
    assert "sch-wish" not in drawn(step("a", 9, 10, 12))
    assert "sch-placed" in drawn(step("a", 9, 10, 12, is_placed=True))
