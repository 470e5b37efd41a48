"""A quick sum made into a job: its inputs go to the stations that keep them, what it is mixed of on the Shelf."""

from collections.abc import Mapping
from dataclasses import replace
from itertools import count
from typing import Any

from ufrin.actions import Database
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.core.casting.additions import Addition
from ufrin.core.casting.resins import Resin
from ufrin.core.inputs.stations import STATIONS, Station
from ufrin.core.quick_sums.quick_sum import QuickSum, SumInputs, Tin
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.store.shelf import ADDITIONS, ADDITIVES, RESINS, RUBBERS, ShelfTable

TABLE_OF: Mapping[type[Tin], ShelfTable[Any]] = {
    Rubber: RUBBERS,
    Additive: ADDITIVES,
    Resin: RESINS,
    Addition: ADDITIONS,
}


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
    kept, tins = made.for_job(inputs), made.tins(inputs)
    job_id = stations.start_job(database, name)
    for station in STATIONS:
        own = {key: value for key, value in kept.get(station, {}).items() if value is not None}
        own |= {key: _on_the_shelf(database, tin) for key, tin in tins.get(station, {}).items()}
        if own:
            _keep(database, job_id, station, own)
    return job_id


def _keep(database: Database, job_id: int, station: Station, own: Mapping[str, object]) -> None:
    version = stations.station_form(database, job_id, station).job.versions[station]
    stations.change_station(database, job_id, station, version=version, changes=own)


def _on_the_shelf(database: Database, tin: Tin) -> int:
    # one that says no more than the sum does serves again; a tin of the workshop's own has figures that nobody typed
    table, names = TABLE_OF[type(tin)], set()
    for kept in things.shelf(database, table).things:
        if not kept.retired_at and replace(kept.thing, name=tin.name) == tin:
            return kept.id
        names.add(kept.thing.name)
    free = (name for number in count(2) if (name := f"{tin.name} ({number})") not in names)
    return things.add(database, table, replace(tin, name=next(free)) if tin.name in names else tin)
