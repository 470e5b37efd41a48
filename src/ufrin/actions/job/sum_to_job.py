"""A quick sum made into a job: its inputs go to the stations that keep them, its rubber on the Shelf."""

from collections.abc import Mapping

from ufrin.actions import Database
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.core.inputs.stations import STATIONS, Station
from ufrin.core.quick_sums.quick_sum import QuickSum, SumInputs
from ufrin.core.rubber.tins import Rubber
from ufrin.store.shelf import RUBBERS


def job_of_sum(database: Database, made: QuickSum, inputs: SumInputs, name: str) -> int:
    """Start a job with what a quick sum knows.

    Parameters
    ----------
    database : Database
        Of the workshop.
    made : QuickSum
        The sum.
    inputs : SumInputs
        As typed.
    name : str
        Of the job.

    Returns
    -------
    int
        Its number.

    Raises
    ------
    Refused
        For a name that can't be one, or inputs that give no answer.
    """
    made.work(inputs)
    kept, rubber = made.for_job(inputs), made.rubber(inputs)
    job_id = stations.start_job(database, name)
    changes: dict[str, Mapping[str, object]] = dict(kept)
    if rubber is not None:
        changes["rubber"] = {**changes.get("rubber", {}), "rubber_id": _on_the_shelf(database, rubber)}
    for station in STATIONS:
        own = {key: value for key, value in changes.get(station, {}).items() if value is not None}
        if own:
            _keep(database, job_id, station, own)
    return job_id


def _keep(database: Database, job_id: int, station: Station, own: Mapping[str, object]) -> None:
    version = stations.station_form(database, job_id, station).job.versions[station]
    stations.change_station(database, job_id, station, version=version, changes=own)


def _on_the_shelf(database: Database, rubber: Rubber) -> int:
    # one of the same ratio and density serves: the sum knows of no other figure
    for kept in things.shelf(database, RUBBERS).things:
        has = kept.thing
        if kept.retired_at or not (has.weight_a and has.weight_b and has.sg_mixed and rubber.weight_a):
            continue
        same_ratio = abs(has.weight_b / has.weight_a - (rubber.weight_b or 0) / rubber.weight_a) < 1e-9
        if same_ratio and has.sg_mixed == rubber.sg_mixed:
            return kept.id
    return things.add(database, RUBBERS, rubber)
