"""The Rubber station: the pours of a job together, their decimals, times, and what does not suit a putty."""

from dataclasses import replace

import pytest
from records import ADDITION

from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.pour_targets import PourTarget
from ufrin.core.job.rubber_station import RubberPlan, check_form, rubber_plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.rubber.additives import Additive
from ufrin.core.shelf.cups import Cup
from ufrin.errors import Refused

TIN = replace(
    ADDITION,
    weight_a=100,
    weight_b=10,
    volume_a=10,
    volume_b=1,
    sg_a=1.1,
    sg_b=1.0,
    sg_mixed=1.09,
    full_cure_min=1440,
    kit_g=1100,
    kit_price=33,
)
OIL = Additive(name="Ebb thinner", kind="thinner", sg=0.95, pack_g=500, pack_price=10)
HALVES = (
    PourTarget(half="first", need_ml=100.0, share=0.4, displaced_ml=20.0),
    PourTarget(half="second", need_ml=150.0, share=0.6),
)


def made(*targets: PourTarget, shelf: ShelfPicks | None = None, **inputs: object) -> RubberPlan:
    given = {"spare_pct": 0.0, "cling_g": 0.0, "room_temp_c": 23.0} | inputs
    found = rubber_plan(targets or HALVES, RubberInputs(**given).settled(), shelf or ShelfPicks(rubber=TIN), TIN)  # type: ignore[arg-type]
    assert found is not None
    return found


def test_two_halves_are_two_pours_that_add_up() -> None:
    plan = made()
    assert [pour.half for pour in plan.pours] == ["first", "second"]
    assert plan.need_ml == pytest.approx(250.0)
    assert plan.need_g == plan.total_g == pytest.approx(250 * 1.09)
    assert {one.key: one.g for one in plan.ingredients} == {
        "A": pytest.approx(272.5 * 10 / 11),
        "B": pytest.approx(272.5 / 11),
    }
    assert plan.kits.cost == pytest.approx(33.0 * 272.5 / 1100)  # the share of the kit that is used
    assert rubber_plan((), RubberInputs().settled(), ShelfPicks(rubber=TIN), TIN) is None


def test_spare_and_cling_are_more_than_is_needed_and_told_as_such() -> None:
    plan = made(spare_pct=10.0, cling_g=8.0)
    assert plan.need_g == pytest.approx(272.5)
    assert plan.total_g == pytest.approx(272.5 * 1.1 + 2 * 8.0)
    first = plan.pours[0]
    assert first.short_g == pytest.approx(10.9 + 8.0)
    assert first.too_much_g == pytest.approx(20 * 1.09 * 1.1)  # with the displacement forgotten


def test_times_follow_the_room_and_those_of_the_tin_are_kept() -> None:
    warm = made(room_temp_c=33.0).pours[0]
    assert (warm.pot_life_min, warm.demould_min, warm.full_cure_min) == (20.0, 180.0, 720.0)
    assert (warm.tin_demould_min, warm.tin_full_cure_min) == (360.0, 1440.0)
    assert (warm.press_min, warm.cast_in_min) == (None, None)
    assert made(mix_min=4.0, degas_min=6.0, pour_min=5.0).pours[0].batch_min == 15.0
    with pytest.raises(Refused):
        made(room_temp_c=90.0)


@pytest.mark.parametrize(
    ("need_ml", "step_g", "decimals"),
    [(1000.0, 1.0, 0), (100.0, 1.0, 1), (1000.0, 0.1, 1), (10.0, 0.1, 2), (1000.0, 0.05, 2), (1000.0, 5.0, 0)],
)
def test_decimals_follow_the_scale_and_the_smallest_part(need_ml: float, step_g: float, decimals: int) -> None:
    assert made(PourTarget(need_ml=need_ml), scale_step_g=step_g).mass_decimals == decimals


def test_a_whole_kit_says_what_is_over() -> None:
    plan = made(amount="kit", kit_left_a_g=500.0)
    assert plan.total_g == pytest.approx(550.0)
    assert plan.whole_kit is not None
    assert plan.whole_kit.over_g == pytest.approx(550.0 - 272.5)
    assert [pour.mix.total_g for pour in plan.pours] == [pytest.approx(220.0), pytest.approx(330.0)]
    assert all(pour.too_much_g == 0.0 for pour in plan.pours)
    assert made().whole_kit is None


def test_measured_by_marks_the_error_is_that_of_half_a_mark() -> None:
    pour = made(PourTarget(need_ml=110.0), basis="volume", cup_mark_ml=10.0).pours[0]
    # 100 and 10 ml read to 2.5 ml either way: 12.5 for 97.5 in place of 10 for 100
    assert pour.marks_error_pct == pytest.approx(100 * ((12.5 / 97.5) / 0.1 - 1), rel=1e-3)
    own = Cup(name="Beaker", bottom_mm=80, top_mm=80, height_mm=100, mark_ml=2.0)
    finer = made(PourTarget(need_ml=110.0), basis="volume", shelf=ShelfPicks(rubber=TIN, cup=own)).pours[0]
    assert finer.mark_ml == 2.0  # its own marks count before those of cups at large
    assert finer.marks_error_pct == pytest.approx(100 * ((10.5 / 99.5) / 0.1 - 1), rel=1e-3)
    assert [round(mark.upto_ml) for mark in finer.cup_marks] == [100, 110]
    assert made().pours[0].marks_error_pct is None


def test_part_b_in_drops_and_what_thinner_costs() -> None:
    pour = made(PourTarget(need_ml=100.0), drops_per_ml=20.0).pours[0]
    assert pour.b_drops is not None
    assert pour.b_drops.number == round(109.0 / 11 / 1.0 * 20)
    plan = made(shelf=ShelfPicks(rubber=TIN, thinner=OIL), thinner_parts=10.0)
    grams = {one.key: one.g for one in plan.ingredients}
    assert grams["thinner"] == pytest.approx(0.1 * (grams["A"] + grams["B"]))
    assert {one.name: one.used_g for one in plan.kits.packs}["Ebb thinner"] == pytest.approx(grams["thinner"])


def test_a_putty_is_pressed_and_a_rubber_is_poured() -> None:
    putty = replace(TIN, form="putty", pot_life_min=None)
    check_form(putty, "putty")
    check_form(TIN, "poured")
    check_form(TIN, "brushed")
    with pytest.raises(Refused, match="kneaded from a putty"):
        check_form(TIN, "putty")
    for how in ("poured", "brushed"):
        with pytest.raises(Refused, match=f"can't be {how}"):
            check_form(putty, how)  # type: ignore[arg-type]
