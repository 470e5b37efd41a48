"""The JSON Schema of export files, made from the tables themselves.

Run as a script, it writes ``docs/export.schema.json``: do so whenever a table that goes along has changed.
"""

import json
from pathlib import Path
from typing import Any

import psycopg

from ufrin.store.parcel_file import Manifest
from ufrin.store.parcel_tables import TABLES, WITH_JOBS
from ufrin.trial import trial_cluster, trial_database

FILE = Path(__file__).parents[1] / "docs" / "export.schema.json"
COLUMNS = """
    select attname, format_type(atttypid, null), attnotnull from pg_attribute
    where attrelid = %s::regclass and attnum > 0 and not attisdropped and attgenerated = '' order by attnum
"""
KINDS: dict[str, dict[str, Any]] = {
    "bigint": {"type": "integer"},
    "integer": {"type": "integer"},
    "smallint": {"type": "integer"},
    "double precision": {"type": "number"},
    "numeric": {"type": "number"},
    "text": {"type": "string"},
    "boolean": {"type": "boolean"},
    "timestamp with time zone": {"type": "string", "format": "date-time"},
    "date": {"type": "string", "format": "date"},
    "jsonb": {"description": "Plain JSON, as the program keeps it."},
    "bytea": {"type": "string", "pattern": "^files/", "description": "The path of a file in the export."},
}
MESH = {
    "type": "object",
    "properties": {name: {"type": "string"} for name in ("hash", "name", "data")},
    "required": ["hash", "name", "data"],
    "additionalProperties": False,
}


def _kind(name: str, *, is_needed: bool) -> dict[str, Any]:
    found = {"type": "array", "items": KINDS[name.removesuffix("[]")]} if name.endswith("[]") else dict(KINDS[name])
    if not is_needed and "type" in found:
        found["type"] = [found["type"], "null"]
    return found


def schema_of(conninfo: str) -> dict[str, Any]:
    left_out = {table.name: set(table.left_out) for table in WITH_JOBS}
    tables: dict[str, Any] = {}
    with psycopg.connect(conninfo) as connection:
        for table in TABLES:
            rows = connection.execute(COLUMNS, [table]).fetchall()
            kept = [row for row in rows if row[0] not in left_out.get(table, set())]
            row = {
                "type": "object",
                "properties": {name: _kind(kind, is_needed=needed) for name, kind, needed in kept},
                "required": [name for name, _, needed in kept if needed],
                "additionalProperties": False,
            }
            tables[table] = {"type": "array", "items": MESH if table == "meshes" else row}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "An export of Ufrin",
        "description": "manifest.json, and each file of the folder tables by its name without the ending.",
        "type": "object",
        "properties": {
            "manifest": Manifest.model_json_schema(),
            "tables": {"type": "object", "properties": tables, "additionalProperties": False},
        },
        "required": ["manifest", "tables"],
    }


def main() -> None:
    with trial_cluster() as cluster:
        FILE.write_text(json.dumps(schema_of(trial_database(cluster, "schema")), indent=1) + "\n")


if __name__ == "__main__":
    main()
