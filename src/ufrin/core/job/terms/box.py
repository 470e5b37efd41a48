"""The terms of the Box station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.box.jacket import FIGURES, JACKETS
from ufrin.core.inputs.box import SettledBox
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.materials.kinds import BED_MATERIALS
from ufrin.core.materials.tables import BOARDS
from ufrin.core.rubber.tins import FAMILIES
from ufrin.language import Text

SHAPES = {
    "rectangle": Text("Rectangle"),
    "round": Text("Round"),
    "contour": Text("Strip bent round the outline"),
    "container": Text("A container from the Shelf"),
}
JOINTS = {"long": Text("Long sides overlap the short"), "pinwheel": Text("Each side overlaps the next")}

BOX_TERMS: Mapping[str, Term] = with_defaults(
    {
        "shape": Term(label=Text("Shape"), kind="choice", choices=SHAPES),
        "container_id": Term(label=Text("Container"), kind="reference"),
        "count": quantity(Text("Masters"), "count"),
        "other_id": Term(label=Text("Together with the master of"), kind="reference"),
        "other_count": quantity(Text("Number of those"), "count"),
        "third_id": Term(label=Text("And the master of"), kind="reference"),
        "third_count": quantity(Text("Number of those"), "count"),
        "rows": quantity(Text("Rows"), "count"),
        "columns": quantity(Text("Columns"), "count", Text("Empty: the grid that takes the least rubber.")),
        "side_mm": quantity(
            Text("Side"),
            "length",
            Text("Rubber beside the master. [10 length] to [13 length] is usual for a small piece."),
        ),
        "over_mm": quantity(Text("Over"), "length", Text("Rubber over the highest point.")),
        "under_mm": quantity(
            Text("Under"), "length", Text("Rubber under the master, when it does not stand on the board.")
        ),
        "gap_mm": quantity(Text("Gap"), "length", Text("Rubber between masters.")),
        "bed_mm": quantity(Text("Bed"), "length", Text("Clay or plaster on the board.")),
        "bed_material": Term(label=Text("Material of the bed"), kind="choice", choices=BED_MATERIALS),
        "sunk_mm": quantity(Text("Sunk in the bed"), "length", Text("How deep the master sits in it.")),
        "freeboard_mm": quantity(Text("Wall above the fill line"), "length"),
        "wall_thickness_mm": positive_quantity(Text("Wall thickness"), "length"),
        "lip_mm": quantity(Text("Lip"), "length", Text("How much deeper than the master the tray is.")),
        "filler_ml": quantity(
            Text("Old rubber laid in"), "volume", Text("Cut up, cleaned and dry; measured by the water it moves.")
        ),
        "filler_family": Term(
            label=Text("Family of the old rubber"), kind="choice", choices={"": Text("of the same family"), **FAMILIES}
        ),
        "jacket_material": Term(label=Text("Material of the jacket"), kind="choice", choices=JACKETS),
        "jacket_mm": positive_quantity(
            Text("Thickness of the jacket"),
            "length",
            Text(
                "Empty: [{plaster_mm:g} length] of plaster with fibre, or [{resin_mm:g} length] of "
                "resin with glass mat.",
                plaster_mm=FIGURES["plaster_mm"],
                resin_mm=FIGURES["resin_mm"],
            ),
        ),
        "wall_material": Term(
            label=Text("Material of the walls"),
            kind="choice",
            choices={key: board.label for key, board in BOARDS.items()},
        ),
        "board_material": Term(
            label=Text("Material of the board"),
            kind="choice",
            choices={"": Text("a board like the walls"), **{key: board.label for key, board in BOARDS.items()}},
        ),
        "joint": Term(label=Text("Corners"), kind="choice", choices=JOINTS),
        "sheet_length_mm": positive_quantity(Text("Sheet to cut from, length"), "length"),
        "sheet_width_mm": positive_quantity(Text("Sheet to cut from, width"), "length"),
        "kerf_mm": quantity(Text("Width of the saw cut"), "length"),
    },
    SettledBox,
)
