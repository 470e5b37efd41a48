"""Attitudes: how a master stands on the board, turned, scaled for shrinkage and set down; and how it could stand."""

from dataclasses import dataclass

import numpy as np
from scipy.spatial import ConvexHull, QhullError

from ufrin.core.mesh.triangles import Floats, Mesh, face_sums
from ufrin.errors import Refused
from ufrin.language import Text

AXES: tuple[tuple[float, float, float], ...] = ((0, 0, 1), (0, 0, -1), (1, 0, 0), (-1, 0, 0), (0, 1, 0), (0, -1, 0))
AXIS_WORDS = (
    Text("as drawn"),
    Text("upside down"),
    Text("its x upwards"),
    Text("its x downwards"),
    Text("its y upwards"),
    Text("its y downwards"),
)
MOST_FACES_TO_STAND_ON = 6
SAME_WAY = 0.995  # cosine: about 6 degrees


def turn_up(up: tuple[float, float, float], spin_deg: float = 0.0) -> Floats:
    """Return the rotation that brings a direction of the mesh upright, then spins it on the board.

    Parameters
    ----------
    up : (x, y, z)
        In the mesh's own coordinates.
    spin_deg : float, optional
        About the upright, counter-clockwise seen from above.

    Returns
    -------
    (3, 3) float64
        A rotation matrix.

    Raises
    ------
    Refused
        For a direction without length.
    """
    direction = np.array(up, dtype=float)
    length = float(np.linalg.norm(direction))
    if not (np.isfinite(length) and length > 1e-9):
        raise Refused("up", Text("A direction needs some length: type it as three numbers such as 0, 0, 1."))
    direction /= length
    # a direction nearly straight down is turned over first: the formula divides by almost 0 there
    over = np.diag([1.0, -1.0, -1.0]) if direction[2] < -0.9 else np.eye(3)
    direction = over @ direction
    z = np.array([0.0, 0.0, 1.0])
    cosine, cross = float(direction @ z), np.cross(direction, z)
    k = np.array([[0, -cross[2], cross[1]], [cross[2], 0, -cross[0]], [-cross[1], cross[0], 0]])
    tilt = (np.eye(3) + k + k @ k / (1 + cosine)) @ over  # Rodrigues' formula
    c, s = np.cos(np.radians(spin_deg)), np.sin(np.radians(spin_deg))
    return np.asarray(np.array([[c, -s, 0], [s, c, 0], [0, 0, 1]]) @ tilt)


