"""Findings of the Rubber station, each on both sides of its limit."""

from dataclasses import replace

import pytest
from records import ADDITION, URETHANE

from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.pour_targets import PourTarget
from ufrin.core.job.rubber_findings import rubber_findings
from ufrin.core.job.rubber_station import rubber_plan
from ufrin.core.job.shelf_picks import ShelfPicks, Stocked
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.lots import Lot
from ufrin.core.weighing.method import LEAST_PRESS_MIN
from ufrin.core.wording.findings import Finding

TIN = replace(ADDITION, weight_a=100, weight_b=10, volume_a=100, volume_b=11, sg_a=1.1, sg_b=1.0, sg_mixed=1.09)
OIL = Additive(name="Ebb thinner", kind="thinner", sg=0.95)


def found(
    rubber: Rubber = TIN,
    *,
    need_ml: float = 300.0,
    picks: dict[str, object] | None = None,
    how: str = "poured",
    **inputs: object,
) -> dict[str, Finding]:
    shelf = ShelfPicks(rubber=rubber, **(picks or {}))  # type: ignore[arg-type]
    settled = RubberInputs(
        **({"spare_pct": 0.0, "cling_g": 0.0, "room_temp_c": 23.0, "scale_step_g": 0.1} | inputs)
    ).settled()  # type: ignore[arg-type]
    targets = [
        PourTarget(half="first", need_ml=need_ml, how=how, share=2 / 3),
        PourTarget(half="second", need_ml=need_ml / 2, how=how, share=1 / 3),
    ]  # type: ignore[arg-type]
    told = rubber_findings(rubber_plan(targets, settled, shelf, rubber), settled, shelf, rubber)
    levels = [("stop", "warn", "note").index(one.level) for one in told]
    assert levels == sorted(levels)
    assert len({one.code for one in told}) == len(told)  # what is wrong with both halves is said once
    return {one.code: one for one in told}


def test_nothing_is_said_of_a_rubber_that_is_in_order_or_not_chosen() -> None:
    assert found() == {}
    assert rubber_findings(None, RubberInputs().settled(), ShelfPicks(), None) == ()


def test_a_tin_that_is_put_away_and_a_ratio_that_it_does_not_give() -> None:
    assert found(picks={"retired": True})["retired"].facts["name"] == "Tideline 15"
    assert "no-volume-ratio" in found(ADDITION, basis="volume")
    assert "no-volume-ratio" not in found(basis="volume", cup_mark_ml=1.0)


def test_marks_that_are_too_coarse_for_the_smaller_pour() -> None:
    told = found(basis="volume", cup_mark_ml=10.0)["marks-too-coarse"]
    # the smaller half has 135.1 and 14.9 ml, read to 2.5 ml either way
    a_ml, b_ml = 150.0 * 100 / 111, 150.0 * 11 / 111
    assert told.facts["worst"].value == pytest.approx(100 * ((b_ml + 2.5) / (a_ml - 2.5) / (b_ml / a_ml) - 1), rel=0.02)
    assert "marks-too-coarse" not in found(basis="volume", cup_mark_ml=0.2)
    assert "scale-too-coarse" in found(need_ml=3.0, scale_step_g=1.0)
    assert "scale-too-coarse" not in found(need_ml=3.0, scale_step_g=1.0, basis="volume", cup_mark_ml=10.0)


def test_more_than_one_kit_is_opened() -> None:
    assert found(replace(TIN, kit_g=400.0))["kit-short"].facts["kits"] == "2"  # 490.5 g
    assert "kit-short" not in found(replace(TIN, kit_g=500.0))
    assert "kit-short" not in found()


def test_more_than_a_tin_allows() -> None:
    thin = {"thinner": replace(OIL, most_parts=10.0)}
    assert "additive-beyond-tin" not in found(picks=thin, thinner_parts=10.0)
    assert found(picks=thin, thinner_parts=10.5)["additive-beyond-tin"].field == "thinner_parts"
    red = {"pigment": Additive(name="Buoy red", kind="pigment", most_parts=2.0)}
    assert "additive-beyond-tin" not in found(picks=red, pigment_pct=1.9)
    assert "additive-beyond-tin" in found(picks=red, pigment_pct=2.2)


def test_an_additive_of_another_family_is_named_with_its_field() -> None:
    other = {"thinner": replace(OIL, family=URETHANE.family)}
    assert found(picks=other)["additive-not-for-it"].field == "thinner_id"
    assert "additive-not-for-it" not in found(picks={"thinner": OIL})


@pytest.mark.parametrize(
    ("pot_life_min", "cup_ml", "wanted"),
    [
        (13.9, None, {"pot-life-over"}),  # 14 min from first contact until it is poured
        (14.0, None, set()),
        (27.9, 200.0, {"pot-life-short"}),  # two cups, one after the other
        (28.0, 200.0, set()),
        (13.9, 200.0, {"pot-life-over"}),
        (None, 200.0, set()),
    ],
)
def test_a_batch_must_be_poured_before_it_gels(
    pot_life_min: float | None, cup_ml: float | None, wanted: set[str]
) -> None:
    tin = replace(TIN, pot_life_min=pot_life_min)
    assert set(found(tin, mix_min=4.0, degas_min=5.0, pour_min=5.0, cup_ml=cup_ml)) == wanted


def test_a_putty_must_leave_time_to_press_in_this_room() -> None:
    putty = replace(TIN, form="putty", pot_life_min=None, press_min=LEAST_PRESS_MIN + 1.0, mix_least_min=1.0)
    assert "press-window-short" not in found(putty, how="putty")
    warm = found(putty, how="putty", room_temp_c=33.0)["press-window-short"]
    assert warm.facts["left"].value == pytest.approx((LEAST_PRESS_MIN + 1.0) / 2 - 1.0)
    assert "press-window-short" not in found(replace(putty, press_min=None), how="putty", room_temp_c=33.0)


def test_a_kit_that_is_not_enough() -> None:
    assert "whole-kit-short" not in found(amount="kit", kit_left_a_g=446.0)
    assert found(amount="kit", kit_left_a_g=440.0)["whole-kit-short"].facts["short"].value == pytest.approx(
        490.5 - 484.0
    )


def test_what_the_shelf_is_short_of() -> None:
    stock = {"A": Stocked(shelf="rubber:1", lots=(Lot(code="TL-1", part="A", got_g=500, left_g=440.0),))}
    short = found(picks={"stock": stock})  # 445.9 g of A are needed
    assert {one.level for one in short.values()} == {"warn"}
    enough = {"A": Stocked(shelf="rubber:1", lots=(Lot(code="TL-1", part="A", got_g=500, left_g=447.0),))}
    assert found(picks={"stock": enough}) == {}
