"""The terms of the Casts station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.casting.cast_kinds import CAST_KINDS
from ufrin.core.inputs.casts import SettledCasts
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.job.finished_mould import MOULD_OF, MOULD_PARTS
from ufrin.language import Text

CAST_BASES = {"weight": Text("Weigh the parts"), "volume": Text("Measure the parts by volume")}

CASTS_TERMS: Mapping[str, Term] = with_defaults(
    {
        "cast_kind": Term(label=Text("Kind of cast"), kind="choice", choices=CAST_KINDS),
        "resin_id": Term(label=Text("Casting material"), kind="reference"),
        "foam_id": Term(label=Text("Foam behind it"), kind="reference"),
        "filler_id": Term(label=Text("Filler or metal powder"), kind="reference"),
        "cast_colour_id": Term(label=Text("Colour"), kind="reference"),
        "basis": Term(label=Text("By weight or by volume"), kind="choice", choices=CAST_BASES),
        "cavities": positive_quantity(Text("Cavities filled in a shot"), "count"),
        "pieces": positive_quantity(Text("Pieces wanted"), "count"),
        "cavity_ml": positive_quantity(
            Text("One cavity holds"), "volume", Text("Fill it with water and pour that into a cup on a scale.")
        ),
        "area_cm2": positive_quantity(Text("Surface of one cavity"), "area"),
        "height_mm": positive_quantity(
            Text("Height of the cavity"), "length", Text("As the mould is held for casting.")
        ),
        "rubber_shrink_pct": quantity(
            Text("Shrinkage of the rubber"), "percent", Text("Of each length, from its data sheet.")
        ),
        "sprue_ml": quantity(Text("Gate and vents hold"), "volume", Text("Of one cavity.")),
        "overfill_pct": quantity(Text("Poured above the cavity"), "percent", Text("Of the volume.")),
        "spare_pct": quantity(Text("Spare"), "percent", Text("Mixed in addition to what is poured.")),
        "scoops": quantity(Text("Scoops of powder"), "number", Text("To 1 of A and 1 of B.")),
        "colour_pct": quantity(
            Text("Share of colour"), "percent", Text("Of the volume; always into the same part, B.")
        ),
        "thickness_mm": positive_quantity(Text("Thickness of the shell"), "length"),
        "coat_mm": positive_quantity(
            Text("Thickness of a coat"), "length", Text("What stays where it is rolled or brushed.")
        ),
        "face_mm": quantity(Text("Face coat with metal"), "length", Text("0 for metal all through.")),
        "squeeze_pct": quantity(
            Text("Overfill"), "percent", Text("The excess comes out over the flange and takes the air with it.")
        ),
        "each_g": positive_quantity(
            Text("Mix for each cavity"),
            "mass",
            Text(
                "Leave empty for the calculated amount. Foam behind a shell, and a face coat, have fields of their own."
            ),
        ),
        "foam_each_g": positive_quantity(
            Text("Mix of the foam for each cavity"), "mass", Text("Leave empty for the calculated amount.")
        ),
        "face_each_g": positive_quantity(
            Text("Mix of the face coat for each cavity"), "mass", Text("Leave empty for the calculated amount.")
        ),
        "layers": Term(
            label=Text("Layers from the bottom"),
            kind="text",
            longest=80,
            help=Text("Shares of the height: 30, 40, 30."),
        ),
        "colour_shares": Term(
            label=Text("Shares of the colours"), kind="text", longest=80, help=Text("Of the volume: 80, 20.")
        ),
        "set_in_ml": positive_quantity(Text("Set in: its volume"), "volume"),
        "set_in_g": positive_quantity(Text("Set in: its weight"), "mass"),
        "set_in_after": positive_quantity(Text("Set in on layer"), "count", Text("Counted from the bottom.")),
        "known_g": positive_quantity(
            Text("Weight of a known piece"), "mass", Text("Of the same thickness and material.")
        ),
        "known_cm2": positive_quantity(Text("Its surface"), "area"),
        "mould_g": positive_quantity(Text("Weight of the empty mould"), "mass", Text("With its jacket and bands.")),
        "now_g": positive_quantity(Text("Weight of the mould now"), "mass", Text("Each time a coat has gelled.")),
        "cup_ml": positive_quantity(Text("Cup holds"), "volume", Text("Leave empty to mix each at once.")),
        "mould_cavities": positive_quantity(Text("Cavities in the mould"), "count"),
        "mould_family": Term(
            label=Text("Rubber family of the mould"), kind="choice", choices={"": Text("not known"), **MOULD_OF}
        ),
        "mould_parts": Term(label=Text("How it opens"), kind="choice", choices=MOULD_PARTS),
    },
    SettledCasts,
)
