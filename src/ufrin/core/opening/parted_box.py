"""A box parted in two halves: its masters laid out, the parting surface between them, and the keys on its flange."""

from dataclasses import dataclass

import numpy as np
from shapely import affinity
from shapely.geometry import Polygon

from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import QUARTER, Form
from ufrin.core.mesh.cells import Cells, cells_of_mesh
from ufrin.core.mesh.triangles import joined
from ufrin.core.opening.cast_layout import CastLayout
from ufrin.core.opening.form_analysis import CELLS, analysed_mesh, cells_of
from ufrin.core.opening.keys import FIRST_LARGER, Key, check_keys, flange, key_size_mm, place_keys
from ufrin.core.opening.parting_surface import PartingSurface, parting_surface
from ufrin.core.opening.trapped_air import Air, air_round_master
from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused
from ufrin.language import Text

SPLIT_CELLS, MOST_SPLIT_CELLS = 112, 260
BORE_STEP_MM, BORE_NEAR_MM = 1.5, 8.0  # a bore that runs within that of the parting surface is in the way of keys


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedForm:
    """Where a master lies in the plan of a box: its middle, and whether it was turned a quarter."""

    form: Form | None
    x_mm: float
    y_mm: float
    is_turned: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PartedBox:
    """A box that is to be parted.

    Parameters
    ----------
    inside : Polygon
        In plan.
    places : tuple of PlacedForm
        Its masters, the job's own first.
    foot_mm : float
        How high the masters stand over the board of the box.
    under_mm, over_mm : float
        Rubber under and over the masters.
    slack_mm : float
        By how much the seam may cut their surface.
    """

    inside: Polygon
    places: tuple[PlacedForm, ...]
    foot_mm: float
    under_mm: float
    over_mm: float
    slack_mm: float


@kept_by_form(32)
def parted(form: Form, box: PartedBox) -> PartingSurface:
    """Part a box along the upright.

    Parameters
    ----------
    form : Form
        Of the job's own master.
    box : PartedBox
        With all masters in it.

    Returns
    -------
    PartingSurface
        Of all masters together.

    Raises
    ------
    Refused
        When a master has no shape, or does not fit the box.
    """
    own = analysed_mesh(form)
    copies, volume_ml = [], 0.0
    for place in box.places:
        if place.form is None:
            raise Refused(
                "style",
                Text(
                    "Another master in this box has no shape to part. Give it a mesh or a stand-in, or "
                    "take it out of the box."
                ),
            )
        whole = own if place.form == form else place.form.mesh
        copies.append(
            whole.moved(QUARTER if place.is_turned else np.eye(3), np.array([place.x_mm, place.y_mm, box.foot_mm]))
        )
        volume_ml += place.form.volume_ml
    scene = joined(copies) if len(copies) > 1 else copies[0]
    cells = int(SPLIT_CELLS * max(1.0, float(scene.extents_mm.max()) / float(own.extents_mm.max()) * 0.6))
    is_alone = len(box.places) == 1 and not box.places[0].is_turned and own is form.mesh
    return parting_surface(
        scene,
        box.inside,
        under_mm=box.under_mm,
        over_mm=box.over_mm,
        cells=min(cells, MOST_SPLIT_CELLS),
        slack_mm=box.slack_mm,
        volume_ml=volume_ml,
        seen=affinity.translate(form.shadow, box.places[0].x_mm, box.places[0].y_mm) if is_alone else None,
    )


