"""The plan of a shot: each kind of cast by hand, what is always so, and what is refused."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from materials_to_cast import CAVITY, GREY, METAL, PICKS, PLAIN, RESIN

from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.cast_kinds import CAST_KINDS
from ufrin.core.casting.cast_plan import plan_cast
from ufrin.core.casting.planned_cast import CastCavity, CastPlan
from ufrin.core.casting.resins import Resin
from ufrin.core.casting.shares import read_shares
from ufrin.errors import Refused


def plan(picks: CastPicks = PICKS, cavity: CastCavity = CAVITY, **changes: object) -> CastPlan:
    return plan_cast(replace(PLAIN, **changes), cavity, picks)  # type: ignore[arg-type]


def grams(made: CastPlan) -> dict[str, float]:
    return {one.key: one.g for one in made.totals.values()}


def test_a_solid_shot_of_four() -> None:
    made = plan()
    assert made.shot_g == pytest.approx(4 * 22 * 0.95)
    assert grams(made) == {"B": pytest.approx(83.6 * 90 / 190), "A": pytest.approx(83.6 * 100 / 190)}
    assert made.piece_g == pytest.approx(19)  # without its gate
    assert made.shot_cost == pytest.approx(83.6 * 0.02)
    assert made.piece_cost == pytest.approx(83.6 * 0.02 / 4)
    assert [one.key for one in made.cups[0].ingredients] == ["B", "A"]


def test_shots_spare_overfill_and_fewer_cavities() -> None:
    made = plan(cavities=3.0, pieces=10.0, spare_pct=10.0, overfill_pct=5.0)
    assert made.shot_g == pytest.approx(3 * 22 * 1.05 * 0.95 * 1.1)
    assert made.shots == 4
    assert plan(pieces=12.0).shots == 3
    with pytest.raises(Refused, match="1 to 4"):
        plan(cavities=5.0)


def test_by_volume_the_parts_are_the_same() -> None:
    by_weight, by_volume = grams(plan()), plan(basis="volume")
    assert grams(by_volume) == {key: pytest.approx(value) for key, value in by_weight.items()}
    a, b = by_volume.totals["A"], by_volume.totals["B"]
    assert a.ml == pytest.approx(b.ml)


def test_colour_goes_into_b_before_a() -> None:
    made = plan(replace(PICKS, colour=GREY), colour_pct=2.0)
    assert [one.key for one in made.cups[0].ingredients] == ["B", "colour", "A"]
    assert grams(made)["colour"] == pytest.approx(88 * 0.02 * 0.95)
    assert made.shot_cost == pytest.approx(83.6 * 0.02 + 88 * 0.02 * 0.95 * 0.1)


def test_a_filled_cast_has_the_powder_between_b_and_a() -> None:
    made = plan(cast_kind="filled", scoops=1.0)
    # equal scoops of 1.00, 0.90 and 1.0/2.5: 88 ml hold 88/2.4 of each
    each = 88 / 2.4
    assert grams(made) == {
        "B": pytest.approx(each * 0.9),
        "filler": pytest.approx(each * 1.0),
        "A": pytest.approx(each * 1.0),
    }
    assert [one.key for one in made.cups[0].ingredients] == ["B", "filler", "A"]
    assert made.totals["filler"].scoop_ml == pytest.approx(each)
    assert made.piece_g == pytest.approx(made.shot_g / 88 * 20)
    assert grams(plan(cast_kind="filled"))["filler"] > grams(made)["filler"]  # as much as its label allows
    # what is mixed on top stays in the cup: a piece weighs the same, and costs more
    spare = plan(cast_kind="filled", scoops=1.0, spare_pct=25.0)
    assert (spare.piece_g, spare.shot_g) == (pytest.approx(made.piece_g), pytest.approx(1.25 * made.shot_g))
    assert spare.ways[1].piece_g == pytest.approx(made.ways[1].piece_g)
    with pytest.raises(Refused, match="Which filler"):
        plan(replace(PICKS, filler=None), cast_kind="filled")


def test_half_of_the_metal_goes_into_each_part() -> None:
    made = plan(replace(PICKS, filler=METAL), cast_kind="cold-cast")
    keys = [one.key for one in made.cups[0].ingredients]
    assert keys == ["B", "filler", "A", "filler"]
    halves = [one.g for one in made.cups[0].ingredients if one.key == "filler"]
    assert halves[0] == halves[1]
    each = 88 / (2 + 3 / 9)
    assert sum(halves) == pytest.approx(each * 3)
    faced = plan(replace(PICKS, filler=METAL), cast_kind="cold-cast", face_mm=0.5)
    assert [cup.what for cup in faced.cups] == ["the face coat", "the backing"]
    assert faced.cups[0].volume_ml == pytest.approx(40 * 0.05 * 4)
    assert sum(cup.volume_ml for cup in faced.cups) == pytest.approx(88)
    assert (faced.piece_cost or 0) < (made.piece_cost or 0)
    with pytest.raises(Refused, match="fills the whole cavity"):
        plan(replace(PICKS, filler=METAL), cast_kind="cold-cast", face_mm=9.0)


def test_a_shell_in_coats_and_foam_behind_it() -> None:
    shell = plan(cast_kind="shell", thickness_mm=2.5, coat_mm=1.0)
    assert [cup.what for cup in shell.cups] == ["coat 1 of 3", "coat 2 of 3", "coat 3 of 3"]
    assert shell.thickness_mm == 3.0
    assert shell.piece_g == pytest.approx(40 * 0.3 * 0.95)
    assert shell.cups[0].recoat is not None
    assert shell.cups[0].recoat.from_min == pytest.approx(10)
    foamed = plan(cast_kind="foam-back", thickness_mm=2.0, coat_mm=1.0)
    # 8 ml of shell leave 12 ml: 1.2 ml of liquid at 1.1
    assert foamed.cups[-1].total_g == pytest.approx(4 * 1.2 * 1.1)
    assert foamed.piece_g == pytest.approx(8 * 0.95 + 1.32)
    assert {"foam A", "foam B"} <= set(grams(foamed))
    with pytest.raises(Refused, match="cavity holds"):
        plan(cast_kind="shell", thickness_mm=6.0)
    with pytest.raises(Refused, match="Which foam"):
        plan(replace(PICKS, foam=None), cast_kind="foam-back", thickness_mm=2.0)


def test_shell_and_foam_each_take_the_makers_own_amount() -> None:
    said = {"cast_kind": "foam-back", "thickness_mm": 2.0, "coat_mm": 1.0}
    made = plan(**said)
    assert {one.part: one.fills_g for one in made.parts} == {
        "shell": pytest.approx(8 * 0.95),
        "foam": pytest.approx(1.32),
    }
    assert {one.part: one.g for one in made.parts} == {
        "shell": pytest.approx(4 * 8 * 0.95),
        "foam": pytest.approx(4 * 1.32),
    }
    # more foam is more foam alone, and a thicker shell is more of the shell alone
    foamy = plan(**said, foam_each_g=2.0)
    assert [one.g for one in foamy.parts] == [pytest.approx(made.parts[0].g), pytest.approx(4 * 2.0)]
    thick = plan(**said, each_g=10.0)
    assert [one.g for one in thick.parts] == [pytest.approx(4 * 10.0), pytest.approx(made.parts[1].g)]
    assert thick.shot_g == pytest.approx(40 + made.parts[1].g)
    assert (thick.shot_cost or 0) > (made.shot_cost or 0)
    faced = plan(replace(PICKS, filler=METAL), cast_kind="cold-cast", face_mm=0.5, face_each_g=9.0)
    assert [(one.part, one.g) for one in faced.parts][0] == ("face", pytest.approx(36.0))
    assert plan(cast_kind="solid").parts == ()
    # what sets last decides when it is taken out
    slow, quick = replace(RESIN, demould_min=45.0), replace(RESIN, demould_min=20.0)
    picks = replace(PICKS, resin=quick, foam=slow)
    assert (picks.demould_min("foam-back"), picks.demould_min("solid")) == (45.0, 20.0)


def test_without_a_surface_a_shell_begins_with_a_quarter_of_the_cavity() -> None:
    made = plan(cavity=replace(CAVITY, area_cm2=None), cast_kind="shell")
    assert made.shot_g == pytest.approx(4 * 5 * 0.95)
    assert [cup.what for cup in made.cups] == ["the first trial"]
    with pytest.raises(Refused, match="How large is the surface"):
        plan(cavity=replace(CAVITY, area_cm2=None), cast_kind="rotated")


def test_a_rotated_shell_by_its_thickness_and_by_a_known_piece() -> None:
    one = replace(CAVITY, count=1)
    made = plan(cavity=one, cast_kind="rotated", thickness_mm=3.0, coat_mm=1.0)
    assert made.target_g == pytest.approx(40 * 0.3 * 0.95)
    assert len(made.cups) == 3
    assert made.shot_g == pytest.approx(made.target_g)
    known = plan(cavity=one, cast_kind="rotated", known_g=30.0, known_cm2=120.0)
    assert known.target_g == pytest.approx(10)
    assert known.thickness_mm == pytest.approx(10 / 0.95 / 40 * 10)


def test_layers_squeezed_and_in_colours() -> None:
    layered = plan(cast_kind="layers", layers="1, 3", cavities=1.0, set_in_ml=2.0, set_in_g=1.0)
    assert [cup.volume_ml for cup in layered.cups] == [pytest.approx(5), pytest.approx(15 - 2 + 2)]
    assert layered.piece_g == pytest.approx(18 * 0.95 + 1)
    assert plan(cast_kind="squeeze", squeeze_pct=20.0).shot_g == pytest.approx(80 * 1.2 * 0.95)
    colours = plan(cast_kind="colours", colour_shares="3, 1")
    assert [cup.volume_ml for cup in colours.cups] == [pytest.approx(66), pytest.approx(22)]
    assert [cup.what for cup in colours.cups] == ["colour 1 (75 %)", "colour 2 (25 %)"]
    # each cup holds its own colour: 1 % of its volume, at the density of the mix
    assert [cup.ingredients[1].name for cup in colours.cups] == ["its own colour"] * 2
    per_ml = 0.01 * (colours.cups[0].total_g - colours.cups[0].ingredients[1].g) / 66
    assert [cup.ingredients[1].g for cup in colours.cups] == pytest.approx([66 * per_ml, 22 * per_ml])
    grey = plan(replace(PICKS, colour=GREY), cast_kind="colours", colour_shares="3, 1")
    grams_of_grey = sum(cup.ingredients[1].g for cup in grey.cups)
    assert grey.shot_cost == pytest.approx((colours.shot_cost or 0) + grams_of_grey * 0.1)


def test_a_marbled_cast_is_one_mix_of_which_a_part_is_taken_off() -> None:
    marbled = plan(
        replace(PICKS, colour=GREY), cast_kind="marbled", colour_shares="3, 1", colour_pct=2.0, spare_pct=5.0
    )
    assert len(marbled.cups) == 1
    assert marbled.cups[0].volume_ml == pytest.approx(88 * 1.05)
    (taken,) = marbled.taken_off
    assert taken.g == pytest.approx(marbled.shot_g / 4)
    assert taken.colour_g == pytest.approx(0.02 * taken.g)
    plain = plan(cast_kind="marbled", colour_shares="3, 1", spare_pct=5.0)
    assert marbled.shot_cost == pytest.approx(plain.shot_cost + taken.colour_g * 0.1)  # type: ignore[operator]
    # a maker's own amount is divided in the same way
    (own,) = plan(cast_kind="marbled", colour_shares="3, 1", each_g=40.0).taken_off
    assert own.g == pytest.approx(40)


def test_a_catalyst_in_drops() -> None:
    drops = Resin(name="Gel", kind="polyester-resin", sg_a=1.1, drops_per_100_g=40)
    made = plan(CastPicks(resin=drops))
    assert made.totals["B"].drops == round(88 * 1.1 * 0.4)
    assert made.totals["A"].g == pytest.approx(96.8)
    # drops are counted whole, and weigh what so many weigh
    assert [one.key for one in made.cups[0].ingredients] == ["A", "B"]  # counted into what was weighed
    third = made.cups[0].times(1 / 3)
    assert third.ingredients[1].drops == 13
    assert third.total_g == pytest.approx(96.8 / 3 + 13 / 20)


def test_only_a_cup_that_is_too_large_is_divided() -> None:
    made = plan(cast_kind="colours", colour_shares="3, 1", cup_ml=30.0)
    assert [cup.volume_ml for cup in made.cups] == [pytest.approx(66), pytest.approx(22)]
    assert [cup.mixes for cup in made.cups] == [3, 1]


def test_cups_that_hold_it_and_the_same_piece_in_other_ways() -> None:
    made = plan(cup_ml=30.0, thickness_mm=2.0)
    assert [cup.mixes for cup in made.cups] == [3]
    assert [way.label for way in made.ways] == ["Solid", "With filler", "Hollow shell", "Foam-backed"]
    assert made.ways[0].cost == made.piece_cost
    assert made.ways[2].piece_g == pytest.approx(7.6)
    # an amount of the maker's own is not set against calculated ones
    own = plan(cup_ml=30.0, thickness_mm=2.0, each_g=60.0)
    assert own.shot_g == pytest.approx(4 * 60)
    assert own.ways == made.ways
    # a shell that can't be made is left out, and what has no price is told so
    assert [way.label for way in plan(thickness_mm=9.0).ways] == ["Solid", "With filler"]
    assert plan(replace(PICKS, resin=replace(RESIN, kit_price=None))).piece_cost is None


@given(
    kind=st.sampled_from(sorted(CAST_KINDS)),
    volume=st.floats(5, 5000),
    area_share=st.floats(1.0, 3.0),
    count=st.integers(1, 20),
    spare=st.floats(0, 50),
    scoops=st.floats(0.1, 2),
)
def test_whatever_is_cast_its_parts_add_up_and_keep_their_ratio(
    kind: str, volume: float, area_share: float, count: int, spare: float, scoops: float
) -> None:
    area = area_share * 4.84 * volume ** (2 / 3)  # a ball has the least surface for its volume
    cavity = CastCavity(volume_ml=volume, area_cm2=area, height_mm=50, count=count)
    settled = {"cast_kind": kind, "spare_pct": spare, "scoops": scoops, "thickness_mm": 0.5, "coat_mm": 0.25}
    try:
        made = plan(replace(PICKS, filler=METAL), cavity=cavity, **settled)
    except Refused:
        assert kind in {"shell", "foam-back", "rotated"}  # larger than the cavity
        return
    assert made.shot_g == pytest.approx(sum(one.g for one in made.totals.values()))
    weights = grams(made)
    assert weights["B"] / weights["A"] == pytest.approx(0.9)
    assert all(one.g > 0 for cup in made.cups for one in cup.ingredients)
    assert all(cup.total_g == pytest.approx(sum(one.g for one in cup.ingredients)) for cup in made.cups)
    assert made.piece_g * made.filled <= made.shot_g * 1.0001
    for cup in made.cups:
        keys = [one.key.removeprefix("foam ") for one in cup.ingredients]
        assert keys.index("B") < keys.index("A")


@pytest.mark.parametrize("text", ["", "a, b", "0, 1", "-1", "1e9", "nan", ",".join(["1"] * 21)])
def test_shares_that_are_none_are_refused(text: str) -> None:
    with pytest.raises(Refused):
        read_shares("layers", text)


def test_without_a_material_or_of_an_unknown_kind_nothing_is_planned() -> None:
    with pytest.raises(Refused, match="Which casting material"):
        plan(CastPicks())
    with pytest.raises(Refused, match="kinds of casts"):
        plan(cast_kind="poured")


def test_the_makers_own_amount_scales_every_cup_and_what_it_costs() -> None:
    own = plan(each_g=30.0)
    assert own.shot_g == pytest.approx(4 * 30.0)
    assert grams(own) == {"B": pytest.approx(120 * 90 / 190), "A": pytest.approx(120 * 100 / 190)}
    assert own.shot_cost == pytest.approx(120 * 0.02)
    assert own.piece_cost == pytest.approx(30 * 0.02)
    assert own.piece_g == plan().piece_g  # what is mixed beyond the cavity stays in the cup
    assert own.ways == plan().ways  # the ways are compared as they are worked out
    cups = plan(each_g=30.0, cast_kind="shell", thickness_mm=2.0, coat_mm=1.0)
    assert sum(cup.total_g for cup in cups.cups) == pytest.approx(120.0)
    assert len(cups.cups) == 2
