"""The terms of the Checks station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.inputs.checks import SettledChecks
from ufrin.core.inputs.term import Term, positive_quantity, with_defaults
from ufrin.core.materials.kinds import BETWEENS, POURS, SURFACES
from ufrin.core.pairing.surface_finish import WANTED
from ufrin.language import Text

AS_ADVISED: Mapping[str, str] = {"": Text("as advised"), **BETWEENS}

CHECKS_TERMS: Mapping[str, Term] = with_defaults(
    {
        "between_board": Term(label=Text("On the board"), kind="choice", choices=AS_ADVISED),
        "between_walls": Term(label=Text("On the walls"), kind="choice", choices=AS_ADVISED),
        "between_bed": Term(label=Text("On the bed"), kind="choice", choices=AS_ADVISED),
        "between_halves": Term(label=Text("On the first half"), kind="choice", choices=AS_ADVISED),
        "between_cast": Term(
            label=Text("In the mould"), kind="choice", choices={"": Text("as the shop does it"), **BETWEENS}
        ),
        "cast_material": Term(
            label=Text("Casting material"), kind="choice", choices={"": Text("not known yet"), **POURS}
        ),
        "cast_finish": Term(
            label=Text("Finish of the cast"), kind="choice", choices={"": Text("not known yet"), **WANTED}
        ),
        "insert": Term(label=Text("Set into the cast"), kind="choice", choices={"": Text("nothing"), **SURFACES}),
        "air": Term(
            label=Text("Air out of the rubber"), kind="choice", choices={"": Text("as the shop does it"), **SCHOOLS}
        ),
        "drop_mm": positive_quantity(Text("Poured from a height of"), "length"),
        "vibrate_min": positive_quantity(Text("Vibrated for"), "time"),
        "vacuum_kpa": positive_quantity(
            Text("Vacuum, absolute"), "pressure", Text("What is left of the pressure of the air.")
        ),
        "vacuum_gauge_kpa": positive_quantity(
            Text("Or the reading of its gauge, below the air"),
            "pressure",
            Text("Such as 28 inHg. It takes precedence over the other."),
        ),
        "vacuum_min": positive_quantity(Text("Under vacuum for"), "time"),
        "pot_kpa": positive_quantity(Text("Pressure pot, on its gauge"), "pressure"),
        "cast_air": Term(
            label=Text("Air out of the cast"), kind="choice", choices={"": Text("nothing is done"), **SCHOOLS}
        ),
        "cast_kpa": positive_quantity(Text("Its pressure, by the gauge"), "pressure"),
    },
    SettledChecks,
)
