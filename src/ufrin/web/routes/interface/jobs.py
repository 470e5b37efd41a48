"""The interface calls on jobs: their list, and one job with the same figures as every page shows. Read only."""

from datetime import UTC, datetime
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel

from ufrin.actions.job import job_list, stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.job_state import PourState, Stage
from ufrin.core.job.weighed_pours import PourFigures
from ufrin.core.weighing.weigh_plan import Ingredient
from ufrin.devices import clock
from ufrin.web.contexts.interface import Finding, findings_out
from ufrin.web.routes import Number, TheDatabase

router = APIRouter(tags=["jobs"])


class JobLine(BaseModel):
    """A job in the list."""

    id: int
    name: str
    state: Stage


class JobsOut(BaseModel):
    """Jobs, the newest first."""

    jobs: list[JobLine]


class MasterOut(BaseModel):
    """The displacement that counts, its error, and the way it was measured; null while it is not known."""

    displaced_ml: float | None
    plus_minus_ml: float | None
    way: str | None


class BoxOut(BaseModel):
    """The volumes of the box."""

    gross_ml: float
    displaced_ml: float
    bed_ml: float
    net_ml: float


class PourOut(BaseModel):
    """One pour: as planned, or as it was planned when it was weighed; times are null where they are not known."""

    half: Literal["first", "second"] | None
    net_ml: float
    rubber: str
    total_g: float
    parts: dict[str, float]
    thinner_g: float
    pigment_g: float
    planned_at: datetime | None
    weighed: bool
    poured_at: datetime | None
    pot_life_ends_at: datetime | None
    demould_at: datetime | None
    full_cure_at: datetime | None


class JobOut(BaseModel):
    """One job. ``box`` is null for a kind of mould that has none, and while there is none."""

    id: int
    name: str
    state: Stage
    style: str | None
    style_is: Literal["chosen", "advised"] | None
    master: MasterOut
    box: BoxOut | None
    pours: list[PourOut]
    findings: list[Finding]


@router.get("/api/v1/jobs", summary="The jobs, newest first")
def jobs(
    database: TheDatabase,
    search: Annotated[str, Query(max_length=120)] = "",
    limit: Annotated[int, Query(ge=1, le=100)] = 50,
    before: Annotated[int | None, Query(ge=1, le=2**62)] = None,
) -> JobsOut:
    """List jobs; ``before`` is the id of the last one of the page before."""
    now = clock.now()
    listed = job_list.job_list(database, search=search, limit=limit, before=before)
    return JobsOut(jobs=[JobLine(id=one.job.id, name=one.job.name, state=one.stage(now)) for one in listed])


@router.get("/api/v1/jobs/{job_id}", summary="One job, with the figures that its pages and its sheet show")
def job(database: TheDatabase, job_id: Number) -> JobOut:
    """Show one job."""
    opened, now = stations.open_job(database, job_id, "rubber"), clock.now()
    plan, box = opened.plan, opened.plan.box
    counted = plan.master.counted
    measured = plan.master.measured
    return JobOut(
        id=opened.job.id,
        name=opened.job.name,
        state=opened.stage(now),
        style=plan.style or None,
        style_is=None if plan.kind is None else "chosen" if plan.kind.is_chosen else "advised",
        master=MasterOut(
            displaced_ml=measured.volume_ml if measured else None,
            plus_minus_ml=measured.plus_minus_ml if measured else None,
            way=counted.key if counted else None,
        ),
        box=BoxOut(gross_ml=box.gross_ml, displaced_ml=box.displaced_ml, bed_ml=box.bed_ml, net_ml=box.net_ml)
        if box
        else None,
        pours=_pours(opened, now),
        findings=findings_out(finding for found in plan.findings.values() for finding in found),
    )


def _pours(opened: OpenJob, now: Moment) -> list[PourOut]:
    return [
        _pour_out(figures, state, opened.began_at.get(state.number or 0))
        for figures, state in zip(opened.pour_figures(now), opened.pour_states(now), strict=True)
    ]


def _pour_out(figures: PourFigures, state: PourState, planned_at: datetime | None) -> PourOut:
    record, batches = state.state, figures.batches
    return PourOut(
        half=state.half or None,
        net_ml=figures.net_ml,
        rubber=figures.rubber,
        total_g=figures.total_g,
        parts={role: _of_role(batches, role) for role in ("A", "B")},
        thinner_g=_of_role(batches, "thinner"),
        pigment_g=_of_role(batches, "pigment"),
        planned_at=planned_at,
        weighed=state.is_poured,
        poured_at=_at(record.clocks.poured_s if record else None),
        pot_life_ends_at=_at(record.clocks.end_s("pot-life") if record else None),
        demould_at=_at(record.clocks.end_s("demould") if record else None),
        full_cure_at=_at(record.clocks.end_s("full-cure") if record else None),
    )


def _of_role(batches: tuple[tuple[Ingredient, ...], ...], role: str) -> float:
    return sum(one.g for batch in batches for one in batch if one.role == role)


def _at(seconds: float | None) -> datetime | None:
    return None if seconds is None else datetime.fromtimestamp(seconds, UTC)
