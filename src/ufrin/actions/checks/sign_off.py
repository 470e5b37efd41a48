"""What a maker does at the Checks station: take a remedy, sign a stop off, take a sign-off back."""

from collections.abc import Mapping

from ufrin.actions.bench.pours import LONGEST_WHO
from ufrin.actions.job import stations
from ufrin.actions.job.open_job import opened_at
from ufrin.core.clocks.moment import Moment
from ufrin.core.inputs.stations import Station
from ufrin.core.job.sign_off import check_sign_off
from ufrin.core.pairing.contacts import remedy_of
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import sign_offs
from ufrin.store.connection import Database


def take_remedy(database: Database, job_id: int, key: str, *, versions: Mapping[Station, int]) -> None:
    """Take the advised remedy for a contact.

    Raises Refused when there is no remedy that can be taken with one click.
    """
    opened = stations.open_job(database, job_id, "checks")
    pair = opened.plan.checks.pair(key) if opened.plan.checks else None
    done = remedy_of(pair) if pair else None
    if done is None:
        raise Refused("", Text("There is nothing that can be done here at a click any more. Look at the pair again."))
    station, changes = done
    stations.change_station(database, job_id, station, version=versions.get(station, 0), changes=changes)


def sign_off(
    database: Database, job_id: int, about: str, *, reason: str, who: str, now: Moment, of_cast: bool = False
) -> None:
    """Sign a stop of the mould off, or one of its casts; the reason goes into the record of what is weighed next.

    Raises Refused when the stop no longer exists, or reason or name are missing.
    """
    with database.transaction() as connection:
        opened = opened_at(connection, job_id, "casts" if of_cast else "checks")
        waiting = opened.cast_stops if of_cast else opened.bench_stops(now)
        stop = next((one for one in waiting if one.key == about), None)
        if stop is None:
            raise Refused("", Text("That stop is not there any more: the job has changed. Look at what it says now."))
        if stop.finding is None:
            raise Refused(
                "", Text("What can't be calculated can't be signed off. Correct the figure, or clear its field.")
            )
        reason, who = one_line(reason), one_line(who)[:LONGEST_WHO]
        check_sign_off(reason, who)
        sign_offs.sign(connection, job_id, stop, reason=reason, who=who)


def take_back(database: Database, job_id: int, about: str) -> None:
    """Take a sign-off back: the stop stops again."""
    with database.transaction() as connection:
        sign_offs.withdraw(connection, job_id, about[:64])
