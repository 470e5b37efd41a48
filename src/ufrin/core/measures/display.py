"""Quantities as pages show them, in the units of the workshop."""

import re
from functools import cache
from math import ceil, log10

from ufrin.core.measures.conversion import convert
from ufrin.core.measures.quantity_kinds import KINDS, Units
from ufrin.language import Written, english


def figure(value: float, kind_key: str, units: Units = "metric", decimals: int | None = None) -> tuple[str, str]:
    """Return a quantity as it is read on a page: rounded to what matters.

    Parameters
    ----------
    value : float
        In the base unit of the kind.
    kind_key : str
        One of ``KINDS``.
    units : "metric" or "us"
        The workshop's unit system.
    decimals : int, optional
        Decimals of the metric unit to give instead of the kind's; a larger unit is given as many more as it needs to
        be read as closely.

    Returns
    -------
    tuple of str
        The number and the unit.

    Examples
    --------
    >>> figure(304.8, "length", "us")
    ('12.00', 'in')
    >>> figure(121.06, "mass", "us", 0)
    ('4.27', 'oz')
    """
    if kind_key == "time":
        return _clock(value)
    written, unit, places = KINDS[kind_key].shown[units]
    there = convert(value, KINDS[kind_key].base, unit)
    metric, _, metric_places = KINDS[kind_key].shown["metric"]
    if decimals is not None:
        places = decimals + more_places(kind_key, units)
    elif written != metric and 0 < abs(there) < 10 and places and metric_places:
        places += 1  # small ounces and inches need the digit
    return _rounded(there, places), written


@cache
def more_places(kind_key: str, units: Units) -> int:
    """Return how many decimals more than the metric unit a unit needs to be read as closely: two for ounces.

    Parameters
    ----------
    kind_key : str
        One of ``KINDS``.
    units : "metric" or "us"
        The workshop's unit system.

    Returns
    -------
    int
        0 for the metric unit, and for a smaller one.
    """
    kind = KINDS[kind_key]
    (_, unit, _), (_, metric, _) = kind.shown[units], kind.shown["metric"]
    step = convert(1.0, unit, metric) - convert(0.0, unit, metric)
    return max(0, ceil(log10(step) - 1e-9))


def _rounded(value: float, places: int) -> str:
    text = f"{value:.{places}f}"
    return Written(text.removeprefix("-") if float(text) == 0 else text)


def _clock(minutes: float) -> tuple[str, str]:
    if minutes >= 120:
        return Written(f"{minutes / 60:.1f}".removesuffix(".0")), "h"
    return Written(f"{minutes:.1f}".removesuffix(".0")), "min"


def show(value: float, kind_key: str, units: Units = "metric", decimals: int | None = None) -> str:
    """Return a quantity with its unit, as ``figure`` rounds it.

    Parameters
    ----------
    value : float
        In the base unit of the kind.
    kind_key : str
        One of ``KINDS``.
    units : "metric" or "us"
        The workshop's unit system.
    decimals : int, optional
        Of the metric unit, instead of the kind's.

    Returns
    -------
    str
        Number and unit.

    Examples
    --------
    >>> show(12, "length")
    '12.0 mm'
    """
    number, unit = figure(value, kind_key, units, decimals)
    return Written(f"{english(number)} {unit}".rstrip())


def field_text(value: float, kind_key: str, units: Units = "metric") -> str:
    """Return a quantity as an input shows it.

    It has its unit, so that it means the same whatever the workshop's units are.

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
        At most four decimals, without trailing zeros.

    Examples
    --------
    >>> field_text(88.9, "length"), field_text(88.9, "length", "us")
    ('88.9 mm', '3.5 in')
    """
    written, unit, _ = KINDS[kind_key].shown[units]
    if kind_key == "time" and value >= 120 and value % 30 == 0:
        return Written(f"{value / 60:g} h")
    there = convert(value, KINDS[kind_key].base, unit)
    return Written(f"{english(_rounded(there, 4)).rstrip('0').rstrip('.')} {written}".strip())


# a sentence may have been put into words of a language with another decimal sign already
_AMOUNT = re.compile(r"\[(-?[\d.,e+-]+) (\w+)(?: ~(\d?))?\]")


def say_amounts(sentence: str, units: Units = "metric") -> str:
    """Write out the amounts of a sentence in the workshop's units.

    Parameters
    ----------
    sentence : str
        Amounts are written as ``[12 length]``: value in the base unit and kind. ``[12 length ~]`` is rounded as a
        figure, ``[12 length ~0]`` to so many decimals of the metric unit.
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
    'from 11.81 in up'
    """

    def shown(found: re.Match[str]) -> str:
        value = float(found[1].replace(",", "."))
        if found[3] is None:
            return str(field_text(value, found[2], units))
        return str(show(value, found[2], units, int(found[3]) if found[3] else None))

    return _AMOUNT.sub(shown, str(sentence))
