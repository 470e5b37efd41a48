"""Boxes: the inside of a mould box round one master or a gang, its fill line, and the rubber it takes net of displacement and bed."""

from dataclasses import dataclass, field

import numpy as np
import shapely
from shapely.geometry import Point, Polygon

from ufrin.core.box.box_plan import CLOSE_ENOUGH, BoxPlan, Shape, lift_of_one_g
from ufrin.core.box.clearance_findings import box_findings
from ufrin.core.box.cut_list import Panel, panels
from ufrin.core.box.layouts import Layout, grids, packed, placed_outline, with_true_circle
from ufrin.core.box.wall_bow import wall_load
from ufrin.core.measures.plain_volumes import block_ml, drum_ml
from ufrin.core.shelf.containers import Floats, Pot
from ufrin.core.wording.findings import Finding, worst_first
from ufrin.errors import Refused

MOST_ML = 1e7
LOOKED_AT, FEW = 4, 12  # layouts looked at closely, for gangs of up to so many


@dataclass(frozen=True, slots=True, kw_only=True)
class Inside:
    """The inside of a box in plan: a rectangle, a circle, a tapered pot or an outline."""

    length_mm: float | None = None
    width_mm: float | None = None
    diameter_mm: float | None = None
    pot: Pot | None = None
    outline: Polygon | None = None

    def holds_ml(self, height_mm: float) -> float:
        """Give what it holds up to a height.

        Returns
        -------
        float
            In ml.
        """
        if height_mm <= 0:
            return 0.0
        if self.pot:
            return self.pot.holds_ml(height_mm)
        if self.outline is not None:
            return float(self.outline.area) * height_mm / 1000
        if self.diameter_mm is not None:
            return drum_ml(self.diameter_mm, height_mm)
        return block_ml(self.length_mm or 0, self.width_mm or 0, height_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Box:
    """A box worked out.

    Sizes are inside; ``diameter_mm`` stands for length and width of round ones (tapered: at the fill line);
    ``tightest`` is the least clearance and its height above the board where the wall is not built to measure.
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
    findings: tuple[Finding, ...] = field(default=())

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
        """Give the inside in plan, its middle where the layout's is (a round box: where its circle's is).

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
        rubber SG x the masters' volume above the bed less their weight, never below nothing (Archimedes; only
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
    fill_mm = plan.foot_mm + plan.height_mm + plan.over_mm
    layout, inside = _best(plan, fill_mm)
    gross_ml = inside.holds_ml(fill_mm)
    if gross_ml > MOST_ML:
        raise Refused(
            "masters", f"That box would hold {gross_ml / 1e6:.1f} m³; Ufrin stops at 10. Check sizes and units."
        )
    masters_ml = sum(master.count * (master.volume_ml or 0) for master in plan.masters)
    sunk_ml = sum(master.count * master.below_ml(plan.sunk_mm) for master in plan.masters)
    lip_ml = (
        sum(master.count * master.plan_outline().area * plan.lip_mm / 1000 for master in plan.masters)
        if plan.kind == "tray"
        else 0.0
    )
    # where the displacement is not known, the bed is counted whole
    bed_ml = inside.holds_ml(plan.bed_mm) - sunk_ml if plan.bed_mm else 0.0
    if bed_ml < 0:
        raise Refused(
            "sunk_mm", "The sunk part of the masters is more than the whole bed. Check the displacement and the depth."
        )
    displaced_ml = masters_ml + lip_ml + plan.filler_ml
    rim_mm = (
        plan.container.height_mm if plan.container else fill_mm + (0.0 if plan.kind == "tray" else plan.freeboard_mm)
    )
    wall = wall_load(depth_mm=fill_mm - plan.bed_mm, wall_length_mm=1, sg=plan.rubber_sg) if plan.rubber_sg else None
    raise_mm, tightest = _raise_to_clear_mm(plan, layout), _tightest(plan, layout, inside)
    net_ml = gross_ml - displaced_ml - bed_ml
    return Box(
        shape=plan.kind,
        length_mm=inside.length_mm,
        width_mm=inside.width_mm,
        diameter_mm=inside.pot.diameter_mm(fill_mm) if inside.pot else inside.diameter_mm,
        outline=inside.outline,
        fill_mm=fill_mm,
        rim_mm=rim_mm,
        gross_ml=gross_ml,
        displaced_ml=displaced_ml,
        filler_ml=plan.filler_ml,
        bed_ml=bed_ml,
        net_ml=net_ml,
        lift_g=_lift_g(plan),
        wall_kpa=wall.base_kpa if wall else None,
        layout=layout,
        foot_mm=plan.foot_mm,
        side_mm=plan.side_mm,
        tightest=tightest,
        raise_to_clear_mm=raise_mm,
        panels=() if plan.container else _panels(plan, inside, rim_mm),
        findings=worst_first(
            box_findings(plan, layout, fill_mm=fill_mm, tightest=tightest, raise_mm=raise_mm, net_ml=net_ml)
        ),
    )


def _best(plan: BoxPlan, fill_mm: float) -> tuple[Layout, Inside]:
    several = plan.pack and len(plan.masters) > 1 and not plan.rows and not plan.columns
    layouts = packed(plan.masters, plan.gap_mm) if several else []
    layouts = _promising(plan, layouts or grids(plan.masters, plan.gap_mm, plan.rows, plan.columns))
    pairs = [(layout, inside) for layout in layouts for inside in _insides(plan, layout)]
    if plan.container:
        # its inside is what it is: the layout that leaves most room all round
        return max(pairs, key=lambda pair: (_room(plan, *pair), -pair[0].rows))
    return min(pairs, key=lambda pair: (pair[1].holds_ml(fill_mm), pair[0].circle_mm, pair[0].rows))


