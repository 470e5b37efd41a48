"""What a list shows of a job: the plan's own figures, kept with it and read again as they were."""

import json
from dataclasses import replace

import pytest
from records import ADDITION, MASTER, OPEN, PARTED, worked_out

from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.board_figures import BoardFigures, board_figures

MEASURED = replace(MASTER, material=None)


def test_the_figures_of_a_job_are_those_of_its_plan() -> None:
    plan = worked_out(MEASURED, opening=PARTED)
    shown = board_figures(plan, "Tideline 15")
    assert plan.box is not None
    assert plan.rubber is not None
    assert shown.box_ml == plan.box.net_ml
    assert shown.parts_g == (
        pytest.approx(sum(pour.mix.parts["A"].g for pour in plan.pours)),
        pytest.approx(sum(pour.mix.parts["B"].g for pour in plan.pours)),
    )
    assert shown.total_g == pytest.approx(sum(pour.mix.total_g for pour in plan.pours))
    assert (shown.halves, shown.rubber, shown.mass_decimals) == (
        ("first", "second"),
        "Tideline 15",
        plan.rubber.mass_decimals,
    )
    assert (shown.is_net, shown.has_jacket, shown.is_boxless) == (True, False, False)
    assert shown.states == plan.states


def test_what_is_not_known_is_not_shown() -> None:
    empty = board_figures(worked_out(MasterInputs()), "")
    assert (empty.box_ml, empty.parts_g, empty.total_g, empty.halves, empty.is_net) == (None, None, None, (), False)
    size = board_figures(worked_out(MasterInputs(length_mm=60, width_mm=40, height_mm=35)), "")
    assert size.box_ml is not None
    assert not size.is_net  # nobody measured its displacement
    kit = board_figures(worked_out(MEASURED, poured=RubberInputs(amount="kit", kit_left_a_g=500.0)), "")
    assert kit.total_g is None  # it is the kit's, whatever is needed
    assert kit.parts_g is not None


def test_kinds_without_a_box_say_so() -> None:
    skin = board_figures(worked_out(MEASURED, opening=OpeningInputs(style="skin")), "")
    assert (skin.has_jacket, skin.is_boxless, skin.box_ml) == (True, True, None)


def test_a_stop_is_one_until_somebody_signs_it_off() -> None:
    clay = replace(MEASURED, material="sulphur-clay", sealer="none")
    stopped = worked_out(clay, checks=CheckInputs(), opening=OPEN, rubber=ADDITION)
    assert board_figures(stopped, "").is_stopped
    assert not board_figures(worked_out(MEASURED), "").is_stopped
    signed = tuple(replace(stop, signed=object()) for stop in stopped.stops)  # type: ignore[arg-type]
    assert not board_figures(replace(stopped, stops=signed), "").is_stopped


def test_kept_figures_are_read_as_they_were_and_those_of_another_version_are_not() -> None:
    shown = board_figures(worked_out(MEASURED, opening=PARTED), "Tideline 15")
    kept = json.loads(json.dumps(shown.to_plain()))
    assert BoardFigures.from_plain(kept) == shown
    empty = board_figures(worked_out(MasterInputs()), "")
    assert BoardFigures.from_plain(json.loads(json.dumps(empty.to_plain()))) == empty
    assert BoardFigures.from_plain(kept | {"net_ml": 3.0}) is None
    assert BoardFigures.from_plain({key: kept[key] for key in list(kept)[1:]}) is None
