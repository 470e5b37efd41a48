"""Terms: every input that a maker can fill in, declared once with its label, kind, help and recommended value.

Forms, sheet and messages take their words from here; the keys are the fields of the inputs in ``stations`` and of
``Rubber``.
"""

from collections.abc import Mapping
from dataclasses import dataclass, fields
from typing import Any

from ufrin.core.degassing.schools import LONGEST_VIBRATE_MIN, SCHOOLS, USUAL_VACUUM_MIN
from ufrin.core.materials.kinds import BETWEENS, LONGEST_OWN, NOTHING_BETWEEN, POURS, PUT_ON, SOMETHING_ELSE, SURFACES
from ufrin.core.materials.tables import BOARDS, MATERIALS
from ufrin.core.opening.mould_styles import STYLES
from ufrin.core.opening.stretch_and_slit import SIDES
from ufrin.core.pairing.releases import PRODUCT_FINISHES, PRODUCT_KINDS, PUT_ON_BY
from ufrin.core.pairing.surface_finish import FINISHES, WANTED
from ufrin.core.rubber.additives import ADDITIVES, GOES_WITH
from ufrin.core.rubber.hardness_wanted import DETAILS, UNDERCUTS
from ufrin.core.rubber.shore import SCALES
from ufrin.core.rubber.tins import FAMILIES, FORMS, THINNED
from ufrin.core.shelf.containers import CONTAINER_MATERIALS, CONTAINER_SHAPES
from ufrin.core.shelf.lots import PARTS

