"""The plan of a shot: each thing of all its cups together, and its parts."""

from dataclasses import replace

import pytest
from materials_to_cast import CAVITY, GREY, METAL, PICKS, PLAIN, RESIN

from ufrin.core.casting.cast_cups import CastCup, CastIngredient
from ufrin.core.casting.cast_plan import plan_cast
from ufrin.core.casting.planned_cast import CastPlan
from ufrin.errors import Refused


def plan(**changes: object) -> CastPlan:
    return plan_cast(replace(PLAIN, **changes), CAVITY, PICKS)  # type: ignore[arg-type]


def test_a_thing_of_several_cups_is_told_once_with_all_of_it() -> None:
    one = CastIngredient(key="B", name="B", g=3.0, ml=2.0, scoop_ml=1.5, drops=40)
    other = replace(one, g=1.0, ml=0.5, scoop_ml=0.25, drops=10)
    made = replace(
        plan(),
        cups=tuple(CastCup(what=what, volume_ml=1, ingredients=(this,)) for what, this in (("1", one), ("2", other))),
    )
    assert made.totals == {"B": replace(one, g=4.0, ml=2.5, scoop_ml=1.75, drops=50)}
    # a figure that one of them lacks is not known of both
    lacking = CastCup(what="2", volume_ml=1, ingredients=(CastIngredient(key="B", name="B", g=1.0),))
    known = replace(made, cups=(made.cups[0], lacking)).totals["B"]
    assert known == CastIngredient(key="B", name="B", g=4.0)


def test_a_shell_of_coats_has_no_parts_and_a_foamed_one_has_two() -> None:
    shell = {"thickness_mm": 2.0, "coat_mm": 1.0}
    assert plan(cast_kind="shell", **shell).parts == ()
    foamed = plan(cast_kind="foam-back", **shell)
    assert [one.part for one in foamed.parts] == ["shell", "foam"]
    assert sum(one.g for one in foamed.parts) == pytest.approx(foamed.shot_g)
    assert sum(one.fills_g for one in foamed.parts) == pytest.approx(foamed.fills_g)
    assert foamed.thickness_mm == 2.0
    faced = plan_cast(replace(PLAIN, cast_kind="cold-cast", face_mm=0.5), CAVITY, replace(PICKS, filler=METAL))
    assert sum(one.fills_g for one in faced.parts) == pytest.approx(faced.piece_g)
    # a backing of hardly anything is still one
    thin = replace(PLAIN, cast_kind="cold-cast", face_mm=(88 - 0.5) / 4 / 40 * 10)
    assert plan_cast(thin, CAVITY, replace(PICKS, filler=METAL)).cups[1].volume_ml == pytest.approx(0.5)


def test_squeezed_layered_and_marbled_casts_by_hand() -> None:
    squeezed = plan(cast_kind="squeeze", squeeze_pct=10.0)
    assert (squeezed.piece_g, squeezed.shot_g) == (pytest.approx(20 * 0.95), pytest.approx(4 * 20 * 1.1 * 0.95))
    layered = plan(cast_kind="layers", layers="1, 3")
    assert [layer.volume_ml for layer in layered.layers] == [pytest.approx(5), pytest.approx(15)]
    marbled = plan_cast(
        replace(PLAIN, cast_kind="marbled", colour_shares="80, 20"), CAVITY, replace(PICKS, colour=GREY)
    )
    assert marbled.shot_cost is not None
    assert marbled.piece_cost == pytest.approx(marbled.shot_cost / 4)
    # a known piece counts only with its surface
    half_known = plan(cast_kind="rotated", thickness_mm=3.0, known_g=30.0)
    assert half_known.target_g == pytest.approx(40 * 0.3 * 0.95)
    for said in ({"cast_kind": "layers", "layers": "1, none"}, {"cast_kind": "colours", "colour_shares": "x"}):
        with pytest.raises(Refused) as refused:
            plan(**said)
        assert refused.value.field == ("layers" if "layers" in said else "colour_shares")


def test_both_parts_and_their_names_come_from_the_tin() -> None:
    made = plan(cast_kind="filled", scoops=1.0)
    assert [(one.name, one.ml is not None) for one in made.cups[0].ingredients if one.key in "AB"] == [
        ("Part B", True),
        ("Part A", True),
    ]
    halves = plan_cast(replace(PLAIN, cast_kind="cold-cast"), CAVITY, replace(PICKS, filler=METAL))
    whole_ml = halves.totals["filler"].scoop_ml
    assert whole_ml == pytest.approx(88 / (2 + 3 / 9))  # as much by volume as A and as B
    # 1000 g of the kit cost 20, of which A and B both are counted
    assert plan(cast_kind="solid").shot_cost == pytest.approx(88 * 0.95 * 0.02)
    coloured = replace(RESIN, a_colour="amber")
    named = plan_cast(PLAIN, CAVITY, replace(PICKS, resin=coloured)).totals["A"].name
    assert named == "Part A, amber"
