"""Panels: the walls close up, the pieces lie apart on their sheets, the printed box goes together in one way only."""

from itertools import combinations
from math import pi

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import affinity

from ufrin.core.box.cut_list import STRIP_OVERLAP_MM, Panel, cut_list, panels
from ufrin.core.box.printed_box import KEY_MM, printable_box
from ufrin.core.mesh.manifolds import manifold
from ufrin.core.mesh.mesh_volume import measure
from ufrin.core.mesh.sections import section
from ufrin.core.mesh.triangles import Mesh
from ufrin.errors import Refused

side = st.floats(20, 400)


def walls(length: float, width: float, thickness: float, *, pinwheel: bool = False) -> tuple[Panel, ...]:
    return panels(
        length_mm=length,
        width_mm=width,
        diameter_mm=None,
        around_mm=None,
        rim_mm=50,
        thickness_mm=thickness,
        pinwheel=pinwheel,
    )


@given(side, side, st.floats(1, 20))
def test_the_walls_stood_round_the_inside_close_it_up(length: float, width: float, thickness: float) -> None:
    long, short = max(length, width), min(length, width)
    inside = shapely.box(0, 0, long, short)
    over, between = walls(length, width, thickness)
    # long ones outside, short ones between them
    stood = [shapely.box(-thickness, y, -thickness + over.length_mm, y + thickness) for y in (-thickness, short)]
    stood += [shapely.box(x, 0, x + thickness, between.length_mm) for x in (-thickness, long)]
    assert_closed(inside, stood, thickness)
    # each overlaps the next, round and round
    a, b = walls(length, width, thickness, pinwheel=True)
    stood = [
        shapely.box(0, -thickness, a.length_mm, 0),
        shapely.box(-thickness, short, -thickness + a.length_mm, short + thickness),
    ]
    stood += [
        shapely.box(-thickness, -thickness, 0, -thickness + b.length_mm),
        shapely.box(long, 0, long + thickness, b.length_mm),
    ]
    assert_closed(inside, stood, thickness)


def assert_closed(inside: shapely.Polygon, stood: list[shapely.Polygon], thickness: float) -> None:
    assert all(wall.intersection(inside).area == pytest.approx(0, abs=1e-6) for wall in stood)
    assert all(a.intersection(b).area == pytest.approx(0, abs=1e-6) for a, b in combinations(stood, 2))
    whole = shapely.union_all([inside, *stood])
    assert whole.area == pytest.approx(inside.buffer(thickness, join_style="mitre").area)


@given(st.floats(30, 300), st.floats(0.5, 6))
def test_a_strip_is_as_long_as_its_own_middle(diameter: float, thickness: float) -> None:
    (strip,) = panels(
        length_mm=None,
        width_mm=None,
        diameter_mm=diameter,
        around_mm=None,
        rim_mm=40,
        thickness_mm=thickness,
        pinwheel=False,
    )
    assert strip.length_mm == pytest.approx(2 * pi * (diameter / 2 + thickness / 2))
    (bent,) = panels(
        length_mm=None,
        width_mm=None,
        diameter_mm=None,
        around_mm=pi * diameter,
        rim_mm=40,
        thickness_mm=thickness,
        pinwheel=False,
    )
    assert bent.length_mm == pytest.approx(strip.length_mm)
    cut = cut_list(
        [strip],
        outside_mm=(diameter, diameter),
        around_mm=pi * diameter,
        thickness_mm=thickness,
        sheet_mm=(2000, 1000),
        kerf_mm=2,
    )
    assert cut.panels[0].length_mm == pytest.approx(strip.length_mm + STRIP_OVERLAP_MM)
    assert cut.seam_mm == pytest.approx(40 + pi * diameter)


@given(side, side, st.floats(1, 20), st.floats(150, 900), st.floats(100, 600), st.floats(0, 6))
def test_pieces_lie_on_their_sheets_with_room_for_the_saw(
    length: float, width: float, thickness: float, sheet_length: float, sheet_width: float, kerf: float
) -> None:
    cut = cut_list(
        walls(length, width, thickness),
        outside_mm=(length, width),
        around_mm=2 * (length + width),
        thickness_mm=thickness,
        sheet_mm=(sheet_length, sheet_width),
        kerf_mm=kerf,
    )
    assert len(cut.pieces) + len(cut.left_out) == 5
    for piece in cut.pieces:
        assert piece.x_mm + piece.length_mm <= sheet_length + 0.1
        assert piece.y_mm + piece.height_mm <= sheet_width + 0.1
    for one, other in combinations(cut.pieces, 2):
        if one.sheet == other.sheet:
            a, b = (shapely.box(p.x_mm, p.y_mm, p.x_mm + p.length_mm, p.y_mm + p.height_mm) for p in (one, other))
            assert a.distance(b) >= kerf - 0.11
    sizes = {tuple(sorted((p.length_mm, p.height_mm))) for p in cut.pieces}
    wanted = {tuple(sorted((p.length_mm, p.height_mm))) for p in (*cut.panels, cut.board) if p is not None}
    assert sizes <= wanted
    assert cut.seam_mm == pytest.approx(4 * 50 + 2 * (length + width))


