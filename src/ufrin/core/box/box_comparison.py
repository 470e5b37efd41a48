"""The comparison of boxes: every shape of box and every container on the Shelf, in every attitude, in one table."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ufrin.core.box.box_plan import BoxPlan, Shape
from ufrin.core.box.mould_box import box
from ufrin.core.master.attitudes import Attitude, stand
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.opening.undercuts import UnderAMaster, under_a_master
from ufrin.core.shelf.containers import Container
from ufrin.errors import Refused

BUILT: tuple[Shape, ...] = ("rectangle", "round", "contour")


@dataclass(frozen=True, slots=True, kw_only=True)
class AttitudeFigures:
    """The figures of one attitude.

    They are the form as it stands in it, and what lies under it (None where that was not computed).
    """

    attitude: Attitude | None
    form: Form | None
    under: UnderAMaster | None = None


def attitude_figures(mesh: Mesh, drawn: Mesh, attitude: Attitude, volume_ml: float) -> AttitudeFigures:
    """Work out one attitude.

    Parameters
    ----------
    mesh, drawn : Mesh
        The solid, and the same thinned out: air and overhang are computed on cells far coarser than either.
    attitude : Attitude
        How it stands.
    volume_ml : float
        What it displaces.

    Returns
    -------
    AttitudeFigures
        With everything that a box needs from its form computed already.
    """
    form = Form(stand(mesh, attitude.up), volume_ml=volume_ml)
    form.settle()
    return AttitudeFigures(attitude=attitude, form=form, under=under_a_master(stand(drawn, attitude.up)))


def are_alike(one: AttitudeFigures, other: AttitudeFigures) -> bool:
    """Return whether two attitudes come to the same, as those of a turned or mirrored master do.

    Parameters
    ----------
    one, other : AttitudeFigures
        Of one master.

    Returns
    -------
    bool
        True where size, circle, overhang and trapped air agree within 1 %, or within the accuracy of the cells.
    """
    if one.form is None or other.form is None or one.under is None or other.under is None:
        return False
    sizes = [(*sorted(form.size_mm[:2]), form.size_mm[2], form.circle[0]) for form in (one.form, other.form)]
    rough_ml = 0.02 * one.form.volume_ml
    return (
        all(abs(a - b) <= 0.01 * max(a, b) for a, b in zip(*sizes, strict=True))
        and abs(one.under.overhang_ml - other.under.overhang_ml) <= rough_ml
        and abs(one.under.trapped_ml - other.under.trapped_ml) <= rough_ml
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxOption:
    """One way to box a master.

    Parameters
    ----------
    figures : AttitudeFigures
        How the master stands; without an attitude, as it stands now.
    shape : Shape
        Of the box.
    container : int or None
        Number of the container on the Shelf.
    name : str
        The container's name; empty for a built box.
    net_ml, fill_mm : float
        Rubber and fill line.
    bed_mm, bed_ml : float
        The bed that lifts the master clear in a tapered pot, included in the net volume.
    cost : float or None
        Of the rubber.
    why_not : str
        Why it does not fit; empty when it does.
    """

    figures: AttitudeFigures
    shape: Shape
    container: int | None
    name: str
    net_ml: float
    fill_mm: float
    bed_mm: float
    bed_ml: float
    cost: float | None
    why_not: str

    @property
    def fits(self) -> bool:
        """Whether nothing stops it."""
        return not self.why_not


def box_options(
    plan: BoxPlan, attitudes: Sequence[AttitudeFigures], containers: Mapping[int, Container], cost_per_ml: float | None
) -> tuple[BoxOption, ...]:
    """Compare all ways to box the masters of a plan.

    Parameters
    ----------
    plan : BoxPlan
        Its clearances are kept; its shape, pot and container are not. The first kind of master takes the attitudes.
    attitudes : sequence of AttitudeFigures
        The attitudes.
    containers : mapping of number to Container
        The containers on the Shelf.
    cost_per_ml : float or None
        Of the rubber, without spare.

    Returns
    -------
    tuple of BoxOption
        Those that fit first, the least rubber first.
    """
    found = []
    for figures in attitudes:
        free = replace(_standing(plan, figures), container=None, pot=None, shape="rectangle")
        found += [_way(replace(free, shape=shape), figures, None, cost_per_ml) for shape in BUILT]
        found += [
            _way(replace(free, container=container), figures, number, cost_per_ml)
            for number, container in containers.items()
        ]
    return tuple(sorted((way for way in found if way), key=lambda way: (not way.fits, way.net_ml)))


def _standing(plan: BoxPlan, figures: AttitudeFigures) -> BoxPlan:
    if figures.form is None:
        return plan
    length, width, height = figures.form.size_mm
    first = replace(
        plan.masters[0], length_mm=length, width_mm=width, height_mm=height, form=figures.form, outline="rectangle"
    )
    # a bed that seats the master in one attitude says nothing about another
    return replace(plan, masters=(first, *plan.masters[1:]), sunk_mm=plan.sunk_mm if figures.attitude is None else 0.0)


def _way(plan: BoxPlan, figures: AttitudeFigures, number: int | None, cost_per_ml: float | None) -> BoxOption | None:
    try:
        made = box(plan)
        if made.raise_to_clear_mm:
            plan = replace(plan, bed_mm=made.raise_to_clear_mm)
            made = box(plan)
    except Refused as refused:
        if number is None:
            return None
        return BoxOption(
            figures=figures,
            shape=plan.kind,
            container=number,
            name=plan.container.name if plan.container else "",
            net_ml=0.0,
            fill_mm=0.0,
            bed_mm=0.0,
            bed_ml=0.0,
            cost=None,
            why_not=refused.why,
        )
    stops = [finding.text() for finding in made.findings if finding.level == "stop"]
    return BoxOption(
        figures=figures,
        shape=plan.kind,
        container=number,
        name=plan.container.name if plan.container else "",
        net_ml=made.net_ml,
        fill_mm=made.fill_mm,
        bed_mm=plan.bed_mm,
        bed_ml=made.bed_ml,
        cost=made.net_ml * cost_per_ml if cost_per_ml is not None else None,
        why_not=" ".join(stops[:1]),
    )
