"""A mesh as a call of the interface sends it: read, measured, with the points and directions beside it."""

import re
from dataclasses import dataclass
from typing import Literal

from fastapi import Request, UploadFile

from ufrin.core.mesh.cells import Cells
from ufrin.core.mesh.files import MeshFile, in_mm, read
from ufrin.core.mesh.mesh_volume import MeasuredMesh, measure
from ufrin.core.opening.trapped_air import Point3
from ufrin.core.wording.findings import Amount
from ufrin.core.wording.findings import Finding as CoreFinding
from ufrin.errors import Refused, TooLarge

Unit = Literal["mm", "cm", "m", "in"]
NUMBER = re.compile(r"[-+]?(\d{1,9}(\.\d{0,12})?|\.\d{1,12})([eE][-+]?\d{1,2})?")
MOST_POINTS, FARTHEST_MM = 100, 1e5
MOST_BLOCK_FACES, COARSER_CELLS = 150_000, 48


async def only_known_fields(request: Request) -> None:
    """Refuse an unknown form field, which the framework would ignore."""
    route = request.scope["route"]
    known = {field.name for field in route.dependant.body_params}
    for name in await request.form():
        if name not in known:
            raise Refused(name, "This field is not known here; see /api/docs for the names.")


@dataclass(frozen=True, slots=True, kw_only=True)
class SentMesh:
    """The mesh of a call: measured, in mm."""

    measured: MeasuredMesh
    notes: tuple[CoreFinding, ...]


def check_file_size(request: Request, file: UploadFile) -> None:
    """Refuse a file that is larger than the server accepts."""
    limit = request.app.state.settings.mesh_limit_bytes
    if (file.size or 0) > limit:
        raise TooLarge(limit, file=True)


def unit_notes(got: MeshFile, units: Unit) -> tuple[CoreFinding, ...]:
    """Return the note that a file names another unit than the one it was read in."""
    if got.says_unit in {"", units}:
        return ()
    return (CoreFinding(code="mesh-unit", facts={"says": got.says_unit, "taken": units}),)


def sent_mesh(request: Request, file: UploadFile, units: Unit) -> SentMesh:
    """Read and measure the mesh of a call."""
    check_file_size(request, file)
    got = read(file.file.read(), file.filename or "")
    notes = unit_notes(got, units)
    mesh = in_mm(got.mesh, units)
    measured = measure(mesh)
    if (
        measured.method == "voxel" and len(measured.solid.faces) > MOST_BLOCK_FACES
    ):  # the more it is torn, the more faces its cells have
        measured = measure(mesh, cells=COARSER_CELLS)
        notes = (*notes, CoreFinding(code="mesh-thinned"))
    return SentMesh(measured=measured, notes=notes)


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


def cell_findings(solid: Cells, wanted: int, used: int, longest_mm: float) -> list[CoreFinding]:
    """Return the finding where walls were thinner than the requested cells, or finer cells were used."""
    if solid.thin_mm is not None:
        cells = str(int(1.3 * longest_mm / max(solid.thin_mm, longest_mm / 9999)) + 1)
        return [CoreFinding(code="wall-too-thin", facts={"thin": Amount(solid.thin_mm, "length", 2), "cells": cells})]
    return [CoreFinding(code="cells-raised", facts={"cells": str(used), "asked": str(wanted)})] if used > wanted else []
