"""What to do next with a cup: by what is really in it, and in the order of the method."""

from dataclasses import replace

import pytest
from records import FULL, OIL, PLAN, RED, A, B

from ufrin.core.weighing.method import Method
from ufrin.core.weighing.next_step import b_per_a_of, next_step, sum_of, target_g
from ufrin.core.weighing.record_entries import Step, StepAttempt
from ufrin.core.weighing.weigh_plan import Ingredient, OtherMaterial, RotationAim, WeighPlan, in_order

BATCH = in_order([A, B, OIL, RED])  # 200 g of A, 22 g of thinner, 20 g of B, 2 g of pigment
A2, B2 = replace(A, key="A2", g=100.0), replace(B, key="B2", g=10.0)
BLEND = in_order([A, B, A2, B2])
# a cast: B goes in first, and powder into it
CAST = (replace(B, g=50.0), Ingredient(key="filler", role="filler", name="Chalk", g=30.0), replace(A, g=100.0))


def cup(**grams: float) -> StepAttempt:
    return StepAttempt(batch=0, tared=True, poured_g=grams)


def step(of: StepAttempt, plan: WeighPlan = FULL, *, prepared: tuple[str, ...] = ()) -> Step:
    return next_step(plan, plan.batches, of, pot_life_min=45.0, prepared=prepared)


@pytest.mark.parametrize(
    ("poured", "key", "grams"),
    [
        ({}, "A", 200.0),
        ({"A": 220.0}, "thinner", 24.2),  # all that follows is a tenth more, as A is
        ({"A": 220.0}, "B", 22.0),
        ({"A": 220.0, "thinner": 30.0}, "B", 22.0),  # thinner does not change what A asks for
        ({"A": 150.0}, "A", 0.0),  # the A that was poured determines the cup: it is never too little of itself
        ({"A": 200.0, "B": 26.0}, "A", 60.0),  # 26 g of B want 260 g of A (by hand)
        ({"A": 200.0, "B": 15.0}, "B", 5.0),
        ({"A": 200.0, "B": 26.0}, "B", 0.0),
    ],
)
def test_what_is_missing_follows_what_is_in_the_cup(poured: dict[str, float], key: str, grams: float) -> None:
    assert target_g(BATCH, cup(**poured), key) == pytest.approx(grams)


def test_of_a_blend_the_part_that_went_furthest_over_leads() -> None:
    # 240 g where 200 g were planned is a fifth more, so the second A is a fifth more too: 120 g
    assert target_g(BLEND, cup(A=240.0), "A2") == pytest.approx(120.0)
    # both are in: 240 + 90 g of 300 g planned are a tenth more, and B follows the sum
    assert target_g(BLEND, cup(A=240.0, A2=90.0), "B") == pytest.approx(22.0)
    assert target_g(BLEND, cup(A=240.0, A2=90.0), "A2") == pytest.approx(30.0)
    assert sum_of(BLEND, {"A": 240.0, "A2": 90.0, "B": 5.0}, "A") == pytest.approx(330.0)
    assert sum_of(BLEND, {"A": 240.0, "A2": 90.0, "B": 5.0}, "B") == pytest.approx(5.0)


def test_in_a_cast_a_follows_the_b_that_is_in() -> None:
    assert target_g(CAST, cup(B=55.0), "A") == pytest.approx(110.0)
    assert target_g(CAST, cup(B=55.0), "filler") == pytest.approx(33.0)
    assert target_g(CAST, cup(B=55.0, A=120.0), "B") == pytest.approx(5.0)
    plan = replace(PLAN, how="cast", b_per_a=0.1, batches=(CAST,))
    assert b_per_a_of(plan, CAST) == pytest.approx(0.5)  # each cup's own: a foam has another ratio than its shell
    assert b_per_a_of(PLAN, CAST) == PLAN.b_per_a


def test_the_band_is_the_tolerance_and_never_less_than_half_a_step_of_the_scale() -> None:
    one = step(cup())
    assert (one.kind, one.target_g, one.low_g, one.high_g) == ("hold", 200.0, pytest.approx(196), pytest.approx(204))
    b = step(cup(A=200.0, thinner=22.0))
    assert (b.low_g, b.high_g) == (pytest.approx(19.6), pytest.approx(20.4))
    coarse = step(cup(A=200.0, thinner=22.0), replace(FULL, step_g=5.0))
    assert (coarse.low_g, coarse.high_g) == (pytest.approx(17.5), pytest.approx(22.5))
    # a remainder that mends the ratio has the room of the whole part: 2 % of 260 g
    mend = step(cup(A=200.0, B=26.0, thinner=22.0))
    assert mend.is_mend
    assert (mend.ingredient, mend.target_g) == (A, pytest.approx(60.0))
    assert (mend.low_g, mend.high_g) == (pytest.approx(60 - 5.2), pytest.approx(60 + 5.2))


