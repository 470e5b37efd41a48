"""What is answered for a file that was sent, and how a cast is laid out, for shapes whose answers are known."""

from dataclasses import replace
from math import pi

import numpy as np
import pytest
import trimesh
from shapely.geometry import box as rectangle
from shapes import CUBE, ball, cup, mushroom

from ufrin.core.master.master_form import Form
from ufrin.core.master.stand_ins import block, turned
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.mesh.written_files import write_3mf, write_stl
from ufrin.core.opening.cast_layout import CastLayout, CastWishes, cast_layout
from ufrin.core.opening.file_calls import SentFile, air_in_sent, air_round_sent, measure_sent, part_sent, rank_sent
from ufrin.core.opening.open_hollows import OpenHollow, finding_of
from ufrin.core.opening.parted_box import KeyWishes, PartedBox, PlacedForm, bores_near, keyed, parted
from ufrin.core.opening.undercuts import under_a_master
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused

UP = (0.0, 0.0, 1.0)
DOME = cup(sides=48)  # a cup upside down: 40 mm across and high, with a room of 30 mm across and 36 high in it


def sent(mesh: Mesh, *, unit: str = "mm", cells: int = 48, kind: str = "stl") -> SentFile:
    return SentFile(
        data=write_3mf(mesh) if kind == "3mf" else write_stl(mesh), name=f"x.{kind}", unit=unit, cells=cells
    )


def heard(call: object, *given: object, **more: object) -> tuple[object, list[object]]:
    shares: list[object] = []
    return call(shares.append, *given, **more), shares


def room_ml() -> float:
    return trimesh.creation.cylinder(15, 36, sections=48).volume / 1000


def test_a_cube_that_was_sent_is_measured_in_its_unit() -> None:
    found, shares = heard(measure_sent, sent(CUBE, unit="cm"))
    assert shares == [0.5]
    assert (found.format, found.triangles, found.watertight, found.bodies, found.method) == (
        "stl",
        12,
        True,
        1,
        "exact",
    )
    assert found.volume_ml == pytest.approx(6000)
    assert found.area_cm2 == pytest.approx(2200)
    low, high = found.bounds_mm
    assert [b - a for a, b in zip(low, high, strict=True)] == [pytest.approx(10 * side) for side in CUBE.extents_mm]
    assert found.findings == ()
    other, _ = heard(measure_sent, sent(CUBE, unit="cm", kind="3mf"))
    (note,) = other.findings
    assert (note.code, dict(note.facts)) == ("mesh-unit", {"says": "mm", "taken": "cm"})
    same, _ = heard(measure_sent, sent(CUBE, kind="3mf"))
    assert same.findings == ()


def test_air_round_a_cup_that_stands_on_its_rim() -> None:
    closed = {"is_open_beside": True, "is_open_over": True}
    found, shares = heard(air_round_sent, sent(DOME), up=UP, under_mm=0.0, **closed)
    assert shares == [0.3]
    # all of its room is closed by the board
    assert "air-closed" in [one.code for one in found.findings]
    lifted, _ = heard(air_round_sent, sent(DOME), up=UP, under_mm=6.0, **closed)
    (pocket,) = lifted.pockets
    assert pocket.ml == pytest.approx(room_ml(), rel=0.08)
    # its highest point is the ceiling, 36 mm up
    assert pocket.peak_mm[2] == pytest.approx(36, abs=lifted.cell_mm)
    turned_over, _ = heard(air_round_sent, sent(DOME), up=(0.0, 0.0, -1.0), under_mm=6.0, **closed)
    assert turned_over.pockets == ()
    # told in the file's own coordinates, whichever way it stands
    lying, _ = heard(air_round_sent, sent(DOME), up=(1.0, 0.0, 0.0), under_mm=6.0, **closed)
    assert all(abs(one.peak_mm[2]) <= 40 for one in lying.pockets)
    assert lifted.method == "exact"


def test_air_in_a_cast_that_is_poured_from_below() -> None:
    block_of = sent(block(40, 30, 20))
    found, _ = heard(air_in_sent, block_of, up=UP, gates=[], vents=[])
    assert found.pockets == ()
    from_below, _ = heard(air_in_sent, block_of, up=UP, gates=[(0.0, 0.0, 0.2)], vents=[])
    (pocket,) = from_below.pockets
    assert pocket.ml == pytest.approx(24, rel=0.12)
    freed, _ = heard(air_in_sent, block_of, up=UP, gates=[(0.0, 0.0, 0.2)], vents=[(0.0, 0.0, 19.8)])
    assert freed.pockets == ()
    for wrong, field in (
        ({"gates": [(99.0, 0, 0)], "vents": []}, "gates"),
        ({"gates": [], "vents": [(99.0, 0, 0)]}, "vents"),
    ):
        with pytest.raises(Refused, match="is not on the cavity") as refused:
            heard(air_in_sent, block_of, up=UP, **wrong)
        assert refused.value.field == field


