"""Casting materials and what is stirred into them: what their tins may say, and what suits what."""

from typing import Any

import pytest

from ufrin.core.casting.additions import ADDITION_KINDS, Addition
from ufrin.core.casting.resins import RESIN_KINDS, Resin
from ufrin.errors import Refused

TIN: dict[str, Any] = {"name": "Tin", "weight_a": 100, "weight_b": 45, "sg_mixed": 1.1}
POWDER: dict[str, Any] = {"name": "Powder", "bulk_sg": 0.9, "true_sg": 2.7}


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"weight_b": None}, "two numbers"),
        ({"weight_a": None, "weight_b": None}, "ratio is needed"),
        ({"weight_a": None, "weight_b": None, "volume_a": 1, "volume_b": 1}, "ratio is needed"),
        ({"sg_mixed": None}, "specific gravity"),
        ({"sg_mixed": -1}, "more than 0"),
        ({"pot_life_min": 0}, "more than 0"),
        ({"kind": "glue"}, "choices"),
        ({"kind": "rigid-foam"}, "how many times"),
        ({"kind": "rigid-foam", "rises": 1}, "how many times"),
        ({"rises": 9}, "Only a foam"),
        ({"shrinkage_pct": 80}, "believable"),
        ({"colour_most_pct": 101}, "between 0 and 100"),
    ],
)
def test_a_tin_that_cannot_be_is_refused(change: dict[str, Any], says: str) -> None:
    with pytest.raises(Refused, match=says):
        Resin(**(TIN | change))


def test_wax_has_one_part_and_foam_rises() -> None:
    assert Resin(name="Wax", kind="wax", sg_mixed=0.9).mix_by("weight").parts(10) is None
    assert Resin(**(TIN | {"kind": "rigid-foam", "rises": 9})).rises == 9
    assert Resin(name="Gel", kind="polyester-resin", drops_per_100_g=30, sg_a=1.1).mix_by("weight").sg == 1.1


def test_by_volume_only_with_both_parts_sg() -> None:
    both = Resin(**(TIN | {"volume_a": 2, "volume_b": 1, "sg_a": 1.1, "sg_b": 1.0}))
    assert both.by_volume
    assert both.mix_by("volume").basis == "volume"
    assert both.mix_by("weight").basis == "weight"
    assert not Resin(**(TIN | {"volume_a": 2, "volume_b": 1})).by_volume


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"bulk_sg": 3.0}, "wrong way round"),
        ({"bulk_sg": None}, "both needed"),
        ({"true_sg": None}, "both needed"),
        ({"true_sg": 0}, "more than 0"),
        ({"kind": "glitter"}, "choices"),
    ],
)
def test_a_powder_that_cannot_be_is_refused(change: dict[str, Any], says: str) -> None:
    with pytest.raises(Refused, match=says):
        Addition(**(POWDER | change))


def test_water_based_colour_goes_into_plaster_alone() -> None:
    water = Addition(name="Water", kind="water-colour")
    assert {kind for kind in RESIN_KINDS if water.suits(kind)} == {"plaster"}
    carried = Addition(name="Carried", kind="resin-colour")
    assert carried.suits("epoxy-resin")
    assert not carried.suits("wax")
    assert not carried.suits("addition-silicone")
    for kind in set(ADDITION_KINDS) - {"water-colour", "resin-colour"}:
        made = Addition(**(POWDER | {"kind": kind}))
        assert all(made.suits(one) for one in RESIN_KINDS)
