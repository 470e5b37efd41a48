"""Stand-ins: closed meshes of plain shapes, for a master without a mesh of its own.

They are marked as stand-ins wherever they are shown.
"""

from collections.abc import Sequence
from math import gamma, pi, sin, sqrt

import numpy as np
from scipy.optimize import brentq

from ufrin.core.mesh.triangles import Mesh, joined, merged
from ufrin.errors import Refused
from ufrin.language import Text

SIDES = 96  # of what is round
BLUNTEST, SHARPEST = 24.0, 0.7  # exponents of a superellipsoid: nearly a block, and nearly a cross


def turned(profile_mm: Sequence[tuple[float, float]]) -> Mesh:
    """Turn a profile about its axis.

    Parameters
    ----------
    profile_mm : sequence of (height, diameter)
        From the foot up; a height may repeat once for a step, and a diameter of 0 is allowed at either end.

    Returns
    -------
    Mesh
        Closed, its foot at 0. Circles become polygons of equal area, so that the volume is that of the cones between
        the heights.

    Raises
    ------
    Refused
        For fewer than two pairs, falling heights or a profile without body.
    """
    if len(profile_mm) < 2:
        raise Refused("profile", Text("A turned profile needs at least two pairs of height and diameter."))
    heights, diameters = np.array(profile_mm, dtype=float).T
    if not (np.isfinite(heights).all() and (np.diff(heights) >= 0).all() and heights[-1] > heights[0]):
        raise Refused(
            "profile", Text("The heights of a turned profile go up from the foot. Sort the pairs from below.")
        )
    if not ((diameters >= 0).all() and diameters.max() > 0 and (diameters[1:-1] > 0).all()):
        raise Refused(
            "profile", Text("A turned profile has a diameter at every height; only the two ends may come to a point.")
        )
    radii = diameters / 2 * sqrt(2 * pi / SIDES / sin(2 * pi / SIDES))
    angle = np.arange(SIDES) * 2 * pi / SIDES
    circle = np.stack([np.cos(angle), np.sin(angle)], axis=1)
    rings = [
        np.column_stack([circle * radius, np.full(SIDES, height)])
        for height, radius in zip(heights - heights[0], radii, strict=True)
    ]
    corners = np.concatenate([*rings, [[0, 0, 0], [0, 0, heights[-1] - heights[0]]]])
    here = np.arange(SIDES)
    beyond = (here + 1) % SIDES
    faces = []
    for ring in range(len(rings) - 1):
        a, b, c, d = (start + which for start in (ring * SIDES, (ring + 1) * SIDES) for which in (here, beyond))
        faces += [np.stack([a, b, d], axis=1), np.stack([a, d, c], axis=1)]
    foot, head, last = len(corners) - 2, len(corners) - 1, (len(rings) - 1) * SIDES
    faces.append(np.stack([np.full(SIDES, foot), beyond, here], axis=1))
    faces.append(np.stack([np.full(SIDES, head), last + here, last + beyond], axis=1))
    return merged(Mesh(vertices_mm=corners, faces=np.concatenate(faces).astype(np.int32)))


def block(length_mm: float, width_mm: float, height_mm: float) -> Mesh:
    """Make a rectangular block standing on 0.

    Parameters
    ----------
    length_mm, width_mm, height_mm : float
        Its edges.

    Returns
    -------
    Mesh
        Closed.
    """
    corners = np.array(
        [
            [x, y, z]
            for z in (0, height_mm)
            for y in (-width_mm / 2, width_mm / 2)
            for x in (-length_mm / 2, length_mm / 2)
        ],
        dtype=float,
    )
    return Mesh(vertices_mm=corners, faces=_HULL_OF_8.copy())


_HULL_OF_8 = np.array(
    [
        [0, 2, 3],
        [0, 3, 1],
        [4, 5, 7],
        [4, 7, 6],
        [0, 1, 5],
        [0, 5, 4],
        [2, 6, 7],
        [2, 7, 3],
        [0, 4, 6],
        [0, 6, 2],
        [1, 3, 7],
        [1, 7, 5],
    ],
    dtype=np.int32,
)


def cone(bottom_mm: float, top_mm: float, height_mm: float) -> Mesh:
    """Make a drum, a cone or a frustum, by its diameters.

    Returns
    -------
    Mesh
        Closed.
    """
    return turned([(0, bottom_mm), (height_mm, top_mm)])


