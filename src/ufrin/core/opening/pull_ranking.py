"""The ranking of pulls: the best directions, with the seam that each would have."""

from collections.abc import Iterator, Mapping
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np

from ufrin.core.master.attitudes import turn_up
from ufrin.core.mesh.line_work import reduced
from ufrin.core.mesh.triangles import Floats, Mesh
from ufrin.core.opening.parting_surface import box_round, parting_surface
from ufrin.core.opening.pull_directions import (
    COARSE_CELLS,
    FINE_CELLS,
    SEARCH_FACES,
    Direction,
    ScoredDirection,
    coarse,
    different,
    refined,
)
from ufrin.core.opening.ranking_costs import COSTS
from ufrin.errors import Refused
from ufrin.language import Joined, Text

FIRST_COUNT, FIRST_CELLS, FIRST_FACES = 72, 40, 6_000
SEAM_FACES = 120_000  # a seam is computed on all of a mesh up to that: a thinned-out wall is no longer upright
COUNT, MOST_PULLS, SEAM_CELLS, SEAM_POINTS = 200, 6, 64, 160
FIRST_PULLS = 3
ON_SHOW = 0.5
LEANS_FROM = 0.05  # of unit length: about 3 degrees


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Pull:
    """A pull direction that is worth considering.

    Parameters
    ----------
    scored : ScoredDirection
        Its locked rubber, overhang and trapped air.
    volume_ml, size_mm : float
        Of the master: its displacement and longest side.
    flatness_mm, balance : float
        Of the parting surface: from its lowest to its highest point, and the smaller half's share of the rubber.
    seam_mm : float
        Length of the split lines.
    outward : (k, 3) float64
        Where points along them face, in the master's own coordinates.
    span_mm : (k,) float64
        The length of seam that each stands for.
    """

    scored: ScoredDirection
    volume_ml: float
    size_mm: float
    flatness_mm: float
    balance: float
    seam_mm: float
    outward: Floats
    span_mm: Floats

    def shown_mm(self, shown: Floats | None) -> float:
        """Return the length of seam across the show face.

        Parameters
        ----------
        shown : (3,) float or None
            The direction of the show face, in the master's own coordinates.

        Returns
        -------
        float
            In mm; 0 while no face is marked.
        """
        return 0.0 if shown is None else float(self.span_mm[self.outward @ shown > ON_SHOW].sum())

    def cost(self, shown: Floats | None) -> float:
        """Return its cost, lower is better.

        Locked rubber costs most of all, then seam on show, an uneven surface, unequal halves, air, depth.

        Parameters
        ----------
        shown : (3,) float or None
            As ``shown_mm`` takes it.

        Returns
        -------
        float
            Only for comparison.
        """
        one, costs = self.scored, COSTS["pulls"]
        return (
            costs["locked"] * max(0.0, one.locked_ml / self.volume_ml - costs["locked_free"])
            + costs["seam_on_show"] * self.shown_mm(shown) / self.size_mm
            + costs["uneven"] * self.flatness_mm / self.size_mm
            + costs["unequal"] * (0.5 - self.balance)
            + costs["air"] * one.trapped_ml / self.volume_ml
            + costs["depth"] * one.depth_mm / self.size_mm
        )

    def to_plain(self) -> dict[str, Any]:
        """Return it as plain values to be kept.

        Returns
        -------
        dict
            As ``from_plain`` takes it.
        """
        return {
            "scored": asdict(self.scored),
            "volume_ml": self.volume_ml,
            "size_mm": self.size_mm,
            "flatness_mm": self.flatness_mm,
            "balance": self.balance,
            "seam_mm": self.seam_mm,
            "outward": self.outward.round(3).tolist(),
            "span_mm": self.span_mm.round(3).tolist(),
        }

    @classmethod
    def from_plain(cls, plain: Mapping[str, Any], factor: float = 1.0) -> "Pull":
        """Do the inverse of ``to_plain``.

        Parameters
        ----------
        plain : mapping
            As kept.
        factor : float, optional
            Its size is multiplied by it.

        Returns
        -------
        Pull
            In mm.
        """
        return cls(
            scored=scaled(plain["scored"], factor),
            volume_ml=plain["volume_ml"] * factor**3,
            size_mm=plain["size_mm"] * factor,
            flatness_mm=plain["flatness_mm"] * factor,
            balance=plain["balance"],
            seam_mm=plain["seam_mm"] * factor,
            outward=np.array(plain["outward"], dtype=float).reshape(-1, 3),
            span_mm=np.array(plain["span_mm"], dtype=float) * factor,
        )


