"""The open JSON interface, under ``/api/v1``. Pydantic reads; the core computes; the names are fixed."""

from collections.abc import Iterable
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel, ConfigDict, Field
from starlette.responses import Response

from ufrin.core.box import box_volumes
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.master.master_form import MOST_MASTERS, Master
from ufrin.core.rubber import thinner_curve
from ufrin.core.rubber.shore import Hardness
from ufrin.core.shelf.containers import Pot
from ufrin.core.weighing import mix as weighing
from ufrin.core.weighing import ratio_mend
from ufrin.core.wording.findings import Finding as CoreFinding
from ufrin.errors import Refused
from ufrin.web.frame.pages import render

router = APIRouter()

Grams = Annotated[float, Field(gt=0, le=1e7)]
Millilitres = Annotated[float, Field(gt=0, le=1e7)]
Millimetres = Annotated[float, Field(gt=0, le=10_000)]
Clearance = Annotated[float, Field(ge=0, le=10_000)]
SG = Annotated[float, Field(ge=0.1, le=22.6)]
Share = Annotated[float, Field(gt=0, le=1e6)]
Whole = Annotated[int, Field(ge=1, le=MOST_MASTERS)]


class _Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False)


class Finding(BaseModel):
    """What is wrong or worth knowing, why, and what to do."""

    level: Literal["stop", "warn", "note"]
    code: str
    text: str


def said(findings: Iterable[CoreFinding]) -> list[Finding]:
    """Say findings as the interface does."""
    return [Finding(level=finding.level, code=finding.code, text=finding.text()) for finding in findings]


class ThinnerIn(_Strict):
    """Thinner in parts per 100 by mass."""

    parts_per_100: Annotated[float, Field(ge=0, le=200)]
    of: Literal["A+B", "A"] = "A+B"
    sg: SG | None = None


class MixIn(_Strict):
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
    scale_step_g: Annotated[float, Field(gt=0, le=1e5)] | None = None
    tolerance_pct: Annotated[float, Field(gt=0, le=100)] = weighing.DEFAULT_TOLERANCE_PCT
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
def mix(asked: MixIn) -> MixOut:
    """Work out total, parts, thinner, pigment and batches of a mix."""
    asked_for = {name: getattr(asked, name) for name in MixIn.model_fields if name != "thinner"}
    thinner = weighing.Thinner(**asked.thinner.model_dump()) if asked.thinner else None
    mixed = weighing.mix(weighing.MixPlan(**asked_for, thinner=thinner))
    return MixOut(
        total_g=mixed.total_g,
        total_ml=mixed.total_ml,
        sg_mixed=mixed.sg_mixed,
        parts={name: PartOut(g=part.g, ml=part.ml) for name, part in mixed.parts.items()},
        thinner_g=mixed.thinner_g,
        pigment_g=mixed.pigment_g,
        batches=[
            BatchOut(total_g=batch.total_g, parts=dict(batch.parts_g), thinner_g=batch.thinner_g, pigment_g=batch.pigment_g)
            for batch in mixed.batches
        ],
        ratio_error_pct=RatioErrorOut(worst=mixed.worst_ratio_error_pct),
        findings=said(mixed.findings),
    )


class CheckIn(_Strict):
    """What was poured of A and B."""

    ratio: dict[str, Share]
    poured_g: dict[str, Annotated[float, Field(ge=0, le=1e7)]]
    basis: Literal["weight", "volume"] = "weight"
    sg_parts: dict[str, SG] | None = None
    tolerance_pct: Annotated[float, Field(gt=0, le=100)] = weighing.DEFAULT_TOLERANCE_PCT


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
def check(asked: CheckIn) -> CheckOut:
    """Check what was poured against the ratio."""
    checked = ratio_mend.check(**{name: getattr(asked, name) for name in CheckIn.model_fields})
    return CheckOut(
        ratio_error_pct=checked.ratio_error_pct,
        verdict=checked.verdict,
        add=AddOut(part=checked.add_part, g=checked.add_g) if checked.add_part else None,
        total_g_after=checked.total_g_after,
    )


class MasterIn(_Strict):
    """A master by its outside; a round outline has its diameter as length and width."""

    length_mm: Millimetres
    width_mm: Millimetres
    height_mm: Millimetres
    volume_ml: Millilitres
    mass_g: Grams | None = None
    count: Whole = 1
    outline: Literal["rectangle", "round"] = "rectangle"


class PotIn(_Strict):
    """Inside diameters and height of a tapered pot."""

    bottom_mm: Millimetres
    top_mm: Millimetres
    height_mm: Millimetres


