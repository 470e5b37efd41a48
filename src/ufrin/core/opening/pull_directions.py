"""Pull directions: the ways to pull a mould off a master, ranked over a sphere of directions."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import pi, sqrt

import numpy as np

from ufrin.core.master.attitudes import AXES, turn_up
from ufrin.core.mesh.cells import cells_of, cells_of_mesh
from ufrin.core.mesh.compiled_loops import fill, trapped_cells
from ufrin.core.mesh.line_work import reduced
from ufrin.core.mesh.rays import Stretches, columns, grid, stretches
from ufrin.core.mesh.triangles import Floats, Mesh
from ufrin.core.opening.trapped_air import LEAST_ML, air_round_master
from ufrin.core.opening.undercuts import locked_ml, overhang_ml

COARSE_CELLS, FINE_CELLS = 64, 256
FINALISTS, ROUNDS = 6, 3
SEARCH_FACES = 20_000  # a finer mesh is thinned out for the search; finalists are evaluated on all of it
REFINE_DEG = (4.0, 1.5)
ALIKE_DEG = 12.0
Direction = tuple[float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class ScoredDirection:
    """A pull direction with its costs: locked rubber, overhang, and air trapped with the master standing that way up.

    Parameters
    ----------
    pull : (x, y, z)
        In the mesh's own coordinates, of unit length.
    locked_ml, overhang_ml, trapped_ml : float
        As defined in ``undercuts`` and ``trapped_air``.
    depth_mm : float
        Of the master along it.
    cells : int
        The resolution of the evaluation, along the longest side.
    """

    pull: Direction
    locked_ml: float
    overhang_ml: float
    trapped_ml: float
    depth_mm: float
    cells: int

    @property
    def rank(self) -> tuple[float, float, float]:
        """Lower is better: locked rubber first, then air, then overhang; negligible amounts do not count."""
        return (self.locked_ml, self.trapped_ml, self.overhang_ml)


def sphere(count: int) -> Floats:
    """Spread directions evenly over a sphere, the axes among them, each with its opposite.

    Parameters
    ----------
    count : int
        How many; it is rounded to an even number.

    Returns
    -------
    (count, 3) float64
        Unit vectors, the second half opposite to the first (a Fibonacci lattice: Gonzalez 2010, Measurement of
        areas on a sphere).
    """
    half = max(3, count // 2)
    number = half - 3
    n = np.arange(number) + 0.5
    z = n / max(number, 1)
    around = n * pi * (3 - sqrt(5))
    lattice = np.column_stack([np.sqrt(1 - z**2) * np.cos(around), np.sqrt(1 - z**2) * np.sin(around), z])
    upper = np.concatenate([np.eye(3)[::-1], lattice])
    return np.concatenate([upper, -upper])


def both_ways(mesh: Mesh, pull: Floats, cells: int) -> tuple[ScoredDirection, ScoredDirection]:
    """Score a direction and its opposite coarsely, by one set of rays.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    pull : (3,) float
        Of unit length.
    cells : int
        Along the longest side.

    Returns
    -------
    Scored, Scored
        Along it and against it.
    """
    turned = mesh.moved(turn_up((float(pull[0]), float(pull[1]), float(pull[2]))))
    low, cell, shape = grid(turned, cells)
    upright = stretches(columns(turned, axis=2, low_mm=low, cell_mm=cell, shape=shape))
    solid = np.zeros((shape[2], shape[0] * shape[1]), dtype=bool)
    begin, end, _ = cells_of(upright, float(low[2]), cell)
    fill(solid, upright.ray, begin, end)
    foot, head = turned.bounds_mm[:, 2]
    locked = locked_ml(upright, cell)
    made = []
    for sign, cube in ((1.0, solid), (-1.0, solid[::-1])):
        fluid = ~cube.reshape(shape[2], shape[0], shape[1])
        board = int(np.ceil(((foot - low[2]) if sign > 0 else (low[2] + shape[2] * cell - head)) / cell - 0.5))
        fluid[: max(board, 0)] = False
        outlets = np.zeros_like(fluid)
        outlets[-1] = fluid[-1]
        trapped = float(trapped_cells(fluid, outlets).sum()) * cell**3 / 1000
        over = overhang_ml(upright, foot, cell) if sign > 0 else overhang_ml(_flipped(upright), -head, cell)
        where = sign * pull
        made.append(
            ScoredDirection(
                pull=(float(where[0]), float(where[1]), float(where[2])),
                locked_ml=locked,
                overhang_ml=over,
                trapped_ml=trapped if trapped >= LEAST_ML else 0.0,
                depth_mm=float(head - foot),
                cells=cells,
            )
        )
    return made[0], made[1]


def _flipped(upright: Stretches) -> Stretches:
    return replace(upright, ray=upright.ray[::-1], low_mm=-upright.high_mm[::-1], high_mm=-upright.low_mm[::-1])


def scored(mesh: Mesh, pull: Floats, cells: int = FINE_CELLS) -> ScoredDirection:
    """Score one direction with care.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    pull : (3,) float
        Of any length but 0.
    cells : int, optional
        Along the longest side; air is searched with half as many, with walls kept tight.

    Returns
    -------
    ScoredDirection
        Figures that a coarse search would miss.
    """
    pull = np.asarray(pull, dtype=float) / np.linalg.norm(pull)
    turned = mesh.moved(turn_up((float(pull[0]), float(pull[1]), float(pull[2]))))
    low, cell, shape = grid(turned, cells)
    upright = stretches(columns(turned, axis=2, low_mm=low, cell_mm=cell, shape=shape))
    foot, head = turned.bounds_mm[:, 2]
    air = air_round_master(cells_of_mesh(turned, max(24, cells // 2)), board_mm=float(foot))
    return ScoredDirection(
        pull=(float(pull[0]), float(pull[1]), float(pull[2])),
        locked_ml=locked_ml(upright, cell),
        overhang_ml=overhang_ml(upright, float(foot), cell),
        trapped_ml=sum(pocket.ml for pocket in air.pockets if pocket.matters),
        depth_mm=float(head - foot),
        cells=cells,
    )


def coarse(
    mesh: Mesh, count: int, cells: int = COARSE_CELLS, report: Callable[[float], bool] | None = None
) -> list[ScoredDirection]:
    """Score directions over the whole sphere.

    Parameters
    ----------
    mesh : Mesh
        Closed; thinned out where it is fine.
    count : int
        Directions.
    cells : int, optional
        Along the longest side.
    report : callable, optional
        Called with the share that is done; False ends the search.

    Returns
    -------
    list of ScoredDirection
        Best first; fewer when it was ended.
    """
    thin = reduced(mesh, SEARCH_FACES)
    found: list[ScoredDirection] = []
    half = sphere(count)[: max(3, count // 2)]
    for number, pull in enumerate(half, 1):
        found += both_ways(thin, pull, cells)
        if report is not None and number % 10 == 0 and not report(number / len(half)):
            break
    return sorted(found, key=lambda one: one.rank)


def refined(
    mesh: Mesh, found: list[ScoredDirection], cells: int = FINE_CELLS, *, wander: bool = True
) -> list[ScoredDirection]:
    """Evaluate the best of a coarse search closely, and their neighbours; a coarse search misses small amounts.

    Parameters
    ----------
    mesh : Mesh
        Closed, whole.
    found : list of ScoredDirection
        As ``coarse`` gives them.
    cells : int, optional
        Along the longest side.
    wander : bool, optional
        Whether to try directions beside the finalists too.

    Returns
    -------
    list of ScoredDirection
        Best first; those at the head have all been evaluated closely.
    """
    known = sorted(found, key=lambda one: one.rank)
    for _ in range(ROUNDS):
        rough = [one for one in known[:FINALISTS] if one.cells < cells]
        if not rough:
            break
        for one in rough:
            known[known.index(one)] = scored(mesh, np.array(one.pull), cells)
        known.sort(key=lambda one: one.rank)
    best = known[0]
    if wander and best.locked_ml > 0:
        known.insert(0, _wandered(mesh, best, cells))
        known.sort(key=lambda one: one.rank)
    return known


def _wandered(mesh: Mesh, best: ScoredDirection, cells: int) -> ScoredDirection:
    # small turns about the best, by half the cells at first; those that are better in the close evaluation are taken
    thin = reduced(mesh, SEARCH_FACES)
    start = best
    for tilt_deg in REFINE_DEG:
        up = np.array(best.pull)
        side = np.cross(up, np.eye(3)[int(np.argmin(np.abs(up)))])
        side /= np.linalg.norm(side)
        other = np.cross(up, side)
        tries = [
            up + np.tan(np.radians(tilt_deg)) * (side * np.cos(turn) + other * np.sin(turn))
            for turn in np.arange(6) * pi / 3
        ]
        close = [both_ways(thin, one / np.linalg.norm(one), cells // 2)[0] for one in tries]
        nearest = min(close, key=lambda one: one.rank)
        if nearest.locked_ml < best.locked_ml:
            best = scored(mesh, np.array(nearest.pull), cells)
    return best if best.rank < start.rank else start


def ranked(mesh: Mesh, count: int = 200, cells: int = COARSE_CELLS) -> list[ScoredDirection]:
    """Rank pull directions over a sphere.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    count : int, optional
        Directions.
    cells : int, optional
        Along the longest side, in the search; finalists take 256 at least.

    Returns
    -------
    list of ScoredDirection
        Best first.
    """
    return refined(mesh, coarse(mesh, count, cells), max(FINE_CELLS, cells), wander=False)


def different(found: list[ScoredDirection], most: int = FINALISTS) -> list[ScoredDirection]:
    """Select the best that really differ.

    Opposite directions count as one for two halves, but trap air differently, so both may stay.

    Parameters
    ----------
    found : list of ScoredDirection
        Best first.
    most : int, optional
        How many.

    Returns
    -------
    list of ScoredDirection
        Best first, at least 12 degrees apart.
    """
    kept: list[ScoredDirection] = []
    # negligible amounts make no difference, and a straight direction is easier to lay a master along than a slanted one
    for one in sorted(
        found, key=lambda one: (one.locked_ml if one.locked_ml >= LEAST_ML else 0.0, not on_axis(one.pull))
    ):
        if all(np.dot(one.pull, other.pull) < np.cos(np.radians(ALIKE_DEG)) for other in kept):
            kept.append(one)
        if len(kept) == most:
            break
    return kept


def on_axis(pull: Direction) -> bool:
    """Return whether a direction is one of the mesh's axes.

    Parameters
    ----------
    pull : (x, y, z)
        Of unit length.

    Returns
    -------
    bool
        Within a hundredth of a degree.
    """
    return any(np.dot(pull, axis) > 1 - 1e-8 for axis in AXES)
