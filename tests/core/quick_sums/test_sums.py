"""Quick sums: worked examples, laws, and inputs that give no answer."""

from contextlib import suppress
from math import isfinite, pi

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.measures.quantity_kinds import KINDS
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.quick_sums.quick_sum import SumAnswer, SumInputs
from ufrin.errors import Refused


def of(key: str, **typed: object) -> SumInputs:
    return SumInputs(terms=SUMS[key].terms, typed=typed)


def work(key: str, **typed: object) -> SumAnswer:
    return SUMS[key].work(of(key, **typed))


def figures(key: str, **typed: object) -> list[float]:
    return [amount.value for _, amount in work(key, **typed).figures]


@pytest.mark.parametrize(
    ("key", "typed", "wanted"),
    [
        # 300 ml at 1.13 g/ml weigh 339 g, of which one part in eleven is B (by hand)
        ("mix", {"need_ml": 300, "ratio": "10:1", "sg": 1.13, "spare_pct": 0}, [339 * 10 / 11, 339 / 11]),
        ("mix", {"need_g": 110, "ratio": "100:10", "spare_pct": 0}, [100, 10]),
        ("mend", {"a_g": 200, "b_g": 26, "ratio": "10:1"}, [60]),
        ("mend", {"a_g": 100, "b_g": 100.5, "ratio": "1:1"}, [0]),
        ("weight", {"volume_ml": 300, "sg": 1.13}, [339]),
        ("weight", {"mass_g": 339, "sg": 1.13}, [300]),
        ("weight", {"mass_g": 339, "volume_ml": 300}, [1.13]),
        # (85 + 20) x (60 + 20) x (40 + 12) mm less 118 ml (by hand)
        (
            "box",
            {"length_mm": 85, "width_mm": 60, "height_mm": 40, "displaced_ml": 118, "side_mm": 10, "over_mm": 12},
            [318.8],
        ),
        # half the time for 10 degrees more, and twice for 10 less (common practice)
        ("cure", {"tin_min": 60, "room_temp_c": 33, "tin_temp_c": 23}, [30]),
        ("cure", {"tin_min": 60, "room_temp_c": 13, "tin_temp_c": 23}, [120]),
        ("clock", {"tin_min": 60, "room_temp_c": 23}, [60]),
        ("cast", {"cavity_ml": 100, "ratio": "1:1", "sg": 1.1, "spare_pct": 0, "count": 2}, [110, 110]),
        # 340 cm2 x 3 mm x 1.05 g/ml = 107.1 g in three coats of 1 mm (by hand)
        ("shell", {"area_cm2": 340, "thickness_mm": 3, "coat_mm": 1, "sg": 1.05}, [107.1 / 6, 107.1 / 6]),
        # 3.5 mm in coats of 1 mm are four of them: 340 x 0.4 x 1.05 = 142.8 g
        ("shell", {"area_cm2": 340, "thickness_mm": 3.5, "coat_mm": 1, "sg": 1.05}, [142.8 / 8, 142.8 / 8]),
        ("cost", {"pieces": 50, "mould_cost": 45, "mould_life_casts": 25, "unit_cost": 2.1, "master_cost": 60}, [5.1]),
        ("blend", {"first": "A 10", "second": "30 A", "share_pct": 25}, [75, 25]),
    ],
)
def test_worked_by_hand(key: str, typed: dict[str, object], wanted: list[float]) -> None:
    assert figures(key, **typed) == pytest.approx(wanted)


@given(st.floats(20, 400), st.floats(20, 300))
def test_a_straight_pot_is_a_drum(across_mm: float, high_mm: float) -> None:
    pot = {"bottom_mm": across_mm, "top_mm": across_mm, "height_mm": high_mm}
    (net_ml,) = figures("pot", **pot)
    assert net_ml == pytest.approx(pi / 4 * across_mm**2 * high_mm / 1000)
    (over_bed_ml,) = figures("pot", **pot, bed_mm=high_mm / 4)
    assert over_bed_ml == pytest.approx(0.75 * net_ml)


@given(st.floats(1, 1e4), st.floats(0.1, 5), st.floats(0, 3))
def test_resin_and_the_grains_of_a_filler_add_up_to_what_is_filled(need_ml: float, sg: float, scoops: float) -> None:
    a_g, b_g, filler_g = figures("filler", need_ml=need_ml, sg=sg, scoops=scoops, bulk_sg=0.8, true_sg=2.7)
    assert (a_g + b_g) / sg + filler_g / 2.7 == pytest.approx(need_ml)


def test_thinner_and_blend_come_out_at_what_was_wanted() -> None:
    (parts,) = figures("hardness", rubber="A 15", target="00 50")
    assert dict(work("hardness", rubber="A 15", parts=parts).rows)["On the scale 00"] == "50"
    first, second = figures("blend", first="A 10", second="A 30", target="A 20")
    assert first + second == pytest.approx(100)
    assert dict(work("blend", first="A 10", second="A 30", share_pct=second).rows)["On the scale A"] == "20"


def test_four_times_the_pot_life_lets_bubbles_of_half_the_size_out() -> None:
    known = {"viscosity_mpa_s": 20_000, "depth_mm": 50}
    (in_10,), (in_40,) = (figures("bubbles", pot_life_min=minutes, **known) for minutes in (10, 40))
    assert in_10 == pytest.approx(2 * in_40)  # a bubble rises with the square of its size (Stokes)


def test_what_is_guessed_is_named_until_it_is_typed() -> None:
    size = {"length_mm": 60, "width_mm": 40, "height_mm": 30}
    guessed = work("grams", **size).better
    known = work("grams", **size, displaced_ml=40, sg=1.08, ratio="10:1").better
    assert len(guessed) == 4
    assert known == guessed[-1:]


@pytest.mark.parametrize("key", [key for key in SUMS if key != "cost"])
def test_an_empty_one_asks_for_an_input_that_it_has(key: str) -> None:
    with pytest.raises(Refused) as refused:
        work(key)
    assert refused.value.field in SUMS[key].terms


NUMBERS = st.one_of(st.floats(-10, 1e5), st.sampled_from([0.0, 1.0, 1e-9, 1e7]))
TEXTS = st.sampled_from(["1:1", "10:1", "100:0", "0:1", "a:b", "A 15", "00 30", "D 99", "A 100", "", "9" * 12])


@given(st.sampled_from(sorted(SUMS)), st.data())
def test_anything_typed_is_answered_or_refused_with_a_reason(key: str, data: st.DataObject) -> None:
    typed: dict[str, object] = {}
    for name, term in SUMS[key].terms.items():
        if term.kind not in KINDS:
            typed[name] = data.draw(TEXTS)
            continue
        # what a form lets through lies within the limits of its kind
        low, high = KINDS[term.kind].low, KINDS[term.kind].high
        value = data.draw(st.none() | NUMBERS)
        typed[name] = None if value is None else min(high, max(low, value))
    with suppress(Refused):
        answer = work(key, **typed)
        assert answer.figures
        assert all(isfinite(amount.value) for _, amount in answer.figures)
        assert answer.sentence.endswith(".")
