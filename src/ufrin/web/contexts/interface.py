"""What the calls of the open JSON interface share: field types, findings, and the model of what is sent."""

from collections.abc import Iterable
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ufrin.core.wording.findings import Finding as CoreFinding

Grams = Annotated[float, Field(gt=0, le=1e7)]
Millilitres = Annotated[float, Field(gt=0, le=1e7)]
Millimetres = Annotated[float, Field(gt=0, le=10_000)]
SG = Annotated[float, Field(ge=0.1, le=22.6)]
Share = Annotated[float, Field(gt=0, le=1e6)]


class KnownFieldsModel(BaseModel):
    """What a caller sends: an unknown field is refused, and so is an infinite number."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class StrictModel(KnownFieldsModel):
    """The same, and a number written as text is refused too."""

    model_config = ConfigDict(strict=True)


class Finding(BaseModel):
    """What is wrong or worth knowing, why, and what to do."""

    level: Literal["stop", "warn", "note"]
    code: str
    text: str


def findings_out(findings: Iterable[CoreFinding]) -> list[Finding]:
    """Return findings as the interface does."""
    return [Finding(level=finding.level, code=finding.code, text=finding.text()) for finding in findings]
