"""Taking out: a job, a mould or everything as a parcel that another workshop's Ufrin, or any program, can read."""

from collections.abc import Collection, Iterable, Iterator, Mapping
from contextlib import contextmanager
from datetime import datetime
from typing import Any

from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store import jobs, moulds, parcel_file, parcels
from ufrin.store.connection import Connection, Database
from ufrin.store.parcel_tables import OWN_RULES, SHELF, WITH_JOBS, WITH_SHELF, ParcelTable

ENDINGS = {"meshes": "mesh", "pictures": "jpg", "sheets": "bin"}
_SHELF_TABLES = {"rubber_id": "rubbers", "additive_id": "additives", "product_id": "products"}


class _Packing:
    # rows by table and files by name, as they are gathered

    def __init__(self, connection: Connection) -> None:
        self.connection = connection
        self.tables: dict[str, list[dict[str, Any]]] = {}
        self.files: dict[str, bytes] = {}

    def ids(self, table: str) -> list[int]:
        return [row["id"] for row in self.tables.get(table, [])]

    def pack(self, table: ParcelTable, ids: Collection[int]) -> None:
        rows = self.tables.setdefault(table.name, [])
        for row, held in parcels.rows_of(self.connection, table.name, table.of, ids, order=table.order):
            for column, folder in table.files.items():
                if column in held:
                    row[column] = f"files/{folder}/{table.name}-{len(self.files) + 1}.{ENDINGS[folder]}"
                    self.files[row[column]] = held[column]
            rows.append({key: value for key, value in row.items() if key not in table.left_out})


@contextmanager
def _of_one_moment(database: Database) -> Iterator[Connection]:
    with database.transaction() as connection:
        connection.execute("set transaction isolation level repeatable read")
        yield connection


def job(database: Database, job_id: int, now: datetime, *, sheet: bytes) -> tuple[str, bytes]:
    """Take a job out, with all that it can't be without and its sheet as PDF; return its name and the parcel."""
    with _of_one_moment(database) as connection:
        name = jobs.load(connection, job_id).name
        return name, _parcel(connection, "job", name, {job_id}, now, papers={"sheet.pdf": sheet})


def mould(database: Database, number: int, now: datetime) -> tuple[str, bytes]:
    """Take a mould out, with its job, its shots and the moulds that it was made after."""
    with _of_one_moment(database) as connection:
        kept = moulds.look(connection, number)
        return kept.name, _parcel(connection, "mould", kept.name, {kept.job_id}, now)


def everything(database: Database, now: datetime) -> tuple[str, bytes]:
    """Take all jobs and the whole Shelf out, with the workshop's own tests of pairings."""
    with _of_one_moment(database) as connection:
        return "everything", _parcel(connection, "everything", "everything", parcels.all_jobs(connection), now)


def _parcel(
    connection: Connection,
    what: parcel_file.What,
    name: str,
    job_ids: Collection[int],
    now: datetime,
    *,
    papers: Mapping[str, bytes] | None = None,
) -> bytes:
    whole = parcels.with_others(connection, job_ids)
    packing = _Packing(connection)
    found = parcels.rows_of(connection, "jobs", "id", whole)
    if not found and what != "everything":
        raise Missing(Text("this job"))
    packing.tables["jobs"] = [row for row, _ in found]
    for table in WITH_JOBS:
        owner = table.refs[table.of]
        packing.pack(table, whole if owner == "jobs" else packing.ids(owner))
    _pack_meshes(packing, whole)
    _pack_shelf(packing, is_whole=what == "everything")
    # for people who have no Ufrin: whoever brings the parcel in has no need of them
    packing.files |= {f"files/papers/{title}": data for title, data in (papers or {}).items()}
    return parcel_file.write(what, name, packing.tables, packing.files, now)


def _pack_meshes(packing: _Packing, job_ids: Collection[int]) -> None:
    rows = packing.tables.setdefault("meshes", [])
    for mesh, name, data in parcels.meshes_of(packing.connection, job_ids):
        place = f"files/meshes/{mesh}.{ENDINGS['meshes']}"
        packing.files[place] = data
        rows.append({"hash": mesh, "name": name, "data": place})


def _pack_shelf(packing: _Packing, *, is_whole: bool) -> None:
    connection = packing.connection
    named: dict[str, set[int]]
    if is_whole:
        named = {table: {row["id"] for row in parcels.all_rows(connection, table)} for table in SHELF}
    else:
        named = parcels.found_in_inputs([*packing.tables["stations"], *packing.tables["earlier_inputs"]])
        poured = {row["rubber_id"] for row in packing.tables["pours"] if row["rubber_id"] is not None}
        named["rubbers"] = named.get("rubbers", set()) | poured
    # a rubber's coupons were mixed with thinners of their own
    packing.pack(WITH_SHELF[0], named.get("rubbers", set()))
    thinners = {row["thinner_id"] for row in packing.tables["coupons"] if row["thinner_id"] is not None}
    named["additives"] = named.get("additives", set()) | thinners
    for table in SHELF:
        packing.tables[table] = [row for row, _ in parcels.rows_of(connection, table, "id", named.get(table, set()))]
    for sheets in WITH_SHELF[1:4]:
        packing.pack(sheets, named.get(_SHELF_TABLES[sheets.of], set()))
    packing.pack(WITH_SHELF[4], packing.ids("safety_sheets"))
    if is_whole:
        packing.tables[OWN_RULES.name] = parcels.all_rows(connection, OWN_RULES.name)


def file_name(name: str) -> str:
    """Return the name of a parcel's file: letters, digits and hyphens."""
    return f"ufrin-{_plain(name) or 'parcel'}.zip"


def _plain(name: str) -> str:
    return "-".join("".join(_signs(name)).split("-"))[:60].strip("-").lower()


def _signs(name: str) -> Iterable[str]:
    before = "-"
    for sign in name:
        shown = sign if sign.isascii() and sign.isalnum() else "-"
        if shown != "-" or before != "-":
            yield shown
        before = shown
