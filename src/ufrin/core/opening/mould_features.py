"""The features of a master by which its mould style is chosen, found in its shape or ticked on a list."""

from dataclasses import dataclass

import numpy as np
from scipy import ndimage

from ufrin.core.inputs.usual import USUAL
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form, Master
from ufrin.core.measures.plain_volumes import block_side_cm2
from ufrin.core.mesh.rays import Stretches, columns, grid, stretches
from ufrin.core.mesh.triangles import Flags
from ufrin.core.opening.feature_checklist import FeatureChecklist
from ufrin.core.opening.form_analysis import CELLS, analysed_mesh, stretch_of
from ufrin.core.opening.undercuts import locked_ml

HOLE_SHARE = 0.004  # of a shadow: rubber does not close through smaller holes
FLAT_SHARE = 0.35  # of the plan's area: so much of it on the board makes a flat back
GUESSED_FILL = 0.6  # of its outside, where the displacement is not known


@dataclass(frozen=True, slots=True, kw_only=True)
class MasterFeatures:
    """What the choice of a mould style goes by.

    Parameters
    ----------
    flat_back : bool
        Whether it stands on a flat that need not be copied.
    stretch : float
        That a block must give, as a fraction; after a checklist, a guess.
    allowed : float or None
        That the rubber gives; None while none is chosen.
    locked_share, best_locked_share : float
        Rubber locked as it stands, and along the best pull known, as fractions of the master's volume.
    hole_through : bool
        Whether rubber would close on itself through it.
    thin_part : bool
        Whether something may break off.
    height_to_width : float
        Of the master.
    size_mm : (float, float, float)
        Its outside.
    volume_ml, coated_cm2 : float
        Its displacement, and the surface that a brushed skin covers.
    skin_mm : float
        How thick such a skin is.
    count : int
        Masters in the box.
    shots : int or None
        Casts wanted.
    side_mm, over_mm : float
        Clearances of the box.
    is_judged : bool
        Whether these come from a checklist and not from a shape.
    is_putty : bool or None
        Whether the rubber chosen is kneaded; None while none is chosen.
    """

    flat_back: bool
    stretch: float
    allowed: float | None
    locked_share: float
    best_locked_share: float
    hole_through: bool
    thin_part: bool
    height_to_width: float
    size_mm: tuple[float, float, float]
    volume_ml: float
    coated_cm2: float
    skin_mm: float
    count: int = 1
    shots: int | None = None
    side_mm: float = USUAL["box"]["side_mm"]
    over_mm: float = USUAL["box"]["over_mm"]
    is_judged: bool = False
    is_putty: bool | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class _Shape:
    """What the shape of a form says by itself."""

    on_board_mm2: float
    flat_share: float
    locked_ml: float
    best_locked_ml: float
    has_hole: bool


def judged_features(
    checklist: FeatureChecklist,
    own: Master,
    allowed: float | None,
    *,
    shots: int | None,
    side_mm: float,
    over_mm: float,
    skin_mm: float,
    is_putty: bool | None = None,
) -> MasterFeatures:
    """Return the features of a master without a shape, as far as a checklist tells them.

    Parameters
    ----------
    checklist : FeatureChecklist
        What the maker ticked.
    own : Master
        Its size and count.
    allowed : float or None
        Stretch that the rubber gives, as a fraction.
    shots : int or None
        Casts wanted.
    side_mm, over_mm, skin_mm : float
        Clearances of the box, and the thickness of a brushed skin.
    is_putty : bool or None, optional
        Whether the rubber chosen is kneaded.

    Returns
    -------
    MasterFeatures
        Marked as judged.
    """
    length, width, height = own.length_mm, own.width_mm, own.height_mm
    return MasterFeatures(
        flat_back=checklist.flat_back,
        stretch=checklist.stretch,
        allowed=allowed,
        locked_share=checklist.locked_share,
        best_locked_share=checklist.best_locked_share,
        hole_through=checklist.hole_through,
        thin_part=checklist.thin_part,
        height_to_width=max(height / min(length, width), checklist.least_height_to_width),
        size_mm=(length, width, height),
        volume_ml=own.volume_ml or own.outside_ml * GUESSED_FILL,
        coated_cm2=block_side_cm2(length, width, height),
        count=own.count,
        shots=shots,
        side_mm=side_mm,
        over_mm=over_mm,
        skin_mm=skin_mm,
        is_judged=True,
        is_putty=is_putty,
    )


