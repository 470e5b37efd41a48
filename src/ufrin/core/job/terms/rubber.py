"""The terms of the Rubber station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.rubber.hardness_wanted import DETAILS, UNDERCUTS
from ufrin.core.rubber.shore import SCALES

AMOUNTS = {"need": "What the job needs", "kit": "All of the A that is left"}
BASES = {"weight": "Weigh the parts", "volume": "Measure the parts by volume"}

RUBBER_TERMS: Mapping[str, Term] = with_defaults(
    {
        "rubber_id": Term(label="Rubber", kind="reference"),
        "basis": Term(label="By weight or by volume", kind="choice", choices=BASES),
        "blend_id": Term(label="Blended with", kind="reference"),
        "blend_pct": quantity("Share of the second", "percent", "Of A + B, by weight."),
        "thinner_id": Term(label="Thinner", kind="reference"),
        "thinner_parts": quantity(
            "Parts of thinner per 100", "number", "10 to 20 are usual; see the Hardness page for their effect."
        ),
        "pigment_id": Term(label="Pigment", kind="reference"),
        "pigment_pct": quantity("Share of pigment", "percent", "Of the mix. Always colour the same part, B."),
        "amount": Term(label="How much", kind="choice", choices=AMOUNTS),
        "kit_left_a_g": positive_quantity("A that is left", "mass", "All of it is used."),
        "spare_pct": quantity("Spare", "percent", "Mixed in addition to what the box needs."),
        "learnt_spare_pct": Term(label="Spare learnt", kind="hidden"),
        "learnt_spare_on": Term(label="Spare learnt on", kind="hidden"),
        "cling_g": quantity("Loss on cups", "mass", "What stays on cup and stick."),
        "scale_step_g": positive_quantity("Scale reads in steps of", "mass"),
        "cup_id": Term(label="Cup", kind="reference"),
        "cup_ml": positive_quantity("Cup holds", "volume", "Leave empty to mix it all at once."),
        "rise_factor": quantity(
            "Rises under vacuum", "number", "How many times its volume; 1 without vacuum, 3 to 5 is usual with it."
        ),
        "cup_mark_ml": positive_quantity("Cups are marked every", "volume"),
        "drops_per_ml": positive_quantity(
            "Drops per ml", "number", "For your dropper and this liquid: weigh 50 drops to find out."
        ),
        "room_temp_c": quantity(
            "Room temperature", "temperature", "Pot life and cure halve for each 10 °C (18 °F) more."
        ),
        "mix_min": quantity("Mixing takes", "time"),
        "degas_min": quantity("Degassing takes", "time"),
        "pour_min": quantity("Pouring takes", "time"),
        "pad_mm": positive_quantity("Putty beside the master", "length"),
        "pad_thickness_mm": positive_quantity(
            "Thickness of the pad",
            "length",
            "From its underside to its top; empty: the master's height and [10 length].",
        ),
        "coats": positive_quantity("Coats", "count", "The first thin and without thickener."),
        "coat_mm": positive_quantity("Thickness of a coat", "length"),
        "coat_area_cm2": positive_quantity("Surface to coat", "area", "Leave empty for the master's own surface."),
        "thickener_id": Term(label="Thickener", kind="reference"),
        "thickener_parts": quantity(
            "Parts of thickener per 100", "number", "As its tin says; enough that a coat stays on a slope."
        ),
        "undercut": Term(label="Undercuts", kind="choice", choices=UNDERCUTS),
        "detail": Term(label="Detail", kind="choice", choices=DETAILS),
        "shots_wanted": Term(label="Casts wanted", kind="number", positive=True),
        "target_scale": Term(label="On the scale", kind="choice", choices=SCALES),
        "target_shore": quantity("Hardness wanted", "number"),
    },
    SettledRubber,
)
