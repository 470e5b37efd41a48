"""Demo data: the replica workshop of a small maritime museum on a tidal estuary. All materials in it are invented."""

from typing import Any

from ufrin.actions import CONTAINERS as CONTAINER_TABLE
from ufrin.actions import RUBBERS as RUBBER_TABLE
from ufrin.actions import Database, jobs, shelf
from ufrin.core.pots import Container
from ufrin.core.rubbers import Rubber
from ufrin.core.stations import Station
from ufrin.demo_masters import as_file

RUBBERS: tuple[Rubber, ...] = (
    Rubber(
        name="Saltmarsh 25", family="condensation-silicone", a_name="Saltmarsh base", a_colour="white", b_name="Saltmarsh catalyst", b_colour="blue",
        weight_a=100, weight_b=10, sg_a=1.15, sg_b=0.98, sg_mixed=1.13, viscosity_mpa_s=22_000, pot_life_min=45, demould_min=960, full_cure_min=4320,
        hardness_scale="A", hardness=25, elongation_pct=350, tear_kn_per_m=20, kit_g=1100, kit_price=31.5,
    ),
    Rubber(
        name="Tideline 15", family="addition-silicone", a_name="Tideline A", a_colour="clear", b_name="Tideline B", b_colour="sea green",
        weight_a=1, weight_b=1, volume_a=1, volume_b=1, sg_a=1.08, sg_b=1.08, sg_mixed=1.08, viscosity_mpa_s=9000, pot_life_min=40, demould_min=360,
        full_cure_min=1440, hardness_scale="A", hardness=15, elongation_pct=480, tear_kn_per_m=18, kit_g=2000, kit_price=74,
    ),
    Rubber(
        name="Quay Quick 20", family="addition-silicone", a_name="Quay A", a_colour="cream", b_name="Quay B", b_colour="brick red",
        weight_a=1, weight_b=1, volume_a=1, volume_b=1, sg_a=1.10, sg_b=1.10, viscosity_mpa_s=14_000, pot_life_min=5, demould_min=60, full_cure_min=240,
        hardness_scale="A", hardness=20, elongation_pct=320, tear_kn_per_m=16, kit_g=900, kit_price=39,
    ),
    Rubber(
        name="Mudflat Soft", family="addition-silicone", a_name="Mudflat A", a_colour="clear", b_name="Mudflat B", b_colour="clear, red lid",
        weight_a=1, weight_b=1, sg_mixed=1.06, viscosity_mpa_s=3200, pot_life_min=30, demould_min=240, full_cure_min=1440, hardness_scale="00",
        hardness=30, elongation_pct=700, tear_kn_per_m=9, kit_g=1000, kit_price=42,
    ),
    Rubber(
        name="Bosun 40", family="polyurethane-rubber", a_name="Bosun resin", a_colour="amber", b_name="Bosun hardener", b_colour="pale straw",
        weight_a=100, weight_b=90, volume_a=1, volume_b=1, sg_a=1.05, sg_b=0.945, tolerance_pct=2, viscosity_mpa_s=1800, pot_life_min=20,
        demould_min=960, full_cure_min=7200, hardness_scale="A", hardness=40, elongation_pct=420, tear_kn_per_m=14, kit_g=1900, kit_price=46,
    ),
    Rubber(
        name="Rope Walk 60", family="polyurethane-rubber", a_name="Rope Walk resin", a_colour="brown", b_name="Rope Walk hardener", b_colour="yellow",
        volume_a=2, volume_b=1, sg_a=1.15, sg_b=1.02, tolerance_pct=2, viscosity_mpa_s=2600, pot_life_min=15, demould_min=1440, full_cure_min=10_080,
        hardness_scale="A", hardness=60, elongation_pct=300, tear_kn_per_m=28, kit_g=1500, kit_price=33,
    ),
)  # fmt: skip

CONTAINERS: tuple[Container, ...] = (
    Container(name="Yoghurt pot", shape="tapered", bottom_mm=62, top_mm=84, height_mm=98),
    Container(name="Flower pot", shape="tapered", bottom_mm=84, top_mm=128, height_mm=135),
    Container(name="Bait bucket", shape="tapered", bottom_mm=165, top_mm=205, height_mm=230),
    Container(name="Biscuit tin", shape="rectangle", length_mm=150, width_mm=145, height_mm=62),
    Container(name="Length of drain pipe", shape="round", bottom_mm=104, height_mm=160),
    Container(name="Toffee tin", shape="round", bottom_mm=128, height_mm=70),
)

