"""Quick sums of hardness: every row by another route, and what must be typed."""

import pytest
from sums import rows, said, worked

from ufrin.core.rubber.shore import Hardness, reading
from ufrin.errors import Refused


def test_a_blend_is_told_on_every_scale() -> None:
    made = worked("blend", first="A 10", second="A 40", share_pct=25)
    # ln E by mass fraction: the geometric mean of the moduli, weighted
    modulus = Hardness(scale="A", shore=10).modulus_mpa ** 0.75 * Hardness(scale="A", shore=40).modulus_mpa ** 0.25
    told = rows(made)
    assert told["On the scale A"] == f"{reading(modulus, 'A'):.0f}"
    assert told["On the scale 00"] == f"{reading(modulus, '00'):.0f}"
    assert [(str(name), amount.value) for name, amount in made.figures] == [
        ("of the first rubber", pytest.approx(75.0)),
        ("of the second", pytest.approx(25.0)),
    ]
    assert said(made).startswith("By weight. The blend comes out like")


def test_thinner_goes_both_ways() -> None:
    (parts,) = (amount.value for _, amount in worked("hardness", rubber="A 15", target="00 50").figures)
    assert rows(worked("hardness", rubber="A 15", parts=parts))["On the scale 00"] == "50"
    assert rows(worked("hardness", rubber="A 15", parts=0))["On the scale A"] == "15"
    # what is very soft has no reading on a hard scale
    assert rows(worked("hardness", rubber="00 30", parts=20))["On the scale D"] == "off the scale"


@pytest.mark.parametrize(
    ("key", "typed"),
    [
        ("hardness", {"rubber": "A 15"}),
        ("hardness", {"rubber": "A 15", "target": "00 50", "parts": 10}),
        ("blend", {"first": "A 10", "second": "A 40"}),
        ("blend", {"first": "A 10", "second": "A 40", "target": "A 20", "share_pct": 30}),
    ],
)
def test_one_of_two_is_typed_and_not_both(key: str, typed: dict[str, object]) -> None:
    with pytest.raises(Refused, match="Type either") as refused:
        worked(key, **typed)
    assert refused.value.field == "target"
