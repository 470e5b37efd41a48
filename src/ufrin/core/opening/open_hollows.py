"""Hollows that rubber reaches only through narrow holes, such as a print's drain holes: it would lock in there."""

from dataclasses import dataclass

import edt
import numpy as np
from scipy import ndimage

from ufrin.core.data_files import read_data
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.cells import cells_of_mesh
from ufrin.core.mesh.triangles import Flags, Floats
from ufrin.core.opening.form_analysis import CELLS, analysed_mesh
from ufrin.core.opening.trapped_air import Point3
from ufrin.core.wording.findings import Amount, Finding
from ufrin.language import Joined, Text

FIGURES = {key: float(figure["value"]) for key, figure in read_data("opening", "open_hollows").items()}
MOST_NAMED = 4
TOUCHING = ndimage.generate_binary_structure(3, 3)


@dataclass(frozen=True, slots=True, kw_only=True)
class OpenHollow:
    """A hollow with holes into it.

    Parameters
    ----------
    volume_ml : float
        Of the hollow, by its cells.
    holes_mm : tuple of (x, y, z)
        Where its holes are, as the master stands.
    widest_mm : float
        Across the widest of them, to a cell.
    """

    volume_ml: float
    holes_mm: tuple[Point3, ...]
    widest_mm: float


@kept_by_form(24)
def open_hollows(form: Form) -> tuple[OpenHollow, ...]:
    """Find the hollows of a master that a ball the size of a drain hole can't enter from outside.

    Parameters
    ----------
    form : Form
        Of the master.

    Returns
    -------
    tuple of OpenHollow
        The largest first. A ball is rolled over the master (a closing by that ball): what it can't reach, although
        liquid can and the ball has room in there, is a hollow, and its holes are where liquid passes and the ball
        does not. Holes narrower than a cell count as closed.
    """
    found: tuple[OpenHollow, ...] = ()
    room = cells_of_mesh(analysed_mesh(form), CELLS)
    most_mm = min(FIGURES["widest_hole_mm"], FIGURES["widest_hole_share"] * float(max(form.size_mm)))
    radius_cells = most_mm / 2 / room.cell_mm
    if radius_cells >= FIGURES["least_cells"]:
        beside = int(np.ceil(radius_cells)) + 1  # the outermost cells are farther from any wall than the ball reaches
        fluid = np.pad(~room.solid, beside, constant_values=True)
        found = _hollows(fluid, radius_cells, room.cell_mm, room.low_mm - beside * room.cell_mm)
    worth_ml = max(FIGURES["least_ml"], FIGURES["least_share"] * form.volume_ml)
    return tuple(sorted((one for one in found if one.volume_ml >= worth_ml), key=lambda one: -one.volume_ml))


def _hollows(fluid: Flags, radius_cells: float, cell_mm: float, low_mm: Floats) -> tuple[OpenHollow, ...]:
    to_wall = edt.edt(fluid)
    middles, rooms = ndimage.label(to_wall > radius_cells, TOUCHING)
    if rooms == 1:  # wherever the ball has room, it comes in from outside
        return ()
    outside = middles[0, 0, 0]
    reached = edt.edt(middles != outside) <= radius_cells
    rest, count = ndimage.label(fluid & ~reached)
    has_room = set(np.unique(rest[(middles > 0) & (middles != outside)])) - {0}
    found = []
    for label in has_room:
        own = rest == label
        # liquid gets in where the hollow borders on what the ball reaches
        rims, number = ndimage.label(own & ndimage.binary_dilation(reached & fluid), TOUCHING)
        if not number:
            continue
        at = ndimage.center_of_mass(rims > 0, rims, range(1, number + 1))
        x, y, z = (low_mm[axis] + (np.array(at)[:, order] + 0.5) * cell_mm for axis, order in ((0, 1), (1, 2), (2, 0)))
        holes = [(float(a), float(b), float(c)) for a, b, c in zip(x, y, z, strict=True)]
        widest = 2 * float(to_wall[rims > 0].max()) * cell_mm
        found.append(
            OpenHollow(volume_ml=float(own.sum()) * cell_mm**3 / 1000, holes_mm=tuple(holes), widest_mm=widest)
        )
    return tuple(found)


def finding_of(hollow: OpenHollow) -> Finding:
    """Say what rubber would do in a hollow.

    Parameters
    ----------
    hollow : OpenHollow
        Of a master.

    Returns
    -------
    Finding
        With the number of its holes and where the first of them are.
    """
    number = len(hollow.holes_mm)
    places = [
        Text(
            "{x}, {y}, [{z:.0f} length] up",
            x=_towards(x, "right", "left"),
            y=_towards(y, "back", "front"),
            z=max(z, 0.0),
        )
        for x, y, z in hollow.holes_mm[:MOST_NAMED]
    ]
    where = Joined(places, "; ")
    facts: dict[str, Amount | str] = {
        "volume": Amount(hollow.volume_ml, "volume", 0),
        "holes": Text("1 hole") if number == 1 else Text("{number} holes", number=number),
        "across": Amount(hollow.widest_mm, "length", 0),
        "where": Text("{places} and others", places=where) if number > MOST_NAMED else where,
    }
    return Finding(code="open-hollow", facts=facts)


def _towards(away_mm: float, positive: str, negative: str) -> str:
    return f"[{abs(away_mm):.0f} length] {positive if away_mm >= 0 else negative}"
