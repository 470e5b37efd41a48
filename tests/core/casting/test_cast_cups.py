"""The cups of a shot: spare, colour, drops and price of each, by hand."""

from dataclasses import replace

import pytest
from materials_to_cast import CHALK, FOAM, GREY, METAL, PICKS, PLAIN, RESIN

from ufrin.core.casting.cast_cups import CastCup, CastPicks, CupMaker, usual_scoops
from ufrin.core.casting.resins import Resin
from ufrin.errors import Refused

DRIPPED = Resin(name="Gel", kind="polyester-resin", drops_per_100_g=30, sg_a=1.1, sg_b=1.0, kit_g=1000, kit_price=10)


def maker(picks: CastPicks = PICKS, **inputs: object) -> CupMaker:
    settled = replace(PLAIN, **inputs)  # type: ignore[arg-type]
    assert picks.resin is not None
    return CupMaker(settled, picks, picks.resin)


def grams(cup: CastCup) -> dict[str, float]:
    found: dict[str, float] = {}
    for one in cup.ingredients:
        found[one.key] = found.get(one.key, 0.0) + one.g
    return found


def test_spare_is_mixed_of_everything_that_goes_in() -> None:
    for kind, make in (("solid", "cup"), ("filled", "powder_cup"), ("cold-cast", "powder_cup")):
        picks = replace(PICKS, filler=METAL if kind == "cold-cast" else CHALK, colour=GREY)
        plain, spare = (
            getattr(maker(picks, cast_kind=kind, colour_pct=2.0, spare_pct=pct), make)("the cast", 100.0)
            for pct in (0.0, 10.0)
        )
        assert spare.volume_ml == pytest.approx(1.1 * plain.volume_ml)
        assert grams(spare) == {key: pytest.approx(1.1 * g) for key, g in grams(plain).items()}


def test_scoops_of_powder_beside_two_parts() -> None:
    # 1 : 1 by volume with one scoop of chalk, whose grains take up 0.4 of it: 100 / 2.4 ml of each (by hand)
    cup = maker(cast_kind="filled", scoops=1.0).powder_cup("the cast", 100.0)
    each_ml = 100 / 2.4
    assert grams(cup) == {
        "B": pytest.approx(0.9 * each_ml),
        "filler": pytest.approx(1.0 * each_ml),
        "A": pytest.approx(1.0 * each_ml),
    }
    (powder,) = [one for one in cup.ingredients if one.key == "filler"]
    assert powder.scoop_ml == pytest.approx(each_ml)
    assert (usual_scoops("filled", CHALK), usual_scoops("cold-cast", CHALK)) == (2, 1.0)


def test_metal_goes_half_into_each_part() -> None:
    cup = maker(replace(PICKS, filler=METAL), cast_kind="cold-cast").powder_cup("the cast", 100.0)
    assert [one.key for one in cup.ingredients] == ["B", "filler", "A", "filler"]
    first, second = (one for one in cup.ingredients if one.key == "filler")
    assert first == second
    # equal volumes in the scoop: 3 of 9 g/ml are a third, so that 100 ml are 2 1/3 parts
    assert grams(cup)["filler"] == pytest.approx(3.0 * 100 / (2 + 1 / 3))


def test_a_catalyst_is_counted_into_what_was_weighed() -> None:
    cup = maker(CastPicks(resin=DRIPPED, colour=GREY), colour_pct=2.0).cup("the cast", 100.0)
    assert [one.key for one in cup.ingredients] == ["A", "colour", "B"]
    a, colour, b = cup.ingredients
    assert (a.g, b.drops) == (pytest.approx(110.0), 33)
    assert b.g == pytest.approx(33 / 20)
    assert colour.g == pytest.approx(100 * 0.02 * 1.1)
    half = cup.times(0.5)
    assert (half.ingredients[2].drops, half.ingredients[2].g) == (16, pytest.approx(16 / 20))  # whole drops


def test_another_material_has_names_of_its_own_and_no_colour() -> None:
    cup = maker(replace(PICKS, colour=GREY), colour_pct=2.0).cup("the foam", 50.0, of=(FOAM, FOAM.mix_by("weight")))
    assert grams(cup) == {"foam B": pytest.approx(27.5), "foam A": pytest.approx(27.5)}


def test_the_price_is_that_of_what_goes_in() -> None:
    made = maker(replace(PICKS, colour=GREY), cast_kind="filled", colour_pct=2.0)
    cup = made.powder_cup("the cast", 100.0)
    of = grams(cup)
    # 20 a kilo of resin, 5 of chalk, 100 of colour
    wanted = 0.02 * (of["A"] + of["B"]) + 0.005 * of["filler"] + 0.1 * of["colour"]
    assert made.cost([cup]) == pytest.approx(wanted)
    free = maker(replace(PICKS, colour=replace(GREY, pack_price=None)), cast_kind="filled", colour_pct=2.0)
    assert free.cost([cup]) == pytest.approx(wanted - 0.1 * of["colour"])
    unpriced = maker(replace(PICKS, filler=replace(CHALK, pack_price=None)), cast_kind="filled")
    assert unpriced.cost([cup]) is None


def test_what_powder_needs_is_asked_for() -> None:
    with pytest.raises(Refused, match="Which filler"):
        maker(replace(PICKS, filler=None), cast_kind="filled").powder_cup("the cast", 100.0)
    untold = replace(RESIN, sg_a=None, volume_a=None, volume_b=None, sg_mixed=0.95)
    with pytest.raises(Refused, match="specific gravities of both parts"):
        maker(replace(PICKS, resin=untold), cast_kind="filled").powder_cup("the cast", 100.0)


def test_a_next_coat_has_its_window_where_one_follows() -> None:
    assert maker(cast_kind="solid").cup("the cast", 10.0).recoat is None
    for kind in ("shell", "foam-back", "rotated", "layers", "cold-cast"):
        window = maker(cast_kind=kind).cup("a coat", 10.0).recoat
        assert window is not None, kind
    warm = maker(cast_kind="shell", room_c=33.0).cup("a coat", 10.0).recoat
    cool = maker(cast_kind="shell", room_c=23.0).cup("a coat", 10.0).recoat
    assert warm is not None
    assert cool is not None
    assert warm.from_min == pytest.approx(cool.from_min / 2)
