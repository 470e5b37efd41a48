"""The interface call of a box, under ``/api/v1/box``. Pydantic reads, the core computes, the names are fixed."""

from typing import Annotated, Any, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ufrin.core.box import mould_box
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.inputs.usual import USUAL
from ufrin.core.master.master_form import MOST_MASTERS, Master
from ufrin.core.shelf.containers import Pot
from ufrin.web.contexts.interface import SG, Finding, Grams, Millilitres, Millimetres, StrictModel, findings_out

router = APIRouter()
_USUAL = USUAL["box"]
Clearance = Annotated[float, Field(ge=0, le=10_000)]
Whole = Annotated[int, Field(ge=1, le=MOST_MASTERS)]


class MasterIn(StrictModel):
    """A master by its outside; a round outline has its diameter as length and width."""

    length_mm: Millimetres
    width_mm: Millimetres
    height_mm: Millimetres
    volume_ml: Millilitres
    mass_g: Grams | None = None
    count: Whole = 1
    outline: Literal["rectangle", "round"] = "rectangle"


class PotIn(StrictModel):
    """Inside diameters and height of a tapered pot."""

    bottom_mm: Millimetres
    top_mm: Millimetres
    height_mm: Millimetres


class WallIn(StrictModel):
    """The walls of a built box."""

    thickness_mm: Annotated[float, Field(ge=0.01, le=1000)]


class BoxIn(StrictModel):
    """Masters, shape and clearances of a box."""

    masters: Annotated[list[MasterIn], Field(min_length=1, max_length=MOST_MASTERS)]
    shape: Literal["rectangle", "round", "tapered"] = "rectangle"
    side_mm: Clearance = _USUAL["side_mm"]
    over_mm: Clearance = _USUAL["over_mm"]
    under_mm: Clearance = 0
    gap_mm: Clearance = _USUAL["gap_mm"]
    bed_mm: Clearance = 0
    sunk_mm: Clearance = 0
    freeboard_mm: Clearance = _USUAL["freeboard_mm"]
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
def box(body: BoxIn) -> BoxOut:
    """Work out the inside, fill line, volumes, lift and panels of a box."""
    plan_fields: dict[str, Any] = {
        name: getattr(body, name) for name in BoxIn.model_fields if name not in {"masters", "pot", "wall"}
    }
    made = mould_box.box(
        BoxPlan(
            masters=tuple(Master(**master.model_dump()) for master in body.masters),
            pot=Pot(**body.pot.model_dump()) if body.pot and body.shape == "tapered" else None,
            wall_thickness_mm=body.wall.thickness_mm if body.wall else None,
            **plan_fields,
        )
    )
    same = (
        "fill_mm",
        "rim_mm",
        "gross_ml",
        "displaced_ml",
        "bed_ml",
        "net_ml",
        "lift_g",
        "wall_kpa",
        "rows",
        "columns",
        "raise_to_clear_mm",
    )
    inside = {"length_mm": made.length_mm, "width_mm": made.width_mm, "diameter_mm": made.diameter_mm}
    return BoxOut(
        inside={name: size for name, size in inside.items() if size is not None},
        **{name: getattr(made, name) for name in same},
        panels=[
            PanelOut(name=panel.name, length_mm=panel.length_mm, height_mm=panel.height_mm, count=panel.count)
            for panel in made.panels
        ],
        findings=findings_out(made.findings),
    )
