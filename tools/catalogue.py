"""The messages of the whole application, taken out of templates, code, scripts and data, and merged into a catalogue.

``./run texts`` takes every message into ``src/ufrin/locale/LANGUAGE.po`` and keeps what is translated. A new language
is a new file there, made with ``./run texts LANGUAGE``, and its name in ``ufrin.language.NAMES``.
"""

import ast
import re
import sys
import tomllib
from collections.abc import Iterator
from functools import cache
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract
from babel.messages.pofile import read_po, write_po
from jinja2.ext import babel_extract

from ufrin.core.data_files import NOT_SHOWN

SRC = Path(__file__).parents[1] / "src" / "ufrin"
LOCALE = SRC / "locale"
TEXTS = {"Text": 1, "Counted": 2}  # how many messages each takes
WORDS = {"_": None, "counted": (1, 2)}
SCRIPT = {"text": None}
TEMPLATE_OPTIONS = {
    "extensions": "ufrin.web.frame.template_text.RunningText",
    "trim_blocks": "true",
    "lstrip_blocks": "true",
    "silent": "false",
}
LISTS_SHOWN = {"steps", "match"}
Message = str | tuple[str, str]


@cache
def messages() -> dict[Message, set[str]]:
    """Return every message with the files that it stands in."""
    found: dict[Message, set[str]] = {}
    for path in sorted(SRC.rglob("*")):
        if {"vendor", "api", "devices"} & set(path.relative_to(SRC).parts[:-1]) and path.suffix != ".py":
            continue
        for message in _of(path):
            if message not in ("", ("", "")):
                found.setdefault(message, set()).add(str(path.relative_to(SRC)))
    return found


def _of(path: Path) -> Iterator[Message]:
    if path.suffix == ".py" and path.parent.name != "language":
        for node in ast.walk(ast.parse(path.read_bytes())):  # a text may stand in the gap of another
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in TEXTS:
                words = [one.value for one in node.args[: TEXTS[node.func.id]] if isinstance(one, ast.Constant)]
                if len(words) == TEXTS[node.func.id]:
                    yield words[0] if len(words) == 1 else (words[0], words[1])
    elif path.suffix == ".html":
        with path.open("rb") as file:
            for _, _, message, _ in babel_extract(file, WORDS, [], TEMPLATE_OPTIONS):
                yield message if isinstance(message, str) else message[0] if message[1] is None else message[:2]
    elif path.suffix == ".js":
        with path.open("rb") as file:
            yield from (row[1] for row in extract("javascript", file, keywords=SCRIPT))
    elif path.suffix == ".toml" and path.parent.parent.name != "static" and "core" in path.parts:
        read = tomllib.loads(path.read_text("utf-8"))
        yield from _shown(read, "")
        yield from read.get("words", {})  # the terms of the glossary are its keys


def _shown(value: object, key: str) -> Iterator[str]:
    if isinstance(value, dict):
        for name, within in value.items():
            yield from _shown(within, name)
    elif isinstance(value, list):
        if key in LISTS_SHOWN or any(isinstance(one, dict) for one in value):
            for one in value:
                yield from _shown(one, key if isinstance(one, str) else "")
    elif isinstance(value, str) and key not in NOT_SHOWN and re.search(r"[A-Za-z]{2}", value):
        yield value


def merged(code: str) -> Catalog:
    """Return the catalogue of a language with all messages of today: old translations kept, what is gone left out."""
    path = LOCALE / f"{code}.po"
    old = read_po(path.read_bytes().decode().splitlines(keepends=True), locale=code) if path.exists() else Catalog(code)
    new = Catalog(code, project="Ufrin", fuzzy=False, charset="utf-8")
    for message, places in sorted(messages().items(), key=lambda row: (min(row[1]), str(row[0]))):
        one = message if isinstance(message, str) else message[0]
        kept = old.get(one)
        several = isinstance(message, tuple)
        has_form = kept is not None and isinstance(kept.string, tuple) == several
        new.add(
            message, kept.string if kept and has_form else None, locations=[(place, None) for place in sorted(places)]
        )
    return new


def write(code: str) -> None:
    """Write the catalogue of a language anew."""
    LOCALE.mkdir(exist_ok=True)
    catalogue = merged(code)
    with (LOCALE / f"{code}.po").open("wb") as file:
        write_po(file, catalogue, width=120, omit_header=True, include_lineno=False)


if __name__ == "__main__":
    for name in sys.argv[1:] or [path.stem for path in sorted(LOCALE.glob("*.po"))]:
        write(name)
