"""The figures of a job that stand on its printed sheet, as one key: another key means that the sheet is out of date."""

import json
from hashlib import sha256

from ufrin.core.job.checks_station import Checks
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.opening_station import Opening
from ufrin.core.job.rubber_station import Pour

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
        "weights": [master.mass_g for master in plan.masters],
        "box": box
        and [box.shape, *box.inside_mm, box.fill_mm, box.rim_mm, box.net_ml, box.lift_g, box.rows, box.columns],
        "halves": halves and [halves.first_ml, halves.second_ml, halves.bed_ml],
        "jacket": jacket and [jacket.material, jacket.thickness_mm, jacket.mass_g],
        "pours": [
            [pour.half, pour.how, [[[one.key, one.name, one.g] for one in batch] for batch in pour.batches]]
            for pour in plan.pours
        ],
        "times": [_times(pour) for pour in plan.pours],
        "opening": plan.opening and _opening(plan.opening),
        "checks": plan.checks and _checks(plan.checks),
        "stops": sorted(stop.key for stop in plan.stops),
    }
    return sha256(json.dumps(_rounded(figures)).encode()).hexdigest()[:32]


def _times(pour: Pour) -> list[float | None]:
    hot = pour.post_cure
    times = [pour.pot_life_min, pour.demould_min, pour.full_cure_min]
    # a sheet that was printed before a post-cure could be asked for keeps its key
    return [*times, hot.temp_c, hot.hold_min] if hot else times


def _opening(made: Opening) -> list[object]:
    slit, cast = made.slit, made.cast
    return [
        [[key.x_mm, key.y_mm, key.diameter_mm] for key in made.keys],
        slit and [slit.side, slit.length_mm],
        cast and [[hole.at_mm for hole in cast.gates], [hole.at_mm for hole in cast.vents]],
        made.tilt and [made.tilt.degrees, made.tilt.towards_deg],
    ]


def _checks(checks: Checks) -> list[object]:
    return [
        [step.do for step in checks.steps],
        [[pair.contact.key, pair.contact.touches, pair.between_words] for pair in checks.pairs],
        checks.air,
        [caution.topic for caution in checks.cautions],
    ]


def _rounded(value: object) -> object:
    if isinstance(value, float):
        return round(value, DECIMALS)
    if isinstance(value, dict):
        return {key: _rounded(part) for key, part in value.items()}
    return [_rounded(part) for part in value] if isinstance(value, list | tuple) else value
