"""Walls: the load of the liquid rubber, how far they bow under it, and where to brace them."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from math import pi
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ufrin.core.measures.constants import STANDARD_GRAVITY_M_PER_S2
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text

Floats = NDArray[np.floating[Any]]
TERMS, HEIGHTS = (
    41,
    41,
)  # terms of the series, of which only odd ones count; and heights along the wall at which it is evaluated
LARGEST_BOW_MM, SHARE_OF_SIDE = 1.0, 1 / 20  # common practice: a larger bow is felt in the wall of the mould
MOST_BRACES = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class WallLoad:
    """The load on one wall.

    Parameters
    ----------
    base_kpa, mean_kpa : float
        Pressure at the foot, and over the wetted height.
    force_n, force_height_mm : float
        The resultant, and how far above the foot it acts.
    """

    base_kpa: float
    mean_kpa: float
    force_n: float
    force_height_mm: float


def wall_load(*, depth_mm: float, wall_length_mm: float, sg: float) -> WallLoad:
    """Work out the load of a liquid on an upright wall: p = rho g h, F = rho g w h^2 / 2, at h / 3.

    Parameters
    ----------
    depth_mm : float
        Of the liquid.
    wall_length_mm : float
        Wetted length.
    sg : float
        Of the liquid, g/ml.

    Returns
    -------
    WallLoad
        Pressure and force.

    Raises
    ------
    Refused
        For a negative depth or an SG that is not positive.
    """
    if not depth_mm >= 0:
        raise Refused("depth_mm", Text("A depth can't be less than nothing."))
    if not sg > 0:
        raise Refused("rubber_sg", Text("The specific gravity must be more than nothing."))
    base_kpa = sg * STANDARD_GRAVITY_M_PER_S2 * depth_mm / 1000
    force_n = base_kpa / 2 * depth_mm * wall_length_mm / 1000
    return WallLoad(base_kpa=base_kpa, mean_kpa=base_kpa / 2, force_n=force_n, force_height_mm=depth_mm / 3)


@dataclass(frozen=True, slots=True, kw_only=True)
class PanelStock:
    """The material of a wall.

    Parameters
    ----------
    thickness_mm, youngs_modulus_gpa, poisson_ratio : float
        Of the sheet.
    """

    thickness_mm: float
    youngs_modulus_gpa: float
    poisson_ratio: float = 0.3

    def __post_init__(self) -> None:
        if not (
            0 < self.thickness_mm <= 1000 and 0 < self.youngs_modulus_gpa <= 1000 and 0 <= self.poisson_ratio < 0.5
        ):
            raise Refused("wall_thickness_mm", Text("A wall needs a thickness and a stiffness above nothing."))

    @property
    def stiffness_nmm(self) -> float:
        """D = E t^3 / (12 (1 - nu^2))."""
        return self.youngs_modulus_gpa * 1000 * self.thickness_mm**3 / (12 * (1 - self.poisson_ratio**2))


@lru_cache(maxsize=2048)  # the same walls come up on every page of a job
def bow_mm(
    *, length_mm: float, height_mm: float, foot_kpa: float, top_kpa: float, sheet: PanelStock, top_is_held: bool
) -> float:
    """Work out how far a panel bows between its held edges.

    Parameters
    ----------
    length_mm, height_mm : float
        Of the panel.
    foot_kpa, top_kpa : float
        Pressure at foot and top, linear between.
    sheet : PanelStock
        What it is made of.
    top_is_held : bool
        Four edges held; else the top edge is free, as on an open box.

    Returns
    -------
    float
        The largest deflection, in mm.

    Notes
    -----
    Thin plate, small deflections, held edges free to turn: Levy's series, w = sum Y_m(y) sin(m pi x / a), Y_m being
    the exact solution of Y'''' - 2 k^2 Y'' + k^4 Y = q_m / D with k = m pi / a (Timoshenko and Woinowsky-Krieger
    1959, Theory of Plates and Shells, from memory). At a free edge Y'' = nu k^2 Y and Y''' = (2 - nu) k^2 Y'.
    Checked against the four-edge figures of handbooks and, with the free top, against a finite-difference solution
    in the tests.
    """
    m = np.arange(1, TERMS + 1, 2)
    k = m * pi / length_mm
    load = 4 / (m * pi) / sheet.stiffness_nmm / k**4 / 1000  # kPa are mN/mm2
    heights = np.linspace(0, height_mm, HEIGHTS)
    strips = _strips(heights, k, load * foot_kpa, load * top_kpa, sheet.poisson_ratio, top_is_held=top_is_held)
    return float(np.abs(np.sin(m * pi / 2) @ strips).max())


def _fading(k: Floats, y: Floats | float, high: float) -> Floats:
    # solutions that fade away from either edge, so that no number overflows however long the panel is; with
    # derivatives 0 to 3 divided by k^n: (4 derivatives, ..., 4 solutions)
    u, v = k * y, k * (high - y)
    a, b = np.exp(-u), np.exp(-v)
    return np.stack(
        [
            np.stack([a, u * a, b, v * b], axis=-1),
            np.stack([-a, (1 - u) * a, b, (v - 1) * b], axis=-1),
            np.stack([a, (u - 2) * a, b, (v - 2) * b], axis=-1),
            np.stack([-a, (3 - u) * a, b, (v - 3) * b], axis=-1),
        ]
    )


def _strips(y: Floats, k: Floats, foot: Floats, top: Floats, nu: float, *, top_is_held: bool) -> Floats:
    # Y_m at each height, (terms, heights): the particular solution, and what the edge conditions add to it
    high = float(y[-1])
    slope = (top - foot) / high
    low, up, none = _fading(k, 0.0, high), _fading(k, high, high), np.zeros_like(k)
    if top_is_held:
        rows, sides = [low[0], low[2], up[0], up[2]], [-foot, none, -top, none]
    else:
        rows = [low[0], low[2], up[2] - nu * up[0], up[3] - (2 - nu) * up[1]]
        sides = [-foot, none, nu * top, (2 - nu) * slope / k]
    factors = np.linalg.solve(np.stack(rows, axis=1), np.stack(sides, axis=1)[:, :, None])[:, :, 0]
    edges = np.einsum("mhs,ms->mh", _fading(k[:, None], y[None, :], high)[0], factors)
    return np.asarray(foot[:, None] + slope[:, None] * y + edges)


@dataclass(frozen=True, slots=True, kw_only=True)
class WallBow:
    """How far the longest wall of a box bows, the most it may, and how often to brace it.

    The distance between braces is None where it needs none.
    """

    length_mm: float
    bow_mm: float
    limit_mm: float
    brace_mm: float | None

    def findings(self) -> tuple[Finding, ...]:
        """Return the finding for a wall that bows too far.

        Returns
        -------
        tuple of Finding
            One or none.
        """
        if self.brace_mm is None:
            return ()
        facts: Mapping[str, Amount | str] = {
            "length": Amount(self.length_mm, "length", 0),
            "bow": Amount(self.bow_mm, "length"),
            "limit": Amount(self.limit_mm, "length"),
            "brace": Amount(self.brace_mm, "length", 0),
        }
        return (Finding(code="wall-bows", facts=facts, field="wall_thickness_mm"),)


def wall_bow(*, length_mm: float, depth_mm: float, sg: float, sheet: PanelStock, side_mm: float) -> WallBow:
    """Work out how the longest wall of an open box bears the rubber.

    Parameters
    ----------
    length_mm : float
        Inside, between the corners that hold it.
    depth_mm : float
        Of the liquid; the wall above it only stiffens and is left out.
    sg : float
        Of the liquid.
    sheet : PanelStock
        What it is made of.
    side_mm : float
        The side clearance that it must keep.

    Returns
    -------
    WallBow
        A brace across the top and down the wall acts like a corner; the widest equal spacing that is sufficient is
        returned.
    """
    foot_kpa = wall_load(depth_mm=depth_mm, wall_length_mm=length_mm, sg=sg).base_kpa
    limit = min(LARGEST_BOW_MM, side_mm * SHARE_OF_SIDE) if side_mm > 0 else LARGEST_BOW_MM

    def of(span_mm: float) -> float:
        return bow_mm(
            length_mm=span_mm, height_mm=depth_mm, foot_kpa=foot_kpa, top_kpa=0.0, sheet=sheet, top_is_held=False
        )

    whole = of(length_mm)
    if whole <= limit:
        return WallBow(length_mm=length_mm, bow_mm=whole, limit_mm=limit, brace_mm=None)
    for spans in range(2, MOST_BRACES):
        if of(length_mm / spans) <= limit:
            return WallBow(length_mm=length_mm, bow_mm=whole, limit_mm=limit, brace_mm=length_mm / spans)
    return WallBow(length_mm=length_mm, bow_mm=whole, limit_mm=limit, brace_mm=length_mm / MOST_BRACES)
