"""Tins: what follows from the figures of a tin, and figures that contradict each other."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.ratio import mixed_sg, weight_shares
from ufrin.core.wording.findings import Amount

sgs = st.floats(0.9, 1.4)


@given(st.floats(1, 100), st.floats(1, 100), sgs, sgs)
def test_any_figure_of_a_ratio_follows_from_the_others(va: float, vb: float, sg_a: float, sg_b: float) -> None:
    weights = weight_shares({"A": va, "B": vb}, "volume", {"A": sg_a, "B": sg_b})
    mixed = mixed_sg(weights, {"A": sg_a, "B": sg_b})
    full = Rubber(
        name="full",
        weight_a=weights["A"],
        weight_b=weights["B"],
        volume_a=va,
        volume_b=vb,
        sg_a=sg_a,
        sg_b=sg_b,
        sg_mixed=mixed,
    )
    # however far apart the two parts are, the figures agree
    turned = {one.code: one.facts for one in full.findings()}
    assert set(turned) <= {"ratio-turned"}
    if turned:
        (times,) = turned["ratio-turned"].values()
        assert isinstance(times, Amount)
        assert times.value == pytest.approx(weights["B"] / weights["A"])
    for missing in (
        ("weight_a", "weight_b"),
        ("volume_a", "volume_b"),
        ("sg_a",),
        ("sg_b",),
        ("sg_a", "sg_b"),
        ("sg_mixed",),
        ("volume_a", "volume_b", "sg_mixed"),
        ("volume_a", "volume_b", "sg_b"),
    ):
        made = replace(full, **dict.fromkeys(missing)).completed()
        assert made.weight_ratio[1] / made.weight_ratio[0] == pytest.approx(weights["B"] / weights["A"])
        assert (made.sg_a, made.sg_b, made.sg_mixed) == (
            pytest.approx(sg_a, rel=1e-6),
            pytest.approx(sg_b, rel=1e-6),
            pytest.approx(mixed),
        )
        assert made.volume_b is not None
        assert made.volume_a is not None
        assert made.volume_b / made.volume_a == pytest.approx(vb / va)


def test_nothing_is_made_up_where_nothing_follows() -> None:
    bare = Rubber(name="bare", weight_a=100, weight_b=10, sg_mixed=1.13)
    assert bare.completed() == bare
    # a part that would weigh less than any liquid is not filled in
    odd = replace(bare, sg_a=1.25)
    assert odd.completed().sg_b is None


def test_a_mix_that_is_not_between_its_parts_is_told() -> None:
    tin = Rubber(name="tin", weight_a=1, weight_b=1, sg_a=1.1, sg_b=1.1, sg_mixed=1.1)
    assert tin.findings() == ()
    assert [finding.code for finding in replace(tin, sg_mixed=1.3).findings()] == ["sgs-disagree"]


@pytest.mark.parametrize(
    ("sg", "asks"), [(0.113, True), (0.69, True), (0.7, False), (1.13, False), (3.0, False), (11.3, True)]
)
def test_an_sg_with_a_slipped_point_is_asked_about(sg: float, asks: bool) -> None:
    for field in ("sg_a", "sg_b", "sg_mixed"):
        tin = Rubber(**{"name": "Slipped", "weight_a": 1.0, "weight_b": 1.0, "sg_mixed": 1.1, field: sg})  # type: ignore[arg-type]
        asked = [one.field for one in tin.findings() if one.code == "sg-unusual"]
        assert asked == ([field] if asks else [])
