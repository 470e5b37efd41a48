"""The Box station: its box plan, the bow of its walls and its cut list."""

from dataclasses import replace

from ufrin.core.box.box_plan import BoxPlan, Shape
from ufrin.core.box.cut_list import CutList, check_sheet, cut_list
from ufrin.core.box.mould_box import Box
from ufrin.core.box.wall_bow import PanelStock, WallBow, wall_bow
from ufrin.core.inputs.box import BoxInputs, SettledBox
from ufrin.core.job.mould_style import usual_clearances
from ufrin.core.master.master_form import Master
from ufrin.core.materials.tables import BOARDS
from ufrin.core.opening.mould_styles import PARTED
from ufrin.core.shelf.containers import Container
from ufrin.errors import Refused
from ufrin.language import Text


def inputs_for_style(inputs: BoxInputs, style: str) -> BoxInputs:
    """Fill in what the kind of mould decides about its box, wherever the maker filled in nothing else.

    Parameters
    ----------
    inputs : BoxInputs
        As filled in.
    style : str
        The kind of mould that counts.

    Returns
    -------
    BoxInputs
        A tray has a box of its own shape, and no other kind has it; a mould in two halves has as much rubber under the
        master as over it, and no other bed than the one that it is parted by; a squeeze mould is thin, with a flange.
    """
    shape = "tray" if style == "tray" else None if inputs.shape == "tray" else inputs.shape
    usual = {key: value for key, value in usual_box(inputs, style).items() if getattr(inputs, key) is None}
    inputs = replace(inputs, shape=shape, **usual)  # type: ignore[arg-type]  # the keys name lengths
    return replace(inputs, bed_mm=None, sunk_mm=None) if style in PARTED else inputs


def usual_box(inputs: BoxInputs, style: str) -> dict[str, float]:
    """Return the clearances of a kind of mould that count while the maker filled in none.

    Parameters
    ----------
    inputs : BoxInputs
        As filled in.
    style : str
        The kind of mould that counts.

    Returns
    -------
    dict of input to mm
        In a mould in two halves there is as much rubber under the master as over it.
    """
    usual = usual_clearances(style)
    over_mm = usual["over_mm"] if inputs.over_mm is None else inputs.over_mm
    return {**usual, "under_mm": over_mm} if style in PARTED else usual


def plan_box(
    masters: tuple[Master, ...],
    inputs: BoxInputs,
    rubber_sg: float | None,
    container: Container | None,
    size_pm_mm: float = 0.0,
) -> BoxPlan:
    """Turn the Box station's inputs into a box plan.

    Parameters
    ----------
    masters : tuple of Master
        The job's own first.
    inputs : BoxInputs
        As filled in.
    rubber_sg : float or None
        Of the rubber chosen.
    container : Container or None
        The one chosen; it counts only where the shape says so.
    size_pm_mm : float, optional
        How far the masters' sizes may be off.

    Returns
    -------
    BoxPlan
        Ready to be worked out.

    Raises
    ------
    Refused
        When a container is wanted and none is chosen, or figures contradict each other.
    """
    settled = inputs.settled()
    in_container = settled.shape == "container"
    if in_container and container is None:
        raise Refused("container_id", Text("Choose which container. Those on the Shelf are listed here."))
    shape: Shape = "rectangle" if settled.shape == "container" else settled.shape
    return BoxPlan(
        masters=masters,
        shape=shape,
        side_mm=settled.side_mm,
        over_mm=settled.over_mm,
        under_mm=settled.under_mm,
        gap_mm=settled.gap_mm,
        bed_mm=settled.bed_mm,
        sunk_mm=settled.sunk_mm if settled.bed_mm else 0.0,
        freeboard_mm=settled.freeboard_mm,
        rows=settled.rows or None,
        columns=settled.columns or None,
        container=container if in_container else None,
        rubber_sg=rubber_sg,
        wall_thickness_mm=settled.wall_thickness_mm,
        lip_mm=settled.lip_mm if shape == "tray" else 0.0,
        filler_ml=settled.filler_ml,
        pack=True,
        pinwheel=settled.joint == "pinwheel",
        size_pm_mm=size_pm_mm,
    )


def bow_of(plan: BoxPlan, made: Box, inputs: BoxInputs) -> WallBow | None:
    """Return how far the longest wall of a box bows.

    Parameters
    ----------
    plan : BoxPlan
        As wanted.
    made : Box
        Worked out.
    inputs : BoxInputs
        With the board that its walls are cut from.

    Returns
    -------
    WallBow or None
        None for a bent strip, which stands by its curve, for a container, and while no rubber is chosen.
    """
    if made.length_mm is None or plan.container or plan.rubber_sg is None:
        return None
    settled = inputs.settled()
    board = BOARDS[settled.wall_material]
    stock = PanelStock(
        thickness_mm=settled.wall_thickness_mm,
        youngs_modulus_gpa=board.youngs_modulus_gpa,
        poisson_ratio=board.poisson_ratio,
    )
    long_mm = max(made.length_mm, made.width_mm or 0)
    return wall_bow(length_mm=long_mm, depth_mm=made.fill_mm, sg=plan.rubber_sg, sheet=stock, side_mm=plan.side_mm)


def check_cutting(inputs: BoxInputs) -> None:
    """Refuse a sheet or a saw cut that is impossible.

    Parameters
    ----------
    inputs : BoxInputs
        With the sheet that the panels are cut from.

    Raises
    ------
    Refused
        Naming the input.
    """
    settled = inputs.settled()
    check_sheet(_sheet_mm(settled), settled.kerf_mm)


def cuts(made: Box, inputs: BoxInputs) -> CutList | None:
    """Make the cut list of a job's box.

    Parameters
    ----------
    made : Box
        Worked out.
    inputs : BoxInputs
        With the sheet that it is cut from.

    Returns
    -------
    CutList or None
        None for a container, which has walls already, and while sheet or saw cut are impossible.
    """
    if not made.panels:
        return None
    settled = inputs.settled()
    try:
        check_cutting(inputs)
    except Refused:  # shown beside its field
        return None
    return cut_list(
        made.panels,
        outside_mm=made.inside_mm,
        around_mm=made.inside_polygon().exterior.length,
        thickness_mm=settled.wall_thickness_mm,
        sheet_mm=_sheet_mm(settled),
        kerf_mm=settled.kerf_mm,
    )


def _sheet_mm(settled: SettledBox) -> tuple[float, float]:
    return settled.sheet_length_mm, settled.sheet_width_mm