def scaled(plain: Mapping[str, Any], factor: float) -> ScoredDirection:
    """Read a kept score.

    Parameters
    ----------
    plain : mapping
        Of its fields.
    factor : float
        The master's size is multiplied by it.

    Returns
    -------
    ScoredDirection
        In mm.
    """
    x, y, z = plain["pull"]
    return ScoredDirection(
        pull=(x, y, z),
        locked_ml=plain["locked_ml"] * factor**3,
        overhang_ml=plain["overhang_ml"] * factor**3,
        trapped_ml=plain["trapped_ml"] * factor**3,
        depth_mm=plain["depth_mm"] * factor,
        cells=plain["cells"],
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Ranking:
    """Directions scored so far, best first, the pulls worth a look, and whether that is all."""

    scored: tuple[ScoredDirection, ...]
    pulls: tuple[Pull, ...]
    is_whole: bool

    def ranked(self, shown: Floats | None) -> tuple[Pull, ...]:
        """Rank the pulls for a show face.

        Parameters
        ----------
        shown : (3,) float or None
            The direction of the show face, in the master's own coordinates.

        Returns
        -------
        tuple of Pull
            Best first.
        """
        return tuple(sorted(self.pulls, key=lambda pull: pull.cost(shown)))

    def to_plain(self) -> dict[str, Any]:
        """Return it as plain values to be kept.

        Returns
        -------
        dict
            As ``from_plain`` takes it.
        """
        return {
            "scored": [asdict(one) for one in self.scored],
            "pulls": [pull.to_plain() for pull in self.pulls],
            "is_whole": self.is_whole,
        }

    @classmethod
    def from_plain(cls, plain: Mapping[str, Any], factor: float = 1.0) -> "Ranking":
        """Do the inverse of ``to_plain``.

        Parameters
        ----------
        plain : mapping
            As kept.
        factor : float, optional
            The master's size is multiplied by it.

        Returns
        -------
        Ranking
            In mm.
        """
        return cls(
            scored=tuple(scaled(one, factor) for one in plain["scored"]),
            pulls=tuple(Pull.from_plain(one, factor) for one in plain["pulls"]),
            is_whole=plain["is_whole"],
        )


def rankings(mesh: Mesh) -> Iterator[Ranking]:
    """Rank pull directions, coarsely at first and then closely.

    Parameters
    ----------
    mesh : Mesh
        Closed.

    Yields
    ------
    Ranking
        The first from a few directions, then one from all, then the finalists evaluated closely.
    """
    thin = reduced(mesh, SEARCH_FACES)
    first = coarse(reduced(thin, FIRST_FACES), FIRST_COUNT, FIRST_CELLS)
    pulls = _pulls(thin, first, FIRST_PULLS)
    yield Ranking(scored=tuple(first), pulls=pulls, is_whole=False)
    found = coarse(thin, COUNT, COARSE_CELLS)
    yield Ranking(scored=tuple(found), pulls=pulls, is_whole=False)
    found = refined(mesh, found, FINE_CELLS)
    yield Ranking(scored=tuple(found), pulls=_pulls(reduced(mesh, SEAM_FACES), found, MOST_PULLS), is_whole=True)


def _pulls(mesh: Mesh, found: list[ScoredDirection], most: int) -> tuple[Pull, ...]:
    made = []
    for one in different(found, most):
        try:
            made.append(pull_along(mesh, one))
        except Refused:  # a thinned-out copy that came apart along this very direction
            continue
    return tuple(made)


def pull_along(mesh: Mesh, one: ScoredDirection) -> Pull:
    """Evaluate a direction as a pull.

    Parameters
    ----------
    mesh : Mesh
        Closed.
    one : ScoredDirection
        The direction.

    Returns
    -------
    Pull
        With its seam.
    """
    turn = turn_up(one.pull)
    turned = mesh.moved(turn)
    side = 0.12 * float(turned.extents_mm.max())
    parted = parting_surface(turned, box_round(turned, side), under_mm=side, over_mm=side, cells=SEAM_CELLS)
    outward = np.concatenate(
        [np.column_stack([seam.outward, np.zeros(len(seam.outward))]) for seam in parted.seams] or [np.zeros((0, 3))]
    )
    span = np.concatenate([seam.span_mm for seam in parted.seams] or [np.zeros(0)])
    step = max(1, len(span) // SEAM_POINTS)
    return Pull(
        scored=one,
        volume_ml=parted.master_ml,
        size_mm=float(turned.extents_mm.max()),
        flatness_mm=parted.flatness_mm,
        balance=parted.balance,
        seam_mm=float(span.sum()),
        outward=(outward @ turn)[::step],
        span_mm=span[::step] * (span.sum() / max(float(span[::step].sum()), 1e-9)),
    )


def direction_text(pull: Direction) -> str:
    """Write a direction as it is typed and kept.

    Parameters
    ----------
    pull : (x, y, z)
        In the master's own coordinates.

    Returns
    -------
    str
        Four places, a hundredth of a degree.
    """
    return ", ".join(f"{round(number, 4) + 0.0:g}" for number in pull)


def direction_words(pull: Direction) -> str:
    """Return a direction in words, by the nearest axis of the master.

    Parameters
    ----------
    pull : (x, y, z)
        In the master's own coordinates, of unit length.

    Returns
    -------
    str
        Such as "its z upwards", or "15° off its y downwards, towards its x".

    Examples
    --------
    >>> direction_words((0.0, -1.0, 0.0))
    'its y downwards'
    """
    axis = int(np.argmax(np.abs(pull)))
    name = Text("its {axis} upwards", axis="xyz"[axis])
    if pull[axis] < 0:
        name = Text("its {axis} downwards", axis="xyz"[axis])
    off = float(np.degrees(np.arccos(min(1.0, abs(pull[axis])))))
    if off < 0.5:
        return name
    # two directions as far off the same axis differ in where they lean
    leans = sorted((one for one in range(3) if one != axis), key=lambda one: -abs(pull[one]))
    told = [one for one in leans if abs(pull[one]) > LEANS_FROM] or leans[:1]
    towards = ["xyz"[one] if pull[one] > 0 else Text("minus {axis}", axis="xyz"[one]) for one in told]
    return Text(
        "{off:.0f}° off {name}, towards its {towards}", off=off, name=name, towards=Joined(towards, Text(" and "))
    )
