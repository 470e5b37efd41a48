"""The pouring channels of a job's mould: the gates and vents of its opening, in the rubber that its box gives."""

from collections.abc import Mapping

import numpy as np

from ufrin.core.job.job_plan import Plan
from ufrin.core.opening.pouring_channels import Channel, channels


def channels_of(plan: Plan, cast_material: str | None) -> Mapping[tuple[str, int], Channel]:
    """Return the channels of one cavity.

    Parameters
    ----------
    plan : Plan
        Worked out.
    cast_material : str or None
        What is cast; None while that is not known.

    Returns
    -------
    mapping of ("gate" or "vent", number) to Channel
        Empty while no cast is planned.
    """
    made, form = plan.opening, plan.master.form
    if made is None or form is None or made.cast is None:
        return {}
    box = plan.box_inputs.settled()
    length, width, height = form.size_mm
    low = np.array([-length / 2 - box.side_mm, -width / 2 - box.side_mm, -box.under_mm])
    high = np.array([length / 2 + box.side_mm, width / 2 + box.side_mm, height + box.over_mm])
    found = channels(made.cast, made.cast_turn, (low, high), cast_material or "unknown")
    return {(one.kind, one.number): one for one in found}
