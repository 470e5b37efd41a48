"""The interface calls on moulds: those of the shop, how long moulds last, and what making pieces with them costs."""

from collections.abc import Sequence
from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from ufrin.actions.moulds import cards
from ufrin.actions.moulds.cards import MouldCard
from ufrin.core.money.making import MOST_MONEY, MOST_PIECES, MakingCosts
from ufrin.core.moulds.life_outlook import LifeLeft
from ufrin.core.moulds.mould_life import MOST_CASTS, UsedMould, life_curve, life_findings, weibull_fit
from ufrin.core.moulds.retirement import MouldState
from ufrin.web.contexts.interface import Finding, StrictModel, findings_out
from ufrin.web.routes import Number, TheDatabase

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


class CavityOut(BaseModel):
    """A cavity: its shots, and whether it is retired."""

    number: int
    shots: int
    retired: bool


class AmountOut(BaseModel):
    """What a shot of a kind of cast takes on average; of one part of it where its parts are mixed by themselves."""

    kind: str
    part: str
    resin: str
    shots: int
    mixed_g: float
    left_over_g: float


class LeftOut(BaseModel):
    """How many more casts are to be expected of the cavities in use: the middle, and the band of nine of ten."""

    median_casts: float
    low_casts: float
    high_casts: float


class MouldOut(BaseModel):
    """A mould of the shop, the lives of the shop's cavities as /life tells them, and what a shot of each cast takes.

    ``job_id`` is null where it was not made here.
    """

    id: int
    label: str
    name: str
    job_id: int | None
    made_on: date
    cavities: list[CavityOut]
    shots: int
    left: LeftOut
    state: MouldState
    life: LifeOut | None
    amounts: list[AmountOut]


class MouldsOut(BaseModel):
    """A page of moulds, those in use first."""

    moulds: list[MouldOut]


def _left(left: LifeLeft) -> LeftOut:
    return LeftOut(median_casts=left.median, low_casts=left.low, high_casts=left.high)


@router.get("/api/v1/moulds", summary="The moulds of the shop")
def moulds(
    database: TheDatabase,
    search: Annotated[str, Query(max_length=120)] = "",
    page: Annotated[int, Query(ge=1, le=100_000)] = 1,
) -> MouldsOut:
    """List the moulds, those in use first."""
    listed = cards.page(database, search=search, number=page).listed
    return MouldsOut(moulds=[_whole(cards.look(database, one.row.id)) for one in listed])


@router.get("/api/v1/moulds/{number}", summary="One mould of the shop")
def mould(database: TheDatabase, number: Number) -> MouldOut:
    """Show a mould with its life and its amounts."""
    return _whole(cards.look(database, number))


def _whole(card: MouldCard) -> MouldOut:
    kept = card.mould
    return MouldOut(
        id=kept.id,
        label=kept.label,
        name=kept.name,
        job_id=None if kept.is_mould_only else kept.job_id,
        made_on=kept.details.made_on,
        cavities=[
            CavityOut(number=one.number, shots=one.shots, retired=bool(one.retired) or kept.retired_at is not None)
            for one in card.cavities
        ],
        shots=card.shots,
        left=_left(card.life.left),
        state=card.state,
        life=life_out(card.life.own, None) if card.life.own else None,
        amounts=[
            AmountOut(
                kind=one.kind,
                part=one.part,
                resin=one.resin,
                shots=one.shots,
                mixed_g=one.mixed_g,
                left_over_g=one.left_g,
            )
            for one in card.amounts
        ],
    )
