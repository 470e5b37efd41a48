"""The interface call of a cast: solid, shell, foam behind a shell, filled, and what an amount covers."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ufrin.core.casting.cast_amount import MOST_CAVITIES, CastMix, CastPart, solid_cast
from ufrin.core.casting.filled_cast import filled_cast, thickened
from ufrin.core.casting.shell_cast import (
    START_SHARE,
    ball_area_cm2,
    covered_cm2,
    foam_back,
    hollow_ball_ml,
    shell_coats,
    shell_mass_g,
)
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.interface import (
    LEAST,
    SG,
    Finding,
    Grams,
    Millilitres,
    Millimetres,
    Share,
    StrictModel,
    findings_out,
)

router = APIRouter(tags=["cast"])
SquareCentimetres = Annotated[float, Field(ge=LEAST, le=1e6)]
NothingOrMillilitres = Annotated[float, Field(ge=0, le=1e7)]


class MixedIn(StrictModel):
    """How the casting material is mixed; without a ratio it has one part."""

    basis: Literal["weight", "volume"] = "weight"
    ratio: dict[str, Share] | None = None
    sg_parts: dict[str, SG] | None = None
    sg_mixed: SG | None = None

    def mix(self) -> CastMix:
        """Return it as the core takes it."""
        return CastMix(ratio=self.ratio, basis=self.basis, sg_parts=self.sg_parts, sg_mixed=self.sg_mixed)


class SolidIn(MixedIn):
    """A shot of solid casts."""

    kind: Literal["solid"]
    cavity_ml: Millilitres
    count: Annotated[int, Field(ge=1, le=MOST_CAVITIES)] = 1
    sprue_ml: NothingOrMillilitres = 0.0
    overfill_pct: Annotated[float, Field(ge=0, le=1000)] = 0.0
    spare_pct: Annotated[float, Field(ge=0, le=1000)] = 0.0


class ShellIn(MixedIn):
    """A shell: over a surface, as a ball, or begun with a quarter of the cavity."""

    kind: Literal["shell"]
    cavity_area_cm2: SquareCentimetres | None = None
    cavity_ml: Millilitres | None = None
    ball_outer_mm: Millimetres | None = None
    thickness_mm: Millimetres | None = None
    coat_mm: Millimetres | None = None


class FoamBackIn(StrictModel):
    """The foam behind a shell."""

    kind: Literal["foam-back"]
    cavity_ml: Millilitres
    shell_mass_g: Grams
    shell_sg: SG
    expansion: Annotated[float, Field(ge=LEAST, le=1000)]
    foam_liquid_sg: SG


class FilledIn(StrictModel):
    """A filled cast; the filler counts in scoops."""

    kind: Literal["filled"]
    need_ml: Millilitres
    parts_by_volume: dict[Literal["A", "B", "filler"], Annotated[float, Field(ge=0, le=1e6)]]
    sg_parts: dict[Literal["A", "B"], SG]
    filler_bulk_sg: Annotated[float, Field(ge=0.005, le=22.6)]
    filler_true_sg: Annotated[float, Field(ge=0.005, le=22.6)]


class CoverageIn(StrictModel):
    """What an amount covers."""

    kind: Literal["coverage"]
    mass_g: Grams
    sg: SG
    coat_mm: Millimetres


class CastPartOut(BaseModel):
    """One part; ml is null where its SG is not known."""

    g: float
    ml: float | None


class SolidOut(BaseModel):
    """What a shot takes; parts is null for what has one part."""

    mass_g: float
    volume_ml: float
    parts: dict[str, CastPartOut] | None


class ShellOut(BaseModel):
    """What a shell takes: of the whole coats that reach the thickness, where that of a coat was given."""

    mass_g: float
    coats: int | None
    reached_mm: float | None
    parts: dict[str, CastPartOut] | None
    thin_shell_g: float | None = None


class FoamBackOut(BaseModel):
    """The room that the shell leaves, and the liquid that rises to fill it."""

    remaining_ml: float
    foam_mix_g: float


class FilledOut(BaseModel):
    """What a filled cast takes; the scoop is bulk volume."""

    a_ml: float
    b_ml: float
    filler_scoop_ml: float
    filler_g: float
    total_g: float
    sg_mixed: float
    findings: list[Finding]


class CoverageOut(BaseModel):
    """The surface that is covered."""

    area_cm2: float


CastIn = Annotated[SolidIn | ShellIn | FoamBackIn | FilledIn | CoverageIn, Field(discriminator="kind")]
CastOut = SolidOut | ShellOut | FoamBackOut | FilledOut | CoverageOut


@router.post("/api/v1/cast", summary="What a cast takes")
def cast(body: CastIn) -> CastOut:
    """Work out what a cast takes, by its kind."""
    match body:
        case SolidIn():
            return _solid(body)
        case ShellIn():
            return _shell(body)
        case FoamBackIn():
            made = foam_back(
                cavity_ml=body.cavity_ml,
                shell_g=body.shell_mass_g,
                shell_sg=body.shell_sg,
                expansion=body.expansion,
                foam_liquid_sg=body.foam_liquid_sg,
            )
            return FoamBackOut(remaining_ml=made.remaining_ml, foam_mix_g=made.foam_mix_g)
        case FilledIn():
            return _filled(body)
        case CoverageIn():
            return CoverageOut(area_cm2=covered_cm2(body.mass_g, body.sg, body.coat_mm))


def _parts(parts: dict[str, CastPart] | None) -> dict[str, CastPartOut] | None:
    return {name: CastPartOut(g=part.g, ml=part.ml) for name, part in parts.items()} if parts else None


def _solid(body: SolidIn) -> SolidOut:
    mix = body.mix()
    made = solid_cast(
        mix,
        cavity_ml=body.cavity_ml,
        count=body.count,
        sprue_ml=body.sprue_ml,
        overfill_pct=body.overfill_pct,
        spare_pct=body.spare_pct,
    )
    return SolidOut(mass_g=made.mass_g, volume_ml=made.volume_ml, parts=_parts(mix.parts(made.mass_g)))


def _shell(body: ShellIn) -> ShellOut:
    known = [one for one in (body.cavity_area_cm2, body.cavity_ml, body.ball_outer_mm) if one is not None]
    if len(known) != 1:
        raise Refused("cavity_area_cm2", "Give exactly one of cavity_area_cm2, cavity_ml and ball_outer_mm.")
    mix, thin_g, thickness_mm, coats = body.mix(), None, body.thickness_mm, None
    if thickness_mm is not None and body.coat_mm is not None:
        coats = shell_coats(thickness_mm, body.coat_mm)
        thickness_mm = coats.reached_mm
    if body.cavity_ml is not None:
        mass_g = START_SHARE * body.cavity_ml * mix.sg
    elif thickness_mm is None:
        raise Refused("thickness_mm", "How thick is the shell to be? Give thickness_mm.")
    elif body.ball_outer_mm is not None:
        mass_g = hollow_ball_ml(body.ball_outer_mm, thickness_mm) * mix.sg
        thin_g = shell_mass_g(ball_area_cm2(body.ball_outer_mm), thickness_mm, mix.sg)
    else:
        mass_g = shell_mass_g(body.cavity_area_cm2 or 0.0, thickness_mm, mix.sg)
    return ShellOut(
        mass_g=mass_g,
        coats=coats.number if coats else None,
        reached_mm=coats.reached_mm if coats else None,
        parts=_parts(mix.parts(mass_g)),
        thin_shell_g=thin_g,
    )


def _filled(body: FilledIn) -> FilledOut:
    if set(body.parts_by_volume) != {"A", "B", "filler"} or set(body.sg_parts) != {"A", "B"}:
        raise Refused("parts_by_volume", 'Give parts_by_volume of "A", "B" and "filler", and sg_parts of "A" and "B".')
    made = filled_cast(
        body.need_ml,
        parts_by_volume={str(name): number for name, number in body.parts_by_volume.items()},
        sg_parts={str(name): sg for name, sg in body.sg_parts.items()},
        bulk_sg=body.filler_bulk_sg,
        true_sg=body.filler_true_sg,
    )
    return FilledOut(
        a_ml=made.a_ml,
        b_ml=made.b_ml,
        filler_scoop_ml=made.scoop_ml,
        filler_g=made.filler_g,
        total_g=made.total_g,
        sg_mixed=made.sg,
        findings=findings_out(thickened(made.filler_share, Text("the mix"))),
    )
