"""Safety data sheets: attached to things on the Shelf, opened, taken off."""

import re
from dataclasses import replace

from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import safety_sheets
from ufrin.store.connection import Database
from ufrin.store.safety_sheets import SafetySheet

MOST_BYTES = 20_000_000
# how a file begins, and the type it is then sent as; none that a browser would run
_KINDS = ((b"%PDF-", "application/pdf"), (b"\x89PNG\r\n\x1a\n", "image/png"), (b"\xff\xd8\xff", "image/jpeg"))
_ENDINGS = {"application/pdf": "pdf", "image/png": "png", "image/jpeg": "jpg"}
_NOT_IN_NAMES = re.compile(r"[^\w ()-]+")
LONGEST_STEM = 80


def attach(database: Database, kind: str, number: int, name: str, data: bytes) -> None:
    """Attach a sheet to a thing, in place of the one it had.

    Raises Refused when it is no PDF, PNG or JPEG, or larger than 20 MB.
    """
    media = check(data)
    plain = safe_name(name, media)
    with database.transaction() as connection:
        safety_sheets.attach(connection, kind, number, SafetySheet(name=plain, media=media, data=data))


def check(data: bytes) -> str:
    """Return the type that a sheet is sent as, by how it begins.

    Raises Refused when it is no PDF, PNG or JPEG, or larger than 20 MB.
    """
    if len(data) > MOST_BYTES:
        raise Refused(
            "file",
            Text(
                "That file is larger than {most_bytes} MB. Save it smaller, or attach the pages that count.",
                most_bytes=MOST_BYTES // 1_000_000,
            ),
        )
    media = next((media for begin, media in _KINDS if data.startswith(begin)), None)
    if media is None:
        raise Refused(
            "file", Text("A safety data sheet is attached as PDF, PNG or JPEG. Take a picture of a paper one.")
        )
    return media


def safe_name(name: str, media: str) -> str:
    """Return a name for a file by its content: letters, digits and spaces, with the ending of what it is."""
    stem = name.replace("\\", "/").rsplit("/", 1)[-1]
    stem = stem.rsplit(".", 1)[0] if "." in stem else stem
    plain = " ".join(_NOT_IN_NAMES.sub(" ", stem).split())[:LONGEST_STEM].strip()
    return f"{plain or 'sheet'}.{_ENDINGS[media]}"


def open_sheet(database: Database, kind: str, number: int) -> SafetySheet:
    """Open a thing's sheet."""
    with database.reading() as connection:
        sheet = safety_sheets.load(connection, kind, number)
    return replace(sheet, name=safe_name(sheet.name, sheet.media))


def name_of(database: Database, kind: str, number: int) -> str:
    """Return the name of a thing's sheet."""
    with database.reading() as connection:
        return safety_sheets.names(connection).get((kind, number), "")


def take_off(database: Database, kind: str, number: int) -> None:
    """Take a thing's sheet off again."""
    with database.transaction() as connection:
        safety_sheets.take_off(connection, kind, number)