def test_walls_thinner_than_a_cell_raise_the_cells_or_are_told() -> None:
    thin = sent(cup(40, 38.6, 40, 39.3, sides=24), cells=24)
    found, _ = heard(air_in_sent, thin, up=UP, gates=[], vents=[])
    (raised,) = [one for one in found.findings if one.code == "cells-raised"]
    assert raised.facts["asked"] == "24"
    assert int(str(raised.facts["cells"])) > 50
    assert found.cell_mm < 0.8


def test_halves_of_a_ball_that_was_sent() -> None:
    made, shares = heard(part_sent, sent(ball(50)), pull=UP, side_mm=10.0, over_mm=12.0, under_mm=8.0, slack_mm=0.0)
    assert shares == [0.3]
    sphere_ml = pi * 50**3 / 6000
    assert made.master_ml == pytest.approx(sphere_ml, rel=0.01)
    assert made.box_ml == pytest.approx(70 * 70 * 70 / 1000, rel=1e-3)
    assert made.upper_ml == pytest.approx(70 * 70 * 37 / 1000 - sphere_ml / 2, rel=0.02)
    assert made.lower_ml == pytest.approx(70 * 70 * 33 / 1000 - sphere_ml / 2, rel=0.02)
    assert (made.locked_ml, made.film_ml, made.method, made.findings) == (0, 0, "exact", ())
    (line,) = made.lines_mm
    assert line[0] == line[-1]
    assert np.abs(np.hypot(*np.array(line)[:, :2].T) - 25).max() < 0.3
    assert made.flatness_mm < 1
    assert made.overhang_ml == pytest.approx((pi * 25**2 * 25 - 2 / 3 * pi * 25**3) / 1000, rel=0.03)
    aside, _ = heard(
        part_sent, sent(ball(50)), pull=(1.0, 0.0, 0.0), side_mm=10.0, over_mm=12.0, under_mm=8.0, slack_mm=0.0
    )
    # the line lies across the pull, in the file's own coordinates
    assert np.abs(np.array(aside.lines_mm[0])[:, 0]).max() < 1


def test_pulls_of_a_mushroom_that_was_sent() -> None:
    found, shares = heard(rank_sent, sent(mushroom(), cells=24), count=30)
    assert shares == [0.3]
    assert found.findings == ()
    assert [one.rank for one in found.pulls] == sorted(one.rank for one in found.pulls)
    best = found.pulls[0]
    # along its axis nothing is locked
    assert abs(best.pull[2]) == pytest.approx(1, abs=0.02)
    assert best.locked_ml == 0


def test_what_lies_under_a_master() -> None:
    under = under_a_master(mushroom(8, 20, 20, 10), 48)
    assert under.overhang_ml == pytest.approx(pi * (20**2 - 8**2) * 20 / 1000, rel=0.08)
    assert under.trapped_ml == pytest.approx(0, abs=0.05)
    assert under.cell_mm == pytest.approx(40 / 48, rel=0.1)
    roof = under_a_master(DOME, 48)
    assert roof.trapped_ml == pytest.approx(room_ml(), rel=0.1)
    assert roof.overhang_ml == pytest.approx(room_ml(), rel=0.1)


def test_a_hollow_is_told_with_its_holes() -> None:
    one = finding_of(OpenHollow(volume_ml=12.4, holes_mm=((3.2, -4.4, 7.6),), widest_mm=5.0))
    assert (one.code, dict(one.facts)) == (
        "open-hollow",
        {
            "volume": Amount(12.4, "volume", 0),
            "holes": "1 hole",
            "across": Amount(5.0, "length", 0),
            "where": "[3 length] right, [4 length] front, [8 length] up",
        },
    )
    many = finding_of(OpenHollow(volume_ml=1, holes_mm=((-1.0, 2.0, -0.3),) * 5, widest_mm=5.0))
    assert many.facts["holes"] == "5 holes"
    assert str(many.facts["where"]).startswith("[1 length] left, [2 length] back, [0 length] up; ")
    assert str(many.facts["where"]).endswith(" and others")
    assert str(many.facts["where"]).count(";") == 3
    four = finding_of(OpenHollow(volume_ml=1, holes_mm=((0.0, 0.0, 1.0),) * 4, widest_mm=5.0))
    assert "others" not in str(four.facts["where"])


