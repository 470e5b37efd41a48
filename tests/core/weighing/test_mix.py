"""Mixes: laws that hold for any mix, and the codes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.shelf.scales import smallest_batch_g, worst_ratio_error_pct
from ufrin.core.weighing.mix import MixPlan, Thinner, batches_for_cup, mix
from ufrin.core.weighing.ratio import weight_shares
from ufrin.core.weighing.ratio_mend import check
from ufrin.errors import Refused

numbers = st.floats(0.05, 200)
sgs = st.floats(0.8, 2.0)


@st.composite
def plans(draw: st.DrawFn) -> MixPlan:
    names = ["A", "B", *draw(st.sampled_from([[], ["C"]]))]
    parts = {name: draw(sgs) for name in names}
    dose = st.builds(Thinner, parts_per_100=st.floats(0, 60), of=st.sampled_from(["A+B", "A"]), sg=sgs)
    return MixPlan(
        need_ml=draw(st.floats(1, 4e4)),
        ratio={name: draw(numbers) for name in names},
        basis=draw(st.sampled_from(["weight", "volume"])),
        sg_parts=parts,
        spare_pct=draw(st.floats(0, 100)),
        cling_g=draw(st.floats(0, 50)),
        thinner=draw(st.none() | dose),
        pigment_pct=draw(st.floats(0, 5)),
        cup_ml=draw(st.none() | st.floats(500, 1e5)),
        rise_factor=draw(st.floats(1, 5)),
        scale_step_g=draw(st.none() | st.sampled_from([0.01, 0.1, 1.0])),
    )


@given(plans())
def test_everything_adds_up(plan: MixPlan) -> None:
    mixed = mix(plan)
    base = sum(part.g for part in mixed.parts.values())
    assert base + mixed.thinner_g + mixed.pigment_g == pytest.approx(mixed.total_g)
    assert sum(batch.total_g for batch in mixed.batches) == pytest.approx(mixed.total_g)
    assert mixed.pigment_g == pytest.approx(plan.pigment_pct / 100 * (base + mixed.thinner_g))
    # volumes of parts and thinner, pigment left out of both, give the volume of the mix
    volume = sum(part.ml or 0 for part in mixed.parts.values()) + (
        mixed.thinner_g / (plan.thinner.sg or 1) if plan.thinner else 0
    )
    assert mixed.total_ml is not None
    assert mixed.sg_mixed is not None
    assert volume == pytest.approx((base + mixed.thinner_g) / mixed.sg_mixed)
    assert mixed.total_ml * mixed.sg_mixed == pytest.approx(mixed.total_g)
    if plan.cup_ml:
        assert mixed.total_ml / len(mixed.batches) * plan.rise_factor <= plan.cup_ml * (1 + 1e-6)
        fewer = len(mixed.batches) - 1
        assert not fewer or mixed.total_ml / fewer * plan.rise_factor > plan.cup_ml * (1 - 1e-6)


@given(plans())
def test_using_up_a_part_makes_the_same_mix(plan: MixPlan) -> None:
    mixed = mix(plan)
    said = {name: getattr(plan, name) for name in ("ratio", "basis", "sg_parts", "thinner", "pigment_pct")}
    again = mix(MixPlan(have_g={"B": mixed.parts["B"].g}, **said))
    assert again.total_g == pytest.approx(mixed.total_g)


@given(numbers, numbers, st.floats(1, 1e4), st.floats(0, 1e4))
def test_mending_restores_the_ratio(a: float, b: float, poured_a: float, poured_b: float) -> None:
    ratio = {"A": a, "B": b}
    checked = check(ratio=ratio, poured_g={"A": poured_a, "B": poured_b})
    if checked.verdict == "within":
        assert abs(checked.ratio_error_pct) <= 2 * (1 + 1e-6)
        assert (checked.add_part, checked.add_g) == (None, 0)
        return
    after = {"A": poured_a, "B": poured_b}
    after[checked.add_part or ""] += checked.add_g
    assert checked.add_g > 0
    assert after["B"] / after["A"] == pytest.approx(b / a)
    assert checked.total_g_after == pytest.approx(sum(after.values()))


@given(numbers, numbers, st.sampled_from([0.01, 0.1, 1.0]), st.floats(0.2, 10))
def test_the_smallest_batch_is_just_within_the_tolerance(a: float, b: float, step: float, tolerance: float) -> None:
    shares = weight_shares({"A": a, "B": b})
    least = smallest_batch_g(shares, step, tolerance)
    assert worst_ratio_error_pct({name: share * least for name, share in shares.items()}, step) == pytest.approx(
        tolerance, rel=1e-6
    )


def test_a_batch_that_just_fits_is_a_fit() -> None:
    assert batches_for_cup(0.3, 0.1, 1) == 3
    assert batches_for_cup(2.1, 0.7, 1) == 3


def test_the_fact_of_the_tin() -> None:
    # common practice: 300 ml of a 10:1 silicone of 1.13 weigh about 340 g and take 34 g of catalyst, whether that
    # is of A or of the whole
    parts = mix(MixPlan(need_ml=300, ratio={"A": 100, "B": 10}, sg_mixed=1.13)).parts
    assert parts["A"].g + parts["B"].g == pytest.approx(340, rel=0.01)
    assert parts["B"].g == pytest.approx(31, rel=0.02)
    # common practice: 49.6 against 50.4 is good work at 1:1, and a tenth off is not
    assert check(ratio={"A": 1, "B": 1}, poured_g={"A": 49.6, "B": 50.4}).verdict == "within"
    assert check(ratio={"A": 1, "B": 1}, poured_g={"A": 47.6, "B": 52.4}).verdict == "mend"


@pytest.mark.parametrize(
    ("said", "codes"),
    [
        ({"pigment_pct": 2.0}, []),
        ({"pigment_pct": 2.1}, ["pigment-high"]),
        ({"thinner": Thinner(parts_per_100=20)}, []),
        ({"thinner": Thinner(parts_per_100=30)}, ["thinner-high"]),
        ({"thinner": Thinner(parts_per_100=51)}, ["thinner-beyond-data", "thinner-high"]),
        ({"scale_step_g": 1.0}, ["scale-too-coarse"]),
        ({"scale_step_g": 0.1}, []),
        ({"scale_step_g": 500.0}, ["scale-too-coarse"]),
    ],
)
def test_codes(said: dict[str, object], codes: list[str]) -> None:
    found = mix(MixPlan(need_g=150, ratio={"A": 100, "B": 10}, **said)).findings
    assert [finding.code for finding in found] == codes
    for finding in found:
        assert finding.text()


@pytest.mark.parametrize(
    ("said", "field", "says"),
    [
        ({"ratio": {"A": 0, "B": 1}}, "ratio", "never sets"),
        ({"ratio": {"A": 1}}, "ratio", "names its parts"),
        ({"ratio": {"A": 1, "B": float("nan")}}, "ratio", "never sets"),
        ({"need_ml": 5}, "need_ml", "exactly one"),
        ({"need_g": None}, "need_ml", "exactly one"),
        ({"need_g": None, "need_ml": 5}, "sg_mixed", "specific gravity"),
        ({"need_g": None, "have_g": {"C": 5}}, "have_g", "one part"),
        ({"basis": "volume"}, "sg_parts", "every part"),
        ({"cup_ml": 100}, "cup_ml", "specific gravity"),
        ({"cup_ml": 0.01, "sg_mixed": 1}, "cup_ml", "10000 batches"),
        (
            {"need_g": None, "need_ml": 5, "sg_mixed": 1, "thinner": Thinner(parts_per_100=10)},
            "thinner.sg",
            "thinner's",
        ),
    ],
)
def test_refuses(said: dict[str, object], field: str, says: str) -> None:
    with pytest.raises(Refused, match=says) as refused:
        mix(MixPlan(**{"need_g": 100, "ratio": {"A": 100, "B": 10}, **said}))
    assert refused.value.field == field
