"""What the rubber of a job fills: the box, its halves, a skin or a pad, each in millilitres by hand."""

from dataclasses import replace

import pytest

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import box
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.halves import Halves, halves_of
from ufrin.core.job.pour_targets import PourTarget, WhatIsFilled, targets_of
from ufrin.core.master.master_form import Master
from ufrin.errors import Refused

LETTER = Master(length_mm=60, width_mm=40, height_mm=20, volume_ml=30)
PLAN = BoxPlan(masters=(LETTER,), side_mm=10, over_mm=12, under_mm=8)
SETTLED = RubberInputs().settled()


def test_a_box_is_filled_with_its_net_volume() -> None:
    filled = WhatIsFilled(style="open", box=box(replace(PLAN, filler_ml=5)))
    # 80 x 60 x 40 less the letter and 5 ml of scraps; the letter alone would be forgotten in vain
    assert targets_of(filled, SETTLED) == (PourTarget(need_ml=pytest.approx(192 - 35), displaced_ml=pytest.approx(30)),)
    assert targets_of(WhatIsFilled(style="open"), SETTLED) == ()


def test_halves_are_filled_one_after_the_other() -> None:
    halves = Halves(
        first_ml=90, second_ml=60, first_displaced_ml=20, second_displaced_ml=10, bed_ml=60, is_judged=False
    )
    first, second = targets_of(WhatIsFilled(style="two-part", box=box(PLAN), halves=halves), SETTLED)
    assert (first.half, first.need_ml, first.share, first.displaced_ml) == ("first", 90, 0.6, 20)
    assert (second.half, second.need_ml, second.share, second.displaced_ml) == ("second", 60, 0.4, 10)
    for empty in (replace(halves, first_ml=0), replace(halves, second_ml=0)):
        with pytest.raises(Refused, match="One half takes no rubber"):
            targets_of(WhatIsFilled(style="two-part", box=box(PLAN), halves=empty), SETTLED)


def test_halves_without_a_shape_are_parted_at_half_the_height() -> None:
    made = box(PLAN)
    halves = halves_of(made, PLAN, None)
    # 40 mm of room, parted 18 mm up: 22 and 18 mm of 80 x 60, less half of 30 ml each
    assert halves == Halves(
        first_ml=pytest.approx(80 * 60 * 22 / 1000 - 15),
        second_ml=pytest.approx(80 * 60 * 18 / 1000 - 15),
        first_displaced_ml=15,
        second_displaced_ml=15,
        bed_ml=pytest.approx(80 * 60 * 18 / 1000 - 15),
        is_judged=True,
    )
    # scraps go where there is room for them
    scraps = replace(PLAN, filler_ml=16)
    with_scraps = halves_of(box(scraps), scraps, None)
    assert with_scraps.first_ml == pytest.approx(halves.first_ml * (162 - 16) / 162)
    assert with_scraps.second_ml == pytest.approx(halves.second_ml * (162 - 16) / 162)


def test_a_skin_and_a_pad_by_hand() -> None:
    skin = WhatIsFilled(style="skin", count=2, size_mm=(60, 40, 20), coated_cm2=100)
    (made,) = targets_of(skin, RubberInputs(coats=3, coat_mm=2.0).settled())
    # two masters of 100 cm2: half a millimetre and twice two
    assert (made.how, made.need_ml) == ("brushed", pytest.approx(200 * 0.45))
    assert [coat.volume_ml for coat in made.coats] == [pytest.approx(10), pytest.approx(40), pytest.approx(40)]
    (typed,) = targets_of(skin, RubberInputs(coats=1, coat_area_cm2=50.0).settled())
    assert typed.need_ml == pytest.approx(2.5)
    assert targets_of(WhatIsFilled(style="skin"), SETTLED) == ()
    with pytest.raises(Refused, match="How large is the surface"):
        targets_of(WhatIsFilled(style="skin", size_mm=(1, 1, 1)), SETTLED)
    pad = WhatIsFilled(style="press", count=3, size_mm=(40, 25, 8), displaced_ml=5)
    (pressed,) = targets_of(pad, SETTLED)
    # 64 x 49 x 18 less 5 ml, three times
    assert (pressed.how, pressed.need_ml) == ("putty", pytest.approx(3 * (64 * 49 * 18 / 1000 - 5)))
    assert pressed.displaced_ml == 15
    (own,) = targets_of(pad, RubberInputs(pad_mm=10.0, pad_thickness_mm=20.0).settled())
    assert own.need_ml == pytest.approx(3 * (60 * 45 * 20 / 1000 - 5))
    assert targets_of(WhatIsFilled(style="press"), SETTLED) == ()


def test_a_box_without_room_is_refused() -> None:
    tight = replace(box(PLAN), gross_ml=30, net_ml=0)
    with pytest.raises(Refused, match="no room for rubber"):
        targets_of(WhatIsFilled(style="open", box=tight), SETTLED)
