"""The scenes that the drawings of a job show."""

import numpy as np
from scipy import ndimage

from ufrin.actions.job.open_job import OpenJob
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.cell_rings import Ring, rings_of
from ufrin.core.opening.form_analysis import cells_of
from ufrin.core.opening.mould_styles import LITTLE_LOCKED
from ufrin.core.opening.undercuts import locked_cells
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.drawings.box import views
from ufrin.web.drawings.box_scene import BoxScene, View
from ufrin.web.drawings.casting_attitude import CastScene
from ufrin.web.drawings.master import master_views
from ufrin.web.drawings.opening import MouldScene
from ufrin.web.frame.wording_in_units import UnitFormatter


def box_views(opened: OpenJob, say: UnitFormatter) -> tuple[View, ...]:
    """Draw the box of a job.

    Parameters
    ----------
    opened : OpenJob
        Worked out.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    tuple of View
        Front, side and plan; empty while there is no box.
    """
    box, plan = opened.plan.box, opened.plan.box_plan
    if box is None or plan is None:
        return ()
    lift = (
        Text("lift {lift_g}", lift_g=say.plain(box.lift_g, "mass", 0 if say.units == "metric" else None))
        if box.lift_g
        else ""
    )
    return views(BoxScene(box=box, plan=plan, wall_mm=opened.job.box.settled().wall_thickness_mm, lift=lift), say.plain)


def views_of_master(opened: OpenJob, say: UnitFormatter) -> tuple[View, ...]:
    """Draw the master of a job.

    Parameters
    ----------
    opened : OpenJob
        Worked out.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    tuple of View
        Front, side and plan; empty while there is no form.
    """
    form = opened.plan.master.form
    return master_views(form, say.plain) if form else ()


def mould_scene(opened: OpenJob) -> MouldScene | None:
    """Return the scene of the mould in its box.

    Parameters
    ----------
    opened : OpenJob
        Worked out.

    Returns
    -------
    MouldScene or None
        None while there is no form or no box.
    """
    made, form, box, plan = opened.plan.opening, opened.plan.master.form, opened.plan.box, opened.plan.box_plan
    if made is None or form is None or box is None or plan is None:
        return None
    places = tuple(
        (other, place.x_mm, place.y_mm, place.turned)
        for place in box.layout.places
        if (other := plan.masters[place.kind].form) is not None
    )
    return MouldScene(
        opening=made,
        form=form,
        places=places,
        inside=box.inside_polygon(),
        foot_mm=plan.foot_mm,
        fill_mm=box.fill_mm,
        floor_mm=0.0,
        locked=_locked(form, under_too=not made.is_parted),
    )


@kept_by_form(48)
def _locked(form: Form, *, under_too: bool) -> dict[str, tuple[Ring, ...]]:
    try:
        solid = cells_of(form)
    except Refused:  # no ray meets it
        return {}
    mask = locked_cells(solid, under_too=under_too)
    # nothing is locked under the board, and locked rubber one cell thick only means a wall that leans very slightly
    mask[: max(0, int(np.ceil(-float(solid.low_mm[2]) / solid.cell_mm - 0.5)))] = False
    mask = ndimage.binary_opening(mask, np.ones((3, 3, 3), dtype=bool))
    if float(mask.sum()) * solid.cell_mm**3 / 1000 < LITTLE_LOCKED * form.volume_ml:
        return {}
    sides = (("front", 0, 2), ("side", 1, 1))
    return {
        view: rings_of(np.asarray(mask.any(axis=away)).T, solid.low_mm[[axis, 2]], solid.cell_mm)
        for view, axis, away in sides
    }


def cast_scene(opened: OpenJob) -> CastScene | None:
    """Return the scene of the mould as it is held for casting.

    Parameters
    ----------
    opened : OpenJob
        Worked out.

    Returns
    -------
    CastScene or None
        None while there is no form.
    """
    made, form = opened.plan.opening, opened.plan.master.form
    if made is None or form is None or made.cast is None:
        return None
    length, width, height = form.size_mm
    box = opened.plan.box_inputs.settled()
    side, over, under = box.side_mm, box.over_mm, box.under_mm
    corners = np.array(
        [
            (x, y, z)
            for x in (-length / 2 - side, length / 2 + side)
            for y in (-width / 2 - side, width / 2 + side)
            for z in (-under, height + over)
        ]
    )
    return CastScene(opening=made, form=form, corners_mm=corners @ made.cast_turn.T)