def test_a_ratio_is_mended_before_the_pigment_hides_what_is_in_the_cup() -> None:
    wrong = cup(A=200.0, thinner=22.0, B=26.0)
    assert step(wrong).is_mend
    right = cup(A=200.0, thinner=22.0, B=20.2)  # within 2 %
    assert (step(right).kind, step(right).ingredient) == ("hold", RED)
    right.in_hand = "pigment"
    assert step(right).kind == "weigh"


def test_a_foam_behind_a_shell_has_a_tolerance_and_a_stirring_time_of_its_own() -> None:
    foam = OtherMaterial(batches=(0,), name="Spume", tolerance_pct=10.0, sg=1.1, least_mix_min=0.4)
    plan = replace(PLAN, how="cast", other=foam, method=Method(how="cast", basis="weight", least_mix_min=3.0))
    assert step(cup(A=200.0, B=21.0), plan).kind != "hold"  # 5 % off is within 10 %
    assert step(cup(A=200.0, B=21.0), replace(plan, other=None)).is_mend
    ready = cup(A=200.0, B=20.0)
    ready.steps_done = [one.key for one in plan.method.before_mix]
    assert step(ready, plan).least_min == 0.4
    assert step(ready, replace(plan, other=None)).least_min == 3.0


def test_the_steps_of_the_method_come_in_their_order() -> None:
    rotation = RotationAim(target_g=640, area_cm2=900, sg=1.05, coat_mm=1)
    method = Method(how="cast", basis="weight", is_rotated=True)
    plan = replace(FULL, method=method, rotation=rotation)
    fresh = StepAttempt(batch=0)
    before = [one.key for one in method.before]
    seen = []
    while (one := step(fresh, plan, prepared=tuple(seen))).kind == "do":
        seen.append(one.key)
    assert seen == before
    assert one.kind == "mould"  # an empty mould is weighed before the first cup
    assert step(fresh, plan, prepared=(*before, "mould")).kind == "cup"
    full = cup(A=200.0, thinner=22.0, B=20.0, pigment=2.0)
    full.mixed = True
    done = []
    while (one := step(full, plan)).kind == "do":
        full.steps_done.append(one.key)
        done.append(one.key)
    assert done == [after.key for after in method.after_mix(45.0)]
    assert one.kind == "pour"


def test_after_a_cup_comes_its_rest_then_the_next_cup_and_at_last_the_end() -> None:
    poured = cup(A=200.0)
    poured.outcome = "poured"
    assert step(poured).kind == "leftover"
    poured.leftover_g = 3.0
    assert step(poured).kind == "cup"
    last = replace(poured, batch=1)
    assert step(last).kind == "finish"
    rotated = replace(FULL, rotation=RotationAim(target_g=640, area_cm2=900, sg=1.05, coat_mm=1))
    poured.leftover_g = None
    assert step(poured, rotated).kind == "mould"  # what the mould gained tells what was left in the cup
    poured.is_mould_weighed = True
    assert step(poured, rotated).kind == "leftover"


@pytest.mark.parametrize("outcome", ["wrong", "discarded"])
def test_a_cup_that_was_given_up_is_replaced(outcome: str) -> None:
    given_up = cup(A=10.0)
    given_up.outcome = outcome  # type: ignore[assignment]
    assert step(given_up) == Step(kind="cup")


def test_what_has_one_part_is_not_stirred() -> None:
    wax = replace(PLAN, how="cast", b_per_a=0.0, batches=((replace(A, g=120.0),),))
    assert step(cup(A=120.0), wax).kind == "pour"


def test_a_step_of_the_method_tells_how_long_it_takes_at_least() -> None:
    plan = replace(FULL, method=Method(air="vacuum", degas_min=4.0))
    mixed = cup(A=200.0, thinner=22.0, B=20.0, pigment=2.0)
    mixed.mixed, mixed.steps_done = True, ["scrape", "second-cup"]
    assert step(mixed, plan) == Step(kind="do", key="degas-rise", least_min=4.0)
