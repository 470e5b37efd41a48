"""Gates and vents: where the cast goes in and where its air gets out."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import cos, pi, radians, sin

import numpy as np
from scipy import ndimage

from ufrin.core.inputs.usual import USUAL
from ufrin.core.mesh.cells import Cells
from ufrin.core.mesh.triangles import Flags, Floats
from ufrin.core.opening.ranking_costs import COSTS
from ufrin.core.opening.show_face import ON_SHOW_COSINE
from ufrin.core.opening.trapped_air import Air, Cavity, Pocket, Point3
from ufrin.errors import Refused

MOST_VENTS = 12
WORTH_A_VENT_ML = USUAL["opening"]["worth_ml"]
PLAN_CELLS = 80


@dataclass(frozen=True, slots=True, kw_only=True)
class Riser:
    """A gate or a vent: where it meets the cavity, and which way it leads out.

    The way is None where every straight one is blocked; ``on_show`` is whether it would be seen.
    """

    at_mm: Point3
    way: Point3 | None
    on_show: bool
    by_hand: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class CastPlan:
    """A mould held one way, its gate and vents, and the air it keeps with them.

    Parameters
    ----------
    gates, vents : tuple of Riser
        In the coordinates of the mould as it is held, z upright.
    air : Air
        With all of them open.
    bare_ml : float
        Trapped with the gate alone.
    """

    gates: tuple[Riser, ...]
    vents: tuple[Riser, ...]
    air: Air
    bare_ml: float

    @property
    def left(self) -> tuple[Pocket, ...]:
        """Pockets that still matter."""
        return tuple(pocket for pocket in self.air.pockets if pocket.matters)

    @property
    def cost(self) -> float:
        """Lower is better: air left, vents, and holes on the show face."""
        shown = sum(riser.on_show for riser in (*self.gates, *self.vents))
        left_ml = sum(pocket.ml for pocket in self.left if pocket.ml >= WORTH_A_VENT_ML)
        return casting_cost(left_ml, len(self.vents), shown)


def casting_cost(left_ml: float, vents: int, on_show: int) -> float:
    """Return the cost of holding a mould one way while it is cast in.

    Parameters
    ----------
    left_ml : float
        Air that stays.
    vents, on_show : int
        Vents, and holes on the show face.

    Returns
    -------
    float
        Only for comparison; lower is better.
    """
    costs = COSTS["casting"]
    return costs["air_left"] * left_ml + costs["vent"] * vents + costs["on_show"] * on_show


def plan_cast(
    cavity: Cavity,
    shown: Floats | None,
    *,
    gates: Sequence[Point3] | None = None,
    vents: Sequence[Point3] | None = None,
    mouth: Flags | None = None,
    worth_ml: float = WORTH_A_VENT_ML,
) -> CastPlan:
    """Choose the gate and the fewest vents that free every pocket worth one; those placed by hand are kept and checked.

    Parameters
    ----------
    cavity : Cavity
        The mould as it is held.
    shown : (3,) float or None
        Where the show face looks to.
    gates, vents : sequence of (x, y, z), optional
        Placed by hand; None lets them be chosen, an empty one means none.
    mouth : (nz, nx, ny) bool, optional
        Cells at which a one-piece mould is open anyway; it needs no gate then.
    worth_ml : float, optional
        Smaller pockets get no vent.

    Returns
    -------
    CastPlan
        Vents are at the peaks of pockets, away from the show face where the peak leaves a choice.

    Raises
    ------
    Refused
        For a gate or vent away from the cavity.
    """
    if mouth is not None:
        return _with_gates(cavity, shown, [], vents, worth_ml=worth_ml, mouth=mouth)
    if gates is not None:
        by_hand = _with_gates(cavity, shown, [np.array(gate, dtype=float) for gate in gates], vents, worth_ml=worth_ml)
        return replace(by_hand, gates=tuple(replace(gate, by_hand=True) for gate in by_hand.gates))
    return min(
        (_with_gates(cavity, shown, [point], vents, worth_ml=worth_ml) for point in _gate_points(cavity, shown)),
        key=lambda plan: plan.cost,
    )


def _with_gates(
    cavity: Cavity,
    shown: Floats | None,
    gates: list[Floats],
    vents: Sequence[Point3] | None,
    *,
    worth_ml: float,
    mouth: Flags | None = None,
) -> CastPlan:
    outlets = (
        cavity.outlets(np.array(gates)) if gates else np.zeros_like(cavity.solid.solid) if mouth is None else mouth
    )
    bare = air = cavity.air(outlets)
    chosen: list[Floats] = []
    if vents is not None:
        chosen = [np.array(vent, dtype=float) for vent in vents]
        if chosen:
            air = cavity.air(outlets | _vent_cells(cavity, chosen))
    else:
        while len(chosen) < MOST_VENTS:
            worth = [pocket for pocket in air.pockets if pocket.ml >= worth_ml]
            point = next(
                (
                    found
                    for pocket in worth
                    if (found := _vent_point(cavity, air, pocket, shown, open_already=outlets, worth_ml=worth_ml))
                    is not None
                ),
                None,
            )
            if point is None:
                break
            chosen.append(point)
            outlets = outlets | cavity.outlets(point)
            air = cavity.air(outlets)
    return CastPlan(
        gates=tuple(_riser(cavity, point, shown, by_hand=False) for point in gates),
        vents=tuple(_riser(cavity, point, shown, by_hand=vents is not None) for point in chosen),
        air=air,
        bare_ml=bare.trapped_ml,
    )


def _vent_cells(cavity: Cavity, vents: list[Floats]) -> Flags:
    try:
        return cavity.outlets(np.array(vents))
    except Refused as refused:
        raise Refused("vents", refused.why) from None


def _vent_point(
    cavity: Cavity, air: Air, pocket: Pocket, shown: Floats | None, *, open_already: Flags, worth_ml: float
) -> Floats | None:
    # any place near the top of the pocket will do, as long as the air above it is negligible
    (own, begin), room = air.cells(pocket), cavity.solid
    cell_ml, per_layer = room.cell_mm**3 / 1000, own.sum(axis=(1, 2))
    layers = len(per_layer)
    above = np.cumsum(per_layer[::-1])[::-1] - per_layer
    low = next((z for z in range(layers) if above[z] * cell_ml < worth_ml / 4), layers - 1)
    at = np.argwhere(own[low:]) + [low, 0, 0] + begin
    # on the surface: the cell above is no cavity
    top = np.minimum(at[:, 0] + 1, room.solid.shape[0] - 1)
    at = at[~room.solid[top, at[:, 1], at[:, 2]]]
    if not len(at):
        return np.array(pocket.peak_mm, dtype=float)
    if open_already[tuple(at.T)].any():
        return None
    points = _surface(room, at)
    worst = _shows(cavity, at, shown)
    away = np.linalg.norm(points - np.array(pocket.peak_mm), axis=1) / room.cell_mm
    return np.asarray(points[int(np.argmin(away + COSTS["vent"]["on_show"] * worst))])


def _surface(room: Cells, at: np.ndarray) -> Floats:
    # the middle of the top face of each cell
    return np.asarray(room.middle_mm(at) + np.array([0, 0, 0.5 * room.cell_mm]))


def _shows(cavity: Cavity, at: np.ndarray, shown: Floats | None) -> Flags:
    # whether cells lie on the show face: the cavity's surface there faces the same way
    if shown is None:
        return np.zeros(len(at), dtype=bool)
    return np.asarray(_outward(cavity, at) @ shown > ON_SHOW_COSINE)


def _outward(cavity: Cavity, at: np.ndarray) -> Floats:
    solid = np.pad(cavity.solid.solid, 3)
    offsets = np.argwhere(np.ones((5, 5, 5), dtype=bool)) - 2
    around = at[:, None, :] + 3 + offsets[None]
    filled = solid[around[..., 0], around[..., 1], around[..., 2]]
    out = -(filled[..., None] * offsets[None]).sum(axis=1).astype(float)[:, [1, 2, 0]]
    length = np.linalg.norm(out, axis=1, keepdims=True)
    return np.asarray(out / np.maximum(length, 1e-9))


def _gate_points(cavity: Cavity, shown: Floats | None) -> list[Floats]:
    # upper surfaces, thick underneath, high up, off the show face; a few that lie apart
    room = cavity.solid
    top = room.solid & ~np.roll(room.solid, -1, axis=0)
    at = np.argwhere(top)
    thick = np.minimum(ndimage.distance_transform_cdt(room.solid, metric="chessboard"), 12)
    inner = ndimage.maximum_filter(thick, size=(5, 3, 3), origin=(2, 0, 0))[tuple(at.T)].astype(float)
    height = at[:, 0] / max(1, room.solid.shape[0] - 1)
    costs = COSTS["gate"]
    thickness = inner / max(1.0, float(inner.max()))
    score = costs["height"] * height + costs["thick"] * thickness - costs["on_show"] * _shows(cavity, at, shown)
    order = np.argsort(-score)
    found: list[np.ndarray] = []
    least = costs["apart"] * max(room.solid.shape)
    for index in order:
        if all(np.linalg.norm(at[index] - one) > least for one in found):
            found.append(at[index])
        if len(found) == 4:
            break
    return list(_surface(room, np.array(found)))


def _riser(cavity: Cavity, point: Floats, shown: Floats | None, *, by_hand: bool) -> Riser:
    room = cavity.solid
    index = np.clip(room.index_of(point - np.array([0, 0, 0.5 * room.cell_mm])), 0, np.array(room.solid.shape) - 1)
    on_show = bool(_shows(cavity, index[None], shown)[0])
    return Riser(
        at_mm=(float(point[0]), float(point[1]), float(point[2])),
        way=way_out(cavity, point),
        on_show=on_show,
        by_hand=by_hand,
    )


def way_out(cavity: Cavity, spot_mm: Floats) -> Point3 | None:
    """Find a straight way out of the mould that does not run through the cavity again, the steeper the better.

    Parameters
    ----------
    cavity : Cavity
        The mould as it is held.
    spot_mm : (3,) float
        Where it begins.

    Returns
    -------
    (x, y, z) or None
        Of unit length, never flatter than 30 degrees; None where there is none.
    """
    room = cavity.solid
    reach = float(np.linalg.norm(room.solid.shape)) * room.cell_mm
    steps = np.arange(2.0, reach / room.cell_mm, 0.5)[:, None] * room.cell_mm
    for tilt in (0, 15, 30, 45, 60):
        for turn in np.arange(8 if tilt else 1) * pi / 4:
            way = np.array([sin(radians(tilt)) * cos(turn), sin(radians(tilt)) * sin(turn), cos(radians(tilt))])
            at = room.index_of(spot_mm + steps * way)
            known = ((at >= 0) & (at < np.array(room.solid.shape))).all(axis=1)
            if not room.solid[tuple(at[known].T)].any():
                return (float(way[0]), float(way[1]), float(way[2]))
    return None
