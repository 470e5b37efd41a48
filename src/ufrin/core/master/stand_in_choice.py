"""The stand-in shapes that a maker may choose, what each is made from, and the form that one makes."""

from collections.abc import Callable, Mapping
from threading import Condition

from cachetools import LRUCache, cached

from ufrin.core.inputs.master import MasterInputs, SettledMaster
from ufrin.core.master.displacement import MeasuredVolume
from ufrin.core.master.master_form import Form, stand_form
from ufrin.core.master.stand_ins import ball, block, cone, fitted, ring, slab, turned
from ufrin.core.master.turned_profiles import direction_vector, profile_points
from ufrin.core.mesh.triangles import Mesh

# what each stand-in is made from; a relief may be left out
STAND_IN_NEEDS: Mapping[str, tuple[str, ...]] = {
    "block": ("length_mm", "width_mm", "height_mm"),
    "drum": ("length_mm", "height_mm"),
    "cone": ("length_mm", "top_mm", "height_mm"),
    "ball": ("length_mm",),
    "ring": ("length_mm", "ring_mm"),
    "slab": ("length_mm", "width_mm", "height_mm", "slab_base_mm", "relief_ml"),
    "profile": ("profile",),
    "fitted": ("length_mm", "width_mm", "height_mm"),
}
MAY_BE_NONE = frozenset({"relief_ml"})
MAY_BE_0 = frozenset({"top_mm"})  # a cone comes to a point


def stand_in_mesh(inputs: MasterInputs, measured: MeasuredVolume | None) -> Mesh | None:
    """Make a master's stand-in as it was described, before it is turned.

    Parameters
    ----------
    inputs : MasterInputs
        With the stand-in chosen.
    measured : MeasuredVolume or None
        The displacement, for a body fitted to it.

    Returns
    -------
    Mesh or None
        None while something that it needs is missing.

    Raises
    ------
    Refused
        When its figures contradict each other.
    """
    settled, kind = inputs.settled(), inputs.standin or ""
    if kind not in _SHAPES or (kind == "fitted" and measured is None):
        return None
    for key in STAND_IN_NEEDS[kind]:
        value = getattr(settled, key)
        if key not in MAY_BE_NONE and (value is None or (not value and key not in MAY_BE_0)):
            return None
    return _SHAPES[kind](settled, measured.volume_ml if measured else 0.0)


def _size(of: SettledMaster) -> tuple[float, float, float]:
    return of.length_mm or 0.0, of.width_mm or 0.0, of.height_mm or 0.0


_SHAPES: Mapping[str, Callable[[SettledMaster, float], Mesh]] = {
    "block": lambda of, _: block(*_size(of)),
    "drum": lambda of, _: cone(_size(of)[0], _size(of)[0], _size(of)[2]),
    "cone": lambda of, _: cone(_size(of)[0], of.top_mm, _size(of)[2]),
    "ball": lambda of, _: ball(_size(of)[0]),
    "ring": lambda of, _: ring(_size(of)[0], of.ring_mm or 0.0),
    "slab": lambda of, _: slab(*_size(of), of.slab_base_mm or 0.0, of.relief_ml),
    "profile": lambda of, _: turned(profile_points(of.profile)),
    "fitted": lambda of, volume_ml: fitted(*_size(of), volume_ml),
}

# the widest of what is turned about an upright axis
_ACROSS: Mapping[str, Callable[[SettledMaster], float]] = {
    "drum": lambda of: of.length_mm or 0.0,
    "cone": lambda of: max(of.length_mm or 0.0, of.top_mm),
    "ball": lambda of: of.length_mm or 0.0,
    "ring": lambda of: of.length_mm or 0.0,
    "profile": lambda of: max(diameter for _, diameter in profile_points(of.profile)),
}


@cached(LRUCache(64), condition=Condition())  # every page of a job asks for the same one
def stand_in_form(inputs: MasterInputs, measured: MeasuredVolume | None) -> Form | None:
    """Stand a master's stand-in on the board.

    Parameters
    ----------
    inputs : MasterInputs
        With the stand-in chosen.
    measured : MeasuredVolume or None
        The displacement, for a body fitted to it.

    Returns
    -------
    Form or None
        None while something that it needs is missing.

    Raises
    ------
    Refused
        When its figures contradict each other.
    """
    made = stand_in_mesh(inputs, measured)
    if made is None:
        return None
    settled = inputs.settled()
    form = stand_form(made, direction_vector(settled.up), settled.spin_deg, is_standin=True)
    return _as_described(form, inputs.standin or "", settled)


def _as_described(form: Form, kind: str, of: SettledMaster) -> Form:
    # what is round is made of chords, which reach some hundredths of a millimetre too far: what was typed counts
    upright = abs(form.turn[2, 2]) > 1 - 1e-9
    if kind in _ACROSS and (upright or kind == "ball"):
        across = _ACROSS[kind](of)
        high = across if kind == "ball" else of.ring_mm if kind == "ring" else None
        form.size_mm = (across, across, high or form.size_mm[2])
        form.circle = (across, (0.0, 0.0))
    elif kind == "fitted" and upright and abs(form.turn[0, 1]) < 1e-9:
        form.size_mm = _size(of)
    return form
