"""The example of the first hour: a job in the workshop's own record book, to try things out on."""

from collections.abc import Mapping

from ufrin.actions.job import stations
from ufrin.core.inputs.stations import Station
from ufrin.core.rubber.tins import Rubber
from ufrin.language import Text
from ufrin.store.connection import Database
from ufrin.store.shelf import RUBBERS

# an invented rubber with round figures, for a Shelf that has none yet
EXAMPLE_RUBBER = Rubber(
    name="Example silicone",
    family="addition-silicone",
    weight_a=1,
    weight_b=1,
    sg_mixed=1.1,
    viscosity_mpa_s=5000,
    pot_life_min=30,
    demould_min=360,
    full_cure_min=1440,
    hardness_scale="A",
    hardness=20,
)
INPUTS: Mapping[Station, Mapping[str, object]] = {
    "master": {
        "length_mm": 92.0,
        "width_mm": 78.0,
        "height_mm": 31.0,
        "mass_g": 246.0,
        "level_before_ml": 500.0,
        "level_after_ml": 595.0,
    },
    "opening": {"style": "open", "flat_back": True},
    "box": {"side_mm": 12.0, "over_mm": 12.0},
}


def begin(database: Database) -> int:
    """Start the example: a stone ammonite, with the first silicone of the workshop, or an invented one.

    Parameters
    ----------
    database : Database
        The record book.

    Returns
    -------
    int
        The number of its job.
    """
    with database.transaction() as connection:
        own = (kept for kept in RUBBERS.all(connection) if not kept.retired_at and _is_suitable(kept.thing))
        first = next(own, None)
        rubber_id = first.id if first else RUBBERS.add(connection, EXAMPLE_RUBBER)
    job_id = stations.start_job(database, str(Text("Example: limestone ammonite")))
    what = {"what": str(Text("Limestone ammonite, flat at the back"))}
    stations.fill_in(
        database, job_id, {**INPUTS, "master": {**INPUTS["master"], **what}, "rubber": {"rubber_id": rubber_id}}
    )
    return job_id


def _is_suitable(rubber: Rubber) -> bool:
    return rubber.form == "liquid" and rubber.family.endswith("silicone")
