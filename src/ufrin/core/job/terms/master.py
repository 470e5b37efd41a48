"""The terms of the Master station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.inputs.master import SettledMaster
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.inputs.usual import USUAL
from ufrin.core.materials.kinds import LONGEST_OWN, NOTHING_BETWEEN, PUT_ON, SOMETHING_ELSE
from ufrin.core.materials.tables import MATERIALS
from ufrin.core.pairing.surface_finish import FINISHES

OUTLINES = {"rectangle": "Rectangular", "round": "Round"}
STANDINS = {
    "": "none",
    "block": "Block",
    "drum": "Drum",
    "cone": "Cone or frustum",
    "ball": "Ball",
    "ring": "Ring, lying flat",
    "slab": "Slab with relief",
    "profile": "Turned profile",
    "fitted": "Rounded body fitted to size and displacement",
}
MESH_UNITS = {"mm": "millimetres", "cm": "centimetres", "m": "metres", "in": "inches"}
WAYS = {
    "mesh": "The mesh itself",
    "standin": "The stand-in shape",
    "known": "I know the volume",
    "hung": "Hung in water on the scale",
    "under": "Hung from the scale into water",
    "level": "Level rise in a marked jug",
    "dip": "Level rise in a plain round vessel",
    "boxed": "Box filled with water",
    "grain": "Level rise in fine dry grain",
    "density": "Weight over density",
}

# what each way by hand needs, for the choice by picture
WAY_NEEDS: Mapping[str, str] = {
    "hung": "A scale, a jug of water and a thread; the master may get wet.",
    "under": "A scale that weighs from a hook below, and a vessel of water.",
    "known": "A drawing, a data sheet or an earlier job.",
    "level": "A marked jug that the master fits into; it may get wet.",
    "dip": "A straight round vessel, a ruler and water.",
    "boxed": "The box itself, sealed, and a marked jug: this gives the net volume directly.",
    "grain": "A marked jug and fine dry grain, for a master that may not get wet.",
    "density": "A scale, and what it is made of; only for a master without hollows.",
}

MASTER_TERMS: Mapping[str, Term] = with_defaults(
    {
        "what": Term(label="What it is", kind="text", help="What you copy and what it is made of.", longest=200),
        "mesh": Term(label="Mesh", kind="hidden"),
        "mesh_unit": Term(label="The file is drawn in", kind="choice", choices=MESH_UNITS),
        "up": Term(label="Direction that points up, as x, y, z of the mesh", kind="direction"),
        "spin_deg": quantity("Rotated on the board by", "angle"),
        "shrink_pct": quantity("Shrinkage allowance", "percent"),
        "surface_pm_mm": quantity(
            "Surface accuracy, ±",
            "length",
            "How far a print may be off its model. Multiplied by its surface, that is the error.",
        ),
        "standin": Term(label="Stand-in shape", kind="choice", choices=STANDINS),
        "profile": Term(
            label="Height and diameter, from the foot up",
            kind="profile",
            longest=600,
            help="Pairs such as 0 46, 12 46, 12 30, 60 14, 118 0: a height, then the diameter there.",
        ),
        "top_mm": quantity("Diameter at the top", "length"),
        "ring_mm": positive_quantity("Thickness of the ring", "length"),
        "slab_base_mm": positive_quantity(
            "Thickness of the slab itself", "length", "The relief stands on it, up to the height above."
        ),
        "relief_ml": positive_quantity("Volume of the relief", "volume", "Leave empty for half of the room it has."),
        "outline": Term(label="Seen from above", kind="choice", choices=OUTLINES),
        "length_mm": positive_quantity("Length", "length"),
        "width_mm": positive_quantity("Width", "length"),
        "height_mm": positive_quantity("Height", "length", "As it stands on the board."),
        "mass_g": positive_quantity("Weight", "mass", "Shows whether it will float in the rubber."),
        "counted_way": Term(
            label="Measurement that counts", kind="choice", choices={"best": "The one with the smallest error", **WAYS}
        ),
        "known_ml": positive_quantity("Its volume", "volume", "From a drawing, a data sheet or an earlier job."),
        "known_pm_ml": quantity(
            "Uncertainty, ±", "volume", f"Empty: {100 * USUAL['known']['plus_minus_share']:g} % of it."
        ),
        "hung_reading_g": positive_quantity(
            "Scale shows, master hung under water",
            "mass",
            "Jug of water on the scale, tared; master on a thread, wholly under, touching nothing.",
        ),
        "hung_sinker_g": quantity(
            "Scale shows with the sinker alone",
            "mass",
            "Only for a master that floats: weigh both, then the sinker by itself.",
        ),
        "under_reading_g": quantity(
            "Weight under water", "mass", "Master on a thread below the scale, wholly under water."
        ),
        "under_sinker_g": quantity("Weight of the sinker alone, under water", "mass", "Only for a master that floats."),
        "level_before_ml": quantity("Level before", "volume", "Read the bottom of the meniscus."),
        "level_after_ml": quantity("Level with the master under water", "volume"),
        "dip_diameter_mm": positive_quantity("Vessel, inside diameter", "length"),
        "dip_before_mm": quantity("Depth before", "length"),
        "dip_after_mm": quantity("Depth with the master under water", "length"),
        "boxed_length_mm": positive_quantity(
            "Inside length of the box", "length", "Or the inside diameter of a round one."
        ),
        "boxed_width_mm": positive_quantity("Inside width of the box", "length", "Leave empty for a round box."),
        "boxed_depth_mm": positive_quantity("Depth of water", "length", "From the board to the water's surface."),
        "boxed_net_ml": positive_quantity(
            "Water poured in", "volume", "Seal the box and the master first, and dry both well afterwards."
        ),
        "boxed_count": quantity("Masters in the box", "count"),
        "grain_before_ml": quantity(
            "Grain alone, tapped level", "volume", "Fine dry grain such as millet; for a master that may not get wet."
        ),
        "grain_after_ml": quantity("Grain with the master buried, tapped level", "volume"),
        "material": Term(
            label="Made of",
            kind="choice",
            choices={
                "": "not known yet",
                **{key: material.label for key, material in MATERIALS.items()},
                SOMETHING_ELSE: "something else",
            },
        ),
        "own_material": Term(
            label="Name of the material",
            kind="text",
            longest=LONGEST_OWN,
            help="A name of your own, such as grey print resin. Your tests are remembered under it.",
        ),
        "sealer": Term(
            label="Sealed with",
            kind="choice",
            help="Porous masters are sealed twice, thinly.",
            choices={
                "": "not known yet",
                NOTHING_BETWEEN: "nothing: it is bare",
                **{key: one.label for key, one in PUT_ON.items() if one.seals},
            },
        ),
        "release": Term(
            label="Release",
            kind="choice",
            choices={
                "": "nothing",
                **{
                    key: one.label
                    for key, one in PUT_ON.items()
                    if key != NOTHING_BETWEEN and key not in ("clear-coat", "shellac")
                },
            },
        ),
        "finish": Term(
            label="Finish",
            kind="choice",
            choices={"": "not known yet", **FINISHES},
            help="A shiny master makes a shiny mould and a shiny cast.",
        ),
        "density_g_per_ml": positive_quantity("Density, if you know it", "density"),
        "density_pm_g_per_ml": quantity("Uncertainty of the density, ±", "density"),
        "solid": Term(label="It is printed solid", kind="flag"),
        "water_temp_c": quantity("Water temperature", "temperature"),
        "scale_step_g": positive_quantity("Scale reads in steps of", "mass"),
        "mark_ml": positive_quantity("Jug is marked every", "volume"),
        "ruler_step_mm": positive_quantity("Ruler is marked every", "length"),
        "size_pm_mm": quantity("Uncertainty of sizes, ±", "length"),
    },
    SettledMaster,
)
