"""The terms of a container, a cup, a scale and a lot, as the forms of the Shelf ask for them."""

from collections.abc import Mapping

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.materials.kinds import SURFACES
from ufrin.core.shelf.containers import CONTAINER_MATERIALS, CONTAINER_SHAPES
from ufrin.core.shelf.lots import PARTS

CONTAINER_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "shape": Term(label="Shape", kind="choice", choices=CONTAINER_SHAPES, default="rectangle"),
    "material": Term(
        label="Made of",
        kind="choice",
        choices={key: SURFACES[key] for key in CONTAINER_MATERIALS},
        default="plastic-sheet",
    ),
    "length_mm": positive_quantity("Inside length", "length", "Of a rectangular one."),
    "width_mm": positive_quantity("Inside width", "length", "Of a rectangular one."),
    "bottom_mm": positive_quantity("Inside diameter, at the bottom", "length", "Of a round one."),
    "top_mm": positive_quantity("Inside diameter, at the top", "length", "Of a tapered one."),
    "height_mm": positive_quantity("Inside height", "length"),
}

CUP_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "bottom_mm": positive_quantity("Inside diameter, at the bottom", "length"),
    "top_mm": positive_quantity("Inside diameter, at the rim", "length", "Leave empty for a straight one."),
    "height_mm": positive_quantity("Inside height", "length"),
    "mark_ml": positive_quantity("Marked every", "volume", "Leave empty without marks."),
}

SCALE_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "address": Term(
        label="Where it is", kind="text", help="A serial port such as /dev/ttyUSB0, or socket://127.0.0.1:8540."
    ),
    "baud": positive_quantity("Speed, in baud", "number", "Of a serial port.", default=9600.0),
    "step_g": positive_quantity("Reads in steps of", "mass", default=0.1),
    "most_g": positive_quantity("Weighs at most", "mass", default=2000.0),
}

THERMOMETER_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "address": Term(
        label="Where it is", kind="text", help="A serial port such as /dev/ttyUSB1, or socket://127.0.0.1:8545."
    ),
    "baud": positive_quantity("Speed, in baud", "number", "Of a serial port.", default=9600.0),
}

LOT_TERMS: Mapping[str, Term] = {
    "code": Term(label="Lot", kind="text", longest=60, help="As printed on the tin; a date will do."),
    "part": Term(label="It is", kind="choice", choices=PARTS, default="all"),
    "got_g": positive_quantity("Holds", "mass"),
    "use_by": Term(label="Use by", kind="date", help="Such as 2027-03-31."),
    "opened_on": Term(label="Opened on", kind="date"),
    "price": quantity("Price", "money"),
}
