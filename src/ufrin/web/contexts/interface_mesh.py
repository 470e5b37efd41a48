"""A mesh as a call of the interface sends it, with the points and directions beside it."""

import re
from typing import Literal

from fastapi import Request, UploadFile

from ufrin.bounded.child import Bounds
from ufrin.core.mesh.cells import MOST_CELLS
from ufrin.core.opening.file_calls import SentFile
from ufrin.core.opening.trapped_air import Point3
from ufrin.errors import Refused, TooLarge

Unit = Literal["mm", "cm", "m", "in"]
NUMBER = re.compile(r"[-+]?(\d{1,9}(\.\d{0,12})?|\.\d{1,12})([eE][-+]?\d{1,2})?")
MOST_POINTS, FARTHEST_MM = 100, 1e5
CALL = Bounds(time_s=120.0)  # what one call may take
# directions times cells by cells: the usual number of directions in the finest cells, about half a minute of work
MOST_SEARCH = 200 * MOST_CELLS**2


async def only_known_fields(request: Request) -> None:
    """Refuse an unknown form field, which the framework would ignore."""
    route = request.scope["route"]
    known = {field.name for field in route.dependant.body_params}
    for name in await request.form():
        if name not in known:
            raise Refused(name, "This field is not known here; see /api/docs for the names.")


def check_file_size(request: Request, file: UploadFile) -> None:
    """Refuse a file that is larger than the server accepts."""
    limit = request.app.state.settings.mesh_limit_bytes
    if (file.size or 0) > limit:
        raise TooLarge(limit, file=True)


async def sent_file(request: Request, file: UploadFile, unit: Unit, cells: int) -> SentFile:
    """Return the file of a call; it is read elsewhere, in a process of its own."""
    check_file_size(request, file)
    return SentFile(data=await file.read(), name=file.filename or "", unit=unit, cells=cells)


def points_of(field: str, text: str) -> list[Point3]:
    """Read points written as ``x,y,z;x,y,z``."""
    found: list[Point3] = []
    for one in (part for part in text.split(";") if part.strip()):
        words = [word.strip() for word in one.split(",")]
        if len(words) != 3 or not all(NUMBER.fullmatch(word) for word in words):
            raise Refused(
                field, f"“{one.strip()[:60]}” is not a point: three numbers x,y,z, and a semicolon between points."
            )
        x, y, z = (float(word) for word in words)
        if max(abs(x), abs(y), abs(z)) > FARTHEST_MM:
            raise Refused(field, "A point lies within 100 m of the mesh's origin.")
        found.append((x, y, z))
    if len(found) > MOST_POINTS:
        raise Refused(field, f"{MOST_POINTS} points are the most.")
    return found


def direction_of(field: str, text: str) -> Point3:
    """Read a direction written as ``x,y,z``."""
    found = points_of(field, text)
    if len(found) != 1 or sum(number**2 for number in found[0]) < 1e-18:
        raise Refused(field, "A direction is three numbers x,y,z, and needs some length: 0,0,1 is straight up.")
    return found[0]
