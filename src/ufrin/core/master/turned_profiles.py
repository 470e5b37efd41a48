"""Turned profiles and directions: the two lists of numbers that a maker types, kept as plain text."""

import re

from ufrin.core.measures.display import field_text
from ufrin.core.measures.parsing import parse
from ufrin.core.measures.quantity_kinds import Units
from ufrin.errors import Refused
from ufrin.language import Text

MOST_PAIRS = 40


def profile_points(kept: str) -> list[tuple[float, float]]:
    """Read a kept profile.

    Parameters
    ----------
    kept : str
        As ``parse_profile`` gives it: "height diameter; …" in mm.

    Returns
    -------
    list of (height, diameter)
        From the foot up.

    Examples
    --------
    >>> profile_points("0 46; 12.5 30")
    [(0.0, 46.0), (12.5, 30.0)]
    """
    return [
        (float(height), float(diameter))
        for height, diameter in (pair.split() for pair in kept.split(";") if pair.strip())
    ]


def parse_profile(typed: str, units: Units) -> str:
    """Read a profile as people type it.

    Parameters
    ----------
    typed : str
        Pairs separated by commas, semicolons or new lines; the two numbers of a pair by a space, each in the
        workshop's unit or with its own.
    units : "metric" or "us"
        What a bare number means.

    Returns
    -------
    str
        To be kept, in mm.

    Raises
    ------
    Refused
        Which names the pair that can't be read.
    """
    words = [words for words in re.split(r"[;\n\r]+|,(?!\d)", typed) if words.strip()]
    if len(words) > MOST_PAIRS:
        raise Refused(
            "profile",
            Text(
                "That is {words} pairs; {most_pairs} is the most. Leave out heights between which the "
                "outline runs straight.",
                words=len(words),
                most_pairs=MOST_PAIRS,
            ),
        )
    kept = []
    for number, pair in enumerate(words, 1):
        found = re.fullmatch(r"\s*([\d.,]+\s*(?:mm|cm|in|\")?)[\s:]+([\d.,]+\s*(?:mm|cm|in|\")?)\s*", pair)
        if not found:
            raise Refused(
                "profile",
                Text(
                    "Pair {number}, “{pair}”, is not a height and a diameter. Type each pair like 12 46, "
                    "with commas between.",
                    number=number,
                    pair=pair.strip()[:30],
                ),
            )
        height, diameter = (parse(one, "length", units, field="profile") for one in found.groups())
        kept.append(f"{height:.6g} {diameter:.6g}")
    return "; ".join(kept)


def show_profile(kept: str, units: Units) -> str:
    """Show a kept profile in the workshop's unit.

    Parameters
    ----------
    kept : str
        In mm.
    units : "metric" or "us"
        The workshop's.

    Returns
    -------
    str
        As it stands in the field.
    """
    return ", ".join(" ".join(_bare(value, units) for value in pair) for pair in profile_points(kept))


def _bare(value_mm: float, units: Units) -> str:
    return field_text(value_mm, "length", units).rsplit(" ", 1)[0]


def direction_vector(kept: str | None) -> tuple[float, float, float]:
    """Read a kept direction; an empty one is as drawn.

    Returns
    -------
    (x, y, z)
        In the mesh's own coordinates.
    """
    x, y, z = (float(number) for number in (kept or "0, 0, 1").split(","))
    return x, y, z


def parse_direction(typed: str) -> str:
    """Read a direction as people type it: three numbers.

    Parameters
    ----------
    typed : str
        Separated by commas or spaces.

    Returns
    -------
    str
        To be kept.

    Raises
    ------
    Refused
        When it is not three plain numbers, or has no length.

    Examples
    --------
    >>> parse_direction("0 0 -1")
    '0, 0, -1'
    """
    words = re.split(r"[\s,;]+", typed.strip())
    if len(words) != 3 or not all(re.fullmatch(r"[-+]?\d{0,6}\.?\d{1,9}", word) for word in words):
        raise Refused("up", Text("A direction is three numbers such as 0, 0, 1: how far it goes along x, y and z."))
    numbers = [float(word) for word in words]
    if sum(number**2 for number in numbers) < 1e-12:
        raise Refused("up", Text("A direction needs some length: at least one of its numbers is not 0."))
    return ", ".join(f"{number:.6g}" for number in numbers)