class WallIn(_Strict):
    """The walls of a built box."""

    thickness_mm: Annotated[float, Field(gt=0, le=1000)]


class BoxIn(_Strict):
    """Masters, shape and clearances of a box."""

    masters: Annotated[list[MasterIn], Field(min_length=1, max_length=MOST_MASTERS)]
    shape: Literal["rectangle", "round", "tapered"] = "rectangle"
    side_mm: Clearance = 12
    over_mm: Clearance = 12
    under_mm: Clearance = 0
    gap_mm: Clearance = 10
    bed_mm: Clearance = 0
    sunk_mm: Clearance = 0
    freeboard_mm: Clearance = 10
    rows: Whole | None = None
    columns: Whole | None = None
    pot: PotIn | None = None
    rubber_sg: SG | None = None
    wall: WallIn | None = None


class PanelOut(BaseModel):
    """Equal panels to cut."""

    name: str
    length_mm: float
    height_mm: float
    count: int


class BoxOut(BaseModel):
    """A box worked out."""

    inside: dict[str, float]
    fill_mm: float
    rim_mm: float
    gross_ml: float
    displaced_ml: float
    bed_ml: float
    net_ml: float
    lift_g: float | None
    wall_kpa: float | None
    rows: int
    columns: int
    raise_to_clear_mm: float | None
    panels: list[PanelOut]
    findings: list[Finding]


@router.post("/api/v1/box", summary="A mould box and the rubber it takes")
def box(asked: BoxIn) -> BoxOut:
    """Work out the inside, fill line, volumes, lift and panels of a box."""
    asked_for: dict[str, Any] = {name: getattr(asked, name) for name in BoxIn.model_fields if name not in {"masters", "pot", "wall"}}
    made = box_volumes.box(
        BoxPlan(
            masters=tuple(Master(**master.model_dump()) for master in asked.masters),
            pot=Pot(**asked.pot.model_dump()) if asked.pot and asked.shape == "tapered" else None,
            wall_thickness_mm=asked.wall.thickness_mm if asked.wall else None,
            **asked_for,
        )
    )
    same = ("fill_mm", "rim_mm", "gross_ml", "displaced_ml", "bed_ml", "net_ml", "lift_g", "wall_kpa", "rows", "columns", "raise_to_clear_mm")
    inside = {"length_mm": made.length_mm, "width_mm": made.width_mm, "diameter_mm": made.diameter_mm}
    return BoxOut(
        inside={name: size for name, size in inside.items() if size is not None},
        **{name: getattr(made, name) for name in same},
        panels=[PanelOut(name=panel.name, length_mm=panel.length_mm, height_mm=panel.height_mm, count=panel.count) for panel in made.panels],
        findings=said(made.findings),
    )


class ReadingIn(_Strict):
    """A reading on one of the scales."""

    scale: Literal["00", "A", "D"]
    shore: Annotated[float, Field(ge=0, le=100)]


class PointIn(ReadingIn):
    """A test coupon: what a dose came to."""

    parts_per_100: Annotated[float, Field(ge=0, le=thinner_curve.MOST_PARTS)]


class HardnessIn(_Strict):
    """A rubber with its test points, and either a dose of thinner or the hardness wanted; SGs give the volume fraction."""

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
def hardness(asked: HardnessIn) -> HardnessOut:
    """Work out the hardness of a dose, or the dose for a hardness."""
    if (asked.parts_per_100 is None) == (asked.target is None):
        raise Refused("target", "Give exactly one of parts_per_100 and target: the dose, or the hardness wanted.")
    points = [
        thinner_curve.Point(parts_per_100=point.parts_per_100, hardness=Hardness(scale=point.scale, shore=point.shore)) for point in asked.points
    ]
    curve = thinner_curve.Curve(
        Hardness(scale=asked.rubber.scale, shore=asked.rubber.shore), points, rubber_sg=asked.rubber_sg, thinner_sg=asked.thinner_sg
    )
    made = curve.dose_for(Hardness(scale=asked.target.scale, shore=asked.target.shore)) if asked.target else curve.at(asked.parts_per_100 or 0.0)
    return HardnessOut(
        parts_per_100=made.parts_per_100, shore=ShoreOut(soft=made.shore("00"), A=made.shore("A"), D=made.shore("D")), modulus_mpa=made.modulus_mpa,
        range_mpa=made.range_mpa, basis=made.basis, findings=said(made.findings),
    )  # fmt: skip


@router.get("/api/docs", include_in_schema=False)
def docs(request: Request) -> Response:
    """Show the interface's description, from shipped assets."""
    return render(request, "interface/api_docs.html", {})
