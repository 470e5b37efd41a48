"""The record of a measured mesh as plain values that can be kept; its size in words, and its most likely unit."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ufrin.core.mesh.files import UNITS_MM, MeshFile
from ufrin.core.mesh.mesh_volume import MeasuredMesh
from ufrin.core.wording.findings import Amount, Finding
from ufrin.language import Text

# longest side in mm up to which a thing is about as large as the object (common practice)
_LIKE = (
    (8, Text("a pea")),
    (22, Text("a hazelnut")),
    (40, Text("a walnut")),
    (65, Text("an egg")),
    (100, Text("a fist")),
    (180, Text("a hand")),
    (320, Text("a forearm")),
    (700, Text("an arm")),
    (1800, Text("a person")),
    (10_000, Text("a boat")),
)
SMALLEST_MM, LARGEST_MM = 8.0, 1500.0  # the usual sizes of masters


@dataclass(frozen=True, slots=True, kw_only=True)
class MeshFigures:
    """The record of a mesh. Sizes are in the file's own unit, taken as mm; ``in_unit`` converts them.

    Parameters
    ----------
    format : str
        Of the file.
    triangles, bodies : int
        As they came.
    watertight : bool
        As it came.
    method : str
        How the volume was found.
    volume_ml, plus_minus_ml, area_cm2 : float
        Of the solid.
    low_mm, high_mm : (x, y, z)
        Corners of the box round it.
    says_unit : str
        What the file itself states; often nothing.
    findings : tuple of Finding
        What was mended.
    """

    format: str
    triangles: int
    bodies: int
    watertight: bool
    method: str
    volume_ml: float
    plus_minus_ml: float
    area_cm2: float
    low_mm: tuple[float, ...]
    high_mm: tuple[float, ...]
    says_unit: str
    findings: tuple[Finding, ...]

    @property
    def size_mm(self) -> tuple[float, ...]:
        """Over all."""
        return tuple(high - low for low, high in zip(self.low_mm, self.high_mm, strict=True))

    @property
    def unit(self) -> str:
        """The unit of the file, or the one in which it would be as large as masters usually are."""
        if self.says_unit:
            return self.says_unit
        longest = max(self.size_mm)
        fits = [unit for unit in ("mm", "in", "cm", "m") if SMALLEST_MM <= longest * UNITS_MM[unit] <= LARGEST_MM]
        return fits[0] if fits else "mm"

    def in_unit(self, unit: str) -> "MeshFigures":
        """Return the same for a file drawn in some unit.

        Returns
        -------
        MeshFigures
            In mm.
        """
        k = UNITS_MM[unit]
        plain = self.to_plain()
        for key, power in (("volume_ml", 3), ("plus_minus_ml", 3), ("area_cm2", 2)):
            plain[key] *= k**power
        plain["low_mm"], plain["high_mm"] = [x * k for x in self.low_mm], [x * k for x in self.high_mm]
        for finding in plain["findings"]:
            for fact in finding["facts"].values():
                if isinstance(fact, dict) and fact["kind"] == "volume":
                    fact["value"] *= k**3
        return MeshFigures.from_plain(plain)

    def to_plain(self) -> dict[str, Any]:
        """Return the record as plain values.

        Returns
        -------
        dict
            As JSON takes them.
        """
        plain = {key: getattr(self, key) for key in self.__slots__ if key != "findings"}
        facts = [
            {
                name: {"value": fact.value, "kind": fact.kind, "decimals": fact.decimals}
                if isinstance(fact, Amount)
                else fact
                for name, fact in finding.facts.items()
            }
            for finding in self.findings
        ]
        return {
            **plain,
            "findings": [
                {"code": finding.code, "facts": shown} for finding, shown in zip(self.findings, facts, strict=True)
            ],
        }

    @classmethod
    def from_plain(cls, plain: Mapping[str, Any]) -> "MeshFigures":
        """Read a record from plain values.

        Returns
        -------
        MeshFigures
            The same as before.
        """
        findings = tuple(
            Finding(
                code=one["code"],
                facts={name: Amount(**fact) if isinstance(fact, dict) else fact for name, fact in one["facts"].items()},
            )
            for one in plain["findings"]
        )
        return cls(
            **{**plain, "low_mm": tuple(plain["low_mm"]), "high_mm": tuple(plain["high_mm"]), "findings": findings}
        )


def figures_of(got: MeshFile, measured: MeasuredMesh) -> MeshFigures:
    """Make the record of a mesh.

    Parameters
    ----------
    got : MeshFile
        As it came.
    measured : MeasuredMesh
        The same measured.

    Returns
    -------
    MeshFigures
        In the file's own unit.
    """
    low, high = measured.solid.bounds_mm.tolist()
    return MeshFigures(
        format=got.format,
        triangles=got.triangles,
        bodies=measured.bodies,
        watertight=measured.watertight,
        method=measured.method,
        volume_ml=measured.volume_ml,
        plus_minus_ml=measured.plus_minus_ml,
        area_cm2=measured.area_cm2,
        low_mm=tuple(low),
        high_mm=tuple(high),
        says_unit=got.says_unit,
        findings=measured.findings,
    )


def size_in_words(longest_mm: float) -> str:
    """Return how large something is, in terms of an object that everybody knows.

    Parameters
    ----------
    longest_mm : float
        Its longest side.

    Returns
    -------
    str
        With its article.

    Examples
    --------
    >>> size_in_words(82)
    'a fist'
    """
    return next((like for limit, like in _LIKE if longest_mm <= limit), Text("a house"))
