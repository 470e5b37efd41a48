"""The interface call of hardness and thinner, under ``/api/v1/hardness``."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ufrin.core.rubber import thinner_curve
from ufrin.core.rubber.shore import Hardness
from ufrin.errors import Refused
from ufrin.web.contexts.interface import SG, Finding, StrictModel, findings_out

router = APIRouter()


class ReadingIn(StrictModel):
    """A reading on one of the scales."""

    scale: Literal["00", "A", "D"]
    shore: Annotated[float, Field(ge=0, le=100)]


class PointIn(ReadingIn):
    """A test coupon: what a dose came to."""

    parts_per_100: Annotated[float, Field(ge=0, le=thinner_curve.MOST_PARTS)]


class HardnessIn(StrictModel):
    """A rubber with its test points, and either a dose of thinner or the hardness wanted.

    SGs give the volume fraction.
    """

    rubber: ReadingIn
    points: Annotated[list[PointIn], Field(max_length=200)] = []
    parts_per_100: Annotated[float, Field(ge=0, le=thinner_curve.MOST_PARTS)] | None = None
    target: ReadingIn | None = None
    rubber_sg: SG | None = None
    thinner_sg: SG | None = None


class ShoreOut(BaseModel):
    """Readings by scale; null where a scale does not reach."""

    soft: Annotated[float | None, Field(serialization_alias="00")]
    A: float | None
    D: float | None


class HardnessOut(BaseModel):
    """A thinned rubber; range_mpa is where nothing but the model vouches for it."""

    parts_per_100: float
    shore: ShoreOut
    modulus_mpa: float
    range_mpa: tuple[float, float] | None
    basis: Literal["model", "fitted", "data"]
    findings: list[Finding]


@router.post("/api/v1/hardness", summary="What thinner does to a rubber's hardness, or the dose for a hardness")
def hardness(body: HardnessIn) -> HardnessOut:
    """Work out the hardness of a dose, or the dose for a hardness."""
    if (body.parts_per_100 is None) == (body.target is None):
        raise Refused("target", "Give exactly one of parts_per_100 and target: the dose, or the hardness wanted.")
    points = [
        thinner_curve.CouponPoint(
            parts_per_100=point.parts_per_100, hardness=Hardness(scale=point.scale, shore=point.shore)
        )
        for point in body.points
    ]
    curve = thinner_curve.Curve(
        Hardness(scale=body.rubber.scale, shore=body.rubber.shore),
        points,
        rubber_sg=body.rubber_sg,
        thinner_sg=body.thinner_sg,
    )
    made = (
        curve.dose_for(Hardness(scale=body.target.scale, shore=body.target.shore))
        if body.target
        else curve.at(body.parts_per_100 or 0.0)
    )
    return HardnessOut(
        parts_per_100=made.parts_per_100,
        shore=ShoreOut(soft=made.shore("00"), A=made.shore("A"), D=made.shore("D")),
        modulus_mpa=made.modulus_mpa,
        range_mpa=made.range_mpa,
        basis=made.basis,
        findings=findings_out(made.findings),
    )
