"""Scenes: a job as its drawings need it."""

from ufrin.actions.jobs import OpenJob
from ufrin.core.terms import BOX, settled
from ufrin.web.drawings.box import BoxScene, View, views
from ufrin.web.speech import Speech


def box_views(opened: OpenJob, say: Speech) -> tuple[View, ...]:
    """Draw the box of a job.

    Parameters
    ----------
    opened : OpenJob
        Worked out.
    say : Speech
        In the workshop's units.

    Returns
    -------
    tuple of View
        Front, side and plan; empty while there is no box.
    """
    box, master = opened.plan.box, opened.job.master
    if box is None:
        return ()
    said = settled(opened.job.box, BOX)
    scene = BoxScene(
        box=box,
        length_mm=box.cell_mm[0],
        width_mm=box.cell_mm[1],
        height_mm=master.height_mm or 0,
        outline="round" if master.outline == "round" else "rectangle",
        count=int(said["count"]),
        side_mm=said["side_mm"],
        over_mm=said["over_mm"],
        under_mm=said["under_mm"],
        gap_mm=said["gap_mm"],
        bed_mm=said["bed_mm"],
        sunk_mm=said["sunk_mm"] if said["bed_mm"] else 0.0,
        wall_mm=said["wall_thickness_mm"],
        lift=f"lift {say.plain(box.lift_g, 'mass', 0 if say.units == 'metric' else None)}" if box.lift_g else "",
    )
    return views(scene, say.plain)
