"""The open interface: pairings and bubbles."""

from typing import Annotated, Any, Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from ufrin.actions.shop import pairing_tests
from ufrin.core.degassing import bubbles as air
from ufrin.core.materials.kinds import BETWEENS, NOTHING_BETWEEN, POURS, SURFACES
from ufrin.core.measures.quantities import convert
from ufrin.core.pairing.rules import Verdict, judge, named
from ufrin.web.routes import TheDatabase

router = APIRouter(tags=["checks"])
Name = Annotated[str, Field(min_length=1, max_length=80)]


class _Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class PairingIn(_Strict):
    """What is poured, what it touches, and what lies between; ``rubber`` is the name of one on the Shelf."""

    pour: Name
    touches: Name
    between: Name = NOTHING_BETWEEN
    rubber: Annotated[str, Field(max_length=120)] = ""


class PairingOut(BaseModel):
    """A verdict with its reason; ``source`` tells a test of the workshop from a rule that is shipped."""

    verdict: Verdict
    why: str
    remedy: str
    source: Literal["own test", "common practice", "not known"]
    tried_on: str | None


class KindsOut(BaseModel):
    """The names that a pairing may be asked with."""

    pours: list[str]
    surfaces: list[str]
    between: list[str]


@router.post("/api/v1/pairing", summary="What happens where a thing poured touches a surface")
def pairing(database: TheDatabase, asked: PairingIn) -> PairingOut:
    """Judge a pairing; the workshop's own tests come first."""
    named(asked.pour, asked.touches, asked.between)
    own = [kept.rule for kept in pairing_tests.own_rules(database)]
    ruling = judge(asked.pour, asked.touches, asked.between, own, asked.rubber)
    return PairingOut(
        verdict=ruling.verdict, why=ruling.why, remedy=ruling.remedy.says if ruling.remedy else "",
        source="own test" if ruling.own else "common practice" if ruling.known else "not known",
        tried_on=ruling.own.tried_on if ruling.own else None,
    )  # fmt: skip


@router.get("/api/v1/pairing/kinds", summary="The kinds that pairings know")
def kinds() -> KindsOut:
    """List the kinds."""
    return KindsOut(pours=list(POURS), surfaces=list(SURFACES), between=list(BETWEENS))


class BubblesIn(_Strict):
    """A liquid, how deep it stands, and how long it stays liquid; the gauge pressure of a pot, where there is one."""

    viscosity_mpa_s: Annotated[float, Field(gt=0, le=1e8)]
    sg: Annotated[float, Field(gt=air.GAS_SG, le=22.6)]
    depth_mm: Annotated[float, Field(gt=0, le=10_000)]
    pot_life_min: Annotated[float, Field(gt=0, le=525_600)]
    pressure_psi_gauge: Annotated[float, Field(ge=0, le=15_000)] | None = None


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


@router.post("/api/v1/bubbles", summary="Which bubbles leave a liquid in time, and what a pressure pot does to the rest")
def bubbles(asked: BubblesIn) -> BubblesOut:
    """Work out the smallest bubble that clears."""
    said: dict[str, Any] = {"depth_mm": asked.depth_mm, "time_min": asked.pot_life_min, "viscosity_mpa_s": asked.viscosity_mpa_s, "sg": asked.sg}
    pot = None
    if asked.pressure_psi_gauge is not None:
        ratio = air.pot_ratio(convert(asked.pressure_psi_gauge, "psi", "kPa"))
        pot = PotOut(volume_ratio=ratio, diameter_ratio=air.diameter_ratio(ratio))
    clears = ClearsOut(stokes=air.smallest_mm(**said, surface="dirty"), hadamard=air.smallest_mm(**said, surface="clean"))
    return BubblesOut(clears_mm=clears, pressure_pot=pot)
