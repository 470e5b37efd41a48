"""Shore hardness: the scales 00, A and D, linked through Young's modulus, and where each can be trusted."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator

from ufrin.core.data_files import read_data
from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused
from ufrin.language import Text

ShoreScale = Literal["00", "A", "D"]
SCALES: Mapping[str, str] = {"00": Text("Shore 00"), "A": Text("Shore A"), "D": Text("Shore D")}
GOOD_FROM, GOOD_TO = 20.0, 90.0  # ASTM D2240 practice, from memory: a reading beyond calls for another scale
HARDEST_A = 99.0  # Gent's relation diverges at 100


@dataclass(frozen=True, slots=True, kw_only=True)
class Hardness:
    """A reading on one of the scales.

    Parameters
    ----------
    scale : "00", "A" or "D"
        Which gauge.
    shore : float
        From 0 to 100.
    """

    scale: ShoreScale
    shore: float

    def __post_init__(self) -> None:
        if self.scale not in SCALES:
            raise Refused("scale", Text("A hardness is read on the scale 00, A or D."))
        if not 0 <= self.shore <= 100:
            raise Refused("shore", Text("Shore hardness runs from 0 to 100."))
        if self.scale == "A" and self.shore > HARDEST_A:
            raise Refused("shore", Text("Above A 99 the scale A says nothing any more. Read it on D."))

    def __str__(self) -> str:
        return f"{self.scale} {self.shore:.0f}"

    @property
    def modulus_mpa(self) -> float:
        """Young's modulus: Gent's relation on A, the table of ``data/hardness.toml`` on 00 and D."""
        return gent_mpa(self.shore) if self.scale == "A" else _from_table(_TABLES[self.scale], self.shore)

    @property
    def is_good(self) -> bool:
        """Whether it lies in the part of the scale that can be trusted."""
        return GOOD_FROM <= self.shore <= GOOD_TO

    def findings(self, field: str = "rubber_id") -> tuple[Finding, ...]:
        """Return the finding for a reading near the end of its scale, with the gauge to use instead.

        Parameters
        ----------
        field : str, optional
            The input that the reading came from.

        Returns
        -------
        tuple of Finding
            ``scale-end``, or none.
        """
        if self.is_good or (better := better_scale(self.modulus_mpa)) == self.scale:
            return ()
        return (Finding(code="scale-end", facts={"reading": str(self), "other": better}, field=field),)


def gent_mpa(shore_a: float) -> float:
    """Return Young's modulus of a reading on A: E = 0.0981 (56 + 7.62336 S) / (0.137505 (254 - 2.54 S)).

    Parameters
    ----------
    shore_a : float
        Below 100.

    Returns
    -------
    float
        In MPa. A. N. Gent, "On the relation between indentation hardness and Young's modulus", Rubber Chemistry
        and Technology 31 (1958); coefficients from memory.

    Examples
    --------
    >>> round(gent_mpa(30), 4)
    1.1424
    """
    return 0.0981 * (56 + 7.62336 * shore_a) / (0.137505 * (254 - 2.54 * shore_a))


def gent_shore_a(modulus_mpa: float) -> float:
    """Return the reading on A of a modulus: Gent's relation solved for S; below 0 it is softer than the scale reaches.

    Parameters
    ----------
    modulus_mpa : float
        Young's modulus.

    Returns
    -------
    float
        Shore A.
    """
    k = 0.137505 * modulus_mpa
    return (254 * k - 0.0981 * 56) / (2.54 * k + 0.0981 * 7.62336)


@lru_cache(maxsize=4096)
def reading(modulus_mpa: float, scale: ShoreScale) -> float | None:
    """Return the reading of a gauge.

    Parameters
    ----------
    modulus_mpa : float
        Young's modulus.
    scale : "00", "A" or "D"
        Which gauge.

    Returns
    -------
    float or None
        From 0 to 100; None where the scale does not reach.
    """
    if scale == "A":
        shore = gent_shore_a(modulus_mpa)
        return shore if -1e-9 <= shore <= HARDEST_A else None
    shores, logs = _TABLES[scale]
    at = np.log(modulus_mpa)
    if not logs[0] - 1e-12 <= at <= logs[-1] + 1e-12:
        return None
    solved = _INTERPOLATE[scale].solve(float(np.clip(at, logs[0], logs[-1])), extrapolate=False)
    return float(solved[0]) if len(solved) else float(shores[0] if at <= logs[0] else shores[-1])


def better_scale(modulus_mpa: float) -> ShoreScale:
    """Return the gauge that reads a modulus in the good part of its scale.

    Parameters
    ----------
    modulus_mpa : float
        Young's modulus.

    Returns
    -------
    "00", "A" or "D"
        A where two would do.
    """
    for scale in _IN_TURN:
        shore = reading(modulus_mpa, scale)
        if shore is not None and GOOD_FROM <= shore <= GOOD_TO:
            return scale
    return "D" if modulus_mpa > gent_mpa(GOOD_TO) else "00"


_IN_TURN: tuple[ShoreScale, ...] = ("A", "00", "D")
_DATA: Mapping[str, Any] = read_data("rubber", "hardness")
Table = tuple[NDArray[np.float64], NDArray[np.float64]]


def _table(moduli: Mapping[str, float], pairs: Mapping[str, float]) -> Table:
    # shore, ln E
    known = {float(shore): float(mpa) for shore, mpa in moduli.items()} | {
        float(shore): gent_mpa(a) for shore, a in pairs.items()
    }
    shores = np.array(sorted(known))
    return shores, np.log([known[shore] for shore in shores])


_TABLES: Mapping[str, Table] = {
    "00": _table(_DATA["soft_00"], _DATA["pairs_00"]),
    "D": _table(_DATA["hard_d"], _DATA["pairs_d"]),
}
_INTERPOLATE: Mapping[str, PchipInterpolator] = {scale: PchipInterpolator(*table) for scale, table in _TABLES.items()}


def _from_table(table: Table, shore: float) -> float:
    shores, _ = table
    if not shores[0] <= shore <= shores[-1]:
        raise Refused(
            "shore",
            Text(
                "This scale says nothing below {shores:g} and above {shores2:g}. Read it on a harder or softer scale.",
                shores=shores[0],
                shores2=shores[-1],
            ),
        )
    return float(np.exp(_INTERPOLATE["00" if table is _TABLES["00"] else "D"](shore)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Feel:
    """What a hardness feels like (from memory)."""

    key: str
    label: str
    hardness: Hardness


FEELS: Mapping[str, Feel] = {
    row["key"]: Feel(key=row["key"], label=row["label"], hardness=Hardness(scale=row["scale"], shore=row["shore"]))
    for row in _DATA["feels"]
}


@lru_cache(maxsize=1024)
def feel_of(modulus_mpa: float) -> Feel:
    """Return what a modulus feels most like.

    Parameters
    ----------
    modulus_mpa : float
        Young's modulus.

    Returns
    -------
    Feel
        The nearest, by the ratio of the moduli.
    """
    return min(FEELS.values(), key=lambda feel: abs(np.log(feel.hardness.modulus_mpa / modulus_mpa)))
