"""The interface calls on pairings: a verdict, and the kinds that may be asked about."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ufrin.actions.shop import pairing_tests
from ufrin.core.materials.kinds import BETWEENS, NOTHING_BETWEEN, POURS, SURFACES
from ufrin.core.pairing.rules import Verdict, check_kinds, judge
from ufrin.web.contexts.interface import StrictModel
from ufrin.web.routes import TheDatabase

router = APIRouter(tags=["checks"])
Name = Annotated[str, Field(min_length=1, max_length=80)]


class PairingIn(StrictModel):
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
def pairing(database: TheDatabase, body: PairingIn) -> PairingOut:
    """Judge a pairing; the workshop's own tests come first."""
    check_kinds(body.pour, body.touches, body.between)
    own = [kept.rule for kept in pairing_tests.own_rules(database)]
    ruling = judge(body.pour, body.touches, body.between, own, body.rubber)
    return PairingOut(
        verdict=ruling.verdict,
        why=ruling.why,
        remedy=ruling.remedy.text if ruling.remedy else "",
        source="own test" if ruling.own else "common practice" if ruling.known else "not known",
        tried_on=ruling.own.tried_on if ruling.own else None,
    )


@router.get("/api/v1/pairing/kinds", summary="The kinds that pairings know")
def kinds() -> KindsOut:
    """List the kinds."""
    return KindsOut(pours=list(POURS), surfaces=list(SURFACES), between=list(BETWEENS))