# name, the master's mesh, then what is filled in at each station; rubber and container by name. Figures hang together with the meshes.
JOBS: tuple[tuple[str, str, dict[Station, dict[str, Any]]], ...] = (
    (
        "Ammonite, first try", "",
        {
            "master": {"what": "Limestone ammonite from the foreshore", "length_mm": 92.0, "width_mm": 78.0, "height_mm": 31.0, "mass_g": 246.0,
                       "level_before_ml": 500.0, "level_after_ml": 595.0},
            "rubber": {"rubber_id": "Mudflat Soft"},
        },
    ),
    ("Rope fender", "", {"master": {"what": "Knotted fender, too soft to dip; to be measured"}}),
    (
        "Net float", "",
        {
            "master": {"what": "Glass float, blown, sealed", "standin": "ball", "length_mm": 74.0, "mass_g": 131.0},
            "box": {"shape": "container", "container_id": "Flower pot", "bed_mm": 20.0, "sunk_mm": 5.0},
        },
    ),
    (
        "Mooring cleat", "",
        {
            "master": {"what": "Brass cleat from the slipway", "length_mm": 110.0, "width_mm": 32.0, "height_mm": 38.0, "mass_g": 402.0,
                       "level_before_ml": 347.0, "level_after_ml": 300.0},
        },
    ),
    (
        "Perched cormorant", "cormorant",
        {
            "master": {"what": "Carved lime wood, scanned; glue joints at the neck", "mass_g": 68.0},
            "box": {"shape": "contour"},
        },
    ),
    (
        "Pulley block, four at once", "pulley-block",
        {
            "master": {"what": "Turned pulley block, sealed beech", "mass_g": 39.0, "hung_reading_g": 112.8, "hung_sinker_g": 58.2,
                       "scale_step_g": 0.1, "water_temp_c": 18.0},
            "box": {"count": 4.0},
        },
    ),
    (
        "Barnacle tile", "barnacle-tile",
        {
            "master": {"what": "Plaster tile with barnacles, flat back", "mass_g": 150.0, "level_before_ml": 1000.0, "level_after_ml": 1160.0,
                       "material": "plaster", "mark_ml": 50.0, "hung_reading_g": 134.2, "scale_step_g": 0.1},
            "box": {"side_mm": 13.0, "over_mm": 12.0},
            "rubber": {"rubber_id": "Tideline 15", "scale_step_g": 1.0, "cup_ml": 350.0},
        },
    ),
    (
        "Lamp finial", "finial",
        {
            "master": {"what": "Turned mahogany finial, waxed", "mass_g": 47.0, "dip_diameter_mm": 112.0, "dip_before_mm": 140.0,
                       "dip_after_mm": 147.0},
            "box": {"shape": "round"},
            "rubber": {"rubber_id": "Bosun 40", "scale_step_g": 0.1},
        },
    ),
    (
        "Ammonite", "ammonite",
        {
            "master": {"what": "Limestone ammonite from the foreshore, sealed twice", "mass_g": 246.0, "hung_reading_g": 93.9, "water_temp_c": 19.0,
                       "scale_step_g": 0.1, "level_before_ml": 500.0, "level_after_ml": 595.0},
            "rubber": {"rubber_id": "Saltmarsh 25", "scale_step_g": 0.1, "pigment_pct": 1.0},
        },
    ),
)  # fmt: skip
PUT_AWAY = "Ammonite, first try"


def fill(database: Database) -> bool:
    """Put the demo data into an empty record book; one that holds anything is left as it is.

    Parameters
    ----------
    database : Database
        The record book.

    Returns
    -------
    bool
        Whether anything was put in.
    """
    if shelf.shelf(database).rubbers or jobs.board(database).total or jobs.board(database, put_away=True).total:
        return False
    numbers: dict[object, int] = {rubber.name: shelf.add(database, RUBBER_TABLE, rubber) for rubber in RUBBERS}
    numbers |= {container.name: shelf.add(database, CONTAINER_TABLE, container) for container in CONTAINERS}
    for name, mesh, stations in JOBS:
        job_id = jobs.start_job(database, name)
        if mesh:
            jobs.give_mesh(database, job_id, f"{mesh}.stl", as_file(mesh))
        for station, said in stations.items():
            changes = {key: numbers[value] if key in {"rubber_id", "container_id"} else value for key, value in said.items()}
            version = jobs.open_job(database, job_id, station).job.versions[station]
            jobs.change_station(database, job_id, station, version=version, changes=changes)
        if name == PUT_AWAY:
            jobs.put_job_away(database, job_id, away=True)
    return True