def features_of_shape(
    form: Form,
    allowed: float | None,
    *,
    count: int,
    shots: int | None,
    side_mm: float,
    over_mm: float,
    skin_mm: float,
    is_putty: bool | None = None,
) -> MasterFeatures:
    """Return the features that the shape of a master shows.

    Parameters
    ----------
    form : Form
        Of the master.
    allowed : float or None
        Stretch that the rubber gives, as a fraction.
    count, shots : int, int or None
        Masters in the box, and casts wanted.
    side_mm, over_mm, skin_mm : float
        Clearances of the box, and the thickness of a brushed skin.
    is_putty : bool or None, optional
        Whether the rubber chosen is kneaded.

    Returns
    -------
    MasterFeatures
        Thin parts can't be told from a shape yet.
    """
    shape = _shape(form)
    length, width, height = form.size_mm
    return MasterFeatures(
        flat_back=shape.flat_share > FLAT_SHARE,
        stretch=stretch_of(form).needed,
        allowed=allowed,
        locked_share=shape.locked_ml / form.volume_ml,
        best_locked_share=shape.best_locked_ml / form.volume_ml,
        hole_through=shape.has_hole,
        thin_part=False,
        height_to_width=height / max(min(length, width), 1e-9),
        size_mm=form.size_mm,
        volume_ml=form.volume_ml,
        coated_cm2=coated_cm2(form),
        count=count,
        shots=shots,
        side_mm=side_mm,
        over_mm=over_mm,
        skin_mm=skin_mm,
        is_putty=is_putty,
    )


def coated_cm2(form: Form) -> float:
    """Return the surface of a master that a brushed skin covers: all but what stands on the board.

    Parameters
    ----------
    form : Form
        Of the master, as it stands.

    Returns
    -------
    float
        In cm2.
    """
    return max(0.0, form.area_cm2 - _shape(form).on_board_mm2 / 100)


@kept_by_form(96)
def _shape(form: Form) -> _Shape:
    mesh = analysed_mesh(form)
    low, cell, cells = grid(mesh, CELLS)
    cast = [stretches(columns(mesh, axis=axis, low_mm=low, cell_mm=cell, shape=cells)) for axis in (2, 0, 1)]
    on_board = float((cast[0].low_mm[cast[0].is_first] < cell * 0.25).sum()) * cell**2
    locked = [locked_ml(one, cell) for one in cast]
    shadows = [_shadow_cells(one, cells, axis) for one, axis in zip(cast, (2, 0, 1), strict=True)]
    return _Shape(
        on_board_mm2=on_board,
        flat_share=on_board / max(form.shadow.area, 1e-9),
        locked_ml=locked[0],
        best_locked_ml=min(locked),
        has_hole=any(_largest_hole(one) > HOLE_SHARE * one.sum() for one in shadows),
    )


def _largest_hole(shadow: Flags) -> int:
    labels, count = ndimage.label(ndimage.binary_fill_holes(shadow) & ~shadow)
    return int(np.bincount(labels.ravel())[1:].max()) if count else 0


def _shadow_cells(cast: Stretches, cells: tuple[int, int, int], axis: int) -> Flags:
    shape = [size for index, size in enumerate(cells) if index != axis]
    hit = np.zeros(shape[0] * shape[1], dtype=bool)
    hit[cast.ray] = True
    return hit.reshape(shape[0], shape[1])
