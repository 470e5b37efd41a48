"""What meets in a job: its masters, board, walls, bed, filler, halves, jacket, cast and insert, by their surfaces."""

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.job.mould_style import BOXLESS
from ufrin.core.job.opening_station import Opening
from ufrin.core.materials.kinds import SOMETHING_ELSE
from ufrin.core.materials.tables import BOARDS, MATERIALS
from ufrin.core.opening.mould_styles import PARTED
from ufrin.core.pairing.contacts import PartsThatMeet, Surface
from ufrin.core.rubber.tins import Rubber
from ufrin.language import Text

NO_SURFACE = ""
JACKET_POURS = {"plaster": "plaster", "resin": "polyester-resin"}  # laminating resin, the usual one for a jacket
PLACES_BETWEEN = ("board", "walls", "bed", "halves", "cast")


def master_surface(name: str, inputs: MasterInputs, of_job: int = 0) -> Surface:
    """Return what a master's surface is to whatever touches it.

    Parameters
    ----------
    name : str
        Of its job.
    inputs : MasterInputs
        As filled in.
    of_job : int, optional
        Number of its job, where that is another one.

    Returns
    -------
    Surface
        Its kind empty where the material was not filled in.
    """
    material = MATERIALS.get(inputs.material or "")
    layers = tuple(layer for layer in (inputs.sealer, inputs.release) if layer)
    kind = material.surface if material else NO_SURFACE
    if inputs.material == SOMETHING_ELSE:
        kind = inputs.own_material or SOMETHING_ELSE
    return Surface(name=name, kind=kind, layers=layers, is_known=bool(layers), of_job=of_job)


def parts_that_meet(
    masters: tuple[Surface, ...],
    box: BoxInputs,
    checks: CheckInputs,
    *,
    bed_material: str | None,
    rubber: Rubber,
    box_plan: BoxPlan | None,
    opening: Opening | None,
) -> PartsThatMeet:
    """Gather all that meets in a job.

    Parameters
    ----------
    masters : tuple of Surface
        The job's own first.
    box, checks : BoxInputs, CheckInputs
        As filled in.
    bed_material : str or None
        Of the bed that two halves are parted by.
    rubber : Rubber
        The one chosen.
    box_plan, opening : BoxPlan or None, Opening or None
        Worked out.

    Returns
    -------
    PartsThatMeet
        Kinds, empty where they were not filled in.
    """
    settled, picked = box.settled(), checks.settled()
    container = box_plan.container if box_plan else None
    style = opening.style if opening else ""
    is_parted = style in PARTED
    has_bed = is_parted or (settled.bed_mm > 0 and style not in BOXLESS)
    return PartsThatMeet(
        rubber=rubber.family,
        rubber_name=rubber.name,
        masters=masters,
        board="" if container or has_bed else BOARDS[settled.board].surface,
        has_board=not container and not has_bed,
        walls=container.material if container else BOARDS[settled.wall_material].surface,
        walls_name=Text("the container") if container else Text("the walls"),
        bed=(bed_material if is_parted else settled.bed_material) or "",
        bed_station="opening" if is_parted else "box",
        has_walls=style not in BOXLESS,
        has_bed=has_bed,
        filler=(settled.filler_family or rubber.family) if settled.filler_ml and style not in BOXLESS else "",
        is_parted=is_parted,
        has_jacket=style == "skin",
        jacket=JACKET_POURS[settled.jacket_material],
        cast=picked.cast_material or "",
        insert=picked.insert or "",
        between={place: getattr(checks, f"between_{place}") for place in PLACES_BETWEEN},
    )