def _promising(plan: BoxPlan, layouts: list[Layout]) -> list[Layout]:
    # circles and strips round true outlines take their time: only the layouts with the smallest rectangle or
    # circle are looked at so closely
    plain = not any(master.form for master in plan.masters) and (len(plan.masters) == 1 or not plan.pack)
    if plan.kind in {"rectangle", "tray"} or len(layouts[0].places) == 1 or (plain and plan.kind != "contour"):
        return layouts
    side, strip = 2 * plan.side_mm, plan.kind == "contour"
    near = sorted(layouts, key=lambda one: (one.length_mm + side) * (one.width_mm + side) if strip else one.circle_mm)
    best = near[: LOOKED_AT if len(layouts[0].places) <= FEW else 1]
    return best if strip else [with_true_circle(plan.masters, one) for one in best]


def _room(plan: BoxPlan, layout: Layout, inside: Inside) -> float:
    tightest = _tightest(plan, layout, inside)
    return tightest[0] if tightest else 0.0


def _insides(plan: BoxPlan, layout: Layout) -> list[Inside]:
    side = 2 * plan.side_mm
    if plan.container and plan.container.shape == "rectangle":
        long, short = plan.container.length_mm or 0, plan.container.width_mm or 0
        return [Inside(length_mm=long, width_mm=short), Inside(length_mm=short, width_mm=long)]
    if plan.the_pot:
        return [Inside(pot=plan.the_pot)]
    if plan.container:
        return [Inside(diameter_mm=plan.container.bottom_mm)]
    if plan.kind == "round":
        return [Inside(diameter_mm=layout.circle_mm + side)]
    if plan.kind == "contour":
        return [Inside(outline=_contour(plan, layout))]
    return [Inside(length_mm=layout.length_mm + side, width_mm=layout.width_mm + side)]


def _contour(plan: BoxPlan, layout: Layout) -> Polygon:
    # a strip bends smoothly: the outline is widened by more than wanted and taken in again, which rounds what is
    # hollow and joins neighbours
    outlines = [placed_outline(plan.masters[place.kind], place) for place in layout.places]
    if len(outlines) > FEW:  # a strip round a crowd follows each outline as closely as a saw does
        outlines = list(shapely.simplify(outlines, 0.1))
    everything = shapely.union_all(outlines)
    bend = max(plan.gap_mm, plan.side_mm)
    wide = shapely.buffer(shapely.buffer(everything, plan.side_mm + bend, quad_segs=16), -bend, quad_segs=16)
    if wide.geom_type != "Polygon":
        raise Refused(
            "gap_mm",
            "The masters stand too far apart for one strip round them all. Set them closer, or take a rectangular box.",
        )
    return Polygon(wide.exterior)


def _tightest(plan: BoxPlan, layout: Layout, inside: Inside) -> tuple[float, float] | None:
    """Give the least clearance and its height above the board, where the wall is not built to measure.

    Returns
    -------
    tuple or None
        Clearance and height; None for a built box.
    """
    if inside.pot:
        return inside.pot.tightest(plan.foot_mm, _reach(plan, layout))
    if not plan.container:
        return None
    if inside.diameter_mm is not None:
        return (inside.diameter_mm - layout.circle_mm) / 2, plan.foot_mm
    return min((inside.length_mm or 0) - layout.length_mm, (inside.width_mm or 0) - layout.width_mm) / 2, plan.foot_mm


def _reach(plan: BoxPlan, layout: Layout) -> Floats:
    if len(plan.masters) == 1 and plan.masters[0].count == 1 and plan.masters[0].form:
        return plan.masters[0].reach_mm()
    return np.array([[0.0, layout.circle_mm / 2], [plan.height_mm, layout.circle_mm / 2]])


def _raise_to_clear_mm(plan: BoxPlan, layout: Layout) -> float | None:
    # the least bed that keeps the side clearance at every height; 0 if clear, None if no bed helps
    if plan.the_pot is None:
        return 0.0
    reach = _reach(plan, layout)
    if plan.the_pot.tightest(plan.foot_mm, reach)[0] * CLOSE_ENOUGH >= plan.side_mm - 1e-9:
        return 0.0
    foot_mm = plan.the_pot.clear_foot_mm(plan.side_mm, reach)
    if foot_mm is None:
        return None
    bed_mm = max(0.0, foot_mm - plan.under_mm + plan.sunk_mm)
    # in a pot that narrows upwards the foot may have to stand lower than the rubber under it lets it
    stands = plan.the_pot.tightest(bed_mm + plan.under_mm - plan.sunk_mm, reach)[0]
    return bed_mm if stands * CLOSE_ENOUGH >= plan.side_mm - 1e-9 else None


def _lift_g(plan: BoxPlan) -> float | None:
    if plan.rubber_sg is None or any(master.volume_ml is None or master.mass_g is None for master in plan.masters):
        return None
    return max(0.0, sum(lift_of_one_g(plan, master, plan.rubber_sg) * master.count for master in plan.masters))


def _panels(plan: BoxPlan, inside: Inside, rim_mm: float) -> tuple[Panel, ...]:
    if plan.wall_thickness_mm is None or plan.kind == "tapered":
        return ()
    around_mm = float(inside.outline.exterior.length) if inside.outline is not None else None
    return panels(
        length_mm=inside.length_mm,
        width_mm=inside.width_mm,
        diameter_mm=inside.diameter_mm,
        around_mm=around_mm,
        rim_mm=rim_mm,
        thickness_mm=plan.wall_thickness_mm,
        pinwheel=plan.pinwheel,
    )
