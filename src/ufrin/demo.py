"""Demo data: the replica workshop of a small maritime museum on a tidal estuary. All materials in it are invented."""

from collections.abc import Mapping
from typing import Any

from ufrin.actions import ADDITIVES as ADDITIVE_TABLE
from ufrin.actions import CONTAINERS as CONTAINER_TABLE
from ufrin.actions import CUPS as CUP_TABLE
from ufrin.actions import PRODUCTS as PRODUCT_TABLE
from ufrin.actions import RUBBERS as RUBBER_TABLE
from ufrin.actions import SCALES as SCALE_TABLE
from ufrin.actions import Database
from ufrin.actions.job import board
from ufrin.actions.job import stations as jobs
from ufrin.actions.shelf import coupons, lots, things
from ufrin.core.inputs.stations import Station
from ufrin.core.pairing.releases import Product
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.coupons import Coupon
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.scales import Scale
from ufrin.demo_masters import as_file
from ufrin.demo_pours import pour_before

RUBBERS: tuple[Rubber, ...] = (
    Rubber(
        name="Saltmarsh 25",
        family="condensation-silicone",
        a_name="Saltmarsh base",
        a_colour="white",
        b_name="Saltmarsh catalyst",
        b_colour="blue",
        weight_a=100,
        weight_b=10,
        sg_a=1.15,
        sg_b=0.98,
        sg_mixed=1.13,
        viscosity_mpa_s=22_000,
        pot_life_min=45,
        demould_min=960,
        full_cure_min=4320,
        hardness_scale="A",
        hardness=25,
        elongation_pct=350,
        tear_kn_per_m=20,
        kit_g=1100,
        kit_price=31.5,
    ),
    Rubber(
        name="Tideline 15",
        family="addition-silicone",
        a_name="Tideline A",
        a_colour="clear",
        b_name="Tideline B",
        b_colour="sea green",
        weight_a=1,
        weight_b=1,
        volume_a=1,
        volume_b=1,
        sg_a=1.08,
        sg_b=1.08,
        sg_mixed=1.08,
        viscosity_mpa_s=9000,
        pot_life_min=40,
        demould_min=360,
        full_cure_min=1440,
        hardness_scale="A",
        hardness=15,
        elongation_pct=480,
        tear_kn_per_m=18,
        kit_g=2000,
        kit_price=74,
    ),
    Rubber(
        name="Quay Quick 20",
        family="addition-silicone",
        a_name="Quay A",
        a_colour="cream",
        b_name="Quay B",
        b_colour="brick red",
        weight_a=1,
        weight_b=1,
        volume_a=1,
        volume_b=1,
        sg_a=1.10,
        sg_b=1.10,
        viscosity_mpa_s=14_000,
        pot_life_min=5,
        demould_min=60,
        full_cure_min=240,
        hardness_scale="A",
        hardness=20,
        elongation_pct=320,
        tear_kn_per_m=16,
        kit_g=900,
        kit_price=39,
    ),
    Rubber(
        name="Mudflat Soft",
        family="addition-silicone",
        a_name="Mudflat A",
        a_colour="clear",
        b_name="Mudflat B",
        b_colour="clear, red lid",
        weight_a=1,
        weight_b=1,
        sg_mixed=1.06,
        viscosity_mpa_s=3200,
        pot_life_min=30,
        demould_min=240,
        full_cure_min=1440,
        hardness_scale="00",
        hardness=30,
        elongation_pct=700,
        tear_kn_per_m=9,
        kit_g=1000,
        kit_price=42,
    ),
    Rubber(
        name="Bosun 40",
        family="polyurethane-rubber",
        a_name="Bosun resin",
        a_colour="amber",
        b_name="Bosun hardener",
        b_colour="pale straw",
        weight_a=100,
        weight_b=90,
        volume_a=1,
        volume_b=1,
        sg_a=1.05,
        sg_b=0.945,
        tolerance_pct=2,
        viscosity_mpa_s=1800,
        pot_life_min=20,
        demould_min=960,
        full_cure_min=7200,
        hardness_scale="A",
        hardness=40,
        elongation_pct=420,
        tear_kn_per_m=14,
        kit_g=1900,
        kit_price=46,
    ),
    Rubber(
        name="Rope Walk 60",
        family="polyurethane-rubber",
        a_name="Rope Walk resin",
        a_colour="brown",
        b_name="Rope Walk hardener",
        b_colour="yellow",
        volume_a=2,
        volume_b=1,
        sg_a=1.15,
        sg_b=1.02,
        tolerance_pct=2,
        viscosity_mpa_s=2600,
        pot_life_min=15,
        demould_min=1440,
        full_cure_min=10_080,
        hardness_scale="A",
        hardness=60,
        elongation_pct=300,
        tear_kn_per_m=28,
        kit_g=1500,
        kit_price=33,
    ),
    Rubber(
        name="Estuary 5",
        family="addition-silicone",
        a_name="Estuary A",
        a_colour="clear",
        b_name="Estuary B",
        b_colour="pale blue",
        weight_a=1,
        weight_b=1,
        volume_a=1,
        volume_b=1,
        sg_a=1.07,
        sg_b=1.07,
        sg_mixed=1.07,
        viscosity_mpa_s=12_000,
        pot_life_min=45,
        demould_min=420,
        full_cure_min=1440,
        hardness_scale="A",
        hardness=5,
        elongation_pct=900,
        tear_kn_per_m=13,
        kit_g=2000,
        kit_price=82,
    ),
    Rubber(
        name="Wharf Putty 45",
        family="addition-silicone",
        form="putty",
        a_name="Wharf A",
        a_colour="white",
        b_name="Wharf B",
        b_colour="lilac",
        weight_a=1,
        weight_b=1,
        sg_mixed=1.45,
        pot_life_min=2,
        demould_min=15,
        full_cure_min=60,
        hardness_scale="A",
        hardness=45,
        elongation_pct=150,
        tear_kn_per_m=8,
        kit_g=1000,
        kit_price=36,
    ),
)

