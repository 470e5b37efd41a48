"""The history of a station: what was changed in each step that can be undone, when and by whom."""

from collections.abc import Mapping
from dataclasses import dataclass, fields
from datetime import datetime

from ufrin.actions import Database
from ufrin.core.inputs.stations import Station
from ufrin.store import jobs


@dataclass(frozen=True, slots=True, kw_only=True)
class HistoryStep:
    """One step: when, by whom (empty where nobody signs in), and each input as it was before and after."""

    changed_at: datetime
    doer: str
    changed: Mapping[str, tuple[object, object]]


def station_history(database: Database, job_id: int, station: Station) -> tuple[HistoryStep, ...]:
    """Return the steps of a station, the newest first.

    Parameters
    ----------
    database : Database
        Of the workshop.
    job_id : int
        The job.
    station : str
        The station.

    Returns
    -------
    tuple of HistoryStep
        Those that can be undone; what was undone is none of them.
    """
    with database.reading() as connection:
        earlier = jobs.history(connection, job_id, station)
        held = jobs.load(connection, job_id, station).inputs[station]
    states = [*(step.inputs for step in earlier), held]
    steps = [
        HistoryStep(
            changed_at=step.changed_at,
            doer=step.doer,
            changed={
                one.name: (getattr(step.inputs, one.name), getattr(then, one.name))
                for one in fields(step.inputs)
                if getattr(step.inputs, one.name) != getattr(then, one.name)
            },
        )
        for step, then in zip(earlier, states[1:], strict=True)
    ]
    return tuple(reversed(steps))
