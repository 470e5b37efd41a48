"""The masters of a job in their box: as far as it could be worked out, with the bow of its walls and the hold-downs."""

from dataclasses import dataclass, replace

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.hold_down import HoldDown, hold_down
from ufrin.core.box.mould_box import Box, box
from ufrin.core.box.wall_bow import WallBow
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.job.box_station import bow_of, check_cutting, plan_box
from ufrin.core.job.master_station import MasterAnswer, box_master
from ufrin.core.job.mould_style import BOXLESS
from ufrin.core.master.master_form import Master
from ufrin.core.shelf.containers import Container
from ufrin.errors import Refused


@dataclass(frozen=True, slots=True, kw_only=True)
class Boxed:
    """The Box station, as far as it could be worked out."""

    masters: tuple[Master, ...] = ()
    plan: BoxPlan | None = None
    box: Box | None = None
    bow: WallBow | None = None
    refusals: tuple[Refused, ...] = ()

    @property
    def hold_downs(self) -> tuple[HoldDown, ...]:
        """What holds each kind of master down, of those that would float."""
        if self.plan is None or not self.plan.rubber_sg:
            return ()
        held = (hold_down(master, self.plan.rubber_sg, self.plan.sunk_mm) for master in self.masters)
        return tuple(one for one in held if one is not None)


def own_master(
    master: MasterInputs, measured: MasterAnswer, inputs: BoxInputs
) -> tuple[Master | None, tuple[Refused, ...]]:
    """Return a job's own master as a box sees it.

    Parameters
    ----------
    master, inputs : MasterInputs, BoxInputs
        As filled in.
    measured : MasterAnswer
        Worked out.

    Returns
    -------
    Master or None, tuple of Refused
        None while its size is not known or its figures contradict each other, and why.
    """
    try:
        return box_master(master, measured, inputs.settled().count or 1), ()
    except Refused as refused:
        return None, (refused,)


def boxed(
    masters: tuple[Master, ...],
    style: str,
    inputs: BoxInputs,
    *,
    rubber_sg: float | None,
    container: Container | None,
    size_pm_mm: float = 0.0,
) -> Boxed:
    """Work out the box of a job.

    Parameters
    ----------
    masters : tuple of Master
        The job's own first; none while it is not known.
    style : str
        The kind of mould that counts.
    inputs : BoxInputs
        As filled in, with what the kind of mould decides in place.
    rubber_sg : float or None
        Of the rubber as it is mixed.
    container : Container or None
        The one chosen.
    size_pm_mm : float, optional
        How far the masters' sizes may be off.

    Returns
    -------
    Boxed
        What could not be worked out is None, and why.
    """
    made = Boxed(masters=masters)
    if style in BOXLESS:
        return made
    try:
        if masters:
            wanted = plan_box(masters, inputs, rubber_sg, container, size_pm_mm)
            made = replace(made, plan=wanted)
            worked_out = box(wanted)
            made = replace(made, box=worked_out)
            made = replace(made, bow=bow_of(wanted, worked_out, inputs))
    except Refused as refused:
        made = replace(made, refusals=(refused,))
    try:
        check_cutting(inputs)
    except Refused as refused:  # the box is valid all the same
        made = replace(made, refusals=(*made.refusals, refused))
    return made
