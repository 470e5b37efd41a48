"""Quick sums of mixing: every row and sentence by hand, not the headline alone."""

import pytest
from sums import rows, said, worked

from ufrin.core.measures.display import show
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.quick_sums.mixing_sums import rubber_of
from ufrin.core.quick_sums.quick_sum import SumInputs
from ufrin.errors import Refused


def test_a_mix_in_several_cups_is_told_by_the_cup_and_in_all() -> None:
    made = worked("mix", need_ml=300, ratio="10:1", sg=1.1, spare_pct=0, cup_ml=110, thinner_parts=10)
    # thinner counts in the total: 300 ml of the pour's own density, in three cups of 100 ml
    total_g = rows(made)["Total"]
    assert rows(made)["A in all"] == pytest.approx(10 * rows(made)["B in all"])
    assert rows(made)["The same as a volume"] == pytest.approx(300.0)
    figures = {str(name): amount.value for name, amount in made.figures}
    assert figures["A, each batch"] == pytest.approx(rows(made)["A in all"] / 3)
    assert figures["B, each batch"] == pytest.approx(rows(made)["B in all"] / 3)
    assert figures["thinner"] == pytest.approx(0.1 * (figures["A, each batch"] + figures["B, each batch"]))
    assert total_g == pytest.approx(3 * sum(figures.values()))
    assert said(made).startswith("3 equal batches, in all")
    assert said(worked("mix", need_g=110, spare_pct=0)) == "One batch of 110.0 g."


def test_thinner_by_its_own_density_and_a_ratio_by_volume() -> None:
    # 100 of rubber at 1.2 and 10 of thinner at 0.8 fill 100 / 1.2 + 10 / 0.8 = 95.833 ml (by hand)
    thinned = worked("mix", need_ml=95.8333333, sg=1.2, thinner_parts=10, thinner_sg=0.8, spare_pct=0)
    assert rows(thinned)["Total"] == pytest.approx(110.0)
    by_volume = worked("mix", need_ml=220, ratio="10:1", sg_a=1.1, sg_b=1.0, spare_pct=0)
    assert [amount.value for _, amount in by_volume.figures] == pytest.approx([220.0, 20.0])


def test_a_part_of_a_gram_is_shown_and_a_coarse_scale_told() -> None:
    made = worked("mix", need_ml=0.5, ratio="100:3", sg=1.1, spare_pct=0)
    (_, a), (_, b) = made.figures
    assert show(b.value, b.kind, "metric", b.decimals) == "0.016 g"
    assert abs(float(show(b.value, b.kind, "metric", b.decimals).split()[0]) / b.value - 1) < 0.05
    assert show(a.value, a.kind, "metric", a.decimals) == "0.534 g"
    assert "scale-too-coarse" in {one.code for one in made.findings}
    mended = worked("mend", a_g=1.0, b_g=0.024, ratio="100:3")
    assert "Add 0.0060 g of B" in said(mended)


@pytest.mark.parametrize("typed", [{}, {"need_ml": 100.0, "need_g": 110.0}])
def test_a_mix_wants_one_need(typed: dict[str, float]) -> None:
    with pytest.raises(Refused, match="either the volume or the weight"):
        worked("mix", **typed)


def test_what_is_in_the_cup_of_a_mend() -> None:
    mended = worked("mend", a_g=200, b_g=26, ratio="10:1")
    assert rows(mended) == {"In the cup afterwards": pytest.approx(286.0)}
    assert said(mended) == "B is off by +30.0 %. Add 60.0 g of A and stir well: nothing is taken out."
    left = worked("mend", a_g=100, b_g=100.5, ratio="1:1")
    assert rows(left) == {"In the cup": pytest.approx(200.5)}
    assert "within the tolerance" in said(left)
    short = worked("mend", a_g=200, b_g=15, ratio="10:1")
    assert [(str(name), amount.value) for name, amount in short.figures] == [("more B", pytest.approx(5.0))]
    assert rows(short) == {"In the cup afterwards": pytest.approx(220.0)}


def test_two_of_volume_weight_and_density_tell_the_third() -> None:
    assert said(worked("weight", volume_ml=300, sg=1.13)) == "300.0 ml at 1.13 g/ml."
    assert said(worked("weight", mass_g=339, sg=1.13)) == "339.0 g at 1.13 g/ml."
    with pytest.raises(Refused, match="two of the three"):
        worked("weight", volume_ml=300)


def test_the_rubber_of_a_sum_has_its_figures_for_a_name() -> None:
    of = SumInputs(terms=SUMS["mix"].terms, typed={"ratio": "10:1", "sg": 1.13})
    rubber = rubber_of(of)
    assert (rubber.name, rubber.weight_a, rubber.weight_b, rubber.sg_mixed) == ("Rubber 10:1, 1.13 g/ml", 10, 1, 1.13)
