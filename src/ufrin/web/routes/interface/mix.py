"""The interface calls of a mix, under ``/api/v1/mix``. Pydantic reads, the core computes, the names are fixed."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ufrin.core.weighing import mix as weighing
from ufrin.core.weighing import ratio_mend
from ufrin.web.contexts.interface import (
    LEAST,
    SG,
    Finding,
    Grams,
    Millilitres,
    NothingOrGrams,
    Share,
    StrictModel,
    findings_out,
)

router = APIRouter()


class ThinnerIn(StrictModel):
    """Thinner in parts per 100 by mass."""

    parts_per_100: Annotated[float, Field(ge=0, le=200)]
    of: Literal["A+B", "A"] = "A+B"
    sg: SG | None = None


class MixIn(StrictModel):
    """What is to be mixed; exactly one of need_ml, need_g, have_g."""

    ratio: dict[str, Share]
    basis: Literal["weight", "volume"] = "weight"
    need_ml: Millilitres | None = None
    need_g: Grams | None = None
    have_g: dict[str, Grams] | None = None
    sg_parts: dict[str, SG] | None = None
    sg_mixed: SG | None = None
    spare_pct: Annotated[float, Field(ge=0, le=1000)] = 0
    cling_g: Annotated[float, Field(ge=0, le=1e7)] = 0
    thinner: ThinnerIn | None = None
    pigment_pct: Annotated[float, Field(ge=0, le=100)] = 0
    scale_step_g: Annotated[float, Field(ge=LEAST, le=1e5)] | None = None
    tolerance_pct: Annotated[float, Field(ge=1e-3, le=100)] = weighing.DEFAULT_TOLERANCE_PCT
    cup_ml: Millilitres | None = None
    rise_factor: Annotated[float, Field(ge=1, le=20)] = 1


class PartOut(BaseModel):
    """One part; ml is null where its SG is not known."""

    g: float
    ml: float | None


class BatchOut(BaseModel):
    """One of equal batches; parts in g."""

    total_g: float
    parts: dict[str, float]
    thinner_g: float
    pigment_g: float


class RatioErrorOut(BaseModel):
    """Largest relative error of B/A in percent; null where the scale can't tell at all or none was given."""

    worst: float | None


class MixOut(BaseModel):
    """What to weigh."""

    total_g: float
    total_ml: float | None
    sg_mixed: float | None
    parts: dict[str, PartOut]
    thinner_g: float
    pigment_g: float
    batches: list[BatchOut]
    ratio_error_pct: RatioErrorOut
    findings: list[Finding]


@router.post("/api/v1/mix", summary="What to weigh for a pour")
def mix(body: MixIn) -> MixOut:
    """Work out total, parts, thinner, pigment and batches of a mix."""
    plan_fields = {name: getattr(body, name) for name in MixIn.model_fields if name != "thinner"}
    thinner = weighing.Thinner(**body.thinner.model_dump()) if body.thinner else None
    mixed = weighing.mix(weighing.MixPlan(**plan_fields, thinner=thinner))
    return MixOut(
        total_g=mixed.total_g,
        total_ml=mixed.total_ml,
        sg_mixed=mixed.sg_mixed,
        parts={name: PartOut(g=part.g, ml=part.ml) for name, part in mixed.parts.items()},
        thinner_g=mixed.thinner_g,
        pigment_g=mixed.pigment_g,
        batches=[
            BatchOut(
                total_g=batch.total_g, parts=dict(batch.parts_g), thinner_g=batch.thinner_g, pigment_g=batch.pigment_g
            )
            for batch in mixed.batches
        ],
        ratio_error_pct=RatioErrorOut(worst=mixed.worst_ratio_error_pct),
        findings=findings_out(mixed.findings),
    )


class CheckIn(StrictModel):
    """What was poured of A and B."""

    ratio: dict[str, Share]
    poured_g: dict[str, NothingOrGrams]
    basis: Literal["weight", "volume"] = "weight"
    sg_parts: dict[str, SG] | None = None
    tolerance_pct: Annotated[float, Field(ge=1e-3, le=100)] = weighing.DEFAULT_TOLERANCE_PCT


class AddOut(BaseModel):
    """What restores the ratio exactly."""

    part: str
    g: float


class CheckOut(BaseModel):
    """A verdict on a pour."""

    ratio_error_pct: float
    verdict: Literal["within", "mend"]
    add: AddOut | None
    total_g_after: float


@router.post("/api/v1/mix/check", summary="Whether a pour is within its ratio, and what mends it")
def check(body: CheckIn) -> CheckOut:
    """Check what was poured against the ratio."""
    checked = ratio_mend.check(**{name: getattr(body, name) for name in CheckIn.model_fields})
    return CheckOut(
        ratio_error_pct=checked.ratio_error_pct,
        verdict=checked.verdict,
        add=AddOut(part=checked.add_part, g=checked.add_g) if checked.add_part else None,
        total_g_after=checked.total_g_after,
    )
