"""The terms of the Opening station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.inputs.opening import SettledOpening
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.materials.kinds import BED_MATERIALS
from ufrin.core.opening.mould_styles import STYLES
from ufrin.core.opening.slit import SIDES
from ufrin.language import Text

OPENING_TERMS: Mapping[str, Term] = with_defaults(
    {
        "style": Term(label=Text("Kind of mould"), kind="choice", choices={"": Text("as advised"), **STYLES}),
        "bed_material": Term(
            label=Text("Material of the bed"),
            kind="choice",
            choices=BED_MATERIALS,
            help=Text("What the first half is poured over; the second half takes its place."),
        ),
        "show": Term(
            label=Text("Direction of the show face"),
            kind="direction",
            help=Text("The side that visitors see. Seam, slit, gate and vents keep away from it."),
        ),
        "slit_side": Term(
            label=Text("Side of the slit"),
            kind="choice",
            choices={"": Text("side away from the show face"), **{side: side for side in SIDES}},
        ),
        "slack_mm": quantity(
            Text("Seam may cut into the surface by"),
            "length",
            Text("A mesh needs [0.5 length] to [1 length] for a smooth seam."),
        ),
        "key_mm": positive_quantity(
            Text("Diameter of the keys"), "length", Text("Leave empty for half of the flange.")
        ),
        "keys": Term(label=Text("Keys"), kind="hidden"),
        "tilt_limit_deg": quantity(
            Text("Box may be tilted by"), "angle", Text("While the rubber is poured; 0 for not at all.")
        ),
        "cast_up": Term(label=Text("Held for casting"), kind="direction"),
        "gates": Term(label=Text("Gate"), kind="hidden"),
        "vents": Term(label=Text("Vents"), kind="hidden"),
        "worth_ml": positive_quantity(
            Text("Smallest pocket that gets a vent"),
            "volume",
            Text("Smaller ones clear by half filling, tilting and poking."),
        ),
        "flat_back": Term(label=Text("A flat back that need not be copied"), kind="flag"),
        "chin": Term(label=Text("A chin, brow or rim that overhangs"), kind="flag"),
        "hook": Term(label=Text("A hook, or a head wider than its neck"), kind="flag"),
        "hole_through": Term(label=Text("A hole through it"), kind="flag"),
        "thin_part": Term(label=Text("A thin part that may break"), kind="flag"),
        "tall_part": Term(label=Text("A tall, narrow part"), kind="flag"),
    },
    SettledOpening,
)