@pytest.mark.parametrize(
    ("sheet", "kerf", "says"),
    [
        ((0, 300), 3, "sheet's size"),
        ((300, 99_999), 3, "sheet's size"),
        ((300, 200), -1, "saw"),
        ((300, 200), 60, "saw"),
    ],
)
def test_a_sheet_or_saw_that_cannot_be(sheet: tuple[float, float], kerf: float, says: str) -> None:
    with pytest.raises(Refused, match=says):
        cut_list(walls(100, 80, 6), outside_mm=(100, 80), around_mm=360, thickness_mm=6, sheet_mm=sheet, kerf_mm=kerf)


OUTLINES = {
    "rectangle": shapely.box(-40, -30, 40, 30),
    "round": shapely.Point(3, -2).buffer(35, quad_segs=48),
    "bent": shapely.union_all([shapely.Point(-20, 0).buffer(22), shapely.Point(20, 8).buffer(16)]).buffer(6).buffer(-2),
}


@pytest.mark.parametrize("inside", OUTLINES.values(), ids=OUTLINES)
def test_a_printed_box_is_sound_and_its_keys_fill_their_holes_without_touching(inside: shapely.Polygon) -> None:
    made = printable_box(inside, rim_mm=40, thickness_mm=3, pour_mm=18)
    for part in (made.walls, made.board):
        found = measure(part)
        assert (found.method, found.watertight, found.bodies, found.findings) == ("exact", True, 1, ())
    # put together, they share no room; and the keys stand within the walls' foot
    assert (manifold(made.walls) ^ manifold(made.board)).volume() == pytest.approx(0, abs=1e-3)
    assert made.board.bounds_mm[1][2] == pytest.approx(2.4)
    hole = sum(shapely.Polygon(ring).area for part in section(made.walls, 20).geoms for ring in part.interiors)
    assert hole == pytest.approx(inside.area, rel=1e-3)


@pytest.mark.parametrize("inside", OUTLINES.values(), ids=OUTLINES)
def test_the_walls_go_onto_the_board_in_one_way_only(inside: shapely.Polygon) -> None:
    made = printable_box(inside, rim_mm=40, thickness_mm=3, pour_mm=0)
    keys = [shapely.centroid(part) for part in section(made.board, 1.0).geoms]
    assert len(keys) == 3
    middle = shapely.centroid(inside)
    for turn in (90, 180, 270):
        assert not meet(keys, [affinity.rotate(key, turn, origin=middle) for key in keys])
    for x, y in ((-1, 1), (1, -1)):
        assert not meet(keys, [affinity.scale(key, x, y, origin=middle) for key in keys])


def meet(keys: list[shapely.Point], others: list[shapely.Point]) -> bool:
    return all(min(key.distance(other) for other in others) < KEY_MM / 4 for key in keys)


@pytest.mark.parametrize(
    ("size", "rim", "thickness", "says"),
    [((40, 30), 40, 0.2, "printed wall"), ((40, 30), 2, 3, "high"), ((1, 1), 40, 0.9, "too small for its keys")],
)
def test_a_box_too_small_or_thin_to_print_is_refused(
    size: tuple[float, float], rim: float, thickness: float, says: str
) -> None:
    inside = shapely.box(0, 0, *size)
    with pytest.raises(Refused, match=says):
        printable_box(inside, rim_mm=rim, thickness_mm=thickness, pour_mm=0)


def test_both_prints_lie_side_by_side() -> None:
    made = printable_box(OUTLINES["rectangle"], rim_mm=40, thickness_mm=3, pour_mm=18)
    both = made.side_by_side
    assert isinstance(both, Mesh)
    assert both.volume_mm3 == pytest.approx(made.walls.volume_mm3 + made.board.volume_mm3)
    assert float(np.ptp(both.vertices_mm[:, 0])) > 2 * float(made.walls.extents_mm[0])
