"""The cut list: the panels of a box, how they are joined, and how they lie on a sheet."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import ceil, pi

import rectpack

from ufrin.errors import Refused
from ufrin.language import Text

STRIP_OVERLAP_MM = 20.0  # common practice: enough for tape
BOARD_MARGIN_MM = 25.0  # common practice: room for clamps and a bead of clay
MOST_PIECES, TENTHS = 400, 10


@dataclass(frozen=True, slots=True, kw_only=True)
class Panel:
    """Equal panels to cut."""

    name: str
    length_mm: float
    height_mm: float
    count: int


def panels(
    *,
    length_mm: float | None,
    width_mm: float | None,
    diameter_mm: float | None,
    around_mm: float | None,
    rim_mm: float,
    thickness_mm: float,
    pinwheel: bool,
) -> tuple[Panel, ...]:
    """List the walls of a box.

    Parameters
    ----------
    length_mm, width_mm : float or None
        Inside of a rectangular box.
    diameter_mm, around_mm : float or None
        Inside of a round box, or the length round the inside of a contour: one strip is bent.
    rim_mm, thickness_mm : float
        Height and thickness of the walls.
    pinwheel : bool
        Each panel overlaps the next, so that all are one thickness longer; else the long ones overlap the ends
        of the short.

    Returns
    -------
    tuple of Panel
        A strip is as long as its own neutral line, which neither stretches nor shrinks when it is bent.
    """
    if around_mm is not None:
        return (Panel(name="strip", length_mm=around_mm + pi * thickness_mm, height_mm=rim_mm, count=1),)
    if diameter_mm is not None:
        return (Panel(name="strip", length_mm=pi * (diameter_mm + thickness_mm), height_mm=rim_mm, count=1),)
    short, long = sorted((length_mm or 0, width_mm or 0))
    more = (thickness_mm, thickness_mm) if pinwheel else (2 * thickness_mm, 0.0)
    return (
        Panel(name=Text("long side"), length_mm=long + more[0], height_mm=rim_mm, count=2),
        Panel(name=Text("short side"), length_mm=short + more[1], height_mm=rim_mm, count=2),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """A piece on a sheet: its name, its lower left corner, its size as it lies, all in mm."""

    name: str
    sheet: int
    x_mm: float
    y_mm: float
    length_mm: float
    height_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class CutList:
    """All that is cut for a box.

    Parameters
    ----------
    panels : tuple of Panel
        The walls.
    board : Panel or None
        The board it stands on, with a margin round the walls.
    seam_mm : float
        Seam to seal: corners and foot.
    pieces : tuple of Piece
        Where each lies.
    sheets : int
        Sheets used; 0 when nothing is nested.
    left_out : tuple of str
        Pieces larger than the sheet.
    sheet_mm : (length, width)
        Of one sheet.
    """

    panels: tuple[Panel, ...]
    board: Panel | None
    seam_mm: float
    pieces: tuple[Piece, ...] = ()
    sheets: int = 0
    left_out: tuple[str, ...] = ()
    sheet_mm: tuple[float, float] = (0.0, 0.0)


def cut_list(
    walls: Sequence[Panel],
    *,
    outside_mm: tuple[float, float],
    around_mm: float,
    thickness_mm: float,
    sheet_mm: tuple[float, float],
    kerf_mm: float,
) -> CutList:
    """Make the cut list of a box and lay it on sheets.

    Parameters
    ----------
    walls : sequence of Panel
        As the box has them.
    outside_mm : (length, width)
        Inside of the box over all.
    around_mm : float
        The way round inside.
    thickness_mm : float
        Of the walls.
    sheet_mm : (length, width)
        Of the sheets that it is cut from.
    kerf_mm : float
        The width of the saw cut.

    Returns
    -------
    CutList
        Pieces may be turned; the saw cut is kept between them, not at the sheet's edge. The packing is a library's
        (maximal rectangles).

    Raises
    ------
    Refused
        For a sheet without size, or a kerf that is not believable.
    """
    check_sheet(sheet_mm, kerf_mm)
    more = 2 * (thickness_mm + BOARD_MARGIN_MM)
    board = Panel(name="board", length_mm=outside_mm[0] + more, height_mm=outside_mm[1] + more, count=1)
    strip = len(walls) == 1
    corners = 1 if strip else 4
    seam_mm = corners * (walls[0].height_mm if walls else 0) + around_mm
    cut = [
        Panel(
            name=one.name,
            length_mm=one.length_mm + (STRIP_OVERLAP_MM if strip else 0),
            height_mm=one.height_mm,
            count=one.count,
        )
        for one in walls
    ]
    wanted = tuple(
        (panel.name, panel.length_mm, panel.height_mm) for panel in (*cut, board) for _ in range(panel.count)
    )
    pieces, sheets, left_out = _nested(wanted, sheet_mm, kerf_mm)
    return CutList(
        panels=tuple(cut),
        board=board,
        seam_mm=seam_mm,
        pieces=pieces,
        sheets=sheets,
        left_out=left_out,
        sheet_mm=sheet_mm,
    )


def check_sheet(sheet_mm: tuple[float, float], kerf_mm: float) -> None:
    """Refuse a sheet or a saw cut that is impossible.

    Parameters
    ----------
    sheet_mm : (length, width)
        Of one sheet.
    kerf_mm : float
        The width of the saw cut.

    Raises
    ------
    Refused
        Naming the input.
    """
    if not (0 < sheet_mm[0] <= 10_000 and 0 < sheet_mm[1] <= 10_000):
        raise Refused("sheet_length_mm", Text("A sheet's size is more than nothing and at most 10 m."))
    if not 0 <= kerf_mm <= 50:
        raise Refused("kerf_mm", Text("A saw takes between nothing and [50 length]."))


@lru_cache(maxsize=256)  # every page of a job asks for the same one
def _nested(
    wanted: tuple[tuple[str, float, float], ...], sheet_mm: tuple[float, float], kerf_mm: float
) -> tuple[tuple[Piece, ...], int, tuple[str, ...]]:
    room = [ceil((side + kerf_mm) * TENTHS) for side in sheet_mm]
    packer = rectpack.newPacker(rotation=True)
    left_out = []
    for number, (name, length, height) in enumerate(wanted[:MOST_PIECES]):
        size = [ceil((side + kerf_mm) * TENTHS - 1e-6) for side in (length, height)]
        if min(size) > min(room) or max(size) > max(room):
            left_out.append(name)
        else:
            packer.add_rect(*size, rid=number)
    packer.add_bin(*room, count=len(wanted))
    packer.pack()
    pieces = []
    for sheet, x, y, wide, _, number in packer.rect_list():
        name, length, height = wanted[number]
        if wide != ceil((length + kerf_mm) * TENTHS - 1e-6):
            length, height = height, length
        pieces.append(
            Piece(name=name, sheet=sheet, x_mm=x / TENTHS, y_mm=y / TENTHS, length_mm=length, height_mm=height)
        )
    return tuple(pieces), len({piece.sheet for piece in pieces}), tuple(left_out)
