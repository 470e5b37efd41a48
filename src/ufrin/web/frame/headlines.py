"""What a line says of a job: its state, and the headline figure of each of its stations."""

from dataclasses import dataclass

from ufrin.core.inputs.stations import State, Station
from ufrin.core.job.board_figures import BoardFigures
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.job_state import Stage
from ufrin.core.job.sign_off import open_stops
from ufrin.core.opening.mould_styles import SHORT
from ufrin.core.pairing.preparation_steps import begin_min
from ufrin.language import Joined, Text
from ufrin.web.frame.wording_in_units import STATION_WORDS, UnitFormatter


@dataclass(frozen=True, slots=True, kw_only=True)
class JobState:
    """The state of a job, in words for the Board."""

    level: State
    words: str


_STAGE_WORDS: dict[Stage, JobState] = {
    "pouring": JobState(level="warning", words=Text("Being weighed")),
    "curing": JobState(level="ready", words=Text("Curing")),
    "demould due": JobState(level="warning", words=Text("Demould")),
    "mould ready": JobState(level="ready", words=Text("Mould ready")),
    "put away": JobState(level="empty", words=Text("Archived")),
}


# before a worker has worked out what is shown of a job
NOT_YET = JobState(level="empty", words=Text("Being calculated"))


def job_state(figures: BoardFigures, stage: Stage) -> JobState:
    """Return the state of a job: what it has come to, what stops it, what is to be done next, or that it is ready.

    Parameters
    ----------
    figures : BoardFigures
        Kept with the job.
    stage : str
        What it has come to.

    Returns
    -------
    JobState
        Level and words.
    """
    if stage in _STAGE_WORDS:
        return _STAGE_WORDS[stage]
    for station, state in figures.states.items():
        if state == "stop":
            return JobState(level="stop", words=Text("Stop: see {station}", station=STATION_WORDS[station]))
    if figures.states["master"] == "empty":
        return JobState(level="empty", words=Text("Measure the master"))
    if figures.parts_g is None:
        return JobState(level="empty", words=Text("Choose a rubber"))
    if "warning" in figures.states.values():
        return JobState(level="warning", words=Text("Ready, with a warning"))
    return JobState(level="ready", words=Text("Ready to pour"))


def box_headline(figures: BoardFigures, say: UnitFormatter) -> str:
    """Return the headline figure of the Box station.

    Parameters
    ----------
    figures : BoardFigures
        Kept with the job.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    str
        Empty where there is none yet.
    """
    if figures.box_ml is not None:
        volume = say.plain(figures.box_ml, "volume")
        return Text("{volume} net", volume=volume) if figures.is_net else Text("{volume} gross", volume=volume)
    return Text("jacket, no box") if figures.has_jacket else Text("no box") if figures.is_boxless else ""


def rubber_headline(figures: BoardFigures, say: UnitFormatter) -> str:
    """Return the headline figure of the Rubber station: what to weigh of A and B.

    Parameters
    ----------
    figures : BoardFigures
        Kept with the job.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    str
        Empty where there is none yet.
    """
    if figures.parts_g is None:
        return ""
    decimals = figures.mass_decimals
    both = Joined((say.number(grams, "mass", decimals) for grams in figures.parts_g), " + ")
    return Text("{both} {unit}", both=both, unit=say.plain(0, "mass").split()[1])


def headlines(plan: Plan, figures: BoardFigures, say: UnitFormatter) -> dict[Station, str]:
    """Return each station's headline figure.

    Parameters
    ----------
    plan : Plan
        The job worked out.
    figures : BoardFigures
        What a list shows of it.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    dict of Station to str
        Empty where there is none yet.
    """
    shown: dict[Station, str] = {
        "master": "",
        "opening": "",
        "box": box_headline(figures, say),
        "rubber": rubber_headline(figures, say),
        "checks": "",
    }
    if plan.master.measured:
        shown["master"] = say.plain(plan.master.measured.volume_ml, "volume", 1)
    if plan.opening:
        shown["opening"] = SHORT[plan.opening.style]
        if not plan.opening.is_chosen:
            shown["opening"] = Text("{kind}, advised", kind=SHORT[plan.opening.style])
    if plan.checks:
        begins = begin_min(plan.checks.steps).get("first")
        waiting = sum(stop.station == "checks" for stop in open_stops(plan.stops))
        shown["checks"] = (
            f"{waiting} {'stop' if waiting == 1 else 'stops'}"
            if waiting
            else Text("begin {begins} before", begins=say.plain(begins, "time"))
            if begins
            else Text("nothing to prepare")
        )
    return shown