CONTAINERS: tuple[Container, ...] = (
    Container(name="Yoghurt pot", shape="tapered", bottom_mm=62, top_mm=84, height_mm=98),
    Container(name="Flower pot", shape="tapered", bottom_mm=84, top_mm=128, height_mm=135),
    Container(name="Bait bucket", shape="tapered", bottom_mm=165, top_mm=205, height_mm=230),
    Container(name="Biscuit tin", shape="rectangle", length_mm=150, width_mm=145, height_mm=62),
    Container(name="Length of drain pipe", shape="round", bottom_mm=104, height_mm=160),
    Container(name="Toffee tin", shape="round", bottom_mm=128, height_mm=70),
)

ADDITIVES: tuple[Additive, ...] = (
    Additive(
        name="Ebb thinner",
        kind="thinner",
        colour="water clear",
        family="addition-silicone",
        sg=0.97,
        viscosity_mpa_s=50,
        most_parts=50,
        pack_g=900,
        pack_price=19,
    ),
    Additive(
        name="Slack thinner",
        kind="thinner",
        colour="straw",
        family="condensation-silicone",
        sg=0.96,
        viscosity_mpa_s=100,
        pack_g=500,
        pack_price=14,
    ),
    Additive(
        name="Weed thickener",
        kind="thickener",
        colour="cloudy",
        family="any",
        sg=1.02,
        most_parts=5,
        pack_g=100,
        pack_price=11,
    ),
    Additive(name="Buoy red", kind="pigment", colour="red", family="any", sg=1.15, pack_g=50, pack_price=9),
    Additive(name="Kelp green", kind="pigment", colour="green", family="any", sg=1.1, pack_g=50, pack_price=9),
)

CUPS: tuple[Cup, ...] = (
    Cup(name="Marked beaker", bottom_mm=98, height_mm=150, mark_ml=50),
    Cup(name="Paper tub", bottom_mm=64, top_mm=86, height_mm=105),
    Cup(name="Tall degassing pail", bottom_mm=150, top_mm=185, height_mm=260),
)

PRODUCTS: tuple[Product, ...] = (
    Product(
        name="Spindrift release",
        kind="silicone-free-release",
        by="spray",
        finish="satin",
        sets_min=10,
        shots=4,
        pack_price=12,
    ),
    Product(name="Shoal varnish", kind="clear-coat", by="brush", sets_min=480, pack_price=16),
    Product(name="Sandbar powder", kind="talc", by="dust", finish="matt", shots=1, pack_price=4),
)

