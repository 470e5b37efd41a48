"""A master as a box sees it: its outside as it stands, its displacement and, where there is a mesh, its true form."""

from collections.abc import Hashable, Mapping
from dataclasses import dataclass
from functools import cached_property
from hashlib import blake2b
from math import hypot
from typing import Any, Literal

import numpy as np
import shapely
from cachetools import LRUCache
from shapely import affinity
from shapely.geometry import MultiPolygon, Point

from ufrin.core.master.attitudes import stand, turn_up
from ufrin.core.measures.plain_volumes import block_ml, drum_ml
from ufrin.core.mesh.line_work import LineWork, ViewKey, outline, reduced, shadow
from ufrin.core.mesh.sections import reach, volume_below_ml
from ufrin.core.mesh.triangles import Floats, Mesh
from ufrin.errors import Refused
from ufrin.language import Text

Outline = Literal["rectangle", "round"]
MOST_MASTERS = 400
QUARTER = np.array([[0.0, -1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0]])
CLOSE_ENOUGH = 1 + 1e-9
MOST_HEIGHTS = 64  # heights for which the volume below is kept with a form


class Form:
    """A master's true form as it stands on the board: its foot at height 0, the middle of its plan at the origin.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    volume_ml : float, optional
        Where it is known already; turning does not change it.
    drawn : Mesh, optional
        The same, thinned out for drawing.
    is_standin : bool, optional
        Whether it stands in for a master that has no mesh.
    turn : (3, 3) float, optional
        How it was turned from its own coordinates; without it, it was not turned.
    shift_mm, scale : (3,) float, float, optional
        How it was moved after that, and enlarged before.
    key : hashable, optional
        Identifies its content, so that results computed from it can be found again; without it, it is made from the
        mesh.
    """

    def __init__(
        self,
        mesh: Mesh,
        *,
        volume_ml: float | None = None,
        drawn: Mesh | None = None,
        is_standin: bool = False,
        turn: Floats | None = None,
        shift_mm: Floats | None = None,
        scale: float = 1.0,
        key: Hashable | None = None,
    ) -> None:
        self.mesh, self.is_standin = mesh, is_standin
        self.turn = np.eye(3) if turn is None else turn
        self.shift_mm, self.scale = np.zeros(3) if shift_mm is None else shift_mm, scale
        self.volume_ml = mesh.volume_mm3 / 1000 if volume_ml is None else volume_ml
        self._drawn, self._key = drawn, key

    @cached_property
    def key(self) -> Hashable:
        """Identifies its content: two forms with the same key agree in every figure."""
        if self._key is not None:
            return self._key
        digest = blake2b(self.mesh.vertices_mm.tobytes(), digest_size=16)
        digest.update(self.mesh.faces.tobytes())
        digest.update(np.concatenate([self.turn.ravel(), self.shift_mm, [self.scale, self.volume_ml]]).tobytes())
        return digest.hexdigest(), self.is_standin

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Form) and self.key == other.key

    def __hash__(self) -> int:
        return hash(self.key)

    @cached_property
    def size_mm(self) -> tuple[float, float, float]:
        """Over all."""
        length, width, height = self.mesh.extents_mm
        return float(length), float(width), float(height)

    @cached_property
    def area_cm2(self) -> float:
        """Its surface."""
        return self.mesh.area_mm2 / 100

    @cached_property
    def shadow(self) -> MultiPolygon:
        """Its outline in plan."""
        return shadow(self.mesh)

    @cached_property
    def drawn(self) -> Mesh:
        """Thinned out for drawing."""
        return reduced(self.mesh) if self._drawn is None else self._drawn

    def seen(self, view: ViewKey, *, turned: bool = False) -> LineWork:
        """Return its line work in one view.

        Parameters
        ----------
        view : "plan", "front" or "side"
            From where.
        turned : bool, optional
            After a quarter turn to the left on the board, seen from above.

        Returns
        -------
        Outline
            Worked out once.
        """
        if (view, turned) not in self._line_work:
            self._line_work[view, turned] = outline(self.drawn.moved(QUARTER) if turned else self.drawn, view)
        return self._line_work[view, turned]

    @cached_property
    def _line_work(self) -> dict[tuple[ViewKey, bool], LineWork]:
        return {}

    def below_ml(self, height_mm: float) -> float:
        """Return the volume of the part below a height, cut exactly.

        Parameters
        ----------
        height_mm : float
            Above its foot.

        Returns
        -------
        float
            In ml.
        """
        if height_mm not in self._below_ml:
            self._below_ml[height_mm] = volume_below_ml(self.mesh, height_mm)
        return self._below_ml[height_mm]

    @cached_property
    def _below_ml(self) -> LRUCache[float, float]:
        return LRUCache(MOST_HEIGHTS)

    @cached_property
    def circle(self) -> tuple[float, tuple[float, float]]:
        """The diameter of the smallest circle round its plan, and that circle's middle."""
        hull = self.shadow.convex_hull
        middle = shapely.centroid(shapely.minimum_bounding_circle(hull))
        return 2 * float(shapely.minimum_bounding_radius(hull)), (float(middle.x), float(middle.y))

    @cached_property
    def reach_mm(self) -> Floats:
        """How far out it reaches from that middle: height and radius of its furthest corners, (n, 2)."""
        return np.stack(reach(self.mesh, self.circle[1]), axis=1)

    def to_own_mm(self, points_mm: Floats) -> Floats:
        """Return points of the standing form in the master's own coordinates, in mm without shrinkage.

        Parameters
        ----------
        points_mm : (..., 3) float
            As it stands.

        Returns
        -------
        (..., 3) float64
            In its own coordinates.
        """
        return np.asarray((np.asarray(points_mm) - self.shift_mm) @ self.turn / self.scale)

    def to_standing_mm(self, points_mm: Floats) -> Floats:
        """Do the inverse of ``to_own_mm``.

        Parameters
        ----------
        points_mm : (..., 3) float
            In its own coordinates.

        Returns
        -------
        (..., 3) float64
            As it stands.
        """
        return np.asarray(np.asarray(points_mm) * self.scale @ self.turn.T + self.shift_mm)

    def settle(self) -> None:
        """Compute everything that a box may need, so that it can be kept."""
        _ = self.size_mm, self.shadow, self.circle, self.reach_mm

    def to_plain(self) -> dict[str, Any]:
        """Return the computed figures as plain values, without the mesh.

        Returns
        -------
        dict
            As ``KnownForm`` takes it.
        """
        return {
            "size_mm": self.size_mm,
            "volume_ml": self.volume_ml,
            "shadow": shapely.to_wkt(self.shadow, rounding_precision=3),
            "circle": self.circle,
            "reach_mm": self.reach_mm.round(3).tolist(),
        }


