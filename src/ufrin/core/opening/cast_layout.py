"""How the mould of a form is held for casting, with its gate and vents as they were placed or as they are proposed."""

from dataclasses import dataclass, replace

import numpy as np

from ufrin.core.master.attitudes import turn_up
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.cells import refined_cells
from ufrin.core.mesh.triangles import Flags, Floats
from ufrin.core.opening.casting_attitudes import CastingAttitude, casting_attitudes
from ufrin.core.opening.form_analysis import FINEST_CELLS, analysed_mesh
from ufrin.core.opening.gates_and_vents import PLAN_CELLS, CastPlan, plan_cast
from ufrin.core.opening.trapped_air import Cavity, Point3
from ufrin.errors import Refused

MOUTH_CELLS = 1.6
UPSIDE_DOWN: Point3 = (0.0, 0.0, -1.0)
Points = tuple[Point3, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class CastWishes:
    """What the maker wants of the cast, in the coordinates of the form as it stands.

    Parameters
    ----------
    up : (x, y, z) or None
        Upright while it is cast; None leaves it to the ranking.
    shown : (x, y, z) or None
        Where the show face looks to, of unit length.
    gates, vents : tuple of (x, y, z) or None
        Placed by hand, in mm; None lets them be proposed, an empty tuple means none.
    has_mouth : bool
        Whether the mould is open at the foot of the master anyway.
    worth_ml : float
        The volume from which a pocket of air is worth a vent.
    """

    up: Point3 | None
    shown: Point3 | None
    gates: Points | None
    vents: Points | None
    has_mouth: bool
    worth_ml: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class CastLayout:
    """A mould as it is held for casting.

    Parameters
    ----------
    cast : CastPlan
        Gate, vents and the air that stays, in coordinates of the mould as it is held.
    turn : (3, 3) float64
        From the form as it stands to the mould as it is held.
    cavity : Cavity
        As it is held.
    attitudes : tuple of CastingAttitude
        The ways to hold it, best first; empty where none had to be ranked.
    refused : tuple of Refused
        Why gates or vents that were placed by hand do not count.
    """

    cast: CastPlan
    turn: Floats
    cavity: Cavity
    attitudes: tuple[CastingAttitude, ...]
    refused: tuple[Refused, ...] = ()


def cast_layout(form: Form, wishes: CastWishes) -> CastLayout:
    """Lay out the cast of a form.

    Parameters
    ----------
    form : Form
        Of the master.
    wishes : CastWishes
        What was placed, and where the show face looks.

    Returns
    -------
    CastLayout
        Gates or vents that lie away from the cavity are left out, and the refusal says so.

    Raises
    ------
    Refused
        When no ray meets the form, held that way.
    """
    attitudes: tuple[CastingAttitude, ...] = ()
    up = wishes.up
    if up is None and wishes.has_mouth:
        up = UPSIDE_DOWN
    if up is None:
        attitudes = _attitudes(form, wishes.shown)
        up = attitudes[0].up
    cast, refused = _checked_cast(form, up, wishes)
    return CastLayout(cast=cast, turn=turn_up(up), cavity=_cavity(form, up), attitudes=attitudes, refused=refused)


def _checked_cast(form: Form, up: Point3, wishes: CastWishes) -> tuple[CastPlan, tuple[Refused, ...]]:
    try:
        return _cast(form, up, wishes), ()
    except Refused as refused:
        gates = None if refused.field == "gates" else wishes.gates
        return _cast(form, up, replace(wishes, gates=gates, vents=None)), (refused,)


@kept_by_form(48)
def _attitudes(form: Form, shown: Point3 | None) -> tuple[CastingAttitude, ...]:
    return casting_attitudes(analysed_mesh(form), None if shown is None else np.array(shown))


@kept_by_form(48)
def _cavity(form: Form, up: Point3) -> Cavity:
    return Cavity(solid=refined_cells(analysed_mesh(form).moved(turn_up(up)), PLAN_CELLS, FINEST_CELLS)[0])


@kept_by_form(96)
def _cast(form: Form, up: Point3, wishes: CastWishes) -> CastPlan:
    turn, cavity = turn_up(up), _cavity(form, up)

    def held(points: Points | None) -> Points | None:
        if points is None:
            return None
        return tuple((float(x), float(y), float(z)) for x, y, z in np.array(points).reshape(-1, 3) @ turn.T)

    return plan_cast(
        cavity,
        None if wishes.shown is None else turn @ np.array(wishes.shown),
        gates=held(wishes.gates),
        vents=held(wishes.vents),
        mouth=_mouth(cavity, turn) if wishes.has_mouth and wishes.gates is None else None,
        worth_ml=wishes.worth_ml,
    )


def _mouth(cavity: Cavity, turn: Floats) -> Flags:
    # a one-piece mould is open at the foot of the master
    room = cavity.solid
    nz, nx, ny = room.solid.shape
    axes = [room.low_mm[axis] + (np.arange(size) + 0.5) * room.cell_mm for axis, size in ((2, nz), (0, nx), (1, ny))]
    z, x, y = np.meshgrid(*axes, indexing="ij", sparse=True)
    standing = turn[0, 2] * x + turn[1, 2] * y + turn[2, 2] * z
    low = float(standing[room.solid].min()) if room.solid.any() else 0.0
    return np.asarray(room.solid & (standing < low + MOUTH_CELLS * room.cell_mm))
