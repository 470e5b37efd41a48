"""Stand-ins that a maker chooses: a size that was typed is the size that is shown and boxed."""

import pytest

from ufrin.core.inputs.master import MasterInputs
from ufrin.core.master.displacement import MeasuredVolume
from ufrin.core.master.stand_in_choice import stand_in_form

DESCRIBED = {
    "ball": (MasterInputs(standin="ball", length_mm=60), (60, 60, 60), 60),
    "drum": (MasterInputs(standin="drum", length_mm=60, height_mm=40), (60, 60, 40), 60),
    "cone": (MasterInputs(standin="cone", length_mm=30, top_mm=60, height_mm=40), (60, 60, 40), 60),
    "on its head": (
        MasterInputs(standin="cone", length_mm=60, top_mm=20, height_mm=40, up="0, 0, -1"),
        (60, 60, 40),
        60,
    ),
    "ring": (MasterInputs(standin="ring", length_mm=60, ring_mm=10), (60, 60, 10), 60),
    "profile": (MasterInputs(standin="profile", profile="0 40; 10 60; 20 16; 60 0"), (60, 60, 60), 60),
}


@pytest.mark.parametrize("name", DESCRIBED)
def test_what_is_round_is_as_wide_as_was_typed(name: str) -> None:
    inputs, size_mm, circle_mm = DESCRIBED[name]
    form = stand_in_form(inputs, None)
    assert form
    assert form.size_mm == pytest.approx(size_mm)
    assert form.circle[0] == pytest.approx(circle_mm)
    # its chords reach no further from the truth than a tenth of a percent
    assert form.mesh.extents_mm == pytest.approx(size_mm, rel=0.002)


def test_a_body_that_was_fitted_keeps_its_size_and_lying_ones_are_measured_by_their_mesh() -> None:
    inputs = MasterInputs(standin="fitted", length_mm=60, width_mm=50, height_mm=40)
    fitted = stand_in_form(inputs, MeasuredVolume(volume_ml=70, plus_minus_ml=1))
    assert fitted
    assert fitted.size_mm == (60, 50, 40)
    lying = stand_in_form(MasterInputs(standin="drum", length_mm=60, height_mm=40, up="1, 0, 0"), None)
    assert lying
    assert sorted(lying.size_mm) == pytest.approx([40, 60, 60], abs=0.05)
