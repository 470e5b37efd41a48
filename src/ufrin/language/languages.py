"""The languages that pages can be read in, each with its catalogue, and the one in use."""

import gettext
import io
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files

from babel import Locale
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po
from babel.numbers import get_decimal_symbol

# each with its own name for itself
NAMES: Mapping[str, str] = {"en-GB": "English", "en-US": "English (US)", "de": "Deutsch"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Language:
    """A language that pages can be read in.

    Parameters
    ----------
    locale : Locale
        How it writes dates and decimals.
    messages : NullTranslations
        Its catalogue; without one, texts stay in English.
    """

    locale: Locale
    messages: gettext.NullTranslations = field(default_factory=gettext.NullTranslations)

    @property
    def code(self) -> str:
        """Return its code, such as "en-GB"."""
        return str(self.locale).replace("_", "-")

    @property
    def decimal_sign(self) -> str:
        """Return what stands before the decimals of a number."""
        return get_decimal_symbol(self.locale)


ENGLISH = Language(locale=Locale("en", "GB"))
_in_use: ContextVar[Language] = ContextVar("language", default=ENGLISH)


@cache
def language(code: str) -> Language:
    """Return a language with its catalogue.

    Parameters
    ----------
    code : str
        One of ``NAMES``.

    Returns
    -------
    Language
        Read once.
    """
    if code.startswith("en"):
        return ENGLISH if code == ENGLISH.code else Language(locale=Locale.parse(code, sep="-"))
    catalogue = read_po(io.BytesIO(files("ufrin").joinpath("locale", f"{code}.po").read_bytes()), locale=code)
    compiled = io.BytesIO()
    write_mo(compiled, catalogue)
    compiled.seek(0)
    return Language(locale=Locale(code), messages=gettext.GNUTranslations(compiled))


def in_use() -> Language:
    """Return the language in which texts are shown now.

    Returns
    -------
    Language
        English, as long as no other is used.
    """
    return _in_use.get()


@contextmanager
def using(chosen: Language) -> Iterator[None]:
    """Show texts in a language, in this task or thread.

    Parameters
    ----------
    chosen : Language
        Until the block ends.

    Yields
    ------
    None
        While it is used.
    """
    token = _in_use.set(chosen)
    try:
        yield
    finally:
        _in_use.reset(token)


def with_decimals(number: str) -> str:
    """Write a number with the decimal sign of the language in use.

    Parameters
    ----------
    number : str
        With a point before its decimals.

    Returns
    -------
    str
        To be read.
    """
    return number.replace(".", in_use().decimal_sign)
