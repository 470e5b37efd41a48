"""The demo's masters as meshes, made here from balls, drums and turned profiles.

Nothing in them is copied from anywhere.
"""

from collections.abc import Callable, Mapping, Sequence
from functools import cache
from math import cos, exp, log, pi, sin

import numpy as np
from manifold3d import CrossSection, Manifold, OpType

from ufrin.core.master.stand_ins import fitted, turned
from ufrin.core.mesh.manifolds import from_manifold, manifold
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.mesh.written_files import write_stl

_ROUND = 40  # segments of a ball


def _ball(middle: Sequence[float], radii: Sequence[float], turn_deg: Sequence[float] = (0, 0, 0)) -> Manifold:
    return Manifold.sphere(1.0, _ROUND).scale(tuple(radii)).rotate(tuple(turn_deg)).translate(tuple(middle))


def _united(parts: Sequence[Manifold]) -> Manifold:
    return Manifold.batch_boolean(list(parts), OpType.Add)


def _cube(low: Sequence[float], high: Sequence[float]) -> Manifold:
    return Manifold.cube(tuple(b - a for a, b in zip(low, high, strict=True))).translate(tuple(low))


def _sized(made: Manifold, length: float, width: float, height: float) -> Mesh:
    mesh = from_manifold(made)
    low, high = mesh.bounds_mm
    return mesh.moved(np.diag(np.array([length, width, height]) / (high - low)))


def ammonite() -> Mesh:
    """Make a coiled shell with ribs, lying on its flat back.

    Returns
    -------
    Mesh
        Closed, 92 x 78 x 31 mm.
    """
    turns, grows = 3.4, log(1.85) / (2 * pi)  # each turn is so many times as wide as the one before
    parts = []
    for step in range(int(turns * 72)):
        angle = step * 2 * pi / 72
        reach = exp(grows * (angle - turns * 2 * pi)) * 36
        rib = 1 + 0.22 * max(0.0, cos(angle * 14)) ** 3
        radius = reach * 0.27
        parts.append(
            _ball((reach * cos(angle), reach * sin(angle), 0), (radius * rib, radius * rib, radius * 1.25 * rib))
        )
    shell = _united(parts) + _ball((0, 0, 0), (5, 5, 4))
    # the mouth is broken off clean
    return _sized(shell.trim_by_plane((0, 0, 1), -3.0), 92, 78, 31)


def finial() -> Mesh:
    """Turn a lamp finial: foot, cove, vase, collar, ball and tip.

    Returns
    -------
    Mesh
        Closed, 118 mm high.
    """
    profile: list[tuple[float, float]] = [
        (0, 46),
        (5, 46),
        (7, 43),
        (9, 36),
        (14, 24),
        (20, 19),
        (25, 20),
        (27, 26),
        (30, 28),
        (33, 26),
        (35, 22),
    ]
    profile += [(35 + 34 * t / 12, 22 + 17 * sin(pi * t / 12) ** 0.9) for t in range(1, 13)]
    profile += [(71, 20), (73, 25), (76, 25), (78, 16)]
    profile += [(78 + 20 * t / 10, 16 + 12 * sin(pi * (t / 10) ** 0.9)) for t in range(1, 10)]
    profile += [(99, 12), (104, 9), (111, 7), (116, 5), (118, 0)]
    return turned(profile)


def pulley_block() -> Mesh:
    """Make a wooden block with a slot, a sheave in it, a pin and two grooves for the strap.

    Returns
    -------
    Mesh
        Closed, 64 x 38 x 40 mm.
    """
    shell = manifold(fitted(64, 38, 40, 74.0))
    shell -= _cube((-24, -6.5, -1), (24, 6.5, 41))
    sheave = Manifold.cylinder(11, 16, 16, 64, True) - Manifold.revolve(_ring_section(17.5, 3.2), 64)
    shell += sheave.rotate((90, 0, 0)).translate((0, 0, 20))
    shell += Manifold.cylinder(40, 3.5, 3.5, 32, True).rotate((90, 0, 0)).translate((0, 0, 20))
    for x in (-27.5, 27.5):
        shell -= (
            (Manifold.cylinder(5, 60, 60, 64, True) - Manifold.cylinder(6, 15.2, 15.2, 64, True))
            .rotate((0, 90, 0))
            .translate((x, 0, 20))
        )
    return _sized(shell, 64, 38, 40)


