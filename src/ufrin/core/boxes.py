"""Boxes: the inside of a mould box round one master or a gang, its fill line, and the rubber it takes net of displacement and bed."""

from dataclasses import dataclass, field
from math import ceil, hypot, pi
from typing import Literal

from ufrin.core.findings import Amount, Finding, worst_first
from ufrin.core.solids import block_ml, diagonal_mm, drum_ml, frustum_ml
from ufrin.core.walls import lift_gf, wall_load
from ufrin.errors import Refused

Shape = Literal["rectangle", "round", "tapered"]
Outline = Literal["rectangle", "round"]
MOST_MASTERS = 400
MOST_ML = 1e7
THIN_COVER_MM, THIN_SIDE_MM = 6.0, 5.0  # common practice: half of what is usual
CLOSE_ENOUGH = 1 + 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Master:
    """A master as the box sees it.

    Parameters
    ----------
    length_mm, width_mm, height_mm : float
        Its outside, as it stands.
    volume_ml : float or None
        Its displacement; None when it is not known.
    mass_g : float or None
        Its weight; None when it is not known.
    count : int
        Equal ones.
    outline : "rectangle" or "round"
        In plan; a round one has its diameter as length and width.
    """

    length_mm: float
    width_mm: float
    height_mm: float
    volume_ml: float | None
    mass_g: float | None = None
    count: int = 1
    outline: Outline = "rectangle"

    def __post_init__(self) -> None:
        for name in ("length_mm", "width_mm", "height_mm"):
            if not 0 < getattr(self, name) <= 10_000:
                raise Refused(name, "A master's size must be more than nothing and at most 10 m.")
        if not 1 <= self.count <= MOST_MASTERS:
            raise Refused("count", f"A gang has 1 to {MOST_MASTERS} masters.")
        if self.volume_ml is not None and not 0 < self.volume_ml <= self.outside_ml * CLOSE_ENOUGH:
            raise Refused(
                "volume_ml",
                f"A volume of [{self.volume_ml:g} volume] can't be inside [{self.length_mm:g} length] x [{self.width_mm:g} length] x [{self.height_mm:g} length], "
                f"which holds [{self.outside_ml:.1f} volume]. Check both.",
            )
        if self.mass_g is not None and not 0 < self.mass_g <= 1e7:
            raise Refused("mass_g", "A master's weight must be more than nothing and at most 10 t.")

    @property
    def outside_ml(self) -> float:
        """The block or drum that its outside would fill."""
        if self.outline == "round":
            return drum_ml(self.length_mm, self.height_mm)
        return block_ml(self.length_mm, self.width_mm, self.height_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Pot:
    """A tapered pot by its inside.

    Parameters
    ----------
    bottom_mm, top_mm : float
        Diameters.
    height_mm : float
        From bottom to rim.
    """

    bottom_mm: float
    top_mm: float
    height_mm: float

    def __post_init__(self) -> None:
        for name in ("bottom_mm", "top_mm", "height_mm"):
            if not 0 < getattr(self, name) <= 10_000:
                raise Refused(f"pot.{name}", "A pot's size must be more than nothing and at most 10 m.")

    def diameter_mm(self, above_bottom_mm: float) -> float:
        """Give the inside diameter at a height; the taper is carried on beyond the rim.

        Parameters
        ----------
        above_bottom_mm : float
            The height.

        Returns
        -------
        float
            In mm.
        """
        return self.bottom_mm + (self.top_mm - self.bottom_mm) * above_bottom_mm / self.height_mm

    def holds_ml(self, fill_mm: float) -> float:
        """Give what it holds up to a height.

        Parameters
        ----------
        fill_mm : float
            Above the bottom.

        Returns
        -------
        float
            In ml.

        Raises
        ------
        Refused
            When the pot closes below that height.
        """
        if self.diameter_mm(fill_mm) < 0:
            raise Refused("pot.height_mm", "The pot closes below the fill line. Take a higher one.")
        return frustum_ml(self.bottom_mm, self.diameter_mm(fill_mm), fill_mm) if fill_mm > 0 else 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxPlan:
    """What a box is to be like. Recommended clearances are common practice: 10 to 13 mm beside, 12 over, 10 between.

    Parameters
    ----------
    masters : tuple of Master
        One kind or several; they stand on a grid of cells as large as the largest.
    shape : "rectangle", "round" or "tapered"
        Of the box.
    side_mm, over_mm, under_mm, gap_mm : float
        Rubber beside, over and under the masters and between them.
    bed_mm, sunk_mm : float
        Clay or plaster on the board, and how deep the masters sit in it.
    freeboard_mm : float
        Wall above the fill line.
    rows, columns : int or None
        Of the gang; None lets the grid with the least rubber be taken. Columns run along the length.
    pot : Pot or None
        For "tapered".
    rubber_sg : float or None
        Of the liquid rubber.
    wall_thickness_mm : float or None
        Of the panels; None lists none.
    """

    masters: tuple[Master, ...]
    shape: Shape = "rectangle"
    side_mm: float = 12.0
    over_mm: float = 12.0
    under_mm: float = 0.0
    gap_mm: float = 10.0
    bed_mm: float = 0.0
    sunk_mm: float = 0.0
    freeboard_mm: float = 10.0
    rows: int | None = None
    columns: int | None = None
    pot: Pot | None = None
    rubber_sg: float | None = None
    wall_thickness_mm: float | None = None

    def __post_init__(self) -> None:
        if not self.masters:
            raise Refused("masters", "There is no master to put in the box.")
        if sum(master.count for master in self.masters) > MOST_MASTERS:
            raise Refused("masters", f"A gang has at most {MOST_MASTERS} masters.")
        for name in ("side_mm", "over_mm", "under_mm", "gap_mm", "bed_mm", "sunk_mm", "freeboard_mm"):
            if not 0 <= getattr(self, name) <= 10_000:
                raise Refused(name, "A clearance can't be less than nothing or more than 10 m.")
        if self.sunk_mm > self.bed_mm:
            raise Refused("sunk_mm", f"A master can't sit [{self.sunk_mm:g} length] deep in a bed of [{self.bed_mm:g} length]. Make the bed deeper.")
        if any(self.sunk_mm >= master.height_mm for master in self.masters):
            raise Refused("sunk_mm", "The master would sit wholly in the bed and leave no mould. Sink it less.")
        if (self.shape == "tapered") != (self.pot is not None):
            raise Refused("pot", "A tapered box needs the pot's inside diameters and height, and only a tapered box takes them.")
        if self.rubber_sg is not None and not 0.1 <= self.rubber_sg <= 22.6:
            raise Refused("rubber_sg", "A specific gravity between 0.1 and 22.6 is believable; rubbers lie between 0.9 and 1.6.")
        if self.wall_thickness_mm is not None and not 0 < self.wall_thickness_mm <= 1000:
            raise Refused("wall.thickness_mm", "A wall's thickness must be more than nothing and at most 1 m.")


@dataclass(frozen=True, slots=True, kw_only=True)
class Panel:
    """Equal panels to cut: the long sides overlap the ends of the short ones (butt joints)."""

    name: str
    length_mm: float
    height_mm: float
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Box:
    """A box worked out. Sizes are inside; ``diameter_mm`` stands for length and width of round ones (tapered: at the fill line)."""

    shape: Shape
    length_mm: float | None
    width_mm: float | None
    diameter_mm: float | None
    fill_mm: float
    rim_mm: float
    gross_ml: float
    displaced_ml: float
    bed_ml: float
    net_ml: float
    lift_g: float | None
    wall_kpa: float | None
    rows: int
    columns: int
    cell_mm: tuple[float, float]
    raise_to_clear_mm: float | None = 0.0
    panels: tuple[Panel, ...] = ()
    findings: tuple[Finding, ...] = field(default=())


@dataclass(frozen=True, slots=True)
class _Footprint:
    """The gang's outline in plan: length and width of the grid, and the smallest circle round it."""

    rows: int
    columns: int
    length_mm: float
    width_mm: float
    circle_mm: float


def box(plan: BoxPlan) -> Box:
    """Work out a box: fill = bed + under + (height - sunk) + over; net = gross - displaced - bed.

    Parameters
    ----------
    plan : BoxPlan
        Masters, shape and clearances.

    Returns
    -------
    Box
        Volumes are for the whole gang. ``lift_g`` is rubber SG x the masters' volume above the bed less their weight, never below
        nothing (Archimedes; only where rubber creeps under them); ``wall_kpa`` is rho g h at the foot of the liquid.

    Raises
    ------
    Refused
        For rows and columns that don't hold the masters, or a box beyond belief.

    Examples
    --------
    >>> one = Master(length_mm=85, width_mm=60, height_mm=40, volume_ml=118)
    >>> round(box(BoxPlan(masters=(one,), side_mm=10, over_mm=12)).net_ml, 6)
    318.8
    """
    fill_mm = plan.bed_mm + plan.under_mm + max(master.height_mm for master in plan.masters) - plan.sunk_mm + plan.over_mm
    candidates = [(_gross_ml(plan, footprint, fill_mm), footprint) for footprint in _grids(plan)]
    gross_ml, footprint = min(candidates, key=lambda pair: (pair[0], pair[1].circle_mm, pair[1].rows))
    if gross_ml > MOST_ML:
        raise Refused("masters", f"That box would hold {gross_ml / 1e6:.1f} m³; Ufrin stops at 10. Check sizes and units.")
    displaced_ml = sum(master.count * (master.volume_ml or 0) for master in plan.masters)
    sunk_ml = sum(master.count * (master.volume_ml or 0) * plan.sunk_mm / master.height_mm for master in plan.masters)
    # where the displacement is not known, the bed is counted whole
    bed_ml = _gross_ml(plan, footprint, plan.bed_mm) - sunk_ml if plan.bed_mm else 0.0
    if bed_ml < 0:
        raise Refused("sunk_mm", "The sunk part of the masters is more than the whole bed. Check the displacement and the depth.")
    wall = wall_load(depth_mm=fill_mm - plan.bed_mm, wall_length_mm=1, sg=plan.rubber_sg) if plan.rubber_sg else None
    side = 2 * plan.side_mm
    straight = plan.shape == "rectangle"
    diameter_mm = plan.pot.diameter_mm(fill_mm) if plan.pot else footprint.circle_mm + side
    return Box(
        shape=plan.shape,
        length_mm=footprint.length_mm + side if straight else None,
        width_mm=footprint.width_mm + side if straight else None,
        diameter_mm=None if straight else diameter_mm,
        fill_mm=fill_mm,
        rim_mm=fill_mm + plan.freeboard_mm,
        gross_ml=gross_ml,
        displaced_ml=displaced_ml,
        bed_ml=bed_ml,
        net_ml=gross_ml - displaced_ml - bed_ml,
        lift_g=_lift_g(plan),
        wall_kpa=wall.base_kpa if wall else None,
        rows=footprint.rows,
        columns=footprint.columns,
        cell_mm=_cell(plan),
        raise_to_clear_mm=_raise_to_clear_mm(plan, footprint),
        panels=_panels(plan, footprint, fill_mm + plan.freeboard_mm),
        findings=worst_first(_findings(plan, footprint, fill_mm)),
    )


def _cell(plan: BoxPlan) -> tuple[float, float]:
    return max(master.length_mm for master in plan.masters), max(master.width_mm for master in plan.masters)


def _grids(plan: BoxPlan) -> list[_Footprint]:
    count = sum(master.count for master in plan.masters)
    if plan.rows and plan.columns:
        if plan.rows * plan.columns < count:
            raise Refused(
                "rows", f"{plan.rows} rows of {plan.columns} hold {plan.rows * plan.columns} masters, and there are {count}. Add a row or a column."
            )
        pairs = [(plan.rows, plan.columns)]
    elif plan.rows or plan.columns:
        given = plan.rows or plan.columns or 1
        pairs = [(given, ceil(count / given)) if plan.rows else (ceil(count / given), given)]
    else:
        pairs = [(ceil(count / columns), columns) for columns in range(1, count + 1)]
    return [_footprint(plan, rows, columns) for rows, columns in pairs]


def _footprint(plan: BoxPlan, rows: int, columns: int) -> _Footprint:
    length, width = _cell(plan)
    along, across = (columns - 1) * (length + plan.gap_mm), (rows - 1) * (width + plan.gap_mm)
    circle = diagonal_mm(along + length, across + width)
    if all(master.outline == "round" for master in plan.masters):
        circle = hypot(along, across) + max(length, width)
    return _Footprint(rows, columns, along + length, across + width, circle)


def _gross_ml(plan: BoxPlan, footprint: _Footprint, height_mm: float) -> float:
    if plan.pot:
        return plan.pot.holds_ml(height_mm)
    side = 2 * plan.side_mm
    if plan.shape == "round":
        return drum_ml(footprint.circle_mm + side, height_mm)
    return block_ml(footprint.length_mm + side, footprint.width_mm + side, height_mm)


def _lift_g(plan: BoxPlan) -> float | None:
    if plan.rubber_sg is None or any(master.volume_ml is None or master.mass_g is None for master in plan.masters):
        return None
    return max(0.0, sum(_lift_of_one_g(plan, master, plan.rubber_sg) * master.count for master in plan.masters))


def _lift_of_one_g(plan: BoxPlan, master: Master, sg: float) -> float:
    above_ml = (master.volume_ml or 0) * (1 - plan.sunk_mm / master.height_mm)
    return lift_gf(displaced_ml=above_ml, mass_g=master.mass_g or 0, sg=sg)


def _raise_to_clear_mm(plan: BoxPlan, footprint: _Footprint) -> float | None:
    # the least bed that keeps the side clearance round the masters' circumscribed cylinder; 0 if clear, None if no bed helps
    if not plan.pot:
        return 0.0
    pot, wanted_mm = plan.pot, footprint.circle_mm + 2 * plan.side_mm
    height_mm = max(master.height_mm for master in plan.masters)
    foot_mm = plan.bed_mm + plan.under_mm - plan.sunk_mm
    if min(pot.diameter_mm(foot_mm), pot.diameter_mm(foot_mm + height_mm)) * CLOSE_ENOUGH >= wanted_mm:
        return 0.0
    if pot.top_mm <= pot.bottom_mm:
        return None
    clear_foot_mm = (wanted_mm - pot.bottom_mm) / (pot.top_mm - pot.bottom_mm) * pot.height_mm
    if clear_foot_mm + height_mm > pot.height_mm * CLOSE_ENOUGH:
        return None
    return clear_foot_mm - plan.under_mm + plan.sunk_mm


def _panels(plan: BoxPlan, footprint: _Footprint, rim_mm: float) -> tuple[Panel, ...]:
    thickness, side = plan.wall_thickness_mm, 2 * plan.side_mm
    if thickness is None or plan.shape == "tapered":
        return ()
    if plan.shape == "round":
        return (Panel(name="strip", length_mm=pi * (footprint.circle_mm + side + thickness), height_mm=rim_mm, count=1),)
    inside = sorted((footprint.length_mm + side, footprint.width_mm + side))
    return (
        Panel(name="long side", length_mm=inside[1] + 2 * thickness, height_mm=rim_mm, count=2),
        Panel(name="short side", length_mm=inside[0], height_mm=rim_mm, count=2),
    )


def _findings(plan: BoxPlan, footprint: _Footprint, fill_mm: float) -> list[Finding]:
    found = []
    if plan.pot:
        found += _pot_findings(plan, plan.pot, footprint, fill_mm)
    if plan.over_mm < THIN_COVER_MM:
        found.append(Finding(code="thin-cover", facts={"over": Amount(plan.over_mm, "length")}, field="over_mm"))
    if plan.side_mm < THIN_SIDE_MM:
        found.append(Finding(code="thin-side", facts={"side": Amount(plan.side_mm, "length")}, field="side_mm"))
    if any(master.volume_ml is None for master in plan.masters):
        found.append(Finding(code="no-displacement"))
    elif plan.rubber_sg is not None:
        # one light master floats up even when its heavy neighbours would hold the sum down
        lifts = [_lift_of_one_g(plan, master, plan.rubber_sg) for master in plan.masters if master.mass_g is not None]
        if lifts and max(lifts) > 0:
            found.append(Finding(code="floats", facts={"lift": Amount(max(lifts), "mass", 0)}, field="bed_mm"))
        if len(lifts) < len(plan.masters):
            found.append(Finding(code="weight-unknown", field="bed_mm"))
    return found


def _pot_findings(plan: BoxPlan, pot: Pot, footprint: _Footprint, fill_mm: float) -> list[Finding]:
    found = []
    foot_mm = plan.bed_mm + plan.under_mm - plan.sunk_mm
    heights = (foot_mm, foot_mm + max(master.height_mm for master in plan.masters))
    clearance_mm, at_mm = min(((pot.diameter_mm(height) - footprint.circle_mm) / 2, height) for height in heights)
    if clearance_mm * CLOSE_ENOUGH < plan.side_mm and plan.side_mm - clearance_mm > 1e-9:
        facts = {
            "clearance": Amount(clearance_mm, "length") if clearance_mm >= 0 else "no room",
            "side": Amount(plan.side_mm, "length"),
            "height": Amount(at_mm, "length"),
        }
        found.append(Finding(code="too-tight", facts=facts, field="side_mm"))
    if fill_mm > pot.height_mm * CLOSE_ENOUGH:
        facts = {"fill": Amount(fill_mm, "length"), "height": Amount(pot.height_mm, "length")}
        found.append(Finding(code="overflows", facts=facts, field="over_mm"))
    elif pot.height_mm - fill_mm < plan.freeboard_mm:
        found.append(Finding(code="low-freeboard", facts={"left": Amount(pot.height_mm - fill_mm, "length")}, field="freeboard_mm"))
    return found
