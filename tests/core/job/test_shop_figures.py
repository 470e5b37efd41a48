"""Figures of the workshop: they count wherever a job says nothing else."""

from dataclasses import replace

import pytest
from records import ADDITION, URETHANE

from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.checks_station import ShopWays
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.job.shop_figures import as_mixed, settled_rubber, with_shop_scale

SHOP = ShopWays(scale_step_g=0.5, room_temp_c=19.0)


def test_the_scale_of_the_shop_counts_unless_the_job_has_its_own() -> None:
    assert with_shop_scale(MasterInputs(), SHOP).scale_step_g == 0.5
    assert with_shop_scale(MasterInputs(scale_step_g=0.1), SHOP).scale_step_g == 0.1
    assert with_shop_scale(MasterInputs(), ShopWays()) == MasterInputs()


def test_scale_and_room_of_the_rubber_station() -> None:
    usual = RubberInputs().settled()
    made = settled_rubber(RubberInputs(), SHOP, ShelfPicks())
    assert (made.scale_step_g, made.room_temp_c) == (0.5, 19.0)
    own = settled_rubber(RubberInputs(scale_step_g=0.1, room_temp_c=25.0), SHOP, ShelfPicks())
    assert (own.scale_step_g, own.room_temp_c) == (0.1, 25.0)
    nobody = settled_rubber(RubberInputs(), ShopWays(), ShelfPicks())
    assert (nobody.scale_step_g, nobody.room_temp_c) == (usual.scale_step_g, usual.room_temp_c)


def test_the_spare_is_the_typed_one_the_one_learnt_then_or_the_one_learnt_now() -> None:
    shelf = ShelfPicks(past_over_pct=(14.0,) * 12)
    now_pct = shelf.allowance.spare_pct
    assert now_pct > 11.0
    assert settled_rubber(RubberInputs(), SHOP, shelf).spare_pct == now_pct
    assert settled_rubber(RubberInputs(learnt_spare_pct=9.0), SHOP, shelf).spare_pct == 9.0
    assert settled_rubber(RubberInputs(learnt_spare_pct=9.0, spare_pct=5.0), SHOP, shelf).spare_pct == 5.0
    assert settled_rubber(RubberInputs(spare_pct=0.0), SHOP, shelf).spare_pct == 0.0


def test_two_rubbers_that_cannot_be_blended_leave_the_first_one() -> None:
    alone, why = as_mixed(ShelfPicks(rubber=ADDITION), RubberInputs().settled())
    assert alone is not None
    assert (alone.name, why) == (ADDITION.name, ())
    apart, why = as_mixed(ShelfPicks(rubber=ADDITION, blend=URETHANE), RubberInputs(blend_pct=50.0).settled())
    assert apart == ADDITION
    assert len(why) == 1
    both, why = as_mixed(
        ShelfPicks(rubber=ADDITION, blend=replace(ADDITION, name="Estuary 5", sg_mixed=1.12)),
        RubberInputs(blend_pct=50.0).settled(),
    )
    assert why == ()
    assert both is not None
    assert both.sg == pytest.approx(2 / (1 / 1.08 + 1 / 1.12))  # half of each by weight (by hand)
    assert as_mixed(ShelfPicks(), RubberInputs().settled()) == (None, ())
