"""The interface call on bubbles: which leave a liquid in time, and what a pressure pot does to the rest."""

from typing import Annotated, Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ufrin.core.degassing import bubbles as air
from ufrin.core.degassing.air_pressure import HPA_PER_KPA, LEAST_HPA, MOST_HPA, SEA_LEVEL_HPA
from ufrin.core.measures.conversion import convert
from ufrin.web.contexts.interface import StrictModel

router = APIRouter(tags=["checks"])


class BubblesIn(StrictModel):
    """A liquid, how deep it stands, and how long it stays liquid; the gauge pressure of a pot, where there is one.

    The pressure of the air counts for the pot; without it, that of the sea's level is taken.
    """

    viscosity_mpa_s: Annotated[float, Field(ge=0.01, le=1e8)]
    sg: Annotated[float, Field(ge=0.01, le=22.6)]
    depth_mm: Annotated[float, Field(ge=0.01, le=10_000)]
    pot_life_min: Annotated[float, Field(ge=0.01, le=525_600)]
    pressure_psi_gauge: Annotated[float, Field(ge=0, le=15_000)] | None = None
    air_pressure_hpa: Annotated[float, Field(ge=LEAST_HPA, le=MOST_HPA)] = SEA_LEVEL_HPA


class ClearsOut(BaseModel):
    """The smallest bubble that rises out in time, in mm across: by the slow bound and by the fast one."""

    stokes: float
    hadamard: float


class PotOut(BaseModel):
    """What is left of a bubble under the pressure of the pot."""

    volume_ratio: float
    diameter_ratio: float


class BubblesOut(BaseModel):
    """Bubbles that clear; the pot's part is null where no pressure was given."""

    clears_mm: ClearsOut
    pressure_pot: PotOut | None


@router.post(
    "/api/v1/bubbles", summary="Which bubbles leave a liquid in time, and what a pressure pot does to the rest"
)
def bubbles(body: BubblesIn) -> BubblesOut:
    """Work out the smallest bubble that clears."""
    liquid: dict[str, Any] = {
        "depth_mm": body.depth_mm,
        "time_min": body.pot_life_min,
        "viscosity_mpa_s": body.viscosity_mpa_s,
        "sg": body.sg,
    }
    pot = None
    if body.pressure_psi_gauge is not None:
        ratio = air.pot_ratio(convert(body.pressure_psi_gauge, "psi", "kPa"), body.air_pressure_hpa / HPA_PER_KPA)
        pot = PotOut(volume_ratio=ratio, diameter_ratio=air.diameter_ratio(ratio))
    clears = ClearsOut(
        stokes=air.smallest_mm(**liquid, surface="dirty"), hadamard=air.smallest_mm(**liquid, surface="clean")
    )
    return BubblesOut(clears_mm=clears, pressure_pot=pot)
