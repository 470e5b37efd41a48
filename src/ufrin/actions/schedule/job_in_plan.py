"""A job's sequence as the shop's plan has it: one date for a step, whichever page tells it."""

from dataclasses import replace

from ufrin.actions.bench import sequence
from ufrin.actions.bench.sequence import DatedJob
from ufrin.actions.job.open_job import OpenJob, opened_at
from ufrin.actions.schedule import day_plan
from ufrin.core.clocks.moment import Moment
from ufrin.core.schedule.day_plan import DayPlan
from ufrin.store.connection import Database


def of_job(database: Database, job_id: int, now: Moment) -> DatedJob:
    """Show the sequence of a job.

    A job that the plan leaves out, since a stop keeps it from being begun or somebody left it off, is dated by itself.
    """
    plan = day_plan.look(database, now).plan
    with database.reading() as connection:
        opened = opened_at(connection, job_id, "checks")
    return sequence.planned(opened, _times(plan, job_id), now)


def with_its_times(database: Database, opened: OpenJob, now: Moment) -> OpenJob:
    """Give a job whose casts wait for its mould the times that the plan has for it as it is now."""
    if opened.job.is_mould_only or sequence.cast_from_s(opened, now) <= now.wall_s:
        return opened
    return replace(opened, planned_s=_times(day_plan.look(database, now).plan, opened.job.id))


def _times(plan: DayPlan | None, job_id: int) -> dict[str, tuple[float, float]]:
    key = f"job:{job_id}:"
    steps = plan.steps if plan else ()
    return {one.key.removeprefix(key): (one.begins_s, one.ends_s) for one in steps if one.key.startswith(key)}