def ball(diameter_mm: float) -> Mesh:
    """Make a ball of the true volume, standing on 0.

    Returns
    -------
    Mesh
        Closed.
    """
    return fitted(diameter_mm, diameter_mm, diameter_mm, pi * diameter_mm**3 / 6000, exponent=2.0)


def ring(outside_mm: float, thickness_mm: float) -> Mesh:
    """Make a ring of round section that lies flat.

    Parameters
    ----------
    outside_mm, thickness_mm : float
        Over all, and of the round section.

    Returns
    -------
    Mesh
        Closed, of the true volume (V = 2 pi^2 R r^2, Pappus).

    Raises
    ------
    Refused
        When it has no hole.
    """
    radius, middle = thickness_mm / 2, (outside_mm - thickness_mm) / 2
    if not middle > radius > 0:
        raise Refused(
            "ring_mm",
            Text("A ring has a hole: its thickness is less than half of its outside. Take a ball or a drum instead."),
        )
    around, about = np.meshgrid(np.arange(SIDES), np.arange(SIDES // 2), indexing="ij")
    turn, roll = around * 2 * pi / SIDES, about * 4 * pi / SIDES
    out = middle + radius * np.cos(roll)
    corners = np.stack([out * np.cos(turn), out * np.sin(turn), radius + radius * np.sin(roll)], axis=-1).reshape(-1, 3)
    half = SIDES // 2
    a, b = around * half + about, ((around + 1) % SIDES) * half + about
    c, d = around * half + (about + 1) % half, ((around + 1) % SIDES) * half + (about + 1) % half
    faces = np.concatenate(
        [np.stack([a, b, d], axis=-1).reshape(-1, 3), np.stack([a, d, c], axis=-1).reshape(-1, 3)]
    ).astype(np.int32)
    made = Mesh(vertices_mm=corners, faces=faces)
    return _of_volume(made, 2 * pi**2 * middle * radius**2)


def _of_volume(mesh: Mesh, volume_mm3: float) -> Mesh:
    # a circle drawn by chords comes out a little small
    return mesh.moved(np.eye(3) * (volume_mm3 / mesh.volume_mm3) ** (1 / 3))


def slab(length_mm: float, width_mm: float, height_mm: float, base_mm: float, relief_ml: float | None) -> Mesh:
    """Make a slab that carries a relief: a block, and on it a step whose sides lean in, of the relief's volume.

    Parameters
    ----------
    length_mm, width_mm, height_mm : float
        Over all.
    base_mm : float
        Thickness of the slab itself.
    relief_ml : float or None
        Volume of the relief; None takes half of the room it has.

    Returns
    -------
    Mesh
        Closed.

    Raises
    ------
    Refused
        When the relief has no height, or more volume than room.
    """
    rise = height_mm - base_mm
    if not (base_mm > 0 and rise > 0):
        raise Refused(
            "slab_base_mm",
            Text("The slab's own thickness must be more than nothing and less than its height with the relief."),
        )
    room_ml = length_mm * width_mm * rise / 1000
    relief_ml = room_ml / 2 if relief_ml is None else relief_ml
    if not 0 < relief_ml < room_ml:
        raise Refused(
            "relief_ml",
            Text(
                "A relief on that slab has room for [{room_ml:.1f} volume] at most. Check its volume "
                "and the slab's size.",
                room_ml=room_ml,
            ),
        )
    # the relief's foot fills a share of the slab, and its top half of that each way: V = h A (1 + 1/2 + 1/4) / 3
    # with the share k^2
    share = min(0.98, sqrt(relief_ml / room_ml * 12 / 7))
    lean = (
        brentq(lambda top: share**2 * (1 + top + top**2) / 3 - relief_ml / room_ml, 0.0, 1.0)
        if share**2 > relief_ml / room_ml
        else 1.0
    )
    if share == 0.98 and share**2 <= relief_ml / room_ml:
        share = sqrt(relief_ml / room_ml)
    foot, head = share, share * lean
    upper = _frustum(length_mm, width_mm, low=base_mm, high=height_mm, foot=foot, head=head)
    return _stepped(block(length_mm, width_mm, base_mm), upper)


def _frustum(length: float, width: float, *, low: float, high: float, foot: float, head: float) -> Mesh:
    corners = [
        [x * length / 2 * share, y * width / 2 * share, z]
        for z, share in ((low, foot), (high, max(head, 1e-3)))
        for y in (-1, 1)
        for x in (-1, 1)
    ]
    return Mesh(vertices_mm=np.array(corners, dtype=float), faces=_HULL_OF_8.copy())


def _stepped(lower: Mesh, upper: Mesh) -> Mesh:
    # the slab's top becomes a frame round the relief's foot, so that the two are one closed surface
    keep_lower, keep_upper = np.ones(12, dtype=bool), np.ones(12, dtype=bool)
    keep_lower[[2, 3]] = False
    keep_upper[[0, 1]] = False
    outer, inner = [4, 5, 7, 6], [8 + i for i in (0, 1, 3, 2)]
    frame = []
    for i in range(4):
        j = (i + 1) % 4
        frame += [[outer[i], outer[j], inner[j]], [outer[i], inner[j], inner[i]]]
    both = joined([lower, upper])
    faces = np.concatenate([lower.faces[keep_lower], upper.faces[keep_upper] + 8, np.array(frame, dtype=np.int32)])
    return Mesh(vertices_mm=both.vertices_mm, faces=faces.astype(np.int32))


def fitted(
    length_mm: float, width_mm: float, height_mm: float, volume_ml: float, *, exponent: float | None = None
) -> Mesh:
    """Fit a superellipsoid, |x/a|^p + |y/b|^p + |z/c|^p = 1, to a size and a displacement.

    Parameters
    ----------
    length_mm, width_mm, height_mm : float
        Over all.
    volume_ml : float
        What it displaces; V = 8 a b c Gamma(1 + 1/p)^3 / Gamma(1 + 3/p) gives p (Jaklic, Leonardis and Solina
        2000, Segmentation and Recovery of Superquadrics).
    exponent : float, optional
        p, when it is known.

    Returns
    -------
    Mesh
        Closed, of that volume to the last digits.

    Raises
    ------
    Refused
        When the displacement is more than its block, or so little that no such shape is left.
    """
    share = volume_ml * 1000 / (length_mm * width_mm * height_mm)
    if not 0 < share <= 1:
        raise Refused(
            "volume_ml", Text("A master can't displace more than the block of its size, or nothing. Check both.")
        )

    def filled(p: float) -> float:
        return gamma(1 + 1 / p) ** 3 / gamma(1 + 3 / p)

    if share >= filled(BLUNTEST):
        return _of_volume_between(block(length_mm, width_mm, height_mm), volume_ml * 1000)
    if share < filled(SHARPEST):
        raise Refused(
            "volume_ml",
            Text(
                "It displaces so little of its block that a rounded stand-in would mislead. Choose "
                "another stand-in, or a turned profile."
            ),
        )
    p = brentq(lambda p: filled(p) - share, SHARPEST, BLUNTEST) if exponent is None else exponent
    around, up = np.meshgrid(
        np.arange(SIDES) * 2 * pi / SIDES, np.linspace(-pi / 2, pi / 2, SIDES // 2 + 1), indexing="ij"
    )

    def power(values: np.ndarray) -> np.ndarray:
        return np.asarray(np.sign(values) * np.abs(np.where(np.abs(values) < 1e-12, 0, values)) ** (2 / p))

    corners = np.stack(
        [
            length_mm / 2 * power(np.cos(up)) * power(np.cos(around)),
            width_mm / 2 * power(np.cos(up)) * power(np.sin(around)),
            height_mm / 2 * power(np.sin(up)),
        ],
        axis=-1,
    )
    rows = SIDES // 2 + 1
    i, j = np.meshgrid(np.arange(SIDES), np.arange(rows - 1), indexing="ij")
    a, b = i * rows + j, ((i + 1) % SIDES) * rows + j
    faces = np.concatenate(
        [np.stack([a, b, b + 1], axis=-1).reshape(-1, 3), np.stack([a, b + 1, a + 1], axis=-1).reshape(-1, 3)]
    ).astype(np.int32)
    flat = corners.reshape(-1, 3)
    flat[:, 2] += height_mm / 2
    return _of_volume_between(merged(Mesh(vertices_mm=flat, faces=faces)), volume_ml * 1000)


def _of_volume_between(mesh: Mesh, volume_mm3: float) -> Mesh:
    # the size stays in height, the few thousandths that chords cost are made up in plan
    factor = sqrt(volume_mm3 / mesh.volume_mm3)
    return mesh.moved(np.diag([factor, factor, 1.0]))
