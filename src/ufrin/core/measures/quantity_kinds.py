"""Kinds of quantities: the unit each is kept in, how each workshop's units show it, and what is believable.

Suffixes of names: ``_mm`` length, ``_ml`` volume, ``_g`` mass, ``_min`` time, ``_c`` temperature, ``_pct`` percent,
``_kpa`` pressure, ``_mpa_s`` viscosity; what is kept has these units whatever a page shows.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from ufrin.language import Text

Units = Literal["metric", "us"]


@dataclass(frozen=True, slots=True, kw_only=True)
class QuantityKind:
    """One kind of quantity.

    Parameters
    ----------
    noun : str
        With its article, for sentences.
    base : str
        Pint's name of the unit it is stored in; empty for a bare number.
    shown : mapping of unit system to (what is written, Pint's name, decimals of a figure)
        How it is shown.
    low, high : float
        The least and most that is believed, in the base unit.
    example : str
        What could be typed.
    """

    noun: str
    base: str
    shown: Mapping[Units, tuple[str, str, int]]
    low: float
    high: float
    example: str


def _same(written: str, unit: str, decimals: int) -> Mapping[Units, tuple[str, str, int]]:
    return {"metric": (written, unit, decimals), "us": (written, unit, decimals)}


# Limits are the interface's: nothing over 10 m, 10 m3, 10 t.
KINDS: Mapping[str, QuantityKind] = {
    "length": QuantityKind(
        noun=Text("a length"),
        base="mm",
        shown={"metric": ("mm", "mm", 1), "us": ("in", "inch", 2)},
        low=0,
        high=10_000,
        example=Text("90, 9 cm or 3 1/2 in"),
    ),
    "fine": QuantityKind(
        noun=Text("a length"),
        base="mm",
        shown={"metric": ("mm", "mm", 2), "us": ("in", "inch", 2)},
        low=0,
        high=10_000,
        example=Text("0.3 or 0.01 in"),
    ),
    "mass": QuantityKind(
        noun=Text("a weight"),
        base="g",
        shown={"metric": ("g", "g", 1), "us": ("oz", "ounce", 2)},
        low=0,
        high=1e7,
        example=Text("120, 1.2 kg or 4 oz"),
    ),
    "volume": QuantityKind(
        noun=Text("a volume"),
        base="ml",
        shown={"metric": ("ml", "ml", 0), "us": ("fl oz", "US_fluid_ounce", 2)},
        low=0,
        high=1e7,
        example=Text("120, 1.5 l or 4 fl oz"),
    ),
    "area": QuantityKind(
        noun=Text("an area"),
        base="cm**2",
        shown={"metric": ("cm²", "cm**2", 1), "us": ("in²", "inch**2", 2)},
        low=0,
        high=1e6,
        example=Text("12 or 2 in2"),
    ),
    "temperature": QuantityKind(
        noun=Text("a temperature"),
        base="degC",
        shown={"metric": ("°C", "degC", 0), "us": ("°F", "degF", 0)},
        low=-50,
        high=400,
        example=Text("21, 21 °C or 70 °F"),
    ),
    "time": QuantityKind(
        noun=Text("a time"),
        base="min",
        shown=_same("min", "min", 0),
        low=0,
        high=60 * 24 * 365,
        example=Text("30 min, 4 h or 1 h 30 min"),
    ),
    "percent": QuantityKind(
        noun=Text("a percentage"), base="", shown=_same("%", "", 1), low=0, high=100, example=Text("10 or 12.5")
    ),
    "stretch": QuantityKind(
        noun=Text("a percentage"), base="", shown=_same("%", "", 0), low=0, high=2000, example="400"
    ),
    "density": QuantityKind(
        noun=Text("a density"),
        base="g/ml",
        shown=_same("g/ml", "g/ml", 2),
        low=0.005,
        high=22.6,
        example=Text("1.13, 1130 kg/m3 or 70 lb/ft3"),
    ),
    "viscosity": QuantityKind(
        noun=Text("a viscosity"),
        base="mPa*s",
        shown=_same("mPa s", "mPa*s", 0),
        low=0,
        high=1e8,
        example=Text("3000, 3 Pa s or 3000 cP"),
    ),
    "pressure": QuantityKind(
        noun=Text("a pressure"),
        base="kPa",
        shown={"metric": ("kPa", "kPa", 2), "us": ("psi", "psi", 3)},
        low=0,
        high=1e5,
        example=Text("275 kPa or 40 psi"),
    ),
    "barometer": QuantityKind(
        noun=Text("a pressure of the air"),
        base="hPa",
        shown={"metric": ("hPa", "hPa", 0), "us": ("inHg", "inHg", 2)},
        low=0,
        high=2000,
        example=Text("985 hPa or 29.1 inHg"),
    ),
    "elevation": QuantityKind(
        noun=Text("a height above the sea"),
        base="m",
        shown={"metric": ("m", "m", 0), "us": ("ft", "ft", 0)},
        low=-1000,
        high=10_000,
        example=Text("640 m or 2100 ft"),
    ),
    "tear": QuantityKind(
        noun=Text("a tear strength"),
        base="kN/m",
        shown={"metric": ("kN/m", "kN/m", 1), "us": ("lbf/in", "lbf/inch", 0)},
        low=0,
        high=500,
        example=Text("18, 18 N/mm or 100 lbf/in"),
    ),
    "angle": QuantityKind(noun=Text("an angle"), base="", shown=_same("°", "", 0), low=-360, high=360, example="90"),
    "number": QuantityKind(
        noun=Text("a number"), base="", shown=_same("", "", 2), low=0, high=1e6, example=Text("10 or 2.5")
    ),
    "count": QuantityKind(noun=Text("a whole number"), base="", shown=_same("", "", 0), low=1, high=400, example="6"),
    "money": QuantityKind(
        noun=Text("an amount of money"), base="", shown=_same("", "", 2), low=0, high=1e7, example="42.50"
    ),
}