def _ring_section(out: float, radius: float) -> CrossSection:
    return CrossSection.circle(radius, 32).translate((out, 0))


def barnacle_tile() -> Mesh:
    """Make a tile crowded with barnacles: leaning cones with open mouths, a seed deciding where.

    Returns
    -------
    Mesh
        Closed, 120 x 120 x 16 mm.
    """
    chance = np.random.default_rng(8537)
    tile, placed = _cube((0, 0, 0), (120, 120, 7)), list[tuple[float, float, float]]()
    while len(placed) < 46:
        radius = float(chance.uniform(4.5, 12))
        x, y = (float(chance.uniform(radius + 2, 118 - radius)) for _ in range(2))
        if all((x - u) ** 2 + (y - v) ** 2 > (0.82 * (radius + r)) ** 2 for u, v, r in placed):
            placed.append((x, y, radius))
    for x, y, radius in placed:
        high = min(9.0, 2.5 + radius * float(chance.uniform(0.45, 0.62)))
        ribs = _united(
            [
                Manifold.cylinder(high, radius * 0.42, radius * 0.2, 16).translate(
                    (radius * 0.55 * cos(k), radius * 0.55 * sin(k), 0)
                )
                for k in (2 * pi * i / 6 for i in range(6))
            ]
        )
        cone = Manifold.cylinder(high, radius * 0.92, radius * 0.5, 36) + ribs
        mouth = Manifold.cylinder(high, radius * 0.12, radius * 0.36, 20).translate((0, 0, high * 0.4))
        tile += (cone - mouth).translate((x, y, 6.5))
    return _sized(tile, 120, 120, 16)


def cormorant() -> Mesh:
    """Make a cormorant perched on a post: body, folded wings, tail, curved neck, head with a hooked bill.

    Returns
    -------
    Mesh
        Closed, 148 mm high.
    """
    body = _ball((0, 0, 62), (17, 15, 33), (0, 24, 0)) + _ball((8, 0, 76), (13, 12, 18), (0, 18, 0))
    wings = [_ball((-4, side * 12, 58), (12, 5, 33), (side * 4, 26, 0)) for side in (-1, 1)]
    tail = _united([_ball((-20 - k * 2, 0, 30 - k * 7), (4.5, 8 - k * 0.5, 10), (0, 26, 0)) for k in range(4)])
    neck = []
    for step in range(25):
        t = step / 24
        neck.append(_ball((14 + 9 * sin(pi * t * 1.15) + 6 * t, 0, 86 + 40 * t), (7.6 - 2.6 * t,) * 3))
    head = _ball((22, 0, 129), (9.5, 6.6, 6.2)) + _ball((30, 0, 128.5), (7, 4.2, 3.8))
    bill = [
        _ball(
            (34 + 15 * t, 0, 128.5 - 0.6 * t - 2.4 * max(0.0, t - 0.82) * 5),
            (2.6 - 0.9 * t, 2.4 - 0.9 * t, 2.2 - 0.6 * t),
        )
        for t in (k / 14 for k in range(15))
    ]
    feet = [_ball((3 + 6 * k, side * 7, 33 - k), (6, 5.2, 2.8)) for side in (-1, 1) for k in range(2)]
    legs = [Manifold.cylinder(14, 4, 4.5, 24).translate((2, side * 7, 32)) for side in (-1, 1)]
    post = Manifold.cylinder(33, 24, 21, 64) + Manifold.cylinder(3, 25.5, 25.5, 64)
    made = _united([body, *wings, tail, *neck, head, *bill, *feet, *legs, post])
    return _sized(made, 96, 51, 148)


MASTERS: Mapping[str, Callable[[], Mesh]] = {
    "ammonite": ammonite,
    "finial": finial,
    "pulley-block": pulley_block,
    "barnacle-tile": barnacle_tile,
    "cormorant": cormorant,
}


@cache
def as_file(name: str) -> bytes:
    """Give a demo master as a binary STL file.

    Parameters
    ----------
    name : str
        A key of ``MASTERS``.

    Returns
    -------
    bytes
        The file, in mm.
    """
    return write_stl(MASTERS[name]())