def stand_form(
    mesh: Mesh,
    up: tuple[float, float, float],
    spin_deg: float = 0.0,
    scale: float = 1.0,
    **known: Any,  # noqa: ANN401
) -> Form:
    """Stand a master on the board and remember how.

    Parameters
    ----------
    mesh : Mesh
        In its own coordinates.
    up, spin_deg, scale : (float, float, float), float, float
        As ``stand`` takes them.
    **known : Any
        As ``Form`` takes it.

    Returns
    -------
    Form
        Foot at 0.
    """
    turn, standing = turn_up(up, spin_deg), stand(mesh, up, spin_deg, scale)
    shift = standing.vertices_mm[0] - turn @ mesh.vertices_mm[0] * scale
    return Form(standing, turn=turn, shift_mm=shift, scale=scale, **known)


class KnownForm(Form):
    """A form whose figures were computed before, without its mesh: enough to compare boxes, not to cut it.

    Parameters
    ----------
    plain : mapping
        As ``Form.to_plain`` gives it.
    factor : float
        Its size is multiplied by it.
    """

    def __init__(self, plain: Mapping[str, Any], factor: float) -> None:
        nothing = Mesh(vertices_mm=np.zeros((3, 3)), faces=np.array([[0, 1, 2]], dtype=np.int32))
        key = ("known", factor, plain["volume_ml"], tuple(plain["size_mm"]), plain["shadow"])
        super().__init__(nothing, volume_ml=plain["volume_ml"] * factor**3, key=key)
        across, (x, y) = plain["circle"]
        length, width, height = plain["size_mm"]
        self.__dict__.update(
            size_mm=(length * factor, width * factor, height * factor),
            shadow=affinity.scale(shapely.from_wkt(plain["shadow"]), factor, factor, origin=(0, 0)),
            circle=(across * factor, (x * factor, y * factor)),
            reach_mm=np.array(plain["reach_mm"]) * factor,
        )

    def below_ml(self, height_mm: float) -> float:
        """Refuse: there is no mesh to cut.

        Parameters
        ----------
        height_mm : float
            Above its foot.

        Returns
        -------
        float
            Never.

        Raises
        ------
        Refused
            Always.
        """
        raise Refused("sunk_mm", Text("Choose this attitude first; how it sits in a bed follows from it."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Master:
    """A master as a box sees it.

    Parameters
    ----------
    length_mm, width_mm, height_mm : float
        Its outside, as it stands.
    volume_ml : float or None
        Its displacement; None when it is not known.
    mass_g : float or None
        Its weight; None when it is not known.
    count : int
        The number of equal masters.
    outline : "rectangle" or "round"
        In plan; a round one has its diameter as length and width.
    form : Form or None
        Its mesh, or a stand-in's.
    name : str
        What it is called where a box holds several kinds.
    """

    length_mm: float
    width_mm: float
    height_mm: float
    volume_ml: float | None
    mass_g: float | None = None
    count: int = 1
    outline: Outline = "rectangle"
    form: Form | None = None
    name: str = ""

    def __post_init__(self) -> None:
        for name in ("length_mm", "width_mm", "height_mm"):
            if not 0 < getattr(self, name) <= 10_000:
                raise Refused(name, Text("A master's size must be more than nothing and at most 10 m."))
        if not 1 <= self.count <= MOST_MASTERS:
            raise Refused("count", Text("A gang has 1 to {most_masters} masters.", most_masters=MOST_MASTERS))
        if self.volume_ml is not None and not 0 < self.volume_ml <= self.outside_ml * CLOSE_ENOUGH:
            raise Refused(
                "volume_ml",
                Text(
                    "A volume of [{volume_ml:g} volume] can't be inside [{length_mm:g} length] x "
                    "[{width_mm:g} length] x [{height_mm:g} length], which holds [{outside_ml:.1f} "
                    "volume]. Check both.",
                    volume_ml=self.volume_ml,
                    length_mm=self.length_mm,
                    width_mm=self.width_mm,
                    height_mm=self.height_mm,
                    outside_ml=self.outside_ml,
                ),
            )
        if self.mass_g is not None and not 0 < self.mass_g <= 1e7:
            raise Refused("mass_g", Text("A master's weight must be more than nothing and at most 10 t."))

    @property
    def outside_ml(self) -> float:
        """The block or drum that its outside would fill."""
        if self.outline == "round":
            return drum_ml(self.length_mm, self.height_mm)
        return block_ml(self.length_mm, self.width_mm, self.height_mm)

    def below_ml(self, height_mm: float) -> float:
        """Return the volume of the part below a height above its foot.

        It is cut from the form, or else in proportion; 0 while the displacement is not known.

        Returns
        -------
        float
            In ml.
        """
        if self.volume_ml is None:
            return 0.0
        share = min(1.0, max(0.0, height_mm / self.height_mm))
        if self.form is None or not 0 < share < 1:
            return self.volume_ml * share
        # a measured displacement takes precedence over the form's; the form gives its distribution
        return self.form.below_ml(height_mm) * self.volume_ml / self.form.volume_ml

    def plan_outline(self) -> shapely.Geometry:
        """Return its outline in plan about its middle.

        Returns
        -------
        Geometry
            In mm.
        """
        if self.form is not None:
            return self.form.shadow
        if self.outline == "round":
            return Point(0, 0).buffer(self.length_mm / 2, quad_segs=32)
        return shapely.box(-self.length_mm / 2, -self.width_mm / 2, self.length_mm / 2, self.width_mm / 2)

    def reach_mm(self) -> Floats:
        """Return how far out it reaches at each height: the corners of its form, or else the drum round it.

        Returns
        -------
        (n, 2) float
            Height and radius, in mm.
        """
        if self.form is not None:
            return self.form.reach_mm
        radius = self.length_mm / 2 if self.outline == "round" else hypot(self.length_mm, self.width_mm) / 2
        return np.array([[0.0, radius], [self.height_mm, radius]])