# rubber or additive, part, code, came, use-by, opened, price
LOTS: tuple[tuple[str, str, str, float, str, str, float | None], ...] = (
    ("Saltmarsh 25", "A", "SM-0417", 1000.0, "2028-03-31", "2026-09-02", 28.5),
    ("Saltmarsh 25", "B", "SM-0417", 100.0, "2028-03-31", "2026-09-02", 3.0),
    ("Tideline 15", "A", "TL-88", 1000.0, "2027-10-31", "2026-10-12", 37.0),
    ("Tideline 15", "B", "TL-88", 1000.0, "2027-10-31", "2026-10-12", 37.0),
    ("Bosun 40", "A", "BO-12", 400.0, "2026-08-31", "2026-02-20", 9.0),
    ("Bosun 40", "B", "BO-12", 360.0, "2026-08-31", "2026-02-20", 9.0),
    ("Estuary 5", "all", "ES-3", 2000.0, "2028-01-31", "", 82.0),
    ("Ebb thinner", "all", "EB-1", 900.0, "", "2026-05-04", 19.0),
    ("Buoy red", "all", "BR-1", 50.0, "", "", 9.0),
)

# rubber, thinner, parts, gauge, readings
COUPONS: tuple[tuple[str, str, float, str, tuple[float, ...]], ...] = (
    ("Estuary 5", "Ebb thinner", 10.0, "00", (44.0, 45.0, 44.5, 43.0, 45.5)),
    ("Estuary 5", "Ebb thinner", 25.0, "00", (35.0, 34.0, 36.0, 35.5, 34.5)),
    ("Estuary 5", "Ebb thinner", 50.0, "00", (21.0, 20.5, 22.0, 21.5, 20.0)),
    ("Tideline 15", "Ebb thinner", 20.0, "00", (55.0, 54.0, 56.0, 54.5, 55.5)),
)

# name, the master's mesh, then what is filled in at each station; rubber and container by name. Figures hang together
# with the meshes.
JOBS: tuple[tuple[str, str, dict[Station, dict[str, Any]]], ...] = (
    (
        "Ammonite, first try",
        "",
        {
            "master": {
                "what": "Limestone ammonite from the foreshore",
                "length_mm": 92.0,
                "width_mm": 78.0,
                "height_mm": 31.0,
                "mass_g": 246.0,
                "level_before_ml": 500.0,
                "level_after_ml": 595.0,
            },
            "rubber": {"rubber_id": "Mudflat Soft"},
        },
    ),
    ("Rope fender", "", {"master": {"what": "Knotted fender, too soft to dip; to be measured"}}),
    (
        "Net float",
        "",
        {
            "master": {
                "what": "Glass float, blown, sealed",
                "material": "glass",
                "release": "silicone-free-release",
                "standin": "ball",
                "length_mm": 74.0,
                "mass_g": 131.0,
            },
            "box": {
                "shape": "container",
                "container_id": "Flower pot",
                "bed_mm": 20.0,
                "sunk_mm": 5.0,
                "bed_material": "sulphur-free-clay",
            },
            "rubber": {
                "rubber_id": "Estuary 5",
                "thinner_id": "Ebb thinner",
                "thinner_parts": 20.0,
                "pigment_id": "Buoy red",
                "pigment_pct": 0.5,
                "cup_id": "Marked beaker",
                "scale_step_g": 0.1,
            },
        },
    ),
    (
        "Mooring cleat",
        "",
        {
            "master": {
                "what": "Brass cleat from the slipway",
                "length_mm": 110.0,
                "width_mm": 32.0,
                "height_mm": 38.0,
                "mass_g": 402.0,
                "level_before_ml": 347.0,
                "level_after_ml": 300.0,
            }
        },
    ),
    (
        "Perched cormorant",
        "cormorant",
        {
            "master": {
                "what": "Carved lime wood, scanned; glue joints at the neck",
                "mass_g": 68.0,
                "material": "softwood",
                "sealer": "shellac",
            },
            "box": {"shape": "contour"},
            "rubber": {
                "rubber_id": "Tideline 15",
                "how": "brushed",
                "coats": 4.0,
                "thickener_id": "Weed thickener",
                "scale_step_g": 0.1,
            },
        },
    ),
    (
        "Pulley block, four at once",
        "pulley-block",
        {
            "master": {
                "what": "Turned pulley block, sealed beech",
                "mass_g": 39.0,
                "hung_reading_g": 112.8,
                "hung_sinker_g": 58.2,
                "scale_step_g": 0.1,
                "water_temp_c": 18.0,
                "material": "hardwood",
                "sealer": "shellac",
                "finish": "satin",
            },
            "opening": {"style": "two-part"},
            "box": {"count": 4.0, "bed_material": "sulphur-free-clay"},
        },
    ),
    (
        "Barnacle tile",
        "barnacle-tile",
        {
            "master": {
                "what": "Plaster tile with barnacles, flat back",
                "mass_g": 150.0,
                "level_before_ml": 1000.0,
                "level_after_ml": 1160.0,
                "material": "plaster",
                "sealer": "soap",
                "finish": "matt",
                "mark_ml": 50.0,
                "hung_reading_g": 134.2,
                "scale_step_g": 0.1,
            },
            "box": {"side_mm": 13.0, "over_mm": 12.0},
            "rubber": {"rubber_id": "Tideline 15", "scale_step_g": 1.0, "cup_ml": 350.0},
            "checks": {"cast_material": "polyurethane-resin", "cast_finish": "painted", "air": "vacuum"},
        },
    ),
    (
        "Lamp finial",
        "finial",
        {
            "master": {
                "what": "Turned mahogany finial, waxed",
                "mass_g": 47.0,
                "dip_diameter_mm": 112.0,
                "dip_before_mm": 140.0,
                "dip_after_mm": 147.0,
                "material": "hardwood",
                "sealer": "wax",
                "finish": "shiny",
            },
            "box": {"shape": "round"},
            "rubber": {"rubber_id": "Bosun 40", "scale_step_g": 0.1},
            "checks": {"cast_material": "polyurethane-resin", "cast_finish": "satin"},
        },
    ),
    (
        "Ammonite",
        "ammonite",
        {
            "master": {
                "what": "Limestone ammonite from the foreshore, sealed twice",
                "mass_g": 246.0,
                "hung_reading_g": 93.9,
                "water_temp_c": 19.0,
                "scale_step_g": 0.1,
                "level_before_ml": 500.0,
                "level_after_ml": 595.0,
                "material": "limestone",
                "sealer": "clear-coat",
                "finish": "satin",
            },
            "opening": {"style": "open", "show": "0, 0, 1"},
            "checks": {"cast_material": "plaster", "cast_finish": "painted"},
            "rubber": {"rubber_id": "Saltmarsh 25", "scale_step_g": 0.1, "pigment_pct": 1.0},
        },
    ),
)
PUT_AWAY = "Ammonite, first try"


