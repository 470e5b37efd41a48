"""Quick sums of boxes: every row and sentence by hand, not the headline alone."""

from math import pi

import pytest
from sums import rows, said, worked

from ufrin.core.measures.display import say_amounts
from ufrin.errors import Refused

BLOCK = {"length_mm": 85, "width_mm": 60, "height_mm": 40, "displaced_ml": 118, "side_mm": 10, "over_mm": 12}
POT = {"bottom_mm": 72, "top_mm": 98, "height_mm": 110}


def test_from_a_master_to_grams_row_by_row() -> None:
    made = worked("grams", **BLOCK, ratio="10:1", sg=1.13, spare_pct=5)
    gross_ml = 105 * 80 * 52 / 1000
    assert rows(made) == {
        "Box, up to the fill line": pytest.approx(gross_ml),
        "less displaced by the master": pytest.approx(118.0),
        "Net rubber": pytest.approx(gross_ml - 118),
        "Weighed in all": pytest.approx((gross_ml - 118) * 1.13 * 1.05),
    }
    a, b = (amount.value for _, amount in made.figures)
    assert (a + b, a / b) == (pytest.approx(rows(made)["Weighed in all"]), pytest.approx(10.0))
    assert said(made).startswith("Build a box 105.0 mm by 80.0 mm inside and fill it to 52.0 mm")


def test_water_before_and_after_is_the_displacement_with_the_error_of_its_jug() -> None:
    size = {key: BLOCK[key] for key in ("length_mm", "width_mm", "height_mm", "side_mm", "over_mm")}
    made = worked("grams", **size, level_before_ml=300, level_after_ml=418)
    assert rows(made)["Net rubber"] == rows(worked("grams", **BLOCK))["Net rubber"]
    # marks of 10 ml, each reading good to a quarter of one
    assert say_amounts(str(rows(made)["less displaced by the master"])) == "118.0 ml ± 3.5 ml"
    with pytest.raises(Refused, match="either the water"):
        worked("grams", **BLOCK, level_before_ml=300, level_after_ml=418)
    with pytest.raises(Refused, match="must rise"):
        worked("box", **size, level_before_ml=418, level_after_ml=300)


def test_a_box_for_several_masters() -> None:
    made = worked("box", length_mm=40, width_mm=30, height_mm=20, displaced_ml=20, count=2, side_mm=10, over_mm=10)
    # side by side across their width: 40 x (30 + 10 + 30) mm, the smaller of the two ways to stand
    gross_ml = 60 * 90 * 30 / 1000
    assert rows(made) == {
        "Box, up to the fill line": pytest.approx(gross_ml),
        "less displaced": pytest.approx(40.0),
        "Net rubber": pytest.approx(gross_ml - 40),
        "The masters stand": "2 by 1, [10 length] between them",
    }
    assert "with walls 40.0 mm high" in said(made)


def cone_ml(height_mm: float) -> float:
    top_mm = 72 + 26 * height_mm / 110
    return pi / 12 * height_mm * (72**2 + 72 * top_mm + top_mm**2) / 1000


def test_a_pot_over_a_bed_up_to_the_fill_line() -> None:
    made = worked("pot", **POT, fill_mm=64, bed_mm=20, displaced_ml=38)
    assert rows(made)["Pot, up to the fill line"] == pytest.approx(cone_ml(64))
    assert rows(made)["less the bed"] == pytest.approx(cone_ml(20))
    assert rows(made)["less displaced"] == 38.0
    (net,) = (amount.value for _, amount in made.figures)
    assert net == pytest.approx(cone_ml(64) - cone_ml(20) - 38)
    assert said(made) == f"Filled to 64.0 mm, over a bed of {cone_ml(20):.0f} ml."
    assert {"The bed in plaster", "with water"} <= set(rows(made))


def test_a_pot_whose_fill_line_nobody_typed_is_filled_to_the_rim() -> None:
    made = worked("pot", **POT)
    assert rows(made)["Pot, up to the fill line"] == pytest.approx(cone_ml(110))
    assert rows(made)["less the bed"] == 0.0
    assert said(made) == "Filled to 110.0 mm, without a bed."
    assert "The bed in plaster" not in rows(made)


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        ({"fill_mm": 111}, "fill_mm"),
        ({"fill_mm": 20, "bed_mm": 20}, "fill_mm"),
        ({"displaced_ml": 700}, "displaced_ml"),
    ],
)
def test_a_pot_that_cannot_be(typed: dict[str, float], field: str) -> None:
    with pytest.raises(Refused) as refused:
        worked("pot", **POT, **typed)
    assert refused.value.field == field
