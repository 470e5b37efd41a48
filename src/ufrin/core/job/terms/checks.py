"""The terms of the Checks station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.inputs.checks import SettledChecks
from ufrin.core.inputs.term import Term, positive_quantity, with_defaults
from ufrin.core.materials.kinds import BETWEENS, POURS, SURFACES
from ufrin.core.pairing.surface_finish import WANTED

AS_ADVISED: Mapping[str, str] = {"": "as advised", **BETWEENS}

CHECKS_TERMS: Mapping[str, Term] = with_defaults(
    {
        "between_board": Term(label="On the board", kind="choice", choices=AS_ADVISED),
        "between_walls": Term(label="On the walls", kind="choice", choices=AS_ADVISED),
        "between_bed": Term(label="On the bed", kind="choice", choices=AS_ADVISED),
        "between_halves": Term(label="On the first half", kind="choice", choices=AS_ADVISED),
        "between_cast": Term(label="In the mould", kind="choice", choices={"": "as the shop does it", **BETWEENS}),
        "cast_material": Term(label="Casting material", kind="choice", choices={"": "not known yet", **POURS}),
        "cast_finish": Term(label="Finish of the cast", kind="choice", choices={"": "not known yet", **WANTED}),
        "insert": Term(label="Set into the cast", kind="choice", choices={"": "nothing", **SURFACES}),
        "air": Term(label="Air out of the rubber", kind="choice", choices={"": "as the shop does it", **SCHOOLS}),
        "drop_mm": positive_quantity("Poured from a height of", "length"),
        "vibrate_min": positive_quantity("Vibrated for", "time"),
        "vacuum_kpa": positive_quantity("Vacuum, absolute", "pressure", "What is left of the pressure of the air."),
        "vacuum_gauge_kpa": positive_quantity(
            "Or the reading of its gauge, below the air",
            "pressure",
            "Such as 28 inHg. It takes precedence over the other.",
        ),
        "vacuum_min": positive_quantity("Under vacuum for", "time"),
        "pot_kpa": positive_quantity("Pressure pot, on its gauge", "pressure"),
        "cast_air": Term(label="Air out of the cast", kind="choice", choices={"": "nothing is done", **SCHOOLS}),
        "cast_kpa": positive_quantity("Its pressure, by the gauge", "pressure"),
    },
    SettledChecks,
)
