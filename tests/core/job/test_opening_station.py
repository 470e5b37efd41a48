"""The Opening station: what is worked out with and without a shape, and what was placed by hand."""

from dataclasses import replace

import numpy as np
import pytest
from shapes import cup

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.job_plan import JobContext, plan
from ufrin.core.job.opening_station import Opening, OpeningContext, open_mould
from ufrin.core.job.pulls_compared import attitude_taken, pull_rows
from ufrin.core.master.master_form import Form, stand_form
from ufrin.core.master.stand_ins import block, cone
from ufrin.core.opening.pull_ranking import rankings
from ufrin.core.opening.slit import SLIT_SHARE

SIZE = MasterInputs(length_mm=60, width_mm=40, height_mm=30, known_ml=50)
BLOCK = stand_form(block(60, 40, 30), (0, 0, 1))


def opened(form: Form | None = BLOCK, box: BoxInputs | None = None, **inputs: object) -> Opening:
    made = plan(
        SIZE if form is None else MasterInputs(mass_g=100),
        box or BoxInputs(),
        RubberInputs(),
        JobContext(mesh=form),
        OpeningInputs(**inputs),  # type: ignore[arg-type]
    ).opening
    assert made is not None
    return made


def test_without_a_shape_there_is_the_kind_and_the_usual_slit() -> None:
    plain = opened(None, style="open")
    assert (plain.style, plain.is_chosen, plain.slit, plain.under, plain.cast) == ("open", True, None, None, None)
    assert plain.checklist is not None
    slit = opened(None, style="slit").slit
    assert slit is not None
    assert slit.length_mm == pytest.approx(SLIT_SHARE * 30)
    side = opened(None, style="slit", slit_side="left").slit
    assert side is not None
    assert side.side == "left"


def test_an_upright_block_traps_no_air_and_needs_no_tilt() -> None:
    made = opened(style="open")
    assert made.under is not None
    assert made.under.trapped_ml == pytest.approx(0.0, abs=0.02)
    assert (made.tilt, made.parting_surface, made.keys, made.halves_air) == (None, None, (), None)
    assert made.size_mm == 60.0
    assert made.refusals == ()


def test_a_cup_upside_down_holds_its_air_whichever_way_it_is_tipped() -> None:
    made = opened(stand_form(cup(), (0, 0, 1)), style="open", tilt_limit_deg=10.0)
    assert made.under is not None
    assert made.under.trapped_ml > 10
    assert made.tilt is None  # none within ten degrees frees it


def test_two_halves_have_a_surface_keys_and_the_air_of_each() -> None:
    made = opened(style="two-part")
    assert made.is_parted
    assert made.parting_surface is not None
    assert made.halves_air is not None
    assert (len(made.keys) >= 3, made.keys_by_hand) == (True, False)
    assert made.inside is not None
    assert made.inside.area == pytest.approx((60 + 24) * (40 + 24), rel=1e-3)
    assert made.tilt is None  # it lies in its bed


def test_gates_vents_and_keys_that_were_placed_stay_where_they_are() -> None:
    made = opened(style="two-part", gates="0,0,30", keys="34,0; -34,0; 0,24")
    assert (made.gate_by_hand, made.vents_by_hand, made.keys_by_hand) == (True, False, True)
    assert len(made.keys) == 3
    free = opened(style="two-part")
    assert (free.gate_by_hand, free.keys_by_hand) == (False, False)


def test_a_show_face_is_turned_with_the_master() -> None:
    assert opened(style="open").shown is None
    shown = opened(style="open", show="0,0,2").shown
    assert shown is not None
    assert shown == pytest.approx([0.0, 0.0, 1.0])
    lying = stand_form(block(60, 40, 30), (1, 0, 0))
    turned = opened(lying, style="open", show="1,0,0").shown
    assert turned is not None
    assert turned == pytest.approx([0.0, 0.0, 1.0])


def test_a_mould_without_a_box_is_not_parted() -> None:
    context = OpeningContext(
        kind=replace(_kind(), style="two-part"), form=BLOCK, masters=(), box=None, foot_mm=0, board_mm=0, over_mm=12
    )
    made = open_mould(OpeningInputs(), context)
    assert (made.parting_surface, made.keys) == (None, ())


def _kind() -> object:
    kind = plan(MasterInputs(mass_g=100), BoxInputs(), RubberInputs(), JobContext(mesh=BLOCK), OpeningInputs()).kind
    assert kind is not None
    return kind


def test_of_the_ranked_pulls_the_one_that_the_master_lies_along_has_the_plans_figures() -> None:
    tapered = stand_form(cone(50, 30, 40), (0, 0, 1))
    made = plan(
        MasterInputs(mass_g=100), BoxInputs(), RubberInputs(), JobContext(mesh=tapered), OpeningInputs(style="two-part")
    )
    *_, ranking = rankings(tapered.mesh)
    rows = pull_rows(made, ranking, None)
    assert rows
    assert sum(row.is_taken for row in rows) == 1
    (taken,) = [row for row in rows if row.is_taken]
    assert made.opening is not None
    assert made.opening.parting_surface is not None
    assert taken.flatness_mm == made.opening.parting_surface.flatness_mm
    assert taken.balance == made.opening.parting_surface.balance
    # one of them in a box of its own, as it lies: 50 x 50 x 40 mm with 12 mm of rubber all round, less the master
    assert taken.rubber_ml == pytest.approx(74 * 74 * 64 / 1000 - tapered.volume_ml, rel=0.01)
    assert pull_rows(plan(SIZE, BoxInputs(), RubberInputs(), JobContext()), ranking, None) == []


def test_the_way_in_which_a_mould_is_held_is_found_again() -> None:
    made = opened(style="two-part")
    number = attitude_taken(made)
    if made.attitudes:
        assert number is not None
        up = np.array(made.attitudes[number].up) / np.linalg.norm(made.attitudes[number].up)
        assert up @ made.cast_turn[2] == pytest.approx(1.0, abs=1e-3)
    assert attitude_taken(replace(made, attitudes=())) is None
