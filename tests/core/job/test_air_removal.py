"""Getting the air out: which school counts, what it works with, and what is wrong with a vacuum."""

from dataclasses import replace

import pytest
from records import ADDITION

from ufrin.core.degassing.schools import USUAL_RISE
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.air_removal import AirRemovalContext, air_removal, chosen_school
from ufrin.core.job.pour_targets import PourTarget
from ufrin.core.job.rubber_station import Pour, rubber_plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.rubber.tins import Rubber


def poured(rubber: Rubber = ADDITION, **inputs: object) -> Pour:
    settled = RubberInputs(room_temp_c=23.0, spare_pct=0.0, cling_g=0.0, **inputs).settled()  # type: ignore[arg-type]
    plan = rubber_plan([PourTarget(need_ml=300.0)], settled, ShelfPicks(rubber=rubber), rubber)
    assert plan is not None
    return plan.pours[0]


def context(checks: CheckInputs | None = None, rubber: Rubber = ADDITION, **inputs: object) -> AirRemovalContext:
    return AirRemovalContext(
        checks=checks or CheckInputs(),
        rubber=RubberInputs(**inputs),  # type: ignore[arg-type]
        shelf=ShelfPicks(rubber=rubber),
        mixed=rubber,
        pour=poured(rubber, **inputs),
        fill_mm=60.0,
    )


def codes(of: AirRemovalContext, air: str = "clear") -> list[str]:
    return [one.code for one in air_removal(of, air)[1]]


def test_the_makers_choice_then_a_time_for_degassing_then_the_shop() -> None:
    assert chosen_school(context(CheckInputs(air="pressure"), degas_min=4.0), "clear") == ("pressure", False)
    assert chosen_school(context(degas_min=4.0), "clear") == ("vacuum", False)
    assert chosen_school(context(), "vibrate") == ("vibrate", True)


def test_all_schools_are_compared_for_this_mix() -> None:
    found, wrong = air_removal(context(), "clear")
    assert {one.key for one in found} == {"vacuum", "stream", "vibrate", "pressure", "clear"}
    assert wrong == []
    # a rubber that stays liquid four times as long lets bubbles of half the size go (Stokes)
    slow = replace(ADDITION, pot_life_min=40.0 * 4 + 3 * 8.0)
    quick, long = (
        next(one for one in air_removal(context(rubber=rubber), "clear")[0] if one.key == "clear")
        for rubber in (replace(ADDITION, pot_life_min=48.0), slow)
    )
    assert quick.slow_mm is not None
    assert long.slow_mm is not None
    assert quick.slow_mm > long.slow_mm


@pytest.mark.parametrize(
    ("change", "what"), [({"viscosity_mpa_s": None}, "How thick"), ({"pot_life_min": None}, "How long")]
)
def test_what_the_tin_does_not_tell_is_named(change: dict[str, object], what: str) -> None:
    found, (wrong,) = air_removal(context(rubber=replace(ADDITION, **change)), "clear")  # type: ignore[arg-type]
    assert found == ()
    assert wrong.code == "air-not-known"
    assert what in str(wrong.facts["what"])


def test_nothing_is_compared_for_what_is_not_poured() -> None:
    assert air_removal(replace(context(), pour=None), "clear") == ((), [])
    assert air_removal(replace(context(), fill_mm=None), "clear") == ((), [])
    brushed = context()
    assert brushed.pour is not None
    assert air_removal(replace(brushed, pour=replace(brushed.pour, how="brushed")), "clear") == ((), [])


def test_a_vacuum_that_cannot_be_is_told_with_what_was_typed() -> None:
    _, told = air_removal(context(CheckInputs(vacuum_gauge_kpa=120.0)), "clear")
    (wrong,) = [one for one in told if one.code == "vacuum-impossible"]
    assert (wrong.facts["pressure"].value, wrong.field) == (120.0, "vacuum_kpa")
    assert "vacuum-impossible" not in codes(context(CheckInputs(vacuum_gauge_kpa=95.0)))
    assert "vacuum-impossible" in codes(context(CheckInputs(vacuum_kpa=102.0)))
    assert "vacuum-impossible" not in codes(context(CheckInputs(vacuum_kpa=100.0)))
    # in the mountains there is less to take away
    assert "vacuum-impossible" in codes(replace(context(CheckInputs(vacuum_kpa=100.0)), air_kpa=85.0))


def test_a_vacuum_needs_its_time_and_its_vessel() -> None:
    assert "vacuum-not-timed" in codes(context(), "vacuum")
    assert "vacuum-not-timed" not in codes(context(degas_min=5.0), "vacuum")
    assert "vacuum-not-timed" not in codes(context(), "clear")
    # one batch of 300 ml, which rises to several times as much
    vessel_ml = 300.0 * USUAL_RISE
    assert "vacuum-vessel" in codes(context(degas_min=5.0, cup_ml=vessel_ml - 10), "vacuum")
    assert "vacuum-vessel" not in codes(context(degas_min=5.0, cup_ml=vessel_ml + 10), "vacuum")
    assert "vacuum-vessel" not in codes(context(degas_min=5.0, cup_ml=vessel_ml - 10), "clear")
    # with its own rise known, the batches are made to fit the cup
    assert "vacuum-vessel" not in codes(context(degas_min=5.0, cup_ml=600.0, rise_factor=4.0), "vacuum")


def test_pressing_a_cast_in_a_mould_that_was_not_degassed_is_warned_of() -> None:
    cast = CheckInputs(cast_air="pressure", cast_kpa=280.0)
    assert codes(context(cast), "clear") != codes(context(), "clear")
    assert codes(context(replace(cast, pot_kpa=280.0)), "pressure") == []  # it cured under the same pressure
