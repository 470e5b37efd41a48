"""Test coupons: pucks for the gauge, the rubber that they take, and whether their readings count."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

from ufrin.core.measures.plain_volumes import drum_ml
from ufrin.core.rubber.shore import Hardness, ShoreScale, better_scale
from ufrin.core.rubber.tins import Rubber
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text

# durometer practice after ASTM D2240 and ISO 48-4, from memory
LEAST_THICKNESS_MM, EDGE_MM, APART_MM, READINGS = 6.0, 12.0, 6.0, 5
MOST_READINGS = 20
# five readings 6 mm apart and 12 mm from the edge, with room to spare; 8 mm high so that a meniscus leaves 6
PUCK_MM, PUCK_HIGH_MM = 44.0, 8.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Coupon:
    """A puck with its readings.

    Parameters
    ----------
    scale : "00", "A" or "D"
        Which gauge.
    readings : sequence of float
        As read, in any order.
    thickness_mm, edge_mm, apart_mm : float
        Of the puck; the least distance of a reading from its edge; the least distance between readings.
    """

    scale: ShoreScale
    readings: Sequence[float]
    thickness_mm: float = PUCK_HIGH_MM
    edge_mm: float = EDGE_MM
    apart_mm: float = APART_MM

    def __post_init__(self) -> None:
        if not 1 <= len(self.readings) <= MOST_READINGS:
            raise Refused(
                "readings",
                Text(
                    "Type what the gauge read: {readings} numbers, and at most {most_readings}.",
                    readings=READINGS,
                    most_readings=MOST_READINGS,
                ),
            )
        if not all(0 <= reading <= 100 for reading in self.readings):
            raise Refused("readings", Text("A gauge reads from 0 to 100. Check the numbers."))
        if not 0 < self.thickness_mm <= 1000:
            raise Refused("thickness_mm", Text("A puck is more than nothing thick. Measure it."))

    @property
    def shore(self) -> float:
        """The median: one outlier does not move it."""
        return float(median(self.readings))

    @property
    def hardness(self) -> Hardness:
        """The median as a hardness."""
        return Hardness(scale=self.scale, shore=self.shore)

    @property
    def thick_enough(self) -> bool:
        """Whether it is thick enough that the table under it does not affect the reading."""
        return self.thickness_mm >= LEAST_THICKNESS_MM

    @property
    def placed_rightly(self) -> bool:
        """Whether the readings kept clear of the edge and of each other."""
        return self.edge_mm >= EDGE_MM and self.apart_mm >= APART_MM

    @property
    def enough_readings(self) -> bool:
        """Whether there are five."""
        return len(self.readings) >= READINGS

    def findings(self) -> tuple[Finding, ...]:
        """Return what is wrong with it as a measurement.

        Returns
        -------
        tuple of Finding
            None when it counts without reserve.
        """
        found = []
        if not self.hardness.is_good:
            other = better_scale(self.hardness.modulus_mpa)
            facts = {"reading": f"{self.scale} {self.shore:g}"}
            if other == self.scale:
                found.append(Finding(code="coupon-off-all", facts=facts, field="readings"))
            else:
                found.append(Finding(code="coupon-off-scale", facts={**facts, "other": other}, field="readings"))
        if not self.thick_enough:
            found.append(
                Finding(
                    code="coupon-thin", facts={"thickness": Amount(self.thickness_mm, "length")}, field="thickness_mm"
                )
            )
        if not self.placed_rightly:
            found.append(Finding(code="coupon-edge", field="edge_mm"))
        if not self.enough_readings:
            found.append(Finding(code="coupon-few", facts={"readings": str(len(self.readings))}, field="readings"))
        return tuple(found)


def read_readings(text: str) -> tuple[float, ...]:
    """Read a row of gauge readings.

    Parameters
    ----------
    text : str
        Numbers separated by spaces, commas or semicolons; a decimal comma can't be told from a separator, so a point
        is needed.

    Returns
    -------
    tuple of float
        In their order.

    Raises
    ------
    Refused
        When a part of it is not a number.

    Examples
    --------
    >>> read_readings("24, 25 23.5; 24.5 26")
    (24.0, 25.0, 23.5, 24.5, 26.0)
    """
    pieces = text.replace(",", " ").replace(";", " ").split()[: MOST_READINGS + 1]
    numbers = []
    for piece in pieces:
        if not (piece.isascii() and piece.replace(".", "", 1).isdigit() and len(piece) < 8):
            raise Refused(
                "readings",
                Text("“{piece}” is not a reading. Type numbers such as 24 25 23.5 24.5 26.", piece=piece[:20]),
            )
        numbers.append(float(piece))
    return tuple(numbers)


@dataclass(frozen=True, slots=True, kw_only=True)
class PuckRecipe:
    """What is weighed for a puck: A, B, and the thinner for each 10 parts per 100."""

    a_g: float
    b_g: float
    thinner_g: float


def puck_recipe(rubber: Rubber, sg: float) -> PuckRecipe:
    """Return what is weighed for a puck.

    Parameters
    ----------
    rubber : Rubber
        With its ratio by weight.
    sg : float
        Of the rubber when mixed, g/ml.

    Returns
    -------
    PuckRecipe
        For a puck 44 mm across and 8 mm high.
    """
    puck_g = drum_ml(PUCK_MM, PUCK_HIGH_MM) * sg
    a, b = rubber.weight_ratio
    return PuckRecipe(a_g=puck_g * a / (a + b), b_g=puck_g * b / (a + b), thinner_g=puck_g / 10)
