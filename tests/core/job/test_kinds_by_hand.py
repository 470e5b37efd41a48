"""One job of each kind of mould, worked out on paper: a block of 60 x 40 x 20 mm that displaces 30 ml."""

from dataclasses import replace

import pytest
from records import ADDITION

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.shelf_picks import ShelfPicks

MASTER = MasterInputs(length_mm=60, width_mm=40, height_mm=20, known_ml=30.0)
SPARE, LOSS_G = RubberInputs(spare_pct=10.0, cling_g=5.0), 5.0
PUTTY = replace(ADDITION, form="putty")


def planned(style: str, **box_mm: float) -> Plan:
    context = JobContext(shelf=ShelfPicks(rubber=PUTTY if style == "press" else ADDITION))
    return plan(MASTER, BoxInputs(**box_mm), SPARE, context, OpeningInputs(style=style))


@pytest.mark.parametrize(
    ("style", "box_mm", "need_ml", "cups"),
    [
        # inside 80 x 60, filled to 30: 144 ml less the master
        ("open", {"side_mm": 10.0, "over_mm": 10.0}, (114.0,), 1),
        ("slit", {"side_mm": 10.0, "over_mm": 10.0}, (114.0,), 1),
        # the same on a lip of 60 x 40 x 5: 168 ml less the master and 12 ml of lip
        ("tray", {"side_mm": 10.0, "over_mm": 10.0, "lip_mm": 5.0}, (126.0,), 1),
        # inside 80 x 60, filled to 40: 192 ml less the master, parted halfway up
        ("two-part", {"side_mm": 10.0, "over_mm": 10.0, "under_mm": 10.0}, (81.0, 81.0), 1),
        # a flange of 20 all round and 8 over and under it: 100 x 80 x 36 is 288 ml, less the master
        ("squeeze", {}, (129.0, 129.0), 1),
        # four sides and the top, 64 cm2, 0.5 mm thick and three times 1.5 mm
        ("skin", {}, (32.0,), 4),
        # a pad of 12 mm round it and 10 mm over it: 84 x 64 x 30 is 161.28 ml, less the master; some sticks to gloves
        ("press", {}, (131.28,), 1),
    ],
)
def test_each_kind_takes_what_it_takes_on_paper(
    style: str, box_mm: dict[str, float], need_ml: tuple[float, ...], cups: int
) -> None:
    found = planned(style, **box_mm)
    assert [pour.need_ml for pour in found.pours] == pytest.approx(need_ml)
    for pour, need in zip(found.pours, need_ml, strict=True):
        assert pour.mix.total_g == pytest.approx(need * 1.08 * 1.1 + cups * LOSS_G)
        assert pour.mix.parts["A"].g == pytest.approx(pour.mix.total_g / 2)
    assert found.rubber_ml == pytest.approx(sum(need_ml))
    assert (found.box is None) == (style in {"skin", "press"})
    assert (found.jacket is None) == (style != "skin")
