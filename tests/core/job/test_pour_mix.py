"""The mix of a pour: by need or by the A that is left, by weight or by volume, and what else it is made of."""

from dataclasses import replace

import pytest
from records import ADDITION

from ufrin.core.inputs.rubber import RubberInputs, SettledRubber
from ufrin.core.job.pour_mix import cup_ml, mix_plan, recipe_of
from ufrin.core.job.pour_targets import PourTarget
from ufrin.core.job.shelf_picks import ShelfPicks, Stocked
from ufrin.core.rubber.additives import Additive
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.lots import Lot
from ufrin.core.weighing.coats import Coat
from ufrin.core.weighing.mix import MixPlan, mix
from ufrin.errors import Refused

BOTH = replace(ADDITION, weight_a=100, weight_b=10, volume_a=10, volume_b=1, sg_a=1.1, sg_b=1.0)
OIL = Additive(name="Ebb thinner", kind="thinner", sg=0.95)
TARGET = PourTarget(need_ml=250.0)
TIN = Lot(code="TL-1", part="A", got_g=1000.0, left_g=600.0)


def made(shelf: ShelfPicks | None = None, target: PourTarget = TARGET, **inputs: object) -> MixPlan:
    settled = RubberInputs(**inputs).settled()  # type: ignore[arg-type]
    return mix_plan(target, shelf or ShelfPicks(rubber=BOTH), BOTH, settled)


def test_by_weight_unless_the_tin_gives_a_ratio_by_volume_and_the_maker_wants_it() -> None:
    assert (made().basis, made().ratio) == ("weight", {"A": 100, "B": 10})
    by_volume = made(basis="volume")
    assert (by_volume.basis, by_volume.ratio, by_volume.sg_parts) == ("volume", {"A": 10, "B": 1}, {"A": 1.1, "B": 1.0})
    plain = mix_plan(TARGET, ShelfPicks(rubber=ADDITION), ADDITION, RubberInputs(basis="volume").settled())
    assert (plain.basis, plain.ratio) == ("weight", {"A": 1, "B": 1})


def test_by_need_or_by_the_share_of_what_is_left() -> None:
    assert (made().need_ml, made().have_g) == (250.0, None)
    half = replace(TARGET, share=0.25)
    kit = made(target=half, amount="kit", kit_left_a_g=640.0)
    assert (kit.need_ml, kit.have_g) == (None, {"A": 160.0})
    with pytest.raises(Refused, match="How much A is left"):
        made(amount="kit")


def test_what_the_shelf_has_left_counts_where_nobody_weighed_the_tin() -> None:
    stock = {"A": Stocked(shelf="rubber:1", lots=(TIN, replace(TIN, part="B"), replace(TIN, days_left=-1)))}
    shelf = ShelfPicks(rubber=BOTH, stock=stock)
    assert made(shelf, amount="kit").have_g == {"A": 600.0}  # not its B, nor what is past its date
    assert made(shelf, amount="kit", kit_left_a_g=640.0).have_g == {"A": 640.0}


def test_in_a_blend_the_tin_that_runs_out_first_decides() -> None:
    stock = {
        "A": Stocked(shelf="rubber:1", lots=(TIN,)),
        "A2": Stocked(shelf="rubber:2", lots=(replace(TIN, left_g=100.0),)),
    }
    shelf = ShelfPicks(rubber=BOTH, blend=BOTH, stock=stock)
    # 600 g are 75 % of 800 g, and 100 g are 25 % of 400 g
    assert made(shelf, amount="kit", blend_pct=25.0).have_g == {"A": pytest.approx(400.0)}
    assert made(shelf, amount="kit", blend_pct=10.0).have_g == {"A": pytest.approx(600.0 / 0.9)}
    alone = replace(shelf, stock={"A": stock["A"]})  # nobody counts the second tin
    assert made(alone, amount="kit", blend_pct=25.0).have_g == {"A": pytest.approx(800.0)}
    with pytest.raises(Refused, match="Nothing of the first rubber"):
        made(shelf, amount="kit", blend_pct=100.0)


