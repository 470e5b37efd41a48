"""The fill line of a box: how high the rubber is poured, the rim of the wall over it, and whether it runs over."""

from collections.abc import Iterator
from dataclasses import dataclass

from ufrin.core.box.box_plan import CLOSE_ENOUGH, BoxPlan
from ufrin.core.wording.findings import Amount, Finding


@dataclass(frozen=True, slots=True, kw_only=True)
class FillLine:
    """Heights above the board: the surface of the rubber, and the rim of the wall."""

    fill_mm: float
    rim_mm: float


def fill_line(plan: BoxPlan) -> FillLine:
    """Return the fill line: fill = bed + under + (height - sunk) + over.

    Parameters
    ----------
    plan : BoxPlan
        Masters, shape and clearances.

    Returns
    -------
    FillLine
        A tray is filled to its rim; the rim of a container is given.
    """
    fill_mm = plan.foot_mm + plan.height_mm + plan.over_mm
    built_rim_mm = fill_mm + (0.0 if plan.kind == "tray" else plan.freeboard_mm)
    return FillLine(fill_mm=fill_mm, rim_mm=plan.container.height_mm if plan.container else built_rim_mm)


def fill_findings(plan: BoxPlan, fill_mm: float) -> Iterator[Finding]:
    """Yield what is wrong with the fill line in a container or pot, whose wall is as high as it is.

    Parameters
    ----------
    plan : BoxPlan
        As wanted.
    fill_mm : float
        The fill line above the board.

    Yields
    ------
    Finding
        It runs over, or nearly does.
    """
    wall_mm = plan.container.height_mm if plan.container else plan.pot.height_mm if plan.pot else None
    if wall_mm is None:
        return
    if fill_mm > wall_mm * CLOSE_ENOUGH:
        facts = {"fill": Amount(fill_mm, "length"), "height": Amount(wall_mm, "length")}
        is_within_error = fill_mm - wall_mm <= plan.size_pm_mm
        yield Finding(code="overflows-hardly" if is_within_error else "overflows", facts=facts, field="over_mm")
    elif wall_mm - fill_mm < plan.freeboard_mm:
        yield Finding(code="low-freeboard", facts={"left": Amount(wall_mm - fill_mm, "length")}, field="freeboard_mm")
