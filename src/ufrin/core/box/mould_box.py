"""A mould box worked out in one line: layout, inside, fill line, volumes, clearances, lift, panels, findings."""

from dataclasses import dataclass

import shapely
from shapely.geometry import Point, Polygon

from ufrin.core.box.box_plan import BoxPlan, Shape
from ufrin.core.box.box_volumes import box_volumes
from ufrin.core.box.clearances import clearance_findings, clearances
from ufrin.core.box.cut_list import Panel, panels
from ufrin.core.box.fill_line import fill_findings, fill_line
from ufrin.core.box.filler import filler_findings
from ufrin.core.box.hold_down import lift_findings, lift_of_all_g
from ufrin.core.box.inside import Inside
from ufrin.core.box.layout_choice import chosen_layout
from ufrin.core.box.layouts import Layout
from ufrin.core.box.wall_bow import wall_load
from ufrin.core.wording.findings import Finding, worst_first


@dataclass(frozen=True, slots=True, kw_only=True)
class Box:
    """A box worked out.

    Sizes are inside; ``diameter_mm`` is the length and width of a round one (tapered: at the fill line); ``tightest``
    is the least clearance and its height above the board where the wall is not built to measure.
    """

    shape: Shape
    length_mm: float | None
    width_mm: float | None
    diameter_mm: float | None
    outline: Polygon | None
    fill_mm: float
    rim_mm: float
    gross_ml: float
    displaced_ml: float
    filler_ml: float
    bed_ml: float
    net_ml: float
    lift_g: float | None
    wall_kpa: float | None
    layout: Layout
    foot_mm: float
    side_mm: float
    tightest: tuple[float, float] | None = None
    raise_to_clear_mm: float | None = 0.0
    panels: tuple[Panel, ...] = ()
    findings: tuple[Finding, ...] = ()

    @property
    def rows(self) -> int:
        """Of the gang."""
        return self.layout.rows

    @property
    def columns(self) -> int:
        """Of the gang."""
        return self.layout.columns

    @property
    def inside_mm(self) -> tuple[float, float]:
        """Inside length and width over all; the diameter twice for a round box."""
        if self.outline is not None:
            left, near, right, far = self.outline.bounds
            return right - left, far - near
        if self.diameter_mm is not None:
            return self.diameter_mm, self.diameter_mm
        return self.length_mm or 0.0, self.width_mm or 0.0

    def inside_polygon(self) -> Polygon:
        """Return the inside in plan, its middle where the layout's is (a round box: where its circle's is).

        Returns
        -------
        Polygon
            In mm from the middle of the layout.
        """
        if self.outline is not None:
            return self.outline
        if self.diameter_mm is not None:
            return Point(self.layout.circle_at_mm).buffer(self.diameter_mm / 2, quad_segs=48)
        length, width = self.inside_mm
        return shapely.box(-length / 2, -width / 2, length / 2, width / 2)

    @property
    def fits(self) -> bool:
        """Whether nothing stops it."""
        return not any(finding.level == "stop" for finding in self.findings)


def box(plan: BoxPlan) -> Box:
    """Work out a box: fill = bed + under + (height - sunk) + over; net = gross - displaced - bed.

    Parameters
    ----------
    plan : BoxPlan
        Masters, shape and clearances.

    Returns
    -------
    Box
        Volumes are for the whole gang; ``displaced_ml`` includes a tray's lip and the filler. ``lift_g`` is
        rubber SG x the masters' volume above the bed less their weight, never below 0 (Archimedes; only
        where rubber creeps under them); ``wall_kpa`` is rho g h at the foot of the liquid.

    Raises
    ------
    Refused
        For rows and columns that don't hold the masters, or a box beyond belief.

    Examples
    --------
    >>> from ufrin.core.master.master_form import Master
    >>> one = Master(length_mm=85, width_mm=60, height_mm=40, volume_ml=118)
    >>> round(box(BoxPlan(masters=(one,), side_mm=10, over_mm=12)).net_ml, 6)
    318.8
    """
    levels = fill_line(plan)
    layout, inside = chosen_layout(plan, levels.fill_mm)
    volumes = box_volumes(plan, inside, levels.fill_mm)
    clear = clearances(plan, layout, inside)
    findings = [
        *clearance_findings(plan, layout, clear),
        *fill_findings(plan, levels.fill_mm),
        *lift_findings(plan),
        *filler_findings(plan, layout, levels.fill_mm, volumes.net_ml),
    ]
    return Box(
        shape=plan.kind,
        length_mm=inside.length_mm,
        width_mm=inside.width_mm,
        diameter_mm=inside.pot.diameter_mm(levels.fill_mm) if inside.pot else inside.diameter_mm,
        outline=inside.outline,
        fill_mm=levels.fill_mm,
        rim_mm=levels.rim_mm,
        gross_ml=volumes.gross_ml,
        displaced_ml=volumes.displaced_ml,
        filler_ml=plan.filler_ml,
        bed_ml=volumes.bed_ml,
        net_ml=volumes.net_ml,
        lift_g=lift_of_all_g(plan),
        wall_kpa=_wall_kpa(plan, levels.fill_mm),
        layout=layout,
        foot_mm=plan.foot_mm,
        side_mm=plan.side_mm,
        tightest=clear.tightest,
        raise_to_clear_mm=clear.raise_to_clear_mm,
        panels=_panels(plan, inside, levels.rim_mm),
        findings=worst_first(findings),
    )


def _wall_kpa(plan: BoxPlan, fill_mm: float) -> float | None:
    if not plan.rubber_sg:
        return None
    return wall_load(depth_mm=fill_mm - plan.bed_mm, wall_length_mm=1, sg=plan.rubber_sg).base_kpa


def _panels(plan: BoxPlan, inside: Inside, rim_mm: float) -> tuple[Panel, ...]:
    if plan.container or plan.wall_thickness_mm is None or plan.kind == "tapered":
        return ()
    return panels(
        length_mm=inside.length_mm,
        width_mm=inside.width_mm,
        diameter_mm=inside.diameter_mm,
        around_mm=float(inside.outline.exterior.length) if inside.outline is not None else None,
        rim_mm=rim_mm,
        thickness_mm=plan.wall_thickness_mm,
        pinwheel=plan.pinwheel,
    )
