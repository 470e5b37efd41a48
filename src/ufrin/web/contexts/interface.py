"""What the calls of the open JSON interface share: field types, findings, and the model of what is sent."""

from collections.abc import Iterable
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from ufrin.core.wording.findings import Finding as CoreFinding

LEAST = 1e-6  # of a size, a weight or a share: what is less is a slip, and divided by would be beyond all bounds
Grams = Annotated[float, Field(ge=LEAST, le=1e7)]
Millilitres = Annotated[float, Field(ge=LEAST, le=1e7)]
Millimetres = Annotated[float, Field(ge=LEAST, le=10_000)]
SG = Annotated[float, Field(ge=0.1, le=22.6)]
Share = Annotated[float, Field(ge=LEAST, le=1e6)]


def _nothing_or_some(value: float) -> float:
    if 0 < value < LEAST:
        raise ValueError(f"must be 0, or at least {LEAST:f}")
    return value


NothingOrGrams = Annotated[float, Field(ge=0, le=1e7), AfterValidator(_nothing_or_some)]


class StrictModel(BaseModel):
    """What a caller sends: an unknown field is refused; so are NaN, infinity, and text or a truth for a number."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, strict=True)


class ErrorOut(BaseModel):
    """Why a call was not answered, as a sentence that a person can act on.

    ``reference`` finds a mistake of ours in the log; only status 500 has one.
    """

    detail: str
    reference: str = ""


_ERRORS = {
    400: "The request can't be read.",
    401: "No key, or none that is known, where people sign in.",
    403: "The call comes from a page of another origin, or its key may not ask this.",
    404: "There is nothing at this address or with this number.",
    413: "More was sent than is taken.",
    422: "That can't be calculated; the sentence says why and what to do.",
    500: "A mistake of ours; the reference finds it in the log.",
    503: "The database or the server is busy or away; try again.",
    507: "The disk is full.",
}
# every status besides the answer that any call may give, for the description of the interface
ERRORS: dict[int | str, dict[str, Any]] = {
    status: {"model": ErrorOut, "description": text} for status, text in _ERRORS.items()
}


class Finding(BaseModel):
    """What is wrong or worth knowing, why, and what to do."""

    level: Literal["stop", "warn", "note"]
    code: str
    text: str


def findings_out(findings: Iterable[CoreFinding]) -> list[Finding]:
    """Return findings as the interface does."""
    return [Finding(level=finding.level, code=finding.code, text=finding.text()) for finding in findings]
