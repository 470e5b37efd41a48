"""The Opening station: how a mould opens and where the air goes."""

from dataclasses import dataclass, field, replace

import numpy as np
from shapely.geometry import Polygon

from ufrin.core.box.mould_box import Box
from ufrin.core.inputs.opening import OpeningInputs, SettledOpening
from ufrin.core.job.mould_style import MouldStyle
from ufrin.core.master.master_form import Form, Master
from ufrin.core.master.turned_profiles import direction_vector
from ufrin.core.mesh.triangles import Floats
from ufrin.core.opening.cast_layout import CastLayout, CastWishes, cast_layout
from ufrin.core.opening.casting_attitudes import CastingAttitude
from ufrin.core.opening.feature_checklist import FeatureChecklist
from ufrin.core.opening.form_analysis import air_under, analysed_mesh, cells_of, stretch_of, tilt_of
from ufrin.core.opening.gates_and_vents import CastPlan
from ufrin.core.opening.keys import Key
from ufrin.core.opening.mould_features import MasterFeatures
from ufrin.core.opening.mould_styles import ONE_PIECE, PARTED, StyleAdvice
from ufrin.core.opening.parted_box import KeyWishes, PartedBox, PlacedForm, air_of_halves, bores_near, keyed, parted
from ufrin.core.opening.parting_surface import PartingSurface
from ufrin.core.opening.point_lists import plan_points, space_points
from ufrin.core.opening.slit import SLIT_SHARE, Slit, slit_side
from ufrin.core.opening.stretch import Stretch
from ufrin.core.opening.thin_neck import ThinNeck, thin_neck
from ufrin.core.opening.tilt import Tilt
from ufrin.core.opening.trapped_air import Air, Cavity, Point3
from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningContext:
    """What the Opening station goes by besides its own inputs.

    Parameters
    ----------
    kind : MouldStyle
        The kind of mould that counts.
    form : Form or None
        Of the job's own master, as it stands.
    masters : tuple of Master
        All in the box, the job's own first.
    box : Box or None
        Worked out.
    foot_mm, board_mm, over_mm : float
        How high the masters stand over the board of the box, how high their bed reaches up them (negative where there
        is rubber under them), and the rubber over them.
    """

    kind: MouldStyle
    form: Form | None
    masters: tuple[Master, ...]
    box: Box | None
    foot_mm: float
    board_mm: float
    over_mm: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Opening:
    """How a mould opens.

    Parameters
    ----------
    style, is_chosen : str, bool
        The style that counts: the chosen one, else the best advised.
    advice : tuple of StyleAdvice
        Best first.
    features : MasterFeatures
        What the advice goes by.
    checklist : FeatureChecklist or None
        Where there is no shape.
    stretch, slit, allowed : Stretch or None, Slit or None, float or None
        Of a one-piece mould.
    under : Air or None
        The air that rubber leaves round the master when it rises level.
    halves_air : (Air, Air) or None
        The same of each pour of a mould in two halves.
    tilt : Tilt or None
        Of the box while it is poured; None where level is as good.
    parting_surface, inside : PartingSurface or None, Polygon or None
        Of a mould in two halves, and its box in plan.
    keys : tuple of Key
        On the flange.
    cast : CastPlan or None
        Gate, vents, and the air of the cast, in coordinates of the mould as it is held.
    cast_turn : (3, 3) float64
        From the master as it stands to the mould as it is held.
    attitudes : tuple of CastingAttitude
        Ways to hold it, best first; empty where the mouth of the mould is on top anyway.
    cavity : Cavity or None
        As it is held.
    shown : (3,) float64 or None
        Where the show face looks to, as the master stands.
    gate_by_hand, vents_by_hand, keys_by_hand : bool
        Whether they were placed by hand.
    key_findings : tuple of Finding
        What is wrong with the keys.
    thin_mm, size_mm : float or None, float
        Walls thinner than the finest cells, and the master's longest side.
    neck : ThinNeck or None
        Where it would break as a one-piece mould is pulled off.
    is_thinned : bool
        Whether the analysis took a thinned-out copy.
    refusals : tuple of Refused
        What could not be worked out.
    """

    style: str
    advice: tuple[StyleAdvice, ...]
    features: MasterFeatures
    is_chosen: bool = False
    checklist: FeatureChecklist | None = None
    stretch: Stretch | None = None
    slit: Slit | None = None
    allowed: float | None = None
    under: Air | None = None
    halves_air: tuple[Air, Air] | None = None
    tilt: Tilt | None = None
    parting_surface: PartingSurface | None = None
    inside: Polygon | None = None
    keys: tuple[Key, ...] = ()
    cast: CastPlan | None = None
    cast_turn: Floats = field(default_factory=lambda: np.eye(3))
    attitudes: tuple[CastingAttitude, ...] = ()
    cavity: Cavity | None = None
    shown: Floats | None = None
    gate_by_hand: bool = False
    vents_by_hand: bool = False
    keys_by_hand: bool = False
    key_findings: tuple[Finding, ...] = ()
    thin_mm: float | None = None
    neck: ThinNeck | None = None
    size_mm: float = 0.0
    is_thinned: bool = False
    refusals: tuple[Refused, ...] = ()

    @property
    def is_parted(self) -> bool:
        """Whether it has two halves."""
        return self.style in PARTED


