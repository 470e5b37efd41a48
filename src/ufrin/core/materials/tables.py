"""The tables of materials and boards, read once from ``data``."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.data_files import read_data


@dataclass(frozen=True, slots=True, kw_only=True)
class Material:
    """What a master may be made of.

    Parameters
    ----------
    key, label : str
        Its name in records and on screen.
    low_g_per_ml, high_g_per_ml : float
        The range usually met.
    may_be_hollow : bool
        Whether it is a print that may be sparse inside, so that its weight says nothing about its outside.
    surface : str
        Its kind where rubber touches it.
    """

    key: str
    label: str
    low_g_per_ml: float
    high_g_per_ml: float
    may_be_hollow: bool = False
    surface: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Board:
    """A board that walls may be cut from.

    Parameters
    ----------
    key, label : str
        Its name in records and on screen.
    youngs_modulus_gpa, poisson_ratio : float
        Its stiffness.
    surface : str
        Its kind where rubber touches it.
    """

    key: str
    label: str
    youngs_modulus_gpa: float
    poisson_ratio: float
    surface: str


def _boards() -> Mapping[str, Board]:
    table = read_data("materials", "boards")
    return {
        key: Board(
            key=key, label=row["label"], youngs_modulus_gpa=row["e"], poisson_ratio=row["nu"], surface=row["surface"]
        )
        for key, row in table["boards"].items()
    }


def _materials() -> Mapping[str, Material]:
    table = read_data("materials", "densities")
    return {
        key: Material(
            key=key,
            label=row["label"],
            low_g_per_ml=row["low"],
            high_g_per_ml=row["high"],
            may_be_hollow=row.get("may_be_hollow", False),
            surface=row["surface"],
        )
        for key, row in table["materials"].items()
    }


MATERIALS: Mapping[str, Material] = _materials()
BOARDS: Mapping[str, Board] = _boards()
