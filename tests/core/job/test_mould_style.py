"""The kind of mould that counts, and what follows from it before anything else is worked out."""

from dataclasses import replace

import pytest
from records import ADDITION

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.usual import USUAL
from ufrin.core.job.mould_style import mould_style, usual_clearances
from ufrin.core.master.master_form import Master, stand_form
from ufrin.core.master.stand_ins import block
from ufrin.core.opening.mould_styles import STYLES

OWN = Master(length_mm=60, width_mm=40, height_mm=35, volume_ml=50, count=3)
PUTTY = replace(ADDITION, name="Quay putty", form="putty", pot_life_min=None)


def test_the_chosen_kind_counts_and_else_the_best_advised() -> None:
    free = mould_style(OpeningInputs(), BoxInputs(), OWN, None, rubber=ADDITION, shots=None)
    assert (free.style, free.is_chosen) == (free.advice[0].style, False)
    for style in STYLES:
        chosen = mould_style(OpeningInputs(style=style), BoxInputs(), OWN, None, rubber=ADDITION, shots=None)
        assert (chosen.style, chosen.is_chosen) == (style, True)
        assert [one.style for one in chosen.advice] == [one.style for one in free.advice]  # advised all the same


def test_without_a_shape_the_makers_own_judgement_is_what_it_goes_by() -> None:
    judged = mould_style(OpeningInputs(flat_back=True), BoxInputs(), OWN, None, rubber=ADDITION, shots=40.9)
    assert judged.checklist is not None
    assert judged.checklist.flat_back
    assert (judged.features.shots, judged.features.is_putty, judged.features.count) == (40, False, 3)
    flat = replace(judged.checklist, flat_back=False)
    assert mould_style(OpeningInputs(), BoxInputs(), OWN, None, rubber=None, shots=None).checklist == flat


def test_a_shape_is_looked_at_itself() -> None:
    form = stand_form(block(60, 40, 35), (0, 0, 1))
    found = mould_style(OpeningInputs(), BoxInputs(), OWN, form, rubber=PUTTY, shots=0.0)
    assert found.checklist is None
    assert (found.features.flat_back, found.features.is_putty, found.features.shots) == (True, True, None)
    assert found.features.count == 3
    assert mould_style(OpeningInputs(), BoxInputs(), OWN, form, rubber=None, shots=None).features.allowed is None


def test_what_the_maker_typed_as_clearances_is_what_the_styles_are_compared_with() -> None:
    near = mould_style(OpeningInputs(), BoxInputs(side_mm=5.0, over_mm=6.0), OWN, None, rubber=ADDITION, shots=None)
    far = mould_style(OpeningInputs(), BoxInputs(side_mm=30.0, over_mm=40.0), OWN, None, rubber=ADDITION, shots=None)

    def rubber_ml(style: str, of: object) -> float:
        return next(one.rubber_ml for one in of.advice if one.style == style)  # type: ignore[attr-defined]

    # (60 + 10) x (40 + 10) x (35 + 6) mm less 50 ml, for each of the three in a box of its own (by hand)
    assert rubber_ml("open", near) == pytest.approx(3 * (70 * 50 * 41 / 1000 - 50), rel=1e-6)
    assert rubber_ml("open", far) == pytest.approx(3 * (120 * 100 * 75 / 1000 - 50), rel=1e-6)


def test_a_squeezed_mould_has_clearances_of_its_own() -> None:
    assert usual_clearances("squeeze") == {key: USUAL["squeeze"][key] for key in ("side_mm", "over_mm")}
    assert usual_clearances("open") == usual_clearances("two-part") == {"side_mm": 12.0, "over_mm": 12.0}
    assert usual_clearances("squeeze") != usual_clearances("open")
