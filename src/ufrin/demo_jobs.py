"""The demo's jobs, as they are filled in at their stations."""

from typing import Any

from ufrin.core.inputs.stations import Station

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
            "opening": {"style": "open", "flat_back": True},
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
            "opening": {"style": "open"},
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
            "opening": {"style": "skin"},
            "rubber": {"rubber_id": "Tideline 15", "coats": 4.0, "thickener_id": "Weed thickener"},
            "casts": {
                "cast_kind": "foam-back",
                "resin_id": "Quayside 70",
                "foam_id": "Pontoon foam",
                "thickness_mm": 3.0,
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
            "opening": {"style": "two-part", "bed_material": "sulphur-free-clay"},
            "box": {"count": 4.0},
            "rubber": {"rubber_id": "Tideline 15"},
            "casts": {"resin_id": "Quayside 70", "pieces": 24.0, "cast_colour_id": "Lichen grey"},
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
            "casts": {"cast_kind": "filled", "resin_id": "Quayside 70", "filler_id": "Chalk of shells", "scoops": 1.0},
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
            "opening": {"style": "slit"},
            "box": {"shape": "round"},
            "rubber": {"rubber_id": "Bosun 40"},
            "checks": {"cast_material": "polyurethane-resin", "cast_finish": "satin"},
            "casts": {"cast_kind": "layers", "resin_id": "Lantern clear", "layers": "30, 40, 30"},
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
            "rubber": {"rubber_id": "Saltmarsh 25", "pigment_pct": 1.0},
            "casts": {"cast_kind": "solid", "resin_id": "Breakwater plaster"},
        },
    ),
    (
        "Oar grip, pressed copies",
        "",
        {
            "master": {
                "what": "Grip of a ceremonial oar, ash, sealed and waxed",
                "standin": "drum",
                "length_mm": 38.0,
                "height_mm": 96.0,
                "mass_g": 74.0,
                "material": "hardwood",
                "sealer": "wax",
                "release": "silicone-free-release",
            },
            "opening": {"style": "squeeze", "bed_material": "sulphur-free-clay"},
            "rubber": {"rubber_id": "Quay Quick 20", "mix_min": 1.5, "pour_min": 2.0},
        },
    ),
    (
        "Pilot's cap badge",
        "",
        {
            "master": {
                "what": "Brass badge with a flat back",
                "length_mm": 46.0,
                "width_mm": 38.0,
                "height_mm": 6.0,
                "mass_g": 58.0,
                "material": "brass",
            },
            "opening": {"flat_back": True},
            "rubber": {"rubber_id": "Wharf Putty 45"},
            "casts": {"cast_kind": "cold-cast", "resin_id": "Quayside 70", "filler_id": "Bollard bronze"},
        },
    ),
    (
        "Tide table tokens, six at once",
        "",
        {
            "master": {
                "what": "Token of turned maple, flat back, sealed",
                "standin": "drum",
                "length_mm": 42.0,
                "height_mm": 7.0,
                "mass_g": 6.3,
                "material": "hardwood",
                "sealer": "clear-coat",
                "release": "silicone-free-release",
            },
            "opening": {"style": "tray", "flat_back": True},
            "box": {"count": 6.0},
            "rubber": {"rubber_id": "Tideline 15"},
            "checks": {"cast_material": "polyurethane-resin"},
        },
    ),
)
PUT_AWAY = "Ammonite, first try"
