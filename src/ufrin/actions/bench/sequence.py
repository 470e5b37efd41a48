"""The sequence of a job: dated, ticked off, and wished to be done by a time."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime

from ufrin.actions.job.open_job import OpenJob, opened_at
from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.sequence import DatedStep, as_planned, backward, forward
from ufrin.core.job.job_sequence import TICKED, WorkSoFar, job_sequence
from ufrin.core.schedule.day_plan import LATE_S
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import done_steps, jobs
from ufrin.store.connection import Database

FURTHEST_DAYS = 3650


@dataclass(frozen=True, slots=True, kw_only=True)
class DatedJob:
    """A job with its steps dated: from now on, or back from ``wish_s``, which they miss by ``late_s``.

    ``is_planned`` is whether the times are those of the shop's plan, beside all other work.
    """

    opened: OpenJob
    steps: tuple[DatedStep, ...]
    wish_s: float | None
    late_s: float
    is_planned: bool = False


def dated(opened: OpenJob, now: Moment) -> DatedJob:
    """Date the steps of a job that is open already."""
    states = opened.pour_states(now)
    own = [state.number for state in states if state.number is not None]
    began_s = min((opened.began_at[number].timestamp() for number in own if number in opened.began_at), default=None)
    # what was ticked off before this mould was begun belongs to the one before
    since_s = began_s if began_s is not None else max((at.timestamp() for at in opened.began_at.values()), default=0.0)
    ticked = {key: at_s for key, at_s in opened.done_at_s.items() if key in TICKED and at_s >= since_s}
    work = WorkSoFar(pours=opened.plan.pours, states=states, preparation=opened.step_states(now), ticked_s=ticked)
    steps = job_sequence(work, now)
    wanted = opened.job.wanted_at
    if wanted is None:
        return DatedJob(opened=opened, steps=forward(steps, now.wall_s), wish_s=None, late_s=0.0)
    late = backward(steps, now.wall_s, wanted.timestamp())
    return DatedJob(opened=opened, steps=late[0], wish_s=wanted.timestamp(), late_s=late[1])


def planned(opened: OpenJob, times: Mapping[str, tuple[float, float]], now: Moment) -> DatedJob:
    """Date the steps of a job as the shop's plan has them, and by themselves where it has not all of them."""
    alone = dated(opened, now)
    steps = as_planned(alone.steps, times, now.wall_s - LATE_S)
    if steps is None:
        return alone
    late_s = max(0.0, max(one.ends_s for one in steps) - alone.wish_s) if alone.wish_s is not None else 0.0
    return replace(alone, steps=steps, late_s=late_s, is_planned=True)


def cast_from_s(opened: OpenJob, now: Moment) -> float:
    """Return from when a job's mould may be cast in, in seconds since 1970: now, where it may be already."""
    steps = planned(opened, opened.planned_s, now).steps
    first_cast = next((step for step in steps if step.step.key == "first-cast"), None)
    if first_cast is None or first_cast.step.done_at_s is not None or opened.last_shot_s:
        return now.wall_s
    return max(now.wall_s, first_cast.begins_s)


def tick(database: Database, job_id: int, key: str, *, done: bool, at_s: float) -> None:
    """Tick a step of the sequence off, or take the tick back.

    Raises Refused for a step that is not ticked by hand.
    """
    if key not in TICKED:
        raise Refused("", Text("That step follows from what is done at the bench. Go on there."))
    with database.transaction() as connection:
        jobs.load(connection, job_id)
        if done:
            done_steps.tick(connection, job_id, key, at_s=at_s)
        else:
            done_steps.untick(connection, job_id, key)


def wish(database: Database, job_id: int, typed: str, now: Moment) -> None:
    """Keep when a job is wished to be ready, by the workshop's own clock; nothing typed takes the wish back.

    Raises Refused for what is no time, or lies in the past.
    """
    with database.transaction() as connection:
        zone = opened_at(connection, job_id, "master").workshop.zone
        wanted = None
        if typed.strip():
            try:
                wanted = datetime.fromisoformat(typed.strip()).replace(tzinfo=zone).astimezone(UTC)
            except (ValueError, OverflowError) as error:
                raise Refused("wanted", Text("Type a day and a time such as 2026-12-04 15:00.")) from error
            ahead_s = wanted.timestamp() - now.wall_s
            if ahead_s <= 0:
                raise Refused("wanted", Text("That time is past. Choose one that is still to come."))
            if ahead_s > FURTHEST_DAYS * 86_400:
                raise Refused("wanted", Text("That is more than ten years ahead. Check the year."))
        jobs.want(connection, job_id, wanted)
