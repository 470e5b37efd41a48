"""What a parcel holds: each table that goes along, what it belongs to, and what its rows point to."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

ShelfPart = Literal["rubbers", "additives", "resins", "additions", "products", "cups", "containers"]
SHELF: tuple[ShelfPart, ...] = ("rubbers", "additives", "resins", "additions", "products", "cups", "containers")
# inputs of a job that name a thing on the Shelf, or another job
INPUTS: Mapping[str, str] = {
    "rubber_id": "rubbers",
    "blend_id": "rubbers",
    "thinner_id": "additives",
    "thickener_id": "additives",
    "pigment_id": "additives",
    "cup_id": "cups",
    "container_id": "containers",
    "resin_id": "resins",
    "foam_id": "resins",
    "filler_id": "additions",
    "cast_colour_id": "additions",
    "other_id": "jobs",
    "third_id": "jobs",
}
# what a workshop may well have otherwise without it being another thing
NOT_COMPARED = frozenset({"id", "version", "retired_at", "kit_price", "pack_price"})


@dataclass(frozen=True, slots=True, kw_only=True)
class ParcelTable:
    """A table that goes along.

    Parameters
    ----------
    name : str
        Of the table.
    of : str
        The column that says what a row belongs to.
    refs : mapping of column to table
        What a row points to; a number that does not go along is left out.
    files : mapping of column to folder
        Bytes, each kept as a file of its own.
    order : str
        The columns by which rows are put in.
    has_id : bool
        Whether rows are numbered, and so numbered anew where they come in.
    left_out : tuple of str
        Columns that stay behind.
    once : bool
        Whether a row that is there already is passed over.
    """

    name: str
    of: str
    refs: Mapping[str, str]
    files: Mapping[str, str] = field(default_factory=dict)
    order: str = "id"
    has_id: bool = True
    left_out: tuple[str, ...] = ()
    once: bool = False


def _of_job(name: str, *, order: str = "id", refs: Mapping[str, str] | None = None) -> ParcelTable:
    return ParcelTable(
        name=name, of="job_id", refs={"job_id": "jobs", **(refs or {})}, order=order, has_id=order == "id"
    )


WITH_SHELF = (
    ParcelTable(name="coupons", of="rubber_id", refs={"rubber_id": "rubbers", "thinner_id": "additives"}),
    *(
        ParcelTable(
            name="safety_sheets",
            of=column,
            refs={"rubber_id": "rubbers", "additive_id": "additives", "product_id": "products"},
        )
        for column in ("rubber_id", "additive_id", "product_id")
    ),
    ParcelTable(
        name="safety_sheet_files",
        of="sheet_id",
        refs={"sheet_id": "safety_sheets"},
        files={"data": "sheets"},
        order="sheet_id",
        has_id=False,
    ),
)
WITH_JOBS = (
    _of_job("stations", order="job_id, station"),
    _of_job("earlier_inputs", order="job_id, station, version"),
    _of_job("retired_inputs", order="job_id, station, key"),
    _of_job("done_steps", order="job_id, step"),
    _of_job("sign_offs"),
    _of_job("faults"),
    ParcelTable(name="fault_pairs", of="fault_id", refs={"fault_id": "faults"}, order="fault_id, place", has_id=False),
    _of_job("sheets", order="job_id, revision"),
    _of_job("trials"),
    _of_job("pours", refs={"rubber_id": "rubbers"}),
    # stock belongs to the shelf of one workshop: which tin it was stays behind
    ParcelTable(
        name="pour_entries",
        of="pour_id",
        refs={"pour_id": "pours"},
        order="pour_id, number",
        has_id=False,
        left_out=("lot_id",),
    ),
    ParcelTable(
        name="pour_photos",
        of="pour_id",
        refs={"pour_id": "pours"},
        files={"data": "pictures"},
        order="pour_id, number",
        has_id=False,
    ),
    _of_job("shots", refs={"trial_id": "trials", "pour_id": "pours"}),
    ParcelTable(name="shot_parts", of="shot_id", refs={"shot_id": "shots"}, order="shot_id, number", has_id=False),
    ParcelTable(name="shot_pieces", of="shot_id", refs={"shot_id": "shots"}, order="shot_id, cavity", has_id=False),
    ParcelTable(name="shot_photos", of="shot_id", refs={"shot_id": "shots"}, files={"data": "pictures"}),
    _of_job("retired_cavities", order="job_id, cavity"),
    _of_job("moulds", refs={"parent_id": "moulds"}),
    ParcelTable(name="mould_signs", of="mould_id", refs={"mould_id": "moulds"}, files={"photo": "pictures"}),
    ParcelTable(name="mould_cares", of="mould_id", refs={"mould_id": "moulds"}, order="mould_id, care", has_id=False),
    _of_job("orders"),
)
# the whole workshop's besides
OWN_RULES = ParcelTable(name="own_rules", of="id", refs={"rubber_id": "rubbers"}, once=True)
HAVE_INPUTS = frozenset({"stations", "earlier_inputs"})
TABLES: tuple[str, ...] = tuple(
    dict.fromkeys((*SHELF, "meshes", "jobs", *(one.name for one in (*WITH_SHELF, *WITH_JOBS, OWN_RULES))))
)
