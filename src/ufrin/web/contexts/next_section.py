"""The section of a station that opens by itself: the first decision that has not been made yet."""

from ufrin.actions.job.open_job import OpenJob
from ufrin.core.inputs.stations import Station

WORKED_OUT = "worked-out"  # what is shown once everything is decided


def next_section(opened: OpenJob, station: Station) -> str:
    """Return the section that opens by itself.

    Parameters
    ----------
    opened : OpenJob
        Worked out.
    station : str
        The station that is shown.

    Returns
    -------
    str
        Key of the section in the station's template; "" where each is opened by hand.
    """
    return _OF[station](opened)


def _master(opened: OpenJob) -> str:
    inputs, answer = opened.job.master, opened.plan.master
    if not answer.size_mm and not (opened.mesh and not opened.mesh.figures):
        return "size"
    if answer.measured is None or answer.is_undecided:
        return "ways"
    return "" if inputs.material else "surface"


def _opening(opened: OpenJob) -> str:
    made = opened.plan.opening
    if made is None or not made.is_chosen:
        return "kind"
    levels = {finding.field: finding.level for finding in opened.plan.findings["opening"] if finding.level != "note"}
    if levels.keys() & {"worth_ml", "tilt_limit_deg"} or (made.cast is not None and made.cast.left):
        return "holes"
    return "pull" if levels else ""


def _box(opened: OpenJob) -> str:
    return WORKED_OUT if opened.plan.box or opened.plan.jacket else "shape"


def _rubber(opened: OpenJob) -> str:
    return WORKED_OUT if opened.plan.rubber else "rubber"


def _checks(opened: OpenJob) -> str:
    made = opened.plan.checks
    is_stopped = made is not None and any(finding.level == "stop" for finding in made.findings)
    return "pairs" if is_stopped or (made and opened.job.checks.cast_material) else "cast"


def _casts(opened: OpenJob) -> str:
    return WORKED_OUT if opened.casts and opened.casts.plan else "cast"


_OF = {"master": _master, "opening": _opening, "box": _box, "rubber": _rubber, "checks": _checks, "casts": _casts}
