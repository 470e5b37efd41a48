"""The interface calls on moulds: how long they last, and what making pieces with them costs."""

from collections.abc import Sequence
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ufrin.core.money.making import MOST_MONEY, MOST_PIECES, MakingCosts
from ufrin.core.moulds.mould_life import MOST_CASTS, UsedMould, life_curve, life_findings, weibull_fit
from ufrin.web.contexts.interface import Finding, StrictModel, findings_out

router = APIRouter(tags=["moulds"])
Money = Annotated[float, Field(ge=0, le=MOST_MONEY)]
Casts = Annotated[float, Field(ge=0, le=MOST_CASTS)]


class UsedMouldIn(StrictModel):
    """A mould: the casts that it made, and whether it failed with the last."""

    casts: Casts
    failed: bool


class LifeIn(StrictModel):
    """Moulds, and a count at which to tell how many last longer."""

    moulds: Annotated[list[UsedMouldIn], Field(min_length=1, max_length=20_000)]
    at_casts: Casts | None = None


class WeibullOut(BaseModel):
    """A Weibull distribution by maximum likelihood."""

    shape: float
    scale_casts: float
    median_casts: float
    b10_casts: float
    mean_casts: float


class LifeOut(BaseModel):
    """Kaplan and Meier's median and survival, and a Weibull distribution; null where they can't be told."""

    median_casts: float | None
    survival_at: float | None
    weibull: WeibullOut | None
    findings: list[Finding]


def life_out(used: Sequence[UsedMould], at_casts: float | None) -> LifeOut:
    """Work out the life of moulds as the interface gives it."""
    curve, fit = life_curve(used), weibull_fit(used)
    names = ("shape", "scale_casts", "median_casts", "b10_casts", "mean_casts")
    return LifeOut(
        median_casts=curve.median_casts,
        survival_at=None if at_casts is None else curve.survival_at(at_casts),
        weibull=WeibullOut(**{name: getattr(fit, name) for name in names}) if fit else None,
        findings=findings_out(life_findings(used)),
    )


@router.post("/api/v1/life", summary="How long moulds last")
def life(body: LifeIn) -> LifeOut:
    """Work out how long moulds last, from those that failed and those still in use."""
    return life_out([UsedMould(casts=one.casts, failed=one.failed) for one in body.moulds], body.at_casts)


class CostsIn(StrictModel):
    """The costs of making pieces, and the price of a bought one to compare with."""

    pieces: Annotated[int, Field(ge=1, le=MOST_PIECES)]
    master_cost: Money
    mould_cost: Money
    mould_life_casts: Annotated[float, Field(ge=1, le=MOST_PIECES)]
    unit_cost: Money
    buy_price: Money | None = None


class CostsOut(BaseModel):
    """What making costs, and from how many pieces on it pays; null for never, and without a price."""

    moulds: int
    total_cost: float
    cost_per_piece: float
    first_count: int | None
    stays_from_count: int | None


@router.post("/api/v1/costs", summary="What making pieces costs, and from when on it pays")
def costs(body: CostsIn) -> CostsOut:
    """Work out what making costs, and when it breaks even with buying."""
    making = MakingCosts(
        master_cost=body.master_cost,
        mould_cost=body.mould_cost,
        mould_life_casts=body.mould_life_casts,
        unit_cost=body.unit_cost,
    )
    made = making.of(body.pieces)
    pays = None if body.buy_price is None else making.against(body.buy_price)
    return CostsOut(
        moulds=made.moulds,
        total_cost=made.total_cost,
        cost_per_piece=made.cost_per_piece,
        first_count=pays.first_count if pays else None,
        stays_from_count=pays.stays_from_count if pays else None,
    )
