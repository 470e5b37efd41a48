"""Quick sums of casting: every row and sentence by hand, not the headline alone."""

import pytest
from sums import rows, said, worked

from ufrin.errors import Refused

AREA = {"area_cm2": 340.0, "sg": 1.05}


def test_a_shot_in_grams_and_millilitres() -> None:
    made = worked("cast", cavity_ml=100, count=3, ratio="100:90", sg=1.0, spare_pct=10)
    assert [amount.value for _, amount in made.figures] == pytest.approx([330 / 1.9, 330 * 0.9 / 1.9])
    assert rows(made) == {"Poured": pytest.approx(300.0)}
    assert said(made) == "For 3 cavities: 330 g in all."
    assert said(worked("cast", cavity_ml=100, sg=1.0, spare_pct=0)).startswith("For 1 cavity: 100 g")


@pytest.mark.parametrize(
    ("thickness_mm", "coat_mm", "number", "reached_mm"),
    [(3.0, 1.0, 3, 3.0), (3.5, 1.0, 4, 4.0), (2.1, 0.7, 3, 2.1), (0.4, 1.0, 1, 1.0)],
)
def test_a_shell_reaches_its_thickness_in_whole_coats(
    thickness_mm: float, coat_mm: float, number: int, reached_mm: float
) -> None:
    made = worked("shell", thickness_mm=thickness_mm, coat_mm=coat_mm, **AREA)
    assert rows(made) == {"Reached": pytest.approx(reached_mm)}
    assert f"For each of {number} coats" in said(made)


def test_a_filled_cast_takes_up_the_grains_and_is_scooped_by_its_bulk() -> None:
    # 1 : 1 and one scoop of 0.8 g/ml: in 2 + 0.8 / 2.7 volumes the powder is 0.8 g to 2 x 1.1 g of resin (by hand)
    made = worked("filler", need_ml=100.0, scoops=1.0, sg=1.1, bulk_sg=0.8, true_sg=2.7)
    times = 100.0 / (2 + 0.8 / 2.7)
    assert [amount.value for _, amount in made.figures] == pytest.approx([1.1 * times, 1.1 * times, 0.8 * times])
    assert rows(made) == {
        "It weighs in all": pytest.approx(3.0 * times),
        "Its density": pytest.approx(3.0 * times / 100.0),
        "Powder's share of the volume": pytest.approx(100 * 0.8 / 2.7 / (2 + 0.8 / 2.7)),
    }
    assert f"The filler is {times:.0f} ml in level scoops" in said(made)


def test_a_filler_does_not_depend_on_how_the_ratio_is_written() -> None:
    one, hundred = (
        [amount.value for _, amount in worked("filler", need_ml=200, scoops=2, ratio=ratio, sg=1.1).figures]
        for ratio in ("1:1", "100:100")
    )
    assert one == pytest.approx(hundred)
    # two scoops to 1 of each, where a part by weight is as large as the other
    assert one[2] / (one[0] + one[1]) == pytest.approx(2 * 0.8 / (2 * 1.1))


def test_powder_that_no_longer_flows_is_a_stop() -> None:
    assert worked("filler", need_ml=200, scoops=2).findings == ()
    assert [one.code for one in worked("filler", need_ml=200, scoops=12).findings] == ["filler-too-stiff"]


def test_a_ratio_by_volume_is_weighed_by_the_density_of_each_part() -> None:
    made = worked("cast", cavity_ml=210, ratio="1:1", sg_a=1.0, sg_b=1.1, spare_pct=0)
    assert [amount.value for _, amount in made.figures] == pytest.approx([105.0, 115.5])
    with pytest.raises(Refused, match="both parts"):
        worked("cast", cavity_ml=210, sg_a=1.0)


def test_what_a_piece_costs_and_from_which_on_making_pays() -> None:
    known = {"master_cost": 60, "mould_cost": 45, "mould_life_casts": 25, "unit_cost": 2}
    made = worked("cost", pieces=50, **known)
    assert rows(made) == {"In all": pytest.approx(60 + 2 * 45 + 50 * 2)}
    assert said(made) == "50 pieces take 2 moulds."
    # 60 + 45 + 2 n = 9 n for n = 15 (by hand); the second mould, from piece 26 on, costs less than is gained by then
    assert (
        said(worked("cost", pieces=50, buy_price=9, **known))
        == "50 pieces take 2 moulds. Making pays from 15 pieces on."
    )
    assert "never pays" in said(worked("cost", pieces=50, buy_price=2, **known))
