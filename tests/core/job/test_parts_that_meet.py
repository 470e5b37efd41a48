"""What meets in a job: surfaces of masters, board, walls, bed, filler, jacket and cast, as they were filled in."""

from dataclasses import replace

import pytest
from records import ADDITION, MASTER, worked_out

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.parts_that_meet import master_surface, parts_that_meet
from ufrin.core.materials.kinds import SOMETHING_ELSE
from ufrin.core.materials.tables import BOARDS, MATERIALS
from ufrin.core.pairing.contacts import PartsThatMeet
from ufrin.core.shelf.containers import Container

TUB = Container(name="Tub", length_mm=200, width_mm=160, height_mm=160, material="metal")


def parts(
    style: str,
    box: BoxInputs | None = None,
    checks: CheckInputs | None = None,
    *,
    bed: str | None = None,
    **more: object,
) -> PartsThatMeet:
    box, checks = box or BoxInputs(), checks or CheckInputs()
    made: Plan = worked_out(opening=OpeningInputs(style=style), box=box)
    plan = made.box_plan
    if plan is not None and "container" in more:
        plan = replace(plan, container=more["container"])
    return parts_that_meet(
        (master_surface("", MASTER),),
        box,
        checks,
        bed_material=bed,
        rubber=ADDITION,
        box_plan=plan,
        opening=made.opening,
    )


def test_what_the_surface_of_a_master_is() -> None:
    brass = master_surface("Cleat", MasterInputs(material="brass"))
    assert (brass.kind, brass.layers, brass.is_known, brass.name) == (MATERIALS["brass"].surface, (), False, "Cleat")
    sealed = master_surface("Cleat", MasterInputs(material="brass", sealer="shellac", release="wax"), of_job=4)
    assert (sealed.layers, sealed.is_known, sealed.of_job) == (("shellac", "wax"), True, 4)
    assert master_surface("", MasterInputs()).kind == ""
    own = MasterInputs(material=SOMETHING_ELSE, own_material="latex")
    assert master_surface("", own).kind == "latex"
    assert master_surface("", replace(own, own_material=None)).kind == SOMETHING_ELSE


def test_an_open_block_stands_on_its_board_between_walls() -> None:
    found = parts("open", BoxInputs(board_material="melamine-board", wall_material="acrylic-sheet"))
    assert (found.board, found.walls) == (BOARDS["melamine-board"].surface, BOARDS["acrylic-sheet"].surface)
    assert (found.has_board, found.has_walls, found.has_bed, found.is_parted, found.has_jacket) == (
        *(True, True, False, False, False),
    )
    assert (found.rubber, found.rubber_name, found.filler, found.cast) == (ADDITION.family, "Tideline 15", "", "")
    assert found.walls_name == "the walls"


def test_a_bed_lies_between_master_and_board() -> None:
    found = parts("open", BoxInputs(bed_mm=8.0, bed_material="plaster"))
    assert (found.has_board, found.has_bed, found.bed, found.bed_station) == (False, True, "plaster", "box")
    halves = parts("two-part", BoxInputs(bed_material="plaster"), bed="sulphur-free-clay")
    assert (halves.has_board, halves.has_bed, halves.bed, halves.bed_station) == (
        *(False, True),
        "sulphur-free-clay",
        "opening",
    )
    assert halves.is_parted


def test_a_container_is_board_and_walls_in_one() -> None:
    found = parts("open", container=TUB)
    assert (found.board, found.has_board, found.walls, found.walls_name) == ("", False, "metal", "the container")


@pytest.mark.parametrize(
    ("style", "has_walls", "has_jacket"), [("skin", False, True), ("press", False, False), ("tray", True, False)]
)
def test_kinds_without_a_box_have_neither_walls_nor_bed_nor_filler(
    style: str, has_walls: bool, has_jacket: bool
) -> None:
    found = parts(style, BoxInputs(bed_mm=8.0, filler_ml=20.0, jacket_material="plaster"))
    assert (found.has_walls, found.has_jacket) == (has_walls, has_jacket)
    assert found.has_bed == has_walls
    assert found.filler == (ADDITION.family if has_walls else "")
    assert found.jacket == "plaster"


def test_filler_is_of_the_rubbers_own_family_unless_somebody_says_otherwise() -> None:
    assert parts("open", BoxInputs(filler_ml=20.0)).filler == ADDITION.family
    other = BoxInputs(filler_ml=20.0, filler_family="polyurethane-rubber")
    assert parts("open", other).filler == "polyurethane-rubber"
    assert parts("open", replace(other, filler_ml=None)).filler == ""


def test_cast_insert_and_what_lies_between_come_from_the_checks() -> None:
    found = parts("open", checks=CheckInputs(cast_material="plaster", insert="metal", between_board="wax"))
    assert (found.cast, found.insert) == ("plaster", "metal")
    assert found.between == {"board": "wax", "walls": None, "bed": None, "halves": None, "cast": None}
