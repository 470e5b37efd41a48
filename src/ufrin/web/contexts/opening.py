"""What the templates of the Opening station receive: choices in words, drawings, and lists of what was placed."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from ufrin.actions.job.open_job import OpenJob
from ufrin.core.job.mould_channels import channels_of
from ufrin.core.job.opening_findings import compass
from ufrin.core.job.opening_station import Opening
from ufrin.core.job.pulls_compared import attitude_taken
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.materials.kinds import POURS
from ufrin.core.mesh.line_work import reduced
from ufrin.core.mesh.mesh_filling import blocks
from ufrin.core.mesh.triangles import Floats, Mesh, Whole, normals
from ufrin.core.opening.casting_attitudes import CastingAttitude
from ufrin.core.opening.feature_checklist import checklist_figures, places_of_air
from ufrin.core.opening.form_analysis import cells_of
from ufrin.core.opening.gates_and_vents import Riser
from ufrin.core.opening.mould_styles import DECIDING, ONE_PIECE, PARTED, WHAT
from ufrin.core.opening.pouring_channels import FIGURES as CHANNEL_FIGURES
from ufrin.core.opening.pull_ranking import direction_text
from ufrin.core.opening.ranking_costs import DECIDING as RANKING_FIGURES
from ufrin.core.opening.split_line import seam_mm
from ufrin.core.opening.trapped_air import Air, Pocket
from ufrin.core.opening.undercuts import locked_cells
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.scenes import cast_scene, mould_scene
from ufrin.web.drawings.casting_attitude import cast_views
from ufrin.web.drawings.opening import mould_views
from ufrin.web.frame.wording_in_units import UnitFormatter

SHOWS = (
    (Text("the front"), (0.0, -1.0, 0.0)),
    (Text("the back"), (0.0, 1.0, 0.0)),
    (Text("the left"), (-1.0, 0.0, 0.0)),
    (Text("the right"), (1.0, 0.0, 0.0)),
    (Text("up"), (0.0, 0.0, 1.0)),
    (Text("down"), (0.0, 0.0, -1.0)),
)
MOST_POCKET_FACES = 12_000
MOST_SHOWN = 24  # pockets of air
SCENE_FACES = 9_000


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedHole:
    """A gate or vent in the list beside the drawing."""

    kind: str
    number: int
    name: str
    riser: Riser


def opening_context(opened: OpenJob, say: UnitFormatter) -> dict[str, Any]:
    """Return what the templates of the Opening station receive in addition.

    Parameters
    ----------
    opened : OpenJob
        Worked out.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    dict
        By the names in the templates.
    """
    made, form = opened.plan.opening, opened.plan.master.form
    scene, cast = mould_scene(opened), cast_scene(opened)
    return {
        "opens": made,
        "what_is": WHAT,
        "one_piece": made is not None and made.style in ONE_PIECE,
        "shows": _shows(form, opened.job.opening.show),
        "mould_views": mould_views(scene, say.plain) if scene else (),
        "cast_views": cast_views(cast, say.plain) if cast else (),
        "holes": _holes(made),
        "pockets": list(made.cast.left) if made and made.cast else [],
        "rubber_pockets": [pocket for pocket in made.under.pockets if pocket.matters] if made and made.under else [],
        "attitudes": [(one, _own_up(form, one)) for one in made.attitudes[:6]] if made and form else [],
        "tilt_side": compass(made.tilt.towards_deg) if made and made.tilt else "",
        "seam_mm": seam_mm(made.parting_surface.seams) if made and made.parting_surface else 0.0,
        "seam_shown_mm": seam_mm(made.parting_surface.seams, made.shown)
        if made and made.parting_surface and made.shown is not None
        else 0.0,
        "channel_figures": CHANNEL_FIGURES,
        "channels": channels_of(opened.plan, opened.job.checks.cast_material),
        "deciding": {"kinds": DECIDING, **RANKING_FIGURES, "checklist": checklist_figures()},
        "casts_of": POURS.get(opened.job.checks.cast_material or "", ""),
        "is_held_so": attitude_taken(made) if made else None,
        "is_locked": bool(scene and any(scene.locked.values())),
        "air_places": places_of_air(made.checklist) if made and made.checklist else (),
    }


def _shows(form: Form | None, kept: str | None) -> list[tuple[str, str]]:
    # the six straight attitudes as the master stands, in its own coordinates, and the kept one where it is none of them
    if form is None:
        return []
    offered = [(direction_text(tuple(np.array(way) @ form.turn)), label) for label, way in SHOWS]
    known = {value for value, _ in offered}
    return [
        ("", Text("nothing is marked")),
        *offered,
        *([(kept, Text("as marked: {kept}", kept=kept))] if kept and kept not in known else []),
    ]


def _own_up(form: Form, one: CastingAttitude) -> str:
    x, y, z = np.array(one.up) @ form.turn
    length = float(np.hypot(np.hypot(x, y), z))
    return direction_text((float(x) / length, float(y) / length, float(z) / length))


def _holes(made: Opening | None) -> list[PlacedHole]:
    if made is None or made.cast is None:
        return []
    gates = [
        PlacedHole(
            kind="gate",
            number=number,
            name=Text("Gate") if len(made.cast.gates) == 1 else Text("Gate {number}", number=number),
            riser=riser,
        )
        for number, riser in enumerate(made.cast.gates, 1)
    ]
    return gates + [
        PlacedHole(kind="vent", number=number, name=Text("Vent {number}", number=number), riser=riser)
        for number, riser in enumerate(made.cast.vents, 1)
    ]


def turning_scene(opened: OpenJob) -> dict[str, Any]:
    """Return the mould as the turning view draws it.

    Parameters
    ----------
    opened : OpenJob
        Worked out, its master with a form.

    Returns
    -------
    dict
        Plain numbers, in mm: the master's triangles with what is locked painted, the box, the parting surface,
        keys, gate, vents, and air in the rubber and in the cast; empty without a form.
    """
    made, form = opened.plan.opening, opened.plan.master.form
    scene, cast = mould_scene(opened), cast_scene(opened)
    if made is None or form is None or scene is None or cast is None or made.cast is None or made.cavity is None:
        return {}
    drawn = _thinned(form)
    west, south, east, north = scene.inside.bounds
    _, x, y, _ = scene.places[0]
    shift = np.array([x, y, scene.foot_mm])
    return {
        "master": _plain_mesh(drawn.moved(np.eye(3), shift)),
        "painted": _painted(form, under_too=made.style not in PARTED),
        "box": {"low": [west, south, scene.floor_mm], "high": [east, north, scene.fill_mm]},
        "surface": _surface(made),
        "keys": [[key.x_mm, key.y_mm, key.diameter_mm] for key in made.keys],
        "turn": made.cast_turn.round(6).tolist(),
        "shift": shift.tolist(),
        "others": [
            [x, y, scene.foot_mm, 90 if turned else 0] for other, x, y, turned in scene.places[1:60] if other == form
        ],
        "gates": [_plain_riser(riser) for riser in made.cast.gates],
        "vents": [_plain_riser(riser) for riser in made.cast.vents],
        "cast_air": [_plain_mesh(_block(made.cast.air, pocket)) for pocket in made.cast.left[:MOST_SHOWN]],
        "rubber_air": _rubber_air(made.under) if made.under and made.parting_surface is None else [],
        "cast_levels": [float(made.cavity.solid.upright.low_mm.min()), made.cavity.top_mm],
    }


def _rubber_air(air: Air) -> list[dict[str, Any]]:
    return [_plain_mesh(_block(air, pocket)) for pocket in air.pockets[:MOST_SHOWN] if pocket.matters]


def _plain_mesh(mesh: Mesh) -> dict[str, Any]:
    return {"points": mesh.vertices_mm.round(2).ravel().tolist(), "faces": mesh.faces.ravel().tolist()}


def _plain_riser(riser: Riser) -> dict[str, Any]:
    return {"at": list(riser.at_mm), "way": list(riser.way or (0.0, 0.0, 1.0))}


def _block(air: Air, pocket: Pocket) -> Mesh:
    own, begin = air.cells(pocket)
    room = air.room
    step = 1
    while own[::step, ::step, ::step].sum() > MOST_POCKET_FACES:
        step += 1
    cells = np.moveaxis(own[::step, ::step, ::step], 0, 2)
    if not cells.any():
        cells = np.moveaxis(own, 0, 2)
        step = 1
    return blocks(cells, room.low_mm + begin[[1, 2, 0]] * room.cell_mm, room.cell_mm * step)


def _surface(made: Opening) -> dict[str, Any] | None:
    parted = made.parting_surface
    if parted is None:
        return None
    step = max(1, max(parted.height_mm.shape) // 70)
    heights, inside = parted.height_mm[::step, ::step], parted.inside[::step, ::step]
    return {
        "low": (parted.low_mm + parted.cell_mm / 2).tolist(),
        "step": parted.cell_mm * step,
        "shape": list(heights.shape),
        "heights": heights.round(2).ravel().tolist(),
        "inside": inside.astype(int).ravel().tolist(),
    }


@kept_by_form(24)
def _thinned(form: Form) -> Mesh:
    return reduced(form.drawn, SCENE_FACES)


@kept_by_form(24)
def _painted(form: Form, *, under_too: bool) -> list[int]:
    # corners of the master beside locked rubber: a step along the normal ends in it
    drawn = _thinned(form)
    try:
        solid = cells_of(form)
    except Refused:  # no ray meets it
        return []
    mask = locked_cells(solid, under_too=under_too)
    outward = _corner_normals(drawn)
    index = solid.index_of(drawn.vertices_mm + outward * solid.cell_mm * 1.6)
    known = ((index >= 0) & (index < np.array(mask.shape))).all(axis=1) & (
        index[:, 0] * solid.cell_mm + solid.low_mm[2] > -solid.cell_mm
    )
    hit = np.zeros(len(index), dtype=bool)
    hit[known] = mask[tuple(index[known].T)]
    return hit.astype(int).tolist()


def _corner_normals(mesh: Mesh) -> Floats:
    summed = np.zeros((len(mesh.vertices_mm), 3))
    outward = normals(mesh)
    for corner in range(3):
        own: Whole = mesh.faces[:, corner]
        np.add.at(summed, own, outward)
    return np.asarray(summed / np.maximum(np.linalg.norm(summed, axis=1, keepdims=True), 1e-12))