def test_thinner_needs_its_tin_and_takes_its_own_density() -> None:
    assert made().thinner is None
    with pytest.raises(Refused, match="Which thinner"):
        made(thinner_parts=10.0)
    thinned = made(ShelfPicks(rubber=BOTH, thinner=OIL), thinner_parts=10.0).thinner
    assert thinned is not None
    assert (thinned.parts_per_100, thinned.of, thinned.sg) == (10.0, "A+B", 0.95)
    of_a = replace(BOTH, thinner_of="A")
    plan = mix_plan(TARGET, ShelfPicks(rubber=of_a, thinner=OIL), of_a, RubberInputs(thinner_parts=10.0).settled())
    assert plan.thinner is not None
    assert plan.thinner.of == "A"


def test_the_rest_goes_along_as_it_is_settled() -> None:
    plan = made(spare_pct=12.0, pigment_pct=1.5, scale_step_g=0.5, cup_ml=400.0, rise_factor=4.0)
    assert (plan.spare_pct, plan.pigment_pct, plan.scale_step_g) == (12.0, 1.5, 0.5)
    assert (plan.cup_ml, plan.rise_factor, plan.tolerance_pct) == (400.0, 4.0, BOTH.tolerance_pct)
    # coats are brushed on from cups of their own size
    assert (
        made(target=replace(TARGET, coats=(Coat(number=1, volume_ml=250.0, is_thickened=False),)), cup_ml=400.0).cup_ml
        is None
    )


def test_a_cup_of_the_shelf_counts_before_a_typed_one() -> None:
    cup = Cup(name="Beaker", bottom_mm=80, top_mm=80, height_mm=100)
    settled = SettledRubber(cup_ml=400.0)
    assert cup_ml(ShelfPicks(cup=cup), settled) == pytest.approx(cup.holds_ml)
    assert cup_ml(ShelfPicks(), settled) == 400.0
    assert cup_ml(ShelfPicks(), SettledRubber()) is None


def test_a_recipe_names_the_tins() -> None:
    shelf = ShelfPicks(rubber=BOTH, thinner=OIL, stock={"A": Stocked(shelf="rubber:7")})
    recipe = recipe_of(shelf, SettledRubber(blend_pct=20.0, thickener_parts=1.5))
    assert (recipe.rubber, recipe.thinner, recipe.shelf) == (BOTH, OIL, {"A": "rubber:7"})
    assert (recipe.blend_share, recipe.thickener_parts) == (0.2, 1.5)
    with pytest.raises(Refused, match="Choose a rubber"):
        recipe_of(ShelfPicks(), SettledRubber())


def test_a_blend_is_weighed_four_times() -> None:
    # 250 ml come to 275 g: 250 g of A and 25 g of B, each in one go off by half a step of 1 g
    one = mix(made(scale_step_g=1.0, spare_pct=0.0))
    a, b = one.batches[0].parts_g["A"], one.batches[0].parts_g["B"]
    assert one.worst_ratio_error_pct == pytest.approx(100 * ((b + 0.5) / (a - 0.5) * a / b - 1))
    # in a blend each comes from two tins, and each of the four weighings is off by half a step
    shelf = ShelfPicks(rubber=BOTH, blend=BOTH)
    two = mix(made(shelf, scale_step_g=1.0, spare_pct=0.0, blend_pct=30.0))
    assert two.worst_ratio_error_pct == pytest.approx(100 * ((b + 1) / (a - 1) * a / b - 1))
    assert made(shelf, blend_pct=0.0).weighings == 1
    (coarse,) = mix(made(shelf, scale_step_g=1.0, spare_pct=0.0, blend_pct=30.0)).findings
    least_g = float(coarse.facts["least"].value)  # type: ignore[union-attr]
    enough = mix(made(shelf, PourTarget(need_ml=least_g / 1.1 * 1.02), scale_step_g=1.0, spare_pct=0.0, blend_pct=30.0))
    assert enough.findings == ()
