"""Pictures of a mould: read with care, turned upright, made smaller, and kept without what the camera noted."""

import warnings
from dataclasses import replace
from io import BytesIO

from PIL import Image, ImageOps

from ufrin.actions.bench.pours import append
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import pours
from ufrin.store.connection import Database

FORMATS = ("JPEG", "PNG", "WEBP")
MOST_BYTES = 20 * 1024 * 1024
MOST_PIXELS = 50_000_000
KEPT_PX = 1600
QUALITY = 82
MOST_PHOTOS = 40


def made_small(data: bytes) -> tuple[bytes, tuple[int, int]]:
    """Read a picture and return it as it is kept: a JPEG without any data of the camera, and its size in pixels.

    Raises Refused for what is no picture of a kind that a browser shows, or has more pixels than a camera takes.
    """
    if len(data) > MOST_BYTES:
        raise Refused(
            "photo",
            Text(
                "A picture has at most {most_bytes} MB. Use a picture with fewer pixels.",
                most_bytes=MOST_BYTES // 2**20,
            ),
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            with Image.open(BytesIO(data), formats=FORMATS) as opened:
                if opened.width * opened.height > MOST_PIXELS:
                    raise Refused("photo", Text("A picture has at most 50 million pixels. Use a smaller one."))
                opened.draft("RGB", (KEPT_PX, KEPT_PX))
                upright = ImageOps.exif_transpose(opened).convert("RGB")
    except Refused:
        raise
    except (OSError, ValueError, SyntaxError, Warning, Image.DecompressionBombError, MemoryError) as error:
        raise Refused("photo", Text("That is no picture that can be read. Take a JPEG, PNG or WebP.")) from error
    upright.thumbnail((KEPT_PX, KEPT_PX))
    kept = BytesIO()
    # made anew from its pixels alone: place, time and make of the camera stay behind
    upright.save(kept, "JPEG", quality=QUALITY, exif=b"")
    return kept.getvalue(), upright.size


def keep(database: Database, number: int, data: bytes, entry: RecordEntry, *, token: str) -> None:
    """Keep a picture with a pour, and a line in its record that names it.

    Raises Refused for what is no picture, or when there are too many.
    """
    small, size_px = made_small(data)
    with database.transaction() as connection:
        kept = pours.look(connection, number, lock=True)
        if pours.has_token(connection, number, token):
            return
        if sum(one.kind == "photo" for one in kept.entries) >= MOST_PHOTOS:
            raise Refused("photo", Text("A pour keeps at most {most_photos} pictures.", most_photos=MOST_PHOTOS))
        numbered = replace(entry, number=kept.state.next_number)
        append(connection, kept, numbered, token=token)
        pours.keep_photo(connection, number, numbered.number, small, size_px)


def look(database: Database, number: int, entry: int) -> bytes:
    """Open a picture."""
    with database.reading() as connection:
        return pours.photo(connection, number, entry)