def stand(mesh: Mesh, up: tuple[float, float, float] = (0, 0, 1), spin_deg: float = 0.0, scale: float = 1.0) -> Mesh:
    """Put a master on the board: lowest point at 0, the middle of its plan at the origin.

    Parameters
    ----------
    mesh : Mesh
        In its own coordinates.
    up, spin_deg : (x, y, z), float
        As ``turn_up`` takes them.
    scale : float, optional
        For shrinkage.

    Returns
    -------
    Mesh
        Turned and moved.
    """
    turned = mesh.moved(turn_up(up, spin_deg) * scale)
    low, high = turned.bounds_mm
    middle = np.array([(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, low[2]])
    return Mesh(vertices_mm=turned.vertices_mm - middle, faces=turned.faces)


@dataclass(frozen=True, slots=True, kw_only=True)
class Attitude:
    """A way to stand.

    Parameters
    ----------
    up : (x, y, z)
        Upright direction in the mesh's coordinates.
    words : str
        In words.
    stable : bool
        Whether it would stand so on a board by itself.
    """

    up: tuple[float, float, float]
    words: str
    stable: bool

    @property
    def kept(self) -> str:
        """The direction as it is typed and kept; four places, a hundredth of a degree."""
        return ", ".join(f"{round(number, 4) + 0.0:g}" for number in self.up)


def words_as_kept(kept: str) -> str:
    """Return the words of an attitude that were kept in English, so that they can be shown in any language.

    Parameters
    ----------
    kept : str
        As ``attitudes`` gave them.

    Returns
    -------
    str
        A text; words of no known attitude as they are.
    """
    flat_sides = (_on_flat_side(number) for number in range(1, MOST_FACES_TO_STAND_ON + 1))
    return next((words for words in (*AXIS_WORDS, *flat_sides) if words == kept), kept)


def attitudes(mesh: Mesh) -> tuple[Attitude, ...]:
    """Find the ways a master could stand: along its axes, and on every flat of its hull that it would rest on.

    Parameters
    ----------
    mesh : Mesh
        Closed.

    Returns
    -------
    tuple of Attitude
        Axes first, then resting flats, the largest first. It rests on a flat when its centre of gravity lies over it
        (statics; uniform density is assumed).
    """
    rests = _different(_resting(mesh), mesh)
    found = [
        Attitude(up=axis, words=words, stable=any(np.dot(axis, up) > 1 - 1e-6 for up, _ in rests))
        for axis, words in zip(AXES, AXIS_WORDS, strict=True)
    ]
    number = 0
    for up, _ in rests:
        if number < MOST_FACES_TO_STAND_ON and all(np.dot(up, one.up) < SAME_WAY for one in found):
            number += 1
            found.append(
                Attitude(up=(float(up[0]), float(up[1]), float(up[2])), words=_on_flat_side(number), stable=True)
            )
    return tuple(found)


def _on_flat_side(number: int) -> Text:
    return Text("on its flat side {number}", number=number)


def _different(rests: list[tuple[Floats, float]], mesh: Mesh) -> list[tuple[Floats, float]]:
    # a turned master rests alike on any of its many flats: of flats that are equally large and low, one is enough
    kept: list[tuple[Floats, float]] = []
    seen: set[tuple[int, int]] = set()
    for up, area in rests:
        along = mesh.vertices_mm @ up
        mark = round(area / mesh.area_mm2 * 500), round(float(np.ptp(along)) / float(mesh.extents_mm.max()) * 200)
        on_axis = float(np.abs(up).max()) > 1 - 1e-6
        if on_axis or mark not in seen:
            kept.append((up, area))
        seen.add(mark)
    return kept


def centre_mm(mesh: Mesh) -> Floats:
    """Return the centre of gravity of a closed mesh of uniform density.

    Parameters
    ----------
    mesh : Mesh
        Closed.

    Returns
    -------
    (3,) float64
        In mm.
    """
    volumes, _ = face_sums(mesh)
    local = mesh.bounds_mm.mean(axis=0)
    middles = mesh.vertices_mm[mesh.faces].sum(axis=1) - 3 * local
    return np.asarray(local + (middles * volumes[:, None]).sum(axis=0) / (4 * volumes.sum()))


def _resting(mesh: Mesh) -> list[tuple[Floats, float]]:
    # hull facets that lie in one plane are one flat; (up, area) of those under the centre of gravity, largest first
    try:
        hull = ConvexHull(mesh.vertices_mm)
    except QhullError:
        return []
    centre, planes = centre_mm(mesh), hull.equations
    corners = mesh.vertices_mm[hull.simplices]
    areas = np.linalg.norm(np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=1) / 2
    size = float(mesh.extents_mm.max())
    keys = np.round(np.column_stack([planes[:, :3], planes[:, 3] / size]), 4) + 0.0
    _, flat = np.unique(keys, axis=0, return_inverse=True)
    flat = flat.ravel()
    area_of = np.bincount(flat, weights=areas)
    found = []
    for which in np.argsort(-area_of)[:60]:
        facets = np.flatnonzero(flat == which)
        normal = planes[facets[0], :3]
        points = corners[facets].reshape(-1, 3)
        if _over(points, normal, centre) and area_of[which] > 1e-4 * size**2:
            found.append((-normal, float(area_of[which])))
    return found


def _over(points: Floats, normal: Floats, centre: Floats) -> bool:
    along = np.eye(3)[np.argmin(np.abs(normal))]
    u = np.cross(normal, along)
    u /= np.linalg.norm(u)
    frame = np.stack([u, np.cross(normal, u)])
    flat, point = points @ frame.T, frame @ centre
    try:
        outline = ConvexHull(flat)
    except QhullError:
        return False
    return bool((outline.equations[:, :2] @ point + outline.equations[:, 2] < -1e-9).all())
