"""The terms of the Rubber station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.rubber.hardness_wanted import DETAILS, UNDERCUTS
from ufrin.core.rubber.shore import SCALES
from ufrin.language import Text

AMOUNTS = {"need": Text("What the job needs"), "kit": Text("All of the A that is left")}
BASES = {"weight": Text("Weigh the parts"), "volume": Text("Measure the parts by volume")}

RUBBER_TERMS: Mapping[str, Term] = with_defaults(
    {
        "rubber_id": Term(label=Text("Rubber"), kind="reference"),
        "basis": Term(label=Text("By weight or by volume"), kind="choice", choices=BASES),
        "blend_id": Term(label=Text("Blended with"), kind="reference"),
        "blend_pct": quantity(Text("Share of the second"), "percent", Text("Of A + B, by weight.")),
        "thinner_id": Term(label=Text("Thinner"), kind="reference"),
        "thinner_parts": quantity(
            Text("Parts of thinner per 100"),
            "number",
            Text("10 to 20 are usual; see the Hardness page for their effect."),
        ),
        "pigment_id": Term(label=Text("Pigment"), kind="reference"),
        "pigment_pct": quantity(
            Text("Share of pigment"), "percent", Text("Of the mix. Always colour the same part, B.")
        ),
        "amount": Term(label=Text("How much"), kind="choice", choices=AMOUNTS),
        "kit_left_a_g": positive_quantity(Text("A that is left"), "mass", Text("All of it is used.")),
        "spare_pct": quantity(Text("Spare"), "percent", Text("Mixed in addition to what the box needs.")),
        "learnt_spare_pct": Term(label=Text("Spare learnt"), kind="hidden"),
        "learnt_spare_on": Term(label=Text("Spare learnt on"), kind="hidden"),
        "cling_g": quantity(Text("Loss on cups"), "mass", Text("What stays on cup and stick.")),
        "scale_step_g": positive_quantity(Text("Scale reads in steps of"), "mass"),
        "cup_id": Term(label=Text("Cup"), kind="reference"),
        "cup_ml": positive_quantity(Text("Cup holds"), "volume", Text("Leave empty to mix it all at once.")),
        "rise_factor": quantity(
            Text("Rises under vacuum"),
            "number",
            Text("How many times its volume; 1 without vacuum, 3 to 5 is usual with it."),
        ),
        "cup_mark_ml": positive_quantity(Text("Cups are marked every"), "volume"),
        "drops_per_ml": positive_quantity(
            Text("Drops per ml"), "number", Text("For your dropper and this liquid: weigh 50 drops to find out.")
        ),
        "room_temp_c": quantity(
            Text("Room temperature"), "temperature", Text("Pot life and cure halve for each 10 °C (18 °F) more.")
        ),
        "mix_min": quantity(Text("Mixing takes"), "time"),
        "degas_min": quantity(Text("Degassing takes"), "time"),
        "pour_min": quantity(Text("Pouring takes"), "time"),
        "post_cure_c": quantity(Text("Post-cure at"), "temperature", Text("Empty: as the tin says.")),
        "post_cure_min": quantity(Text("Post-cure for"), "time", Text("0: no post-cure, whatever the tin says.")),
        "pad_mm": positive_quantity(Text("Putty beside the master"), "length"),
        "pad_thickness_mm": positive_quantity(
            Text("Thickness of the pad"),
            "length",
            Text("From its underside to its top; empty: the master's height and [10 length]."),
        ),
        "coats": positive_quantity(Text("Coats"), "count", Text("The first thin and without thickener.")),
        "coat_mm": positive_quantity(Text("Thickness of a coat"), "length"),
        "coat_area_cm2": positive_quantity(
            Text("Surface to coat"), "area", Text("Leave empty for the master's own surface.")
        ),
        "thickener_id": Term(label=Text("Thickener"), kind="reference"),
        "thickener_parts": quantity(
            Text("Parts of thickener per 100"), "number", Text("As its tin says; enough that a coat stays on a slope.")
        ),
        "undercut": Term(label=Text("Undercuts"), kind="choice", choices=UNDERCUTS),
        "detail": Term(label=Text("Detail"), kind="choice", choices=DETAILS),
        "shots_wanted": Term(label=Text("Casts wanted"), kind="number", positive=True),
        "target_scale": Term(label=Text("On the scale"), kind="choice", choices=SCALES),
        "target_shore": quantity(Text("Hardness wanted"), "number"),
    },
    SettledRubber,
)