def wishes(**more: object) -> CastWishes:
    return CastWishes(
        **{"up": UP, "shown": None, "gates": None, "vents": None, "has_mouth": False, "worth_ml": 0.1, **more}
    )


def laid(**more: object) -> CastLayout:
    return cast_layout(Form(block(40, 30, 20)), wishes(**more))


def test_a_cast_is_held_as_wished_or_as_ranked_and_a_one_piece_mould_upside_down() -> None:
    assert laid().attitudes == ()
    assert np.allclose(laid().turn, np.eye(3))
    ranked = laid(up=None)
    assert ranked.attitudes
    assert np.allclose(ranked.turn @ np.array(ranked.attitudes[0].up), [0, 0, 1])
    mouth = laid(up=None, has_mouth=True)
    assert mouth.attitudes == ()
    # held upside down, its foot is on top and stands open: nothing needs a vent
    assert np.allclose(mouth.turn @ np.array([0, 0, -1]), [0, 0, 1])
    assert (mouth.cast.left, mouth.cast.vents) == ((), ())


def test_gates_and_vents_by_hand_count_and_those_beside_the_cavity_do_not() -> None:
    top = laid(gates=((0.0, 0.0, 20.0),), vents=())
    assert [one.at_mm[2] for one in top.cast.gates] == [pytest.approx(20, abs=0.6)]
    assert (top.cast.left, top.refused) == ((), ())
    below = laid(gates=((0.0, 0.0, 0.0),), vents=())
    assert sum(pocket.ml for pocket in below.cast.left) == pytest.approx(24, rel=0.1)
    (beside,) = laid(gates=((90.0, 0.0, 0.0),)).refused
    assert beside.field == "gates"
    kept = laid(gates=((0.0, 0.0, 20.0),), vents=((90.0, 0.0, 0.0),))
    assert [one.field for one in kept.refused] == ["vents"]
    assert len(kept.cast.gates) == 1
    lying = laid(up=(1.0, 0.0, 0.0), gates=((20.0, 0.0, 10.0),), vents=())
    # a gate is placed in the form's own coordinates, and lies on top of what is held on its end
    assert lying.cast.gates[0].at_mm[2] == pytest.approx(20, abs=0.6)


BELL = Form(turned([(0, 50), (10, 50), (40, 20)]))
PARTED = PartedBox(
    inside=rectangle(-45, -45, 45, 45),
    places=(PlacedForm(form=BELL, x_mm=0.0, y_mm=0.0, is_turned=False),),
    foot_mm=10.0,
    under_mm=10.0,
    over_mm=10.0,
    slack_mm=0.0,
)


def test_bores_near_the_parting_surface_are_where_channels_cross_it() -> None:
    surface = parted(BELL, PARTED)
    layout = cast_layout(BELL, wishes(gates=((0.0, 0.0, 40.0),), vents=()))
    # straight up from the top of the bell it meets no flange
    high = bores_near(layout, surface, ((0.0, 0.0),), 10.0)
    level = float(surface.at(np.array([[40.0, 40.0]]))[0])
    assert level < 30
    assert high == ()
    # a channel that is led sideways at the height of the surface crosses it all the way out
    riser = layout.cast.gates[0]
    sideways = replace(
        layout, cast=replace(layout.cast, gates=(replace(riser, at_mm=(25.0, 0.0, level - 10), way=(1.0, 0.0, 0.0)),))
    )
    crossed = bores_near(sideways, surface, ((0.0, 0.0), (0.0, 5.0)), 10.0)
    assert {y for _, y in crossed} == {0.0, 5.0}
    assert min(x for x, _ in crossed) == pytest.approx(25, abs=1)
    assert max(x for x, _ in crossed) >= 44


def test_keys_of_a_box_are_proposed_or_placed() -> None:
    proposed, found = keyed(BELL, PARTED, KeyWishes(places=None, diameter_mm=None), ())
    assert len(proposed) >= 3
    assert found == ()
    # half of the 20 mm beside the bell
    assert proposed[1].diameter_mm == pytest.approx(10, abs=0.3)
    placed, told = keyed(BELL, PARTED, KeyWishes(places=((38.0, 38.0), (-38.0, 38.0)), diameter_mm=6.0), ())
    assert [(key.x_mm, key.y_mm) for key in placed] == [(38, 38), (-38, 38)]
    assert [key.diameter_mm for key in placed] == [pytest.approx(8.1), 6]
    assert [one.code for one in told] == ["keys-too-few"]
