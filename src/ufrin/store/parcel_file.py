"""Parcel files: a zip of JSON tables with their meshes, pictures and PDFs, written plainly and read with suspicion."""

import hashlib
import json
import re
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from io import BytesIO
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, ValidationError

from ufrin import __version__
from ufrin.errors import Refused
from ufrin.store.parcel_tables import TABLES

MANIFEST = "manifest.json"
MOST_MEMBERS = 20_000
MOST_TABLE_BYTES = 200_000_000
MOST_ALL_BYTES = 1_500_000_000
MOST_SQUEEZED = 200  # JSON of many like rows packs some 30 times; a bomb a thousand
_MEMBER = re.compile(
    r"(manifest\.json|tables/[a-z_]{1,40}\.json|files/(?:meshes|papers|pictures|sheets)/[\w-]{1,80}\.[a-z0-9]{1,8})"
)
What = Literal["job", "mould", "everything"]


class Manifest(BaseModel):
    """What a parcel holds: rows by table, and each file with its SHA-256."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    format: Literal["ufrin-parcel"]
    format_version: Literal[1]
    made_at: datetime
    ufrin: str
    what: What
    name: str
    tables: Mapping[str, int]
    files: Mapping[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Parcel:
    """A parcel that was read: its manifest, its rows by table, and its files by their names."""

    manifest: Manifest
    tables: Mapping[str, list[dict[str, Any]]]
    files: Mapping[str, bytes] = field(repr=False)

    def rows(self, table: str) -> list[dict[str, Any]]:
        """Return the rows of a table."""
        return self.tables.get(table, [])


def write(
    what: What, name: str, tables: Mapping[str, list[dict[str, Any]]], files: Mapping[str, bytes], now: datetime
) -> bytes:
    """Return a parcel as a file."""
    manifest = Manifest(
        format="ufrin-parcel",
        format_version=1,
        made_at=now,
        ufrin=__version__,
        what=what,
        name=name,
        tables={table: len(rows) for table, rows in tables.items()},
        files={place: hashlib.sha256(data).hexdigest() for place, data in sorted(files.items())},
    )
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(MANIFEST, manifest.model_dump_json(indent=1))
        for table, rows in tables.items():
            archive.writestr(f"tables/{table}.json", json.dumps(rows, indent=1, ensure_ascii=False))
        for place, data in sorted(files.items()):
            archive.writestr(place, data)
    return out.getvalue()


def read(data: bytes) -> Parcel:
    """Read a parcel, and check every part of it against its manifest.

    Raises Refused when it is none, was cut off or altered, unpacks to too much, or names a place outside of it.
    """
    try:
        with zipfile.ZipFile(BytesIO(data)) as archive:
            _check_members(archive)
            manifest = Manifest.model_validate_json(archive.read(MANIFEST))
            files = {name: archive.read(name) for name in archive.namelist() if name.startswith("files/")}
            tables = {
                name.removeprefix("tables/").removesuffix(".json"): json.loads(archive.read(name))
                for name in archive.namelist()
                if name.startswith("tables/")
            }
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, KeyError, UnicodeDecodeError) as error:
        raise Refused(
            "file", "This is not an export file from Ufrin, or it was cut off on its way. Send it again."
        ) from error
    except (ValidationError, json.JSONDecodeError, RecursionError) as error:
        raise Refused(
            "file",
            "This export file can't be read: it was altered, or made by a newer version of Ufrin. Export it again.",
        ) from error
    _check_content(manifest, tables, files)
    _bring_up_to_date(tables)
    return Parcel(manifest=manifest, tables=tables, files=files)


def _check_members(archive: zipfile.ZipFile) -> None:
    members = archive.infolist()
    names = [one.filename for one in members]
    if len(members) > MOST_MEMBERS or len(set(names)) != len(names):
        raise Refused("file", "This export file has too many files in it, or one twice. Export it again.")
    strange = next((name for name in names if not _MEMBER.fullmatch(name)), None)
    if strange is not None:
        raise Refused("file", f"This export file has a file “{strange[:80]}”, which none has. Nothing was imported.")
    all_bytes = sum(one.file_size for one in members)
    is_bomb = any(one.file_size > max(1_000_000, MOST_SQUEEZED * one.compress_size) for one in members)
    most = max((one.file_size for one in members if one.filename.endswith(".json")), default=0)
    if all_bytes > MOST_ALL_BYTES or most > MOST_TABLE_BYTES or is_bomb:
        raise Refused("file", "This export file unpacks to more than is accepted at once. Export single jobs instead.")


def _check_content(manifest: Manifest, tables: Mapping[str, Any], files: Mapping[str, bytes]) -> None:
    if set(tables) - set(TABLES) or set(tables) != set(manifest.tables) or set(files) != set(manifest.files):
        raise Refused("file", "The contents of this export file do not match its manifest. Export it again.")
    for name, rows in tables.items():
        if not (isinstance(rows, list) and all(isinstance(row, dict) for row in rows)):
            raise Refused("file", f"The table {name} of this export file can't be read. Export it again.")
        if len(rows) != manifest.tables[name]:
            raise Refused("file", f"The table {name} of this export file is not whole. Export it again.")
    for name, data in files.items():
        if hashlib.sha256(data).hexdigest() != manifest.files[name]:
            raise Refused("file", f"The file {name} of this export file was altered or damaged. Export it again.")


def _bring_up_to_date(tables: Mapping[str, list[dict[str, Any]]]) -> None:
    # 0018.one-figure: the casts of a job had a room of their own; it became the job's where none was typed
    for row in tables.get("earlier_inputs", ()):
        _room_of_casts(row)
    rooms_c = {row.get("job_id"): _room_of_casts(row) for row in tables.get("stations", ()) if _is_of(row, "casts")}
    for row in tables.get("stations", ()):
        room_c = rooms_c.get(row.get("job_id"))
        if room_c is not None and _is_of(row, "rubber"):
            row["inputs"].setdefault("room_temp_c", room_c)
    # 0019.begun-moulds: a column of shots has another name
    for row in tables.get("shots", ()):
        if "is_part" in row:
            row["was_partly_filled"] = row.pop("is_part")
    # 0020.parts-of-casts: the maker's own amount was that of both parts together, and is neither's now
    if "shot_parts" not in tables:
        for row in (*tables.get("stations", ()), *tables.get("earlier_inputs", ())):
            if _is_of(row, "casts") and _had_parts(row["inputs"]):
                row["inputs"].pop("each_g", None)


def _had_parts(casts: Mapping[str, Any]) -> bool:
    face_mm = casts.get("face_mm")
    is_faced = isinstance(face_mm, int | float) and face_mm > 0
    return casts.get("cast_kind") == "foam-back" or (casts.get("cast_kind") == "cold-cast" and is_faced)


def _is_of(row: Mapping[str, Any], station: str) -> bool:
    return row.get("station") == station and isinstance(row.get("inputs"), dict)


def _room_of_casts(row: Mapping[str, Any]) -> object:
    return row["inputs"].pop("room_c", None) if _is_of(row, "casts") else None