OUTLINES = {"rectangle": "Rectangular", "round": "Round"}
SHAPES = {
    "rectangle": "Rectangle",
    "round": "Round",
    "contour": "Strip bent round the outline",
    "tray": "Tray, built upside down",
    "container": "A container from the Shelf",
}
BEDS = ("sulphur-free-clay", "sulphur-clay", "plaster", "wax", "foam")
JOINTS = {"long": "Long sides overlap the short", "pinwheel": "Each side overlaps the next"}
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
HALVES = {"first": "the first half, over the clay bed", "second": "the second half, on the first"}
HOWS = {"": "as usual", "poured": "poured", "brushed": "brushed on", "putty": "kneaded"}
AMOUNTS = {"need": "What the job needs", "kit": "All of the A that is left"}
BASES = {"weight": "Weigh the parts", "volume": "Measure the parts by volume"}
WAYS = {
    "mesh": "The mesh itself",
    "standin": "The stand-in shape",
    "hung": "Hung in water on the scale",
    "under": "Hung from the scale into water",
    "level": "Level rise in a marked jug",
    "dip": "Level rise in a plain round vessel",
    "boxed": "Box filled with water",
    "grain": "Level rise in fine dry grain",
    "density": "Weight over density",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Term:
    """One input.

    Parameters
    ----------
    label : str
        As it stands beside the field.
    kind : str
        A kind of quantity, or "text", "choice", "flag", "reference", "direction", "profile"; "hidden" is never
        taken from a form.
    help : str
        A sentence under the field, amounts as ``say_amounts`` reads them; empty when the label says it.
    default : float, str or None
        Used, and marked as a default, while the maker has not said otherwise.
    choices : mapping of value to label
        For "choice".
    longest : int
        Characters of a "text".
    positive : bool
        Whether nothing at all makes no sense for this quantity.
    """

    label: str
    kind: str
    help: str = ""
    default: float | str | None = None
    choices: Mapping[str, str] | None = None
    longest: int = 120
    positive: bool = False


def _q(label: str, kind: str, default: float | None = None, help: str = "") -> Term:  # noqa: A002 - the field's own name
    return Term(label=label, kind=kind, default=default, help=help)


def _some(label: str, kind: str, default: float | None = None, help: str = "") -> Term:  # noqa: A002 - the field's own name
    return Term(label=label, kind=kind, default=default, help=help, positive=True)


MASTER: Mapping[str, Term] = {
    "what": Term(label="What it is", kind="text", help="What you copy and what it is made of.", longest=200),
    "mesh": Term(label="Mesh", kind="hidden"),
    "mesh_unit": Term(label="The file is drawn in", kind="choice", choices=MESH_UNITS, default="mm"),
    "up": Term(label="Upwards, in the mesh's own x, y, z", kind="direction", default="0, 0, 1"),
    "spin_deg": _q("Turned on the board by", "angle", 0.0),
    "shrink_pct": _q("Made larger for shrinkage by", "percent", 0.0),
    "surface_pm_mm": _q(
        "Its surface is true to ±",
        "length",
        0.1,
        "How far a print's skin lies off its model. Times its surface, that is the error.",
    ),
    "standin": Term(label="Stand-in shape", kind="choice", choices=STANDINS),
    "profile": Term(
        label="Height and diameter, from the foot up",
        kind="profile",
        longest=600,
        help="Pairs such as 0 46, 12 46, 12 30, 60 14, 118 0: a height, then the diameter there.",
    ),
    "top_mm": _q("Diameter at the top", "length", 0.0),
    "ring_mm": _some("Thickness of the ring", "length"),
    "slab_base_mm": _some(
        "Thickness of the slab itself", "length", help="The relief stands on it, up to the height above."
    ),
    "relief_ml": _some("Volume of the relief", "volume", help="Leave empty for half of the room it has."),
    "outline": Term(label="Seen from above", kind="choice", choices=OUTLINES, default="rectangle"),
    "length_mm": _some("Length", "length"),
    "width_mm": _some("Width", "length"),
    "height_mm": _some("Height", "length", help="As it stands on the board."),
    "mass_g": _some("Weight", "mass", help="Tells whether it floats up in the rubber."),
    "counted_way": Term(
        label="Count on", kind="choice", choices={"best": "The one with the smallest error", **WAYS}, default="best"
    ),
    "hung_reading_g": _some(
        "Scale shows, master hung under water",
        "mass",
        help="Jug of water on the scale, tared; master on a thread, wholly under, touching nothing.",
    ),
    "hung_sinker_g": _q(
        "Scale shows with the sinker alone",
        "mass",
        help="Only for a master that floats: weigh both, then the sinker by itself.",
    ),
    "under_reading_g": _q(
        "It weighs under water", "mass", help="Master on a thread below the scale, wholly under water."
    ),
    "under_sinker_g": _q("Sinker alone weighs under water", "mass", help="Only for a master that floats."),
    "level_before_ml": _q("Level before", "volume", help="Read the bottom of the meniscus."),
    "level_after_ml": _q("Level with it under", "volume"),
    "dip_diameter_mm": _some("Vessel, inside diameter", "length"),
    "dip_before_mm": _q("Depth before", "length"),
    "dip_after_mm": _q("Depth with it under", "length"),
    "boxed_length_mm": _some("Inside length of the box", "length", help="Or the inside diameter of a round one."),
    "boxed_width_mm": _some("Inside width of the box", "length", help="Leave empty for a round box."),
    "boxed_depth_mm": _some("Depth of water", "length", help="From the board to the water's surface."),
    "boxed_net_ml": _some(
        "Water it took", "volume", help="Seal the box and the master first, and dry both well afterwards."
    ),
    "boxed_count": _q("Masters in the box", "count", 1),
    "grain_before_ml": _q(
        "Grain alone, tapped level", "volume", help="Fine dry grain such as millet; for a master that may not get wet."
    ),
    "grain_after_ml": _q("Grain with the master buried, tapped level", "volume"),
    "material": Term(
        label="Made of",
        kind="choice",
        choices={
            "": "not said",
            **{key: material.label for key, material in MATERIALS.items()},
            SOMETHING_ELSE: "something else",
        },
    ),
    "own_material": Term(
        label="What, then",
        kind="text",
        longest=LONGEST_OWN,
        help="A name of your own, such as grey print resin: your tests of it count from then on.",
    ),
    "sealer": Term(
        label="Sealed with",
        kind="choice",
        help="Porous masters are sealed twice, thinly.",
        choices={
            "": "not said",
            NOTHING_BETWEEN: "nothing: it is bare",
            **{key: one.label for key, one in PUT_ON.items() if one.seals},
        },
    ),
    "release": Term(
        label="Over that",
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
        label="Its surface is",
        kind="choice",
        choices={"": "not said", **FINISHES},
        help="A shiny master makes a shiny mould and a shiny cast.",
    ),
    "density_g_per_ml": _some("Its own density, if you know it", "density"),
    "density_pm_g_per_ml": _q("Density good to ±", "density", 0.02),
    "solid": Term(label="It is printed solid", kind="flag"),
    "water_temp_c": _q("Water temperature", "temperature", 20.0),
    "scale_step_g": _some("Scale reads in steps of", "mass", 1.0),
    "mark_ml": _some("Jug is marked every", "volume", 10.0),
    "ruler_step_mm": _some("Ruler is marked every", "length", 1.0),
    "size_pm_mm": _q("Sizes are good to ±", "length", 0.5),
}

OPENING: Mapping[str, Term] = {
    "style": Term(label="Kind of mould", kind="choice", choices={"": "as advised", **STYLES}),
    "show": Term(
        label="Show face looks to",
        kind="direction",
        help="What visitors see: seam, slit, gate and vents keep away from it.",
    ),
    "slit_side": Term(
        label="Slit on the",
        kind="choice",
        choices={"": "side away from the show face", **{side: side for side in SIDES}},
    ),
    "slack_mm": _q(
        "Seam may cut the surface by",
        "length",
        0.5,
        "Facets of a mesh need [0.5 length] to [1 length] for a calm seam.",
    ),
    "key_mm": _some("Keys across", "length", help="Empty: half of the flange."),
    "keys": Term(label="Keys", kind="hidden"),
    "tilt_limit_deg": _q("Box may be tilted by", "angle", 20.0, "While the rubber is poured; 0 for not at all."),
    "cast_up": Term(label="Held for casting", kind="direction"),
    "gates": Term(label="Gate", kind="hidden"),
    "vents": Term(label="Vents", kind="hidden"),
    "worth_ml": _some(
        "A pocket is worth a vent from", "volume", 0.1, "Smaller ones leave by half filling, tilting and poking."
    ),
    "flat_back": Term(label="A flat back that needs no copy", kind="flag"),
    "chin": Term(label="A chin, brow or rim that overhangs", kind="flag"),
    "hook": Term(label="A hook, or a head wider than its neck", kind="flag"),
    "hole_through": Term(label="A hole through it", kind="flag"),
    "thin_part": Term(label="A thin part that may break", kind="flag"),
    "tall_part": Term(label="A tall, narrow part", kind="flag"),
}

BOX: Mapping[str, Term] = {
    "shape": Term(label="Shape", kind="choice", choices=SHAPES, default="rectangle"),
    "container_id": Term(label="Container", kind="reference"),
    "count": _q("Masters", "count", 1),
    "other_id": Term(label="With the master of", kind="reference"),
    "other_count": _q("How many of it", "count", 1),
    "third_id": Term(label="And the master of", kind="reference"),
    "third_count": _q("How many of that", "count", 1),
    "rows": _q("Rows", "count"),
    "columns": _q("Columns", "count", help="Empty: the grid that takes the least rubber."),
    "side_mm": _q(
        "Side", "length", 12.0, "Rubber beside the master. [10 length] to [13 length] is usual for a small piece."
    ),
    "over_mm": _q("Over", "length", 12.0, "Rubber over the highest point."),
    "under_mm": _q("Under", "length", 0.0, "Rubber under the master, when it does not stand on the board."),
    "gap_mm": _q("Gap", "length", 10.0, "Rubber between masters."),
    "bed_mm": _q("Bed", "length", 0.0, "Clay or plaster on the board."),
    "bed_material": Term(
        label="Bed of", kind="choice", choices={"": "not said", **{key: SURFACES[key] for key in BEDS}}
    ),
    "sunk_mm": _q("Sunk in the bed", "length", 0.0, "How deep the master sits in it."),
    "freeboard_mm": _q("Wall above fill", "length", 10.0),
    "wall_thickness_mm": _some("Wall thickness", "length", 6.0),
    "lip_mm": _q("Lip", "length", 5.0, "How much deeper than the master the tray is."),
    "filler_ml": _q("Old rubber laid in", "volume", 0.0, "Cut up, cleaned and dry; measured by the water it moves."),
    "filler_family": Term(label="The old rubber is", kind="choice", choices={"": "of the same family", **FAMILIES}),
    "wall_material": Term(
        label="Walls of",
        kind="choice",
        choices={key: board.label for key, board in BOARDS.items()},
        default="melamine-board",
    ),
    "board_material": Term(
        label="It stands on",
        kind="choice",
        choices={"": "a board like the walls", **{key: board.label for key, board in BOARDS.items()}},
    ),
    "joint": Term(label="Corners", kind="choice", choices=JOINTS, default="long"),
    "sheet_length_mm": _some("Sheet to cut from, length", "length", 600.0),
    "sheet_width_mm": _some("Sheet to cut from, width", "length", 400.0),
    "kerf_mm": _q("The saw takes", "length", 3.0),
}

RUBBER: Mapping[str, Term] = {
    "rubber_id": Term(label="Rubber", kind="reference"),
    "half": Term(label="This pour is", kind="choice", choices=HALVES, default="first"),
    "how": Term(label="It is", kind="choice", choices=HOWS),
    "basis": Term(label="By weight or by volume", kind="choice", choices=BASES, default="weight"),
    "blend_id": Term(label="Blended with", kind="reference"),
    "blend_pct": _q("Share of the second", "percent", 50.0, "Of A + B, by weight."),
    "thinner_id": Term(label="Thinner", kind="reference"),
    "thinner_parts": _q(
        "Parts of thinner per 100", "number", 0.0, "10 to 20 are usual; the Hardness page tells what they do."
    ),
    "pigment_id": Term(label="Pigment", kind="reference"),
    "pigment_pct": _q("Share of pigment", "percent", 0.0, "Of the mix. Always colour the same part, B."),
    "amount": Term(label="How much", kind="choice", choices=AMOUNTS, default="need"),
    "kit_left_a_g": _some("A that is left", "mass", help="All of it is used."),
    "spare_pct": _q("Spare", "percent", 10.0, "Mixed over what the box needs."),
    "cling_g": _q("Loss on cups", "mass", 5.0, "What stays on cup and stick."),
    "scale_step_g": _some("Scale reads in steps of", "mass", 1.0),
    "cup_id": Term(label="Cup", kind="reference"),
    "cup_ml": _some("Cup holds", "volume", help="Leave empty to mix it all at once."),
    "rise_factor": _q(
        "Rises under vacuum", "number", 1.0, "How many times its volume; 1 without vacuum, 3 to 5 is usual with it."
    ),
    "cup_mark_ml": _some("Cups are marked every", "volume", 10.0),
    "drops_per_ml": _some(
        "Drops per ml", "number", help="Of your dropper with this very liquid: 50 drops onto the scale tell."
    ),
    "room_temp_c": _q("Room", "temperature", 23.0, "Pot life and cure halve for each 10 °C (18 °F) more."),
    "mix_min": _q("Mixing takes", "time", 3.0),
    "degas_min": _q("Degassing takes", "time", 0.0),
    "pour_min": _q("Pouring takes", "time", 5.0),
    "pad_mm": _some("Putty beside the master", "length", 12.0),
    "pad_thickness_mm": _some(
        "Pad thick", "length", help="From its underside to its top; empty: the master's height and [10 length]."
    ),
    "coats": _some("Coats", "count", 4.0, "The first thin and without thickener."),
    "coat_mm": _some("Each coat", "length", 1.5),
    "coat_area_cm2": _some("Surface to coat", "area", help="Empty: the master's own surface."),
    "thickener_id": Term(label="Thickener", kind="reference"),
    "thickener_parts": _q(
        "Parts of thickener per 100", "number", 2.0, "As its tin says; enough that a coat stays on a slope."
    ),
    "undercut": Term(label="Undercuts", kind="choice", choices=UNDERCUTS, default="slight"),
    "detail": Term(label="Detail", kind="choice", choices=DETAILS, default="plain"),
    "shots_wanted": Term(label="Casts wanted", kind="number", positive=True),
    "target_scale": Term(label="On the scale", kind="choice", choices=SCALES, default="A"),
    "target_shore": _q("Hardness wanted", "number"),
}

AS_ADVISED: Mapping[str, str] = {"": "as advised", **BETWEENS}

CHECKS: Mapping[str, Term] = {
    "between_board": Term(label="On the board", kind="choice", choices=AS_ADVISED),
    "between_walls": Term(label="On the walls", kind="choice", choices=AS_ADVISED),
    "between_bed": Term(label="On the bed", kind="choice", choices=AS_ADVISED),
    "between_halves": Term(label="On the first half", kind="choice", choices=AS_ADVISED),
    "between_cast": Term(label="In the mould", kind="choice", choices={"": "as the shop does it", **BETWEENS}),
    "cast_material": Term(label="Cast of", kind="choice", choices={"": "not said yet", **POURS}),
    "cast_finish": Term(label="It is to be", kind="choice", choices={"": "not said", **WANTED}),
    "insert": Term(label="Set into the cast", kind="choice", choices={"": "nothing", **SURFACES}),
    "air": Term(label="Air out of the rubber", kind="choice", choices={"": "as the shop does it", **SCHOOLS}),
    "drop_mm": _some("Poured from a height of", "length", 300.0),
    "vibrate_min": _some("Vibrated for", "time", LONGEST_VIBRATE_MIN),
    "vacuum_kpa": _some("Vacuum, absolute", "pressure", 3.0, "What is left of the atmosphere's [101.325 pressure]."),
    "vacuum_gauge_kpa": _some(
        "Or its gauge shows, below the air", "pressure", help="Such as 28 inHg; counts before the other."
    ),
    "vacuum_min": _some("Under vacuum for", "time", USUAL_VACUUM_MIN),
    "pot_kpa": _some("Pressure pot, on its gauge", "pressure", 275.0),
    "cast_air": Term(label="Air out of the cast", kind="choice", choices={"": "nothing is done", **SCHOOLS}),
    "cast_kpa": _some("Its pressure, on the gauge", "pressure", 275.0),
}

PRODUCT: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "kind": Term(label="It is", kind="choice", choices=PRODUCT_KINDS, default="silicone-free-release"),
    "by": Term(label="Put on", kind="choice", choices=PUT_ON_BY, default="spray"),
    "finish": Term(label="Leaves the cast", kind="choice", choices=PRODUCT_FINISHES, default="kind"),
    "sets_min": _some(
        "May be poured on after", "time", help="As its tin says; of a coat, when it has hardened through."
    ),
    "shots": Term(label="Casts until it is put on again", kind="number", positive=True),
    "pack_price": _q("Price of a can", "money"),
}

