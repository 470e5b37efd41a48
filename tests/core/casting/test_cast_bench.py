"""A shot at the bench: part B first, A follows what is really in the cup, and the clock begins with A."""

from dataclasses import replace

import pytest
from materials_to_cast import CAVITY, GREY, METAL, PICKS, PLAIN, RESIN
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
    return cast_weigh_plan(made, settled, picks, shelf={"A": "resin:1", "B": "resin:1"}, step_g=0.1)


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


def test_a_part_of_a_marbled_mix_is_taken_off_before_it_is_poured() -> None:
    hand = begun(weighed(cast_kind="marbled", colour_shares="3, 1"))
    assert [take(hand), take(hand)] == ["B", "A"]
    seen = []
    while hand.state.step.kind in {"do", "mix"}:
        seen.append(hand.state.step.key or "mix")
        hand.write("step" if hand.state.step.key else "mixed", what=hand.state.step.key, sure=True)
    assert seen.index("take-off") > seen.index("mix")
    assert hand.state.step.kind == "pour"
    assert hand.plan.taken_shares == (0.25,)


def test_plaster_is_sprinkled_into_the_water_and_soaks() -> None:
    plaster = Resin(name="Plaster", kind="plaster", weight_a=100, weight_b=60, sg_mixed=1.6, pot_life_min=9)
    hand = Hand(weighed(CastPicks(resin=plaster)))
    hand.write("step", what="lay-ready")
    hand.write("tare")  # no water is shaken, and no powder stirred
    assert [take(hand), take(hand)] == ["B", "A"]
    assert hand.state.step.key == "soak"
    assert hand.state.attempt.contact is not None
    hand.write("step", what="soak", sure=True)
    hand.write("mixed", sure=True)
    assert hand.state.step.kind == "pour"


WAX = Resin(name="Wax", kind="wax", sg_mixed=0.9, demould_min=40)


def finish_cup(hand: Hand) -> None:
    """Do all steps with a weighed cup until the mould is weighed, or what is left over."""
    while hand.state.step.kind in {"do", "mix", "pour"}:
        kind = {"do": "step", "mix": "mixed", "pour": "poured"}[hand.state.step.kind]
        hand.write(kind, what=hand.state.step.key, sure=True)  # type: ignore[arg-type]


def test_wax_is_melted_and_cures_from_when_it_is_poured() -> None:
    hand = Hand(weighed(CastPicks(resin=WAX)))
    assert hand.state.step.key == "lay-ready"  # there is nothing to stir or to shake
    hand.write("step", what="lay-ready")
    hand.write("tare")
    assert take(hand) == "A"
    assert hand.state.step.key == "melt"
    hand.write("step", what="melt")
    assert hand.state.step.kind == "pour"  # nothing is mixed
    assert hand.state.attempt.contact is None
    hand.write("poured")
    assert hand.state.attempt.contact == hand.entries[-1].at
    assert hand.state.clocks.of_kind("demould", hand.entries[-1].at).end_s == pytest.approx(40 * 60)  # type: ignore[union-attr]
    hand.write("leftover", 0.5)
    assert hand.state.step.kind == "finish"
    assert hand.state.ratio_error_pct(hand.state.attempt) is None


def test_colour_is_stirred_into_melted_wax() -> None:
    hand = Hand(weighed(CastPicks(resin=WAX, colour=GREY)))
    hand.write("step", what="lay-ready")
    hand.write("tare")
    assert [take(hand), take(hand)] == ["A", "colour"]
    hand.write("step", what="melt")
    assert hand.state.step.kind == "mix"


def test_foam_behind_a_shell_has_the_pot_life_of_its_own_tin() -> None:
    foam = PICKS.foam
    assert foam is not None
    foam = replace(foam, pot_life_min=0.75, demould_min=20, tolerance_pct=5.0)
    plan = weighed(replace(PICKS, foam=foam), cast_kind="foam-back", thickness_mm=2.0, coat_mm=2.0)
    assert plan.cup_names == ("coat 1 of 1", "the foam")
    hand = begun(plan)
    assert [take(hand), take(hand)] == ["B", "A"]
    now = hand.entries[-1].at
    shell = hand.state.clock(now)
    finish_cup(hand)
    hand.write("leftover", 0.0)
    hand.write("tare")
    assert [take(hand), take(hand)] == ["foam B", "foam A"]
    behind = hand.state.clock(hand.entries[-1].at)
    assert shell is not None
    assert behind is not None
    assert shell.whole_min == pytest.approx(RESIN.pot_life_min)
    assert behind.whole_min == pytest.approx(0.75)
    assert hand.state.step.least_min == pytest.approx(0.25)
    finish_cup(hand)
    # the mould is out when the shell is: its clock ends last
    ends = hand.state.clocks.of_kind("demould", now)
    assert ends is not None
    assert ends.end_s == pytest.approx(60 * 60)
    # 4 % too much A: of the foam within its tolerance, of the shell not
    hand = begun(plan)
    take(hand)
    take(hand, 1.04)
    assert hand.state.step.is_mend


ROTATED = {"cast_kind": "rotated", "thickness_mm": 3.0, "coat_mm": 1.0}


def rotated_to(hand: Hand, mould_g: float | None) -> None:
    """Mix and turn a coat, and weigh the mould."""
    hand.write("tare")
    while hand.state.step.kind in {"hold", "weigh"}:
        take(hand)
    finish_cup(hand)
    assert hand.state.step.kind == "mould"
    if mould_g is None:
        hand.write("mould", text="not weighed")
    else:
        hand.write("mould", mould_g)


