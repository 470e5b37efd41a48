"""Lines of drawings stand where their figures are: the life of cavities, what making costs, the levels of a cup."""

import re
from xml.etree import ElementTree as ET

import numpy as np
import pytest

from ufrin.core.measures.display import show
from ufrin.core.money.making import MakingCosts
from ufrin.core.moulds.life_outlook import LifeModel
from ufrin.core.moulds.mould_life import LifeCurve
from ufrin.core.shelf.cups import Cup, marks
from ufrin.web.drawings.cost_lines import cost_drawing
from ufrin.web.drawings.cup import cup_section
from ufrin.web.drawings.life_curve import FOOT_PX, HIGH_PX, LEFT_PX, TOP_PX, ShownLife, life_drawing

SVG = "{http://www.w3.org/2000/svg}"
MODEL = LifeModel(shapes=np.array([2.5]), scales=np.array([20.0]), weights=np.array([[1.0]]))


def points(svg: str, kind: str) -> list[list[tuple[float, float]]]:
    """Return the points of each line of a kind."""
    found = [one for one in ET.fromstring(svg).iter() if one.get("class") == kind and one.get("d")]
    return [
        [(float(x), float(y)) for x, y in re.findall(r"(-?[\d.]+),(-?[\d.]+)", one.get("d") or "")] for one in found
    ]


def test_the_shops_own_lives_go_down_in_steps() -> None:
    own = LifeCurve(casts=(10.0, 20.0), survival=(0.5, 0.25))
    svg = life_drawing(ShownLife(expected=MODEL, now=MODEL, own=own, made=[12.0])).svg
    (stairs,) = points(svg, "d-curve d-guessed")
    foot = TOP_PX + HIGH_PX
    shares = [(foot - y) / HIGH_PX for _, y in stairs]
    assert shares == pytest.approx([1.0, 1.0, 0.5, 0.5, 0.25], abs=0.01)
    xs = [x for x, _ in stairs]
    assert xs[0] == pytest.approx(LEFT_PX)
    assert (xs[1], xs[3] - LEFT_PX) == (xs[2], pytest.approx(2 * (xs[1] - LEFT_PX), abs=0.2))
    assert float(ET.fromstring(svg).get("viewBox", "").split()[3]) == pytest.approx(foot + FOOT_PX)
    # what is believed now begins at all of them and falls
    (now,) = points(svg, "d-curve")
    assert (foot - now[0][1]) / HIGH_PX == pytest.approx(1.0, abs=0.01)
    assert all(later[1] >= earlier[1] for earlier, later in zip(now, now[1:], strict=False))


def test_what_is_bought_costs_as_much_for_every_piece() -> None:
    costs = MakingCosts(master_cost=60, mould_cost=45, mould_life_casts=25, unit_cost=2)
    svg = cost_drawing(costs, 9.0, costs.against(9.0), lambda money: f"{money:.0f}").svg
    ((start, end),) = points(svg, "d-curve d-guessed")
    (made,) = points(svg, "d-curve")
    pieces = 60  # 2.4 lives of a mould
    # both lines are on one scale: 9 a piece against 60 + 3 x 45 + 2 a piece at the end
    bought, making = start[1] - end[1], start[1] - made[-1][1]
    assert bought / making == pytest.approx(9 * pieces / (60 + 3 * 45 + 2 * pieces), rel=0.02)
    assert end[0] == pytest.approx(made[-1][0], abs=0.5)


def test_each_part_of_a_cup_lies_on_the_one_below_and_is_as_wide_as_the_wall() -> None:
    cup = Cup(name="Beaker", bottom_mm=60, top_mm=90, height_mm=100)
    made = marks(cup, {"A": 150.0, "B": 60.0})
    svg = cup_section(cup, made, show).svg
    slices = [
        [(float(x), float(y)) for x, y in re.findall(r"(-?[\d.]+),(-?[\d.]+)", one.get("d") or "")]
        for one in ET.fromstring(svg).iter(f"{SVG}path")
        if "z" in (one.get("d") or "").lower() and one.get("class") != "d-cup"
    ]
    first, second = (one for one in slices if len(one) == 4)
    assert first[2][1] == pytest.approx(second[0][1], abs=0.1)  # B begins where A ends
    assert first[0][1] > first[2][1] > second[2][1]

    def wide(corners: list[tuple[float, float]], low: bool) -> float:
        left, right = (corners[0], corners[1]) if low else (corners[3], corners[2])
        return right[0] - left[0]

    # the wall widens by 30 mm over 100 mm of height
    for corners, level_mm in ((first, made[0].level_mm), (second, made[1].level_mm)):
        assert wide(corners, low=False) / wide(first, low=True) == pytest.approx((60 + 0.3 * level_mm) / 60, rel=0.01)
