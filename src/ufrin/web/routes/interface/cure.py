"""The interface call on cure: when an equivalent age is reached in a room whose temperature changed."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ufrin.core.clocks.equivalent_age import done_min
from ufrin.core.rubber.cure_times import Q10, TIN_TEMP_C
from ufrin.web.contexts.interface import StrictModel

router = APIRouter(tags=["cure"])
Temperature = Annotated[float, Field(ge=-60, le=200)]


class NotedTemperature(StrictModel):
    """A temperature, and from when on it counts, in min since A met B."""

    from_min: Annotated[float, Field(ge=0, le=1e7)]
    c: Temperature


class CureIn(StrictModel):
    """A time that the tin states, and the temperatures that were noted, in the order of their times.

    The first temperature counts from the start; the last one goes on.
    """

    minutes_at_ref: Annotated[float, Field(gt=0, le=1e7)]
    ref_c: Temperature = TIN_TEMP_C
    q10: Annotated[float, Field(ge=1, le=10)] = Q10
    temperatures: Annotated[list[NotedTemperature], Field(min_length=1, max_length=10_000)]


class CureOut(BaseModel):
    """When the equivalent age reaches the tin's figure, in min since A met B."""

    done_min: float


@router.post("/api/v1/cure", summary="When a cure is done in a room whose temperature changed")
def cure(body: CureIn) -> CureOut:
    """Work out when the equivalent age reaches the tin's figure."""
    notes = [(one.from_min, one.c) for one in body.temperatures]
    return CureOut(done_min=done_min(body.minutes_at_ref, notes, ref_c=body.ref_c, q10=body.q10))
