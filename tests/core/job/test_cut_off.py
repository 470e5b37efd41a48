"""A part that is cut off: what remains is planned as the whole was, without the readings that are true of the whole."""

import pytest
from shapes import moved

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.cut_off import NO_READINGS, RemainingPart, remaining_parts
from ufrin.core.job.job_plan import JobContext
from ufrin.core.master.master_form import stand_form
from ufrin.core.master.stand_ins import block
from ufrin.core.mesh.triangles import joined
from ufrin.errors import Refused

# a staff of 10 x 10 x 60 mm on a plate of 60 x 40 x 20 mm
STAFF = joined([block(60, 40, 20), moved(block(10, 10, 60), 0, 0, 20)])


def cut(at_mm: float, master: MasterInputs | None = None, scale: float = 1.0) -> tuple[RemainingPart, RemainingPart]:
    form = stand_form(STAFF, (0, 0, 1), scale=scale)
    return remaining_parts(
        form,
        at_mm,
        master=master or MasterInputs(),
        box=BoxInputs(side_mm=12.0, over_mm=12.0),
        rubber=RubberInputs(),
        opening=OpeningInputs(style="open"),
        checks=CheckInputs(),
        context=JobContext(mesh=form),
    )


def test_both_parts_stand_as_the_whole_stood_and_have_boxes_of_their_own() -> None:
    above, below = cut(30.0)
    assert (above.part, below.part) == ("above", "below")
    assert (above.volume_ml, above.height_mm) == (pytest.approx(5.0), pytest.approx(50.0))
    assert (below.volume_ml, below.height_mm) == (pytest.approx(48.0 + 1.0), pytest.approx(30.0))
    assert above.plan.box is not None
    assert below.plan.box is not None
    # by hand: (10 + 24)^2 x (50 + 12) less 5 ml, and (60 + 24) x (40 + 24) x (30 + 12) less 49 ml
    assert above.plan.box.net_ml == pytest.approx(34 * 34 * 62 / 1000 - 5.0)
    assert below.plan.box.net_ml == pytest.approx(84 * 64 * 42 / 1000 - 49.0)


def test_readings_of_the_whole_are_no_readings_of_a_part_but_its_material_stays() -> None:
    above, _ = cut(30.0, MasterInputs(mass_g=500.0, level_before_ml=100.0, level_after_ml=160.0, material="brass"))
    assert above.plan.master.measured is not None
    assert above.plan.master.measured.volume_ml == pytest.approx(5.0)
    assert {"mass_g", "level_before_ml", "level_after_ml"} <= set(NO_READINGS)
    assert not {"material", "density_g_per_ml", "solid"} & set(NO_READINGS)


def test_the_mesh_of_a_part_is_in_the_masters_own_coordinates() -> None:
    above, _ = cut(30.0)
    assert above.mesh.vertices_mm[:, 2].min() == pytest.approx(30.0)
    assert above.mesh.vertices_mm[:, 2].max() == pytest.approx(80.0)
    # a master that is drawn a tenth larger for the shrinkage is kept as it was before
    larger, _ = cut(33.0, scale=1.1)
    assert larger.mesh.vertices_mm[:, 2].max() == pytest.approx(80.0)
    assert larger.height_mm == pytest.approx(88.0 - 33.0)


def test_a_plane_that_meets_nothing_cuts_nothing() -> None:
    with pytest.raises(Refused):
        cut(90.0)
