"""What a plan tells agrees with what it plans: the worse half, the skin that is advised, the sheet that was printed."""

from dataclasses import replace

import pytest
from records import ADDITION
from shapes import dumbbell

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.sheet_figures import sheet_key
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.master.master_form import stand_form
from ufrin.core.wording.findings import Amount

SIZES = MasterInputs(length_mm=60, width_mm=40, height_mm=20, known_ml=30.0)
SHAPE = stand_form(dumbbell(), (0, 0, 1))
POURED = RubberInputs(spare_pct=10.0)
TWO_PARTS = OpeningInputs(style="two-part")


def planned(
    opening: OpeningInputs,
    *,
    master: MasterInputs = SIZES,
    box: BoxInputs | None = None,
    rubber: RubberInputs = POURED,
    checks: CheckInputs | None = None,
    has_shape: bool = False,
) -> Plan:
    context = JobContext(shelf=ShelfPicks(rubber=ADDITION), mesh=SHAPE if has_shape else None)
    return plan(master, box or BoxInputs(), rubber, context, opening, checked=checks or CheckInputs())


@pytest.mark.parametrize(("under_mm", "over_mm"), [(8.0, 40.0), (40.0, 8.0)])
def test_of_two_halves_that_a_scale_is_too_coarse_for_the_worse_is_told(under_mm: float, over_mm: float) -> None:
    found = planned(
        TWO_PARTS, box=BoxInputs(under_mm=under_mm, over_mm=over_mm), rubber=replace(POURED, scale_step_g=5.0)
    )
    worst = max(pour.mix.worst_ratio_error_pct or 0.0 for pour in found.pours)
    assert worst > min(pour.mix.worst_ratio_error_pct or 0.0 for pour in found.pours)
    (told,) = [one for one in found.findings["rubber"] if one.code == "scale-too-coarse"]
    assert any(isinstance(fact, Amount) and fact.value == pytest.approx(worst) for fact in told.facts.values())


@pytest.mark.parametrize("has_shape", [False, True])
def test_the_skin_that_is_advised_takes_what_the_plan_of_a_skin_takes(*, has_shape: bool) -> None:
    master = MasterInputs(mass_g=100) if has_shape else SIZES
    found = planned(OpeningInputs(style="skin"), master=master, has_shape=has_shape)
    assert found.kind is not None
    assert found.rubber is not None
    (advised,) = [one.rubber_ml for one in found.kind.advice if one.style == "skin"]
    assert advised == pytest.approx(found.rubber.need_ml)


def test_a_printed_sheet_is_out_of_date_once_anything_on_it_changed() -> None:
    master = MasterInputs(mass_g=100)
    whole = planned(TWO_PARTS, master=master, has_shape=True)
    others = [
        planned(replace(TWO_PARTS, **changed), master=master, has_shape=True)  # type: ignore[arg-type]
        for changed in ({"gates": "0, 0, 30"}, {"vents": "5, 0, 30"}, {"keys": "10, 10; -10, 10; 0, -12"})
    ]
    others.append(planned(TWO_PARTS, master=master, has_shape=True, checks=CheckInputs(between_halves="wax")))
    others.append(planned(TWO_PARTS, master=MasterInputs(mass_g=40), has_shape=True))
    others += [
        planned(
            TWO_PARTS, master=master, has_shape=True, rubber=replace(POURED, post_cure_c=hot_c, post_cure_min=120.0)
        )
        for hot_c in (66.0, 80.0)
    ]
    keys = [sheet_key(one) for one in (whole, *others)]
    assert len(set(keys)) == len(keys)
    assert sheet_key(planned(TWO_PARTS, master=master, has_shape=True)) == keys[0]
