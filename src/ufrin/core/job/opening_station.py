"""Opening: how a mould will open and where the air goes, worked out from the Opening station and the master as it stands."""

from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
import shapely
from scipy import ndimage
from shapely import affinity
from shapely.geometry import Polygon

from ufrin.core.box.box_volumes import Box
from ufrin.core.inputs.stations import OpeningInputs
from ufrin.core.job.terms import OPENING, settled
from ufrin.core.master.attitudes import turn_up
from ufrin.core.master.master_form import QUARTER, Form, Master
from ufrin.core.master.turned_profiles import direction_of
from ufrin.core.mesh.cells import refined_cells
from ufrin.core.mesh.rays import Stretches, columns, grid, stretches
from ufrin.core.mesh.triangles import Flags, Floats, Mesh, together
from ufrin.core.opening.gates_and_vents import (
    PLAN_CELLS,
    CastingAttitude,
    CastPlan,
    Tilt,
    best_tilt,
    casting_attitudes,
    plan_cast,
)
from ufrin.core.opening.keys import FIRST_LARGER, Key, check_keys, flange, key_size_mm, place_keys
from ufrin.core.opening.mould_styles import ONE_PIECE, PARTED, FeatureChecklist, MasterFeatures, StyleAdvice, advise
from ufrin.core.opening.parting_surface import PartingSurface, parting_surface
from ufrin.core.opening.point_lists import pairs, triples
from ufrin.core.opening.stretch_and_slit import Slit, Stretch, allowed_stretch, slit_side, stretch
from ufrin.core.opening.trapped_air import Air, Cavity, Point3, air_round_master
from ufrin.core.opening.undercuts import locked_ml
from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused

CELLS, FINEST = 96, 224
SPLIT_CELLS = 112
ANALYSED_FACES = 250_000
MOUTH_CELLS = 1.6
BORE_STEP_MM, BORE_NEAR_MM = (
    1.5,
    8.0,
)  # a gate or vent that runs within that of the parting surface is in the way of keys
HOLE_SHARE = 0.004  # of a shadow: smaller holes in it are nothing that rubber closes through
FLAT_SHARE = 0.35  # of the plan's area: what stands on the board is a flat back
NOTHING_SAID = FeatureChecklist(
    flat_back=False, chin=False, hook=False, hole_through=False, thin_part=False, tall_part=False
)


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningContext:
    """What the Opening station goes by besides its own inputs.

    Parameters
    ----------
    form : Form or None
        The master's, as it stands.
    masters : tuple of Master
        All in the box, the job's own first.
    box : Box or None
        Worked out.
    foot_mm, side_mm, over_mm : float
        Of the box: how high the masters stand over its board, and the rubber beside and over them.
    elongation_pct : float or None
        Of the rubber at break.
    shots : int or None
        Casts wanted.
    halves_only : bool
        Whether nothing but the rubber of two halves is wanted.
    """

    form: Form | None
    masters: tuple[Master, ...]
    box: Box | None
    foot_mm: float
    side_mm: float
    over_mm: float
    elongation_pct: float | None
    shots: int | None = None
    halves_only: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Opening:
    """How a mould opens.

    Parameters
    ----------
    style, is_chosen : str, bool
        That counts: chosen, else the best advised.
    advice : tuple of StyleAdvice
        Best first.
    features : MasterFeatures
        What the advice goes by.
    checklist : FeatureChecklist or None
        Where there is no shape.
    stretch, slit, allowed : Stretch or None, Slit or None, float or None
        Of a one-piece mould.
    under : Air or None
        What the rubber leaves round the master, level.
    tilt : Tilt or None
        Of the box while it is poured; None where level is as good.
    split, inside : PartingSurface or None, Polygon or None
        Of a mould in two halves, and its box in plan.
    keys : tuple of Key
        On the flange.
    cast : CastPlan or None
        Gate, vents, and the air of the cast, in coordinates of the mould as it is held.
    cast_turn : (3, 3) float64
        From the master as it stands to the mould as it is held.
    holds : tuple of CastingAttitude
        Ways to hold it, best first; empty where the mould's mouth is on top anyway.
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
    tilt: Tilt | None = None
    parting_surface: PartingSurface | None = None
    inside: Polygon | None = None
    keys: tuple[Key, ...] = ()
    cast: CastPlan | None = None
    cast_turn: Floats = field(default_factory=lambda: np.eye(3))
    holds: tuple[CastingAttitude, ...] = ()
    cavity: Cavity | None = None
    shown: Floats | None = None
    gate_by_hand: bool = False
    vents_by_hand: bool = False
    keys_by_hand: bool = False
    key_findings: tuple[Finding, ...] = ()
    thin_mm: float | None = None
    size_mm: float = 0.0
    is_thinned: bool = False
    refusals: tuple[Refused, ...] = ()

    @property
    def is_parted(self) -> bool:
        """Whether it has two halves."""
        return self.style in PARTED

    @property
    def halves_ml(self) -> tuple[float, float] | None:
        """Rubber of the half that is poured first, over the clay bed, and of the second; None until such a mould was chosen."""
        return (
            (self.parting_surface.upper_ml, self.parting_surface.lower_ml)
            if self.parting_surface and self.is_chosen
            else None
        )


def open_mould(inputs: OpeningInputs, asked: OpeningContext) -> Opening | None:
    """Work the Opening station out.

    Parameters
    ----------
    inputs : OpeningInputs
        As filled in.
    asked : OpeningContext
        What it goes by.

    Returns
    -------
    Opening or None
        None while the master has neither shape nor size.
    """
    if not asked.masters or (asked.halves_only and inputs.style not in PARTED):
        return None
    said, form, own = settled(inputs, OPENING), asked.form, asked.masters[0]
    allowed = allowed_stretch(asked.elongation_pct)
    if asked.halves_only:
        return _halves_only(inputs, said, asked, _judged(NOTHING_SAID, own, asked, allowed))
    if form is None:
        checklist = FeatureChecklist(**{name: bool(said[name]) for name in FeatureChecklist.__slots__})
        features = _judged(checklist, own, asked, allowed)
        advice = advise(features)
        return Opening(
            style=inputs.style or advice[0].style,
            is_chosen=bool(inputs.style),
            advice=advice,
            features=features,
            checklist=checklist,
            allowed=allowed,
        )
    mesh = _analysed(form)
    stretched = form.once("stretch", lambda: stretch(form.drawn))
    features = _seen(form, mesh, stretched, asked, allowed)
    advice = advise(features)
    style = inputs.style or advice[0].style
    refusals: list[Refused] = []
    parted: dict[str, Any] = {}
    if style in PARTED and asked.box is not None:
        try:
            parted = _parted(inputs, said, asked, form, mesh)
        except Refused as refused:
            refusals.append(refused)
    shown = None if inputs.show in (None, "") else form.turn @ _unit(direction_of(inputs.show))
    slit_mm = stretched.slit_mm(allowed if allowed is not None else 1.0)
    slit = (
        Slit(side=inputs.slit_side or slit_side(shown), length_mm=slit_mm) if slit_mm and style not in PARTED else None
    )
    try:
        solid = form.once("voxels", lambda: refined_cells(mesh, CELLS, FINEST)[0])
    except Refused as refused:
        refusals.append(Refused("", refused.why))
        return Opening(
            style=style,
            is_chosen=bool(inputs.style),
            advice=advice,
            features=features,
            stretch=stretched,
            allowed=allowed,
            refusals=tuple(refusals),
        )
    under = form.once("under", lambda: air_round_master(solid, board_mm=0.0))
    limit = said["tilt_limit_deg"]
    tilt = (
        form.once(("tilt", limit), lambda: best_tilt(mesh, limit))
        if any(pocket.matters for pocket in under.pockets)
        else None
    )
    try:
        cast = _cast(inputs, said, form, mesh, style=style, shown=shown, refusals=refusals)
    except Refused as refused:  # held that way, no ray meets it
        cast = {}
        refusals.append(Refused("", refused.why))
    made = Opening(
        style=style,
        is_chosen=bool(inputs.style),
        advice=advice,
        features=features,
        stretch=stretched,
        slit=slit,
        allowed=allowed,
        under=under,
        tilt=tilt,
        shown=shown,
        thin_mm=solid.thin_mm,
        size_mm=max(form.size_mm),
        is_thinned=mesh is not form.mesh,
        refusals=tuple(refusals),
        **parted,
        **cast,
    )
    return _keyed(inputs, said, asked, form, made)


def _analysed(form: Form) -> Mesh:
    # the copy for drawing is at hand, and thinning a large mesh out afresh takes longer than anyone waits for a page
    return form.mesh if len(form.mesh.faces) <= ANALYSED_FACES else form.drawn


def _halves_only(
    inputs: OpeningInputs, said: dict[str, Any], asked: OpeningContext, features: MasterFeatures
) -> Opening | None:
    if asked.form is None or asked.box is None:
        return None
    try:
        parted = _parted(inputs, said, asked, asked.form, _analysed(asked.form))
    except Refused as refused:
        return Opening(style=inputs.style or "", is_chosen=True, advice=(), features=features, refusals=(refused,))
    return Opening(style=inputs.style or "", is_chosen=True, advice=(), features=features, **parted)


def _unit(direction: Point3) -> Floats:
    vector = np.array(direction, dtype=float)
    return np.asarray(vector / np.linalg.norm(vector))


def _judged(said: FeatureChecklist, own: Master, asked: OpeningContext, allowed: float | None) -> MasterFeatures:
    length, width, height = own.length_mm, own.width_mm, own.height_mm
    return MasterFeatures(
        flat_back=said.flat_back,
        stretch=said.stretch,
        allowed=allowed,
        locked_share=said.locked_share,
        best_locked_share=0.15 if said.hook else 0.0,
        hole_through=said.hole_through,
        thin_part=said.thin_part,
        height_to_width=max(height / min(length, width), 3.0 if said.tall_part else 0.0),
        size_mm=(length, width, height),
        volume_ml=own.volume_ml or own.outside_ml * 0.6,
        area_cm2=2 * (length * width + (length + width) * height) / 100,
        count=own.count,
        shots=asked.shots,
        side_mm=asked.side_mm,
        over_mm=asked.over_mm,
        is_judged=True,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Shape:
    """What a shape tells the adviser by itself."""

    flat_share: float
    locked_ml: float
    best_locked_ml: float
    holes: bool


def _shape(form: Form, mesh: Mesh) -> _Shape:
    low, cell, cells = grid(mesh, CELLS)
    cast = [stretches(columns(mesh, axis=axis, low_mm=low, cell_mm=cell, shape=cells)) for axis in (2, 0, 1)]
    first = np.r_[True, cast[0].ray[1:] != cast[0].ray[:-1]]
    on_board = float((cast[0].low_mm[first] < cell * 0.25).sum()) * cell**2
    locked = [locked_ml(one, cell) for one in cast]
    seen = [_seen_along(one, cells, axis) for one, axis in zip(cast, (2, 0, 1), strict=True)]
    through = any(_largest_hole(one) > HOLE_SHARE * one.sum() for one in seen)
    return _Shape(
        flat_share=on_board / max(form.shadow.area, 1e-9),
        locked_ml=locked[0],
        best_locked_ml=min(locked),
        holes=bool(through),
    )


def _largest_hole(seen: Flags) -> int:
    labels, count = ndimage.label(ndimage.binary_fill_holes(seen) & ~seen)
    return int(np.bincount(labels.ravel())[1:].max()) if count else 0


def _seen_along(cast: Stretches, cells: tuple[int, int, int], axis: int) -> Flags:
    shape = [size for index, size in enumerate(cells) if index != axis]
    hit = np.zeros(shape[0] * shape[1], dtype=bool)
    hit[cast.ray] = True
    return hit.reshape(shape[0], shape[1])


def _seen(form: Form, mesh: Mesh, stretched: Stretch, asked: OpeningContext, allowed: float | None) -> MasterFeatures:
    shape = form.once("shape", lambda: _shape(form, mesh))
    length, width, height = form.size_mm
    flat = shape.flat_share > FLAT_SHARE
    return MasterFeatures(
        flat_back=flat,
        stretch=stretched.needed,
        allowed=allowed,
        locked_share=shape.locked_ml / form.volume_ml,
        best_locked_share=shape.best_locked_ml / form.volume_ml,
        hole_through=shape.holes,
        thin_part=False,
        height_to_width=height / max(min(length, width), 1e-9),
        size_mm=(length, width, height),
        volume_ml=form.volume_ml,
        area_cm2=form.area_cm2,
        count=asked.masters[0].count,
        shots=asked.shots,
        side_mm=asked.side_mm,
        over_mm=asked.over_mm,
    )


def _parted(
    inputs: OpeningInputs, said: dict[str, Any], asked: OpeningContext, form: Form, mesh: Mesh
) -> dict[str, Any]:
    box = asked.box
    if box is None:
        return {}
    inside = box.inside_polygon()
    places = tuple(
        (place.kind, round(place.x_mm, 6), round(place.y_mm, 6), place.turned) for place in box.layout.places
    )
    others = tuple(id(master.form) for master in asked.masters[1:])
    key = (
        "split",
        shapely.to_wkb(inside),
        places,
        others,
        asked.foot_mm,
        asked.over_mm,
        said["slack_mm"],
        bool(inputs.style),
    )

    def make() -> PartingSurface:
        copies, volume = [], 0.0
        for kind, x, y, turned in places:
            other = asked.masters[kind].form
            if other is None:
                raise Refused(
                    "style",
                    "Another master in this box has no shape to part. Give it a mesh or a stand-in, or take "
                    "it out of the box.",
                )
            whole = mesh if kind == 0 else other.mesh
            copies.append(whole.moved(QUARTER if turned else np.eye(3), np.array([x, y, asked.foot_mm])))
            volume += other.volume_ml
        scene = together(copies) if len(copies) > 1 else copies[0]
        cells = int(SPLIT_CELLS * max(1.0, float(scene.extents_mm.max()) / float(mesh.extents_mm.max()) * 0.6))
        # while it is only advised, the box knows nothing of a second half
        under = asked.foot_mm if inputs.style else max(asked.foot_mm, asked.over_mm)
        alone = len(places) == 1 and not places[0][3] and mesh is form.mesh
        return parting_surface(
            scene,
            inside,
            under_mm=under,
            over_mm=asked.over_mm,
            cells=min(cells, 260),
            slack_mm=said["slack_mm"],
            volume_ml=volume,
            seen=affinity.translate(form.shadow, places[0][1], places[0][2]) if alone else None,
        )

    return {"parting_surface": form.once(key, make), "inside": inside}


def _keyed(inputs: OpeningInputs, said: dict[str, Any], asked: OpeningContext, form: Form, made: Opening) -> Opening:
    parted, inside, box = made.parting_surface, made.inside, asked.box
    if parted is None or inside is None or box is None:
        return made
    spots = _bores(
        made, parted, [(place.x_mm, place.y_mm) for place in box.layout.places if place.kind == 0], asked.foot_mm
    )

    def with_keys() -> tuple[tuple[Key, ...], tuple[Finding, ...]]:
        free, size = flange(inside, parted.seen, spots), said["key_mm"] or key_size_mm(inside, parted.seen)
        keys = place_keys(free, inside, size)
        if inputs.keys:
            placed = enumerate(pairs(inputs.keys))
            keys = tuple(
                Key(x_mm=x, y_mm=y, diameter_mm=size * (FIRST_LARGER if number == 0 else 1))
                for number, (x, y) in placed
            )
        return keys, check_keys(keys, inside, free, parted)

    keys, told = form.once(("keys", id(parted), spots, inputs.keys, said["key_mm"]), with_keys)
    return replace(made, keys=keys, keys_by_hand=bool(inputs.keys), key_findings=told)


def _bores(
    made: Opening, parted: PartingSurface, places: list[tuple[float, float]], foot_mm: float
) -> tuple[tuple[float, float], ...]:
    # where gates and vents run near the parting surface, in every cavity of the master
    if made.cast is None:
        return ()
    along = np.arange(
        0.0, float(np.ptp(np.array(parted.area_mm2.shape)) + sum(parted.area_mm2.shape)) * parted.cell_mm, BORE_STEP_MM
    )
    spots = []
    for riser in (*made.cast.gates, *made.cast.vents):
        way = np.array(riser.way or (0.0, 0.0, 1.0)) @ made.cast_turn
        line = np.array(riser.at_mm) @ made.cast_turn + along[:, None] * way
        for x, y in places:
            run = line + np.array([x, y, foot_mm])
            near = np.abs(run[:, 2] - parted.at(run[:, :2])) < BORE_NEAR_MM
            spots += [(round(float(a), 2), round(float(b), 2)) for a, b in run[near, :2]]
    return tuple(spots)


def _cast(
    inputs: OpeningInputs,
    said: dict[str, Any],
    form: Form,
    mesh: Mesh,
    *,
    style: str,
    shown: Floats | None,
    refusals: list[Refused],
) -> dict[str, Any]:
    shown_key = None if shown is None else tuple(np.round(shown, 6))
    mouth = style in ONE_PIECE
    holds: tuple[CastingAttitude, ...] = ()
    if inputs.cast_up:
        up = form.turn @ _unit(direction_of(inputs.cast_up))
    elif mouth:
        up = np.array([0.0, 0.0, -1.0])
    else:
        holds = form.once(("holds", shown_key), lambda: casting_attitudes(mesh, shown))
        up = np.array(holds[0].up, dtype=float)
    turn = turn_up((float(up[0]), float(up[1]), float(up[2])))
    turn_key = tuple(np.round(turn.ravel(), 6))
    cavity = form.once(
        ("cavity", turn_key), lambda: Cavity(solid=refined_cells(mesh.moved(turn), PLAN_CELLS, FINEST)[0])
    )

    def placed(kept: str | None) -> tuple[Point3, ...] | None:
        if not kept:
            return None
        points = form.to_standing_mm(np.array(triples(kept)).reshape(-1, 3)) @ turn.T
        return tuple((float(x), float(y), float(z)) for x, y, z in points)

    def plan(gates: tuple[Point3, ...] | None, vents: tuple[Point3, ...] | None) -> CastPlan:
        key = ("cast", turn_key, shown_key, gates, vents, mouth and gates is None, said["worth_ml"])
        held_shown = None if shown is None else turn @ shown

        def make() -> CastPlan:
            open_mouth = _mouth(cavity, turn) if mouth and gates is None else None
            return plan_cast(cavity, held_shown, gates=gates, vents=vents, mouth=open_mouth, worth_ml=said["worth_ml"])

        return form.once(key, make)

    gates, vents = placed(inputs.gates), placed(inputs.vents)
    try:
        cast = plan(gates, vents)
    except Refused as refused:
        refusals.append(refused)
        cast = plan(None, None) if refused.field == "gates" else plan(gates, None)
    return {
        "cast": cast,
        "cast_turn": turn,
        "holds": holds,
        "cavity": cavity,
        "gate_by_hand": gates is not None,
        "vents_by_hand": vents is not None,
    }


def _mouth(cavity: Cavity, turn: Floats) -> Flags:
    # the foot of the master is where a one-piece mould is open
    room = cavity.solid
    nz, nx, ny = room.solid.shape
    axes = [room.low_mm[axis] + (np.arange(size) + 0.5) * room.cell_mm for axis, size in ((2, nz), (0, nx), (1, ny))]
    z, x, y = np.meshgrid(*axes, indexing="ij", sparse=True)
    standing = turn[0, 2] * x + turn[1, 2] * y + turn[2, 2] * z
    low = float(standing[room.solid].min()) if room.solid.any() else 0.0
    return np.asarray(room.solid & (standing < low + MOUTH_CELLS * room.cell_mm))
