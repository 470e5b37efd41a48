"""Demo data: the replica workshop of a small maritime museum on a tidal estuary. All materials in it are invented."""

from collections.abc import Mapping
from typing import Any

from ufrin.actions import ADDITIONS as ADDITION_TABLE
from ufrin.actions import ADDITIVES as ADDITIVE_TABLE
from ufrin.actions import CONTAINERS as CONTAINER_TABLE
from ufrin.actions import CUPS as CUP_TABLE
from ufrin.actions import PRODUCTS as PRODUCT_TABLE
from ufrin.actions import RESINS as RESIN_TABLE
from ufrin.actions import RUBBERS as RUBBER_TABLE
from ufrin.actions import SCALES as SCALE_TABLE
from ufrin.actions import THERMOMETERS as THERMOMETER_TABLE
from ufrin.actions import Database, ShelfTable, Stored
from ufrin.actions.job import board, stations
from ufrin.actions.shelf import coupons, lots, things
from ufrin.actions.shop import record_book
from ufrin.actions.shop.workshop_settings import change_settings
from ufrin.core.clocks.moment import Moment
from ufrin.core.rubber.coupons import Coupon
from ufrin.core.shelf.scales import Scale
from ufrin.core.shelf.thermometers import Thermometer
from ufrin.demo_casting import ADDITIONS, RESINS
from ufrin.demo_casts import cast_before
from ufrin.demo_jobs import JOBS, PUT_AWAY
from ufrin.demo_masters import as_file
from ufrin.demo_moulds import moulds_before
from ufrin.demo_pours import FIRST_S, pour_before, pour_today
from ufrin.demo_schedule import people_before, promise_this_week
from ufrin.demo_shelf import ADDITIVES, CONTAINERS, COUPONS, CUPS, LOTS, PRODUCTS, RUBBERS
from ufrin.settings import THERMOMETER_BESIDE

__all__ = ["fill", "point_scales_at", "pour_today", "promise_this_week"]
WALL_THERMOMETER = "Wall thermometer"
SIMULATED = (("Bench scale", 0.1, 2000.0), ("Floor scale", 1.0, 6000.0))


def fill(database: Database, *, scale_port: int = 8540) -> bool:
    """Put the demo data into an empty record book; one that holds anything else is left as it is.

    It is one unit: whoever is killed in the middle begins again at the next start.

    Parameters
    ----------
    database : Database
        The record book.
    scale_port : int, optional
        Of the first simulated scale.

    Returns
    -------
    bool
        Whether anything was put in.
    """
    if not record_book.begin_demo(database):
        return False
    numbers: dict[object, int] = {rubber.name: things.add(database, RUBBER_TABLE, rubber) for rubber in RUBBERS}
    numbers |= {container.name: things.add(database, CONTAINER_TABLE, container) for container in CONTAINERS}
    numbers |= {additive.name: things.add(database, ADDITIVE_TABLE, additive) for additive in ADDITIVES}
    numbers |= {resin.name: things.add(database, RESIN_TABLE, resin) for resin in RESINS}
    numbers |= {addition.name: things.add(database, ADDITION_TABLE, addition) for addition in ADDITIONS}
    for product in PRODUCTS:
        things.add(database, PRODUCT_TABLE, product)
    numbers |= {cup.name: things.add(database, CUP_TABLE, cup) for cup in CUPS}
    for index, (name, step_g, most_g) in enumerate(SIMULATED):
        numbers[name] = things.add(
            database,
            SCALE_TABLE,
            Scale(name=name, address=f"socket://127.0.0.1:{scale_port + index}", step_g=step_g, most_g=most_g),
        )
    change_settings(database, version=1, units="metric", currency="EUR", scale_id=numbers["Bench scale"])
    for name, mesh, inputs_by_station in JOBS:
        job_id = stations.start_job(database, name)
        if mesh:
            stations.give_mesh(database, job_id, f"{mesh}.stl", as_file(mesh))
        named = {
            station: {key: numbers[value] if key.endswith("_id") else value for key, value in values.items()}
            for station, values in inputs_by_station.items()
        }
        stations.fill_in(database, job_id, named)
        if name == PUT_AWAY:
            stations.put_job_away(database, job_id, away=True)
    pour_before(database)
    _fill_shelf(database, numbers)
    begins = Moment(wall_s=FIRST_S, steady_s=FIRST_S, machine="demo")
    cast_before(database, begins)
    moulds_before(database, begins, numbers["Quayside 70"])
    people_before(database)
    for page in (1, 2):  # what the Board shows of each job is worked out now, not when it is first looked at
        board.board(database, page=page)
    record_book.finish_demo(database)
    return True


def point_scales_at(database: Database, scale_port: int) -> None:
    """Let the demo's scales and its thermometer be read where the simulated ones of this start are.

    Parameters
    ----------
    database : Database
        The record book.
    scale_port : int
        Of the first simulated scale; the thermometer is beside them.
    """
    for kept in things.shelf(database, SCALE_TABLE).things:
        index = next((place for place, (name, _, _) in enumerate(SIMULATED) if name == kept.thing.name), None)
        if index is not None:
            _point(database, SCALE_TABLE, kept, scale_port + index)
    wall = f"socket://127.0.0.1:{scale_port + THERMOMETER_BESIDE}"
    thermometers = things.shelf(database, THERMOMETER_TABLE).things
    if not thermometers:
        things.add(database, THERMOMETER_TABLE, Thermometer(name=WALL_THERMOMETER, address=wall))
    for one in thermometers:
        if one.thing.name == WALL_THERMOMETER:
            _point(database, THERMOMETER_TABLE, one, scale_port + THERMOMETER_BESIDE)


def _point(database: Database, table: ShelfTable[Any], kept: Stored[Any], port: int) -> None:
    address = f"socket://127.0.0.1:{port}"
    if kept.thing.address.startswith("socket://127.0.0.1:") and kept.thing.address != address:
        things.change(database, table, kept.id, version=kept.version, changes={"address": address})


def _fill_shelf(database: Database, numbers: Mapping[object, int]) -> None:
    tables: dict[str, ShelfTable[Any]] = {one.name: ADDITIVE_TABLE for one in ADDITIVES}
    tables |= {one.name: RUBBER_TABLE for one in RUBBERS}
    tables |= {one.name: RESIN_TABLE for one in RESINS} | {one.name: ADDITION_TABLE for one in ADDITIONS}
    for name, part, code, got_g, use_by, opened_on, price in LOTS:
        values = {"code": code, "part": part, "got_g": got_g, "use_by": use_by, "opened_on": opened_on, "price": price}
        lots.add(database, tables[name], numbers[name], values)
    for name, thinner, parts, gauge, readings in COUPONS:
        coupon = Coupon(scale=gauge, readings=readings)  # type: ignore[arg-type]
        coupons.log(database, numbers[name], coupon, thinner_id=numbers[thinner], parts=parts)
