"""Quantities: the kinds Ufrin knows, what people type for them, and how they are shown.

Suffixes of names: ``_mm`` length, ``_ml`` volume, ``_g`` mass, ``_min`` time, ``_c`` temperature, ``_pct`` percent,
``_mpa_s`` viscosity, ``_kpa`` pressure, ``_g_per_ml`` density, ``_kn_per_m`` tear strength, ``_pm`` before the unit:
plus-minus. Conversions are Pint's; what is typed is read by our own grammar, since an expression parser is no place for
hostile text.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Literal

import pint

from ufrin.errors import Refused

Units = Literal["metric", "us"]
_registry: pint.UnitRegistry[float] = pint.UnitRegistry(cache_folder=None)
LONGEST_TEXT = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
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
KINDS: Mapping[str, Kind] = {
    "length": Kind(
        noun="a length",
        base="mm",
        shown={"metric": ("mm", "mm", 1), "us": ("in", "inch", 2)},
        low=0,
        high=10_000,
        example="90, 9 cm or 3 1/2 in",
    ),
    "fine": Kind(
        noun="a length",
        base="mm",
        shown={"metric": ("mm", "mm", 2), "us": ("in", "inch", 2)},
        low=0,
        high=10_000,
        example="0.3 or 0.01 in",
    ),
    "mass": Kind(
        noun="a weight",
        base="g",
        shown={"metric": ("g", "g", 1), "us": ("oz", "ounce", 2)},
        low=0,
        high=1e7,
        example="120, 1.2 kg or 4 oz",
    ),
    "volume": Kind(
        noun="a volume",
        base="ml",
        shown={"metric": ("ml", "ml", 0), "us": ("fl oz", "US_fluid_ounce", 1)},
        low=0,
        high=1e7,
        example="120, 1.5 l or 4 fl oz",
    ),
    "area": Kind(
        noun="an area",
        base="cm**2",
        shown={"metric": ("cm²", "cm**2", 1), "us": ("in²", "inch**2", 2)},
        low=0,
        high=1e6,
        example="12 or 2 in2",
    ),
    "temperature": Kind(
        noun="a temperature",
        base="degC",
        shown={"metric": ("°C", "degC", 0), "us": ("°F", "degF", 0)},
        low=-50,
        high=400,
        example="21, 21 °C or 70 °F",
    ),
    "time": Kind(
        noun="a time",
        base="min",
        shown=_same("min", "min", 0),
        low=0,
        high=60 * 24 * 365,
        example="30 min, 4 h or 1 h 30 min",
    ),
    "percent": Kind(noun="a percentage", base="", shown=_same("%", "", 1), low=0, high=100, example="10 or 12.5"),
    "stretch": Kind(noun="a percentage", base="", shown=_same("%", "", 0), low=0, high=2000, example="400"),
    "density": Kind(
        noun="a density",
        base="g/ml",
        shown=_same("g/ml", "g/ml", 2),
        low=0.005,
        high=22.6,
        example="1.13, 1130 kg/m3 or 70 lb/ft3",
    ),
    "viscosity": Kind(
        noun="a viscosity",
        base="mPa*s",
        shown=_same("mPa s", "mPa*s", 0),
        low=0,
        high=1e8,
        example="3000, 3 Pa s or 3000 cP",
    ),
    "pressure": Kind(
        noun="a pressure",
        base="kPa",
        shown={"metric": ("kPa", "kPa", 2), "us": ("psi", "psi", 3)},
        low=0,
        high=1e5,
        example="275 kPa or 40 psi",
    ),
    "tear": Kind(
        noun="a tear strength",
        base="kN/m",
        shown={"metric": ("kN/m", "kN/m", 1), "us": ("lbf/in", "lbf/inch", 0)},
        low=0,
        high=500,
        example="18, 18 N/mm or 100 lbf/in",
    ),
    "angle": Kind(noun="an angle", base="", shown=_same("°", "", 0), low=-360, high=360, example="90"),
    "number": Kind(noun="a number", base="", shown=_same("", "", 2), low=0, high=1e6, example="10 or 2.5"),
    "count": Kind(noun="a whole number", base="", shown=_same("", "", 0), low=1, high=400, example="6"),
    "money": Kind(noun="an amount of money", base="", shown=_same("", "", 2), low=0, high=1e7, example="42.50"),
}

# What is typed -> what it means for each kind. An "oz" is a weight in a weight field and a fluid ounce (US) in a
# volume field.
_TYPED: Mapping[str, Mapping[str, str]] = {
    "length": {
        "mm": "mm",
        "millimetres": "mm",
        "millimeters": "mm",
        "cm": "cm",
        "dm": "dm",
        "m": "m",
        "in": "inch",
        "inch": "inch",
        "inches": "inch",
        '"': "inch",
        "″": "inch",
        "”": "inch",
        "''": "inch",
        "ft": "foot",
        "foot": "foot",
        "feet": "foot",
        "'": "foot",
        "′": "foot",
        "’": "foot",
    },
    "fine": {"mm": "mm", "in": "inch", '"': "inch"},
    "mass": {
        "mg": "mg",
        "g": "g",
        "gr": "g",
        "gram": "g",
        "grams": "g",
        "gm": "g",
        "kg": "kg",
        "kilo": "kg",
        "t": "tonne",
        "oz": "ounce",
        "ounce": "ounce",
        "ounces": "ounce",
        "lb": "pound",
        "lbs": "pound",
        "pound": "pound",
        "pounds": "pound",
    },
    "volume": {
        "ml": "ml",
        "cc": "ml",
        "cm3": "ml",
        "cm³": "ml",
        "cl": "cl",
        "dl": "dl",
        "l": "liter",
        "litre": "liter",
        "litres": "liter",
        "liter": "liter",
        "liters": "liter",
        "m3": "m**3",
        "m³": "m**3",
        "mm3": "mm**3",
        "mm³": "mm**3",
        "in3": "inch**3",
        "in³": "inch**3",
        "cu in": "inch**3",
        "fl oz": "US_fluid_ounce",
        "floz": "US_fluid_ounce",
        "oz": "US_fluid_ounce",
        "pt": "US_pint",
        "pint": "US_pint",
        "pints": "US_pint",
        "qt": "US_liquid_quart",
        "quart": "US_liquid_quart",
        "quarts": "US_liquid_quart",
        "gal": "US_liquid_gallon",
        "gallon": "US_liquid_gallon",
        "gallons": "US_liquid_gallon",
        "cup": "US_liquid_cup",
        "cups": "US_liquid_cup",
        "tsp": "teaspoon",
        "tbsp": "tablespoon",
        "imp fl oz": "imperial_fluid_ounce",
        "imp pt": "imperial_pint",
        "imp gal": "imperial_gallon",
    },
    "area": {
        "cm2": "cm**2",
        "cm²": "cm**2",
        "mm2": "mm**2",
        "mm²": "mm**2",
        "in2": "inch**2",
        "in²": "inch**2",
        "m2": "m**2",
        "m²": "m**2",
    },
    "temperature": {
        "°c": "degC",
        "c": "degC",
        "degc": "degC",
        "°f": "degF",
        "f": "degF",
        "degf": "degF",
        "k": "kelvin",
    },
    "time": {
        "s": "s",
        "sec": "s",
        "min": "min",
        "mins": "min",
        "minutes": "min",
        "minute": "min",
        "h": "hour",
        "hr": "hour",
        "hrs": "hour",
        "hour": "hour",
        "hours": "hour",
        "d": "day",
        "day": "day",
        "days": "day",
    },
    "percent": {"%": "", "percent": "", "pct": ""},
    "angle": {"°": "", "deg": "", "degrees": ""},
    "stretch": {"%": "", "percent": "", "pct": ""},
    "density": {
        "g/ml": "g/ml",
        "g/cm3": "g/ml",
        "g/cm³": "g/ml",
        "g/cc": "g/ml",
        "kg/l": "kg/liter",
        "kg/m3": "kg/m**3",
        "kg/m³": "kg/m**3",
        "lb/ft3": "pound/foot**3",
        "lb/ft³": "pound/foot**3",
        "lb/in3": "pound/inch**3",
        "sg": "g/ml",
    },
    "viscosity": {
        "mpa s": "mPa*s",
        "mpas": "mPa*s",
        "mpa·s": "mPa*s",
        "cp": "centipoise",
        "cps": "centipoise",
        "pa s": "Pa*s",
        "pas": "Pa*s",
        "pa·s": "Pa*s",
    },
    "pressure": {"kpa": "kPa", "psi": "psi", "bar": "bar", "mbar": "mbar", "pa": "Pa", "inhg": "inHg"},
    "tear": {
        "kn/m": "kN/m",
        "n/mm": "N/mm",
        "n/m": "N/m",
        "lbf/in": "lbf/inch",
        "lb/in": "lbf/inch",
        "pli": "lbf/inch",
    },
}

_FRACTIONS = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
}
_NUMBER = r"(?P<sign>[-+−]?)\s*(?:(?P<whole>\d+)[\s-]+)?(?P<top>\d+)\s*/\s*(?P<under>\d+)|(?P<sign2>[-+−]?)\s*(?P<plain>\d+(?:[.,]\d+)?|[.,]\d+)"
_TERM = re.compile(rf"\s*(?:{_NUMBER})\s*(?P<unit>[^\d\s.,+−-][^\d,+−-]*?[³3]?)?\s*(?=$|[-+−]?(?:\d|[.,]\d))")
_SPACES = re.compile(r"\s+")


def convert(value: float, unit: str, to: str) -> float:
    """Turn a value from one of Pint's units into another.

    Parameters
    ----------
    value : float
        In ``unit``.
    unit, to : str
        Pint's names.

    Returns
    -------
    float
        In ``to``.

    Examples
    --------
    >>> convert(1, "inch", "mm")
    25.4
    """
    if unit == to or not unit:
        return value
    straight = _line(unit, to)
    return float(value * straight[0] + straight[1])


@cache
def _line(unit: str, to: str) -> tuple[float, float]:
    # every conversion here is a straight line; asking Pint once and keeping it is 50 times faster on a page of 40
    # figures
    zero = float(_registry.Quantity(0.0, unit).to(to).magnitude)
    one = float(_registry.Quantity(1.0, unit).to(to).magnitude)
    return (one - zero, zero) if zero else (one, 0.0)


def parse(text: str, kind_key: str, units: Units = "metric", *, field: str = "") -> float:
    """Read what somebody typed for a quantity.

    Parameters
    ----------
    text : str
        Such as ``90``, ``9 cm``, ``3 1/2 in``, ``5' 3"``; a bare number is in the workshop's unit.
    kind_key : str
        One of ``KINDS``.
    units : "metric" or "us"
        The unit system that the page showed.
    field : str, optional
        The name of the field, for the error.

    Returns
    -------
    float
        In the base unit of the kind.

    Raises
    ------
    Refused
        When it is no quantity of this kind, or not a believable one.

    Examples
    --------
    >>> parse("3 1/2 in", "length")
    88.9
    >>> round(parse("4", "mass", "us"), 3)
    113.398
    """
    kind = KINDS[kind_key]
    value = _read(text, kind_key, kind, units, field)
    if kind_key == "count" and value != int(value):
        raise Refused(field, f"Only whole numbers make sense here, such as {kind.example}.")
    if value < kind.low:
        least = "less than nothing" if kind.low == 0 else f"less than {field_text(kind.low, kind_key, units)}"
        raise Refused(field, f"{_quoted(text)} is {least}. Type {kind.noun} such as {kind.example}.")
    if value > kind.high:
        raise Refused(
            field,
            f"{_quoted(text)} is more than {field_text(kind.high, kind_key, units)}, the most that Ufrin "
            "takes here. Check the unit.",
        )
    return value


def _read(text: str, kind_key: str, kind: Kind, units: Units, field: str) -> float:
    plain = text.strip()
    if len(plain) > LONGEST_TEXT:
        raise Refused(field, f"That is {len(plain)} characters long. Type {kind.noun} such as {kind.example}.")
    for sign, fraction in _FRACTIONS.items():
        plain = plain.replace(sign, f" {fraction}")
    if re.fullmatch(r"[-+]?\d{1,3}(,\d{3})+(\D.*)?", plain):
        raise Refused(
            field,
            f"In {_quoted(text)} the comma could mean two things. Write thousands without a comma, decimals "
            "with a point.",
        )
    total, at, terms = 0.0, 0, 0
    while at < len(plain):
        found = _TERM.match(plain, at)
        if not found or found.end() == at:
            raise Refused(field, f"{_quoted(text)} can't be read as {kind.noun}. Type it like {kind.example}.")
        number, unit = (
            _number(found, text, kind, field),
            _SPACES.sub(" ", (found["unit"] or "").replace(".", "").strip().lower()),
        )
        at, terms = found.end(), terms + 1
        if terms > 1 and number < 0:
            raise Refused(
                field, f"{_quoted(text)} takes one thing from another. Type {kind.noun} such as {kind.example}."
            )
        if not unit and (terms > 1 or at < len(plain)):
            raise Refused(field, f"{_quoted(text)} is more than one number. Type one quantity, such as {kind.example}.")
        total += convert(number, _meaning(unit, kind_key, kind, units, field), kind.base)
    if not terms:
        raise Refused(field, f"Type {kind.noun} such as {kind.example}.")
    return float(f"{total:.12g}")  # 3.5 x 25.4 is 88.9, not 88.89999999999999


def _number(found: re.Match[str], text: str, kind: Kind, field: str) -> float:
    minus = -1.0 if (found["sign"] or found["sign2"]) in {"-", "−"} else 1.0
    if found["plain"]:
        return minus * float(found["plain"].replace(",", "."))
    if int(found["under"]) == 0:
        raise Refused(field, f"{_quoted(text)} divides by nothing. Type {kind.noun} such as {kind.example}.")
    return minus * (int(found["whole"] or 0) + int(found["top"]) / int(found["under"]))


def _meaning(unit: str, kind_key: str, kind: Kind, units: Units, field: str) -> str:
    if not unit:
        return kind.shown[units][1]
    ours = _TYPED.get(kind_key, {})
    if unit in ours:
        return ours[unit]
    for other, meanings in _TYPED.items():
        if unit in meanings:
            raise Refused(
                field, f"“{unit}” measures {KINDS[other].noun}; this field wants {kind.noun}, such as {kind.example}."
            )
    raise Refused(field, f"“{unit[:20]}” is not a unit for {kind.noun}. Type it like {kind.example}.")


def _quoted(text: str) -> str:
    short = text.strip()
    return f"“{short[:24]}…”" if len(short) > 25 else f"“{short}”"


def figure(value: float, kind_key: str, units: Units = "metric", decimals: int | None = None) -> tuple[str, str]:
    """Give a quantity as it is read on a page: rounded to what matters.

    Parameters
    ----------
    value : float
        In the base unit of the kind.
    kind_key : str
        One of ``KINDS``.
    units : "metric" or "us"
        The workshop's unit system.
    decimals : int, optional
        Decimals to give instead of the kind's.

    Returns
    -------
    tuple of str
        The number and the unit.

    Examples
    --------
    >>> figure(304.8, "length", "us")
    ('12.00', 'in')
    """
    if kind_key == "time":
        return _clock(value)
    written, unit, places = KINDS[kind_key].shown[units]
    there = convert(value, KINDS[kind_key].base, unit)
    places = places if decimals is None else decimals
    if written != KINDS[kind_key].shown["metric"][0] and 0 < abs(there) < 10 and decimals is None and places:
        places += 1  # small ounces and inches need the digit
    return _rounded(there, places), written


def _rounded(value: float, places: int) -> str:
    said = f"{value:.{places}f}"
    return said.removeprefix("-") if float(said) == 0 else said


def _clock(minutes: float) -> tuple[str, str]:
    if minutes >= 120:
        return f"{minutes / 60:.1f}".removesuffix(".0"), "h"
    return f"{minutes:.1f}".removesuffix(".0"), "min"


def show(value: float, kind_key: str, units: Units = "metric", decimals: int | None = None) -> str:
    """Give a quantity with its unit, as ``figure`` rounds it.

    Parameters
    ----------
    value : float
        In the base unit of the kind.
    kind_key : str
        One of ``KINDS``.
    units : "metric" or "us"
        The workshop's unit system.
    decimals : int, optional
        Decimals to give instead of the kind's.

    Returns
    -------
    str
        Number and unit.

    Examples
    --------
    >>> show(12, "length")
    '12.0 mm'
    """
    return " ".join(figure(value, kind_key, units, decimals)).rstrip()


def field_text(value: float, kind_key: str, units: Units = "metric") -> str:
    """Give a quantity as it stands in an input: with its unit, so that it means the same whatever the workshop's units are.

    Parameters
    ----------
    value : float
        In the base unit of the kind.
    kind_key : str
        One of ``KINDS``.
    units : "metric" or "us"
        The workshop's unit system.

    Returns
    -------
    str
        At most four decimals, no idle zeros.

    Examples
    --------
    >>> field_text(88.9, "length"), field_text(88.9, "length", "us")
    ('88.9 mm', '3.5 in')
    """
    written, unit, _ = KINDS[kind_key].shown[units]
    if kind_key == "time" and value >= 120 and value % 30 == 0:
        return f"{value / 60:g} h"
    there = convert(value, KINDS[kind_key].base, unit)
    return f"{_rounded(there, 4).rstrip('0').rstrip('.')} {written}".strip()


_AMOUNT = re.compile(r"\[(-?[\d.e+-]+) (\w+)(?: ~(\d?))?\]")


def say_amounts(sentence: str, units: Units = "metric") -> str:
    """Write out the amounts of a sentence in the workshop's units.

    Parameters
    ----------
    sentence : str
        Amounts stand in it as ``[12 length]``: value in the base unit and kind. ``[12 length ~]`` is rounded as
        a figure, ``[12 length ~0]`` to so many decimals.
    units : "metric" or "us"
        The workshop's unit system.

    Returns
    -------
    str
        For people.

    Examples
    --------
    >>> say_amounts("[12 length] is usual", "us")
    '0.4724 in is usual'
    >>> say_amounts("from [300 length ~0] up", "us")
    'from 12 in up'
    """

    def said(found: re.Match[str]) -> str:
        if found[3] is None:
            return field_text(float(found[1]), found[2], units)
        return show(float(found[1]), found[2], units, int(found[3]) if found[3] else None)

    return _AMOUNT.sub(said, sentence)
