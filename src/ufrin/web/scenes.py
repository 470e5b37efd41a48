"""Scenes: a job as its drawings need it."""

from ufrin.actions.jobs import OpenJob
from ufrin.core.terms import BOX, settled
from ufrin.web.drawings.box import BoxScene, View, views
from ufrin.web.drawings.master import master_views
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
    box, plan = opened.plan.box, opened.plan.box_plan
    if box is None or plan is None:
        return ()
    lift = f"lift {say.plain(box.lift_g, 'mass', 0 if say.units == 'metric' else None)}" if box.lift_g else ""
    return views(BoxScene(box=box, plan=plan, wall_mm=settled(opened.job.box, BOX)["wall_thickness_mm"], lift=lift), say.plain)


def views_of_master(opened: OpenJob, say: Speech) -> tuple[View, ...]:
    """Draw the master of a job.

    Parameters
    ----------
    opened : OpenJob
        Worked out.
    say : Speech
        In the workshop's units.

    Returns
    -------
    tuple of View
        Front, side and plan; empty while there is no form.
    """
    form = opened.plan.master.form
    return master_views(form, say.plain) if form else ()