SHELF: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "family": Term(label="Family", kind="choice", choices=FAMILIES, default="addition-silicone"),
    "form": Term(label="It is", kind="choice", choices=FORMS, default="liquid"),
    "a_name": Term(label="Part A is called", kind="text", default="Part A"),
    "a_colour": Term(label="Colour of A", kind="text", longest=40),
    "b_name": Term(label="Part B is called", kind="text", default="Part B"),
    "b_colour": Term(label="Colour of B", kind="text", longest=40),
    "weight_a": _some("By weight, A", "number"),
    "weight_b": _some("By weight, B", "number"),
    "volume_a": _some("By volume, A", "number"),
    "volume_b": _some("By volume, B", "number"),
    "sg_a": _q("SG of A", "density"),
    "sg_b": _q("SG of B", "density"),
    "sg_mixed": _q("SG of the mix", "density"),
    "tolerance_pct": _some("Ratio may be off by", "percent", 2.0),
    "viscosity_mpa_s": _q("Viscosity, mixed", "viscosity"),
    "pot_life_min": _some("Pot life", "time"),
    "demould_min": _some("Demould after", "time"),
    "full_cure_min": _some("Full cure after", "time"),
    "hardness_scale": Term(label="Hardness scale", kind="choice", choices=SCALES, default="A"),
    "hardness": _q("Hardness", "number"),
    "thinner_of": Term(label="Thinner is counted to 100", kind="choice", choices=THINNED, default="A+B"),
    "elongation_pct": _q("Elongation at break", "stretch"),
    "tear_kn_per_m": _q("Tear strength", "tear"),
    "kit_g": _some("Kit, A and B together", "mass"),
    "kit_price": _q("Price of a kit", "money"),
}

