"""Getting ready for a shot: what is begun first, counted back from the mixing."""

from dataclasses import replace

import pytest
from materials_to_cast import CAVITY, CHALK, PICKS, PLAIN

from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.cast_plan import plan_cast
from ufrin.core.job.cast_preparation import getting_ready
from ufrin.core.pairing.prep_step import PrepStep

RELEASE = PrepStep(phase="cast", do="Spray the release", before_min=20.0, work_min=5.0, dry_min=15.0, pairs=("cast",))
OF_RUBBER = replace(RELEASE, phase="first", do="Seal the board")
DAMP = replace(PICKS, filler=replace(CHALK, dry_min=240.0, dry_c=66.0))


def ready(
    *checked: PrepStep, style: str = "open", picks: CastPicks = PICKS, kind: str = "solid"
) -> dict[str, PrepStep]:
    made = plan_cast(replace(PLAIN, cast_kind=kind), CAVITY, picks)
    steps = getting_ready(made, picks, checked, style)
    assert [one.before_min for one in steps] == sorted((one.before_min for one in steps), reverse=True)
    assert {one.phase for one in steps} == {"cast"}
    return {str(one.do).split()[0]: one for one in steps}


def test_laid_ready_last_levelled_before_and_warmed_first() -> None:
    steps = ready()
    assert {name: one.before_min for name, one in steps.items()} == {"Warm": 40.0, "Level": 10.0, "Lay": 5.0}
    assert (steps["Warm"].work_min, steps["Warm"].dry_min) == (0.0, 30.0)
    assert (steps["Level"].work_min, steps["Lay"].work_min) == (5.0, 5.0)


def test_a_mould_in_two_parts_is_closed_once_it_is_level() -> None:
    steps = ready(style="two-part")
    assert {name: one.before_min for name, one in steps.items()} == {
        "Warm": 45.0,
        "Level": 15.0,
        "Close": 10.0,
        "Lay": 5.0,
    }


def test_the_release_of_the_cast_waits_as_the_checks_say_on_a_dry_warm_mould() -> None:
    steps = ready(RELEASE, OF_RUBBER)
    assert "Seal" not in steps
    assert steps["Spray"].before_min == 30.0  # its own 20 min, then the table is levelled and all is laid ready
    assert (steps["Spray"].work_min, steps["Spray"].dry_min, steps["Spray"].pairs) == (5.0, 15.0, ("cast",))
    assert steps["Warm"].before_min == 60.0
    # it would be cold again after the day of a spot test: then it is warmed after it
    tested = replace(RELEASE, before_min=24 * 60.0)
    assert ready(tested)["Warm"].before_min == 40.0
    assert ready(replace(RELEASE, before_min=60.0))["Warm"].before_min == 100.0


def test_a_filler_that_is_stirred_in_is_dried_and_cools_before_all_else() -> None:
    dried = ready(picks=DAMP, kind="filled")["Dry"]
    assert (dried.before_min, dried.dry_min) == (240.0 + 30.0 + 10.0, 270.0)
    assert "66" in str(dried.do)
    assert "Dry" not in ready(picks=DAMP)  # a solid cast takes none of it
    assert "Dry" not in ready(kind="filled")  # its label asks for none
    no_oven = replace(DAMP, filler=replace(CHALK, dry_min=240.0))
    assert "66" not in str(ready(picks=no_oven, kind="filled")["Dry"].do)


def test_nothing_is_prepared_in_less_time_than_its_work() -> None:
    for style in ("open", "two-part"):
        for one in ready(RELEASE, style=style, picks=DAMP, kind="filled").values():
            assert one.before_min >= one.work_min
    assert pytest.approx(15.0) == RELEASE.dry_min
