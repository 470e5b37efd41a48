"""The terms of the Master station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.inputs.master import SettledMaster
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.inputs.usual import USUAL
from ufrin.core.materials.kinds import LONGEST_OWN, NOTHING_BETWEEN, PUT_ON, SOMETHING_ELSE
from ufrin.core.materials.tables import MATERIALS
from ufrin.core.pairing.surface_finish import FINISHES
from ufrin.language import Text

OUTLINES = {"rectangle": Text("Rectangular"), "round": Text("Round")}
STANDINS = {
    "": Text("none"),
    "block": Text("Block"),
    "drum": Text("Drum"),
    "cone": Text("Cone or frustum"),
    "ball": Text("Ball"),
    "ring": Text("Ring, lying flat"),
    "slab": Text("Slab with relief"),
    "profile": Text("Turned profile"),
    "fitted": Text("Rounded body fitted to size and displacement"),
}
MESH_UNITS = {"mm": Text("millimetres"), "cm": Text("centimetres"), "m": Text("metres"), "in": Text("inches")}
WAYS = {
    "mesh": Text("The mesh itself"),
    "standin": Text("The stand-in shape"),
    "known": Text("The known volume"),
    "hung": Text("Hung in water on the scale"),
    "under": Text("Hung from the scale into water"),
    "level": Text("Level rise in a marked jug"),
    "dip": Text("Level rise in a plain round vessel"),
    "boxed": Text("Box filled with water"),
    "grain": Text("Level rise in fine dry grain"),
    "density": Text("Weight over density"),
}

# what each way by hand needs, for the choice by picture
WAY_NEEDS: Mapping[str, str] = {
    "hung": Text("A scale, a jug of water and a thread; the master may get wet."),
    "under": Text("A scale that weighs from a hook below, and a vessel of water."),
    "known": Text("A drawing, a data sheet or an earlier job."),
    "level": Text("A marked jug that the master fits into; it may get wet."),
    "dip": Text("A straight round vessel, a ruler and water."),
    "boxed": Text("The box itself, sealed, and a marked jug: this gives the net volume directly."),
    "grain": Text("A marked jug and fine dry grain, for a master that may not get wet."),
    "density": Text("A scale, and what it is made of; only for a master without hollows."),
}

MASTER_TERMS: Mapping[str, Term] = with_defaults(
    {
        "what": Term(
            label=Text("What it is"), kind="text", help=Text("What you copy and what it is made of."), longest=200
        ),
        "mesh": Term(label=Text("Mesh"), kind="hidden"),
        "mesh_unit": Term(label=Text("The file is drawn in"), kind="choice", choices=MESH_UNITS),
        "up": Term(label=Text("Direction that points up, as x, y, z of the mesh"), kind="direction"),
        "spin_deg": quantity(Text("Rotated on the board by"), "angle"),
        "shrink_pct": quantity(Text("Shrinkage allowance"), "percent"),
        "surface_pm_mm": quantity(
            Text("Surface accuracy, ±"),
            "length",
            Text("How far a print may be off its model. Multiplied by its surface, that is the error."),
        ),
        "standin": Term(label=Text("Stand-in shape"), kind="choice", choices=STANDINS),
        "profile": Term(
            label=Text("Height and diameter, from the foot up"),
            kind="profile",
            longest=600,
            help=Text("Pairs such as 0 46, 12 46, 12 30, 60 14, 118 0: a height, then the diameter there."),
        ),
        "top_mm": quantity(Text("Diameter at the top"), "length"),
        "ring_mm": positive_quantity(Text("Thickness of the ring"), "length"),
        "slab_base_mm": positive_quantity(
            Text("Thickness of the slab itself"), "length", Text("The relief stands on it, up to the height above.")
        ),
        "relief_ml": positive_quantity(
            Text("Volume of the relief"), "volume", Text("Leave empty for half of the room it has.")
        ),
        "outline": Term(label=Text("Seen from above"), kind="choice", choices=OUTLINES),
        "length_mm": positive_quantity(Text("Length"), "length"),
        "width_mm": positive_quantity(Text("Width"), "length"),
        "height_mm": positive_quantity(Text("Height"), "length", Text("As it stands on the board.")),
        "mass_g": positive_quantity(Text("Weight"), "mass", Text("Shows whether it will float in the rubber.")),
        "counted_way": Term(
            label=Text("Measurement that counts"),
            kind="choice",
            choices={"best": Text("The one with the smallest error"), **WAYS},
        ),
        "known_ml": positive_quantity(
            Text("Its volume"), "volume", Text("From a drawing, a data sheet or an earlier job.")
        ),
        "known_pm_ml": quantity(
            Text("Uncertainty, ±"),
            "volume",
            Text("Empty: {plus_minus_share:g} % of it.", plus_minus_share=100 * USUAL["known"]["plus_minus_share"]),
        ),
        "hung_reading_g": positive_quantity(
            Text("Scale shows, master hung under water"),
            "mass",
            Text("Jug of water on the scale, tared; master on a thread, wholly under, touching nothing."),
        ),
        "hung_sinker_g": quantity(
            Text("Scale shows with the sinker alone"),
            "mass",
            Text("Only for a master that floats: weigh both, then the sinker by itself."),
        ),
        "under_reading_g": quantity(
            Text("Weight under water"), "mass", Text("Master on a thread below the scale, wholly under water.")
        ),
        "under_sinker_g": quantity(
            Text("Weight of the sinker alone, under water"), "mass", Text("Only for a master that floats.")
        ),
        "level_before_ml": quantity(Text("Level before"), "volume", Text("Read the bottom of the meniscus.")),
        "level_after_ml": quantity(Text("Level with the master under water"), "volume"),
        "dip_diameter_mm": positive_quantity(Text("Vessel, inside diameter"), "length"),
        "dip_before_mm": quantity(Text("Depth before"), "length"),
        "dip_after_mm": quantity(Text("Depth with the master under water"), "length"),
        "boxed_length_mm": positive_quantity(
            Text("Inside length of the box"), "length", Text("Or the inside diameter of a round one.")
        ),
        "boxed_width_mm": positive_quantity(
            Text("Inside width of the box"), "length", Text("Leave empty for a round box.")
        ),
        "boxed_depth_mm": positive_quantity(
            Text("Depth of water"), "length", Text("From the board to the water's surface.")
        ),
        "boxed_net_ml": positive_quantity(
            Text("Water poured in"), "volume", Text("Seal the box and the master first, and dry both well afterwards.")
        ),
        "boxed_count": quantity(Text("Masters in the box"), "count"),
        "grain_before_ml": quantity(
            Text("Grain alone, tapped level"),
            "volume",
            Text("Fine dry grain such as millet; for a master that may not get wet."),
        ),
        "grain_after_ml": quantity(Text("Grain with the master buried, tapped level"), "volume"),
        "material": Term(
            label=Text("Made of"),
            kind="choice",
            choices={
                "": Text("not known yet"),
                **{key: material.label for key, material in MATERIALS.items()},
                SOMETHING_ELSE: Text("something else"),
            },
        ),
        "own_material": Term(
            label=Text("Name of the material"),
            kind="text",
            longest=LONGEST_OWN,
            help=Text("A name of your own, such as grey print resin. Your tests are remembered under it."),
        ),
        "sealer": Term(
            label=Text("Sealed with"),
            kind="choice",
            help=Text("Porous masters are sealed twice, thinly."),
            choices={
                "": Text("not known yet"),
                NOTHING_BETWEEN: Text("nothing: it is bare"),
                **{key: one.label for key, one in PUT_ON.items() if one.seals},
            },
        ),
        "release": Term(
            label=Text("Release"),
            kind="choice",
            choices={
                "": Text("nothing"),
                **{
                    key: one.label
                    for key, one in PUT_ON.items()
                    if key != NOTHING_BETWEEN and key not in ("clear-coat", "shellac")
                },
            },
        ),
        "finish": Term(
            label=Text("Finish"),
            kind="choice",
            choices={"": Text("not known yet"), **FINISHES},
            help=Text("A shiny master makes a shiny mould and a shiny cast."),
        ),
        "density_g_per_ml": positive_quantity(Text("Density, if you know it"), "density"),
        "density_pm_g_per_ml": quantity(Text("Uncertainty of the density, ±"), "density"),
        "solid": Term(label=Text("It is printed solid"), kind="flag"),
        "water_temp_c": quantity(Text("Water temperature"), "temperature"),
        "scale_step_g": positive_quantity(Text("Scale reads in steps of"), "mass"),
        "mark_ml": positive_quantity(Text("Jug is marked every"), "volume"),
        "ruler_step_mm": positive_quantity(Text("Ruler is marked every"), "length"),
        "size_pm_mm": quantity(Text("Uncertainty of sizes, ±"), "length"),
    },
    SettledMaster,
)
