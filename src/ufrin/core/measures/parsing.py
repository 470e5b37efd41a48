"""Quantities as people type them: `90`, `9 cm`, `3 1/2 in`, `4 oz`."""

import re
from collections.abc import Mapping

from ufrin.core.measures.conversion import convert
from ufrin.core.measures.display import field_text
from ufrin.core.measures.quantity_kinds import KINDS, QuantityKind, Units
from ufrin.errors import Refused
from ufrin.language import Text

LONGEST_TEXT = 60
# What a typed unit means for each kind. An "oz" is a weight in a weight field and a fluid ounce (US) in a volume field.
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
        "ft2": "foot**2",
        "ft²": "foot**2",
        "sq cm": "cm**2",
        "sq mm": "mm**2",
        "sq m": "m**2",
        "sq in": "inch**2",
        "sq ft": "foot**2",
        "square inches": "inch**2",
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
    "barometer": {
        "hpa": "hPa",
        "mbar": "mbar",
        "kpa": "kPa",
        "inhg": "inHg",
        "mmhg": "mmHg",
        "torr": "torr",
        "atm": "atm",
    },
    "elevation": {"m": "m", "km": "km", "ft": "foot", "feet": "foot", "'": "foot"},
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
_NUMBER = (
    r"(?P<sign>[-+−]?)\s*(?:(?P<whole>\d+)[\s-]+)?(?P<top>\d+)\s*/\s*(?P<under>\d+)|"
    r"(?P<sign2>[-+−]?)\s*(?P<plain>\d+(?:[.,]\d+)?|[.,]\d+)"
)
_TERM = re.compile(
    rf"\s*(?:{_NUMBER})\s*(?P<unit>[^\d\s.,+−-][^\d,+−-]*?(?:(?<=[^\W\d_])\^?[23])?)?\s*(?=$|[-+−]?(?:\d|[.,]\d))"
)
_SPACES = re.compile(r"\s+")


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
        When it is not a quantity of this kind, or not a believable one.

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
        raise Refused(field, Text("Only whole numbers make sense here, such as {example}.", example=kind.example))
    if value < kind.low:
        least = (
            Text("less than nothing")
            if kind.low == 0
            else Text("less than {low}", low=field_text(kind.low, kind_key, units))
        )
        raise Refused(
            field,
            Text(
                "{text} is {least}. Type {noun} such as {example}.",
                text=_quoted(text),
                least=least,
                noun=kind.noun,
                example=kind.example,
            ),
        )
    if value > kind.high:
        raise Refused(
            field,
            Text(
                "{text} is more than {high}, the most that Ufrin takes here. Check the unit.",
                text=_quoted(text),
                high=field_text(kind.high, kind_key, units),
            ),
        )
    return value


def _read(text: str, kind_key: str, kind: QuantityKind, units: Units, field: str) -> float:
    plain = text.strip()
    if len(plain) > LONGEST_TEXT:
        raise Refused(
            field,
            Text(
                "That is {length} characters long. Type {noun} such as {example}.",
                length=len(plain),
                noun=kind.noun,
                example=kind.example,
            ),
        )
    for sign, fraction in _FRACTIONS.items():
        plain = plain.replace(sign, f" {fraction}")
    if re.fullmatch(r"[-+]?\d{1,3}(,\d{3})+(\D.*)?", plain):
        raise Refused(
            field,
            Text(
                "In {text} the comma could mean two things. Write thousands without a comma, decimals with a point.",
                text=_quoted(text),
            ),
        )
    total, at, terms = 0.0, 0, 0
    while at < len(plain):
        found = _TERM.match(plain, at)
        if not found or found.end() == at:
            raise Refused(
                field,
                Text(
                    "{text} can't be read as {noun}. Type it like {example}.",
                    text=_quoted(text),
                    noun=kind.noun,
                    example=kind.example,
                ),
            )
        number, unit = (
            _number(found, text, kind, field),
            _SPACES.sub(" ", (found["unit"] or "").replace(".", "").replace("^", "").strip().lower()),
        )
        at, terms = found.end(), terms + 1
        if terms > 1 and number < 0:
            raise Refused(
                field,
                Text(
                    "{text} takes one thing from another. Type {noun} such as {example}.",
                    text=_quoted(text),
                    noun=kind.noun,
                    example=kind.example,
                ),
            )
        if not unit and (terms > 1 or at < len(plain)):
            raise Refused(
                field,
                Text(
                    "{text} is more than one number. Type one quantity, such as {example}.",
                    text=_quoted(text),
                    example=kind.example,
                ),
            )
        total += convert(number, _meaning(unit, kind_key, kind, units, field), kind.base)
    if not terms:
        raise Refused(field, Text("Type {noun} such as {example}.", noun=kind.noun, example=kind.example))
    return float(f"{total:.12g}")  # 3.5 x 25.4 is 88.9, not 88.89999999999999


def _number(found: re.Match[str], text: str, kind: QuantityKind, field: str) -> float:
    minus = -1.0 if (found["sign"] or found["sign2"]) in {"-", "−"} else 1.0
    if found["plain"]:
        return minus * float(found["plain"].replace(",", "."))
    if int(found["under"]) == 0:
        raise Refused(
            field,
            Text(
                "{text} divides by nothing. Type {noun} such as {example}.",
                text=_quoted(text),
                noun=kind.noun,
                example=kind.example,
            ),
        )
    return minus * (int(found["whole"] or 0) + int(found["top"]) / int(found["under"]))


def _meaning(unit: str, kind_key: str, kind: QuantityKind, units: Units, field: str) -> str:
    if not unit:
        return kind.shown[units][1]
    ours = _TYPED.get(kind_key, {})
    if unit in ours:
        return ours[unit]
    for other, meanings in _TYPED.items():
        if unit in meanings:
            raise Refused(
                field,
                Text(
                    "“{unit}” measures {other}; this field wants {noun}, such as {example}.",
                    unit=unit,
                    other=KINDS[other].noun,
                    noun=kind.noun,
                    example=kind.example,
                ),
            )
    raise Refused(
        field,
        Text(
            "“{unit}” is not a unit for {noun}. Type it like {example}.",
            unit=unit[:20],
            noun=kind.noun,
            example=kind.example,
        ),
    )


def _quoted(text: str) -> str:
    short = text.strip()
    return f"“{short[:24]}…”" if len(short) > 25 else f"“{short}”"
