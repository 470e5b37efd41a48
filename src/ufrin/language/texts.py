"""Texts for people: written in English, and shown in the language in use.

A text stays a string in English for everything that computes, compares, keeps or sends it as JSON. Where it is shown,
by ``str()``, an f-string or a template, it is looked up in the catalogue of that language.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import date
from string import Formatter
from typing import Any, Literal, Self

from babel import Locale
from babel.dates import format_skeleton
from markupsafe import Markup, escape

from ufrin.language.languages import ENGLISH, in_use, with_decimals

DateStyle = Literal["day", "weekday", "name_of_day", "whole_day"]
_SKELETONS: Mapping[DateStyle, str] = {"day": "yMMMd", "weekday": "MMMEd", "name_of_day": "E", "whole_day": "MMMMEEEEd"}


class _InLanguage(Formatter):
    def format_field(self, value: object, format_spec: str) -> str:
        text = format(value, format_spec)
        return with_decimals(text) if isinstance(value, float) else text


class Text(str):
    """A text for people, with named gaps; a string in English until it is shown.

    Parameters
    ----------
    message : str
        In English, as the catalogue has it, with gaps such as ``{net}``.
    gaps : object, by name
        What goes into the gaps; texts among them are shown in the same language.

    Examples
    --------
    >>> Text("The box takes {net} ml.", net=12.5) == "The box takes 12.5 ml."
    True
    """

    __slots__ = ("gaps", "message")
    message: str
    gaps: Mapping[str, Any]

    def __new__(cls, message: str, /, **gaps: object) -> Self:
        """Make a text."""
        written = english(message)
        made = super().__new__(
            cls, written.format(**{name: _plain(gap) for name, gap in gaps.items()}) if gaps else written
        )
        made.message, made.gaps = written, gaps
        return made

    def _found(self) -> str:
        return in_use().messages.gettext(self.message) if self.message else ""

    def __str__(self) -> str:
        """Return it in the language in use."""
        if in_use() is ENGLISH:
            return english(self)
        return _InLanguage().vformat(self._found(), (), self.gaps) if self.gaps else self._found()

    def __html__(self) -> Markup:
        """Return it in the language in use, for a page."""
        return escape(str(self))  # a bare string would be escaped again where it fills a gap

    def __format__(self, format_spec: str) -> str:
        """Return it in the language in use, inside another text."""
        return format(str(self), format_spec)

    def __add__(self, more: str) -> "Joined":
        """Return it with more after it; each is worded by itself."""
        return Joined((self, more), "")

    def __radd__(self, before: str) -> "Joined":
        """Return it with something before it."""
        return Joined((before, self), "")

    def capitalize(self) -> str:
        """Return it with a capital first letter, as at the beginning of a sentence."""
        return Cased(self, capitalized)

    def lower(self) -> str:
        """Return it as inside a sentence."""
        return Cased(self, inside_a_sentence)

    def __reduce__(self) -> tuple[object, ...]:
        """Keep message and gaps when it goes to another process."""
        return _again, (type(self), self.message, dict(self.gaps))


class Counted(Text):
    """A text that counts something, so that one reads otherwise than several.

    Parameters
    ----------
    one, several : str
        In English, for 1 and for any other number, which is the gap ``{n}``; other gaps are given by name as in a text.

    Examples
    --------
    >>> Counted("{n} batch", "{n} batches", n=3) == "3 batches"
    True
    """

    __slots__ = ("one", "several")
    one: str
    several: str

    def __new__(cls, one: str, several: str, /, *, n: int, **gaps: object) -> Self:
        """Make a text for this number."""
        made = super().__new__(cls, one if n == 1 else several, n=n, **gaps)
        made.one, made.several = one, several
        return made

    def _found(self) -> str:
        return in_use().messages.ngettext(self.one, self.several, self.gaps["n"])

    def __reduce__(self) -> tuple[object, ...]:
        """Keep both messages and the gaps when it goes to another process."""
        return _again_counted, (self.one, self.several, dict(self.gaps))


class Joined(Text):
    """Several texts in a row, such as the items of a list.

    Parameters
    ----------
    parts : iterable of str
        In their order.
    between : str
        What stands between two of them.

    Examples
    --------
    >>> Joined(["gate", "vent"], Text(" and ")) == "gate and vent"
    True
    """

    __slots__ = ("between", "parts")
    parts: Sequence[str]
    between: str

    def __new__(cls, parts: Iterable[str], between: str = ", ") -> Self:
        """Join the texts."""
        listed = tuple(parts)
        made = super().__new__(cls, english(between).join(map(english, listed)))
        made.parts, made.between = listed, between
        return made

    def __str__(self) -> str:
        """Return it in the language in use."""
        return str(self.between).join(map(str, self.parts))

    def __reduce__(self) -> tuple[object, ...]:
        """Keep the parts when it goes to another process."""
        return Joined, (self.parts, self.between)


class Cased(Text):
    """A text with another first letter."""

    __slots__ = ("case", "of")
    case: Callable[[str], str]
    of: str

    def __new__(cls, of: str, case: Callable[[str], str]) -> Self:
        """Case a text."""
        plain = english(of)
        made = super().__new__(cls, plain.capitalize() if case is capitalized else plain.lower())
        made.of, made.case = of, case
        return made

    def __str__(self) -> str:
        """Return it in the language in use."""
        return self.case(str(self.of))

    def __reduce__(self) -> tuple[object, ...]:
        """Keep the text when it goes to another process."""
        return Cased, (self.of, self.case)


def capitalized(shown: str) -> str:
    """Return a text of a page as a sentence begins.

    Parameters
    ----------
    shown : str
        In the language in use.

    Returns
    -------
    str
        The rest of it in small letters in English, and as it is in languages that write nouns with a capital.
    """
    return shown.capitalize() if _is_english() else shown[:1].upper() + shown[1:]


def inside_a_sentence(shown: str) -> str:
    """Return a text of a page as it reads inside a sentence.

    Parameters
    ----------
    shown : str
        In the language in use.

    Returns
    -------
    str
        In small letters in English, and as it is in languages that write nouns with a capital.
    """
    return shown.lower() if _is_english() else shown


def _is_english() -> bool:
    return in_use().locale.language == "en"


class Written(Text):
    """A number that is written with the decimal sign of the language in use where it is shown."""

    __slots__ = ()

    def __str__(self) -> str:
        """Return it as the language in use writes it."""
        return with_decimals(self.message)


class DateText(Text):
    """A date, and a time of day by the clock of 24 hours, as the language in use writes them where they are shown.

    Parameters
    ----------
    at : date or datetime
        By the workshop's clock.
    style : "day", "weekday", "name_of_day" or "whole_day"
        With its year, with its weekday, the weekday alone, or weekday and month in full.
    time : str
        Such as "%H:%M"; empty for the date alone.

    Examples
    --------
    >>> from datetime import datetime
    >>> DateText(datetime(2026, 11, 28, 14, 5), "day", "%H:%M") == "28 Nov 2026 14:05"
    True
    """

    __slots__ = ("at", "style", "time")
    at: date
    style: DateStyle
    time: str

    def __new__(cls, at: date, style: DateStyle = "day", time: str = "") -> Self:
        """Make a date."""
        made = super().__new__(cls, _dated(at, style, time, ENGLISH.locale))
        made.at, made.style, made.time = at, style, time
        return made

    def __str__(self) -> str:
        """Return it as the language in use writes it."""
        return _dated(self.at, self.style, self.time, in_use().locale)

    def __reduce__(self) -> tuple[object, ...]:
        """Keep the date when it goes to another process."""
        return DateText, (self.at, self.style, self.time)


def _dated(at: date, style: DateStyle, time: str, locale: Locale) -> str:
    day = format_skeleton(_SKELETONS[style], at, locale=locale)
    return f"{day} {at:{time}}" if time else day


def english(text: str) -> str:
    """Return a text as it is written in the code.

    Parameters
    ----------
    text : str
        A text or a plain string.

    Returns
    -------
    str
        A plain string in English.
    """
    return str.__str__(text)


def _plain(gap: object) -> object:
    return english(gap) if isinstance(gap, str) else gap


def _again(kind: type[Text], message: str, gaps: Mapping[str, object]) -> Text:
    return kind(message, **gaps)


def _again_counted(one: str, several: str, gaps: Mapping[str, Any]) -> Text:
    return Counted(one, several, **gaps)
