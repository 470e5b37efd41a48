"""How a mould is held while it is cast in: the attitudes, ranked by the vents they need and the air they keep."""

from dataclasses import dataclass

from ufrin.core.master.attitudes import AXES, turn_up
from ufrin.core.mesh.cells import cells_of_mesh
from ufrin.core.mesh.triangles import Floats, Mesh
from ufrin.core.opening.gates_and_vents import casting_cost, plan_cast
from ufrin.core.opening.trapped_air import Cavity, Point3
from ufrin.language import Text

ATTITUDE_CELLS = 48


@dataclass(frozen=True, slots=True, kw_only=True)
class CastingAttitude:
    """An attitude of the mould while it is cast in: upright direction, in words, and its costs."""

    up: Point3
    words: str
    bare_ml: float
    vents: int
    left_ml: float
    on_show: int

    @property
    def cost(self) -> float:
        """Lower is better."""
        return casting_cost(self.left_ml, self.vents, self.on_show)


CAST_WORDS = (
    Text("as the master stood"),
    Text("upside down"),
    Text("on its left side"),
    Text("on its right side"),
    Text("front down"),
    Text("front up"),
)


def casting_attitudes(mesh: Mesh, shown: Floats | None, cells: int = ATTITUDE_CELLS) -> tuple[CastingAttitude, ...]:
    """Rank the attitudes in which a mould may be cast in.

    Parameters
    ----------
    mesh : Mesh
        The master as it stood while the mould was made.
    shown : (3,) float or None
        Where the show face looks to, as it stood.
    cells : int, optional
        Along the longest side.

    Returns
    -------
    tuple of CastingAttitude
        The six straight ones and eight on an edge; the fewest vents first.
    """
    slanted = [
        ((x, y, 1.0), words)
        for x, y, words in (
            (1, 0, Text("leaning left")),
            (-1, 0, Text("leaning right")),
            (0, 1, Text("leaning to the front")),
            (0, -1, Text("leaning back")),
        )
    ]
    ups: list[tuple[Point3, str]] = [*zip(AXES, CAST_WORDS, strict=True)]
    ups += [((x, y, z), words) for (x, y, z), words in slanted] + [
        ((x, y, -z), Text("upside down, {words}", words=words)) for (x, y, z), words in slanted
    ]
    found = []
    for up, words in ups:
        turn = turn_up(up)
        plan = plan_cast(Cavity(solid=cells_of_mesh(mesh.moved(turn), cells)), None if shown is None else turn @ shown)
        holes = (*plan.gates, *plan.vents)
        found.append(
            CastingAttitude(
                up=up,
                words=words,
                bare_ml=plan.bare_ml,
                vents=len(plan.vents),
                left_ml=sum(pocket.ml for pocket in plan.left),
                on_show=sum(hole.on_show for hole in holes),
            )
        )
    # of equal ones the straight ones, which come first, are easier to hold
    return tuple(sorted(found, key=lambda one: round(one.cost, 2)))