CONTAINER: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "shape": Term(label="Shape", kind="choice", choices=CONTAINER_SHAPES, default="rectangle"),
    "material": Term(
        label="Made of",
        kind="choice",
        choices={key: SURFACES[key] for key in CONTAINER_MATERIALS},
        default="plastic-sheet",
    ),
    "length_mm": _some("Inside length", "length", help="Of a rectangular one."),
    "width_mm": _some("Inside width", "length", help="Of a rectangular one."),
    "bottom_mm": _some("Inside diameter, at the bottom", "length", help="Of a round one."),
    "top_mm": _some("Inside diameter, at the top", "length", help="Of a tapered one."),
    "height_mm": _some("Inside height", "length"),
}

ADDITIVE: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "kind": Term(label="It is", kind="choice", choices=ADDITIVES, default="thinner"),
    "colour": Term(label="Colour", kind="text", longest=40),
    "family": Term(label="Goes with", kind="choice", choices=GOES_WITH, default="any"),
    "sg": _q("SG", "density"),
    "viscosity_mpa_s": _some("Viscosity", "viscosity", help="Of a thinner: tells how thin it makes the mix."),
    "most_parts": _some("At most, parts per 100", "number"),
    "pack_g": _some("Pack holds", "mass"),
    "pack_price": _q("Price of a pack", "money"),
}

