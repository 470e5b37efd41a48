"""The terms of a container, a cup, a scale and a lot, as the forms of the Shelf ask for them."""

from collections.abc import Mapping

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.materials.kinds import SURFACES
from ufrin.core.shelf.containers import CONTAINER_MATERIALS, CONTAINER_SHAPES
from ufrin.core.shelf.lots import PARTS
from ufrin.language import Text

CONTAINER_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "shape": Term(label=Text("Shape"), kind="choice", choices=CONTAINER_SHAPES, default="rectangle"),
    "material": Term(
        label=Text("Made of"),
        kind="choice",
        choices={key: SURFACES[key] for key in CONTAINER_MATERIALS},
        default="plastic-sheet",
    ),
    "length_mm": positive_quantity(Text("Inside length"), "length", Text("Of a rectangular one.")),
    "width_mm": positive_quantity(Text("Inside width"), "length", Text("Of a rectangular one.")),
    "bottom_mm": positive_quantity(Text("Inside diameter, at the bottom"), "length", Text("Of a round one.")),
    "top_mm": positive_quantity(Text("Inside diameter, at the top"), "length", Text("Of a tapered one.")),
    "height_mm": positive_quantity(Text("Inside height"), "length"),
}

CUP_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "bottom_mm": positive_quantity(Text("Inside diameter, at the bottom"), "length"),
    "top_mm": positive_quantity(Text("Inside diameter, at the rim"), "length", Text("Leave empty for a straight one.")),
    "height_mm": positive_quantity(Text("Inside height"), "length"),
    "mark_ml": positive_quantity(Text("Marked every"), "volume", Text("Leave empty without marks.")),
}

SCALE_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "address": Term(
        label=Text("Where it is"),
        kind="text",
        help=Text("A serial port such as /dev/ttyUSB0, or socket://127.0.0.1:8540."),
    ),
    "baud": positive_quantity(Text("Speed, in baud"), "number", Text("Of a serial port."), default=9600.0),
    "step_g": positive_quantity(Text("Reads in steps of"), "mass", default=0.1),
    "most_g": positive_quantity(Text("Weighs at most"), "mass", default=2000.0),
}

THERMOMETER_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "address": Term(
        label=Text("Where it is"),
        kind="text",
        help=Text("A serial port such as /dev/ttyUSB1, or socket://127.0.0.1:8545."),
    ),
    "baud": positive_quantity(Text("Speed, in baud"), "number", Text("Of a serial port."), default=9600.0),
}

LOT_TERMS: Mapping[str, Term] = {
    "code": Term(label=Text("Lot"), kind="text", longest=60, help=Text("As printed on the tin; a date will do.")),
    "part": Term(label=Text("It is"), kind="choice", choices=PARTS, default="all"),
    "got_g": positive_quantity(Text("Holds"), "mass"),
    "use_by": Term(label=Text("Use by"), kind="date", help=Text("Such as 2027-03-31.")),
    "opened_on": Term(label=Text("Opened on"), kind="date"),
    "price": quantity(Text("Price"), "money"),
}
