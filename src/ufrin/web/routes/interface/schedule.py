"""The interface call on the schedule: steps of several jobs shared out among people and things."""

from datetime import UTC, datetime, timedelta
from math import ceil
from typing import Annotated, Self
from zoneinfo import ZoneInfo

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from ufrin.actions.schedule import working_time
from ufrin.actions.schedule.working_time import checked_hours
from ufrin.actions.shop.workshop_settings import time_zones
from ufrin.bounded.child import Bounds, do_apart
from ufrin.core.schedule.best_plan import best_plan
from ufrin.core.schedule.effort import Effort
from ufrin.core.schedule.first_plan import certain_plan, first_plan
from ufrin.core.schedule.plan_findings import plan_findings
from ufrin.core.schedule.steps import After, PlacedStep, SchedulePlan, Step, Thing, Work, Worker
from ufrin.errors import Refused
from ufrin.web.contexts.interface import Finding, StrictModel, findings_out
from ufrin.web.frame.mesh_line import in_line

router = APIRouter(tags=["schedule"])
EFFORT = Effort(most_s=10.0)
CALL = Bounds(time_s=60.0)
A_DAY_S = 86_400
FIRST_YEAR, LAST_YEAR = 1970, 2200
MOST_DAYS = 3660
ROOM_DAYS = 21
Minutes = Annotated[float, Field(ge=0, le=1e6)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Time = Annotated[str, Field(min_length=10, max_length=40)]


class AfterIn(StrictModel):
    """A wait from the end of an earlier step, its time alone included, to the begin of this one."""

    id: Name
    at_least_min: Minutes = 0.0
    at_most_min: Minutes | None = None


class StepIn(StrictModel):
    """A step: first a pair of hands, in one piece within working hours, then time alone at any hour."""

    id: Name
    job: Annotated[str, Field(max_length=120)] = ""
    attended_min: Minutes = 0.0
    alone_min: Minutes = 0.0
    after: Annotated[list[AfterIn], Field(max_length=100)] = []
    uses: Annotated[list[Name], Field(max_length=20)] = []
    finish_by: Time | None = None


class ScheduleIn(StrictModel):
    """Steps, and who and what there is to do them.

    ``time_zone`` makes hours count by that zone's clock on the wall; without it, no night changes the clock.
    """

    start: Time
    hours: Annotated[list[Annotated[list[str], Field(min_length=2, max_length=2)]], Field(min_length=1, max_length=12)]
    days: Annotated[list[Annotated[int, Field(ge=1, le=7)]], Field(min_length=1, max_length=7)]
    people: Annotated[int, Field(ge=0, le=50)] = 1
    equipment: Annotated[dict[Name, Annotated[int, Field(ge=0, le=1000)]], Field(max_length=100)] = {}
    steps: Annotated[list[StepIn], Field(max_length=500)]
    time_zone: Annotated[str, Field(max_length=64)] | None = None


class PlannedStep(BaseModel):
    """A step with its times; ``person`` counts from 1, and is null where nobody is needed."""

    id: str
    begins: str
    hands_off: str
    ends: str
    person: int | None

    @classmethod
    def of(cls, placed: PlacedStep, start: datetime) -> Self:
        """Return a placed step as it is answered."""
        return cls(
            id=placed.key,
            begins=_written(start, placed.begins_s),
            hands_off=_written(start, placed.hands_off_s),
            ends=_written(start, placed.ends_s),
            person=None if placed.person is None else int(placed.person),
        )


class ScheduleOut(BaseModel):
    """The plan: least lateness first, then the earliest end of all; ``gap`` is what may be between it and the best."""

    steps: list[PlannedStep]
    makespan_min: float
    late_min: float
    proven: bool
    gap: float
    findings: list[Finding]


def _written(start: datetime, after_s: int) -> str:
    at = start + timedelta(seconds=after_s)
    if start.tzinfo is not None:  # a sum within a zone goes by the clock on the wall, and would miss that it is set
        at = (start.astimezone(UTC) + timedelta(seconds=after_s)).astimezone(start.tzinfo)
    return at.isoformat(timespec="minutes" if not at.second else "seconds")


def _seconds(minutes: float) -> int:
    return ceil(round(60 * minutes, 6))


def _moment(text: str, field: str) -> datetime:
    try:
        return datetime.fromisoformat(text).replace(microsecond=0)
    except ValueError as error:
        raise Refused(field, f"“{text}” is no time. Write it as 2026-03-02T08:00.") from error


def _start(body: ScheduleIn) -> datetime:
    start = _moment(body.start, "start")
    if not FIRST_YEAR <= start.year <= LAST_YEAR:
        raise Refused("start", f"A plan begins between the years {FIRST_YEAR} and {LAST_YEAR}.")
    if body.time_zone is None:
        return start
    if body.time_zone not in time_zones():
        raise Refused("time_zone", f"“{body.time_zone}” is no time zone that is known here.")
    zone = ZoneInfo(body.time_zone)
    return start.replace(tzinfo=zone) if start.tzinfo is None else start.astimezone(zone)


def _finish_by_s(step: StepIn, start: datetime) -> int | None:
    if step.finish_by is None:
        return None
    wish = _moment(step.finish_by, "finish_by")
    if not FIRST_YEAR <= wish.year <= 2 * LAST_YEAR:
        raise Refused("finish_by", f"The wish of “{step.id}” lies in a year that nobody plans for. Check it.")
    if start.tzinfo is not None and wish.tzinfo is None:
        wish = wish.replace(tzinfo=start.tzinfo)
    if (wish.tzinfo is None) != (start.tzinfo is None):
        raise Refused("finish_by", f"Write the wish of “{step.id}” as the start is written, without an offset.")
    # within a zone a difference goes by the clock on the wall, and would miss that it is set
    ahead_s = (wish - start if start.tzinfo is None else wish.astimezone(UTC) - start.astimezone(UTC)).total_seconds()
    if ahead_s < 0:
        raise Refused("finish_by", f"The wish of “{step.id}” lies before the start. Choose a later time.")
    return int(ahead_s)


def _work(body: ScheduleIn, start: datetime) -> Work:
    hours, days = checked_hours([(begin, end) for begin, end in body.hours]), frozenset(body.days)
    steps = tuple(
        Step(
            key=one.id,
            job=one.job,
            attended_s=_seconds(one.attended_min),
            alone_s=_seconds(one.alone_min),
            after=tuple(
                After(
                    key=wait.id,
                    at_least_s=_seconds(wait.at_least_min),
                    at_most_s=None if wait.at_most_min is None else int(round(60 * wait.at_most_min, 6)),
                )
                for wait in one.after
            ),
            uses=tuple(one.uses),
            finish_by_s=_finish_by_s(one, start),
        )
        for one in body.steps
    )
    # days enough for all of it one after the other: a stretch may be left half empty by a step that does not fit
    week = working_time.windows(start, hours, days, most_days=21)
    a_day_s = sum(end - begin for begin, end in week) / 21
    attended_s = 2 * sum(one.attended_s for one in steps)
    alone_s = sum(one.alone_s + sum(wait.at_least_s for wait in one.after) for one in steps)
    most_days = min(MOST_DAYS, ceil(attended_s / max(1.0, a_day_s) + alone_s / A_DAY_S) + len(steps) + ROOM_DAYS)
    open_hours = working_time.windows(start, hours, days, most_days=most_days)
    return Work(
        steps=steps,
        people=tuple(Worker(key=str(number), windows=open_hours) for number in range(1, body.people + 1)),
        things=tuple(Thing(key=name, count=count) for name, count in body.equipment.items()),
    )


def _at_once(work: Work) -> SchedulePlan | None:
    return certain_plan(work, first_plan(work))


@router.post("/api/v1/schedule", summary="Steps of several jobs shared out among people and things")
async def schedule(request: Request, body: ScheduleIn) -> ScheduleOut:
    """Find the plan that is least late, and of those the one that ends first."""
    start = _start(body)
    work = _work(body, start)
    # most calls are answered at once; a search is done in a process of its own
    plan = await in_line(request, _at_once, work)
    if plan is None:
        plan = await in_line(request, do_apart, best_plan, CALL, None, work, EFFORT)
    return ScheduleOut(
        steps=[PlannedStep.of(one, start) for one in plan.placed],
        makespan_min=plan.makespan_s / 60,
        late_min=plan.late_s / 60,
        proven=plan.is_proven,
        gap=plan.gap,
        findings=findings_out(plan_findings(work, plan)),
    )