def fill(database: Database, *, scale_port: int = 8540) -> bool:
    """Put the demo data into an empty record book; one that holds anything is left as it is.

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
    if (
        things.shelf(database, RUBBER_TABLE).things
        or board.board(database).total
        or board.board(database, put_away=True).total
    ):
        return False
    numbers: dict[object, int] = {rubber.name: things.add(database, RUBBER_TABLE, rubber) for rubber in RUBBERS}
    numbers |= {container.name: things.add(database, CONTAINER_TABLE, container) for container in CONTAINERS}
    numbers |= {additive.name: things.add(database, ADDITIVE_TABLE, additive) for additive in ADDITIVES}
    for product in PRODUCTS:
        things.add(database, PRODUCT_TABLE, product)
    numbers |= {cup.name: things.add(database, CUP_TABLE, cup) for cup in CUPS}
    for index, (name, step_g, most_g) in enumerate((("Bench scale", 0.1, 2000.0), ("Floor scale", 1.0, 6000.0))):
        things.add(
            database,
            SCALE_TABLE,
            Scale(name=name, address=f"socket://127.0.0.1:{scale_port + index}", step_g=step_g, most_g=most_g),
        )
    for name, mesh, stations in JOBS:
        job_id = jobs.start_job(database, name)
        if mesh:
            jobs.give_mesh(database, job_id, f"{mesh}.stl", as_file(mesh))
        named = {
            station: {key: numbers[value] if key.endswith("_id") else value for key, value in said.items()}
            for station, said in stations.items()
        }
        jobs.fill_in(database, job_id, named)
        if name == PUT_AWAY:
            jobs.put_job_away(database, job_id, away=True)
    pour_before(database)
    _fill_shelf(database, numbers)
    return True


def _fill_shelf(database: Database, numbers: Mapping[object, int]) -> None:
    rubbers = {rubber.name for rubber in RUBBERS}
    for name, part, code, got_g, use_by, opened_on, price in LOTS:
        said = {"code": code, "part": part, "got_g": got_g, "use_by": use_by, "opened_on": opened_on, "price": price}
        lots.add(database, RUBBER_TABLE if name in rubbers else ADDITIVE_TABLE, numbers[name], said)
    for name, thinner, parts, gauge, readings in COUPONS:
        coupon = Coupon(scale=gauge, readings=readings)  # type: ignore[arg-type]
        coupons.log(database, numbers[name], coupon, thinner_id=numbers[thinner], parts=parts)