CUP: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "bottom_mm": _some("Inside diameter, at the bottom", "length"),
    "top_mm": _some("Inside diameter, at the rim", "length", help="Leave empty for a straight one."),
    "height_mm": _some("Inside height", "length"),
    "mark_ml": _some("Marked every", "volume", help="Leave empty without marks."),
}

SCALE: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "address": Term(
        label="Where it is", kind="text", help="A serial port such as /dev/ttyUSB0, or socket://127.0.0.1:8540."
    ),
    "baud": _some("Speed, in baud", "number", 9600.0, "Of a serial port."),
    "step_g": _some("Reads in steps of", "mass", 0.1),
    "most_g": _some("Weighs at most", "mass", 2000.0),
}

LOT: Mapping[str, Term] = {
    "code": Term(label="Lot", kind="text", longest=60, help="As printed on the tin; a date will do."),
    "part": Term(label="It is", kind="choice", choices=PARTS, default="all"),
    "got_g": _some("Holds", "mass"),
    "use_by": Term(label="Use by", kind="date", help="Such as 2027-03-31."),
    "opened_on": Term(label="Opened on", kind="date"),
    "price": _q("Price", "money"),
}

COUPON: Mapping[str, Term] = {
    "parts": _q("Parts of thinner per 100", "number", 0.0, "Of A + B together."),
    "scale": Term(label="Gauge", kind="choice", choices=SCALES, default="A"),
    "readings": Term(label="Readings", kind="text", help="Five, such as 24 25 23.5 24.5 26."),
    "thickness_mm": _some("Puck thick", "length", 8.0),
    "edge_mm": _q("Nearest to the edge", "length", 12.0),
    "apart_mm": _q("Nearest to each other", "length", 6.0),
}

TERMS: Mapping[str, Mapping[str, Term]] = {
    "master": MASTER,
    "opening": OPENING,
    "box": BOX,
    "rubber": RUBBER,
    "shelf": SHELF,
    "container": CONTAINER,
    "additive": ADDITIVE,
    "cup": CUP,
    "scale": SCALE,
    "lot": LOT,
    "coupon": COUPON,
    "checks": CHECKS,
    "product": PRODUCT,
}


def settled(inputs: object, terms: Mapping[str, Term]) -> dict[str, Any]:
    """Fill in the recommended value wherever the maker has said nothing.

    Parameters
    ----------
    inputs : dataclass
        One of the stations' inputs.
    terms : mapping of key to Term
        Of that station.

    Returns
    -------
    dict of key to value
        None only where there is no recommendation either.
    """
    said = {f.name: getattr(inputs, f.name) for f in fields(inputs)}  # type: ignore[arg-type]
    return {key: terms[key].default if value is None else value for key, value in said.items()}
