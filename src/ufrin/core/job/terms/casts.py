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
        "rubber_shrink_pct": quantity("Shrinkage of the rubber", "percent", "Of each length, from its data sheet."),
        "sprue_ml": quantity("Gate and vents hold", "volume", "Of one cavity."),
        "overfill_pct": quantity("Poured above the cavity", "percent", "Of the volume."),
        "spare_pct": quantity("Spare", "percent", "Mixed in addition to what is poured."),
        "scoops": quantity("Scoops of powder", "number", "To 1 of A and 1 of B."),
        "colour_pct": quantity("Share of colour", "percent", "Of the volume; always into the same part, B."),
        "thickness_mm": positive_quantity("Thickness of the shell", "length"),
        "coat_mm": positive_quantity("Thickness of a coat", "length", "What stays where it is rolled or brushed."),
        "face_mm": quantity("Face coat with metal", "length", "0 for metal all through."),
        "squeeze_pct": quantity(
            "Overfill", "percent", "The excess comes out over the flange and takes the air with it."
        ),
        "each_g": positive_quantity("Mix for each cavity", "mass", "Leave empty for the calculated amount."),
        "layers": Term(
            label="Layers from the bottom", kind="text", longest=80, help="Shares of the height: 30, 40, 30."
        ),
        "colour_shares": Term(label="Shares of the colours", kind="text", longest=80, help="Of the volume: 80, 20."),
        "set_in_ml": positive_quantity("Set in: its volume", "volume"),
        "set_in_g": positive_quantity("Set in: its weight", "mass"),
        "set_in_after": positive_quantity("Set in on layer", "count", "Counted from the bottom."),
        "known_g": positive_quantity("Weight of a known piece", "mass", "Of the same thickness and material."),
        "known_cm2": positive_quantity("Its surface", "area"),
        "mould_g": positive_quantity("Weight of the empty mould", "mass", "With its jacket and bands."),
        "now_g": positive_quantity("Weight of the mould now", "mass", "Each time a coat has gelled."),
        "cup_ml": positive_quantity("Cup holds", "volume", "Leave empty to mix each at once."),
        "room_c": quantity("Room temperature", "temperature"),
        "mould_cavities": positive_quantity("Cavities in the mould", "count"),
        "mould_family": Term(label="Rubber family of the mould", kind="choice", choices={"": "not known", **MOULD_OF}),
        "mould_parts": Term(label="How it opens", kind="choice", choices=MOULD_PARTS),
    },
    SettledCasts,
)
