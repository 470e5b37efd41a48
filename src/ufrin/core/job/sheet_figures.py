"""The figures of a job that stand on its printed sheet, as one key: another key means that the sheet is out of date."""

import json
from hashlib import sha256

from ufrin.core.job.job_plan import Plan

DECIMALS = 2  # finer differences do not show on paper


def sheet_key(plan: Plan) -> str:
    """Return a key of everything on a job's sheet that may change.

    Parameters
    ----------
    plan : Plan
        Worked out.

    Returns
    -------
    str
        The same for the same figures, whatever their sentences say.
    """
    box, halves, jacket = plan.box, plan.halves, plan.jacket
    figures = {
        "style": plan.style,
        "master": [plan.master.size_mm, plan.master.measured and plan.master.measured.volume_ml],
        "box": box and [box.shape, *box.inside_mm, box.fill_mm, box.rim_mm, box.net_ml, box.rows, box.columns],
        "halves": halves and [halves.first_ml, halves.second_ml, halves.bed_ml],
        "jacket": jacket and [jacket.material, jacket.thickness_mm, jacket.mass_g],
        "pours": [
            [pour.half, pour.how, [[[one.key, one.name, one.g] for one in batch] for batch in pour.batches]]
            for pour in plan.pours
        ],
        "times": [[pour.pot_life_min, pour.demould_min, pour.full_cure_min] for pour in plan.pours],
        "keys": [[key.x_mm, key.y_mm, key.diameter_mm] for key in plan.opening.keys] if plan.opening else [],
        "steps": [step.do for step in plan.checks.steps] if plan.checks else [],
        "stops": sorted(stop.key for stop in plan.stops),
    }
    return sha256(json.dumps(_rounded(figures)).encode()).hexdigest()[:32]


def _rounded(value: object) -> object:
    if isinstance(value, float):
        return round(value, DECIMALS)
    if isinstance(value, dict):
        return {key: _rounded(part) for key, part in value.items()}
    return [_rounded(part) for part in value] if isinstance(value, list | tuple) else value
