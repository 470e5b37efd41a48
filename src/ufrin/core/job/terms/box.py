"""The terms of the Box station: label, kind, help and choices of each of its inputs."""

from collections.abc import Mapping

from ufrin.core.box.jacket import FIGURES, JACKETS
from ufrin.core.inputs.box import SettledBox
from ufrin.core.inputs.term import Term, positive_quantity, quantity, with_defaults
from ufrin.core.materials.kinds import BED_MATERIALS
from ufrin.core.materials.tables import BOARDS
from ufrin.core.rubber.tins import FAMILIES

SHAPES = {
    "rectangle": "Rectangle",
    "round": "Round",
    "contour": "Strip bent round the outline",
    "container": "A container from the Shelf",
}
JOINTS = {"long": "Long sides overlap the short", "pinwheel": "Each side overlaps the next"}

BOX_TERMS: Mapping[str, Term] = with_defaults(
    {
        "shape": Term(label="Shape", kind="choice", choices=SHAPES),
        "container_id": Term(label="Container", kind="reference"),
        "count": quantity("Masters", "count"),
        "other_id": Term(label="Together with the master of", kind="reference"),
        "other_count": quantity("Number of those", "count"),
        "third_id": Term(label="And the master of", kind="reference"),
        "third_count": quantity("Number of those", "count"),
        "rows": quantity("Rows", "count"),
        "columns": quantity("Columns", "count", "Empty: the grid that takes the least rubber."),
        "side_mm": quantity(
            "Side", "length", "Rubber beside the master. [10 length] to [13 length] is usual for a small piece."
        ),
        "over_mm": quantity("Over", "length", "Rubber over the highest point."),
        "under_mm": quantity("Under", "length", "Rubber under the master, when it does not stand on the board."),
        "gap_mm": quantity("Gap", "length", "Rubber between masters."),
        "bed_mm": quantity("Bed", "length", "Clay or plaster on the board."),
        "bed_material": Term(label="Material of the bed", kind="choice", choices=BED_MATERIALS),
        "sunk_mm": quantity("Sunk in the bed", "length", "How deep the master sits in it."),
        "freeboard_mm": quantity("Wall above the fill line", "length"),
        "wall_thickness_mm": positive_quantity("Wall thickness", "length"),
        "lip_mm": quantity("Lip", "length", "How much deeper than the master the tray is."),
        "filler_ml": quantity(
            "Old rubber laid in", "volume", "Cut up, cleaned and dry; measured by the water it moves."
        ),
        "filler_family": Term(
            label="Family of the old rubber", kind="choice", choices={"": "of the same family", **FAMILIES}
        ),
        "jacket_material": Term(label="Material of the jacket", kind="choice", choices=JACKETS),
        "jacket_mm": positive_quantity(
            "Thickness of the jacket",
            "length",
            f"Empty: [{FIGURES['plaster_mm']:g} length] of plaster with fibre, or [{FIGURES['resin_mm']:g} length] of "
            "resin with glass mat.",
        ),
        "wall_material": Term(
            label="Material of the walls", kind="choice", choices={key: board.label for key, board in BOARDS.items()}
        ),
        "board_material": Term(
            label="Material of the board",
            kind="choice",
            choices={"": "a board like the walls", **{key: board.label for key, board in BOARDS.items()}},
        ),
        "joint": Term(label="Corners", kind="choice", choices=JOINTS),
        "sheet_length_mm": positive_quantity("Sheet to cut from, length", "length"),
        "sheet_width_mm": positive_quantity("Sheet to cut from, width", "length"),
        "kerf_mm": quantity("Width of the saw cut", "length"),
    },
    SettledBox,
)
