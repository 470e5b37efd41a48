"""Lines of a scale: what one means, however it is spelt; and what is not a line of a scale."""

import re
from collections import deque
from dataclasses import dataclass
from typing import Literal

from ufrin.core.measures.conversion import convert

State = Literal["ok", "overload", "unit"]
LONGEST_LINE = 80
MOST_G = 1e6
_UNITS = {"g": "g", "gr": "g", "kg": "kg", "mg": "mg", "oz": "ounce", "lb": "pound", "lbs": "pound", "t": "tonne"}
_STABLE, _MOVING, _OVER = (
    {"s", "st", "stable", "ok"},
    {"u", "us", "sd", "d", "unstable", "moving", "motion"},
    {"ol", "over", "overload", "hi", "err", "eee"},
)
_LINE = re.compile(
    r"\s*(?P<words>(?:[a-z]{1,10}[\s,;:]+)*)(?P<sign>[-+])?\s*(?P<number>\d{1,9}(?:\.\d{1,6})?)"
    r"\s*(?P<unit>[a-z]{1,4})?(?P<after>(?:[\s,;]+[a-z]{1,10})*)\s*",
    re.IGNORECASE | re.ASCII,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class ScaleLine:
    """The content of a line.

    Parameters
    ----------
    g : float
        Shown by the scale; 0 when it shows no weight.
    is_stable : bool or None
        As the scale itself states; None when it does not.
    state : "ok", "overload" or "unit"
        Whether it is a weight, too much, or in a unit that is not one of weight.
    """

    g: float
    is_stable: bool | None
    state: State = "ok"


def read_line(data: bytes) -> ScaleLine | None:
    """Read one line: flags, sign, number, unit, in that order or the flags last. A bare number is in grams.

    Parameters
    ----------
    data : bytes
        Without its end.

    Returns
    -------
    ScaleLine or None
        None when it is not a line of a scale: noise, half a line, or far too long.

    Examples
    --------
    >>> read_line(b"stable  123.4 g")
    ScaleLine(g=123.4, is_stable=True, state='ok')
    >>> read_line(b"#?!") is None
    True
    """
    if not 0 < len(data) <= LONGEST_LINE:
        return None
    try:
        text = data.decode("ascii").strip()
    except UnicodeDecodeError:
        return None
    if text.lower().strip("-+ .") in _OVER:
        return ScaleLine(g=0.0, is_stable=False, state="overload")
    found = _LINE.fullmatch(text)
    if found is None:
        return None
    words = {word.lower() for word in re.split(r"[\s,;:]+", f"{found['words']} {found['after']}") if word}
    if words & _OVER:
        return ScaleLine(g=0.0, is_stable=False, state="overload")
    if not words <= _STABLE | _MOVING | {"n", "net", "gs", "nt", "gross", "w"}:
        return None
    stable = True if words & _STABLE else False if words & _MOVING else None
    unit = (found["unit"] or "g").lower()
    if unit not in _UNITS:
        return ScaleLine(g=0.0, is_stable=stable, state="unit")
    grams = convert(float(found["number"]), _UNITS[unit], "g") * (-1 if found["sign"] == "-" else 1)
    return ScaleLine(g=grams, is_stable=stable) if abs(grams) <= MOST_G else None


class Lines:
    """Cuts arriving bytes into lines.

    The first line may be incomplete, and half a number looks like a number: everything before the first end of a
    line is dropped.
    """

    def __init__(self) -> None:
        self._rest, self._begun = b"", False

    def take(self, data: bytes) -> list[bytes]:
        """Add the bytes that arrived.

        Parameters
        ----------
        data : bytes
            As it came.

        Returns
        -------
        list of bytes
            The lines that are whole by now; endings are CR, LF or both.
        """
        *whole, self._rest = re.split(rb"\r\n|\r|\n", self._rest + data)
        if len(self._rest) > 4 * LONGEST_LINE:  # not a scale: noise without ends of lines
            self._rest = b""
            self._begun = False
        if whole and not self._begun:
            self._begun = True
            whole = whole[1:]
        return [line for line in whole if line.strip()]


class Settling:
    """Recognises when a scale that does not state it itself has come to rest.

    It has when no reading moved by more than a step for a while.
    """

    def __init__(self, step_g: float, for_s: float = 0.6) -> None:
        self._step_g, self._for_s = step_g, for_s
        self._seen: deque[tuple[float, float]] = deque(maxlen=200)

    def is_settled(self, line: ScaleLine, at_s: float) -> bool:
        """Add a reading.

        Parameters
        ----------
        line : ScaleLine
            As read.
        at_s : float
            By a steady clock.

        Returns
        -------
        bool
            Whether it can be accepted: the scale states that it is stable, or states nothing and is at rest; a
            reading that jumped is not.
        """
        if line.state != "ok":
            self._seen.clear()
            return False
        self._seen.append((at_s, line.g))
        while self._seen and at_s - self._seen[0][0] > self._for_s * 1.5:
            self._seen.popleft()
        weights = [g for _, g in self._seen]
        still = max(weights) - min(weights) <= self._step_g * 1.01 and at_s - self._seen[0][0] >= self._for_s
        if line.is_stable is None:
            return still
        # a scale's own statement counts, unless this very reading jumped away from the one before
        jumped = len(weights) > 1 and abs(weights[-1] - weights[-2]) > 2 * self._step_g
        return line.is_stable and not jumped
