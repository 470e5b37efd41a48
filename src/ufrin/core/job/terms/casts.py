"""The terms of the Casts station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.casting.cast_kinds import CAST_KINDS
from ufrin.core.inputs.casts import SettledCasts
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.job.finished_mould import MOULD_OF, MOULD_PARTS

CAST_BASES = {"weight": "Weigh the parts", "volume": "Measure the parts by volume"}

CASTS_TERMS: Mapping[str, Term] = with_defaults(
    {
        "cast_kind": Term(label="Kind of cast", kind="choice", choices=CAST_KINDS),
        "resin_id": Term(label="Casting material", kind="reference"),
        "foam_id": Term(label="Foam behind it", kind="reference"),
        "filler_id": Term(label="Filler or metal powder", kind="reference"),
        "cast_colour_id": Term(label="Colour", kind="reference"),
        "basis": Term(label="By weight or by volume", kind="choice", choices=CAST_BASES),
        "cavities": positive_quantity("Cavities filled in a shot", "count"),
        "pieces": positive_quantity("Pieces wanted", "count"),
        "cavity_ml": positive_quantity(
            "One cavity holds", "volume", "Fill it with water and pour that into a cup on a scale."
        ),
        "area_cm2": positive_quantity("Surface of one cavity", "area"),
        "height_mm": positive_quantity("Height of the cavity", "length", "As the mould is held for casting."),
        "rubber_shrink_pct": quantity("The rubber shrank by", "percent", "Each length, as its data sheet says."),
        "sprue_ml": quantity("Gate and vents hold", "volume", "Of one cavity."),
        "overfill_pct": quantity("Poured above it", "percent", "Of the volume."),
        "spare_pct": quantity("Spare", "percent", "Mixed over what is poured."),
        "scoops": quantity("Scoops of powder", "number", "To 1 of A and 1 of B."),
        "colour_pct": quantity("Share of colour", "percent", "Of the volume; always into the same part, B."),
        "thickness_mm": positive_quantity("Shell thick", "length"),
        "coat_mm": positive_quantity("Each coat", "length", "What stays where it is rolled or brushed."),
        "face_mm": quantity("Face coat with metal", "length", "0 for metal all through."),
        "squeeze_pct": quantity("Put in too much", "percent", "It comes out over the flange and takes the air along."),
        "each_g": positive_quantity("Mix for each cavity", "mass", "Empty: as worked out."),
        "layers": Term(
            label="Layers from the bottom", kind="text", longest=80, help="Shares of the height: 30, 40, 30."
        ),
        "colour_shares": Term(label="Shares of the colours", kind="text", longest=80, help="Of the volume: 80, 20."),
        "set_in_ml": positive_quantity("Set in: its volume", "volume"),
        "set_in_g": positive_quantity("Set in: its weight", "mass"),
        "set_in_after": positive_quantity("Set in on layer", "count", "Counted from the bottom."),
        "known_g": positive_quantity("A known piece weighs", "mass", "Of the same thickness and material."),
        "known_cm2": positive_quantity("Its surface", "area"),
        "mould_g": positive_quantity("The mould weighs, empty", "mass", "With its jacket and bands."),
        "now_g": positive_quantity("The mould weighs now", "mass", "Each time a coat has gelled."),
        "cup_ml": positive_quantity("Cup holds", "volume", "Leave empty to mix each at once."),
        "room_c": quantity("Room", "temperature"),
        "mould_cavities": positive_quantity("Cavities in the mould", "count"),
        "mould_family": Term(label="The mould is of", kind="choice", choices={"": "not known", **MOULD_OF}),
        "mould_parts": Term(label="It opens", kind="choice", choices=MOULD_PARTS),
    },
    SettledCasts,
)