def open_mould(inputs: OpeningInputs, context: OpeningContext) -> Opening:
    """Work out the Opening station.

    Parameters
    ----------
    inputs : OpeningInputs
        As filled in.
    context : OpeningContext
        What it goes by.

    Returns
    -------
    Opening
        Without a shape, the kind of mould and its advice alone.
    """
    kind = context.kind
    made = Opening(
        style=kind.style,
        is_chosen=kind.is_chosen,
        advice=kind.advice,
        features=kind.features,
        checklist=kind.checklist,
        allowed=kind.features.allowed,
    )
    if context.form is None:
        if made.style != "slit":
            return made
        side = inputs.settled().slit_side or slit_side(None)
        return replace(made, slit=Slit(side=side, length_mm=SLIT_SHARE * context.masters[0].height_mm))
    made = _parted(made, inputs, context, context.form)
    return _with_shape(made, inputs, context, context.form)


def _with_shape(made: Opening, inputs: OpeningInputs, context: OpeningContext, form: Form) -> Opening:
    settled, stretched = inputs.settled(), stretch_of(form)
    shown = None if not settled.show else form.turn @ _unit(direction_vector(settled.show))
    made = replace(
        made,
        stretch=stretched,
        slit=_slit(settled, stretched, made.allowed, made.style, shown),
        shown=shown,
        size_mm=max(form.size_mm),
        neck=thin_neck(form),
        is_thinned=analysed_mesh(form) is not form.mesh,
    )
    try:
        made = _with_air(made, inputs, context, form)
    except Refused as refused:  # no ray meets it
        return replace(made, refusals=(*made.refusals, Refused("", refused.why)))
    try:
        layout = cast_layout(form, _cast_wishes(inputs, settled, form, made))
    except Refused as refused:  # held that way, no ray meets it
        return _keyed(replace(made, refusals=(*made.refusals, Refused("", refused.why))), inputs, context, form, None)
    made = replace(
        made,
        cast=layout.cast,
        cast_turn=layout.turn,
        cavity=layout.cavity,
        attitudes=layout.attitudes,
        gate_by_hand=bool(inputs.gates),
        vents_by_hand=bool(inputs.vents),
        refusals=(*made.refusals, *layout.refused),
    )
    return _keyed(made, inputs, context, form, layout)


def _slit(
    settled: SettledOpening, stretched: Stretch, allowed: float | None, style: str, shown: Floats | None
) -> Slit | None:
    if style != "slit":
        return None
    # where it was chosen although nothing needs it, it is as long as slits usually are
    whole_mm = float(stretched.height_mm[-1] + stretched.height_mm[0])
    length_mm = stretched.slit_mm(allowed if allowed is not None else 1.0) or SLIT_SHARE * whole_mm
    return Slit(side=settled.slit_side or slit_side(shown), length_mm=length_mm)


def _with_air(made: Opening, inputs: OpeningInputs, context: OpeningContext, form: Form) -> Opening:
    under = air_under(form, context.board_mm)
    made = replace(made, under=under, thin_mm=cells_of(form).thin_mm)
    if made.parting_surface is not None and context.box is not None:
        return replace(made, halves_air=air_of_halves(form, _parted_box(inputs, context, context.box)))
    limit_deg = inputs.settled().tilt_limit_deg
    worth = any(pocket.matters for pocket in under.pockets)
    return replace(made, tilt=tilt_of(form, limit_deg, context.board_mm) if worth else None)


def _parted(made: Opening, inputs: OpeningInputs, context: OpeningContext, form: Form) -> Opening:
    if not made.is_parted or context.box is None:
        return made
    box = _parted_box(inputs, context, context.box)
    try:
        return replace(made, parting_surface=parted(form, box), inside=box.inside)
    except Refused as refused:
        return replace(made, refusals=(*made.refusals, refused))


def _parted_box(inputs: OpeningInputs, context: OpeningContext, box: Box) -> PartedBox:
    return PartedBox(
        inside=box.inside_polygon(),
        places=tuple(
            PlacedForm(
                form=context.masters[place.kind].form,
                x_mm=round(place.x_mm, 6),
                y_mm=round(place.y_mm, 6),
                is_turned=place.turned,
            )
            for place in box.layout.places
        ),
        foot_mm=context.foot_mm,
        under_mm=context.foot_mm,
        over_mm=context.over_mm,
        slack_mm=inputs.settled().slack_mm,
    )


def _cast_wishes(inputs: OpeningInputs, settled: SettledOpening, form: Form, made: Opening) -> CastWishes:
    return CastWishes(
        up=_point(form.turn @ _unit(direction_vector(settled.cast_up))) if settled.cast_up else None,
        shown=None if made.shown is None else _point(made.shown),
        gates=_standing(form, inputs.gates),
        vents=_standing(form, inputs.vents),
        has_mouth=made.style in ONE_PIECE,
        worth_ml=settled.worth_ml,
    )


def _standing(form: Form, kept: str | None) -> tuple[Point3, ...] | None:
    if not kept:
        return None
    return tuple(_point(one) for one in form.to_standing_mm(np.array(space_points(kept)).reshape(-1, 3)))


def _keyed(
    made: Opening, inputs: OpeningInputs, context: OpeningContext, form: Form, layout: CastLayout | None
) -> Opening:
    surface, box = made.parting_surface, context.box
    if surface is None or box is None:
        return made
    own = tuple((place.x_mm, place.y_mm) for place in box.layout.places if place.kind == 0)
    bores = bores_near(layout, surface, own, context.foot_mm) if layout else ()
    wishes = KeyWishes(
        places=tuple(plan_points(inputs.keys)) if inputs.keys else None, diameter_mm=inputs.settled().key_mm
    )
    keys, findings = keyed(form, _parted_box(inputs, context, box), wishes, bores)
    return replace(made, keys=keys, keys_by_hand=bool(inputs.keys), key_findings=findings)


def _unit(direction: Point3) -> Floats:
    vector = np.array(direction, dtype=float)
    return np.asarray(vector / np.linalg.norm(vector))


def _point(vector: Floats) -> Point3:
    x, y, z = vector
    return (float(x), float(y), float(z))
