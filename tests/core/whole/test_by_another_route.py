"""Box and mix by another route than the core's: cells counted one by one, and lots in exact fractions."""

from fractions import Fraction
from itertools import count

import pytest
from hypothesis import given
from hypothesis import strategies as st
from thoroughness import examples

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import box
from ufrin.core.master.master_form import Master
from ufrin.core.measures.plain_volumes import cup_level_mm, frustum_ml
from ufrin.core.weighing.mix import MixPlan, Thinner, mix

small = st.integers(1, 9)
spare = st.integers(0, 4)


@examples(25)
@given(small, small, small, st.integers(1, 3), st.integers(1, 3), spare, spare, spare, spare, spare, st.data())
def test_net_rubber_is_the_cells_that_are_neither_master_nor_bed(  # noqa: PLR0917
    length: int,
    width: int,
    height: int,
    rows: int,
    columns: int,
    side: int,
    over: int,
    under: int,
    gap: int,
    bed: int,
    data: st.DataObject,
) -> None:
    sunk = data.draw(st.integers(0, min(bed, height - 1))) if under == 0 else 0
    one = Master(
        length_mm=length,
        width_mm=width,
        height_mm=height,
        volume_ml=length * width * height / 1000,
        count=rows * columns,
    )
    made = box(
        BoxPlan(
            masters=(one,),
            side_mm=side,
            over_mm=over,
            under_mm=under,
            gap_mm=gap,
            bed_mm=bed,
            sunk_mm=sunk,
            rows=rows,
            columns=columns,
        )
    )
    foot = bed + under - sunk

    def in_a_master(x: int, y: int, z: int) -> bool:
        return foot <= z < foot + height and any(
            side + column * (length + gap) <= x < side + column * (length + gap) + length
            and side + row * (width + gap) <= y < side + row * (width + gap) + width
            for column in range(columns)
            for row in range(rows)
        )

    wide = (2 * side + columns * length + (columns - 1) * gap, 2 * side + rows * width + (rows - 1) * gap)
    free = sum(
        z >= bed and not in_a_master(x, y, z)
        for x in range(wide[0])
        for y in range(wide[1])
        for z in range(bed, foot + height + over)
    )
    assert made.net_ml == pytest.approx(free / 1000)


part = st.integers(1, 200)


@given(
    part,
    part,
    st.integers(50, 5000),
    st.integers(0, 40),
    st.integers(0, 30),
    st.integers(0, 60),
    st.booleans(),
    st.integers(0, 5),
    st.integers(80, 900),
)
def test_a_mix_in_exact_fractions(  # noqa: PLR0917
    a: int, b: int, need_g: int, spare_pct: int, cling_g: int, dose: int, of_a: bool, pigment_pct: int, cup_ml: int
) -> None:
    mixed = mix(
        MixPlan(
            need_g=need_g,
            ratio={"A": a, "B": b},
            sg_mixed=1.25,
            spare_pct=spare_pct,
            cling_g=cling_g,
            pigment_pct=pigment_pct,
            cup_ml=cup_ml,
            thinner=Thinner(parts_per_100=dose, of="A" if of_a else "A+B", sg=1.25) if dose else None,
        )
    )
    # as many cups as hold the mix and what stays on each of them
    for cups in count(1):
        total = Fraction(need_g) * (100 + spare_pct) / 100 + cups * cling_g
        if total / Fraction(5, 4) <= cups * cup_ml:
            break
    # one lot holds a of A and b of B
    thinner = Fraction(dose, 100) * (a if of_a else a + b)
    pigment = (a + b + thinner) * pigment_pct / 100
    lots = total / (a + b + thinner + pigment)
    assert mixed.total_g == pytest.approx(float(total))
    assert (mixed.parts["A"].g, mixed.parts["B"].g) == pytest.approx((float(a * lots), float(b * lots)))
    assert (mixed.thinner_g, mixed.pigment_g) == pytest.approx((float(thinner * lots), float(pigment * lots)))
    assert len(mixed.batches) == cups


@given(st.floats(10, 200), st.floats(10, 200), st.floats(20, 300), st.floats(0.01, 1))
def test_filling_a_cup_and_reading_its_level_are_each_other_turned_round(
    bottom: float, top: float, height: float, share: float
) -> None:
    level = height * share
    at = bottom + (top - bottom) * share
    assert cup_level_mm(bottom, top, height, frustum_ml(bottom, at, level)) == pytest.approx(level, rel=1e-6)