@kept_by_form(32)
def air_of_halves(form: Form, box: PartedBox) -> tuple[Air, Air]:
    """Find the air that each pour of a parted box leaves round the job's own master.

    Parameters
    ----------
    form : Form
        Of the job's own master.
    box : PartedBox
        As it is parted.

    Returns
    -------
    Air, Air
        Of the half poured first, over the clay bed, and of the second, turned over on the first. Points of the second
        are in its own coordinates: y and z the other way.

    Raises
    ------
    Refused
        When the box can't be parted, or no ray meets the master.
    """
    surface, place = parted(form, box), next(one for one in box.places if one.form == form)

    def air(solid: Cells, turned_over: float) -> Air:
        middles = [solid.low_mm[axis] + (np.arange(size) + 0.5) * solid.cell_mm for axis, size in enumerate(solid.plan)]
        x, y = np.meshgrid(*middles, indexing="ij")
        points = np.column_stack([x.ravel(), turned_over * y.ravel()])
        in_box = points @ QUARTER[:2, :2].T if place.is_turned else points
        heights = surface.at(in_box + np.array([place.x_mm, place.y_mm])) - box.foot_mm
        floor = turned_over * heights.reshape(x.shape)
        return air_round_master(solid, board_mm=float(solid.low_mm[2]), floor_mm=floor)

    over = cells_of_mesh(analysed_mesh(form).moved(np.diag([1.0, -1.0, -1.0])), CELLS)
    return air(cells_of(form), 1.0), air(over, -1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class KeyWishes:
    """What the maker wants of the keys: places by hand in the plan of the box (None proposes them), and a diameter."""

    places: tuple[tuple[float, float], ...] | None
    diameter_mm: float | None


@kept_by_form(64)
def keyed(
    form: Form, box: PartedBox, wishes: KeyWishes, bores: tuple[tuple[float, float], ...]
) -> tuple[tuple[Key, ...], tuple[Finding, ...]]:
    """Place the keys of a parted box and check them.

    Parameters
    ----------
    form : Form
        Of the job's own master.
    box : PartedBox
        As it is parted.
    wishes : KeyWishes
        Of the maker.
    bores : tuple of (x, y)
        Where gates and vents run near the parting surface.

    Returns
    -------
    tuple of Key, tuple of Finding
        The keys, and what is wrong with them.

    Raises
    ------
    Refused
        When the box can't be parted.
    """
    surface = parted(form, box)
    free = flange(box.inside, surface.seen, bores)
    size = wishes.diameter_mm or key_size_mm(box.inside, surface.seen)
    if wishes.places is None:
        keys = place_keys(free, box.inside, size)
    else:
        keys = tuple(
            Key(x_mm=x, y_mm=y, diameter_mm=size * (FIRST_LARGER if number == 0 else 1))
            for number, (x, y) in enumerate(wishes.places)
        )
    return keys, check_keys(keys, box.inside, free, surface)


def bores_near(
    layout: CastLayout, surface: PartingSurface, places: tuple[tuple[float, float], ...], foot_mm: float
) -> tuple[tuple[float, float], ...]:
    """Find where gates and vents run near the parting surface, in every cavity of the job's own master.

    Parameters
    ----------
    layout : CastLayout
        With gates and vents.
    surface : PartingSurface
        Of the box.
    places : tuple of (x, y)
        Middles of the cavities.
    foot_mm : float
        How high the masters stand over the board of the box.

    Returns
    -------
    tuple of (x, y)
        In the plan of the box, rounded so that they can be compared.
    """
    shape = surface.area_mm2.shape
    along = np.arange(0.0, float(np.ptp(np.array(shape)) + sum(shape)) * surface.cell_mm, BORE_STEP_MM)
    low, high = surface.low_mm, surface.low_mm + np.array(shape) * surface.cell_mm
    found = []
    for riser in (*layout.cast.gates, *layout.cast.vents):
        way = np.array(riser.way or (0.0, 0.0, 1.0)) @ layout.turn
        line = np.array(riser.at_mm) @ layout.turn + along[:, None] * way
        for x, y in places:
            run = line + np.array([x, y, foot_mm])
            over_plan = ((run[:, :2] > low - BORE_NEAR_MM) & (run[:, :2] < high + BORE_NEAR_MM)).all(axis=1)
            near = over_plan & (np.abs(run[:, 2] - surface.at(run[:, :2])) < BORE_NEAR_MM)
            found += [(round(float(a), 2), round(float(b), 2)) for a, b in run[near, :2]]
    return tuple(found)