def test_the_weight_of_the_mould_says_which_coats_are_still_to_go() -> None:
    plan = weighed(**ROTATED)
    aim = plan.rotation
    assert aim is not None
    assert aim.target_g == pytest.approx(aim.area_cm2 * 0.3 * aim.sg)
    hand = Hand(plan)
    for key in ("lay-ready", "stir-a", "shake-b"):
        hand.write("step", what=key)
    assert hand.state.step.kind == "mould"
    hand.write("mould", 7000.0)
    assert len(hand.state.batches) == 3
    coat_g = aim.target_g / 3
    # half a coat went in: what is missing takes three more, and each is a third of it
    rotated_to(hand, 7000 + coat_g / 2)
    stands = hand.state.rotation
    assert stands is not None
    assert stands.thickness_mm == pytest.approx(0.5)
    assert stands.coats_to_go == 3
    assert stands.aim_g == pytest.approx(7000 + aim.target_g)
    assert len(hand.state.batches) == 4
    losses = plan.total_g / plan.need_g
    assert sum(one.g for one in hand.state.batches[1]) == pytest.approx(2.5 * coat_g / 3 * losses)
    # what the mould did not gain stayed in the cup
    assert hand.state.attempts[0].leftover_g == pytest.approx(hand.state.attempts[0].total_g - coat_g / 2)
    with pytest.raises(Refused, match="can't be lighter"):
        hand.write("tare")
        while hand.state.step.kind in {"hold", "weigh"}:
            take(hand)
        finish_cup(hand)
        hand.write("mould", 6900.0)
    with pytest.raises(Refused, match="only .* were mixed"):
        hand.write("mould", 7000 + aim.target_g)
    in_g = coat_g / 2 + 2.5 * coat_g / 3
    hand.write("mould", 7000 + in_g)
    rotated_to(hand, 7000 + 0.98 * aim.target_g - 2.5 * coat_g / 3)
    assert len(hand.state.batches) == 4
    rotated_to(hand, 7000 + 0.98 * aim.target_g)  # so near that no other coat is worth mixing
    assert hand.state.step.kind == "finish"
    assert hand.state.used_g == pytest.approx(0.98 * aim.target_g)


def test_a_mould_that_was_not_weighed_leaves_the_coats_as_planned() -> None:
    hand = begun_rotated()
    rotated_to(hand, None)
    assert hand.state.step.kind == "leftover"
    hand.write("leftover", 1.0)
    assert len(hand.state.batches) == 3
    assert hand.state.rotation is not None
    # a weight that was typed wrong is corrected, and what follows goes by the right one
    rotated_to(hand, 7025.0)
    assert hand.state.attempts[1].leftover_g == pytest.approx(
        sum(cup.total_g for cup in hand.state.attempts) - 1 - 25  # of the coat that was not weighed, 1 g was left
    )
    before = hand.state.rotation.to_go_g
    number = hand.entries[-1].number
    hand.write("correction", 7020.0, of_number=number, text="read wrong")
    assert hand.state.rotation.to_go_g == pytest.approx(before + 5)


def begun_rotated() -> Hand:
    hand = Hand(weighed(**ROTATED))
    for key in ("lay-ready", "stir-a", "shake-b"):
        hand.write("step", what=key)
    hand.write("mould", 7000.0)
    return hand


def test_a_cast_comes_out_by_its_own_steps() -> None:
    plan = weighed()
    assert "warps" in demould_steps(plan.style)[0]
    assert plan.pot_life_min == RESIN.pot_life_min
    assert plan.clock_times["demould"] == 60
    assert plan.need_g == pytest.approx(plan.total_g)


def test_what_a_shot_needs_is_what_is_mixed_without_the_spare() -> None:
    plain, spare = weighed(), weighed(spare_pct=25.0)
    assert spare.total_g == pytest.approx(1.25 * plain.total_g)
    assert plain.need_g == plain.total_g == pytest.approx(4 * 22 * 0.95)
    assert spare.need_g == pytest.approx(plain.need_g)
    # a rotated shell still needs what its mould has not gained, and its cups are mixed with the same share more
    rotated = weighed(cast_kind="rotated", thickness_mm=2.0, coat_mm=1.0, spare_pct=25.0)
    assert rotated.rotation is not None
    assert rotated.need_g == pytest.approx(rotated.rotation.target_g)
    assert rotated.total_g == pytest.approx(1.25 * rotated.rotation.target_g)


def test_each_cup_is_told_to_which_part_of_the_cast_it_belongs() -> None:
    foamed = weighed(cast_kind="foam-back", thickness_mm=2.0, coat_mm=1.0)
    assert foamed.cup_parts == ("shell", "shell", "foam")
    assert foamed.other is not None
    assert foamed.other.batches == (2,)
    assert weighed(cast_kind="solid").cup_parts == ()


def test_the_bench_is_told_all_that_the_plan_knows() -> None:
    tin = replace(RESIN, full_cure_min=1440.0)
    foam = replace(PICKS.foam, demould_min=45.0, full_cure_min=300.0) if PICKS.foam else None
    foamed = weighed(replace(PICKS, resin=tin, foam=foam), cast_kind="foam-back", thickness_mm=2.0, coat_mm=1.0)
    assert (foamed.demould_min, foamed.full_cure_min, foamed.cast_kind) == (60.0, 1440.0, "foam-back")
    assert foamed.other is not None
    assert (foamed.other.demould_min, foamed.other.full_cure_min) == (45.0, 300.0)
    assert foamed.what == "4 cavities"
    assert foamed.in_coats
    assert foamed.method is not None
    assert (foamed.method.basis, foamed.method.pot_kpa) == ("weight", 0.0)
    solid = weighed(cast_kind="solid", cavities=1.0, basis="volume")
    assert solid.what == "the cast"
    assert solid.cup_names == ()
    assert not solid.in_coats
    assert solid.method is not None
    assert solid.method.basis == "volume"
