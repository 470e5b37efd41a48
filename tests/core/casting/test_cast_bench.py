"""A shot at the bench: part B first, A follows what is really in the cup, and the clock begins with A."""

from dataclasses import replace

import pytest
from materials_to_cast import CAVITY, METAL, PICKS, PLAIN, RESIN
from records import Hand

from ufrin.core.casting.cast_bench import cast_weigh_plan
from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.cast_plan import plan_cast
from ufrin.core.casting.resins import Resin
from ufrin.core.opening.demoulding import demould_steps
from ufrin.core.weighing.weigh_plan import WeighPlan
from ufrin.errors import Refused


def weighed(picks: CastPicks = PICKS, **changes: object) -> WeighPlan:
    settled = replace(PLAIN, **changes)  # type: ignore[arg-type]
    made = plan_cast(settled, CAVITY, picks)
    assert picks.resin is not None
    return cast_weigh_plan(made, settled, picks.resin, shelf={"A": "resin:1", "B": "resin:1"}, step_g=0.1)


def begun(plan: WeighPlan) -> Hand:
    hand = Hand(plan)
    for key in ("lay-ready", "stir-a", "shake-b"):
        assert hand.state.step.key == key
        hand.write("step", what=key)
    assert hand.state.step.kind == "cup"
    hand.write("tare")
    return hand


def take(hand: Hand, times: float = 1.0) -> str:
    """Weigh in what comes next, so many times as much as is asked for."""
    one, target = hand.state.step.ingredient, hand.state.step.target_g
    assert one is not None
    hand.write("hold", ingredient=one.key)
    hand.write("weigh", target * times, ingredient=one.key)
    return one.key


def test_powder_and_a_follow_the_b_that_is_really_in_the_cup() -> None:
    hand = begun(weighed(cast_kind="filled", scoops=1.0))
    planned = {one.key: one.g for one in hand.state.batch}
    assert take(hand, 1.1) == "B"
    assert hand.state.attempt.contact is None
    assert hand.state.step.target_g == pytest.approx(1.1 * planned["filler"])
    assert take(hand) == "filler"
    assert hand.state.attempt.contact is None
    assert hand.state.step.target_g == pytest.approx(1.1 * planned["A"])
    hand.write("hold", ingredient="A")
    assert hand.state.attempt.contact is not None  # from the first drop of A
    hand.write("weigh", hand.state.step.target_g, ingredient="A")
    assert hand.state.step.kind == "mix"
    assert hand.state.ratio_error_pct(hand.state.attempt) == pytest.approx(0)


def test_too_much_a_is_mended_with_b_and_the_wrong_part_is_caught() -> None:
    hand = begun(weighed())
    take(hand)
    with pytest.raises(Refused, match="not the part that comes next"):
        hand.write("hold", ingredient="B")  # B into B
    take(hand, 1.1)
    step = hand.state.step
    assert step.is_mend
    assert step.ingredient is not None
    assert step.ingredient.key == "B"
    b_g = hand.state.attempt.poured_g["B"]
    assert step.target_g == pytest.approx(0.1 * b_g)
    take(hand)
    assert hand.state.step.kind == "mix"


def test_each_half_of_the_metal_is_weighed_by_itself() -> None:
    hand = begun(weighed(replace(PICKS, filler=METAL), cast_kind="cold-cast"))
    assert [take(hand) for _ in range(4)] == ["B", "filler", "A", "filler2"]
    poured = hand.state.attempt.poured_g
    assert poured["filler"] == pytest.approx(poured["filler2"])
    assert hand.state.step.kind == "mix"


def test_shots_in_several_cups_and_the_foam_by_its_own_ratio() -> None:
    split = weighed(cup_ml=30.0)
    assert len(split.batches) == 3
    assert split.total_g == pytest.approx(4 * 22 * 0.95)
    foamed = begun(weighed(cast_kind="foam-back", thickness_mm=2.0, coat_mm=2.0))
    for _ in ("B", "A"):
        take(foamed)
    for line in ("mixed", "poured"):
        while foamed.state.step.kind == "do":
            foamed.write("step", what=foamed.state.step.key, sure=True)
        foamed.write(line, sure=True)
        while foamed.state.step.kind == "do":
            foamed.write("step", what=foamed.state.step.key, sure=True)
    foamed.write("leftover", 0.0)
    foamed.write("tare")
    assert take(foamed) == "foam B"
    assert take(foamed) == "foam A"
    # 1 : 1 of the foam, not 100 : 90 of the shell
    assert foamed.state.ratio_error_pct(foamed.state.attempt) == pytest.approx(0)
    assert foamed.state.step.kind in {"mix", "do"}


def test_drops_are_counted_into_the_a_that_is_really_in_the_cup() -> None:
    heavy = Resin(name="Gel", kind="polyester-resin", sg_a=1.1, sg_b=1.15, drops_per_100_g=40)
    hand = begun(weighed(CastPicks(resin=heavy)))
    assert take(hand, 1.5) == "A"
    assert hand.state.attempt.contact is None
    poured_g = hand.state.attempt.poured_g["A"]
    assert hand.state.target_drops == pytest.approx(poured_g * 0.4, abs=1)
    assert hand.state.step.target_g == pytest.approx(poured_g * 0.4 * 1.15 / 20, rel=0.03)
    take(hand)
    assert hand.state.attempt.contact is not None


def test_what_has_one_part_is_not_mixed_and_a_cast_comes_out_by_its_own_steps() -> None:
    wax = Resin(name="Wax", kind="wax", sg_mixed=0.9)
    with pytest.raises(Refused, match="nothing to mix"):
        weighed(CastPicks(resin=wax))
    plan = weighed()
    assert "warps" in demould_steps(plan.style)[0]
    assert plan.pot_life_min == RESIN.pot_life_min
    assert plan.clock_times["demould"] == 60
    assert plan.need_g == pytest.approx(plan.total_g)
